package main

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"reflect"
	"strings"

	"nephelon/core/cure"
	"nephelon/core/measure"
)

// cureQuestion holds what `nephelon cure` reads.
type cureQuestion struct {
	Kinetics *cure.Kinetics `json:"kinetics"` // an epoxy from memory when left out
	Vessel   askedVessel    `json:"vessel"`
	Until    *measure.Span  `json:"until"` // s; a day when left out
	Sheet    *struct {
		PotLife *measure.Span `json:"potLife"`
		Vessel  askedVessel   `json:"vessel"`
	} `json:"sheet"` // calibrates the rates
}

// askedVessel is a vessel in which nothing that decides the answer may be left out.
type askedVessel struct {
	Mass      *measure.Mass        `json:"mass"`
	Density   *measure.Density     `json:"density"`
	Radius    measure.Length       `json:"radius"`
	Film      measure.Film         `json:"film"`
	Loss      *float64             `json:"loss"`
	Conducts  float64              `json:"conducts"`
	Viscosity measure.Viscosity    `json:"viscosity"`
	Start     *measure.Temperature `json:"start"`
	Air       *measure.Temperature `json:"air"`
}

// vessel returns the vessel, or an error for each field at the path that is left out or null.
func (a askedVessel) vessel(path string) (cure.Vessel, error) {
	var missing []error
	need := func(there bool, field, way string) {
		if !there {
			missing = append(missing, fmt.Errorf("%s.%s: this field is missing; enter %s", path, field, way))
		}
	}
	need(a.Mass != nil, "mass", "the mass of the mix in kg, such as 3")
	need(a.Density != nil, "density", "the density of the mix in kg/m³, such as 1100")
	need(a.Loss != nil, "loss", "the heat lost from its surface in W/(m²·K), such as 8 in still air, or 0 for none")
	need(a.Start != nil, "start", "the temperature of the mix in °C, such as 20")
	need(a.Air != nil, "air", "the temperature around it in °C, such as 20")
	if len(missing) > 0 {
		return cure.Vessel{}, errors.Join(missing...)
	}
	return cure.Vessel{
		Mass: *a.Mass, Density: *a.Density, Radius: a.Radius, Film: a.Film, Loss: *a.Loss,
		Conducts: a.Conducts, Viscosity: a.Viscosity, Start: *a.Start, Air: *a.Air,
	}, nil
}

// cureAnswer holds what it prints.
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
	var q cureQuestion
	if err := decodeQuestion(in, &q); err != nil {
		return refusedError{fmt.Errorf("read the question: %w; docs/computed.md shows one", err)}
	}
	k := cure.Epoxy()
	if q.Kinetics != nil {
		k = *q.Kinetics
	}
	until := 24 * measure.Span(measure.Hour)
	if q.Until != nil {
		until = *q.Until
	}
	if !(until > 0 && until <= 60*24*measure.Hour) {
		return refusedError{errors.New("until: ask for more than zero and at most 60 days, in seconds")}
	}
	vessel, err := q.Vessel.vessel("vessel")
	if err != nil {
		return refusedError{err}
	}
	if q.Sheet != nil {
		timed, err := q.Sheet.Vessel.vessel("sheet.vessel")
		if err != nil {
			return refusedError{err}
		}
		if q.Sheet.PotLife == nil {
			return refusedError{errors.New("sheet.potLife: this field is missing; enter the pot life of the sheet's vessel in " +
				"seconds")}
		}
		if k, err = cure.Calibrate(k, timed, *q.Sheet.PotLife); err != nil {
			return refusedError{fmt.Errorf("sheet: %w", err)}
		}
	}
	h, err := cure.Run(k, vessel, until)
	if err != nil {
		return refusedError{err}
	}
	return printed(out, cureAnswer{k, h})
}

// mostAsked bounds what a question may weigh.
const mostAsked = 1 << 20

// jsonWord returns what JSON calls a value of a Go type.
func jsonWord(t reflect.Type) string {
	switch t.Kind() {
	case reflect.Float64, reflect.Float32, reflect.Int, reflect.Int64:
		return "a number"
	case reflect.String:
		return "a text"
	case reflect.Slice:
		return "a list"
	case reflect.Bool:
		return "true or false"
	}
	return "an object"
}

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
	var wrong *json.UnmarshalTypeError
	if err := decoder.Decode(q); errors.As(err, &wrong) {
		article := "a"
		if strings.ContainsAny(wrong.Value[:1], "ao") {
			article = "an"
		}
		return fmt.Errorf("%s: %s %s stands here; enter %s", cmp.Or(wrong.Field, "question"), article, wrong.Value,
			jsonWord(wrong.Type))
	} else if err != nil {
		return err
	}
	if _, err := decoder.Token(); err != io.EOF {
		return errors.New("something follows after the question; give one JSON object")
	}
	return nil
}
