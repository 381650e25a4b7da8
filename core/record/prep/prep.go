// Package prep tells how far the preparation of the surfaces of a job is: what can be begun, what waits until it is dry
// or may be read, what was closed with what was seen, and what a failed test has done again. It knows issued plans and
// what was logged, and changes neither.
package prep

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/core/work"
)

// State says how far a task is.
type State string

// The states.
const (
	Blocked  State = "blocked" // by what comes before it
	Waits    State = "waits"   // until what comes before it is dry, or it may be read
	Ready    State = "ready"
	UnderWay State = "under-way"
	Closed   State = "closed"
)

// Values returns all values, in the order in which they are shown.
func (State) Values() []State { return []State{Blocked, Waits, Ready, UnderWay, Closed} }

// Step is a task of preparation or a test on its day.
type Step struct {
	Task    work.ID    `json:"task"`
	Place   string     `json:"place" doc:"Name of the surface"`
	Surface string     `json:"surface" doc:"Id of the surface"`
	Name    string     `json:"name"`
	Test    bool       `json:"test,omitempty" doc:"It passes or fails"`
	State   State      `json:"state"`
	Who     []string   `json:"who,omitempty" doc:"Names of those who are at it"`
	From    *time.Time `json:"from,omitempty" doc:"When it may be begun at the earliest, once all before it is closed"`
	Until   *time.Time `json:"until,omitempty" doc:"When it must be done"`
	At      *time.Time `json:"at,omitempty" doc:"When it was closed"`
	By      string     `json:"by,omitempty"`
	Saw     string     `json:"saw,omitempty" doc:"What was seen when it was closed"`
	Event   string     `json:"event,omitempty" doc:"The event that closed it"`
	Again   string     `json:"again,omitempty" doc:"Why it is done again"`
}

// reader reads the steps of one job.
type reader struct {
	issue *record.Issue
	day   *record.Day
	void  map[work.ID]time.Time // closings up to then do not count
	again map[work.ID]string
}

// Of returns the preparation of the surfaces of a plan at a time, in the order of the work.
func Of(i *record.Issue, day *record.Day, now time.Time) []Step {
	r := reader{issue: i, day: day, void: make(map[work.ID]time.Time), again: make(map[work.ID]string)}
	for _, c := range day.Closings {
		if t := r.task(c.Task); c.Failed && t != nil {
			r.fails(t, c)
		}
	}
	all := []Step{}
	closed := make(map[work.ID]time.Time)
	for n := range i.Tasks {
		if t := &i.Tasks[n]; prepares(t) && i.Surface(t.Surface).ID != "" {
			s := r.step(t, closed, now)
			if s.State == Closed {
				closed[t.ID] = *s.At
			}
			all = append(all, s)
		}
	}
	return all
}

// prepares reports whether a task belongs to the preparation of a surface.
func prepares(t *work.Task) bool {
	return t.Kind == work.Prepare || t.Kind == work.Fill || t.Kind == work.Retest
}

func (r *reader) task(id work.ID) *work.Task {
	at := slices.IndexFunc(r.issue.Tasks, func(t work.Task) bool { return t.ID == id })
	if at < 0 || !prepares(&r.issue.Tasks[at]) {
		return nil
	}
	return &r.issue.Tasks[at]
}

