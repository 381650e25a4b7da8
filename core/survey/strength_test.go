package survey

import (
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/measure"
	"nephelon/core/school"
)

// The strengths of acid and neutraliser by hand: 100 m² take 30 L of neutraliser, 1 in
// 20 of it ammonia or 1 in 10 by a cautious school; acid as wanted, down to 1 : 1.
func TestStrengthsOfAcidAndNeutraliser(t *testing.T) {
	etch := school.Methods{Opening: school.Etch}
	for _, c := range []struct{ acid, neutraliser float64 }{{4, 20}, {1, 10}} {
		g := Extent{Area: 100, People: 2, Rules: Rules([]Own{
			{ID: "acid-water", Value: c.acid, Source: measure.OwnTest},
			{ID: "neutraliser-water", Value: c.neutraliser, Source: measure.OwnTest},
		})}
		p := Prepare(Survey{Substrate: Concrete}, g, etch, nil)
		var water, ammonia float64
		for _, task := range p.Tasks {
			if task.ID != "neutralise" {
				continue
			}
			for _, i := range task.Items {
				switch i.Name {
				case "Ammonia":
					ammonia = i.Value
				case "Water":
					water = i.Value
				}
			}
		}
		if math.Abs(water/ammonia-c.neutraliser) > 1e-9 || math.Abs(water+ammonia-0.03) > 1e-9 {
			t.Errorf("1 : %v: %v m³ of ammonia in %v of water", c.neutraliser, ammonia, water)
		}
		if got := item(p, "Water, first into the bucket") / item(p, "Muriatic acid"); math.Abs(got-c.acid) > 1e-9 {
			t.Errorf("%v of water to one of acid, wanted %v", got, c.acid)
		}
	}
	// Nobody's rule: the usual strengths.
	usual := Prepare(Survey{Substrate: Concrete}, Extent{Area: 10}, etch, nil)
	if got := item(usual, "Water, first into the bucket") / item(usual, "Muriatic acid"); math.Abs(got-4) > 1e-9 {
		t.Errorf("%v of water to one of acid", got)
	}
}

// One damp corner decides, but only among the readings of the last day: what was read
// ten days ago has dried.
func TestTheWorstReadingOfTheLastDay(t *testing.T) {
	at := func(hours int, value float64) Reading {
		return Reading{Kind: SlabHumidity, Value: value, At: now().Add(-time.Duration(hours) * time.Hour)}
	}
	for name, c := range map[string]struct {
		readings []Reading
		fit      Fit
		says     string
	}{
		"one damp corner":         {[]Reading{at(3, 0.62), at(2, 0.84), at(1, 0.6)}, FitAfter, "84%"},
		"damp, but ten days ago":  {[]Reading{at(240, 0.93), at(2, 0.71), at(1, 0.6)}, FitNow, "71%"},
		"damp, almost a day ago":  {[]Reading{at(23, 0.8), at(0, 0.6)}, FitAfter, "80%"},
		"damp, more than one ago": {[]Reading{at(25, 0.8), at(0, 0.6)}, FitNow, "60%"},
	} {
		v := find(Judge(Survey{Substrate: Concrete, Readings: c.readings}, Coats{First: "x", Film: 1e-3}, nil,
			Scene{Now: now(), Units: measure.Metric}), "slab-humidity")
		if v.Fit != c.fit || !strings.Contains(v.Text, c.says) {
			t.Errorf("%s: %s, %q", name, v.Fit, v.Text)
		}
	}
}

// Grits between coats are those of the sheets below, not one for all.
func TestGritsOfTheSheets(t *testing.T) {
	g := Extent{Area: 40, Coats: 3, Abraded: 2, People: 2, Grits: []int{80, 120}}
	p := Prepare(Survey{Substrate: Concrete}, g, school.Methods{}, nil)
	at := slices.IndexFunc(p.Tasks, func(t PreparationTask) bool { return t.ID == BetweenCoats })
	if at < 0 || !strings.HasPrefix(p.Tasks[at].How, "P80, P120 by the sheets") ||
		!strings.Contains(p.Tasks[at].Name, "2 times") {
		t.Errorf("%v", p.Tasks)
	}
	g.Grits, g.Abraded = nil, 0
	if p := Prepare(Survey{Substrate: Concrete}, g, school.Methods{}, nil); slices.ContainsFunc(p.Tasks,
		func(t PreparationTask) bool { return t.ID == BetweenCoats }) {
		t.Error("sanding is planned unasked")
	}
}

// A door's stop line follows the contractor's rule.
func TestTheLineAtADoor(t *testing.T) {
	how := func(m school.Methods) string {
		for _, task := range Prepare(Survey{Substrate: Concrete}, Extent{Area: 40, Perimeter: 26, Doors: 2}, m, nil).Tasks {
			if task.ID == "mask" {
				return task.How
			}
		}
		return ""
	}
	if under, beyond := how(school.Methods{}), how(school.Methods{Doors: school.BeyondDoor}); !strings.Contains(under,
		"under the closed door") || !strings.Contains(beyond, "beyond the door leaf") ||
		!strings.Contains(under, "release strip") {
		t.Errorf("%q, %q", under, beyond)
	}
}
