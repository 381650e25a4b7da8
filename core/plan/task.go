package plan

import (
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/plan/stage"
	"nephelon/core/work"
)

// surfaceWork returns what of a planned surface makes work.
func surfaceWork(in *input.Inputs, i int, s stage.Stages) work.Surface {
	from, m := in.File.Job.Surfaces[i], s.Measured.Surfaces[i]
	out := work.Surface{ID: from.ID, Name: from.Name, Kind: from.Kind(), Coats: make([]work.Coat, 0, len(in.Layers[i]))}
	if m.Takeoff != nil {
		out.Area = m.Takeoff.Area
	}
	if from.Survey != nil {
		out.Outdoors = from.Survey.Outdoors
	}
	if told := s.Surveyed.Surfaces[i]; told != nil {
		out.Verdicts = told.Verdicts
		if told.Preparation != nil {
			out.Preparation = told.Preparation.Tasks
		}
	}
	if other := in.Follows[i]; other >= 0 {
		if layers := in.Layers[other]; len(layers) > 0 && s.Divided.Coats[other][len(layers)-1].Division != nil {
			last := layers[len(layers)-1]
			out.Follows = []work.After{work.Coat{ID: last.Coat.ID, Product: last.Sheet.Product, Slab: in.Slab}.Walked()}
		}
	}
	if n := len(in.Layers[i]); from.Top != nil && n > 0 {
		if times := s.Timed.Coats[i][n-1].Times; times != nil {
			out.Runs = work.TapeAfter(times.Stage(material.StageWorking).After)
		}
	}
	for c, l := range in.Layers[i] {
		coat := work.Coat{
			ID: l.Coat.ID, Number: l.Number, Wait: l.Coat.Wait, Hardener: l.Coat.Hardener, Slab: in.Slab,
			Build: s.Built.Coats[i][c], Division: s.Divided.Coats[i][c].Division,
			Abraded: l.Abrades, OverWet: l.Coat.OverWet, When: l.Coat.When, Spreaders: l.Crew.Spreaders, Alone: l.Crew.Alone,
			Full: l.Coat.Scatter != nil && l.Coat.Scatter.Degree == "full",
		}
		if d := coat.Division; d != nil {
			area := l.Covers(s.Measured.Surfaces[i].Takeoff)
			coat.Casting = l.Casting(measure.Film(float64(d.Mixed)/float64(area))) * measure.Span(area)
		}
		if l.Sheet != nil {
			coat.Product = l.Sheet.Product
			coat.Mixing = l.Mixing.Ready()
			if life := s.Divided.Lives[l.Sheet]; life != nil && life.Table != nil {
				coat.Life = func(m measure.Mass) measure.Span { return kit.CardLife(l.Sheet.Product, life.Of(m)) }
			}
		}
		if times := s.Timed.Coats[i][c].Times; times != nil {
			coat.Spread = times.Spread
		}
		if run := s.Timed.Coats[i][c].Run; run != nil {
			coat.Effort, coat.Lead = run.Effort, -run.Begins
		}
		out.Coats = append(out.Coats, coat)
	}
	return out
}