// step reads one task; closed holds when those before it were closed.
func (r *reader) step(t *work.Task, closed map[work.ID]time.Time, now time.Time) Step {
	s := Step{Task: t.ID, Place: r.issue.Surface(t.Surface).Name, Surface: t.Surface, Name: t.Name, State: Ready,
		Test: t.Kind == work.Retest && t.Closes != "", Again: r.again[t.ID]}
	void := r.void[t.ID]
	for _, h := range r.day.Hours {
		if h.Task == string(t.ID) && h.To == nil && h.From.After(void) {
			s.State, s.Who = UnderWay, append(s.Who, h.Person)
		}
	}
	for _, a := range t.After {
		before := r.task(a.Task)
		if before == nil {
			continue
		}
		at, done := closed[a.Task]
		if !done {
			s.State = Blocked
			continue
		}
		from := at
		if a.Least != nil {
			from = a.Least.Fixed.After(at)
		}
		if s.From == nil || from.After(*s.From) {
			s.From = &from
		}
		if a.Most != nil {
			until := a.Most.Fixed.After(at) // no step comes after two that end
			s.Until = &until
		}
	}
	if s.State == Blocked {
		s.From, s.Until = nil, nil
	}
	if s.State == Ready && s.From != nil && s.From.After(now) {
		s.State = Waits
	}
	for _, c := range r.day.Closings { // that it was closed counts, whatever came before it
		if c.Task == t.ID && !c.Failed && c.At.After(void) {
			at := c.At
			s.State, s.At, s.By, s.Saw, s.Event, s.Who, s.Again = Closed, &at, c.By, c.Saw, c.Event, nil, ""
		}
	}
	return s
}

// Judged holds a reading of a test against its limits.
type Judged struct {
	Fits bool   `json:"fits"`
	Text string `json:"text"`
}

// Judge judges the reading of a test, in the SI unit of its kind.
func Judge(a *record.Ask, value float64, units measure.System) Judged {
	shown := func(v float64) string { return units.Format(a.Kind, v) }
	low, high := a.Least != nil && value < *a.Least, a.Most != nil && value > *a.Most
	wanted := ""
	switch {
	case a.Least != nil && a.Most != nil && *a.Least == *a.Most:
		wanted = shown(*a.Least)
	case a.Least != nil && a.Most != nil:
		wanted = shown(*a.Least) + " to " + shown(*a.Most)
	case a.Least != nil:
		wanted = "at least " + shown(*a.Least)
	case a.Most != nil:
		wanted = "at most " + shown(*a.Most)
	}
	return Judged{Fits: !low && !high, Text: fmt.Sprintf("%s: %s; %s (%s)", a.What, shown(value), wanted, a.From)}
}

// opens are the steps that open a surface.
func opens() []string { return []string{"grind", "shot-blast", "screen", "sand", "abrade", "strip"} }

// redone returns the steps of which the last one planned is done again where a test fails, and why in words. Without a
// step there is nothing to do but wait: the surface dries.
func redone(verdict string) (steps []string, why string) {
	switch verdict {
	case "ph":
		return []string{"rinse-again", "rinse"}, "the pH is out of range: rinse again, then test again"
	case "water-drop":
		return append(opens(), "degrease", "wet"), "water does not soak in: clean and open the surface again"
	case "profile":
		return append(opens(), "wet"), "the profile is too smooth: open the surface again"
	case "pull-off":
		return append(opens(), "wet"), "the surface tears off too easily: open it deeper, down to sound ground"
	}
	return nil, "still damp: leave it open to dry, then test again; a primer against moisture is a change of the plan"
}

// fails voids what a failed test shows to be not good enough, from the step that is done again to the test.
func (r *reader) fails(t *work.Task, c record.Closing) {
	_, verdict, _ := strings.Cut(string(t.ID), "/retest/")
	steps, why := redone(strings.TrimSuffix(verdict, "/read"))
	first, last := -1, -1
	for n := range r.issue.Tasks {
		o := &r.issue.Tasks[n]
		if o.Surface != t.Surface || !prepares(o) {
			continue
		}
		if o.ID == t.ID {
			last = n
			break
		}
		if _, step, is := strings.Cut(string(o.ID), "/prepare/"); is && slices.Contains(steps, step) {
			first = n
		}
	}
	set := work.ID(strings.TrimSuffix(string(t.ID), "/read"))
	for n := range r.issue.Tasks {
		o := &r.issue.Tasks[n]
		again := n == last || o.ID == set || first >= 0 && n >= first && n < last && o.Kind != work.Retest
		if again && o.Surface == t.Surface && prepares(o) {
			r.void[o.ID], r.again[o.ID] = c.At, why
		}
	}
}
