package roster

import (
	"context"
	"slices"
)

// prove looks through all schedules: without overtime, and with it whether that would
// make anything less late. It fails with a Conflict where there is none at all.
func (s *search) prove(ctx context.Context, nodes int) error {
	look := func(overtime bool) *exact {
		x := &exact{relaxed: relaxed{model: s.model, overtime: overtime}, maker: newMaker(s.model), ctx: ctx, most: nodes, alike: s.alike()}
		x.least[Finish] = x.capacity()
		if s.found && (!overtime && s.best[Overtime] == 0 || overtime) {
			x.best, x.found = s.best, true
		}
		x.search(x.root())
		return x
	}
	x := look(false)
	if x.kept != nil && (!s.found || x.best.Less(s.best)) {
		copy(s.maker.at, x.kept)
		s.keep(x.best, s.genesOf(x.kept))
	}
	if !s.overtime {
		switch {
		case x.stopped:
		case !s.found:
			return s.jointly(ctx)
		default:
			s.settled()
		}
		return nil
	}
	over := look(true)
	if over.kept != nil && (!s.found || over.best.Less(s.best)) {
		copy(s.maker.at, over.kept)
		s.keep(over.best, s.genesOf(over.kept))
	}
	switch {
	case over.stopped || x.stopped:
	case !s.found:
		return s.jointly(ctx)
	case s.best[Overtime] == 0:
		s.settled()
	default: // with overtime the first parts are least; how little of it would do is not proven
		s.proven = Overtime
		s.bound[Late], s.bound[Bought] = s.best[Late], s.best[Bought]
	}
	return nil
}

// genesOf are genes that place tasks as a schedule has them.
func (s *search) genesOf(at []placed) genes {
	g := s.beginnings()[0]
	slices.SortStableFunc(g.order, func(a, b int) int {
		if at[a].start != at[b].start {
			return int(at[a].start - at[b].start)
		}
		return s.rank[a] - s.rank[b]
	})
	for i, p := range at {
		g.crew[i] = p.crew
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

// settled keeps what a search through all schedules proves of the best, which is worked in
// no overtime. Between two that keep the same order one may travel less, or move less, by
// being later: of that it proves nothing.
func (s *search) settled() {
	s.proven = parts
	switch {
	case s.far > 0:
		s.proven = Moving
	case s.best[Moves] > 0:
		s.proven = Moves
	}
	copy(s.bound[:s.proven], s.best[:s.proven])
}
