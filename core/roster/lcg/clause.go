package lcg

import (
	"slices"
	"sort"
)

// clause is atoms one of which must hold. The first two are watched.
type clause struct {
	atoms   []Atom
	learned bool
	dead    bool
	spread  int32 // levels that it spans
	active  float64
}

// watch waits for an atom of a clause to be false.
type watch struct {
	clause int32
	other  Atom // the clause is content where this holds
}

// watched are the clauses that wait for a bound to reach a value.
type watched struct {
	from int32
	all  []watch
}

// Clause has one of some atoms hold, in every solution.
func (s *Solver) Clause(atoms ...Atom) {
	own := make([]Atom, 0, len(atoms))
	for _, a := range atoms {
		if s.Holds(a) && s.atRoot(a) {
			return
		}
		if s.Fails(a) && s.atRoot(a.Not()) {
			continue
		}
		own = append(own, a)
	}
	slices.SortFunc(own, func(a, b Atom) int {
		if a.B != b.B {
			return int(a.B - b.B)
		}
		return int(a.V - b.V)
	})
	own = slices.CompactFunc(own, func(a, b Atom) bool { return a.B == b.B }) // the weaker one is left
	for i := 1; i < len(own); i++ {
		if own[i].B == own[i-1].B^1 && own[i-1].V <= 1-own[i].V {
			return // one of two that leave no gap always holds
		}
	}
	switch len(own) {
	case 0:
		s.broken = true
	case 1:
		s.back(0)
		if !s.raiseBy(own[0]) {
			s.broken = true
		}
	default:
		s.back(0)
		s.attach(own, false, 0)
	}
}

// atRoot reports whether an atom that holds does so before anything was decided.
func (s *Solver) atRoot(a Atom) bool { return s.levelOf(a) == 0 }

// levelOf is the level at which an atom that holds came to do so.
func (s *Solver) levelOf(a Atom) int32 {
	if p := s.position(a); p >= 0 {
		return s.trail[p].level
	}
	return 0
}

// position is the entry by which an atom that holds came to do so; −1 where it always did.
func (s *Solver) position(a Atom) int32 {
	p := s.last[a.B]
	for p >= 0 && s.trail[p].was >= a.V {
		p = s.trail[p].before
	}
	return p
}

func (s *Solver) attach(atoms []Atom, learned bool, spread int32) int32 {
	n := int32(len(s.clauses))
	s.clauses = append(s.clauses, clause{atoms: atoms, learned: learned, spread: spread, active: s.step})
	s.watch(n, atoms[0], atoms[1])
	s.watch(n, atoms[1], atoms[0])
	if learned {
		s.learned++
	}
	return n
}

func (s *Solver) watch(n int32, a, other Atom) {
	b, from := a.B^1, 1-a.V
	i := s.watchedFrom(b, from)
	if i == len(s.watches[b]) || s.watches[b][i].from != from {
		s.watches[b] = slices.Insert(s.watches[b], i, watched{from: from})
	}
	s.watches[b][i].all = append(s.watches[b][i].all, watch{n, other})
}

// watchedFrom is the first of what waits for a bound that waits for no less than a value.
func (s *Solver) watchedFrom(b Bound, from int32) int {
	return sort.Search(len(s.watches[b]), func(i int) bool { return s.watches[b][i].from >= from })
}

// inform has the clauses look for another atom where one became false.
func (s *Solver) inform(e entry) bool {
	for i := s.watchedFrom(e.b, e.was+1); i < len(s.watches[e.b]) && s.watches[e.b][i].from <= e.v; i++ {
		if !s.informed(e.b, i) {
			return false
		}
	}
	return true
}

// informed is inform for what waits for one value. Clauses that move to other bounds or
// values leave the place of this one as it is: an atom that is not false waits for a value
// that is not reached, behind it.
func (s *Solver) informed(b Bound, i int) bool {
	from, all := s.watches[b][i].from, s.watches[b][i].all
	kept := all[:0]
	for n := 0; n < len(all); n++ {
		w := all[n]
		if s.at[w.other.B] >= w.other.V {
			kept = append(kept, w)
			continue
		}
		c := &s.clauses[w.clause]
		if c.dead {
			continue
		}
		atoms := c.atoms
		if atoms[0].B == b^1 && 1-atoms[0].V == from {
			atoms[0], atoms[1] = atoms[1], atoms[0]
		}
		first := atoms[0]
		if first != w.other && s.at[first.B] >= first.V {
			kept = append(kept, watch{w.clause, first})
			continue
		}
		moved := false
		for k := 2; k < len(atoms); k++ {
			if a := atoms[k]; !s.Fails(a) {
				atoms[1], atoms[k] = a, atoms[1]
				s.watch(w.clause, a, first)
				moved = true
				break
			}
		}
		if moved {
			continue
		}
		kept = append(kept, watch{w.clause, first})
		if !s.raise(first, reason{byClause, w.clause, 0}) {
			kept = append(kept, all[n+1:]...)
			s.watches[b][i].all = kept
			return false
		}
	}
	s.watches[b][i].all = kept
	return true
}

// The learned clauses that are kept at least, and by how much their number grows.
const (
	fewest = 1000
	glue   = 3
)

// reduce forgets half of the clauses that were learned: those that span many levels and
// were of no use lately. Nothing may be decided.
func (s *Solver) reduce() {
	var all []int32
	for n := range s.clauses {
		if c := &s.clauses[n]; c.learned && !c.dead && c.spread > glue {
			all = append(all, int32(n))
		}
	}
	slices.SortFunc(all, func(a, b int32) int {
		x, y := &s.clauses[a], &s.clauses[b]
		switch {
		case x.active < y.active:
			return -1
		case x.active > y.active:
			return 1
		}
		return int(a - b)
	})
	for _, n := range all[:len(all)/2] {
		s.clauses[n] = clause{dead: true}
		s.learned--
	}
	// Clauses that live move together; nothing points to them but their watches.
	moved := make([]int32, len(s.clauses))
	n := 0
	for i := range s.clauses {
		moved[i] = -1
		if !s.clauses[i].dead {
			moved[i] = int32(n)
			s.clauses[n] = s.clauses[i]
			n++
		}
	}
	clear(s.clauses[n:])
	s.clauses = s.clauses[:n]
	for b := range s.watches {
		some := s.watches[b][:0]
		for _, g := range s.watches[b] {
			kept := g.all[:0]
			for _, w := range g.all {
				if w.clause = moved[w.clause]; w.clause >= 0 {
					kept = append(kept, w)
				}
			}
			if g.all = kept; len(kept) > 0 {
				some = append(some, g)
			}
		}
		s.watches[b] = some
	}
}
