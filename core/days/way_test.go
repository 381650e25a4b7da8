package days

import (
	"context"
	"errors"
	"strings"
	"testing"
	"time"

	"nephelon/core/facts"

	"nephelon/core/buildup"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/core/plan/stage"
	"nephelon/core/roster"
)

// trying plans jobs with changes, as far as a few rounds come.
func trying(house job.House, jobs []Job, now time.Time) Tried {
	return func(t Try) (*Calendar, *roster.Plan, error) {
		tried, err := t.Jobs(jobs, func(id string, f job.File) (Job, error) {
			return Job{ID: id, File: f, Plan: plan.Make(f, measure.Metric, now),
				Films: stage.FilmsOf(f, facts.At(now), measure.Metric, 0)}, nil
		})
		if err != nil {
			return nil, nil, err
		}
		c := Build(t.House(house), tried, nil, now, 6)
		o := c.Options()
		o.Rounds = 10
		p, err := c.Plan(context.Background(), o)
		return c, &p, err
	}
}

// found is the way out whose words hold a text.
func found(ways []WayOut, text string) *WayOut {
	for i := range ways {
		if strings.Contains(ways[i].Text, text) {
			return &ways[i]
		}
	}
	return nil
}

// A job that may be begun only after the day it is due is in time when it is begun sooner,
// whether the client's day or its own start holds it back. That costs nothing.
func TestAJobIsBegunSooner(t *testing.T) {
	now := time.Date(2026, 11, 30, 6, 0, 0, 0, time.UTC)
	for name, change := range map[string]func(*job.Job){
		"client": func(j *job.Job) { j.Earliest = "2027-01-04" },
		"start":  func(j *job.Job) { j.Start = "2027-01-04T08:00" },
	} {
		jobs := []Job{demo(t, "baggage-hall", now, func(j *job.Job) { j.Due = "2026-12-31"; change(j) })}
		house := job.House{Crews: []job.StandingCrew{{ID: "s", Name: "Skerry crew", People: 6,
			Skills: job.CrewsOf(job.House{})[0].Skills}}}
		try := trying(house, jobs, now)
		c, plain, err := try(Try{})
		if err != nil || plain.Cost[roster.Late] == 0 {
			t.Fatalf("%s: %v, %+v", name, err, plain.Cost)
		}
		ways, err := c.Ways(context.Background(), house, plain, try)
		if err != nil || found(ways, jobs[0].File.Job.Name+" starts before its earliest day") == nil ||
			ways[0].Try.Sooner != jobs[0].ID || ways[0].Late != 0 || ways[0].Cost != 0 {
			t.Errorf("%s: %+v, %v", name, ways, err)
		}
	}
}

