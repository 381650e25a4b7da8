package cure

import (
	"fmt"
	"math"

	"nephelon/core/measure"
)

// Fit is the model that agrees best with what was timed.
type Fit struct {
	Kinetics Kinetics
	Loss     float64 // heat loss over that of the tables
	Assumed  bool    // one figure only: all but the rate is from memory
	Spread   float64 // root of the mean square of the misses, as a share
}

// The parameters of a fit, all as departures from what is known from memory: of
// the logarithm of the rate, of both activation energies in J/mol over RT of a warm
// day, of the logarithm of k₁ : k₂, of the logit of the usable share of gel, of the
// logarithm of the loss.
const (
	byRate = iota
	byActivation
	byStart
	byUsable
	byLoss
	parameters
)

// doubt returns how far each may be off, as a standard deviation: assumed. The rate is
// free.
func doubt() [parameters]float64 {
	return [parameters]float64{math.Inf(1), 4, 1.2, 0.8, 0.35}
}

// warmDay is the temperature, K, at which a change of activation energy leaves the rate as it is.
const warmDay = 296

// trust is the standard deviation of the logarithm of a time by where it is from:
// assumed.
func trust(s measure.Source) float64 {
	switch s {
	case measure.OwnTest:
		return 0.04
	case measure.Sheet, measure.Standard:
		return 0.06
	}
	return 0.15
}

// with is the sheet's kinetics with the parameters put in.
func (s Sheet) with(p [parameters]float64) Fit {
	k := s.Kinetics
	shift := p[byActivation] * gasConstant * warmDay
	// A change of E keeps the rate of a warm day.
	k.A1 *= math.Exp(p[byRate] + p[byStart] + p[byActivation])
	k.A2 *= math.Exp(p[byRate] + p[byActivation])
	k.E1, k.E2 = math.Max(0, k.E1+shift), math.Max(0, k.E2+shift)
	share := k.Ends() / k.Gel
	logit := math.Log(share/(1-share)) + p[byUsable]
	k.Usable = k.Gel / (1 + math.Exp(-logit))
	return Fit{Kinetics: k, Loss: math.Exp(p[byLoss])}
}

// loss returns what a timed pail or film loses, by this fit.
func (f Fit) loss(t Timed) float64 {
	if t.Film > 0 {
		return onSlab * f.Loss
	}
	return stillAir * f.Loss
}

// usable returns how long a mix can be used in a vessel, followed up to a horizon.
func (f Fit) usable(v Vessel, horizon measure.Span) (measure.Span, error) {
	h, err := run(f.Kinetics, v, horizon, atUsable, quick)
	if err != nil {
		return 0, err
	}
	if h.Usable == nil {
		return horizon, nil
	}
	sooner := 1.0
	if v.Film == 0 && v.Air > v.Start {
		sooner -= rim * math.Min(1, float64(v.Air-v.Start)/10)
	}
	return *h.Usable * measure.Span(sooner), nil
}

// rim is the share by which a pail in a warm bath ends sooner because its rim is warmed
// from two sides, which no sphere knows: found against a whole cylinder.
const rim = 0.035

// fitted finds the parameters by weighted least squares (Levenberg and Marquardt),
// what is known from memory being held as loosely as it is known. One figure gives
// the rate alone.
func fitted(s Sheet) (Fit, error) {
	var p [parameters]float64
	first := s.Timed[0]
	plain := s.with(p)
	calibrated, err := calibrate(plain.Kinetics, s.vessel(first, plain.loss(first)), first.Lasts, quick)
	if err != nil {
		return Fit{}, err
	}
	p[byRate] = math.Log(calibrated.A1 / plain.Kinetics.A1)
	if len(s.Timed) == 1 {
		fit := s.with(p)
		fit.Assumed = true
		return fit, nil
	}
	p, spread, err := s.least(p)
	if err != nil {
		return Fit{}, err
	}
	fit := s.with(p)
	fit.Spread = spread
	return fit, nil
}

// misses are the residues of the data and of what is known from memory, each over
// its standard deviation.
func (s Sheet) misses(p [parameters]float64) ([]float64, error) {
	fit := s.with(p)
	off := make([]float64, 0, len(s.Timed)+parameters-1)
	for _, t := range s.Timed {
		model, err := fit.usable(s.vessel(t, fit.loss(t)), 20*t.Lasts)
		if err != nil {
			return nil, err
		}
		off = append(off, math.Log(float64(model/t.Lasts))/trust(t.Source))
	}
	for i, d := range doubt() {
		if !math.IsInf(d, 1) {
			off = append(off, p[i]/d)
		}
	}
	return off, nil
}

