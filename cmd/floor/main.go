//go:build js && wasm

// Command floor is the record of a day as it runs on the device at the floor, in the
// browser, with no network: the same rules as on the server.
package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"syscall/js"
	"time"
	_ "time/tzdata" // a browser has no files

	"nephelon/core/kit"
	"nephelon/core/label"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/core/record/current"
	"nephelon/core/record/enough"
	"nephelon/core/record/ledger"
	"nephelon/core/record/prep"
	"nephelon/core/record/wait"
)

// floor holds what the page works with.
type floor struct {
	plan   record.Issue // as it was issued
	issue  record.Issue // with what was decided otherwise since
	units  measure.System
	events []record.Event
	known  map[string]bool
	teller *record.Teller
	leads  bool // whoever logs
}

func main() {
	js.Global().Set("nephelonFloor", js.FuncOf(func(js.Value, []js.Value) any { return newFloor() }))
	select {}
}

// newFloor gives a page what it works with, by name, each a function of texts that returns a
// text or an Error; end lets go of it.
func newFloor() map[string]any {
	f := &floor{known: make(map[string]bool), teller: record.NewTeller()}
	all, held := make(map[string]any), []js.Func{}
	give := func(name string, of func([]js.Value) (any, error)) {
		called := js.FuncOf(func(_ js.Value, args []js.Value) any {
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
		all[name], held = called, append(held, called)
	}
	give("open", f.open)
	give("add", f.add)
	give("clear", f.clear)
	give("tell", f.tell)
	give("plan", f.stands)
	give("seal", f.seal)
	give("read", f.read)
	give("follow", follow)
	give("label", f.label)
	give("laid", f.laid)
	give("judge", f.judge)
	var end js.Func
	end = js.FuncOf(func(js.Value, []js.Value) any {
		for _, one := range append(held, end) {
			one.Release()
		}
		return nil
	})
	all["end"] = end
	return all
}

func moment(v js.Value) time.Time { return time.UnixMilli(int64(v.Float())) }

// open takes an issued plan, the units that sentences speak in, and whether whoever logs leads
// the day; what was added stays.
func (f *floor) open(args []js.Value) (any, error) {
	f.plan = record.Issue{}
	if err := json.Unmarshal([]byte(args[0].String()), &f.plan); err != nil {
		return nil, fmt.Errorf("read the plan: %w", err)
	}
	f.units, f.leads = measure.System(args[1].String()), args[2].Bool()
	f.issue = current.Changed(f.plan, f.events)
	return f.plan.Number, nil
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
	f.issue = current.Changed(f.plan, f.events)
	return len(f.events), nil
}

// label reads what the label of a pack says, and why the pack is not one of a coat.
func (f *floor) label(args []js.Value) (any, error) {
	s, err := label.Read(args[0].String(), moment(args[1]))
	if err != nil {
		return nil, err
	}
	said := struct {
		label.Scan
		Wrong string `json:"wrong,omitempty"`
	}{Scan: s}
	if c := f.issue.Coat(args[2].String()); c != nil {
		var others []material.Product
		for _, o := range f.issue.Coats {
			others = append(others, o.Product)
		}
		said.Wrong = kit.WrongPack(s, c.Product, others)
	}
	return said, nil
}

// laid returns the area, m², of a coat that is laid up to a place on its plan.
func (f *floor) laid(args []js.Value) (any, error) {
	now := moment(args[3])
	day := f.teller.Tell(&f.issue, f.events, now, f.units)
	c := f.issue.Coat(args[0].String())
	at := slices.IndexFunc(day.Coats, func(d record.CoatDay) bool { return c != nil && d.ID == c.ID })
	if at < 0 {
		return nil, errors.New("this coat is not in the plan of this day")
	}
	area, known := enough.LaidUpTo(c, &day.Coats[at], [2]float64{args[1].Float(), args[2].Float()})
	if !known {
		return nil, errors.New("nothing shows how much that is; tap inside a section, or type the area laid")
	}
	return area, nil
}

// judge judges the reading of a test of preparation.
func (f *floor) judge(args []js.Value) (any, error) {
	for n := range f.issue.Guides {
		if g := &f.issue.Guides[n]; string(g.Task) == args[0].String() && g.Asks != nil {
			return prep.Judge(g.Asks, args[1].Float(), f.units), nil
		}
	}
	return nil, errors.New("this test has no reading with limits; say whether it passes")
}

// clear forgets the events that were added.
func (f *floor) clear([]js.Value) (any, error) {
	f.events, f.known, f.issue = nil, make(map[string]bool), f.plan
	return 0, nil
}

// stands returns the plan with what was decided otherwise while it was laid.
func (f *floor) stands([]js.Value) (any, error) { return f.issue, nil }

// tell returns the day at a time with what it waits for, in ms since 1970 by the clock of the server.
func (f *floor) tell(args []js.Value) (any, error) {
	now := moment(args[0])
	return wait.BoardOf(&f.issue, f.teller.Tell(&f.issue, f.events, now, f.units), now, f.units), nil
}

// seal gives an event its hash, after another on its device, once nothing is wrong with it.
func (f *floor) seal(args []js.Value) (any, error) {
	var e record.Event
	if err := json.Unmarshal([]byte(args[0].String()), &e); err != nil {
		return nil, fmt.Errorf("read the event: %w", err)
	}
	e.Job, e.Plan = f.issue.Job, f.issue.HashOf(e.Issue)
	if e.Kind == record.Signed || e.Kind == record.Closed {
		e.Body.Covers = record.Covering(f.events)
	}
	e = record.Sealed(e, args[1].String())
	if text := record.Check(&e, e.Logged()); text != "" {
		return nil, errors.New(text)
	}
	at := slices.IndexFunc(f.events, func(o record.Event) bool { return o.ID == e.Body.Struck })
	var struck *record.Event
	if at >= 0 {
		struck = &f.events[at]
	}
	if !f.leads && record.ForLeads(&e, struck) {
		return nil, errors.New("who leads the day does this; ask them, on their own device or this one")
	}
	return e, nil
}

// follow takes the head of the company's log that this device kept, a newer one and the proof that
// it goes on, and fails where it does not.
func follow(args []js.Value) (any, error) {
	var proof []string
	if err := json.Unmarshal([]byte(args[2].String()), &proof); err != nil {
		return nil, fmt.Errorf("read the proof: %w", err)
	}
	older, err := ledger.Read(args[0].String())
	if err != nil {
		return nil, err
	}
	newer, err := ledger.Read(args[1].String())
	if err != nil {
		return nil, err
	}
	return newer.Size, ledger.Follows(older, newer, proof)
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
