package stage

import (
	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/pour"
	"nephelon/core/takeoff"
)

// Measured holds the take-off of each surface.
type Measured struct {
	Surfaces []MeasuredSurface
	Area     measure.Area
}

// MeasuredSurface holds the take-off of one surface.
type MeasuredSurface struct {
	Takeoff *takeoff.Takeoff // nil while the outline is not usable
	Faults  []geometry.Point
	Exit    *pour.Mark        // the wall on which the exit lies
	Found   []finding.Finding // where its measures are at fault
}

// MeasureAll takes off every surface that is measured.
func MeasureAll(in *input.Inputs) Measured {
	m := Measured{Surfaces: make([]MeasuredSurface, len(in.File.Job.Surfaces))}
	for i, s := range in.File.Job.Surfaces {
		out := &m.Surfaces[i]
		if !s.Measured() && s.Given == nil {
			continue
		}
		out.Takeoff, out.Faults, out.Found = takeoff.Measure(s.Shape, input.SurfacePath(i), in.Units)
		if out.Takeoff == nil {
			continue
		}
		m.Area += out.Takeoff.Area
		if s.Layout.Exit != nil && len(s.Floor.Outline) > 0 {
			side, along, at := s.Floor.Outline.Nearest(*s.Layout.Exit)
			out.Exit = &pour.Mark{Hole: -1, Side: side + 1, Along: measure.Length(along), At: at}
		}
	}
	return m
}
