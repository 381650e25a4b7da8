package plan

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/pour"
	"nephelon/core/takeoff"
	"nephelon/core/work"
)

// laid is every surface cut into the sections of its coats.
type laid struct {
	courses []*pour.Course
	coats   [][]laidCoat
	found   []finding.Finding
}

type laidCoat struct {
	sections []pour.Section
	cuts     []pour.Cut
	carry    []measure.Length // by section, from the mixing place through the floor; empty where that is not marked
	panels   []takeoff.Panel  // indexed by the spans of the sections; empty where the sections have no spans
}

// layAll cuts every surface into one section for each batch of each coat.
func layAll(ctx context.Context, in *inputs, floors *pour.Memory, m measured, d divided) laid {
	out := laid{courses: make([]*pour.Course, len(in.layers)), coats: make([][]laidCoat, len(in.layers))}
	for i := range in.layers {
		out.coats[i] = make([]laidCoat, len(in.layers[i]))
		most := mostBatches(onWholeSurface(in, i, d.coats[i]))
		switch {
		case most == nil, ctx.Err() != nil:
		case len(in.file.Job.Surfaces[i].Floor.Outline) == 0:
			out.found = append(out.found, allotPanels(in, i, m.surfaces[i].takeoff, d.coats[i], out.coats[i])...)
		default:
			course, found := cutFloor(in, floors, i, m.surfaces[i].takeoff, most, onWholeSurface(in, i, d.coats[i]), out.coats[i])
			out.courses[i] = &course
			out.found = append(out.found, found...)
		}
		allotUpright(in, i, m.surfaces[i].takeoff, d.coats[i], out.coats[i])
	}
	return out
}

// whole are the coats of a surface that go on all of it, or on what is level; the rest
// are left out.
func onWholeSurface(in *inputs, i int, coats []dividedCoat) []dividedCoat {
	all := slices.Clone(coats)
	for c := range all {
		if in.layers[i][c].coat.On == onUpright {
			all[c].division = nil
		}
	}
	return all
}

// parted allots the edges and upright faces of a surface to the coats that go on them
// alone, panel by panel where they are known.
func allotUpright(in *inputs, i int, off *takeoff.Takeoff, coats []dividedCoat, out []laidCoat) {
	for c := range coats {
		division := coats[c].division
		if division == nil || in.layers[i][c].coat.On != onUpright {
			continue
		}
		panels, takes := off.Panels, takes(in.layers[i][c])
		if !slices.ContainsFunc(panels, func(p takeoff.Panel) bool { return takes(p) > 0 }) {
			panels = []takeoff.Panel{{Name: "Edges and upright faces", Facing: takeoff.Vertical, Area: off.Facing.Vertical}}
		}
		sections := pour.Allot(panels, shares(division), takes)
		for n := range sections {
			sections[n].ID = work.SectionID(in.layers[i][c].coat.ID, division.Batches[n].Number)
		}
		out[c] = laidCoat{sections: sections, cuts: []pour.Cut{}, panels: panels}
	}
}

// mostBatches is the division of a surface with the most batches; nil where none
// of its coats is divided.
func mostBatches(coats []dividedCoat) *kit.Division {
	var most *kit.Division
	for _, c := range coats {
		if c.division != nil && (most == nil || len(c.division.Batches) > len(most.Batches)) {
			most = c.division
		}
	}
	return most
}

