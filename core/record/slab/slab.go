// Package slab follows how warm a slab was from its readings and the forecast that a plan was made with.
package slab

import (
	"math"
	"time"

	"nephelon/core/measure"
)

// How long a slab is followed after a film was laid: longer than any film of a few days, so
// that what it was on the way in is not taken for what it stays. And how fast what a reading
// showed to be off the forecast is forgotten, as in climate.Correct.
const (
	followed = 14 * 24 // h
	memory   = 24 * time.Hour
)

// Reading is a slab as it was read.
type Reading struct {
	At   time.Time
	Slab measure.Temperature
}

// Known holds what is known of a slab.
type Known struct {
	Planned  measure.Temperature   // °C that it was planned for
	From     *time.Time            // first hour of the forecast; nil where there is none
	Forecast []measure.Temperature // °C hour by hour
	Read     []Reading             // in order of time
}

// Hourly returns the temperature of a slab hour by hour from when a film was laid, as far as it is known: as it was
// read, straight between readings, and on the forecast that was planned with, moved by what the readings show it to be
// off; what the last one shows fades over a day. After the forecast it is the mean of its last day, as planned; where
// nothing is known, the slab planned for.
func (k *Known) Hourly(laid time.Time) []measure.Temperature {
	hourly := make([]measure.Temperature, followed+1)
	for h := range hourly {
		hourly[h] = k.warm(laid.Add(time.Duration(h) * time.Hour))
	}
	return hourly
}

// warm is the slab at a time.
func (k *Known) warm(at time.Time) measure.Temperature {
	own := k.Read
	forecast, foreseen := k.foreseen(at)
	if end := len(k.Forecast); !foreseen && end > 0 && at.After(k.From.Add(time.Duration(end-1)*time.Hour)) {
		day, sum := k.Forecast[max(0, end-24):], measure.Temperature(0)
		for _, t := range day {
			sum += t
		}
		return sum / measure.Temperature(len(day))
	}
	after := 0
	for after < len(own) && !own[after].At.After(at) {
		after++
	}
	// What is followed between readings: how far they are off the forecast where that reaches
	// to all that is asked, or else they themselves.
	near := own[max(0, after-1):min(after+1, len(own))]
	values, onForecast := make([]measure.Temperature, len(near)), foreseen
	for n, r := range near {
		f, known := k.foreseen(r.At)
		values[n] = r.Slab - f
		onForecast = onForecast && known
	}
	if !onForecast {
		for n, r := range near {
			values[n] = r.Slab
		}
	}
	var v measure.Temperature
	switch {
	case len(own) == 0 && foreseen:
	case len(own) == 0:
		v = k.Planned
	case after == 0:
		v = values[0]
	case after == len(own):
		v = values[0]
		if onForecast {
			v *= measure.Temperature(math.Exp(-float64(at.Sub(near[0].At)) / float64(memory)))
		}
	default:
		share := measure.Temperature(float64(at.Sub(near[0].At)) / float64(near[1].At.Sub(near[0].At)))
		v = values[0] + (values[1]-values[0])*share
	}
	if onForecast {
		return forecast + v
	}
	return v
}

// foreseen is the slab that was foreseen for a time.
func (k *Known) foreseen(at time.Time) (measure.Temperature, bool) {
	if k.From == nil {
		return 0, false
	}
	hours := at.Sub(*k.From).Hours()
	h := int(hours)
	if hours < 0 || h+1 >= len(k.Forecast) {
		return 0, false
	}
	return k.Forecast[h] + (k.Forecast[h+1]-k.Forecast[h])*measure.Temperature(hours-float64(h)), true
}
