package buildup

import (
	"fmt"
	"reflect"
	"slices"
	"strings"
	"testing"

	"nephelon/core/finding"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// named is an unfilled product of a chemistry, without solvent.
func named(id string, chemistry material.Chemistry) material.Product {
	p := product(1, 1100)
	p.ID, p.Name, p.Chemistry, p.Carrier, p.Kind = id, "The "+id, chemistry, material.NoCarrier, "body"
	return p
}

// laidOver makes layers of coats, bottom to top, each on its own sheet.
func laidOver(coats []Coat, sheets ...material.Product) []Layer {
	layers := make([]Layer, len(sheets))
	for i := range sheets {
		p := sheets[i]
		if coats[i].Amount.Value == 0 {
			coats[i].Amount = Amount{Basis: WetFilm, Value: 300e-6}
		}
		coats[i].ID, coats[i].Product = fmt.Sprintf("c%d", i+1), p.ID
		b := coats[i].Build(&p, p.Mix(), Under{Area: 10})
		layers[i] = Layer{Coat: coats[i], Sheet: &p, Mix: p.Mix(), Build: &b, Path: fmt.Sprintf("/surfaces/0/coats/%d", i)}
	}
	return layers
}

func bed() Bed {
	return Bed{Name: "Ramp", Path: "/surfaces/0", Temperature: 20, DampMost: 0.75, Media: map[string]*material.Medium{}}
}

// one expects a single warning on a field whose words hold all of some, and gives it.
func one(t *testing.T, found []finding.Finding, path string, says ...string) finding.Finding {
	t.Helper()
	if len(found) != 1 {
		t.Fatalf("%d findings: %+v", len(found), found)
	}
	f := found[0]
	if f.Path != path || f.Level != finding.Warning || f.Step != finding.BuildUp || !strings.HasPrefix(f.Text, "Ramp: ") {
		t.Errorf("%s at %s, not at %s: %s", f.Level, f.Path, path, f.Text)
	}
	for _, words := range says {
		if !strings.Contains(f.Text+" "+f.WayOut, words) {
			t.Errorf("“%s %s” does not say “%s”", f.Text, f.WayOut, words)
		}
	}
	return f
}

func none(t *testing.T, found []finding.Finding) {
	t.Helper()
	for _, f := range found {
		t.Errorf("told: %s", f.Text)
	}
}

func patch(t *testing.T, fix *finding.Fix, want ...finding.PatchStep) {
	t.Helper()
	if fix == nil {
		t.Fatal("no way out to take")
	}
	if !reflect.DeepEqual(fix.Patch, want) {
		t.Errorf("%s: %+v, want %+v", fix.Label, fix.Patch, want)
	}
}

func TestNothingIsSaidOfNoCoatsAndOfFellows(t *testing.T) {
	none(t, Neighbours(nil, bed(), measure.Metric))
	a, b := named("a", "epoxy"), named("b", "polyurethane")
	a.Over, a.Under = []string{"concrete"}, []material.Chemistry{"polyurethane"}
	b.Over = []string{"epoxy"}
	on := bed()
	on.Substrate = "concrete"
	none(t, Neighbours(laidOver(make([]Coat, 2), a, b), on, measure.Metric))
	// A sheet that names nothing goes on what nobody knows.
	on.Substrate = ""
	none(t, Neighbours(laidOver(make([]Coat, 1), a), on, measure.Metric))
}

func TestTheFirstCoatOnItsGround(t *testing.T) {
	a := named("a", "epoxy")
	a.Over = []string{"concrete", "screed"}
	on := bed()
	on.Substrate = "tile"
	f := one(t, Neighbours(laidOver(make([]Coat, 1), a), on, measure.Metric), "/surfaces/0/coats/0/product",
		"concrete, screed", "not tile")
	if !slices.Equal(f.Seek.Kinds, []material.Kind{"primer", "moisture-barrier"}) {
		t.Errorf("looks among %v", f.Seek.Kinds)
	}
	primer := named("p", "epoxy")
	primer.Kind, primer.Over = "primer", []string{"tile"}
	a.Over = append(a.Over, "epoxy")
	layers := laidOver(make([]Coat, 1), a)
	f = one(t, Neighbours(layers, on, measure.Metric), "/surfaces/0/coats/0/product")
	fits := func(change func(*material.Product)) bool {
		q := primer
		change(&q)
		return f.Seek.Fits(q)
	}
	if !fits(func(*material.Product) {}) || !fits(func(q *material.Product) { q.Kind = "moisture-barrier" }) {
		t.Error("a primer for tile does not fit")
	}
	for name, change := range map[string]func(*material.Product){
		"no primer":               func(q *material.Product) { q.Kind = "clear" },
		"says nothing of grounds": func(q *material.Product) { q.Over = nil },
		"for something else":      func(q *material.Product) { q.Over = []string{"wood"} },
		"not under this coat":     func(q *material.Product) { q.Under = []material.Chemistry{"acrylic"} },
		"of a wrong chemistry":    func(q *material.Product) { q.Chemistry = "alkyd" },
	} {
		if fits(change) {
			t.Errorf("%s: fits", name)
		}
	}
	patch(t, f.Seek.Fix(primer), finding.PatchStep{Op: "add", Path: "/surfaces/0/coats/0",
		Value: Coat{ID: "p-first-2", Product: "p", Amount: Amount{Basis: WetFilm, Value: 200e-6}}})
}

// What a coat starts with: a third of the way between the sheet's films.
func TestUsualAmounts(t *testing.T) {
	p := product(1, 1100)
	for _, c := range []struct {
		least, most *measure.Sourced[measure.Film]
		printed     *material.Printed
		want        Amount
	}{
		{nil, nil, nil, Amount{Basis: WetFilm, Value: 200e-6}},
		{sheet(measure.Film(90e-6)), nil, nil, Amount{Basis: WetFilm, Value: 90e-6}},
		{sheet(measure.Film(100e-6)), sheet(measure.Film(400e-6)), nil, Amount{Basis: WetFilm, Value: 200e-6}},
		{nil, sheet(measure.Film(800e-6)), nil, Amount{Basis: WetFilm, Value: 400e-6}},
		{nil, sheet(measure.Film(900e-6)), nil, Amount{Basis: WetFilm, Value: 430e-6}}, // 433.3 µm, to 10 µm
		{nil, nil, &material.Printed{Basis: "spread", Value: 5000}, Amount{Basis: SpreadRate, Value: 5000}},
	} {
		p.FilmMin, p.FilmMax, p.Printed = c.least, c.most, c.printed
		if got := Usual(p); got.Basis != c.want.Basis || !near(got.Value, c.want.Value, 1e-12) {
			t.Errorf("%+v, want %+v", got, c.want)
		}
	}
}

func TestChemistryOverChemistry(t *testing.T) {
	below, above := named("low", "alkyd"), named("high", "epoxy")
	above.Over = []string{"epoxy"}
	f := one(t, Neighbours(laidOver(make([]Coat, 2), below, above), bed(), measure.Metric), "/surfaces/0/coats/1/product",
		"Coat 2 of epoxy goes over coat 1 of alkyd", "the sheet of The high names epoxy to go over, not alkyd")
	tie := named("tie", "novolac")
	tie.Over, tie.Under = []string{"alkyd"}, []material.Chemistry{"epoxy"}
	above.Over = []string{"epoxy", "novolac"}
	f = one(t, Neighbours(laidOver(make([]Coat, 2), below, above), bed(), measure.Metric), f.Path)
	if !f.Seek.Fits(tie) {
		t.Error("what both take does not fit between")
	}
	for name, change := range map[string]func(*material.Product){
		"itself":           func(q *material.Product) { q.ID = "high" },
		"the one below":    func(q *material.Product) { q.ID = "low" },
		"silent of below":  func(q *material.Product) { q.Over = nil },
		"silent of above":  func(q *material.Product) { q.Under = nil },
		"not over it":      func(q *material.Product) { q.Over = []string{"epoxy"} },
		"not under it":     func(q *material.Product) { q.Under = []material.Chemistry{"acrylic"} },
		"no fellow of top": func(q *material.Product) { q.Chemistry = "acrylic" },
	} {
		q := tie
		change(&q)
		if f.Seek.Fits(q) {
			t.Errorf("%s: fits between", name)
		}
	}
	patch(t, f.Seek.Fix(tie), finding.PatchStep{Op: "add", Path: "/surfaces/0/coats/1",
		Value: Coat{ID: "tie-between-3", Product: "tie", Amount: Amount{Basis: WetFilm, Value: 200e-6}}})
	// The sheet below can be the one that refuses.
	below, above = named("low", "epoxy"), named("high", "acrylic")
	below.Under, above.Over = []material.Chemistry{"epoxy", "novolac"}, []string{"epoxy"}
	one(t, Neighbours(laidOver(make([]Coat, 2), below, above), bed(), measure.Metric), f.Path,
		"the sheet of The low allows epoxy, novolac over it, not acrylic")
	above.Over = nil
	one(t, Neighbours(laidOver(make([]Coat, 2), below, above), bed(), measure.Metric), f.Path,
		"the sheet of The low allows epoxy, novolac over it, not acrylic")
}

func TestTooEarlyAndTooLateForTheNextCoat(t *testing.T) {
	const hour = measure.Hour
	a, b := named("a", "epoxy"), named("b", "polyurethane")
	at := func(wait measure.Span, w Window, on Bed, change func(*Coat)) []finding.Finding {
		coats := []Coat{{}, {Wait: &wait}}
		change(&coats[1])
		layers := laidOver(coats, a, b)
		layers[0].Window = w
		return Neighbours(layers, on, measure.Metric)
	}
	as := func(*Coat) {}
	w := Window{From: 4*hour + 720, Until: 20 * hour, At: 18}
	none(t, at(w.From, w, bed(), as))
	none(t, at(w.Until, w, bed(), as))
	f := one(t, at(w.From-2, w, bed(), as), "/surfaces/0/coats/1/wait", "planned 4.2 h",
		"The a takes the next coat from 4.2 h", "at 18 °C", "Wait longer")
	patch(t, f.Fix, finding.PatchStep{Op: "replace", Path: "/surfaces/0/coats/1/wait", Value: measure.Span(4*hour + 1200)})
	f = one(t, at(w.Until+2, w, bed(), as), "/surfaces/0/coats/1/wait", "window of The a closes 20 h after it at 18 °C",
		"Abrade and clean it, or lay coat 2 inside the window")
	patch(t, f.Fix, finding.PatchStep{Op: "add", Path: "/surfaces/0/coats/1/abraded", Value: true})
	a.Abrade = sheet(measure.Number(80))
	one(t, at(w.Until+2, w, bed(), as), "/surfaces/0/coats/1/wait", "Abrade it with P80 and clean it")
	w.Forecast = true
	one(t, at(w.Until+2, w, bed(), as), "/surfaces/0/coats/1/wait", "on the slab that the forecast brings")
	none(t, at(w.Until+2, w, bed(), func(c *Coat) { c.Abraded = true }))
	sands := bed()
	sands.Sands = true
	none(t, at(w.Until+2, w, sands, as))
	// too early stays too early
	one(t, at(w.From-2, w, sands, func(c *Coat) { c.Abraded = true }), "/surfaces/0/coats/1/wait")
	none(t, at(w.From-2, w, bed(), func(c *Coat) { c.Wait = nil }))
	none(t, at(w.From-2, w, bed(), func(c *Coat) { c.OverWet = true }))
	none(t, at(w.From-2, w, bed(), func(c *Coat) { c.When = OnTacky })) // told on the clock
	one(t, at(w.From-2, w, bed(), func(c *Coat) { c.When = NextMorning }), "/surfaces/0/coats/1/wait")
	none(t, at(hour, Window{}, bed(), as))
}

func TestWindowOfASheet(t *testing.T) {
	p := named("a", "epoxy")
	p.RecoatFrom = []material.TimeAt{{At: 10, After: 16 * measure.Hour}, {At: 20, After: 8 * measure.Hour}}
	p.RecoatUntil = []material.TimeAt{{At: 10, After: 60 * measure.Hour}, {At: 30, After: 24 * measure.Hour}}
	if w := WindowOf(&p, 20); !near(float64(w.From), 8*float64(measure.Hour), 1e-9) || w.Until <= 24*measure.Hour ||
		w.Until >= 60*measure.Hour || w.At != 20 || w.Outside {
		t.Errorf("%+v", w)
	}
	if w := WindowOf(&p, 25); !w.Outside {
		t.Errorf("25 °C lies outside one of the two: %+v", w)
	}
	// In the cold the next coat is waited for longer, but the window stays as long as the
	// sheet's coldest point says: 6 °C, by hand 60 h.
	if w := WindowOf(&p, 6); !near(float64(w.Until), 60*measure.Hour, 1e-9) || w.From <= 16*measure.Hour || !w.Outside {
		t.Errorf("at 6 °C: %+v", w)
	}
	if w := WindowOf(&p, 35); !w.Outside {
		t.Errorf("35 °C lies outside both: %+v", w)
	}
}

func TestSolventOverWhatIsNotHard(t *testing.T) {
	const hour = measure.Hour
	a, b := named("a", "epoxy"), named("b", "polyurethane")
	a.Foot = []material.TimeAt{{At: 20, After: 10*hour + 720}}
	b.Carrier = material.Solvent
	at := func(wait measure.Span, w Window, change func(*Coat)) []finding.Finding {
		coats := []Coat{{}, {Wait: &wait}}
		change(&coats[1])
		layers := laidOver(coats, a, b)
		layers[0].Window = w
		return Neighbours(layers, bed(), measure.Metric)
	}
	as := func(*Coat) {}
	none(t, at(10*hour+720, Window{}, as))
	f := one(t, at(10*hour, Window{}, as), "/surfaces/0/coats/1/wait", "brings solvent 10 h after coat 1",
		"hard only after 10.2 h at 20 °C")
	patch(t, f.Fix, finding.PatchStep{Op: "replace", Path: "/surfaces/0/coats/1/wait",
		Value: measure.Span(10*hour + 1200)})
	if f := one(t, at(10*hour, Window{Until: 10*hour + 1200}, as), "/surfaces/0/coats/1/wait"); f.Fix == nil {
		t.Error("the wait ends with the window and is not offered")
	}
	if f := one(t, at(10*hour, Window{Until: 10*hour + 1199}, as), "/surfaces/0/coats/1/wait"); f.Fix != nil {
		t.Errorf("offers a wait past the window: %+v", f.Fix)
	}
	none(t, at(10*hour, Window{From: hour}, as)) // the sheet's own window rules
	none(t, at(10*hour, Window{}, func(c *Coat) { c.Wait = nil }))
	a.Foot = nil
	none(t, at(hour, Window{}, as))
	a.Foot = []material.TimeAt{{At: 20, After: 10 * hour}}
	b.Carrier = material.NoCarrier
	none(t, at(hour, Window{}, as))
	b.ThinnerMax = &material.Portion{Value: 0.1, Of: material.OfAB}
	none(t, at(hour, Window{}, func(c *Coat) { c.Thinner = &material.Portion{Of: material.OfAB} }))
	one(t, at(hour, Window{}, func(c *Coat) { c.Thinner = &material.Portion{Value: 0.05, Of: material.OfAB} }),
		"/surfaces/0/coats/1/wait")
	// A product over itself goes by its own sheet.
	b.Carrier, b.ID = material.Solvent, "a"
	none(t, at(hour, Window{}, as))
}

func TestDampBelow(t *testing.T) {
	a := named("a", "epoxy")
	a.Damp = "harms"
	on := bed()
	on.Damp = 0.75
	none(t, Neighbours(laidOver(make([]Coat, 1), a), on, measure.Metric))
	on.Damp = 0.76
	f := one(t, Neighbours(laidOver(make([]Coat, 1), a), on, measure.Metric), "/surfaces/0/coats/0/product",
		"measured at 76%",
		"tolerates 75%", "moisture barrier")
	barrier := named("m", "epoxy")
	barrier.Kind, barrier.SlabHumidityMax = "moisture-barrier", sheet(measure.Fraction(0.76))
	if !f.Seek.Fits(barrier) {
		t.Error("a barrier that bears it does not fit")
	}
	for name, change := range map[string]func(*material.Product){
		"a primer":        func(q *material.Product) { q.Kind = "primer" },
		"without a limit": func(q *material.Product) { q.SlabHumidityMax = nil },
		"bears too little": func(q *material.Product) {
			q.SlabHumidityMax = sheet(measure.Fraction(0.755))
		},
		"does not go below": func(q *material.Product) { q.Under = []material.Chemistry{"acrylic"} },
	} {
		q := barrier
		change(&q)
		if f.Seek.Fits(q) {
			t.Errorf("%s: fits", name)
		}
	}
	patch(t, f.Seek.Fix(barrier), finding.PatchStep{Op: "add", Path: "/surfaces/0/coats/0",
		Value: Coat{ID: "m-barrier-2", Product: "m", Amount: Amount{Basis: WetFilm, Value: 200e-6}}})
	a.SlabHumidityMax = sheet(measure.Fraction(0.8))
	none(t, Neighbours(laidOver(make([]Coat, 1), a), on, measure.Metric))
	a.SlabHumidityMax, a.Damp = nil, "bears"
	none(t, Neighbours(laidOver(make([]Coat, 1), a), on, measure.Metric))
	// Only the coat on the slab meets it.
	a.Damp = "harms"
	none(t, Neighbours(laidOver(make([]Coat, 2), barrier, a), on, measure.Metric))
}
