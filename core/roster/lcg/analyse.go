package lcg

// analyse finds what the fault in hand teaches: a clause that is false now, and of which
// one atom holds one level further down. It returns that level.
func (s *Solver) analyse() (atoms []Atom, to int) {
	// The fault may lie below the level that was decided last.
	deepest := int32(0)
	for _, a := range s.fault {
		deepest = max(deepest, s.levelOf(a))
	}
	if deepest == 0 {
		return nil, -1
	}
	s.back(int(deepest))
	start := s.levels[deepest-1].trail
	open := 0
	for _, a := range s.fault {
		open += s.ask(a, start)
	}
	var scratch []Atom
	p := int32(len(s.trail) - 1)
	var first Atom
	for {
		for {
			e := &s.trail[p]
			if n := s.need[e.b]; n != none && e.v >= n && e.was < n {
				break
			}
			p--
		}
		e := &s.trail[p]
		first = Atom{e.b, s.need[e.b]}
		if open == 1 {
			break
		}
		s.need[e.b] = none
		open--
		scratch = s.explain(scratch[:0], first, e.why)
		if e.why.kind == byClause {
			s.used(e.why.at)
		}
		for _, a := range scratch {
			open += s.ask(a, start)
		}
		p--
	}
	atoms = append(atoms, first.Not())
	for _, b := range s.touched {
		v := s.need[b]
		if v == none || b == first.B {
			continue
		}
		if a := (Atom{b, v}); !s.implied(a) {
			atoms = append(atoms, a.Not())
			if l := int(s.levelOf(a)); l > to {
				to = l
				atoms[1], atoms[len(atoms)-1] = atoms[len(atoms)-1], atoms[1]
			}
		}
	}
	for _, b := range s.touched {
		s.need[b] = none
		s.bumped(int(b >> 1))
	}
	s.touched = s.touched[:0]
	return atoms, to
}

// ask notes that an atom is part of what leads to the fault, and returns by how many more
// there are that came at the level in hand.
func (s *Solver) ask(a Atom, start int32) int {
	p := s.position(a)
	if p < 0 || s.trail[p].level == 0 {
		return 0
	}
	n := s.need[a.B]
	if n >= a.V {
		return 0
	}
	more := 0
	if p >= start && (n == none || s.position(Atom{a.B, n}) < start) {
		more = 1
	}
	s.need[a.B] = a.V
	s.touched = append(s.touched, a.B)
	return more
}

// implied reports whether an atom follows from others that are asked for and came before.
func (s *Solver) implied(a Atom) bool {
	p := s.position(a)
	e := &s.trail[p]
	if e.why.kind == decided {
		return false
	}
	var room [16]Atom
	for _, o := range s.explain(room[:0], a, e.why) {
		if q := s.position(o); q < 0 || s.trail[q].level == 0 {
			continue
		}
		n := s.need[o.B]
		if n < o.V || s.position(Atom{o.B, n}) >= p {
			return false
		}
	}
	return true
}

// used makes a clause more likely to be kept.
func (s *Solver) used(n int32) {
	c := &s.clauses[n]
	if !c.learned {
		return
	}
	if c.active += s.step; c.active > 1e100 {
		for i := range s.clauses {
			s.clauses[i].active *= 1e-100
		}
		s.step *= 1e-100
	}
	if c.spread > glue {
		c.spread = min(c.spread, s.spread(c.atoms))
	}
}

// spread is the number of levels at which atoms became false.
func (s *Solver) spread(atoms []Atom) int32 {
	s.mark++
	n := int32(0)
	for _, a := range atoms {
		l := s.levelOf(a.Not())
		for int(l) >= len(s.marked) {
			s.marked = append(s.marked, 0)
		}
		if s.marked[l] != s.mark {
			s.marked[l] = s.mark
			n++
		}
	}
	return n
}
