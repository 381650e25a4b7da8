// Package search plans a roster: it makes schedules, improves them part by part, proves bounds and
// optima, and explains why nothing fits.
package search

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"slices"

	"nephelon/core/roster"
	"nephelon/core/roster/exact"
	"nephelon/core/roster/model"
)

// Options bound the planning.
type Options struct {
	Rounds int                      // schedules that are tried at most
	Seed   uint64                   // the same gives the same plan, if time does not end it
	Tell   func(roster.Plan, int)   // hears of each better plan, and after how many rounds; may be nil
	When   func(roster.Slot) string // words a slot; "slot 12" where it is nil
	Length func(roster.Slot) string // words a length; "12 slots" where it is nil
}

// The size up to which all schedules are looked through, in tasks and in what may come
// together; how many conflicts that has at a time, and for each round that is allowed; how
// many rounds of small changes are made at first and in turn; how often parts are planned
// anew between them, beside looking through all and else, and for how many rounds that
// counts.
const (
	smallTasks        = 160
	smallPairs        = 80_000
	slice             = 3000
	conflictsPerRound = 10
	firstRounds       = 400
	turn              = 100
	renewals          = 20
	renewalsBeside    = 3
	roundsPerRenewal  = 100
)

// Solve schedules a problem until its context ends, its rounds are over or its plan is
// proven best. It fails with an Error where the problem cannot be, with a Conflict where
// nothing fits, and with the context's error where that ended before any plan was found.
func Solve(ctx context.Context, p roster.Problem, o Options) (roster.Plan, error) {
	m, err := model.Compile(&p)
	if err != nil {
		return roster.Plan{}, err
	}
	if o.When != nil {
		m.When = o.When
	}
	if o.Length != nil {
		m.Lasts = o.Length
	}
	if len(m.Tasks) == 0 {
		return roster.Plan{Bookings: []roster.Booking{}, Proven: roster.Parts}, nil
	}
	rest := relaxed{Model: m}
	root := rest.root()
	if !rest.settle(root) {
		return roster.Plan{}, explain(ctx, m)
	}
	bound := rest.cost(root)
	bound[roster.Finish] = max(bound[roster.Finish], rest.capacity())

	s := &search{Model: m, maker: model.NewMaker(m), random: rand.New(rand.NewPCG(o.Seed, 0x9e3779b97f4a7c15)),
		tell:  o.Tell,
		bound: bound}
	rounds := o.Rounds
	if rounds <= 0 {
		rounds = 1 << 30
	}
	if err := s.look(ctx, rounds); err != nil {
		return roster.Plan{}, err
	}
	if !s.found {
		if ctx.Err() != nil && !errors.Is(ctx.Err(), context.DeadlineExceeded) {
			return roster.Plan{}, fmt.Errorf("schedule: %w", ctx.Err())
		}
		return roster.Plan{},
			&Conflict{Text: "No plan was found in the time given, and it is not proven that there is none. " +
				s.stuck(), Ways: []string{"Give more time, a longer horizon, or looser gaps"}}
	}
	return s.plan(), nil
}

// look finds a plan and betters it, in so many rounds at most: by small changes, by parts
// that are planned anew, and, where a problem is not too large, by looking through all
// schedules, in turn.
func (s *search) look(ctx context.Context, rounds int) error {
	n := len(s.Tasks)
	small := n <= smallTasks && n*n*max(1, len(s.Problem.Crews)) <= smallPairs
	first := firstRounds
	if small {
		first += 40 * n
	}
	left := rounds - s.improve(ctx, min(rounds, first))
	var p *prover
	if small && ctx.Err() == nil && !s.done() {
		var known *roster.Cost
		if s.found {
			known = &s.best
		}
		if e := exact.Encode(s.Model, known, nil); e != nil {
			p = &prover{Encoded: e}
		}
	}
	conflicts := int64(rounds) * conflictsPerRound
	for ctx.Err() == nil && (p != nil && conflicts > 0 || left > 0 && !s.done()) {
		if p != nil && conflicts > 0 {
			some := min(conflicts, slice)
			if done, err := s.prove(ctx, p, some); done || err != nil {
				return err
			}
			conflicts -= some
		}
		if left <= 0 {
			continue
		}
		again := renewals
		if p != nil {
			again = renewalsBeside
		}
		for range again {
			if !s.found || ctx.Err() != nil {
				break
			}
			if err := s.renew(ctx); err != nil {
				return err
			}
			left -= roundsPerRenewal
		}
		left -= s.improve(ctx, max(0, min(left, turn)))
	}
	return nil
}

// search is the making of a plan that gets better.
type search struct {
	*model.Model
	maker  *model.Maker
	random *rand.Rand
	tell   func(roster.Plan, int)
	bound  roster.Cost
	found  bool
	best   roster.Cost
	genes  model.Genes
	at     []model.Placed // of the best
	proven int            // parts, by looking through all
	rounds int
	failed map[int]int // how often a task found no place
}

// done reports whether no plan can be better.
func (s *search) done() bool { return s.found && (s.provenParts() == roster.Parts) }

// provenParts returns how many parts of the best cost, from the first, are proven least.
func (s *search) provenParts() int {
	n := 0
	for n < roster.Parts && s.found && s.best[n] == s.bound[n] {
		n++
	}
	return max(n, s.proven)
}

func (s *search) plan() roster.Plan {
	copy(s.maker.At, s.at)
	return roster.Plan{Bookings: s.maker.Bookings(), Cost: s.best, Bound: s.bound, Proven: s.provenParts()}
}

func (s *search) keep(c roster.Cost, g model.Genes) {
	s.best, s.found, s.genes = c, true, g.Clone()
	s.at = slices.Clone(s.maker.At)
	if s.tell != nil {
		s.tell(s.plan(), s.rounds)
	}
}
