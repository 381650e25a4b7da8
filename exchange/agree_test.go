package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/emersion/go-ical"

	"nephelon/core/buildup"
	"nephelon/core/days"
	"nephelon/core/facts"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/core/plan/stage"
	"nephelon/core/plan/whatif"
	"nephelon/core/record"
	"nephelon/core/work"
)

// agreeing is a job with everything that tells its times.
type agreeing struct {
	*testing.T
	seed   int
	random *rand.Rand
	file   job.File
	house  job.House
	now    time.Time
	world  facts.Facts
	plan   plan.Plan
	booked []days.Booked
	days   *days.Calendar
}

// same fails where two outputs name times of the same thing that lie further apart than a rounding.
func (a *agreeing) same(what string, one, other time.Time, within time.Duration) {
	a.Helper()
	if one.Sub(other).Abs() > within {
		a.Errorf("seed %d, %s: %s is %v and %v", a.seed, a.file.Job.Name, what, one.UTC(), other.UTC())
	}
}

// drawnJob is a job of the demo with another crew, other hours and other wishes, by chance.
func drawnJob(t *testing.T, seed int) *agreeing {
	t.Helper()
	a := &agreeing{T: t, seed: seed, random: rand.New(rand.NewPCG(uint64(seed), 25)),
		now: time.Date(2026, 11, 30, 4, 0, 0, 0, time.UTC)}
	names := []string{"baggage-hall", "lamp-room", "settling-basin", "oyster-bar"}
	text, err := os.ReadFile("../demo/jobs/" + names[seed%len(names)] + ".nephelon.json")
	if err != nil {
		t.Fatal(err)
	}
	if err := json.Unmarshal(text, &a.file); err != nil {
		t.Fatal(err)
	}
	j := &a.file.Job
	zones := []string{"UTC", "Europe/Oslo", "America/Halifax"}
	j.Zone, j.Start, j.Forecast = zones[a.random.IntN(len(zones))], "", nil
	j.Slab = &measure.Sourced[measure.Temperature]{Value: measure.Temperature(14 + a.random.IntN(12))}
	j.Margin = measure.Temperature(a.random.IntN(4))
	for i := range j.Surfaces {
		for c := range j.Surfaces[i].Coats {
			coat := &j.Surfaces[i].Coats[c]
			switch {
			case coat.OverWet || c == 0:
			case a.random.IntN(4) == 0:
				coat.When, coat.Wait = buildup.NextMorning, nil
			case a.random.IntN(4) == 0:
				coat.Hours = &buildup.OpeningHours{Until: fmt.Sprintf("%02d:00", 9+a.random.IntN(4))}
			}
		}
	}
	hours := job.UsualHours()
	hours.From = job.Clock(fmt.Sprintf("%02d:%02d", 6+a.random.IntN(2), 15*a.random.IntN(4)))
	a.house = job.House{Zone: j.Zone, Hours: &hours, BookingStep: []int{5, 10, 15, 30}[a.random.IntN(4)]}
	j.Hours = &hours
	return a
}

// made plans the job with the facts of now, for the roster as well.
func (a *agreeing) made() days.Job {
	a.Helper()
	p, err := plan.NewPlanner().MakeFor(a.Context(), a.file, a.world, measure.Metric)
	if err != nil {
		a.Fatal(err)
	}
	a.plan = p
	return days.Job{ID: "job", File: a.file, Plan: p, Laid: a.world.Logged,
		Films: stage.FilmsOf(a.file, a.world, measure.Metric, 0),
		Cool:  stage.FilmsOf(a.file, a.world, measure.Metric, days.Cooler)}
}

// book plans the roster, moves a pour to some other place that it may have, and tells the plan of it; false where the
// job does not fit the roster.
func (a *agreeing) book() bool {
	a.Helper()
	a.world = facts.At(a.now)
	a.days = days.Build(a.house, []days.Job{a.made()}, nil, a.now, 6)
	o := a.days.Options()
	o.Rounds = 10
	p, err := a.days.Plan(a.Context(), o)
	if err != nil || len(a.days.Left) > 0 {
		return false
	}
	a.booked = a.days.Booked(p, nil)
	pours := slices.DeleteFunc(slices.Clone(a.booked), func(b days.Booked) bool { return b.Crew == "" })
	b := pours[a.random.IntN(len(pours))]
	if places := a.days.Places(a.booked, b.Job, b.Task); len(places) > 0 {
		place := places[a.random.IntN(len(places))]
		for n := range a.booked {
			if own := &a.booked[n]; own.Task == b.Task {
				own.Until = own.Until.Add(place.From.Sub(own.From))
				own.From = place.From
			}
		}
		slices.SortStableFunc(a.booked, func(x, y days.Booked) int { return x.From.Compare(y.From) })
	}
	a.booked = a.days.Parted(a.booked)
	a.world.Bookings = days.Facts(a.booked, a.house)
	return true
}

