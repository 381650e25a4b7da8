package record

import (
	"slices"
	"time"

	"nephelon/core/measure"
	"nephelon/core/pour/sim"
)

// planned returns when a step of a batch on the floor is planned to be over, s from the start.
func planned(p *sim.Passage, step Kind) measure.Span {
	return map[Kind]measure.Span{Poured: p.Pour, Spread: p.Laid, Rolled: p.Done}[step]
}

// logged returns when a step of a batch was logged; nil where it was not.
func (b *BatchDay) logged(step Kind) *time.Time {
	return map[Kind]*time.Time{Meets: b.Meets, Mixed: b.Mixed, Poured: b.Poured, Spread: b.Spread, Rolled: b.Rolled}[step]
}

// When returns when a step of a batch was done: as logged, else as touches of later batches show; nil where neither.
func (b *BatchDay) When(step Kind) *time.Time {
	if at := b.logged(step); at != nil {
		return at
	}
	if at, shown := b.Shown[step]; shown {
		return &at
	}
	return nil
}

// infer takes as done what a touch of a later batch shows: by the plan it was over before that. Work on the floor shows
// what is over on the floor. That the next pail is begun shows it, too, where nobody touched the pour of an
// earlier batch: whoever logs pours and not this one may still hold the pail. What is logged always counts.
func (d *CoatDay) infer(c *Coat) {
	for k := range d.Batches {
		b := &d.Batches[k]
		for _, step := range []Kind{Poured, Spread, Rolled} {
			if b.Meets != nil && b.logged(step) == nil {
				d.inferStep(c, k, step, !d.logsPours(k))
			}
		}
	}
	states := []string{Waiting, Mixing, Ready, Pouring, Spreading, Finished}
	reached := map[Kind]string{Poured: Pouring, Spread: Spreading, Rolled: Finished}
	for k := range d.Batches {
		b := &d.Batches[k]
		for step := range b.Shown {
			if slices.Index(states, reached[step]) > slices.Index(states, b.State) {
				b.State = reached[step]
			}
		}
	}
}

// logsPours reports whether somebody logged the pour of a batch before one.
func (d *CoatDay) logsPours(k int) bool {
	return slices.ContainsFunc(d.Batches[:k], func(b BatchDay) bool { return b.Poured != nil || b.Spread != nil })
}

// inferStep takes one step of a batch as done, at what the touch that is planned next after it says.
func (d *CoatDay) inferStep(c *Coat, k int, step Kind, byMeets bool) {
	b := &d.Batches[k]
	over := planned(&c.Batches[k].Passage, step)
	next, at := measure.Span(0), (*time.Time)(nil)
	shows := func(of measure.Span, touched *time.Time) {
		if touched != nil && touched.After(*b.Meets) && of >= over && (at == nil || of < next) {
			next, at = of, touched
		}
	}
	for m := k; m < len(d.Batches); m++ { // that a section before it is done shows nothing of this one
		p := &c.Batches[m].Passage
		for _, other := range []Kind{Poured, Spread, Rolled} {
			shows(planned(p, other), d.Batches[m].logged(other))
		}
		if byMeets {
			shows(p.Meets, d.Batches[m].Meets)
		}
	}
	if at == nil {
		return
	}
	if b.Shown == nil {
		b.Shown = make(map[Kind]time.Time)
	}
	done := latest((over - next).After(*at), *b.Meets) // and not before what was done of it before
	for _, earlier := range []Kind{Mixed, Poured, Spread} {
		if was := b.When(earlier); was != nil && earlier != step {
			done = latest(done, *was)
		}
	}
	b.Shown[step] = done
}
