package cure

import (
	"fmt"
	"math"

	"nephelon/core/measure"
)

// Kinetics is how a mix reacts: dα/dt = (k₁ + k₂·αᵐ)·(1 − α)ⁿ with
// kᵢ = Aᵢ·exp(−Eᵢ/RT), after Kamal and Sourour 1973, α being the share that has
// reacted.
type Kinetics struct {
	A1   float64 `json:"a1" minimum:"0" doc:"1/s"`
	E1   float64 `json:"e1" minimum:"0" doc:"J/mol"`
	A2   float64 `json:"a2" minimum:"0" doc:"1/s"`
	E2   float64 `json:"e2" minimum:"0" doc:"J/mol"`
	M    float64 `json:"m" minimum:"0" maximum:"5"`
	N    float64 `json:"n" minimum:"0" maximum:"5"`
	Heat float64 `json:"heat" minimum:"0" doc:"J/kg of mix"`
	Cp   float64 `json:"cp" exclusiveMinimum:"0" doc:"J/(kg·K)"`
	Gel  float64 `json:"gel" exclusiveMinimum:"0" exclusiveMaximum:"1" doc:"Share reacted at which it is a jelly"`

	Source measure.Source `json:"source,omitempty" enum:"sheet,own-test,standard,rule-of-thumb,colleague,assumed" doc:"From memory when left out"`
}

// Epoxy is a room-temperature epoxy and amine, from memory, to be calibrated by
// the sheet's own pot life.
func Epoxy() Kinetics {
	return Kinetics{A1: 2e4, E1: 56000, A2: 2e5, E2: 53000, M: 0.8, N: 1.7, Heat: 380e3, Cp: 1800, Gel: 0.6}
}

// Vessel is where a mix stands.
type Vessel struct {
	Mass    measure.Mass        `json:"mass" exclusiveMinimum:"0" maximum:"10000" doc:"kg"`
	Density measure.Density     `json:"density" exclusiveMinimum:"0" doc:"kg/m³"`
	Radius  measure.Length      `json:"radius,omitempty" minimum:"0" maximum:"10" doc:"m inside; as wide as the mix is high when left out"`
	Film    measure.Film        `json:"film,omitempty" minimum:"0" maximum:"1" doc:"m; a spread film in place of a bucket"`
	Loss    float64             `json:"loss" minimum:"0" maximum:"10000" doc:"W/(m²·K) from its surface to the air"`
	Start   measure.Temperature `json:"start" minimum:"-20" maximum:"90" doc:"°C of the mix"`
	Air     measure.Temperature `json:"air" minimum:"-40" maximum:"70" doc:"°C"`
}

// surface is what loses heat, m² per kg.
func (v Vessel) surface() float64 {
	if v.Film > 0 {
		return 2 / (float64(v.Density) * float64(v.Film))
	}
	volume := float64(v.Mass) / float64(v.Density)
	radius := float64(v.Radius)
	if radius == 0 {
		radius = math.Cbrt(volume / (2 * math.Pi))
	}
	return (2*math.Pi*radius*radius + 2*volume/radius) / float64(v.Mass)
}

// Moment is the state of a mix at a time.
type Moment struct {
	Time        measure.Span        `json:"time" doc:"s from A meeting B"`
	Temperature measure.Temperature `json:"temperature"`
	Reacted     float64             `json:"reacted"`
}

// History is the life of a mix.
type History struct {
	Moments []Moment      `json:"moments"`
	Gel     *measure.Span `json:"gel,omitempty" doc:"s; absent when it does not gel in the time asked for"`
	Peak    Moment        `json:"peak"`
	Smokes  bool          `json:"smokes" doc:"The peak passes 150 °C, where a mix smokes and cracks (common practice, no source)"`
	Balance float64       `json:"balance" doc:"Heat set free less heat kept and lost, as a share of what was set free"`
}

const smoking = 150.0

// Tolerances bound the error of each step: relative, and absolute in reacted
// share, K over a hundred, and J/kg over the heat.
const usualTolerance = 5e-7

// Run follows a mix until a time, or until it gels when gelOnly is set.
func Run(k Kinetics, v Vessel, until measure.Span, gelOnly bool) (History, error) {
	if err := k.check(v); err != nil {
		return History{}, err
	}
	return run(k, v, until, gelOnly, usualTolerance)
}

func (k Kinetics) check(v Vessel) error {
	if !sound(float64(v.Loss), float64(v.Film), float64(v.Radius)) {
		return fmt.Errorf("every measure of the vessel is a number of zero or more")
	}
	if v.Mass <= 0 || v.Density <= 0 {
		return fmt.Errorf("mass and density must be above zero")
	}
	return k.Check()
}