// cut divides a floor along the course of the coat with the most batches.
func cutFloor(in *inputs, floors *pour.Memory, i int, off *takeoff.Takeoff, most *kit.Division, coats []dividedCoat, out []laidCoat) (pour.Course, []finding.Finding) {
	s, path := in.file.Job.Surfaces[i], surfacePath(i)
	polygon := s.Floor.Polygon()
	floor, _ := shareFlights(in, off, most)
	course := pour.Plot(polygon, s.Layout, seams(s.Floor), floor, floors)
	course.Reason = course.Told(in.units)
	var found []finding.Finding
	if s.Layout.Exit == nil && len(most.Batches) > 1 {
		found = append(found, finding.Finding{
			Level: finding.Note, Step: finding.Pour, Path: path + "/layout/exit",
			Text: s.Name + " has no exit marked, so the sections may not end at the door.", WayOut: "Mark the door by which the crew leaves.",
		})
	}
	found = append(found, misplacedExits(in, i)...)
	if at := s.Layout.Mixing; at != nil {
		if _, on := floors.WaysFrom(polygon, *at).To(*at); !on {
			fix := &finding.Fix{Label: "Take the mark off", Patch: []finding.PatchStep{{Op: "remove", Path: path + "/layout/mixing"}}}
			if exit := s.Layout.Exit; exit != nil {
				fix = &finding.Fix{Label: "Mix at the exit", Patch: []finding.PatchStep{{Op: "replace", Path: path + "/layout/mixing", Value: *exit}}}
			}
			found = append(found, finding.Finding{
				Level: finding.Warning, Step: finding.Pour, Path: path + "/layout/mixing", Fix: fix,
				Text:   s.Name + ": the mixing place is not marked on the floor, so how far batches are carried is not counted.",
				WayOut: "Mark it on the floor or at its edge; what lies beyond belongs into the carry time.",
			})
		}
	}
	laid := make(map[int]pour.Laying) // coats of as many equal batches share their sections
	for c := range coats {
		division := coats[c].division
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
		out[c] = laidCoat{
			sections: sectionsOf(in, laying.Sections, in.layers[i][c], division, off, steps),
			cuts:     pour.Taped(polygon, laying, in.units),
			carry:    carryLengths(in, floors, i, laying.Sections),
		}
		found = append(found, laying.Findings(path, c+1, in.units)...)
		if told, ok := offerSeams(in, i, c, course, polygon, floor); ok && steps == nil {
			found = append(found, told)
		}
	}
	return course, found
}

// farExit is how far from the floor a door may be marked, m: the thickness of a wall, common
// practice, no source.
const farExit = 1.0

// astray tells of doors by which nobody can leave: on a column, or away from the floor.
func misplacedExits(in *inputs, i int) []finding.Finding {
	s, path := in.file.Job.Surfaces[i], surfacePath(i)
	var found []finding.Finding
	look := func(at geometry.Point, path string) {
		side, _, wall := s.Floor.Outline.Nearest(at)
		where := ""
		for n, h := range s.Floor.Holes {
			if _, _, edge := h.Outline.Nearest(at); h.Outline.Holds(at) || edge.Distance(at) <= geometry.Tolerance && wall.Distance(at) > geometry.Tolerance {
				where = fmt.Sprintf("on %s, around which the floor goes", cmp.Or(h.Name, fmt.Sprintf("hole %d", n+1)))
			}
		}
		if off := wall.Distance(at); where == "" && !s.Floor.Outline.Holds(at) && off > farExit {
			where = in.units.Length(measure.Length(off)) + " off the floor"
		}
		if where == "" {
			return
		}
		found = append(found, finding.Finding{
			Level: finding.Warning, Step: finding.Pour, Path: path, Text: fmt.Sprintf("%s: an exit is marked %s; nobody leaves there.", s.Name, where),
			WayOut: "Mark the door by which the crew leaves.",
			Fix:    &finding.Fix{Label: fmt.Sprintf("Mark it on wall %d, where that is nearest", side+1), Patch: []finding.PatchStep{{Op: "replace", Path: path, Value: wall}}},
		})
	}
	if s.Layout.Exit != nil {
		look(*s.Layout.Exit, path+"/layout/exit")
	}
	for n, e := range s.Layout.Others {
		look(e.At, fmt.Sprintf("%s/layout/others/%d/at", path, n))
	}
	return found
}

// seam offers to put joins of a coat on the lines near them.
func offerSeams(in *inputs, i, c int, course pour.Course, polygon geometry.Polygon, shares []float64) (finding.Finding, bool) {
	offers, areas := course.Offered(polygon, shares)
	if len(offers) == 0 {
		return finding.Finding{}, false
	}
	coat := in.layers[i][c].coat
	own := buildup.OwnWay{}
	if coat.Own != nil {
		own = *coat.Own
	}
	own.Shares, own.Pinned = areas, nil
	words := make([]string, len(offers))
	for k, o := range offers {
		words[k] = fmt.Sprintf("%s lies %s from the join after section %d", o.Name, in.units.Length(o.By), o.After)
	}
	return finding.Finding{
		Level: finding.Note, Step: finding.Pour, Path: in.layers[i][c].path + "/own/shares",
		Text:   fmt.Sprintf("Coat %d: %s; a join shows least there.", c+1, strings.Join(words, ", ")),
		WayOut: "Put the join on it, and let the batches follow.",
		Fix:    &finding.Fix{Label: "Put the joins there", Patch: []finding.PatchStep{{Op: "add", Path: in.layers[i][c].path + "/own", Value: own}}},
	}, true
}

