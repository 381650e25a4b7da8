package plan

import (
	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/work"
)

// surfaceWork is what of a planned surface makes work.
func surfaceWork(in *inputs, i int, s stages) work.Surface {
	from, m := in.file.Job.Surfaces[i], s.measured.surfaces[i]
	out := work.Surface{ID: from.ID, Name: from.Name, Coats: make([]work.Coat, 0, len(in.layers[i]))}
	if m.takeoff != nil {
		out.Area = m.takeoff.Area
	}
	if from.Survey != nil {
		out.Outdoors = from.Survey.Outdoors
	}
	if told := s.surveyed.surfaces[i]; told != nil {
		out.Verdicts = told.Verdicts
		if told.Preparation != nil {
			out.Preparation = told.Preparation.Tasks
		}
	}
	if other := in.follows[i]; other >= 0 {
		if layers := in.layers[other]; len(layers) > 0 && s.divided.coats[other][len(layers)-1].division != nil {
			last := layers[len(layers)-1]
			out.Follows = []work.After{work.Coat{ID: last.coat.ID, Product: last.sheet.product, Slab: in.slab}.Walked()}
		}
	}
	for c, l := range in.layers[i] {
		coat := work.Coat{
			ID: l.coat.ID, Number: l.number, Wait: l.coat.Wait, Hardener: l.coat.Hardener, Slab: in.slab, Build: s.built.coats[i][c], Division: s.divided.coats[i][c].division,
			Abraded: l.abrades, OverWet: l.coat.OverWet, When: l.coat.When, Spreaders: l.crew.Spreaders, Alone: l.crew.Alone,
			Full: l.coat.Scatter != nil && l.coat.Scatter.Degree == "full",
		}
		if l.sheet != nil {
			coat.Product = l.sheet.product
			coat.Mixing = l.mixing.Ready()
			if life := s.divided.lives[l.sheet]; life != nil && life.table != nil {
				coat.Life = func(m measure.Mass) measure.Span { return kit.CardLife(l.sheet.product, life.of(m)) }
			}
		}
		if times := s.timed.coats[i][c].times; times != nil {
			coat.Spread = times.Spread
		}
		if run := s.timed.coats[i][c].run; run != nil {
			coat.Effort = run.Effort
		}
		out.Coats = append(out.Coats, coat)
	}
	return out
}
