package material

import (
	"math"
	"slices"
	"strings"
	"testing"

	"nephelon/core/measure"
)

func sheet[T ~float64](v T) *measure.Sourced[T] {
	return &measure.Sourced[T]{Value: v, Source: measure.Sheet}
}

func good() Product {
	litres := measure.Volume(0.009)
	return Product{
		ID: "p", Name: "Good", Ratio: Ratio{ByVolume, measure.Sheet}, VolumeSolids: *sheet(measure.Fraction(0.8)),
		Components: []Component{{Name: "A", Parts: 2, Density: sheet(measure.Density(1200))},
			{Name: "B", Parts: 1, Density: sheet(measure.Density(900))}},
		Kits: []Kit{{Name: "9 L", Volume: &litres, Source: measure.Sheet}},
	}
}

// Densities and ratios by hand: 2 : 1 by volume at 1.2 and 0.9 kg/L is
// 2.4 : 0.9 = 8 : 3 by mass and weighs 3.3 / 3 = 1.1 kg/L.
func TestMixByHand(t *testing.T) {
	byVolume := good().Mix()
	if math.Abs(float64(byVolume.Density.Value)-1100) > 1e-9 || math.Abs(byVolume.Shares[0].Volume-2.0/3) > 1e-12 {
		t.Errorf("by volume %+v", byVolume)
	}
	p := good()
	p.Ratio.Basis = ByMass
	p.Components[0].Parts, p.Components[1].Parts = 8, 3
	byMass := p.Mix()
	for i := range byMass.Shares {
		if math.Abs(byMass.Shares[i].Volume-byVolume.Shares[i].Volume) > 1e-12 {
			t.Errorf("share %d: %v by mass, %v by volume", i, byMass.Shares[i].Volume, byVolume.Shares[i].Volume)
		}
	}
	if math.Abs(float64(byMass.Density.Value-byVolume.Density.Value)) > 1e-9 {
		t.Errorf("the same mix weighs %v and %v", byMass.Density.Value, byVolume.Density.Value)
	}
}

func TestAMissingDensityFallsBackAloud(t *testing.T) {
	p := good()
	p.Components[1].Density = nil
	p.Density = sheet(measure.Density(1085))
	if got := p.Mix().Density; got.Value != 1085 || got.Source != measure.Sheet {
		t.Errorf("with the mix's own density: %+v", got)
	}
	p.Density = nil
	if got := p.Mix().Density; got.Value != AssumedDensity || got.Source != measure.Assumed {
		t.Errorf("with none: %+v", got)
	}
}

func TestCheckNamesWhatCannotBe(t *testing.T) {
	cases := []struct {
		field string
		spoil func(*Product)
	}{
		{"/volumeSolids", func(p *Product) { p.VolumeSolids.Value = 0 }},
		{"/filmMin", func(p *Product) { p.FilmMin = sheet(measure.Film(0)) }},
		{"/filmMax", func(p *Product) { p.FilmMin, p.FilmMax = sheet(measure.Film(2e-3)), sheet(measure.Film(1e-3)) }},
		{"/loss", func(p *Product) { p.Loss = sheet(measure.Fraction(0.95)) }},
		{"/potLife/0", func(p *Product) { p.PotLife = []PotLife{{At: 20, Lasts: -1}} }},
		{"/mixing", func(p *Product) { p.Mixing = sheet(measure.Span(-1)) }},
		{"/induction", func(p *Product) { p.Induction = sheet(measure.Span(-1)) }},
		{"/mixMax", func(p *Product) { p.MixMax = sheet(measure.Mass(0)) }},
		{"/density", func(p *Product) { p.Density = sheet(measure.Density(1.1)) }},
		{"/components/1/density", func(p *Product) { p.Components[1].Density.Value = 9000 }},
		{"/kits/0", func(p *Product) { mass := measure.Mass(9); p.Kits[0].Mass = &mass }},
	}
	if faults := good().Faults(); len(faults) > 0 {
		t.Fatalf("a good sheet was refused: %+v", faults)
	}
	for _, c := range cases {
		p := good()
		c.spoil(&p)
		if faults := p.Faults(); len(faults) != 1 || faults[0].Field != c.field || faults[0].Way == "" {
			t.Errorf("%s: got %+v", c.field, faults)
		}
	}
}

func TestWeakValuesAreNamed(t *testing.T) {
	p := good()
	if weak := p.WeakValues(); len(weak) != 0 {
		t.Errorf("a sheet's own values are weak: %v", weak)
	}
	p.Ratio.Source = measure.Colleague
	p.Components[0].Density.Source = measure.Assumed
	p.Kits[0].Source = measure.RuleOfThumb
	weak := strings.Join(p.WeakValues(), "; ")
	for _, name := range []string{"mixing ratio (a colleague)", "density of A (assumed)", "kit 9 L (rule of thumb)"} {
		if !slices.Contains(p.WeakValues(), name) {
			t.Errorf("%q is not among %s", name, weak)
		}
	}
}
