package search

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/roster"
	"nephelon/core/roster/model"
)

func at(s roster.Slot) *roster.Slot { return &s }

// days are shifts from eight to four in slots of an hour, with nights and, if asked,
// weekends between them.
func days(weekends bool) []roster.Shift {
	if !weekends {
		return []roster.Shift{{Window: roster.Window{From: 8, Until: 16, Every: 24}}}
	}
	var all []roster.Shift
	for day := range roster.Slot(5) {
		all = append(all, roster.Shift{Window: roster.Window{From: day*24 + 8, Until: day*24 + 16, Every: 168}})
	}
	return all
}

func solve(t *testing.T, p roster.Problem) roster.Plan {
	t.Helper()
	p.Format, p.Version = roster.Format, roster.Version
	if p.SlotMinutes == 0 {
		p.SlotMinutes = 60
	}
	ctx, cancel := context.WithTimeout(t.Context(), 20*time.Second)
	defer cancel()
	plan, err := Solve(ctx, p, Options{Rounds: 4000, Seed: 1})
	if err != nil {
		t.Fatal(err)
	}
	fault, cost := broken(p, plan.Bookings)
	if fault != "" {
		t.Fatalf("%s: %+v", fault, plan.Bookings)
	}
	if cost != plan.Cost {
		t.Fatalf("it says %v and costs %v", plan.Cost, cost)
	}
	if plan.Cost.Less(plan.Bound) {
		t.Fatalf("it costs %v, less than can be: %v", plan.Cost, plan.Bound)
	}
	return plan
}

func starts(p roster.Plan) map[string]roster.Slot {
	all := make(map[string]roster.Slot)
	for _, b := range p.Bookings {
		all[b.Job+"/"+b.Task] = b.Start
	}
	return all
}

// By hand, in hours: grind 8 to 12; prime 2, at once, 12 to 14; the next coat no sooner
// than 8 h and no later than 24 h after, 3 h in one go: the next day from 8 to 11.
func TestOneFloorByHand(t *testing.T) {
	p := solve(t, roster.Problem{Horizon: 96,
		Crews: []roster.Crew{{ID: "a", Skills: []string{"grind", "pour"}, Shifts: days(false)}},
		Jobs: []roster.Job{{ID: "floor", Tasks: []roster.Task{
			{ID: "grind", Duration: 4, Skills: []string{"grind"}, Breakable: true},
			{ID: "prime", Duration: 2, Skills: []string{"pour"}, After: []roster.After{{Task: "grind"}}},
			{ID: "coat", Duration: 3, Skills: []string{"pour"}, After: []roster.After{{Task: "prime", Min: 8, Max: at(24)}}},
			{ID: "foot", Duration: 12, Unattended: true, After: []roster.After{{Task: "coat"}}},
		}}}})
	want := map[string]roster.Slot{"floor/grind": 8, "floor/prime": 12, "floor/coat": 32, "floor/foot": 35}
	if got := starts(p); !reflect.DeepEqual(got, want) || !p.Optimal() || p.Cost[roster.Finish] != 47 {
		t.Errorf("%v, optimal %v, %v", got, p.Optimal(), p.Cost)
	}
}

// A break at noon: what may break rests, from 8 to 14 for five hours; what lies whole in the
// shift goes on from 8 to 13, and ends no later than the shift.
func TestABreakAtNoon(t *testing.T) {
	crew := roster.Crew{ID: "a", Shifts: days(false), Rests: []roster.Window{{From: 12, Until: 13, Every: 24}}}
	for breakable, end := range map[bool]roster.Slot{true: 14, false: 13} {
		p := solve(t, roster.Problem{Horizon: 48, Crews: []roster.Crew{crew},
			Jobs: []roster.Job{{ID: "j", Tasks: []roster.Task{{ID: "t", Duration: 5, Breakable: breakable}}}}})
		if b := p.Bookings[0]; b.Start != 8 || b.End != end || !p.Optimal() {
			t.Errorf("breakable %v: %+v", breakable, b)
		}
	}
	crew.Rests[0].Until = 12
	if _, err := Solve(context.Background(), roster.Problem{Format: roster.Format, Version: 1, SlotMinutes: 60,
		Horizon: 48,
		Crews:   []roster.Crew{crew}, Jobs: []roster.Job{{ID: "j", Tasks: []roster.Task{{ID: "t", Duration: 5}}}}},
		Options{}); err == nil ||
		!strings.Contains(err.Error(), "/crews/0/rests/0/until") {
		t.Errorf("%v", err)
	}
}

