package roster

import (
	"context"
	"slices"

	"nephelon/core/roster/lcg"
)

// How many tasks are planned anew at once, and how many conflicts each question about them
// may have.
const (
	atOnce   = 36
	patience = 250
)

// luckyDips is how often a task of a late job is looked for where parts are planned anew.
const luckyDips = 3

// renew plans anew what begins in a stretch of the plan in hand, for as little of each
// part of the cost as it finds (large neighbourhood search: Shaw, “Using constraint
// programming and local search methods to solve vehicle routing problems”, 1998).
func (s *search) renew(ctx context.Context) error {
	w := s.opened()
	e := encode(s.model, &s.best, w)
	if e == nil {
		return nil
	}
	for part := 0; part <= early; part++ {
		if part == early {
			e.sooner()
		}
		for s.best[part] > s.bound[part] {
			for before := range part { // they may have become less on the way
				e.s.Clause(e.parts[before].AtMost(int32(s.best[before])))
			}
			out := e.s.Search(ctx, []lcg.Atom{e.parts[part].AtMost(int32(s.best[part]) - 1)}, patience, e.next)
			if out != lcg.Found {
				break
			}
			if !e.exact() {
				continue
			}
			if err := s.take(e, part); err != nil {
				return err
			}
		}
		if ctx.Err() != nil {
			return nil
		}
	}
	return nil
}

// opened is what begins in some stretch of the plan in hand, by everybody or by two crews:
// any stretch, or rather one before the end of a job that is late.
func (s *search) opened() *window {
	w := &window{at: s.at, open: make([]bool, len(s.tasks))}
	order := slices.Clone(s.order)
	s.sortByStart(order, s.at)
	first := s.random.IntN(max(1, len(order)-atOnce/2))
	for range luckyDips {
		i := s.random.IntN(len(order))
		if due := s.jobs[s.tasks[order[i]].job].Due; due != nil && s.at[order[i]].end > *due {
			first = max(0, i-s.random.IntN(atOnce))
			break
		}
	}
	all := s.random.IntN(2) == 0 || len(s.problem.Crews) < 2
	one, other := s.random.IntN(max(1, len(s.problem.Crews))), s.random.IntN(max(1, len(s.problem.Crews)))
	w.from = s.at[order[first]].start
	n := 0
	for _, i := range order[first:] {
		p := s.at[i]
		if n == atOnce {
			break
		}
		if s.tasks[i].pinned < 0 && (all || p.crew == one || p.crew == other) {
			w.open[i] = true
			w.until = max(w.until, p.end)
			n++
		}
	}
	return w
}
