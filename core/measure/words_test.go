package measure

import (
	"math"
	"regexp"
	"testing"
)

// What a person is told to write for a kind is understood, in both systems; so is what is printed.
func TestExamplesAreUnderstood(t *testing.T) {
	like := regexp.MustCompile(`^Write it like (.*)\.$`)
	either := regexp.MustCompile(` or |, `)
	for _, s := range []System{Metric, US} {
		for _, k := range []Kind{KindLength, KindArea, KindFilm, KindVolume, KindMass, KindDensity, KindSpread,
			KindCoverage, KindPace, KindMassRate, KindSpan, KindFraction, KindAngle, KindTemperature, KindEmission,
			KindPressure, KindContent} {
			found := like.FindStringSubmatch(s.example(k))
			if found == nil {
				t.Errorf("%s, %s: %q", s, k, s.example(k))
				continue
			}
			for _, text := range either.Split(found[1], -1) {
				if _, err := s.Read(k, text); err != nil {
					t.Errorf("%s, %s: %v", s, k, err)
				}
			}
		}
		if s.example(KindNumber) != "Write it as a number." {
			t.Errorf("%q", s.example(KindNumber))
		}
	}
}

// Each printer writes what Format writes of its kind.
func TestPrintersSayTheirKind(t *testing.T) {
	for got, want := range map[string]string{
		Metric.Length(2.5): "2.5 m", Metric.Area(36): "36 m²", Metric.Film(3e-4): "300 µm", US.Film(10 * Mil): "10 mil",
		Metric.Volume(0.018): "18 L", Metric.Mass(4.2): "4.2 kg", Metric.Density(1150): "1.15 kg/L",
		Metric.Span(1500): "25 min", Metric.Temperature(18): "18 °C", Metric.Fraction(0.06): "6%",
	} {
		if got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}

// 1 m by 1 mm is a litre over a square metre; a density leads from volume to mass and back.
func TestQuantitiesMultiply(t *testing.T) {
	if Length(4).Times(2.5) != 10 || Film(1e-3).Over(1) != Litre || Density(1100).Of(0.01) != 11 ||
		Density(1100).Volume(11) != 0.01 {
		t.Error("products of quantities")
	}
}

// A plan says so where it rests on what nobody measured.
func TestWeakSources(t *testing.T) {
	words := make(map[string]bool)
	for s, weak := range map[Source]bool{Sheet: false, OwnTest: false, Standard: false, RuleOfThumb: true,
		Colleague: true, Assumed: true} {
		if s.Weak() != weak {
			t.Errorf("%s: weak %v", s, s.Weak())
		}
		words[s.Words()] = true
	}
	if len(words) != 6 || words[""] {
		t.Errorf("the words of sources are not their own: %v", words)
	}
}

// The table has each kind in both systems, from the largest unit down to one that starts at zero.
func TestDisplayTable(t *testing.T) {
	table := DisplayTable()
	for _, s := range []System{Metric, US} {
		if len(table[s]) != len(table[Metric]) || len(table[s]) < 20 {
			t.Fatalf("%s has %d kinds", s, len(table[s]))
		}
		for k, steps := range table[s] {
			for i, step := range steps {
				if i > 0 && step.From >= steps[i-1].From || i == len(steps)-1 && step.From != 0 {
					t.Errorf("%s, %s: %+v", s, k, steps)
				}
			}
		}
	}
	if _, err := Metric.Read(KindLength, "12 parsecs"); err == nil ||
		err.Error() != "“12 parsecs”: “parsecs” is not a unit of length. Write it like 4.27 m, 4270 or 14'." {
		t.Errorf("%v", err)
	}
}

// Doses as they are said come to what they weigh: an ounce to a gallon is 28.3495 g on 3.78541 L, 7.489 g/L.
func TestDosesAsTheyAreSaid(t *testing.T) {
	for text, want := range map[string]float64{
		"4 oz to a gallon": 4 * 28.349523125 / 3.785411784, "4oz/gal": 4 * 28.349523125 / 3.785411784,
		"4 oz per gallon": 4 * 28.349523125 / 3.785411784, "1 oz a quart": 28.349523125 / 0.946352946,
		"60 g to a litre": 60, "60 g/L": 60, "60 g per liter": 60, "0.5 lb to the gallon": 226.796185 / 3.785411784,
	} {
		if got, err := Metric.Read(KindContent, text); err != nil || math.Abs(got-want) > 1e-6*want {
			t.Errorf("%s: %v, %v; want %v", text, got, err, want)
		}
	}
	for _, text := range []string{"4 oz", "4 oz to a", "4 to a gallon", "a gallon"} {
		if got, err := Metric.Read(KindContent, text); err == nil {
			t.Errorf("%s is read as %v", text, got)
		}
	}
}
