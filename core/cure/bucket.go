package cure

import (
	"fmt"
	"math"

	"nephelon/core/measure"
)

// Moment is the state of the hottest part of a mix at a time.
type Moment struct {
	Time        measure.Span        `json:"time" doc:"s from A meeting B"`
	Temperature measure.Temperature `json:"temperature"`
	Reacted     float64             `json:"reacted"`
}

// History is the life of a mix. Its hottest part decides.
type History struct {
	Moments []Moment      `json:"moments"`
	Usable  *measure.Span `json:"usable,omitempty" doc:"s until it can no longer be used; absent when that does not come in the time asked for"`
	Gel     *measure.Span `json:"gel,omitempty" doc:"s; absent when it does not gel in the time asked for"`
	Smokes  *measure.Span `json:"smokes,omitempty" doc:"s until it passes 150 °C, where a mix smokes and cracks (common practice, no source); absent when it does not"`
	Peak    Moment        `json:"peak"`
	Balance float64       `json:"balance" doc:"Heat set free less heat kept and lost, as a share of what was set free"`
}

const smoking = 150.0

// Tolerances bound the error of each step: relative, and absolute in reacted
// share, K over a hundred, and J/kg over the heat. Quick is for where thousands
// of lives are asked for.
const (
	usualTolerance = 8e-8
	quick          = 1e-4
)

// end says what ends a run early.
type end int

const (
	atTime end = iota
	atUsable
	atGel
)

// Run follows a mix until a time.
func Run(k Kinetics, v Vessel, until measure.Span) (History, error) {
	return run(k, v, until, atTime, usualTolerance)
}

// state is the share reacted and the temperature in K of each layer, and the heat
// lost in J/kg.
type state struct {
	alpha, kelvins [shellsWarm]float64
	lost           float64
}

// reactor is a mix in its place.
type reactor struct {
	k Kinetics
	body
}

// bend holds the derivatives of the rate of each layer with what has reacted and with
// its temperature.
type bend struct{ byAlpha, byT [shellsWarm]float64 }

// slope returns how fast a state changes.
func (r *reactor) slope(y *state) (state, bend) {
	var f state
	var d bend
	stirred := r.stirred(y)
	warm := r.k.Heat / r.k.Cp
	flow := 0.0 // W/kg from the layer inside
	for i := range r.n {
		f.alpha[i], d.byAlpha[i], d.byT[i] = r.k.rate(y.alpha[i], y.kelvins[i])
		out := 0.0
		if i+1 < r.n {
			out = r.in[i] * stirred * (y.kelvins[i] - y.kelvins[i+1])
		} else {
			out = r.skin(stirred) * (y.kelvins[i] - r.around)
			f.lost = out
		}
		f.kelvins[i] = warm*f.alpha[i] + (flow-out)/(r.weight[i]*r.k.Cp)
		flow = out
	}
	return f, d
}

func (r *reactor) stirred(y *state) float64 {
	if r.convects.scale == 0 {
		return 1
	}
	last := r.n - 1
	return r.convects.stirred(y.kelvins[0]-y.kelvins[last], math.Max(y.alpha[0], y.alpha[last]), r.k.Gel)
}

// solver solves (I/g − J)·x = b, where J is the Jacobian of the slope. Each
// layer's share reacted depends on its own temperature alone, so it is eliminated
// and three diagonals of temperatures are left.
type solver struct {
	r              *reactor
	c, loss        float64
	byT, own, warm [shellsWarm]float64
	lower, upper   [shellsWarm]float64
	pivot          [shellsWarm]float64
}

func (r *reactor) factor(y *state, d *bend, g float64) solver {
	s := solver{r: r, c: 1 / g}
	stirred := r.stirred(y)
	warm := r.k.Heat / r.k.Cp
	s.loss = r.skin(stirred)
	for i := range r.n {
		byAlpha, byT := d.byAlpha[i], d.byT[i]
		s.byT[i] = byT
		s.own[i] = 1 / (s.c - byAlpha)
		s.warm[i] = warm * (1 + byAlpha*s.own[i]) // of what is put into α, and of byT·x
		mass := r.weight[i] * r.k.Cp
		out := s.loss
		if i+1 < r.n {
			out = r.in[i] * stirred
			s.upper[i] = -out / mass
		}
		diagonal := s.c - s.warm[i]*byT + out/mass
		if i > 0 {
			in := r.in[i-1] * stirred
			s.lower[i] = -in / mass
			diagonal += in / mass
			s.lower[i] /= s.pivot[i-1]
			diagonal -= s.lower[i] * s.upper[i-1]
		}
		s.pivot[i] = diagonal
	}
	return s
}

