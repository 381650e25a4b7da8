package material_test

import (
	"math"
	"testing"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// The thickest film lies between those printed for two temperatures in proportion, and beyond them is the nearest.
func TestThickestFilmOnASlab(t *testing.T) {
	var p material.Product
	p.FilmMaxAt = []material.FilmAt{{At: 30, Film: 0.002, Source: measure.Sheet},
		{At: 20, Film: 0.005, Source: measure.Sheet}}
	for slab, want := range map[measure.Temperature]measure.Film{8: 0.005, 20: 0.005, 24: 0.0038, 30: 0.002, 37: 0.002} {
		if got := p.On(slab).FilmMax; got == nil || math.Abs(float64(got.Value-want)) > 1e-9 {
			t.Errorf("at %g °C: %v, want %g", float64(slab), got, float64(want))
		}
	}
	if p.FilmMax != nil {
		t.Error("the sheet itself was changed")
	}
	if (material.Product{}).On(20).FilmMax != nil {
		t.Error("a film where the sheet gives none")
	}
}

// A kit keeps as long as its shortest part.
func TestShelfLifeByPart(t *testing.T) {
	month := 30 * 24 * float64(measure.Hour)
	life := func(months float64) *measure.Sourced[measure.Span] {
		return &measure.Sourced[measure.Span]{Value: measure.Span(months * month), Source: measure.Sheet}
	}
	p := material.Product{ShelfLife: life(12),
		Components: []material.Component{{ShelfLife: life(24)}, {ShelfLife: life(9)}, {}}}
	for part, want := range map[string]float64{"A": 24, "B": 9, "C": 12, "kit": 9} {
		if got := p.Keeps(part); got == nil || math.Abs(float64(got.Value)/month-want) > 1e-9 {
			t.Errorf("%s keeps %v, want %g months", part, got, want)
		}
	}
	if p.ShelfLife = nil; p.Keeps("C") != nil {
		t.Error("a shelf life that no sheet gives")
	}
	if got := p.Keeps("kit"); got == nil || math.Abs(float64(got.Value)/month-9) > 1e-9 {
		t.Errorf("a kit keeps %v without a shelf life of its own", got)
	}
}

// What the sheet states thinned decides what a lesser share of its thinner gives. By hand: 300 g/L neat and 380 g/L
// with 20 % is a thinner of 780 g/L; 10 % give (300 + 78) / 1.1 = 343.6.
func TestVolatileCompoundsThinned(t *testing.T) {
	content := func(v measure.Content) *measure.Sourced[measure.Content] {
		return &measure.Sourced[measure.Content]{Value: v, Source: measure.Sheet}
	}
	p := material.Product{VOC: content(300), VOCThinned: content(380)}
	p.ThinnerMax = &material.Portion{Value: 0.2, Of: "a+b"}
	for share, want := range map[float64]float64{0: 300, 0.1: 343.6364, 0.2: 380} {
		if got := float64(p.Thinned(share)); math.Abs(got-want) > 1e-3 {
			t.Errorf("%g of thinner: %g g/L, want %g", share, got, want)
		}
	}
	p.VOCThinned = nil
	if got := float64(p.Thinned(0.1)); math.Abs(got-(300+87)/1.1) > 1e-3 {
		t.Errorf("nothing stated: %g g/L", got)
	}
	p.Carrier = material.Water
	if got := p.Thinned(0.1); got != 300 {
		t.Errorf("water added %g g/L", float64(got)-300)
	}
}

// Values by temperature, part or use that cannot be are named.
func TestFaultsOfStates(t *testing.T) {
	bad := &measure.Sourced[measure.Span]{Value: -1}
	p := material.Product{
		Amounts:    []material.ForUse{{Printed: material.Printed{Basis: "spread", Value: 5000}}, {For: "walls"}},
		Components: []material.Component{{Name: "A", Parts: 1, ShelfLife: bad}},
		VOCThinned: &measure.Sourced[measure.Content]{Value: 4000},
	}
	p.FilmMaxAt = []material.FilmAt{{At: 20, Film: 0.001}, {At: 20, Film: 0.002}, {At: 30}}
	found := make(map[string]bool)
	for _, f := range p.Faults() {
		found[f.Field] = true
	}
	for _, field := range []string{"/filmMaxAt/1", "/filmMaxAt/2", "/amounts/0/for", "/amounts/1",
		"/components/0/shelfLife", "/vocThinned"} {
		if !found[field] {
			t.Errorf("nothing is said of %s", field)
		}
	}
}
