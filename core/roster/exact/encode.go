// Package exact states a compiled roster, or a window of a schedule, as numbers and clauses for the
// constraint solver of package lcg, and reads its solutions back.
package exact

import (
	"slices"

	"nephelon/core/roster"
	"nephelon/core/roster/lcg"
	"nephelon/core/roster/model"
)

// Encoded is a problem as numbers and clauses, in which all schedules that keep its rules
// can be looked through.
type Encoded struct {
	*model.Model
	S          *lcg.Solver
	start, end []lcg.Term
	ways       [][]way
	done       [][]lcg.Atom // by task and way
	by         [][]lcg.Atom // by task and crew
	bought     []lcg.Atom   // by gap that can be bought off
	before     map[pair]lcg.Atom
	Parts      [roster.Parts + 1]lcg.Term
	perCrew    []lcg.Part // how long each crew travels at least
	within     *Window    // outside which all stands; nil where all is open
	class      []int      // by crew, the first of those that are not told apart from it
	number     []int      // by that one, how many these are
}

// pair is two tasks one of which comes after the other, and what lies between them.
type pair struct {
	first, then int
	way         roster.Slot
}

// What a problem may have to be looked through.
const (
	mostWays = 6000
	mostBuys = 4
	MostCost = 1 << 29
)

// Encode makes a problem ready to be looked through; nil where it is too large for that.
// What is no better than a plan in hand is left out, where there is one.
func Encode(m *model.Model, known *roster.Cost, within *Window) *Encoded {
	e := &Encoded{Model: m, within: within, S: lcg.New(), bought: make([]lcg.Atom, m.Buys),
		before: make(map[pair]lcg.Atom)}
	e.classes()
	tables, n := make(map[string][]amount), 0
	for i := range m.Tasks {
		buys := 0
		for _, g := range m.Tasks[i].Before {
			if g.Index >= 0 {
				buys++
			}
		}
		if buys > mostBuys {
			return nil
		}
		var all []way
		if e.stands(i) {
			all = []way{e.as(i)}
		} else {
			all = e.waysOf(i, tables)
		}
		if n += len(all); n > mostWays {
			return nil
		}
		e.ways = append(e.ways, all)
	}
	for i := range m.Tasks {
		e.task(i)
	}
	for i := range m.Tasks {
		e.gapsOf(i)
	}
	e.oneAtATime()
	if !e.costs(known) {
		return nil
	}
	if within == nil {
		e.capacities()
		e.symmetry()
	}
	return e
}

// stands reports whether a task stands where it is.
func (e *Encoded) stands(i int) bool { return e.within != nil && !e.within.Open[i] }

// as is the way in which a task is done that stands.
func (e *Encoded) as(i int) way {
	at := e.within.At
	p := at[i]
	own := way{crew: p.Crew, starts: &begins{runs: []run{{p.Start, p.Start}}, work: p.End - p.Start}}
	for n := range e.Tasks[i].Before {
		if g := &e.Tasks[i].Before[n]; g.Index >= 0 {
			b := at[g.Task]
			own.bought = append(own.bought, p.Start > g.Most(b.Start, b.End))
		}
	}
	if p.Crew >= 0 && p.Over {
		c := e.Calendar(p.Crew, e.Tasks[i].Access, true, e.Tasks[i].Breakable)
		own.over = c.Over[p.End] - c.Over[p.Start]
	}
	return own
}

// apart reports whether two tasks never meet, whatever is decided, nor the way between them.
func (e *Encoded) apart(i, o int, way roster.Slot) bool {
	return e.S.Most(e.end[i])+int32(way) <= e.S.Least(e.start[o]) || e.S.Most(e.end[o])+int32(way) <= e.S.Least(e.start[i])
}

// task makes a task's start and end those of one of its ways.
func (e *Encoded) task(i int) {
	t, s := &e.Tasks[i], e.S
	from, until := e.Jobs[t.Job].Release, e.Horizon
	if t.Pinned >= 0 {
		from, until = max(from, t.Pinned), t.Pinned
	}
	all := e.ways[i]
	switch {
	case e.stands(i):
		from, until = e.within.At[i].Start, e.within.At[i].Start
	case e.within != nil:
		from, until = max(from, e.within.From), min(until, e.within.Until)
	}
	start := s.Number(int32(from), int32(until))
	alike := true
	for _, w := range all {
		alike = alike && w.starts.rest == nil && w.starts.work == all[0].starts.work
	}
	var end lcg.Term
	if alike && len(all) > 0 {
		end = start.Plus(int32(all[0].starts.work))
		s.Clause(end.AtMost(int32(e.Horizon)))
		if e.within != nil && !e.stands(i) {
			s.Clause(end.AtMost(int32(e.within.Until)))
		}
	} else {
		end = s.Number(int32(from), int32(e.Horizon))
		if e.within != nil {
			s.Clause(end.AtMost(int32(e.within.Until)))
		}
		s.Apart(lcg.True(), start.Plus(int32(t.Duration)), end)
	}
	e.start, e.end = append(e.start, start), append(e.end, end)
	atoms := make([]lcg.Atom, len(all))
	for n := range all {
		if atoms[n] = lcg.True(); len(all) > 1 {
			atoms[n] = s.Choice()
		}
	}
	e.done = append(e.done, atoms)
	if len(all) != 1 {
		s.Clause(atoms...)
		s.AtMostOne(atoms...)
	}
	stretch := make([]lcg.Way, len(all))
	for n, w := range all {
		stretch[n] = lcg.Way{If: atoms[n], Times: w.starts}
	}
	s.Stretch(start, end, stretch)
	crews := make([]lcg.Atom, len(e.Problem.Crews))
	for c := range crews {
		crews[c] = e.any(i, func(w way) bool { return w.crew == c })
	}
	e.by = append(e.by, crews)
	buy := 0
	for n := range t.Before {
		if g := &t.Before[n]; g.Index >= 0 {
			at := buy
			e.bought[g.Index] = e.any(i, func(w way) bool { return w.bought[at] })
			buy++
		}
	}
}

