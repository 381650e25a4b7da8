package bench

import (
	"strings"
	"testing"

	"nephelon/core/cure"
	"nephelon/core/measure"
)

// Parts brought from 30 to 20 °C in ice take an hour or so and nearly double the
// life of a batch (common practice, no source); what cannot be is said.
func TestCoolingTheParts(t *testing.T) {
	p := product(t, "hardtack-clear") // timed from 10 to 30 °C
	q := PartsQuestion{Mass: 9, From: 30, To: 20, Put: cure.IceBath, Batch: 6}
	a, err := Parts(p, q, measure.Metric)
	if err != nil || a.Takes < 0.2*measure.Hour || a.Takes > 3*measure.Hour || a.Then < 1.7*a.Now ||
		a.Then > 2.4*a.Now || a.Beyond {
		t.Errorf("%+v, %v", a, err)
	}
	van := q
	van.Put, van.Place = cure.Place, 8
	if slow, err := Parts(p, van, measure.Metric); err != nil || slow.Takes < 3*a.Takes {
		t.Errorf("in a van %+v, in ice %v (%v)", slow, a.Takes, err)
	}
	thick := q
	thick.Viscosity = 9000
	if slow, err := Parts(p, thick, measure.Metric); err != nil || slow.Takes <= a.Takes {
		t.Errorf("thick %v, thin %v (%v)", slow.Takes, a.Takes, err)
	}
	hot := q
	hot.From = 42
	if far, err := Parts(p, hot, measure.Metric); err != nil || !far.Beyond {
		t.Errorf("from 42 °C: %+v (%v)", far, err)
	}
	never := q
	never.To = 35
	if _, err := Parts(p, never, measure.Metric); err == nil || !strings.Contains(err.Error(), "never reaches 35 °C") {
		t.Errorf("warmed in ice: %v", err)
	}
}

// The fit of the bench tells what was timed beside the model, and a single figure
// that it is assumed.
func TestTheBenchShowsItsFit(t *testing.T) {
	p := product(t, "keelbody-100")
	a, err := Pail(p, Usual(p))
	if err != nil || a.Fit.Assumed || len(a.Fit.Misses) != len(p.PotLife)+len(p.Working) || a.Fit.Spread > 0.15 {
		t.Errorf("%+v, %v", a.Fit, err)
	}
	p.PotLife, p.Working = p.PotLife[:1], nil
	if a, err = Pail(p, Usual(p)); err != nil || !a.Fit.Assumed || len(a.Fit.Misses) != 1 {
		t.Errorf("%+v, %v", a.Fit, err)
	}
}

// Ice around a mixed pail changes what it would do, not what is promised.
func TestABathIsShownAndNotCounted(t *testing.T) {
	p := product(t, "keelbody-100")
	q := Usual(p)
	q.Mass = 0.3
	still, err := Pail(p, q)
	if err != nil {
		t.Fatal(err)
	}
	q.Standing = cure.InIce
	ice, err := Pail(p, q)
	if err != nil || ice.Life != still.Life || ice.Bath <= ice.Life*1.05 {
		t.Errorf("in ice %v promised, %v by the bath; in air %v (%v)", ice.Life, ice.Bath, still.Life, err)
	}
	if !strings.Contains(strings.Join(ice.Notes, " "), "Mix cards count no cooling after mixing start") {
		t.Errorf("%v", ice.Notes)
	}
	if still.Deepest <= 0 || still.MayStand <= 0 || still.Pail.Usable == nil {
		t.Errorf("deepest %v, may stand %v", still.Deepest, still.MayStand)
	}
}

// What goes with cooling and warming is said, and what a hardener or a sheet lacks.
func TestNotesOnParts(t *testing.T) {
	p := product(t, "hardtack-clear")
	least := measure.Temperature(16)
	p.MaterialMin = &measure.Sourced[measure.Temperature]{Value: least, Source: measure.Sheet}
	for _, c := range []struct {
		put      cure.Surrounding
		from, to measure.Temperature
		words    string
	}{
		{cure.IceBath, 24, 15, "Keep the lids closed"}, {cure.IceBath, 24, 15, "Its sheet requires parts of 16 °C"},
		{cure.WarmBath, 14, 24, "Warm parts are thin"}, {cure.Blanket, 14, 24, "No flame"},
	} {
		a, err := Parts(p, PartsQuestion{Mass: 9, From: c.from, To: c.to, Put: c.put, Batch: 6, Place: 5}, measure.Metric)
		if err != nil || !strings.Contains(strings.Join(a.Notes, " "), c.words) {
			t.Errorf("%s from %v to %v: %q, %v", c.put, c.from, c.to, a.Notes, err)
		}
	}
	silent := p
	silent.PotLife, silent.Viscosity = nil, nil
	for words, try := range map[string]func() error{
		"choose one of its hardeners": func() error {
			_, err := Parts(p, PartsQuestion{Hardener: "none-such"}, measure.Metric)
			return err
		},
		"has no pot life": func() error {
			_, err := Parts(silent, PartsQuestion{Mass: 1, From: 20, To: 15, Put: cure.IceBath}, measure.Metric)
			return err
		},
	} {
		if err := try(); err == nil || !strings.Contains(err.Error(), words) {
			t.Errorf("%v, want “%s”", err, words)
		}
	}
	unknown := p
	unknown.Viscosity = nil
	a, err := Parts(unknown, PartsQuestion{Mass: 9, From: 24, To: 18, Put: cure.Place, Batch: 6, Place: 5}, measure.Metric)
	if err != nil || !strings.Contains(strings.Join(a.Notes, " "), "viscosity is not known") {
		t.Errorf("%q, %v", a.Notes, err)
	}
}
