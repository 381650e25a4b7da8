package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"time"

	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/exchange"
)

// runPlan prints the plan of a plan file. A file that cannot be planned whole
// is refused with the path to each field, and nothing is printed.
func runPlan(_ context.Context, arguments []string, in io.Reader, out, complain io.Writer) error {
	f := flags("plan", "[-units us|metric] [-at 2026-11-05T07:30:00Z] job.nephelon.json | -", complain)
	units := f.String("units", string(measure.Metric), "units of the plan's sentences: us or metric")
	when := f.String("at", "", "the time for which verdicts are given, RFC 3339; now when left out")
	if err := parse(f, arguments); err != nil {
		return err
	}
	at := time.Now()
	if *when != "" {
		var err error
		if at, err = time.Parse(time.RFC3339, *when); err != nil {
			return refusedError{fmt.Errorf("-at: %w; write it like 2026-11-05T07:30:00Z", err)}
		}
	}
	system := measure.System(*units)
	if f.NArg() != 1 || system != measure.US && system != measure.Metric {
		f.Usage()
		return refusedError{errors.New("give one plan file, or - for standard input")}
	}
	in, done, err := opened(f.Arg(0), in)
	if err != nil {
		return err
	}
	defer done()
	reader, err := exchange.NewReader()
	if err != nil {
		return err
	}
	file, err := reader.Read(in)
	if err != nil {
		return refusedError{err}
	}
	p := plan.Make(file, system, at)
	var refused []error
	for _, r := range p.Refused() {
		refused = append(refused, r)
	}
	if len(refused) > 0 {
		return refusedError{errors.Join(refused...)}
	}
	return printed(out, p)
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
