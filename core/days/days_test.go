package days

import (
	"context"
	"encoding/json"
	"os"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/facts"

	"nephelon/core/buildup"
	"nephelon/core/climate"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/core/plan/stage"
	"nephelon/core/roster"
	"nephelon/core/roster/search"
	"nephelon/core/school"
	"nephelon/core/survey"
	"nephelon/core/work"
)

func demo(t testing.TB, name string, now time.Time, change func(*job.Job)) Job {
	t.Helper()
	text, err := os.ReadFile("../../demo/jobs/" + name + ".nephelon.json")
	if err != nil {
		t.Fatal(err)
	}
	var f job.File
	if err := json.Unmarshal(text, &f); err != nil {
		t.Fatal(err)
	}
	f.Job.Start, f.Job.Forecast = "", nil
	if change != nil {
		change(&f.Job)
	}
	return Job{ID: name, File: f, Plan: plan.Make(f, measure.Metric, now),
		Films: stage.FilmsOf(f, facts.At(now), measure.Metric, 0),
		Cool:  stage.FilmsOf(f, facts.At(now), measure.Metric, Cooler)}
}

func solved(t *testing.T, c *Calendar, before []Booked) map[string]Booked {
	t.Helper()
	o := c.Options()
	o.Rounds = 60
	p, err := search.Solve(context.Background(), c.Problem, o)
	if err != nil {
		t.Fatal(err)
	}
	all := c.Booked(p, before)
	if broken := c.Check(all); len(broken) > 0 {
		t.Fatalf("a plan that does not hold: %+v", broken)
	}
	by := make(map[string]Booked)
	for _, b := range all {
		by[b.Task] = b
	}
	return by
}

// solvedAll are the bookings of several jobs.
func solvedAll(t *testing.T, c *Calendar, before []Booked) []Booked {
	t.Helper()
	o := c.Options()
	o.Rounds = 60
	p, err := search.Solve(context.Background(), c.Problem, o)
	if err != nil {
		t.Fatal(err)
	}
	return c.Booked(p, before)
}

func list(by map[string]Booked) []Booked {
	var all []Booked
	for _, b := range by {
		all = append(all, b)
	}
	return all
}

var monday = time.Date(2026, 11, 30, 6, 0, 0, 0, time.UTC)

// The hall by hand: its coats lie inside shifts; the second is opened by the sheet of the
// first, 8 h after that is laid at 20 °C, and closed 26 h after it was begun, each less
// what is set up and looked over before the first pail.
func TestCoatsLieInShiftsAndWindows(t *testing.T) {
	j := demo(t, "baggage-hall", monday, nil)
	c := Build(job.House{}, []Job{j}, nil, monday, 4)
	by := solved(t, c, nil)
	first, second := by["coat/hall-1/pour"], by["coat/hall-2/pour"]
	for _, b := range by {
		if b.Crew == "" {
			continue
		}
		if h := b.From.Hour()*60 + b.From.Minute(); h < 7*60 || h >= 16*60 || b.From.Weekday() == time.Saturday ||
			b.From.Weekday() == time.Sunday {
			t.Errorf("%s begins %v", b.Task, b.From)
		}
	}
	if first.Until.Day() != first.From.Day() || !second.From.After(first.Until.Add(7*time.Hour)) {
		t.Errorf("%v to %v, then %v", first.From, first.Until, second.From)
	}
	var looks [2]work.Task
	for _, task := range j.Plan.Tasks {
		switch task.ID {
		case "coat/hall-1/check":
			looks[0] = task
		case "coat/hall-2/check":
			looks[1] = task
		}
	}
	set := func(n int) time.Duration {
		return 30*time.Minute + duration(looks[n].Effort)/time.Duration(j.File.Job.Crew.People())
	}
	window := c.Allowed(list(by))["baggage-hall/coat/hall-2/pour"]
	laid := first.Until.Add(-30 * time.Minute)
	// The surface is looked over once it can be coated, when all is set up.
	if opens := laid.Add(8*time.Hour - 30*time.Minute); window.Opens.Sub(opens).Abs() > time.Second {
		t.Errorf("opens %v, not %v", window.Opens, opens)
	}
	if closes := first.From.Add(set(0) + 26*time.Hour - set(1)); window.Closes.Sub(closes).Abs() > time.Second {
		t.Errorf("closes %v, not %v", window.Closes, closes)
	}
	// Ready for feet 20 h after the last coat is laid; then the two who laid it pull its tape.
	last, behind := by["coat/hall-3/pour"], 30*time.Minute
	for _, task := range j.Plan.Tasks {
		if task.Kind == work.Unmask && task.After[0].Task == work.ID(last.Task) {
			behind += duration(task.Effort) / 2
		}
	}
	if behind == 30*time.Minute {
		t.Error("nobody pulls the tape")
	}
	for _, p := range c.Promises(list(by)) {
		if p.Surface == "Baggage hall" && p.Stage == "foot" && p.At.Sub(last.Until.Add(20*time.Hour-behind)).Abs() >
			time.Second {
			t.Errorf("feet on it %v, laid %v", p.At, last.Until)
		}
	}
}

