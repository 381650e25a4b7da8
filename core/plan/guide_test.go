package plan

import (
	"strings"
	"testing"
	"time"

	"nephelon/core/measure"
	"nephelon/core/plan/stage"
	"nephelon/core/record"
	"nephelon/core/survey"
	"nephelon/core/work"
)

// Worked by hand: 2.4 L of acid and 9.6 L of water for 60 m² are 12 L; a bucket of 10 L takes 8 and 2 L and does 50 m².
// In two passes the list holds twice as much, and a bucket does as much of one pass.
func TestABucketOfAcid(t *testing.T) {
	step := survey.PreparationTask{ID: "etch", Items: []survey.Supply{
		{Name: "Muriatic acid, into the water", Kind: measure.KindVolume, Value: 0.0024},
		{Name: "Water, first into the bucket", Kind: measure.KindVolume, Value: 0.0096}}}
	plain := func(s string) string { return strings.NewReplacer("\u202f", " ", "\u00a0", " ").Replace(s) }
	want := "One bucket: 8 L of water, then 2 L of muriatic acid. It does 50 m²."
	if got := plain(perBucket(&step, 60, measure.Metric)); got != want {
		t.Errorf("%q, want %q", got, want)
	}
	step.Passes = 2
	for n := range step.Items {
		step.Items[n].Value *= 2
	}
	if got := plain(perBucket(&step, 60, measure.Metric)); got != want {
		t.Errorf("twice: %q, want %q", got, want)
	}
	// 2 US gal of 12 L · 2: 1.6 and 0.4 gal, for 60 · 2 · 7.571/24 = 37.85 m², 407.5 ft².
	if got := plain(perBucket(&step, 60, measure.US)); !strings.Contains(got, "407.5 ft²") {
		t.Error(got)
	}
	// Citric acid is weighed: 1.2 kg to 10 L of water, first of all.
	step = survey.PreparationTask{ID: "etch", Items: []survey.Supply{
		{Name: "Citric acid", Kind: measure.KindMass, Value: 2.4},
		{Name: "Water, first into the bucket", Kind: measure.KindVolume, Value: 0.02}}}
	want = "One bucket: 10 L of water, then 1.2 kg of citric acid. It does 30 m²."
	if got := plain(perBucket(&step, 60, measure.Metric)); got != want {
		t.Error(got)
	}
	step.ID = "rinse"
	if got := perBucket(&step, 60, measure.Metric); got != "" {
		t.Errorf("a rinse is not carried in buckets: %s", got)
	}
}

// Each task of preparation and each test that a plan is issued with says how it is done.
func TestEveryTaskIsGuided(t *testing.T) {
	for _, verdict := range []string{"moisture", "plastic-sheet", "slab-humidity", "carbide", "emission", "water-drop",
		"ph", "pull-off", "profile"} {
		if howToTest(verdict) == "" {
			t.Errorf("no word on how to test %s", verdict)
		}
	}
	for _, verdict := range []string{"plastic-sheet/read", "slab-humidity/read", "emission/read", "moisture/read"} {
		if howToTest(verdict) == howToTest(strings.TrimSuffix(verdict, "/read")) {
			t.Errorf("%s is set and read in the same words", verdict)
		}
	}
	s := SurfacePlan{}
	if all := guides(&s, []work.Task{{Kind: work.Retest}}, measure.Metric); all != nil {
		t.Errorf("nothing was surveyed: %+v", all)
	}
}

// A probe is set without a reading, and read against the limit of the survey: 75 % by the method, or the sheet's own.
func TestATestAsksForItsReading(t *testing.T) {
	coats := survey.Coats{First: "Tern Base", HumidityMax: &measure.Sourced[measure.Fraction]{Value: 0.8}}
	scene := survey.Scene{Now: time.Date(2031, 3, 4, 7, 0, 0, 0, time.UTC), Units: measure.Metric}
	surveyed := survey.Survey{Substrate: survey.Concrete, Profile: 1, Readings: []survey.Reading{
		{Kind: survey.SlabHumidity, Value: 0.91, At: scene.Now}, {Kind: survey.Acidity, Value: 11, At: scene.Now}}}
	s := SurfacePlan{Bare: Bare{ID: "s", Survey: &stage.SurveyPlan{Preparation: &survey.Preparation{},
		Verdicts: survey.Judge(surveyed, coats, nil, scene)}}}
	task := func(id, closes string) work.Task {
		return work.Task{Kind: work.Retest, Surface: "s", ID: work.ID("surface/s/retest/" + id), Closes: closes}
	}
	asked := func(least, most float64) func(a *record.Ask) bool {
		return func(a *record.Ask) bool {
			return a != nil && (a.Least == nil && least == 0 || a.Least != nil && *a.Least == least) && *a.Most == most
		}
	}
	tests := map[string]struct {
		task work.Task
		fits func(a *record.Ask) bool
	}{
		"set":     {task("slab-humidity", ""), func(a *record.Ask) bool { return a == nil }},
		"read":    {task("slab-humidity/read", "wet"), asked(0, 0.8)},
		"ph":      {task("ph", "high"), asked(6, 9)},
		"profile": {task("profile", "closed"), asked(1, 3)},
		"drop":    {task("water-drop", "beads"), func(a *record.Ask) bool { return a == nil }},
	}
	for name, test := range tests {
		all := guides(&s, []work.Task{test.task}, measure.Metric)
		if len(all) != 1 || !test.fits(all[0].Asks) {
			t.Errorf("%s: %+v", name, all)
		}
	}
}
