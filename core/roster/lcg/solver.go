// Package lcg solves problems of whole numbers within bounds by lazy clause generation
// (Ohrimenko, Stuckey and Codish, “Propagation via lazy clause generation”, Constraints
// 14, 2009): every bound that a constraint raises is explained by other bounds, and what
// leads to a contradiction is learned as a clause over bounds. It knows nothing of what
// the numbers stand for.
package lcg

import "math"

// Bound is one of the two bounds of a number x: 2n is the least value of the n-th number,
// 2n+1 the least value of its negative.
type Bound int32

// Atom is the claim that a bound is at least a value. Of a number x the atom of its first
// bound says x ≥ V, that of its second −x ≥ V.
type Atom struct {
	B Bound
	V int32
}

// Not is the claim that an atom is false.
func (a Atom) Not() Atom { return Atom{a.B ^ 1, 1 - a.V} }

// Term is a number, or its negative, and a constant.
type Term struct {
	B   Bound
	Off int32
}

// AtLeast claims that a term is no less than a value.
func (t Term) AtLeast(v int32) Atom { return Atom{t.B, v - t.Off} }

// AtMost claims that a term is no more than a value.
func (t Term) AtMost(v int32) Atom { return Atom{t.B ^ 1, t.Off - v} }

// Negative is the term with the other sign.
func (t Term) Negative() Term { return Term{t.B ^ 1, -t.Off} }

// Plus adds a constant to a term.
func (t Term) Plus(c int32) Term { return Term{t.B, t.Off + c} }

// reason holds why a bound was raised.
type reason struct {
	kind reasonKind
	at   int32 // of a clause, an arc or the first atom of a list
	n    int32 // atoms of a list
}

type reasonKind uint8

const (
	decided reasonKind = iota
	byClause
	byArc
	byList
)

// entry is a bound that was raised.
type entry struct {
	b      Bound
	v, was int32
	before int32 // the entry that raised it last; −1
	level  int32
	why    reason
}

type level struct{ trail, arena int32 }

// propagator raises bounds as its constraint asks; false where it cannot hold. It finds
// the reason in the solver then.
type propagator interface{ propagate(s *Solver) bool }

// Solver holds numbers, what constrains them, and how far a search has come.
type Solver struct {
	at     []int32 // by bound
	last   []int32 // by bound: the entry that raised it last; −1
	trail  []entry
	levels []level
	head   int
	arena  []Atom // reasons that are lists
	fault  []Atom // what contradicts itself
	broken bool   // nothing fits at all

	clauses []clause
	watches [][]watched // by bound, by what they wait for
	learned int         // clauses that are alive and learned
	step    float64     // of activities of clauses

	arcs     []arc
	arcsFrom [][]int32 // by bound
	arcsIf   [][]int32 // by bound of what they hang on

	props []propagator
	dear  []bool    // by propagator: it waits for those that are cheap
	wakes [][]int32 // by bound
	ready []bool
	queue [2][]int32 // of the cheap, of the dear

	boolean []bool // by number: decided by the search
	phase   []bool // by number: as it is tried first
	guide   []bool // by number: as it was in what was found last
	active  []float64
	bump    float64
	heap    heap

	need    []int32 // by bound: while a fault is looked into
	touched []Bound
	marked  []int64 // by level
	mark    int64

	Conflicts int64 // so far
}

const none = math.MinInt32

// New is a solver with no number but a constant.
func New() *Solver {
	s := &Solver{step: 1, bump: 1}
	s.heap.s = s
	s.Number(1, 1)
	return s
}

// Number is a new number between two values.
func (s *Solver) Number(least, most int32) Term {
	b := Bound(len(s.at))
	s.at = append(s.at, least, -most)
	s.last = append(s.last, -1, -1)
	s.need = append(s.need, none, none)
	s.watches = append(s.watches, nil, nil)
	s.arcsFrom = append(s.arcsFrom, nil, nil)
	s.arcsIf = append(s.arcsIf, nil, nil)
	s.wakes = append(s.wakes, nil, nil)
	s.boolean = append(s.boolean, false)
	s.phase = append(s.phase, false)
	s.active = append(s.active, 0)
	s.heap.place = append(s.heap.place, -1)
	if least > most {
		s.broken = true
	}
	return Term{b, 0}
}

// Choice is a new atom that holds or does not, as the search decides.
func (s *Solver) Choice() Atom {
	t := s.Number(0, 1)
	n := int(t.B >> 1)
	s.boolean[n] = true
	s.heap.push(n)
	return t.AtLeast(1)
}

// Least is the least value that a term can still have.
func (s *Solver) Least(t Term) int32 { return s.at[t.B] + t.Off }

// Most is the greatest one.
func (s *Solver) Most(t Term) int32 { return t.Off - s.at[t.B^1] }

