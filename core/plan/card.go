package plan

import (
	"fmt"
	"slices"

	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/pour"
	"nephelon/core/takeoff"
)

// card gives each section its part of the edges, steps and ramps, and writes its
// mix card.
func (m *maker) card(i, at int) {
	c, parts := &m.plan.Surfaces[i].Coats[at], m.plan.Surfaces[i].Takeoff.Parts
	schools, mixing, bucket := m.file.Job.Methods, m.file.Job.Mixing, m.file.Job.Bucket
	how := kit.Filling{BFirst: schools.First == "b", Pail: bucket.Pail, Tare: bucket.Tare, Scale: mixing.Scale, Pumps: mixing.Pumps}
	c.Cards = make([]kit.Card, len(c.Sections))
	c.Sections = slices.Clone(c.Sections)
	for n, b := range c.Division.Batches {
		section := &c.Sections[n]
		section.Parts = parts * measure.Area(b.Volume/c.Division.Mixed)
		life := m.lives[sheetKey(c.Product, c.Hardener)].of(b.Mass)
		card := kit.NewCard(c.product, c.mix, b, len(c.Sections), section.Area+section.Parts, c.Mixed, life, how, m.units)
		for _, a := range c.Build.Additions {
			// What goes into the mix follows the volume, what goes onto the film the area.
			share := float64(b.Volume / c.Build.Need)
			if a.How == buildup.IntoCups {
				continue // told cup by cup
			}
			if a.How != buildup.IntoMix {
				share = float64(b.Volume / c.Division.Mixed)
			}
			card.Additions = append(card.Additions, kit.Added{Name: a.Name, How: a.How, Mass: a.Mass * measure.Mass(share), Volume: a.Volume * measure.Volume(share)})
		}
		m.colour(i, at, &card, b)
		card.Steps = schools.steps(c.product, card)
		c.Cards[n] = card
	}
	m.smallCups(i, at)
}

// mixesMore is how long a mix of two parts is worked on after its sheet's mixing.
func (m *maker) mixesMore(c buildup.Coat, p *material.Product) measure.Span {
	if len(p.Components) < 2 {
		return 0
	}
	more := m.file.Job.Methods.again()
	if c.Colours != nil && m.file.Job.Methods.Tinting != "before" {
		more += c.Colours.Takes(m.file.Job.Crew.Spreaders + 1)
	}
	return more
}

// colour divides a batch into its cups, and its life among the pieces.
func (m *maker) colour(i, at int, card *kit.Card, b kit.Batch) {
	coat, c := m.file.Job.Surfaces[i].Coats[at], &m.plan.Surfaces[i].Coats[at]
	if coat.Colours == nil {
		return
	}
	pieces := m.pieces(i, c.Sections[b.Number-1])
	card.Cups = kit.Cups(*coat.Colours, b, float64(b.Volume/c.Division.Mixed), pieces, c.mix, m.file.Job.Methods.Tinting == "before" && len(card.Parts) > 1)
	if card.PotLife > 0 {
		ready := card.Mixing + card.Induction + m.mixesMore(coat, c.product)
		if carry := m.file.Job.Mixing.Carry; carry != nil {
			ready += *carry
		}
		card.Turns = kit.Turns(pieces, ready, card.PotLife)
	}
}

// pieces are what a section is poured over: the boards of a top with their edges,
// else the section itself.
func (m *maker) pieces(i int, section pour.Section) []kit.Ground {
	panels := m.plan.Surfaces[i].Takeoff.Panels
	var pieces []kit.Ground
	last := -1
	for _, s := range section.Spans {
		if group := panels[s.Panel].Group; len(pieces) == 0 || group != last {
			board := slices.IndexFunc(panels, func(p takeoff.Panel) bool { return p.Group == group })
			pieces, last = append(pieces, kit.Ground{Name: panels[board].Name}), group
		}
		pieces[len(pieces)-1].Area += s.Area
	}
	if len(pieces) == 0 {
		pieces = []kit.Ground{{Name: fmt.Sprintf("Section %d", section.Number), Area: max(section.Area, 1e-6)}}
	}
	return pieces
}

