package lcg

// Part is a term of a sum, so many times.
type Part struct {
	Term  Term
	Times int32 // above zero
}

// sum has a total no less than the sum of its parts.
type sum struct {
	parts []Part
	total Term
}

// Sum has a term no less than the sum of parts. While a search is under way, only what the
// term may be at most counts.
func (s *Solver) Sum(total Term, parts []Part) {
	s.back(0)
	hears := []Bound{total.B ^ 1}
	for _, p := range parts {
		hears = append(hears, p.Term.B)
	}
	s.add(&sum{parts, total}, hears...)
}

func (p *sum) propagate(s *Solver) bool {
	least := int64(0)
	for _, x := range p.parts {
		least += int64(x.Times) * int64(s.Least(x.Term))
	}
	most := int64(s.Most(p.total))
	if least > most {
		// What is left over need not be explained: some parts may have been less.
		return s.raiseBy(p.total.AtLeast(int32(most)+1), p.why(s, -1, least-most-1)...)
	}
	// What is asked of the total is asked at its greatest value; its least is only told.
	if len(s.levels) == 0 && least > int64(s.Least(p.total)) &&
		!s.raiseBy(p.total.AtLeast(int32(least)), p.why(s, -1, 0)...) {
		return false
	}
	var shared reason // of all parts that are as small as they can be
	for i, x := range p.parts {
		low := s.Least(x.Term)
		room := (most - least) / int64(x.Times)
		if int64(low)+room >= int64(s.Most(x.Term)) {
			continue
		}
		v := low + int32(room)
		if s.last[x.Term.B] < 0 {
			if shared.kind != byList {
				from := int32(len(s.arena))
				s.arena = append(append(s.arena, p.why(s, -1, 0)...), p.total.AtMost(int32(most)))
				shared = reason{byList, from, int32(len(s.arena)) - from}
			}
			if !s.raise(x.Term.AtMost(v), shared) {
				return false
			}
			continue
		}
		// With one more it would be beyond what is allowed, by so much.
		over := least + (int64(v)+1-int64(low))*int64(x.Times) - most - 1
		if !s.raiseBy(x.Term.AtMost(v), append(p.why(s, i, over), p.total.AtMost(int32(most)))...) {
			return false
		}
	}
	return true
}

// why are the least values of all parts but one; what is left over is given away.
func (p *sum) why(s *Solver, but int, over int64) []Atom {
	all := make([]Atom, 0, len(p.parts)+1)
	for i, x := range p.parts {
		if i == but || s.last[x.Term.B] < 0 {
			continue
		}
		low := s.Least(x.Term)
		start := s.start(x.Term)
		if cost := int64(low-start) * int64(x.Times); cost <= over {
			over -= cost
			continue
		}
		if give := over / int64(x.Times); give > 0 {
			low -= int32(give)
			over -= give * int64(x.Times)
		}
		all = append(all, x.Term.AtLeast(low))
	}
	return all
}

// start is the least value that a term has in any case.
func (s *Solver) start(t Term) int32 {
	p := s.last[t.B]
	if p < 0 {
		return s.Least(t)
	}
	for s.trail[p].before >= 0 && s.trail[p].level > 0 {
		p = s.trail[p].before
	}
	if s.trail[p].level == 0 {
		return s.trail[p].v + t.Off
	}
	return s.trail[p].was + t.Off
}
