package days

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/core/plan/instruct"
	"nephelon/core/roster"
	"nephelon/core/work"
)

// Ready holds when the pails of a pour are made ready: brought to where they are mixed, turned, stirred
// and paired, once for a product and a day.
type Ready struct {
	From   time.Time `json:"from"`
	Until  time.Time `json:"until"`
	People int       `json:"people,omitempty" doc:"People that it takes"`
	Name   string    `json:"name,omitempty" maxLength:"200" doc:"What is done; absent where it is done with the pails of an earlier pour"`
}

// lookedAhead bounds how long before a pour its pails are made ready, over a weekend and a holiday.
const lookedAhead = 5 * 24 * time.Hour

// readyPart holds what marks the task of a list's line as pails made ready.
const readyPart = "/ready/"

// Readies returns the task of the booking whose pails are made ready; false where it is no such line.
func (b Booked) Readies() (task string, is bool) {
	task, _, is = strings.Cut(b.Task, readyPart)
	return task, is
}

// staged is a pour whose pails are made ready.
type staged struct {
	pour BookedPour
	at   [2]int // of its booking and in its pours
	coat *plan.CoatPlan
}

// readied puts into bookings when the pails of their pours are made ready: by the crew of the first pour
// of a product on a day, in the last free working time that ends long enough before it. What was
// settled before stays while the pour does.
func (c *Calendar) readied(all []Booked) {
	var todo []staged
	was := make(map[string]BookedPour)
	for _, b := range c.stood {
		for _, p := range b.Pours {
			was[b.Job+"/"+p.Task] = p
		}
	}
	for n := range all {
		for k, p := range all[n].Pours {
			old := was[all[n].Job+"/"+p.Task]
			if old.Ready != nil && (p.From.Before(c.now) || old.From.Equal(p.From) && c.attends(all[n].Crew, *old.Ready)) {
				all[n].Pours[k].Ready = old.Ready
			} else if coat := c.coatOf(all[n].Job, p.Task); coat != nil && coat.Staging != nil && p.From.After(c.now) {
				todo = append(todo, staged{p, [2]int{n, k}, coat})
			}
		}
	}
	slices.SortStableFunc(todo, func(a, b staged) int { return a.pour.From.Compare(b.pour.From) })
	for len(todo) > 0 {
		first := todo[0]
		own := all[first.at[0]]
		var same, rest []staged
		for _, s := range todo {
			if all[s.at[0]].Job == own.Job && s.coat.Product == first.coat.Product && s.coat.Hardener == first.coat.Hardener &&
				midnight(s.pour.From, c.zone).Equal(midnight(first.pour.From, c.zone)) {
				same = append(same, s)
			} else {
				rest = append(rest, s)
			}
		}
		todo = rest
		effort, bath, pails, does := instruct.Counting, measure.Span(0), 0, "Bring"
		for _, s := range same {
			effort, pails = effort+s.coat.Staging.Effort, pails+s.coat.Staging.Pails
			if w := s.coat.Staging.Warmed; w != nil {
				does, bath = "Bring, "+w.Verb(), max(bath, w.Bath)
			}
		}
		people := max(1, min(instruct.AtReady, c.peopleOf(own.Crew)))
		name := fmt.Sprintf("%s, turn and stir %s: %s", does, first.coat.Name, pailsOf(pails))
		takes := max(duration(effort)/time.Duration(people), duration(bath))
		from, until, there := c.freeBefore(own, first.pour.From, takes, all)
		if !there {
			name += ", at set-up: no time is left the day before"
		}
		for k, s := range same {
			ready := &Ready{From: from, Until: until}
			if k == 0 {
				ready.People, ready.Name = people, name
			}
			all[s.at[0]].Pours[s.at[1]].Ready = ready
		}
	}
}

