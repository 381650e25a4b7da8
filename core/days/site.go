package days

import (
	"math"
	"slices"
	"time"

	"nephelon/core/job"
	"nephelon/core/roster"
	"nephelon/core/work"
)

// site are the slots in which people may work at a place.
func (c *Calendar) site(h job.Hours, zone *time.Location) []roster.Window {
	var all []roster.Window
	for d := c.From.In(zone).AddDate(0, 0, -1); d.Before(c.Until); d = d.AddDate(0, 0, 1) {
		from, until, open := h.Shift(d.Year(), d.Month(), d.Day(), zone)
		if a, b := max(0, c.ceil(from)), min(c.Problem.Horizon, c.floor(until)); open && b > a {
			all = append(all, roster.Window{From: a, Until: b})
		}
	}
	if len(all) == 0 {
		all = []roster.Window{{From: c.Problem.Horizon - 1, Until: c.Problem.Horizon}}
	}
	return all
}

// loud are the machines that quiet hours forbid.
func loud(m work.Machine) bool {
	return m == work.Grinder || m == work.Blaster || m == work.Screener || m == work.Sander || m == work.Vacuum ||
		m == work.WetVacuum
}

// hushed are the slots outside the quiet hours of a job; none where a block is not loud.
func (c *Calendar) hushed(j Job, b *block) []roster.Window {
	quiet := j.File.Job.Quiet
	if len(quiet) == 0 || !slices.ContainsFunc(b.Needs.Machines, loud) {
		return nil
	}
	zone, err := j.File.Job.Place()
	if err != nil {
		zone = c.zone
	}
	return c.meeting(nil, func(s roster.Slot) bool {
		from := c.time(s).In(zone)
		for _, q := range quiet {
			for _, day := range []int{-1, 0} { // hours that began the day before may last until now
				begin, end := q.On(from.AddDate(0, 0, day))
				if begin.Before(from.Add(c.slot)) && end.After(from) {
					return false
				}
			}
		}
		return true
	})
}

// awaited are the slots from when all that a block takes is there; none where nothing is
// awaited.
func (c *Calendar) awaited(j Job, b *block) []roster.Window {
	zone, err := j.File.Job.Place()
	if err != nil {
		zone = c.zone
	}
	there := roster.Slot(0)
	parts := b.parts
	if len(parts) == 0 {
		parts = []work.Task{b.Task}
	}
	for _, p := range parts {
		for _, m := range p.Needs.Materials {
			for _, d := range j.File.Job.Awaited {
				same := m.Product != "" && m.Product == d.Product && m.Hardener == d.Hardener || m.Medium != "" &&
					m.Medium == d.Medium
				if day, err := time.ParseInLocation(time.DateOnly, d.On, zone); err == nil && same {
					there = max(there, c.ceil(day.AddDate(0, 0, 1)))
				}
			}
		}
	}
	if there == 0 {
		return nil
	}
	return since(there, c.Problem.Horizon, nil)
}

// meeting are the slots of windows, or of all of the time where there are none, for which
// something holds.
func (c *Calendar) meeting(windows []roster.Window, holds func(roster.Slot) bool) []roster.Window {
	if len(windows) == 0 {
		windows = []roster.Window{{From: 0, Until: c.Problem.Horizon}}
	}
	var all []roster.Window
	for _, w := range windows {
		for s := w.From; s < w.Until; s++ {
			if !holds(s) {
				continue
			}
			if n := len(all); n > 0 && all[n-1].Until == s {
				all[n-1].Until++
			} else {
				all = append(all, roster.Window{From: s, Until: s + 1})
			}
		}
	}
	if len(all) == 0 {
		all = []roster.Window{{From: c.Problem.Horizon - 1, Until: c.Problem.Horizon}}
	}
	return all
}

// How the way between two sites is guessed from their coordinates: roads are longer than
// the straight line, and driven at a pace: common practice, no source.
const (
	detour  = 1.3
	driving = 50.0      // km/h
	globe   = 6371.0088 // km, mean radius (IUGG)
)

// apart returns how far two places lie from each other, km (haversine).
func apart(a, b job.Whereabouts) float64 {
	const degree = math.Pi / 180
	dLat, dLon := (b.Latitude-a.Latitude)*degree, (b.Longitude-a.Longitude)*degree
	h := math.Pow(math.Sin(dLat/2), 2) + math.Cos(a.Latitude*degree)*math.Cos(b.Latitude*degree)*math.Pow(
		math.Sin(dLon/2), 2)
	return 2 * globe * math.Asin(math.Min(1, math.Sqrt(h)))
}

// drive returns how long a crew takes from one job to another: by their coordinates, else by way
// of the yard; 0 where nobody knows.
func drive(a, b job.Job) time.Duration {
	switch {
	case a.Where != nil && b.Where != nil:
		return time.Duration(apart(*a.Where, *b.Where) * detour / driving * float64(time.Hour))
	case a.Drive > 0 && b.Drive > 0:
		return duration(a.Drive + b.Drive)
	}
	return 0
}

// travel puts the ways between jobs on the calendar, and names the jobs to which it knows
// none: crews are planned to be there at once.
func (c *Calendar) travel() {
	var places []string
	linked := make(map[string]bool)
	for i := range c.Problem.Jobs {
		a := &c.Problem.Jobs[i]
		from := c.byJob[a.ID].File.Job
		if from.Where == nil && from.Drive == 0 {
			continue
		}
		a.Place = a.ID
		places = append(places, a.ID)
		for _, b := range c.Problem.Jobs[:i] {
			to := c.byJob[b.ID].File.Job
			if b.Place == "" || from.Where == nil != (to.Where == nil) && (from.Drive == 0 || to.Drive == 0) {
				continue
			}
			linked[a.ID], linked[b.ID] = true, true
			if took := drive(from, to); took > 0 {
				c.Problem.Travel = append(c.Problem.Travel, roster.Travel{From: a.ID, To: b.ID, Slots: c.length(took)})
				c.ways[[2]string{a.ID, b.ID}], c.ways[[2]string{b.ID, a.ID}] = took, took
			}
		}
	}
	c.wayThrough(places)
	for _, j := range c.Problem.Jobs {
		if len(c.Problem.Jobs) > 1 && !linked[j.ID] {
			c.Unknown = append(c.Unknown, c.jobName(j.ID))
		}
	}
}

// using takes machines off tasks that have begun where more of one are at work than there
// are, or while it is out of use: it is so, and what comes must be planned all the same.
func (c *Calendar) using(held map[string]Booked) {
	for _, machine := range c.Problem.Machines {
		used := 0
		for j := range c.Problem.Jobs {
			for n := range c.Problem.Jobs[j].Tasks {
				t := &c.Problem.Jobs[j].Tasks[n]
				b, there := held[c.Problem.Jobs[j].ID+"/"+t.ID]
				if !there || !b.From.Before(c.now) || !slices.Contains(t.Machines, machine.ID) {
					continue
				}
				closed := false
				for s := c.floor(b.From); s < c.ceil(b.Until); s++ {
					closed = closed || holds(machine.Closed, s)
				}
				if used++; closed || used > machine.Capacity {
					t.Machines = slices.DeleteFunc(slices.Clone(t.Machines), func(id string) bool { return id == machine.ID })
				}
			}
		}
	}
}
