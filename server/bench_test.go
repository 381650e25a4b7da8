package server_test

import (
	"net/http"
	"strings"
	"testing"

	"nephelon/core/bench"
	"nephelon/core/cure"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/server/calculators"
	"nephelon/server/shelf"
)

// The bench answers for a pail what a plan would, chooses between hardeners, and
// says no in a sentence.
func TestTheBench(t *testing.T) {
	c := signedIn(t, newServer(t), "owner@"+addCompany(t))
	resin := sheet("resin", "Pier resin")
	resin.PotLife = []material.PotLife{{At: 20, Mass: 3, Lasts: 1800, Source: measure.Sheet}}
	resin.Mixing = &measure.Sourced[measure.Span]{Value: 180, Source: measure.Sheet}
	resin.Hardeners = []material.Hardener{{ID: "slow", Name: "slow", Ratio: resin.Ratio, A: 3, B: 1,
		Curing: material.Curing{PotLife: []material.PotLife{{At: 20, Mass: 3, Lasts: 3600, Source: measure.Sheet}}}}}
	got[shelf.SheetState](t, c, http.MethodPut, "/api/shelf/resin", resin)
	start := got[calculators.BenchStart](t, c, http.MethodGet, "/api/bench/resin", nil)
	if start.Usual.Mass != 3 || start.Usual.Film <= 0 {
		t.Fatalf("%+v", start.Usual)
	}
	q := start.Usual
	q.Needed = 40 * measure.Minute
	a := got[bench.PailAnswer](t, c, http.MethodPost, "/api/bench/resin", q)
	if a.Life < 1795 || a.Life > 1805 || a.Left != a.Life-180 || len(a.Surface.Lives) != len(a.Surface.Temperatures) ||
		a.Pail.Gel == nil {
		t.Errorf("life %v, left %v", a.Life, a.Left)
	}
	if len(a.Hardeners) != 2 || a.Hardeners[0].Suffice || !a.Hardeners[1].Suffice || a.Hardeners[1].Name != "slow" {
		t.Errorf("%+v", a.Hardeners)
	}
	if a.Spread.Peak.Temperature > a.Pail.Peak.Temperature {
		t.Error("a film gets hotter than the pail")
	}
	hot := q
	hot.A, hot.B, hot.Mass, hot.Standing = 30, 26, 12, cure.InShade
	if b := got[bench.PailAnswer](t, c, http.MethodPost, "/api/bench/resin", hot); b.Life >= a.Life*0.65 ||
		b.Mixed <= 26 || b.Mixed >= 30 || !b.Beyond || b.Pail.Smokes == nil {
		t.Errorf("hot: %v at %v", b.Life, b.Mixed)
	}
	check := got[kit.RatioCheck](t, c, http.MethodPost, "/api/bench/resin/ratio?hardener=slow",
		kit.Weighed{Masses: []measure.Mass{3, 0.8}, Bucket: 0.02})
	if check.Verdict != kit.Spoilt || len(check.Save) != 1 || check.Save[0].Name != "B" {
		t.Errorf("%+v", check)
	}
	for path, content := range map[string]any{
		"/api/bench/resin/ratio": kit.Weighed{Masses: []measure.Mass{3, 0}, Bucket: 0.02},
		"/api/bench/resin":       bench.PailQuestion{Mass: 3, Film: 1e-3, Hardener: "tepid"},
	} {
		if status, text := c.send(http.MethodPost, path, content); status != http.StatusUnprocessableEntity ||
			!strings.Contains(text, "detail") {
			t.Errorf("%s: %d %s", path, status, text)
		}
	}
	paint := sheet("paint", "Quay paint")
	paint.Components = paint.Components[:1]
	got[shelf.SheetState](t, c, http.MethodPut, "/api/shelf/paint", paint)
	if status, text := c.send(http.MethodPost, "/api/bench/paint", q); status != http.StatusUnprocessableEntity ||
		!strings.Contains(text, "a single-pack paint has none") {
		t.Errorf("a single-pack paint: %d %s", status, text)
	}
}
