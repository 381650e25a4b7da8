package current

import (
	"slices"

	"nephelon/core/record"
	"nephelon/core/record/tint"
)

// recolour makes a cup of a batch another colour of its card, as long as it is neither poured nor coloured.
func recolour(c *record.Coat, number int, e *record.Event, counts []*record.Event) {
	cup := *e.Body.Cup - 1
	if number > len(c.Batches) || cup >= len(c.Batches[number-1].Card.Cups) {
		return
	}
	b := &c.Batches[number-1]
	coloured := false
	for _, other := range counts {
		if other == e {
			break
		}
		if coat, n, _ := record.BatchOf(other.Task); coat != c.ID || n != number {
			continue
		}
		switch other.Kind {
		case record.Cup:
			coloured = true
			if *other.Body.Cup == cup+1 {
				return
			}
		case record.Mixed, record.Poured:
			coloured = true
		case record.Spread, record.Rolled:
			return
		}
	}
	makes := tint.Makes(b.Card.Cups, cup, coloured)
	if at := slices.IndexFunc(makes, func(m tint.Make) bool { return m.Name == e.Body.Text }); at >= 0 {
		b.Card.Cups = slices.Clone(b.Card.Cups)
		to := &b.Card.Cups[cup]
		to.Name, to.Color, to.Medium, to.Pigment = makes[at].Name, makes[at].Color, makes[at].Medium, makes[at].Pigment
	}
}
