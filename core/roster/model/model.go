// Package model holds a roster's problem compiled for planning: tasks with the gaps between them,
// the hours in which each crew can work, the ways between places, and the making of one schedule
// from an order of tasks. It searches nothing.
package model

import (
	"fmt"
	"slices"

	"nephelon/core/roster"
)

// Task is a task as the planner takes it.
type Task struct {
	Job, Group int // group: of tasks that hang together by gaps
	Duration   roster.Slot
	Breakable  bool
	Unattended bool
	Crews      []int
	Machines   []int
	Before     []Gap       // what it waits for
	After      []int       // tasks that wait for it
	Pinned     roster.Slot // −1 where free
	Access     int         // which windows hold
	Was        int         // booking of the plan before; −1
	WasBy      int         // the crew that it had there; −1: nobody, or none that is left
	Cling      int64       // weight of moving it
	Name       string
}

// Gap is a gap between two tasks.
type Gap struct {
	Task     int // before
	Start    bool
	Min, Max roster.Gap // max nil: none
	Moves    [2]bool    // min and max depend on when the task before is begun or done
	Buy      *roster.Buy
	Index    int // among the gaps that can be bought off; −1
}

// Least is the first slot at which a task may start after a booking of the one before.
func (g *Gap) Least(start, end roster.Slot) roster.Slot {
	at := end
	if g.Start {
		at = start
	}
	return at + g.Min(at)
}

// Most is the last one.
func (g *Gap) Most(start, end roster.Slot) roster.Slot {
	at := end
	if g.Start {
		at = start
	}
	return at + g.Max(at)
}

// Model is a problem that was checked and compiled: its tasks in an order in which each comes after
// those that it waits for, with numbers in place of names.
type Model struct {
	Problem   *roster.Problem
	Horizon   roster.Slot
	Tasks     []Task
	Jobs      []roster.Job
	Weights   []int64
	Machines  []roster.Machine
	Travel    [][]roster.Slot
	Place     []int // of a job; −1 nowhere
	Order     []int // of all tasks, each after those that it waits for
	Rank      []int
	Buys      int
	calendars map[calendarKey]*Calendar
	access    [][]roster.Window // all sets of windows that occur; 0 is always
	Shut      []*Calendar       // when a machine cannot be used; nil where it always can
	Far       roster.Slot       // the longest way
	Names     map[string]int
	Overtime  bool // somebody has overtime shifts
	Moved     bool // there is a plan before
	When      func(roster.Slot) string
	Lasts     func(roster.Slot) string
}

func constant(s roster.Slot) roster.Gap { return func(roster.Slot) roster.Slot { return s } }

func bad(path, text string, args ...any) error {
	return &roster.Error{Path: path, Text: fmt.Sprintf(text, args...)}
}

// Compile checks a problem and makes it ready.
func Compile(p *roster.Problem) (*Model, error) {
	m := &Model{
		Problem: p, Horizon: p.Horizon, Jobs: p.Jobs, Machines: p.Machines,
		calendars: make(map[calendarKey]*Calendar), Names: make(map[string]int), access: [][]roster.Window{nil},
		When:  func(s roster.Slot) string { return fmt.Sprintf("slot %d", s) },
		Lasts: func(s roster.Slot) string { return fmt.Sprintf("%d slots", s) },
	}
	if p.Horizon < 1 {
		return nil,
			bad("/horizon", "There is no time to plan in. Give the slots in all, such as 1344 of half an hour for four weeks.")
	}
	crews, err := m.crews()
	if err != nil {
		return nil, err
	}
	machines, err := m.machinery()
	if err != nil {
		return nil, err
	}
	places := make(map[string]int)
	for j := range p.Jobs {
		if err := m.add(j, crews, machines, places); err != nil {
			return nil, err
		}
	}
	if err := m.gaps(); err != nil {
		return nil, err
	}
	if err := m.ways(places); err != nil {
		return nil, err
	}
	for i, b := range p.Before {
		if n, known := m.Names[b.Job+"/"+b.Task]; known && n >= 0 { // else its task is gone
			m.Tasks[n].Was, m.Moved = i, true
			m.Tasks[n].Cling = int64(max(1, b.Weight))
			if crew, there := crews[b.Crew]; there {
				m.Tasks[n].WasBy = crew
			}
		}
	}
	return m, m.long()
}

