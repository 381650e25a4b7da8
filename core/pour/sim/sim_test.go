package sim

import (
	"context"
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"reflect"
	"slices"
	"testing"

	"nephelon/core/measure"
	"nephelon/core/work"
)

const minute = measure.Minute

var (
	onFloor  = []work.Role{work.Pourer, work.CutterIn, work.Spreader, work.Roller, work.Caster}
	allParts = append([]work.Role{work.Mixer}, onFloor...)
)

func who(roles ...work.Role) work.Person { return work.Person{Name: "someone", Roles: roles} }

// crew is a mixer and people who do everything on the floor.
func crew(floor int) []work.Person {
	people := []work.Person{who(work.Mixer)}
	for range floor {
		people = append(people, who(onFloor...))
	}
	return people
}

// equal are batches like one, each beside the one before.
func equal(n int, like Batch) []Batch {
	all := make([]Batch, n)
	for k := range all {
		all[k] = like
		if k > 0 {
			all[k].Beside = []int{k - 1}
		}
	}
	return all
}

func steady(s measure.Span) func(measure.Span) measure.Span {
	return func(measure.Span) measure.Span { return s }
}

func best(t *testing.T, train Train) Run {
	t.Helper()
	r, err := Best(train)
	if err != nil {
		t.Fatal(err)
	}
	return r
}

func same(a, b measure.Span) bool { return math.Abs(float64(a-b)) < 1e-6 }

// Worked by hand. Three batches, 3 min to mix, 1 min to pour, 5 min of spreading and 4
// min of rolling for one person; two people on the floor do all of it together, so that
// a section takes them (1 + 5 + 4)/2 = 5 min. Zero is the first pour; the first pail
// meets its B at −3, each next one 5 min later and arrives just as it is wanted. Each
// pail is empty 0.5 min after it is poured, 3.5 min after A met B: of 20 min 16.5 are
// left. A section is worked in four strips of 0.625 min spreading and 0.5 rolling, the
// last of them laid at 0.5 + 3 × 1.125 + 0.625 = 4.5. The next section reaches its edge
// when the first strip there is rolled, 0.5 + 1.125 after it was begun at 5: at 6.625. Poured
// 3 min after A met B, of 15 min 12 are left: the edge can be worked in for 5.375 more, the
// tightest, and the film, done at 5, for 7.
func TestATrainByHand(t *testing.T) {
	like := Batch{Mix: 3 * minute, Life: 20 * minute, Works: Works(minute, 0, 5*minute, 4*minute, 0), Lap: 0.25}
	r := best(t, Train{Batches: equal(3, like), People: crew(2), Drills: 1, Edge: steady(15 * minute)})
	for k, p := range r.Passages {
		start := measure.Span(k) * 5 * minute
		for name, pair := range map[string][2]measure.Span{
			"meets": {p.Meets, start - 3*minute}, "arrives": {p.Arrives, start}, "poured": {p.Pour, start},
			"empty": {p.Empty, start + 0.5*minute},
			"laid":  {p.Laid, start + 4.5*minute}, "done": {p.Done, start + 5*minute},
			"left in the pail": {*p.Pail, 16.5 * minute}, "left of the film": {*p.Film, 7 * minute},
		} {
			if !same(pair[0], pair[1]) {
				t.Errorf("batch %d %s %v min, want %v", k+1, name, pair[0]/minute, pair[1]/minute)
			}
		}
		if k > 0 && (!same(*p.Joined, start+1.625*minute) || !same(*p.Join, 5.375*minute)) {
			t.Errorf("batch %d is joined %v, %v left", k+1, *p.Joined/minute, *p.Join/minute)
		}
	}
	if !r.Makes || !same(r.Ends, 15*minute) || r.Tight().Limit != OfJoin || !same(r.Tight().Slack, 5.375*minute) {
		t.Errorf("ends %v, tightest %+v", r.Ends/minute, r.Tight())
	}
	// The mixer mixes 3 × 3 of the 18 min from the first pail to the last stroke.
	if math.Abs(float64(r.Busy[0])-0.5) > 1e-9 || math.Abs(float64(r.Busy[1])-15.0/18) > 1e-9 {
		t.Errorf("busy %v", r.Busy)
	}
}

