package stage

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"nephelon/core/geometry"
	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/pour"
	"nephelon/core/takeoff"
	"nephelon/core/work"
)

// Laid is every surface cut into the sections of its coats.
type Laid struct {
	Courses []*pour.Course // by surface; nil where its sections are not cut from a drawing
	Most    []int          // by surface, the batches of the coat that has the most
	Unmixed []bool         // by surface, its mixing place is not on the floor
	Coats   [][]LaidCoat
}

// LaidCoat is one coat in sections.
type LaidCoat struct {
	Laying   *pour.Laying // nil where its sections are not cut from a drawing
	Shares   []float64    // of the floor that it was cut by; nil where some of it is steps
	Sections []pour.Section
	Cuts     []pour.Cut
	carry    []measure.Length // by section, from the mixing place through the floor; empty where that is not marked
	Panels   []takeoff.Panel  // indexed by the spans of the sections; empty where the sections have no spans
}

// LayAll cuts every surface into one section for each batch of each coat.
func LayAll(ctx context.Context, in *input.Inputs, floors *pour.Memory, m Measured, d Divided) Laid {
	out := Laid{
		Courses: make([]*pour.Course, len(in.Layers)), Most: make([]int, len(in.Layers)),
		Unmixed: make([]bool, len(in.Layers)), Coats: make([][]LaidCoat, len(in.Layers)),
	}
	for i := range in.Layers {
		out.Coats[i] = make([]LaidCoat, len(in.Layers[i]))
		most := mostBatches(onWholeSurface(in, i, d.Coats[i]))
		switch {
		case most == nil, ctx.Err() != nil:
		case len(in.File.Job.Surfaces[i].Floor.Outline) == 0:
			allotPanels(in, i, m.Surfaces[i].Takeoff, d.Coats[i], out.Coats[i])
		default:
			course := cutFloor(in, floors, i, m.Surfaces[i].Takeoff, most, onWholeSurface(in, i, d.Coats[i]), out.Coats[i])
			out.Courses[i], out.Most[i] = &course, len(most.Batches)
			if s := in.File.Job.Surfaces[i]; s.Layout.Mixing != nil {
				_, on := floors.WaysFrom(s.Floor.Polygon(), *s.Layout.Mixing).To(*s.Layout.Mixing)
				out.Unmixed[i] = !on
			}
		}
		allotUpright(in, i, m.Surfaces[i].Takeoff, d.Coats[i], out.Coats[i])
	}
	return out
}

// onWholeSurface returns the coats of a surface that go on all of it, or on what is level; the rest
// are left out.
func onWholeSurface(in *input.Inputs, i int, coats []DividedCoat) []DividedCoat {
	all := slices.Clone(coats)
	for c := range all {
		if in.Layers[i][c].Coat.On == input.OnUpright {
			all[c].Division = nil
		}
	}
	return all
}

// allotUpright allots the edges and upright faces of a surface to the coats that go on them
// alone, panel by panel where they are known.
func allotUpright(in *input.Inputs, i int, off *takeoff.Takeoff, coats []DividedCoat, out []LaidCoat) {
	for c := range coats {
		division := coats[c].Division
		if division == nil || in.Layers[i][c].Coat.On != input.OnUpright {
			continue
		}
		panels, takes := off.Panels, takes(in.Layers[i][c])
		if !slices.ContainsFunc(panels, func(p takeoff.Panel) bool { return takes(p) > 0 }) {
			panels = []takeoff.Panel{{Name: "Edges and upright faces", Facing: takeoff.Vertical, Area: off.Facing.Vertical}}
		}
		sections := pour.Allot(panels, shares(division), takes)
		for n := range sections {
			sections[n].ID = work.SectionID(in.Layers[i][c].Coat.ID, division.Batches[n].Number)
		}
		out[c] = LaidCoat{Sections: sections, Cuts: []pour.Cut{}, Panels: panels}
	}
}

