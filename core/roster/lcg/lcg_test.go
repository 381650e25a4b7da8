package lcg

import (
	"context"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"
)

// puzzle is a small problem twice: in a solver, and as rules that tell of values whether
// they are allowed.
type puzzle struct {
	s       *Solver
	numbers []Term
	choices []Atom
	rules   []func(x []int32, c []bool) bool
	told    []string
}

// span is the greatest value of a number of a puzzle.
const span = 6

func newPuzzle(r *rand.Rand) *puzzle {
	p := &puzzle{s: New()}
	for range 4 {
		p.numbers = append(p.numbers, p.s.Number(0, span))
	}
	for range 3 {
		p.choices = append(p.choices, p.s.Choice())
	}
	for range 3 + r.IntN(4) {
		p.rule(r)
	}
	return p
}

func (p *puzzle) add(text string, rule func(x []int32, c []bool) bool) {
	p.rules, p.told = append(p.rules, rule), append(p.told, text)
}

// atom is one that a choice or a bound claims, and what it says of values.
func (p *puzzle) atom(r *rand.Rand) (Atom, func(x []int32, c []bool) bool) {
	switch i, v := r.IntN(4), int32(r.IntN(span+1)); r.IntN(4) {
	case 0:
		return p.numbers[i].AtLeast(v), func(x []int32, _ []bool) bool { return x[i] >= v }
	case 1:
		return p.numbers[i].AtMost(v), func(x []int32, _ []bool) bool { return x[i] <= v }
	case 2:
		i = r.IntN(3)
		return p.choices[i].Not(), func(_ []int32, c []bool) bool { return !c[i] }
	default:
		i = r.IntN(3)
		return p.choices[i], func(_ []int32, c []bool) bool { return c[i] }
	}
}

// rising is a table of a rising function.
func rising(r *rand.Rand) []int32 {
	all := make([]int32, span+1)
	for i := range all {
		all[i] = int32(r.IntN(span + 2))
	}
	slices.Sort(all)
	return all
}

// odd are starts 1, 3 and 5, each of which takes a time of its own.
type odd struct{ takes int32 }

func (o odd) Next(start int32) (int32, bool) { return max(1, start|1), start <= 5 }
func (o odd) Last(start int32) (int32, bool) { return min(5, (start+1)/2*2-1), start >= 1 }
func (o odd) End(start int32) int32          { return start + o.takes }
func (o odd) EndsBy(end int32) (int32, bool) { return o.Last(end - o.takes) }
func (o odd) EndsAt(end int32) (int32, bool) { return o.Next(end - o.takes) }

func (p *puzzle) rule(r *rand.Rand) {
	i, o := r.IntN(4), r.IntN(3)
	if o >= i {
		o++
	}
	a, holds := p.atom(r)
	by := int32(r.IntN(2*span)) - span
	table := rising(r)
	switch kind := r.IntN(11); kind {
	case 0, 1:
		var atoms []Atom
		var some []func([]int32, []bool) bool
		for range 2 + r.IntN(3) {
			a, holds := p.atom(r)
			atoms, some = append(atoms, a), append(some, holds)
		}
		p.s.Clause(atoms...)
		p.add(fmt.Sprint("clause ", atoms), func(x []int32, c []bool) bool {
			return slices.ContainsFunc(some, func(h func([]int32, []bool) bool) bool { return h(x, c) })
		})
	case 2:
		p.s.Apart(a, p.numbers[i].Plus(by), p.numbers[o])
		p.add(fmt.Sprint("apart ", a, i, by, o), func(x []int32, c []bool) bool { return !holds(x, c) || x[i]+by <= x[o] })
	case 3:
		p.s.Follows(a, p.numbers[i], p.numbers[o], table)
		p.add(fmt.Sprint("follows ", a, i, o, table),
			func(x []int32, c []bool) bool { return !holds(x, c) || x[o] >= table[x[i]] })
	case 4:
		p.s.Kept(a, p.numbers[i], p.numbers[o], table)
		p.add(fmt.Sprint("kept ", a, i, o, table),
			func(x []int32, c []bool) bool { return !holds(x, c) || x[o] <= table[x[i]] })
	case 5:
		times := []int32{1 + int32(r.IntN(3)), 1 + int32(r.IntN(3)), 1 + int32(r.IntN(2))}
		total := p.numbers[i].Plus(by + span)
		parts := []Part{{p.numbers[o], times[0]}, {Term{p.choices[0].B, 0}, times[1]},
			{p.numbers[(o+1)%4].Negative().Plus(span), times[2]}}
		p.s.Sum(total, parts)
		p.add(fmt.Sprint("sum ", i, o, by, times), func(x []int32, c []bool) bool {
			sum := times[0]*x[o] + times[2]*(span-x[(o+1)%4])
			if c[0] {
				sum += times[1]
			}
			return x[i]+by+span >= sum
		})
	case 6:
		p.s.AtMostOne(p.choices...)
		p.add("one", func(_ []int32, c []bool) bool { return !(c[0] && c[1] || c[0] && c[2] || c[1] && c[2]) })
	case 7:
		// Two of four numbers apart in time, and pieces of fixed length on the others.
		most := 1 + r.IntN(2)
		long := int32(1 + r.IntN(3))
		pieces := []Piece{
			{p.numbers[0], p.numbers[0].Plus(2), True()}, {p.numbers[1], p.numbers[1].Plus(long), a},
			{p.numbers[2], p.numbers[3], p.choices[1]}, {p.numbers[3], p.numbers[3].Plus(1), True()},
		}
		p.s.Shared(pieces, most)
		p.add(fmt.Sprint("shared ", a, most, long), func(x []int32, c []bool) bool {
			for at := range int32(2 * span) {
				n := 0
				for k, end := range []int32{x[0] + 2, x[1] + long, x[3], x[3] + 1} {
					here := k == 0 || k == 3 || k == 1 && holds(x, c) || k == 2 && c[1]
					if here && x[k] <= at && at < end {
						n++
					}
				}
				if n > most {
					return false
				}
			}
			return true
		})
	case 8, 9:
		p.room(r, a, holds)
	case 10:
		takes := []int32{int32(r.IntN(3)), 2}
		p.s.Stretch(p.numbers[i], p.numbers[o], []Way{{p.choices[0], odd{takes[0]}}, {p.choices[2], odd{takes[1]}}})
		p.s.Clause(p.choices[0], p.choices[2])
		p.add(fmt.Sprint("stretch ", i, o, takes), func(x []int32, c []bool) bool {
			for k, n := range []int{0, 2} {
				if c[n] && (x[i]%2 == 0 || x[o] != x[i]+takes[k]) {
					return false
				}
			}
			return c[0] || c[2]
		})
	}
}

