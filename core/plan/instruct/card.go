// Package instruct writes instructions for the crew: mix cards, the work on the floor, and what is done
// ahead. It may know the inputs and the values of the stages, and changes neither.
package instruct

import (
	"fmt"
	"slices"
	"time"

	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/plan/stage"
	"nephelon/core/pour"
	"nephelon/core/school"
	"nephelon/core/takeoff"
)

// filmOf holds how long the film of a batch can be worked.
type filmOf struct {
	poured  *time.Time // as planned; nil where that is not known
	working measure.Span
	of      string       // what it counts from
	tack    measure.Span // until it is tack-free; 0 where its sheet does not say
	slab    measure.Temperature
	edge    Edge
}

// after returns when so much time has passed since a film was poured, in words.
func (f filmOf) after(in *input.Inputs, span measure.Span) string {
	if f.poured != nil {
		return in.Units.Time(span.After(*f.poured), "15:04")
	}
	return in.Units.Span(span) + " after pouring"
}

// CardsOf returns the mix card of every batch of a coat, and the findings about them.
func CardsOf(in *input.Inputs,
	i int, l input.ResolvedCoat, b *buildup.Build, d stage.DividedCoat, lay stage.LaidCoat, timed stage.TimedCoat,
	life *stage.Lives,
) ([]kit.Card, []finding.Finding) {
	sections, clocks, run := lay.Sections, timed.Clocks, timed.Run
	working, tack, slab := measure.Span(0), measure.Span(0), in.Slab
	if t := timed.Times; t != nil {
		working, tack, slab = t.Stage(material.StageWorking).After, t.Stage(material.StageTackFree).After, t.Slab
	}
	mixing := in.File.Job.Mixing
	how := kit.Filling{BFirst: in.Methods.First == school.BFirst, Pail: l.Bucket.Pail, Tare: l.Bucket.Tare,
		Scale: mixing.Scale, Pumps: l.Pumps, Mixing: l.Mixing}
	cards := make([]kit.Card, len(sections))
	for n, batch := range d.Division.Batches {
		section := sections[n]
		card := kit.NewCard(l.Sheet.Product, l.Sheet.Mix, batch, len(sections), section.Area+section.Parts, d.Mixed,
			life.Of(batch.Mass), how, in.Units)
		if card.PotLife > 0 {
			card.Beyond = life.Beyond
			if left := life.Left(batch.Mass); left.Smokes != nil {
				card.Smokes = max(stage.SmokesAfter(left), 30)
			}
		}
		for _, a := range b.Additions {
			if a.How == buildup.IntoCups {
				continue // told cup by cup
			}
			a = a.AsMixed(d.Division.Mixed, b.Need)
			share := float64(batch.Volume / d.Division.Mixed)
			card.Additions = append(card.Additions, kit.Added{Name: a.Name, How: a.How, Mass: a.Mass * measure.Mass(share),
				Volume: a.Volume * measure.Volume(share)})
		}
		divideColours(in, l, &card, batch, float64(batch.Volume/d.Division.Mixed), section, lay.Panels)
		card.Steps = mixingSteps(in, l, card)
		if n < len(clocks) && !clocks[n].Meets.IsZero() {
			card.Meets, card.UseBy = &clocks[n].Meets, &clocks[n].UseBy
		}
		faces := measure.Volume(0)
		if own := l.Coat.Faces; own != nil {
			for _, span := range section.Spans {
				if lay.Panels[span.Panel].Facing == takeoff.Vertical {
					faces += own.Value.Over(span.Area) / measure.Volume(1-b.Loss.Value)
				}
			}
		}
		film := filmOf{working: working, of: "laying", tack: tack, slab: slab, edge: EdgeOf(in, i, l, card.Wet, working)}
		if run != nil && n < len(run.Passages) {
			inPail := run.Passages[n].Pour - run.Passages[n].Meets
			if card.Meets != nil {
				poured := inPail.After(*card.Meets)
				film.poured = &poured
			}
			if !l.Sheet.Product.Dries() && working > 0 {
				film.working, film.of = max(0, working-life.Ages(in.Slab).After(inPail, card.PotLife)), "pouring"
			}
		}
		card.Floor = floorSteps(in, i, l, section, faces, card, film)
		cards[n] = card
	}
	return cards, smallCups(in, l, cards)
}

