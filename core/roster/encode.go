package roster

import (
	"slices"

	"nephelon/core/roster/lcg"
)

// encoded is a problem as numbers and clauses, in which all schedules that keep its rules
// can be looked through.
type encoded struct {
	*model
	s          *lcg.Solver
	start, end []lcg.Term
	ways       [][]way
	done       [][]lcg.Atom // by task and way
	by         [][]lcg.Atom // by task and crew
	bought     []lcg.Atom   // by gap that can be bought off
	before     map[pair]lcg.Atom
	parts      [parts + 1]lcg.Term
	perCrew    []lcg.Part // how long each crew travels at least
	within     *window    // outside which all stands; nil where all is open
}

// pair is two tasks one of which comes after the other, and what lies between them.
type pair struct {
	first, then int
	way         Slot
}

// What a problem may have to be looked through.
const (
	mostWays = 6000
	mostBuys = 4
	mostCost = 1 << 29
)

// encode makes a problem ready to be looked through; nil where it is too large for that.
// What is no better than a plan in hand is left out, where there is one.
func encode(m *model, known *Cost, within *window) *encoded {
	e := &encoded{model: m, within: within, s: lcg.New(), bought: make([]lcg.Atom, m.buys),
		before: make(map[pair]lcg.Atom)}
	tables, n := make(map[string][]amount), 0
	for i := range m.tasks {
		buys := 0
		for _, g := range m.tasks[i].before {
			if g.index >= 0 {
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
	for i := range m.tasks {
		e.task(i)
	}
	for i := range m.tasks {
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

// stands tells whether a task stands where it is.
func (e *encoded) stands(i int) bool { return e.within != nil && !e.within.open[i] }

// as is the way in which a task is done that stands.
func (e *encoded) as(i int) way {
	at := e.within.at
	p := at[i]
	own := way{crew: p.crew, starts: &begins{runs: []run{{p.start, p.start}}, work: p.end - p.start}}
	for n := range e.tasks[i].before {
		if g := &e.tasks[i].before[n]; g.index >= 0 {
			b := at[g.task]
			own.bought = append(own.bought, p.start > g.most(b.start, b.end))
		}
	}
	if p.crew >= 0 && p.over {
		c := e.calendar(p.crew, e.tasks[i].access, true, e.tasks[i].breakable)
		own.over = c.over[p.end] - c.over[p.start]
	}
	return own
}

// apart tells whether two tasks never meet, whatever is decided, nor the way between them.
func (e *encoded) apart(i, o int, way Slot) bool {
	return e.s.Most(e.end[i])+int32(way) <= e.s.Least(e.start[o]) || e.s.Most(e.end[o])+int32(way) <= e.s.Least(e.start[i])
}

// task makes a task's start and end those of one of its ways.
func (e *encoded) task(i int) {
	t, s := &e.tasks[i], e.s
	from, until := e.jobs[t.job].Release, e.horizon
	if t.pinned >= 0 {
		from, until = max(from, t.pinned), t.pinned
	}
	all := e.ways[i]
	switch {
	case e.stands(i):
		from, until = e.within.at[i].start, e.within.at[i].start
	case e.within != nil:
		from, until = max(from, e.within.from), min(until, e.within.until)
	}
	start := s.Number(int32(from), int32(until))
	alike := true
	for _, w := range all {
		alike = alike && w.starts.rest == nil && w.starts.work == all[0].starts.work
	}
	var end lcg.Term
	if alike && len(all) > 0 {
		end = start.Plus(int32(all[0].starts.work))
		s.Clause(end.AtMost(int32(e.horizon)))
		if e.within != nil && !e.stands(i) {
			s.Clause(end.AtMost(int32(e.within.until)))
		}
	} else {
		end = s.Number(int32(from), int32(e.horizon))
		if e.within != nil {
			s.Clause(end.AtMost(int32(e.within.until)))
		}
		s.Apart(lcg.True(), start.Plus(int32(t.duration)), end)
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
	crews := make([]lcg.Atom, len(e.problem.Crews))
	for c := range crews {
		crews[c] = e.any(i, func(w way) bool { return w.crew == c })
	}
	e.by = append(e.by, crews)
	buy := 0
	for n := range t.before {
		if g := &t.before[n]; g.index >= 0 {
			at := buy
			e.bought[g.index] = e.any(i, func(w way) bool { return w.bought[at] })
			buy++
		}
	}
}

// any is an atom that holds where one of some ways to do a task does.
func (e *encoded) any(i int, which func(way) bool) lcg.Atom {
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
	a := e.s.Choice()
	for n, w := range e.ways[i] {
		if which(w) {
			e.s.Clause(e.done[i][n].Not(), a)
		} else {
			e.s.Clause(e.done[i][n].Not(), a.Not())
		}
	}
	e.s.Clause(append(some, a.Not())...)
	return a
}

// after is an atom by which a task begins so much after another is done.
func (e *encoded) after(first, then int, way Slot) lcg.Atom {
	key := pair{first, then, way}
	a, known := e.before[key]
	if !known {
		a = e.s.Choice()
		e.s.Apart(a, e.end[first].Plus(int32(way)), e.start[then])
		e.before[key] = a
	}
	return a
}

// idle is an atom that holds where a task takes no time; it takes from nobody then.
func (e *encoded) idle(i int) lcg.Atom {
	if e.tasks[i].duration > 0 {
		return lcg.True().Not()
	}
	return e.any(i, func(w way) bool { return w.starts.work == 0 })
}

// oneAtATime has a crew do one task at a time, with the way between them.
func (e *encoded) oneAtATime() {
	idle := make([]lcg.Atom, len(e.tasks))
	for i := range e.tasks {
		idle[i] = e.idle(i)
	}
	for i := range e.tasks {
		for o := range i {
			if e.stands(i) && e.stands(o) || e.apart(i, o, e.way(i, o)) {
				continue
			}
			for _, c := range e.tasks[i].crews {
				if slices.Contains(e.tasks[o].crews, c) {
					e.s.Clause(idle[i], idle[o], e.by[i][c].Not(), e.by[o][c].Not(), e.after(i, o, e.way(i, o)),
						e.after(o, i, e.way(o, i)))
				}
			}
		}
	}
	for n, machine := range e.machines {
		var pieces []lcg.Piece
		var users []int
		for i := range e.tasks {
			if slices.Contains(e.tasks[i].machines, n) && (!e.stands(i) || e.within.meets(i)) {
				pieces = append(pieces, lcg.Piece{Start: e.start[i], End: e.end[i], Here: idle[i].Not()})
				users = append(users, i)
			}
		}
		if len(users) <= machine.Capacity {
			continue
		}
		if machine.Capacity > 1 {
			e.s.Shared(pieces, machine.Capacity)
			continue
		}
		for k, i := range users {
			for _, o := range users[:k] {
				if e.stands(i) && e.stands(o) || e.apart(i, o, 0) {
					continue
				}
				e.s.Clause(idle[i], idle[o], e.after(i, o, 0), e.after(o, i, 0))
			}
		}
	}
}

// next is what is tried where nothing else tells: the task that can begin first, done so
// that it ends first, then at once.
func (e *encoded) next() (lcg.Atom, bool) {
	best := -1
	for i := range e.tasks {
		if e.s.Least(e.start[i]) == e.s.Most(e.start[i]) && e.chosen(i) >= 0 {
			continue
		}
		if best < 0 || e.s.Least(e.start[i]) < e.s.Least(e.start[best]) ||
			e.s.Least(e.start[i]) == e.s.Least(e.start[best]) && e.s.Most(e.start[i]) < e.s.Most(e.start[best]) {
			best = i
		}
	}
	if best < 0 {
		return lcg.Atom{}, false
	}
	least := e.s.Least(e.start[best])
	if e.chosen(best) >= 0 {
		return e.start[best].AtMost(least), true
	}
	way, end := -1, int32(0)
	for n, w := range e.ways[best] {
		if e.s.Fails(e.done[best][n]) {
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
func (e *encoded) chosen(i int) int {
	for n, a := range e.done[i] {
		if e.s.Holds(a) {
			return n
		}
	}
	return -1
}

// read puts what the solver found into a maker.
func (e *encoded) read(k *maker) {
	for i := range k.crews {
		k.crews[i] = k.crews[i][:0]
	}
	for i := range k.machines {
		k.machines[i] = k.machines[i][:0]
	}
	for i := range e.tasks {
		if e.stands(i) {
			k.book(i, e.within.at[i])
			continue
		}
		w := e.ways[i][e.chosen(i)]
		k.book(i, placed{start: Slot(e.s.Least(e.start[i])), end: Slot(e.s.Least(e.end[i])), crew: w.crew, over: w.over > 0,
			bought: slices.Contains(w.bought, true)})
	}
}
