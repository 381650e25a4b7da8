package sim

import (
	"context"
	"errors"
	"math"
	"reflect"
	"slices"
	"testing"

	"nephelon/core/measure"
	"nephelon/core/memo"
)

// One person's time by hand: busy from 10 to 20 and from 30 to 40.
func TestACalendarByHand(t *testing.T) {
	c := &calendar{}
	c.book(10, 20)
	c.book(30, 40)
	c.book(50, 50)
	if !slices.Equal(c.busy, []stretch{{10, 20}, {30, 40}}) {
		t.Fatalf("%v", c.busy)
	}
	for _, g := range []struct{ from, length, want measure.Span }{
		{0, 10, 0}, {0, 10.5, 40}, {0, 5, 0}, {5, 5, 5}, {5, 6, 20}, {12, 10, 20}, {20, 10, 20}, {20, 11, 40}, {25, 5, 25},
		{25, 6, 40}, {45, 100, 45}, {0, 0, 0},
	} {
		if got := c.gap(g.from, g.length); !same(got, g.want) {
			t.Errorf("%v from %v: at %v, want %v", g.length, g.from, got, g.want)
		}
	}
	for at, want := range map[measure.Span]int{0: 0, 10: 0, 19: 0, 20: 1, 25: 1, 39: 1, 40: 2, 50: 2} {
		if got := c.after(at); got != want {
			t.Errorf("after %v: %d, want %d", at, got, want)
		}
	}
	// What is booked between goes between; who works on has one stretch.
	c.book(22, 25)
	c.book(40, 45)
	c.book(46, 47)
	if !slices.Equal(c.busy, []stretch{{10, 20}, {22, 25}, {30, 45}, {46, 47}}) {
		t.Errorf("%v", c.busy)
	}
}

// A work shared by two, one of them busy from 10 to 20: begun at 0 it takes 10 s together,
// 10 s of one alone, then two again. Of 40 person-seconds 20 are done at 10, 30 at 20, all at 25.
func TestAWorkIsShared(t *testing.T) {
	busy := func() team {
		a, b := &calendar{}, &calendar{}
		a.book(10, 20)
		return team{a, b}
	}
	for _, c := range []struct{ from, work, begin, end measure.Span }{
		{0, 20, 0, 10}, {0, 40, 0, 25}, {0, 30, 0, 20}, {12, 8, 12, 20}, {12, 10, 12, 21}, {20, 10, 20, 25}, {5, 0, 5, 5},
	} {
		if begin, end := busy().share(c.from, c.work); !same(begin, c.begin) || !same(end, c.end) {
			t.Errorf("%v from %v: %v to %v, want %v to %v", c.work, c.from, begin, end, c.begin, c.end)
		}
	}
	both := busy()
	both[1].book(8, 18)
	if begin, end := both.share(10, 6); !same(begin, 18) || !same(end, 22) {
		t.Errorf("while nobody is free: %v to %v", begin, end)
	}
	type piece struct {
		member   int
		from, to measure.Span
	}
	var got []piece
	shared := busy()
	shared.pieces(5, 25, func(member int, from, to measure.Span) { got = append(got, piece{member, from, to}) })
	if !slices.Equal(got, []piece{{0, 5, 10}, {0, 20, 25}, {1, 5, 25}}) {
		t.Errorf("%v", got)
	}
	if !slices.Equal(shared[1].busy, []stretch{{5, 25}}) {
		t.Errorf("%v", shared[1].busy)
	}
}

// A section is worked in strips as deep as its lap, eight at most, the last of what is left.
func TestStripsOfASection(t *testing.T) {
	for lap, want := range map[float64][]measure.Span{0: {100}, -1: {100}, 1: {100}, 3: {100}, 0.5: {50, 50},
		0.4: {40, 40, 20}, 0.7: {70, 30}, 0.125: {12.5, 12.5, 12.5, 12.5, 12.5, 12.5, 12.5, 12.5},
		0.01: {12.5, 12.5, 12.5, 12.5, 12.5, 12.5, 12.5, 12.5}} {
		r := best(t, Train{Batches: []Batch{{Mix: 1, Works: Works(0, 0, 100, 100, 0), Lap: lap}}, People: crew(1)})
		var rolled []measure.Span
		for _, s := range r.Parts {
			if s.Act == Roll {
				rolled = append(rolled, s.To-s.From)
			}
		}
		if !slices.EqualFunc(rolled, want, same) {
			t.Errorf("a lap of %v: rolled in %v s, want %v", lap, rolled, want)
		}
	}
}