// mostBatches is the division of a surface with the most batches; nil where none
// of its coats is divided.
func mostBatches(coats []DividedCoat) *kit.Division {
	var most *kit.Division
	for _, c := range coats {
		if c.Division != nil && (most == nil || len(c.Division.Batches) > len(most.Batches)) {
			most = c.Division
		}
	}
	return most
}

// cutFloor divides a floor along the course of the coat with the most batches.
func cutFloor(in *input.Inputs, floors *pour.Memory, i int, off *takeoff.Takeoff, most *kit.Division,
	coats []DividedCoat, out []LaidCoat) pour.Course {
	s := in.File.Job.Surfaces[i]
	polygon := s.Floor.Polygon()
	floor, _ := shareFlights(in, off, most)
	course := pour.Plot(polygon, s.Layout, seams(s.Floor), floor, floors)
	course.Reason = course.Told(in.Units)
	laid := make(map[int]pour.Laying) // coats of as many equal batches share their sections
	for c := range coats {
		division := coats[c].Division
		if division == nil {
			continue
		}
		floor, steps := shareFlights(in, off, division)
		laying, known := laid[division.Equal()]
		if !known {
			laying = course.Lay(polygon, floor)
			if n := division.Equal(); n > 0 {
				laid[n] = laying
			}
		}
		if steps != nil {
			floor = nil
		}
		out[c] = LaidCoat{
			Laying: &laying, Shares: floor,
			Sections: sectionsOf(in, laying.Sections, in.Layers[i][c], division, off, steps),
			Cuts:     pour.Taped(polygon, laying, in.Units),
			carry:    carryLengths(in, floors, i, laying.Sections),
		}
	}
	return course
}

// widestDoorway is the greatest width of a neck between two rooms that counts as a doorway, m: common
// practice, no source.
const widestDoorway = 2.5

// seams are the lines of a floor on which a join shows least: joints that are drawn on it,
// the edges of its zones, its doorways.
func seams(f takeoff.Floor) []geometry.Seam {
	var all []geometry.Seam
	for i, l := range f.Lines {
		if l.Kind == "crack" {
			continue
		}
		name := cmp.Or(l.Name, fmt.Sprintf("joint %d", i+1))
		for k := 1; k < len(l.Path); k++ {
			all = append(all, geometry.Seam{A: l.Path[k-1], B: l.Path[k], Name: name})
		}
	}
	for i, z := range f.Zones {
		name := "edge of " + cmp.Or(z.Name, fmt.Sprintf("zone %d", i+1))
		for k, a := range z.Outline {
			all = append(all, geometry.Seam{A: a, B: z.Outline[(k+1)%len(z.Outline)], Name: name})
		}
	}
	return append(all, geometry.Doorways(f.Polygon(), widestDoorway)...)
}

// allotPanels divides a surface that has no drawing by area alone.
func allotPanels(in *input.Inputs, i int, off *takeoff.Takeoff, coats []DividedCoat, out []LaidCoat) {
	panels := off.Panels
	if len(panels) == 0 {
		panels = []takeoff.Panel{{Name: "Area", Area: off.Flat}}
	}
	for c := range coats {
		division := coats[c].Division
		if division == nil {
			continue
		}
		if in.Layers[i][c].Coat.On == input.OnUpright {
			continue // parted
		}
		takes := takes(in.Layers[i][c])
		sections := pour.Allot(orderedPanels(in, i, panels), shares(division), takes)
		if in.File.Job.Surfaces[i].Top != nil {
			pour.Pour(panels, sections, division.Batches, off.Strips, takes)
		}
		renumberPanels(in, i, panels, sections)
		out[c] = LaidCoat{Sections: sectionsOf(in, sections, in.Layers[i][c], division, off, nil), Cuts: []pour.Cut{},
			Panels: panels}
	}
}