// any is an atom that holds where one of some ways to do a task does.
func (e *Encoded) any(i int, which func(way) bool) lcg.Atom {
	var some []lcg.Atom
	for n, w := range e.ways[i] {
		if which(w) {
			some = append(some, e.done[i][n])
		}
	}
	switch {
	case len(some) == 0:
		return lcg.True().Not()
	case len(some) == len(e.ways[i]):
		return lcg.True()
	case len(some) == 1:
		return some[0]
	}
	a := e.S.Choice()
	for n, w := range e.ways[i] {
		if which(w) {
			e.S.Clause(e.done[i][n].Not(), a)
		} else {
			e.S.Clause(e.done[i][n].Not(), a.Not())
		}
	}
	e.S.Clause(append(some, a.Not())...)
	return a
}

// after is an atom by which a task begins so much after another is done.
func (e *Encoded) after(first, then int, way roster.Slot) lcg.Atom {
	key := pair{first, then, way}
	a, known := e.before[key]
	if !known {
		a = e.S.Choice()
		e.S.Apart(a, e.end[first].Plus(int32(way)), e.start[then])
		e.before[key] = a
	}
	return a
}

// idle is an atom that holds where a task takes no time; it takes from nobody then.
func (e *Encoded) idle(i int) lcg.Atom {
	if e.Tasks[i].Duration > 0 {
		return lcg.True().Not()
	}
	return e.any(i, func(w way) bool { return w.starts.work == 0 })
}

// oneAtATime has a crew do one task at a time, with the way between them.
func (e *Encoded) oneAtATime() {
	idle := make([]lcg.Atom, len(e.Tasks))
	for i := range e.Tasks {
		idle[i] = e.idle(i)
	}
	for i := range e.Tasks {
		for o := range i {
			if e.stands(i) && e.stands(o) || e.apart(i, o, e.Way(i, o)) {
				continue
			}
			for _, c := range e.Tasks[i].Crews {
				if e.number[c] == 1 && slices.Contains(e.Tasks[o].Crews, c) {
					e.S.Clause(idle[i], idle[o], e.by[i][c].Not(), e.by[o][c].Not(), e.after(i, o, e.Way(i, o)),
						e.after(o, i, e.Way(o, i)))
				}
			}
		}
	}
	e.asManyAtATime()
	for n, machine := range e.Machines {
		var pieces []lcg.Piece
		var users []int
		for i := range e.Tasks {
			if slices.Contains(e.Tasks[i].Machines, n) && (!e.stands(i) || e.within.meets(i)) {
				pieces = append(pieces, lcg.Piece{Start: e.start[i], End: e.end[i], Here: idle[i].Not()})
				users = append(users, i)
			}
		}
		if len(users) <= machine.Capacity {
			continue
		}
		if machine.Capacity > 1 {
			e.S.Shared(pieces, machine.Capacity)
			continue
		}
		for k, i := range users {
			for _, o := range users[:k] {
				if e.stands(i) && e.stands(o) || e.apart(i, o, 0) {
					continue
				}
				e.S.Clause(idle[i], idle[o], e.after(i, o, 0), e.after(o, i, 0))
			}
		}
	}
}

// Next returns what is tried where nothing else tells: the task that can begin first, done so
// that it ends first, then at once.
func (e *Encoded) Next() (lcg.Atom, bool) {
	best := -1
	for i := range e.Tasks {
		if e.S.Least(e.start[i]) == e.S.Most(e.start[i]) && e.chosen(i) >= 0 {
			continue
		}
		if best < 0 || e.S.Least(e.start[i]) < e.S.Least(e.start[best]) ||
			e.S.Least(e.start[i]) == e.S.Least(e.start[best]) && e.S.Most(e.start[i]) < e.S.Most(e.start[best]) {
			best = i
		}
	}
	if best < 0 {
		return lcg.Atom{}, false
	}
	least := e.S.Least(e.start[best])
	if e.chosen(best) >= 0 {
		return e.start[best].AtMost(least), true
	}
	way, end := -1, int32(0)
	for n, w := range e.ways[best] {
		if e.S.Fails(e.done[best][n]) {
			continue
		}
		if at, ok := w.starts.Next(least); ok {
			if ends := w.starts.End(at); way < 0 || ends < end {
				way, end = n, ends
			}
		}
	}
	return e.done[best][max(0, way)], true
}

// chosen is the way in which a task is done; −1 while that is open.
func (e *Encoded) chosen(i int) int {
	for n, a := range e.done[i] {
		if e.S.Holds(a) {
			return n
		}
	}
	return -1
}

// Read puts what the solver found into a maker.
func (e *Encoded) Read(k *model.Maker) {
	for i := range k.Crews {
		k.Crews[i] = k.Crews[i][:0]
	}
	for i := range k.Machines {
		k.Machines[i] = k.Machines[i][:0]
	}
	placed := make([]model.Placed, len(e.Tasks))
	for i := range e.Tasks {
		if e.stands(i) {
			placed[i] = e.within.At[i]
			continue
		}
		w := e.ways[i][e.chosen(i)]
		placed[i] = model.Placed{Start: roster.Slot(e.S.Least(e.start[i])), End: roster.Slot(e.S.Least(e.end[i])),
			Crew: w.crew, Over: w.over > 0, Bought: slices.Contains(w.bought, true)}
	}
	e.giveOut(placed)
	for i, p := range placed {
		k.Book(i, p)
	}
}