// In a heat wave films are ready sooner, and their windows close sooner: through the
// forecast, not at the slab planned for.
func TestAHeatWaveMovesTheWindows(t *testing.T) {
	window := func(air measure.Temperature) Allowed {
		j := demo(t, "baggage-hall", monday, func(f *job.Job) {
			f.Forecast = &job.Forecast{Place: "Site", Told: monday}
			for h := range 240 {
				f.Forecast.Hours = append(f.Forecast.Hours, climate.Hour{At: monday.Add(time.Duration(h) * time.Hour), Air: air,
					Humidity: 0.4})
			}
		})
		c := Build(job.House{}, []Job{j}, nil, monday, 4)
		at := time.Date(2026, 12, 1, 8, 0, 0, 0, time.UTC)
		return c.Allowed([]Booked{{Job: j.ID, Task: "coat/hall-1/pour", Crew: "crew", From: at,
			Until: at.Add(3 * time.Hour)}})["baggage-hall/coat/hall-2/pour"]
	}
	cool, hot := window(18), window(30)
	if !hot.Opens.Before(*cool.Opens) || !hot.Closes.Before(*cool.Closes) {
		t.Errorf("cool %v to %v, hot %v to %v", cool.Opens, cool.Closes, hot.Opens, hot.Closes)
	}
}

// A sick day: what was booked on it is named, and planned anew around what is pinned and
// what has begun.
func TestASickDayIsRepaired(t *testing.T) {
	j := demo(t, "lamp-room", monday, nil)
	by := solved(t, Build(job.House{}, []Job{j}, nil, monday, 4), nil)
	booked := list(by)
	second := by["coat/lamp-2/pour"]
	sick := job.House{Crews: []job.StandingCrew{{ID: "crew", Name: "Quay crew", People: 2,
		Skills: []work.Skill{work.Grinding, work.Acids, work.Mixing, work.Spreads},
		Off: []job.Leave{{From: second.From.Format(time.DateOnly), Until: second.From.Format(time.DateOnly),
			Why: "sick"}}}}}
	// The first coat is laid already when the news comes.
	now := by["coat/lamp-1/pour"].Until.Add(time.Hour)
	c := Build(sick, []Job{j}, booked, now, 4)
	broken := c.Check(booked)
	if len(broken) == 0 || !strings.Contains(broken[0].Text, "Quay crew does not work") {
		t.Fatalf("%+v", broken)
	}
	again := solved(t, c, booked)
	if !reflect.DeepEqual(again["coat/lamp-1/pour"], by["coat/lamp-1/pour"]) {
		t.Error("what is done was moved")
	}
	if got := again["coat/lamp-2/pour"]; got.From.Day() == second.From.Day() {
		t.Errorf("still on the sick day: %v", got.From)
	}
	moves := c.Moves(booked, list(again))
	if !slices.ContainsFunc(moves, func(m Move) bool {
		return m.Task == second.Task && strings.Contains(m.Text, "does not work") && m.From.Equal(second.From)
	}) {
		t.Errorf("moved: %+v", moves)
	}
}

// The night in which the clock is put back: shifts begin at seven by the clock on both
// sides of it.
func TestShiftsOverTheClockChange(t *testing.T) {
	zone, err := time.LoadLocation("Europe/Oslo")
	if err != nil {
		t.Fatal(err)
	}
	from := time.Date(2026, 10, 23, 0, 0, 0, 0, zone)
	all := job.ShiftsOf(job.House{}, job.CrewsOf(job.House{})[0], from, from.AddDate(0, 0, 5), zone)
	if len(all) != 3 || all[0].From.UTC().Hour() != 5 || all[1].From.UTC().Hour() != 6 ||
		all[1].From.In(zone).Hour() != 7 {
		t.Errorf("%v", all)
	}
}

// A drag is refused with its reason: before the film is ready, after its window, at night.
func TestWhyNotThere(t *testing.T) {
	j := demo(t, "baggage-hall", monday, nil)
	c := Build(job.House{}, []Job{j}, nil, monday, 4)
	by := solved(t, c, nil)
	second := by["coat/hall-2/pour"]
	window := c.Allowed(list(by))["baggage-hall/coat/hall-2/pour"]
	why := func(from time.Time) string { return c.Why(list(by), j.ID, second.Task, "crew", from) }
	for words, from := range map[string]time.Time{
		"ready": window.Opens.Add(-time.Hour), "closes": window.Closes.Add(time.Hour),
		"does not work": time.Date(2026, 12, 2, 6, 0, 0, 0, time.UTC), "past": monday.AddDate(0, 0, -1),
	} {
		if got := why(from); !strings.Contains(got, words) {
			t.Errorf("%v: %q, not %q", from, got, words)
		}
	}
	if got := why(second.From); got != "" {
		t.Errorf("where it is booked: %q", got)
	}
	legal := c.Places(list(by), j.ID, second.Task)
	if len(legal) == 0 || legal[0].From.Before(*window.Opens) || legal[len(legal)-1].Until.After(*window.Closes) {
		t.Errorf("%v outside %v to %v", legal, window.Opens, window.Closes)
	}
}

// Home shows what is left of today, or else the next day on which somebody works.
func TestNextIsTodayOrTheNextDay(t *testing.T) {
	at := func(day, hour int) time.Time { return time.Date(2026, 12, day, hour, 0, 0, 0, time.UTC) }
	booked := []Booked{{Task: "over", From: at(1, 7), Until: at(1, 9)},
		{Task: "running", From: at(1, 9), Until: at(1, 12)}, {Task: "later", From: at(1, 13), Until: at(1, 15)},
		{Task: "monday", From: at(4, 7), Until: at(4, 9)}}
	tasks := func(now time.Time) string {
		text := ""
		for _, b := range Next(booked, now) {
			text += b.Task + " "
		}
		return text
	}
	for now, want := range map[time.Time]string{at(1, 10): "running later ", at(1, 16): "monday ", at(5, 0): ""} {
		if got := tasks(now); got != want {
			t.Errorf("%v: %q", now, got)
		}
	}
}

