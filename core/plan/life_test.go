package plan

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"nephelon/core/facts"

	"nephelon/core/buildup"
	"nephelon/core/cure"
	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/survey"
)

func warm(f *job.File, celsius measure.Temperature) {
	f.Job.Mixing.A = &measure.Sourced[measure.Temperature]{Value: celsius, Source: measure.OwnTest}
	f.Job.Mixing.Air = f.Job.Mixing.A
}

func limit(t *testing.T, f job.File, kind kit.LimitKind) kit.Limit {
	t.Helper()
	d := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0].Division
	if d == nil {
		t.Fatal("no batches")
	}
	at := slices.IndexFunc(d.Limits, func(l kit.Limit) bool { return l.Kind == kind })
	if at < 0 {
		t.Fatalf("no limit %s: %v", kind, d.Limits)
	}
	return d.Limits[at]
}

// Heat never allows a larger batch, and a batch at the limit is spread exactly
// when the life that so large a batch has left is over.
func TestHeatShrinksBatches(t *testing.T) {
	s := demoShelf(t)
	for _, product := range []string{"hardtack-clear", "keelbody-100", "slipstream-pa", "undertow-mb2"} {
		f := laidJob(t, s, coat(product, 300))
		f.Job.Bucket.Volume = 0.2 // so that the pot life decides
		last := measure.Volume(1)
		for celsius := measure.Temperature(10); celsius <= 34; celsius += 4 {
			warm(&f, celsius)
			l := limit(t, f, kit.ByPotLife)
			if l.Volume > last {
				t.Errorf("%s: %v at %v °C after %v when it was cooler", product, l.Volume, celsius, last)
			}
			last = l.Volume
		}
	}
	f := laidJob(t, s, coat("hardtack-clear", 300))
	f.Job.Bucket.Volume = 0.2
	l := limit(t, f, kit.ByPotLife)
	in, _ := input.Read(f, facts.At(noon()), measure.Metric)
	done, err := NewPlanner().Run(t.Context(), in)
	if err != nil {
		t.Fatal(err)
	}
	sheet := in.Sheets[material.SheetKey{Product: "hardtack-clear"}]
	p, mix := sheet.Product, sheet.Mix
	life := done.Divided.Lives[sheet].Of(mix.Density.Value.Of(l.Volume))
	build := f.Job.Surfaces[0].Coats[0].Build(p, mix, buildup.Under{Area: 40})
	spread := float64(l.Volume) / (float64(build.Need) / 40) / (2 * 45.0 / measure.Hour)
	if left := float64(life - p.Mixing.Value - measure.Minute); !near(left, spread, 1e-4) {
		t.Errorf("%v s are left, spreading takes %v s", left, spread)
	}
}

// What is said to relax a limit does: with one more person the batch may
// be as large as told.
func TestWhatRelaxesALimit(t *testing.T) {
	s := demoShelf(t)
	f := laidJob(t, s, coat("shoalbody-f", 400))
	f.Job.Bucket.Volume = 0.05
	warm(&f, 28)
	d := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0].Division
	if d.Limits[0].Kind != kit.ByPotLife {
		t.Fatalf("%v", d.Limits)
	}
	said := strings.Join(d.Relax, "\n")
	f.Job.Crew.Spreaders = 3
	if more := limit(t, f, kit.ByPotLife).Volume; !strings.Contains(said,
		"One more person: "+measure.Metric.Volume(more)+" instead of "+measure.Metric.Volume(d.Limits[0].Volume)) {
		t.Errorf("three spread %v; it said %s", measure.Metric.Volume(more), said)
	}
	f.Job.Crew.Spreaders = 2
	f.Job.Mixing.A = &measure.Sourced[measure.Temperature]{Value: 22, Source: measure.OwnTest}
	if cool := limit(t, f, kit.ByPotLife).Volume; !strings.Contains(said,
		"Parts at 22 °C: "+measure.Metric.Volume(cool)+" instead of ") {
		t.Errorf("at 22 °C %v; it said %s", measure.Metric.Volume(cool), said)
	}
	if !strings.Contains(said, "The slow hardener: ") {
		t.Errorf("nothing of the slow hardener: %s", said)
	}
	f.Job.Methods.Kits = "third"
	warm(&f, 15)
	if d := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0].Division; d.Limits[0].Kind != kit.ByPolicy ||
		len(d.Relax) != 1 || !strings.HasPrefix(d.Relax[0], "Whole kits: ") {
		t.Errorf("by thirds of a kit: %v %v", d.Limits[0], d.Relax)
	}
}

