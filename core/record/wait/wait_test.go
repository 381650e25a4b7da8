package wait

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/core/work"
)

func noon() time.Time { return time.Date(2031, 3, 4, 12, 0, 0, 0, time.UTC) }

func after(hours float64) *time.Time {
	at := noon().Add(time.Duration(hours * float64(time.Hour)))
	return &at
}

// two is a top of two coats whose first was poured at noon and done half an hour later.
func two() (*record.Issue, *record.Day) {
	i := &record.Issue{Surfaces: []record.Surface{{ID: "s", Name: "Ledge", Kind: "top"}}, Coats: []record.Coat{
		{ID: "a", Surface: "s", Number: 1, Tape: 20 * 60, Drips: true, Crew: []work.Person{
			{Name: "Bo", Roles: []work.Role{work.Mixer}},
			{Name: "Tess", Roles: []work.Role{work.Spreader, work.Tester}},
			{Name: "Ivo", Roles: []work.Role{work.Spreader}}}},
		{ID: "b", Surface: "s", Number: 2, Last: true, Tape: 30 * 60, Drips: true, Crew: []work.Person{
			{Name: "Runa", Roles: []work.Role{work.Mixer, work.Spreader}}}}}}
	stages := func(tack, from, until, foot float64) []record.Reached {
		return []record.Reached{{Stage: material.StageTackFree, Comes: after(tack)},
			{Stage: material.StageRecoatFrom, Comes: after(from)}, {Stage: material.StageRecoatUntil, Comes: after(until)},
			{Stage: material.StageFoot, Comes: after(foot)}, {Stage: material.StageFull, Comes: after(7 * foot)}}
	}
	d := &record.Day{Coats: []record.CoatDay{
		{ID: "a", Surface: "Ledge", Number: 1, Begun: after(0), Done: after(0.5), Away: []string{"Ivo"},
			Batches: []record.BatchDay{{Number: 1, Began: after(0)}}, Stages: stages(4, 6, 20, 18)},
		{ID: "b", Surface: "Ledge", Number: 2, Batches: []record.BatchDay{{Number: 1}}},
	}}
	return i, d
}

func told(all []Wait) string {
	words := make([]string, len(all))
	for n, w := range all {
		words[n] = fmt.Sprintf("%s %s (%s)", w.Due.Format("15:04"), w.Text, w.Otherwise)
	}
	return strings.Join(words, "\n")
}

// After a first coat its tape, drips and window are waited for, in the order of their minutes, each with what happens
// if nobody comes; once the second coat is on, only what is of that.
func TestWhatATopWaitsFor(t *testing.T) {
	i, d := two()
	all := Of(i, d, *after(0.2))
	want := []string{"12:20 pull the tape", "12:30 scrape the drips again", "16:00 cut what hangs",
		"18:00 coat 2 may go on it", "08:00 last hour for coat 2 (all of it is abraded first)"}
	if len(all) != len(want) || !slices.IsSortedFunc(all, func(a, b Wait) int { return a.Due.Compare(b.Due) }) {
		t.Fatalf("%d waits:\n%s", len(all), told(all))
	}
	for n, words := range want {
		if !strings.Contains(told(all[n:n+1]), words) {
			t.Errorf("no %q in %s", words, told(all[n:n+1]))
		}
	}
	// Whoever works on the floor and is still there pulls the tape; whoever lays the next coat comes for it.
	for n, who := range []string{"Tess", "Tess", "Tess", "Runa", "Runa"} {
		if got := strings.Join(all[n].Who, ", "); got != who {
			t.Errorf("%s: %s must be there, want %s", all[n].Text, got, who)
		}
	}
	late := told(Of(i, d, *after(3)))
	if strings.Contains(late, "pull the tape") || !strings.Contains(late, "cut what hangs") {
		t.Errorf("three hours later:\n%s", late)
	}
	i.Coats[0].Drips = false
	thin := told(Of(i, d, *after(0.2)))
	if !strings.HasPrefix(thin, "12:20 pull the tape") || strings.Contains(thin, "drips") ||
		strings.Contains(thin, "cut") {
		t.Errorf("a thin film:\n%s", thin)
	}
	d.Coats[1].Abraded = after(21)
	if abraded := told(Of(i, d, *after(22))); strings.Contains(abraded, "last hour") {
		t.Errorf("once abraded:\n%s", abraded)
	}
	d.Coats[1].Begun, d.Coats[1].Batches[0].Began = after(7), after(7)
	on := told(Of(i, d, *after(7.1)))
	if !strings.HasPrefix(on, "19:30 pull the tape") || strings.Contains(on, "coat 2 may") {
		t.Errorf("with coat 2 on it:\n%s", on)
	}
}