// A primer laid on Friday closes on Sunday while nobody works before Monday. It waits
// until it can be coated in time: with a window of 48 h it is laid on Monday. If the
// missed window can be bought off by two hours of abrading, the floor that is due on
// Monday at 16 is done in time, else it is not.
func TestAWindowOverTheWeekend(t *testing.T) {
	problem := func(due roster.Slot, buy *roster.Buy) roster.Problem {
		return roster.Problem{Horizon: 14 * 24, Crews: []roster.Crew{{ID: "a", Shifts: days(true)}},
			Jobs: []roster.Job{{ID: "floor", Release: 4*24 + 8, Due: &due, Tasks: []roster.Task{
				{ID: "prime", Duration: 6},
				{ID: "coat", Duration: 3, After: []roster.After{{Task: "prime", Min: 12, Max: at(48), Buy: buy}}},
			}}}}
	}
	monday := roster.Slot(7 * 24)
	hard := solve(t, problem(monday+16, nil))
	if got := starts(hard); got["floor/prime"] != monday+8 || got["floor/coat"] != monday+32 ||
		hard.Cost[roster.Late] != 19 {
		t.Errorf("%v %v", got, hard.Cost)
	}
	bought := solve(t, problem(monday+16, &roster.Buy{Slots: 2}))
	if got := starts(bought); got["floor/prime"] != 4*24+8 || got["floor/coat"] != monday+8 ||
		!reflect.DeepEqual(bought.Cost[:roster.Parts], []int64{0, 1, 0, 0, 0, int64(monday) + 13}) || !bought.Optimal() {
		t.Errorf("%v %v %v", got, bought.Cost, bought.Bound)
	}
	// Where there is time, nothing is bought.
	easy := solve(t, problem(monday+48, &roster.Buy{Slots: 2}))
	if easy.Cost[roster.Late] != 0 || easy.Cost[roster.Bought] != 0 || !easy.Optimal() {
		t.Errorf("%v", easy.Cost)
	}
}

// Two floors and one grinder: the weightier comes first, by hand 2 × 0 + 1 × 4 late.
func TestOneMachineForTwo(t *testing.T) {
	job := func(id string, weight int) roster.Job {
		return roster.Job{ID: id, Due: at(12), Weight: weight,
			Tasks: []roster.Task{{ID: "grind", Duration: 4, Machines: []string{"grinder"}}}}
	}
	p := roster.Problem{Horizon: 48, Crews: []roster.Crew{{ID: "a", Shifts: days(false)}, {ID: "b", Shifts: days(false)}},
		Machines: []roster.Machine{{ID: "grinder", Capacity: 1}}, Jobs: []roster.Job{job("light", 1), job("heavy", 2)}}
	plan := solve(t, p)
	if got := starts(plan); got["heavy/grind"] != 8 || got["light/grind"] != 12 || plan.Cost[roster.Late] != 4 ||
		!plan.Optimal() {
		t.Errorf("%v %v", got, plan.Cost)
	}
	p.Machines[0].Closed = []roster.Window{{From: 8, Until: 10}}
	plan = solve(t, p)
	if got := starts(plan); got["heavy/grind"] != 10 || got["light/grind"] != 32 {
		t.Errorf("%v %v", got, plan.Cost)
	}
	p.Machines[0] = roster.Machine{ID: "grinder", Capacity: 2}
	if plan = solve(t, p); plan.Cost != (roster.Cost{roster.Finish: 12, roster.Early: 24}) {
		t.Errorf("%v", plan.Cost)
	}
}

