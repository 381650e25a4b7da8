// Package climate tells from a forecast when a surface can be coated: dew point,
// the temperature of the slab, and go, wait or stop by the hour.
package climate

import (
	"fmt"
	"math"
	"slices"
	"time"

	"nephelon/core/measure"
)

// Hour is the weather of one hour.
type Hour struct {
	At       time.Time           `json:"at"`
	Air      measure.Temperature `json:"air" minimum:"-60" maximum:"60" doc:"°C"`
	Humidity measure.Fraction    `json:"humidity" minimum:"0" maximum:"1" doc:"Relative"`
	Rain     float64             `json:"rain" minimum:"0" maximum:"300" doc:"mm in the hour"`
	Wind     float64             `json:"wind" minimum:"0" maximum:"120" doc:"m/s"`
	Cloud    measure.Fraction    `json:"cloud" minimum:"0" maximum:"1"`
	Sun      float64             `json:"sun" minimum:"0" maximum:"1500" doc:"W/m² on the level"`
}

// The Magnus form over water with the constants of WMO-No. 8: 6.112 hPa, 17.62
// and 243.12 °C.
const (
	magnusA = 17.62
	magnusB = 243.12
)

// DewPoint is the temperature at which air of a temperature and relative
// humidity begins to wet a surface. Of air without water, or with less, it is the limit of the
// formula, −243.12 °C.
func DewPoint(air measure.Temperature, humidity measure.Fraction) measure.Temperature {
	if humidity <= 0 {
		return -magnusB
	}
	gamma := math.Log(float64(humidity)) + magnusA*float64(air)/(magnusB+float64(air))
	return measure.Temperature(magnusB * gamma / (magnusA - gamma))
}

// Place holds where a slab lies.
type Place struct {
	Outdoors bool
	Heated   bool
}

// What stands in for a slab that nobody described: common practice and textbook
// values from memory. Concrete conducts 1.4 W/(m·K) and stores 2.1 MJ/(m³·K).
const (
	Diffusivity  = 1.4 / 2.1e6 // m²/s
	conductivity = 1.4
	absorption   = 0.65 // of sunlight, grey concrete
	outerFilm    = 17.0 // W/(m²·K) outdoors
	innerFilm    = 8.0  // W/(m²·K) indoors
	heatedTo     = 18.0 // °C of a heated room
	envelope     = 0.4  // share of the outdoor swing that reaches an unheated room
)

// Slab estimates the surface temperature of a slab hour by hour: heat runs into
// a body without end, driven at its surface by the air and, outdoors, the sun.
func Slab(hours []Hour, place Place) []measure.Temperature {
	drive, mean := make([]float64, len(hours)), 0.0
	for _, h := range hours {
		mean += float64(h.Air) / float64(len(hours))
	}
	film := innerFilm
	for i, h := range hours {
		switch {
		case place.Outdoors:
			film = outerFilm
			drive[i] = float64(h.Air) + absorption*h.Sun/outerFilm
		case place.Heated:
			drive[i] = heatedTo
		default:
			drive[i] = mean + envelope*(float64(h.Air)-mean)
		}
	}
	surface := Conduct(drive, film, 0)
	slab := make([]measure.Temperature, len(hours))
	for i := range slab {
		slab[i] = measure.Temperature(surface[i])
	}
	return slab
}

// Reading is a temperature of the slab that was measured.
type Reading struct {
	At    time.Time
	Value measure.Temperature
}

// memory is the time constant, in s, by which a reading corrects the estimate: its weight falls to 1/e in
// that time.
const memory = 24 * time.Hour

// Correct shifts an estimate by what the last reading showed it to be off, an
// offset that fades over a day. Without a reading in its hours it stays.
func Correct(slab []measure.Temperature, hours []Hour, readings []Reading) []measure.Temperature {
	var last *Reading
	off := 0.0
	for k, r := range readings {
		if last != nil && r.At.Before(last.At) {
			continue
		}
		for i, h := range hours {
			if gap := r.At.Sub(h.At); gap >= 0 && gap < time.Hour {
				last, off = &readings[k], float64(r.Value-slab[i])
			}
		}
	}
	if last == nil {
		return slab
	}
	slab = slices.Clone(slab)
	for i, h := range hours {
		gap := math.Abs(float64(h.At.Sub(last.At)))
		slab[i] += measure.Temperature(off * math.Exp(-gap/float64(memory)))
	}
	return slab
}

