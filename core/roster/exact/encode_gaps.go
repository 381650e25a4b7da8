package exact

import (
	"nephelon/core/roster"
	"nephelon/core/roster/lcg"
)

// gapsOf keeps the gaps before a task.
func (e *Encoded) gapsOf(i int) {
	s, start := e.S, e.start[i]
	for n := range e.Tasks[i].Before {
		g := &e.Tasks[i].Before[n]
		if e.stands(i) && e.stands(g.Task) {
			continue
		}
		mark := e.end[g.Task]
		if g.Start {
			mark = e.start[g.Task]
		}
		plain := lcg.Term{B: mark.B}
		if g.Moves[0] {
			s.Follows(lcg.True(), plain, start, e.table(g.Min, roster.Slot(mark.Off), false, 0))
		} else {
			s.Apart(lcg.True(), mark.Plus(int32(g.Min(0))), start)
		}
		if g.Max == nil {
			continue
		}
		missed := lcg.True().Not()
		if g.Index >= 0 {
			missed = e.bought[g.Index]
		}
		if g.Moves[1] {
			s.Kept(missed.Not(), plain, start, e.table(g.Max, roster.Slot(mark.Off), true, 0))
			s.Follows(missed, plain, start, e.table(g.Max, roster.Slot(mark.Off), false, 1))
		} else {
			most := int32(g.Max(0))
			s.Apart(missed.Not(), start, mark.Plus(most))
			s.Apart(missed, mark.Plus(most+1), start)
		}
	}
}

// table returns where a gap leads from each slot and a constant, and so much further. Should it
// lead back anywhere, the table allows more than the gap does: as a bound from above where
// it is one, else from below.
func (e *Encoded) table(g roster.Gap, behind roster.Slot, above bool, more int32) []int32 {
	all := make([]int32, e.Horizon+1)
	for s := range all {
		at := min(roster.Slot(s)+behind, e.Horizon)
		all[s] = int32(max(0, min(at+g(at), e.Horizon+1))) + more
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

// Exact reports whether what was found keeps all gaps that move; a table may allow more than
// its gap does. One that is not kept is forbidden as it stands.
func (e *Encoded) Exact() bool {
	fine := true
	forbid := func(mark lcg.Term, at int32, but ...lcg.Atom) {
		fine = false
		e.S.Clause(append(but, mark.AtMost(at-1), mark.AtLeast(at+1))...)
	}
	type place struct{ start, end int32 }
	all := make([]place, len(e.Tasks))
	missed := make([]bool, len(e.bought))
	for i := range all {
		all[i] = place{e.S.Least(e.start[i]), e.S.Least(e.end[i])}
	}
	for n, a := range e.bought {
		missed[n] = e.S.Holds(a)
	}
	for i := range e.Tasks {
		for n := range e.Tasks[i].Before {
			g := &e.Tasks[i].Before[n]
			mark, at := e.end[g.Task], all[g.Task].end
			if g.Start {
				mark, at = e.start[g.Task], all[g.Task].start
			}
			if least := at + int32(g.Min(roster.Slot(at))); all[i].start < least {
				forbid(mark, at, e.start[i].AtLeast(least))
			}
			if g.Max == nil {
				continue
			}
			most, bought := at+int32(g.Max(roster.Slot(at))), lcg.True().Not()
			if g.Index >= 0 {
				bought = e.bought[g.Index]
			}
			if off := g.Index >= 0 && missed[g.Index]; !off && all[i].start > most {
				forbid(mark, at, bought, e.start[i].AtMost(most))
			} else if off && all[i].start <= most {
				forbid(mark, at, bought.Not(), e.start[i].AtLeast(most+1))
			}
		}
	}
	return fine
}
