package measure

import (
	"errors"
	"math"
	"math/rand/v2"
	"strings"
	"testing"
)

func near(a, b, relative float64) bool {
	return math.Abs(a-b) <= relative*math.Max(math.Abs(a), math.Abs(b))
}

// The foot of 0.3048 m and the inch of 25.4 mm are exact (NIST SP 811, appendix B). That
// a bare whole number of 100 and more, in US units of 1000 and more, is millimetres: our
// own choice, no source.
func TestReadLengthsAsPeopleWriteThem(t *testing.T) {
	cases := []struct {
		system System
		text   string
		metres float64
	}{
		{US, `12' 6 1/2"`, 12*0.3048 + 6.5*0.0254},
		{US, `12'6 1/2`, 12*0.3048 + 6.5*0.0254},
		{US, `12’ 6½”`, 12*0.3048 + 6.5*0.0254},
		{US, `12'-6"`, 12.5 * 0.3048},
		{Metric, `12.5ft`, 12.5 * 0.3048},
		{Metric, `12 ft 6 in`, 12.5 * 0.3048},
		{US, `3.81 m`, 3.81},
		{US, `3810`, 3.81},
		{Metric, `3810`, 3.81},
		{Metric, `3,81 m`, 3.81},
		{Metric, `3.81`, 3.81},
		{Metric, `7`, 7},
		{Metric, `250`, 0.25},
		{US, `250`, 250 * 0.3048},
		{US, `7`, 7 * 0.3048},
		{US, `3/4"`, 0.75 * 0.0254},
		{Metric, `42 cm`, 0.42},
		{Metric, `1 m 20 cm`, 1.2},
	}
	for _, c := range cases {
		got, err := c.system.Read(KindLength, c.text)
		if err != nil || !near(got, c.metres, 1e-12) {
			t.Errorf("%s in %s: got %v, %v; want %v", c.text, c.system, got, err, c.metres)
		}
	}
}

// The factors are those of NIST SP 811, appendix B (pound, US gallon of 231 in³, psi,
// degree Fahrenheit); emission in lb per 1000 ft² and 24 h as in ASTM F1869, from memory.
func TestReadOtherKinds(t *testing.T) {
	cases := []struct {
		system System
		kind   Kind
		text   string
		si     float64
	}{
		{US, KindFilm, "8", 8 * Mil},
		{Metric, KindTemperature, "21.5", 21.5},
		{Metric, KindTemperature, "−3 °C", -3},
		{Metric, KindTemperature, "75 F", 23.888888888888889},
		{US, KindTemperature, "68", 20},
		{US, KindTemperature, "18c", 18},
		{Metric, KindEmission, "12 g/m²/24h", 0.012 / 86400},
		{US, KindEmission, "3", 3 * Pound / (1000 * SqFoot) / 86400},
		{Metric, KindPressure, "1.5", 1.5e6},
		{US, KindPressure, "200 psi", 200 * 6894.757293168},
		{Metric, KindNumber, "7.4", 7.4},
		{Metric, KindFilm, "250", 250e-6},
		{Metric, KindFilm, "1.5mm", 1.5e-3},
		{Metric, KindSpread, "7 m²/L", 7000},
		{US, KindSpread, "200 sq ft/gal", 200 * SqFoot / Gallon},
		{Metric, KindCoverage, "300 g/m2", 0.3},
		{US, KindVolume, "5 gal", 5 * Gallon},
		{US, KindVolume, "32 fl oz", Quart},
		{Metric, KindSpan, "25", 1500},
		{Metric, KindSpan, "1 h 30 min", 5400},
		{Metric, KindFraction, "7%", 0.07},
		{US, KindFraction, "7", 0.07},
		{Metric, KindDensity, "1.1 kg/L", 1100},
	}
	for _, c := range cases {
		got, err := c.system.Read(c.kind, c.text)
		if err != nil || !near(got, c.si, 1e-12) {
			t.Errorf("%s %q: got %v, %v; want %v", c.kind, c.text, got, err, c.si)
		}
	}
}