// crews checks the crews and returns their places, by id.
func (m *Model) crews() (map[string]int, error) {
	all := make(map[string]int)
	for i, c := range m.Problem.Crews {
		path := fmt.Sprintf("/crews/%d", i)
		if _, twice := all[c.ID]; twice {
			return nil, bad(path+"/id", "The crew %q is listed twice. Give each an id of its own.", c.ID)
		}
		all[c.ID] = i
		for k, s := range c.Shifts {
			if err := check(s.Window, fmt.Sprintf("%s/shifts/%d", path, k)); err != nil {
				return nil, err
			}
			m.Overtime = m.Overtime || s.Overtime
		}
		for k, w := range c.Rests {
			if err := check(w, fmt.Sprintf("%s/rests/%d", path, k)); err != nil {
				return nil, err
			}
		}
	}
	return all, nil
}

// machinery checks the machines and returns their places, by id.
func (m *Model) machinery() (map[string]int, error) {
	all := make(map[string]int)
	for i, x := range m.Machines {
		path := fmt.Sprintf("/machines/%d", i)
		if _, twice := all[x.ID]; twice {
			return nil, bad(path+"/id", "The machine %q is listed twice. Give each an id of its own.", x.ID)
		}
		if x.Capacity < 1 {
			return nil, bad(path+"/capacity", "Its number is 0. Give how many tasks may use it at once.")
		}
		for k, w := range x.Closed {
			if err := check(w, fmt.Sprintf("%s/closed/%d", path, k)); err != nil {
				return nil, err
			}
		}
		all[x.ID] = i
		var shut *Calendar
		if len(x.Closed) > 0 {
			shut = calendarOf(m.flags(x.Closed), make([]bool, m.Horizon))
		}
		m.Shut = append(m.Shut, shut)
	}
	return all, nil
}

// add checks a job and takes its tasks in.
func (m *Model) add(j int, crews, machines, places map[string]int) error {
	job, path := m.Jobs[j], fmt.Sprintf("/jobs/%d", j)
	if _, twice := m.Names[job.ID]; twice {
		return bad(path+"/id", "The job %q is listed twice. Give each an id of its own.", job.ID)
	}
	m.Names[job.ID] = -1
	place := -1
	if job.Place != "" {
		if _, known := places[job.Place]; !known {
			places[job.Place] = len(places)
		}
		place = places[job.Place]
	}
	m.Place = append(m.Place, place)
	m.Weights = append(m.Weights, int64(max(1, job.Weight)))
	if job.Release < 0 {
		return bad(path+"/release", "It is before the first slot.")
	}
	access, err := m.windows(job.Access, path+"/access")
	if err != nil {
		return err
	}
	for k, t := range job.Tasks {
		path := fmt.Sprintf("%s/tasks/%d", path, k)
		name := job.ID + "/" + t.ID
		if _, twice := m.Names[name]; twice {
			return bad(path+"/id", "The task %q is listed twice in its job. Give each an id of its own.", t.ID)
		}
		m.Names[name] = len(m.Tasks)
		own := Task{Job: j, Duration: t.Duration, Breakable: t.Breakable, Unattended: t.Unattended, Pinned: -1,
			Access: access, Was: -1, WasBy: -1, Name: t.Name}
		if own.Name == "" {
			own.Name = t.ID
		}
		if t.Duration < 0 || t.Duration > m.Horizon {
			return bad(path+"/duration", "It takes %d slots, and there are %d in all.", t.Duration, m.Horizon)
		}
		if len(t.Windows) > 0 {
			if own.Access, err = m.both(job.Access, t.Windows, path+"/windows"); err != nil {
				return err
			}
		}
		if t.Start != nil {
			if *t.Start < 0 || *t.Start >= m.Horizon {
				return bad(path+"/start", "It is pinned to slot %d, outside 0 to %d.", *t.Start, m.Horizon-1)
			}
			own.Pinned = *t.Start
		}
		if own.Crews, err = m.able(t, crews, path); err != nil {
			return err
		}
		for i, id := range t.Machines {
			n, known := machines[id]
			if !known {
				return bad(fmt.Sprintf("%s/machines/%d", path, i), "There is no machine %q.", id)
			}
			if !slices.Contains(own.Machines, n) {
				own.Machines = append(own.Machines, n)
			}
		}
		m.Tasks = append(m.Tasks, own)
	}
	return nil
}

