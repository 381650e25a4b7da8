package days

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"nephelon/core/roster"
	"nephelon/core/roster/search"
)

// Options are those of a planning that tells times by the clock.
func (c *Calendar) Options() search.Options {
	return search.Options{
		Seed: 1, When: func(s roster.Slot) string { return c.when(c.time(s)) },
		Length: func(s roster.Slot) string { return fmt.Sprintf("%.4g h", float64(s)*c.slot.Hours()) },
	}
}

// Without leaves a job out, with the reason.
func (c *Calendar) Without(job, text, way string) {
	name := c.byJob[job].File.Job.Name
	c.Problem.Jobs = slices.DeleteFunc(c.Problem.Jobs, func(j roster.Job) bool { return j.ID == job })
	c.Tasks = slices.DeleteFunc(c.Tasks, func(t Bookable) bool { return t.Job == job })
	clear(c.index)
	for n, t := range c.Tasks {
		c.index[t.key()] = n
	}
	delete(c.byJob, job)
	c.Left = append(c.Left, Unplanned{job, name, text, way})
}

// Plan schedules the calendar. A job that fits nowhere even by itself is left out, so that
// it does not keep the others from being planned. It fails as roster.Solve does.
func (c *Calendar) Plan(ctx context.Context, o search.Options) (roster.Plan, error) {
	for {
		made, err := search.Solve(ctx, c.Problem, o)
		var conflict *search.Conflict
		if !errors.As(err, &conflict) || !conflict.Proven || len(conflict.Tasks) == 0 {
			return made, err
		}
		alone := ""
		for _, task := range conflict.Tasks {
			job, _, _ := strings.Cut(task, "/")
			if alone != "" && alone != job {
				return made, err
			}
			alone = job
		}
		if len(c.Problem.Jobs) == 1 || c.pinned(alone) {
			return made, err // that is what was asked
		}
		c.Without(alone, conflict.Text, strings.Join(conflict.Ways, "; ")+".")
	}
}

// pinned reports whether somebody pinned a task of a job.
func (c *Calendar) pinned(job string) bool {
	for _, j := range c.Problem.Jobs {
		if j.ID == job {
			return slices.ContainsFunc(j.Tasks, func(t roster.Task) bool { return t.Start != nil })
		}
	}
	return false
}
