package plan

import (
	"strings"
	"testing"

	"nephelon/core/measure"
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
