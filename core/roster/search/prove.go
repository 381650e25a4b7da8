package search

import (
	"context"
	"fmt"
	"slices"

	"nephelon/core/roster"
	"nephelon/core/roster/exact"
	"nephelon/core/roster/lcg"
	"nephelon/core/roster/model"
)

// prover looks through all schedules, part by part of what they cost.
type prover struct {
	*exact.Encoded
	part, turn int
}

// How many conflicts a question has at first: may a part cost as little as this? And how
// many, by task, it is tried to have jobs done sooner at the same cost.
const (
	tries     = 500
	polishing = 100
)

// prove looks through all schedules for one that costs less, part by part, until there is
// none or so many conflicts have been seen. It says whether it is at its end, and fails
// with a Conflict where there is no schedule at all.
func (s *search) prove(ctx context.Context, p *prover, conflicts int64) (bool, error) {
	until := p.S.Conflicts + conflicts
	for ; p.part < roster.Parts; p.part++ {
		if done, err := s.least(ctx, p, until); !done || err != nil {
			return false, err
		}
		s.proven = p.part + 1
		p.S.Clause(p.Parts[p.part].AtMost(int32(s.best[p.part])))
		p.turn = 0
	}
	p.Sooner()
	_, err := s.least(ctx, p, p.S.Conflicts+polishing*int64(len(s.Tasks)))
	return true, err
}

// least finds the least that a part costs, those before it being least: it asks for a
// little less than is known, for half as much less, and for as little as is not refuted,
// each of them longer in every round. It says false where that does not end in time.
func (s *search) least(ctx context.Context, p *prover, until int64) (bool, error) {
	for part := p.part; ; {
		p.S.Undo()
		var assume []lcg.Atom
		most := until - p.S.Conflicts
		aim := int64(exact.MostCost)
		if s.found {
			low, high := int64(p.S.Least(p.Parts[part])), s.best[part]-1
			s.bound[part] = max(s.bound[part], low)
			if low = s.bound[part]; low > high {
				return true, nil
			}
			aim = [3]int64{high, (low + high) / 2, low}[p.turn%3]
			assume = append(assume, p.Parts[part].AtMost(int32(aim)))
			if low < high {
				most = min(most, tries*[3]int64{4, 2, 1}[p.turn%3]<<min(p.turn/3, 30))
			}
		}
		switch p.S.Search(ctx, assume, most, p.Next) {
		case lcg.Found:
			if !p.Exact() {
				continue
			}
			if err := s.take(p.Encoded, part); err != nil {
				return false, err
			}
		case lcg.Nothing:
			if !s.found {
				return false, explain(ctx, s.Model)
			}
			p.S.Clause(p.Parts[part].AtLeast(int32(aim) + 1))
		case lcg.Stopped:
			if ctx.Err() != nil || p.S.Conflicts >= until {
				return false, nil
			}
		}
		p.turn++
	}
}

// take keeps what the solver found, which must be better in a part than the plan in hand.
func (s *search) take(e *exact.Encoded, part int) error {
	e.Read(s.maker)
	c := s.maker.Cost()
	if s.found && (c[part] >= s.best[part] || !c.Less(s.best)) {
		return fmt.Errorf("schedule: a plan that costs %v was found where less than %v was asked for", c, s.best)
	}
	s.keep(c, s.genesOf(s.maker.At))
	return nil
}

// genesOf are genes that place tasks as a schedule has them.
func (s *search) genesOf(at []model.Placed) model.Genes {
	g := s.beginnings()[0]
	s.sortByStart(g.Order, at)
	for i, p := range at {
		g.Crew[i] = p.Crew
		g.Overtime[i] = p.Over
		g.Stay[i] = s.maker.Stays(i, p)
	}
	for i := range s.Tasks {
		for n := range s.Tasks[i].Before {
			b := &s.Tasks[i].Before[n]
			if b.Index >= 0 && at[i].Start > b.Most(at[b.Task].Start, at[b.Task].End) {
				g.Buys[b.Index] = true
			}
		}
	}
	return g
}

// sortByStart puts tasks in the order in which they start, each after what it waits for.
func (s *search) sortByStart(order []int, at []model.Placed) {
	slices.SortStableFunc(order, func(a, b int) int {
		if at[a].Start != at[b].Start {
			return int(at[a].Start - at[b].Start)
		}
		return s.Rank[a] - s.Rank[b]
	})
}
