package days

import (
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/facts"
	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/core/plan/stage"
	"nephelon/core/work"
)

// logged is a job of the demo of which coats were laid, as its record tells.
func logged(t *testing.T, name string, now time.Time, laid ...facts.Laid) Job {
	t.Helper()
	j := demo(t, name, now, nil)
	world := facts.Facts{Now: now, Logged: laid}
	p, err := plan.NewPlanner().MakeFor(t.Context(), j.File, world, measure.Metric)
	if err != nil {
		t.Fatal(err)
	}
	j.Plan, j.Laid = p, laid
	j.Films, j.Cool = stage.FilmsOf(j.File, world, measure.Metric, 0), stage.FilmsOf(j.File, world, measure.Metric, Cooler)
	return j
}

// The first coat of the hall runs late. By hand, at 20 °C: its sheet lets the next on 8 h after it
// is laid and until 26 h after it was begun, so of 09:00 to 14:20 that is 22:20 until 11:00 the
// next day, each less half an hour of setting up, and the look over the surface at its end.
func TestALatePourMovesWhatComes(t *testing.T) {
	booked := list(solved(t, Build(job.House{}, []Job{demo(t, "baggage-hall", monday, nil)}, nil, monday, 4), nil))
	at := slices.IndexFunc(booked, func(b Booked) bool { return b.Task == "coat/hall-1/pour" })
	day := midnight(booked[at].From, time.UTC)
	begun, ended := day.Add(9*time.Hour), day.Add(14*time.Hour+20*time.Minute)
	now := day.Add(15 * time.Hour)
	j := logged(t, "baggage-hall", now, facts.Laid{Coat: "hall-1", From: begun, Until: &ended})
	c := Build(job.House{}, []Job{j}, booked, now, 4)
	w := c.Allowed(booked)["baggage-hall/coat/hall-2/pour"]
	if opens := ended.Add(8*time.Hour - 30*time.Minute); w.Opens == nil || w.Opens.Sub(opens).Abs() > time.Second {
		t.Errorf("opens %v, not %v", w.Opens, opens)
	}
	_, of := blocks(j)
	set := of["coat/hall-2/pour"].starts["coat/hall-2/pour"]
	if closes := begun.Add(26*time.Hour - set); w.Closes == nil || w.Closes.Sub(closes).Abs() > time.Second {
		t.Errorf("closes %v, not %v", w.Closes, closes)
	}
	lain := c.Lain()
	if len(lain) != 1 || lain[0].Open || !lain[0].Until.Equal(ended.Add(30*time.Minute)) {
		t.Errorf("lain: %+v", lain)
	}
	// Whoever asks without a calendar is told the same hours.
	parted := c.Parted(booked)
	simple := byTask(AsLogged(parted, map[string][]facts.Laid{"baggage-hall": j.Laid}, now))
	for _, b := range c.actual(parted) {
		if s := simple[b.key()]; !s.From.Equal(b.From) || !s.Until.Equal(b.Until) {
			t.Errorf("%s: %v to %v, and %v to %v by the calendar", b.Task, s.From, s.Until, b.From, b.Until)
		}
	}
	if changed := simple["baggage-hall/coat/hall-1/pour"].Changed; changed != booked[at].Changed+2 {
		t.Errorf("its number is %d", changed)
	}
	// Booked inside its window it is free or tight; before it opens it is late, and told as broken.
	second := slices.IndexFunc(booked, func(b Booked) bool { return b.Task == "coat/hall-2/pour" })
	long := w.Closes.Sub(*w.Opens)
	for shift, fit := range map[time.Duration]Fit{-time.Minute: Late, time.Minute: Tight, 2 * time.Hour: Free,
		long - 30*time.Minute: Tight, long + time.Minute: Late} {
		moved := slices.Clone(booked)
		took := moved[second].Until.Sub(moved[second].From)
		moved[second].From = w.Opens.Add(shift)
		moved[second].Until = moved[second].From.Add(took)
		follows := c.Follows(moved)
		if len(follows) == 0 || follows[0].Task != "coat/hall-2/pour" || follows[0].Fit != fit {
			t.Errorf("%v after it opens: %+v", shift, follows)
		}
		broken := slices.ContainsFunc(c.Check(moved), func(b Broken) bool { return b.Task == "coat/hall-2/pour" })
		if fit == Late && !broken {
			t.Error("what is late is not told as broken")
		}
	}
	// Planned anew the rest holds, and what was done is where it was.
	again := solved(t, c, booked)
	if again["coat/hall-2/pour"].From.Before(*w.Opens) {
		t.Errorf("the second coat begins %v", again["coat/hall-2/pour"].From)
	}
	if !again["coat/hall-1/pour"].From.Equal(booked[at].From) {
		t.Errorf("what was booked for the first is %v", again["coat/hall-1/pour"].From)
	}
}

