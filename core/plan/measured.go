package plan

import (
	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/measure"
	"nephelon/core/pour"
	"nephelon/core/takeoff"
)

// measured is what the measures of each surface come to.
type measured struct {
	surfaces []measuredSurface
	area     measure.Area
	found    []finding.Finding
}

type measuredSurface struct {
	takeoff *takeoff.Takeoff // nil while the outline is not usable
	faults  []geometry.Point
	exit    *pour.Mark // the wall on which the exit lies
}

// measureAll takes off every surface.
func measureAll(in *inputs) measured {
	m := measured{surfaces: make([]measuredSurface, len(in.file.Job.Surfaces))}
	for i, s := range in.file.Job.Surfaces {
		path, out := surfacePath(i), &m.surfaces[i]
		if !s.Measured() && s.Given == nil {
			at, way := s.Unmeasured()
			m.found = append(m.found, finding.Finding{Level: finding.Note, Step: finding.Measure, Path: path + at, Text: s.Name + " is not measured yet.", WayOut: way})
			continue
		}
		var found []finding.Finding
		out.takeoff, out.faults, found = takeoff.Measure(s.Shape, path, in.units)
		for _, f := range found {
			f.Text = s.Name + ": " + f.Text
			m.found = append(m.found, f)
		}
		if out.takeoff == nil {
			continue
		}
		m.area += out.takeoff.Area
		if s.Layout.Exit != nil && len(s.Floor.Outline) > 0 {
			side, along, at := s.Floor.Outline.Nearest(*s.Layout.Exit)
			out.exit = &pour.Mark{Hole: -1, Side: side + 1, Along: measure.Length(along), At: at}
		}
	}
	return m
}
