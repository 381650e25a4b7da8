//go:build js && wasm

// Command floor is the record of a day as it runs on the device at the floor, in the
// browser, with no network: the same rules as on the server.
package main

import (
	"encoding/json"
	"fmt"
	"syscall/js"
	"time"
	_ "time/tzdata" // a browser has no files

	"nephelon/core/measure"
	"nephelon/core/record"
)

// floor is what the page works with.
type floor struct {
	issue  record.Issue
	units  measure.System
	events []record.Event
	known  map[string]bool
	teller *record.Teller
}

func main() {
	f := &floor{known: make(map[string]bool), teller: record.NewTeller()}
	give := func(of func([]js.Value) (any, error)) js.Func {
		return js.FuncOf(func(_ js.Value, args []js.Value) any {
			value, err := of(args)
			if err != nil {
				return js.Global().Get("Error").New(err.Error())
			}
			text, err := json.Marshal(value)
			if err != nil {
				return js.Global().Get("Error").New(err.Error())
			}
			return string(text)
		})
	}
	js.Global().Set("nephelonFloor", js.ValueOf(map[string]any{
		"open": give(f.open), "add": give(f.add), "tell": give(f.tell), "seal": give(f.seal), "read": give(f.read),
	}))
	select {}
}

func moment(v js.Value) time.Time { return time.UnixMilli(int64(v.Float())) }

// open takes an issued plan, and the units that sentences speak in; what was added stays.
func (f *floor) open(args []js.Value) (any, error) {
	f.issue = record.Issue{}
	if err := json.Unmarshal([]byte(args[0].String()), &f.issue); err != nil {
		return nil, fmt.Errorf("read the plan: %w", err)
	}
	f.units = measure.System(args[1].String())
	return f.issue.Number, nil
}

// add takes events, each once, and tells how many there are.
func (f *floor) add(args []js.Value) (any, error) {
	var events []record.Event
	if err := json.Unmarshal([]byte(args[0].String()), &events); err != nil {
		return nil, fmt.Errorf("read events: %w", err)
	}
	for _, e := range events {
		if !f.known[e.ID] {
			f.known[e.ID] = true
			f.events = append(f.events, e)
		}
	}
	return len(f.events), nil
}

// tell tells the day at a time, in ms since 1970 by the clock of the server.
func (f *floor) tell(args []js.Value) (any, error) {
	return f.teller.Tell(&f.issue, f.events, moment(args[0]), f.units), nil
}

// seal gives an event its hash, after another on its device, once nothing is wrong with it.
func (f *floor) seal(args []js.Value) (any, error) {
	var e record.Event
	if err := json.Unmarshal([]byte(args[0].String()), &e); err != nil {
		return nil, fmt.Errorf("read the event: %w", err)
	}
	e = record.Sealed(e, args[1].String())
	if text := record.Check(&e, e.When()); text != "" {
		return nil, fmt.Errorf("%s", text)
	}
	return e, nil
}

// read reads a quantity as people write it, and says how it was read.
func (f *floor) read(args []js.Value) (any, error) {
	kind := measure.Kind(args[0].String())
	si, err := f.units.Read(kind, args[1].String())
	if err != nil {
		return nil, err
	}
	return map[string]any{"si": si, "echo": f.units.Format(kind, si)}, nil
}