// Overtime is worked where it makes something less late, and nowhere else.
func TestOvertimeOnlyWhereItHelps(t *testing.T) {
	p := roster.Problem{Horizon: 72,
		Crews: []roster.Crew{{ID: "a", Shifts: append(days(false),
			roster.Shift{Window: roster.Window{From: 16, Until: 20, Every: 24}, Overtime: true})}}, Jobs: []roster.Job{
			{ID: "one", Due: at(19), Tasks: []roster.Task{{ID: "work", Duration: 10, Breakable: true}}},
		}}
	plan := solve(t, p)
	if plan.Cost[roster.Late] != 0 || plan.Cost[roster.Overtime] != 2 {
		t.Errorf("%v", plan.Cost)
	}
	p.Jobs[0].Due = at(40)
	if plan = solve(t, p); plan.Cost[roster.Late] != 0 || plan.Cost[roster.Overtime] != 0 {
		t.Errorf("%v", plan.Cost)
	}
}

// Two places an hour apart: four short tasks are done place by place.
func TestTravelIsSpared(t *testing.T) {
	job := func(id, place string) roster.Job {
		return roster.Job{ID: id, Place: place, Tasks: []roster.Task{{ID: "one", Duration: 1},
			{ID: "two", Duration: 1, After: []roster.After{{Task: "one", Min: 1}}}}}
	}
	plan := solve(t, roster.Problem{Horizon: 48, Crews: []roster.Crew{{ID: "a", Shifts: days(false)}},
		Jobs:   []roster.Job{job("here", "quay"), job("there", "mill")},
		Travel: []roster.Travel{{From: "mill", To: "quay", Slots: 1}}})
	if plan.Cost[roster.Moving] != 1 || !plan.Optimal() {
		t.Errorf("%v %+v", plan.Cost, plan.Bookings)
	}
}

// What stood before stays where nothing else is gained, and pinned tasks always stay.
func TestFewMoves(t *testing.T) {
	jobs := []roster.Job{{ID: "a", Tasks: []roster.Task{{ID: "t", Duration: 8}}},
		{ID: "b", Tasks: []roster.Task{{ID: "t", Duration: 8}}}}
	p := roster.Problem{Horizon: 96, Crews: []roster.Crew{{ID: "x", Shifts: days(false)}}, Jobs: jobs,
		Before: []roster.Booking{{Job: "b", Task: "t", Crew: "x", Start: 8, End: 16},
			{Job: "a", Task: "t", Crew: "x", Start: 32, End: 40}}}
	if plan := solve(t, p); plan.Cost[roster.Moves] != 0 {
		t.Errorf("%v %v", plan.Cost, starts(plan))
	}
	p.Jobs[0].Tasks[0].Start = at(56)
	plan := solve(t, p)
	if got := starts(plan); got["a/t"] != 56 || got["b/t"] != 8 {
		t.Errorf("%v", got)
	}
}

