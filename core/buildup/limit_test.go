package buildup

import (
	"math"
	"reflect"
	"strings"
	"testing"

	"nephelon/core/finding"
	"nephelon/core/material"
	"nephelon/core/measure"
)

func limits(c Coat, p material.Product, upright measure.Area) []finding.Finding {
	return c.Findings(&p, c.Build(&p, p.Mix(), Under{Area: 10, Upright: upright * 10}), upright, 2, "/surfaces/0/coats/1",
		measure.Metric)
}

func TestThinnestAndThickestFilmAtTheirLimits(t *testing.T) {
	p := product(1, 1100)
	p.FilmMin, p.FilmMax = sheet(measure.Film(200e-6)), sheet(measure.Film(500e-6))
	none(t, limits(Coat{Amount: Amount{Basis: WetFilm, Value: 200e-6}}, p, 0))
	none(t, limits(Coat{Amount: Amount{Basis: WetFilm, Value: 500e-6}}, p, 0))
	found := limits(Coat{Amount: Amount{Basis: SpreadRate, Value: 1 / 199e-6}}, p, 0)
	if len(found) != 1 || found[0].Fix == nil || found[0].Path != "/surfaces/0/coats/1/amount" ||
		found[0].Level != finding.Warning {
		t.Fatalf("%+v", found)
	}
	// A thicker film is a smaller spread rate.
	if amount := found[0].Fix.Patch[0].Value.(Amount); amount.Basis != SpreadRate || !near(amount.Value, 5000, 1e-12) ||
		found[0].Fix.Label != "Lay 200 µm" {
		t.Errorf("%+v", found[0].Fix)
	}
	// 1.0 mm are two coats of 500 µm; 1.001 mm are three.
	for film, lifts := range map[float64]int{501e-6: 2, 1e-3: 2, 1.001e-3: 3, 7e-3: 14} {
		c := Coat{ID: "body", Product: "p", Amount: Amount{Basis: WetFilm, Value: film}, Fill: sheet(measure.Film(1e-5)),
			Soak: sheet(measure.Film(1e-5)), OverWet: true, Wait: new(measure.Span)}
		found := limits(c, p, 0)
		if len(found) != 1 {
			t.Fatalf("%v: %+v", film, found)
		}
		steps := found[0].Fix.Patch
		if len(steps) != min(lifts, 10) {
			t.Fatalf("%v: %d steps, want %d lifts", film, len(steps), lifts)
		}
		if a := steps[0].Value.(Amount); steps[0].Op != "replace" || steps[0].Path != "/surfaces/0/coats/1/amount" ||
			!near(a.Value, film/float64(lifts), 1e-12) {
			t.Errorf("%v: %+v", film, steps[0])
		}
		// Each lift goes in over the one before; only the first fills the ground.
		for n, s := range steps[1:] {
			lift := s.Value.(Coat)
			if s.Op != "add" || s.Path != "/surfaces/0/coats/"+string(rune('2'+n)) && lifts < 9 || lift.Fill != nil ||
				lift.Soak != nil || lift.OverWet || lift.Wait == nil ||
				!near(lift.Amount.Value, film/float64(lifts), 1e-12) || !strings.HasPrefix(lift.ID, "body-") {
				t.Errorf("%v: lift %+v", film, s)
			}
		}
	}
	if steps := limits(Coat{ID: "body", Amount: Amount{Basis: WetFilm, Value: 1.2e-3}}, p,
		0)[0].Fix.Patch; steps[1].Value.(Coat).ID !=
		"body-1200-2" || steps[2].Value.(Coat).ID != "body-1200-3" {
		t.Errorf("lifts are told apart by %+v", steps)
	}
}

// Kilograms rest on an assumed density where a product is stated, mixed or sold by
// mass.
func TestAssumedDensity(t *testing.T) {
	p := product(1, 1100)
	p.Components[0].Density = nil
	says := func(p material.Product, c Coat, field string) {
		t.Helper()
		if found := limits(c, p, 0); len(found) != 1 || found[0].Path != "/surfaces/0/coats/1"+field {
			t.Errorf("%+v", found)
		}
	}
	wet := Coat{Amount: Amount{Basis: WetFilm, Value: 3e-4}}
	says(p, wet, "/product")
	says(p, Coat{Amount: Amount{Basis: MassPerArea, Value: 0.3}}, "/amount")
	mass := measure.Mass(10)
	volume := measure.Volume(0.01)
	p.Kits = []material.Kit{{Volume: &volume}}
	says(p, wet, "/product")
	p.Kits = append(p.Kits, material.Kit{Mass: &mass})
	says(p, wet, "/amount")
	p.Kits, p.Ratio.Basis = nil, material.ByMass
	says(p, wet, "/amount")
}

