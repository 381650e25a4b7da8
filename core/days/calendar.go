// Package days puts the tasks of many jobs on the calendar of a company: it makes of
// plans and crews the problem that core/roster schedules, and of its slots days and hours
// again. Gaps between coats are asked of the films at the hour at which they would be
// laid.
package days

import (
	"fmt"
	"math"
	"time"

	"nephelon/core/climate"
	"nephelon/core/facts"
	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/core/plan/stage"
	"nephelon/core/roster"
	"nephelon/core/work"
)

// lookedBack is the time for which past bookings are looked at: a film that was laid before
// then closes no window any more.
const lookedBack = 30 * 24 * time.Hour

// Job is a job to be put on the calendar.
type Job struct {
	ID    string
	File  job.File
	Plan  plan.Plan
	Films stage.Films
	Cool  stage.Films // the same where it comes cooler than told
	Laid  []facts.Laid
	Steps []facts.Step
}

// Cooler is the margin, K, by which a slab may be cooler than the forecast has it, for what is
// promised at the latest: common practice, no source.
const Cooler = 3

// Unplanned is a job that is not on the calendar, and why.
type Unplanned struct {
	Job  string `json:"job"`
	Name string `json:"name"`
	Text string `json:"text"`
	Way  string `json:"way"`
}

// Calendar holds what can be booked between two times.
type Calendar struct {
	From, Until time.Time
	Problem     roster.Problem
	Tasks       []Bookable
	Left        []Unplanned
	Reads       measure.System // whoever its sentences are for
	slot        time.Duration  // what it counts in
	stood       []Booked       // what is booked, whatever is asked
	now         time.Time
	zone        *time.Location
	index       map[string]int // of tasks, by their keys
	byJob       map[string]Job
	gaps        map[string][]gap      // by the keys of the tasks behind them
	cool        map[string][]gap      // the same where slabs come cooler than told
	lain        map[string]Lain       // pours that were begun, by their keys
	broken      map[string]facts.Laid // pours that were broken off, by their keys
	past        map[string]bool       // tasks before a pour that was begun, by their keys
	covered     map[string]bool       // those of them that were booked and begun
	release     map[string]release    // by job; what has begun has none
	ways        map[[2]string]time.Duration
	Unknown     []string // jobs, by name, to which nobody knows the way
	few         map[work.Machine]bool
	causes      map[string][]cause // why a task cannot be done at all times, by its key
}

// cause is a reason with the slots in which it does not stand against a task; or one that is asked of its beginning
// alone.
type cause struct {
	text    string
	windows []roster.Window
	begun   func(at time.Time) string // why it is not begun then; empty where it may; nil where the windows tell
}

// Build makes the calendar of jobs from the day of a time on, for some weeks, with what
// is booked already. Bookings that have begun stay as they are.
func Build(h job.House, jobs []Job, booked []Booked, now time.Time, weeks int) *Calendar {
	zone := job.ZoneOf(h)
	c := &Calendar{
		slot: h.Slot(), now: now, zone: zone,
		index: make(map[string]int), byJob: make(map[string]Job), gaps: make(map[string][]gap),
		few: make(map[work.Machine]bool), causes: make(map[string][]cause), cool: make(map[string][]gap),
		lain: make(map[string]Lain), broken: make(map[string]facts.Laid), past: make(map[string]bool),
		covered: make(map[string]bool), release: make(map[string]release),
		ways: make(map[[2]string]time.Duration),
	}
	held := byTask(booked)
	for _, j := range jobs {
		c.begun(j, held)
	}
	booked = c.actual(booked)
	first := now
	for _, b := range booked {
		if b.From.Before(first) && now.Sub(b.From) < lookedBack {
			first = b.From
		}
	}
	c.From, c.Until = midnight(first, zone), midnight(now, zone).AddDate(0, 0, 7*weeks)
	c.Problem = roster.Problem{Format: roster.Format, Version: roster.Version,
		SlotMinutes: int(c.slot / time.Minute),
		Horizon:     c.floor(c.Until)}
	for _, crew := range job.CrewsOf(h) {
		c.crew(h, crew, booked)
	}
	for _, m := range h.Machines {
		c.machine(m)
	}
	held = byTask(booked)
	for _, j := range jobs {
		c.add(j, held)
	}
	c.travel()
	c.using(held)
	c.Stood(booked)
	return c
}

// midnight is the beginning of the day of a time.
func midnight(t time.Time, zone *time.Location) time.Time {
	t = t.In(zone)
	return time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, zone)
}

