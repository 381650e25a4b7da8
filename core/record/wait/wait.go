// Package wait lists what a day at a job waits for: what dries or is read later before the first coat, tape and drips
// of a top, the next coat and its window, and when a surface can be used. It knows issued plans and what was logged,
// and changes neither.
package wait

import (
	"fmt"
	"slices"
	"time"

	"nephelon/core/cure"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/core/record/current"
	"nephelon/core/record/prep"
	"nephelon/core/work"
)

// Wait is one thing that comes due.
type Wait struct {
	Coat      string    `json:"coat" doc:"Id of the coat that it waits on; empty where that is preparation"`
	Place     string    `json:"place" doc:"Surface and coat, in words"`
	Text      string    `json:"text" doc:"What comes due"`
	Due       time.Time `json:"due"`
	Otherwise string    `json:"otherwise,omitempty" doc:"What it means if nobody comes"`
	Who       []string  `json:"who,omitempty" doc:"Names of those whose work it is; left out where nobody has to be there"`
}

// Of returns what a day waits for at a time, what is due first before the rest. What is over and was seen to is left
// out.
func Of(i *record.Issue, day *record.Day, now time.Time) []Wait {
	all := []Wait{}
	for n := range day.Coats {
		d := &day.Coats[n]
		c := i.Coat(d.ID)
		if c == nil || d.Begun == nil {
			continue
		}
		l := lister{issue: i, day: day, coat: c, of: d, now: now}
		l.edges()
		l.stages()
		all = append(all, l.out...)
	}
	all = append(all, preparation(i, day, now)...)
	slices.SortStableFunc(all, func(a, b Wait) int { return a.Due.Compare(b.Due) })
	return all
}

// Lately bounds how long after its last entry a job is looked at together with others: its record goes on with what
// nobody saw to.
const Lately = 21 * 24 * time.Hour

// How long before and after now what comes due is told of jobs together.
const (
	past  = 24 * time.Hour
	ahead = 7 * 24 * time.Hour
)

// OfJob returns what a job waits for that comes due from a day ago to a week ahead, by its issued plans, newest first,
// and all that was logged.
func OfJob(issues []record.Issue, events []record.Event, now time.Time, lives *cure.Known) []Wait {
	if len(issues) == 0 {
		return nil
	}
	stands := current.Plan(issues, events)
	day := record.TellerWith(lives).Tell(&stands, events, now, measure.Metric) // nothing that is waited for has a unit
	return slices.DeleteFunc(Of(&stands, &day, now), func(w Wait) bool {
		return !w.Due.After(now.Add(-past)) || !w.Due.Before(now.Add(ahead))
	})
}

// preparation lists what dries or is read later, on surfaces whose coats are not begun.
func preparation(i *record.Issue, day *record.Day, now time.Time) []Wait {
	all := []Wait{}
	for _, s := range prep.Of(i, day, now) {
		part := work.Preparer
		if slices.ContainsFunc(i.Tasks, func(t work.Task) bool { return t.ID == s.Task && t.Kind == work.Retest }) {
			part = work.Tester
		}
		if slices.ContainsFunc(day.Coats, func(d record.CoatDay) bool {
			c := i.Coat(d.ID)
			return c != nil && c.Surface == s.Surface && d.Begun != nil
		}) {
			continue
		}
		switch {
		case s.State == prep.Waits:
			all = append(all, Wait{Place: s.Place, Text: s.Name, Due: *s.From,
				Who: first(i, day, s.Surface, part)})
		case s.State == prep.Ready && s.Until != nil && s.Until.Add(kept).After(now):
			all = append(all, Wait{Place: s.Place, Text: s.Name + ": last hour", Due: *s.Until,
				Otherwise: "it is set again", Who: first(i, day, s.Surface, part)})
		}
	}
	return all
}

// first returns who plays a part before the first coat of a surface.
func first(i *record.Issue, day *record.Day, surface string, part work.Role) []string {
	for n := range i.Coats {
		if c := &i.Coats[n]; c.Surface == surface {
			return names(c, day, part)
		}
	}
	return nil
}