// Holds reports whether an atom is true by now.
func (s *Solver) Holds(a Atom) bool { return s.at[a.B] >= a.V }

// Fails reports whether it is false by now.
func (s *Solver) Fails(a Atom) bool { return s.at[a.B^1] > -a.V }

// Prefer has the search try an atom of a choice first.
func (s *Solver) Prefer(a Atom) { s.phase[a.B>>1] = a.B&1 == 0 }

// raise raises a bound, or keeps why it cannot be raised.
func (s *Solver) raise(a Atom, why reason) bool {
	if s.at[a.B] >= a.V {
		return true
	}
	if s.at[a.B^1] > -a.V {
		// The least value that is too great is explained instead.
		v := 1 - s.at[a.B^1]
		s.fault = s.explain(s.fault[:0], Atom{a.B, v}, why)
		s.fault = append(s.fault, Atom{a.B ^ 1, s.at[a.B^1]})
		return false
	}
	s.trail = append(s.trail, entry{a.B, a.V, s.at[a.B], s.last[a.B], int32(len(s.levels)), why})
	s.last[a.B] = int32(len(s.trail) - 1)
	s.at[a.B] = a.V
	return true
}

// raiseBy raises a bound for reasons that all hold.
func (s *Solver) raiseBy(a Atom, why ...Atom) bool {
	if s.at[a.B] >= a.V {
		return true
	}
	from := int32(len(s.arena))
	for _, w := range why {
		if s.last[w.B] >= 0 { // else it holds in any case
			s.arena = append(s.arena, w)
		}
	}
	return s.raise(a, reason{byList, from, int32(len(s.arena)) - from})
}

// explain appends why a bound is at least a value.
func (s *Solver) explain(to []Atom, a Atom, why reason) []Atom {
	switch why.kind {
	case byClause:
		for _, o := range s.clauses[why.at].atoms {
			if o.B != a.B {
				to = append(to, o.Not())
			}
		}
	case byArc:
		x := &s.arcs[why.at]
		to = append(to, x.given, Atom{x.from, x.cause(a.V)})
	case byList:
		to = append(to, s.arena[why.at:why.at+why.n]...)
	}
	return to
}

// back undoes what was raised above a level.
func (s *Solver) back(to int) {
	if len(s.levels) <= to {
		return
	}
	l := s.levels[to]
	for i := len(s.trail) - 1; i >= int(l.trail); i-- {
		e := &s.trail[i]
		s.at[e.b], s.last[e.b] = e.was, e.before
		n := int(e.b >> 1)
		if s.boolean[n] {
			s.phase[n] = e.b&1 == 0
			s.heap.push(n)
		}
	}
	s.trail = s.trail[:l.trail]
	s.arena = s.arena[:l.arena]
	s.levels = s.levels[:to]
	s.head = len(s.trail)
	for k, queue := range s.queue {
		for _, p := range queue {
			s.ready[p] = false
		}
		s.queue[k] = queue[:0]
	}
}

// settle raises bounds until every constraint is content; false where one cannot be.
func (s *Solver) settle() bool {
	for {
		for s.head < len(s.trail) {
			e := s.trail[s.head]
			s.head++
			if !s.follow(e) || !s.inform(e) {
				return false
			}
			for _, p := range s.wakes[e.b] {
				s.wake(p)
			}
		}
		k := 0
		if len(s.queue[0]) == 0 {
			k = 1
		}
		if len(s.queue[k]) == 0 {
			return true
		}
		p := s.queue[k][0]
		s.queue[k] = s.queue[k][1:]
		s.ready[p] = false
		if !s.props[p].propagate(s) {
			return false
		}
	}
}

func (s *Solver) wake(p int32) {
	if !s.ready[p] {
		s.ready[p] = true
		k := 0
		if s.dear[p] {
			k = 1
		}
		s.queue[k] = append(s.queue[k], p)
	}
}

// add keeps a propagator, which hears of bounds that are raised.
func (s *Solver) add(p propagator, hears ...Bound) {
	n := int32(len(s.props))
	s.props = append(s.props, p)
	s.ready = append(s.ready, false)
	_, dear := p.(*room)
	s.dear = append(s.dear, dear)
	seen := make(map[Bound]bool)
	for _, b := range hears {
		if !seen[b] {
			seen[b] = true
			s.wakes[b] = append(s.wakes[b], n)
		}
	}
	s.wake(n)
}

// True is an atom that always holds.
func True() Atom { return Atom{0, 1} }

// forget drops the reasons of what holds in any case. Nothing may be decided, and all must
// be settled.
func (s *Solver) forget() {
	for _, e := range s.trail {
		s.last[e.b] = -1
	}
	s.trail, s.arena, s.head = s.trail[:0], s.arena[:0], 0
}
