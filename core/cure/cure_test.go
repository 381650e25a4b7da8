package cure

import (
	"math"
	"math/rand/v2"
	"testing"

	"nephelon/core/measure"
)

func near(a, b, relative float64) bool {
	return math.Abs(a-b) <= relative*math.Max(math.Abs(a), math.Abs(b))
}

func TestFitRate(t *testing.T) {
	// 53 kJ/mol from 25 to 35 °C halves a time (a check value of the trade).
	one, err := FitRate([]Point{{25, 1800}})
	if err != nil {
		t.Fatal(err)
	}
	if at35, out := one.Time(35); !near(float64(at35), 900, 0.01) || !out {
		t.Errorf("%v s at 35 °C, extrapolated %v", at35, out)
	}
	// Points made from known parameters give them back.
	random := rand.New(rand.NewPCG(2, 4))
	for range 200 {
		energy, scale := 30000+50000*random.Float64(), math.Exp(-10-8*random.Float64())
		var points []Point
		for at := 10.0; at <= 35; at += 5 {
			points = append(points, Point{measure.Temperature(at),
				measure.Span(scale * math.Exp(energy/(gasConstant*(at+kelvin))))})
		}
		r, err := FitRate(points)
		if err != nil || !near(r.Activation, energy, 1e-9) {
			t.Fatalf("%v, want %v: %v", r.Activation, energy, err)
		}
		if time, out := r.Time(20); out || !near(float64(time), scale*math.Exp(energy/(gasConstant*293.15)), 1e-9) {
			t.Errorf("%v at 20 °C", time)
		}
	}
	for name, points := range map[string][]Point{"none": nil, "no time": {{20, 0}},
		"growing with heat": {{10, 1000}, {30, 2000}}} {
		if _, err := FitRate(points); err == nil {
			t.Errorf("%s: no error", name)
		}
	}
}

func pail(mass float64) Vessel {
	return Vessel{Mass: measure.Mass(mass), Density: 1120, Loss: stillAir, Start: 22, Air: 22}
}

// Without heat of reaction a bucket stays at its temperature, and an n-th order
// reaction gels at t = ((1 − α)^(1 − n) − 1) / (k·(n − 1)).
func TestIsothermalGelInClosedForm(t *testing.T) {
	for _, n := range []float64{1.4, 2, 2.6} {
		k := Kinetics{A1: 3e5, E1: 55000, N: n, Cp: 1800, Gel: 0.55}
		h, err := run(k, pail(3), 1e6, atGel, usualTolerance)
		if err != nil || h.Gel == nil {
			t.Fatal(h, err)
		}
		rate := k.A1 * math.Exp(-k.E1/(gasConstant*295.15))
		if want := (math.Pow(0.45, 1-n) - 1) / (rate * (n - 1)); !near(float64(*h.Gel), want, 5e-5) {
			t.Errorf("order %v: gel at %v, closed form %v", n, *h.Gel, want)
		}
	}
}

// With nothing lost the mix warms by the heat over the heat capacity.
func TestAdiabaticRise(t *testing.T) {
	k := Epoxy()
	v := pail(5)
	v.Loss = 0
	h, err := Run(k, v, 40*measure.Hour)
	if err != nil {
		t.Fatal(err)
	}
	last := h.Moments[len(h.Moments)-1]
	if rise := float64(last.Temperature - v.Start); !near(rise, k.Heat/k.Cp*last.Reacted, 1e-6) || last.Reacted < 0.99 {
		t.Errorf("a rise of %v K at %v reacted", rise, last.Reacted)
	}
}

