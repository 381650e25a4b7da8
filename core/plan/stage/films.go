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
	sure   *filmed // on a slab cooler by the margin of the job; nil where it has none
	opens  Opening
}

// filmedOn follows the film of a coat on a slab.
func filmedOn(slab *slabHours, l input.ResolvedCoat) filmed {
	own := filmed{slab: slab, stages: make(map[material.StageKey]*cure.Passage)}
	for _, stage := range l.Sheet.Product.Stages() {
		if p := slab.passage(l, stage.Key); p != nil {
			own.stages[stage.Key] = p
		}
	}
	return own
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
			own := filmedOn(slab, l)
			own.opens = slabs.Opening(i, l)
			if margin := f.Job.Margin; margin > cooler {
				sure := filmedOn(slabs.Under(i).cooled(margin), l)
				own.sure = &sure
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
	return f.after(f.coats[coat], stage, laid)
}

// Surely returns the same on a slab that comes cooler than told by the margin of the job.
func (f Films) Surely(coat string, stage material.StageKey, laid time.Time) (measure.Span, bool) {
	own := f.coats[coat]
	if own.sure != nil {
		own = *own.sure
	}
	return f.after(own, stage, laid)
}

// Opening returns the hours in which the first kit of a coat is opened.
func (f Films) Opening(coat string) Opening { return f.coats[coat].opens }

func (f Films) after(own filmed, stage material.StageKey, laid time.Time) (measure.Span, bool) {
	p := own.stages[stage]
	if p == nil {
		return 0, false
	}
	f.mutex.Lock()
	defer f.mutex.Unlock()
	after, _, _ := own.slab.after(p, laid)
	return after, true
}
