// Package cure tells how fast a mixed product reacts: its rate against
// temperature, and the life of a bucket that heats itself.
package cure

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"nephelon/core/measure"
)

const (
	gasConstant = 8.314462618 // J/(mol·K), CODATA 2018
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

// Rate is a time against temperature after Arrhenius: ln time falls with one over
// the absolute temperature.
type Rate struct {
	Activation float64 // J/mol, fitted to all points
	Ends       bool    // below the coldest point a longer time is not trusted
	knots      []knot  // warmest first
}

// knot is a point of the sheet: 1/K and ln s.
type knot struct{ x, y float64 }

// FitRate lays Arrhenius's law through the points: between two of them the time
// runs straight in ln t over 1/T, so that each printed time comes out again, and
// beyond them with the activation energy that fits all points by least squares.
// One point takes the usual activation energy. Times that grow with heat are
// refused; equal times at two temperatures are not.
func FitRate(points []Point) (Rate, error) {
	if len(points) == 0 {
		return Rate{}, fmt.Errorf("a rate needs at least one time with its temperature")
	}
	r := Rate{Activation: UsualActivation, knots: make([]knot, 0, len(points))}
	meanX, meanY := 0.0, 0.0
	n := float64(len(points))
	for i, p := range points {
		if p.Time <= 0 {
			return Rate{}, fmt.Errorf("point %d has no time", i+1)
		}
		k := knot{1 / (float64(p.At) + kelvin), math.Log(float64(p.Time))}
		meanX, meanY = meanX+k.x/n, meanY+k.y/n
		r.knots = append(r.knots, k)
	}
	slices.SortFunc(r.knots, func(a, b knot) int { return cmp.Compare(a.x, b.x) })
	xx, xy := 0.0, 0.0
	for i, k := range r.knots {
		xx, xy = xx+(k.x-meanX)*(k.x-meanX), xy+(k.x-meanX)*(k.y-meanY)
		if i > 0 && k.x > r.knots[i-1].x && k.y < r.knots[i-1].y {
			return Rate{}, fmt.Errorf("its times increase with temperature; check the sheet")
		}
	}
	if r.knots[len(r.knots)-1].x-r.knots[0].x > 5e-6 { // half a degree near room temperature
		r.Activation = gasConstant * xy / xx
	}
	return r, nil
}

// Time at a temperature, and whether that lies beyond the points.
func (r Rate) Time(at measure.Temperature) (time measure.Span, beyond bool) {
	x := 1 / (math.Max(float64(at), coldest) + kelvin)
	last := len(r.knots) - 1
	if r.Ends {
		x = math.Min(x, r.knots[last].x)
	}
	i := 0
	for i <= last && r.knots[i].x < x {
		i++
	}
	var y float64
	switch {
	case i == 0:
		y = r.knots[0].y + r.Activation/gasConstant*(x-r.knots[0].x)
	case i > last:
		y = r.knots[last].y + r.Activation/gasConstant*(x-r.knots[last].x)
	default:
		cold, warm := r.knots[i], r.knots[i-1]
		y = warm.y + (cold.y-warm.y)*(x-warm.x)/(cold.x-warm.x)
	}
	return measure.Span(math.Exp(y)), r.outside(float64(at))
}

// Slower returns a rate that takes so many times as long at every temperature.
func (r Rate) Slower(times float64) Rate {
	r.knots = slices.Clone(r.knots)
	for n := range r.knots {
		r.knots[n].y += math.Log(times)
	}
	return r
}

// Drying holds how many times as long a film dries that is so many times as thick as the sheet's: the square, as
// water or solvent leaves a film by diffusion (Crank, The Mathematics of Diffusion, from memory). A thinner one counts
// as the sheet's, and one of more than twice its thickness as twice.
func Drying(thick float64) float64 {
	const followed = 2
	return math.Pow(min(max(thick, 1), followed), 2)
}

// coldest is the temperature, °C, below which no film is followed.
const coldest = -60

// outside reports whether a temperature lies beyond the points by more than a reading
// is worth.
func (r Rate) outside(at float64) bool {
	low, high := 1/r.knots[len(r.knots)-1].x-kelvin, 1/r.knots[0].x-kelvin
	return at < low-beyondBy || at > high+beyondBy
}
