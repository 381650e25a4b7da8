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

// Level is where along a travel a seam lies, and whether it runs square to it.
func (s Seam) Level(travel Travel) (float64, bool) {
	length := s.A.Distance(s.B)
	a, b := travel.Along(s.A), travel.Along(s.B)
	return (a + b) / 2, length > 0 && math.Abs(a-b) <= seamSquare*length
}

// Carries tells whether a join lies on the seam along most of its length.
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
	for k, i := range inner {
		for _, j := range inner[k+1:] {
			a, b := r[i], r[j]
			neighbours := j == i+1 || i == 0 && j == n-1
			if d := a.Distance(b); neighbours || d > widest || d < Tolerance || !p.sees(a, b) {
				continue
			}
			all = append(all, Seam{a, b, "doorway"})
		}
	}
	return all
}

// sees tells whether the straight line between two corners lies inside.
func (p Polygon) sees(a, b Point) bool {
	middle := a.Toward(b, 0.5)
	if !p.Outline.contains(middle) {
		return false
	}
	length := a.Distance(b)
	along := Travel{(b.X - a.X) / length, (b.Y - a.Y) / length}
	start, aside := along.Along(a), along.aside(a)
	for _, r := range p.Rings() {
		for i, c := range r {
			d := r[(i+1)%len(r)]
			sc, sd := along.aside(c)-aside, along.aside(d)-aside
			if (sc > 0) == (sd > 0) {
				continue
			}
			at := along.Along(c) + sc/(sc-sd)*(along.Along(d)-along.Along(c)) - start
			if at > Tolerance && at < length-Tolerance {
				return false
			}
		}
	}
	return true
}
