package roster

import (
	"context"
	"fmt"
	"slices"

	"nephelon/core/roster/lcg"
)

// prove looks through all schedules, part by part of what they cost: for one that costs
// less, until there is none. It fails with a Conflict where there is no schedule at all.
func (s *search) prove(ctx context.Context, conflicts int64) error {
	var known *Cost
	if s.found {
		known = &s.best
	}
	e := s.encode(known, nil)
	if e == nil {
		return nil
	}
	for part := 0; part < parts; part++ {
		if done, err := s.least(ctx, e, part, conflicts); !done || err != nil {
			return err
		}
		s.proven = part + 1
		e.s.Clause(e.parts[part].AtMost(int32(s.best[part])))
	}
	e.sooner()
	_, err := s.least(ctx, e, early, min(conflicts, e.s.Conflicts+polishing*int64(len(s.tasks))))
	return err
}

// How many conflicts a question has at first: may a part cost as little as this? And how
// many, by task, it is tried to have jobs done sooner at the same cost.
const (
	tries     = 500
	polishing = 100
)

// least finds the least that a part costs, those before it being least: it asks for a
// little less than is known, for half as much less, and for as little as is not refuted,
// each of them longer in every round. It says false where that does not end in time.
func (s *search) least(ctx context.Context, e *encoded, part int, conflicts int64) (bool, error) {
	for turn := 0; ; turn++ {
		e.s.Undo()
		var assume []lcg.Atom
		most := conflicts - e.s.Conflicts
		aim := int64(mostCost)
		if s.found {
			low, high := int64(e.s.Least(e.parts[part])), s.best[part]-1
			s.bound[part] = max(s.bound[part], low)
			if low = s.bound[part]; low > high {
				return true, nil
			}
			aim = [3]int64{high, (low + high) / 2, low}[turn%3]
			assume = append(assume, e.parts[part].AtMost(int32(aim)))
			if low < high {
				most = min(most, tries*[3]int64{4, 2, 1}[turn%3]<<min(turn/3, 30))
			}
		}
		switch e.s.Search(ctx, assume, most, e.next) {
		case lcg.Found:
			if !e.exact() {
				continue
			}
			if err := s.take(e, part); err != nil {
				return false, err
			}
		case lcg.Nothing:
			if !s.found {
				return false, s.jointly(ctx)
			}
			e.s.Clause(e.parts[part].AtLeast(int32(aim) + 1))
		case lcg.Stopped:
			if ctx.Err() != nil || e.s.Conflicts >= conflicts {
				return false, nil
			}
		}
	}
}

// take keeps what the solver found, which must be better in a part than the plan in hand.
func (s *search) take(e *encoded, part int) error {
	e.read(s.maker)
	c := s.maker.cost()
	if s.found && (c[part] >= s.best[part] || !c.Less(s.best)) {
		return fmt.Errorf("schedule: a plan that costs %v was found where less than %v was asked for", c, s.best)
	}
	s.keep(c, s.genesOf(s.maker.at))
	return nil
}

// genesOf are genes that place tasks as a schedule has them.
func (s *search) genesOf(at []placed) genes {
	g := s.beginnings()[0]
	s.sortByStart(g.order, at)
	for i, p := range at {
		g.crew[i] = p.crew
		g.overtime[i] = p.over
	}
	for i := range s.tasks {
		for n := range s.tasks[i].before {
			b := &s.tasks[i].before[n]
			if b.index >= 0 && at[i].start > b.most(at[b.task].start, at[b.task].end) {
				g.buys[b.index] = true
			}
		}
	}
	return g
}

// sortByStart puts tasks in the order in which they start, each after what it waits for.
func (s *search) sortByStart(order []int, at []placed) {
	slices.SortStableFunc(order, func(a, b int) int {
		if at[a].start != at[b].start {
			return int(at[a].start - at[b].start)
		}
		return s.rank[a] - s.rank[b]
	})
}
