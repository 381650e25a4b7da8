package days

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"nephelon/core/plan"
	"nephelon/core/roster"
	"nephelon/core/work"
)

// Bookable is a task that can be booked, as it is shown.
type Bookable struct {
	Job     string    `json:"job"`
	ID      string    `json:"id"`
	Name    string    `json:"name"`
	Surface string    `json:"surface" doc:"Name of the surface"`
	Kind    work.Kind `json:"kind"`
	Number  int       `json:"number,omitempty" doc:"Number of the coat that is poured, from 1"`
	Color   string    `json:"color,omitempty"`
	People  int       `json:"people" doc:"People that it needs"`
	Minutes float64   `json:"minutes" doc:"Minutes of a crew, setting up and cleaning included"`
	Whole   bool      `json:"whole,omitempty" doc:"Lies inside one shift"`
	Passing bool      `json:"passing,omitempty" doc:"Nobody works at it: it comes by itself"`

	Machines []work.Machine `json:"machines,omitempty" doc:"Machines that it runs on"`
}

func (t Bookable) key() string { return t.Job + "/" + t.ID }

// shown is a block as it is shown.
func shown(j Job, b *block) Bookable {
	out := Bookable{Job: j.ID, ID: string(b.ID), Name: b.Name, Kind: b.Kind, People: b.people, Minutes: b.lasts.Minutes(),
		Whole: !b.breakable && b.Split != work.Passing, Passing: b.Split == work.Passing, Machines: b.Needs.Machines}
	for _, s := range j.Plan.Surfaces {
		if s.ID != b.Surface {
			continue
		}
		out.Surface = s.Name
		for _, coat := range s.Coats {
			if coat.ID == b.Coat && len(b.parts) > 0 {
				out.Number, out.Color = coat.Number, coat.Color
			}
		}
	}
	return out
}

// add puts a job on the calendar, or leaves it out with the reason.
func (c *Calendar) add(j Job, held map[string]Booked) {
	leave := func(text, way string) {
		c.Left = append(c.Left, Unplanned{j.ID, j.File.Job.Name, text, way})
	}
	if len(j.Plan.Tasks) == 0 {
		leave("There is nothing to do yet.", "Measure it and plan its coats.")
		return
	}
	own := c.dated(j)
	all, of := blocks(j)
	var tasks []Bookable
	waits, cool := make(map[string][]gap), make(map[string][]gap)
	cooler := j
	cooler.Films = j.Cool
	all = c.still(j, all, of, held)
	for _, b := range all {
		if l, is := c.broken[j.ID+"/"+string(b.ID)]; is {
			b.shorten(l)
		}
		before, told := gaps(j, b, of, c.now)
		if !told && len(b.parts) == 0 { // when it can be walked on is told to nobody
			delete(of, b.ID)
			continue
		}
		if !told {
			leave(fmt.Sprintf("The data sheet of the coat under “%s” gives no recoat time.", b.Name),
				"Enter that time on its data sheet.")
			return
		}
		show := shown(j, b)
		one := roster.Task{ID: show.ID, Name: b.Name, Duration: c.length(b.lasts), Breakable: b.breakable,
			Unattended: show.Passing}
		for _, s := range b.Needs.Skills {
			one.Skills = append(one.Skills, string(s))
		}
		one.Skills = append(one.Skills, hands(b.people))
		for _, m := range b.Needs.Machines {
			if c.few[m] {
				one.Machines = append(one.Machines, string(m))
			}
		}
		why := c.bounded(&one, j, b, len(own.Access) > 0 && !show.Passing, own.Access)
		if hours := c.timed(&one, j, b, own.Access); hours != nil {
			why = append(why, *hours)
		}
		c.causes[show.key()] = why
		for _, g := range before {
			one.After = append(one.After, c.after(g))
		}
		if b, there := held[show.key()]; there && !c.over(b) {
			c.hold(&one, b)
		}
		if text, way := c.never(one, show); text != "" {
			leave(text, way)
			return
		}
		waits[show.key()] = before
		cool[show.key()], _ = gaps(cooler, b, of, c.now)
		tasks, own.Tasks = append(tasks, show), append(own.Tasks, one)
	}
	for _, t := range tasks {
		c.index[t.key()] = len(c.Tasks)
		c.Tasks = append(c.Tasks, t)
		c.gaps[t.key()], c.cool[t.key()] = waits[t.key()], cool[t.key()]
	}
	begun := slices.ContainsFunc(own.Tasks, func(t roster.Task) bool { return t.Start != nil && *t.Start < own.Release })
	for n := range own.Tasks {
		if t := &own.Tasks[n]; begun && t.Start == nil { // what is left is not begun before either
			t.Windows = since(own.Release, c.Problem.Horizon, t.Windows)
		}
	}
	if begun {
		own.Release = 0
		delete(c.release, j.ID)
	}
	c.Problem.Jobs = append(c.Problem.Jobs, own)
	c.byJob[j.ID] = j
}

