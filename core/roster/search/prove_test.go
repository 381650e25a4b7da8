package search

import (
	"context"
	"errors"
	"math/rand/v2"
	"reflect"
	"slices"
	"testing"
	"time"

	"nephelon/core/roster"
	"nephelon/core/roster/exact"
	"nephelon/core/roster/model"
)

// alone looks through all schedules with no plan in hand.
func alone(t *testing.T, p roster.Problem) (roster.Plan, error) {
	t.Helper()
	m, err := model.Compile(&p)
	if err != nil {
		t.Fatal(err)
	}
	m.When = func(roster.Slot) string { return "then" }
	s := &search{Model: m, maker: model.NewMaker(m), random: rand.New(rand.NewPCG(1, 1))}
	if _, err := s.prove(t.Context(), &prover{Encoded: exact.Encode(m, nil, nil)}, 20_000); err != nil {
		return roster.Plan{}, err
	}
	plan := s.plan()
	if fault, cost := broken(p, plan.Bookings); fault != "" || cost != plan.Cost {
		t.Fatalf("%s: %v said, %v counted", fault, plan.Cost, cost)
	}
	return plan, nil
}

// Looking through all schedules without a plan in hand comes to what is found with one: on
// random problems with breaks, overtime, travel and greatest gaps.
func TestLookingThroughAllAlone(t *testing.T) {
	r := rand.New(rand.NewPCG(8, 6))
	proven, none := 0, 0
	for n := range 150 {
		p := random(r, 2+r.IntN(3), 2+r.IntN(3), 1+r.IntN(2), n%2 == 0)
		if n%5 == 4 {
			p.Horizon = 40
		}
		for j := range p.Jobs {
			for k := range p.Jobs[j].Tasks {
				for a := range p.Jobs[j].Tasks[k].After {
					if after := &p.Jobs[j].Tasks[k].After[a]; n%3 == 0 && after.Max != nil {
						after.Max = at(after.Min + roster.Slot(r.IntN(6))) // they close soon
					}
				}
			}
		}
		with, failed := Solve(t.Context(), p, Options{Seed: 1, Rounds: 2000})
		var wrong *roster.Error
		if errors.As(failed, &wrong) {
			continue // longer than the horizon
		}
		own, err := alone(t, p)
		if (failed == nil) != (err == nil) {
			t.Fatalf("problem %d: %v, alone %v", n, failed, err)
		}
		if err != nil {
			none++
			continue
		}
		if with.Optimal() && own.Optimal() {
			proven++
			if !reflect.DeepEqual(with.Cost[:roster.Parts], own.Cost[:roster.Parts]) {
				t.Errorf("problem %d: %v, alone %v", n, with.Cost, own.Cost)
			}
		}
	}
	if proven < 90 || none < 3 {
		t.Errorf("%d proven, %d without a plan", proven, none)
	}
}

// By hand, hours: the first is done at 10, the shift ends at 16, the window is 4 h. The
// next begins at 14 at the latest, which is kept; behind what is done from 12 to 15 alone it
// is missed by one, bought off and begun at 15. A gap that moves says the same.
func TestTheEdgeOfAWindow(t *testing.T) {
	problem := func(until roster.Slot, moves bool) roster.Problem {
		after := roster.After{Task: "prime", Max: at(4), Buy: &roster.Buy{Slots: 1}}
		if moves {
			after.MinAt, after.MaxAt = func(roster.Slot) roster.Slot { return 0 }, func(roster.Slot) roster.Slot { return 4 }
		}
		return roster.Problem{Horizon: 24, Crews: []roster.Crew{{ID: "a", Skills: []string{"pour"}, Shifts: days(false)},
			{ID: "b", Shifts: []roster.Shift{{Window: roster.Window{From: until, Until: until + 2}}}}},
			Jobs: []roster.Job{{ID: "floor", Tasks: []roster.Task{
				{ID: "prime", Duration: 2, Start: at(8), Crew: "a"},
				{ID: "coat", Duration: 1, Crew: "b", After: []roster.After{after}},
			}}}}
	}
	for _, moves := range []bool{false, true} {
		for until, bought := range map[roster.Slot]int64{14: 0, 15: 1} {
			plan, err := alone(t, problem(until, moves))
			if err != nil || plan.Cost[roster.Bought] != bought || plan.Cost[roster.Finish] != int64(until)+1+bought ||
				!plan.Optimal() {
				t.Errorf("from %d on: %v %v", until, plan.Cost, err)
			}
		}
	}
}

// A gap whose end lies back for a later start, from 20 to 12 where it starts at 9 instead of
// 8: no table tells that, and the rule is kept all the same.
func TestAGapThatLeadsBack(t *testing.T) {
	opens := func(s roster.Slot) roster.Slot {
		if s <= 10 {
			return 20 - s
		}
		return 12 - min(s, 12)
	}
	p := roster.Problem{Horizon: 48, Crews: []roster.Crew{{ID: "a", Shifts: days(false)}},
		Jobs: []roster.Job{{ID: "floor", Tasks: []roster.Task{
			{ID: "prime", Duration: 2}, {ID: "coat", Duration: 1, After: []roster.After{{Task: "prime", MinAt: opens}}},
		}}}}
	m, err := model.Compile(&p)
	if err != nil {
		t.Fatal(err)
	}
	s := &search{Model: m, maker: model.NewMaker(m), random: rand.New(rand.NewPCG(1, 1))}
	if _, err := s.prove(t.Context(), &prover{Encoded: exact.Encode(m, nil, nil)}, 1000); err != nil ||
		s.at[0].Start != 9 ||
		s.at[1].Start != 12 || s.proven != roster.Parts {
		t.Errorf("%v, %+v", err, s.at)
	}
}

