package bench

import (
	"math"
	"strings"
	"testing"

	"nephelon/core/cure"
	"nephelon/core/measure"
)

// A warm pail lives shorter than a cold one, a thin film longer than the pail it comes from (the
// heat goes into the slab), and a bath is shown and never counted.
func TestPailByItsHeat(t *testing.T) {
	p := product(t, "hardtack-clear")
	q := Usual(p)
	at := func(change func(*PailQuestion)) PailAnswer {
		t.Helper()
		asked := q
		change(&asked)
		a, err := Pail(p, asked)
		if err != nil {
			t.Fatal(err)
		}
		return a
	}
	cool := at(func(q *PailQuestion) { q.A, q.B = 15, 15 })
	warm := at(func(q *PailQuestion) { q.A, q.B = 28, 28 })
	if !(warm.Life < cool.Life) || !near(float64(cool.Mixed), 15, 1e-9) || !near(float64(warm.Mixed), 28, 1e-9) {
		t.Errorf("at %v °C %v s, at %v °C %v s", cool.Mixed, cool.Life, warm.Mixed, warm.Life)
	}
	bath := at(func(q *PailQuestion) { q.Standing = cure.InIce })
	usual := at(func(*PailQuestion) {})
	if bath.Life != usual.Life || bath.Bath <= usual.Bath || len(bath.Notes) != len(usual.Notes)+1 {
		t.Errorf("in a bath %v s are counted and %v s shown; in the air %v and %v", bath.Life, bath.Bath, usual.Life,
			usual.Bath)
	}
	if len(usual.Pail.Moments) > 161 || len(usual.Surface.Masses) != surfaceMasses || len(usual.Stages) == 0 ||
		len(usual.Workings) != 1 {
		t.Errorf("%d moments, %d masses, %d stages", len(usual.Pail.Moments), len(usual.Surface.Masses),
			len(usual.Stages))
	}
	left := usual.Life
	if p.Mixing != nil {
		left -= p.Mixing.Value
	}
	if p.Induction != nil {
		left -= p.Induction.Value
	}
	if usual.Left != left {
		t.Errorf("%v s are left of %v", usual.Left, usual.Life)
	}
}

// What cannot be worked out is said: a product without a pot life, a hardener it does not have.
func TestPailRefusals(t *testing.T) {
	p := product(t, "hardtack-clear")
	q := Usual(p)
	q.Hardener = "none-such"
	if _, err := Pail(p, q); err == nil || !strings.Contains(err.Error(), "choose one of its hardeners") {
		t.Errorf("%v", err)
	}
	silent := p
	silent.PotLife = nil
	if _, err := Pail(silent, Usual(silent)); err == nil ||
		!strings.Contains(err.Error(), "has no pot life on its sheet") {
		t.Errorf("%v", err)
	}
}

// Each hardener is judged by the time that is needed and by the slab it may lie on.
func TestHardenersOfAPail(t *testing.T) {
	for _, id := range []string{"keelbody-100", "hardtack-clear", "gullwing-ur", "undertow-mb2"} {
		p := product(t, id)
		q := Usual(p)
		q.Needed = measure.Span(math.MaxInt32)
		none, err := Pail(p, q)
		if err != nil {
			continue // a single pack
		}
		q.Needed, q.Slab = 0, -8
		all, err := Pail(p, q)
		if err != nil || len(all.Hardeners) != len(p.Hardeners)+1 {
			t.Fatalf("%s: %+v, %v", id, all.Hardeners, err)
		}
		for i, h := range all.Hardeners {
			if none.Hardeners[i].Suffice || !h.Suffice || h.Name == "" || h.Ratio == "" {
				t.Errorf("%s: %+v, %+v", id, none.Hardeners[i], h)
			}
			if p.SlabMin != nil && i == 0 && h.Allowed {
				t.Errorf("%s: allowed on a slab of −8 °C", id)
			}
		}
	}
}

// A drawing keeps the first and the last moment, and no more than it can show.
func TestThinned(t *testing.T) {
	all := make([]cure.Moment, 1000)
	for i := range all {
		all[i].Time = measure.Span(i)
	}
	kept := thinned(all)
	if len(kept) != 161 || kept[0].Time != 0 || kept[160].Time != 999 {
		t.Errorf("%d from %v to %v", len(kept), kept[0].Time, kept[len(kept)-1].Time)
	}
	if few := thinned(all[:160]); len(few) != 160 {
		t.Errorf("%d of 160", len(few))
	}
}
