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
func (m *model) encode(known *Cost, within *window) *encoded {
	e := &encoded{model: m, within: within, s: lcg.New(), bought: make([]lcg.Atom, m.buys), before: make(map[pair]lcg.Atom)}
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

// gapsOf keeps the gaps before a task.
func (e *encoded) gapsOf(i int) {
	s, start := e.s, e.start[i]
	for n := range e.tasks[i].before {
		g := &e.tasks[i].before[n]
		if e.stands(i) && e.stands(g.task) {
			continue
		}
		mark := e.end[g.task]
		if g.start {
			mark = e.start[g.task]
		}
		plain := lcg.Term{B: mark.B}
		if g.moves[0] {
			s.Follows(lcg.True(), plain, start, e.table(g.min, Slot(mark.Off), false, 0))
		} else {
			s.Apart(lcg.True(), mark.Plus(int32(g.min(0))), start)
		}
		if g.max == nil {
			continue
		}
		missed := lcg.True().Not()
		if g.index >= 0 {
			missed = e.bought[g.index]
		}
		if g.moves[1] {
			s.Kept(missed.Not(), plain, start, e.table(g.max, Slot(mark.Off), true, 0))
			s.Follows(missed, plain, start, e.table(g.max, Slot(mark.Off), false, 1))
		} else {
			most := int32(g.max(0))
			s.Apart(missed.Not(), start, mark.Plus(most))
			s.Apart(missed, mark.Plus(most+1), start)
		}
	}
}

// table is where a gap leads from each slot and a constant, and so much further. Should it
// lead back anywhere, the table allows more than the gap does: as a bound from above where
// it is one, else from below.
func (e *encoded) table(g Gap, behind Slot, above bool, more int32) []int32 {
	all := make([]int32, e.horizon+1)
	for s := range all {
		at := min(Slot(s)+behind, e.horizon)
		all[s] = int32(max(0, min(at+g(at), e.horizon+1))) + more
	}
	if above {
		for s := 1; s < len(all); s++ {
			all[s] = max(all[s], all[s-1])
		}
	} else {
		for s := len(all) - 2; s >= 0; s-- {
			all[s] = min(all[s], all[s+1])
		}
	}
	return all
}

// exact tells whether what was found keeps all gaps that move; a table may allow more than
// its gap does. One that is not kept is forbidden as it stands.
func (e *encoded) exact() bool {
	fine := true
	forbid := func(mark lcg.Term, at int32, but ...lcg.Atom) {
		fine = false
		e.s.Clause(append(but, mark.AtMost(at-1), mark.AtLeast(at+1))...)
	}
	type place struct{ start, end int32 }
	all := make([]place, len(e.tasks))
	missed := make([]bool, len(e.bought))
	for i := range all {
		all[i] = place{e.s.Least(e.start[i]), e.s.Least(e.end[i])}
	}
	for n, a := range e.bought {
		missed[n] = e.s.Holds(a)
	}
	for i := range e.tasks {
		for n := range e.tasks[i].before {
			g := &e.tasks[i].before[n]
			mark, at := e.end[g.task], all[g.task].end
			if g.start {
				mark, at = e.start[g.task], all[g.task].start
			}
			if least := at + int32(g.min(Slot(at))); all[i].start < least {
				forbid(mark, at, e.start[i].AtLeast(least))
			}
			if g.max == nil {
				continue
			}
			most, bought := at+int32(g.max(Slot(at))), lcg.True().Not()
			if g.index >= 0 {
				bought = e.bought[g.index]
			}
			if off := g.index >= 0 && missed[g.index]; !off && all[i].start > most {
				forbid(mark, at, bought, e.start[i].AtMost(most))
			} else if off && all[i].start <= most {
				forbid(mark, at, bought.Not(), e.start[i].AtLeast(most+1))
			}
		}
	}
	return fine
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
					e.s.Clause(idle[i], idle[o], e.by[i][c].Not(), e.by[o][c].Not(), e.after(i, o, e.way(i, o)), e.after(o, i, e.way(o, i)))
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

// costs are the parts of what a schedule costs; false where they are too great to count.
func (e *encoded) costs(known *Cost) bool {
	s := e.s
	total := func(part int, most int64, of []lcg.Part) {
		if known != nil {
			most = known[part]
			for p := range part {
				if known[p] > 0 {
					most = mostCost // it may cost more where what is weightier costs less
				}
			}
		}
		e.parts[part] = s.Number(0, int32(min(most, mostCost)))
		if len(of) > 0 {
			s.Sum(e.parts[part], of)
		}
	}
	late := make([]lcg.Part, 0, len(e.jobs))
	worst := int64(0)
	tardy := make([]lcg.Term, len(e.jobs))
	for j, job := range e.jobs {
		if job.Due != nil {
			most := max(0, e.horizon-*job.Due)
			tardy[j] = s.Number(0, int32(most))
			late = append(late, lcg.Part{Term: tardy[j], Times: int32(e.weights[j])})
			worst += int64(most) * e.weights[j]
		}
	}
	for i := range e.tasks {
		job := e.tasks[i].job
		if due := e.jobs[job].Due; due != nil {
			s.Apart(lcg.True(), e.end[i].Plus(-int32(*due)), tardy[job])
		}
	}
	if worst > mostCost && (known == nil || known[Late] > mostCost) {
		return false
	}
	total(Late, worst, late)
	var buys, over, moved []lcg.Part
	one := func(a lcg.Atom) lcg.Part { return lcg.Part{Term: e.count(a), Times: 1} }
	for _, a := range e.bought {
		buys = append(buys, one(a))
	}
	total(Bought, int64(len(buys)), buys)
	for i := range e.tasks {
		for n, w := range e.ways[i] {
			if w.over > 0 {
				over = append(over, lcg.Part{Term: e.count(e.done[i][n]), Times: int32(w.over)})
			}
		}
	}
	total(Overtime, mostCost, over)
	ways, ok := e.travels()
	if !ok {
		return false
	}
	total(Moving, mostCost, ways)
	if len(e.perCrew) > 0 {
		s.Sum(e.parts[Moving], e.perCrew)
	}
	e.parts[Finish] = s.Number(0, int32(e.horizon))
	for i := range e.tasks {
		s.Apart(lcg.True(), e.end[i], e.parts[Finish])
		if e.tasks[i].was < 0 {
			continue
		}
		was := e.problem.Before[e.tasks[i].was]
		stays := s.Choice()
		s.Clause(stays.Not(), e.start[i].AtLeast(int32(was.Start)))
		s.Clause(stays.Not(), e.start[i].AtMost(int32(was.Start)))
		if !e.tasks[i].unattended {
			by := lcg.True().Not()
			for c, crew := range e.problem.Crews {
				if crew.ID == was.Crew {
					by = e.by[i][c]
				}
			}
			s.Clause(stays.Not(), by)
		}
		moved = append(moved, one(stays.Not()))
		s.Prefer(stays)
	}
	total(Moves, int64(len(moved)), moved)
	return true
}

// sooner counts when each job is done, which decides between schedules that cost the same.
func (e *encoded) sooner() {
	ends := make([]lcg.Part, len(e.jobs))
	for j := range ends {
		ends[j] = lcg.Part{Term: e.s.Number(0, int32(e.horizon)), Times: 1}
	}
	for i := range e.tasks {
		e.s.Apart(lcg.True(), e.end[i], ends[e.tasks[i].job].Term)
	}
	e.parts[early] = e.s.Number(0, int32(e.horizon)*int32(len(e.jobs)))
	e.s.Sum(e.parts[early], ends)
}

// count is a term that is one where an atom holds, else zero; of the atom of a number
// that is zero or one.
func (*encoded) count(a lcg.Atom) lcg.Term {
	return lcg.Term{B: a.B, Off: 1 - a.V}
}

// placed are the tasks that somebody works at for some time at a place; false where that
// is not known of one.
func (e *encoded) placed() (all []int, known bool) {
	for i := range e.tasks {
		t := &e.tasks[i]
		if t.unattended || e.place[t.job] < 0 {
			continue
		}
		if t.duration > 0 {
			all = append(all, i)
		} else if slices.ContainsFunc(t.before, func(g gap) bool { return g.index >= 0 }) {
			return nil, false
		}
	}
	return all, true
}

// travels has tasks follow each other on their crews, and returns what the ways between
// them add up to.
func (e *encoded) travels() ([]lcg.Part, bool) {
	if e.far == 0 {
		return nil, true
	}
	all, known := e.placed()
	if !known {
		return nil, false
	}
	s := e.s
	first := make(map[int]lcg.Atom)
	into, out := make(map[int][]lcg.Atom), make(map[int][]lcg.Atom)
	var sum []lcg.Part
	after := e.afterThose(all)
	var maybe []int // the first of a crew
	behind := make(map[int]bool)
	for _, o := range after {
		behind[o] = true
	}
	for _, i := range all {
		if !behind[i] { // of what stands, only that which nothing that stands comes before
			first[i] = s.Choice()
			into[i], maybe = append(into[i], first[i]), append(maybe, i)
		}
	}
	for _, i := range all {
		for _, o := range all {
			if i == o || e.stands(i) && e.stands(o) && after[i] != o {
				continue
			}
			way := e.way(i, o)
			if s.Least(e.end[i])+int32(way) > s.Most(e.start[o]) || !e.mayFollow(o, i, after) {
				continue
			}
			next := s.Choice()
			into[o], out[i] = append(into[o], next), append(out[i], next)
			s.Clause(next.Not(), e.after(i, o, way))
			for c := range e.problem.Crews {
				s.Clause(next.Not(), e.by[i][c].Not(), e.by[o][c])
				s.Clause(next.Not(), e.by[o][c].Not(), e.by[i][c])
			}
			if way > 0 {
				sum = append(sum, lcg.Part{Term: e.count(next), Times: int32(way)})
			}
		}
	}
	for _, i := range all {
		s.Clause(into[i]...)
		s.AtMostOne(into[i]...)
		s.AtMostOne(out[i]...)
	}
	for n, i := range maybe {
		for _, o := range maybe[:n] {
			for c := range e.problem.Crews {
				s.Clause(first[i].Not(), first[o].Not(), e.by[i][c].Not(), e.by[o][c].Not())
			}
		}
	}
	e.rounds(all)
	return sum, true
}

// afterThose are the tasks that stand and come next on their crew after those that stand;
// −1 where none does.
func (e *encoded) afterThose(all []int) map[int]int {
	after := make(map[int]int)
	if e.within == nil {
		return after
	}
	at := e.within.at
	rows := make(map[int][]int)
	for _, i := range all {
		if e.stands(i) {
			rows[at[i].crew] = append(rows[at[i].crew], i)
		}
	}
	for _, row := range rows {
		slices.SortFunc(row, func(a, b int) int { return int(at[a].start - at[b].start) })
		for n, i := range row {
			if after[i] = -1; n+1 < len(row) {
				after[i] = row[n+1]
			}
		}
	}
	return after
}

// mayFollow tells whether a task may be the next of a crew after another. after are those
// that stand and come next after others that stand; two that stand are such.
func (e *encoded) mayFollow(o, i int, after map[int]int) bool {
	switch {
	case e.stands(i) && e.stands(o):
		return true // they are those
	case e.stands(i):
		// Not where another that stands lies between them in any case.
		n := after[i]
		return slices.Contains(e.tasks[o].crews, e.within.at[i].crew) && (n < 0 || e.s.Least(e.start[o]) < e.s.Least(e.start[n]))
	case e.stands(o):
		return slices.Contains(e.tasks[i].crews, e.within.at[o].crew)
	}
	return slices.ContainsFunc(e.tasks[i].crews, func(c int) bool { return slices.Contains(e.tasks[o].crews, c) })
}

// mostPlaces is how many places a crew is asked about together.
const mostPlaces = 5

// rounds says of each crew that it travels at least the shortest way past the places that
// it comes to, of the first few places of a problem.
func (e *encoded) rounds(all []int) {
	s, n := e.s, min(len(e.travel), mostPlaces)
	short := e.shortest()
	var each []lcg.Part
	for c := range e.problem.Crews {
		comes := make([]lcg.Atom, n)
		for p := range comes {
			comes[p] = s.Choice()
			for _, i := range all {
				if e.place[e.tasks[i].job] == p {
					s.Clause(comes[p], e.by[i][c].Not())
				}
			}
		}
		own := s.Number(0, mostCost)
		each = append(each, lcg.Part{Term: own, Times: 1})
		for set := 1; set < 1<<n; set++ {
			way := shortestPast(short, set, -1)
			if way == 0 {
				continue
			}
			clause := []lcg.Atom{own.AtLeast(int32(way))}
			for p := range n {
				if set>>p&1 == 1 {
					clause = append(clause, comes[p].Not())
				}
			}
			s.Clause(clause...)
		}
	}
	e.perCrew = each
}

// shortest are the shortest ways between all places, over others where that is shorter.
func (m *model) shortest() [][]Slot {
	all := make([][]Slot, len(m.travel))
	for i := range all {
		all[i] = slices.Clone(m.travel[i])
	}
	for k := range all {
		for i := range all {
			for j := range all {
				all[i][j] = min(all[i][j], all[i][k]+all[k][j])
			}
		}
	}
	return all
}

// shortestPast is the shortest way from a place past all of a set; from any of them where
// it is −1.
func shortestPast(ways [][]Slot, set, from int) Slot {
	best := Slot(-1)
	for p := range ways {
		if set>>p&1 == 0 {
			continue
		}
		way := shortestPast(ways, set&^(1<<p), p)
		if from >= 0 {
			way += ways[from][p]
		}
		if best < 0 || way < best {
			best = way
		}
	}
	return max(0, best)
}

// capacities says what follows from how many can do what: no more go on at once than there
// are crews, nor more work in any stretch than they are there for.
func (e *encoded) capacities() {
	var sets [][]int
	add := func(set []int) {
		for _, known := range sets {
			if slices.Equal(known, set) {
				return
			}
		}
		sets = append(sets, set)
	}
	var everybody []int
	for i := range e.tasks {
		if t := &e.tasks[i]; !t.unattended {
			add(t.crews)
			everybody = append(everybody, t.crews...)
		}
	}
	slices.Sort(everybody)
	if everybody = slices.Compact(everybody); len(everybody) > 0 {
		add(everybody)
	}
	for _, c := range everybody {
		add([]int{c})
	}
	for _, set := range sets {
		var pieces []lcg.Piece
		var loads []lcg.Load
		for i := range e.tasks {
			t := &e.tasks[i]
			var by []lcg.Atom
			switch {
			case t.unattended:
				continue
			case !slices.ContainsFunc(t.crews, func(c int) bool { return !slices.Contains(set, c) }):
				pieces = append(pieces, lcg.Piece{Start: e.start[i], End: e.end[i], Here: e.idle(i).Not()})
			case len(set) == 1 && slices.Contains(t.crews, set[0]):
				by = []lcg.Atom{e.by[i][set[0]]}
			default:
				continue
			}
			loads = append(loads, lcg.Load{Start: e.start[i], End: e.end[i], Work: int32(t.duration), By: by})
			for n := range t.before {
				if g := &t.before[n]; g.index >= 0 {
					loads = append(loads, lcg.Load{Start: e.start[i], End: e.end[i], Work: int32(g.buy.Slots), By: append([]lcg.Atom{e.bought[g.index]}, by...)})
				}
			}
		}
		if len(set) > 1 && len(pieces) > len(set) {
			e.s.Shared(pieces, len(set))
		}
		sure, extra := make([]int32, e.horizon+1), make([]int32, e.horizon+1)
		for _, c := range set {
			plain, over := e.calendar(c, 0, false, false), e.calendar(c, 0, true, false)
			for n := range sure {
				sure[n] += int32(plain.count[n])
				extra[n] += int32(over.count[n] - plain.count[n])
			}
		}
		e.s.Room(loads, sure, extra, e.parts[Overtime])
	}
}

// symmetry has the first of crews that are alike be used first.
func (e *encoded) symmetry() {
	alike := e.alike()
	for c := range alike {
		for o := c - 1; o >= 0; o-- {
			if alike[o] != alike[c] {
				continue
			}
			var sooner []lcg.Atom
			for i := range e.tasks {
				if slices.Contains(e.tasks[i].crews, c) {
					e.s.Clause(append(slices.Clone(sooner), e.by[i][c].Not())...)
					sooner = append(sooner, e.by[i][o])
				}
			}
			break
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
		if best < 0 || e.s.Least(e.start[i]) < e.s.Least(e.start[best]) || e.s.Least(e.start[i]) == e.s.Least(e.start[best]) && e.s.Most(e.start[i]) < e.s.Most(e.start[best]) {
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
		k.book(i, placed{start: Slot(e.s.Least(e.start[i])), end: Slot(e.s.Least(e.end[i])), crew: w.crew, over: w.over > 0, bought: slices.Contains(w.bought, true)})
	}
}

// alike gives crews that can do the same at the same times the same number.
func (m *model) alike() []int {
	all := make([]int, len(m.problem.Crews))
	for i, c := range m.problem.Crews {
		all[i] = i
		for k, o := range m.problem.Crews[:i] {
			if slices.Equal(c.Shifts, o.Shifts) && slices.Equal(c.Rests, o.Rests) && m.sameTasks(i, k) {
				all[i] = all[k]
				break
			}
		}
	}
	return all
}

// sameTasks tells whether two crews may do the same tasks, and no plan tells them apart.
func (m *model) sameTasks(a, b int) bool {
	for i := range m.tasks {
		if slices.Contains(m.tasks[i].crews, a) != slices.Contains(m.tasks[i].crews, b) {
			return false
		}
	}
	return !m.moved
}
