package record

import (
	"math"
	"testing"
	"time"

	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/record/fact"
)

func warm(v float64) *measure.Temperature { t := measure.Temperature(v); return &t }

// read is a reading of the slab, hours after the start, for a coat.
func read(hours, slab float64, coat string) Reading {
	return Reading{At: start.Add(time.Duration(hours * float64(time.Hour))), Slab: warm(slab), Coat: coat}
}

// By hand: straight between readings; held before the first and, with no forecast, after the
// last; on a forecast of 15 °C, 2 K above it at the reading, and 2 ÷ e K a day later.
func TestTheSlabAsItWas(t *testing.T) {
	forecast := make([]measure.Temperature, 49)
	for h := range forecast {
		forecast[h] = 15
	}
	for _, c := range []struct {
		name     string
		readings []Reading
		forecast bool
		hour     int
		want     float64
	}{
		{"nothing is known: as planned", nil, false, 1, 20},
		{"one reading", []Reading{read(0, 17, "c")}, false, 1, 17},
		{"between two", []Reading{read(0, 20, "c"), read(10, 10, "c")}, false, 5, 15},
		{"after the last", []Reading{read(0, 20, "c"), read(10, 10, "c")}, false, 11, 10},
		{"before the first", []Reading{read(4, 12, "c"), read(8, 16, "c")}, false, 2, 12},
		{"of another surface", []Reading{read(0, 31, "other")}, false, 1, 20},
		{"the forecast alone", nil, true, 30, 15},
		{"a reading on the forecast", []Reading{read(0, 17, "c")}, true, 0, 17},
		{"after the forecast", []Reading{read(0, 17, "c")}, true, 60, 15},
		{"a day after it", []Reading{read(0, 17, "c")}, true, 24, 15 + 2/math.E},
		{"between two on the forecast", []Reading{read(0, 17, "c"), read(10, 11, "c")}, true, 5, 14},
	} {
		i := issued()
		i.Surfaces = append(i.Surfaces, Surface{ID: "s2", Name: "Yard"})
		other := i.Coats[0]
		other.ID, other.Surface = "other", "s2"
		i.Coats = append(i.Coats, other)
		if c.forecast {
			from := start
			i.Surfaces[0].From, i.Surfaces[0].Forecast = &from, forecast
		}
		hourly := i.slab(&i.Coats[0], start, c.readings)
		if c.hour >= len(hourly) || math.Abs(float64(hourly[c.hour])-c.want) > 1e-9 {
			t.Errorf("%s: %v at %d h, want %v", c.name, hourly, c.hour, c.want)
		}
	}
}

// A film that takes 8 h at 20 °C and 16 h at 10 °C, on a slab read at 20 °C an hour before it
// was laid and at 10 °C three hours after, where it stays. By hand, with a speed that halves for
// each 10 K: it has gone 4 ÷ ln 2 × (2^−¼ − ½) = 1.97 of its 8 h by then, the other 6.03 take
// twice as long: 15.1 h in all. The mean of the two readings would promise it after 11.3 h.
func TestAColdNightHoldsTheFilm(t *testing.T) {
	i := issued()
	c := &i.Coats[0]
	c.Product.Foot = []material.TimeAt{{At: 10, After: 16 * 3600, Source: measure.Sheet},
		{At: 20, After: 8 * 3600, Source: measure.Sheet}}
	c.Stages = []Promise{{Stage: material.StageFoot, Name: "light foot traffic"}}
	j := tablet("aaaa")
	j.log(minutes(-60), Read, "coat/c", Body{Slab: warm(20)})
	for k := range 3 {
		j.log(minutes(-20), Poured, batch(k+1), Body{})
		j.log(minutes(0), Rolled, batch(k+1), Body{})
	}
	j.log(minutes(3*60), Read, "coat/c", Body{Slab: warm(10)})
	// The speed is Arrhenius between the two points: ln 2 of it over 1/283.15 − 1/293.15.
	energy := math.Ln2 / (1/283.15 - 1/293.15)
	passed, at := 0.0, 0.0
	for ; passed < 1; at += 60 {
		slab := 20 - 10*(at+3600)/(4*3600)
		if slab < 10 {
			slab = 10
		}
		passed += 60 / (8 * 3600 * math.Exp(energy*(1/(slab+273.15)-1/293.15)))
	}
	s := tell(i, j.all, minutes(24*60)).Coats[0].Stages[0]
	if s.Comes == nil || math.Abs(s.Comes.Sub(start).Seconds()-at) > 120 {
		t.Errorf("comes %v after it was laid, want %.2f h", s.Comes.Sub(start), at/3600)
	}
	if math.Abs(at/3600-15.07) > 0.2 {
		t.Errorf("the steps alone give %.2f h", at/3600)
	}
}