// room has three loads, each between two numbers, and what can be done go up and down.
func (p *puzzle) room(r *rand.Rand, a Atom, holds func([]int32, []bool) bool) {
	sure, extra := make([]int32, span+1), make([]int32, span+1)
	for i := range span {
		sure[i+1], extra[i+1] = sure[i]+int32(r.IntN(3)), extra[i]+int32(r.IntN(2))
	}
	work := []int32{1 + int32(r.IntN(4)), 1 + int32(r.IntN(4)), 1 + int32(r.IntN(4))}
	ends := []int{1, 2, 0}
	by := [][]Atom{{a}, nil, {p.choices[1], a}}
	var loads []Load
	for k := range work {
		loads = append(loads, Load{p.numbers[k], p.numbers[ends[k]], work[k], by[k]})
	}
	p.s.Room(loads, sure, extra, p.numbers[3])
	p.add(fmt.Sprint("room ", a, sure, extra, work), func(x []int32, c []bool) bool {
		for from := range int32(span + 1) {
			for until := from; until <= span; until++ {
				inside := int32(0)
				for k, there := range []bool{holds(x, c), true, holds(x, c) && c[1]} {
					if there && x[k] >= from && x[ends[k]] <= until {
						inside += work[k]
					}
				}
				if inside > sure[until]-sure[from]+min(extra[until]-extra[from], x[3]) {
					return false
				}
			}
		}
		return true
	})
}

// solutions are all that the rules allow, by trying all values.
func (p *puzzle) solutions() map[string]bool {
	all := make(map[string]bool)
	for n := range 8 * (span + 1) * (span + 1) * (span + 1) * (span + 1) {
		c := []bool{n&1 == 1, n&2 == 2, n&4 == 4}
		x, k := make([]int32, 4), n/8
		for i := range x {
			x[i], k = int32(k%(span+1)), k/(span+1)
		}
		if !slices.ContainsFunc(p.rules, func(rule func([]int32, []bool) bool) bool { return !rule(x, c) }) {
			all[fmt.Sprint(x, c)] = true
		}
	}
	return all
}

// next has the first number that is open be as small, or as great, as it can.
func (p *puzzle) next() (Atom, bool) {
	for i, x := range p.numbers {
		if p.s.Least(x) < p.s.Most(x) {
			if i%2 == 0 {
				return x.AtMost(p.s.Least(x)), true
			}
			return x.AtLeast(p.s.Most(x)), true
		}
	}
	return Atom{}, false
}

