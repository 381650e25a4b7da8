package lcg

import "slices"

// Piece takes from what is shared, from its start until its end, unless it is away.
type Piece struct {
	Start, End Term
	Here       Atom // it takes nothing where this fails
}

// shared is a thing of which there are so many: at no time do more pieces take one
// (time-table filtering with pointwise explanations: Schutt, Feydy, Stuckey and Wallace,
// “Explaining the cumulative propagator”, Constraints 16, 2011).
type shared struct {
	pieces []Piece
	most   int
	edges  []edge
}

type edge struct {
	at int32
	by int
}

// Shared has at most so many of some pieces go on at once.
func (s *Solver) Shared(pieces []Piece, most int) {
	s.back(0)
	var hears []Bound
	for _, p := range pieces {
		hears = append(hears, p.Start.B, p.Start.B^1, p.End.B, p.End.B^1, p.Here.B)
	}
	s.add(&shared{pieces: pieces, most: most}, hears...)
}

func (p *shared) propagate(s *Solver) bool {
	p.edges = p.edges[:0]
	for _, x := range p.pieces {
		if !s.Holds(x.Here) {
			continue
		}
		if from, until := s.Most(x.Start), s.Least(x.End); from < until {
			p.edges = append(p.edges, edge{from, 1}, edge{until, -1})
		}
	}
	if len(p.edges) < 2*p.most {
		return true
	}
	slices.SortFunc(p.edges, func(a, b edge) int {
		if a.at != b.at {
			return int(a.at - b.at)
		}
		return a.by - b.by
	})
	height := 0
	for i, e := range p.edges {
		height += e.by
		if height < p.most || i+1 == len(p.edges) || p.edges[i+1].at == e.at {
			continue
		}
		if height > p.most {
			s.fault = s.fault[:0]
			p.taking(s, e.at, p.most+1, -1, func(a Atom) { s.fault = append(s.fault, a) })
			return false
		}
		if !p.push(s, e.at, p.edges[i+1].at) {
			return false
		}
	}
	return true
}

// taking returns why so many pieces go on in a slot.
func (p *shared) taking(s *Solver, at int32, count, but int, tell func(Atom)) {
	for i, x := range p.pieces {
		if count == 0 {
			return
		}
		if i != but && s.Holds(x.Here) && s.Most(x.Start) <= at && s.Least(x.End) > at {
			tell(x.Here)
			tell(x.Start.AtMost(at))
			tell(x.End.AtLeast(at + 1))
			count--
		}
	}
}

// push has what cannot go on in a stretch that is full begin after it, or end before.
func (p *shared) push(s *Solver, from, until int32) bool {
	for i, x := range p.pieces {
		if s.Fails(x.Here) || s.Holds(x.Here) && s.Most(x.Start) <= from && s.Least(x.End) > from {
			continue
		}
		var why []Atom
		tell := func(a Atom) { why = append(why, a) }
		early := s.Least(x.Start) < until && s.Least(x.End) > from
		late := s.Most(x.End) > from && s.Most(x.Start) < until
		switch {
		case early && s.Most(x.Start) < until && !s.Holds(x.Here):
			// It would go on there whenever it starts.
			at := max(from, s.Most(x.Start))
			if s.Least(x.End) <= at {
				continue
			}
			p.taking(s, at, p.most, i, tell)
			if !s.raiseBy(x.Here.Not(), append(why, x.Start.AtMost(at), x.End.AtLeast(at+1))...) {
				return false
			}
		case !s.Holds(x.Here):
		case early:
			for s.Least(x.Start) < until && s.Least(x.End) > from {
				at := min(until, s.Least(x.End)) - 1
				if at < from {
					break
				}
				why = why[:0]
				p.taking(s, at, p.most, i, tell)
				if !s.raiseBy(x.Start.AtLeast(at+1), append(why, x.Here, x.End.AtLeast(at+1))...) {
					return false
				}
				if s.Least(x.End) <= s.Least(x.Start) {
					break // its end follows in its own time
				}
			}
		case late:
			at := max(from, s.Most(x.Start))
			if at >= until {
				continue
			}
			p.taking(s, at, p.most, i, tell)
			if !s.raiseBy(x.End.AtMost(at), append(why, x.Here, x.Start.AtMost(at))...) {
				return false
			}
		}
	}
	return true
}
