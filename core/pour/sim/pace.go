package sim

import (
	"errors"
	"math"
	"slices"

	"nephelon/core/measure"
)

// ErrPace means that a first section takes so long at no pace at which people work.
var ErrPace = errors.New("no realistic pace makes the first section take that long")

// mostPaced limits how many times as long as planned, or as short, work may take.
const mostPaced = 10

// paced is the train where all that goes by the people's pace takes so many times as long.
// Casting is at a pace of its own.
func (t Train) paced(times float64) Train {
	t.Batches = slices.Clone(t.Batches)
	for i := range t.Batches {
		b := &t.Batches[i]
		for w := range b.Works {
			if w != casting {
				b.Works[w] *= measure.Span(times)
			}
		}
		b.Cross *= measure.Span(times)
	}
	return t
}

// Paced is a train as its people work it whose first section took so long, from when it was
// begun to be poured until nobody touched it again, and how many times as long as planned
// what goes by their pace takes. It fails with ErrPace where no pace explains it.
func (r *Runner) Paced(t Train, first measure.Span) (Train, float64, error) {
	took := func(times float64) (measure.Span, error) {
		if _, err := r.engine.settle(t.paced(times)); err != nil {
			return 0, err
		}
		p := r.engine.passages[0]
		return p.Done - p.Pour, nil
	}
	short, err := took(1.0 / mostPaced)
	if err != nil {
		return t, 1, err
	}
	long, err := took(mostPaced)
	if err != nil {
		return t, 1, err
	}
	if !(first >= short && first <= long) {
		return t, 1, ErrPace
	}
	low, high := 1.0/mostPaced, float64(mostPaced)
	for high-low > 1e-4*low {
		middle := math.Sqrt(low * high)
		now, err := took(middle)
		if err != nil {
			return t, 1, err
		}
		if now < first {
			low = middle
		} else {
			high = middle
		}
	}
	times := math.Sqrt(low * high)
	return t.paced(times), times, nil
}
