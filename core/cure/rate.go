// Package cure tells how fast a mixed product reacts: its rate against
// temperature, and the life of a bucket that heats itself.
package cure

import (
	"fmt"
	"math"

	"nephelon/core/measure"
)

const (
	gasConstant = 8.31446 // J/(mol·K), CODATA 2018
	kelvin      = 273.15
	// UsualActivation stands in where a sheet gives one temperature only: times
	// halve for about 10 K near room temperature (common practice, no source).
	UsualActivation = 53000.0 // J/mol
)

// Point is a time that a sheet gives for a temperature.
type Point struct {
	At   measure.Temperature `json:"at" minimum:"-30" maximum:"120" doc:"°C"`
	Time measure.Span        `json:"time" exclusiveMinimum:"0" maximum:"31536000" doc:"s"`
}

// Rate is a time against temperature after Arrhenius: time = scale · exp(E/RT).
type Rate struct {
	Activation float64 // J/mol
	scale      float64
	low, high  float64 // °C that the points span
}

// FitRate lays Arrhenius's law through the points, by least squares of the
// logarithm of time on one over the absolute temperature. One point takes the
// usual activation energy. Times that grow with heat are refused.
func FitRate(points []Point) (Rate, error) {
	if len(points) == 0 {
		return Rate{}, fmt.Errorf("a rate needs a time at one temperature at least")
	}
	r := Rate{Activation: UsualActivation, low: math.Inf(1), high: math.Inf(-1)}
	meanX, meanY := 0.0, 0.0
	n := float64(len(points))
	for i, p := range points {
		if p.Time <= 0 {
			return Rate{}, fmt.Errorf("point %d has no time", i+1)
		}
		r.low, r.high = math.Min(r.low, float64(p.At)), math.Max(r.high, float64(p.At))
		meanX += 1 / (float64(p.At) + kelvin) / n
		meanY += math.Log(float64(p.Time)) / n
	}
	xx, xy := 0.0, 0.0
	for _, p := range points {
		x, y := 1/(float64(p.At)+kelvin)-meanX, math.Log(float64(p.Time))-meanY
		xx, xy = xx+x*x, xy+x*y
	}
	if r.high-r.low > 0.5 {
		r.Activation = gasConstant * xy / xx
	}
	if r.Activation <= 0 {
		return Rate{}, fmt.Errorf("its times grow with heat; read the sheet again")
	}
	r.scale = math.Exp(meanY - r.Activation/gasConstant*meanX)
	return r, nil
}

// Time at a temperature, and whether that lies outside the points by more than
// 2 K.
func (r Rate) Time(at measure.Temperature) (time measure.Span, extrapolated bool) {
	seconds := r.scale * math.Exp(r.Activation/(gasConstant*(float64(at)+kelvin)))
	return measure.Span(seconds), float64(at) < r.low-2 || float64(at) > r.high+2
}