// divideColours divides a batch into its cups, and its life among the pieces.
func divideColours(in *input.Inputs, l input.ResolvedCoat, card *kit.Card, b kit.Batch, share float64,
	section pour.Section, panels []takeoff.Panel) {
	if l.Coat.Colours == nil {
		return
	}
	patches := patchesOf(section, panels)
	card.Cups = kit.Cups(*l.Coat.Colours, b, share, patches, l.Sheet.Mix, in.Methods.Tinting == school.TintBefore &&
		len(card.Parts) > 1)
	if card.PotLife > 0 {
		card.Turns = kit.Turns(patches, card.Stirred().Ready()+l.Carry, card.PotLife)
	}
}

// patchesOf returns what a section is poured over: the boards of a top with their
// edges, else the section itself.
func patchesOf(section pour.Section, panels []takeoff.Panel) []kit.Patch {
	var patches []kit.Patch
	last := -1
	for _, s := range section.Spans {
		if group := panels[s.Panel].Group; len(patches) == 0 || group != last {
			board := slices.IndexFunc(panels, func(p takeoff.Panel) bool { return p.Group == group })
			patches, last = append(patches, kit.Patch{Name: panels[board].Name}), group
		}
		patches[len(patches)-1].Area += s.Area
	}
	if len(patches) == 0 {
		patches = []kit.Patch{{Name: fmt.Sprintf("Section %d", section.Number), Area: max(section.Area, 1e-6)}}
	}
	return patches
}

// smallCups says where a colour is too little to be coloured by itself.
func smallCups(in *input.Inputs, l input.ResolvedCoat, cards []kit.Card) []finding.Finding {
	if l.Coat.Colours == nil {
		return nil
	}
	var found []finding.Finding
	for n, colour := range l.Coat.Colours.Colours {
		for _, card := range cards {
			if cup := card.Cups[n]; cup.TooSmall {
				found = append(found, finding.Finding{
					Level: finding.Warning, Step: finding.Batches, Path: fmt.Sprintf("%s/colours/colours/%d", l.Path, n),
					Text: fmt.Sprintf("Coat %d, batch %d: the cup of %s holds %s, under the %s worth colouring.",
						l.Number, card.Batch, colour.Name, in.Units.Volume(cup.Volume), in.Units.Volume(l.Coat.Colours.Smallest())),
					WayOut: "Give it a larger share, leave a colour out, or mix fewer, larger batches.",
				})
				break
			}
		}
	}
	return found
}

// mixingSteps returns what whoever mixes a batch does, as this contractor works: common
// practice, no source, but for the times, which are the sheet's.
func mixingSteps(in *input.Inputs, l input.ResolvedCoat, c kit.Card) []kit.CardStep {
	const usual = 8 // steps
	m := mixer{in: in, l: l, all: make([]kit.CardStep, 0, usual)}
	if len(c.Parts) == 1 {
		m.singlePack(c)
	} else {
		m.twoPack(c)
	}
	return m.all
}

// mixer collects the steps of whoever mixes a batch.
type mixer struct {
	in  *input.Inputs
	l   input.ResolvedCoat
	all []kit.CardStep
}

func (m *mixer) do(text string, lasts measure.Span) {
	m.all = append(m.all, kit.CardStep{Text: text, Lasts: lasts})
}

// stirredIn reports whether pigment or thinner goes into the mix.
func (m *mixer) stirredIn() bool {
	return m.l.Coat.Pigment != nil || m.l.Coat.Thinner != nil && m.l.Coat.Thinner.Value > 0
}