// What stood before stays, even where all could be done sooner, by another crew or with less travel; what must
// move, moves where that weighs least. A task that is late moves all the same.
func TestMovingWeighsMoreThanAnEarlyEnd(t *testing.T) {
	jobs := []roster.Job{{ID: "a", Tasks: []roster.Task{{ID: "t", Duration: 4}}},
		{ID: "b", Place: "quay", Tasks: []roster.Task{{ID: "t", Duration: 4}}},
		{ID: "c", Place: "mill", Tasks: []roster.Task{{ID: "t", Duration: 4}}}}
	p := roster.Problem{Horizon: 192, Jobs: jobs, Travel: []roster.Travel{{From: "mill", To: "quay", Slots: 2}},
		Crews: []roster.Crew{{ID: "x", Shifts: days(false)}, {ID: "y", Shifts: days(false)}},
		Before: []roster.Booking{{Job: "a", Task: "t", Crew: "x", Start: 80, End: 84},
			{Job: "b", Task: "t", Crew: "x", Start: 32, End: 36}, {Job: "c", Task: "t", Crew: "x", Start: 56, End: 60}}}
	plan := solve(t, p)
	if got := starts(plan); plan.Cost[roster.Moves] != 0 || got["a/t"] != 80 || got["b/t"] != 32 || got["c/t"] != 56 ||
		!plan.Optimal() {
		t.Errorf("nothing asks for it: %v, %v", got, plan.Cost)
	}
	// Due by 48, one of them moves, and it alone.
	p.Jobs = slices.Clone(jobs)
	p.Jobs[0].Due = at(48)
	if plan = solve(t, p); plan.Cost[roster.Late] != 0 || plan.Cost[roster.Moves] != 1 || starts(plan)["a/t"] > 44 {
		t.Errorf("due: %v, %v", starts(plan), plan.Cost)
	}
	// Crew y is gone and another task is pinned onto the hours of two: the lighter one gives way.
	p.Crews, p.Jobs = p.Crews[:1], append(slices.Clone(jobs), roster.Job{ID: "d", Tasks: []roster.Task{
		{ID: "t", Duration: 4, Start: at(34)}}})
	p.Before = append(slices.Clone(p.Before), roster.Booking{Job: "d", Task: "t", Crew: "x", Start: 34, End: 38})
	p.Before[1].Weight = 5
	if plan = solve(t, p); plan.Cost[roster.Moves] != 5 || starts(plan)["c/t"] != 56 || starts(plan)["a/t"] != 80 {
		t.Errorf("pinned: %v, %v", starts(plan), plan.Cost)
	}
	for heavy, light := range map[string]string{"b/t": "c/t", "c/t": "b/t"} {
		one := []roster.Job{jobs[1], jobs[2]}
		q := roster.Problem{Horizon: 192, Jobs: one, Crews: p.Crews}
		for _, j := range one { // both stood at the same hours, when there were two crews
			b := roster.Booking{Job: j.ID, Task: "t", Crew: "x", Start: 32, End: 36, Weight: 2}
			if j.ID+"/t" == heavy {
				b.Weight = 7
			}
			q.Before = append(q.Before, b)
		}
		if plan = solve(t, q); starts(plan)[heavy] != 32 || plan.Cost[roster.Moves] != 2 || starts(plan)[light] == 32 {
			t.Errorf("%s weighs more: %v, %v", heavy, starts(plan), plan.Cost)
		}
	}
}

// A pinned task has what lies before it come late enough for its window.
func TestAPinHoldsItsWindow(t *testing.T) {
	plan := solve(t, roster.Problem{Horizon: 200, Crews: []roster.Crew{{ID: "x", Shifts: days(false)}},
		Jobs: []roster.Job{{ID: "a", Tasks: []roster.Task{
			{ID: "prime", Duration: 2}, {ID: "coat", Duration: 2, Start: at(104),
				After: []roster.After{{Task: "prime", Min: 10, Max: at(30)}}},
		}}}})
	if got := starts(plan); got["a/prime"] != 80 {
		t.Errorf("%v", got)
	}
}

