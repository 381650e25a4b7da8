package days

import (
	"slices"
	"time"

	"nephelon/core/facts"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/roster"
	"nephelon/core/survey"
	"nephelon/core/work"
)

// gap is the time between two blocks of a job.
type gap struct {
	task        string                         // the block before
	fromStart   bool                           // counted from its beginning, not its end
	least, most func(mark time.Time) time.Time // nil where there is none
	abrade      time.Duration                  // how long it takes where the greatest is missed; 0 where that may not be
}

// opens returns the time that the gap counts from where the task before it is booked, and from
// when the gap lets the next begin.
func (g gap) opens(before Booked) (mark, from time.Time) {
	mark = before.Until
	if g.fromStart {
		mark = before.From
	}
	from = mark
	if g.least != nil {
		if ready := g.least(mark); ready.After(from) {
			from = ready
		}
	}
	return mark, from
}

// gaps are those that lie before a block, by what waits for what in its tasks. They fail
// where a film's sheet does not tell how long it takes.
func gaps(j Job, b *block, of map[work.ID]*block, now time.Time) ([]gap, bool) {
	var all []gap
	for _, t := range j.Plan.Tasks {
		if of[t.ID] != b {
			continue
		}
		for _, a := range t.After {
			before := of[a.Task]
			if before == nil || before == b {
				continue
			}
			own, told := between(j, b.starts[t.ID], before, coatOf(j.Plan.Tasks, a.Task), a, now)
			if !told {
				return nil, false
			}
			for n := range own {
				if g := &own[n]; g.most != nil && a.Most.Stage == material.StageRecoatUntil {
					g.abrade = abrading(j, b)
				}
			}
			all = append(all, own...)
		}
	}
	return all, true
}

// coatOf is the coat that a task belongs to.
func coatOf(tasks []work.Task, id work.ID) string {
	at := slices.IndexFunc(tasks, func(t work.Task) bool { return t.ID == id })
	if at < 0 {
		return ""
	}
	return tasks[at].Coat
}

// filmTime returns how long the film of a coat takes to a stage from when it is laid.
type filmTime func(coat string, stage material.StageKey, laid time.Time) (measure.Span, bool)

// between are the gaps from a block, whose coat is one of its pours' where it has any, to
// what is begun so long after the beginning of another.
func between(j Job, set time.Duration, before *block, coat string, a work.After, now time.Time) ([]gap, bool) {
	behind, start := time.Duration(0), time.Duration(0)
	if len(before.parts) > 0 {
		behind, start = before.behind(work.PourID(coat)), before.starts[work.PourID(coat)]
	}
	var broken *facts.Laid
	for n := range j.Laid {
		if l := &j.Laid[n]; l.Coat == coat && l.Broken != nil {
			broken = l
		}
	}
	known := func(l *work.Lag) bool {
		_, told := j.Films.After(coat, l.Stage, now)
		return told || l.Stage == ""
	}
	ready := func(l *work.Lag, takes filmTime) func(time.Time) time.Time {
		return func(mark time.Time) time.Time {
			laid := mark.Add(-behind)
			if l.From == work.FromStart {
				if laid = mark.Add(start); broken != nil {
					laid = broken.From // its first section lies longer than the rest
				}
			}
			after := l.Fixed
			if l.Stage != "" {
				after, _ = takes(coat, l.Stage, laid)
			}
			at := laid.Add(duration(after))
			if l.Later {
				zone, err := j.File.Job.Place()
				if err != nil {
					zone = time.UTC
				}
				if next := midnight(laid, zone).AddDate(0, 0, 1); next.After(at) {
					return next // the crew sets up that morning, too
				}
			}
			return at.Add(-set)
		}
	}
	follows := gap{task: string(before.ID)}
	all := []gap{follows}
	if a.Least != nil {
		if !known(a.Least) {
			return nil, false
		}
		opens := gap{task: follows.task, fromStart: a.Least.From == work.FromStart, least: ready(a.Least, j.Films.Surely)}
		if !opens.fromStart {
			all = nil // it follows by that
		}
		all = append(all, opens)
	}
	if a.Most != nil && known(a.Most) {
		all = append(all, gap{task: follows.task, fromStart: a.Most.From == work.FromStart,
			most: ready(a.Most, j.Films.After)})
	}
	return all, true
}

// abrading returns how long it takes to abrade a surface whose window before a coat is missed.
func abrading(j Job, b *block) time.Duration {
	area := measure.Area(0)
	for _, s := range j.Plan.Surfaces {
		if s.ID == b.Surface && s.Takeoff != nil {
			area = s.Takeoff.Area
		}
	}
	return max(time.Minute, duration(measure.Span(float64(area)/survey.SandPace/float64(b.people)*measure.Hour)))
}

// after is a gap in slots, rounded inwards, asked of the films once for each slot.
func (c *Calendar) after(g gap) roster.After {
	out := roster.After{Task: g.task, From: roster.End}
	if g.abrade > 0 {
		out.Buy = &roster.Buy{Slots: c.length(g.abrade), What: "Abrade it over its whole area"}
	}
	if g.fromStart {
		out.From = roster.Start
	}
	remembered := func(of func(time.Time) time.Time, round func(time.Time) roster.Slot) roster.Gap {
		known := make(map[roster.Slot]roster.Slot)
		return func(at roster.Slot) roster.Slot {
			v, seen := known[at]
			if !seen {
				v = round(of(c.time(at))) - at
				known[at] = v
			}
			return v
		}
	}
	if g.least != nil {
		least := remembered(g.least, c.ceil)
		out.MinAt = func(at roster.Slot) roster.Slot { return max(0, least(at)) }
	}
	if g.most != nil {
		out.Max, out.MaxAt = new(roster.Slot), remembered(g.most, c.floor)
	}
	return out
}
