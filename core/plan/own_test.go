package plan

import (
	"math"
	"testing"

	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/record/learn"
)

// A plan by own floors has their figures, one by the sheet the former, and the more careful of both is the slower pace,
// the greater loss and the smaller spread.
func TestFiguresOfOwnFloors(t *testing.T) {
	f := demo(t, "baggage-hall")
	coat := &f.Job.Surfaces[0].Coats[1]
	product := coat.Product
	coat.Pace, coat.Loss = nil, nil
	for i := range f.Products {
		f.Products[i].Loss = nil
	}
	from := func(what learn.What, value float64) learn.Estimate {
		return learn.Estimate{What: what, Jobs: 4, Value: value, Offered: true}
	}
	shown := func(pace measure.Pace, estimates ...learn.Estimate) []learn.Learnt {
		var all []learn.Learnt
		for _, l := range []learn.Learnt{{Product: product, Pace: pace, Estimates: estimates},
			{Product: product, Pace: 99, Crew: "north", Estimates: estimates}} {
			for _, m := range f.Job.Methods.Laying.Values() {
				l.Method = m
				l.Surface = f.Job.Surfaces[0].Kind()
				all = append(all, l)
			}
		}
		return all
	}
	find := func(f job.File, learnt []learn.Learnt) map[string]OwnFigure {
		named := make(map[string]OwnFigure)
		for _, o := range OwnFigures(f, Make(f, measure.Metric, noon()), learnt) {
			named[o.Name] = o
		}
		return named
	}
	usual := float64(f.Job.Crew.Pace.Value)
	learnt := shown(measure.Pace(usual/2), from(learn.Pace, 2), from(learn.Loss, 0.09),
		learn.Estimate{What: learn.Covered, Value: 1, Jobs: 1})
	got := find(f, learnt)
	if len(got) != 2 {
		t.Fatalf("%+v", got)
	}
	pace, loss := got["pace"], got["loss"]
	if pace.Careful != ByFloors || *pace.Sheet != usual || pace.Floors != usual/2 || len(pace.ToSheet) != 0 ||
		pace.Jobs != 4 {
		t.Errorf("%+v", pace)
	}
	if loss.Careful != ByFloors || *loss.Sheet != 0.05 || loss.Floors != 0.09 {
		t.Errorf("%+v", loss)
	}
	own := patched(t, f, finding.Fix{Patch: append(pace.ToOwn, loss.ToOwn...)})
	made := Make(own, measure.Metric, noon())
	if c := made.Surfaces[0].Coats[1]; math.Abs(float64(c.Pace)/(usual/2)-1) > 1e-9 || c.Build.Loss.Value != 0.09 ||
		c.Build.Loss.Source != measure.OwnTest {
		t.Errorf("by own floors %v and %v", c.Pace, c.Build.Loss)
	}
	again := find(own, learnt)
	back := patched(t, own, finding.Fix{Patch: append(again["pace"].ToSheet, again["loss"].ToSheet...)})
	if c := back.Job.Surfaces[0].Coats[1]; c.Pace != nil || c.Loss != nil {
		t.Errorf("by the sheet %v and %v", c.Pace, c.Loss)
	}
	if quick := find(f, shown(measure.Pace(usual*2), from(learn.Pace, 0.5),
		from(learn.Loss, 0.02))); quick["pace"].Careful != BySheet || quick["loss"].Careful != BySheet {
		t.Errorf("%+v", quick)
	}
	// A practical amount has no loss, and is compared by what it covers, in the form that it is stated in.
	for i := range f.Products {
		if f.Products[i].ID == product {
			f.Products[i].Printed = &material.Printed{Basis: "spread", Value: 900, Figure: material.Practical}
		}
	}
	for _, amount := range []buildup.Amount{{Basis: buildup.SpreadRate, Value: 800},
		{Basis: buildup.AreaPerKit, Value: 12}, {Basis: buildup.MassPerArea, Value: 1.4, Figure: material.Practical}} {
		coat.Amount = amount
		got := find(f, shown(0, from(learn.Covered, 700), from(learn.Loss, 0.09)))
		covered, is := got["practical spread"]
		if !is || len(got) != 1 || covered.Careful != ByFloors || *covered.Sheet != 900 {
			t.Fatalf("%s: %+v", amount.Basis, got)
		}
		for want, steps := range map[float64][]finding.PatchStep{700: covered.ToOwn, 900: covered.ToSheet} {
			made := Make(patched(t, f, finding.Fix{Patch: steps}), measure.Metric, noon())
			if takes := float64(made.Surfaces[0].Coats[1].Build.Takes); math.Abs(takes/want-1) > 1e-9 {
				t.Errorf("%s: covers %v m²/m³, want %v", amount.Basis, takes, want)
			}
		}
	}
}