// A pour under way holds its crew until it is expected to end, and no longer than it goes on.
func TestAPourUnderWayHoldsItsCrew(t *testing.T) {
	day := midnight(monday, time.UTC)
	begun := day.Add(8 * time.Hour)
	ends := func(now time.Time) (Lain, *Calendar) {
		j := logged(t, "baggage-hall", now, facts.Laid{Coat: "hall-1", From: begun})
		c := Build(job.House{}, []Job{j}, nil, now, 4)
		if all := c.Lain(); len(all) == 1 {
			return all[0], c
		}
		t.Fatalf("lain: %+v", c.Lain())
		return Lain{}, nil
	}
	early, c := ends(begun.Add(time.Hour))
	planned := early.Until
	if !early.Open || !planned.After(begun.Add(time.Hour)) {
		t.Errorf("an hour on: %+v", early)
	}
	// What comes before it is done; nothing of it is booked or planned again.
	for _, task := range c.Tasks {
		if task.Surface == "Baggage hall" && (task.Kind == work.Prepare || task.Kind == work.Retest) {
			t.Errorf("%s is to be done still", task.ID)
		}
	}
	if late, _ := ends(planned.Add(2 * time.Hour)); !late.Until.Equal(planned.Add(2 * time.Hour)) {
		t.Errorf("two hours over: %+v", late)
	}
	// Booked for a quarter of an hour, it holds its crew until it is expected to end.
	now := begun.Add(time.Hour)
	booked := []Booked{{Job: "baggage-hall", Task: "coat/hall-1/pour", Crew: "crew", From: begun,
		Until: begun.Add(15 * time.Minute)}}
	held := Build(job.House{}, []Job{logged(t, "baggage-hall", now, facts.Laid{Coat: "hall-1", From: begun})}, booked, now,
		4)
	for _, s := range held.Problem.Crews[0].Shifts {
		if held.time(s.From).Before(planned) {
			t.Errorf("its crew is free %v, and it goes on until %v", held.time(s.From), planned)
		}
	}
	if lost, _ := ends(planned.Add(unended + time.Minute)); !lost.Until.Equal(planned) {
		t.Errorf("long over: %+v", lost)
	}
}

// A pour that is over and of which nothing was logged is asked for, until somebody says that it
// was done; what was booked before a pour that is laid already is told.
func TestWhatNobodyLoggedIsAsked(t *testing.T) {
	booked := list(solved(t, Build(job.House{}, []Job{demo(t, "baggage-hall", monday, nil)}, nil, monday, 4), nil))
	at := slices.IndexFunc(booked, func(b Booked) bool { return b.Task == "coat/hall-1/pour" })
	now := booked[at].Until.Add(time.Hour)
	c := Build(job.House{}, []Job{logged(t, "baggage-hall", now)}, booked, now, 4)
	hall := func(b Broken) bool { return b.Task == "coat/hall-1/pour" }
	if asked := c.Asked(booked); !slices.ContainsFunc(asked, hall) {
		t.Fatalf("asked: %+v", asked)
	}
	booked[at].Done = true
	if asked := c.Asked(booked); slices.ContainsFunc(asked, hall) {
		t.Errorf("asked again: %+v", asked)
	}
	booked[at].Done = false
	// So is the preparation before it, until a coat was begun over it.
	grind := slices.IndexFunc(booked, func(b Booked) bool { return b.Task == "surface/hall/prepare/grind" })
	if grind < 0 || !slices.ContainsFunc(c.Asked(booked), func(b Broken) bool { return b.Task == booked[grind].Task }) {
		t.Errorf("the grinding is not asked: %+v", c.Asked(booked))
	}
	// Nor once it was closed on the tablet; a failed test has it asked again, though it counted as done.
	stepped := func(s facts.Step) []Broken {
		j := logged(t, "baggage-hall", now)
		s.Task = booked[grind].Task
		j.Steps = []facts.Step{s}
		return Build(job.House{}, []Job{j}, booked, now, 4).Asked(booked)
	}
	ofGrind := func(b Broken) bool { return b.Task == booked[grind].Task }
	if asked := stepped(facts.Step{Closed: true}); slices.ContainsFunc(asked, ofGrind) {
		t.Errorf("closed, and asked: %+v", asked)
	}
	booked[grind].Done = true
	if n := slices.IndexFunc(stepped(facts.Step{Again: "too smooth"}), ofGrind); n < 0 ||
		!strings.Contains(stepped(facts.Step{Again: "too smooth"})[n].Text, "done again: too smooth") {
		t.Errorf("to be done again, and not asked: %+v", stepped(facts.Step{Again: "too smooth"}))
	}
	booked[grind].Done = false
	// Its pour was logged before the booking of what should have come first.
	begun := monday.Add(time.Hour)
	ended := begun.Add(3 * time.Hour)
	c = Build(job.House{}, []Job{logged(t, "baggage-hall", monday.Add(5*time.Hour),
		facts.Laid{Coat: "hall-1", From: begun, Until: &ended})}, booked, monday.Add(5*time.Hour), 4)
	if asked := c.Asked(booked); slices.ContainsFunc(asked, hall) {
		t.Errorf("what was logged is asked: %+v", asked)
	}
	prepared := slices.IndexFunc(booked, func(b Booked) bool {
		return b.From.After(monday.Add(5*time.Hour)) && b.From.Before(booked[at].From) &&
			strings.HasPrefix(b.Task, "surface/hall/prepare/")
	})
	if prepared < 0 {
		t.Fatal("nothing is booked before the first coat")
	}
	if !slices.ContainsFunc(c.Check(booked), func(b Broken) bool { return b.Task == booked[prepared].Task }) {
		t.Errorf("nothing is told of %s", booked[prepared].Task)
	}
}

