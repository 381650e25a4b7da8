package kit

import (
	"math"
	"strings"
	"testing"

	"nephelon/core/material"
	"nephelon/core/measure"
)

func mixOf(parts float64) material.Mix {
	p := twoPack(parts, 1)
	return p.Mix()
}

func cardOf(volume measure.Volume, how Filling) Card {
	p := twoPack(2, 1)
	mix := p.Mix()
	return NewCard(&p, mix, Batch{Number: 1, Volume: volume, Mass: mix.Density.Value.Of(volume)}, 1, 10, 3e-4, 600, how,
		measure.Metric)
}

// 3 L of 2 : 1 with A at 1160 and B at 980 kg/m³ are 2.32 kg and 0.98 kg; in a
// pail of 0.75 kg on a scale in steps of 5 g it shows 3.070 and 4.050 kg.
func TestWhatTheScaleShows(t *testing.T) {
	c := cardOf(3*measure.Litre, Filling{Tare: 0.75, Scale: 0.005})
	if a, b := c.Parts[0], c.Parts[1]; !near(float64(a.ScaleTo), 3.07, 1e-9) || !near(float64(b.ScaleTo), 4.05, 1e-9) {
		t.Errorf("the scale shows %v, then %v", a.ScaleTo, b.ScaleTo)
	}
	if !near(float64(c.Parts[1].Tolerance), 0.0098, 1e-9) || c.Warning != "" {
		t.Errorf("B may be off by %v; %q", c.Parts[1].Tolerance, c.Warning)
	}
	if bare := cardOf(3*measure.Litre, Filling{}); !near(float64(bare.Parts[1].ScaleTo), 3.3, 1e-9) || bare.Tare != 0 {
		t.Errorf("tared and fine, it shows %v", bare.Parts[1].ScaleTo)
	}
}

// Doses at the bounds of their tolerance, the one too much and the other too
// little, leave the ratio good.
func TestTheToleranceKeepsTheRatioGood(t *testing.T) {
	p := twoPack(3, 1)
	c := NewCard(&p, p.Mix(), Batch{Number: 1, Volume: 0.01}, 1, 10, 3e-4, 600, Filling{}, measure.Metric)
	a, b := c.Parts[0], c.Parts[1]
	check, err := CheckRatio(&p, Weighed{Masses: []measure.Mass{a.Mass + 0.99*a.Tolerance, b.Mass - 0.99*b.Tolerance},
		Bucket: 0.02}, measure.Metric)
	if err != nil || check.Verdict != Good {
		t.Errorf("%+v, %v", check, err)
	}
	check, err = CheckRatio(&p, Weighed{Masses: []measure.Mass{a.Mass + 1.1*a.Tolerance, b.Mass - 1.1*b.Tolerance},
		Bucket: 0.02}, measure.Metric)
	if err != nil || check.Verdict == Good {
		t.Errorf("past its bounds: %+v, %v", check, err)
	}
}

// A coarse scale on a small batch is told: 116 g of A and 49 g of B read off at
// 120 and 160 g are 120 to 40, 1.267 times the ratio.
func TestACoarseScaleIsTold(t *testing.T) {
	if c := cardOf(0.15*measure.Litre, Filling{Scale: 0.02}); !strings.Contains(c.Warning,
		"steps of 20 g puts the ratio off by up to 26.7%") {
		t.Errorf("20 g on a dose of 49 g: %q", c.Warning)
	}
	if c := cardOf(0.01*measure.Litre, Filling{Scale: 0.05}); !strings.Contains(c.Warning, "take a finer one") {
		t.Errorf("a dose below the step: %q", c.Warning)
	}
	if c := cardOf(0.003, Filling{Pumps: &material.Pumps{Built: "ratio", A: 10 * ml, B: 10 * ml}}); c.Strokes != nil ||
		!strings.Contains(c.Warning, "Not with these pumps: one stroke of each gives 1 : 1") {
		t.Errorf("pumps of another ratio: %+v, %q", c.Strokes, c.Warning)
	}
}

// A contractor who measures every batch gets equal ones, as few as the limit
// allows, although whole kits would do; one who mixes a kit at a time gets no two.
func TestThePolicyRules(t *testing.T) {
	lines := Item{Kit: "12 L", Count: 4, Volume: 12 * measure.Litre}
	d, err := Divide(40*measure.Litre, []Limit{{Volume: 25 * measure.Litre}}, supplyOf(40*measure.Litre, lines), true)
	if err != nil || len(d.Batches) != 2 || !near(float64(d.Batches[0].Volume), 0.020, 1e-9) ||
		d.Batches[0].Share != "measured" {
		t.Errorf("measured: %+v, %v", d, err)
	}
	p := twoPack(2, 1)
	s := Spreading{Spreaders: 8, Pace: 1, PerArea: 1e-3, Density: 1100, Life: lasting(3600), Kit: 12 * measure.Litre}
	for share, want := range map[float64]measure.Volume{0: 40 * measure.Litre, 1: 12 * measure.Litre,
		0.5: 6 * measure.Litre} {
		s.KitShare = share
		limits, err := Limits(&p, Bucket{Volume: 40 * measure.Litre}, s, measure.Metric)
		if err != nil || !near(float64(limits[0].Volume), float64(want), 1e-9) {
			t.Errorf("share %v: %+v, %v", share, limits, err)
		}
	}
}

// What a card prints, in either system, still is a good ratio: by volume and by
// scale, from a cup to a drum.
func TestPrintedDosesKeepTheRatio(t *testing.T) {
	for parts := 1.0; parts <= 6; parts += 0.7 {
		p := twoPack(parts, 1)
		mix := p.Mix()
		for volume := measure.Volume(0.1 * measure.Litre); volume < 0.2; volume *= 1.37 {
			c := NewCard(&p, mix, Batch{Number: 1, Volume: volume, Mass: mix.Density.Value.Of(volume)}, 1, 10, 3e-4, 600,
				Filling{}, measure.Metric)
			for _, units := range []measure.System{measure.Metric, measure.US} {
				read := func(kind measure.Kind, text string) float64 {
					si, err := units.Read(kind, text)
					if err != nil {
						t.Fatal(err)
					}
					return si
				}
				a, b := c.Parts[0], c.Parts[1]
				byVolume := read(measure.KindVolume, units.Volume(a.Volume)) / read(measure.KindVolume,
					units.Volume(b.Volume)) / parts
				byMass := read(measure.KindMass, units.Mass(a.Mass)) / read(measure.KindMass, units.Mass(b.Mass)) /
					float64(a.Mass/b.Mass)
				if math.Abs(byVolume-1) > goodOff || math.Abs(byMass-1) > goodOff {
					t.Errorf("%v : 1, %v in %s: printed %s and %s, %s and %s; off by %.3f and %.3f", parts, volume, units,
						units.Volume(a.Volume), units.Volume(b.Volume), units.Mass(a.Mass), units.Mass(b.Mass), byVolume-1, byMass-1)
				}
			}
		}
	}
}
