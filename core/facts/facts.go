// Package facts holds what the world says beside what people decided in a job's file. A plan is
// made of both, and of nothing else.
package facts

import (
	"fmt"
	"time"

	"nephelon/core/measure"
)

// Facts holds what is known of the world when a plan is made. All stages of a plan see the same.
type Facts struct {
	Now      time.Time `json:"now" doc:"When the plan is made"`
	Zone     string    `json:"zone,omitempty" maxLength:"60" doc:"IANA time zone of whoever plans, for a job that names none"`
	Bookings []Booking `json:"bookings,omitempty" maxItems:"20000" doc:"Tasks of the job that are booked, in any order"`
	Logged   []Laid    `json:"logged,omitempty" maxItems:"2000" doc:"Coats of the job that were begun, as they were logged"`
	Steps    []Step    `json:"steps,omitempty" maxItems:"20000" doc:"Preparation of the job that was closed or is done again"`
	Readings []Reading `json:"readings,omitempty" maxItems:"20000" doc:"Slabs of the job as they were read on its days"`
}

// Step holds how far a task of preparation or a test is.
type Step struct {
	Task   string `json:"task" minLength:"1" maxLength:"200"`
	Closed bool   `json:"closed,omitempty" doc:"Somebody closed it, with what was seen"`
	Again  string `json:"again,omitempty" maxLength:"300" doc:"Why it is done again, after a test that failed"`
}

// StepOf returns what is told of a task; an empty step where nothing is.
func StepOf(all []Step, task string) Step {
	for _, s := range all {
		if s.Task == task {
			return s
		}
	}
	return Step{}
}

// Reading holds how warm a slab was read.
type Reading struct {
	At   time.Time           `json:"at"`
	Slab measure.Temperature `json:"slab" minimum:"-60" maximum:"90" doc:"°C"`
}

// Laid holds when a coat was laid.
type Laid struct {
	Coat  string     `json:"coat" minLength:"1" maxLength:"60" doc:"Id of the coat"`
	From  time.Time  `json:"from" doc:"When its first batch was poured"`
	Until *time.Time `json:"until,omitempty" doc:"When its last section was done; absent while it is under way"`

	Broken *time.Time       `json:"broken,omitempty" doc:"When it was broken off: its day was closed with sections left"`
	Share  measure.Fraction `json:"share,omitempty" minimum:"0" maximum:"1" doc:"Share of its area that was laid when it was broken off"`

	Thick float64 `json:"thick,omitempty" minimum:"1" maximum:"20" doc:"How many times as thick as planned its film was read, where it dries and was read more than a fifth thicker"`
}

// Booking holds when a crew is booked for a task.
type Booking struct {
	Task   string     `json:"task" minLength:"1" maxLength:"250" doc:"Id of the task, such as coat/c1/pour"`
	From   time.Time  `json:"from" doc:"When the crew begins: of a pour, with its first kit"`
	Until  time.Time  `json:"until" doc:"When it is done: of a pour, its last section"`
	Comes  *time.Time `json:"comes,omitempty" doc:"When the crew comes to set it up, where that is earlier"`
	Ready  *Window    `json:"ready,omitempty" doc:"When its pails are made ready, on a working day before"`
	Crew   string     `json:"crew,omitempty" maxLength:"60" doc:"Name of the crew"`
	People []string   `json:"people,omitempty" maxItems:"40" doc:"Names of its people, the mixer first; they play the parts of the job's crew where that is not named"`
	Done   bool       `json:"done,omitempty" doc:"Somebody said that it was done as booked, where nothing was logged"`
}

// Window is a stretch of time.
type Window struct {
	From  time.Time `json:"from"`
	Until time.Time `json:"until"`
}

// Fault returns what cannot be of facts, and where; empty where nothing is.
func (f Facts) Fault() (path, text string) {
	seen := make(map[string]bool, len(f.Bookings))
	for n, b := range f.Bookings {
		at := fmt.Sprintf("/bookings/%d", n)
		switch {
		case b.Until.Before(b.From):
			return at + "/until", "It ends before it begins. Give it an end after its beginning."
		case seen[b.Task]:
			return at + "/task", "Its task is booked twice. Keep one of the two."
		}
		seen[b.Task] = true
	}
	laid := make(map[string]bool, len(f.Logged))
	for n, l := range f.Logged {
		at := fmt.Sprintf("/logged/%d", n)
		switch {
		case l.Until != nil && l.Until.Before(l.From):
			return at + "/until", "It was done before it was begun. Give it an end after its beginning."
		case l.Broken != nil && (l.Until != nil || l.Broken.Before(l.From)):
			return at + "/broken", "It was broken off before it was begun, or after it was done. Leave one of the two out."
		case laid[l.Coat]:
			return at + "/coat", "Its coat was logged twice. Keep one of the two."
		}
		laid[l.Coat] = true
	}
	return "", ""
}

// Basis names what a time of a plan rests on.
type Basis string

// What times rest on.
const (
	Logged   Basis = "logged"
	Booked   Basis = "booked"
	Proposed Basis = "proposed"
)

// Values returns all values, in the order in which they are shown.
func (Basis) Values() []Basis { return []Basis{Logged, Booked, Proposed} }

// At returns the facts of a time of which nothing else is known.
func At(now time.Time) Facts { return Facts{Now: now} }
