package buildup

import (
	"math/rand/v2"
	"testing"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// 3.5 : 1 by volume and 20 % of thinner on A + B: 350 of A take 100 of B and 90
// of thinner (a check value of the trade), and the film shrinks by what leaves.
func TestThinnerByTheHandbook(t *testing.T) {
	p := product(0.5, 1200)
	p.Components = []material.Component{{Name: "A", Parts: 3.5, Density: sheet(measure.Density(1300))},
		{Name: "B", Parts: 1, Density: sheet(measure.Density(900))}}
	c := Coat{Amount: Amount{Basis: DryFilm, Value: 60e-6}, Loss: sheet(measure.Fraction(0)),
		Thinner: &material.Portion{Value: 0.2, Of: material.OfAB, Source: measure.Sheet}}
	b := c.Build(&p, p.Mix(), Under{Area: 100})
	// WFT = DFT × (1 + thinner) / VS.
	if !near(float64(b.Wet), 60e-6*1.2/0.5, 1e-12) || !near(float64(b.Dry), 60e-6, 1e-12) {
		t.Errorf("wet %v, dry %v", b.Wet, b.Dry)
	}
	if !near(float64(b.Need), 0.012, 1e-12) || !near(float64(b.Thinner), 0.0024, 1e-12) {
		t.Errorf("%v of paint, %v of thinner", b.Need, b.Thinner)
	}
	if a := float64(b.Need) * 3.5 / 4.5; !near(float64(b.Thinner)/a, 90.0/350, 1e-12) {
		t.Errorf("%v of thinner to %v of A", b.Thinner, a)
	}
	sum := measure.Volume(0)
	for _, s := range b.Shares {
		sum += s.Volume
	}
	if !near(float64(sum), float64(b.Need), 1e-12) {
		t.Errorf("the steps come to %v, the need is %v", sum, b.Need)
	}
	if len(b.Additions) != 1 || b.Additions[0].Volume != b.Thinner {
		t.Errorf("additions %+v", b.Additions)
	}
}

// With thinner too, an amount restated in another basis is the same coat, and
// what is mixed as needed lays the film that was meant.
func TestBasesRoundTripThinned(t *testing.T) {
	random := rand.New(rand.NewPCG(9, 2))
	for range 300 {
		p := product(measure.Fraction(0.3+0.7*random.Float64()), measure.Density(900+800*random.Float64()))
		thinner := &material.Portion{Value: measure.Fraction(0.3 * random.Float64()),
			Of: []string{"a", "a+b", "mix"}[random.IntN(3)], Source: measure.OwnTest}
		made := func(basis Stated, value float64) Build {
			figure := map[Stated]Figure{SpreadRate: material.Theoretical}[basis]
			c := Coat{Amount: Amount{Basis: basis, Value: value, Figure: figure}, Loss: sheet(measure.Fraction(0.07)),
				Thinner: thinner, Soak: sheet(measure.Film(20e-6))}
			return c.Build(&p, p.Mix(), Under{Area: 60})
		}
		b := made(WetFilm, 50e-6+1e-3*random.Float64())
		for basis, value := range map[Stated]float64{DryFilm: float64(b.Dry), SpreadRate: float64(b.Spread),
			MassPerArea: float64(b.Coverage)} {
			if again := made(basis, value); !near(float64(again.Need), float64(b.Need), 1e-12) ||
				!near(float64(again.Wet), float64(b.Wet), 1e-12) {
				t.Fatalf("%s: %v, want %v", basis, again.Need, b.Need)
			}
		}
		if film := b.FilmOf(b.Need); !near(float64(film), float64(b.Wet), 1e-12) {
			t.Fatalf("the need lays %v of %v", film, b.Wet)
		}
	}
}

// By hand, on 50 m²: 3 kg/m² of grains stay, 150 kg; they take 0.2 L/m² more
// binder, 10 L; the next coat fills 0.4 L/m², 20 L; half as much evenly.
func TestBroadcastByHand(t *testing.T) {
	grains := &material.Medium{
		ID: "g", Name: "Grains", Kind: "quartz", Full: sheet(measure.Coverage(3)),
		Bind: sheet(measure.Film(200e-6)), Voids: sheet(measure.Film(400e-6)),
	}
	media := map[string]*material.Medium{"g": grains}
	p := product(1, 1100)
	for degree, share := range map[string]float64{"full": 1, "even": 0.5} {
		bind := Coat{Amount: Amount{Basis: WetFilm, Value: 4e-4}, Loss: sheet(measure.Fraction(0)),
			Scatter: &Scatter{Medium: "g", Degree: degree}}
		b := bind.Build(&p, p.Mix(), Under{Area: 50, Media: media})
		if !near(float64(b.Need), 0.020+0.010*share, 1e-12) || !near(float64(b.Additions[0].Mass), 150*share, 1e-12) {
			t.Errorf("%s: %v m³, %+v", degree, b.Need, b.Additions)
		}
		grout := Coat{Amount: Amount{Basis: WetFilm, Value: 3e-4}, Loss: sheet(measure.Fraction(0))}
		if g := grout.Build(&p, p.Mix(), Under{Area: 50, Media: media, Grains: bind.Leaves(media)}); !near(float64(g.Need),
			0.015+0.020*share, 1e-12) {
			t.Errorf("%s: the coat over it needs %v", degree, g.Need)
		}
	}
	// 60 g to a litre of 20 L are 1.2 kg of grit; 3 % of 22 kg are 660 g of pigment.
	c := Coat{Amount: Amount{Basis: WetFilm, Value: 4e-4}, Loss: sheet(measure.Fraction(0)),
		Grit:    &Grit{Medium: "g", Dose: measure.Sourced[measure.Content]{Value: 60}},
		Pigment: &Tint{Portion: material.Portion{Value: 0.03, Of: material.OfAB}}}
	b := c.Build(&p, p.Mix(), Under{Area: 50, Media: media})
	if len(b.Additions) != 2 || !near(float64(b.Additions[0].Mass), 0.66, 1e-12) ||
		!near(float64(b.Additions[1].Mass), 1.2, 1e-12) {
		t.Errorf("additions %+v", b.Additions)
	}
}

// Person-seconds of broadcasting a square metre, by hand. Of 3 kg/m² that stay at rejection and a fifth that
// bounces off 3.6 are thrown, at 4 kg a minute in 54 s; lightly 0.45 kg, in 6.75. However little it is a person
// walks past, half a square metre a second. The paces are common practice, no source.
func TestPaceOfBroadcasting(t *testing.T) {
	quartz := &material.Medium{Full: &measure.Sourced[measure.Coverage]{Value: 3},
		Spare: &measure.Sourced[measure.Fraction]{Value: 0.2}}
	flake := &material.Medium{Full: &measure.Sourced[measure.Coverage]{Value: 0.5}}
	own := func(perMinute measure.MassRate) *measure.Sourced[measure.MassRate] {
		return &measure.Sourced[measure.MassRate]{Value: perMinute / measure.Minute, Source: measure.OwnTest}
	}
	for _, c := range []struct {
		name    string
		scatter Scatter
		medium  *material.Medium
		want    measure.Span
	}{
		{"quartz to rejection", Scatter{Degree: "full"}, quartz, 54},
		{"by blower", Scatter{Degree: "full", Way: ByBlower}, quartz, 27},
		{"from spikes", Scatter{Degree: "full", Way: FromSpikes}, quartz, 72},
		{"by one who throws 6 kg a minute", Scatter{Degree: "full", Way: FromSpikes, Pace: own(6)}, quartz, 36},
		{"evenly", Scatter{Degree: "even"}, quartz, 22.5}, {"lightly", Scatter{Degree: "light"}, quartz, 6.75},
		{"as much as is asked for", Scatter{Degree: "light", Mass: &measure.Sourced[measure.Coverage]{Value: 1}}, quartz, 15},
		{"flakes lightly", Scatter{Degree: "light"}, flake, 2},
		{"nobody knows how much", Scatter{Degree: "full"}, &material.Medium{}, 60},
		{"of a medium that is not there", Scatter{Degree: "light"}, nil, 60},
	} {
		if got := c.scatter.Casting(c.medium); !near(float64(got), float64(c.want), 1e-9) {
			t.Errorf("%s: %v s/m², want %v", c.name, got, c.want)
		}
	}
	grit := Grit{Dose: measure.Sourced[measure.Content]{Value: 400}}
	for film, want := range map[measure.Film]measure.Span{100e-6: 2, 1e-3: 6} { // 0.04 and 0.4 kg/m²
		if got := grit.Casting(film); !near(float64(got), float64(want), 1e-9) {
			t.Errorf("grit on %v m: %v s/m², want %v", film, got, want)
		}
	}
}