func TestSagsOnWhatStands(t *testing.T) {
	p := product(1, 1100)
	wet := func(film float64) Coat { return Coat{ID: "w", Amount: Amount{Basis: WetFilm, Value: film}} }
	none(t, limits(wet(9e-4), p, 0))
	none(t, limits(wet(9e-4), p, 0.2))
	found := limits(wet(9e-4), p, 0.21)
	if len(found) != 1 || found[0].Level != finding.Note ||
		!strings.Contains(found[0].Text, "21% of this surface is upright") {
		t.Errorf("%+v", found)
	}
	p.FilmMaxVertical = sheet(measure.Film(300e-6))
	none(t, limits(wet(300e-6), p, 0.01))
	none(t, limits(wet(900e-6), p, 0))
	found = limits(wet(301e-6), p, 0.01)
	if len(found) != 1 || found[0].Level != finding.Warning || !strings.Contains(found[0].WayOut, "in 2 coats of") ||
		len(found[0].Fix.Patch) != 2 {
		t.Errorf("%+v", found)
	}
	if found := limits(wet(600e-6), p, 0.01); len(found[0].Fix.Patch) != 2 {
		t.Errorf("600 µm are two lifts of 300: %+v", found[0].Fix)
	}
	if found := limits(wet(601e-6), p, 0.01); len(found[0].Fix.Patch) != 3 {
		t.Errorf("601 µm are three: %+v", found[0].Fix)
	}
	// A film of their own on the faces is what must hold.
	faces := wet(900e-6)
	faces.Faces = sheet(measure.Film(300e-6))
	none(t, limits(faces, p, 0.3))
	faces.Faces = sheet(measure.Film(310e-6))
	found = limits(faces, p, 0.3)
	if len(found) != 1 || found[0].Path != "/surfaces/0/coats/1/faces" ||
		!reflect.DeepEqual(found[0].Fix.Patch,
			[]finding.PatchStep{{Op: "replace", Path: "/surfaces/0/coats/1/faces/value", Value: measure.Film(300e-6)}}) {
		t.Errorf("%+v", found)
	}
	// A split divides them, too.
	p.FilmMax = sheet(measure.Film(450e-6))
	found = limits(faces, p, 0)
	if len(found) != 1 || len(found[0].Fix.Patch) != 3 || found[0].Fix.Patch[1].Path != "/surfaces/0/coats/1/faces" ||
		!near(float64(found[0].Fix.Patch[1].Value.(measure.Sourced[measure.Film]).Value), 155e-6, 1e-9) ||
		!near(float64(found[0].Fix.Patch[2].Value.(Coat).Faces.Value), 155e-6, 1e-9) {
		t.Errorf("%+v", found)
	}
	if faces.Faces.Value != 310e-6 {
		t.Errorf("the coat itself was changed: %v", faces.Faces.Value)
	}
}

func TestScaledAmounts(t *testing.T) {
	for basis, want := range map[Stated]float64{WetFilm: 20, DryFilm: 20, MassPerArea: 20, Notch: 20, ByStone: 20,
		SpreadRate: 5, AreaPerKit: 5} {
		if a := (Amount{Basis: basis, Value: 10}).Scaled(2); a.Value != want || a.Basis != basis {
			t.Errorf("%s twice as thick: %v", basis, a.Value)
		}
	}
}

