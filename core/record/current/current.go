// Package current holds the plan that stands on a day: the newest of those issued, with what the crew decided otherwise
// while it was laid. It knows issued plans and what was logged, and changes neither.
package current

import (
	"cmp"
	"math"
	"slices"
	"time"

	"nephelon/core/measure"
	"nephelon/core/pour/sim"
	"nephelon/core/record"
	"nephelon/core/work"
)

// Plan returns the plan that stands of all that were issued of a job, newest first, with what was decided otherwise
// since. There must be a plan, or it panics.
func Plan(issues []record.Issue, events []record.Event) record.Issue {
	return Changed(Issued(issues, events), events)
}

// Issued returns the plan that stands as it was issued: the newest, with those coats of earlier ones that it does not
// take the place of. A plan for a day takes the place of no coat but its own, one for the whole job of all. A coat that
// was begun stays by the plan that it was begun on.
func Issued(issues []record.Issue, events []record.Event) record.Issue {
	counts := record.Standing(events)
	begun := make(map[string]int) // by coat, the number of that plan
	for _, e := range counts {
		switch coat, _, _ := record.BatchOf(e.Task); e.Kind {
		case record.Meets, record.Mixed, record.Poured, record.Spread, record.Rolled, record.Lost:
			if n := begun[coat]; n == 0 || e.Issue < n {
				begun[coat] = e.Issue
			}
		}
	}
	out := issues[0]
	out.Coats, out.Surfaces = []record.Coat{}, slices.Clone(out.Surfaces)
	replaced := false // by a plan for the whole job
	for n := range issues {
		issue := &issues[n]
		for _, c := range issue.Coats {
			if on := begun[c.ID]; on == 0 && replaced || on > 0 && on != issue.Number || out.Coat(c.ID) != nil {
				continue
			}
			if n > 0 {
				c.Issue, c.Plan = issue.Number, issue.Hash
			}
			out.Coats = append(out.Coats, c)
			if out.Surface(c.Surface).ID == "" {
				out.Surfaces = append(out.Surfaces, issue.Surface(c.Surface))
			}
		}
		replaced = replaced || issue.Day == ""
	}
	slices.SortStableFunc(out.Coats, func(a, b record.Coat) int {
		switch {
		case a.Surface == b.Surface:
			return cmp.Compare(a.Number, b.Number)
		case a.Start == nil || b.Start == nil:
			return 0
		}
		return a.Start.Compare(*b.Start)
	})
	return out
}

// kinds returns the kinds of events that change a plan.
func kinds() []record.Kind {
	return []record.Kind{record.Sized, record.Gone, record.Counted, record.Ordered, record.Tinted}
}

// Changed returns a plan, as it was issued, with what was decided otherwise while it was laid: pails of another size,
// pails that nobody planned, another order, a smaller crew, and what was counted at hand.
func Changed(i record.Issue, events []record.Event) record.Issue {
	if !slices.ContainsFunc(events, func(e record.Event) bool { return slices.Contains(kinds(), e.Kind) }) {
		return i
	}
	counts := record.Standing(events)
	for _, e := range counts {
		if !slices.Contains(kinds(), e.Kind) {
			continue
		}
		coat, _ := record.CoatOf(e.Task)
		_, number, _ := record.BatchOf(e.Task)
		at := slices.IndexFunc(i.Coats, func(c record.Coat) bool { return c.ID == coat })
		if at < 0 {
			continue
		}
		if e.Kind == record.Counted {
			i.Supplies = counted(&i, &i.Coats[at], e, counts)
			continue
		}
		c := i.Coats[at]
		c.Batches = slices.Clone(c.Batches)
		switch e.Kind {
		case record.Sized:
			size(&c, number, e)
		case record.Ordered:
			order(&c, number, e, counts)
		case record.Tinted:
			recolour(&c, number, e, counts)
		default:
			thin(&c, e, counts)
		}
		i.Coats = slices.Clone(i.Coats)
		i.Coats[at] = c
	}
	return i
}

// counted returns the supplies of a plan with one as somebody counted it: the packs that are not opened, and what was
// mixed before out of the others.
func counted(i *record.Issue, c *record.Coat, e *record.Event, counts []*record.Event) []record.Supply {
	had := record.Supply{Product: c.Product.ID, Hardener: c.Hardener, Mass: *e.Body.Mass}
	for n := range i.Coats {
		of := &i.Coats[n]
		if of.Product.ID != c.Product.ID || of.Hardener != c.Hardener {
			continue
		}
		for k := range of.Batches {
			mixed, lost := false, 0
			for _, other := range counts {
				if coat, number, _ := record.BatchOf(other.Task); coat != of.ID || number != k+1 || other.When().After(e.When()) {
					continue
				}
				switch other.Kind {
				case record.Meets, record.Mixed, record.Poured, record.Spread, record.Rolled:
					mixed = true
				case record.Lost:
					mixed, lost = false, lost+1
				}
			}
			if mixed {
				lost++
			}
			had.Mass += measure.Mass(lost) * of.Batches[k].Card.Mass
		}
	}
	all := slices.DeleteFunc(slices.Clone(i.Supplies), func(s record.Supply) bool {
		return s.Product == had.Product && s.Hardener == had.Hardener
	})
	return append(all, had)
}

// most is the number of pails that a coat can have.
const most = 400

