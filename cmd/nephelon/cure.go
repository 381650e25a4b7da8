package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"

	"nephelon/core/cure"
	"nephelon/core/measure"
)

// cureQuestion is what `nephelon cure` reads.
type cureQuestion struct {
	Kinetics *cure.Kinetics `json:"kinetics"` // an epoxy from memory when left out
	Vessel   cure.Vessel    `json:"vessel"`
	Until    measure.Span   `json:"until"` // s; a day when left out
	Sheet    *struct {
		PotLife measure.Span `json:"potLife"`
		Vessel  cure.Vessel  `json:"vessel"`
	} `json:"sheet"` // calibrates the rates
}

// cureAnswer is what it prints.
type cureAnswer struct {
	Kinetics cure.Kinetics `json:"kinetics"`
	cure.History
}

// runCure prints the history of a bucket of mix, so that the engine can be
// compared with others.
func runCure(_ context.Context, arguments []string, in io.Reader, out, complain io.Writer) error {
	f := flags("cure", "question.json | -", complain)
	if err := parse(f, arguments); err != nil {
		return err
	}
	if f.NArg() != 1 {
		f.Usage()
		return refusedError{errors.New("give one file, or - for standard input")}
	}
	in, done, err := opened(f.Arg(0), in)
	if err != nil {
		return err
	}
	defer done()
	q := cureQuestion{Until: 24 * measure.Hour}
	if err := decodeQuestion(in, &q); err != nil {
		return refusedError{fmt.Errorf("read the question: %w; docs/computed.md shows one", err)}
	}
	k := cure.Epoxy()
	if q.Kinetics != nil {
		k = *q.Kinetics
	}
	if !(q.Until > 0 && q.Until <= 60*24*measure.Hour) {
		return refusedError{errors.New("until: ask for more than zero and at most 60 days, in seconds")}
	}
	if q.Sheet != nil {
		if k, err = cure.Calibrate(k, q.Sheet.Vessel, q.Sheet.PotLife); err != nil {
			return refusedError{fmt.Errorf("sheet: %w", err)}
		}
	}
	h, err := cure.Run(k, q.Vessel, q.Until)
	if err != nil {
		return refusedError{err}
	}
	return printed(out, cureAnswer{k, h})
}

// mostAsked bounds what a question may weigh.
const mostAsked = 1 << 20

// decodeQuestion reads one JSON value and nothing after it.
func decodeQuestion(in io.Reader, q *cureQuestion) error {
	text, err := io.ReadAll(io.LimitReader(in, mostAsked+1))
	if err != nil {
		return err
	}
	if len(text) > mostAsked {
		return errors.New("it is larger than 1 MiB, a question has some ten lines")
	}
	decoder := json.NewDecoder(bytes.NewReader(text))
	decoder.DisallowUnknownFields()
	if err := decoder.Decode(q); err != nil {
		return err
	}
	if _, err := decoder.Token(); err != io.EOF {
		return errors.New("something follows after the question; give one JSON object")
	}
	return nil
}
