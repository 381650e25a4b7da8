package instruct

import (
	"slices"

	"nephelon/core/buildup"
	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/plan/stage"
)

// SpareShares returns the sizes of pails that a crew may change to on the day, as shares of the largest batch planned:
// none is larger, since nothing shows that more can be laid in time.
func SpareShares() []measure.Fraction { return []measure.Fraction{0.25, 0.5, 0.75, 1} }

// SpareCards returns the mix cards of pails of other sizes of a coat, one for each of the shares.
func SpareCards(in *input.Inputs, i int, l input.ResolvedCoat, b *buildup.Build, d stage.DividedCoat,
	lay stage.LaidCoat, timed stage.TimedCoat, life *stage.Lives) []kit.Card {
	largest := 0
	for n, batch := range d.Division.Batches {
		if batch.Volume > d.Division.Batches[largest].Volume {
			largest = n
		}
	}
	division, whole, section := *d.Division, d.Division.Batches[largest], lay.Sections[largest]
	division.Batches, lay.Sections, timed.Clocks = nil, nil, nil
	for _, share := range SpareShares() {
		batch, part := whole, section
		batch.Volume, batch.Mass = batch.Volume*measure.Volume(share), batch.Mass*measure.Mass(share)
		if share < 1 {
			batch.Share = kit.MeasuredShare
		}
		part.Area, part.Parts = part.Area*measure.Area(share), part.Parts*measure.Area(share)
		part.Spans = slices.Clone(section.Spans)
		for s := range part.Spans {
			part.Spans[s].Area *= measure.Area(share)
		}
		division.Batches, lay.Sections = append(division.Batches, batch), append(lay.Sections, part)
	}
	d.Division = &division
	cards, _ := CardsOf(in, i, l, b, d, lay, timed, life)
	return cards
}