// attends reports whether a crew works when pails are made ready; what is over is not asked.
func (c *Calendar) attends(crew string, r Ready) bool {
	k := slices.IndexFunc(c.Problem.Crews, func(o roster.Crew) bool { return o.ID == crew })
	return r.From.Before(c.now) || k >= 0 && slices.ContainsFunc(c.Problem.Crews[k].Shifts, func(s roster.Shift) bool {
		return s.From <= c.floor(r.From) && c.ceil(r.Until) <= s.Until
	})
}

func pailsOf(n int) string {
	if n == 1 {
		return "1 pail"
	}
	return fmt.Sprintf("%d pails", n)
}

// coatOf returns the coat that a pour lays, as its job is planned; nil where there is none.
func (c *Calendar) coatOf(id, task string) *plan.CoatPlan {
	for _, s := range c.byJob[id].Plan.Surfaces {
		for k := range s.Coats {
			if string(work.PourID(s.Coats[k].ID)) == task {
				return &s.Coats[k]
			}
		}
	}
	return nil
}

// peopleOf returns how many people a crew has, as its skills tell; 0 where that is not known.
func (c *Calendar) peopleOf(crew string) int {
	k := slices.IndexFunc(c.Problem.Crews, func(o roster.Crew) bool { return o.ID == crew })
	if k < 0 {
		return 0
	}
	for n := job.MostPeople; n > 0; n-- {
		if slices.Contains(c.Problem.Crews[k].Skills, hands(n)) {
			return n
		}
	}
	return 0
}

// freeBefore returns the last stretch of a shift of a booking's crew in which it does nothing else and
// that ends long enough before a pour; false, with the beginning of the booking, where there is none.
func (c *Calendar) freeBefore(b Booked, pours time.Time, takes time.Duration, all []Booked) (from, until time.Time,
	there bool) {
	need := c.length(takes)
	from, until = b.From, b.From.Add(time.Duration(need)*c.slot)
	k := slices.IndexFunc(c.Problem.Crews, func(o roster.Crew) bool { return o.ID == b.Crew })
	if k < 0 {
		return from, until, false
	}
	crew := c.Problem.Crews[k]
	var taken []roster.Window
	hold := func(from, until time.Time) {
		taken = append(taken, roster.Window{From: c.floor(from), Until: c.ceil(until)})
	}
	for _, o := range all {
		if o.Crew != b.Crew {
			continue
		}
		hold(o.From, o.Until)
		for _, p := range o.Pours {
			if p.Ready != nil {
				hold(p.Ready.From, p.Ready.Until)
			}
		}
	}
	latest := c.floor(pours.Add(-duration(instruct.Ahead)))
	first := max(c.ceil(c.now), c.floor(pours.Add(-lookedAhead)))
	shifts := slices.SortedFunc(slices.Values(crew.Shifts),
		func(a, b roster.Shift) int { return cmp.Compare(b.From, a.From) })
	for _, s := range shifts {
		if s.Overtime {
			continue
		}
		for at := min(s.Until, latest) - need; at >= max(s.From, first); at-- {
			clash := slices.ContainsFunc(append(taken, crew.Rests...), func(w roster.Window) bool {
				return w.From < at+need && at < w.Until
			})
			if !clash {
				return c.time(at), c.time(at + need), true
			}
		}
	}
	return from, until, false
}

// WithReady returns bookings followed, each, by when the pails of its pours are made ready, in order of time:
// for lists of what is done when.
func WithReady(booked []Booked) []Booked {
	all := make([]Booked, 0, len(booked))
	for _, b := range booked {
		all = append(all, b)
		for n, p := range b.Pours {
			if p.Ready != nil && p.Ready.Name != "" {
				all = append(all, Booked{Job: b.Job, Task: fmt.Sprint(b.Task, readyPart, n), Title: p.Ready.Name,
					Crew: b.Crew, From: p.Ready.From, Until: p.Ready.Until, Changed: b.Changed})
			}
		}
	}
	slices.SortStableFunc(all, func(a, b Booked) int { return a.From.Compare(b.From) })
	return all
}
