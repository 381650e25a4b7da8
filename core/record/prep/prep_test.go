package prep

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/core/school"
	"nephelon/core/survey"
	"nephelon/core/work"
)

func at(hours float64) time.Time {
	return time.Date(2031, 3, 4, 8, 0, 0, 0, time.UTC).Add(time.Duration(hours * float64(time.Hour)))
}

func step(name string) work.ID { return work.PrepareID("s", name) }

func retest(name string) work.ID { return work.ID("surface/s/retest/" + name) }

// hall is a slab that is wetted, etched, rinsed, neutralised, rinsed again and dried for 16 h, tested with a drop of
// water and paper for its pH, and masked once both pass; a sheet is taped down for 16 h beside that. A night belongs
// to no surface of the plan.
func hall() *record.Issue {
	i := &record.Issue{Surfaces: []record.Surface{{ID: "s", Name: "Hall"}}}
	add := func(id work.ID, kind work.Kind, closes string, after ...work.After) {
		i.Tasks = append(i.Tasks, work.Task{ID: id, Kind: kind, Name: string(id), Surface: "s", Closes: closes, After: after})
	}
	after := func(id work.ID, hours float64) work.After {
		return work.After{Task: id, Least: &work.Lag{Fixed: measure.Span(hours) * measure.Hour}}
	}
	add(step("wet"), work.Prepare, "dark")
	add(step("etch"), work.Prepare, "no fizz", after(step("wet"), 0))
	add(step("rinse"), work.Prepare, "clear", after(step("etch"), 0))
	add(step("neutralise"), work.Prepare, "no fizz", after(step("rinse"), 0))
	add(step("rinse-again"), work.Prepare, "pH", after(step("neutralise"), 0))
	dry := after(step("rinse-again"), 16)
	add(retest("water-drop"), work.Retest, "soaks in", dry)
	add(retest("ph"), work.Retest, "in range", dry)
	add(retest("plastic-sheet"), work.Retest, "", dry)
	read := after(retest("plastic-sheet"), 16)
	read.Most = &work.Lag{Fixed: 24 * measure.Hour}
	add(retest("plastic-sheet/read"), work.Retest, "dry", read)
	add(step("mask"), work.Prepare, "no gap", after(retest("water-drop"), 0), after(retest("ph"), 0))
	i.Tasks = append(i.Tasks, work.Task{ID: "surface/t/prepare/wet", Kind: work.Prepare, Surface: "t"},
		work.Task{ID: "coat/c/pour", Kind: work.Pour, Surface: "s"})
	return i
}

// closed are closings, each "hours step", a test's with "!" where it failed.
func closed(all ...string) *record.Day {
	d := &record.Day{}
	for _, text := range all {
		when, id := 0.0, ""
		if _, err := fmt.Sscan(text, &when, &id); err != nil {
			panic(err)
		}
		name, failed := strings.CutPrefix(id, "!")
		task := step(name)
		if slices.ContainsFunc(hall().Tasks, func(t work.Task) bool { return t.ID == retest(name) }) {
			task = retest(name)
		}
		d.Closings = append(d.Closings, record.Closing{Task: task, At: at(when), By: "Rolf", Saw: "so", Failed: failed})
	}
	return d
}

// states are the steps with their states, without what is common to them.
func states(d *record.Day, now float64) string {
	var all []string
	for _, s := range Of(hall(), d, at(now)) {
		name := s.Name[strings.LastIndex(s.Name, "/")+1:]
		all = append(all, name+" "+string(s.State))
	}
	return strings.Join(all, ", ")
}

// The order of the work opens one step after the other; drying is waited for.
func TestStepsInTheirOrder(t *testing.T) {
	all := []string{"0 wet", "1 etch", "2 rinse", "3 neutralise", "4 rinse-again"}
	tail := ", mask blocked"
	for _, c := range []struct {
		d    *record.Day
		now  float64
		want string
	}{
		{&record.Day{}, 0, "wet ready, etch blocked, rinse blocked, neutralise blocked, rinse-again blocked, water-drop " +
			"blocked, ph blocked, plastic-sheet blocked, read blocked" + tail},
		{closed(all[:2]...), 1.5, "wet closed, etch closed, rinse ready, neutralise blocked, rinse-again blocked, " +
			"water-drop blocked, ph blocked, plastic-sheet blocked, read blocked" + tail},
		{closed(all...), 19.9, "wet closed, etch closed, rinse closed, neutralise closed, rinse-again closed, water-drop " +
			"waits, ph waits, plastic-sheet waits, read blocked" + tail},
		{closed(append(all, "20 water-drop", "20.5 ph", "20.5 plastic-sheet")...), 21, "wet closed, etch closed, rinse " +
			"closed, neutralise closed, rinse-again closed, water-drop closed, ph closed, plastic-sheet closed, read waits, " +
			"mask ready"},
	} {
		if got := states(c.d, c.now); got != c.want {
			t.Errorf("at %v:\n%s, want\n%s", c.now, got, c.want)
		}
	}
	steps := Of(hall(), closed(append(all, "20 plastic-sheet")...), at(37))
	read := steps[8]
	if read.State != Ready || !read.From.Equal(at(36)) || !read.Until.Equal(at(44)) || !read.Test || steps[7].Test {
		t.Errorf("%+v", read)
	}
	if steps[4].By != "Rolf" || steps[4].Saw != "so" || steps[4].Place != "Hall" {
		t.Errorf("%+v", steps[4])
	}
}

