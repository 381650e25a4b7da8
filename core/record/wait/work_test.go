package wait

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/pour/sim"
	"nephelon/core/record"
	"nephelon/core/work"
)

// shift is a plan of one coat in two pails that are mixed for 3 min, poured 10 min apart, spread in 10 min and rolled
// in 2 more; before it a step of preparation and a test.
func shift() *record.Issue {
	begins := noon()
	c := record.Coat{ID: "c", Surface: "s", Number: 1, Last: true, Start: &begins, Working: 40 * 60, Wet: 300e-6,
		Product: material.Product{Components: []material.Component{{Name: "A"}, {Name: "B"}}}}
	for k := range 2 {
		at := measure.Span(k * 600)
		c.Batches = append(c.Batches, record.Batch{ID: work.BatchID("c", k+1), Section: work.SectionID("c", k+1),
			Number: k + 1, Life: 1800, Card: kit.Card{Batch: k + 1, Of: 2, Section: k + 1, Mass: 6, Area: 10, Mixing: 180,
				PotLife: 1800, Parts: []kit.Dose{{Name: "A"}, {Name: "B"}}},
			Passage: sim.Passage{Batch: k + 1, Meets: at - 240, Ready: at - 60, Arrives: at, Pour: at, Empty: at + 60,
				Spread: at + 60, Laid: at + 600, Done: at + 720}})
	}
	c.Batches[1].Beside = []int{1}
	step := func(id work.ID, kind work.Kind, name string, after ...work.After) work.Task {
		return work.Task{ID: id, Kind: kind, Surface: "s", Name: name, After: after}
	}
	putty, etch, rinse := work.PrepareID("s", "fill"), work.PrepareID("s", "etch"), work.PrepareID("s", "rinse")
	sheet := work.ID("surface/s/retest/plastic-sheet")
	return &record.Issue{Number: 1, Zone: "UTC", Air: 20, Surfaces: []record.Surface{{ID: "s", Name: "Hall", Area: 20}},
		Coats: []record.Coat{c}, Tasks: []work.Task{
			step(putty, work.Fill, "Fill the cracks"),
			step(work.PrepareID("s", "sand"), work.Prepare, "Sand the filler",
				work.After{Task: putty, Least: &work.Lag{Fixed: 30 * 60}}),
			step(etch, work.Prepare, "Etch"),
			step(rinse, work.Prepare, "Rinse", work.After{Task: etch, Most: &work.Lag{Fixed: 15 * 60}}),
			step(sheet, work.Retest, "Tape a sheet"),
			step(sheet+"/read", work.Retest, "Lift the sheet",
				work.After{Task: sheet, Least: &work.Lag{Fixed: 16 * measure.Hour}}),
		}}
}

// What is said at a minute of twelve kinds of work, from the plan and the touches alone.
func TestWhatIsSaidOfEachKindOfWork(t *testing.T) {
	coat := func(change func(c *record.Coat, s *record.Surface)) func(i *record.Issue) {
		return func(i *record.Issue) { change(&i.Coats[0], &i.Surfaces[0]) }
	}
	batch := func(change func(b *record.Batch)) func(i *record.Issue) {
		return func(i *record.Issue) { change(&i.Coats[0].Batches[0]) }
	}
	method := func(laying string) func(i *record.Issue) {
		return coat(func(c *record.Coat, _ *record.Surface) { c.Method = laying })
	}
	one, two, pot := string(work.BatchID("c", 1)), string(work.BatchID("c", 2)), "surface/s/"
	for _, kind := range []struct {
		name   string
		plan   func(i *record.Issue)
		logged []string // minute, kind of touch, task
		minute float64
		want   string
	}{
		{"body coat", nil, []string{"-4 meets " + one, "-1 mixed " + one}, 0, "pour it out, all of it"},
		{"paint from trays", method("dip"), []string{"-4 meets " + one, "-1 mixed " + one}, 0, "into the trays at once"},
		{"broadcast", coat(func(c *record.Coat, _ *record.Surface) { c.Throws = 0.06 }),
			[]string{"-4 meets " + one, "0 poured " + one, "9 spread " + one}, 10, "then broadcast into it while it is wet"},
		{"tray with standing", batch(func(b *record.Batch) { b.Card.Induction = 600 }),
			[]string{"-4 meets " + one, "-1 mixed " + one}, 2, "let it stand; do not pour it yet"},
		{"cups", batch(func(b *record.Batch) { b.Card.Cups = []kit.Cup{{Name: "White"}, {Name: "Black"}} }),
			[]string{"-4 meets " + one, "0 poured " + one}, 1, "cup 1 of 2, White"},
		{"seal coat", coat(func(c *record.Coat, s *record.Surface) { c.Tape, s.Kind = 20*60, "top" }),
			[]string{"-4 meets " + one, "0 poured " + one, "5 spread " + one, "8 rolled " + one, "5 poured " + two, "9 spread " +
				two, "10 rolled " + two}, 12, "pull the tape"},
		{"edges", nil, []string{"-4 meets " + one, "0 poured " + one, "10 spread " + one, "6 meets " + two,
			"10 poured " + two, "19 spread " + two}, 20, "past the line into the one before"},
		{"stones", batch(func(b *record.Batch) { b.Card.Turning = 240 }), []string{"-4 meets " + one}, 0.5,
			"over the stones, and turn until all are glossy"},
		{"pool", coat(func(c *record.Coat, s *record.Surface) { c.Method, s.Kind = "dip", "pool" }),
			[]string{"-4 meets " + one, "0 poured " + one}, 1, "roll it on from the tray"},
		{"putty", nil, []string{"0 completed " + pot + "prepare/fill"}, 10, "Sand the filler from 12:30"},
		{"acid", nil, []string{"0 completed " + pot + "prepare/etch"}, 5, "Rinse from 12:00 by 12:15"},
		{"sheet test", nil, []string{"0 completed " + pot + "retest/plastic-sheet"}, 10, "Lift the sheet from 04:00"},
	} {
		i := shift()
		if kind.plan != nil {
			kind.plan(i)
		}
		var events []record.Event
		for n, text := range kind.logged {
			var minute float64
			var what, task string
			if _, err := fmt.Sscan(text, &minute, &what, &task); err != nil {
				t.Fatal(err)
			}
			events = append(events, record.Event{ID: fmt.Sprintf("e%d", n), Issue: 1, Kind: record.Kind(what),
				Task: work.ID(task), At: *after(minute / 60), Device: "device-a", Number: int64(n + 1),
				Body: record.Body{Saw: "done"}})
		}
		now := *after(kind.minute / 60)
		day := record.NewTeller().Tell(i, events, now, measure.Metric)
		if said := words(BoardOf(i, day, now, measure.Metric)); !strings.Contains(said, kind.want) {
			t.Errorf("%s: no %q in\n%s", kind.name, kind.want, said)
		}
	}
}

// words returns all that a board says to do, with its minutes.
func words(b Board) string {
	var all []string
	for _, c := range b.Coats {
		for _, s := range append(c.Now, c.Next...) {
			all = append(all, s.Text)
		}
	}
	for _, w := range b.Waits {
		all = append(all, w.Text)
	}
	clock := func(at *time.Time, before string) string {
		if at == nil {
			return ""
		}
		return before + at.UTC().Format("15:04")
	}
	for _, s := range b.Steps {
		all = append(all, s.Name+clock(s.From, " from ")+clock(s.Until, " by "))
	}
	return strings.Join(all, "\n")
}