// A job that fits nowhere is left out with its reason, and the others are planned: a pour
// longer than any shift, skills that nobody has. Where somebody works only on Mondays,
// windows close in between, and are bought off by abrading.
func TestWhatFitsNowhereKeepsNobodyElse(t *testing.T) {
	slow := demo(t, "lamp-room", monday, func(f *job.Job) { f.Crew.Pace.Value /= 40 })
	slow.ID = "slow"
	fine := demo(t, "lamp-room", monday, nil)
	closes := demo(t, "baggage-hall", monday, func(f *job.Job) {
		f.Surfaces = f.Surfaces[:1]
	})
	closes.ID = "closes"
	h := job.House{Hours: &job.Hours{Days: []job.Weekday{job.Monday}, From: "07:00", Until: "16:00"}}
	c := Build(h, []Job{slow, fine, closes}, nil, monday, 8)
	o := c.Options()
	o.Rounds = 30
	p, err := c.Plan(t.Context(), o)
	if err != nil {
		t.Fatal(err)
	}
	left := make(map[string]string)
	for _, l := range c.Left {
		left[l.Job] = l.Text
	}
	if !strings.Contains(left["slow"], "in one go") || left["lamp-room"] != "" {
		t.Errorf("%v", left)
	}
	booked := c.Booked(p, nil)
	abraded := 0
	for _, b := range booked {
		if b.Bought && b.Job == "closes" {
			abraded++
		}
	}
	if broken := c.Check(booked); len(broken) != 0 || abraded != 2 {
		t.Errorf("%d windows bought off, %+v", abraded, broken)
	}
	nobody := job.House{Crews: []job.StandingCrew{{ID: "a", Name: "Tape crew", People: 1,
		Skills: []work.Skill{work.Grinding}}}}
	if c = Build(nobody, []Job{fine}, nil, monday, 4); len(c.Left) != 1 || !strings.Contains(c.Left[0].Text, "mixing") {
		t.Errorf("%+v", c.Left)
	}
}

// Windows are rounded inwards: a coat opens at the slot after its film is ready, and
// closes at the one before its window does.
func TestGapsAreRoundedInwards(t *testing.T) {
	j := demo(t, "baggage-hall", monday, func(f *job.Job) {
		f.Slab = &measure.Sourced[measure.Temperature]{Value: 18.7, Source: measure.OwnTest}
	})
	c := Build(job.House{}, []Job{j}, nil, monday, 4)
	at := time.Date(2026, 12, 1, 7, 0, 0, 0, time.UTC)
	ends := c.floor(at.Add(3 * time.Hour))
	window := c.Allowed([]Booked{{Job: j.ID, Task: "coat/hall-1/pour", Crew: "crew", From: at,
		Until: c.time(ends)}})["baggage-hall/coat/hall-2/pour"]
	opens, closes := time.Time{}, time.Time{}
	for _, task := range c.Problem.Jobs[0].Tasks {
		for _, a := range task.After {
			if task.ID != "coat/hall-2/pour" || a.Task != "coat/hall-1/pour" {
				continue
			}
			mark := ends
			if a.From == roster.Start {
				mark = c.floor(at)
			}
			if a.MinAt != nil && opens.Before(c.time(mark+a.MinAt(mark))) {
				opens = c.time(mark + a.MinAt(mark))
			}
			if a.MaxAt != nil {
				closes = c.time(mark + a.MaxAt(mark))
			}
		}
	}
	if opens.Before(*window.Opens) || opens.Sub(*window.Opens) >= c.slot || closes.After(*window.Closes) ||
		window.Closes.Sub(closes) >= c.slot || closes.Equal(*window.Closes) {
		t.Errorf("%v to %v of %v to %v", opens, closes, window.Opens, window.Closes)
	}
}

// Nobody works on a public holiday, and nobody coats in hours that the forecast forbids.
func TestHolidaysAndFoulHours(t *testing.T) {
	h := job.House{Holidays: []job.Leave{{From: "2026-12-01", Until: "2026-12-02"}}}
	for _, s := range job.ShiftsOf(h, job.CrewsOf(h)[0], monday, monday.AddDate(0, 0, 5), time.UTC) {
		if d := s.From.Day(); d == 1 || d == 2 {
			t.Errorf("a shift on the %d", d)
		}
	}
	c := Build(job.House{}, nil, nil, monday, 2)
	foul := monday.Add(4 * time.Hour)
	windows := c.fair(&stage.SurveyPlan{Hours: []climate.Judged{{At: foul.Add(-time.Hour), State: climate.Go},
		{At: foul, State: climate.Stop}, {At: foul.Add(time.Hour), State: climate.Wait},
		{At: foul.Add(2 * time.Hour), State: climate.Go}}})
	if len(windows) != 2 || c.time(windows[0].Until) != foul || c.time(windows[1].From) != foul.Add(2*time.Hour) {
		t.Errorf("%+v", windows)
	}
	if c.fair(&stage.SurveyPlan{Hours: []climate.Judged{{At: foul, State: climate.Go}}}) != nil {
		t.Error("windows in fair weather")
	}
}

