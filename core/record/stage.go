package record

import (
	"time"

	"nephelon/core/cure"
	"nephelon/core/measure"
	"nephelon/core/record/slab"
)

// stages returns when a coat reaches each of its stages, by the slab as it was.
func (i *Issue) stages(c *Coat, d *CoatDay, readings []Reading) []Reached {
	out := make([]Reached, 0, len(c.Stages))
	for _, p := range c.Stages {
		out = append(out, Reached{Stage: p.Stage, Name: p.Name, Promised: p.At})
	}
	if d.Done == nil || d.Begun == nil {
		return out
	}
	early, late := i.slab(c, *d.Begun, readings), i.slab(c, *d.Done, readings)
	for n := range out {
		s := &out[n]
		for _, stage := range c.Product.Stages() {
			if stage.Key != s.Stage {
				continue
			}
			rate, err := stage.Rate()
			if err != nil {
				continue
			}
			laid, hourly := *d.Done, late
			if s.Stage.Ends() { // what ends counts from the first section, however thick the film
				laid, hourly = *d.Begun, early
			} else if c.Product.Dries() {
				rate = rate.Slower(cure.Drying(d.Thick(c)))
			}
			took, outside, _ := rate.Along(hourly).Reach(0)
			comes := took.After(laid).Round(time.Second)
			s.Comes, s.Outside = &comes, outside
		}
	}
	return out
}

// slab returns the temperature of the slab under a coat hour by hour from when it was laid.
func (i *Issue) slab(c *Coat, laid time.Time, readings []Reading) []measure.Temperature {
	s := i.Surface(c.Surface)
	known := slab.Known{Planned: c.Slab, From: s.From, Forecast: s.Forecast}
	for _, r := range readings {
		if on := i.Coat(r.Coat); r.Slab != nil && on != nil && on.Surface == c.Surface {
			known.Read = append(known.Read, slab.Reading{At: r.At, Slab: *r.Slab})
		}
	}
	return known.Hourly(laid)
}

// Thick returns how many times as thick as planned the film of a coat was read, the mean of its readings: 1 where that
// is not more than a reading is worth.
func (d *CoatDay) Thick(of *Coat) float64 {
	sum, read := 0.0, 0
	for _, b := range d.Batches {
		for _, f := range b.Films {
			sum, read = sum+float64(f.Film/of.Wet), read+1
		}
	}
	if read == 0 || sum/float64(read) <= 1+filmOff {
		return 1
	}
	return sum / float64(read)
}

// given reads when the surface was given for its uses.
func (d *CoatDay) given(events []*Event) {
	for _, e := range events {
		for n := range d.Stages {
			if s := &d.Stages[n]; e.Kind == Served && string(s.Stage) == e.Body.Stage {
				at := e.When()
				s.Given, s.By = &at, e.Name
			}
		}
	}
}