// Alone, by hand: mixes (3), carries (1), pours (1), spreads and rolls in two strips (2.5
// and 2 each), walks back (1), and mixes again: 15 min from pail to pail, and the last
// needs no walk back. The first pour is 4 min after the first pail; the end 2 × 15 + 10
// after it.
func TestAloneInTurn(t *testing.T) {
	like := Batch{Mix: 3 * minute, Carry: minute, Life: 30 * minute,
		Works: Works(minute, 0, 5*minute, 4*minute, 0), Lap: 0.5}
	r := best(t, Train{Batches: equal(3, like), People: []work.Person{who(allParts...)}, Edge: steady(24 * minute)})
	if !same(r.Ends, 40*minute) || !same(r.Begins, -4*minute) {
		t.Errorf("from %v to %v min", r.Begins/minute, r.Ends/minute)
	}
	// Poured 4 min after A met B, so that 20 of 24 min are left; joined at 15 + 1 + 2.5 + 2 = 20.5, half a
	// minute too late.
	if r.Makes || r.Tight().Limit != OfJoin || !same(r.Tight().Slack, -0.5*minute) || r.Tight().Batch < 2 {
		t.Errorf("%+v", r.Tight())
	}
	var acts []Act
	for _, p := range r.Parts[:9] {
		acts = append(acts, p.Act)
	}
	if !slices.Equal(acts, []Act{Mix, Carry, Pours, Spread, Roll, Spread, Roll, Fetch, Mix}) {
		t.Errorf("%v", acts)
	}
}

// One mixer, two machines and a wait that nobody stands by: each pail takes 6 min to mix
// and 10 to stand, and the floor 2. The mixer sets the pace, 6 min from pail to pail, and
// mixes the second while the first stands. A second mixer with a second drill halves it.
func TestTheMixerSetsThePace(t *testing.T) {
	like := Batch{Mix: 6 * minute, Stand: 10 * minute, Works: Works(0, 0, 2*minute, 0, 0)}
	one := best(t, Train{Batches: equal(5, like), People: crew(1), Drills: 1})
	if !same(one.Ends, (4*6+2)*minute) {
		t.Errorf("one mixer ends at %v", one.Ends/minute)
	}
	two := Train{Batches: equal(5, like), People: append([]work.Person{who(work.Mixer)}, crew(1)...), Drills: 2}
	// Two at 0, two at 6, one at 12: the floor takes 0–2, 2–4, 6–8, 8–10, 12–14.
	if r := best(t, two); !same(r.Ends, 14*minute) {
		t.Errorf("two mixers end at %v", r.Ends/minute)
	}
	two.Drills = 1
	if r := best(t, two); !same(r.Ends, one.Ends) {
		t.Errorf("two mixers with one drill end at %v", r.Ends/minute)
	}
}

// Known facts of two machines in a row (Johnson 1954): with a for the mixer and b for the
// floor, equal jobs end at a + n·max(a, b) + min(a, b) − …: C = a + (n − 1)·max(a, b) + b.
// And Little's law: batches under way on average = throughput × time that each is.
func TestTwoMachinesInARow(t *testing.T) {
	for _, c := range [][2]measure.Span{{2, 5}, {5, 2}, {3, 3}, {0.5, 9}} {
		a, b := c[0]*minute, c[1]*minute
		const n = 9
		r := best(t, Train{Batches: equal(n, Batch{Mix: a, Works: Works(0, 0, b, 0, 0)}), People: crew(1), Drills: 1})
		if want := a + (n-1)*max(a, b) + b; !same(r.Ends-r.Begins, want) {
			t.Errorf("%v and %v: %v, want %v", a, b, r.Ends-r.Begins, want)
		}
		if busy := n * a / (r.Ends - r.Begins); math.Abs(float64(busy)-float64(r.Busy[0])) > 1e-9 {
			t.Errorf("the mixer is busy %v, want %v", r.Busy[0], busy)
		}
		inSystem := measure.Span(0) // the integral of how many are under way, from edge to edge
		edges := []measure.Span{r.Begins, r.Ends}
		for _, p := range r.Passages {
			edges = append(edges, p.Meets, p.Done)
		}
		slices.Sort(edges)
		for i, from := range edges[:len(edges)-1] {
			for _, p := range r.Passages {
				if p.Meets <= from && from < p.Done {
					inSystem += edges[i+1] - from
				}
			}
		}
		each := measure.Span(0)
		for _, p := range r.Passages {
			each += (p.Done - p.Meets) / n
		}
		if !same(inSystem, n*each) {
			t.Errorf("under way %v, n × time in it %v", inSystem, n*each)
		}
	}
}

