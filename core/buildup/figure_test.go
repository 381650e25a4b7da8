package buildup

import (
	"math/rand/v2"
	"strings"
	"testing"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// under is a first coat on rough, open ground with poured edges: everything that a theoretical amount
// is added to.
func under(area measure.Area) Under {
	return Under{Area: area, RunOff: 2, First: true, Profile: 4, Grains: &Grains{Voids: *sheet(measure.Film(100e-6))}}
}

// What a practical amount asks for is area ÷ coverage, and nothing else, whatever the surface takes beside
// the film; as theoretical it asks for the same with all that added. By hand, 90 m² at 9 m²/L: 10 L; with
// 2 m² of run-off 10.222 L, ÷ 0.9 for loss 11.358 L, + 90 m² × (0.2 + 0.05 + 0.1) L/m² + 0.4 L = 43.258 L.
func TestPracticalAmountsAreAll(t *testing.T) {
	p := product(1, 1000)
	coat := func(figure Figure) Coat {
		return Coat{Amount: Amount{Basis: SpreadRate, Value: 9000, Figure: figure}, Loss: sheet(measure.Fraction(0.1)),
			Soak: sheet(measure.Film(50e-6)), Residue: sheet(measure.Volume(0.4e-3))}
	}
	practical, theoretical := coat("").Build(&p, p.Mix(), under(90)),
		coat(material.Theoretical).Build(&p, p.Mix(), under(90))
	if !near(float64(practical.Need), 0.010, 1e-12) || practical.Extra != 0 || practical.Loss.Value != 0 ||
		!practical.Practical || len(practical.Shares) != 1 || !near(float64(practical.Takes), 9000, 1e-12) {
		t.Errorf("practical: %+v", practical)
	}
	if !near(float64(theoretical.Need), 0.043258025, 1e-7) || theoretical.Practical || len(theoretical.Shares) != 7 ||
		!near(float64(theoretical.Takes), 90/0.043258025, 1e-7) {
		t.Errorf("theoretical: %+v", theoretical)
	}
	// The film told is the amount over the area in both.
	if !near(float64(practical.Wet), 1e-3/9, 1e-12) || practical.Wet != theoretical.Wet {
		t.Errorf("films %v and %v", practical.Wet, theoretical.Wet)
	}
	// A litre more than planned lies on the floor as film.
	if got := practical.FilmOf(0.011); !near(float64(got), 0.011/90, 1e-12) {
		t.Errorf("11 L over 90 m² lie %v thick", got)
	}
	for _, w := range practical.Workings {
		if strings.Contains(w.Formula, "loss") || strings.Contains(w.Formula, "run-off") {
			t.Errorf("%s = %s", w.Title, w.Formula)
		}
	}
}

// Which amounts are practical where nobody says: coverages and areas per kit; not films, notches, masses.
func TestFigureOfABasis(t *testing.T) {
	for _, basis := range Stated("").Values() {
		usual := Amount{Basis: basis, Value: 1}
		if want := basis == SpreadRate || basis == AreaPerKit; usual.Practical() != want {
			t.Errorf("%s is practical: %v", basis, !want)
		}
		said := usual
		said.Figure = material.Practical
		refused := Coat{Amount: Amount{Basis: basis, Value: 1e-3, Figure: material.Practical}}.checkAmounts("")
		if said.Either() != (refused == nil) || !said.Practical() {
			t.Errorf("%s said to be practical: %v", basis, refused)
		}
		if said.Scaled(2).Figure != material.Practical {
			t.Errorf("%s scaled is no longer practical", basis)
		}
	}
}

// Restated as a practical coverage, any coat asks for what it asked for.
func TestRestatedAsPractical(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 26))
	for range 200 {
		p := product(measure.Fraction(0.3+0.7*random.Float64()), measure.Density(900+800*random.Float64()))
		c := Coat{Amount: Amount{Basis: WetFilm, Value: 5e-5 + 1e-3*random.Float64()},
			Soak: sheet(measure.Film(1e-4 * random.Float64()))}
		if random.IntN(2) > 0 {
			c.Thinner = &material.Portion{Value: measure.Fraction(0.2 * random.Float64()), Of: "a+b", Source: measure.OwnTest}
		}
		area := measure.Area(5 + 500*random.Float64())
		was := c.Build(&p, p.Mix(), under(area))
		c.Amount = Amount{Basis: SpreadRate, Value: float64(was.Takes)}
		if now := c.Build(&p, p.Mix(), under(area)); !near(float64(now.Need), float64(was.Need), 1e-9) {
			t.Fatalf("%v L became %v L", was.Need*1000, now.Need*1000)
		}
	}
}

// Entries that a practical amount does not use are told, with both ways out.
func TestEntriesNotAdded(t *testing.T) {
	p := product(1, 1000)
	told := func(c Coat) []string {
		var all []string
		for _, f := range c.Findings(&p, c.Build(&p, p.Mix(), under(20)), 0, 2, "/c", measure.Metric) {
			if f.Path == "/c/amount" {
				all = append(all, f.Text)
				if f.Fix.Patch[0].Path != "/c/amount/figure" || len(f.Others) != 1 {
					t.Errorf("%+v", f)
				}
			}
		}
		return all
	}
	c := Coat{Amount: Amount{Basis: SpreadRate, Value: 9000}, Loss: sheet(measure.Fraction(0.1)),
		Fill: sheet(measure.Film(1e-4))}
	if got := told(c); len(got) != 1 || got[0] != "Coat 2: its amount is practical, so what was entered for it as loss, "+
		"profile fill is not added." {
		t.Errorf("%q", got)
	}
	c.Amount.Figure = material.Theoretical
	if got := told(c); len(got) != 0 {
		t.Errorf("theoretical: %q", got)
	}
	if got := told(Coat{Amount: Amount{Basis: SpreadRate, Value: 9000}}); len(got) != 0 {
		t.Errorf("nothing was entered: %q", got)
	}
}
