package job

import (
	"nephelon/core/geometry"
	"nephelon/core/measure"
	"nephelon/core/pour"
	"nephelon/core/takeoff"
)

// Op names what is done to the plan of a floor.
type Op string

// The changes of a plan.
const (
	Push   Op = "push"   // give a wall a length, which moves the wall behind it
	Bay    Op = "bay"    // make a wall curved
	Mirror Op = "mirror" // left for right
	Turn   Op = "turn"   // by 90°, to the left
)

// Reshape is one change of a floor's plan.
type Reshape struct {
	Op     Op             `json:"op"`
	Wall   int            `json:"wall,omitempty" minimum:"1" maximum:"20000" doc:"From 1, where one wall is changed"`
	Length measure.Length `json:"length,omitempty" minimum:"0" maximum:"100000" doc:"m, of a wall that is pushed"`
	Rise   measure.Length `json:"rise,omitempty" minimum:"0" maximum:"10000" doc:"m from the straight wall to the middle of its bay"`
	Inward bool           `json:"inward,omitempty" doc:"The bay goes into the floor"`
}

// Reshaped is a surface with its plan changed: everything that lies on the plan
// moves with it. It fails with a *geometry.ReshapeError where the change cannot be.
func (s Surface) Reshaped(r Reshape) (Surface, error) {
	var err error
	outline := s.Floor.Outline
	switch r.Op {
	case Push:
		outline, err = outline.Pushed(r.Wall-1, float64(r.Length))
	case Bay:
		outline, err = outline.Bayed(r.Wall-1, float64(r.Rise), r.Inward)
	case Mirror:
		return s.moved(geometry.Point.Mirrored), nil
	case Turn:
		return s.moved(geometry.Point.Turned), nil
	}
	if err != nil {
		return s, err
	}
	s.Floor.Outline = outline
	s.Floor.Walk = s.Floor.Walk.Moved()
	return s, nil
}

// moved is the surface with every point of its plan moved alike. The direction of
// work is left to the plan again.
func (s Surface) moved(by func(geometry.Point) geometry.Point) Surface {
	ring := func(r geometry.Ring) geometry.Ring {
		if r == nil {
			return nil
		}
		moved := make(geometry.Ring, len(r))
		for i, p := range r {
			moved[i] = by(p)
		}
		return moved
	}
	holes := func(all []takeoff.Hole) []takeoff.Hole {
		if all == nil {
			return nil
		}
		moved := make([]takeoff.Hole, len(all))
		for i, h := range all {
			h.Outline = ring(h.Outline)
			moved[i] = h
		}
		return moved
	}
	f := s.Floor
	f.Outline, f.Holes, f.Zones = ring(f.Outline), holes(f.Holes), holes(f.Zones)
	if f.Lines != nil {
		lines := make([]takeoff.Line, len(f.Lines))
		for i, l := range f.Lines {
			l.Path = ring(l.Path)
			lines[i] = l
		}
		f.Lines = lines
	}
	if f.Fittings != nil {
		fittings := make([]takeoff.Fitting, len(f.Fittings))
		for i, m := range f.Fittings {
			m.At = by(m.At)
			fittings[i] = m
		}
		f.Fittings = fittings
	}
	s.Floor = f
	if s.Layout.Exit != nil {
		exit := by(*s.Layout.Exit)
		s.Layout.Exit = &exit
	}
	if s.Layout.Others != nil {
		others := make([]pour.Exit, len(s.Layout.Others))
		for i, e := range s.Layout.Others {
			e.At = by(e.At)
			others[i] = e
		}
		s.Layout.Others = others
	}
	if s.Layout.Mixing != nil {
		mixing := by(*s.Layout.Mixing)
		s.Layout.Mixing = &mixing
	}
	s.Layout.Direction = nil
	if s.Survey != nil {
		survey := *s.Survey
		readings := append(survey.Readings[:0:0], survey.Readings...)
		for i, r := range readings {
			if r.Place != nil {
				place := by(*r.Place)
				readings[i].Place = &place
			}
		}
		survey.Readings = readings
		s.Survey = &survey
	}
	return s
}

// Values returns all values, in the order in which they are shown.
func (Op) Values() []Op {
	return []Op{Push, Bay, Mirror, Turn}
}
