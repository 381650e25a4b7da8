package current

import (
	"slices"

	"nephelon/core/measure"
	"nephelon/core/record"
)

// order has a section of a coat laid as the next one: it takes the number of the first of which nothing is begun, and
// those between come one later each. Sections that are begun or left out keep their numbers.
func order(c *record.Coat, number int, e *record.Event, counts []*record.Event) {
	var free []int // places of sections that can change, up to the one that is taken
	for k := range min(number, len(c.Batches)) {
		if !settled(c.ID, k+1, counts, e) {
			free = append(free, k)
		}
	}
	if len(free) < 2 || free[len(free)-1] != number-1 {
		return
	}
	was := slices.Clone(c.Batches)
	takes := append([]int{free[len(free)-1]}, free[:len(free)-1]...)
	became := make([]int, len(was)+1) // by the number before, the number now
	for n := range became {
		became[n] = n
	}
	at := was[free[0]].Passage.Meets
	for n, to := range free {
		from := takes[n]
		b, before := was[from], was[to]
		became[from+1] = to + 1
		b.ID, b.Section, b.Number = before.ID, before.Section, before.Number
		b.Card.Batch, b.Card.Section, b.Card.Meets, b.Card.UseBy = before.Card.Batch, before.Card.Section,
			before.Card.Meets, before.Card.UseBy
		b.Passage = later(b.Passage, at-b.Passage.Meets)
		b.Passage.Batch = before.Passage.Batch
		at += stride(was, from)
		c.Batches[to] = b
	}
	beside(c, was, became)
}

// settled reports whether a section can no longer change its place: it is begun, or left out, before an event.
func settled(coat string, number int, counts []*record.Event, e *record.Event) bool {
	out := false
	for _, other := range counts {
		if other == e {
			break
		}
		if of, n, _ := record.BatchOf(other.Task); of != coat || n != number {
			continue
		}
		switch other.Kind {
		case record.Meets, record.Mixed, record.Poured, record.Spread, record.Rolled:
			return true
		case record.LeftOut:
			out = true
		}
	}
	return out
}

// stride returns the time from when a batch is mixed to when the next one is, as planned.
func stride(all []record.Batch, k int) measure.Span {
	switch {
	case k+1 < len(all):
		return all[k+1].Passage.Meets - all[k].Passage.Meets
	case k > 0:
		return all[k].Passage.Laid - all[k-1].Passage.Laid
	}
	return 0
}

// beside finds anew whose edges each section meets: of two that lie side by side, the later one meets the other's.
func beside(c *record.Coat, was []record.Batch, became []int) {
	meets := make([][]int, len(c.Batches))
	for k := range was {
		for _, other := range was[k].Beside {
			if other < 1 || other > len(was) {
				continue
			}
			a, b := became[k+1], became[other]
			meets[max(a, b)-1] = append(meets[max(a, b)-1], min(a, b))
		}
	}
	for k := range c.Batches {
		b := &c.Batches[k]
		slices.Sort(meets[k])
		b.Beside = meets[k]
		switch {
		case len(b.Beside) == 0:
			b.Passage.Joined = nil
		case b.Passage.Joined == nil:
			joined := b.Passage.Laid // at the latest
			b.Passage.Joined = &joined
		}
	}
}
