package lcg

import "sort"

// arc has a bound follow another where an atom holds: to ≥ from + by, or, with a table,
// to ≥ table[from − base].
type arc struct {
	given    Atom
	from, to Bound
	by       int32
	table    []int32 // rising
	base     int32
}

// at returns what a value of the one bound makes of the other.
func (x *arc) at(v int32) int32 {
	if x.table == nil {
		return v + x.by
	}
	return x.table[max(0, min(int(v-x.base), len(x.table)-1))]
}

// cause is the least value of the one bound that makes the other so great.
func (x *arc) cause(v int32) int32 {
	if x.table == nil {
		return v - x.by
	}
	return x.base + int32(sort.Search(len(x.table), func(i int) bool { return x.table[i] >= v }))
}

func (s *Solver) arc(x arc) {
	n := int32(len(s.arcs))
	s.arcs = append(s.arcs, x)
	s.arcsFrom[x.from] = append(s.arcsFrom[x.from], n)
	if x.given != True() {
		s.arcsIf[x.given.B] = append(s.arcsIf[x.given.B], n)
	}
	if !s.along(n) {
		s.broken = true
	}
}

// Apart has one term no less than another where an atom holds.
func (s *Solver) Apart(given Atom, small, great Term) {
	s.back(0)
	by := small.Off - great.Off
	s.arc(arc{given: given, from: small.B, to: great.B, by: by})
	s.arc(arc{given: given, from: great.B ^ 1, to: small.B ^ 1, by: by})
}

// Follows has a number no less than a rising function of another where an atom holds. The
// table holds the function from zero on; both numbers lie within it, and neither term has
// a constant.
func (s *Solver) Follows(given Atom, from, to Term, table []int32) {
	s.back(0)
	s.arc(arc{given: given, from: from.B, to: to.B, table: table})
	// −from ≥ −(the greatest x whose value is at most to).
	most := int32(len(table) - 1)
	back := make([]int32, len(table))
	x := 0
	for v := int32(0); v <= most; v++ { // to ≤ v
		for x < len(table) && table[x] <= v {
			x++
		}
		back[most-v] = 1 - int32(x)
	}
	s.arc(arc{given: given, from: to.B ^ 1, to: from.B ^ 1, table: back, base: -most})
}

// Kept has a number no more than a rising function of another where an atom holds. The
// table holds the function from zero on; both numbers lie within it.
func (s *Solver) Kept(given Atom, from, to Term, table []int32) {
	s.back(0)
	most := int32(len(table) - 1)
	negative, first := make([]int32, len(table)), make([]int32, len(table))
	x := int32(0)
	for v := range table {
		negative[v] = -table[len(table)-1-v]
		for x <= most && table[x] < int32(v) {
			x++
		}
		first[v] = x
	}
	s.arc(arc{given: given, from: from.B ^ 1, to: to.B ^ 1, table: negative, base: -most})
	s.arc(arc{given: given, from: to.B, to: from.B, table: first})
}

// along raises what an arc asks for, or denies what it hangs on.
func (s *Solver) along(n int32) bool {
	x := &s.arcs[n]
	v := x.at(s.at[x.from])
	if s.at[x.to] >= v {
		return true
	}
	if s.at[x.given.B] >= x.given.V {
		return s.raise(Atom{x.to, v}, reason{byArc, n, 0})
	}
	if s.at[x.to^1] <= -v {
		return true
	}
	// It would be too great: the least that is too great is enough of a reason.
	least := 1 - s.at[x.to^1]
	return s.raiseBy(x.given.Not(), Atom{x.from, x.cause(least)}, Atom{x.to ^ 1, s.at[x.to^1]})
}

// follow raises what hangs on a bound by arcs.
func (s *Solver) follow(e entry) bool {
	for _, n := range s.arcsIf[e.b] {
		if x := &s.arcs[n]; e.v >= x.given.V && e.was < x.given.V && !s.along(n) {
			return false
		}
	}
	if s.at[e.b] > e.v {
		return true // a later entry tells
	}
	for _, n := range s.arcsFrom[e.b] {
		if x := &s.arcs[n]; !s.Fails(x.given) && !s.along(n) {
			return false
		}
	}
	return true
}