// crew puts a crew on the calendar. What it has begun and not ended holds it until then.
func (c *Calendar) crew(h job.House, crew job.StandingCrew, booked []Booked) {
	own := roster.Crew{ID: crew.ID, Name: crew.Name}
	for _, s := range crew.Skills {
		own.Skills = append(own.Skills, string(s))
	}
	people := crew.People
	if people == 0 {
		people = job.MostPeople
	}
	for n := range people {
		own.Skills = append(own.Skills, hands(n+1))
	}
	free := roster.Slot(0)
	for _, b := range booked {
		if b.Crew == crew.ID && b.From.Before(c.now) && b.Until.After(c.now) {
			free = max(free, c.ceil(b.Until))
		}
	}
	for _, s := range job.ShiftsOf(h, crew, c.From, c.Until, c.zone) {
		from, until := max(free, c.ceil(s.From)), min(c.Problem.Horizon, c.floor(s.Until))
		if until > from {
			own.Shifts = append(own.Shifts, roster.Shift{Window: roster.Window{From: from, Until: until}, Overtime: s.Overtime})
		}
		for _, r := range s.Rests {
			// A break that is shorter than a slot is not planned with.
			if from, until := max(0, c.ceil(r.From)), min(c.Problem.Horizon, c.floor(r.Until)); until > from {
				own.Rests = append(own.Rests, roster.Window{From: from, Until: until})
			}
		}
	}
	c.Problem.Crews = append(c.Problem.Crews, own)
}

// hands returns what a crew must be to do a task that takes so many people.
func hands(people int) string {
	if people == 1 {
		return "one person"
	}
	return fmt.Sprintf("%d people", people)
}

// machine puts machines of which there are few on the calendar.
func (c *Calendar) machine(m job.Machinery) {
	own := roster.Machine{ID: string(m.Machine), Capacity: m.Count}
	for _, l := range m.Off {
		from, errFrom := time.ParseInLocation(time.DateOnly, l.From, c.zone)
		until, errUntil := time.ParseInLocation(time.DateOnly, max(l.From, l.Until), c.zone)
		if a, b := max(0, c.floor(from)), min(c.Problem.Horizon, c.ceil(until.AddDate(0, 0, 1))); errFrom == nil &&
			errUntil == nil && b > a {
			own.Closed = append(own.Closed, roster.Window{From: a, Until: b})
		}
	}
	c.few[m.Machine] = true
	c.Problem.Machines = append(c.Problem.Machines, own)
}

func (c *Calendar) floor(t time.Time) roster.Slot {
	return roster.Slot(math.Floor(float64(t.Sub(c.From)) / float64(c.slot)))
}

func (c *Calendar) ceil(t time.Time) roster.Slot { return c.length(t.Sub(c.From)) }

func (c *Calendar) time(s roster.Slot) time.Time { return c.From.Add(time.Duration(s) * c.slot) }

// when is a time as it is told.
func (c *Calendar) when(t time.Time) string { return c.Reads.Time(t.In(c.zone), "Mon 2 Jan 15:04") }

// length is a stretch of time in slots, the last of which it need not fill.
func (c *Calendar) length(d time.Duration) roster.Slot {
	return roster.Slot(math.Ceil(float64(d) / float64(c.slot)))
}

// duration is a length of time to the millisecond.
func duration(s measure.Span) time.Duration {
	return time.Duration(math.Round(float64(s)*1e3)) * time.Millisecond
}

// fair are the slots in which a surface can be coated by the forecast; none where all
// can, or nobody knows. Beyond the forecast every slot is taken for fair.
func (c *Calendar) fair(s *stage.SurveyPlan) []roster.Window {
	if s == nil || len(s.Hours) == 0 {
		return nil
	}
	foul := make(map[roster.Slot]bool)
	for _, h := range s.Hours {
		if h.State == climate.Go {
			continue
		}
		for k := max(0, c.floor(h.At)); k < c.ceil(h.At.Add(time.Hour)); k++ {
			foul[k] = true
		}
	}
	if len(foul) == 0 {
		return nil
	}
	var all []roster.Window
	for k := roster.Slot(0); k < c.Problem.Horizon; k++ {
		if foul[k] {
			continue
		}
		if n := len(all); n > 0 && all[n-1].Until == k {
			all[n-1].Until++
		} else {
			all = append(all, roster.Window{From: k, Until: k + 1})
		}
	}
	return all
}

// Jobs are those on the calendar, in the order in which they were given.
func (c *Calendar) Jobs() []Job {
	all := make([]Job, 0, len(c.Problem.Jobs))
	for _, j := range c.Problem.Jobs {
		all = append(all, c.byJob[j.ID])
	}
	return all
}