// Common practice, no source: 70 m² at 1.5 mm in nine batches takes two people about
// three quarters of an hour. Two people on the floor at 50 m²/h each, all in all, with a
// third who mixes 3 min.
func TestSeventySquareMetres(t *testing.T) {
	whole := measure.Span(70.0/50*3600) / 9
	like := Batch{Mix: 3 * minute, Carry: 20, Life: 25 * minute, Works: Works(0.1*whole, 0.1*whole, 0.45*whole, 0.35*whole,
		0), Lap: 0.3}
	r := best(t, Train{Batches: equal(9, like), People: crew(2), Drills: 1, Edge: steady(30 * minute)})
	if r.Ends < 35*minute || r.Ends > 55*minute || !r.Makes {
		t.Errorf("%v min, %+v", r.Ends/minute, r.Tight())
	}
}

// Who leaves a part unplayed cannot pour.
func TestNobodyMixes(t *testing.T) {
	for name, people := range map[string][]work.Person{"no mixer": {who(onFloor...)},
		"no roller": {who(work.Mixer, work.Pourer, work.Spreader)}, "nobody": nil} {
		if _, err := Best(Train{Batches: equal(2, Batch{Mix: 1, Works: Works(1, 0, 1, 1, 0)}), People: people}); !errors.Is(
			err, ErrUnmanned) {
			t.Errorf("%s: %v", name, err)
		}
	}
}

// random is any train: batches, people and their parts, lives.
func random(r *rand.Rand) Train {
	t := Train{Drills: 1 + r.IntN(2), Drawn: r.IntN(3) == 0}
	upTo := func(most float64) measure.Span { return measure.Span(most*r.Float64()) * minute }
	for k := range 2 + r.IntN(12) {
		b := Batch{Open: upTo(2), Mix: upTo(5), Stand: upTo(4) * measure.Span(r.IntN(2)), Carry: upTo(1),
			Life: 5*minute + upTo(30), Works: Works(upTo(2), upTo(3), upTo(9), upTo(8), upTo(4)*measure.Span(r.IntN(2))),
			Lap: r.Float64()}
		if k > 0 {
			b.Beside = []int{k - 1}
		}
		if k > 2 && r.IntN(3) == 0 {
			b.Beside = append(b.Beside, r.IntN(k-1))
		}
		t.Batches = append(t.Batches, b)
	}
	t.People = []work.Person{who(allParts...)}
	for range r.IntN(5) {
		roles := []work.Role{allParts[r.IntN(len(allParts))]}
		for _, role := range append(slices.Clone(allParts), work.Runner) {
			if r.IntN(3) == 0 && !slices.Contains(roles, role) {
				roles = append(roles, role)
			}
		}
		t.People = append(t.People, who(roles...))
	}
	if r.IntN(2) == 0 {
		t.Edge = steady(8*minute + upTo(40))
	}
	if r.IntN(2) == 0 {
		t.Shift = 20*minute + upTo(200)
	}
	return t
}