// smallCups says where a colour is too little to be coloured by itself.
func (m *maker) smallCups(i, at int) {
	coat, c := m.file.Job.Surfaces[i].Coats[at], &m.plan.Surfaces[i].Coats[at]
	if coat.Colours == nil {
		return
	}
	for n, colour := range coat.Colours.Colours {
		for _, card := range c.Cards {
			if cup := card.Cups[n]; cup.TooSmall {
				m.find(finding.Finding{
					Level: finding.Warning, Step: finding.Batches, Path: fmt.Sprintf("%s/colours/colours/%d", c.path, n),
					Text: fmt.Sprintf("Coat %d, batch %d: the cup of %s holds %s, under the %s worth colouring.",
						c.Number, card.Batch, colour.Name, m.units.Volume(cup.Volume), m.units.Volume(coat.Colours.Smallest())),
					WayOut: "Give it a larger share, leave a colour out, or mix fewer, larger batches.",
				})
				break
			}
		}
	}
}

// steps are what whoever mixes a batch does, as this contractor works: common
// practice, no source, but for the times, which are the sheet's.
func (s Schools) steps(p *material.Product, c kit.Card) []kit.CardStep {
	var all []kit.CardStep
	do := func(text string, lasts measure.Span) { all = append(all, kit.CardStep{Text: text, Lasts: lasts}) }
	stirredIn := slices.ContainsFunc(c.Additions, func(a kit.Added) bool { return a.How == buildup.IntoMix })
	tint := "Stir in what is listed."
	strain := func() {
		if p.Kind == "urethane" || p.Chemistry == "polyurethane" {
			do("Strain through a paint filter.", 0)
		}
	}
	if len(c.Parts) == 1 {
		do("Stir well, with what has settled on the bottom.", c.Mixing)
		if stirredIn {
			do(tint, 0)
		}
		strain()
		do("Pour. Close the lid on what is left.", 0)
		return all
	}
	do("Stir A alone, with what has settled on its bottom.", 0)
	if len(c.Cups) > 0 && s.Tinting == "before" {
		do(fmt.Sprintf("Divide A into %d cups and colour each; weigh its own B into each only when its turn comes.", len(c.Cups)), 0)
	}
	if s.Tinting == "before" && stirredIn {
		do("Stir what is listed into A; the marks and readings are without it.", 0)
	}
	order := "A into the pail, then B."
	if s.First == "b" {
		order = "B into the pail first, then A."
	}
	if len(c.Parts) > 2 {
		order += " C last, strewn in while stirring."
	}
	do(order, 0)
	do("Mix slowly, the paddle under the surface; scrape wall and bottom half-way.", c.Mixing)
	if s.again() > 0 {
		do("Into a second clean bucket, with a clean stick, and mix again; leave what clings.", s.again())
	}
	if s.Tinting != "before" && stirredIn {
		do(tint, 0)
	}
	if len(c.Cups) > 0 && s.Tinting != "before" {
		do(fmt.Sprintf("Divide it into %d cups, and colour each; the base first.", len(c.Cups)), 0)
	}
	strain()
	if c.Induction > 0 {
		do("Let it stand.", c.Induction)
	}
	out := "Out on the surface at once, all of it: a full pail heats itself."
	if s.Laying == "dip" {
		out = "Into the trays at once, all of it: a full pail heats itself."
	}
	do(out, 0)
	switch s.Residue {
	case "scrape":
		do("Never tip the pail and leave it to drain on the floor: what clings was never mixed.", 0)
	case "remix":
		do("Scrape what clings onto the wet film and work it in at once.", 0)
	case "drain":
		do("Drain through the hole into the next batch, not onto the floor.", 0)
	}
	return all
}