// still returns the blocks of a job that have their place on the calendar: not what was laid long
// ago, nor what was to come before a pour that was begun.
func (c *Calendar) still(j Job, all []*block, of map[work.ID]*block, held map[string]Booked) []*block {
	if len(j.Laid) == 0 {
		return all
	}
	over := c.preceding(j, of)
	return slices.DeleteFunc(all, func(b *block) bool {
		key := j.ID + "/" + string(b.ID)
		l, laid := c.lain[key]
		was, booked := held[key]
		if laid && !l.From.Before(c.From) || !laid && (!over[b] || booked && was.From.Before(c.now)) {
			c.covered[key] = over[b]
			return false
		}
		c.past[key] = true
		maps.DeleteFunc(of, func(_ work.ID, other *block) bool { return other == b })
		return true
	})
}

// bounded keeps a task to the hours that weather, the site and deliveries leave it, and returns
// what bounds it. The hours of access are bounds of the whole job: they are only told.
func (c *Calendar) bounded(one *roster.Task, j Job, b *block, closed bool, access []roster.Window) []cause {
	var why []cause
	bound := func(text string, all []roster.Window) {
		if len(all) == 0 {
			return
		}
		why = append(why, cause{text: text, windows: all})
		one.Windows = c.meeting(one.Windows, func(s roster.Slot) bool { return holds(all, s) })
	}
	if b.Gate == work.CoatingWeather {
		bound("the forecast is not suitable", c.fair(surfaceOf(j.Plan, b.Surface).Survey))
	}
	bound("the site requires quiet", c.hushed(j, b))
	bound("its material is not delivered yet", c.awaited(j, b))
	if closed {
		why = append(why, cause{text: "nobody may work on site", windows: access})
	}
	return why
}

// timed keeps the beginning of a pour to the hours that its coat asks for, and returns what bounds it; nil where it
// asks for none. What rests between shifts is not kept to them: whoever books it is told.
func (c *Calendar) timed(one *roster.Task, j Job, b *block, access []roster.Window) *cause {
	if len(b.parts) == 0 {
		return nil
	}
	first := b.parts[0]
	own := j.Films.Opening(first.Coat)
	if !own.Any() {
		return nil
	}
	own = own.Within(func(at time.Time) (time.Time, bool) { return c.shiftOf(at, access) })
	against := func(at time.Time) string {
		kit := at.Add(b.starts[first.ID])
		return lower(own.Against(kit, kit.Add(duration(first.Takes))))
	}
	if !b.breakable {
		begins := c.meeting(nil, func(s roster.Slot) bool { return against(c.time(s)) == "" })
		for n := range begins {
			begins[n].Until += one.Duration - 1
		}
		one.Windows = c.meeting(one.Windows, func(s roster.Slot) bool { return holds(begins, s) })
	}
	return &cause{begun: against}
}

// shiftOf returns when the shift of a crew began that is on site at a time; the last one where there are several.
func (c *Calendar) shiftOf(at time.Time, access []roster.Window) (from time.Time, open bool) {
	slot := c.floor(at)
	for _, crew := range c.Problem.Crews {
		for _, s := range crew.Shifts {
			if slot < s.From || slot >= s.Until {
				continue
			}
			begins := s.From
			for _, w := range access {
				if w.From <= slot && slot < w.Until {
					begins = max(begins, w.From)
				}
			}
			if t := c.time(begins); !open || t.After(from) {
				from, open = t, true
			}
		}
	}
	return from, open
}