func sound(numbers ...float64) bool {
	for _, n := range numbers {
		if math.IsNaN(n) || math.IsInf(n, 0) || n < 0 {
			return false
		}
	}
	return true
}

// Check says which parameter cannot be, and what would be right.
func (k Kinetics) Check() error {
	switch {
	case !sound(k.A1, k.E1, k.A2, k.E2, k.M, k.N, k.Heat):
		return fmt.Errorf("every parameter of the kinetics is a number of zero or more")
	case k.A1 == 0:
		return fmt.Errorf("a1: without a rate at the beginning nothing ever starts; enter more than zero")
	case k.Cp <= 0:
		return fmt.Errorf("cp: the heat capacity must be above zero, such as 1800 J/(kg·K)")
	case k.Gel <= 0 || k.Gel >= 1:
		return fmt.Errorf("gel: the share reacted at gel lies between 0 and 1, such as 0.6")
	}
	return nil
}

// state is the share reacted, the temperature in K, and the heat lost in J/kg.
type state [3]float64

// rate is how fast the state changes, with its derivatives by α and T.
func (k Kinetics) rate(y state, cooling, air float64) (f state, byAlpha, byT float64) {
	alpha := math.Min(1, math.Max(0, y[0]))
	k1, k2 := k.A1*math.Exp(-k.E1/(gasConstant*y[1])), k.A2*math.Exp(-k.E2/(gasConstant*y[1]))
	power := math.Pow(alpha, k.M)
	left := math.Pow(1-alpha, k.N)
	sum := k1 + k2*power
	f[0] = sum * left
	f[2] = cooling * k.Cp * (y[1] - air)
	f[1] = k.Heat/k.Cp*f[0] - cooling*(y[1]-air)
	if alpha > 1e-12 {
		byAlpha += k2 * k.M * power / alpha * left
	}
	if alpha < 1-1e-12 {
		byAlpha -= sum * k.N * left / (1 - alpha)
	}
	byT = (k1*k.E1 + k2*power*k.E2) / (gasConstant * y[1] * y[1]) * left
	return f, byAlpha, byT
}

// run steps with the Rosenbrock pair of orders 2 and 3 of Shampine and Reichelt
// 1997 ("The MATLAB ODE suite"), which stays stable when the reaction runs away
// and when it has spent itself.
func run(k Kinetics, v Vessel, until measure.Span, gelOnly bool, tolerance float64) (History, error) {
	cooling := v.Loss * v.surface() / k.Cp
	air := float64(v.Air) + kelvin
	y := state{0, float64(v.Start) + kelvin, 0}
	h := History{Moments: []Moment{{0, v.Start, 0}}, Peak: Moment{0, v.Start, 0}}
	t, end := 0.0, float64(until)
	step := math.Min(1, end/100)
	d, e32 := 1/(2+math.Sqrt2), 6+math.Sqrt2
	scale := state{1, 100, k.Heat + 1}
	const most = 200_000
	for count := 0; t < end; count++ {
		if count > most {
			return h, fmt.Errorf("the reaction could not be followed; check the kinetics")
		}
		step = math.Min(step, end-t)
		f0, ja, jt := k.rate(y, cooling, air)
		solve := newSolver(step*d, k, ja, jt, cooling)
		k1 := solve(f0)
		f1, _, _ := k.rate(along(y, k1, step/2), cooling, air)
		k2 := plus(solve(minus(f1, k1)), k1)
		next := along(y, k2, step)
		f2, _, _ := k.rate(next, cooling, air)
		var right state
		for i := range right {
			right[i] = f2[i] - e32*(k2[i]-f1[i]) - 2*(k1[i]-f0[i])
		}
		k3 := solve(right)
		fault := 0.0
		for i := range y {
			off := step / 6 * math.Abs(k1[i]-2*k2[i]+k3[i])
			fault = math.Max(fault, off/(tolerance*(scale[i]+math.Abs(next[i]))))
		}
		if math.IsNaN(fault) || fault > 1 {
			// A step that leaves the world, to a temperature below nothing, says
			// nothing of its fault.
			shrink := 0.1
			if !math.IsNaN(fault) {
				shrink = math.Max(0.2, 0.8/math.Cbrt(fault))
			}
			step *= shrink
			if step < 1e-9 {
				return h, fmt.Errorf("the reaction could not be followed; check the kinetics")
			}
			continue
		}
		before, from := y, t
		y, t = next, t+step
		y[0] = math.Min(1, y[0])
		h.note(k, before, y, f0, f2, from, t)
		if gelOnly && h.Gel != nil {
			break
		}
		step *= math.Min(4, 0.8/math.Cbrt(math.Max(fault, 1e-6)))
	}
	free := k.Heat * y[0]
	if free > 0 {
		h.Balance = (free - k.Cp*(y[1]-float64(v.Start)-kelvin) - y[2]) / free
	}
	h.Smokes = float64(h.Peak.Temperature) > smoking
	return h, nil
}

