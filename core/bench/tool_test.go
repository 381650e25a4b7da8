package bench

import (
	"encoding/json"
	"math"
	"os"
	"slices"
	"strings"
	"testing"

	"nephelon/core/buildup"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
)

func near(a, b, relative float64) bool {
	return math.Abs(a-b) <= relative*math.Max(math.Abs(a), math.Abs(b))
}

// product is one of the demo's sheets.
func product(t testing.TB, id string) material.Product {
	t.Helper()
	text, err := os.ReadFile("../../demo/shelf.json")
	var shelf struct {
		Products []material.Product `json:"products"`
	}
	if err == nil {
		err = json.Unmarshal(text, &shelf)
	}
	if err != nil {
		t.Fatal(err)
	}
	at := slices.IndexFunc(shelf.Products, func(p material.Product) bool { return p.ID == id })
	if at < 0 {
		t.Fatalf("no product %s", id)
	}
	return shelf.Products[at]
}

// Handbook check values: 7 m²/L is 143 µm wet, 12 and 13 m²/L are 83 and 77 µm,
// 200 ft²/gal is 8.02 mil; a notch is about twice the film.
func TestSpreadByTheHandbook(t *testing.T) {
	p := product(t, "keelbody-100")
	for _, c := range []struct {
		spread float64
		want   measure.Film
	}{
		{7000, 143e-6}, {12000, 83e-6}, {13000, 77e-6}, {200 * measure.SqFoot / measure.Gallon, 8.02 * measure.Mil},
	} {
		a, err := Spread(p, SpreadQuestion{Amount: buildup.Amount{Basis: buildup.SpreadRate, Value: c.spread}, Area: 12},
			measure.Metric)
		if err != nil || math.Abs(float64(a.Wet/c.want)-1) > 5e-3 {
			t.Errorf("%v m²/m³ is %v, want %v (%v)", c.spread, a.Wet, c.want, err)
		}
		if !near(float64(a.Notch), 2*float64(a.Wet), 1e-12) || !near(float64(a.Need), 12/c.spread, 1e-9) {
			t.Errorf("notch %v, need %v", a.Notch, a.Need)
		}
	}
	// 12 m² × 400 µm ÷ (1 − 4 %) = 5 L; a notch three times the film is 1.2 mm.
	a, err := Spread(p, SpreadQuestion{
		Amount: buildup.Amount{Basis: buildup.WetFilm, Value: 400e-6}, Area: 12, Notch: 3,
		Loss: measure.Sourced[measure.Fraction]{Value: 0.04, Source: measure.OwnTest},
	}, measure.Metric)
	if err != nil || !near(float64(a.Need), 0.005, 1e-9) || !near(float64(a.Notch), 1.2e-3, 1e-9) || a.Purchase == nil ||
		len(a.Workings) < 4 {
		t.Errorf("%+v, %v", a, err)
	}
	for film, words := range map[float64]string{50e-6: "under its minimum film", 9e-3: "lay it in several coats"} {
		a, err := Spread(p, SpreadQuestion{Amount: buildup.Amount{Basis: buildup.WetFilm, Value: film}, Area: 12},
			measure.Metric)
		if err != nil || len(a.Notes) == 0 || !strings.Contains(a.Notes[0], words) {
			t.Errorf("%v m of a body coat: %v, %v", film, a.Notes, err)
		}
	}
	if _, err := Spread(p, SpreadQuestion{Amount: buildup.Amount{Basis: buildup.WetFilm, Value: 3}, Area: 1},
		measure.Metric); err == nil || !strings.Contains(err.Error(), "Check the unit") {
		t.Errorf("a film of 3 m: %v", err)
	}
	if _, err := Spread(p, SpreadQuestion{Hardener: "none"}, measure.Metric); err == nil {
		t.Error("an unknown hardener passes")
	}
}