// panelOrder returns in which order the panels of a surface are worked: of a pool with its ladder
// marked, towards that; nil where they stand in it.
func panelOrder(in *input.Inputs, i int, panels []takeoff.Panel) []int {
	s := in.File.Job.Surfaces[i]
	if s.Pool == nil || s.Layout.Exit == nil {
		return nil
	}
	return pour.Order(panels, *s.Layout.Exit)
}

func orderedPanels(in *input.Inputs, i int, panels []takeoff.Panel) []takeoff.Panel {
	order := panelOrder(in, i, panels)
	if order == nil {
		return panels
	}
	all := make([]takeoff.Panel, len(panels))
	for n, at := range order {
		all[n] = panels[at]
	}
	return all
}

// renumberPanels names the panels of sections by their places in the take-off.
func renumberPanels(in *input.Inputs, i int, panels []takeoff.Panel, sections []pour.Section) {
	order := panelOrder(in, i, panels)
	if order == nil {
		return
	}
	for n := range sections {
		for k := range sections[n].Spans {
			sections[n].Spans[k].Panel = order[sections[n].Spans[k].Panel]
		}
	}
}

// shareFlights gives the flights of steps of a floor to the first batches of a coat: what is left of
// each for the floor, and the steps of each; nil where there are none.
func shareFlights(in *input.Inputs, off *takeoff.Takeoff, d *kit.Division) ([]float64, [][]pour.Descent) {
	if len(off.Flights) == 0 {
		return shares(d), nil
	}
	areas := make([]float64, len(d.Batches))
	for n, b := range d.Batches {
		areas[n] = float64(off.Area) * float64(b.Volume/d.Mixed)
	}
	return pour.Down(off.Flights, areas)
}

// carryLengths returns how far batches are carried to sections from where they are mixed.
func carryLengths(in *input.Inputs, floors *pour.Memory, i int, sections []pour.Section) []measure.Length {
	s := in.File.Job.Surfaces[i]
	if s.Layout.Mixing == nil {
		return nil
	}
	ways := floors.WaysFrom(s.Floor.Polygon(), *s.Layout.Mixing)
	all := make([]measure.Length, len(sections))
	for k, section := range sections {
		if d, on := ways.To(section.Label); on {
			all[k] = d
		}
	}
	return all
}

// takes returns a function for how much of a coat a square metre of a panel takes, against
// the other panels.
func takes(l input.ResolvedCoat) func(takeoff.Panel) float64 {
	c, each := l.Coat, 1.0
	if c.Faces != nil {
		each = float64(c.Faces.Value / c.Wet(l.Sheet.Product, l.Sheet.Mix))
	}
	return func(p takeoff.Panel) float64 {
		upright := p.Facing == takeoff.Vertical
		switch {
		case c.On == input.OnUpright && !upright, c.On == input.OnLevel && upright:
			return 0
		case upright:
			return each
		}
		return 1
	}
}

// sectionsOf returns sections as a coat has them: named for it, each with its part of the
// edges, steps and ramps.
func sectionsOf(in *input.Inputs, sections []pour.Section, l input.ResolvedCoat, d *kit.Division, off *takeoff.Takeoff,
	steps [][]pour.Descent) []pour.Section {
	own := slices.Clone(sections)
	evenly, whole := off.Parts, measure.Area(0)
	for n := range own {
		whole += own[n].Area
		if steps != nil {
			for _, f := range steps[n] {
				evenly -= f.Area
			}
		}
	}
	for n, b := range d.Batches {
		own[n].ID = work.SectionID(l.Coat.ID, b.Number)
		if steps == nil {
			own[n].Parts = evenly * measure.Area(b.Volume/d.Mixed)
			continue
		}
		own[n].Steps, own[n].Parts = steps[n], evenly*own[n].Area/whole
		for _, f := range steps[n] {
			own[n].Parts += f.Area
		}
	}
	return own
}

func shares(d *kit.Division) []float64 {
	all := make([]float64, len(d.Batches))
	for i, b := range d.Batches {
		all[i] = float64(b.Volume)
	}
	return all
}