// Plans of a hundred tasks and more, with what is pinned and what stood before: parts of
// them planned anew keep every rule, cost what they say, and never more than before.
func TestPartsPlannedAnew(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 9))
	better := 0
	for n := range 5 {
		p := random(r, 12, 9, 3, false)
		for c := range p.Crews {
			p.Crews[c].Rests = []roster.Window{{From: 12, Until: 13, Every: 24}}
		}
		for j := range p.Jobs {
			for k := range p.Jobs[j].Tasks {
				for a := range p.Jobs[j].Tasks[k].After {
					if after := &p.Jobs[j].Tasks[k].After[a]; j%3 == 0 { // as of films: it depends on the hour
						least := after.Min
						after.MinAt = func(at roster.Slot) roster.Slot { return least + at%24/12 }
					}
				}
			}
		}
		first, err := Solve(t.Context(), p, Options{Seed: 1, Rounds: 40})
		if err != nil {
			t.Fatal(err)
		}
		p.Before = first.Bookings
		for _, b := range first.Bookings[:3] {
			p.Jobs[0].Tasks[slices.IndexFunc(p.Jobs[0].Tasks, func(t roster.Task) bool { return t.ID == b.Task })].Start =
				at(b.Start)
		}
		m, err := model.Compile(&p)
		if err != nil {
			t.Fatal(err)
		}
		s := &search{Model: m, maker: model.NewMaker(m), random: rand.New(rand.NewPCG(uint64(n), 1))}
		s.improve(t.Context(), 40)
		if !s.found {
			t.Fatalf("problem %d: no plan to begin with", n)
		}
		for range 8 {
			was := s.best
			if err := s.renew(t.Context()); err != nil {
				t.Fatalf("problem %d: %v", n, err)
			}
			if was.Less(s.best) {
				t.Fatalf("problem %d: %v became %v", n, was, s.best)
			}
			if s.best.Less(was) {
				better++
			}
			bookings := s.plan().Bookings
			fault, cost := broken(p, bookings)
			if fault != "" || cost != s.best {
				t.Fatalf("problem %d: %s; %v said, %v counted", n, fault, s.best, cost)
			}
			at := make(map[string]roster.Booking)
			for _, b := range bookings {
				at[b.Job+"/"+b.Task] = b
			}
			for _, job := range p.Jobs {
				for _, task := range job.Tasks {
					for _, a := range task.After {
						b, own := at[job.ID+"/"+a.Task], at[job.ID+"/"+task.ID]
						mark := b.End
						if a.From == roster.Start {
							mark = b.Start
						}
						if a.MinAt != nil && own.Start < mark+a.MinAt(mark) {
							t.Fatalf("problem %d: %s/%s starts at %d, %d after %d at the least", n, job.ID, task.ID, own.Start,
								a.MinAt(mark), mark)
						}
					}
				}
			}
		}
	}
	if better < 10 {
		t.Errorf("only %d of 40 parts became better", better)
	}
}

// A part of forty jobs of ten tasks planned anew.
func BenchmarkPartPlannedAnew(b *testing.B) {
	p := forty()
	m, err := model.Compile(&p)
	if err != nil {
		b.Fatal(err)
	}
	s := &search{Model: m, maker: model.NewMaker(m), random: rand.New(rand.NewPCG(1, 1))}
	s.improve(b.Context(), 20)
	for b.Loop() {
		if err := s.renew(b.Context()); err != nil {
			b.Fatal(err)
		}
	}
}

// Thirty tasks of five jobs for three crews proven best in every part.
func BenchmarkThirtyProven(b *testing.B) {
	r := rand.New(rand.NewPCG(11, 3))
	var all []roster.Problem
	for range 14 {
		all = append(all, random(r, 5, 6, 3, false))
	}
	n := 0
	for b.Loop() {
		ctx, cancel := context.WithTimeout(b.Context(), 20*time.Second)
		if plan, err := Solve(ctx, all[n%len(all)], Options{Seed: 1}); err != nil || !plan.Optimal() {
			b.Errorf("problem %d: %v, %d parts proven", n%len(all), err, plan.Proven)
		}
		cancel()
		n++
	}
}

// Crews that are alike are not told apart while all is looked through, and given out in the end: every rule is
// kept, and the schedule is as good as where a rest at night, when nobody works, tells them apart.
func TestAlikeCrewsAreGivenOutInTheEnd(t *testing.T) {
	r := rand.New(rand.NewPCG(25, 11))
	proven := 0
	for n := range 60 {
		p := random(r, 2+r.IntN(3), 2+r.IntN(3), 2+r.IntN(2), n%2 == 0)
		p.Travel = nil
		for j := range p.Jobs {
			p.Jobs[j].Place = ""
		}
		if n%3 == 0 {
			p.Crews = append(p.Crews, roster.Crew{ID: "other", Skills: p.Crews[0].Skills, Shifts: days(true)})
		}
		for c := range p.Crews[:2] {
			p.Crews[c].Skills, p.Crews[c].Shifts = p.Crews[0].Skills, p.Crews[0].Shifts
		}
		own, err := alone(t, p)
		apart := p
		apart.Crews = slices.Clone(p.Crews)
		apart.Crews[0].Rests = []roster.Window{{From: 1, Until: 2, Every: 24}}
		told, failed := alone(t, apart)
		if (failed == nil) != (err == nil) {
			t.Fatalf("problem %d: %v, told apart %v", n, err, failed)
		}
		if err == nil && own.Optimal() && told.Optimal() {
			proven++
			if !reflect.DeepEqual(own.Cost[:roster.Parts], told.Cost[:roster.Parts]) {
				t.Errorf("problem %d: %v, told apart %v", n, own.Cost, told.Cost)
			}
		}
	}
	if proven < 40 {
		t.Errorf("only %d proven", proven)
	}
}
