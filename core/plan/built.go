package plan

import (
	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/school"
)

// built is every coat worked out over its surface.
type built struct {
	coats [][]*buildup.Build // by surface; nil while the coat or its surface is not usable
	found []finding.Finding
}

// buildAll builds up every coat.
func buildAll(in *inputs, m measured) built {
	b := built{coats: make([][]*buildup.Build, len(in.layers))}
	for i, layers := range in.layers {
		s := in.file.Job.Surfaces[i]
		b.coats[i] = make([]*buildup.Build, len(layers))
		if len(layers) == 0 {
			b.found = append(b.found, finding.Finding{
				Level: finding.Note, Step: finding.BuildUp, Path: surfacePath(i) + "/coats",
				Text: s.Name + " has no coats yet.", WayOut: "Add the first coat of its build-up.",
			})
		}
		off := m.surfaces[i].takeoff
		if off == nil {
			continue
		}
		for c, l := range layers {
			if !l.sound {
				continue
			}
			area := l.covers(off)
			if area <= 0 {
				b.found = append(b.found, refused(finding.BuildUp, l.path+"/on", "Lay it on the whole surface, or measure its edges.", "%s, coat %d: it goes on a part of the surface that has no area.", s.Name, l.number))
				continue
			}
			upright, runOff := off.Facing.Vertical/off.Area, off.RunOff
			switch l.coat.On {
			case onUpright:
				upright, runOff = 1, 0
			case onLevel:
				upright = 0
			}
			under := buildup.Under{Area: area, RunOff: runOff, Upright: off.Facing.Vertical, First: c == 0, Media: in.media, Tossed: in.methods.Texture == school.Scattered}
			if c > 0 && layers[c-1].sound {
				under.Grains = layers[c-1].coat.Leaves(in.media)
			}
			if s.Survey != nil {
				under.Profile = s.Survey.Profile
			}
			made := l.coat.Build(l.sheet.product, l.sheet.mix, under)
			b.coats[i][c] = &made
			b.found = append(b.found, l.coat.Findings(l.sheet.product, made, upright, l.number, l.path, in.units)...)
		}
	}
	return b
}