// names returns those of the crew of a coat who play one of some parts and did not leave; all where nobody does.
func names(c *record.Coat, day *record.Day, parts ...work.Role) []string {
	var all, own []string
	for _, p := range c.Crew {
		if slices.ContainsFunc(day.Coats, func(d record.CoatDay) bool {
			return d.ID == c.ID && slices.Contains(d.Away, p.Name)
		}) {
			continue
		}
		all = append(all, p.Name)
		if slices.ContainsFunc(p.Roles, func(r work.Role) bool { return slices.Contains(parts, r) }) {
			own = append(own, p.Name)
		}
	}
	if len(own) > 0 {
		return own
	}
	return all
}

// lister lists what one coat waits for.
type lister struct {
	issue *record.Issue
	day   *record.Day
	coat  *record.Coat
	of    *record.CoatDay
	now   time.Time
	out   []Wait
}

func (l *lister) add(due time.Time, text, otherwise string, who []string) {
	l.out = append(l.out, Wait{Coat: l.coat.ID, Place: fmt.Sprintf("%s, coat %d", l.of.Surface, l.of.Number), Text: text,
		Due: due, Otherwise: otherwise, Who: who})
}

// kept is the time for which something that was due is still shown, where nothing shows that somebody came: common
// practice, no source.
const kept = 2 * time.Hour

// edges adds the tape and the drips of a top, from when its last batch was poured.
func (l *lister) edges() {
	last := &l.of.Batches[len(l.of.Batches)-1]
	if l.coat.Tape == 0 || last.Began == nil || l.next() != nil && l.next().Begun != nil {
		return
	}
	floor := names(l.coat, l.day, work.Pourer, work.CutterIn, work.Spreader, work.Roller, work.Caster)
	pull := l.coat.Tape.After(*last.Began)
	again := work.DripsAgain.After(pull)
	if again.Add(kept).After(l.now) {
		l.add(pull, "pull the tape", "the film sets on it", floor)
	}
	if !l.coat.Drips {
		return
	}
	if again.Add(kept).After(l.now) {
		l.add(again, "scrape the drips again", "they set below the edge and are ground off", floor)
	}
	for _, s := range l.of.Stages {
		if s.Stage == material.StageTackFree && s.Comes != nil && s.Comes.Add(kept).After(l.now) {
			l.add(*s.Comes, "cut what hangs: the film no longer sticks, and bends", "it is hard, and is ground off", floor)
		}
	}
}

// stages adds the next coat with its window, or from when the surface can be used.
func (l *lister) stages() {
	next := l.next()
	for _, s := range l.of.Stages {
		if s.Comes == nil || s.Given != nil {
			continue
		}
		waits := next != nil && next.Begun == nil
		switch {
		case s.Stage == material.StageRecoatFrom && waits:
			l.add(*s.Comes, fmt.Sprintf("coat %d may go on it", next.Number), "", l.crewOf(next))
		case s.Stage == material.StageRecoatUntil && waits && next.Abraded == nil:
			l.add(*s.Comes, fmt.Sprintf("last hour for coat %d", next.Number), "all of it is abraded first", l.crewOf(next))
		case next == nil && l.coat.Last && s.Stage.Service(l.surface().Kind) != "" && service(s.Stage):
			l.add(*s.Comes, s.Stage.Service(l.surface().Kind), "", nil)
		}
	}
}

// crewOf returns who lays a coat.
func (l *lister) crewOf(d *record.CoatDay) []string {
	if c := l.issue.Coat(d.ID); c != nil {
		return names(c, l.day)
	}
	return nil
}

// service reports whether a stage is one that a surface is given for.
func service(s material.StageKey) bool {
	return slices.Contains([]material.StageKey{material.StageFoot, material.StageFurniture, material.StageVehicle,
		material.StageWater, material.StageFull}, s)
}

func (l *lister) surface() record.Surface {
	for _, s := range l.issue.Surfaces {
		if s.ID == l.coat.Surface {
			return s
		}
	}
	return record.Surface{}
}

// next returns the coat that goes on this one; nil where none does.
func (l *lister) next() *record.CoatDay {
	for n := range l.day.Coats {
		if c := l.issue.Coat(l.day.Coats[n].ID); c != nil && c.Surface == l.coat.Surface && c.Number == l.coat.Number+1 {
			return &l.day.Coats[n]
		}
	}
	return nil
}