// The smallest conflict is named: the coat that closes over the weekend, and neither the
// job beside it nor its other tasks.
func TestTheConflictIsNamed(t *testing.T) {
	p := roster.Problem{Format: roster.Format, Version: 1, SlotMinutes: 60, Horizon: 14 * 24,
		Crews: []roster.Crew{{ID: "a", Shifts: days(true)}}, Jobs: []roster.Job{
			{ID: "beside", Tasks: []roster.Task{{ID: "t", Duration: 4}}},
			{ID: "floor", Release: 4*24 + 8, Tasks: []roster.Task{
				{ID: "grind", Duration: 4},
				{ID: "prime", Name: "Primer", Duration: 4, After: []roster.After{{Task: "grind"}}},
				{ID: "coat", Name: "Coat 2", Duration: 8, After: []roster.After{{Task: "prime", Min: 6, Max: at(10)}}},
			}},
		}}
	_, err := Solve(t.Context(), p, Options{Rounds: 100})
	var c *Conflict
	if !errors.As(err, &c) || !c.Proven || !reflect.DeepEqual(c.Tasks, []string{"floor/coat", "floor/prime"}) ||
		!strings.Contains(c.Text, "Coat 2") || len(c.Ways) == 0 {
		t.Errorf("%+v", err)
	}
	// Two that each fit, and not together: one crew, one shift.
	both := func(id string) roster.Job {
		return roster.Job{ID: id, Tasks: []roster.Task{
			{ID: "t", Duration: 6, Windows: []roster.Window{{From: 8, Until: 16}}}}}
	}
	p = roster.Problem{Horizon: 96, Crews: []roster.Crew{{ID: "a", Shifts: days(false)}},
		Jobs: []roster.Job{both("one"), {ID: "other", Tasks: []roster.Task{{ID: "t", Duration: 1}}}, both("two")}}
	_, err = Solve(t.Context(), p, Options{Rounds: 100})
	if !errors.As(err, &c) || !c.Proven || !reflect.DeepEqual(c.Tasks, []string{"one/t", "two/t"}) {
		t.Errorf("%+v", err)
	}
}

func TestWhatCannotBe(t *testing.T) {
	crew := []roster.Crew{{ID: "a", Skills: []string{"pour"}, Shifts: days(false)}}
	for path, p := range map[string]roster.Problem{
		"/horizon": {},
		"/jobs/0/tasks/1/after": {Horizon: 9, Crews: crew,
			Jobs: []roster.Job{{ID: "j", Tasks: []roster.Task{{ID: "z"}, {ID: "x", After: []roster.After{{Task: "y"}}},
				{ID: "y", After: []roster.After{{Task: "x"}}}}}}},
		"/jobs/0/tasks/0/duration": {Horizon: 90, Crews: crew,
			Jobs: []roster.Job{{ID: "j", Tasks: []roster.Task{{ID: "x", Duration: 9}}}}},
		"/jobs/0/tasks/0/skills": {Horizon: 90, Crews: crew,
			Jobs: []roster.Job{{ID: "j", Tasks: []roster.Task{{ID: "x", Duration: 1, Skills: []string{"fly"}}}}}},
		"/jobs/0/tasks/0/crew": {Horizon: 90, Crews: crew,
			Jobs: []roster.Job{{ID: "j", Tasks: []roster.Task{{ID: "x", Duration: 1, Crew: "b"}}}}},
		"/jobs/0/tasks/1/after/0/maxLag": {Horizon: 90, Crews: crew,
			Jobs: []roster.Job{{ID: "j", Tasks: []roster.Task{{ID: "x", Duration: 1},
				{ID: "y", Duration: 1, After: []roster.After{{Task: "x", Min: 4, Max: at(3)}}}}}}},
		"/jobs/0/tasks/1/id": {Horizon: 90, Crews: crew,
			Jobs: []roster.Job{{ID: "j", Tasks: []roster.Task{{ID: "x", Duration: 1}, {ID: "x", Duration: 1}}}}},
		"/jobs/0/tasks/0/after/0/task": {Horizon: 90, Crews: crew,
			Jobs: []roster.Job{{ID: "j", Tasks: []roster.Task{{ID: "x", Duration: 1, After: []roster.After{{Task: "gone"}}}}}}},
		"/jobs/0/tasks/0/start": {Horizon: 90, Crews: crew,
			Jobs: []roster.Job{{ID: "j", Tasks: []roster.Task{{ID: "x", Duration: 1, Start: at(90)}}}}},
		"/crews/0/shifts/0/until": {Horizon: 90,
			Crews: []roster.Crew{{ID: "a", Shifts: []roster.Shift{{Window: roster.Window{From: 8, Until: 8}}}}}},
	} {
		_, err := Solve(t.Context(), p, Options{Rounds: 10})
		var wrong *roster.Error
		if !errors.As(err, &wrong) || wrong.Path != path {
			t.Errorf("%s: %v", path, err)
		}
	}
}

