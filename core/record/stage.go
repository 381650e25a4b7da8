package record

import (
	"slices"
	"time"

	"nephelon/core/measure"
)

// stages is when a coat reaches each of its stages, by the slab as it was read: the
// forecast that it was planned with, shifted by what the readings showed it to be off;
// without a forecast the mean of the readings, or else the slab planned for.
func (i *Issue) stages(c *Coat, d *CoatDay, readings []Reading) []Reached {
	out := make([]Reached, 0, len(c.Stages))
	for _, p := range c.Stages {
		out = append(out, Reached{Stage: p.Stage, Name: p.Name, Promised: p.At})
	}
	if d.Done == nil || d.Begun == nil {
		return out
	}
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
			laid := *d.Done
			if s.Stage.Ends() { // what ends counts from the first section
				laid = *d.Begun
			}
			from, hourly := i.surface(c.Surface).slab(c, laid, readings)
			took, outside, _ := rate.Along(hourly).Reach(between(from, laid))
			comes := after(laid, took).Round(time.Second)
			s.Comes, s.Outside = &comes, outside
		}
	}
	return out
}

// slab is the temperature of the slab hour by hour, from a time at or before a film was
// laid.
func (s Surface) slab(c *Coat, laid time.Time, readings []Reading) (from time.Time, hourly []measure.Temperature) {
	off, n := measure.Temperature(0), 0
	mean := measure.Temperature(0)
	for _, r := range readings {
		if r.Slab == nil {
			continue
		}
		mean += *r.Slab
		if f, known := s.foreseen(r.At); known {
			off += *r.Slab - f
		}
		n++
	}
	if n > 0 {
		mean, off = mean/measure.Temperature(n), off/measure.Temperature(n)
	} else {
		mean = c.Slab
	}
	if s.From == nil || len(s.Forecast) < 2 || laid.Before(*s.From) || laid.After(s.From.Add(time.Duration(len(s.Forecast)-1)*time.Hour)) {
		return laid, []measure.Temperature{mean, mean}
	}
	hourly = slices.Clone(s.Forecast)
	for h := range hourly {
		hourly[h] += off
	}
	return *s.From, hourly
}

// forecast is the slab that was foreseen for a time.
func (s Surface) foreseen(at time.Time) (measure.Temperature, bool) {
	if s.From == nil {
		return 0, false
	}
	hours := at.Sub(*s.From).Hours()
	h := int(hours)
	if hours < 0 || h+1 >= len(s.Forecast) {
		return 0, false
	}
	return s.Forecast[h] + (s.Forecast[h+1]-s.Forecast[h])*measure.Temperature(hours-float64(h)), true
}
