package days

import (
	"context"
	"fmt"
	"testing"
	"time"

	"nephelon/core/facts"

	"nephelon/core/job"
	"nephelon/core/plan/stage"
	"nephelon/core/roster/search"
)

// forty are forty jobs of a company of six crews, planned.
func forty(b *testing.B) (job.House, []Job, []Booked, time.Time) {
	b.Helper()
	now := time.Date(2026, 11, 30, 6, 0, 0, 0, time.UTC)
	var jobs []Job
	for n := range 40 {
		j := demo(b, "baggage-hall", now, nil)
		j.ID = fmt.Sprintf("job-%d", n)
		jobs = append(jobs, j)
	}
	house := job.House{}
	for n := range 6 {
		house.Crews = append(house.Crews, job.StandingCrew{ID: fmt.Sprintf("crew-%d", n), Name: fmt.Sprintf("Crew %d", n),
			People: 6, Skills: job.CrewsOf(job.House{})[0].Skills})
	}
	c := Build(house, jobs, nil, now, 10)
	o := c.Options()
	o.Rounds = 1
	p, err := search.Solve(context.Background(), c.Problem, o)
	if err != nil {
		b.Fatal(err)
	}
	return house, jobs, c.Booked(p, nil), now
}

// A re-check of all windows after a forecast has changed: the films of all jobs told anew, the
// calendar made, every booking looked at.
func BenchmarkRecheck(b *testing.B) {
	house, jobs, booked, now := forty(b)
	for b.Loop() {
		for i := range jobs {
			jobs[i].Films = stage.FilmsOf(jobs[i].File, facts.At(now), "metric", 0)
		}
		if broken := Build(house, jobs, booked, now, 10).Check(booked); len(broken) > 0 {
			b.Fatal(broken[0])
		}
	}
}

// Where a booking may be dragged, and why not where it is.
func BenchmarkDrag(b *testing.B) {
	house, jobs, booked, now := forty(b)
	for b.Loop() {
		c := Build(house, jobs, booked, now, 10)
		at := booked[len(booked)/2]
		if len(c.Places(booked, at.Job, at.Task)) == 0 {
			b.Fatal("nowhere")
		}
		_ = c.Why(booked, at.Job, at.Task, at.Crew, at.From.Add(-30*time.Minute))
	}
}
