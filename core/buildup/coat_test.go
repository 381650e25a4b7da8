package buildup

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"nephelon/core/material"
	"nephelon/core/measure"
)

func near(a, b, relative float64) bool {
	return math.Abs(a-b) <= relative*math.Max(math.Abs(a), math.Abs(b))
}

func sheet[T ~float64](v T) *measure.Sourced[T] {
	return &measure.Sourced[T]{Value: v, Source: measure.Sheet}
}

func product(solids measure.Fraction, density measure.Density) material.Product {
	return material.Product{
		ID: "p", Name: "Testcoat", Ratio: material.Ratio{Basis: material.ByVolume, Source: measure.Sheet},
		Components:   []material.Component{{Name: "A", Parts: 1, Density: sheet(density)}},
		VolumeSolids: *sheet(solids),
	}
}

func build(p material.Product, basis Stated, value float64, area measure.Area) Build {
	return Coat{Amount: Amount{Basis: basis, Value: value}, Loss: sheet(measure.Fraction(0))}.Build(&p, p.Mix(),
		Under{Area: area})
}

// Handbook identities. The 1604.2 of the US rows is 231 ÷ (144 × 0.001), from
// the gallon of NIST Handbook 44.
func TestAmountsInAnyBasis(t *testing.T) {
	cases := []struct {
		name   string
		solids measure.Fraction
		basis  Stated
		value  float64
		wet    measure.Film
		within float64
	}{
		{"200 ft²/gal", 1, SpreadRate, 200 * measure.SqFoot / measure.Gallon, 8.02 * measure.Mil, 5e-4},
		{"7 m²/L is 143 µm", 1, SpreadRate, 7000, 143 * measure.Micron, 2e-3},
		{"12 m²/L is 83 µm", 1, SpreadRate, 12000, 83 * measure.Micron, 5e-3},
		{"13 m²/L is 77 µm", 1, SpreadRate, 13000, 77 * measure.Micron, 2e-3},
		{"dry film over solids", 0.6, DryFilm, 90e-6, 150e-6, 1e-12},
		{"mass over density", 1, MassPerArea, 0.66, 0.0006, 1e-12},
		{"wet film as entered", 0.4, WetFilm, 2e-4, 2e-4, 1e-12},
	}
	for _, c := range cases {
		b := build(product(c.solids, 1100), c.basis, c.value, 10)
		if !near(float64(b.Wet), float64(c.wet), c.within) {
			t.Errorf("%s: wet film %v, want %v", c.name, b.Wet, c.wet)
		}
	}
}

// Whatever basis an amount is given in, the other three given back as input
// must end in the same film.
func TestBasesRoundTrip(t *testing.T) {
	random := rand.New(rand.NewPCG(2, 3))
	for range 500 {
		p := product(measure.Fraction(0.2+0.8*random.Float64()), measure.Density(900+900*random.Float64()))
		b := build(p, WetFilm, 20e-6+3e-3*random.Float64(), 25)
		for basis, value := range map[Stated]float64{DryFilm: float64(b.Dry), SpreadRate: float64(b.Spread),
			MassPerArea: float64(b.Coverage)} {
			if again := build(p, basis, value, 25); !near(float64(again.Wet), float64(b.Wet), 1e-12) ||
				!near(float64(again.Need), float64(b.Need), 1e-12) {
				t.Fatalf("%s %v: wet %v, want %v", basis, value, again.Wet, b.Wet)
			}
		}
	}
}

func TestLossOnlyEverAdds(t *testing.T) {
	p := product(1, 1100)
	last := measure.Volume(0)
	for percent := 0; percent <= 80; percent += 5 {
		c := Coat{Amount: Amount{Basis: WetFilm, Value: 3e-4}, Loss: sheet(measure.Fraction(float64(percent) / 100))}
		b := c.Build(&p, p.Mix(), Under{Area: 40})
		if b.Need <= last || !near(float64(b.OnSurface), 0.012, 1e-12) {
			t.Errorf("%d %% loss needs %v, on the surface %v", percent, b.Need, b.OnSurface)
		}
		last = b.Need
	}
	// 12 L on the surface at 20 % loss is 15 L mixed.
	c := Coat{Amount: Amount{Basis: WetFilm, Value: 3e-4}, Loss: sheet(measure.Fraction(0.2))}
	if b := c.Build(&p, p.Mix(), Under{Area: 40}); !near(float64(b.Need), 0.015, 1e-12) ||
		!near(float64(b.NeedMass), 16.5, 1e-12) {
		t.Errorf("need %v m³, %v kg", b.Need, b.NeedMass)
	}
}