// Of any train: nobody is in two places, every act is played by who may, works are done
// in full, causes come before effects, and a pour that makes it has nothing below zero.
func TestLawsOfATrain(t *testing.T) {
	source := rand.New(rand.NewPCG(11, 13))
	for n := range 400 {
		train := random(source)
		r := best(t, train)
		byPerson := make(map[int][]Stint)
		did := make([]map[Act]measure.Span, len(train.Batches))
		for _, p := range r.Parts {
			byPerson[p.Person] = append(byPerson[p.Person], p)
			if did[p.Batch-1] == nil {
				did[p.Batch-1] = make(map[Act]measure.Span)
			}
			did[p.Batch-1][p.Act] += p.To - p.From
			for w := range works {
				if p.Act == actOf(w) && !train.People[p.Person].Plays(roleOf(w)) {
					t.Fatalf("train %d: %s by somebody who does not", n, p.Act)
				}
			}
		}
		for person, parts := range byPerson {
			for i := 1; i < len(parts); i++ {
				if parts[i].From < parts[i-1].To-1e-6 {
					t.Fatalf("train %d: person %d does %+v and %+v", n, person, parts[i-1], parts[i])
				}
			}
		}
		for k, p := range r.Passages {
			b := train.Batches[k]
			for w := range works {
				if !same(did[k][actOf(w)], b.Works[w]) {
					t.Fatalf("train %d, batch %d: %s for %v of %v", n, k+1, actOf(w), did[k][actOf(w)], b.Works[w])
				}
			}
			order := []measure.Span{p.Meets, p.Meets + b.Mix + b.Stand, p.Ready, p.Arrives, p.Pour, p.Spread, p.Laid, p.Done}
			if !slices.IsSortedFunc(order, func(a, b measure.Span) int {
				if a > b+1e-6 {
					return 1
				}
				return -1
			}) && !slices.IsSorted(order) {
				for i := 1; i < len(order); i++ {
					if order[i] < order[i-1]-1e-6 {
						t.Fatalf("train %d, batch %d: effect before cause: %v", n, k+1, order)
					}
				}
			}
			if p.Empty < p.Pour || p.Roll < p.Spread-1e-6 || p.Done < p.Roll-1e-6 || k > 0 &&
				p.Pour < r.Passages[k-1].Laid-1e-6 {
				t.Fatalf("train %d, batch %d: %+v", n, k+1, p)
			}
			for _, left := range []*measure.Span{p.Pail, p.Film, p.Join} {
				if left != nil && *left < -1e-9 && r.Makes {
					t.Fatalf("train %d makes it with %v in batch %d", n, *left, k+1)
				}
			}
		}
		if len(r.Moments) > 0 && r.Makes != (r.Tight().Slack >= 0) {
			t.Fatalf("train %d: makes it %v with %+v", n, r.Makes, r.Tight())
		}
	}
}

// worse tells by how much more a run comes too late; as late, that it ends later.
func worse(a, b Run) string {
	late := func(r Run) measure.Span { return min(0, r.Tight().Slack) }
	switch {
	case late(b) < late(a)-1e-6:
		return fmt.Sprintf("%v s late in place of %v", late(b), late(a))
	case late(a) < 0 && same(late(a), late(b)) && b.Ends > a.Ends+1e-6:
		return fmt.Sprintf("ends at %v in place of %v", b.Ends, a.Ends)
	}
	return ""
}

// More people, and a resin that lives longer, never make it worse.
func TestMoreNeverMakesItWorse(t *testing.T) {
	source := rand.New(rand.NewPCG(3, 5))
	for n := range 300 {
		train := random(source)
		before := best(t, train)
		more := train
		more.People = append(slices.Clone(train.People), who(allParts[source.IntN(len(allParts))]), who(allParts...))
		if told := worse(before, best(t, more)); told != "" {
			t.Fatalf("train %d with more people %s", n, told)
		}
		slow := train
		slow.Batches = slices.Clone(train.Batches)
		for k := range slow.Batches {
			slow.Batches[k].Life *= 1.3
		}
		if train.Edge != nil {
			slow.Edge = steady(1.3 * train.Edge(0))
		}
		after := best(t, slow)
		if before.Makes && !after.Makes || min(0, after.Tight().Slack) < min(0, before.Tight().Slack)-1e-6 {
			t.Fatalf("train %d of a slower resin: %+v after %+v", n, after.Tight(), before.Tight())
		}
	}
}

func try(t *testing.T, train Train, s Spreads, runs int, seed uint64) Chance {
	t.Helper()
	c, err := Try(context.Background(), train, s, runs, seed, nil)
	if err != nil {
		t.Fatal(err)
	}
	return c
}

