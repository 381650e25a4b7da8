package survey

import (
	"nephelon/core/measure"
	"nephelon/core/school"
)

// oneLift holds how deep filler goes in at once, for it heats itself, and shrinks: common practice, no source.
const oneLift measure.Length = 0.015

// fill closes cracks, joints and holes.
func (p *planner) fill() {
	v := float64(p.extent.Filler)
	if v <= 0 {
		return
	}
	hollows := float64(p.extent.Hollows)
	takes := func(faster float64) measure.Span {
		return hours(v-hollows, faster*fillPace) + hours(hollows, faster*levelPace)
	}
	t := PreparationTask{ID: "fill", Name: "Fill cracks and joints", Work: takes(1),
		Check: "Level: no ripple in the light along the floor", Cautions: []string{cautionSkin}}
	if hollows > 0 {
		t.Name = "Fill cracks, holes and low places"
		t.Check = "Level under a straightedge: no ripple in the light along the floor"
	}
	const waste = 1.1
	switch p.methods.Filler {
	case school.BodyFiller:
		t.How, t.Drying = "Polyester body filler, pressed in, struck off; sandable in 20 to 30 min", measure.Hour/2
		t.Items = []Supply{volume("Body filler", waste*v)}
	case school.WetPutty:
		t.How = "Two-part putty of the coats' maker, pressed in, struck off; coated before it is hard"
		t.Items = []Supply{volume("Two-part putty", waste*v)}
	default:
		t.How, t.Drying = "Resin thickened with fumed silica, pressed in, struck off; overnight", overnight
		t.Items = []Supply{volume("Epoxy resin and hardener", waste*v), {"Fumed silica", measure.KindMass, 60 * waste * v}}
	}
	if p.extent.Deepest > oneLift {
		t.How += "; what is deeper than 15 mm (5/8 in) in lifts, the next once the one below is hard"
	}
	p.add(t)
	if p.methods.Filler != school.WetPutty {
		p.add(PreparationTask{ID: "sand-fills", Name: "Sand the fills", How: "40 to 60 grit, flush",
			Items: []Supply{pieces("Sanding discs, 40 to 60", v/0.0015)}, Work: takes(2),
			Check: "Flush under a straightedge; tint the primer where fills would ghost", Cautions: []string{cautionDust}})
		p.vacuum("vacuum-fills")
	}
}
