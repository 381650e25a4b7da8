package stage

import (
	"sync"
	"time"

	"nephelon/core/facts"

	"nephelon/core/cure"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
)

// Films are the films of a job's coats, wherever in time each is laid: through the slab
// of the forecast, or over the slab planned for where there is none. They may be shared.
type Films struct {
	mutex *sync.Mutex // passages remember how far they have come
	coats map[string]filmed
}

type filmed struct {
	slab   *slabHours
	stages map[material.StageKey]*cure.Passage
}

// FilmsOf are the films of a file, on slabs so many K cooler than they are planned for.
func FilmsOf(f job.File, world facts.Facts, units measure.System, cooler measure.Temperature) Films {
	in, _ := input.Read(f, world, units)
	slabs := NewSlabs(in)
	all := Films{new(sync.Mutex), make(map[string]filmed)}
	for i, layers := range in.Layers {
		slab := slabs.Under(i).cooled(cooler)
		for _, l := range layers {
			if l.Sheet == nil {
				continue
			}
			own := filmed{slab, make(map[material.StageKey]*cure.Passage)}
			for _, stage := range l.Sheet.Product.Stages() {
				if p := slab.passage(l.Sheet, stage.Key); p != nil {
					own.stages[stage.Key] = p
				}
			}
			all.coats[l.Coat.ID] = own
		}
	}
	return all
}

// cooled are the same hours, so many K cooler.
func (w *slabHours) cooled(by measure.Temperature) *slabHours {
	if by == 0 {
		return w
	}
	out := &slabHours{Steady: w.Steady, From: w.From, Hourly: make([]measure.Temperature, len(w.Hourly))}
	for i, t := range w.Hourly {
		out.Hourly[i] = t - by
	}
	return out.open()
}

// After returns how long the film of a coat takes to a stage from when it is laid; false where
// its sheet does not say.
func (f Films) After(coat string, stage material.StageKey, laid time.Time) (measure.Span, bool) {
	own := f.coats[coat]
	p := own.stages[stage]
	if p == nil {
		return 0, false
	}
	f.mutex.Lock()
	defer f.mutex.Unlock()
	after, _, _ := own.slab.after(p, laid)
	return after, true
}
