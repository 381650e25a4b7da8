package days

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"nephelon/core/roster"
)

// Broken is a booking that no longer holds.
type Broken struct {
	Job  string `json:"job"`
	Task string `json:"task"`
	Text string `json:"text"`
}

// Check returns which bookings no longer hold, and why: a window closed, a film not ready, a
// crew that does not work then, or is wanted twice. What has begun is not asked.
func (c *Calendar) Check(booked []Booked) []Broken {
	all := []Broken{}
	stands := c.actual(booked)
	windows, rivals := c.Allowed(booked), c.rivals(stands)
	for n, b := range booked {
		at, there := c.index[b.key()]
		if l := c.broken[b.key()]; c.over(b) {
			all = append(all, Broken{b.Job, b.Task,
				fmt.Sprintf("%s: it was broken off %s with %.0f %% of it laid. Plan the rest.", cmp.Or(b.Title, b.Task),
					c.when(*l.Broken), 100*float64(l.Share))})
		}
		if _, laid := c.lain[b.key()]; laid || b.From.Before(c.now) {
			continue
		}
		if c.past[b.key()] {
			all = append(all, Broken{b.Job, b.Task,
				fmt.Sprintf("%s: what comes after it is laid already.", cmp.Or(b.Title, b.Task))})
		}
		if !there {
			continue
		}
		name := c.Tasks[at].Name
		say := func(format string, args ...any) {
			all = append(all, Broken{b.Job, b.Task, name + ": " + fmt.Sprintf(format, args...)})
		}
		if w := windows[b.key()]; w.Opens != nil && b.From.Before(*w.Opens) {
			say("the task before it is ready %s, and it is booked for %s.", c.when(*w.Opens), c.when(b.From))
		} else if w.Closes != nil && b.From.After(*w.Closes) && !b.Bought {
			say("its window closes %s, and it is booked for %s.", c.when(*w.Closes), c.when(b.From))
		}
		if b.Crew == "" {
			continue
		}
		for _, p := range b.Pours {
			if p.Ready != nil && !c.attends(b.Crew, *p.Ready) {
				say("its pails are to be made ready %s, and %s does not work then.", c.when(p.Ready.From), c.crewName(b.Crew))
			}
		}
		for _, reason := range [...]string{
			c.early(b.Job, b.From), cmp.Or(c.outside(at, b.Crew, b.From, b.Until), c.short(at, b)),
			rivals.against(at, b.Crew, b.From, b.Until, n), c.dust(at, b, stands),
		} {
			if reason != "" {
				say("%s", reason)
			}
		}
	}
	return all
}

func (c *Calendar) crewName(id string) string {
	for _, crew := range c.Problem.Crews {
		if crew.ID == id {
			return crew.Name
		}
	}
	return id
}

// task is a task of the problem.
func (c *Calendar) task(at int) roster.Task {
	for _, j := range c.Problem.Jobs {
		if j.ID != c.Tasks[at].Job {
			continue
		}
		for _, t := range j.Tasks {
			if t.ID == c.Tasks[at].ID {
				return t
			}
		}
	}
	return roster.Task{}
}

// outside returns why a crew cannot do a task between two times, whatever else it does: empty where it can.
func (c *Calendar) outside(at int, crew string, from, until time.Time) string {
	k := slices.IndexFunc(c.Problem.Crews, func(o roster.Crew) bool { return o.ID == crew })
	if k < 0 {
		return "its crew is no longer on the roster."
	}
	if why := c.stay(at, c.Problem.Crews[k]).fault(c.floor(from), c.ceil(until)); why != nil {
		return why()
	}
	return ""
}

// stay is a crew at a task, wherever that may lie.
type stay struct {
	calendar *Calendar
	crew     roster.Crew
	shifts   []roster.Window
	lacks    []string
	whole    bool // the task lies inside one shift
	causes   []cause
}

func (c *Calendar) stay(at int, crew roster.Crew) stay {
	t := c.task(at)
	s := stay{calendar: c, crew: crew, shifts: make([]roster.Window, len(crew.Shifts)), lacks: lacks(t, crew),
		whole: !t.Breakable, causes: c.causes[c.Tasks[at].key()]}
	for i, w := range crew.Shifts {
		s.shifts[i] = w.Window
	}
	return s
}

