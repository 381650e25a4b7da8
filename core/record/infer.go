package record

import (
	"slices"
	"time"

	"nephelon/core/measure"
	"nephelon/core/pour/sim"
)

// floorSteps are the steps of a batch on the floor, in order.
func floorSteps() [3]Kind { return [3]Kind{Poured, Spread, Rolled} }

// over returns when the steps on the floor are planned to be over, s from the start.
func over(p *sim.Passage) [3]measure.Span { return [3]measure.Span{p.Pour, p.Laid, p.Done} }

// logged returns when the steps on the floor were logged; nil for those that were not.
func (b *BatchDay) logged() [3]*time.Time { return [3]*time.Time{b.Poured, b.Spread, b.Rolled} }

// When returns when a step on the floor was done: as logged, else as later touches show; nil where neither.
func (b *BatchDay) When(step Kind) *time.Time {
	for n, k := range floorSteps() {
		if at := b.logged()[n]; k == step && at != nil {
			return at
		}
	}
	if at, shown := b.Shown[step]; shown {
		return &at
	}
	return nil
}

// infer takes as done what a later touch shows, of the same batch or of one after it: by the plan it was over before
// that. That the next pail is begun shows it, too, where nobody touched the pour of an earlier batch: who logs pours
// and not this one may still hold the pail. What is logged always counts.
func (d *CoatDay) infer(c *Coat) {
	states := []string{Waiting, Mixing, Ready, Pouring, Spreading, Finished}
	for k := range d.Batches {
		b := &d.Batches[k]
		for n, at := range b.logged() {
			if b.Meets == nil || at != nil || !d.inferStep(c, k, n, !d.logsPours(k)) {
				continue
			}
			if at := slices.Index(states, Pouring) + n; at > slices.Index(states, b.State) {
				b.State = states[at]
			}
		}
	}
}

// logsPours reports whether somebody logged the pour of a batch before one.
func (d *CoatDay) logsPours(k int) bool {
	return slices.ContainsFunc(d.Batches[:k], func(b BatchDay) bool { return b.Poured != nil || b.Spread != nil })
}

// inferStep takes one step of a batch as done, at what the touch that is planned next after it says. It reports whether
// there is one.
func (d *CoatDay) inferStep(c *Coat, k, step int, byMeets bool) bool {
	b, planned := &d.Batches[k], over(&c.Batches[k].Passage)[step]
	next, at := measure.Span(0), (*time.Time)(nil)
	shows := func(of measure.Span, touched *time.Time) {
		if touched != nil && touched.After(*b.Meets) && of >= planned && (at == nil || of < next) {
			next, at = of, touched
		}
	}
	for m := k; m < len(d.Batches); m++ { // that a section before it is done shows nothing of this one
		p := &c.Batches[m].Passage
		for n, touched := range d.Batches[m].logged() {
			shows(over(p)[n], touched)
		}
		if byMeets {
			shows(p.Meets, d.Batches[m].Meets)
		}
	}
	if at == nil {
		return false
	}
	done := latest((planned - next).After(*at), *b.Meets) // and not before what was done of it before
	for n, was := range []*time.Time{b.Mixed, b.When(Poured), b.When(Spread)} {
		if n <= step && was != nil {
			done = latest(done, *was)
		}
	}
	if b.Shown == nil {
		b.Shown = make(map[Kind]time.Time)
	}
	b.Shown[floorSteps()[step]] = done
	return true
}
