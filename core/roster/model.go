package roster

import (
	"fmt"
	"slices"
)

// task is a task as the planner takes it.
type task struct {
	job, group int // group: of tasks that hang together by gaps
	duration   Slot
	breakable  bool
	unattended bool
	crews      []int
	machines   []int
	before     []gap // what it waits for
	after      []int // tasks that wait for it
	pinned     Slot  // −1 where free
	access     int   // which windows hold
	was        int   // booking of the plan before; −1
	name       string
}

// gap is a gap between two tasks.
type gap struct {
	task     int // before
	start    bool
	min, max Gap     // max nil: none
	moves    [2]bool // min and max depend on when the task before is begun or done
	buy      *Buy
	index    int // among the gaps that can be bought off; −1
}

// least is the first slot at which a task may start after a booking of the one before.
func (g *gap) least(start, end Slot) Slot {
	at := end
	if g.start {
		at = start
	}
	return at + g.min(at)
}

// most is the last one.
func (g *gap) most(start, end Slot) Slot {
	at := end
	if g.start {
		at = start
	}
	return at + g.max(at)
}

type model struct {
	problem   *Problem
	horizon   Slot
	tasks     []task
	jobs      []Job
	weights   []int64
	machines  []Machine
	travel    [][]Slot
	place     []int // of a job; −1 nowhere
	order     []int // of all tasks, each after those that it waits for
	rank      []int
	buys      int
	calendars map[calendarKey]*calendar
	access    [][]Window  // all sets of windows that occur; 0 is always
	shut      []*calendar // when a machine cannot be used; nil where it always can
	far       Slot        // the longest way
	names     map[string]int
	overtime  bool // somebody has overtime shifts
	moved     bool // there is a plan before
	when      func(Slot) string
	lasts     func(Slot) string
}

func constant(s Slot) Gap { return func(Slot) Slot { return s } }

func bad(path, text string, args ...any) error { return &Error{path, fmt.Sprintf(text, args...)} }

// compile checks a problem and makes it ready.
func compile(p *Problem) (*model, error) {
	m := &model{
		problem: p, horizon: p.Horizon, jobs: p.Jobs, machines: p.Machines,
		calendars: make(map[calendarKey]*calendar), names: make(map[string]int), access: [][]Window{nil},
		when:  func(s Slot) string { return fmt.Sprintf("slot %d", s) },
		lasts: func(s Slot) string { return fmt.Sprintf("%d slots", s) },
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
		if n, known := m.names[b.Job+"/"+b.Task]; known && n >= 0 { // else its task is gone
			m.tasks[n].was, m.moved = i, true
		}
	}
	return m, m.long()
}

// crews checks the crews and returns their places, by id.
func (m *model) crews() (map[string]int, error) {
	all := make(map[string]int)
	for i, c := range m.problem.Crews {
		path := fmt.Sprintf("/crews/%d", i)
		if _, twice := all[c.ID]; twice {
			return nil, bad(path+"/id", "The crew %q comes twice. Give each an id of its own.", c.ID)
		}
		all[c.ID] = i
		for k, s := range c.Shifts {
			if err := s.check(fmt.Sprintf("%s/shifts/%d", path, k)); err != nil {
				return nil, err
			}
			m.overtime = m.overtime || s.Overtime
		}
		for k, w := range c.Rests {
			if err := w.check(fmt.Sprintf("%s/rests/%d", path, k)); err != nil {
				return nil, err
			}
		}
	}
	return all, nil
}

// machinery checks the machines and returns their places, by id.
func (m *model) machinery() (map[string]int, error) {
	all := make(map[string]int)
	for i, x := range m.machines {
		path := fmt.Sprintf("/machines/%d", i)
		if _, twice := all[x.ID]; twice {
			return nil, bad(path+"/id", "The machine %q comes twice. Give each an id of its own.", x.ID)
		}
		if x.Capacity < 1 {
			return nil, bad(path+"/capacity", "There is none of it. Give how many tasks may use it at once.")
		}
		for k, w := range x.Closed {
			if err := w.check(fmt.Sprintf("%s/closed/%d", path, k)); err != nil {
				return nil, err
			}
		}
		all[x.ID] = i
		var shut *calendar
		if len(x.Closed) > 0 {
			shut = calendarOf(m.flags(x.Closed), make([]bool, m.horizon))
		}
		m.shut = append(m.shut, shut)
	}
	return all, nil
}