// At 1.1 kg/L a job sized "1 mm × 1 m² = 1 kg" is a tenth short (handbook,
// arithmetic).
func TestKilogramsAreNotLitres(t *testing.T) {
	b := build(product(1, 1100), WetFilm, 0.001, 1)
	if !near(float64(b.NeedMass), 1.1, 1e-12) || !near(float64(b.Need), measure.Litre, 1e-12) {
		t.Errorf("1 mm on 1 m² is %v m³ and %v kg", b.Need, b.NeedMass)
	}
}

func TestFindingsSpeakInNumbers(t *testing.T) {
	p := product(1, 1100)
	p.FilmMin, p.FilmMax = sheet(measure.Film(200e-6)), sheet(measure.Film(500e-6))
	unknown := product(1, 1100)
	unknown.Components[0].Density = nil
	cases := []struct {
		name    string
		product material.Product
		amount  Amount
		says    []string
	}{
		{"too thin", p, Amount{Basis: WetFilm, Value: 150e-6}, []string{"150 µm", "under its minimum film of 200 µm"}},
		{"too thick", p, Amount{Basis: WetFilm, Value: 1.2e-3},
			[]string{"over its maximum film of 500 µm", "Split it into 3 coats of 400 µm"}},
		{"no density, by mass", unknown, Amount{Basis: MassPerArea, Value: 0.3}, []string{"1.1 kg/L was assumed", "a tenth"}},
		{"no density, by film", unknown, Amount{Basis: WetFilm, Value: 3e-4},
			[]string{"masses on the mix cards", "1.1 kg/L"}},
		{"inside the limits", p, Amount{Basis: WetFilm, Value: 500e-6}, nil},
	}
	for _, c := range cases {
		coat := Coat{Amount: c.amount}
		found := coat.Findings(&c.product, coat.Build(&c.product, c.product.Mix(), Under{Area: 10}), 0, 2, "/x",
			measure.Metric)
		if len(c.says) == 0 {
			if len(found) > 0 {
				t.Errorf("%s: %v", c.name, found)
			}
			continue
		}
		if len(found) != 1 {
			t.Errorf("%s: %d findings: %v", c.name, len(found), found)
			continue
		}
		for _, words := range c.says {
			if !strings.Contains(found[0].Text+found[0].WayOut, words) {
				t.Errorf("%s: “%s %s” does not say “%s”", c.name, found[0].Text, found[0].WayOut, words)
			}
		}
	}
}

// From theory to what is to be mixed, by hand: 50 m² at 400 µm are 20 L; with
// 10 % loss 22.222 L; a CSP 4 profile takes 0.2 L/m², 10 L; 30 mL/m² soak in,
// 1.5 L; half a litre stays in the pails. All bought, the film is what is left.
func TestFromTheoryToWhatIsMixed(t *testing.T) {
	p := product(1, 1200)
	c := Coat{Amount: Amount{Basis: WetFilm, Value: 400e-6}, Loss: sheet(measure.Fraction(0.1)),
		Soak:    sheet(measure.Film(30e-6)),
		Residue: sheet(measure.Volume(0.0005))}
	b := c.Build(&p, p.Mix(), Under{Area: 50, First: true, Profile: 4})
	want := []float64{0.020, 0.020/0.9 - 0.020, 0.010, 0.0015, 0.0005}
	sum := 0.0
	for i, share := range b.Shares {
		sum += float64(share.Volume)
		if i >= len(want) || !near(float64(share.Volume), want[i], 1e-9) {
			t.Errorf("%s: %v", share.Name, share.Volume)
		}
	}
	if len(b.Shares) != len(want) || !near(sum, float64(b.Need), 1e-12) || !near(float64(b.Extra), 0.012, 1e-12) {
		t.Errorf("%v shares of %v, %v extra", len(b.Shares), b.Need, b.Extra)
	}
	if film := b.FilmOf(b.Need); !near(float64(film), 400e-6, 1e-12) {
		t.Errorf("the need gives %v", film)
	}
	if film := b.FilmOf(b.Need + 0.02/0.9); !near(float64(film), 800e-6, 1e-9) {
		t.Errorf("twice the film takes as much again: %v", film)
	}
	// Only the first coat fills the profile, unless the coat says so itself.
	if later := c.Build(&p, p.Mix(), Under{Area: 50, Profile: 4}); !near(float64(later.Extra), 0.002, 1e-12) {
		t.Errorf("a later coat takes %v extra", later.Extra)
	}
}
