package search

import (
	"context"
	"slices"

	"nephelon/core/roster"
	"nephelon/core/roster/exact"
	"nephelon/core/roster/lcg"
)

// How many tasks are planned anew at once, and how many conflicts each question about them
// may have.
const (
	atOnce   = 36
	patience = 250
)

// luckyDips is the number of tasks drawn at random to find one of a late job, near which the neighbourhood starts.
const luckyDips = 3

// renew plans anew what begins in a stretch of the plan in hand, for as little of each
// part of the cost as it finds (large neighbourhood search: Shaw, “Using constraint
// programming and local search methods to solve vehicle routing problems”, 1998).
func (s *search) renew(ctx context.Context) error {
	w := s.opened()
	e := exact.Encode(s.Model, &s.best, w)
	if e == nil {
		return nil
	}
	for part := 0; part <= roster.Early; part++ {
		if part == roster.Early {
			e.Sooner()
		}
		for s.best[part] > s.bound[part] {
			for before := range part { // they may have become less on the way
				e.S.Clause(e.Parts[before].AtMost(int32(s.best[before])))
			}
			out := e.S.Search(ctx, []lcg.Atom{e.Parts[part].AtMost(int32(s.best[part]) - 1)}, patience, e.Next)
			if out != lcg.Found {
				break
			}
			if !e.Exact() {
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

// opened returns what begins in some stretch of the plan in hand, by everybody or by two crews:
// any stretch, or rather one before the end of a job that is late.
func (s *search) opened() *exact.Window {
	w := &exact.Window{At: s.at, Open: make([]bool, len(s.Tasks))}
	order := slices.Clone(s.Order)
	s.sortByStart(order, s.at)
	first := s.random.IntN(max(1, len(order)-atOnce/2))
	for range luckyDips {
		i := s.random.IntN(len(order))
		if due := s.Jobs[s.Tasks[order[i]].Job].Due; due != nil && s.at[order[i]].End > *due {
			first = max(0, i-s.random.IntN(atOnce))
			break
		}
	}
	all := s.random.IntN(2) == 0 || len(s.Problem.Crews) < 2
	one, other := s.random.IntN(max(1, len(s.Problem.Crews))), s.random.IntN(max(1, len(s.Problem.Crews)))
	w.From = s.at[order[first]].Start
	n := 0
	for _, i := range order[first:] {
		p := s.at[i]
		if n == atOnce {
			break
		}
		if s.Tasks[i].Pinned < 0 && (all || p.Crew == one || p.Crew == other) {
			w.Open[i] = true
			w.Until = max(w.Until, p.End)
			n++
		}
	}
	return w
}
