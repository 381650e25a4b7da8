package kit

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"nephelon/core/material"
	"nephelon/core/measure"
)

func mixture() *material.Product {
	p := twoPack(2, 1)
	p.Name = "Mixture"
	p.Components[0].Density = &measure.Sourced[measure.Density]{Value: 1200, Source: measure.Sheet}
	p.Components[1].Density = &measure.Sourced[measure.Density]{Value: 900, Source: measure.Sheet}
	return &p
}

// 2 : 1 by volume at 1.2 and 0.9 kg/L is 8 : 3 by mass. 8 kg with 2.7 kg is 11 %
// too much resin, and 300 g of B mend it.
func TestARatioByHand(t *testing.T) {
	cases := []struct {
		name    string
		w       Weighed
		verdict Verdict
		saves   int
		says    string
	}{
		{"right", Weighed{Masses: []measure.Mass{8, 3}}, Good, 0, "Go on"},
		{"within 2 %", Weighed{Masses: []measure.Mass{8, 3.05}}, Good, 0, "within 1.6%"},
		{"doubtful", Weighed{Masses: []measure.Mass{8, 3.1}}, Doubtful, 1, "267 g of A"},
		{"spoilt, saved", Weighed{Masses: []measure.Mass{8, 2.7}, Elapsed: 60, Life: 1800}, Spoilt, 1, "300 g of B"},
		{"too late", Weighed{Masses: []measure.Mass{8, 2.7}, Elapsed: 900, Life: 1800}, Spoilt, 0,
			"too late to mix more in. Do not use it."},
		{"volumes entered as masses", Weighed{Masses: []measure.Mass{8, 4}}, Spoilt, 1, "stand as its volumes should"},
		{"no room", Weighed{Masses: []measure.Mass{8, 2.7}, Bucket: 0.0099}, Spoilt, 0,
			"more than the bucket of 9.9 L holds"},
	}
	for _, c := range cases {
		if c.w.Bucket == 0 {
			c.w.Bucket = 0.02
		}
		got, err := CheckRatio(mixture(), c.w, measure.Metric)
		if err != nil || got.Verdict != c.verdict || len(got.Save) != c.saves || !strings.Contains(got.Text, c.says) {
			t.Errorf("%s: %+v, %v", c.name, got, err)
		}
		if strings.Contains(got.Text, "as its volumes") != (c.w.Masses[1] == 4) {
			t.Errorf("%s: %s", c.name, got.Text)
		}
		if !near(got.Right[0], 8.0/3, 1e-12) {
			t.Errorf("%s: right is %v", c.name, got.Right)
		}
	}
	for name, masses := range map[string][]measure.Mass{"one": {8}, "nothing": {8, 0},
		"not a number": {measure.Mass(math.NaN()), 3}, "endless": {measure.Mass(math.Inf(1)), 3}} {
		if _, err := CheckRatio(mixture(), Weighed{Masses: masses, Bucket: 1}, measure.Metric); err == nil {
			t.Errorf("%s was judged", name)
		}
	}
}

// Whatever was poured, adding what is told makes the ratio right, and never
// takes anything out.
func TestARescueMakesItRight(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 8))
	p := mixture()
	for range 400 {
		w := Weighed{Masses: []measure.Mass{measure.Mass(1 + 9*random.Float64()),
			measure.Mass(0.5 + 5*random.Float64())}, Bucket: 1}
		c, err := CheckRatio(p, w, measure.Metric)
		if err != nil {
			t.Fatal(err)
		}
		if c.Verdict == Good {
			continue
		}
		for _, r := range c.Save {
			if r.Mass <= 0 {
				t.Fatalf("%+v", c)
			}
			w.Masses[map[string]int{"A": 0, "B": 1}[r.Name]] += r.Mass
		}
		if again, err := CheckRatio(p, w, measure.Metric); err != nil || again.Verdict != Good ||
			math.Abs(float64(again.Off)) > 1e-9 {
			t.Fatalf("%v mended to %+v", w.Masses, again)
		}
	}
}
