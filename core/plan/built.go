package plan

import (
	"nephelon/core/buildup"
	"nephelon/core/finding"
)

// built is every coat worked out over its surface.
type built struct {
	coats [][]*buildup.Build // by surface; nil while the coat or its surface is not usable
	found []finding.Finding
}

// buildAll builds up every coat.
func buildAll(t terms, m measured) built {
	b := built{coats: make([][]*buildup.Build, len(t.layers))}
	for i, layers := range t.layers {
		s := t.file.Job.Surfaces[i]
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
			under := buildup.Under{Area: off.Area, RunOff: off.RunOff, First: c == 0, Media: t.media}
			if c > 0 {
				under.Grains = layers[c-1].coat.Leaves(t.media)
			}
			if s.Survey != nil {
				under.Profile = s.Survey.Profile
			}
			made := l.coat.Build(l.sheet.product, l.sheet.mix, under)
			b.coats[i][c] = &made
			b.found = append(b.found, l.coat.Findings(l.sheet.product, made, off.Facing.Vertical/off.Area, l.number, l.path, t.units)...)
		}
	}
	return b
}