// widestDoorway is how wide a neck between two rooms may be to count as a doorway, m: common
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

// allot divides a surface that has no drawing by area alone.
func allotPanels(in *inputs, i int, off *takeoff.Takeoff, coats []dividedCoat, out []laidCoat) []finding.Finding {
	panels := off.Panels
	if len(panels) == 0 {
		panels = []takeoff.Panel{{Name: "Area", Area: off.Flat}}
	}
	var found []finding.Finding
	for c := range coats {
		division := coats[c].division
		if division == nil {
			continue
		}
		if in.layers[i][c].coat.On == onUpright {
			continue // parted
		}
		takes := takes(in.layers[i][c])
		sections := pour.Allot(orderedPanels(in, i, panels), shares(division), takes)
		if in.file.Job.Surfaces[i].Top != nil {
			found = append(found, pour.Joins(panels, sections, surfacePath(i), c+1)...)
			pour.Pour(panels, sections, division.Batches, off.Strips, takes)
		}
		renumberPanels(in, i, panels, sections)
		out[c] = laidCoat{sections: sectionsOf(in, sections, in.layers[i][c], division, off, nil), cuts: []pour.Cut{}, panels: panels}
	}
	return found
}

// order is in which order the panels of a surface are worked: of a pool with its ladder
// marked, towards that; nil where they stand in it.
func panelOrder(in *inputs, i int, panels []takeoff.Panel) []int {
	s := in.file.Job.Surfaces[i]
	if s.Pool == nil || s.Layout.Exit == nil {
		return nil
	}
	return pour.Order(panels, *s.Layout.Exit)
}

func orderedPanels(in *inputs, i int, panels []takeoff.Panel) []takeoff.Panel {
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

// asTaken names the panels of sections by their places in the take-off.
func renumberPanels(in *inputs, i int, panels []takeoff.Panel, sections []pour.Section) {
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

// down gives the flights of steps of a floor to the first batches of a coat: what is left of
// each for the floor, and the steps of each; nil where there are none.
func shareFlights(in *inputs, off *takeoff.Takeoff, d *kit.Division) ([]float64, [][]pour.Descent) {
	if len(off.Flights) == 0 {
		return shares(d), nil
	}
	areas := make([]float64, len(d.Batches))
	for n, b := range d.Batches {
		areas[n] = float64(off.Area) * float64(b.Volume/d.Mixed)
	}
	return pour.Down(off.Flights, areas)
}

// carried is how far batches are carried to sections from where they are mixed.
func carryLengths(in *inputs, floors *pour.Memory, i int, sections []pour.Section) []measure.Length {
	s := in.file.Job.Surfaces[i]
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

// takes tells how much of a coat a square metre of a panel takes, against
// the other panels.
func takes(l resolvedCoat) func(takeoff.Panel) float64 {
	c, each := l.coat, 1.0
	if c.Faces != nil {
		each = float64(c.Faces.Value / c.Wet(l.sheet.product, l.sheet.mix))
	}
	return func(p takeoff.Panel) float64 {
		upright := p.Facing == takeoff.Vertical
		switch {
		case c.On == onUpright && !upright, c.On == onLevel && upright:
			return 0
		case upright:
			return each
		}
		return 1
	}
}

// owned are sections as a coat has them: named for it, each with its part of the
// edges, steps and ramps.
func sectionsOf(in *inputs, sections []pour.Section, l resolvedCoat, d *kit.Division, off *takeoff.Takeoff, steps [][]pour.Descent) []pour.Section {
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
		own[n].ID = work.SectionID(l.coat.ID, b.Number)
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