// coat is a coat of the file.
func (a *agreeing) coat(surface string, number int) buildup.Coat {
	i := slices.IndexFunc(a.file.Job.Surfaces, func(s job.Surface) bool { return s.ID == surface })
	return a.file.Job.Surfaces[i].Coats[number-1]
}

// coats calls a function for each coat of the plan, with the pour in which it is booked.
func (a *agreeing) coats(do func(s plan.SurfacePlan, c plan.CoatPlan, pour *days.BookedPour)) {
	for _, s := range a.plan.Surfaces {
		for _, c := range s.Coats {
			var pour *days.BookedPour
			for n := range a.booked {
				for k := range a.booked[n].Pours {
					if p := &a.booked[n].Pours[k]; p.Task == string(work.PourID(c.ID)) {
						pour = p
					}
				}
			}
			if c.Times != nil && c.Train != nil && pour != nil {
				do(s, c, pour)
			}
		}
	}
}

// Random jobs are booked, moved and run late: plan, cards, pour, issue, line, roster, promises, feed and record name
// one time for one thing; nothing is booked outside its window untold; what does not matter changes nothing.
func TestOneTimeForOneThing(t *testing.T) {
	booked, logged := 0, 0
	for seed := range 16 {
		a := drawnJob(t, seed)
		if !a.book() {
			continue
		}
		a.days = days.Build(a.house, []days.Job{a.made()}, a.booked, a.now, 6)
		booked += a.checkBooked()
		a.checkWindows()
		a.checkFeed()
		a.checkForeign()
		a.checkHandover()
		logged += a.checkLogged()
	}
	if booked < 30 || logged < 8 {
		t.Errorf("only %d coats were booked and %d logged", booked, logged)
	}
}

// checkBooked compares the plan with what is booked, and what follows from it.
func (a *agreeing) checkBooked() (seen int) {
	planner := plan.NewPlanner()
	issue, err := planner.Issue(a.Context(), a.file, a.world, measure.Metric, "")
	if err != nil {
		a.Fatal(err)
	}
	var ready time.Time
	a.coats(func(s plan.SurfacePlan, c plan.CoatPlan, pour *days.BookedPour) {
		seen++
		name := s.Name + ", coat " + fmt.Sprint(c.Number)
		if c.Times.Basis != facts.Booked {
			a.Errorf("seed %d: %s rests on %s", a.seed, name, c.Times.Basis)
		}
		if !a.coat(s.ID, c.Number).OverWet { // what is poured over a wet film has its first kit opened before
			a.same(name+" begins", *c.Times.Begins, pour.From, time.Second)
		}
		if c.Times.End.Before(pour.Until.Add(-time.Second)) {
			a.Errorf("seed %d: %s is booked until %v and ends %v", a.seed, name, pour.Until, c.Times.End)
		}
		for k, card := range c.Cards {
			if card.Meets != nil {
				a.same(fmt.Sprintf("%s, card %d", name, k+1), *card.Meets, c.Train.Passages[k].Meets.After(*c.Times.Start),
					time.Second)
			}
		}
		run, err := planner.Pour(a.Context(), a.file, a.world, measure.Metric, c.ID, 0)
		if errors.Is(err, whatif.ErrNoPour) {
			return
		}
		if err != nil {
			a.Fatal(err)
		}
		a.same(name+" in its pour", *run.Start, *c.Times.Start, time.Second)
		frozen := issue.Coat(c.ID)
		a.same(name+" as issued", *frozen.Start, *c.Times.Start, time.Second)
		if from := c.Times.Stage(material.StageRecoatFrom).At; from != nil && frozen.From != nil {
			a.same(name+" takes the next, as issued", *frozen.From, *from, time.Second)
		}
		if c.Number == len(s.Coats) {
			foot := c.Times.Stage(material.StageFoot).At
			for _, p := range a.days.Promises(a.booked) {
				if p.Surface == s.Name && p.Stage == material.StageFoot && foot != nil && c.Times.End.Equal(pour.Until) {
					a.same(name+" is walked on", p.At, *foot, time.Minute)
				}
			}
			if foot != nil && foot.After(ready) {
				ready = *foot
			}
		}
	})
	if at := a.plan.Line.Ready; at != nil && !ready.IsZero() {
		a.same("the line is ready", *at, ready, time.Second)
	}
	if next := a.plan.Line.Next; next != nil && len(a.booked) > 0 {
		first := days.Next(a.booked, a.now)[0]
		a.same("the next work", next.At, first.From, time.Second)
	}
	return seen
}

