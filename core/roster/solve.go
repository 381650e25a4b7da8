package roster

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"slices"
)

// Options bound the planning.
type Options struct {
	Rounds int               // schedules that are tried at most
	Seed   uint64            // the same gives the same plan, if time does not end it
	Tell   func(Plan, int)   // hears of each better plan, and after how many rounds; may be nil
	When   func(Slot) string // words a slot; "slot 12" where it is nil
	Length func(Slot) string // words a length; "12 slots" where it is nil
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
func Solve(ctx context.Context, p Problem, o Options) (Plan, error) {
	m, err := compile(&p)
	if err != nil {
		return Plan{}, err
	}
	if o.When != nil {
		m.when = o.When
	}
	if o.Length != nil {
		m.lasts = o.Length
	}
	if len(m.tasks) == 0 {
		return Plan{Bookings: []Booking{}, Proven: parts}, nil
	}
	rest := relaxed{model: m}
	root := rest.root()
	if !rest.settle(root) {
		return Plan{}, explain(ctx, m)
	}
	bound := rest.cost(root)
	bound[Finish] = max(bound[Finish], rest.capacity())

	s := &search{model: m, maker: newMaker(m), random: rand.New(rand.NewPCG(o.Seed, 0x9e3779b97f4a7c15)), tell: o.Tell,
		bound: bound}
	rounds := o.Rounds
	if rounds <= 0 {
		rounds = 1 << 30
	}
	if err := s.look(ctx, rounds); err != nil {
		return Plan{}, err
	}
	if !s.found {
		if ctx.Err() != nil && !errors.Is(ctx.Err(), context.DeadlineExceeded) {
			return Plan{}, fmt.Errorf("schedule: %w", ctx.Err())
		}
		return Plan{}, &Conflict{Text: "No plan was found in the time given, and it is not proven that there is none. " +
			s.stuck(), Ways: []string{"Give more time, a longer horizon, or looser gaps"}}
	}
	return s.plan(), nil
}

// look finds a plan and betters it, in so many rounds at most: by small changes, by parts
// that are planned anew, and, where a problem is not too large, by looking through all
// schedules, in turn.
func (s *search) look(ctx context.Context, rounds int) error {
	n := len(s.tasks)
	small := n <= smallTasks && n*n*max(1, len(s.problem.Crews)) <= smallPairs
	first := firstRounds
	if small {
		first += 40 * n
	}
	left := rounds - s.improve(ctx, min(rounds, first))
	var p *prover
	if small && ctx.Err() == nil && !s.done() {
		var known *Cost
		if s.found {
			known = &s.best
		}
		if e := encode(s.model, known, nil); e != nil {
			p = &prover{encoded: e}
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
	*model
	maker  *maker
	random *rand.Rand
	tell   func(Plan, int)
	bound  Cost
	found  bool
	best   Cost
	genes  genes
	at     []placed // of the best
	proven int      // parts, by looking through all
	rounds int
	failed map[int]int // how often a task found no place
}

// done tells whether no plan can be better.
func (s *search) done() bool { return s.found && (s.provenParts() == parts) }

// provenParts are how many parts of the best cost, from the first, are proven least.
func (s *search) provenParts() int {
	n := 0
	for n < parts && s.found && s.best[n] == s.bound[n] {
		n++
	}
	return max(n, s.proven)
}

func (s *search) plan() Plan {
	copy(s.maker.at, s.at)
	return Plan{Bookings: s.maker.bookings(), Cost: s.best, Bound: s.bound, Proven: s.provenParts()}
}

func (s *search) keep(c Cost, g genes) {
	s.best, s.found, s.genes = c, true, g.clone()
	s.at = slices.Clone(s.maker.at)
	if s.tell != nil {
		s.tell(s.plan(), s.rounds)
	}
}