// Wilson's interval at 95 % as published with the score test: for 0 of 10 from 0 to 0.2775, for
// 5 of 10 from 0.2366 to 0.7634 (Brown, Cai and DasGupta 2001, from memory).
func TestHowSureOddsAre(t *testing.T) {
	for _, c := range []struct {
		hits, runs     int
		p, least, most float64
	}{{0, 10, 0, 0, 0.2775}, {5, 10, 0.5, 0.2366, 0.7634}, {10, 10, 1, 0.7225, 1}} {
		got := wilson(c.hits, c.runs)
		all := [3]float64{got.Of, got.Low, got.High}
		for i, want := range [3]float64{c.p, c.least, c.most} {
			if math.Abs(all[i]-want) > 5e-5 {
				t.Errorf("%d of %d: %v", c.hits, c.runs, got)
			}
		}
	}
	for n := 1; n <= 400; n++ {
		if never, always := wilson(0, n), wilson(n, n); never.Low != 0 || always.High != 1 {
			t.Fatalf("of %d runs: never is told from %g, always to %g", n, never.Low, always.High)
		}
	}
	hundred := make([]float64, 101)
	for i := range hundred {
		hundred[i] = float64(100 - i)
	}
	if got := quantiles(hundred); got != [3]measure.Span{5, 50, 95} {
		t.Errorf("%v", got)
	}
}

// What matters most, by hand: a slack that goes down as the pace goes up by the same, and has
// nothing to do with the mixing. Of y = −2x the correlation is 1 in square; runs without end
// count for nothing.
func TestWhatMattersMost(t *testing.T) {
	var c correlations
	for _, x := range []float64{-1, 0, 1} {
		c.add(-2*x, x, math.Abs(x), x*x*x+1, 5)
	}
	c.add(math.Inf(1), 9, 9, 9, 9)
	got := c.weights()
	if len(got) != 3 || got[0].Cause != ByPace && got[0].Cause != ByLife || math.Abs(float64(got[0].Share)-1) > 1e-12 ||
		math.Abs(float64(got[1].Share)-1) > 1e-12 || got[2].Cause != ByMixing || got[2].Share > 1e-12 {
		t.Errorf("%+v", got)
	}
	// Half of it: x and y = (0, 0), (1, 1), (2, 0), (3, 1) have r² = 0.2.
	var half correlations
	for i, y := range []float64{0, 1, 0, 1} {
		half.add(y, float64(i), 1, 1, 1)
	}
	if got := half.weights(); len(got) != 1 || math.Abs(float64(got[0].Share)-0.2) > 1e-12 {
		t.Errorf("%+v", got)
	}
	if got := (&correlations{}).weights(); len(got) != 0 {
		t.Errorf("%+v", got)
	}
}

// A memory gives what it kept, without one it is worked out, a train that nobody can run is an
// error each time, and one that is full is emptied.
func TestTrainsAreRemembered(t *testing.T) {
	train := Train{Batches: equal(2, Batch{Mix: 60, Life: 3600, Works: Works(30, 0, 60, 0, 0)}),
		People: crew(1), Drills: 1}
	m := NewMemory()
	first, err := m.Best(train)
	if err != nil {
		t.Fatal(err)
	}
	again, err := m.Best(train)
	if err != nil || &again.Parts[0] != &first.Parts[0] {
		t.Error("worked out twice")
	}
	var none *Memory
	if other, err := none.Best(train); err != nil || &other.Parts[0] == &first.Parts[0] ||
		len(other.Parts) != len(first.Parts) {
		t.Error("without a memory")
	}
	idle := train
	idle.People = nil
	for range 2 {
		if _, err := m.Best(idle); err == nil {
			t.Error("nobody runs it")
		}
	}
}

// Every field of a train is asked for: a change of any, found by reflection, is another train.
func TestEveryInputOfATrainIsRemembered(t *testing.T) {
	base := func() steadyTrain {
		works := measure.Span(600)
		return steadyTrain{batches: equal(2, Batch{Mix: 60, Life: 3600, Beside: []int{0}}), people: crew(1), drills: 1,
			works: &works, shift: 3600}
	}
	plain := memo.Key(base())
	for name, changed := range map[string]func(*steadyTrain){
		"batch": func(s *steadyTrain) { s.batches = s.batches[:1] }, "person": func(s *steadyTrain) { s.people = crew(2) },
		"drills": func(s *steadyTrain) { s.drills++ }, "drawn": func(s *steadyTrain) { s.drawn = true },
		"dries": func(s *steadyTrain) { s.dries = true },
		"works": func(s *steadyTrain) { s.works = nil }, "shift": func(s *steadyTrain) { s.shift++ },
		"light": func(s *steadyTrain) { s.light++ },
	} {
		s := base()
		changed(&s)
		if memo.Key(s) == plain {
			t.Errorf("another %s is taken for the same train", name)
		}
	}
	batch := reflect.TypeFor[Batch]()
	for i := range batch.NumField() {
		s := base()
		f := reflect.ValueOf(&s.batches[0]).Elem().Field(i)
		switch f.Kind() {
		case reflect.Float64:
			f.SetFloat(f.Float() + 1)
		case reflect.Struct:
			f.Field(0).SetFloat(f.Field(0).Float() + 1)
		case reflect.Array:
			f.Index(0).SetFloat(f.Index(0).Float() + 1)
		case reflect.Slice:
			f.Set(reflect.Append(f, reflect.Zero(f.Type().Elem())))
		default:
			t.Fatalf("how to change a batch's %s?", batch.Field(i).Name)
		}
		if memo.Key(s) == plain {
			t.Errorf("another %s of a batch is taken for the same train", batch.Field(i).Name)
		}
	}
}

