// Package roster schedules the tasks of many jobs over crews, machines and days: each
// task in a shift of a crew that can do it, after what it waits for by its least and
// within its greatest gap. It counts in slots of a problem's own length and knows nothing
// of coatings; what coats ask of it is in the gaps.
package roster

import "fmt"

// Slot counts slots from the beginning of a problem.
type Slot int

// Window is a stretch of slots, which may come again.
type Window struct {
	From  Slot `json:"from" minimum:"0"`
	Until Slot `json:"until" minimum:"1" doc:"The first slot after it"`
	Every Slot `json:"every,omitempty" minimum:"0" doc:"Comes again after so many slots; 0 or absent: once"`
}

// Shift holds when a crew works.
type Shift struct {
	Window
	Overtime bool `json:"overtime,omitempty" doc:"Worked only where it helps; each slot counts as overtime"`
}

// Crew does one task at a time.
type Crew struct {
	ID     string   `json:"id" minLength:"1" maxLength:"120"`
	Name   string   `json:"name,omitempty" maxLength:"120"`
	Skills []string `json:"skills" maxItems:"60"`
	Shifts []Shift  `json:"shifts" maxItems:"400"`
	Rests  []Window `json:"rests,omitempty" maxItems:"400" doc:"Breaks inside its shifts: work that may break rests then; what lies whole in a shift goes on"`
}

// Machine holds what there are few of.
type Machine struct {
	ID       string   `json:"id" minLength:"1" maxLength:"120"`
	Name     string   `json:"name,omitempty" maxLength:"120"`
	Capacity int      `json:"capacity" minimum:"1" maximum:"1000" doc:"How many tasks may use it at once"`
	Closed   []Window `json:"closed,omitempty" maxItems:"400" doc:"When none of it can be used"`
}

// Mark is the end of a task from which a gap is counted.
type Mark string

// The marks.
const (
	End   Mark = "end"
	Start Mark = "start"
)

// Gap is a length of time that may depend on when the task before is begun or done.
type Gap func(at Slot) Slot

// Buy holds what may be done where a greatest gap is missed: so many slots of work more, at
// the beginning of the task that comes too late.
type Buy struct {
	Slots Slot   `json:"slots" minimum:"0" doc:"Work that is added"`
	What  string `json:"what,omitempty" maxLength:"200" doc:"What it is, in words"`
}

// After holds what a task waits for. Its start lies at least Min and at most Max after the
// mark of the task before.
type After struct {
	Task  string `json:"task" minLength:"1" maxLength:"250" doc:"Id of a task of the same job, or job/task"`
	From  Mark   `json:"from,omitempty" doc:"Absent: end"`
	Min   Slot   `json:"minLag,omitempty" doc:"Slots; below zero it may begin before the mark"`
	Max   *Slot  `json:"maxLag,omitempty" nullable:"true" doc:"Slots; null or absent: none"`
	Buy   *Buy   `json:"buyOff,omitempty" doc:"What may be done where the greatest gap is missed; absent: it may not be missed"`
	MinAt Gap    `json:"-"` // in place of Min
	MaxAt Gap    `json:"-"` // in place of Max
}

// Task is a piece of work.
type Task struct {
	ID         string   `json:"id" minLength:"1" maxLength:"120"`
	Name       string   `json:"name,omitempty" maxLength:"200"`
	Duration   Slot     `json:"duration" minimum:"0" doc:"Slots of work"`
	Skills     []string `json:"skills,omitempty" maxItems:"20" doc:"The crew must have all of them"`
	Machines   []string `json:"machines,omitempty" maxItems:"20" doc:"Ids; each is used from its start to its end"`
	After      []After  `json:"after,omitempty" maxItems:"60"`
	Breakable  bool     `json:"breakable,omitempty" doc:"May rest between shifts; else it lies whole inside one"`
	Unattended bool     `json:"unattended,omitempty" doc:"Time passes without a crew"`
	Windows    []Window `json:"windows,omitempty" maxItems:"400" doc:"It is worked only inside them; absent: at any time"`
	Crew       string   `json:"crew,omitempty" maxLength:"120" doc:"Only by this crew"`
	Start      *Slot    `json:"start,omitempty" nullable:"true" doc:"Pinned to this slot"`
}