// able are the crews that can do a task; none where nobody works at it.
func (m *Model) able(t roster.Task, crews map[string]int, path string) ([]int, error) {
	if t.Unattended {
		return nil, nil
	}
	if _, known := crews[t.Crew]; t.Crew != "" && !known {
		return nil, bad(path+"/crew", "There is no crew %q.", t.Crew)
	}
	var all []int
	for i, c := range m.Problem.Crews {
		if (t.Crew == "" || t.Crew == c.ID) && Has(c.Skills, t.Skills) {
			all = append(all, i)
		}
	}
	if len(all) == 0 {
		return nil, bad(path+"/skills", "No crew can do it: it needs %q. Give a crew these skills, or ask for fewer.",
			t.Skills)
	}
	return all, nil
}

// ways reads how long a crew takes from place to place: by way of other places where that is
// shorter (Floyd 1962), so that no crew is faster for a stop on its way. It costs the cube of
// the places.
func (m *Model) ways(places map[string]int) error {
	m.Travel = make([][]roster.Slot, len(places))
	known := make([][]bool, len(places))
	for i := range m.Travel {
		m.Travel[i], known[i] = make([]roster.Slot, len(places)), make([]bool, len(places))
	}
	given := make(map[[2]string]roster.Slot, len(m.Problem.Travel))
	for i, t := range m.Problem.Travel {
		if t.Slots < 0 {
			return bad(fmt.Sprintf("/travel/%d/slots", i), "A travel time must not be negative.")
		}
		key := [2]string{min(t.From, t.To), max(t.From, t.To)}
		if was, twice := given[key]; twice && was != t.Slots {
			return bad(fmt.Sprintf("/travel/%d/slots", i),
				"The way between %q and %q is given with %d slots and with %d. Give it once.", t.From, t.To, was, t.Slots)
		}
		given[key] = t.Slots
		a, from := places[t.From]
		b, to := places[t.To]
		if from && to && a != b { // else no job is there
			m.Travel[a][b], m.Travel[b][a] = t.Slots, t.Slots
			known[a][b], known[b][a] = true, true
		}
	}
	for via := range m.Travel {
		for a := range m.Travel {
			for b := range m.Travel {
				way := m.Travel[a][via] + m.Travel[via][b]
				if a != b && known[a][via] && known[via][b] && (!known[a][b] || way < m.Travel[a][b]) {
					m.Travel[a][b], known[a][b] = way, true
				}
			}
		}
	}
	for a := range m.Travel {
		m.Far = max(m.Far, slices.Max(m.Travel[a]))
	}
	return nil
}

// Has reports whether skills contain all that is asked.
func Has(skills, asked []string) bool {
	for _, s := range asked {
		if !slices.Contains(skills, s) {
			return false
		}
	}
	return true
}

// path of a task in the file.
func (m *Model) path(i int) string {
	first := i
	for first > 0 && m.Tasks[first-1].Job == m.Tasks[i].Job {
		first--
	}
	return fmt.Sprintf("/jobs/%d/tasks/%d", m.Tasks[i].Job, i-first)
}

// long names a task that is longer than any shift.
func (m *Model) long() error {
	for i := range m.Tasks {
		t := &m.Tasks[i]
		fits := t.Unattended
		longest := roster.Slot(0)
		for _, c := range t.Crews {
			own := m.Calendar(c, t.Access, true, t.Breakable)
			_, _, ok := own.Fit(0, t.Duration, t.Breakable)
			fits = fits || ok
			for _, s := range own.Open {
				longest = max(longest, own.Until[s]-s)
			}
		}
		if !fits && t.Breakable {
			return &roster.Error{Path: m.path(i) + "/duration",
				Text: fmt.Sprintf("%s takes %d slots, more than anybody who can do it works in all.", t.Name, t.Duration)}
		}
		if !fits {
			return &roster.Error{Path: m.path(i) + "/duration",
				Text: fmt.Sprintf("%s takes %d slots in one go, and the longest shift of anybody who can do it has %d. Let it be "+
					"interrupted, or divide it.", t.Name, t.Duration, longest)}
		}
	}
	return nil
}

// JobName returns the name of a job, or its id where it has none.
func (m *Model) JobName(j int) string {
	if name := m.Jobs[j].Name; name != "" {
		return name
	}
	return m.Jobs[j].ID
}