// What nobody read overnight is not shown to have been well: a clean reading at the pour says
// nothing against the dew point at night; one in the night does. A bad one counts whenever.
func TestACleanNightIsKnownOnlyWhenRead(t *testing.T) {
	humid := measure.Fraction(0.5)
	for _, c := range []struct {
		name  string
		after float64 // h after the pour
		slab  float64
		known bool
		so    bool
	}{
		{"read at the pour", 1, 20, false, false}, {"and in the night", 9, 20, true, false},
		{"and wet at once", 1, 10, true, true},
	} {
		j := tablet("aaaa")
		for k := range 3 {
			j.log(minutes(0), Poured, batch(k+1), Body{})
			j.log(minutes(20), Rolled, batch(k+1), Body{})
		}
		j.log(minutes(c.after*60), Read, "coat/c", Body{Slab: warm(c.slab), Air: warm(20), Humidity: &humid})
		known, so := false, false
		for _, f := range tell(issued(), j.all, minutes(48*60)).Facts {
			if f.Key == fact.NearDew {
				known, so = true, f.So
			}
		}
		if known != c.known || so != c.so {
			t.Errorf("%s: known %v, so %v", c.name, known, so)
		}
	}
}

// When a surface was given for a use stands beside when it was ready for it.
func TestASurfaceIsGiven(t *testing.T) {
	i := issued()
	i.Coats[0].Stages = []Promise{{Stage: material.StageFoot, Name: "light foot traffic"}}
	j := tablet("aaaa")
	j.log(minutes(600), Served, "coat/c", Body{Stage: "foot"})
	if s := tell(i, j.all, minutes(700)).Coats[0].Stages[0]; s.Given == nil || !s.Given.Equal(minutes(600)) ||
		s.By != "Tess" {
		t.Errorf("%+v", s)
	}
}

// A film that dries and was read thick takes longer, by the square of the mean of its readings; by hand 1.5 for 300 µm
// and 600 µm where 300 µm are planned: 8 h become 18. One that only reacts keeps its time, and a fifth is not counted.
func TestAThickFilmIsTold(t *testing.T) {
	comes := func(carrier material.Carrier, films ...float64) time.Duration {
		i := issued()
		c := &i.Coats[0]
		c.Wet, c.Product.Carrier = 300e-6, carrier
		c.Product.Foot = []material.TimeAt{{At: 20, After: 8 * 3600, Source: measure.Sheet}}
		c.Stages = []Promise{{Stage: material.StageFoot, Name: "light foot traffic"}}
		j := tablet("aaaa")
		j.log(minutes(-60), Read, "coat/c", Body{Slab: warm(20)})
		for k := range 3 {
			j.log(minutes(-20), Poured, batch(k+1), Body{})
			j.log(minutes(0), Rolled, batch(k+1), Body{})
		}
		for k, read := range films {
			film := measure.Film(read * 1e-6)
			j.log(minutes(-10), Film, batch(k+1), Body{Film: &film})
		}
		return tell(i, j.all, minutes(24*60)).Coats[0].Stages[0].Comes.Sub(start).Round(time.Minute)
	}
	for _, k := range []struct {
		carrier material.Carrier
		films   []float64
		hours   float64
	}{
		{material.Water, nil, 8},
		{material.Water, []float64{300, 600}, 18},
		{material.Water, []float64{300, 400}, 8},
		{material.NoCarrier, []float64{300, 600}, 8},
	} {
		if got := comes(k.carrier, k.films...); math.Abs(got.Hours()-k.hours) > 0.02 {
			t.Errorf("%s read at %v µm: after %v, by hand %g h", k.carrier, k.films, got, k.hours)
		}
	}
}
