package roster

import (
	"context"
	"slices"
)

// beginnings are the orders from which the search starts: jobs by what is due, by weight
// and by how much hangs behind a task.
func (s *search) beginnings() []genes {
	plain := genes{order: slices.Clone(s.order), crew: make([]int, len(s.tasks)), overtime: make([]bool, len(s.tasks)),
		buys: make([]bool, s.buys)}
	for i := range plain.crew {
		plain.crew[i] = -1
	}
	due := func(i int) Slot {
		if d := s.jobs[s.tasks[i].job].Due; d != nil {
			return *d
		}
		return s.horizon
	}
	sorted := func(less func(a, b int) int) genes {
		g := plain.clone()
		slices.SortStableFunc(g.order, func(a, b int) int {
			if s.tasks[a].group == s.tasks[b].group {
				return s.rank[a] - s.rank[b]
			}
			return less(a, b)
		})
		return g
	}
	groupDue := make(map[int]Slot)
	weight := make(map[int]int64)
	for i := range s.tasks {
		group := s.tasks[i].group
		if d, seen := groupDue[group]; !seen || due(i) < d {
			groupDue[group] = due(i)
		}
		weight[group] = max(weight[group], s.weights[s.tasks[i].job])
	}
	byDue := sorted(func(a, b int) int {
		ga, gb := s.tasks[a].group, s.tasks[b].group
		if groupDue[ga] != groupDue[gb] {
			return int(groupDue[ga] - groupDue[gb])
		}
		return ga - gb
	})
	byWeight := sorted(func(a, b int) int {
		ga, gb := s.tasks[a].group, s.tasks[b].group
		if weight[ga] != weight[gb] {
			return int(weight[gb] - weight[ga])
		}
		return ga - gb
	})
	var all []genes
	for _, g := range []genes{byDue, byWeight, plain} {
		all = append(all, g)
		if s.overtime {
			over := g.clone()
			for i := range over.overtime {
				over.overtime[i] = true
			}
			all = append(all, over)
		}
		if s.buys > 0 {
			buying := all[len(all)-1].clone()
			for i := range buying.buys {
				buying.buys[i] = true
			}
			all = append(all, buying)
		}
	}
	return all
}

// polish is how many rounds, by task, a plan that cannot cost less is still tried to be
// done earlier.
const polish = 20

// memory is how many rounds back a schedule is compared with.
const memory = 60

// improve tries schedules that differ a little from the one in hand, and goes on from one
// that is no worse than it, or than the one so many rounds before (late acceptance: Burke
// and Bykov 2017). It returns how many schedules it tried.
func (s *search) improve(ctx context.Context, rounds int) (done int) {
	before := s.rounds
	defer func() { done = s.rounds - before }()
	if s.failed == nil {
		s.failed = make(map[int]int)
	}
	try := func(g genes) (Cost, bool) {
		s.rounds++
		if !s.maker.make(g) {
			s.failed[s.maker.stuck]++
			return Cost{}, false
		}
		return s.maker.cost(), true
	}
	var now genes
	var cost Cost
	ok := s.found
	if ok {
		now, cost = s.genes.clone(), s.best
	} else {
		for _, g := range s.beginnings() {
			c, made := try(g)
			if made && (!ok || c.Less(cost)) {
				now, cost, ok = g, c, true
				if !s.found || c.Less(s.best) {
					s.keep(c, g)
				}
			}
			if ctx.Err() != nil {
				return 0
			}
		}
		if !ok {
			all := s.beginnings()
			now = all[len(all)-1]
		}
	}
	past := make([]Cost, memory)
	for i := range past {
		past[i] = cost
	}
	for n := 0; n < rounds && (!s.done() || s.rounds < polish*len(s.tasks)); n++ {
		if ctx.Err() != nil { // a round of 5,000 tasks takes a tenth of a second
			return 0
		}
		next := s.changed(now)
		c, made := try(next)
		switch {
		case !made:
			if !ok { // nothing fits yet: any other order may
				now = next
			}
		case !ok || !cost.Less(c) || c.Less(past[n%memory]):
			now, cost, ok = next, c, true
			if !s.found || c.Less(s.best) {
				s.keep(c, next)
			}
		}
		past[n%memory] = cost
	}
	return 0
}

// changed is genes with a change: some groups of tasks placed earlier or later than
// others, somebody else for a task, overtime or a gap bought off here or there.
func (s *search) changed(g genes) genes {
	g = g.clone()
	for range 1 + s.random.IntN(3) {
		switch kind := s.random.IntN(12); {
		case kind < 5:
			s.moveGroup(&g)
		case kind < 8:
			s.moveTask(&g)
		case kind < 10:
			i := s.random.IntN(len(s.tasks))
			if crews := s.tasks[i].crews; len(crews) > 1 {
				if g.crew[i] = crews[s.random.IntN(len(crews))]; s.random.IntN(2) == 0 {
					g.crew[i] = -1
				}
			}
		case kind == 10 && s.overtime:
			i := s.random.IntN(len(s.tasks))
			g.overtime[i] = !g.overtime[i]
		case kind == 11 && s.buys > 0:
			i := s.random.IntN(s.buys)
			g.buys[i] = !g.buys[i]
		default:
			s.moveGroup(&g)
		}
	}
	return g
}

// moveGroup takes a group out of the order and puts it back elsewhere, in one block or
// spread as it was.
func (s *search) moveGroup(g *genes) {
	group := s.tasks[s.random.IntN(len(s.tasks))].group
	var own, others []int
	for _, i := range g.order {
		if s.tasks[i].group == group {
			own = append(own, i)
		} else {
			others = append(others, i)
		}
	}
	at := s.random.IntN(len(others) + 1)
	if s.random.IntN(2) == 0 {
		g.order = slices.Concat(others[:at], own, others[at:])
		return
	}
	// Spread over what follows.
	order := append([]int{}, others[:at]...)
	rest := others[at:]
	step := len(rest)/len(own) + 1
	for n, i := range own {
		order = append(order, i)
		from, until := min(n*step, len(rest)), min((n+1)*step, len(rest))
		order = append(order, rest[from:until]...)
	}
	if from := min(len(own)*step, len(rest)); from < len(rest) {
		order = append(order, rest[from:]...)
	}
	g.order = order
}

// moveTask puts one task elsewhere between what it waits for and what waits for it.
func (s *search) moveTask(g *genes) {
	at := s.random.IntN(len(g.order))
	i := g.order[at]
	low, high := at, at
	waits := func(o int) bool {
		return slices.ContainsFunc(s.tasks[i].before, func(b gap) bool { return b.task == o })
	}
	for low > 0 && !waits(g.order[low-1]) {
		low--
	}
	for high < len(g.order)-1 && !slices.Contains(s.tasks[i].after, g.order[high+1]) {
		high++
	}
	to := low + s.random.IntN(high-low+1)
	order := slices.Delete(g.order, at, at+1)
	g.order = slices.Insert(order, to, i)
}
