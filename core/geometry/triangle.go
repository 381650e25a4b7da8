package geometry

import (
	"math"
	"slices"
)

// Triangle names three corners of a list of points, counter-clockwise.
type Triangle [3]int

// Triangles cuts a ring that does not cross itself into triangles, ear by ear.
// The corners are numbered as in the ring.
func (r Ring) Triangles() []Triangle {
	left := make([]int, len(r))
	for i := range r {
		left[i] = i
	}
	if r.SignedArea() < 0 {
		slices.Reverse(left)
	}
	all := make([]Triangle, 0, max(0, len(r)-2))
	for len(left) > 3 {
		at := r.ear(left)
		n := len(left)
		all = append(all, Triangle{left[(at+n-1)%n], left[at], left[(at+1)%n]})
		left = slices.Delete(left, at, at+1)
	}
	if len(left) == 3 {
		all = append(all, Triangle(left))
	}
	return all
}

// ear is the place among the corners left of one that can be cut off: the first
// that turns left and holds no other corner, else the one that turns least far
// right, which only a straight run of corners comes to.
func (r Ring) ear(left []int) int {
	best, turn := 0, math.Inf(-1)
	n := len(left)
	for i := range left {
		a, b, c := r[left[(i+n-1)%n]], r[left[i]], r[left[(i+1)%n]]
		now := cross(b.Minus(a), c.Minus(b))
		if now > 0 && !r.corners(left, i, a, b, c) {
			return i
		}
		if now <= 0 && now > turn {
			best, turn = i, now
		}
	}
	return best
}

// corners reports whether the triangle about corner i holds another corner.
func (r Ring) corners(left []int, i int, a, b, c Point) bool {
	n := len(left)
	for k, index := range left {
		if k == i || k == (i+1)%n || k == (i+n-1)%n {
			continue
		}
		p := r[index]
		if p != a && p != b && p != c && cross(b.Minus(a), p.Minus(a)) >= 0 && cross(c.Minus(b), p.Minus(b)) >= 0 &&
			cross(a.Minus(c), p.Minus(c)) >= 0 {
			return true
		}
	}
	return false
}

// clip keeps what of the ring lies inside a triangle that runs
// counter-clockwise (Sutherland and Hodgman 1974). Of a ring that is not convex
// the parts may hang together by edges of no width, which add no area.
func (r Ring) clip(a, b, c Point) Ring {
	kept := r
	for _, side := range [3][2]Point{{a, b}, {b, c}, {c, a}} {
		u := side[1].Minus(side[0])
		var next Ring
		for i, p := range kept {
			q := kept[(i+1)%len(kept)]
			dp, dq := cross(u, p.Minus(side[0])), cross(u, q.Minus(side[0]))
			if dp >= 0 {
				next = append(next, p)
			}
			if dp > 0 && dq < 0 || dp < 0 && dq > 0 {
				next = append(next, p.Toward(q, dp/(dp-dq)))
			}
		}
		kept = next
	}
	return kept
}

// Common are the pieces that two rings share.
func (r Ring) Common(other Ring) []Ring {
	var shared []Ring
	for _, t := range other.Triangles() {
		piece := r.turned(true).clip(other[t[0]], other[t[1]], other[t[2]])
		if piece.SignedArea() > Tolerance*Tolerance {
			shared = append(shared, piece)
		}
	}
	return shared
}

// Covers returns where the ring lies against the right side of the segment from a to
// b, as stretches of shares of the segment.
func (r Ring) Covers(a, b Point) [][2]float64 {
	u := b.Minus(a)
	length := math.Hypot(u.X, u.Y)
	cuts := []float64{0, 1}
	for i, p := range r {
		q := r[(i+1)%len(r)]
		v, w := q.Minus(p), p.Minus(a)
		if across := cross(u, v); math.Abs(across) > 1e-12*length*math.Hypot(v.X, v.Y) {
			cuts = append(cuts, cross(w, v)/across)
		}
		cuts = append(cuts, dot(w, u)/dot(u, u))
	}
	slices.Sort(cuts)
	var covered [][2]float64
	for i := 1; i < len(cuts); i++ {
		from, to := math.Max(0, cuts[i-1]), math.Min(1, cuts[i])
		if (to-from)*length < Tolerance {
			continue
		}
		beside := a.Toward(b, (from+to)/2)
		beside.X += u.Y / length * Tolerance
		beside.Y -= u.X / length * Tolerance
		if !r.contains(beside) {
			continue
		}
		if n := len(covered); n > 0 && covered[n-1][1] >= from {
			covered[n-1][1] = to
		} else {
			covered = append(covered, [2]float64{from, to})
		}
	}
	return covered
}

// Along returns where one segment lies on another, as a stretch of shares of the one
// from a to b.
func Along(a, b, c, d Point) (stretch [2]float64, found bool) {
	u := b.Minus(a)
	length := math.Hypot(u.X, u.Y)
	if math.Abs(cross(u, c.Minus(a))) > Tolerance*length || math.Abs(cross(u, d.Minus(a))) > Tolerance*length {
		return stretch, false
	}
	from, to := dot(c.Minus(a), u)/dot(u, u), dot(d.Minus(a), u)/dot(u, u)
	stretch = [2]float64{math.Max(0, math.Min(from, to)), math.Min(1, math.Max(from, to))}
	return stretch, stretch[1] > stretch[0]
}