func (m *mixer) tint() { m.do("Stir in the pigment and thinner listed.", 0) }

func (m *mixer) grains() {
	if m.l.Coat.Grit != nil && m.in.Methods.Texture != school.Scattered {
		m.do("Stir in the grit last, once it is strained: a filter would hold it back. Keep it stirred, it sinks.", 0)
	}
}

func (m *mixer) strain() {
	if p := m.l.Sheet.Product; p.Kind == "urethane" || p.Chemistry == "polyurethane" {
		m.do("Strain through a paint filter.", 0)
	}
}

func (m *mixer) singlePack(c kit.Card) {
	m.do("Stir well, with what has settled on the bottom.", c.Mixing)
	if m.stirredIn() {
		m.tint()
	}
	if m.l.Coat.Wets() {
		m.wet()
		m.do("Close the lid on what is left.", 0)
		return
	}
	m.strain()
	m.grains()
	m.do("Pour. Close the lid on what is left.", 0)
}

func (m *mixer) twoPack(c kit.Card) {
	before := m.in.Methods.Tinting == school.TintBefore
	m.do("Stir A alone, with what has settled on its bottom.", 0)
	if len(c.Cups) > 0 && before {
		m.do(fmt.Sprintf("Divide A into %d cups and colour each; weigh its own B into each only when its turn comes.",
			len(c.Cups)), 0)
	}
	if before && m.stirredIn() {
		m.do("Stir the pigment and thinner listed into A; the marks and readings are without them.", 0)
	}
	order := "A into the pail, then B."
	if m.in.Methods.First == school.BFirst {
		order = "B into the pail first, then A."
	}
	if len(c.Parts) > 2 {
		order += " C last, added while stirring."
	}
	if wholeKits(c.Share) {
		order += " Empty their cans to the last."
	}
	m.do(order, 0)
	until := "until clear, no streaks"
	if m.l.Coat.Pigment != nil || m.l.Sheet.Product.Look != "clear" {
		until = "until no streak is left"
	}
	if c.MixingMax > 0 {
		until += fmt.Sprintf("; %s at most", m.in.Units.Span(c.MixingMax))
	}
	m.do("Mix slowly, the paddle under the surface; scrape wall and bottom half-way, "+until+".", c.Mixing)
	if c.Again > 0 {
		m.do("Into a second clean bucket, with a clean stick, and mix again; leave what clings.", c.Again)
	}
	if !before && m.stirredIn() {
		m.tint()
	}
	if len(c.Cups) > 0 && !before {
		m.do(fmt.Sprintf("Divide it into %d cups, and colour each; the base first.", len(c.Cups)), c.Colouring)
	}
	if c.Induction > 0 {
		m.do("Let it stand.", c.Induction)
	}
	m.strain()
	m.grains()
	m.out()
}

// wholeKits reports whether a batch is made of whole kits, by how its share is said.
func wholeKits(share string) bool { return share != "" && share[0] >= '1' && share[0] <= '9' }

// wet adds how its stones are wetted.
func (m *mixer) wet() {
	m.do("Over the stones in a forced-action mixer, and turn until every stone is glossy: they look dry at first, and "+
		"need no more.", m.l.Mixing.Turned)
}

// out adds where the mix goes and how the residue in the pail is handled.
func (m *mixer) out() {
	if m.l.Coat.Wets() {
		m.wet()
	}
	if m.l.Laying == school.DipAndRoll || m.l.Laying == school.Brush {
		m.do("Into the trays at once, all of it: a full pail heats itself.", 0)
	} else {
		m.do("Out on the surface at once, all of it: a full pail heats itself.", 0)
	}
	switch m.in.Methods.Residue {
	case school.Scrape:
		m.do("Never tip the pail and leave it to drain on the floor: what clings was never mixed.", 0)
	case school.Remix:
		m.do("Scrape what clings onto the wet film and work it in at once.", 0)
	case school.Drain:
		m.do("Drain through the hole into the next batch, not onto the floor.", 0)
	}
}