// Trying stops when it is told to, tells how far it is, and the tightest moment of a run
// without limits is none.
func TestTryingCanBeStopped(t *testing.T) {
	train := Train{Batches: equal(2, Batch{Mix: 60, Life: 3600, Works: Works(30, 0, 60, 0, 0)}),
		People: crew(1), Drills: 1}
	ctx, cancel := context.WithCancel(context.Background())
	var told []int
	_, err := Try(ctx, train, UsualSpreads(), 1000, 1, func(done int) {
		if told = append(told, done); done >= 2*between {
			cancel()
		}
	})
	if !errors.Is(err, context.Canceled) || !slices.Equal(told, []int{0, between, 2 * between}) {
		t.Errorf("%v after %v", err, told)
	}
	if got := (Run{}).Tight(); got != (Pinch{}) {
		t.Errorf("%+v", got)
	}
	if got := (Run{Moments: []Pinch{{Batch: 3}, {Batch: 1}}}).Tight(); got.Batch != 3 {
		t.Errorf("%+v", got)
	}
	idle := train
	idle.People = nil
	if _, err := Try(context.Background(), idle, UsualSpreads(), 10, 1, nil); err == nil {
		t.Error("nobody runs it")
	}
	if _, _, err := new(Runner).Judge(idle); err == nil {
		t.Error("nobody runs it")
	}
	endless := train
	endless.Batches = slices.Clone(train.Batches)
	endless.Batches[1].Mix = measure.Span(math.Inf(1))
	if _, err := Best(endless); err == nil {
		t.Error("a batch is mixed for ever")
	}
}

// By hand: two people pour (10 %), spread (60 %) and roll (30 %) sections of 600 person-seconds
// planned; the first took half as long again, so all that goes by their pace does, and
// broadcasting, mixing and the lives of pails stay as they are.
func TestTheFirstSectionTellsThePace(t *testing.T) {
	like := Batch{Open: 60, Mix: 180, Life: 3600, Works: Works(60, 0, 360, 180, 0), Cross: 20}
	train := Train{Batches: equal(4, like), People: crew(2), Drills: 1}
	r := new(Runner)
	planned := best(t, train)
	took := planned.Passages[0].Done - planned.Passages[0].Pour
	for _, times := range []measure.Span{0.5, 1, 1.5, 3} {
		paced, got, err := r.Paced(train, took*times)
		if err != nil || math.Abs(got/float64(times)-1) > 1e-3 {
			t.Fatalf("%v times: %v, %v", times, got, err)
		}
		for i, b := range paced.Batches {
			for w := range b.Works {
				if math.Abs(float64(b.Works[w]-like.Works[w]*measure.Span(got))) > 1e-9 {
					t.Errorf("batch %d: %v", i+1, b.Works)
				}
			}
			if math.Abs(float64(b.Cross)-20*got) > 1e-9 || b.Mix != 180 || b.Life != 3600 {
				t.Errorf("%+v", b)
			}
		}
		run := best(t, paced)
		if after := run.Passages[0].Done - run.Passages[0].Pour; math.Abs(float64(after/(took*times))-1) > 1e-3 {
			t.Errorf("the first section takes %v s, and took %v", after, took*times)
		}
	}
	if train.Batches[0].Works != like.Works {
		t.Error("the plan itself is paced")
	}
	cast := train
	cast.Batches = equal(4, Batch{Mix: 60, Life: 3600, Works: Works(60, 0, 300, 0, 240), Lap: 1})
	if paced, _, err := r.Paced(cast, 2*took); err != nil || paced.Batches[0].Works[casting] != 240 ||
		paced.Batches[0].Works[spreading] <= 300 {
		t.Errorf("%v: %v", err, paced.Batches[0].Works)
	}
	for _, first := range []measure.Span{took / 11, took * 11, measure.Span(math.NaN()), -1} {
		if _, _, err := r.Paced(train, first); !errors.Is(err, ErrPace) {
			t.Errorf("%v: %v", first, err)
		}
	}
	idle := train
	idle.People = nil
	if _, _, err := r.Paced(idle, took); err == nil || errors.Is(err, ErrPace) {
		t.Errorf("%v", err)
	}
}
