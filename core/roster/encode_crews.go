package roster

import (
	"slices"

	"nephelon/core/roster/lcg"
)

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
					loads = append(loads, lcg.Load{Start: e.start[i], End: e.end[i], Work: int32(g.buy.Slots),
						By: append([]lcg.Atom{e.bought[g.index]}, by...)})
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
	alike := alike(e.model)
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

// alike gives crews that can do the same at the same times the same number.
func alike(m *model) []int {
	all := make([]int, len(m.problem.Crews))
	for i, c := range m.problem.Crews {
		all[i] = i
		for k, o := range m.problem.Crews[:i] {
			if slices.Equal(c.Shifts, o.Shifts) && slices.Equal(c.Rests, o.Rests) && sameTasks(m, i, k) {
				all[i] = all[k]
				break
			}
		}
	}
	return all
}

// sameTasks tells whether two crews may do the same tasks, and no plan tells them apart.
func sameTasks(m *model, a, b int) bool {
	for i := range m.tasks {
		if slices.Contains(m.tasks[i].crews, a) != slices.Contains(m.tasks[i].crews, b) {
			return false
		}
	}
	return !m.moved
}