// add checks a job and takes its tasks in.
func (m *model) add(j int, crews, machines, places map[string]int) error {
	job, path := m.jobs[j], fmt.Sprintf("/jobs/%d", j)
	if _, twice := m.names[job.ID]; twice {
		return bad(path+"/id", "The job %q comes twice. Give each an id of its own.", job.ID)
	}
	m.names[job.ID] = -1
	place := -1
	if job.Place != "" {
		if _, known := places[job.Place]; !known {
			places[job.Place] = len(places)
		}
		place = places[job.Place]
	}
	m.place = append(m.place, place)
	m.weights = append(m.weights, int64(max(1, job.Weight)))
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
		if _, twice := m.names[name]; twice {
			return bad(path+"/id", "The task %q comes twice in its job. Give each an id of its own.", t.ID)
		}
		m.names[name] = len(m.tasks)
		own := task{job: j, duration: t.Duration, breakable: t.Breakable, unattended: t.Unattended, pinned: -1,
			access: access, was: -1, name: t.Name}
		if own.name == "" {
			own.name = t.ID
		}
		if t.Duration < 0 || t.Duration > m.horizon {
			return bad(path+"/duration", "It takes %d slots, and there are %d in all.", t.Duration, m.horizon)
		}
		if len(t.Windows) > 0 {
			if own.access, err = m.both(job.Access, t.Windows, path+"/windows"); err != nil {
				return err
			}
		}
		if t.Start != nil {
			if *t.Start < 0 || *t.Start >= m.horizon {
				return bad(path+"/start", "It is pinned to slot %d, outside 0 to %d.", *t.Start, m.horizon-1)
			}
			own.pinned = *t.Start
		}
		if own.crews, err = m.able(t, crews, path); err != nil {
			return err
		}
		for i, id := range t.Machines {
			n, known := machines[id]
			if !known {
				return bad(fmt.Sprintf("%s/machines/%d", path, i), "There is no machine %q.", id)
			}
			if !slices.Contains(own.machines, n) {
				own.machines = append(own.machines, n)
			}
		}
		m.tasks = append(m.tasks, own)
	}
	return nil
}

// able are the crews that can do a task; none where nobody works at it.
func (m *model) able(t Task, crews map[string]int, path string) ([]int, error) {
	if t.Unattended {
		return nil, nil
	}
	if _, known := crews[t.Crew]; t.Crew != "" && !known {
		return nil, bad(path+"/crew", "There is no crew %q.", t.Crew)
	}
	var all []int
	for i, c := range m.problem.Crews {
		if (t.Crew == "" || t.Crew == c.ID) && has(c.Skills, t.Skills) {
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
func (m *model) ways(places map[string]int) error {
	m.travel = make([][]Slot, len(places))
	known := make([][]bool, len(places))
	for i := range m.travel {
		m.travel[i], known[i] = make([]Slot, len(places)), make([]bool, len(places))
	}
	given := make(map[[2]string]Slot, len(m.problem.Travel))
	for i, t := range m.problem.Travel {
		if t.Slots < 0 {
			return bad(fmt.Sprintf("/travel/%d/slots", i), "Nobody travels in less than no time.")
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
			m.travel[a][b], m.travel[b][a] = t.Slots, t.Slots
			known[a][b], known[b][a] = true, true
		}
	}
	for via := range m.travel {
		for a := range m.travel {
			for b := range m.travel {
				way := m.travel[a][via] + m.travel[via][b]
				if a != b && known[a][via] && known[via][b] && (!known[a][b] || way < m.travel[a][b]) {
					m.travel[a][b], known[a][b] = way, true
				}
			}
		}
	}
	for a := range m.travel {
		m.far = max(m.far, slices.Max(m.travel[a]))
	}
	return nil
}

func has(skills, asked []string) bool {
	for _, s := range asked {
		if !slices.Contains(skills, s) {
			return false
		}
	}
	return true
}

// path of a task in the file.
func (m *model) path(i int) string {
	first := i
	for first > 0 && m.tasks[first-1].job == m.tasks[i].job {
		first--
	}
	return fmt.Sprintf("/jobs/%d/tasks/%d", m.tasks[i].job, i-first)
}

// long names a task that is longer than any shift.
func (m *model) long() error {
	for i := range m.tasks {
		t := &m.tasks[i]
		fits := t.unattended
		longest := Slot(0)
		for _, c := range t.crews {
			own := m.calendar(c, t.access, true, t.breakable)
			_, _, ok := own.fit(0, t.duration, t.breakable)
			fits = fits || ok
			for _, s := range own.open {
				longest = max(longest, own.until[s]-s)
			}
		}
		if !fits && t.breakable {
			return &Error{m.path(i) + "/duration",
				fmt.Sprintf("%s takes %d slots, more than anybody who can do it works in all.", t.name, t.duration)}
		}
		if !fits {
			return &Error{m.path(i) + "/duration",
				fmt.Sprintf("%s takes %d slots in one go, and the longest shift of anybody who can do it has %d. Let it be "+
					"broken off, or divide it.", t.name, t.duration, longest)}
		}
	}
	return nil
}

func (m *model) jobName(j int) string {
	if name := m.jobs[j].Name; name != "" {
		return name
	}
	return m.jobs[j].ID
}