// Conduct drives a half-infinite body with a temperature that changes by the
// hour, through a surface film in W/(m²·K), and gives the temperature at a depth
// in m, hour by hour. It steps implicitly (Crank and Nicolson 1947) after a run
// in over the first day.
func Conduct(drive []float64, film, depth float64) []float64 {
	const (
		nodes = 56
		cell  = 0.0125 // m; 0.7 m of depth, where a day's wave has died away
		steps = 2      // an hour
		dt    = 3600.0 / steps
	)
	if len(drive) == 0 {
		return nil
	}
	first := drive[:min(24, len(drive))]
	start := 0.0
	for _, d := range first {
		start += d / float64(len(first))
	}
	now := make([]float64, nodes)
	for i := range now {
		now[i] = start
	}
	r := Diffusivity * dt / (cell * cell)
	bi := film * cell / conductivity
	next, right := make([]float64, nodes), make([]float64, nodes)
	upper, answer := make([]float64, nodes), make([]float64, nodes)
	step := func(before, after float64) {
		for i := range now {
			above, below := now[1]+2*bi*(before-now[0]), now[i]
			if i > 0 {
				above = now[i-1]
			}
			if i < nodes-1 {
				below = now[i+1]
			}
			right[i] = now[i] + r/2*(above-2*now[i]+below)
		}
		// Thomas's elimination of (1 + r)·T − r/2·(neighbours) = right.
		for i := range now {
			lower, diagonal, over := -r/2, 1+r, -r/2
			value := right[i]
			switch i {
			case 0:
				lower, over = 0, -r
				diagonal += r * bi
				value += r * bi * after
			case nodes - 1:
				over = 0
				diagonal = 1 + r/2
			}
			if i > 0 {
				diagonal -= lower * upper[i-1]
				value -= lower * answer[i-1]
			}
			upper[i], answer[i] = over/diagonal, value/diagonal
		}
		next[nodes-1] = answer[nodes-1]
		for i := nodes - 2; i >= 0; i-- {
			next[i] = answer[i] - upper[i]*next[i+1]
		}
		now, next = next, now
	}
	at := depth / cell
	low := min(nodes-2, int(at))
	read := func() float64 { return now[low] + (at-float64(low))*(now[low+1]-now[low]) }
	for range 4 {
		for h := range first {
			for k := range steps {
				a, b := first[h], first[(h+1)%len(first)]
				step(a+(b-a)*float64(k)/steps, a+(b-a)*float64(k+1)/steps)
			}
		}
	}
	out := make([]float64, len(drive))
	for h := range drive {
		out[h] = read()
		a, b := drive[h], drive[min(h+1, len(drive)-1)]
		for k := range steps {
			step(a+(b-a)*float64(k)/steps, a+(b-a)*float64(k+1)/steps)
		}
	}
	return out
}

// State says whether to coat in an hour.
type State string

// The states, best first.
const (
	Go   State = "go"
	Wait State = "wait" // it passes by itself
	Stop State = "stop" // it would ruin the coat
)

// Limits bound the weather in which a coat can be applied.
type Limits struct {
	DewMargin   measure.Temperature // K that the slab stays above the dew point
	HumidityMax measure.Fraction
	SlabMin     measure.Temperature
	SlabMax     measure.Temperature
	Open        bool // rain and wind reach the surface
	Falling     bool // only on a falling slab temperature, over open pores
	WindMax     float64
	DryAfter    int // hours without rain wanted after the coat
}

// Judged is an hour with its verdict.
type Judged struct {
	At     time.Time           `json:"at"`
	Slab   measure.Temperature `json:"slab" doc:"Estimated, °C"`
	Dew    measure.Temperature `json:"dew" doc:"°C"`
	Margin measure.Temperature `json:"margin" doc:"Slab above dew point, K"`
	State  State               `json:"state"`
	Reason string              `json:"reason" doc:"Why not go, or what holds"`
}

// Judge returns go, wait or stop for every hour.
func Judge(hours []Hour, slab []measure.Temperature, l Limits, units measure.System) []Judged {
	judged := make([]Judged, len(hours))
	for i, h := range hours {
		j := Judged{At: h.At, Slab: slab[i], Dew: DewPoint(h.Air, max(h.Humidity, 0.01)), State: Go}
		j.Margin = j.Slab - j.Dew
		rain := 0
		for k := i; l.Open && k < min(len(hours), i+l.DryAfter); k++ {
			if hours[k].Rain >= 0.1 {
				rain++
			}
		}
		say := func(s State, text string, args ...any) { j.State, j.Reason = s, fmt.Sprintf(text, args...) }
		kelvin := func(t measure.Temperature) string { return Difference(t, units) }
		switch {
		case l.Open && h.Rain >= 0.1:
			say(Stop, "Rain, %.1f mm.", h.Rain)
		case j.Margin < l.DewMargin:
			say(Stop, "The slab is %s above the dew point of %s; %s are required.", kelvin(j.Margin), units.Temperature(j.Dew),
				kelvin(l.DewMargin))
		case rain > 0:
			say(Stop, "Rain within %d h would fall on the fresh coat.", l.DryAfter)
		case j.Slab < l.SlabMin:
			say(Wait, "The slab is at %s; at least %s is required.", units.Temperature(j.Slab), units.Temperature(l.SlabMin))
		case j.Slab > l.SlabMax:
			say(Wait, "The slab is at %s; at most %s is allowed.", units.Temperature(j.Slab), units.Temperature(l.SlabMax))
		case h.Humidity > l.HumidityMax:
			say(Wait, "The air is at %s; at most %s is allowed.", units.Fraction(h.Humidity), units.Fraction(l.HumidityMax))
		case l.Open && h.Wind > l.WindMax:
			say(Wait, "Wind of %.0f m/s carries dust.", h.Wind)
		case l.Falling && i+1 < len(slab) && slab[i+1] > slab[i]+0.05:
			say(Wait, "The slab is warming, so its open pores push air out; coat when it cools.")
		default:
			say(Go, "%s above the dew point.", kelvin(j.Margin))
		}
		judged[i] = j
	}
	return judged
}

// Difference prints a difference of temperatures, which has no zero to shift.
func Difference(t measure.Temperature, units measure.System) string {
	if units.Units() == measure.US {
		return fmt.Sprintf("%.0f °F", float64(t)*9/5)
	}
	return fmt.Sprintf("%.1f K", float64(t))
}

// Values returns all values, in the order in which they are shown.
func (State) Values() []State {
	return []State{Go, Wait, Stop}
}