// random makes a problem of a few jobs in chains with side branches.
func random(r *rand.Rand, jobs, tasks, crews int, hard bool) roster.Problem {
	p := roster.Problem{Format: roster.Format, Version: 1, SlotMinutes: 60, Horizon: roster.Slot(24 * 7 * (3 + jobs/6))}
	skills := []string{"grind", "pour", "test"}
	for i := range crews {
		own := []string{"pour"}
		for _, s := range skills {
			if r.IntN(3) > 0 || i == 0 {
				own = append(own, s)
			}
		}
		shifts := days(r.IntN(2) == 0)
		if r.IntN(3) == 0 {
			shifts = append(shifts, roster.Shift{Window: roster.Window{From: 16, Until: 18, Every: 24}, Overtime: true})
		}
		p.Crews = append(p.Crews, roster.Crew{ID: fmt.Sprint("crew", i), Skills: own, Shifts: shifts})
	}
	p.Machines = []roster.Machine{{ID: "grinder", Capacity: 1 + r.IntN(2)}}
	for j := range jobs {
		job := roster.Job{ID: fmt.Sprint("job", j), Release: roster.Slot(r.IntN(48)), Weight: 1 + r.IntN(3)}
		if r.IntN(2) == 0 {
			job.Due = at(job.Release + roster.Slot(40+r.IntN(120)))
		}
		if r.IntN(2) == 0 {
			job.Place = fmt.Sprint("place", r.IntN(3))
		}
		for n := range tasks {
			t := roster.Task{ID: fmt.Sprint("t", n), Duration: roster.Slot(1 + r.IntN(6)), Breakable: r.IntN(3) == 0}
			if r.IntN(2) == 0 {
				t.Skills = []string{skills[r.IntN(3)]}
			}
			if r.IntN(4) == 0 {
				t.Machines = []string{"grinder"}
			}
			if r.IntN(8) == 0 {
				t.Unattended, t.Skills, t.Breakable = true, nil, false
			}
			if n > 0 {
				a := roster.After{Task: fmt.Sprint("t", r.IntN(n)), Min: roster.Slot(r.IntN(10))}
				if r.IntN(3) > 0 {
					a.Task = fmt.Sprint("t", n-1)
				}
				if r.IntN(5) == 0 {
					a.From = roster.Start
				}
				if r.IntN(2) == 0 {
					a.Max = at(a.Min + roster.Slot(16+r.IntN(30)))
					if !hard || r.IntN(2) == 0 {
						a.Buy = &roster.Buy{Slots: roster.Slot(1 + r.IntN(2))}
					}
				}
				t.After = []roster.After{a}
			}
			job.Tasks = append(job.Tasks, t)
		}
		p.Jobs = append(p.Jobs, job)
	}
	p.Travel = []roster.Travel{{From: "place0", To: "place1", Slots: 1}, {From: "place1", To: "place2", Slots: 2},
		{From: "place0", To: "place2", Slots: 2}}
	return p
}