func (s *solver) solve(b *state) state {
	var x state
	n := s.r.n
	warm := s.r.k.Heat / s.r.k.Cp
	for i := range n {
		x.kelvins[i] = b.kelvins[i] + (s.warm[i]-warm)*b.alpha[i]
		if i > 0 {
			x.kelvins[i] -= s.lower[i] * x.kelvins[i-1]
		}
	}
	for i := n - 1; i >= 0; i-- {
		if i+1 < n {
			x.kelvins[i] -= s.upper[i] * x.kelvins[i+1]
		}
		x.kelvins[i] /= s.pivot[i]
		x.alpha[i] = (b.alpha[i] + s.byT[i]*x.kelvins[i]) * s.own[i]
	}
	x.lost = (b.lost + s.loss*x.kelvins[n-1]) / s.c
	return x
}

// along adds slopes to a state, each with its factor.
func (r *reactor) along(y state, factors [4]float64, slopes *[4]state) state {
	for j, by := range factors {
		if by == 0 {
			continue
		}
		g := &slopes[j]
		for i := range r.n {
			y.alpha[i] += by * g.alpha[i]
			y.kelvins[i] += by * g.kelvins[i]
		}
		y.lost += by * g.lost
	}
	return y
}

// step goes one step with the Rosenbrock pair of orders 4 and 3 of Kaps and
// Rentrop 1979 in the parameters of Shampine 1982, which stays stable when the
// reaction runs away and when it has spent itself. It returns the fault beside.
func (r *reactor) step(y, f0 *state, d *bend, h, tolerance float64) (state, float64) {
	s := r.factor(y, d, h/2)
	var g [4]state
	g[0] = s.solve(f0)
	at := r.along(*y, [4]float64{2}, &g)
	f, _ := r.slope(&at)
	b := r.along(f, [4]float64{-8 / h}, &g)
	g[1] = s.solve(&b)
	at = r.along(*y, [4]float64{48.0 / 25, 6.0 / 25}, &g)
	f, _ = r.slope(&at)
	b = r.along(f, [4]float64{372 / (25 * h), 12 / (5 * h)}, &g)
	g[2] = s.solve(&b)
	b = r.along(f, [4]float64{-112 / (125 * h), -54 / (125 * h), -2 / (5 * h)}, &g)
	g[3] = s.solve(&b)
	next := r.along(*y, [4]float64{19.0 / 9, 1.0 / 2, 25.0 / 108, 125.0 / 108}, &g)
	off := r.along(state{}, [4]float64{17.0 / 54, 7.0 / 36, 0, 125.0 / 108}, &g)
	fault := math.Abs(off.lost) / (r.k.Heat + 1 + math.Abs(next.lost))
	for i := range r.n {
		fault = math.Max(fault, math.Max(math.Abs(off.alpha[i])/(1+math.Abs(next.alpha[i])),
			math.Abs(off.kelvins[i])/(100+math.Abs(next.kelvins[i]))))
		if math.IsNaN(off.kelvins[i]) || math.IsNaN(off.alpha[i]) || next.kelvins[i] < 100 {
			return next, math.Inf(1) // a step that leaves the world says nothing of its fault
		}
	}
	return next, fault / tolerance
}

// hottest is the layer that decides, in which most has reacted.
func (r *reactor) hottest(y *state) int {
	hot := 0
	for i := 1; i < r.n; i++ {
		if y.alpha[i] > y.alpha[hot] {
			hot = i
		}
	}
	return hot
}

