package cure

import (
	"math"
	"testing"

	"nephelon/core/measure"
)

// 3 kg at 18 °C with 1 kg at 30 °C are 21 °C.
func TestMixedTemperature(t *testing.T) {
	if got := Mixed(Part{3, 18}, Part{1, 30}); !near(float64(got), 21, 1e-12) {
		t.Errorf("%v", got)
	}
}

// A pail in an ice bath is at its temperature after some hours, a thin part sooner
// than a thick one, a large pail later; in a van it takes the night.
func TestPartsAreCooledAndWarmed(t *testing.T) {
	base := Conditioning{Mass: 10, Density: 1150, From: 24, To: 14, Put: IceBath}
	takes := func(c Conditioning) float64 {
		span, err := c.Takes()
		if err != nil {
			t.Fatal(err)
		}
		return float64(span / measure.Hour)
	}
	still, thin := base, base
	thin.Viscosity, thin.Flowed = 0.5, 24
	if a, b := takes(still), takes(thin); a < 0.7 || a > 3 || b > 0.8*a {
		t.Errorf("10 kg in ice: %v h by conduction, %v h as a thin part", a, b)
	}
	large, van, warm := base, base, base
	large.Mass = 30
	van.Put, van.Place = Place, 6
	warm.Put, warm.From, warm.To = WarmBath, 10, 22
	if takes(large) < 1.5*takes(base) {
		t.Errorf("30 kg: %v h, 10 kg %v h", takes(large), takes(base))
	}
	if night := takes(van); night < 4 || night > 16 {
		t.Errorf("a night in a van at 6 °C: %v h", night)
	}
	if hours := takes(warm); hours < 0.5 || hours > 4 {
		t.Errorf("a warm bath: %v h", hours)
	}
}

// The mean of a held surface against the first term of the series for a cylinder:
// 4/2.4048² · 8/π² of the difference, falling with the slowest mode (Carslaw and
// Jaeger 1959, 8.4; the roots from memory).
func TestCoolingTimeAgainstTheSeries(t *testing.T) {
	v := Vessel{Mass: 12, Density: 1120, Loss: 10e3, Start: 30, Air: 10}
	radius := math.Cbrt(12.0 / 1120 / (2 * math.Pi))
	mode := conducts / (1120 * cp) * (math.Pi*math.Pi/4 + 2.4048*2.4048) / (radius * radius)
	want := math.Log(20*4/(2.4048*2.4048)*8/(math.Pi*math.Pi)/(2+within)) / mode
	got, err := reached(Kinetics{A1: 1e-30, Cp: cp, Gel: 0.6}, v, 12)
	if err != nil || !near(float64(got), want, 0.08) {
		t.Errorf("%v s, by the series %v s (%v)", got, want, err)
	}
}

func TestPartsThatNeverComeThere(t *testing.T) {
	for name, c := range map[string]Conditioning{
		"colder than ice":      {Mass: 5, Density: 1100, From: 20, To: -3, Put: IceBath},
		"warmed in ice":        {Mass: 5, Density: 1100, From: 10, To: 20, Put: IceBath},
		"warmer than its room": {Mass: 5, Density: 1100, From: 10, To: 22, Put: Place, Place: 18},
		"nothing":              {Mass: 0, Density: 1100, From: 20, To: 10, Put: IceBath},
	} {
		if span, err := c.Takes(); err == nil {
			t.Errorf("%s: %v", name, span)
		}
	}
	if span, err := (Conditioning{Mass: 5, Density: 1100, From: 20, To: 20.2, Put: IceBath}).Takes(); err !=
		nil || span != 0 {
		t.Errorf("what is there already takes %v (%v)", span, err)
	}
}