// Where only the life of one pail varies, by a normal logarithm, it is lost with the
// probability Φ(ln(need ÷ life) ÷ spread): closed form.
func TestOddsOfAPail(t *testing.T) {
	train := Train{Batches: []Batch{{Mix: 4 * minute, Life: 10 * minute, Works: Works(5*minute, 0, minute, 0, 0)}},
		People: crew(1)}
	for _, spread := range []float64{0.05, 0.1, 0.3} {
		c := try(t, train, Spreads{Life: spread}, 20000, 7)
		want := 0.5 * math.Erfc(-math.Log(9.0/10)/spread/math.Sqrt2)
		if math.Abs(c.Pail.Of-want) > 0.012 {
			t.Errorf("spread %v: lost in %v of the runs (%v to %v), want %v", spread, c.Pail.Of, c.Pail.Low, c.Pail.High, want)
		}
		if c.Most[0].Cause != ByLife || c.Most[0].Share < 0.9 || !same(c.Ends[0], c.Ends[2]) {
			t.Errorf("%+v, ends %v", c.Most, c.Ends)
		}
	}
}

// The same seed gives the same odds; with nothing varied every run is the plan; and the
// interval is Wilson's: for 3 of 10 it is 0.1078 to 0.6032 (his formula, by hand).
func TestOddsAreRepeatable(t *testing.T) {
	like := Batch{Mix: 3 * minute, Life: 20 * minute, Works: Works(minute, 0, 5*minute, 4*minute, 0), Lap: 0.25}
	train := Train{Batches: equal(6, like), People: crew(2), Drills: 1, Edge: steady(9.8 * minute), Shift: 31 * minute}
	a, b, other := try(t, train, UsualSpreads(), 800, 1), try(t, train, UsualSpreads(), 800, 1),
		try(t, train, UsualSpreads(), 800, 2)
	if a.Makes != b.Makes || a.Ends != b.Ends || a.Which != b.Which || a.Ends == other.Ends {
		t.Errorf("%+v, %+v, %+v", a, b, other)
	}
	if a.Join.Of <= 0.02 || a.Join.Of >= 0.98 || a.Which < 1 || a.Makes.Of > 1-a.Join.Of+1e-9 {
		t.Errorf("an edge closes in %v of the runs, batch %d; it makes it in %v", a.Join.Of, a.Which, a.Makes.Of)
	}
	planned := best(t, train)
	if c := try(t, train, Spreads{}, 50, 1); c.Makes.Of != 1 || !same(c.Ends[1], planned.Ends) {
		t.Errorf("with nothing varied %+v, planned end %v", c, planned.Ends)
	}
	if w := wilson(3, 10); math.Abs(w.Low-0.1078) > 1e-4 || math.Abs(w.High-0.6032) > 1e-4 {
		t.Errorf("%+v", w)
	}
	gone, cancel := context.WithCancel(context.Background())
	cancel()
	if _, err := Try(gone, train, UsualSpreads(), 1000, 1, nil); !errors.Is(err, context.Canceled) {
		t.Errorf("for nobody: %v", err)
	}
}

func sixty() Train {
	like := Batch{Open: 30, Mix: 3 * minute, Carry: 20, Life: 20 * minute,
		Works: Works(minute, minute, 5*minute, 4*minute, minute), Lap: 0.25}
	return Train{Batches: equal(60, like), People: crew(3), Drills: 1, Edge: steady(15 * minute)}
}

// A train of 60 batches by four people.
func BenchmarkTrain(b *testing.B) {
	train := sixty()
	for b.Loop() {
		if _, err := Best(train); err != nil {
			b.Fatal(err)
		}
	}
}