// A coat is broken off with two fifths of it laid. By hand: its crew is free at once; what is left is planned anew, for
// the setting up and three fifths of the pour; the next coat waits for it, and its window closes by the first section.
func TestWhatWasBrokenOffIsPlannedAnew(t *testing.T) {
	before := demo(t, "baggage-hall", monday, nil)
	booked := list(solved(t, Build(job.House{}, []Job{before}, nil, monday, 4), nil))
	at := slices.IndexFunc(booked, func(b Booked) bool { return b.Task == "coat/hall-1/pour" })
	begun, broken := booked[at].From.Add(time.Hour), booked[at].From.Add(2*time.Hour)
	now := broken.Add(30 * time.Minute)
	j := logged(t, "baggage-hall", now, facts.Laid{Coat: "hall-1", From: begun, Broken: &broken, Share: 0.4})
	c := Build(job.House{}, []Job{j}, booked, now, 4)
	if told := c.Check(booked); !slices.ContainsFunc(told, func(b Broken) bool {
		return strings.Contains(b.Text, "with 40 % of it laid. Plan the rest.")
	}) {
		t.Errorf("%v", told)
	}
	ofHall := func(b Broken) bool { return strings.Contains(b.Task, "hall") }
	if len(c.Lain()) != 0 || slices.ContainsFunc(c.Asked(booked), ofHall) {
		t.Errorf("%v, %v", c.Lain(), c.Asked(booked))
	}
	by := solved(t, c, booked)
	rest, next := by["coat/hall-1/pour"], by["coat/hall-2/pour"]
	_, of := blocks(before)
	whole := of["coat/hall-1/pour"]
	left := whole.lasts - time.Duration(0.4*float64(duration(whole.parts[0].Takes)))
	if took := rest.Until.Sub(rest.From); rest.From.Before(now) || took < left || took > left+c.slot {
		t.Errorf("the rest is booked from %v for %v, not %v", rest.From, took, left)
	}
	if !next.From.After(rest.Until) {
		t.Errorf("the next coat at %v, the rest until %v", next.From, rest.Until)
	}
	window := c.Allowed(list(by))["baggage-hall/coat/hall-2/pour"]
	// 8 h after the last section, which cleaning up follows; the crew sets up half an hour before.
	if want := rest.Until.Add(7 * time.Hour); window.Opens.Sub(want).Abs() > time.Minute {
		t.Errorf("opens %v, not %v", window.Opens, want)
	}
	closes := *window.Closes
	set := of["coat/hall-2/pour"].starts["coat/hall-2/pour"]
	if want := begun.Add(26*time.Hour - set); closes.Sub(want).Abs() > time.Minute {
		t.Errorf("closes %v, not %v", closes, want)
	}
	simple := AsLogged(c.Parted(booked), map[string][]facts.Laid{"baggage-hall": j.Laid}, now)
	if until := byTask(simple)["baggage-hall/coat/hall-1/pour"].Until; !until.Equal(broken) {
		t.Errorf("without a calendar until %v", until)
	}
	if told := j.Plan.Findings; !slices.ContainsFunc(told, func(f finding.Finding) bool {
		return strings.Contains(f.Text, "coat 1 was broken off") &&
			strings.Contains(f.Text, "with 40% of it laid; the rest is proposed")
	}) {
		t.Error("the plan does not tell of it")
	}
}