// Times within 5e-5, the peak within 0.01 K of a run a hundred times as tight, and
// the heat in balance, over buckets from a cup to a drum, a film, and warm and cold
// surroundings.
func TestAgainstATightTolerance(t *testing.T) {
	same := func(a, b *measure.Span) bool {
		return (a == nil) == (b == nil) && (a == nil || near(float64(*a), float64(*b), 5e-5))
	}
	for _, mass := range []float64{0.1, 0.5, 2, 8, 40, 200} {
		for _, change := range []func(*Vessel){
			func(*Vessel) {},
			func(v *Vessel) { v.Loss, v.Air = inIceWater, 1 },
			func(v *Vessel) { v.Loss, v.Air = inWater, 38 },
			func(v *Vessel) { v.Film = 0.012 },
			func(v *Vessel) { v.Viscosity = 0.7 },
		} {
			v := pail(mass)
			change(&v)
			h, err := Run(Epoxy(), v, 30*measure.Hour)
			if err != nil {
				t.Fatal(err)
			}
			tight, err := run(Epoxy(), v, 30*measure.Hour, atTime, usualTolerance/100)
			if err != nil {
				t.Fatal(err)
			}
			if !same(h.Usable, tight.Usable) || !same(h.Gel, tight.Gel) || !same(h.Smokes, tight.Smokes) {
				t.Errorf("%+v: usable %v, gel %v, smokes %v; tight %v, %v, %v", v, said(h.Usable), said(h.Gel), said(h.Smokes),
					said(tight.Usable), said(tight.Gel), said(tight.Smokes))
			}
			// The middle of 200 kg stays as hot as it gets for hours: its peak has no moment.
			if math.Abs(float64(h.Peak.Temperature-tight.Peak.Temperature)) > 0.01 || h.Peak.Temperature > v.Start+1 &&
				mass < 200 && !near(float64(h.Peak.Time), float64(tight.Peak.Time), 5e-5) {
				t.Errorf("%+v: peak %v, tight %v", v, h.Peak, tight.Peak)
			}
			if math.Abs(h.Balance) > 1e-6 {
				t.Errorf("%+v: the heat is out of balance by %v", v, h.Balance)
			}
		}
	}
}

func said(s *measure.Span) float64 {
	if s == nil {
		return -1
	}
	return float64(*s)
}

// No exponent lets more react than there is, and none warms a mix by more than its
// heat over its heat capacity.
func TestNothingReactsTwice(t *testing.T) {
	for _, m := range []float64{0, 0.2, 0.9, 3} {
		for _, n := range []float64{0, 0.3, 0.99, 1, 2} {
			k := Epoxy()
			k.M, k.N = m, n
			v := pail(4)
			v.Loss = 0
			h, err := Run(k, v, 40*measure.Hour)
			if err != nil {
				t.Errorf("m %v, n %v: %v", m, n, err)
				continue
			}
			last := h.Moments[len(h.Moments)-1]
			if last.Reacted > 1 || float64(h.Peak.Temperature) > 22+k.Heat/k.Cp*1.0001 || math.Abs(h.Balance) > 1e-4 {
				t.Errorf("m %v, n %v: %v reacted, at most %v °C, out of balance by %v", m, n, last.Reacted,
					h.Peak.Temperature, h.Balance)
			}
		}
	}
}

// A larger bucket lives shorter and gets hotter; warm parts live shorter; a film
// outlives every bucket.
func TestHeatShortensLife(t *testing.T) {
	k, err := Calibrate(Epoxy(), Vessel{Mass: 0.5, Density: 1120, Loss: stillAir, Start: 23, Air: 23}, 30*measure.Minute)
	if err != nil {
		t.Fatal(err)
	}
	life := func(v Vessel) (float64, float64) {
		h, err := Run(k, v, 48*measure.Hour)
		if err != nil || h.Usable == nil {
			t.Fatal(v, err)
		}
		return float64(*h.Usable), float64(h.Peak.Temperature)
	}
	sheet := Vessel{Mass: 0.5, Density: 1120, Loss: stillAir, Start: 23, Air: 23}
	if usable, _ := life(sheet); !near(usable, 1800, 5e-5) {
		t.Errorf("calibrated to 30 min, it ends at %v s", usable)
	}
	last, hot := math.Inf(1), 0.0
	for _, mass := range []float64{0.2, 1, 4, 16} {
		v := sheet
		v.Mass = measure.Mass(mass)
		gel, peak := life(v)
		if gel >= last || peak < hot-5 { // what burns outwards preheats its neighbour

			t.Errorf("%v kg: gel %v after %v, peak %v after %v", mass, gel, last, peak, hot)
		}
		last, hot = gel, peak
	}
	warm, film := sheet, sheet
	warm.Start, warm.Air = 32, 32
	film.Film = 500e-6
	warmGel, _ := life(warm)
	filmGel, filmPeak := life(film)
	if warmGel >= 1800 || filmGel <= 1800 || filmPeak > 25 {
		t.Errorf("warm parts gel at %v s; a film at %v s, at most %v °C", warmGel, filmGel, filmPeak)
	}
}

