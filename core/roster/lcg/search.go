package lcg

import "context"

// Outcome says how a search ended.
type Outcome int

// The outcomes.
const (
	Found   Outcome = iota // all that is to be decided is decided
	Nothing                // nothing fits what is assumed
	Stopped                // its context ended, or what it may try is used up
)

// Search looks for values that every constraint and all assumptions allow, within so many
// conflicts. next is asked what to try where no choice of the search's own is open, or, at
// every other restart, before them; it says false where all is decided. What was found
// stands in the solver until it is changed.
func (s *Solver) Search(ctx context.Context, assume []Atom, conflicts int64, next func() (Atom, bool)) Outcome {
	s.back(0)
	if s.broken {
		return Nothing
	}
	end := s.Conflicts + conflicts
	for run := int64(1); ; run++ {
		most := min(end, s.Conflicts+luby(run)*unit)
		if s.guide != nil {
			copy(s.phase, s.guide)
		}
		switch out := s.run(ctx, assume, most, next, run%2 == 0); {
		case out == Found:
			s.guide = s.guide[:0]
			for n := range s.phase {
				s.guide = append(s.guide, s.at[2*n] > 0)
			}
			return out
		case out != Stopped:
			return out
		case s.Conflicts >= end || ctx.Err() != nil:
			return Stopped
		}
		if s.learned > fewest+int(s.Conflicts/16) {
			s.back(0)
			if !s.settle() {
				s.broken = true
				return Nothing
			}
			s.forget()
			s.reduce()
		}
	}
}

// Undo takes back what a search decided: what holds then holds in any case.
func (s *Solver) Undo() { s.back(0) }

// unit is the number of conflicts of the shortest run between restarts.
const unit = 100

// luby is the sequence 1, 1, 2, 1, 1, 2, 4, … (Luby, Sinclair and Zuckerman 1993).
func luby(n int64) int64 {
	for k := int64(1); ; k++ {
		if n == 1<<k-1 {
			return 1 << (k - 1)
		}
		if n < 1<<k-1 {
			n -= 1<<(k-1) - 1
			k = 0
		}
	}
}

// run searches until so many conflicts have been seen.
func (s *Solver) run(ctx context.Context, assume []Atom, most int64, next func() (Atom, bool), first bool) Outcome {
	s.back(0)
	for steps := 1; ; steps++ {
		if !s.settle() {
			s.Conflicts++
			atoms, to := s.analyse()
			if to < 0 {
				s.broken = true
				return Nothing
			}
			s.learn(atoms, to)
			continue
		}
		if s.Conflicts >= most || steps%64 == 0 && ctx.Err() != nil {
			return Stopped
		}
		if len(s.levels) == 0 {
			s.forget()
		}
		var a Atom
		open := false
		for len(s.levels) < len(assume) && !open {
			a = assume[len(s.levels)]
			if s.Fails(a) {
				return Nothing
			}
			if s.Holds(a) {
				s.levels = append(s.levels, level{int32(len(s.trail)), int32(len(s.arena))})
				continue
			}
			open = true
		}
		if !open && first {
			a, open = next()
		}
		if !open {
			a, open = s.choose()
		}
		if !open && !first {
			a, open = next()
		}
		if !open {
			return Found
		}
		s.levels = append(s.levels, level{int32(len(s.trail)), int32(len(s.arena))})
		s.raise(a, reason{})
	}
}

// learn goes back to where a learned clause leaves one atom, and has it hold.
func (s *Solver) learn(atoms []Atom, to int) {
	spread := s.spread(atoms)
	s.back(to)
	s.step /= 0.999
	if s.bump /= 0.95; s.bump > 1e100 {
		for i := range s.active {
			s.active[i] *= 1e-100
		}
		s.bump *= 1e-100
	}
	if len(atoms) == 1 {
		s.raiseBy(atoms[0])
		return
	}
	s.raise(atoms[0], reason{byClause, s.attach(atoms, true, spread), 0})
}

// choose is the choice that led to conflicts most, lately.
func (s *Solver) choose() (Atom, bool) {
	for len(s.heap.all) > 0 {
		n := s.heap.pop()
		b := Bound(2 * n)
		if s.at[b]+s.at[b+1] == 0 {
			continue
		}
		a := Atom{b, 1}
		if !s.phase[n] {
			a = a.Not()
		}
		return a, true
	}
	return Atom{}, false
}

// bumped makes a number more likely to be decided next.
func (s *Solver) bumped(n int) {
	s.active[n] += s.bump
	if s.heap.place[n] >= 0 {
		s.heap.up(s.heap.place[n])
	}
}

// heap has the choice that is most active on top.
type heap struct {
	s     *Solver
	all   []int
	place []int
}

func (h *heap) before(a, b int) bool { return h.s.active[h.all[a]] > h.s.active[h.all[b]] }

func (h *heap) swap(a, b int) {
	h.all[a], h.all[b] = h.all[b], h.all[a]
	h.place[h.all[a]], h.place[h.all[b]] = a, b
}

func (h *heap) up(i int) {
	for i > 0 && h.before(i, (i-1)/2) {
		h.swap(i, (i-1)/2)
		i = (i - 1) / 2
	}
}

func (h *heap) down(i int) {
	for {
		least := i
		for _, k := range [2]int{2*i + 1, 2*i + 2} {
			if k < len(h.all) && h.before(k, least) {
				least = k
			}
		}
		if least == i {
			return
		}
		h.swap(i, least)
		i = least
	}
}

func (h *heap) push(n int) {
	if h.place[n] < 0 {
		h.place[n] = len(h.all)
		h.all = append(h.all, n)
		h.up(h.place[n])
	}
}

func (h *heap) pop() int {
	n := h.all[0]
	h.swap(0, len(h.all)-1)
	h.all = h.all[:len(h.all)-1]
	h.place[n] = -1
	if len(h.all) > 0 {
		h.down(0)
	}
	return n
}
