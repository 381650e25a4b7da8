package plan

import (
	"slices"
	"strings"
	"testing"

	"nephelon/core/buildup"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/school"
	"nephelon/core/survey"
)

// What is scattered and what preparation takes is bought together, too. By hand: two floors of 40 m² at 0.5 kg/m²
// are 40 kg: one box of 60 kg where each would open its own; the tape of both is one line; flake that both
// reserved is taken off once.
func TestJobsBuyTheirOthersTogether(t *testing.T) {
	s := demoShelf(t)
	made := func(name string) job.File {
		f := laidJob(t, s, with(coat("shoalbody-f", 500), func(c *buildup.Coat) {
			c.Scatter = &buildup.Scatter{Medium: "flake-mudflat", Degree: "light",
				Mass: &measure.Sourced[measure.Coverage]{Value: 0.5, Source: measure.OwnTest}}
		}))
		f.Job.Name = name
		f.Job.Surfaces[0].Survey = &survey.Survey{Substrate: survey.Concrete}
		price := 200.0
		for n := range f.Media {
			if f.Media[n].ID == "flake-mudflat" {
				f.Media[n].Spare, f.Media[n].Packs = nil, []material.Pack{{Name: "box of 60 kg", Amount: 60, Price: &price}}
			}
		}
		return f
	}
	other := func(files ...job.File) SharedOther {
		got, err := BuyTogether(files, measure.Metric, noon())
		if err != nil {
			t.Fatal(err)
		}
		at := slices.IndexFunc(got.Others, func(o SharedOther) bool { return strings.HasPrefix(o.Name, "Mudflat") })
		tape := slices.IndexFunc(got.Others, func(o SharedOther) bool { return o.Name == survey.Tape })
		if at < 0 || tape < 0 || len(got.Others[tape].Jobs) != len(files) {
			t.Fatalf("%+v", got.Others)
		}
		return got.Others[at]
	}
	a, b := made("Quay"), made("Weigh house")
	o := other(a, b)
	if !near(o.Value, 40, 1e-9) || len(o.Jobs) != 2 || *o.Cost != 200 || *o.Apart != 400 || o.Lines[0].Count != 1 {
		t.Errorf("%+v", o)
	}
	held := kit.Container{ID: "c", Sheet: "flake-mudflat", Part: "medium", Mass: 15}
	a.Job.Stock, b.Job.Stock = []kit.Container{held}, []kit.Container{held}
	if o := other(a, b); !near(o.Stock, 15, 1e-9) {
		t.Errorf("%v kg in stock", o.Stock)
	}
}

// Two jobs that buy together need what they need apart, and never pay more; a
// container that both reserved counts once.
func TestJobsBuyTogether(t *testing.T) {
	s := demoShelf(t)
	a, b := laidJob(t, s, coat("undertow-mb2", 260)), laidJob(t, s, coat("undertow-mb2", 300), coat("hardtack-clear", 200))
	b.Job.Name = "Weigh house"
	got, err := BuyTogether([]job.File{a, b}, measure.Metric, noon())
	if err != nil {
		t.Fatal(err)
	}
	pa, pb := Make(a, measure.Metric, noon()), Make(b, measure.Metric, noon())
	line := got.Lines[0]
	if line.Product != "undertow-mb2" || len(line.Jobs) != 2 || line.Jobs[1].Job != "Weigh house" {
		t.Fatalf("%+v", line)
	}
	if want := pa.Purchases[0].Need + pb.Purchases[0].Need; !near(float64(line.Need), float64(want), 1e-12) {
		t.Errorf("together %v, apart %v", line.Need, want)
	}
	if *got.Apart != *pa.Cost+*pb.Cost || *got.Cost > *got.Apart {
		t.Errorf("%v together, %v apart (%v and %v)", *got.Cost, *got.Apart, *pa.Cost, *pb.Cost)
	}
	if line.Bought < line.Need {
		t.Errorf("%v for a need of %v", line.Bought, line.Need)
	}
	held := kit.Container{ID: "c", Sheet: "undertow-mb2", Part: "kit", Volume: 5.4 * measure.Litre}
	a.Job.Stock, b.Job.Stock = []kit.Container{held}, []kit.Container{held}
	got, err = BuyTogether([]job.File{a, b}, measure.Metric, noon())
	if err != nil || !near(float64(got.Lines[0].InStock), 0.0054, 1e-9) ||
		!slices.ContainsFunc(got.Notes, func(n string) bool { return strings.Contains(n, "counts once") }) {
		t.Errorf("%v in stock, notes %v, %v", got.Lines[0].InStock, got.Notes, err)
	}
	newer := b
	newer.Products = slices.Clone(b.Products)
	newer.Products[0].Version += 2
	got, err = BuyTogether([]job.File{a, newer}, measure.Metric, noon())
	if err != nil || !slices.ContainsFunc(got.Notes,
		func(n string) bool { return strings.Contains(n, "the newer one counts here") }) {
		t.Errorf("editions that differ: %v, %v", got.Notes, err)
	}
	// Sheets of one id that contradict each other are bought by themselves, each for its job.
	other := b
	other.Products = slices.Clone(b.Products)
	other.Products[0].Components = slices.Clone(b.Products[0].Components)
	other.Products[0].Components[0].Parts *= 1.5
	got, err = BuyTogether([]job.File{a, other}, measure.Metric, noon())
	if err != nil || !slices.ContainsFunc(got.Notes,
		func(n string) bool { return strings.Contains(n, "contradict each other") }) {
		t.Errorf("sheets that contradict each other: %v, %v", got.Notes, err)
	}
	if got.Lines[0].Need != pa.Purchases[0].Need || got.Lines[1].Product != "undertow-mb2" || len(got.Lines[1].Jobs) != 1 {
		t.Errorf("%+v", got.Lines)
	}
	b.Job.Currency = "USD"
	if _, err := BuyTogether([]job.File{a, b}, measure.Metric, noon()); err == nil ||
		!strings.Contains(err.Error(), "price them in one currency") {
		t.Errorf("two currencies: %v", err)
	}
}

// What is past its date counts by the rule of the job that reserved it, whichever
// stands first.
func TestEachJobsShelfLifeRule(t *testing.T) {
	s := demoShelf(t)
	lax, strict := laidJob(t, s, coat("undertow-mb2", 260)), laidJob(t, s, coat("undertow-mb2", 300))
	lax.Job.Methods.Shelf = school.IfSealed
	lax.Job.Stock = []kit.Container{{ID: "mine", Sheet: "undertow-mb2", Part: "kit", Volume: 5.4 * measure.Litre,
		Expires: "2020-01-31"}}
	strict.Job.Stock = []kit.Container{{ID: "theirs", Sheet: "undertow-mb2", Part: "kit", Volume: 5.4 * measure.Litre,
		Expires: "2020-01-31"}}
	for _, order := range [][]job.File{{lax, strict}, {strict, lax}} {
		got, err := BuyTogether(order, measure.Metric, noon())
		if err != nil || !near(float64(got.Lines[0].InStock), 0.0054, 1e-9) || got.Lines[0].Stock[0].Container != "mine" {
			t.Errorf("%v in stock of %+v (%v)", got.Lines[0].InStock, got.Lines[0].Stock, err)
		}
	}
}
