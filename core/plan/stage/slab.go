package stage

import (
	"time"

	"nephelon/core/climate"
	"nephelon/core/cure"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
)

// slabHours is the temperature of a surface's slab hour by hour, from a time on;
// one steady temperature where there is no forecast.
type slabHours struct {
	Steady bool
	From   time.Time
	Hourly []measure.Temperature
	passed memo[passing, *cure.Passage]
}

// passing is a sheet's film on its way to a stage.
type passing struct {
	sheet *input.Sheet
	stage material.StageKey
	slows float64 // how many times as long it takes to come to what begins
}

func steadySlab(at measure.Temperature) *slabHours {
	return (&slabHours{Steady: true, Hourly: []measure.Temperature{at}}).open()
}

func hourlySlab(from time.Time, hourly []measure.Temperature) *slabHours {
	return (&slabHours{From: from, Hourly: hourly}).open()
}

// open readies the memory of the passages over a slab.
func (w *slabHours) open() *slabHours {
	w.passed = newMemo(func(at passing) *cure.Passage {
		for _, s := range at.sheet.Product.Stages() {
			if s.Key != at.stage {
				continue
			}
			if rate, err := s.Rate(); err == nil {
				if at.slows != 1 {
					rate = rate.Slower(at.slows)
				}
				return rate.Along(w.Hourly)
			}
		}
		return nil
	})
	return w
}

// passage returns the way of a coat's film to a stage; nil where its sheet gives none. What ends is not put off by a
// thick film.
func (w *slabHours) passage(l input.ResolvedCoat, stage material.StageKey) *cure.Passage {
	slows := l.Slows
	if stage.Ends() {
		slows = 1
	}
	return w.passed.get(passing{l.Sheet, stage, slows})
}

// after returns how long a film laid at a time takes to a stage.
func (w *slabHours) after(p *cure.Passage, laid time.Time) (after measure.Span, outside, beyond bool) {
	if w.Steady {
		after, outside, _ = p.Reach(0)
		return after, outside, false
	}
	return p.Reach(measure.Span(laid.Sub(w.From).Seconds()))
}

// slabs are the slabs under the surfaces of a job. Surfaces on like slabs share theirs.
type slabs struct {
	in     *input.Inputs
	steady *slabHours
	places map[climate.Place]*slabHours
}

// NewSlabs returns the slabs of a job through its forecast, each worked out when it is asked for.
func NewSlabs(in *input.Inputs) *slabs {
	return &slabs{in: in, steady: steadySlab(in.Slab), places: make(map[climate.Place]*slabHours)}
}

// Under returns the slab of a surface through the forecast, corrected by what was read on it;
// where there is no forecast, the slab planned for.
func (w *slabs) Under(i int) *slabHours {
	place, read := w.in.Placed(w.in.File.Job.Surfaces[i].Survey)
	slab := w.in.Weather.Slab(place)
	if len(slab) == 0 {
		return w.steady
	}
	hours := w.in.Weather.Hours
	if len(read) > 0 {
		return hourlySlab(hours[0].At, climate.Correct(slab, hours, read))
	}
	if w.places[place] == nil {
		w.places[place] = hourlySlab(hours[0].At, slab)
	}
	return w.places[place]
}