// What no longer holds is named: a coat after its window, a crew that is wanted twice; and
// a job that is due is late from the day after.
func TestWhatNoLongerHolds(t *testing.T) {
	j := demo(t, "baggage-hall", monday, func(f *job.Job) { f.Due = "2026-12-04" })
	c := Build(job.House{}, []Job{j}, nil, monday, 4)
	// midnight in Oslo
	if due := c.Problem.Jobs[0].Due; due == nil || !c.time(*due).Equal(time.Date(2026, 12, 4, 23, 0, 0, 0, time.UTC)) {
		t.Errorf("due %v", due)
	}
	at := func(day, hour int) time.Time { return time.Date(2026, 12, day, hour, 0, 0, 0, time.UTC) }
	first := Booked{Job: j.ID, Task: "coat/hall-1/pour", Crew: "crew", From: at(1, 7), Until: at(1, 13)}
	second := Booked{Job: j.ID, Task: "coat/hall-2/pour", Crew: "crew", From: at(4, 7), Until: at(4, 12)}
	text := func(booked ...Booked) string {
		all := ""
		for _, b := range c.Check(booked) {
			all += b.Text + "\n"
		}
		return all
	}
	if got := text(first, second); !strings.Contains(got, "its window closes") {
		t.Errorf("after its window: %q", got)
	}
	second.Bought = true
	if got := text(first, second); got != "" {
		t.Errorf("abraded first: %q", got)
	}
	other := Booked{Job: j.ID, Task: "coat/cor-1/pour", Crew: "crew", From: at(1, 9), Until: at(1, 11)}
	if got := text(first, other); !strings.Contains(got, "something else") {
		t.Errorf("wanted twice: %q", got)
	}
}

// A window closes by what was laid first: where a coat is laid in sections over two days,
// it counts from the first of them, not from the last.
func TestAWindowCountsFromTheFirstSection(t *testing.T) {
	j := demo(t, "baggage-hall", monday, func(f *job.Job) { f.Methods.Session = school.TapeLines })
	c := Build(job.House{}, []Job{j}, nil, monday, 4)
	window := func(from, until time.Time) Allowed {
		return c.Allowed([]Booked{{Job: j.ID, Task: "coat/hall-1/pour", Crew: "crew", From: from,
			Until: until}})["baggage-hall/coat/hall-2/pour"]
	}
	at := func(day, hour int) time.Time { return time.Date(2026, 12, day, hour, 0, 0, 0, time.UTC) }
	once, over := window(at(1, 14), at(1, 16)), window(at(1, 14), at(2, 9))
	if !over.Closes.Equal(*once.Closes) || !over.Opens.After(*once.Opens) {
		t.Errorf("%v to %v in one go, %v to %v over a night", once.Opens, once.Closes, over.Opens, over.Closes)
	}
}

// A coat that is poured over another while it flows is one session with it: one setting
// up, both pours one after the other, and what comes after counts from the upper one.
func TestACoatPouredWetIsOneSession(t *testing.T) {
	apart := demo(t, "baggage-hall", monday, nil)
	wet := demo(t, "baggage-hall", monday, func(f *job.Job) { f.Surfaces[0].Coats[1].OverWet = true })
	find := func(j Job, id work.ID) *block {
		_, of := blocks(j)
		return of[id]
	}
	lower, upper := find(apart, "coat/hall-1/pour"), find(apart, "coat/hall-2/pour")
	both := find(wet, "coat/hall-1/pour")
	if both == nil || lower == upper || len(both.parts) != 2 {
		t.Fatalf("%+v", both)
	}
	pours := duration(both.parts[0].Takes) + duration(both.parts[1].Takes)
	if set := both.starts["coat/hall-1/pour"]; both.lasts != set+pours+cleaningUp ||
		both.starts["coat/hall-2/pour"] != set+duration(both.parts[0].Takes) ||
		both.behind("coat/hall-2/pour") != cleaningUp {
		t.Errorf("%v for %v: %v", both.lasts, pours, both.starts)
	}
	c := Build(job.House{}, []Job{wet}, nil, monday, 4)
	by := solved(t, c, nil)
	if _, there := by["coat/hall-2/pour"]; there {
		t.Error("the upper coat is booked by itself")
	}
	third := by["coat/hall-3/pour"]
	// 10 h after the upper one is laid, less what is set up
	if ready := by["coat/hall-1/pour"].Until.Add(9 * time.Hour); third.From.Before(ready) {
		t.Errorf("coat 3 at %v, ready %v", third.From, ready)
	}
}

// What is under way holds its crew until it is done; a crew that is too small is not given
// a pour, and a job for more people than any crew has is left out.
func TestCrewsAreFreeAndLargeEnough(t *testing.T) {
	j := demo(t, "baggage-hall", monday, nil) // three people
	all := []work.Skill{work.Grinding, work.Acids, work.Mixing, work.Spreads}
	h := job.House{Crews: []job.StandingCrew{{ID: "two", Name: "Quay two", People: 2, Skills: all},
		{ID: "three", Name: "Quay three", People: 3, Skills: all}}}
	by := solved(t, Build(h, []Job{j}, nil, monday, 4), nil)
	_, of := blocks(j)
	large := 0
	for _, b := range by {
		if of[work.ID(b.Task)].people == 3 {
			large++
			if b.Crew != "three" {
				t.Errorf("%s by %s", b.Task, b.Crew)
			}
		}
	}
	if large < 5 {
		t.Errorf("%d tasks for three", large)
	}
	// until Tuesday noon
	begun := Booked{Job: "elsewhere", Task: "t", Crew: "three", From: monday, Until: monday.Add(30 * time.Hour)}
	for _, b := range solved(t, Build(h, []Job{j}, []Booked{begun}, monday.Add(time.Hour), 4), []Booked{begun}) {
		if b.Crew == "three" && b.From.Before(begun.Until) {
			t.Errorf("%s at %v", b.Task, b.From)
		}
	}
	h.Crews = h.Crews[:1]
	if c := Build(h, []Job{j}, nil, monday, 4); len(c.Left) != 1 || !strings.Contains(c.Left[0].Text, "3 people") {
		t.Errorf("%+v", c.Left)
	}
}

