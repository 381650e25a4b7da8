package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"strings"
	"time"

	"nephelon/core/roster"
	"nephelon/core/roster/search"
	"nephelon/exchange"
)

// longestPlanning bounds how long a schedule may be looked for, s.
const longestPlanning = 24 * 3600

// conflictError says that nothing fits.
type conflictError struct{ error }

// runRoster schedules a problem and prints the schedule with what it costs.
func runRoster(ctx context.Context, arguments []string, in io.Reader, out, complain io.Writer) error {
	f := flags("roster", "[-seconds N] [-seed S] problem.json | -", complain)
	seconds := f.Float64("seconds", 10, "how long to look for a better plan at most")
	seed := f.Uint64("seed", 1, "of the search; the same seed tries the same plans in the same order")
	if err := parse(f, arguments); err != nil {
		return err
	}
	if f.NArg() != 1 {
		f.Usage()
		return refusedError{errors.New("give one file, or - for standard input")}
	}
	if !(*seconds > 0 && *seconds <= longestPlanning) {
		return refusedError{fmt.Errorf("-seconds: ask for more than 0 and at most %d", longestPlanning)}
	}
	begun := time.Now()
	in, done, err := opened(f.Arg(0), in)
	if err != nil {
		return err
	}
	defer done()
	reader, err := exchange.NewReader()
	if err != nil {
		return err
	}
	problem, err := reader.ReadRoster(in)
	if err != nil {
		return refusedError{err}
	}
	// Reading counts, so that the answer comes in the time given; a little is left in any case.
	within := time.Duration(*seconds * float64(time.Second))
	ctx, cancel := context.WithTimeout(ctx, max(within-time.Since(begun), within/10))
	defer cancel()
	plan, err := search.Solve(ctx, problem, search.Options{Seed: *seed})
	var wrong *roster.Error
	var conflict *search.Conflict
	switch {
	case errors.As(err, &wrong):
		return refusedError{err}
	case errors.As(err, &conflict):
		text := conflict.Text
		if len(conflict.Tasks) > 0 {
			text += "\nTasks: " + strings.Join(conflict.Tasks, ", ")
		}
		for _, way := range conflict.Ways {
			text += "\nWay out: " + way + "."
		}
		return conflictError{errors.New(text)}
	case err != nil:
		return err
	}
	return printed(out, plan.Told())
}