func TestReadRefusesWithAReasonAndARemedy(t *testing.T) {
	cases := []struct {
		kind Kind
		text string
		says string
	}{
		{KindLength, "", "nothing is typed"},
		{KindLength, "twelve", "not a number"},
		{KindLength, "-4 m", "negative"},
		{KindTemperature, "75", "may mean °C or °F"},
		{KindTemperature, "400 °C", "that hot or cold"},
		{KindTemperature, "warm", "not a temperature"},
		{KindEmission, "wet", "not a number"},
		{KindLength, "1,250 m", "may mean 1.250 or 1250"},
		{KindLength, "1.234,5", "mixes commas and points"},
		{KindLength, "12' 13\"", "under 12"},
		{KindLength, "4 kg", "not a unit of length"},
		{KindLength, "4 in 3 ft", "only one measure"},
		{KindLength, "1/0 in", "divides by zero"},
		{KindLength, "4 5 m", "a unit is missing"},
		{KindFilm, "3 m", "not a unit of film"},
		{KindVolume, "5 gal 3 gal", "only one measure"},
		{KindLength, "1e400", "not a unit"},
		{KindLength, strings.Repeat("9", 59), "too large"},
		{KindLength, strings.Repeat("9", 99), "too long"},
	}
	for _, c := range cases {
		_, err := Metric.Read(c.kind, c.text)
		var refused *ReadError
		if !errors.As(err, &refused) {
			t.Errorf("%q: want a ReadError, got %v", c.text, err)
			continue
		}
		if !strings.Contains(refused.What, c.says) || !strings.HasPrefix(refused.Remedy, "Write it") {
			t.Errorf("%q: got %v; want it to say %q", c.text, err, c.says)
		}
	}
}

// What is printed must read back as what it was, to the precision printed.
func TestFormatReadsBack(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 11))
	kinds := []Kind{KindLength, KindArea, KindFilm, KindVolume, KindMass, KindDensity, KindSpread, KindCoverage, KindPace,
		KindMassRate, KindFraction, KindEmission, KindPressure, KindNumber}
	for range 2000 {
		kind := kinds[random.IntN(len(kinds))]
		for _, system := range []System{US, Metric} {
			steps := system.Display(kind)
			step := steps[random.IntN(len(steps))]
			si := (10 + 1000*random.Float64()) * step.SI
			printed := strings.ReplaceAll(system.Format(kind, si), "\u202f", "")
			back, err := system.Read(kind, printed)
			if err != nil {
				t.Fatalf("%s %v printed %q: %v", kind, si, printed, err)
			}
			for _, used := range steps {
				if si >= used.From {
					slack := used.SI * math.Pow(10, -float64(used.Decimals)) / 2
					if used.FeetInch {
						slack = Inch / 32
					}
					if math.Abs(back-si) > slack*1.001 {
						t.Fatalf("%s %v printed %q reads %v, off by %v", kind, si, printed, back, back-si)
					}
					break
				}
			}
		}
	}
}

func TestFormat(t *testing.T) {
	cases := []struct {
		system System
		kind   Kind
		si     float64
		want   string
	}{
		{US, KindLength, 12*Foot + 6.5*Inch, `12' 6 1/2"`},
		{US, KindLength, 2.9999 * Foot, `3' 0"`},
		{US, KindLength, 1.625 * Inch, `1 5/8"`},
		{US, KindLength, 0.3125 * Inch, `5/16"`},
		{US, KindLength, 0, `0"`},
		{Metric, KindLength, 0.042, "42 mm"},
		{Metric, KindVolume, 108.1165, "108.12 m³"},
		{US, KindVolume, 108.1165, "28\u202f561 gal"},
		{Metric, KindSpan, 28 * 24 * Hour, "28 days"},
		{Metric, KindLength, 3.81, "3.81 m"},
		{Metric, KindVolume, 0.0005, "500 mL"},
		{Metric, KindArea, 12345.678, "12\u202f345.68 m²"},
		{Metric, KindFilm, 0.0015, "1.5 mm"},
		{Metric, KindFraction, -0.031, "−3.1%"},
		{Metric, KindSpan, 1500, "25 min"},
		{Metric, KindTemperature, 21.5, "21.5 °C"},
		{US, KindTemperature, 20, "68 °F"},
	}
	for _, c := range cases {
		if got := c.system.Format(c.kind, c.si); got != c.want {
			t.Errorf("%s %v in %s: got %q, want %q", c.kind, c.si, c.system, got, c.want)
		}
	}
}

// Handbook check values. 1604.2 ft²·mil per gallon follows from the 231 in³
// gallon of NIST Handbook 44; the metric rows are arithmetic.
func TestFilmOverArea(t *testing.T) {
	cases := []struct {
		name       string
		film       Film
		area       Area
		want       Volume
		within     float64
		provenance string
	}{
		{"1 US gal at 1 mil", Mil, 1604.2 * SqFoot, Gallon, 5e-5, "NIST Handbook 44"},
		{"200 ft²/gal", 8.02 * Mil, 200 * SqFoot, Gallon, 5e-4, "NIST Handbook 44"},
		{"32 fl oz over 8 ft²", 50.1 * Mil, 8 * SqFoot, 32 * FlOz, 1e-3, "NIST Handbook 44"},
		{"7 m²/L", 143 * Micron, 7, Litre, 2e-3, "arithmetic"},
		{"1 mm on 1 m²", 0.001, 1, Litre, 1e-12, "arithmetic"},
	}
	for _, c := range cases {
		if got := c.film.Over(c.area); !near(float64(got), float64(c.want), c.within) {
			t.Errorf("%s (%s): got %v m³, want %v m³", c.name, c.provenance, got, c.want)
		}
	}
}