// checkWindows sees that no coat is booked outside its window at the facts of now, but for what is told.
func (a *agreeing) checkWindows() {
	told := make(map[string]bool)
	for _, b := range a.days.Check(a.booked) {
		told[b.Task] = true
	}
	a.coats(func(s plan.SurfacePlan, c plan.CoatPlan, pour *days.BookedPour) {
		if c.Number == 1 || told[pour.Task] || c.Times.Basis == facts.Logged {
			return
		}
		below := s.Coats[c.Number-2].Times
		opens, closes := below.Stage(material.StageRecoatFrom).At, below.Stage(material.StageRecoatUntil).At
		coat := a.coat(s.ID, c.Number)
		if coat.OverWet || coat.When == buildup.OnTacky || coat.Wait != nil || coat.Abraded {
			return
		}
		const rounding = time.Second
		if opens != nil && c.Times.Start.Before(opens.Add(-rounding)) {
			a.Errorf("seed %d: %s, coat %d at %v on a film that opens %v", a.seed, s.Name, c.Number, c.Times.Start, opens)
		}
		if closes != nil && c.Times.Begins.After(closes.Add(rounding)) && c.Times.Abrade == nil {
			a.Errorf("seed %d: %s, coat %d at %v on a film that closes %v", a.seed, s.Name, c.Number, c.Times.Begins, closes)
		}
	})
}

// checkFeed reads the calendar again that a phone follows.
func (a *agreeing) checkFeed() {
	var lines []RosterLine
	for _, b := range days.WithReady(a.booked) {
		lines = append(lines, RosterLine{ID: b.Job + "/" + b.Task, Task: b.Title, From: b.From, Until: b.Until})
	}
	var text bytes.Buffer
	if err := WriteCalendar(&text, "Roster", lines, a.now); err != nil {
		a.Fatal(err)
	}
	calendar, err := ical.NewDecoder(&text).Decode()
	if err != nil {
		a.Fatal(err)
	}
	for n, e := range calendar.Events() {
		from, err := e.DateTimeStart(time.UTC)
		if err != nil {
			a.Fatal(err)
		}
		a.same("in the feed, "+lines[n].Task, from, lines[n].From, time.Second)
	}
}

// checkForeign adds a booking of a task that the job does not have, and a reading of a year ago.
func (a *agreeing) checkForeign() {
	before, err := json.Marshal(a.plan)
	if err != nil {
		a.Fatal(err)
	}
	kept := a.world
	defer func() { a.world = kept }()
	year := a.now.AddDate(-1, 0, 0)
	a.world.Bookings = append(slices.Clone(kept.Bookings), facts.Booking{Task: "coat/of-nobody/pour",
		From: a.now.Add(time.Hour), Until: a.now.Add(2 * time.Hour)})
	a.world.Readings = append(slices.Clone(kept.Readings), facts.Reading{At: year, Slab: 4})
	a.made()
	if after, err := json.Marshal(a.plan); err != nil || !bytes.Equal(after, before) {
		a.Errorf("seed %d: a booking of another job and a reading of last year change the plan, %v", a.seed, err)
	}
}

// checkHandover lays everything as it is planned, and finds the times of the plan in the hand-over as it is printed.
func (a *agreeing) checkHandover() {
	issue, err := plan.NewPlanner().Issue(a.Context(), a.file, a.world, measure.Metric, "")
	if err != nil {
		a.Fatal(err)
	}
	issue.Number, issue.Job = 1, "job"
	j := new(journal)
	for _, c := range issue.Coats {
		for _, b := range c.Batches {
			j.log(record.Poured, b.ID, b.Passage.Pour.After(*c.Start))
			j.log(record.Rolled, b.ID, b.Passage.Done.After(*c.Start))
		}
	}
	kept, now := a.world, a.now
	defer func() { a.world, a.now = kept, now }()
	a.now = j.last().Add(time.Hour)
	day := record.NewTeller().Tell(&issue, j.events, a.now, measure.Metric)
	a.world.Now, a.world.Logged = a.now, nil
	for _, c := range day.Coats {
		a.world.Logged = append(a.world.Logged, facts.Laid{Coat: c.ID, From: *c.Begun, Until: c.Done})
	}
	a.made()
	zone, err := time.LoadLocation(a.file.Job.Zone)
	if err != nil {
		a.Fatal(err)
	}
	text := printed(a.T, Handover{Issue: issue, Day: day, Units: measure.Metric, Zone: zone})
	for _, s := range a.plan.Surfaces {
		if len(s.Coats) == 0 || s.Coats[len(s.Coats)-1].Times == nil {
			continue
		}
		if at := s.Coats[len(s.Coats)-1].Times.Stage(material.StageFoot).At; at != nil {
			near := func(by time.Duration) string { return at.Add(by).In(zone).Format("Mon 2 Jan 2006 15:04") }
			// Logs count whole seconds, so a minute may turn.
			if !strings.Contains(text, near(-time.Second)) && !strings.Contains(text, near(time.Second)) {
				a.Errorf("seed %d: %s is walked on %s, which the hand-over does not say", a.seed, s.Name, near(0))
			}
		}
	}
}

