package server_test

import (
	"net/http"
	"strings"
	"testing"

	"nephelon/core/bench"
	"nephelon/core/buildup"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/server/shelf"
)

// Two jobs buy together what they need, never those of another company, and what
// is no job is told.
func TestJobsAreBoughtForTogether(t *testing.T) {
	web := newServer(t)
	c := signedIn(t, web, "owner@"+addCompany(t))
	a, b := c.addJob(demoJob(t)), c.addJob(demoJob(t))
	both := got[plan.Together](t, c, http.MethodGet, "/api/purchase?job="+a.ID.String()+"&job="+b.ID.String(), nil)
	one := got[plan.Together](t, c, http.MethodGet, "/api/purchase?job="+a.ID.String(), nil)
	if len(both.Lines) == 0 || len(both.Lines) != len(one.Lines) || *both.Cost > 2**one.Cost {
		t.Fatalf("%d lines for %v, one job %d for %v", len(both.Lines), both.Cost, len(one.Lines), one.Cost)
	}
	for i, l := range both.Lines {
		if off := l.Need/one.Lines[i].Need - 2; off > 1e-9 || off < -1e-9 || len(l.Jobs) != 2 {
			t.Errorf("%s: %v for two, %v for one", l.Name, l.Need, one.Lines[i].Need)
		}
	}
	stranger := signedIn(t, web, "owner@"+addCompany(t))
	if status, text := stranger.send(http.MethodGet, "/api/purchase?job="+a.ID.String(), nil); status !=
		http.StatusNotFound {
		t.Errorf("another company's job: %d %s", status, text)
	}
	for _, query := range []string{"?job=pier", ""} {
		if status, text := c.send(http.MethodGet, "/api/purchase"+query, nil); status != http.StatusUnprocessableEntity {
			t.Errorf("%q: %d %s", query, status, text)
		}
	}
}

// The calculators of the bench over HTTP: an answer, or a sentence.
func TestTheCalculatorsOfTheBench(t *testing.T) {
	c := signedIn(t, newServer(t), "owner@"+addCompany(t))
	got[shelf.SheetState](t, c, http.MethodPut, "/api/shelf/resin", sheet("resin", "Pier resin"))
	amount := buildup.Amount{Basis: buildup.SpreadRate, Value: 5000}
	a := got[bench.SpreadAnswer](t, c, http.MethodPost, "/api/bench/resin/spread",
		bench.SpreadQuestion{Amount: amount, Area: 40, Loss: measure.Sourced[measure.Fraction]{Source: measure.OwnTest}})
	if off := float64(a.Need)/0.008 - 1; off > 1e-9 || off < -1e-9 || len(a.Workings) == 0 {
		t.Errorf("40 m² at 5 m²/L take %v", a.Need)
	}
	pumps := material.Pumps{Built: "equal", A: 30e-6, B: 30e-6}
	if s := got[bench.PumpAnswer](t, c, http.MethodPost, "/api/bench/resin/pump",
		bench.PumpQuestion{Pumps: pumps, Volume: 0.0009}); s.Strokes.A+s.Strokes.B < 30 {
		t.Errorf("%+v", s.Strokes)
	}
	for path, content := range map[string]any{
		"spread": bench.SpreadQuestion{Amount: buildup.Amount{Basis: buildup.WetFilm, Value: 4}, Area: 3,
			Loss: measure.Sourced[measure.Fraction]{Source: measure.OwnTest}},
		"pump": bench.PumpQuestion{Pumps: material.Pumps{Built: "ratio", A: 30e-6, B: 3e-6}, Volume: 0.001},
	} {
		if status, text := c.send(http.MethodPost, "/api/bench/resin/"+path, content); status !=
			http.StatusUnprocessableEntity || !strings.Contains(text, "detail") {
			t.Errorf("%s: %d %s", path, status, text)
		}
	}
}

// A crew of none and a bucket of nothing are refused by the field they stand in.
func TestNonsenseNamesItsField(t *testing.T) {
	c := signedIn(t, newServer(t), "owner@"+addCompany(t))
	for field, change := range map[string]func(*job.File){
		"body.job.crew.spreaders": func(f *job.File) { f.Job.Crew.Spreaders = 0 },
		"body.job.bucket.volume":  func(f *job.File) { f.Job.Bucket.Volume = 0 },
		"body.job.mixing.pumps.a": func(f *job.File) { f.Job.Mixing.Pumps = &material.Pumps{Built: "equal", B: 3e-5} },
		"body.job.buying[0].margin": func(f *job.File) {
			f.Job.Buying = []kit.Wish{{Product: "p", Least: "cost", Margin: 7}}
		},
		"body.job.bucket.headroom": func(f *job.File) { f.Job.Bucket.Headroom = 1 },
		"body.job.mixing.pumps.primin": func(f *job.File) {
			f.Job.Mixing.Pumps = &material.Pumps{Built: "equal", A: 3e-5,
				B: 3e-5, Priming: 90}
		},
	} {
		f := demoJob(t)
		change(&f)
		if status, text := c.send(http.MethodPost, "/api/jobs", f); status != http.StatusUnprocessableEntity ||
			!strings.Contains(text, field) {
			t.Errorf("%s: %d %s", field, status, text)
		}
	}
}