func TestFaultyBookings(t *testing.T) {
	good := Booked{Job: "j", Task: "t", From: monday, Until: monday.Add(time.Hour)}
	back, long := good, good
	back.Task, back.Until = "back", monday.Add(-time.Hour)
	long.Task, long.Until = "long", monday.AddDate(1, 0, 0)
	if _, text := Fault([]Booked{good}); text != "" {
		t.Error(text)
	}
	for words, other := range map[string]Booked{"before it begins": back, "sixty days": long, "twice": good} {
		if at, text := Fault([]Booked{good, other}); at != 1 || !strings.Contains(text, words) {
			t.Errorf("%d: %q, not %q", at, text, words)
		}
	}
}

// On a hot slab, by hand through the sheet of the first coat: at 30 °C it can be coated
// after 4 h and until 13 h; at 35 °C, beyond its points by the activation energy that fits
// them, after 2.869 h and until 9.373 h (worked out apart, in Python).
func TestAHotSlab(t *testing.T) {
	for at, want := range map[measure.Temperature][2]float64{30: {4, 13}, 35: {2.868766, 9.373173}} {
		j := demo(t, "baggage-hall", monday, func(f *job.Job) {
			f.Slab = &measure.Sourced[measure.Temperature]{Value: at, Source: measure.OwnTest}
		})
		laid := monday.Add(3 * time.Hour)
		for n, stage := range []material.StageKey{material.StageRecoatFrom, material.StageRecoatUntil} {
			if after, known := j.Films.After("hall-1", stage, laid); !known || duration(after).Hours()-want[n] > 1e-3 ||
				want[n]-duration(after).Hours() > 1e-3 {
				t.Errorf("%v °C: %s after %v h, by hand %v", at, stage, duration(after).Hours(), want[n])
			}
		}
	}
}

// A window over a weekend: the corridor's first coat can be covered for 48 h and its second
// for 30. Begun on a Friday, the second could only follow on Monday, when the first has
// closed: so the first waits for Monday, and nothing is abraded.
func TestNothingClosesOverAWeekend(t *testing.T) {
	friday := time.Date(2026, 12, 4, 12, 0, 0, 0, time.UTC)
	j := demo(t, "baggage-hall", friday, func(f *job.Job) { f.Surfaces = f.Surfaces[1:] })
	by := solved(t, Build(job.House{}, []Job{j}, nil, friday, 4), nil)
	first, second := by["coat/cor-1/pour"], by["coat/cor-2/pour"]
	if first.From.Weekday() != time.Monday || first.Bought || second.Bought || second.From.Sub(first.From) > 48*time.Hour {
		t.Errorf("%v, then %v", first.From, second.From)
	}
	// With a Saturday it is begun then, not on Friday: the third coat cannot follow the
	// second before Sunday, and that closes 30 h after it; so the second waits for Monday,
	// and the first closes 48 h after it is begun.
	h := job.House{Hours: &job.Hours{Days: []job.Weekday{job.Monday, job.Tuesday, job.Wednesday, job.Thursday, job.Friday,
		job.Saturday}, From: "07:00", Until: "16:00"}}
	by = solved(t, Build(h, []Job{j}, nil, friday, 4), nil)
	if first = by["coat/cor-1/pour"]; !first.From.Equal(time.Date(2026, 12, 5, 7, 0, 0, 0, time.UTC)) ||
		!by["coat/cor-2/pour"].From.Equal(time.Date(2026, 12, 7, 7, 0, 0, 0, time.UTC)) {
		t.Errorf("with a Saturday on %v", first.From)
	}
}

