package roster

import (
	"nephelon/core/roster/lcg"
)

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
