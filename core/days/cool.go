package days

import (
	"slices"

	"nephelon/core/roster"
)

// cooled returns the bookings, by key, as they would have to follow each other if all films
// came Cooler K cooler than told: in the order in which they are booked, each by its crew, no
// earlier than booked, once the task before it is ready and its crew and machines are free.
// What finds no place on the calendar is left out.
func (c *Calendar) cooled(booked []Booked) map[string]Booked {
	order := slices.Clone(booked)
	slices.SortStableFunc(order, func(a, b Booked) int { return a.From.Compare(b.From) })
	moved := make(map[string]Booked, len(order))
	placed := c.rivals(nil)
	for _, b := range order {
		at, there := c.index[b.key()]
		if !there {
			continue
		}
		own, fits := b, true
		if !b.From.Before(c.now) {
			own, fits = c.later(at, b, moved, placed)
		}
		if fits {
			moved[b.key()] = own
			placed.add(rival{Booked: own})
		}
	}
	return moved
}

// later moves a booking to where its films, its crew and its machines allow it, no earlier
// than it is booked.
func (c *Calendar) later(at int, b Booked, moved map[string]Booked, placed rivals) (Booked, bool) {
	from := b.From
	extra := roster.Slot(0) // abrading, where a window closes before that
	for _, g := range c.cool[b.key()] {
		before, there := moved[b.Job+"/"+g.task]
		if !there {
			continue
		}
		mark, opens := g.opens(before)
		if opens.After(from) {
			from = opens
		}
		if g.most != nil && g.abrade > 0 && !b.Bought && from.After(g.most(mark)) {
			extra = max(extra, c.length(g.abrade))
		}
	}
	if b.Crew == "" {
		b.From, b.Until = from, from.Add(b.Until.Sub(b.From))
		return b, true
	}
	if from.Equal(b.From) && extra == 0 && placed.against(at, b.Crew, b.From, b.Until, every) == "" {
		return b, true
	}
	k := slices.IndexFunc(c.Problem.Crews, func(o roster.Crew) bool { return o.ID == b.Crew })
	if k < 0 {
		return b, false
	}
	stay, work := c.stay(at, c.Problem.Crews[k]), c.task(at).Duration+extra
	if b.Bought {
		work = max(work, c.ceil(b.Until)-c.floor(b.From))
	}
	for s := max(0, c.ceil(from)); s+work <= c.Problem.Horizon; s++ {
		if stay.fault(s, s+work) != nil {
			continue
		}
		end := stay.ends(s, work)
		if placed.against(at, b.Crew, c.time(s), c.time(end), every) == "" {
			b.From, b.Until = c.time(s), c.time(end)
			return b, true
		}
	}
	return b, false
}

// done returns the slot after the last of so much work that may rest, begun at a slot.
func (s stay) done(from, work roster.Slot) roster.Slot {
	end := from
	for left := work; left > 0 && end < s.calendar.Problem.Horizon; end++ {
		if s.works(end) {
			left--
		}
	}
	return end
}