func product(a, b []float64) float64 {
	sum := 0.0
	for i := range a {
		sum += a[i] * b[i]
	}
	return sum
}

func squares(all []float64) float64 { return product(all, all) }

// solve solves normal equations by Cholesky's decomposition; false where they have no single solution. A library of
// linear algebra would make up a tenth of what a phone downloads.
func solve(m [parameters][parameters]float64, right [parameters]float64) (x [parameters]float64, solved bool) {
	var lower [parameters][parameters]float64
	for i := range parameters {
		for j := range i + 1 {
			rest := m[i][j] - product(lower[i][:j], lower[j][:j])
			switch {
			case i != j:
				lower[i][j] = rest / lower[j][j]
			case !(rest > 0):
				return x, false
			default:
				lower[i][i] = math.Sqrt(rest)
			}
		}
		x[i] = (right[i] - product(lower[i][:i], x[:i])) / lower[i][i]
	}
	for i := parameters - 1; i >= 0; i-- {
		for j := i + 1; j < parameters; j++ {
			x[i] -= lower[j][i] * x[j]
		}
		x[i] /= lower[i][i]
	}
	return x, true
}

// least goes down to the least sum of squares.
func (s Sheet) least(p [parameters]float64) (best [parameters]float64, spread float64, err error) {
	off, err := s.misses(p)
	if err != nil {
		return p, 0, err
	}
	damping := 1e-3
	for range 12 {
		rows := len(off)
		var slope [parameters][]float64 // of each miss by each parameter
		for j := range parameters {
			const nudge = 0.02
			near := p
			near[j] += nudge
			moved, err := s.misses(near)
			if err != nil {
				return p, 0, err
			}
			slope[j] = make([]float64, rows)
			for i := range rows {
				slope[j][i] = (moved[i] - off[i]) / nudge
			}
		}
		var normal [parameters][parameters]float64
		var right [parameters]float64
		for j := range parameters {
			right[j] = product(slope[j], off)
			for k := range parameters {
				normal[j][k] = product(slope[j], slope[k])
			}
		}
		before, better := squares(off), false
		for range 6 {
			damped := normal
			for j := range parameters {
				damped[j][j] = normal[j][j]*(1+damping) + 1e-9
			}
			by, solved := solve(damped, right)
			if !solved {
				return p, 0, fmt.Errorf("the times cannot be fitted: they contradict each other")
			}
			next := p
			for j := range parameters {
				next[j] -= math.Max(-2, math.Min(2, by[j]))
			}
			moved, err := s.misses(next)
			if err == nil && squares(moved) < before {
				p, off, better, damping = next, moved, true, damping/5
				break
			}
			damping *= 8
		}
		if !better || squares(off) > before*(1-1e-3) {
			break
		}
	}
	sum := 0.0
	for i, t := range s.Timed {
		miss := off[i] * trust(t.Source)
		sum += miss * miss
	}
	return p, math.Sqrt(sum / float64(len(s.Timed))), nil
}

// Calibrate scales the rates so that the mix can be used in a vessel for the pot
// life that its sheet gives.
func Calibrate(k Kinetics, v Vessel, potLife measure.Span) (Kinetics, error) {
	return calibrate(k, v, potLife, usualTolerance)
}

func calibrate(k Kinetics, v Vessel, potLife measure.Span, tolerance float64) (Kinetics, error) {
	if err := k.Check(); err != nil {
		return k, err
	}
	if err := v.check(); err != nil {
		return k, err
	}
	if !(potLife > 0 && potLife <= 366*24*measure.Hour) {
		return k, fmt.Errorf("potLife: enter more than zero and at most a year, in seconds")
	}
	// The logarithm of the time falls nearly straight with that of the scale, so
	// the secant finds it in a few runs; the bracket keeps it from straying.
	target := math.Log(float64(potLife))
	late := func(x float64) (float64, error) {
		h, err := run(k.scaled(math.Exp(x)), v, 50*potLife, atUsable, tolerance)
		if err != nil {
			return 0, err
		}
		if h.Usable == nil {
			return math.Log(50), nil
		}
		return math.Log(float64(*h.Usable)) - target, nil
	}
	low, high := -40.0, 40.0
	x, previous, before := 0.0, math.NaN(), math.NaN()
	for range 100 {
		y, err := late(x)
		if err != nil {
			return k, err
		}
		if math.Abs(y) < math.Max(1e-7, tolerance/20) {
			return k.scaled(math.Exp(x)), nil
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
			break
		}
	}
	return k, fmt.Errorf("no rate gives a pot life of %.0f s; check the kinetics", float64(potLife))
}
