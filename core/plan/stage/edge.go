package stage

import (
	"math"
	"time"

	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
)

// edge returns how long a film of a coat begun at a time can be worked where it is laid so
// much later; nil where its sheet does not say.
func (t *timer) edge(l input.ResolvedCoat, w *slabHours, at time.Time) func(measure.Span) measure.Span {
	for _, stage := range l.Sheet.Product.Stages() {
		if stage.Key != material.StageWorking {
			continue
		}
		p := w.passage(l, stage.Key)
		if p == nil {
			return nil
		}
		if w.Steady {
			always, _, _ := w.after(p, at)
			return func(measure.Span) measure.Span { return always }
		}
		return sampled(func(s measure.Span) measure.Span {
			works, _, _ := w.after(p, s.After(at))
			return works
		})
	}
	return nil
}

// often is the step, s, in which the slab is read from a forecast of hours.
const often = 600

// sampled reads a function of time between values often apart, each asked for once.
func sampled(of func(measure.Span) measure.Span) func(measure.Span) measure.Span {
	known := make(map[int]measure.Span)
	at := func(n int) measure.Span {
		v, seen := known[n]
		if !seen {
			v = of(measure.Span(n) * often)
			known[n] = v
		}
		return v
	}
	return func(s measure.Span) measure.Span {
		n := math.Floor(float64(s / often))
		share := s/often - measure.Span(n)
		return at(int(n))*(1-share) + at(int(n)+1)*share
	}
}
