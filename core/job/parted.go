package job

import (
	"fmt"
	"slices"

	"nephelon/core/buildup"
	"nephelon/core/geometry"
	"nephelon/core/measure"
	"nephelon/core/pour"
	"nephelon/core/takeoff"
)

// Parted are the two parts of a floor of which one stays passable while the other is laid.
type Parted struct {
	Open  Surface `json:"open" doc:"Laid first; the crew leaves over the other part"`
	Strip Surface `json:"strip" doc:"Along the wall; it waits until people can walk on the first"`
}

// Parted divides a floor along a wall, from 1, at a width from it: what lies along the wall
// stays passable until people can walk on the rest. It fails with a
// *geometry.ReshapeError where no such strip can be divided off.
func (s Surface) Parted(wall int, width measure.Length) (Parted, error) {
	rings, line, err := s.Floor.Polygon().Parted(wall-1, float64(width))
	if err != nil {
		return Parted{}, err
	}
	between := measure.Length(line[0].Distance(line[1]))
	out := Parted{Open: s.within(rings[1], between), Strip: s.within(rings[0], between)}
	out.Strip.Floor.Parts = slices.DeleteFunc(out.Strip.Floor.Parts,
		func(p takeoff.Part) bool { return p.Kind != takeoff.Cove })
	// What is not drawn is filled once, with the first part.
	out.Strip.Floor.Lines = slices.DeleteFunc(out.Strip.Floor.Lines,
		func(l takeoff.Line) bool { return len(l.Path) == 0 })
	out.Strip.Floor.Hollows = slices.DeleteFunc(out.Strip.Floor.Hollows,
		func(h takeoff.Hollow) bool { return h.Zone == "" })
	door := line[0].Toward(line[1], 0.5)
	if exit := s.Layout.Exit; exit != nil {
		if _, _, on := out.Open.Floor.Outline.Nearest(*exit); on.Distance(*exit) > geometry.Tolerance {
			out.Open.Layout.Exit = &door
		}
		_, _, on := out.Strip.Floor.Outline.Nearest(*exit)
		out.Strip.Layout.Exit = &on
	} else {
		out.Open.Layout.Exit = &door
	}
	for i := range out.Strip.Floor.Parts {
		out.Strip.Floor.Parts[i].ID = fmt.Sprintf("%.50s-wall-%d", out.Strip.Floor.Parts[i].ID, wall)
	}
	out.Strip.ID, out.Strip.Name = fmt.Sprintf("%.50s-wall-%d", s.ID, wall),
		fmt.Sprintf("%.100s, along wall %d", s.Name, wall)
	out.Strip.After = s.ID
	out.Strip.Coats = slices.Clone(s.Coats)
	for i := range out.Strip.Coats {
		c := &out.Strip.Coats[i]
		c.ID = fmt.Sprintf("%.50s-wall-%d", c.ID, wall)
		c.Own = unplaced(c.Own)
	}
	out.Open.Coats = slices.Clone(s.Coats)
	for i := range out.Open.Coats {
		out.Open.Coats[i].Own = unplaced(out.Open.Coats[i].Own)
	}
	return out, nil
}

// unplaced is a way of its own without joins that somebody placed on another floor.
func unplaced(own *buildup.OwnWay) *buildup.OwnWay {
	if own == nil || len(own.Shares)+len(own.Pinned) == 0 {
		return own
	}
	left := *own
	left.Shares, left.Pinned = nil, nil
	return &left
}

// within is the surface on one part of its floor, with what lies on that part. A cove around
// everything does not follow the line between the parts.
func (s Surface) within(rings []geometry.Ring, between measure.Length) Surface {
	f := takeoff.Floor{Outline: rings[0], Holes: []takeoff.Hole{}, Parts: slices.Clone(s.Floor.Parts)}
	on := func(p geometry.Point) bool {
		_, _, near := f.Outline.Nearest(p)
		return f.Outline.Holds(p) || near.Distance(p) <= geometry.Tolerance
	}
	for _, h := range s.Floor.Holes {
		if on(h.Outline[0].Toward(h.Outline[1], 0.5)) {
			f.Holes = append(f.Holes, h)
		}
	}
	for _, l := range s.Floor.Lines {
		if len(l.Path) == 0 || on(l.Path[0].Toward(l.Path[len(l.Path)-1], 0.5)) {
			f.Lines = append(f.Lines, l)
		}
	}
	for _, m := range s.Floor.Fittings {
		if on(m.At) {
			f.Fittings = append(f.Fittings, m)
		}
	}
	for _, z := range s.Floor.Zones {
		if f.Outline.Holds(z.Outline[0].Toward(z.Outline[len(z.Outline)/2], 0.5)) {
			f.Zones = append(f.Zones, z)
		}
	}
	for _, h := range s.Floor.Hollows {
		if h.Zone == "" || slices.ContainsFunc(f.Zones, func(z takeoff.Hole) bool { return z.ID == h.Zone }) {
			f.Hollows = append(f.Hollows, h)
		}
	}
	around := measure.Length(f.Outline.Perimeter()) - between
	for _, h := range f.Holes {
		around += measure.Length(h.Outline.Perimeter())
	}
	for _, m := range f.Fittings {
		if m.Kind == "door" {
			around -= m.Width
		}
	}
	for i := range f.Parts {
		if p := &f.Parts[i]; p.Kind == takeoff.Cove && p.Run == 0 {
			p.Run = max(0, around)
		}
	}
	s.Floor = f
	s.Layout.Direction = nil
	s.Layout.Others = slices.DeleteFunc(slices.Clone(s.Layout.Others), func(e pour.Exit) bool { return !on(e.At) })
	return s
}
