package lcg

// Way is one way to do a stretch: where it may start, and where it ends then.
type Way struct {
	If    Atom // it is done so
	Times Times
}

// Times are the starts that a way allows, and the end that each leads to, which is later
// the later the start is or the same. There is one start at least.
type Times interface {
	Next(start int32) (int32, bool) // the first allowed start from here
	Last(start int32) (int32, bool) // the last one up to here
	End(start int32) int32          // of an allowed start
	EndsBy(end int32) (int32, bool) // the last start that ends by then
	EndsAt(end int32) (int32, bool) // the first one that ends no sooner
}

// stretch has a start and an end be those of one of its ways.
type stretch struct {
	start, end Term
	ways       []Way
}

// Stretch has a start and an end be those of one of some ways. That one of them holds is
// for a clause to say.
func (s *Solver) Stretch(start, end Term, ways []Way) {
	s.back(0)
	hears := []Bound{start.B, start.B ^ 1, end.B, end.B ^ 1}
	for _, w := range ways {
		hears = append(hears, w.If.B^1)
	}
	s.add(&stretch{start, end, ways}, hears...)
}

// lower is the first start of a way from what holds by now.
func (p *stretch) lower(s *Solver, w Way) (int32, bool) {
	a, ok := w.Times.Next(s.Least(p.start))
	if !ok {
		return 0, false
	}
	if w.Times.End(a) >= s.Least(p.end) {
		return a, true
	}
	return w.Times.EndsAt(s.Least(p.end))
}

// upper is the last start of a way by what holds by now.
func (p *stretch) upper(s *Solver, w Way) (int32, bool) {
	a, ok := w.Times.Last(s.Most(p.start))
	if !ok {
		return 0, false
	}
	if w.Times.End(a) <= s.Most(p.end) {
		return a, true
	}
	return w.Times.EndsBy(s.Most(p.end))
}

// after claims that what holds by now leaves a way no start up to one, where it does.
func (p *stretch) after(s *Solver, w Way, start int32) (Atom, bool) {
	if s.Least(p.start) > start {
		return p.start.AtLeast(start + 1), true
	}
	if end := w.Times.End(start); s.Least(p.end) > end {
		return p.end.AtLeast(end + 1), true
	}
	return Atom{}, false
}

// before claims that what holds by now leaves a way no start from one on, where it does.
func (p *stretch) before(s *Solver, w Way, start int32) (Atom, bool) {
	if s.Most(p.start) < start {
		return p.start.AtMost(start - 1), true
	}
	if end := w.Times.End(start); s.Most(p.end) < end {
		return p.end.AtMost(end - 1), true
	}
	return Atom{}, false
}

func (p *stretch) propagate(s *Solver) bool {
	const far = int32(1 << 30)
	start, last, end, most := far, -far, far, -far
	for _, w := range p.ways {
		if s.Fails(w.If) {
			continue
		}
		low, up := p.lower(s, w)
		high, down := p.upper(s, w)
		if !up || !down || low > high {
			if !s.raiseBy(w.If.Not(), p.shut(s, w, high, down)...) {
				return false
			}
			continue
		}
		start, last = min(start, low), max(last, high)
		end, most = min(end, w.Times.End(low)), max(most, w.Times.End(high))
	}
	if start == far {
		return true // a clause tells that one of them must hold
	}
	if start > s.Least(p.start) && !s.raiseBy(p.start.AtLeast(start),
		p.sooner(s, func(w Way) (int32, bool) { return w.Times.Last(start - 1) })...) {
		return false
	}
	if end > s.Least(p.end) && !s.raiseBy(p.end.AtLeast(end),
		p.sooner(s, func(w Way) (int32, bool) { return w.Times.EndsBy(end - 1) })...) {
		return false
	}
	if last < s.Most(p.start) && !s.raiseBy(p.start.AtMost(last),
		p.later(s, func(w Way) (int32, bool) { return w.Times.Next(last + 1) })...) {
		return false
	}
	if most < s.Most(p.end) && !s.raiseBy(p.end.AtMost(most),
		p.later(s, func(w Way) (int32, bool) { return w.Times.EndsAt(most + 1) })...) {
		return false
	}
	return true
}

// shut returns why no start of a way is left; high is the last one by what is allowed at
// most.
func (p *stretch) shut(s *Solver, w Way, high int32, any bool) []Atom {
	var why []Atom
	from := int32(0)
	if any {
		a, _ := p.after(s, w, high)
		why = append(why, a)
		from = high + 1
	}
	if next, ok := w.Times.Next(from); ok {
		a, _ := p.before(s, w, next)
		why = append(why, a)
	}
	return why
}

// sooner returns why no way has a start up to the one that is named for it.
func (p *stretch) sooner(s *Solver, upTo func(Way) (int32, bool)) []Atom {
	return p.none(s, upTo, p.after)
}

// later returns why no way has a start from the one on that is named for it.
func (p *stretch) later(s *Solver, from func(Way) (int32, bool)) []Atom {
	return p.none(s, from, p.before)
}

func (p *stretch) none(s *Solver, which func(Way) (int32, bool), why func(*Solver, Way, int32) (Atom, bool)) []Atom {
	all := make([]Atom, 0, len(p.ways)+1)
	for _, w := range p.ways {
		at, ok := which(w)
		if !ok {
			continue
		}
		a, told := why(s, w, at)
		if !told {
			a = w.If.Not() // it is not done so
		}
		same := false
		for i, o := range all {
			if o.B == a.B {
				all[i].V, same = max(o.V, a.V), true
			}
		}
		if !same {
			all = append(all, a)
		}
	}
	return all
}
