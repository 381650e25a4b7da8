package stage

import (
	"nephelon/core/buildup"
	"nephelon/core/plan/input"
	"nephelon/core/school"
)

// Built is every coat worked out over its surface.
type Built struct {
	Coats [][]*buildup.Build // by surface; nil while the coat or its surface is not usable
}

// BuildAll builds up every coat.
func BuildAll(in *input.Inputs, m Measured) Built {
	b := Built{Coats: make([][]*buildup.Build, len(in.Layers))}
	for i, layers := range in.Layers {
		s, off := in.File.Job.Surfaces[i], m.Surfaces[i].Takeoff
		b.Coats[i] = make([]*buildup.Build, len(layers))
		for c, l := range layers {
			if off == nil || !l.Sound || l.Covers(off) <= 0 {
				continue
			}
			under := buildup.Under{Area: l.Covers(off), RunOff: off.RunOff, Upright: off.Facing.Vertical, First: c == 0,
				Media: in.Media, Tossed: in.Methods.Texture == school.Scattered}
			if l.Coat.On == input.OnUpright {
				under.RunOff = 0
			}
			if c > 0 && layers[c-1].Sound {
				under.Grains = layers[c-1].Coat.Leaves(in.Media)
			}
			if s.Survey != nil {
				under.Profile = s.Survey.Profile
			}
			made := l.Coat.Build(l.Sheet.Product, l.Sheet.Mix, under)
			b.Coats[i][c] = &made
		}
	}
	return b
}