// dated is a job without its tasks: when it may begin, and by when it is due.
func (c *Calendar) dated(j Job) roster.Job {
	f := j.File.Job
	out := roster.Job{ID: j.ID, Name: f.Name, Release: max(0, c.ceil(c.now))}
	zone, err := f.Place()
	if err != nil {
		zone = c.zone
	}
	if r, err := f.Start.In(zone); f.Start != "" && err == nil {
		// The first coat is planned for then; what comes before it begins earlier.
		begins := r.At
		for _, s := range j.Plan.Surfaces {
			if s.Begin != nil && s.Begin.Before(begins) {
				begins = *s.Begin
			}
		}
		out.Release = max(out.Release, c.ceil(begins))
		c.release[j.ID] = release{begins, "the job is planned to begin"}
	}
	if day, err := time.ParseInLocation(time.DateOnly, f.Earliest, zone); err == nil {
		out.Release = max(out.Release, c.ceil(day))
		if was, there := c.release[j.ID]; !there || day.After(was.at) {
			c.release[j.ID] = release{day, "the client allows no start before"}
		}
	}
	if f.Hours != nil {
		out.Access = c.site(*f.Hours, zone)
	}
	if day, err := time.ParseInLocation(time.DateOnly, f.Due, zone); err == nil {
		due := c.ceil(day.AddDate(0, 0, 1))
		out.Due = &due
	}
	return out
}

func surfaceOf(p plan.Plan, id string) plan.SurfacePlan {
	at := slices.IndexFunc(p.Surfaces, func(s plan.SurfacePlan) bool { return s.ID == id })
	if at < 0 {
		return plan.SurfacePlan{}
	}
	return p.Surfaces[at]
}

// over reports whether a booking is of a pour that was broken off: what is left of that is booked anew.
func (c *Calendar) over(b Booked) bool {
	l, is := c.broken[b.key()]
	return is && !b.From.After(*l.Broken)
}

// hold keeps a task where it is booked: pinned, or begun already.
func (c *Calendar) hold(t *roster.Task, b Booked) {
	start := c.floor(b.From)
	if start < 0 || start >= c.Problem.Horizon {
		return
	}
	if b.From.Before(c.now) { // whatever the rules are: it is so
		t.Start, t.Unattended, t.Breakable, t.Duration, t.After, t.Windows = &start, true, false,
			max(0, c.ceil(b.Until)-start), nil, nil
		if !b.Until.After(c.now) {
			t.Machines = nil
		}
		return
	}
	if b.Pinned {
		t.Start, t.Crew = &start, b.Crew
	}
}

// lacks are the skills of a task that a crew has not.
func lacks(t roster.Task, crew roster.Crew) []string {
	return slices.DeleteFunc(slices.Clone(t.Skills), func(s string) bool { return slices.Contains(crew.Skills, s) })
}

// never returns why nobody can ever do a task, with a way out; empty where somebody can.
func (c *Calendar) never(t roster.Task, shown Bookable) (text, way string) {
	if t.Unattended {
		return "", ""
	}
	able, longest := false, roster.Slot(0)
	small := t // but for how many people it takes
	small.Skills = slices.DeleteFunc(slices.Clone(t.Skills), func(s string) bool { return s == hands(shown.People) })
	skilled := false
	for _, crew := range c.Problem.Crews {
		skilled = skilled || len(lacks(small, crew)) == 0
		if len(lacks(t, crew)) > 0 {
			continue
		}
		able = true
		for _, s := range crew.Shifts {
			longest = max(longest, s.Until-s.From)
		}
	}
	switch {
	case !able && skilled:
		return fmt.Sprintf("“%s” is planned for %s, and no crew that could do it has as many.", t.Name, hands(shown.People)),
			"Add people to a crew, or plan the job with fewer."
	case !able:
		return fmt.Sprintf("“%s” takes %s, and no crew can do all of that.", t.Name, strings.Join(small.Skills, " and ")),
			"Give a crew these skills."
	case longest == 0:
		return fmt.Sprintf("No crew that can do “%s” has working hours.", t.Name), "Give a crew hours."
	case !t.Breakable && t.Duration > longest:
		return fmt.Sprintf("“%s” of %s takes %.3g h in one go with setting up and cleaning, and the longest shift is %.3g h.",
				t.Name, shown.Surface, float64(t.Duration)*c.slot.Hours(), float64(longest)*c.slot.Hours()),
			"Bring more people, or lay it in sections with clean tape lines."
	}
	return "", ""
}

// since are windows from a slot on; all of the time after it where there are none.
func since(from, horizon roster.Slot, all []roster.Window) []roster.Window {
	if len(all) == 0 {
		all = []roster.Window{{From: 0, Until: horizon}}
	}
	var left []roster.Window
	for _, w := range all {
		if w.From = max(w.From, from); w.From < w.Until {
			left = append(left, w)
		}
	}
	if len(left) == 0 {
		left = []roster.Window{{From: horizon - 1, Until: horizon}}
	}
	return left
}