// A pail too big to be left standing is called out; parts outside their sheet
// are; ice and shade count for nothing, a warm bath does.
func TestWhatThePailMeets(t *testing.T) {
	s := demoShelf(t)
	f := laidJob(t, s, coat("hardtack-clear", 400))
	says := func(f job.File, words string) bool {
		return slices.ContainsFunc(Make(f, measure.Metric, noon()).Findings,
			func(found finding.Finding) bool { return strings.Contains(found.Text, words) })
	}
	if !says(f, "left standing heats itself and smokes") {
		t.Error("a full pail does not smoke")
	}
	both := laidJob(t, s, coat("hardtack-clear", 400), coat("keelbody-100", 900))
	if !says(both, "Hardtack Clear, ") || !says(both, "; Keelbody 100, ") {
		t.Error("two products that smoke are not told in one note")
	}
	paint := laidJob(t, s, coat("causeway-2c", 140))
	if says(paint, "left standing heats itself") {
		t.Error("a thin solvent-borne paint smokes")
	}
	warm(&f, 33)
	if !says(f, "at 33 °C is outside the range of its sheet, 10 °C to 30 °C") {
		t.Error("an extrapolated life is not told")
	}
	keel := laidJob(t, s, coat("keelbody-100", 900))
	warm(&keel, 9)
	if !says(keel, "Keelbody 100: its parts come at 9 °C and are warmed to 15 °C first") {
		t.Error("cold parts are not told")
	}
	old := laidJob(t, s, coat("drumlin-seal", 200))
	if !says(old, "does not say on which mass its pot life was measured") {
		t.Error("an unknown mass is not told")
	}
	f.Job.Bucket.Volume = 0.2
	warm(&f, 26)
	in := make(map[string]measure.Volume)
	for _, standing := range []string{"", "shade", "ice", "warm"} {
		f.Job.Mixing.Standing = cure.Standing(standing)
		in[standing] = limit(t, f, kit.ByPotLife).Volume
	}
	if in["ice"] != in[""] || in["shade"] != in[""] || in["warm"] >= in[""] {
		t.Errorf("%v", in)
	}
	carry := measure.Span(6 * measure.Minute)
	f.Job.Mixing.Standing, f.Job.Mixing.Carry = "", &carry
	if carried := limit(t, f, kit.ByPotLife).Volume; carried >= in[""] {
		t.Errorf("carried for 6 min it may be %v, at once %v", carried, in[""])
	}
	f.Job.Bucket.Pail = &kit.Pail{Bottom: 0.26, Top: 0.3, Height: 0.36}
	if !says(f, "The pail as measured holds 22.2 L, but the bucket is entered with 200 L") {
		t.Error("a pail that is not the bucket is not told")
	}
	carry = 5 * measure.Hour
	if refused := Make(f, measure.Metric, noon()).Refused(); len(refused) != 1 ||
		!strings.Contains(refused[0].Text, "ends before mixing, standing and carrying") {
		t.Errorf("carried for five hours: %v", texts(refused))
	}
}

// A deep pour that heats itself is called out with what may be poured, a thin one
// is not; what a sheet allows to be mixed at once bounds a batch.
func TestHeatBoundsAPourAndAMix(t *testing.T) {
	s := demoShelf(t)
	deep := laidJob(t, s, coat("keelbody-100", 14000))
	told := saying(Make(deep, measure.Metric, noon()), "in one pour would heat itself to about")
	if told == nil || !strings.Contains(told.Text, "stay under 60 °C. Its sheet allows 2.6 mm") {
		t.Errorf("14 mm: %+v", told)
	}
	thin := laidJob(t, s, coat("keelbody-100", 2200))
	if told := saying(Make(thin, measure.Metric, noon()), "would heat itself"); told != nil {
		t.Errorf("2.2 mm: %+v", told)
	}
	thin.Products[0].MixMax = &measure.Sourced[measure.Mass]{Value: 4.5, Source: measure.Sheet}
	d := Make(thin, measure.Metric, noon()).Surfaces[0].Coats[0].Division
	if d.Limits[0].Kind != kit.BySheet || d.Batches[0].Mass > 4.5*1.0001 {
		t.Errorf("%+v, %v kg a batch", d.Limits[0], d.Batches[0].Mass)
	}
}