// fault returns, if asked, why the crew cannot do the task from one slot to another; nil where it can.
func (s stay) fault(start, end roster.Slot) func() string {
	c := s.calendar
	if len(s.lacks) > 0 {
		return func() string {
			return fmt.Sprintf("%s is not enough for it: it takes %s.", s.crew.Name, strings.Join(s.lacks, " and "))
		}
	}
	if !holds(s.shifts, start) {
		return func() string { return fmt.Sprintf("%s does not work %s.", s.crew.Name, c.when(c.time(start))) }
	}
	for at := start; at < end && s.whole; at++ {
		if !holds(s.shifts, at) {
			return func() string {
				return fmt.Sprintf("it takes until %s, and the shift of %s ends %s.", c.when(c.time(end)), s.crew.Name,
					c.when(c.time(at)))
			}
		}
		for _, why := range s.causes {
			if why.begun == nil && !holds(why.windows, at) {
				return func() string { return fmt.Sprintf("%s %s.", why.text, c.when(c.time(at))) }
			}
		}
	}
	for _, why := range s.causes {
		if why.begun != nil {
			if text := why.begun(c.time(start)); text != "" {
				return func() string { return text }
			}
			continue
		}
		if !holds(why.windows, start) { // it may rest, but not begin then
			return func() string { return fmt.Sprintf("%s %s.", why.text, c.when(c.time(start))) }
		}
	}
	return nil
}

// ends returns the slot after the task, begun at a slot.
func (s stay) ends(from, work roster.Slot) roster.Slot {
	if s.whole {
		return from + work
	}
	return s.done(from, work)
}

// holds reports whether a slot lies in windows.
func holds(all []roster.Window, s roster.Slot) bool {
	return slices.ContainsFunc(all, func(w roster.Window) bool { return w.From <= s && s < w.Until })
}

// Opening is a stretch in which a task may begin.
type Opening struct {
	Crew  string    `json:"crew"`
	From  time.Time `json:"from"`
	Until time.Time `json:"until" doc:"The last beginning"`
}

// Places returns where a task may be put, crew by crew, with what lies before it booked as it
// is: in the window to that, in a shift of somebody who can do it, and by the forecast.
func (c *Calendar) Places(booked []Booked, job, task string) []Opening {
	all := []Opening{}
	at, there := c.index[job+"/"+task]
	if !there {
		return all
	}
	t := c.task(at)
	window := c.Allowed(booked)[job+"/"+task]
	first, last := max(0, c.ceil(c.now)), c.Problem.Horizon-1
	if window.Opens != nil {
		first = max(first, c.ceil(*window.Opens))
	}
	if window.Closes != nil {
		last = min(last, c.floor(*window.Closes))
	}
	rivals := c.rivals(c.actual(booked))
	if r, there := c.release[job]; there {
		first = max(first, c.ceil(r.at))
	}
	for _, crew := range c.Problem.Crews {
		stays := c.stay(at, crew)
		for s := first; s <= last; s++ {
			if stays.fault(s, s+t.Duration) != nil || rivals.against(at, crew.ID, c.time(s), c.time(stays.ends(s, t.Duration)),
				every) != "" {
				continue
			}
			if n := len(all); n > 0 && all[n-1].Crew == crew.ID && all[n-1].Until.Equal(c.time(s-1)) {
				all[n-1].Until = c.time(s)
			} else {
				all = append(all, Opening{crew.ID, c.time(s), c.time(s)})
			}
		}
	}
	return all
}

// Why returns why a task cannot begin at a place; empty where it can.
func (c *Calendar) Why(booked []Booked, job, task, crew string, from time.Time) string {
	at, there := c.index[job+"/"+task]
	if !there {
		return "This task is no longer on the calendar."
	}
	w := c.Allowed(booked)[job+"/"+task]
	start := c.floor(from)
	until := c.time(start + c.task(at).Duration)
	switch {
	case from.Before(c.now):
		return "That is in the past."
	case w.Opens != nil && from.Before(*w.Opens):
		return fmt.Sprintf("The task before it is ready %s.", c.when(*w.Opens))
	case w.Closes != nil && from.After(*w.Closes):
		return fmt.Sprintf("Its window closes %s.", c.when(*w.Closes))
	}
	reason := cmp.Or(c.early(job, from), c.outside(at, crew, from, until))
	if k := slices.IndexFunc(c.Problem.Crews, func(o roster.Crew) bool { return o.ID == crew }); reason == "" && k >= 0 {
		end := c.stay(at, c.Problem.Crews[k]).ends(start, c.task(at).Duration)
		reason = c.rivals(c.actual(booked)).against(at, crew, from, c.time(end), every)
	}
	return sentence(reason)
}

// lower returns a sentence as it follows a colon.
func lower(text string) string {
	if text == "" {
		return ""
	}
	return strings.ToLower(text[:1]) + text[1:]
}

// sentence returns a reason with a capital; empty where there is none.
func sentence(reason string) string {
	if reason == "" {
		return ""
	}
	return strings.ToUpper(reason[:1]) + reason[1:]
}
