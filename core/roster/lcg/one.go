package lcg

// one has at most one of some atoms hold.
type one struct{ atoms []Atom }

// AtMostOne has no two of some atoms hold.
func (s *Solver) AtMostOne(atoms ...Atom) {
	s.back(0)
	if len(atoms) < 2 {
		return
	}
	var hears []Bound
	for _, a := range atoms {
		hears = append(hears, a.B)
	}
	s.add(&one{atoms}, hears...)
}

func (p *one) propagate(s *Solver) bool {
	for i, a := range p.atoms {
		if !s.Holds(a) {
			continue
		}
		for k, o := range p.atoms {
			if k != i && !s.raiseBy(o.Not(), a) {
				return false
			}
		}
		return true
	}
	return true
}