// What a site asks: nobody before a day, in hours of its own, nothing loud at noon, and
// nothing before what it takes is there. The plan keeps to it, and a check tells what does not.
func TestWhatASiteAsks(t *testing.T) {
	now := time.Date(2026, 11, 30, 6, 0, 0, 0, time.UTC) // a Monday
	j := demo(t, "baggage-hall", now, func(j *job.Job) {
		j.Zone, j.Earliest = "UTC", "2026-12-02"
		j.Hours = &job.Hours{Days: []job.Weekday{job.Monday, job.Tuesday, job.Wednesday, job.Thursday, job.Friday},
			From: "09:00", Until: "15:00"}
		j.Quiet = []job.Break{{From: "11:00", Until: "13:00"}}
	})
	first := j.File.Job.Surfaces[0].Coats[0]
	pour := string(work.PourID(first.ID))
	j.File.Job.Awaited = []job.Delivery{{Product: first.Product, Hardener: first.Hardener, On: "2026-12-08"}}
	c := Build(job.House{}, []Job{j}, nil, now, 6)
	if len(c.Left) > 0 {
		t.Fatalf("%+v", c.Left)
	}
	by := solved(t, c, nil)
	loudAt := 0
	for _, b := range by {
		task := c.Tasks[c.index[b.key()]]
		if b.From.Before(time.Date(2026, 12, 2, 0, 0, 0, 0, time.UTC)) {
			t.Errorf("%s begins %v, before the client lets anybody in", task.Name, b.From)
		}
		if !task.Passing && (b.From.Hour() < 9 || b.Until.After(midnight(b.Until, time.UTC).Add(15*time.Hour))) {
			t.Errorf("%s from %v to %v, outside of the site's hours", task.Name, b.From, b.Until)
		}
		if b.Task == pour && b.From.Before(time.Date(2026, 12, 9, 0, 0, 0, 0, time.UTC)) {
			t.Errorf("%s begins %v, before its resin is there", task.Name, b.From)
		}
		if task.Kind == work.Prepare && strings.Contains(task.Name, "rind") && b.From.Hour() >= 11 && b.From.Hour() < 13 {
			loudAt++
		}
	}
	if loudAt > 0 {
		t.Errorf("%d grindings begin in quiet hours", loudAt)
	}
	// Moved where it may not be, each is told by its own reason.
	move := func(kind work.Kind, to time.Time) string {
		for _, b := range by {
			if task := c.Tasks[c.index[b.key()]]; b.Task == pour == (kind == work.Pour) && task.Kind == kind &&
				(kind == work.Pour || strings.Contains(task.Name, "rind")) {
				return c.outside(c.index[b.key()], "crew", to, to.Add(b.Until.Sub(b.From)))
			}
		}
		return "there is none"
	}
	for _, w := range []struct {
		kind work.Kind
		at   time.Time
		says string
	}{
		{work.Prepare, time.Date(2026, 12, 3, 11, 30, 0, 0, time.UTC), "the site requires quiet"},
		{work.Prepare, time.Date(2026, 12, 3, 7, 30, 0, 0, time.UTC), "nobody may work on site"},
		{work.Pour, time.Date(2026, 12, 8, 9, 0, 0, 0, time.UTC), "its material is not delivered yet"},
		{work.Pour, time.Date(2026, 12, 9, 9, 0, 0, 0, time.UTC), ""},
	} {
		if got := move(w.kind, w.at); (w.says == "") != (got == "") || !strings.HasPrefix(got, w.says) {
			t.Errorf("%s at %v: %q, want %q", w.kind, w.at, got, w.says)
		}
	}
}

// A coat that waits for the next morning is laid on another day, however soon it may be
// coated; without that it follows on the same one.
func TestTheNextMorningOnTheRoster(t *testing.T) {
	now := time.Date(2026, 11, 30, 5, 0, 0, 0, time.UTC)
	days := func(when buildup.Moment) (first, second time.Time) {
		j := demo(t, "baggage-hall", now, func(f *job.Job) {
			f.Zone, f.Slab = "UTC", &measure.Sourced[measure.Temperature]{Value: 20}
			f.Surfaces = f.Surfaces[:1]
			f.Surfaces[0].Coats[1].When = when
		})
		coats := j.File.Job.Surfaces[0].Coats
		for i := range j.File.Products {
			if p := &j.File.Products[i]; p.ID == coats[0].Product {
				p.RecoatFrom = []material.TimeAt{{At: 20, After: measure.Hour, Source: measure.Sheet}}
			}
		}
		j.Plan, j.Films = plan.Make(j.File, measure.Metric, now), stage.FilmsOf(j.File, facts.At(now), measure.Metric, 0)
		by := solved(t, Build(job.House{}, []Job{j}, nil, now, 6), nil)
		return by[string(work.PourID(coats[0].ID))].From, by[string(work.PourID(coats[1].ID))].From
	}
	if first, second := days(buildup.NextMorning); first.YearDay() == second.YearDay() || second.Hour() < 7 ||
		second.Hour() > 8 {
		t.Errorf("the next morning: %v after %v", second, first)
	}
	if first, second := days(""); first.YearDay() != second.YearDay() {
		t.Errorf("as soon as it may: %v after %v", second, first)
	}
}

// A coat that is to be begun by nine is booked so that its first kit is opened by then, and a booking at noon is told.
// With a margin of 3 K, at an activation energy that the sheet implies, the film below is ready later.
func TestCoatsInTheirHoursOnTheRoster(t *testing.T) {
	now := time.Date(2026, 11, 30, 5, 0, 0, 0, time.UTC)
	var j Job
	var c *Calendar
	var second string
	book := func(hours *buildup.OpeningHours, margin measure.Temperature) map[string]Booked {
		j = demo(t, "baggage-hall", now, func(f *job.Job) {
			f.Zone, f.Slab, f.Margin = "UTC", &measure.Sourced[measure.Temperature]{Value: 20}, margin
			f.Surfaces = f.Surfaces[:1]
			f.Surfaces[0].Coats[1].When, f.Surfaces[0].Coats[1].Hours = "", hours
			second = string(work.PourID(f.Surfaces[0].Coats[1].ID))
		})
		coats := j.File.Job.Surfaces[0].Coats
		for i := range j.File.Products {
			if p := &j.File.Products[i]; p.ID == coats[0].Product {
				p.RecoatFrom = []material.TimeAt{{At: 10, After: 4 * measure.Hour, Source: measure.Sheet},
					{At: 20, After: 2 * measure.Hour, Source: measure.Sheet}}
			}
		}
		j.Plan, j.Films = plan.Make(j.File, measure.Metric, now), stage.FilmsOf(j.File, facts.At(now), measure.Metric, 0)
		c = Build(job.House{}, []Job{j}, nil, now, 6)
		return solved(t, c, nil)
	}
	free := book(nil, 0)
	if free[second].From.Hour() < 9 {
		t.Fatalf("without hours it is booked for %v", free[second].From)
	}
	by := book(&buildup.OpeningHours{Until: "09:00"}, 0)
	_, of := blocks(j)
	kit := by[second].From.Add(of[work.ID(second)].starts[work.ID(second)])
	if kit.Hour() > 9 || kit.Hour() == 9 && kit.Minute() > 0 {
		t.Errorf("its first kit is opened %v", kit)
	}
	late := list(by)
	for n := range late {
		if b := &late[n]; b.Task == second {
			b.From, b.Until = b.From.Add(4*time.Hour), b.Until.Add(4*time.Hour)
		}
	}
	if told := c.Check(late); !slices.ContainsFunc(told, func(b Broken) bool {
		return strings.HasSuffix(b.Text, ": its first kit is to be opened by 09:00.")
	}) {
		t.Errorf("booked at noon: %v", told)
	}
	sure := book(nil, 3)
	opens := func(by map[string]Booked, margin measure.Temperature) time.Time {
		book(nil, margin)
		return *c.Allowed(list(by))[j.ID+"/"+second].Opens
	}
	// By hand: from 4 h at 10 °C to 2 h at 20 °C it takes 2 h · 2^0.3 = 2 h 28 min at 17 °C by the doubling a 10 K, some
	// 2 h 27 min by Arrhenius between the two.
	by3 := opens(sure, 3).Sub(opens(sure, 0))
	if by3 < 25*time.Minute || by3 > 30*time.Minute {
		t.Errorf("the margin of 3 K opens it %v later", by3)
	}
}