// journal is what one tablet logs.
type journal struct {
	events []record.Event
	before string
}

func (j *journal) log(kind record.Kind, task string, at time.Time) {
	number := len(j.events) + 1
	e := record.Sealed(record.Event{ID: fmt.Sprintf("00000000-0000-0000-0000-%012d", number), Issue: 1,
		Task: work.ID(task), Kind: kind, At: at, Device: "a-tablet", Number: int64(number), Person: "p"}, j.before)
	j.before, j.events = e.Hash, append(j.events, e)
}

// last returns when the last thing was logged.
func (j *journal) last() time.Time {
	return slices.MaxFunc(j.events, func(x, y record.Event) int { return x.At.Compare(y.At) }).At
}

// checkLogged lets the first coat run late or early, logged batch by batch, and compares what is told then.
func (a *agreeing) checkLogged() (seen int) {
	issue, err := plan.NewPlanner().Issue(a.Context(), a.file, a.world, measure.Metric, "")
	if err != nil {
		a.Fatal(err)
	}
	first := slices.MinFunc(issue.Coats, func(x, y record.Coat) int { return x.Start.Compare(*y.Start) })
	issue.Number, issue.Job = 1, "job"
	late := time.Duration(a.random.IntN(120)-20) * time.Minute
	slow := 0.8 + 0.6*a.random.Float64()
	j := new(journal)
	at := func(after measure.Span) time.Time {
		return first.Start.Add(late + time.Duration(float64(after)*slow*float64(time.Second)))
	}
	for _, b := range first.Batches {
		j.log(record.Poured, b.ID, at(b.Passage.Pour))
		j.log(record.Rolled, b.ID, at(b.Passage.Done))
	}
	a.now = j.last().Add(10 * time.Minute)
	day := record.NewTeller().Tell(&issue, j.events, a.now, measure.Metric)
	done := day.Coats[slices.IndexFunc(day.Coats, func(c record.CoatDay) bool { return c.ID == first.ID })]
	if done.Begun == nil || done.Done == nil {
		a.Fatalf("seed %d: %+v", a.seed, done)
	}
	a.world.Now, a.world.Logged = a.now, []facts.Laid{{Coat: first.ID, From: *done.Begun, Until: done.Done}}
	a.days = days.Build(a.house, []days.Job{a.made()}, a.booked, a.now, 6)
	simple := days.AsLogged(a.booked, map[string][]facts.Laid{"job": a.world.Logged}, a.now)
	for _, l := range a.days.Lain() {
		n := slices.IndexFunc(simple, func(b days.Booked) bool { return b.Task == l.Task })
		a.same("the logged pour on the roster", l.From, simple[n].From, time.Second)
		a.same("its end on the roster", l.Until, simple[n].Until, time.Second)
	}
	a.coats(func(s plan.SurfacePlan, c plan.CoatPlan, _ *days.BookedPour) {
		if c.ID != first.ID {
			return
		}
		seen++
		a.same("the logged coat", *c.Times.Start, *done.Begun, time.Second)
		a.same("its end", *c.Times.End, *done.Done, time.Second)
		if c.Times.Basis != facts.Logged {
			a.Errorf("seed %d: it rests on %s", a.seed, c.Times.Basis)
		}
		for _, reached := range done.Stages {
			told := c.Times.Stage(reached.Stage)
			if reached.Comes != nil && told.At != nil && math.Abs(float64(told.After)) < 7*24*3600 {
				a.same("its stage "+string(reached.Stage)+" by the record", *reached.Comes, *told.At, time.Minute)
			}
		}
	})
	a.checkWindows()
	return seen
}
