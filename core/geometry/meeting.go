package geometry

import (
	"cmp"
	"math"
	"slices"
)

// side is one edge of a ring with the box around it.
type side struct {
	from, to    Point
	low, high   float64 // along x
	under, over float64 // along y
	ring, index int32
}

// crowded is the number of sides from which a cell is worth sorting.
const crowded = 24

// meeting finds two sides that touch: of the ring itself when other is nil
// (neighbours excepted), else one of each ring. The sides are dealt into the
// cells of a grid that they pass through, and only those of one cell are
// compared.
func meeting(r, other Ring) (i, j int, at Point, found bool) {
	sides := make([]side, 0, len(r)+len(other))
	for n, ring := range [2]Ring{r, other} {
		for k, a := range ring {
			b := ring[(k+1)%len(ring)]
			sides = append(sides, side{a, b, min(a.X, b.X), max(a.X, b.X), min(a.Y, b.Y), max(a.Y, b.Y), int32(n), int32(k)})
		}
	}
	for cell := range deal(sides) {
		if len(cell) > crowded {
			slices.SortFunc(cell, func(s, t int32) int { return cmp.Compare(sides[s].low, sides[t].low) })
		}
		for k, one := range cell {
			s := &sides[one]
			for _, two := range cell[k+1:] {
				t := &sides[two]
				if t.low > s.high && len(cell) > crowded {
					break
				}
				if t.under > s.over || t.over < s.under || t.low > s.high || t.high < s.low ||
					other != nil && s.ring == t.ring || other == nil && neighbours(int(s.index), int(t.index), len(r)) {
					continue
				}
				where, touch := touching(s.from, s.to, t.from, t.to)
				if !touch {
					continue
				}
				if s.ring > t.ring || s.ring == t.ring && s.index > t.index {
					s, t = t, s
				}
				return int(s.index), int(t.index), where, true
			}
		}
	}
	return 0, 0, Point{}, false
}

// deal gives, cell by cell, the sides that pass through each cell of a grid with
// about as many cells as there are sides.
func deal(sides []side) func(yield func([]int32) bool) {
	low, high := Point{math.Inf(1), math.Inf(1)}, Point{math.Inf(-1), math.Inf(-1)}
	for _, s := range sides {
		low, high = Point{min(low.X, s.low), min(low.Y, s.under)}, Point{max(high.X, s.high), max(high.Y, s.over)}
	}
	n := int(2*math.Sqrt(float64(len(sides)))) + 1
	wide, tall := max((high.X-low.X)/float64(n), Tolerance), max((high.Y-low.Y)/float64(n), Tolerance)
	place := func(v float64) int { return max(0, min(n-1, int(v))) }
	// The cells of a side: in each row those between its ends there, widened by
	// the tolerance within which sides count as touching.
	type visit struct{ cell, side int32 }
	visits := make([]visit, 0, 8*len(sides))
	ends := make([]int32, n*n+1)
	for i := range sides {
		s := &sides[i]
		first, last := place((s.under-Tolerance-low.Y)/tall), place((s.over+Tolerance-low.Y)/tall)
		for row := first; row <= last; row++ {
			from, to := s.low, s.high
			if rise := s.to.Y - s.from.Y; first != last && math.Abs(rise) > Tolerance {
				bottom, top := low.Y+float64(row)*tall-Tolerance, low.Y+float64(row+1)*tall+Tolerance
				a := s.from.X + (bottom-s.from.Y)/rise*(s.to.X-s.from.X)
				b := s.from.X + (top-s.from.Y)/rise*(s.to.X-s.from.X)
				from, to = max(from, min(a, b)), min(to, max(a, b))
			}
			right := place((to + Tolerance - low.X) / wide)
			for column := place((from - Tolerance - low.X) / wide); column <= right; column++ {
				cell := int32(row*n + column)
				visits = append(visits, visit{cell, int32(i)})
				ends[cell+1]++
			}
		}
	}
	for c := 1; c < len(ends); c++ {
		ends[c] += ends[c-1]
	}
	dealt, next := make([]int32, len(visits)), slices.Clone(ends)
	for _, v := range visits {
		dealt[next[v.cell]] = v.side
		next[v.cell]++
	}
	return func(yield func([]int32) bool) {
		for c := range n * n {
			if ends[c+1]-ends[c] > 1 && !yield(dealt[ends[c]:ends[c+1]]) {
				return
			}
		}
	}
}