func run(k Kinetics, v Vessel, until measure.Span, ends end, tolerance float64) (History, error) {
	if err := k.Check(); err != nil {
		return History{}, err
	}
	if err := v.check(); err != nil {
		return History{}, err
	}
	r := &reactor{k, newBody(v, k.Cp)}
	var y state
	for i := range r.n {
		y.kelvins[i] = float64(v.Start) + kelvin
	}
	const usual = 64 // moments of most runs, so that the list is allocated once
	h := History{Moments: append(make([]Moment, 0, usual), Moment{0, v.Start, 0}), Peak: Moment{0, v.Start, 0}}
	t, last := 0.0, float64(until)
	step := math.Min(1, last/100)
	f, d := r.slope(&y)
	const steps = 100_000
	for count := 0; t < last; count++ {
		if count > steps {
			return h, errLost
		}
		step = math.Min(step, last-t)
		next, fault := r.step(&y, &f, &d, step, tolerance)
		if fault > 1 {
			step *= math.Max(0.2, 0.85/math.Sqrt(math.Sqrt(fault)))
			if step < 1e-9 {
				return h, errLost
			}
			continue
		}
		for i := range r.n {
			next.alpha[i] = math.Min(1, next.alpha[i])
		}
		after, bends := r.slope(&next)
		h.note(r, passed{&y, &next, &f, &after, t, step})
		y, f, d, t = next, after, bends, t+step
		if ends == atUsable && h.Usable != nil || ends == atGel && h.Gel != nil {
			break
		}
		step *= math.Min(4, 0.85/math.Sqrt(math.Sqrt(math.Max(fault, 1e-5))))
	}
	free, kept := 0.0, 0.0
	for i := range r.n {
		free += r.weight[i] * k.Heat * y.alpha[i]
		kept += r.weight[i] * k.Cp * (y.kelvins[i] - float64(v.Start) - kelvin)
	}
	if free > 0 {
		h.Balance = (free - kept - y.lost) / free
	}
	return h, nil
}

var errLost = fmt.Errorf("the reaction could not be followed; check the kinetics")

// passed is a step that was taken, told by the cubic through both ends and their
// slopes.
type passed struct {
	y0, y1, f0, f1 *state
	from, step     float64
}

func (p passed) cubic(y0, y1, f0, f1, s float64) float64 {
	return (1+2*s)*(1-s)*(1-s)*y0 + s*(1-s)*(1-s)*p.step*f0 + s*s*(3-2*s)*y1 - s*s*(1-s)*p.step*f1
}

func (p passed) alpha(i int, s float64) float64 {
	return p.cubic(p.y0.alpha[i], p.y1.alpha[i], p.f0.alpha[i], p.f1.alpha[i], s)
}

func (p passed) kelvins(i int, s float64) float64 {
	return p.cubic(p.y0.kelvins[i], p.y1.kelvins[i], p.f0.kelvins[i], p.f1.kelvins[i], s)
}

// when is the time at which something that is false at the start of the step and
// true at its end comes true.
func (p passed) when(reached func(s float64) bool) *measure.Span {
	low, high := 0.0, 1.0
	for range 46 {
		if middle := (low + high) / 2; reached(middle) {
			high = middle
		} else {
			low = middle
		}
	}
	at := measure.Span(p.from + high*p.step)
	return &at
}

// note keeps a moment, the peak and what was passed on a step. What has reacted
// most decides over use and gel, what is hottest over smoke: behind a reaction that
// spreads outwards that may be another layer.
func (h *History) note(r *reactor, p passed) {
	hot := r.hottest(p.y1)
	h.Moments = append(h.Moments, Moment{measure.Span(p.from + p.step), measure.Temperature(p.y1.kelvins[hot] - kelvin),
		p.y1.alpha[hot]})
	for i := range r.n {
		h.peak(i, p)
		if p.y1.kelvins[i] >= smoking+kelvin && h.Smokes == nil {
			h.Smokes = p.when(func(s float64) bool { return p.kelvins(i, s) >= smoking+kelvin })
		}
	}
	if h.Usable == nil && p.y1.alpha[hot] >= r.k.Ends() {
		h.Usable = p.when(func(s float64) bool { return p.alpha(hot, s) >= r.k.Ends() })
	}
	if h.Gel == nil && p.y1.alpha[hot] >= r.k.Gel {
		h.Gel = p.when(func(s float64) bool { return p.alpha(hot, s) >= r.k.Gel })
	}
}

// peak keeps the highest temperature of a layer on a step: at its end, or where
// the slope crosses zero.
func (h *History) peak(i int, p passed) {
	at, warm := 1.0, p.y1.kelvins[i]
	if p.f0.kelvins[i] > 0 && p.f1.kelvins[i] < 0 {
		low, high := 0.0, 1.0
		for range 60 {
			one, two := low+(high-low)/3, high-(high-low)/3
			if p.kelvins(i, one) < p.kelvins(i, two) {
				low = one
			} else {
				high = two
			}
		}
		at, warm = low, p.kelvins(i, low)
	}
	if celsius := measure.Temperature(warm - kelvin); celsius > h.Peak.Temperature {
		h.Peak = Moment{measure.Span(p.from + at*p.step), celsius, p.alpha(i, at)}
	}
}
