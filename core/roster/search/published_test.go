package search

import (
	"context"
	"fmt"
	"testing"
	"time"

	"nephelon/core/roster"
)

// Two job shops that are in print, with their least lengths: ft06 (Fisher and Thompson,
// “Probabilistic learning combinations of local job-shop scheduling rules”, in: Industrial
// Scheduling, 1963) and la01 (Lawrence, “Resource constrained project scheduling”, 1984).
// Their data and lengths are from memory; that the lengths come out speaks for them.
func TestPublishedJobShops(t *testing.T) {
	for _, shop := range []struct {
		name   string
		length int64
		steps  [][]roster.Slot // machine and length in turn
	}{
		{"ft06", 55, [][]roster.Slot{
			{2, 1, 0, 3, 1, 6, 3, 7, 5, 3, 4, 6},
			{1, 8, 2, 5, 4, 10, 5, 10, 0, 10, 3, 4},
			{2, 5, 3, 4, 5, 8, 0, 9, 1, 1, 4, 7},
			{1, 5, 0, 5, 2, 5, 3, 3, 4, 8, 5, 9},
			{2, 9, 1, 3, 4, 5, 5, 4, 0, 3, 3, 1},
			{1, 3, 3, 3, 5, 9, 0, 10, 4, 4, 2, 1},
		}},
		{"la01", 666, [][]roster.Slot{
			{1, 21, 0, 53, 4, 95, 3, 55, 2, 34},
			{0, 21, 3, 52, 4, 16, 2, 26, 1, 71},
			{3, 39, 4, 98, 1, 42, 2, 31, 0, 12},
			{1, 77, 0, 55, 4, 79, 2, 66, 3, 77},
			{0, 83, 3, 34, 2, 64, 1, 19, 4, 37},
			{1, 54, 2, 43, 4, 79, 0, 92, 3, 62},
			{3, 69, 4, 77, 1, 87, 2, 87, 0, 93},
			{2, 38, 0, 60, 1, 41, 3, 24, 4, 83},
			{3, 17, 1, 49, 4, 25, 0, 44, 2, 98},
			{4, 77, 3, 79, 2, 43, 1, 75, 0, 96},
		}},
	} {
		p := roster.Problem{Format: roster.Format, Version: roster.Version, SlotMinutes: 1, Horizon: 2000}
		for m := range len(shop.steps[0]) / 2 {
			p.Machines = append(p.Machines, roster.Machine{ID: fmt.Sprint("m", m), Capacity: 1})
		}
		for j, steps := range shop.steps {
			job := roster.Job{ID: fmt.Sprint("j", j)}
			for k := 0; k < len(steps); k += 2 {
				task := roster.Task{ID: fmt.Sprint("t", k/2), Duration: steps[k+1], Machines: []string{fmt.Sprint("m", steps[k])},
					Unattended: true}
				if k > 0 {
					task.After = []roster.After{{Task: fmt.Sprint("t", k/2-1)}}
				}
				job.Tasks = append(job.Tasks, task)
			}
			p.Jobs = append(p.Jobs, job)
		}
		ctx, cancel := context.WithTimeout(t.Context(), time.Minute)
		plan, err := Solve(ctx, p, Options{Seed: 1})
		cancel()
		if err != nil {
			t.Fatal(err)
		}
		if fault, cost := broken(p, plan.Bookings); fault != "" || cost != plan.Cost ||
			plan.Cost[roster.Finish] != shop.length ||
			!plan.Optimal() {
			t.Errorf("%s: %s %v, optimal %v", shop.name, fault, plan.Cost, plan.Optimal())
		}
	}
}
