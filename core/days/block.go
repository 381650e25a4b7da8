package days

import (
	"time"

	"nephelon/core/facts"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/core/school"
	"nephelon/core/work"
)

// What stands around a pour on the floor: common practice, no source.
const (
	settingUp  = 30 * time.Minute // tools, pails and paper laid out
	cleaningUp = 30 * time.Minute // tools cleaned, pails spread out to cure
)

// block holds what a crew does in one go: a task by itself; or a pour with setting up, the
// look over the surface and what is thrown into the wet film, with the coats that are
// poured over it while it flows, and with cleaning up.
type block struct {
	work.Task                           // the first that gives it its id and name
	parts     []work.Task               // pours, in order; empty where it is none
	starts    map[work.ID]time.Duration // of its pours and the look before them, after its beginning
	people    int
	lasts     time.Duration
	breakable bool
}

// behind returns how long before the end of the block a part of it ends.
func (b *block) behind(part work.ID) time.Duration {
	for _, p := range b.parts {
		if p.ID == part {
			return b.lasts - b.starts[part] - duration(p.Takes)
		}
	}
	return 0
}

// shorten leaves of a pour that was broken off what was not laid, with setting up and cleaning around it.
func (b *block) shorten(l facts.Laid) {
	for n := range b.parts {
		p := &b.parts[n]
		if p.Coat != l.Coat {
			continue
		}
		took := p.Takes * measure.Span(l.Share)
		p.Takes -= took
		b.lasts -= duration(took)
		for _, later := range b.parts[n+1:] {
			b.starts[later.ID] -= duration(took)
		}
		return
	}
}

// blocks returns what the crews do on a job, in the order of its tasks, and which of them each
// task belongs to.
func blocks(j Job) ([]*block, map[work.ID]*block) {
	var all []*block
	of := make(map[work.ID]*block)
	looks := make(map[string]work.Task) // by coat
	thrown := make(map[work.ID]work.ID)
	taped := make(map[work.ID]work.Task) // by the pour after which the tape is pulled
	crew := max(1, j.File.Job.Crew.People())
	people, over := poured(j.Plan, j.File.Job.Surfaces, crew)
	for _, t := range j.Plan.Tasks {
		switch {
		case t.Kind == work.Check:
			looks[t.Coat] = t
		case t.Kind == work.Broadcast:
			thrown[t.ID] = work.PourID(t.Coat)
		case t.Kind == work.Unmask:
			taped[t.After[0].Task] = t
		case t.Kind == work.Return && t.Stage != material.StageFoot: // told, not waited for
		case t.Kind == work.Pour && of[over[t.Coat]] != nil:
			b := of[over[t.Coat]]
			last := b.parts[len(b.parts)-1]
			b.starts[t.ID] = b.starts[last.ID] + duration(last.Takes)
			b.parts, b.people = append(b.parts, t), max(b.people, people[t.Coat])
			b.lasts += duration(t.Takes)
			b.Name += "; " + t.Name
			of[t.ID] = b
		case t.Kind == work.Pour:
			b := &block{Task: t, parts: []work.Task{t}, people: people[t.Coat],
				breakable: j.File.Job.Methods.Session == school.TapeLines}
			set := settingUp
			b.starts = make(map[work.ID]time.Duration)
			if look, there := looks[t.Coat]; there {
				of[look.ID], b.starts[look.ID] = b, set
				set += duration(look.Effort) / time.Duration(b.people)
			}
			b.starts[t.ID] = set
			b.lasts = set + duration(t.Takes) + cleaningUp
			of[t.ID], all = b, append(all, b)
		default:
			b := &block{Task: t, people: 1, lasts: max(duration(t.Takes), duration(t.Effort)), breakable: t.Split == work.Free}
			if t.Kind != work.Retest && t.Kind != work.Inspect && t.Kind != work.Return { // one reads instruments
				b.people = crew
				if t.Crew > 0 {
					b.people = t.Crew
				}
				b.lasts = max(duration(t.Takes), duration(t.Effort)/time.Duration(b.people))
			}
			of[t.ID], all = b, append(all, b)
		}
	}
	for id, pour := range thrown {
		of[id] = of[pour]
	}
	for pour, t := range taped { // while the film is soft: the crew stays for it
		b := of[pour]
		if of[t.ID] = b; b == nil {
			continue
		}
		if least := t.After[0].Least; least != nil {
			b.lasts += max(0, duration(least.Fixed)-cleaningUp)
		}
		b.lasts += duration(t.Effort) / time.Duration(b.people)
	}
	return all, of
}

// poured returns how many people each coat's pour takes, and over which pour it is poured wet,
// by coat.
func poured(p plan.Plan, surfaces []job.Surface, crew int) (people map[string]int, over map[string]work.ID) {
	people, over = make(map[string]int), make(map[string]work.ID)
	for i, s := range p.Surfaces {
		for n, c := range s.Coats {
			people[c.ID] = crew
			if len(c.Crew) > 0 {
				people[c.ID] = len(c.Crew)
			}
			if n > 0 && surfaces[i].Coats[n].OverWet {
				over[c.ID] = work.PourID(s.Coats[n-1].ID)
			}
		}
	}
	return people, over
}
