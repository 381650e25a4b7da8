package exact

import (
	"slices"

	"nephelon/core/roster"
	"nephelon/core/roster/lcg"
	"nephelon/core/roster/model"
)

// capacities says what follows from how many can do what: no more go on at once than there
// are crews, nor more work in any stretch than they are there for.
func (e *Encoded) capacities() {
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
	for i := range e.Tasks {
		if t := &e.Tasks[i]; !t.Unattended {
			add(t.Crews)
			everybody = append(everybody, t.Crews...)
		}
	}
	slices.Sort(everybody)
	if everybody = slices.Compact(everybody); len(everybody) > 0 {
		add(everybody)
	}
	for _, c := range everybody {
		if e.class[c] == c {
			add(e.members(c))
		}
	}
	for _, set := range sets {
		var pieces []lcg.Piece
		var loads []lcg.Load
		for i := range e.Tasks {
			t := &e.Tasks[i]
			var by []lcg.Atom
			switch {
			case t.Unattended:
				continue
			case !slices.ContainsFunc(t.Crews, func(c int) bool { return !slices.Contains(set, c) }):
				pieces = append(pieces, lcg.Piece{Start: e.start[i], End: e.end[i], Here: e.idle(i).Not()})
			case slices.Contains(t.Crews, set[0]) && slices.Equal(set, e.members(set[0])):
				by = []lcg.Atom{e.by[i][set[0]]}
			default:
				continue
			}
			loads = append(loads, lcg.Load{Start: e.start[i], End: e.end[i], Work: int32(t.Duration), By: by})
			for n := range t.Before {
				if g := &t.Before[n]; g.Index >= 0 {
					loads = append(loads, lcg.Load{Start: e.start[i], End: e.end[i], Work: int32(g.Buy.Slots),
						By: append([]lcg.Atom{e.bought[g.Index]}, by...)})
				}
			}
		}
		if len(set) > 1 && len(pieces) > len(set) {
			e.S.Shared(pieces, len(set))
		}
		sure, extra := make([]int32, e.Horizon+1), make([]int32, e.Horizon+1)
		for _, c := range set {
			plain, over := e.Calendar(c, 0, false, false), e.Calendar(c, 0, true, false)
			for n := range sure {
				sure[n] += int32(plain.Count[n])
				extra[n] += int32(over.Count[n] - plain.Count[n])
			}
		}
		e.S.Room(loads, sure, extra, e.Parts[roster.Overtime])
	}
}

// classes finds the crews that are not told apart while schedules are looked through: alike ones, where no way between
// places tells what each did before. They are given out once all is placed.
func (e *Encoded) classes() {
	e.class, e.number = make([]int, len(e.Problem.Crews)), make([]int, len(e.Problem.Crews))
	same := alike(e.Model)
	for c := range e.class {
		if e.class[c] = c; e.within == nil && e.Far == 0 {
			e.class[c] = same[c]
		}
		e.number[e.class[c]]++
	}
}

// members are the crews that are not told apart from one.
func (e *Encoded) members(of int) []int {
	var all []int
	for c, first := range e.class {
		if first == of {
			all = append(all, c)
		}
	}
	return all
}

// asManyAtATime has no more tasks go on at once than there are crews that are not told apart.
func (e *Encoded) asManyAtATime() {
	for c, number := range e.number {
		if number < 2 {
			continue
		}
		var pieces []lcg.Piece
		for i := range e.Tasks {
			if !slices.Contains(e.Tasks[i].Crews, c) {
				continue
			}
			here := e.by[i][c]
			if e.Tasks[i].Duration == 0 { // it takes from nobody unless something is bought with it
				here = e.any(i, func(w way) bool { return w.crew == c && w.starts.work > 0 })
			}
			pieces = append(pieces, lcg.Piece{Start: e.start[i], End: e.end[i], Here: here})
		}
		if len(pieces) > number {
			e.S.Shared(pieces, number)
		}
	}
}

// giveOut gives each task of crews that are not told apart to the first of them that is free: no more go on at
// once than there are.
func (e *Encoded) giveOut(placed []model.Placed) {
	order := make([]int, 0, len(placed))
	for i, p := range placed {
		if p.Crew >= 0 && e.number[p.Crew] > 1 {
			order = append(order, i)
		}
	}
	slices.SortStableFunc(order, func(a, b int) int { return int(placed[a].Start - placed[b].Start) })
	free := make([]roster.Slot, len(e.class))
	for _, i := range order {
		p := &placed[i]
		for _, c := range e.members(p.Crew) {
			if free[c] <= p.Start {
				if p.Crew = c; p.End > p.Start {
					free[c] = p.End
				}
				break
			}
		}
	}
}

// symmetry has the first of crews that are alike be used first.
func (e *Encoded) symmetry() {
	alike := alike(e.Model)
	for c := range alike {
		for o := c - 1; o >= 0; o-- {
			if alike[o] != alike[c] || e.number[e.class[c]] > 1 {
				continue
			}
			var sooner []lcg.Atom
			for i := range e.Tasks {
				if slices.Contains(e.Tasks[i].Crews, c) {
					e.S.Clause(append(slices.Clone(sooner), e.by[i][c].Not())...)
					sooner = append(sooner, e.by[i][o])
				}
			}
			break
		}
	}
}

// alike gives crews that can do the same at the same times the same number.
func alike(m *model.Model) []int {
	all := make([]int, len(m.Problem.Crews))
	for i, c := range m.Problem.Crews {
		all[i] = i
		for k, o := range m.Problem.Crews[:i] {
			if slices.Equal(c.Shifts, o.Shifts) && slices.Equal(c.Rests, o.Rests) && sameTasks(m, i, k) {
				all[i] = all[k]
				break
			}
		}
	}
	return all
}

// sameTasks reports whether two crews may do the same tasks, and no plan tells them apart.
func sameTasks(m *model.Model, a, b int) bool {
	for i := range m.Tasks {
		if slices.Contains(m.Tasks[i].Crews, a) != slices.Contains(m.Tasks[i].Crews, b) {
			return false
		}
	}
	return !m.Moved
}
