package roster

import (
	"context"
	"slices"
)

// exact looks through all schedules of a small problem. Who does what, who comes first on
// a crew or a machine, and what is bought off is decided one after the other, at the
// earliest place where the schedule that keeps all gaps and nothing else breaks; the
// least of such schedules is the best of a node for all that is wanted early.
type exact struct {
	relaxed
	maker   *maker
	ctx     context.Context
	most    int // nodes
	nodes   int
	best    Cost
	found   bool
	kept    []placed
	least   Cost // of all schedules, what their capacity alone says
	alike   []int
	first   bool // any schedule will do
	stopped bool
}

// between is after how many nodes a caller who is gone is noticed.
const between = 256

// search looks below a node.
func (x *exact) search(n *node) {
	if x.stopped || x.first && x.found {
		return
	}
	x.nodes++
	if x.nodes > x.most || x.nodes%between == 0 && x.ctx.Err() != nil {
		x.stopped = true
		return
	}
	if !x.settle(n) {
		return
	}
	low := x.cost(n)
	low[Finish] = max(low[Finish], x.least[Finish])
	if x.found && !low.below(x.best) {
		return
	}
	for i := range x.tasks {
		for k := range x.tasks[i].before {
			g := &x.tasks[i].before[k]
			if g.index < 0 || n.buys[g.index] != undecided || n.start[i] <= g.most(n.start[g.task], n.end[g.task]) {
				continue
			}
			for _, way := range []int8{kept, bought} {
				next := n.clone()
				next.buys[g.index] = way
				x.search(next)
			}
			return
		}
	}
	order := make([]int, 0, len(x.tasks))
	for i := range x.tasks {
		order = append(order, i)
	}
	slices.SortFunc(order, func(a, b int) int {
		switch {
		case n.start[a] != n.start[b]:
			return int(n.start[a] - n.start[b])
		case n.end[a] != n.end[b]:
			return int(n.end[a] - n.end[b])
		}
		return a - b
	})
	for k, i := range order {
		t := &x.tasks[i]
		if !t.unattended && n.crew[i] < 0 {
			x.choose(n, i)
			return
		}
		if n.end[i] == n.start[i] {
			continue
		}
		for _, o := range order[:k] {
			if n.end[o] == n.start[o] {
				continue
			}
			if n.crew[i] >= 0 && n.crew[o] == n.crew[i] && n.end[o]+x.maker.way(o, i) > n.start[i] && !ordered(n, o, i) {
				x.either(n, []int{o, i}, true)
				return
			}
		}
		for _, machine := range t.machines {
			if shut := x.shut[machine]; shut != nil && shut.next[n.start[i]] < n.end[i] {
				next := n.clone()
				next.start[i] = shut.until[shut.next[n.start[i]]]
				x.search(next)
				return
			}
			using := []int{i}
			for _, o := range order[:k] {
				if n.end[o] > n.start[i] && slices.Contains(x.tasks[o].machines, machine) {
					using = append(using, o)
				}
			}
			if len(using) > x.machines[machine].Capacity {
				x.either(n, using[:x.machines[machine].Capacity+1], false)
				return
			}
		}
	}
	x.leaf(n)
}

// ordered tells whether one task is decided to come after another.
func ordered(n *node, first, then int) bool {
	return slices.ContainsFunc(n.arcs, func(a arc) bool { return a.first == first && a.then == then })
}

// choose decides who does a task: the soonest done first, of crews alike that nothing is
// given yet only one.
func (x *exact) choose(n *node, i int) {
	used := make([]bool, len(x.problem.Crews))
	for _, c := range n.crew {
		if c >= 0 {
			used[c] = true
		}
	}
	type choice struct {
		crew int
		end  Slot
	}
	var all []choice
	tried := make(map[int]bool)
	for _, c := range x.tasks[i].crews {
		if !used[c] {
			if tried[x.alike[c]] {
				continue
			}
			tried[x.alike[c]] = true
		}
		if _, end, ok := x.calendar(c, x.tasks[i].access, x.overtime, x.tasks[i].breakable).fit(n.start[i], n.end[i]-n.start[i], x.tasks[i].breakable); ok {
			all = append(all, choice{c, end})
		} else {
			all = append(all, choice{c, x.horizon})
		}
	}
	slices.SortStableFunc(all, func(a, b choice) int { return int(a.end - b.end) })
	for _, c := range all {
		next := n.clone()
		next.crew[i] = c.crew
		x.search(next)
	}
}

// either has one of some tasks come after another: some pair of them must.
func (x *exact) either(n *node, all []int, travels bool) {
	for _, a := range all {
		for _, b := range all {
			if a == b || x.tasks[b].pinned >= 0 && n.end[a] > x.tasks[b].pinned {
				continue
			}
			way := Slot(0)
			if travels {
				way = x.maker.way(a, b)
			}
			next := n.clone()
			next.arcs = append(next.arcs, arc{a, b, way})
			x.search(next)
		}
	}
}

// leaf keeps a schedule that breaks nothing, if it is better.
func (x *exact) leaf(n *node) {
	k := x.maker
	for i := range k.crews {
		k.crews[i] = k.crews[i][:0]
	}
	for i := range k.machines {
		k.machines[i] = k.machines[i][:0]
	}
	for i := range x.tasks {
		k.book(i, placed{start: n.start[i], end: n.end[i], crew: n.crew[i], over: x.overtime && n.crew[i] >= 0})
	}
	if c := k.cost(); !x.found || c.Less(x.best) {
		x.best, x.found = c, true
		x.kept = slices.Clone(k.at)
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
