package days

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"nephelon/core/roster"
	"nephelon/core/work"
)

// rivals are the bookings of a company by what they take up: crews and few machines.
type rivals struct {
	calendar *Calendar
	crews    map[string][]rival
	machines map[string][]rival
}

// rival is a booking with its place among those it was given with.
type rival struct {
	Booked
	place int
}

// rivals gathers what bookings take up.
func (c *Calendar) rivals(booked []Booked) rivals {
	r := rivals{calendar: c, crews: make(map[string][]rival), machines: make(map[string][]rival)}
	for n, b := range booked {
		r.add(rival{b, n})
	}
	return r
}

func (r *rivals) add(b rival) {
	at, there := r.calendar.index[b.key()]
	if !there {
		return
	}
	if b.Crew != "" {
		r.crews[b.Crew] = append(r.crews[b.Crew], b)
	}
	for _, m := range r.calendar.Tasks[at].Machines {
		if r.calendar.few[m] {
			r.machines[string(m)] = append(r.machines[string(m)], b)
		}
	}
}

// every counts all bookings but that of the task itself.
const every = -1

// against returns why a crew cannot be at a task between two times: it is at something
// else, cannot be there in time, or a machine is used up or out of use; empty where it can.
// Only bookings before a place among them count, or every one.
func (r rivals) against(at int, crew string, from, until time.Time, before int) string {
	c := r.calendar
	counts := func(b *rival) bool {
		return (before == every || b.place < before) && (b.Job != c.Tasks[at].Job || b.Task != c.Tasks[at].ID)
	}
	if text := r.elsewhere(at, crew, from, until, counts); text != "" {
		return text
	}
	for _, machine := range c.Problem.Machines {
		if !slices.Contains(c.Tasks[at].Machines, work.Machine(machine.ID)) {
			continue
		}
		for s := c.floor(from); s < c.ceil(until); s++ {
			if holds(machine.Closed, s) {
				return fmt.Sprintf("the %s is out of use %s.", spaced(machine.ID), c.when(c.time(s)))
			}
			used := 0
			for n := range r.machines[machine.ID] {
				if b := &r.machines[machine.ID][n]; c.floor(b.From) <= s && s < c.ceil(b.Until) && counts(b) {
					used++
				}
			}
			if used >= machine.Capacity {
				return fmt.Sprintf("the %s is booked for something else %s.", spaced(machine.ID), c.when(c.time(s)))
			}
		}
	}
	return ""
}

// elsewhere returns why a crew cannot be at a task's place for its other bookings.
func (r rivals) elsewhere(at int, crew string, from, until time.Time, counts func(*rival) bool) string {
	c := r.calendar
	here := c.Tasks[at].Job
	var before, after *rival
	for n := range r.crews[crew] {
		o := &r.crews[crew][n]
		switch {
		case !counts(o):
		case o.From.Before(until) && from.Before(o.Until):
			return c.crewName(crew) + " is booked for something else at that time."
		case !o.Until.After(from) && (before == nil || o.Until.After(before.Until)):
			before = o
		case !o.From.Before(until) && (after == nil || o.From.Before(after.From)):
			after = o
		}
	}
	if before != nil {
		if way := c.between(before.Job, here); way > from.Sub(before.Until) {
			return fmt.Sprintf("the way from %s takes %s, and %s has %s for it.", c.jobName(before.Job), worded(way),
				c.crewName(crew), worded(from.Sub(before.Until)))
		}
	}
	if after != nil {
		if way := c.between(here, after.Job); way > after.From.Sub(until) {
			return fmt.Sprintf("the way to %s takes %s, and %s has %s for it.", c.jobName(after.Job), worded(way),
				c.crewName(crew), worded(after.From.Sub(until)))
		}
	}
	return ""
}

func (c *Calendar) jobName(id string) string { return c.byJob[id].File.Job.Name }

// spaced is a machine in words.
func spaced(id string) string { return strings.ReplaceAll(id, "-", " ") }

// worded is a length of time in words.
func worded(d time.Duration) string {
	if d < time.Hour {
		return fmt.Sprintf("%.0f min", d.Minutes())
	}
	return fmt.Sprintf("%.3g h", d.Hours())
}

// early returns why a task of a job may not begin at a time whatever else is booked: the
// client lets nobody begin, or the job is planned for later; empty where it may.
func (c *Calendar) early(job string, from time.Time) string {
	release, there := c.release[job]
	if !there || !from.Before(release.at) {
		return ""
	}
	return fmt.Sprintf("%s %s.", release.why, c.when(release.at))
}

// release is the time before which nothing of a job begins, and why.
type release struct {
	at  time.Time
	why string
}

// short returns why a booking is too short for its task; empty where it is not.
func (c *Calendar) short(at int, b Booked) string {
	t := c.task(at)
	need := t.Duration
	if b.Bought {
		for _, a := range t.After {
			if a.Buy != nil {
				need += a.Buy.Slots
				break
			}
		}
	}
	from, until := c.floor(b.From), c.ceil(b.Until)
	have := until - from
	k := slices.IndexFunc(c.Problem.Crews, func(o roster.Crew) bool { return o.ID == b.Crew })
	if t.Breakable && k >= 0 {
		have = 0
		stay := c.stay(at, c.Problem.Crews[k])
		for s := from; s < until; s++ {
			if stay.works(s) {
				have++
			}
		}
	}
	if have >= need {
		return ""
	}
	return fmt.Sprintf("it takes %s of work, and %s are booked.", worded(time.Duration(need)*c.slot),
		worded(time.Duration(have)*c.slot))
}

// works reports whether the crew can be at the task in a slot.
func (s stay) works(at roster.Slot) bool {
	if !holds(s.shifts, at) || holds(s.crew.Rests, at) {
		return false
	}
	for _, why := range s.causes {
		if !holds(why.windows, at) {
			return false
		}
	}
	return true
}

// between returns how long a crew takes between two jobs, by way of others where that is
// shorter; 0 where nobody knows.
func (c *Calendar) between(a, b string) time.Duration { return c.ways[[2]string{a, b}] }

// wayThrough closes the ways between jobs under way of others (Floyd 1962).
func (c *Calendar) wayThrough(places []string) {
	for _, via := range places {
		for _, a := range places {
			first, known := c.ways[[2]string{a, via}]
			if !known {
				continue
			}
			for _, b := range places {
				second, known := c.ways[[2]string{via, b}]
				if !known || a == b {
					continue
				}
				if now, known := c.ways[[2]string{a, b}]; !known || first+second < now {
					c.ways[[2]string{a, b}] = first + second
				}
			}
		}
	}
}
