package lcg

import (
	"slices"
	"sort"
)

// Load is work that is done by some who are there for it, between its start and its end.
type Load struct {
	Start, End Term
	Work       int32
	By         []Atom // it is done by them where all of these hold
}

// room holds how much work some can do: in any stretch no more than they are there for.
type room struct {
	loads  []Load
	sure   []int32 // what can be done before each slot
	extra  []int32 // what more can be done before each slot, of which not more is done in all
	most   Term    // than this
	inside []int   // loads that count, by their last end
	least  []int32
	latest []int32
}

// Room has the work of loads be done within what can be done. sure and extra count what
// can be done before each slot from zero on; of extra, not more than most is done.
func (s *Solver) Room(loads []Load, sure, extra []int32, most Term) {
	s.back(0)
	hears := []Bound{most.B ^ 1}
	for _, l := range loads {
		hears = append(hears, l.Start.B, l.End.B^1)
		for _, a := range l.By {
			hears = append(hears, a.B)
		}
	}
	s.add(&room{loads: loads, sure: sure, extra: extra, most: most}, hears...)
}

// can returns what can be done between two slots.
func (p *room) can(s *Solver, from, until int32) int64 {
	last := int32(len(p.sure) - 1)
	from, until = min(max(from, 0), last), min(max(until, 0), last)
	if until <= from {
		return 0
	}
	return int64(p.sure[until]-p.sure[from]) + int64(min(p.extra[until]-p.extra[from], s.Most(p.most)))
}

func (p *room) propagate(s *Solver) bool {
	p.inside = p.inside[:0]
	p.least, p.latest = p.least[:0], p.latest[:0]
	for i, l := range p.loads {
		in := l.Work > 0
		for _, a := range l.By {
			in = in && s.Holds(a)
		}
		if in {
			p.inside = append(p.inside, i)
		}
		p.least = append(p.least, s.Least(l.Start))
		p.latest = append(p.latest, s.Most(l.End))
	}
	slices.SortFunc(p.inside, func(a, b int) int {
		if p.latest[a] != p.latest[b] {
			return int(p.latest[a] - p.latest[b])
		}
		return a - b
	})
	for k, first := range p.inside {
		from := p.least[first]
		if slices.ContainsFunc(p.inside[:k], func(o int) bool { return p.least[o] == from }) {
			continue
		}
		work := int64(0)
		for n, i := range p.inside {
			if p.least[i] < from {
				continue
			}
			work += int64(p.loads[i].Work)
			if n+1 < len(p.inside) && p.latest[p.inside[n+1]] == p.latest[i] {
				continue
			}
			if until := p.latest[i]; work > p.can(s, from, until) {
				p.tell(s, from, until, work)
				return false
			}
		}
	}
	return true
}

// tell returns why more work is to be done between two slots than can be: in a stretch as
// long as it can be for it, leaving out what it takes not.
func (p *room) tell(s *Solver, from, until int32, work int64) {
	s.fault = s.fault[:0]
	last := len(p.sure) - 1
	over := work - p.can(s, from, until) - 1
	var count []int
	for _, i := range p.inside {
		if p.least[i] >= from && p.latest[i] <= until {
			if w := int64(p.loads[i].Work); w <= over {
				over, work = over-w, work-w
				continue
			}
			count = append(count, i)
		}
	}
	until += int32(sort.Search(last-int(min(until, int32(last))),
		func(d int) bool { return p.can(s, from, until+int32(d)+1) >= work }))
	from = int32(sort.Search(int(max(from, 0)), func(a int) bool { return p.can(s, int32(a), until) < work }))
	for _, i := range count {
		l := p.loads[i]
		s.fault = append(s.fault, l.Start.AtLeast(from), l.End.AtMost(until))
		s.fault = append(s.fault, l.By...)
	}
	if f, u := max(from, 0), min(until, int32(last)); p.extra[u]-p.extra[f] > s.Most(p.most) {
		s.fault = append(s.fault, p.most.AtMost(s.Most(p.most)))
	}
}
