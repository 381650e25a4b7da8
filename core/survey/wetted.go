package survey

import (
	"slices"
	"strings"
	"time"
)

// WetSteps returns the ids of the preparation that brings water onto the surface.
func WetSteps() []string {
	return []string{"degrease", "strip", "wet", "etch", "rinse", "neutralise", "rinse-again"}
}

// Wetted holds the last wet work on a surface that is over.
type Wetted struct {
	Step  string // one of WetSteps
	Until time.Time
}

// wetReadings returns the kinds of reading that water on the surface makes void.
func wetReadings() []ReadingKind {
	return []ReadingKind{SlabHumidity, Carbide, Emission, Sheet, Meter, Acidity}
}

// void returns the readings that still count after wet work, and the kinds of which none does any
// more: common practice, no source.
func void(all []Reading, w *Wetted) (left []Reading, lost []ReadingKind) {
	if w == nil {
		return all, nil
	}
	for _, r := range all {
		if !slices.Contains(wetReadings(), r.Kind) || r.At.After(w.Until) {
			left = append(left, r)
		}
	}
	for _, kind := range wetReadings() {
		of := func(r Reading) bool { return r.Kind == kind }
		if slices.ContainsFunc(all, of) && !slices.ContainsFunc(left, of) {
			lost = append(lost, kind)
		}
	}
	return left, lost
}

// wetted reports which readings wet work made void. A slab that was too damp before is no drier for
// it: what stood against the coats then stands until it is read again.
func (j *judge) wetted(lost []ReadingKind, before []Verdict) {
	if len(lost) == 0 {
		return
	}
	for _, v := range before {
		again := slices.ContainsFunc(j.all, func(w Verdict) bool { return w.ID == v.ID })
		damp := v.ID == "slab-humidity" || v.ID == "carbide" || v.ID == "emission" || v.ID == "plastic-sheet"
		if damp && !again && (v.Fit == FitAfter || v.Fit == Unfit) {
			j.all = append(j.all, v)
		}
	}
	names := make([]string, len(lost))
	for n, kind := range lost {
		names[n] = kind.Words()
	}
	j.say("wetted", Unknown, "common practice", "Read it again once it is dry.",
		"The surface was wet until %s (%s). Readings from before then no longer count: %s.",
		j.scene.Units.Time(j.scene.Wetted.Until, "2 Jan, 15:04"), strings.ReplaceAll(j.scene.Wetted.Step, "-", " "),
		strings.Join(names, ", "))
}