func TestNonsenseIsRefused(t *testing.T) {
	for name, change := range map[string]func(*Kinetics, *Vessel){
		"no start":    func(k *Kinetics, _ *Vessel) { k.A1 = 0 },
		"no capacity": func(k *Kinetics, _ *Vessel) { k.Cp = 0 },
		"gel past 1":  func(k *Kinetics, _ *Vessel) { k.Gel = 1.2 },
		"no mass":     func(_ *Kinetics, v *Vessel) { v.Mass = 0 },
		"no density":  func(_ *Kinetics, v *Vessel) { v.Density = 1e-9 },
		"too cold":    func(_ *Kinetics, v *Vessel) { v.Start = -300 },
		"too hot":     func(_ *Kinetics, v *Vessel) { v.Air = 1e308 },
		"used jelly":  func(k *Kinetics, _ *Vessel) { k.Usable = 0.7 },
		"not finite":  func(k *Kinetics, _ *Vessel) { k.E2 = math.NaN() },
	} {
		k, v := Epoxy(), pail(1)
		change(&k, &v)
		if _, err := Run(k, v, measure.Hour); err == nil {
			t.Errorf("%s: no error", name)
		}
	}
}

func BenchmarkBucketToGel(b *testing.B) {
	k, v := Epoxy(), pail(8)
	for b.Loop() {
		if h, err := run(k, v, 24*measure.Hour, atGel, usualTolerance); err != nil || h.Gel == nil {
			b.Fatal(err)
		}
	}
}

// The chemical part of the cure of Hexcel 8552 as published by Hubert, Johnston,
// Poursartip and Nelson 2001 (SAMPE): A 7.0e4 1/s, E 65 kJ/mol, m 0.5, n 1.5, heat
// 574 kJ/kg; the figures are from memory, a start of a thousandth of the rate is
// ours. It separates: t = ∫ dα / ((k₁ + k₂·αᵐ)·(1 − α)ⁿ), held against Simpson's
// rule at a steady temperature, and with T = T₀ + α·ΔH/cp where no heat is lost.
func TestPublishedKineticsAgainstQuadrature(t *testing.T) {
	published := Kinetics{A1: 70, E1: 65000, A2: 7.0e4, E2: 65000, M: 0.5, N: 1.5, Heat: 574e3, Cp: 1300, Gel: 0.45}
	for name, k := range map[string]Kinetics{"published": published, "epoxy of ours": Epoxy()} {
		for _, start := range []measure.Temperature{22, 60, 90} {
			for _, heat := range []float64{0, k.Heat} {
				k.Heat = heat
				v := Vessel{Mass: 2, Density: 1300, Start: start, Air: 20}
				// α = u², so that the root at the start is smooth.
				const steps = 20000
				want, top := 0.0, math.Sqrt(k.Gel)
				for i := range steps + 1 {
					u := top * float64(i) / steps
					alpha := u * u
					kelvins := float64(start) + kelvin + alpha*k.Heat/k.Cp
					k1, k2 := k.A1*math.Exp(-k.E1/(gasConstant*kelvins)), k.A2*math.Exp(-k.E2/(gasConstant*kelvins))
					f := 2 * u / ((k1 + k2*math.Pow(alpha, k.M)) * math.Pow(1-alpha, k.N))
					weight := 2.0 + 2*float64(i%2)
					if i == 0 || i == steps {
						weight = 1
					}
					want += weight * f * top / steps / 3
				}
				h, err := run(k, v, measure.Span(3*want), atGel, usualTolerance)
				if err != nil || h.Gel == nil {
					t.Fatalf("%s from %v °C: %v, %v", name, start, h.Gel, err)
				}
				if !near(float64(*h.Gel), want, 5e-5) {
					t.Errorf("%s from %v °C with %v J/kg: gel after %v s, by quadrature %v s", name, start, heat, *h.Gel, want)
				}
			}
		}
	}
}