// A last coat waits for its uses until the surface is given for them; nobody pulls tape off the edge of a floor by it.
func TestWhatALastCoatWaitsFor(t *testing.T) {
	i, d := two()
	i.Surfaces[0].Kind, i.Coats[1].Tape, i.Coats[1].Drips = "", 0, false
	d.Coats[1] = record.CoatDay{ID: "b", Surface: "Hall", Number: 2, Begun: after(7), Done: after(8),
		Batches: []record.BatchDay{{Number: 1, Began: after(7)}},
		Stages: []record.Reached{{Stage: material.StageFoot, Comes: after(26)},
			{Stage: material.StageVehicle, Comes: after(80)}}}
	all := Of(i, d, *after(27))
	if len(all) != 2 || all[0].Text != "light foot traffic" || all[1].Text != "vehicles" ||
		all[0].Place != "Hall, coat 2" {
		t.Fatalf("\n%s", told(all))
	}
	d.Coats[1].Stages[0].Given = after(27)
	if all = Of(i, d, *after(28)); len(all) != 1 || all[0].Text != "vehicles" {
		t.Errorf("once given:\n%s", told(all))
	}
	if none := Of(i, &record.Day{Coats: []record.CoatDay{{ID: "a"}, {ID: "gone"}}}, noon()); len(none) != 0 {
		t.Errorf("nothing was begun:\n%s", told(none))
	}
	d.Coats[0].Now = []record.Say{{Do: "meet"}, {Do: "pour"}, {Do: "spread"}, {Do: "roll"}, {Do: "gate"}}
	b := BoardOf(i, *d, *after(28), measure.Metric)
	for n, part := range []work.Role{work.Mixer, work.Pourer, work.Spreader, work.Roller, ""} {
		if says := b.Coats[0].Now[n].For; part == "" && len(says) > 0 || part != "" && !slices.Contains(says, part) {
			t.Errorf("%s is for %v", b.Coats[0].Now[n].Do, says)
		}
	}
	if len(b.Waits) != 1 || len(b.Coats) != 2 {
		t.Errorf("%d waits of %d coats", len(b.Waits), len(b.Coats))
	}
}

// What dries before a step, and what is read later, stand with their minute until the first coat is begun.
func TestPreparationWaits(t *testing.T) {
	set, read, mask := work.ID("surface/s/retest/plastic-sheet"), work.ID("surface/s/retest/plastic-sheet/read"),
		work.PrepareID("s", "mask")
	gap := func(id work.ID, least, most measure.Span) []work.After {
		a := work.After{Task: id, Least: &work.Lag{Fixed: least}}
		if most > 0 {
			a.Most = &work.Lag{Fixed: most}
		}
		return []work.After{a}
	}
	i := &record.Issue{Surfaces: []record.Surface{{ID: "s", Name: "Hall"}},
		Coats: []record.Coat{{ID: "a", Surface: "s", Crew: []work.Person{
			{Name: "Bo", Roles: []work.Role{work.Preparer}}, {Name: "Tess", Roles: []work.Role{work.Tester}}}}},
		Tasks: []work.Task{{ID: set, Kind: work.Retest, Surface: "s", Name: "Tape a sheet"},
			{ID: read, Kind: work.Retest, Surface: "s", Name: "Lift the sheet",
				After: gap(set, 16*measure.Hour, 20*measure.Hour)},
			{ID: mask, Kind: work.Prepare, Surface: "s", Name: "Mask", After: gap(read, 0, 0)}}}
	day := &record.Day{Closings: []record.Closing{{Task: set, At: noon()}}, Coats: []record.CoatDay{{ID: "a"}}}
	for _, c := range []struct {
		hours float64
		want  string
	}{{1, "16h Lift the sheet"}, {17, "20h Lift the sheet: last hour"}, {21.9, "20h Lift the sheet: last hour"},
		{22.1, ""}} {
		all := []string{}
		for _, w := range Of(i, day, *after(c.hours)) {
			all = append(all, fmt.Sprintf("%.0fh %s", w.Due.Sub(noon()).Hours(), w.Text))
			if !slices.Equal(w.Who, []string{"Tess"}) {
				t.Errorf("%s: %v must be there", w.Text, w.Who)
			}
		}
		if got := strings.Join(all, ", "); got != c.want {
			t.Errorf("after %v h: %q, want %q", c.hours, got, c.want)
		}
	}
	day.Coats[0].Begun = after(1)
	day.Coats[0].Batches = []record.BatchDay{{}}
	if all := Of(i, day, *after(2)); len(all) != 0 {
		t.Errorf("a coat lies on it: %+v", all)
	}
}

// For three minutes after a pail was poured its mixer is told what is closed and cleaned, by how many parts it has.
func TestCapsAndTools(t *testing.T) {
	i, d := two()
	i.Coats[0].Batches = []record.Batch{{Card: kit.Card{Parts: make([]kit.Dose, 2)}}}
	d.Coats[0].Batches[0].State = record.Pouring
	told := func(hours float64) string {
		day := *d
		day.Coats = slices.Clone(d.Coats)
		for _, s := range BoardOf(i, day, *after(hours), measure.Metric).Coats[0].Now {
			if s.Do == "clean" {
				return s.Text + ": " + string(s.For[0])
			}
		}
		return ""
	}
	if got := told(0.02); !strings.Contains(got, "caps back on A and B") || !strings.HasSuffix(got, "mixer") {
		t.Errorf("after a minute: %q", got)
	}
	if got := told(0.06); got != "" {
		t.Errorf("after almost four minutes: %q", got)
	}
	i.Coats[0].Batches[0].Card.Parts = make([]kit.Dose, 1)
	if got := told(0.02); !strings.Contains(got, "lid back on") {
		t.Errorf("of one part: %q", got)
	}
}
