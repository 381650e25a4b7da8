package search

import (
	"errors"
	"math/rand/v2"
	"reflect"
	"slices"
	"strings"
	"testing"

	"nephelon/core/roster"
)

// alone returns a problem of the named tasks only, with the gaps between them.
func only(p roster.Problem, tasks []string) roster.Problem {
	p.Before = nil
	jobs := p.Jobs
	p.Jobs = nil
	for _, j := range jobs {
		kept := func(id string) bool { return slices.Contains(tasks, j.ID+"/"+id) || slices.Contains(tasks, id) }
		own := j
		own.Tasks = nil
		for _, t := range j.Tasks {
			if kept(t.ID) {
				t.After = slices.DeleteFunc(slices.Clone(t.After), func(a roster.After) bool { return !kept(a.Task) })
				own.Tasks = append(own.Tasks, t)
			}
		}
		if len(own.Tasks) > 0 {
			p.Jobs = append(p.Jobs, own)
		}
	}
	return p
}

func hopeless(t *testing.T, p roster.Problem) *Conflict {
	t.Helper()
	_, err := Solve(t.Context(), p, Options{Rounds: 3000, Seed: 1})
	var c *Conflict
	if errors.As(err, &c) && c.Proven {
		return c
	}
	return nil
}

// The tasks of a conflict cannot be scheduled by themselves, and can be once any one of them
// is left out: 40 random problems with pins and greatest gaps in which nothing fits.
func TestConflictIsMinimal(t *testing.T) {
	r := rand.New(rand.NewPCG(22, 21))
	seen := 0
	for n := 0; seen < 40 && n < 2000; n++ {
		p := random(r, 2+r.IntN(2), 3, 1+r.IntN(2), r.IntN(2) == 0)
		for j := range p.Jobs {
			for k := range p.Jobs[j].Tasks {
				task := &p.Jobs[j].Tasks[k]
				if r.IntN(4) == 0 {
					task.Start = at(roster.Slot(r.IntN(int(p.Horizon))))
				}
				for a := range task.After {
					if r.IntN(3) == 0 {
						task.After[a].Max, task.After[a].Buy = at(task.After[a].Min+roster.Slot(r.IntN(6))), nil
					}
				}
			}
		}
		c := hopeless(t, p)
		if c == nil {
			continue
		}
		seen++
		if hopeless(t, only(p, c.Tasks)) == nil {
			t.Errorf("problem %d: %v can be scheduled by themselves: %s", n, c.Tasks, c.Text)
		}
		for k := range c.Tasks {
			if less := slices.Delete(slices.Clone(c.Tasks), k, k+1); len(less) > 0 && hopeless(t, only(p, less)) != nil {
				t.Errorf("problem %d: %s is named and not needed: %s", n, c.Tasks[k], c.Text)
			}
		}
		if len(c.Ways) == 0 {
			t.Errorf("problem %d: no way out of %s", n, c.Text)
		}
	}
	if seen < 40 {
		t.Errorf("only %d hopeless problems", seen)
	}
}

// Two tasks pinned at once on one crew, with no gap at all: the pins and the crew are told,
// and neither gaps nor a longer horizon are offered.
func TestConflictOfTwoPins(t *testing.T) {
	pinned := func(id string) roster.Job {
		return roster.Job{ID: id, Tasks: []roster.Task{{ID: "t", Name: "Pour " + id, Duration: 4, Start: at(9)}}}
	}
	p := roster.Problem{Horizon: 96, Crews: []roster.Crew{{ID: "a", Name: "Quay crew", Shifts: days(false)}},
		Jobs: []roster.Job{pinned("one"), {ID: "beside", Tasks: []roster.Task{{ID: "t", Duration: 2}}}, pinned("two")}}
	c := hopeless(t, p)
	if c == nil || !reflect.DeepEqual(c.Tasks, []string{"one/t", "two/t"}) {
		t.Fatalf("%+v", c)
	}
	if !slices.Contains(c.Ways, "Unpin Pour one") || !slices.Contains(c.Ways, "Unpin Pour two") ||
		!strings.Contains(c.Text, "only Quay crew can do them, and not at once") {
		t.Errorf("%s %q", c.Text, c.Ways)
	}
	for _, way := range c.Ways {
		if strings.Contains(way, "horizon") || strings.Contains(way, "later than") {
			t.Errorf("offered: %s", way)
		}
	}
}

// One machine of which there is one, wanted by two crews at once.
func TestConflictOfAMachine(t *testing.T) {
	pinned := func(id string) roster.Job {
		return roster.Job{ID: id, Tasks: []roster.Task{{ID: "t", Duration: 4, Machines: []string{"grinder"},
			Windows: []roster.Window{{From: 8, Until: 14}}}}}
	}
	p := roster.Problem{Horizon: 96, Machines: []roster.Machine{{ID: "grinder", Name: "the grinder", Capacity: 1}},
		Crews: []roster.Crew{{ID: "a", Shifts: days(false)}, {ID: "b", Shifts: days(false)}},
		Jobs:  []roster.Job{pinned("one"), pinned("two")}}
	c := hopeless(t, p)
	if c == nil || !strings.Contains(c.Text, "they need the grinder") ||
		!slices.ContainsFunc(c.Ways, func(w string) bool { return strings.Contains(w, "Get another") }) {
		t.Errorf("%+v", c)
	}
}

// The way from A to C by B is 2 slots where the straight one is said to be 9: the crew that
// has work at B on its way is no faster than one that has none, and C begins at 4, proven.
func TestTravelByWayOfOtherPlaces(t *testing.T) {
	job := func(id string, start *roster.Slot) roster.Job {
		return roster.Job{ID: id, Place: id, Tasks: []roster.Task{{ID: "t", Duration: 1, Start: start}}}
	}
	p := roster.Problem{Horizon: 40, Crews: []roster.Crew{
		{ID: "x", Shifts: []roster.Shift{{Window: roster.Window{From: 0, Until: 40}}}}},
		Jobs: []roster.Job{job("A", at(0)), job("B", nil), job("C", nil)},
		Travel: []roster.Travel{{From: "A", To: "C", Slots: 9}, {From: "A", To: "B", Slots: 1},
			{From: "B", To: "C", Slots: 1}}}
	plan := solve(t, p)
	if got := starts(plan); got["B/t"] != 2 || got["C/t"] != 4 || !plan.Optimal() {
		t.Errorf("%v, optimal %t", got, plan.Optimal())
	}
	p.Travel = append(p.Travel, roster.Travel{From: "C", To: "B", Slots: 3})
	var wrong *roster.Error
	if _, err := Solve(t.Context(), p, Options{}); !errors.As(err, &wrong) || wrong.Path != "/travel/3/slots" {
		t.Errorf("a way given twice: %v", err)
	}
}
