package cure

import (
	"math"
	"testing"

	"nephelon/core/measure"
)

// cylinder follows conduction with reaction in a whole cylinder as high as it is
// wide, by finite differences over a quarter of it (radius by half its height), to
// where its hottest place has come to a share reacted. It shares nothing with what
// it checks but the rate.
func cylinder(k Kinetics, v Vessel, share float64, cells int) (usable float64, warmest float64) {
	radius := math.Cbrt(float64(v.Mass) / float64(v.Density) / (2 * math.Pi))
	d := radius / float64(cells)
	capacity := float64(v.Density) * k.Cp
	diffuses := conducts / capacity
	size := cells * cells
	temperature, alpha := make([]float64, size), make([]float64, size)
	next := make([]float64, size)
	for i := range temperature {
		temperature[i] = float64(v.Start) + kelvin
	}
	air := float64(v.Air) + kelvin
	skin := 1 / (d/2/conducts + 1/math.Max(v.Loss, 1e-12)) // W/(m²·K) from a cell to what is around
	t := 0.0
	for {
		// The step keeps conduction stable and the fastest cell within a tenth of a kelvin.
		fastest := 0.0
		rates := make([]float64, size)
		for i := range rates {
			rates[i], _, _ = k.rate(alpha[i], temperature[i])
			fastest = math.Max(fastest, rates[i])
		}
		step := math.Min(0.15*d*d/diffuses, math.Min(0.1/(k.Heat/k.Cp*fastest+1e-12), 0.0005/(fastest+1e-12)))
		for r := range cells {
			inner, outer, middle := float64(r)*d, float64(r+1)*d, (float64(r)+0.5)*d
			for z := range cells {
				i := r*cells + z
				here := temperature[i]
				flow := 0.0 // W/m³
				if r > 0 {
					flow += conducts * (temperature[i-cells] - here) / d * inner / (middle * d)
				}
				if r < cells-1 {
					flow += conducts * (temperature[i+cells] - here) / d * outer / (middle * d)
				} else {
					flow += skin * (air - here) * outer / (middle * d)
				}
				if z > 0 {
					flow += conducts * (temperature[i-1] - here) / (d * d)
				}
				if z < cells-1 {
					flow += conducts * (temperature[i+1] - here) / (d * d)
				} else {
					flow += skin * (air - here) / d
				}
				next[i] = here + step*(k.Heat/k.Cp*rates[i]+flow/capacity)
			}
		}
		most := 0.0
		for i := range alpha {
			alpha[i] += step * rates[i]
			most = math.Max(most, alpha[i])
		}
		temperature, next = next, temperature
		t += step
		if most >= share || t > 40*24*measure.Hour {
			return t, temperature[0] - kelvin
		}
	}
}

// The life of a pail against finite differences of conduction with reaction in a
// whole cylinder: within 5 %, from a cup to a double kit, for resins of a quarter of
// an hour and of four hours, in nothing, still air, wind, warm and ice water.
func TestPailAgainstAWholeCylinder(t *testing.T) {
	for _, life := range []measure.Span{15 * measure.Minute, 45 * measure.Minute, 4 * measure.Hour} {
		k, err := Calibrate(Epoxy(), Vessel{Mass: 0.1, Density: 1120, Loss: stillAir, Start: 23, Air: 23}, life)
		if err != nil {
			t.Fatal(err)
		}
		for _, mass := range []measure.Mass{0.1, 0.4, 2, 10, 40} {
			for _, around := range []struct {
				loss float64
				air  measure.Temperature
			}{{0, 23}, {stillAir, 23}, {windy, 23}, {inWater, 38}, {inIceWater, 1}} {
				v := Vessel{Mass: mass, Density: 1120, Loss: around.loss, Start: 23, Air: around.air}
				usable, err := Fit{Kinetics: k}.usable(v, 72*measure.Hour)
				if err != nil {
					t.Fatal(v, err)
				}
				if want, _ := cylinder(k, v, k.Ends(), 10); !near(float64(usable), want, 0.05) {
					t.Errorf("%v s at 0.1 kg: %v kg losing %v to %v °C live %.0f s, the cylinder %.0f s", life, mass, around.loss,
						around.air, float64(usable), want)
				}
			}
		}
	}
}

// The slowest mode of cooling of a pail that does not react against the series of
// Carslaw and Jaeger 1959, 8.4, for a cylinder whose surface is held at a
// temperature: π²·κ/H² + 2.4048²·κ/R², the roots from memory.
func TestCoolingAgainstTheSeries(t *testing.T) {
	k := Kinetics{A1: 1e-30, Cp: 1800, Gel: 0.6}
	for _, radius := range []measure.Length{0.05, 0.12, 0.3} {
		const mass, density = 12.0, 1120.0
		v := Vessel{Mass: mass, Density: density, Radius: radius, Loss: 10e3, Start: 60, Air: 20}
		height := mass / density / (math.Pi * float64(radius*radius))
		want := conducts / (density * k.Cp) * (math.Pi*math.Pi/(height*height) + 2.4048*2.4048/float64(radius*radius))
		// Late, when one mode is left: the fall of the middle from 1.5 to 2.5 time constants.
		at := func(s float64) float64 {
			h, err := Run(k, v, measure.Span(s))
			if err != nil {
				t.Fatal(err)
			}
			return float64(h.Moments[len(h.Moments)-1].Temperature) - 20
		}
		if got := math.Log(at(1.5/want)/at(2.5/want)) * want; !near(got, want, 0.04) {
			t.Errorf("radius %v: %v 1/s, by the series %v", radius, got, want)
		}
	}
}

// A pail that loses heat slowly cools by Newton's law: what it holds over what its
// surface passes.
func TestSlowCoolingAgainstNewton(t *testing.T) {
	k := Kinetics{A1: 1e-30, Cp: 1800, Gel: 0.6}
	v := Vessel{Mass: 0.2, Density: 1120, Loss: 0.1, Start: 60, Air: 20}
	radius := math.Cbrt(0.2 / 1120 / (2 * math.Pi))
	h, err := Run(k, v, 2*measure.Hour)
	if err != nil {
		t.Fatal(err)
	}
	want := 20 + 40*math.Exp(-0.1*6*math.Pi*radius*radius/(0.2*1800)*7200)
	if got := float64(h.Moments[len(h.Moments)-1].Temperature); math.Abs(got-want) > 0.2 {
		t.Errorf("%v °C, by Newton's law %v °C", got, want)
	}
}

// A thin mix stirs itself and cools faster than a thick one, which cools as if it
// only conducted; as it reacts it thickens.
func TestAThinMixStirsItself(t *testing.T) {
	k := Kinetics{A1: 1e-30, Cp: 1800, Gel: 0.6}
	after := func(viscosity measure.Viscosity) float64 {
		h, err := Run(k, Vessel{Mass: 12, Density: 1120, Loss: inIceWater, Viscosity: viscosity, Start: 25, Air: 1},
			2*measure.Hour)
		if err != nil {
			t.Fatal(err)
		}
		return float64(h.Moments[len(h.Moments)-1].Temperature)
	}
	if still, thick, thin := after(0), after(5e4), after(0.3); thick != still || thin > still-5 {
		t.Errorf("after two hours in ice water %v °C by conduction, %v thick, %v thin", still, thick, thin)
	}
	if fresh, half, jelly := thickened(0, 0.6), thickened(0.3, 0.6), thickened(0.6, 0.6); fresh != 1 || half < 2.8 ||
		half > 4 || !math.IsInf(jelly, 1) {
		t.Errorf("thickened %v times fresh, %v half-way, %v as a jelly", fresh, half, jelly)
	}
}
