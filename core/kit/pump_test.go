package kit

import (
	"math"
	"strings"
	"testing"

	"nephelon/core/material"
	"nephelon/core/measure"
)

const ml = measure.Litre / 1000

// Plain pumps of 30 mL: 2 : 1 on 1.8 L are 40 strokes of A and 20 of B. Metered
// pumps built for 2 : 1 take 20 strokes of each for the same 1.8 L: two strokes
// of A for each of B would come out at 4 : 1 (handbook, section 6).
func TestStrokesByHand(t *testing.T) {
	p := twoPack(2, 1)
	mix := p.Mix()
	plain, err := Pumped(material.Pumps{Built: "equal", A: 30 * ml, B: 30 * ml, Priming: 3}, p.Name, mix, 1800*ml,
		measure.Metric)
	if err != nil || plain.A != 40 || plain.B != 20 || plain.Priming != 3 || math.Abs(float64(plain.Off)) > 1e-9 {
		t.Errorf("plain: %+v, %v", plain, err)
	}
	metered, err := Pumped(material.Pumps{Built: "ratio", A: 60 * ml, B: 30 * ml}, p.Name, mix, 1800*ml, measure.Metric)
	if err != nil || metered.A != 20 || metered.B != 20 || !near(float64(metered.Volume), float64(1800*ml), 1e-9) {
		t.Errorf("metered: %+v, %v", metered, err)
	}
	if !strings.Contains(metered.Text, "as many strokes of each") || !strings.Contains(plain.Text, "follow the ratio") {
		t.Errorf("%q and %q", metered.Text, plain.Text)
	}
	wrong := twoPack(4, 1)
	if _, err := Pumped(material.Pumps{Built: "ratio", A: 60 * ml, B: 30 * ml}, "Tarn", wrong.Mix(), 1800*ml,
		measure.Metric); err == nil || !strings.Contains(err.Error(), "2 : 1, and Tarn needs 4 : 1") {
		t.Errorf("2 : 1 pumps on a 4 : 1 product: %v", err)
	}
}

// Ten strokes that weighed 0.348 kg of A at 1160 kg/m³ are 30 mL each, whatever
// the pump is said to give.
func TestTenStrokesCalibrateAPump(t *testing.T) {
	a, b := material.Pumps{A: 25 * ml, B: 28 * ml, TenA: 0.348}.Gives(1160, 980)
	if !near(float64(a), float64(30*ml), 1e-9) || b != 28*ml {
		t.Errorf("a stroke gives %v and %v", a, b)
	}
}

// Whatever the ratio, the strokes and the batch: what is counted is a whole
// number of strokes within tolerance, never less than the batch, or it is refused.
func TestStrokesKeepTheRatio(t *testing.T) {
	counted := 0
	for parts := 1.0; parts < 6; parts += 0.37 {
		for stroke := 8.0; stroke < 40; stroke += 7 {
			for batch := 100.0; batch < 9000; batch *= 2.1 {
				p := twoPack(parts, 1)
				mix := p.Mix()
				pumps := material.Pumps{Built: "equal", A: measure.Volume(stroke) * ml, B: 0.9 * measure.Volume(stroke) * ml}
				s, err := Pumped(pumps, "it", mix, measure.Volume(batch)*ml, measure.Metric)
				if err != nil {
					continue
				}
				counted++
				given := float64(s.A) * stroke / (float64(s.B) * 0.9 * stroke)
				if math.Abs(given/parts-1) > goodOff+1e-9 || math.Abs(given/parts-1-float64(s.Off)) > 1e-9 {
					t.Fatalf("%d and %d strokes give %.3f : 1 for %.2f : 1, told off by %v", s.A, s.B, given, parts, s.Off)
				}
				if short := float64(s.Volume)/float64(measure.Volume(batch)*ml) - 1; short < -goodOff {
					t.Fatalf("%d and %d strokes give %v of %v mL", s.A, s.B, s.Volume, batch)
				}
			}
		}
	}
	if counted < 100 {
		t.Errorf("only %d cases could be pumped", counted)
	}
	if _, err := Pumped(material.Pumps{Built: "equal", A: 30 * ml}, "it", mixOf(2), 1, measure.Metric); err == nil ||
		!strings.Contains(err.Error(), "weigh ten strokes") {
		t.Errorf("a pump that gives nothing: %v", err)
	}
}