// Who is at a step is told until it is closed.
func TestWhoIsAtIt(t *testing.T) {
	d := &record.Day{Hours: []record.Worked{{Person: "Ada", Task: string(step("wet")), From: at(0)}}}
	if s := Of(hall(), d, at(0.2))[0]; s.State != UnderWay || len(s.Who) != 1 {
		t.Errorf("%+v", s)
	}
	ended := at(0.1)
	d.Hours[0].To = &ended
	if s := Of(hall(), d, at(0.2))[0]; s.State != Ready {
		t.Errorf("nobody is at it any more: %+v", s)
	}
	d.Hours[0].To = nil
	d.Closings = closed("0.5 wet").Closings
	if s := Of(hall(), d, at(0.6))[0]; s.State != Closed || len(s.Who) != 0 {
		t.Errorf("%+v", s)
	}
}

// A test that fails has done again what it shows, and itself; what others passed in between stays.
func TestAFailedTestHasWorkDoneAgain(t *testing.T) {
	all := []string{"0 wet", "1 etch", "2 rinse", "3 neutralise", "4 rinse-again"}
	d := closed(append(all, "20 water-drop", "20.5 !ph")...)
	want := "wet closed, etch closed, rinse closed, neutralise closed, rinse-again ready, water-drop closed, ph " +
		"blocked, plastic-sheet blocked, read blocked, mask blocked"
	if got := states(d, 21); got != want {
		t.Errorf("%s, want\n%s", got, want)
	}
	if s := Of(hall(), d, at(21))[4]; !strings.Contains(s.Again, "rinse again") {
		t.Errorf("%+v", s)
	}
	d = closed(append(all, "20 water-drop", "20.5 !ph", "22 rinse-again")...)
	if s := Of(hall(), d, at(23))[6]; s.State != Waits || !s.From.Equal(at(38)) {
		t.Errorf("the test after it: %+v", s)
	}
	// Water that stays a pearl: from wetting on, all of it.
	d = closed(append(all, "20 !water-drop")...)
	want = "wet ready, etch blocked, rinse blocked, neutralise blocked, rinse-again blocked, water-drop blocked, ph " +
		"blocked, plastic-sheet blocked, read blocked, mask blocked"
	if got := states(d, 21); got != want {
		t.Errorf("%s, want\n%s", got, want)
	}
	// A damp slab: the sheet is set again, nothing else.
	d = closed(append(all, "20 water-drop", "20 ph", "20 plastic-sheet", "36 !plastic-sheet/read")...)
	want = "wet closed, etch closed, rinse closed, neutralise closed, rinse-again closed, water-drop closed, ph closed, " +
		"plastic-sheet ready, read blocked, mask ready"
	if got := states(d, 37); got != want {
		t.Errorf("%s, want\n%s", got, want)
	}
}

// However a surface is opened, a test that fails finds the step that opens it.
func TestEveryOpeningCanBeDoneAgain(t *testing.T) {
	for _, o := range school.Opening("").Values() {
		p := survey.Prepare(survey.Survey{Substrate: survey.Concrete}, survey.Extent{Area: 100, Perimeter: 40, People: 2},
			school.Methods{Opening: o}, nil)
		for _, verdict := range []string{"profile", "pull-off", "water-drop"} {
			steps, _ := redone(verdict)
			if !slices.ContainsFunc(p.Tasks, func(t survey.PreparationTask) bool { return slices.Contains(steps, t.ID) }) {
				t.Errorf("%s opens by none of %v", o, steps)
			}
		}
	}
}

// Worked by hand against the limits of a survey; a value on a limit fits.
func TestAReadingIsJudged(t *testing.T) {
	at := func(v float64) *float64 { return &v }
	tests := map[string]struct {
		ask   record.Ask
		value float64
		want  Judged
	}{
		"wet": {record.Ask{What: "humidity in the slab", Kind: measure.KindFraction, Most: at(0.8), From: "sheet of Tern"},
			0.81, Judged{false, "humidity in the slab: 81%; at most 80% (sheet of Tern)"}},
		"on the limit": {record.Ask{What: "humidity in the slab", Kind: measure.KindFraction, Most: at(0.8),
			From: "sheet of Tern"}, 0.8, Judged{true, "humidity in the slab: 80%; at most 80% (sheet of Tern)"}},
		"alkaline": {record.Ask{What: "pH", Kind: measure.KindNumber, Least: at(6), Most: at(9), From: "ASTM D4262"},
			11, Judged{false, "pH: 11; 6 to 9 (ASTM D4262)"}},
		"acid": {record.Ask{What: "pH", Kind: measure.KindNumber, Least: at(6), Most: at(9), From: "ASTM D4262"},
			5.9, Judged{false, "pH: 5.9; 6 to 9 (ASTM D4262)"}},
		"on the least": {record.Ask{What: "pH", Kind: measure.KindNumber, Least: at(6), Most: at(9), From: "ASTM D4262"},
			6, Judged{true, "pH: 6; 6 to 9 (ASTM D4262)"}},
		"weak": {record.Ask{What: "pull-off strength", Kind: measure.KindPressure, Least: at(1.5e6), From: "practice"},
			1.6e6, Judged{true, "pull-off strength: 1.6 MPa; at least 1.5 MPa (practice)"}},
	}
	for name, test := range tests {
		got := Judge(&test.ask, test.value, measure.Metric)
		got.Text = strings.NewReplacer("\u202f", " ", "\u00a0", " ").Replace(got.Text)
		if got != test.want {
			t.Errorf("%s: %+v, want %+v", name, got, test.want)
		}
	}
}
