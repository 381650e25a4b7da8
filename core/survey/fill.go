package survey

import (
	"nephelon/core/measure"
	"nephelon/core/school"
)

// oneLift holds how deep filler goes in at once, for it heats itself, and shrinks: common practice, no source.
const oneLift measure.Length = 0.015

// A mortar of one part of mixed resin to about four parts of dry graded sand by volume, which weighs 1.6 kg/L: common
// practice, no source.
const (
	mortarResin = 0.25   // m³ in each m³ laid
	mortarSand  = 1700.0 // kg/m³
	mortarLift  = 0.05   // m at once: the sand takes up the heat; common practice, no source
	mortarLeast = 0.005  // m: about three of its largest grains; common practice, no source
)

// waste holds how much is mixed for each that is laid.
const waste = 1.1

// fill closes cracks, joints and holes.
func (p *planner) fill() {
	v, hollows := float64(p.extent.Filler), float64(p.extent.Hollows)
	mortar := hollows > 0 && p.methods.Levelling == school.ResinMortar
	thin := mortar && p.extent.Deepest > 0 && p.extent.Deepest < mortarLeast // fillets have no depth
	if mortar && !thin {
		p.level(hollows)
		v, hollows = v-hollows, 0
	}
	if v <= 1e-9 {
		return
	}
	takes := func(faster float64) measure.Span {
		return hours(v-hollows, faster*fillPace) + hours(hollows, faster*levelPace)
	}
	t := PreparationTask{ID: "fill", Name: "Fill cracks and joints", Work: takes(1),
		Check: "Level: no ripple in the light along the floor", Cautions: []string{cautionSkin}}
	if hollows > 0 {
		t.Name = "Fill cracks, holes and low places"
		t.Check = "Level under a straightedge: no ripple in the light along the floor"
	}
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
	if hollows > 0 && p.extent.Deepest > oneLift {
		t.How += "; what is deeper than 15 mm (5/8 in) in lifts, the next once the one below is hard"
	}
	if thin {
		t.How += "; no mortar, which wants 5 mm (3/16 in) at least"
	}
	p.add(t)
	if p.methods.Filler != school.WetPutty {
		p.add(PreparationTask{ID: "sand-fills", Name: "Sand the fills", How: "40 to 60 grit, flush",
			Items: []Supply{pieces("Sanding discs, 40 to 60", v/0.0015)}, Work: takes(2),
			Check: "Flush under a straightedge; tint the primer where fills would ghost", Cautions: []string{cautionDust}})
		p.vacuum("vacuum-fills")
	}
}

// level fills low places, holes and falls with a mortar.
func (p *planner) level(v float64) {
	t := PreparationTask{ID: "level", Name: "Fill low places with resin mortar", Work: hours(v, levelPace),
		Drying: overnight,
		How: "Edges cut square, no feather; the place primed with some of the resin, the mortar laid while that is " +
			"tacky, pressed in, drawn level, closed with a clean trowel; what is shallower than 5 mm (3/16 in) with the " +
			"filler of the cracks",
		Items: []Supply{volume("Epoxy resin and hardener", waste*mortarResin*v),
			{"Dry graded sand", measure.KindMass, waste * mortarSand * v}},
		Check:    "Level under a straightedge; closed: no sand comes off under a nail; ridges ground off next day",
		Cautions: []string{cautionSkin, cautionDust}}
	if p.extent.Deepest > mortarLift {
		t.How += "; what is deeper than 50 mm (2 in) in lifts, the next once the one below is hard"
	}
	p.add(t)
}
