package survey

import (
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/school"
)

// A floor is rinsed an hour after its readings: what said that it was dry no longer counts, what
// said that it was too damp still stands, and what was read since decides.
func TestWetWorkMakesReadingsVoid(t *testing.T) {
	body := Coats{First: "Keelbody 100", Film: 0.001}
	judged := func(rinsed time.Time, readings ...Reading) []Verdict {
		scene := Scene{Now: now(), Wetted: &Wetted{Step: "rinse-again", Until: rinsed}}
		return Judge(Survey{Substrate: Concrete, Readings: readings}, body, nil, scene)
	}
	after, before := now().Add(-30*time.Minute), now().Add(-2*time.Hour)
	dry := []Reading{read(SlabHumidity, 0.6), read(Acidity, 8), read(SlabTemperature, 18), read(PullOff, 2e6)}
	told := judged(after, dry...)
	wetted := find(told, "wetted")
	if wetted.Fit != Unknown || !strings.Contains(wetted.Text, "rinse again") || !strings.Contains(wetted.Text, "pH") ||
		strings.Contains(wetted.Text, "pull-off") {
		t.Errorf("it says %q", wetted.Text)
	}
	if find(told, "moisture").Fit != Unknown || find(told, "slab-humidity").ID != "" || find(told, "ph").ID != "" {
		t.Errorf("readings from before the water decide: %+v", told)
	}
	if find(told, "pull-off").Fit != FitNow {
		t.Error("its strength is asked again, which water does not change")
	}
	if told := judged(before, dry...); find(told, "wetted").ID != "" || find(told, "slab-humidity").Fit != FitNow {
		t.Errorf("readings from after the water are void: %+v", told)
	}
	damp := judged(after, read(SlabHumidity, 0.88))
	if v := find(damp, "slab-humidity"); v.Fit != FitAfter || !v.Barrier {
		t.Errorf("a damp slab is drier for being wetted: %+v", damp)
	}
	// A reading of the same kind taken since takes its place, whatever it was before.
	since := read(SlabHumidity, 0.7)
	since.At = now().Add(-time.Minute)
	again := judged(after, read(SlabHumidity, 0.88), since)
	if find(again, "slab-humidity").Fit != FitNow || find(again, "wetted").ID != "" {
		t.Errorf("read again: %+v", again)
	}
}

// The steps that count as wet are those that the preparation marks as such.
func TestWetStepsAreThoseOfThePreparation(t *testing.T) {
	seen := make(map[string]bool)
	for _, s := range []Survey{{Substrate: Concrete, Contamination: []string{"oil"}}, {Substrate: Concrete},
		{Substrate: OldCoating}} {
		for _, opening := range []school.Opening{school.Etch, school.Grind} {
			p := Prepare(s, Extent{Area: 100, Perimeter: 40, People: 2},
				school.Methods{Opening: opening, OldPaint: school.StripGel}, nil)
			for _, task := range p.Tasks {
				if task.Wet != slices.Contains(WetSteps(), task.ID) {
					t.Errorf("%s: wet %t", task.ID, task.Wet)
				}
				seen[task.ID] = true
			}
		}
	}
	for _, step := range WetSteps() {
		if !seen[step] {
			t.Errorf("no preparation has %s", step)
		}
	}
}
