package sim

import (
	"math"
	"slices"

	"nephelon/core/measure"
)

// tiny is a stretch of time that nobody can use, s.
const tiny = 1e-9

type stretch struct{ from, to measure.Span }

// calendar holds when somebody, or a machine, is busy, in order.
type calendar struct{ busy []stretch }

// after is the first stretch that ends after a time. Trains are booked nearly in
// order, so it is looked for from the end.
func (c *calendar) after(at measure.Span) int {
	i := len(c.busy)
	for i > 0 && c.busy[i-1].to > at+tiny {
		i--
	}
	return i
}

// gap is the earliest time, not before one, from which they are free for so long.
func (c *calendar) gap(from, length measure.Span) measure.Span {
	for _, b := range c.busy[c.after(from):] {
		if b.from-from >= length-tiny {
			return from
		}
		from = max(from, b.to)
	}
	return from
}

// book makes them busy; they are free then.
func (c *calendar) book(from, to measure.Span) {
	if to-from <= tiny {
		return
	}
	i := c.after(from)
	if i == len(c.busy) {
		if i > 0 && from-c.busy[i-1].to <= tiny { // they work on
			c.busy[i-1].to = to
			return
		}
		c.busy = append(c.busy, stretch{from, to})
		return
	}
	c.busy = slices.Insert(c.busy, i, stretch{from, to})
}

// team are people who share a work: each does of it what they have time for.
type team []*calendar

// share finds when a work that is begun at a time at the earliest is begun and done,
// if everybody of the team works at it whenever they are free: the work is as large
// as the area under how many are free. It books nothing. It costs the number of
// stretches that anybody is busy after that time. There must be somebody, or it panics.
func (t team) share(from, work measure.Span) (begin, end measure.Span) {
	if work <= tiny {
		return from, from
	}
	if len(t) == 0 {
		panic("sim: nobody has a role that the work needs")
	}
	begin = measure.Span(math.Inf(1))
	for at := from; ; {
		free, next := 0, measure.Span(math.Inf(1))
		for _, c := range t {
			i := c.after(at)
			if i < len(c.busy) && c.busy[i].from <= at+tiny {
				next = min(next, c.busy[i].to)
				continue
			}
			free++
			if i < len(c.busy) {
				next = min(next, c.busy[i].from)
			}
		}
		if free > 0 {
			begin = min(begin, at)
			if done := measure.Span(free) * (next - at); done >= work-tiny {
				return begin, at + work/measure.Span(free)
			} else {
				work -= done
			}
		}
		at = next
	}
}

// pieces books for each of the team the time they are free between two times.
func (t team) pieces(from, to measure.Span, tell func(member int, from, to measure.Span)) {
	for n, c := range t {
		for at := from; to-at > tiny; {
			i := c.after(at)
			if i < len(c.busy) && c.busy[i].from <= at+tiny {
				at = c.busy[i].to
				continue
			}
			end := to
			if i < len(c.busy) {
				end = min(end, c.busy[i].from)
			}
			c.book(at, end)
			tell(n, at, end)
			at = end
		}
	}
}