// Holds reports whether p lies inside the ring or on it.
func (r Ring) Holds(p Point) bool {
	_, _, at := r.Nearest(p)
	return r.contains(p) || at.Distance(p) < Tolerance
}

// Mesh covers a ring with triangles whose corners are the ring's and the inner
// points, as near to Delaunay's as its sides allow. The points are those of the
// ring, then the inner ones. Inner points lie inside, no two at one place.
func Mesh(outline Ring, inner []Point) ([]Point, []Triangle) {
	points := append(slices.Clone([]Point(outline)), inner...)
	m := mesh{points: points, walls: len(outline), all: outline.Triangles()}
	for i := len(outline); i < len(points); i++ {
		m.insert(i)
	}
	m.settle()
	return points, m.all
}

type mesh struct {
	points []Point
	walls  int
	all    []Triangle
}

// insert sets a point into the triangle that holds it, or into the two on whose
// side it lies.
func (m *mesh) insert(i int) {
	best, depth := 0, math.Inf(-1)
	for n := range m.all {
		if inside, _ := m.inside(n, i); inside > depth {
			best, depth = n, inside
		}
	}
	if depth > Tolerance/100 {
		t := m.all[best]
		m.all[best] = Triangle{t[0], t[1], i}
		m.all = append(m.all, Triangle{t[1], t[2], i}, Triangle{t[2], t[0], i})
		return
	}
	for n := range m.all {
		if inside, k := m.inside(n, i); inside >= depth-Tolerance/100 {
			t := m.all[n]
			m.all[n] = Triangle{t[k], i, t[(k+2)%3]}
			m.all = append(m.all, Triangle{i, t[(k+1)%3], t[(k+2)%3]})
		}
	}
}

// inside returns how far a point lies inside a triangle, below zero outside, and the
// side of the triangle that is nearest.
func (m *mesh) inside(n, i int) (depth float64, side int) {
	t := m.all[n]
	depth = math.Inf(1)
	for k := range t {
		a, b := m.points[t[k]], m.points[t[(k+1)%3]]
		if d := cross(b.Minus(a), m.points[i].Minus(a)) / a.Distance(b); d < depth {
			depth, side = d, k
		}
	}
	return depth, side
}

// settle flips the shared side of two triangles wherever that opens their
// angles (Lawson 1977), until nothing more is won.
func (m *mesh) settle() {
	for range 4 * len(m.points) {
		flipped := false
		sides := make(map[[2]int]int, 3*len(m.all))
		for n, t := range m.all {
			for k := range t {
				sides[[2]int{t[k], t[(k+1)%3]}] = n
			}
		}
		touched := make(map[int]bool)
		for n := range m.all {
			for k := range 3 {
				a, b, c := m.all[n][k], m.all[n][(k+1)%3], m.all[n][(k+2)%3]
				other, shared := sides[[2]int{b, a}]
				if !shared || touched[n] || touched[other] || a < m.walls && b < m.walls && neighbours(a, b, m.walls) {
					continue
				}
				d := m.all[other].besides(a, b)
				if !m.better(a, b, c, d) {
					continue
				}
				m.all[n], m.all[other] = Triangle{a, d, c}, Triangle{d, b, c}
				touched[n], touched[other], flipped = true, true, true
			}
		}
		if !flipped {
			return
		}
	}
}

func (t Triangle) besides(a, b int) int {
	for _, corner := range t {
		if corner != a && corner != b {
			return corner
		}
	}
	return t[0]
}

// better reports whether the diagonal from c to d divides the figure a, d, b, c
// better than that from a to b: d lies in the circle through a, b and c, and
// the flip leaves no triangle turned over.
func (m *mesh) better(a, b, c, d int) bool {
	p, q, r, s := m.points[a], m.points[b], m.points[c], m.points[d]
	one, two := cross(s.Minus(p), r.Minus(p)), cross(q.Minus(s), r.Minus(s))
	size := p.Distance(q) * r.Distance(s)
	if one <= 1e-12*size || two <= 1e-12*size {
		return false
	}
	u, v, w := p.Minus(s), q.Minus(s), r.Minus(s)
	in := dot(u, u)*cross(v, w) - dot(v, v)*cross(u, w) + dot(w, w)*cross(u, v)
	return in > 1e-9*size*size
}

// Beside returns how a ring lies beside the segment from a to b: the length of
// the segment that the ring stands over, its least distance from the segment
// there, and the middle of the gap between them.
func (r Ring) Beside(a, b Point) (length, gap float64, at Point) {
	u := b.Minus(a)
	whole := math.Hypot(u.X, u.Y)
	low, high := math.Inf(1), math.Inf(-1)
	for _, p := range r {
		along := dot(p.Minus(a), u) / whole
		low, high = math.Min(low, along), math.Max(high, along)
	}
	low, high = math.Max(0, low), math.Min(whole, high)
	if high <= low {
		return 0, 0, Point{}
	}
	middle := a.Toward(b, (low+high)/2/whole)
	_, _, near := r.Nearest(middle)
	gap = near.Distance(middle)
	for _, p := range r {
		if along := dot(p.Minus(a), u) / whole; along >= low && along <= high {
			gap = math.Min(gap, math.Abs(cross(u, p.Minus(a)))/whole)
		}
	}
	return high - low, gap, middle.Toward(near, 0.5)
}
