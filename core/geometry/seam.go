package geometry

import "math"

// Seam is a straight line on a floor along which a join is welcome: a saw joint, the edge
// of a zone, a doorway.
type Seam struct {
	A, B Point
	Name string
}

// How nearly square to the travel a seam must run, as a sine, and how much of a line
// across it must cover, for a join to lie on it.
const (
	seamSquare = 0.02
	seamCovers = 0.8
	seamWide   = 0.01 // m beside its middle
)

// Level returns where along a travel a seam lies, and whether it runs square to it.
func (s Seam) Level(travel Travel) (float64, bool) {
	length := s.A.Distance(s.B)
	a, b := travel.Along(s.A), travel.Along(s.B)
	return (a + b) / 2, length > 0 && math.Abs(a-b) <= seamSquare*length
}

// Carries reports whether a join lies on the seam along most of its length.
func (s Seam) Carries(join [2]Point) bool {
	length := join[0].Distance(join[1])
	if length == 0 {
		return false
	}
	along := Travel{(join[1].X - join[0].X) / length, (join[1].Y - join[0].Y) / length}
	a, b := along.aside(s.A)-along.aside(join[0]), along.aside(s.B)-along.aside(join[0])
	if math.Abs(a+b)/2 > seamWide || math.Abs(a-b) > seamSquare*s.A.Distance(s.B) {
		return false
	}
	from, to := along.Along(s.A)-along.Along(join[0]), along.Along(s.B)-along.Along(join[0])
	return math.Min(length, math.Max(from, to))-math.Max(0, math.Min(from, to)) >= seamCovers*length
}

// Doorways are the necks of a floor no wider than a width: from one inner corner of its
// walls straight to another.
func Doorways(p Polygon, widest float64) []Seam {
	r := p.Outline
	r = r.turned(true)
	n := len(r)
	inner := make([]int, 0, n)
	for i, b := range r {
		a, c := r[(i+n-1)%n], r[(i+1)%n]
		if into, out := b.Minus(a), c.Minus(b); into.X*out.Y-into.Y*out.X < 0 {
			inner = append(inner, i)
		}
	}
	var all []Seam
	rings := p.Rings()
	for k, i := range inner {
		var near [][2]Point // walls that a line as short as a doorway can meet; sought once it is needed
		for _, j := range inner[k+1:] {
			a, b := r[i], r[j]
			neighbours := j == i+1 || i == 0 && j == n-1
			if d := a.Distance(b); neighbours || d > widest || d < Tolerance || leaves(r, i, b) || leaves(r, j, a) {
				continue
			}
			if near == nil {
				near = wallsNear(rings, a, widest)
			}
			if sees(near, a, b) && p.Outline.contains(a.Toward(b, 0.5)) {
				all = append(all, Seam{a, b, "doorway"})
			}
		}
	}
	return all
}

// leaves reports whether the straight way from an inner corner of an outline that runs
// counterclockwise begins outside.
func leaves(r Ring, at int, toward Point) bool {
	n := len(r)
	way, into, out := toward.Minus(r[at]), r[at].Minus(r[(at+n-1)%n]), r[(at+1)%n].Minus(r[at])
	return into.X*way.Y-into.Y*way.X < 0 && out.X*way.Y-out.Y*way.X < 0
}

// wallsNear lists the walls that come into the square around a point with a distance to its
// sides.
func wallsNear(rings []Ring, a Point, distance float64) [][2]Point {
	near := [][2]Point{}
	for _, r := range rings {
		for i, c := range r {
			d := r[(i+1)%len(r)]
			if math.Min(c.X, d.X) <= a.X+distance && math.Max(c.X, d.X) >= a.X-distance &&
				math.Min(c.Y, d.Y) <= a.Y+distance && math.Max(c.Y, d.Y) >= a.Y-distance {
				near = append(near, [2]Point{c, d})
			}
		}
	}
	return near
}

// sees reports whether no wall crosses the straight line between two corners.
func sees(walls [][2]Point, a, b Point) bool {
	length := a.Distance(b)
	along := Travel{(b.X - a.X) / length, (b.Y - a.Y) / length}
	start, aside := along.Along(a), along.aside(a)
	for _, wall := range walls {
		c, d := wall[0], wall[1]
		sc, sd := along.aside(c)-aside, along.aside(d)-aside
		if (sc > 0) == (sd > 0) {
			continue
		}
		at := along.Along(c) + sc/(sc-sd)*(along.Along(d)-along.Along(c)) - start
		if at > Tolerance && at < length-Tolerance {
			return false
		}
	}
	return true
}
