package main

import (
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"time"

	"nephelon/core/facts"
	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/exchange"
)

// runPlan prints the plan of a plan file. A file that cannot be planned whole
// is refused with the path to each field, and nothing is printed.
func runPlan(ctx context.Context, arguments []string, in io.Reader, out, complain io.Writer) error {
	var told string
	files, units, at, err := planFiles("plan",
		"[-units us|metric] [-at 2026-11-05T07:30:00Z] [-facts FILE] job.nephelon.json | -", arguments, in, complain,
		known(&told))
	if err != nil {
		return err
	}
	if len(files) != 1 {
		return refusedError{errors.New("give one plan file, or - for standard input; several are bought for with " +
			"nephelon buy")}
	}
	world, err := factsOf(told, at)
	if err != nil {
		return err
	}
	p, err := plan.NewPlanner().MakeFor(ctx, files[0], world, units)
	if err != nil {
		return err
	}
	var refused []error
	for _, r := range p.Refused() {
		refused = append(refused, r)
	}
	if len(refused) > 0 {
		return refusedError{errors.Join(refused...)}
	}
	return printed(out, p)
}

// known adds the flag of a file of facts.
func known(file *string) func(*flag.FlagSet) {
	return func(f *flag.FlagSet) {
		f.StringVar(file, "facts", "", "`FILE` of what is booked of the job; its time rules over -at")
	}
}

// factsOf reads a file of facts; a time alone where none is named.
func factsOf(name string, at time.Time) (facts.Facts, error) {
	if name == "" {
		return facts.At(at), nil
	}
	reader, err := exchange.NewReader()
	if err != nil {
		return facts.Facts{}, err
	}
	in, done, err := opened(name, nil)
	if err != nil {
		return facts.Facts{}, err
	}
	defer done()
	world, err := reader.ReadFacts(in)
	if err != nil {
		return world, refusedError{fmt.Errorf("-facts: %w", err)}
	}
	return world, nil
}

// runBuy prints what several jobs buy in one purchase.
func runBuy(_ context.Context, arguments []string, in io.Reader, out, complain io.Writer) error {
	files, units, at, err := planFiles("buy",
		"[-units us|metric] [-at 2026-11-05T07:30:00Z] one.nephelon.json two.nephelon.json …", arguments, in, complain)
	if err != nil {
		return err
	}
	t, err := plan.BuyTogether(files, units, at)
	if err != nil {
		return refusedError{err}
	}
	return printed(out, t)
}

// planFiles reads the plan files that a command names, with the units and the
// time of its plans; more are flags of its own.
func planFiles(command, takes string, arguments []string, in io.Reader, complain io.Writer,
	more ...func(*flag.FlagSet)) (files []job.File, system measure.System, at time.Time, err error) {
	f := flags(command, takes, complain)
	units := f.String("units", string(measure.Metric), "units of the sentences: us or metric")
	when := f.String("at", "", "the time for which verdicts are given, RFC 3339; now when left out")
	for _, own := range more {
		own(f)
	}
	if err := parse(f, arguments); err != nil {
		return nil, "", at, err
	}
	at = time.Now()
	if *when != "" {
		if at, err = time.Parse(time.RFC3339, *when); err != nil {
			return nil, "", at, refusedError{fmt.Errorf("-at: %w; write it like 2026-11-05T07:30:00Z", err)}
		}
		if bad := job.CheckYear(at); bad != nil {
			return nil, "", at, refusedError{fmt.Errorf("-at: %w", bad)}
		}
	}
	system = measure.System(*units)
	if f.NArg() == 0 || system != measure.US && system != measure.Metric {
		f.Usage()
		return nil, "", at, refusedError{errors.New("give a plan file, or - for standard input")}
	}
	reader, err := exchange.NewReader()
	if err != nil {
		return nil, "", at, err
	}
	for _, name := range f.Args() {
		file, err := readPlan(reader, name, in)
		if err != nil {
			return nil, "", at, err
		}
		files = append(files, file)
	}
	return files, system, at, nil
}

func readPlan(reader *exchange.Reader, name string, in io.Reader) (job.File, error) {
	in, done, err := opened(name, in)
	if err != nil {
		return job.File{}, err
	}
	defer done()
	file, err := reader.Read(in)
	if err != nil {
		return job.File{}, refusedError{err}
	}
	return file, nil
}

// opened is the file that an argument names, or standard input for "-".
func opened(name string, in io.Reader) (io.Reader, func(), error) {
	if name == "-" {
		return in, func() {}, nil
	}
	file, err := os.Open(name)
	if err != nil {
		return nil, nil, refusedError{fmt.Errorf("open the file: %w", err)}
	}
	return file, func() { _ = file.Close() }, nil // only read
}

// printed writes a value as indented JSON.
func printed(out io.Writer, value any) error {
	encoder := json.NewEncoder(out)
	encoder.SetIndent("", "  ")
	if err := encoder.Encode(value); err != nil {
		return fmt.Errorf("print the answer: %w", err)
	}
	return nil
}