// Grinding a room beside an open film is told, unless one of the two is shut. By hand: the hall's last coat is laid on
// 3 December and takes people the next morning; the corridor is ground that evening.
func TestDustBesideAnOpenFilmIsTold(t *testing.T) {
	now := time.Date(2026, 11, 30, 5, 0, 0, 0, time.UTC)
	beside := func(shut bool) []Broken {
		j := demo(t, "baggage-hall", now, func(f *job.Job) {
			f.Zone = "UTC"
			for n := range f.Surfaces {
				if f.Surfaces[n].Survey == nil {
					f.Surfaces[n].Survey = &survey.Survey{Substrate: survey.Concrete}
				}
			}
			f.Surfaces[0].Survey.Shut = shut
		})
		c := Build(job.House{}, []Job{j}, nil, now, 6)
		all := list(solved(t, c, nil))
		last := 0
		for n, b := range all {
			if b.Task == "coat/hall-3/pour" {
				last = n
			}
		}
		ground := slices.IndexFunc(all, func(b Booked) bool {
			return strings.HasPrefix(b.Task, "surface/corridor/prepare/grind")
		})
		if ground < 0 {
			t.Fatalf("%+v", all)
		}
		took := all[ground].Until.Sub(all[ground].From)
		all[ground].From = all[last].Until
		all[ground].Until = all[ground].From.Add(took)
		return c.Check(all)
	}
	dusty := func(b Broken) bool { return strings.Contains(b.Text, "its dust falls on Coat 3") }
	if told := beside(false); !slices.ContainsFunc(told, dusty) {
		t.Errorf("%v", told)
	}
	if told := beside(true); slices.ContainsFunc(told, dusty) {
		t.Errorf("%v", told)
	}
}

// A crew that is elsewhere for some hours is free before and after; a break is no end of a
// shift. By hand: 07:00 to 16:00 less 09:00 to 11:00.
func TestBusyHoursAndBreaks(t *testing.T) {
	at := func(h int) time.Time { return time.Date(2026, 11, 30, h, 0, 0, 0, time.UTC) }
	crew := job.CrewsOf(job.House{})[0]
	shifts := func(busy ...job.Busy) []job.Shift {
		crew.Busy = busy
		return job.ShiftsOf(job.House{}, crew, at(0), at(23), time.UTC)
	}
	if s := shifts(); len(s) != 1 || len(s[0].Rests) != 1 || !s[0].Rests[0].From.Equal(at(12)) ||
		!s[0].Rests[0].Until.Equal(at(12).Add(30*time.Minute)) {
		t.Errorf("%+v", s)
	}
	if s := shifts(job.Busy{From: at(9), Until: at(11)}); len(s) != 2 || !s[0].Until.Equal(at(9)) ||
		!s[1].From.Equal(at(11)) || !s[1].Until.Equal(at(16)) {
		t.Errorf("%+v", s)
	}
	if s := shifts(job.Busy{From: at(5), Until: at(9)}, job.Busy{From: at(15), Until: at(20)}); len(s) != 1 ||
		!s[0].From.Equal(at(9)) || !s[0].Until.Equal(at(15)) {
		t.Errorf("%+v", s)
	}
	if s := shifts(job.Busy{From: at(7), Until: at(16)}); len(s) != 0 {
		t.Errorf("%+v", s)
	}
	if s := shifts(job.Busy{From: at(16), Until: at(18)}); len(s) != 1 || !s[0].Until.Equal(at(16)) {
		t.Errorf("%+v", s)
	}
}