// found are all that the solver finds, each forbidden once it is found.
func (p *puzzle) found(t *testing.T) map[string]bool {
	all := make(map[string]bool)
	for p.s.Search(context.Background(), nil, 1<<40, p.next) == Found {
		var x []int32
		var c []bool
		var forbid []Atom
		for _, n := range p.numbers {
			v := p.s.Least(n)
			x = append(x, v)
			forbid = append(forbid, n.AtMost(v-1), n.AtLeast(v+1))
		}
		for _, a := range p.choices {
			c = append(c, p.s.Holds(a))
			if p.s.Holds(a) {
				a = a.Not()
			}
			forbid = append(forbid, a)
		}
		if all[fmt.Sprint(x, c)] {
			t.Fatalf("%v %v is found twice", x, c)
		}
		all[fmt.Sprint(x, c)] = true
		p.s.Clause(forbid...)
	}
	return all
}

// Hundreds of random puzzles: what is found, one by one, is what trying all values finds.
// A reason or a learned clause that says too much would lose some, a constraint that does
// too little would find more.
func TestAllSolutionsAreFound(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 1))
	some := 0
	for n := range 500 {
		p := newPuzzle(r)
		want := p.solutions()
		if len(want) > 3000 {
			continue // it says little
		}
		got := p.found(t)
		for x := range want {
			if !got[x] {
				t.Fatalf("puzzle %d: %s is not found; %q", n, x, p.told)
			}
		}
		for x := range got {
			if !want[x] {
				t.Fatalf("puzzle %d: %s is found and not allowed; %q", n, x, p.told)
			}
		}
		if len(want) > 0 {
			some++
		}
	}
	if some < 200 {
		t.Errorf("only %d puzzles have a solution", some)
	}
}

// Work for two in a stretch: 5 slots are there from 0 to 8 (closed from 3 to 6), and 2 more
// of overtime from 4 on, of which only as much is used as is allowed.
func TestRoomForWork(t *testing.T) {
	sure := []int32{0, 1, 2, 3, 3, 3, 3, 4, 5}
	extra := []int32{0, 0, 0, 0, 0, 1, 2, 2, 2}
	for over := int32(0); over <= 2; over++ {
		for work := int32(1); work <= 8; work++ {
			s := New()
			by := s.Choice()
			most := s.Number(0, over)
			var loads []Load
			for range 2 {
				start, end := s.Number(0, 8), s.Number(0, 8)
				loads = append(loads, Load{Start: start, End: end, Work: 1, By: []Atom{by}})
			}
			loads[0].Work = work - 1
			s.Room(loads, sure, extra, most)
			out := s.Search(t.Context(), []Atom{by}, 1000, func() (Atom, bool) { return Atom{}, false })
			if fits := work <= 5+over; fits != (out == Found) {
				t.Errorf("%d slots of work with %d of overtime: %v", work, over, out)
			}
			if s.Search(t.Context(), nil, 1000, func() (Atom, bool) { return Atom{}, false }) != Found {
				t.Errorf("%d slots of work by others", work)
			}
		}
	}
}

// Eight pigeons in seven holes: no choice of holes leaves each its own (the pigeonhole
// principle); seven pigeons fit.
func TestPigeons(t *testing.T) {
	for pigeons, want := range map[int]Outcome{7: Found, 8: Nothing} {
		s := New()
		in := make([][]Atom, 7)
		for range pigeons {
			var any []Atom
			for h := range in {
				a := s.Choice()
				in[h] = append(in[h], a)
				any = append(any, a)
			}
			s.Clause(any...)
		}
		for _, all := range in {
			for i, a := range all {
				for _, b := range all[:i] {
					s.Clause(a.Not(), b.Not())
				}
			}
		}
		if out := s.Search(t.Context(), nil, 1<<40, func() (Atom, bool) { return Atom{}, false }); out != want {
			t.Errorf("%d pigeons: %v", pigeons, out)
		}
		s.Undo()
	}
}

// What is assumed does not stay: the same solver finds what it was not allowed before.
func TestWhatIsAssumedIsForgotten(t *testing.T) {
	s := New()
	x, y := s.Number(0, 9), s.Number(0, 9)
	s.Apart(True(), x.Plus(4), y)
	next := func() (Atom, bool) { return x.AtMost(s.Least(x)), s.Least(x) < s.Most(x) }
	if s.Search(t.Context(), []Atom{y.AtMost(6), x.AtLeast(3)}, 100, next) != Nothing {
		t.Error("3 and 6 are not 4 apart")
	}
	if s.Search(t.Context(), []Atom{y.AtMost(7), x.AtLeast(3)}, 100, next) != Found {
		t.Error("3 and 7 are")
	}
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	if s.Search(ctx, nil, 0, next) != Stopped {
		t.Error("it goes on when nobody waits")
	}
}

func TestTheLengthsOfRuns(t *testing.T) {
	want := []int64{1, 1, 2, 1, 1, 2, 4, 1, 1, 2, 1, 1, 2, 4, 8}
	for n := range want {
		if got := luby(int64(n + 1)); got != want[n] {
			t.Errorf("%d: %d", n+1, got)
		}
	}
}
