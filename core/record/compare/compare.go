// Package compare tells how two issued plans differ for a crew. It knows issued plans alone.
package compare

import (
	"fmt"
	"math"
	"time"

	"nephelon/core/measure"
	"nephelon/core/record"
)

// Change is a difference between two plans, in a sentence with its figures.
type Change struct {
	Coat string `json:"coat,omitempty" doc:"Id of the coat"`
	Text string `json:"text"`
}

// Plans returns how a plan differs from one that was issued: what a crew would mix, pour
// and wait for otherwise. Nothing where they are the same to them.
func Plans(old, now *record.Issue, units measure.System) []Change {
	all := []Change{}
	say := func(coat, text string, args ...any) { all = append(all, Change{coat, fmt.Sprintf(text, args...)}) }
	for n := range old.Coats {
		was := &old.Coats[n]
		is := now.Coat(was.ID)
		name := fmt.Sprintf("%s, coat %d", old.Surface(was.Surface).Name, was.Number)
		if is == nil {
			say(was.ID, "%s (%s) is no longer poured.", name, was.Name)
			continue
		}
		if is.Name != was.Name {
			say(was.ID, "%s is %s instead of %s.", name, is.Name, was.Name)
		}
		if differ(float64(is.Wet), float64(was.Wet)) {
			say(was.ID, "%s lies %s wet instead of %s.", name, units.Film(is.Wet), units.Film(was.Wet))
		}
		if len(is.Batches) != len(was.Batches) {
			say(was.ID, "%s takes %d batches instead of %d.", name, len(is.Batches), len(was.Batches))
		} else {
			for k := range is.Batches {
				one, other := &is.Batches[k].Card, &was.Batches[k].Card
				if differ(float64(one.Mass), float64(other.Mass)) {
					say(was.ID, "%s, batch %d: %s instead of %s.", name, one.Batch, units.Mass(one.Mass), units.Mass(other.Mass))
				}
				if differ(float64(one.Area), float64(other.Area)) {
					say(was.ID, "%s, section %d: %s instead of %s.", name, one.Section, units.Area(one.Area), units.Area(other.Area))
				}
			}
		}
		switch {
		case is.Start == nil && was.Start == nil:
		case is.Start == nil:
			say(was.ID, "%s has no start any more.", name)
		case was.Start == nil:
			say(was.ID, "%s starts %s.", name, spoken(*is.Start, now.Zone, units))
		case math.Abs(is.Start.Sub(*was.Start).Seconds()) >= 60:
			say(was.ID, "%s starts %s instead of %s.", name, spoken(*is.Start, now.Zone, units),
				spoken(*was.Start, old.Zone, units))
		}
		if is.Abrade != was.Abrade {
			say(was.ID, "%s: the coat below %s.", name,
				map[bool]string{true: "is abraded before it now", false: "need not be abraded any more"}[is.Abrade])
		}
	}
	for n := range now.Coats {
		if is := &now.Coats[n]; old.Coat(is.ID) == nil {
			say(is.ID, "%s, coat %d (%s) is poured, too.", now.Surface(is.Surface).Name, is.Number, is.Name)
		}
	}
	return all
}

// differ reports whether two figures differ by more than anybody weighs or measures.
func differ(a, b float64) bool { return math.Abs(a-b) > 0.005*math.Max(math.Abs(a), math.Abs(b)) }

// spoken is a time in words, by the clock of a zone.
func spoken(t time.Time, zone string, units measure.System) string {
	return units.Time(record.Sited(t, zone), "Mon 2 Jan 15:04")
}
