package plan

import (
	"slices"

	"nephelon/core/finding"
)

// Blind returns the plan without costs and without changes of the file, for people who see no prices
// and change no plan. It buys and mixes what the whole plan does.
func (p Plan) Blind() Plan {
	p.Cost, p.Line.Cost, p.Line.Labour = nil, nil, nil
	p.Line.Others, p.Line.Lacking = 0, 0
	p.Purchases = slices.Clone(p.Purchases)
	for i, b := range p.Purchases {
		p.Purchases[i] = b.Unpriced()
	}
	p.Media = slices.Clone(p.Media)
	for i := range p.Media {
		p.Media[i].Cost = nil
	}
	p.Supplies = slices.Clone(p.Supplies)
	for i := range p.Supplies {
		p.Supplies[i].Cost = nil
	}
	p.Tools = slices.Clone(p.Tools)
	for i := range p.Tools {
		p.Tools[i].Cost = nil
	}
	p.Findings = slices.Clone(p.Findings)
	for i, f := range p.Findings {
		p.Findings[i] = finding.Finding{Level: f.Level, Step: f.Step, Path: f.Path, Text: f.Text, WayOut: f.WayOut}
	}
	p.Surfaces = slices.Clone(p.Surfaces)
	for i := range p.Surfaces {
		s := &p.Surfaces[i]
		s.Coats = slices.Clone(s.Coats)
		for c := range s.Coats {
			s.Coats[c].Price = nil
		}
	}
	return p
}