// A window that opens and closes by night at any start of a working day is missed with the
// product's own hardener and kept with one that leaves two days; being lighter it takes more
// litres for its mass, which costs more. One that the slab is too cold for comes last, with
// that said.
func TestASlowerHardenerKeepsAWindow(t *testing.T) {
	now := time.Date(2026, 11, 30, 6, 0, 0, 0, time.UTC)
	base := demo(t, "baggage-hall", now, func(j *job.Job) {
		j.Slab = &measure.Sourced[measure.Temperature]{Value: 20}
		j.Surfaces = j.Surfaces[:1]
		j.Surfaces[0].Coats[0].Amount = buildup.Amount{Basis: buildup.MassPerArea, Value: 0.4}
	})
	at := func(hours float64) []material.TimeAt {
		return []material.TimeAt{{At: 20, After: measure.Span(hours) * measure.Hour, Source: measure.OwnTest}}
	}
	p := &base.File.Products[0]
	p.RecoatFrom, p.RecoatUntil = at(12), at(13)
	slow := material.Hardener{ID: "slow", Name: "ebb", Ratio: p.Ratio, A: 2, B: 1, Curing: p.Curing,
		Density: &measure.Sourced[measure.Density]{Value: 500}}
	slow.RecoatUntil = at(60)
	cold := slow
	cold.ID, cold.Name, cold.SlabMin = "cold", "flood", &measure.Sourced[measure.Temperature]{Value: 30}
	p.Hardeners = []material.Hardener{cold, slow}
	house := job.House{Crews: []job.StandingCrew{{ID: "s", Name: "Skerry crew", People: 6,
		Skills: job.CrewsOf(job.House{})[0].Skills}}}
	remade := func(f job.File) Job {
		return Job{ID: "hall", File: f, Plan: plan.Make(f, measure.Metric, now),
			Films: stage.FilmsOf(f, facts.At(now), measure.Metric, 0)}
	}
	jobs := []Job{remade(base.File)}
	try := trying(house, jobs, now)
	c, plain, err := try(Try{})
	if err != nil || plain.Cost[roster.Bought] == 0 {
		t.Fatalf("%v, %+v", err, plain.Cost)
	}
	ways, err := c.Ways(context.Background(), house, plain, try)
	if err != nil {
		t.Fatal(err)
	}
	w := found(ways, "takes the hardener ebb")
	if w == nil || !strings.Contains(w.Text, "coat 1 of ") || w.Bought >= int(plain.Cost[roster.Bought]) {
		t.Fatalf("%+v", ways)
	}
	then, _, err := try(w.Try)
	if err != nil || w.Cost <= 0 || w.Cost != *then.byJob["hall"].Plan.Cost-*jobs[0].Plan.Cost {
		t.Errorf("%v costs %v", err, w.Cost)
	}
	flood := ways[len(ways)-1]
	if !strings.Contains(flood.Text, "the hardener flood") || len(flood.Warns) == 0 ||
		!strings.Contains(strings.Join(flood.Warns, " "), "slab") || len(w.Warns) > 0 {
		t.Errorf("%+v", ways)
	}
	if jobs[0].File.Job.Surfaces[0].Coats[0].Hardener != "" {
		t.Error("the job itself has changed")
	}
	if _, err := (Try{Job: "hall", Coat: "gone"}).Jobs(jobs, nil); !errors.Is(err, ErrNoCoat) {
		t.Errorf("%v", err)
	}
}

// Every coat's hardeners are tried, those of the last one too, but none that makes nothing easier. By hand: of eight
// coats each has a quick hardener that is ready in half the time and a dull one that is as the sheet's own.
func TestHardenersOfAllCoatsAreTried(t *testing.T) {
	now := time.Date(2026, 11, 30, 6, 0, 0, 0, time.UTC)
	var jobs []Job
	coats := 0
	for _, id := range []string{"a", "b", "c"} {
		base := demo(t, "baggage-hall", now, func(j *job.Job) { j.Due = "2026-12-01" })
		for n := range base.File.Products {
			p := &base.File.Products[n]
			if len(p.Components) < 2 {
				continue
			}
			quick := material.Hardener{ID: "quick", Name: "quick", Ratio: p.Ratio, A: 2, B: 1, Curing: p.Curing,
				Density: &measure.Sourced[measure.Density]{Value: 1000}}
			dull := quick
			dull.ID = "dull"
			half := []material.TimeAt{{At: 20, After: measure.Hour, Source: measure.OwnTest}}
			quick.RecoatFrom, quick.Foot = half, half
			p.Hardeners = []material.Hardener{quick, dull}
		}
		for _, s := range base.File.Job.Surfaces {
			coats += len(s.Coats)
		}
		jobs = append(jobs, Job{ID: id, File: base.File, Plan: plan.Make(base.File, measure.Metric, now),
			Films: stage.FilmsOf(base.File, facts.At(now), measure.Metric, 0)})
	}
	tried := make(map[string]int)
	for _, try := range Build(job.House{}, jobs, nil, now, 6).tries(job.House{}, nil) {
		if try.Coat != "" {
			tried[try.Hardener]++
		}
	}
	if coats < 7 || tried["quick"] != coats || tried["dull"] != 0 {
		t.Errorf("%v of %d coats", tried, coats)
	}
}