// A degree of latitude is 111.2 km (a 360th of 2π × 6371 km); by road 1.3 times, at 50 km/h
// 2.89 h. Without coordinates the way leads by the yard.
func TestTheWayBetweenJobs(t *testing.T) {
	here, there := job.Job{Where: &job.Whereabouts{Latitude: 58, Longitude: 10}},
		job.Job{Where: &job.Whereabouts{Latitude: 59, Longitude: 10}}
	if got := drive(here, there).Hours(); got < 2.885 || got > 2.895 {
		t.Errorf("%v h", got)
	}
	// On the equator a degree of longitude is as far; at 60° half as far.
	east := func(lat float64) float64 {
		return apart(job.Whereabouts{Latitude: lat}, job.Whereabouts{Latitude: lat, Longitude: 1})
	}
	if ratio := east(60) / east(0); ratio < 0.4999 || ratio > 0.5001 {
		t.Errorf("%v", ratio)
	}
	near, far := job.Job{Drive: 600}, job.Job{Drive: 1800}
	if drive(near, far) != 40*time.Minute || drive(near, job.Job{}) != 0 || drive(here, far) != 0 {
		t.Errorf("%v", drive(near, far))
	}
	now := time.Date(2026, 11, 30, 6, 0, 0, 0, time.UTC)
	a := demo(t, "baggage-hall", now, func(j *job.Job) { j.Drive = 600 })
	b := demo(t, "baggage-hall", now, func(j *job.Job) { j.Drive = 1800 })
	b.ID = "other"
	c := Build(job.House{}, []Job{a, b}, nil, now, 4)
	if len(c.Problem.Travel) != 1 || c.Problem.Travel[0].Slots != 4 || c.Problem.Jobs[0].Place == "" {
		t.Errorf("%+v", c.Problem.Travel)
	}
}

// A job that cannot be done by its day is less late with Saturdays or with another crew,
// each with its price: overtime half as dear again. What helps nothing is not told.
func TestWaysOutWithTheirPrice(t *testing.T) {
	now := time.Date(2026, 11, 30, 6, 0, 0, 0, time.UTC)
	due := func(days int) func(*job.Job) {
		return func(j *job.Job) { j.Due = now.AddDate(0, 0, days).Format(time.DateOnly) }
	}
	var jobs []Job
	for n := range 4 {
		j := demo(t, "baggage-hall", now, due(5))
		j.ID = string(rune('a' + n))
		jobs = append(jobs, j)
	}
	cost := 40.0
	house := job.House{HourCost: &cost, Crews: []job.StandingCrew{{ID: "s", Name: "Skerry crew", People: 6,
		Skills: job.CrewsOf(job.House{})[0].Skills}}}
	planned := func(t Try) (*Calendar, *roster.Plan, error) {
		tried, err := t.Jobs(jobs, nil)
		if err != nil {
			return nil, nil, err
		}
		c := Build(t.House(house), tried, nil, now, 6)
		o := c.Options()
		o.Rounds = 10
		p, err := c.Plan(context.Background(), o)
		return c, &p, err
	}
	c, plain, err := planned(Try{})
	if err != nil || plain.Cost[roster.Late] == 0 {
		t.Fatalf("%v, %+v", err, plain.Cost)
	}
	ways, err := c.Ways(context.Background(), house, plain, planned)
	if err != nil || len(ways) == 0 {
		t.Fatalf("%+v, %v", ways, err)
	}
	for i, w := range ways {
		if w.Late > float64(plain.Cost[roster.Late])/2 || i > 0 && w.Late < ways[i-1].Late {
			t.Errorf("%+v after %v slots late", w, plain.Cost[roster.Late])
		}
		switch {
		case w.Try.Saturdays == "s" && (w.Text != "Skerry crew works Saturdays from 7 to 13" || w.Overtime == 0 ||
			w.Cost != w.Overtime*6*40*1.5):
			t.Errorf("%+v", w)
		case w.Try.Twin == "s" && (w.Text != "Another crew like Skerry crew" || w.Cost <= 0):
			t.Errorf("%+v", w)
		}
	}
	// Where nothing is late, nothing helps; where nothing fits, whatever fits does.
	for i := range jobs {
		jobs[i].File.Job.Due = ""
	}
	c, easy, err := planned(Try{})
	if err != nil {
		t.Fatal(err)
	}
	if ways, err := c.Ways(context.Background(), house, easy, planned); err != nil || len(ways) != 0 {
		t.Errorf("%+v, %v", ways, err)
	}
	if ways, err := c.Ways(context.Background(), house, nil, planned); err != nil || len(ways) != 2 {
		t.Errorf("%+v, %v", ways, err)
	}
	more := measure.Fraction(0.25)
	house.OvertimeMore = &more
	if got := price(house, 8, true); got != 400 {
		t.Errorf("eight hours at a quarter more: %v", got)
	}
	if price(house, 8, false) != 320 || price(job.House{}, 8, true) != 0 {
		t.Error("an hour has another price")
	}
}

// What is promised at the latest is what a slab 3 K cooler gives, by the sheet's own line.
func TestThePromiseAtTheLatest(t *testing.T) {
	now := time.Date(2026, 11, 30, 6, 0, 0, 0, time.UTC)
	j := demo(t, "baggage-hall", now, func(j *job.Job) { j.Slab = &measure.Sourced[measure.Temperature]{Value: 20} })
	c := Build(job.House{}, []Job{j}, nil, now, 6)
	by := solved(t, c, nil)
	checked := 0
	for _, p := range c.Promises(list(by)) {
		for _, s := range j.Plan.Surfaces {
			if s.Name != p.Surface || p.Stage != material.StageFoot {
				continue
			}
			last := s.Coats[len(s.Coats)-1]
			for _, sheet := range j.File.Products {
				if sheet.ID != last.Product {
					continue
				}
				warm, _ := sheet.Reach(material.StageFoot, 20)
				cool, _ := sheet.Reach(material.StageFoot, 17)
				if off := p.Latest.Sub(p.At) - duration(cool-warm); off > time.Second || off < -time.Second {
					t.Errorf("%s: %v later, want %v", p.Surface, p.Latest.Sub(p.At), duration(cool-warm))
				}
				checked++
			}
		}
	}
	if checked == 0 {
		t.Error("nothing is promised for feet")
	}
}
