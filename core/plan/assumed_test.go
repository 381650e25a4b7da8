package plan

import (
	"slices"
	"strings"
	"testing"

	"nephelon/core/facts"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// What is assumed is tried at both ends of its range: more loss buys more, a shorter pot life makes more batches, a
// later window makes the floor later, and what a sheet states is not tried.
func TestWhatAPlanRestsOn(t *testing.T) {
	f := demo(t, "baggage-hall")
	const second = 1 // Keelbody 100, the body coat
	body := &f.Products[second]
	for i := range f.Products {
		loss := measure.Sourced[measure.Fraction]{Value: 0.05, Source: measure.OwnTest}
		f.Products[i].Loss = &loss
	}
	planner := NewPlanner()
	ask := func() map[string]Assumed {
		t.Helper()
		all, err := planner.Assumptions(t.Context(), f, facts.At(noon()), measure.Metric)
		if err != nil {
			t.Fatal(err)
		}
		named := make(map[string]Assumed)
		for i, a := range all {
			if len(a.Ends) != 2 || a.Ends[0].Value > a.Value || a.Ends[1].Value < a.Value {
				t.Errorf("%s: %v lies outside its ends %+v", a.Name, a.Value, a.Ends)
			}
			if i > 0 && a.weight() > all[i-1].weight() {
				t.Errorf("%s changes more than %s, which stands before it", a.Name, all[i-1].Name)
			}
			name, is := strings.CutPrefix(a.Name, body.Name+", ")
			if is {
				named[name] = a
			}
		}
		return named
	}
	if all, err := planner.Assumptions(t.Context(), f, facts.At(noon()), measure.Metric); err != nil ||
		len(all) != 1 || all[0].Name != "slab temperature" || all[0].Ends[0].Value != 15 || all[0].Ends[1].Batches <= 0 {
		t.Errorf("%+v, %v", all, err)
	}
	entered := f
	entered.Job.Slab = &measure.Sourced[measure.Temperature]{Value: 12, Source: measure.Assumed}
	if all, err := planner.Assumptions(t.Context(), entered, facts.At(noon()), measure.Metric); err != nil ||
		len(all) != 1 || all[0].Value != 12 || all[0].Ends[0].Value != 7 {
		t.Errorf("a slab of 12 °C that was assumed: %+v, %v", all, err)
	}
	entered.Job.Slab.Source = measure.OwnTest
	if all, err := planner.Assumptions(t.Context(), entered, facts.At(noon()), measure.Metric); err != nil ||
		len(all) > 0 {
		t.Errorf("a slab that was measured: %+v, %v", all, err)
	}
	cold := f
	cold.Products = slices.Clone(f.Products)
	cold.Products[second].SlabMin = &measure.Sourced[measure.Temperature]{Value: 18, Source: measure.Sheet}
	if all, err := planner.Assumptions(t.Context(), cold, facts.At(noon()), measure.Metric); err != nil ||
		!strings.Contains(strings.Join(all[0].Ends[0].Troubles, " "), "18 °C") ||
		strings.Contains(strings.Join(all[0].Ends[1].Troubles, " "), "18 °C") {
		t.Errorf("a slab too cold for a sheet: %+v, %v", all, err)
	}
	if named := ask(); len(named) != 0 {
		t.Errorf("what its sheet states is said to be assumed: %+v", named)
	}
	body.Loss = &measure.Sourced[measure.Fraction]{Value: 0.05, Source: measure.Assumed}
	body.PotLife = []material.PotLife{{At: 20, Mass: 1, Lasts: 20 * measure.Minute, Source: measure.Assumed}}
	body.RecoatFrom = []material.TimeAt{{At: 20, After: 14 * measure.Hour, Source: measure.Assumed}}
	body.RecoatUntil, body.Working, body.TackFree = nil, nil, nil
	f.Job.Start = "2031-05-06T07:00:00"
	named := ask()
	if len(named) != 3 {
		t.Fatalf("%+v", named)
	}
	loss, life, from := named["usual loss"], named["pot life"], named["recoat from"]
	if loss.Value != 0.05 || loss.Ends[0].Kits > 0 || loss.Ends[1].Kits < 0 || loss.Ends[1].Cost == nil ||
		*loss.Ends[1].Cost < *loss.Ends[0].Cost || *loss.Ends[1].Cost <= 0 {
		t.Errorf("loss %+v", loss)
	}
	if life.Ends[0].Batches <= 0 || life.Ends[1].Batches > 0 || life.Ends[0].Kits != 0 {
		t.Errorf("pot life %+v", life)
	}
	if from.Ends[0].Ready > 0 || from.Ends[1].Ready <= 0 || from.Ends[1].Batches != 0 {
		t.Errorf("recoat from %+v", from)
	}
}
