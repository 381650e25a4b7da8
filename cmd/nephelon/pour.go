package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"strings"
	"time"

	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/core/plan/whatif"
	"nephelon/core/pour/sim"
)

// pourAnswer holds what `nephelon pour` prints.
type pourAnswer struct {
	whatif.PourPlan
	Odds   *sim.Chance    `json:"odds,omitempty"`
	Ways   []whatif.Way   `json:"ways" doc:"What would help"`
	Starts []whatif.Begun `json:"starts" doc:"For each hour that the work may start at"`
}

// largestPour returns the coat of a plan with the most batches; empty where none is poured.
func largestPour(p plan.Plan) string {
	coat, most := "", -1
	for _, s := range p.Surfaces {
		for _, c := range s.Coats {
			if c.Train != nil && len(c.Train.Passages) > most {
				coat, most = c.ID, len(c.Train.Passages)
			}
		}
	}
	return coat
}

// runPour prints the pour of one coat of a plan file: that with the most batches, or the
// one named.
func runPour(ctx context.Context, arguments []string, in io.Reader, out, complain io.Writer) error {
	var coat, told string
	var runs int
	var seed uint64
	var first time.Duration
	files, units, at, err := planFiles("pour",
		"[-coat ID] [-first 14m] [-runs N] [-seed S] [-units us|metric] [-at 2026-11-05T07:30:00Z] [-facts FILE] "+
			"job.nephelon.json | -",
		arguments, in, complain, known(&told), func(f *flag.FlagSet) {
			f.StringVar(&coat, "coat", "", "the id of the coat; that with the most batches when left out")
			f.DurationVar(&first, "first", 0, "how long the first section took, such as 14m; the rest then goes at that pace")
			f.IntVar(&runs, "runs", 0, "how often to try it for the odds; not at all when left out")
			f.Uint64Var(&seed, "seed", 1, "of the random numbers; the same seed gives the same odds")
		})
	if err != nil {
		return err
	}
	if len(files) != 1 {
		return refusedError{errors.New("give one plan file, or - for standard input")}
	}
	if runs < 0 || runs > sim.MostRuns {
		return refusedError{fmt.Errorf("-runs: ask for 0 to %d", sim.MostRuns)}
	}
	if first < 0 {
		return refusedError{errors.New("-first: enter how long the first section took, more than zero, such as 14m")}
	}
	planner, file := plan.NewPlanner(), files[0]
	world, err := factsOf(told, at)
	if err != nil {
		return err
	}
	if coat == "" {
		made, err := planner.MakeFor(ctx, file, world, units)
		if err != nil {
			return err
		}
		coat = largestPour(made)
	}
	poured, err := planner.Pour(ctx, file, world, units, coat, measure.Span(first.Seconds()))
	if errors.Is(err, whatif.ErrNoPour) {
		var ids []string
		for _, s := range file.Job.Surfaces {
			for _, c := range s.Coats {
				ids = append(ids, c.ID)
			}
		}
		if len(ids) == 0 {
			return refusedError{errors.New("the job has no coats; add one to a surface before asking for its pour")}
		}
		return refusedError{fmt.Errorf("-coat: %w; the coats are %s, and nephelon plan tells what is wrong with them", err,
			strings.Join(ids, ", "))}
	}
	if errors.Is(err, sim.ErrPace) {
		return refusedError{fmt.Errorf("-first: %w", sim.ErrPace)}
	}
	if err != nil {
		return err
	}
	answer := pourAnswer{PourPlan: poured}
	if answer.Ways, err = planner.Ways(ctx, file, world, units, coat); err != nil {
		return err
	}
	if answer.Starts, err = planner.Starts(ctx, file, world, units, coat); err != nil {
		return err
	}
	if runs > 0 {
		odds, err := planner.Odds(ctx, file, world, coat, measure.Span(first.Seconds()), file.Job.Crew.SpreadsOf(),
			runs, seed, nil)
		if err != nil {
			return err
		}
		answer.Odds = &odds
	}
	return printed(out, answer)
}