// Hundreds of random problems: every schedule keeps every rule and costs what it says.
func TestRandomSchedulesKeepTheRules(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 2))
	none, proven := 0, 0
	for n := range 300 {
		p := random(r, 1+r.IntN(5), 1+r.IntN(6), 1+r.IntN(3), n%2 == 0)
		if n%3 == 0 {
			p.Crews[0].Rests = []roster.Window{{From: 12, Until: 13, Every: 24}}
		}
		plan, err := Solve(t.Context(), p, Options{Rounds: 150, Seed: uint64(n)})
		var c *Conflict
		var wrong *roster.Error
		if errors.As(err, &c) || errors.As(err, &wrong) {
			none++
			continue
		}
		if err != nil {
			t.Fatal(err)
		}
		fault, cost := broken(p, plan.Bookings)
		if fault != "" || cost != plan.Cost || cost.Less(plan.Bound) {
			t.Fatalf("problem %d: %s; %v said, %v counted, bound %v", n, fault, plan.Cost, cost, plan.Bound)
		}
		if plan.Optimal() {
			proven++
		}
	}
	t.Logf("%d without a plan, %d proven best", none, proven)
	if none > 120 || proven < 60 {
		t.Errorf("%d without a plan, %d proven best", none, proven)
	}
}

// forty are forty jobs of ten tasks for six crews over ten weeks, in slots of half an hour.
func forty() roster.Problem {
	r := rand.New(rand.NewPCG(7, 7))
	p := random(r, 40, 10, 6, true)
	p.Horizon = 10 * 7 * 24
	for j := range p.Jobs {
		p.Jobs[j].Release = roster.Slot(r.IntN(4 * 7 * 24))
		p.Jobs[j].Due = at(p.Jobs[j].Release + roster.Slot(10*24+r.IntN(14*24)))
	}
	p.SlotMinutes = 30
	p.Horizon *= 2
	double := func(all []roster.Window) []roster.Window {
		for i := range all {
			all[i].From, all[i].Until, all[i].Every = 2*all[i].From, 2*all[i].Until, 2*all[i].Every
		}
		return all
	}
	for c := range p.Crews {
		for s := range p.Crews[c].Shifts {
			w := &p.Crews[c].Shifts[s].Window
			*w = double([]roster.Window{*w})[0]
		}
	}
	for j := range p.Jobs {
		p.Jobs[j].Release *= 2
		p.Jobs[j].Due = at(2 * *p.Jobs[j].Due)
		for k := range p.Jobs[j].Tasks {
			t := &p.Jobs[j].Tasks[k]
			t.Duration *= 2
			for a := range t.After {
				t.After[a].Min *= 2
				if t.After[a].Max != nil {
					t.After[a].Max = at(2 * *t.After[a].Max)
				}
			}
		}
	}
	return p
}

// A first plan of forty jobs of ten tasks; twelve are tried for it.
func BenchmarkFirstPlan(b *testing.B) {
	p := forty()
	for b.Loop() {
		if _, err := Solve(context.Background(), p, Options{Rounds: 1, Seed: 1}); err != nil {
			b.Fatal(err)
		}
	}
}

// One hundred more of its plans.
func BenchmarkHundredRounds(b *testing.B) {
	p := forty()
	for b.Loop() {
		if _, err := Solve(context.Background(), p, Options{Rounds: 100, Seed: 1}); err != nil {
			b.Fatal(err)
		}
	}
}

// A crew that is done at the quay at ten, and is wanted at the mill from ten, comes there
// at eleven: in the schedule as it is made first, before any is searched for.
func TestTheWayIsTravelledFirst(t *testing.T) {
	p := roster.Problem{Horizon: 48, Crews: []roster.Crew{{ID: "a", Shifts: days(false)}},
		Travel: []roster.Travel{{From: "mill", To: "quay", Slots: 1}}, Jobs: []roster.Job{
			{ID: "here", Place: "quay", Tasks: []roster.Task{{ID: "t", Duration: 2}}},
			{ID: "there", Place: "mill", Release: 10, Tasks: []roster.Task{{ID: "t", Duration: 1}}},
		}}
	m, err := model.Compile(&p)
	if err != nil {
		t.Fatal(err)
	}
	k := model.NewMaker(m)
	if !k.Make(model.Genes{Order: []int{0, 1}, Crew: []int{-1, -1}, Overtime: make([]bool, 2),
		Stay: make([]bool, 2)}) || k.At[1].Start != 11 {
		t.Errorf("%+v", k.At)
	}
}
