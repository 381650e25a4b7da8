package search

import (
	"context"
	"slices"

	"nephelon/core/roster"
	"nephelon/core/roster/model"
)

// beginnings are the orders from which the search starts: jobs by what is due, by weight
// and by how much hangs behind a task.
func (s *search) beginnings() []model.Genes {
	plain := model.Genes{Order: slices.Clone(s.Order), Crew: make([]int, len(s.Tasks)),
		Overtime: make([]bool, len(s.Tasks)),
		Buys:     make([]bool, s.Buys),
		Stay:     make([]bool, len(s.Tasks))}
	for i := range plain.Crew {
		plain.Crew[i] = -1
	}
	due := func(i int) roster.Slot {
		if d := s.Jobs[s.Tasks[i].Job].Due; d != nil {
			return *d
		}
		return s.Horizon
	}
	sorted := func(less func(a, b int) int) model.Genes {
		g := plain.Clone()
		slices.SortStableFunc(g.Order, func(a, b int) int {
			if s.Tasks[a].Group == s.Tasks[b].Group {
				return s.Rank[a] - s.Rank[b]
			}
			return less(a, b)
		})
		return g
	}
	groupDue := make(map[int]roster.Slot)
	weight := make(map[int]int64)
	for i := range s.Tasks {
		group := s.Tasks[i].Group
		if d, seen := groupDue[group]; !seen || due(i) < d {
			groupDue[group] = due(i)
		}
		weight[group] = max(weight[group], s.Weights[s.Tasks[i].Job])
	}
	byDue := sorted(func(a, b int) int {
		ga, gb := s.Tasks[a].Group, s.Tasks[b].Group
		if groupDue[ga] != groupDue[gb] {
			return int(groupDue[ga] - groupDue[gb])
		}
		return ga - gb
	})
	byWeight := sorted(func(a, b int) int {
		ga, gb := s.Tasks[a].Group, s.Tasks[b].Group
		if weight[ga] != weight[gb] {
			return int(weight[gb] - weight[ga])
		}
		return ga - gb
	})
	from := []model.Genes{byDue, byWeight, plain}
	if s.Moved {
		from = append([]model.Genes{s.asItStood(plain)}, from...)
	}
	var all []model.Genes
	for _, g := range from {
		all = append(all, g)
		if s.Overtime {
			over := g.Clone()
			for i := range over.Overtime {
				over.Overtime[i] = true
			}
			all = append(all, over)
		}
		if s.Buys > 0 {
			buying := all[len(all)-1].Clone()
			for i := range buying.Buys {
				buying.Buys[i] = true
			}
			all = append(all, buying)
		}
	}
	return all
}

// asItStood are genes that place what stood before where it was, each after what it waits for, and around it
// what is new.
func (s *search) asItStood(plain model.Genes) model.Genes {
	g := plain.Clone()
	key := make([]roster.Slot, len(s.Tasks))
	for n := len(g.Order) - 1; n >= 0; n-- { // what is new comes before what waits for it
		i := g.Order[n]
		t := &s.Tasks[i]
		key[i] = s.Horizon
		if t.Was >= 0 {
			g.Stay[i], key[i] = true, s.Problem.Before[t.Was].Start
			continue
		}
		for _, o := range t.After {
			key[i] = min(key[i], key[o])
		}
	}
	for _, i := range g.Order {
		for _, b := range s.Tasks[i].Before {
			key[i] = max(key[i], key[b.Task])
		}
	}
	slices.SortStableFunc(g.Order, func(a, b int) int {
		if key[a] != key[b] {
			return int(key[a] - key[b])
		}
		return s.Rank[a] - s.Rank[b]
	})
	return g
}

// polish is the number of rounds, by task, for which a plan that cannot cost less is still tried to be
// done earlier.
const polish = 20

// memory is the number of rounds back with which a schedule is compared (late acceptance).
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
	try := func(g model.Genes) (roster.Cost, bool) {
		s.rounds++
		if !s.maker.Make(g) {
			s.failed[s.maker.Stuck]++
			return roster.Cost{}, false
		}
		return s.maker.Cost(), true
	}
	var now model.Genes
	var cost roster.Cost
	ok := s.found
	if ok {
		now, cost = s.genes.Clone(), s.best
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
	past := make([]roster.Cost, memory)
	for i := range past {
		past[i] = cost
	}
	for n := 0; n < rounds && (!s.done() || s.rounds < polish*len(s.Tasks)); n++ {
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
func (s *search) changed(g model.Genes) model.Genes {
	g = g.Clone()
	for range 1 + s.random.IntN(3) {
		switch kind := s.random.IntN(14); {
		case kind < 5:
			s.moveGroup(&g)
		case kind < 8:
			s.moveTask(&g)
		case kind < 10:
			i := s.random.IntN(len(s.Tasks))
			if crews := s.Tasks[i].Crews; len(crews) > 1 {
				if g.Crew[i] = crews[s.random.IntN(len(crews))]; s.random.IntN(2) == 0 {
					g.Crew[i] = -1
				}
			}
		case kind == 10 && s.Overtime:
			i := s.random.IntN(len(s.Tasks))
			g.Overtime[i] = !g.Overtime[i]
		case kind == 11 && s.Buys > 0:
			i := s.random.IntN(s.Buys)
			g.Buys[i] = !g.Buys[i]
		case kind > 11 && s.Moved:
			i := s.random.IntN(len(s.Tasks))
			g.Stay[i] = !g.Stay[i]
		default:
			s.moveGroup(&g)
		}
	}
	return g
}

// moveGroup takes a group out of the order and puts it back elsewhere, in one block or
// spread as it was.
func (s *search) moveGroup(g *model.Genes) {
	group := s.Tasks[s.random.IntN(len(s.Tasks))].Group
	var own, others []int
	for _, i := range g.Order {
		if s.Tasks[i].Group == group {
			own = append(own, i)
		} else {
			others = append(others, i)
		}
	}
	at := s.random.IntN(len(others) + 1)
	if s.random.IntN(2) == 0 {
		g.Order = slices.Concat(others[:at], own, others[at:])
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
	g.Order = order
}

// moveTask puts one task elsewhere between what it waits for and what waits for it.
func (s *search) moveTask(g *model.Genes) {
	at := s.random.IntN(len(g.Order))
	i := g.Order[at]
	low, high := at, at
	waits := func(o int) bool {
		return slices.ContainsFunc(s.Tasks[i].Before, func(b model.Gap) bool { return b.Task == o })
	}
	for low > 0 && !waits(g.Order[low-1]) {
		low--
	}
	for high < len(g.Order)-1 && !slices.Contains(s.Tasks[i].After, g.Order[high+1]) {
		high++
	}
	to := low + s.random.IntN(high-low+1)
	order := slices.Delete(g.Order, at, at+1)
	g.Order = slices.Insert(order, to, i)
}
