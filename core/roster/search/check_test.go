package search

import (
	"fmt"
	"slices"

	"nephelon/core/roster"
)

// broken tells how a schedule breaks the rules of its problem, slot by slot and without
// anything of the planner: an empty text where it breaks none. It also counts what the
// schedule costs.
func broken(p roster.Problem, bookings []roster.Booking) (string, roster.Cost) {
	var c roster.Cost
	say := func(format string, args ...any) (string, roster.Cost) { return fmt.Sprintf(format, args...), c }
	within := func(all []roster.Window, s roster.Slot) bool {
		for _, w := range all {
			at := s
			if w.Every > 0 && s >= w.From {
				at = w.From + (s-w.From)%w.Every
			}
			if at >= w.From && at < w.Until {
				return true
			}
		}
		return false
	}
	byName := make(map[string]roster.Booking)
	for _, b := range bookings {
		if _, twice := byName[b.Job+"/"+b.Task]; twice {
			return say("%s/%s comes twice", b.Job, b.Task)
		}
		byName[b.Job+"/"+b.Task] = b
	}
	crews := make(map[string]roster.Crew)
	for _, crew := range p.Crews {
		crews[crew.ID] = crew
	}
	places := make(map[string]string)
	uses := make(map[string][]int)
	count := 0
	for _, job := range p.Jobs {
		done := roster.Slot(0)
		for _, t := range job.Tasks {
			count++
			b, there := byName[job.ID+"/"+t.ID]
			if !there {
				return say("%s/%s is missing", job.ID, t.ID)
			}
			places[job.ID] = job.Place
			done = max(done, b.End)
			if b.Start < job.Release || b.End > p.Horizon || b.End < b.Start {
				return say("%s/%s from %d to %d", job.ID, t.ID, b.Start, b.End)
			}
			if t.Start != nil && b.Start != *t.Start {
				return say("%s/%s is pinned", job.ID, t.ID)
			}
			work := t.Duration
			for _, a := range t.After {
				o, known := byName[job.ID+"/"+a.Task]
				if !known {
					o = byName[a.Task]
				}
				mark := o.End
				if a.From == roster.Start {
					mark = o.Start
				}
				if b.Start < mark+a.Min {
					return say("%s/%s starts at %d, %d after %s at the least", job.ID, t.ID, b.Start, a.Min, a.Task)
				}
				if a.Max != nil && b.Start > mark+*a.Max {
					if a.Buy == nil || !slices.Contains(b.Bought, a.Task) {
						return say("%s/%s starts at %d, %d after %s at the most", job.ID, t.ID, b.Start, *a.Max, a.Task)
					}
					work += a.Buy.Slots
					c[roster.Bought]++
				}
			}
			crew, known := crews[b.Crew]
			if t.Unattended != (b.Crew == "") || !t.Unattended && !known {
				return say("%s/%s by %q", job.ID, t.ID, b.Crew)
			}
			if t.Crew != "" && b.Crew != t.Crew {
				return say("%s/%s by %q", job.ID, t.ID, b.Crew)
			}
			for _, s := range t.Skills {
				if !t.Unattended && !slices.Contains(crew.Skills, s) {
					return say("%s cannot do %s/%s", b.Crew, job.ID, t.ID)
				}
			}
			worked := roster.Slot(0)
			for s := b.Start; s < b.End; s++ {
				open, over := t.Unattended, !t.Unattended
				for _, shift := range crew.Shifts {
					if within([]roster.Window{shift.Window}, s) && (!shift.Overtime || b.Overtime > 0) {
						open = true
						over = over && shift.Overtime
					}
				}
				open = open && (len(job.Access) == 0 || within(job.Access, s)) && (len(t.Windows) == 0 || within(t.Windows, s))
				if open && t.Breakable && !t.Unattended && within(crew.Rests, s) {
					continue // neither worked nor paid
				}
				if open {
					worked++
					if over {
						c[roster.Overtime]++
					}
				} else if !t.Breakable {
					return say("%s/%s in slot %d, when %q does not work", job.ID, t.ID, s, b.Crew)
				}
				for _, m := range t.Machines {
					at := fmt.Sprint(m, " ", s)
					uses[at] = append(uses[at], count)
					for _, machine := range p.Machines {
						if machine.ID == m && (len(uses[at]) > machine.Capacity || within(machine.Closed, s)) {
							return say("too much of %s in slot %d", m, s)
						}
					}
				}
			}
			if t.Breakable && worked < work || !t.Breakable && b.End-b.Start < work {
				return say("%s/%s takes %d and gets %d", job.ID, t.ID, work, worked)
			}
		}
		if job.Due != nil && done > *job.Due {
			c[roster.Late] += int64(max(1, job.Weight)) * int64(done-*job.Due)
		}
		c[roster.Finish] = max(c[roster.Finish], int64(done))
		c[roster.Early] += int64(done)
	}
	if count != len(bookings) {
		return say("%d bookings of %d tasks", len(bookings), count)
	}
	for id := range crews {
		var own []roster.Booking
		for _, b := range bookings {
			if b.Crew == id && b.End > b.Start {
				own = append(own, b)
			}
		}
		slices.SortFunc(own, func(a, b roster.Booking) int { return int(a.Start - b.Start) })
		at := -1
		for i := range own {
			if i > 0 && own[i].Start < own[i-1].End {
				return say("%s does two things in slot %d", id, own[i].Start)
			}
			if places[own[i].Job] == "" {
				continue // it is done where the crew is
			}
			if at >= 0 {
				way := roster.Slot(0)
				for _, t := range p.Travel {
					a, b := places[own[at].Job], places[own[i].Job]
					if a != b && (t.From == a && t.To == b || t.From == b && t.To == a) {
						way = t.Slots
					}
				}
				c[roster.Moving] += int64(way)
				if own[i].Start < own[at].End+way {
					return say("%s is at two places in slot %d", id, own[i].Start)
				}
			}
			at = i
		}
	}
	for _, was := range p.Before {
		if b, there := byName[was.Job+"/"+was.Task]; there && (b.Start != was.Start || b.Crew != was.Crew) {
			c[roster.Moves] += int64(max(1, was.Weight))
		}
	}
	return "", c
}