// A crew that does not make it, and cannot be fewer, since each plays a part of their own:
// that it was tried with fewer does not spoil the run with all of them, nor does a train
// that was run before in the same memory.
func TestACrewOfWhichNobodyCanBeMissed(t *testing.T) {
	train := Train{
		Batches: equal(4, Batch{Mix: minute, Life: 10 * minute, Works: Works(minute, 0, 20*minute, 20*minute, 0)}),
		People:  []work.Person{who(work.Mixer), who(work.Pourer, work.Spreader), who(work.Roller)}, Edge: steady(5 * minute),
		Drawn: true,
	}
	alone := best(t, train)
	if alone.Makes || len(alone.Parts) == 0 || len(alone.Busy) != 3 || alone.Idle != 0 {
		t.Fatalf("%+v", alone.Tight())
	}
	var r Runner
	if _, err := r.Best(sixty()); err != nil {
		t.Fatal(err)
	}
	again, err := r.Best(train)
	if err != nil || !reflect.DeepEqual(alone, again) {
		t.Errorf("%v: alone %+v, in used memory %+v", err, alone.Tight(), again.Tight())
	}
	makes, tight, err := r.Judge(train)
	if err != nil || makes || tight != alone.Tight() {
		t.Errorf("judged %v %+v, run %+v", makes, tight, alone.Tight())
	}
	m := NewMemory()
	for range 2 { // worked out, and remembered
		if kept, err := m.Best(train); err != nil || !reflect.DeepEqual(alone, kept) {
			t.Errorf("%v: remembered %+v", err, kept.Tight())
		}
	}
	train.People[2] = who(work.Roller, work.Spreader)
	if other, err := m.Best(train); err != nil || reflect.DeepEqual(alone, other) {
		t.Errorf("%v: another crew is taken for this one", err)
	}
}

// Five thousand runs of it.
func BenchmarkOdds(b *testing.B) {
	train := sixty()
	for b.Loop() {
		if _, err := Try(context.Background(), train, UsualSpreads(), 5000, 1, nil); err != nil {
			b.Fatal(err)
		}
	}
}

// The same train with a second pass over each join, by hand: of 4 min of rolling 0.8 go
// over the join, a strip a quarter as deep as the section on top of its own four. Two people
// spread the first strip to 1.125 after it was begun, roll it to 1.525 and cross-roll to
// 1.925: the second section is joined at 6.925, and the edge, poured at 0 and 3 min old, can be
// worked in until 12; the third is joined 5 min later, and so closes the second's edge.
func TestASecondPassOverTheJoin(t *testing.T) {
	like := Batch{Mix: 3 * minute, Life: 20 * minute, Works: Works(minute, 0, 5*minute, 4*minute, 0), Lap: 0.25}
	batches := equal(3, like)
	for k := range batches[1:] {
		batches[k+1].CrossRolled()
	}
	if !same(batches[2].Cross, 0.8*minute) || !same(batches[2].Works[rolling], 3.2*minute) {
		t.Fatalf("%+v", batches[2])
	}
	r := best(t, Train{Batches: batches, People: crew(2), Drills: 1, Edge: steady(15 * minute)})
	for k, want := range map[int][2]measure.Span{1: {6.925 * minute, 5.075 * minute},
		2: {11.925 * minute, 5.075 * minute}} {
		if p := r.Passages[k]; !same(*p.Joined, want[0]) || !same(*p.Join, want[1]) ||
			!same(p.Done, measure.Span(k+1)*5*minute) {
			t.Errorf("section %d is joined at %v with %v left and done at %v", k+1, *p.Joined/minute, *p.Join/minute,
				p.Done/minute)
		}
	}
	crossed := measure.Span(0)
	for _, s := range r.Parts {
		if s.Act == Cross {
			crossed += s.To - s.From
		}
	}
	if !same(crossed, 1.6*minute) {
		t.Errorf("%v min are cross-rolled", crossed/minute)
	}
}

// The light is a limit like the end of the shift: 15 min are enough until the minute.
func TestTheLightFalls(t *testing.T) {
	like := Batch{Mix: 3 * minute, Works: Works(minute, 0, 5*minute, 4*minute, 0), Lap: 0.25}
	for light, makes := range map[measure.Span]bool{0: true, 14.9 * minute: false, 15.1 * minute: true} {
		r := best(t, Train{Batches: equal(3, like), People: crew(2), Drills: 1, Light: light})
		if r.Makes != makes || !makes && (r.Tight().Limit != OfLight || !same(r.Tight().Slack, -0.1*minute)) || light == 0 &&
			len(r.Moments) != 0 {
			t.Errorf("light for %v min: %+v", light/minute, r.Moments)
		}
	}
	odds, err := Try(context.Background(), Train{Batches: equal(3, like), People: crew(2), Drills: 1, Light: 15 * minute},
		Spreads{Pace: 0.1}, 400, 1, nil)
	if err != nil || odds.Light.Of < 0.3 || odds.Light.Of > 0.7 || odds.Shift.Of != 0 {
		t.Errorf("%+v, %v", odds, err)
	}
}