// A sheet that is stricter than the contractor's rules is kept to, a laxer one
// is not. At 20 °C and 70 % the dew point is 14.4 °C, 4.1 K below a slab of
// 18.5 °C.
func TestTheSheetsConditionsRule(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 900)) // 3 K above the dew point
	f.Job.Surfaces[0].Survey = &survey.Survey{Readings: []survey.Reading{
		{ID: "h", Kind: survey.AirHumidity, Value: 0.7, At: noon()},
		{ID: "a", Kind: survey.AirTemperature, Value: 20, At: noon()},
		{ID: "s", Kind: survey.SlabTemperature, Value: 18.5, At: noon()},
	}}
	dew := func() survey.Verdict {
		all := Make(f, measure.Metric, noon()).Surfaces[0].Survey.Verdicts
		return all[slices.IndexFunc(all, func(v survey.Verdict) bool { return v.ID == "dew-point" })]
	}
	if v := dew(); v.Closed() {
		t.Errorf("3 K are kept: %+v", v)
	}
	f.Products[0].DewMargin = &measure.Sourced[measure.Temperature]{Value: 5, Source: measure.Sheet}
	if v := dew(); !v.Closed() || !strings.Contains(v.From, "sheet of Keelbody 100") {
		t.Errorf("the sheet's 5 K are not kept to: %+v", v)
	}
	f.Job.Rules = []survey.Own{{ID: "dew-margin", Value: 6, Source: measure.OwnTest}}
	if v := dew(); !v.Closed() || strings.Contains(v.From, "sheet") {
		t.Errorf("the contractor's stricter 6 K are not kept to: %+v", v)
	}
}

// What cannot be mixed ends in a sentence with a way out, never in a number that
// is none, and never in a loop.
func TestWhatCannotBeMixedIsSaid(t *testing.T) {
	cases := []struct {
		name   string
		change func(*job.File)
		says   string
	}{
		{"a crew of none", func(f *job.File) { f.Job.Crew.Spreaders = 0 }, "Nobody is there to spread."},
		{"a crew that does not move", func(f *job.File) { f.Job.Crew.Pace.Value = 0 },
			"The pace is not one a person can spread at."},
		{"a thimble for a bucket", func(f *job.File) { f.Job.Bucket.Volume = 20e-6 },
			"more than 400 batches would be needed"},
		{"no room beside the paddle", func(f *job.File) { f.Job.Bucket.Headroom = 1 },
			"more than 400 batches would be needed"},
		{"an hour of mixing", func(f *job.File) {
			f.Products[0].Mixing = &measure.Sourced[measure.Span]{Value: measure.Hour, Source: measure.Sheet}
		}, "ends before mixing, standing and carrying are done"},
		{"no size sold", func(f *job.File) {
			for i := range f.Products[0].Kits {
				f.Products[0].Kits[i].Gone = true
			}
		}, "no size of Hardtack Clear is sold any more"},
		{"parts at the boil", func(f *job.File) { warm(f, 95) }, "Part A comes at 95 °C"},
		{"a slab below all cold", func(f *job.File) {
			f.Job.Slab = &measure.Sourced[measure.Temperature]{Value: -300, Source: measure.OwnTest}
		}, "The slab is planned for −300 °C"},
		{"a slab past all heat", func(f *job.File) {
			f.Job.Slab = &measure.Sourced[measure.Temperature]{Value: 1e308, Source: measure.OwnTest}
		}, "The slab is planned for "},
		{"a life that no rate gives", func(f *job.File) {
			f.Products[0].Kinetics = &cure.Kinetics{A1: 1e-300, E1: 0, Cp: 1800, Gel: 0.6}
		}, "its pot life cannot be worked out"},
	}
	for _, c := range cases {
		f := laidJob(t, demoShelf(t), coat("hardtack-clear", 250))
		c.change(&f)
		p := Make(f, measure.Metric, noon())
		told := saying(p, c.says)
		if told == nil || told.WayOut == "" {
			t.Errorf("%s: %v", c.name, texts(p.Findings))
		}
		if _, err := json.Marshal(p); err != nil {
			t.Errorf("%s: %v", c.name, err)
		}
	}
}