// note keeps a moment, the peak and the gel between two steps, by the cubic
// through both ends and their slopes.
func (h *History) note(k Kinetics, y0, y1, f0, f1 state, t0, t1 float64) {
	now := Moment{measure.Span(t1), measure.Temperature(y1[1] - kelvin), y1[0]}
	h.Moments = append(h.Moments, now)
	if now.Temperature > h.Peak.Temperature {
		h.Peak = now
	}
	step := t1 - t0
	cubic := func(i int, s float64) float64 {
		return (1+2*s)*(1-s)*(1-s)*y0[i] + s*(1-s)*(1-s)*step*f0[i] + s*s*(3-2*s)*y1[i] - s*s*(1-s)*step*f1[i]
	}
	if f0[1] > 0 && f1[1] < 0 {
		// The slope crosses zero: the peak lies between.
		for i := 1; i < 16; i++ {
			s := float64(i) / 16
			if warm := measure.Temperature(cubic(1, s) - kelvin); warm > h.Peak.Temperature {
				h.Peak = Moment{measure.Span(t0 + s*step), warm, cubic(0, s)}
			}
		}
	}
	if h.Gel != nil || y1[0] < k.Gel {
		return
	}
	low, high := 0.0, 1.0
	for range 50 {
		if middle := (low + high) / 2; cubic(0, middle) < k.Gel {
			low = middle
		} else {
			high = middle
		}
	}
	gel := measure.Span(t0 + high*step)
	h.Gel = &gel
}

func along(y, slope state, step float64) state {
	for i := range y {
		y[i] += step * slope[i]
	}
	return y
}

func plus(a, b state) state  { return along(a, b, 1) }
func minus(a, b state) state { return along(a, b, -1) }

// newSolver solves (I − g·J)·x = b, where J is the Jacobian of the rate: rows by
// α and T, and the heat lost, which nothing depends on.
func newSolver(g float64, k Kinetics, byAlpha, byT, cooling float64) func(state) state {
	warm := k.Heat / k.Cp
	a, b := 1-g*byAlpha, -g*byT
	c, d := -g*warm*byAlpha, 1-g*(warm*byT-cooling)
	det := a*d - b*c
	return func(r state) state {
		x := state{(d*r[0] - b*r[1]) / det, (a*r[1] - c*r[0]) / det}
		x[2] = r[2] + g*cooling*k.Cp*x[1]
		return x
	}
}

// Calibrate scales the rates so that the mix gels in a vessel at the pot life
// that its sheet gives.
func Calibrate(k Kinetics, v Vessel, potLife measure.Span) (Kinetics, error) {
	return calibrate(k, v, potLife, usualTolerance)
}

func calibrate(k Kinetics, v Vessel, potLife measure.Span, tolerance float64) (Kinetics, error) {
	if err := k.check(v); err != nil {
		return k, err
	}
	if potLife <= 0 {
		return k, fmt.Errorf("the pot life must be above zero")
	}
	scaled := func(by float64) Kinetics {
		s := k
		s.A1, s.A2 = k.A1*by, k.A2*by
		return s
	}
	// The logarithm of the gel time falls nearly straight with that of the scale,
	// so the secant finds it in a few runs; the bracket keeps it from straying.
	target := math.Log(float64(potLife))
	late := func(x float64) (float64, error) {
		h, err := run(scaled(math.Exp(x)), v, 50*potLife, true, tolerance)
		if err != nil {
			return 0, err
		}
		if h.Gel == nil {
			return math.Log(50), nil
		}
		return math.Log(float64(*h.Gel)) - target, nil
	}
	low, high := -40.0, 40.0
	x, previous, before := 0.0, math.NaN(), math.NaN()
	for range 100 {
		y, err := late(x)
		if err != nil {
			return k, err
		}
		if math.Abs(y) < max(1e-7, tolerance/20) {
			return scaled(math.Exp(x)), nil
		}
		if y > 0 {
			low = x
		} else {
			high = x
		}
		next := x + y
		if slope := (y - before) / (x - previous); slope < 0 {
			next = x - y/slope
		}
		if next <= low || next >= high || math.IsNaN(next) {
			next = (low + high) / 2
		}
		previous, before, x = x, y, next
		if high-low < 1e-12 {
			return scaled(math.Exp(x)), nil
		}
	}
	return k, fmt.Errorf("no rate gives a pot life of %.0f s; check the kinetics", float64(potLife))
}