// Every refusal at its limit: what is just allowed, and what is just not.
func TestCoatsThatCannotBe(t *testing.T) {
	type at struct {
		name  string
		coat  Coat
		field string // empty: allowed
	}
	film := func(v float64) *measure.Sourced[measure.Film] { return sheet(measure.Film(v)) }
	wet := Amount{Basis: WetFilm, Value: 3e-4}
	with := func(change func(*Coat)) Coat {
		c := Coat{Amount: wet}
		change(&c)
		return c
	}
	loss := func(v float64) Coat {
		return with(func(c *Coat) { c.Loss = sheet(measure.Fraction(v)) })
	}
	own := func(shares ...float64) Coat { return with(func(c *Coat) { c.Own = &OwnWay{Shares: shares} }) }
	pins := func(at ...float64) Coat { return with(func(c *Coat) { c.Own = &OwnWay{Pinned: at} }) }
	throws := func(v measure.MassRate) Coat {
		return with(func(c *Coat) { c.Scatter = &Scatter{Medium: "m", Pace: sheet(v)} })
	}
	pace := func(v float64) Coat { return with(func(c *Coat) { c.Pace = sheet(measure.Pace(v)) }) }
	portion := func(v measure.Fraction) *material.Portion { return &material.Portion{Value: v, Of: material.OfAB} }
	pigment := func(v measure.Fraction) Coat { return with(func(c *Coat) { c.Pigment = &Tint{Portion: *portion(v)} }) }
	scatter := func(v float64) Coat {
		return with(func(c *Coat) { c.Scatter = &Scatter{Medium: "m", Mass: sheet(measure.Coverage(v))} })
	}
	grit := func(v float64) Coat {
		return with(func(c *Coat) { c.Grit = &Grit{Dose: *sheet(measure.Content(v))} })
	}
	stone := func(share, mass float64) Coat {
		return Coat{Amount: Amount{Basis: ByStone, Value: share},
			Scatter: &Scatter{Medium: "m", Mass: sheet(measure.Coverage(mass))}}
	}
	for _, c := range []at{
		{"plain", Coat{Amount: wet}, ""},
		{"no loss", loss(0), ""}, {"most loss", loss(0.8), ""}, {"more loss", loss(0.81), "/loss"},
		{"less than none", loss(-0.01), "/loss"},
		{"slowest", pace(0.5 / 3600), ""}, {"slower", pace(0.49 / 3600), "/pace"}, {"fastest", pace(1), ""},
		{"faster", pace(1.01), "/pace"},
		{"fill", with(func(c *Coat) { c.Fill = film(0.1) }), ""}, {"more fill", with(func(c *Coat) { c.Fill = film(0.11) }),
			"/fill"}, {"negative fill", with(func(c *Coat) { c.Fill = film(-1e-6) }), "/fill"},
		{"soak", with(func(c *Coat) { c.Soak = film(0) }), ""}, {"more soak", with(func(c *Coat) { c.Soak = film(0.11) }),
			"/fill"}, {"negative soak", with(func(c *Coat) { c.Soak = film(-1e-6) }), "/fill"},
		{"residue", with(func(c *Coat) { c.Residue = sheet(measure.Volume(1)) }), ""},
		{"more residue", with(func(c *Coat) { c.Residue = sheet(measure.Volume(1.01)) }), "/residue"},
		{"negative residue", with(func(c *Coat) { c.Residue = sheet(measure.Volume(-0.001)) }), "/residue"},
		{"no residue", with(func(c *Coat) { c.Residue = sheet(measure.Volume(0)) }), ""},
		{"thickest", Coat{Amount: Amount{Basis: WetFilm, Value: 0.1}}, ""},
		{"thicker", Coat{Amount: Amount{Basis: WetFilm, Value: 0.11}}, "/amount"},
		{"thicker dry", Coat{Amount: Amount{Basis: DryFilm, Value: 0.11}}, "/amount"},
		{"deeper notch", Coat{Amount: Amount{Basis: Notch, Value: 0.11}}, "/amount"},
		{"a spread is no film", Coat{Amount: Amount{Basis: SpreadRate, Value: 4000}}, ""},
		{"faces", with(func(c *Coat) { c.Faces = film(0.1) }), ""},
		{"no faces", with(func(c *Coat) { c.Faces = film(0) }), "/faces"},
		{"thicker faces", with(func(c *Coat) { c.Faces = film(0.11) }), "/faces"},
		{"faces of a part", with(func(c *Coat) { c.Faces, c.On = film(3e-4), "level" }), "/faces"},
		{"a part", with(func(c *Coat) { c.On = "level" }), ""},
		{"no shares", own(), ""}, {"one", own(1), ""}, {"a thousand to one", own(1, 1000), ""},
		{"more", own(1, 1001), "/own/shares"}, {"a batch of nothing", own(0, 1), "/own/shares"},
		{"without end", own(1e12, 1e12), "/own/shares"},
		{"pinned", pins(0.001, 0.5, 0.999), ""}, {"pinned at the edge", pins(0), "/own/pinned"},
		{"near the edge", pins(0.0009), "/own/pinned"}, {"at the other", pins(0.9995), "/own/pinned"},
		{"twice", pins(0.5, 0.5), "/own/pinned"}, {"backwards", pins(0.5, 0.4), "/own/pinned"},
		{"no number", pins(math.NaN()), "/own/pinned"},
		{"placed and pinned", with(func(c *Coat) { c.Own = &OwnWay{Shares: []float64{1, 1}, Pinned: []float64{0.5}} }),
			"/own/pinned"},
		{"wet over wet", with(func(c *Coat) { c.OverWet = true }), ""},
		{"abraded wet", with(func(c *Coat) { c.OverWet, c.Abraded = true, true }), "/overWet"},
		{"waiting wet", with(func(c *Coat) { c.OverWet, c.Wait = true, new(measure.Span) }), "/overWet"},
		{"abraded after a wait", with(func(c *Coat) { c.Abraded, c.Wait = true, new(measure.Span) }), ""},
		{"next morning", with(func(c *Coat) { c.When, c.Abraded, c.Wait = NextMorning, true, new(measure.Span) }), ""},
		{"on tacky", with(func(c *Coat) { c.When = OnTacky }), ""},
		{"wet in the morning", with(func(c *Coat) { c.OverWet, c.When = true, NextMorning }), "/when"},
		{"abraded tacky", with(func(c *Coat) { c.When, c.Abraded = OnTacky, true }), "/when"},
		{"tacky after a wait", with(func(c *Coat) { c.When, c.Wait = OnTacky, new(measure.Span) }), "/when"},
		{"thinner", with(func(c *Coat) { c.Thinner = portion(material.MostAdded) }), ""},
		{"more thinner", with(func(c *Coat) { c.Thinner = portion(material.MostAdded + 0.01) }), "/thinner"},
		{"stones", stone(0.06, 12), ""}, {"as much resin as stone", stone(1, 12), ""},
		{"more resin than stone", stone(1.01, 12), "/amount"}, {"no stones", stone(0.06, 0), "/scatter"},
		{"no stones at all", Coat{Amount: Amount{Basis: ByStone, Value: 0.06}}, "/scatter"},
		{"stones of no mass", Coat{Amount: Amount{Basis: ByStone, Value: 0.06}, Scatter: &Scatter{Medium: "m"}}, "/scatter"},
		{"most pigment", pigment(0.5), ""}, {"more pigment", pigment(0.51), "/pigment/portion"},
		{"nothing scattered", scatter(0), ""}, {"most scattered", scatter(200), ""},
		{"more scattered", scatter(201), "/scatter/mass"}, {"negative", scatter(-1), "/scatter/mass"},
		{"no number", scatter(math.NaN()), "/scatter/mass"}, {"quickest throw", throws(2), ""},
		{"quicker throw", throws(2.01), "/scatter/pace"}, {"nothing thrown", throws(0), "/scatter/pace"},
		{"grit", grit(1500), ""}, {"more grit", grit(1501), "/grit"}, {"no grit", grit(0), "/grit"},
		{"colours", with(func(c *Coat) { c.Colours = &Colouring{Way: "shares", Colours: []Colour{{Share: 1}}} }), ""},
		{"colours that do not add up",
			with(func(c *Coat) { c.Colours = &Colouring{Way: "shares", Colours: []Colour{{Share: 0.9}}} }), "/colours/colours"},
	} {
		switch f := c.coat.Check("/x"); {
		case f == nil && c.field != "":
			t.Errorf("%s is taken", c.name)
		case f != nil && (c.field == "" || f.Path != "/x"+c.field || f.Level != finding.Refused || f.Text == "" ||
			f.WayOut == ""):
			t.Errorf("%s: %+v", c.name, f)
		}
	}
}