// The bench counts strokes as the cards do, and says why it cannot.
func TestThePumpsOfTheBench(t *testing.T) {
	p := product(t, "hardtack-clear") // 2 : 1 by volume
	a, err := Pump(p, PumpQuestion{Pumps: material.Pumps{Built: "equal", A: 30e-6, B: 30e-6}, Volume: 0.0018},
		measure.Metric)
	if err != nil || a.Strokes.A != 40 || a.Strokes.B != 20 || len(a.Workings) != 1 {
		t.Errorf("%+v, %v", a, err)
	}
	if _, err := Pump(p, PumpQuestion{Pumps: material.Pumps{Built: "ratio", A: 30e-6, B: 30e-6}, Volume: 0.0018},
		measure.Metric); err == nil || !strings.Contains(err.Error(), "needs 2 : 1") {
		t.Errorf("1 : 1 pumps: %v", err)
	}
	paint := product(t, "causeway-2c")
	paint.Components = paint.Components[:1]
	if _, err := Pump(paint, PumpQuestion{Pumps: material.Pumps{Built: "equal", A: 30e-6, B: 30e-6}, Volume: 0.0018},
		measure.Metric); err == nil || !strings.Contains(err.Error(), "pumps are for two parts") {
		t.Errorf("a single-pack paint: %v", err)
	}
}

// What the bench tells has its working, with the sheet's own pot life in it.
func TestTheBenchOpensItsWorking(t *testing.T) {
	p := product(t, "hardtack-clear")
	q := Usual(p)
	a, err := Pail(p, q)
	if err != nil || len(a.Workings) != 1 {
		t.Fatalf("%v, %v", a.Workings, err)
	}
	w := a.Workings[0]
	if w.Result.SI != float64(a.Life) || w.Inputs[3].SI < float64(a.Life)*0.98 || w.Inputs[3].SI > float64(a.Life)*1.02 {
		t.Errorf("at the sheet's mass and temperature %v, the sheet says %v", a.Life, w.Inputs[3].SI)
	}
	check, err := kit.CheckRatio(&p, kit.Weighed{Masses: []measure.Mass{2, 1}, Bucket: 0.02}, measure.Metric)
	if err != nil || len(check.Workings) != 1 || check.Workings[0].Result.SI != float64(check.Off) {
		t.Errorf("%+v, %v", check.Workings, err)
	}
}

// A practical coverage takes area ÷ coverage, by hand 30 m² at 12 m²/L: 2.5 L; as theoretical, with 20 % of
// loss, 2.5 ÷ 0.8 = 3.125 L, which cover 9.6 m² a litre in practice.
func TestPracticalSpread(t *testing.T) {
	p := product(t, "keelbody-100")
	ask := func(figure buildup.Figure) SpreadAnswer {
		a, err := Spread(p, SpreadQuestion{Area: 30,
			Loss:   measure.Sourced[measure.Fraction]{Value: 0.2, Source: measure.OwnTest},
			Amount: buildup.Amount{Basis: buildup.SpreadRate, Value: 12000, Figure: figure}}, measure.Metric)
		if err != nil {
			t.Fatal(err)
		}
		return a
	}
	for figure, want := range map[buildup.Figure][2]float64{"": {0.0025, 12000}, material.Practical: {0.0025, 12000},
		material.Theoretical: {0.003125, 9600}} {
		if a := ask(figure); math.Abs(float64(a.Need)-want[0]) > 1e-12 || math.Abs(float64(a.Takes)-want[1]) > 1e-6 {
			t.Errorf("%q: %v m³, %v m²/m³", figure, a.Need, a.Takes)
		}
	}
	if _, err := Spread(p, SpreadQuestion{Area: 30, Amount: buildup.Amount{Basis: buildup.WetFilm, Value: 1}},
		measure.Metric); err == nil {
		t.Error("a film of a metre is spread")
	}
	if _, err := Spread(p, SpreadQuestion{Hardener: "none"}, measure.Metric); err == nil {
		t.Error("a hardener that is none is taken")
	}
	none := p
	none.Kits = nil
	if a, err := Spread(none, SpreadQuestion{Area: 30, Amount: buildup.Amount{Basis: buildup.WetFilm, Value: 3e-4}},
		measure.Metric); err != nil || a.Purchase != nil || len(a.Notes) == 0 {
		t.Errorf("nothing is sold: %+v, %v", a.Notes, err)
	}
}