// Job is tasks for one client at one place.
type Job struct {
	ID      string   `json:"id" minLength:"1" maxLength:"120"`
	Name    string   `json:"name,omitempty" maxLength:"200"`
	Release Slot     `json:"release,omitempty" minimum:"0" doc:"Nothing begins before"`
	Due     *Slot    `json:"due,omitempty" nullable:"true" doc:"All should be done by then"`
	Weight  int      `json:"weight,omitempty" minimum:"0" maximum:"1000" doc:"Weight of a slot that it is late; absent or 0: 1"`
	Place   string   `json:"place,omitempty" maxLength:"120"`
	Access  []Window `json:"access,omitempty" maxItems:"400" doc:"When people may work there; absent: always"`
	Tasks   []Task   `json:"tasks" maxItems:"2000"`
}

// Travel holds how long a crew takes between two places, either way.
type Travel struct {
	From  string `json:"from" minLength:"1" maxLength:"120"`
	To    string `json:"to" minLength:"1" maxLength:"120"`
	Slots Slot   `json:"slots" minimum:"0"`
}

// Booking holds when a task is done, and by whom.
type Booking struct {
	Job      string   `json:"job"`
	Task     string   `json:"task"`
	Crew     string   `json:"crew,omitempty" doc:"Absent where nobody works at it"`
	Start    Slot     `json:"start"`
	End      Slot     `json:"end" doc:"The first slot after it"`
	Overtime Slot     `json:"overtime,omitempty" doc:"Slots of overtime worked; where it is zero it rests during those that lie in it"`
	Bought   []string `json:"bought,omitempty" doc:"Tasks whose greatest gap it misses, for which work was added"`
	Weight   int      `json:"weight,omitempty" minimum:"0" maximum:"1000" doc:"Of a plan before: weight of moving it; absent or 0: 1"`
}

// Problem is everything that is to be scheduled.
type Problem struct {
	Format      string    `json:"format" enum:"nephelon-roster"`
	Version     int       `json:"version" minimum:"1" maximum:"1"`
	SlotMinutes int       `json:"slotMinutes" minimum:"1" maximum:"1440"`
	Horizon     Slot      `json:"horizon" minimum:"1" maximum:"50000" doc:"Slots in all; nothing is scheduled beyond"`
	Crews       []Crew    `json:"crews" maxItems:"200"`
	Machines    []Machine `json:"machines,omitempty" maxItems:"200"`
	Jobs        []Job     `json:"jobs" maxItems:"1000"`
	Travel      []Travel  `json:"travel,omitempty" maxItems:"10000"`
	Before      []Booking `json:"before,omitempty" maxItems:"20000" doc:"A plan that stood before: bookings that move are counted"`
}

// Format and Version of problems.
const (
	Format  = "nephelon-roster"
	Version = 1
)

// Error is a problem that cannot be: its path is a JSON Pointer.
type Error struct{ Path, Text string }

func (e *Error) Error() string { return fmt.Sprintf("%s: %s", e.Path, e.Text) }

// Parts of what a plan costs, the weightiest first.
const (
	Late     = iota // weighted slots after what is due
	Bought          // greatest gaps missed, each bought off by work
	Overtime        // slots
	Moves           // bookings other than in the plan before, weighted
	Moving          // slots of travel
	Finish          // the slot at which everything is done
	Parts
	Early = Parts // sum of the slots at which each job is done: decides between equals
)

// Cost holds what a plan costs, part by part; parts are compared one after the other. Behind
// them stands what decides between plans that cost the same.
type Cost [Parts + 1]int64

// Less reports whether a cost is lower than another.
func (c Cost) Less(o Cost) bool {
	for i := range c {
		if c[i] != o[i] {
			return c[i] < o[i]
		}
	}
	return false
}

// Plan is a schedule with what it costs.
type Plan struct {
	Bookings []Booking `json:"bookings"`
	Cost     Cost      `json:"-"`
	Bound    Cost      `json:"-"` // no plan costs less, part by part where those before are equal
	Proven   int       `json:"-"` // so many parts of the cost, from the first, are proven least
}

// Optimal reports whether no plan costs less.
func (p Plan) Optimal() bool { return p.Proven == Parts }

// Values returns all values, in the order in which they are shown.
func (Mark) Values() []Mark {
	return []Mark{End, Start}
}
