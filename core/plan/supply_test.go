package plan

import (
	"math"
	"slices"
	"testing"

	"nephelon/core/buildup"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/school"
	"nephelon/core/survey"
)

// What preparation takes is bought once, in packs, with its price in the line. By hand: 40 m² of open concrete, etched
// with citric acid: ammonia by its film, no water; tape 1.1 times the walls, in rolls of 50 m, counted by the
// preparation alone; a litre of ammonia in cans of 0.5 L at 3 each.
func TestPreparationIsBoughtOnce(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 800))
	f.Job.Surfaces[0].Survey = &survey.Survey{Substrate: survey.Concrete}
	f.Job.Methods.Opening, f.Job.Methods.Acid = school.Etch, school.Citric
	plain := Make(f, measure.Metric, noon())
	need := func(p Plan, name string) SupplyNeed {
		at := slices.IndexFunc(p.Supplies, func(n SupplyNeed) bool { return n.Name == name })
		if at < 0 {
			t.Fatalf("%s is not bought: %+v", name, p.Supplies)
		}
		return p.Supplies[at]
	}
	for _, n := range plain.Supplies {
		if n.Kind == measure.KindVolume && n.Name != "Ammonia" {
			t.Errorf("%s is bought", n.Name)
		}
	}
	walls := float64(plain.Surfaces[0].Takeoff.Perimeter)
	tape := need(plain, survey.Tape)
	if math.Abs(tape.Value-1.1*walls) > 1e-9 || len(tape.Lines) != 1 ||
		tape.Lines[0].Count != int(math.Ceil(1.1*walls/50)) {
		t.Errorf("%+v for %v m", tape, walls)
	}
	counts := func(p Plan, id string) bool {
		return slices.ContainsFunc(p.Tools, func(k kit.Tool) bool { return k.ID == id })
	}
	if counts(plain, "tool-tape") || counts(plain, "tool-caulk") || !counts(plain, "tool-bucket") {
		t.Errorf("counted twice, or not at all: %+v", plain.Tools)
	}
	ammonia := need(plain, "Ammonia")
	if ammonia.Cost != nil || len(ammonia.Lines) != 0 {
		t.Errorf("%+v", ammonia)
	}
	price := 3.0
	f.Media = append(f.Media, material.Medium{ID: "ammonia", Name: "ammonia", Kind: "supply", Unit: measure.KindVolume,
		Packs: []material.Pack{{Name: "can", Amount: 0.0005, Price: &price}}})
	hour := 40.0
	f.Job.HourCost = &hour
	dear := Make(f, measure.Metric, noon())
	cans := math.Ceil(ammonia.Value / 0.0005)
	if got := need(dear, "Ammonia"); got.Cost == nil || *got.Cost != 3*cans || got.Medium != "ammonia" {
		t.Errorf("%+v, want %v cans", got, cans)
	}
	if math.Abs(dear.Line.Others-plain.Line.Others-3*cans) > 1e-9 || dear.Line.Lacking != plain.Line.Lacking-1 ||
		*dear.Line.Labour != 40*float64(dear.Line.Effort)/measure.Hour || plain.Line.Labour != nil {
		t.Errorf("%+v after %+v", dear.Line, plain.Line)
	}
	// Where nothing was surveyed, the walls count the tape.
	f.Job.Surfaces[0].Survey = nil
	if p := Make(f, measure.Metric, noon()); !counts(p, "tool-tape") || len(p.Supplies) != 0 {
		t.Errorf("%+v", p.Supplies)
	}
}

// A packet of 1 kg to a kit of 16.2 L is 61.7 g/L, whatever the dose beside it says; a packet that is sold no more is
// told, and the dose planned with.
func TestGritInPacketsToAKit(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("undertow-mb2", 300))
	kitOf := f.Products[slices.IndexFunc(f.Products, func(p material.Product) bool { return p.ID == "undertow-mb2" })].Kits
	whole := kitOf[slices.IndexFunc(kitOf, func(k material.Kit) bool { return k.Volume != nil })]
	f.Media = append(f.Media, material.Medium{ID: "grip", Name: "Grip", Kind: "grit",
		Packs: []material.Pack{{Name: "packet", Amount: 1}}})
	grit := func(pack string) Plan {
		f.Job.Surfaces[0].Coats[0].Grit = &buildup.Grit{Medium: "grip",
			Dose:  measure.Sourced[measure.Content]{Value: 10, Source: measure.OwnTest},
			Packs: &buildup.PacksToKit{Count: 1, Pack: pack, Kit: whole.Name}}
		return Make(f, measure.Metric, noon())
	}
	mass := func(p Plan) float64 { return float64(p.Surfaces[0].Coats[0].Build.Additions[0].Mass) }
	p := grit("packet")
	need := float64(p.Surfaces[0].Coats[0].Build.Need)
	if want := need / float64(*whole.Volume); math.Abs(mass(p)-want) > 1e-9 || saying(p, "not sold any more") != nil {
		t.Errorf("%v kg, want %v", mass(p), want)
	}
	if gone := grit("sack"); math.Abs(mass(gone)-10*need) > 1e-9 || saying(gone, "not sold any more") == nil {
		t.Errorf("%v kg, want %v", mass(gone), 10*need)
	}
}