// size changes the size of a pail of a coat, or adds pails up to its number.
func size(c *record.Coat, number int, e *record.Event) {
	spare := slices.IndexFunc(c.Spares, func(s record.Spare) bool {
		return math.Abs(float64(s.Share-*e.Body.Share)) < 1e-6
	})
	if spare < 0 || number > most || len(c.Batches) == 0 {
		return
	}
	for len(c.Batches) < number {
		add(c, e.Body.Over)
	}
	b := &c.Batches[number-1]
	bare, was, covers := b.SectionArea(), b.Card, measure.Area(0)
	b.Card = c.Spares[spare].Card
	if was.Volume > 0 {
		covers = was.Area * measure.Area(b.Card.Volume/was.Volume)
	}
	b.Card.Batch, b.Card.Section, b.Card.Floor, b.Card.Area = was.Batch, was.Section, was.Floor, covers
	b.Bare, b.Life = &bare, b.Card.PotLife
	if was.Area > 0 {
		stretch(c, number-1, float64(covers/was.Area))
	}
	for k := range c.Batches {
		c.Batches[k].Card.Of = len(c.Batches)
	}
}

// add appends a pail like the last that was planned, over no area of its own, after all others.
func add(c *record.Coat, over *int) {
	last, before := c.Batches[len(c.Batches)-1], measure.Span(0)
	if n := len(c.Batches); n > 1 {
		before = c.Batches[n-2].Passage.Laid
	}
	b, none := last, measure.Area(0)
	b.Number++
	b.ID, b.Section = work.BatchID(c.ID, b.Number), work.SectionID(c.ID, b.Number)
	b.Bare, b.Rings, b.Beside = &none, nil, nil
	b.Card.Batch, b.Card.Meets, b.Card.UseBy = b.Number, nil, nil
	if over != nil && *over <= len(c.Batches) {
		b.Card.Section = c.Batches[*over-1].Card.Section
	}
	b.Passage = later(last.Passage, max(last.Passage.Laid-before, 0))
	b.Passage.Batch, b.Passage.Joined = b.Number, nil
	c.Batches = append(c.Batches, b)
}

// later returns a passage that is later by a time.
func later(p sim.Passage, by measure.Span) sim.Passage {
	for _, at := range []*measure.Span{&p.Meets, &p.Ready, &p.Arrives, &p.Pour, &p.Empty, &p.Spread, &p.Laid, &p.Roll,
		&p.Done} {
		*at += by
	}
	if p.Joined != nil {
		joined := *p.Joined + by
		p.Joined = &joined
	}
	return p
}

// stretch has the work on the floor with a pail take so many times as long; what follows comes later by that.
func stretch(c *record.Coat, k int, times float64) {
	p := &c.Batches[k].Passage
	was := p.Laid
	scale := func(at measure.Span) measure.Span { return p.Pour + measure.Span(times)*(at-p.Pour) }
	for _, at := range []*measure.Span{&p.Empty, &p.Spread, &p.Laid, &p.Roll, &p.Done} {
		*at = scale(*at)
	}
	if p.Joined != nil {
		joined := scale(*p.Joined)
		p.Joined = &joined
	}
	for n := k + 1; n < len(c.Batches); n++ {
		c.Batches[n].Passage = later(c.Batches[n].Passage, p.Laid-was)
	}
}

// onFloor reports whether somebody works on the floor; whoever only mixes or carries and leaves is replaced by one
// who does.
func onFloor(p work.Person) bool {
	return slices.ContainsFunc(p.Roles, func(r work.Role) bool { return r != work.Mixer && r != work.Runner })
}

// crew holds how many are there, and how many of them work on the floor.
type crew struct{ all, floor int }

// with returns a crew with one less, or one more; the last works on the floor and mixes in turn.
func (w crew) with(more int) crew {
	w.all += more
	w.floor = min(w.all, max(1, w.floor+more))
	return w
}

// thin has a coat laid by one person less, or again by one more, from an event on: the work on the floor takes in
// proportion longer, and whoever is alone mixes once the section before is done. Common practice, no source.
func thin(c *record.Coat, e *record.Event, counts []*record.Event) {
	before := crew{all: len(c.Crew)}
	for _, p := range c.Crew {
		if onFloor(p) {
			before.floor++
		}
	}
	for _, other := range counts {
		if other == e {
			break
		}
		if coat, _ := record.CoatOf(other.Task); other.Kind == record.Gone && coat == c.ID {
			before = before.with(step(other))
		}
	}
	after := before.with(step(e))
	if before.floor < 1 || after.all < 1 {
		return
	}
	for k := range c.Batches {
		if poured(c.ID, k+1, counts, e.When()) {
			continue
		}
		if after.all == 1 && k > 0 { // all of it later
			wait := max(0, c.Batches[k-1].Passage.Done-c.Batches[k].Passage.Meets)
			for n := k; n < len(c.Batches); n++ {
				c.Batches[n].Passage = later(c.Batches[n].Passage, wait)
			}
		}
		stretch(c, k, float64(before.floor)/float64(after.floor))
	}
}

// step returns by how much an event changes the number of people.
func step(e *record.Event) int {
	if e.Body.Yes != nil && !*e.Body.Yes {
		return 1
	}
	return -1
}

// poured reports whether a batch of a coat was poured before a time, as logged.
func poured(coat string, number int, counts []*record.Event, at time.Time) bool {
	return slices.ContainsFunc(counts, func(e *record.Event) bool {
		switch e.Kind {
		case record.Poured, record.Spread, record.Rolled:
			of, n, _ := record.BatchOf(e.Task)
			return of == coat && n == number && e.When().Before(at)
		}
		return false
	})
}
