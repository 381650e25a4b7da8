// Package geometry measures and divides plane figures: polygons with holes,
// in metres, x to the right and y upward.
package geometry

import (
	"fmt"
	"math"
	"slices"
)

// Tolerance is the distance in metres under which two points of a drawing
// count as one: a tape reads no finer than half a millimetre.
const Tolerance = 0.0005

// Point is a place on the plan, in metres.
type Point struct {
	X float64 `json:"x" minimum:"-100000" maximum:"100000" doc:"Metres to the right"`
	Y float64 `json:"y" minimum:"-100000" maximum:"100000" doc:"Metres upward on the plan"`
}

// Minus is the vector from q to p.
func (p Point) Minus(q Point) Point { return Point{p.X - q.X, p.Y - q.Y} }

// Toward is the point a share of the way from p to q.
func (p Point) Toward(q Point, share float64) Point {
	return Point{p.X + share*(q.X-p.X), p.Y + share*(q.Y-p.Y)}
}

// Distance is the straight distance between two points.
func (p Point) Distance(q Point) float64 { return math.Hypot(p.X-q.X, p.Y-q.Y) }

func cross(a, b Point) float64 { return a.X*b.Y - a.Y*b.X }
func dot(a, b Point) float64   { return a.X*b.X + a.Y*b.Y }

// Ring is a closed line; the last corner joins the first.
type Ring []Point

// SignedArea is the shoelace area of the ring: positive when it runs
// counter-clockwise. Coordinates are taken from the first corner, so that a
// figure far from the origin keeps its digits.
func (r Ring) SignedArea() float64 {
	if len(r) < 3 {
		return 0
	}
	twice, origin := 0.0, r[0]
	for i := 1; i+1 < len(r); i++ {
		twice += cross(r[i].Minus(origin), r[i+1].Minus(origin))
	}
	return twice / 2
}

// Perimeter is the length of the closed line.
func (r Ring) Perimeter() float64 {
	length := 0.0
	for i, p := range r {
		length += p.Distance(r[(i+1)%len(r)])
	}
	return length
}

// Middle is the centre of gravity of the ring.
func (r Ring) Middle() Point {
	twice := 0.0
	var m Point
	for i, a := range r {
		b := r[(i+1)%len(r)]
		by := a.X*b.Y - b.X*a.Y
		twice += by
		m.X, m.Y = m.X+(a.X+b.X)*by, m.Y+(a.Y+b.Y)*by
	}
	if twice == 0 {
		return r[0]
	}
	return Point{m.X / (3 * twice), m.Y / (3 * twice)}
}

// turned is the ring in the wanted sense.
func (r Ring) turned(counterClockwise bool) Ring {
	turned := slices.Clone(r)
	if (r.SignedArea() > 0) != counterClockwise {
		slices.Reverse(turned)
	}
	return turned
}

// contains reports whether p lies inside, by the even-odd rule.
func (r Ring) contains(p Point) bool {
	inside := false
	for i, a := range r {
		b := r[(i+1)%len(r)]
		if (a.Y > p.Y) != (b.Y > p.Y) && p.X < a.X+(p.Y-a.Y)/(b.Y-a.Y)*(b.X-a.X) {
			inside = !inside
		}
	}
	return inside
}

// Polygon is an outline less its holes.
type Polygon struct {
	Outline Ring
	Holes   []Ring
}

// Area returns what is left of the outline without the holes.
func (p Polygon) Area() float64 {
	area := math.Abs(p.Outline.SignedArea())
	for _, hole := range p.Holes {
		area -= math.Abs(hole.SignedArea())
	}
	return area
}

// Rings gives the outline counter-clockwise and the holes clockwise, so that
// signed areas add up to the area and the inside is always to the left.
func (p Polygon) Rings() []Ring {
	rings := []Ring{p.Outline.turned(true)}
	for _, hole := range p.Holes {
		rings = append(rings, hole.turned(false))
	}
	return rings
}

// Fault says why a drawing encloses no area that can be trusted.
type Fault struct {
	Hole int     // -1 for the outline, else the hole's index
	Text string  // what is wrong
	Way  string  // how to mend it
	At   []Point // where
}

func (f *Fault) Error() string { return f.Text + " " + f.Way }

// Check reports the first fault of the polygon, or nil. Corners and sides are
// numbered from 1; side n runs from corner n to the next.
func (p Polygon) Check() *Fault {
	if fault := p.Outline.check(-1, "The outline"); fault != nil {
		return fault
	}
	for h, hole := range p.Holes {
		if fault := hole.check(h, fmt.Sprintf("Hole %d", h+1)); fault != nil {
			return fault
		}
	}
	for h, hole := range p.Holes {
		if fault := p.checkHole(h, hole); fault != nil {
			return fault
		}
	}
	return nil
}

func (p Polygon) checkHole(h int, hole Ring) *Fault {
	if i, j, at, found := meeting(p.Outline, hole); found {
		return &Fault{h, fmt.Sprintf("Hole %d meets the outline: its side %d touches side %d.", h+1, j+1, i+1),
			"Move the hole inside, or draw the recess as part of the outline.", []Point{at}}
	}
	for _, corner := range hole {
		if !p.Outline.contains(corner) {
			return &Fault{h, fmt.Sprintf("Hole %d is outside the outline.", h+1), "Move it inside or remove it.",
				[]Point{corner}}
		}
	}
	for o, other := range p.Holes[:h] {
		if _, _, at, found := meeting(other, hole); found {
			return &Fault{h, fmt.Sprintf("Hole %d meets hole %d.", h+1, o+1), "Draw the two as one hole, or move one.",
				[]Point{at}}
		}
		if other.contains(hole[0]) || hole.contains(other[0]) {
			return &Fault{h, fmt.Sprintf("Holes %d and %d are one inside the other.", o+1, h+1), "Remove the inner one.",
				[]Point{hole[0]}}
		}
	}
	return nil
}

func (r Ring) check(hole int, name string) *Fault {
	if len(r) < 3 {
		return &Fault{hole, fmt.Sprintf("%s has %d corners; an area needs at least 3.", name, len(r)),
			"Add corners until it closes.", r}
	}
	for i, a := range r {
		if u := r[(i+1)%len(r)].Minus(a); dot(u, u) < Tolerance*Tolerance {
			return &Fault{hole, fmt.Sprintf("%s: side %d has no length.", name, i+1),
				fmt.Sprintf("Remove corner %d or move it.", (i+1)%len(r)+1), []Point{a}}
		}
	}
	for i, a := range r {
		before, after := r[(i+len(r)-1)%len(r)], r[(i+1)%len(r)]
		u, v := before.Minus(a), after.Minus(a)
		if across := cross(u, v); dot(u, v) > 0 && across*across < Tolerance*Tolerance*max(dot(u, u), dot(v, v)) {
			return &Fault{hole, fmt.Sprintf("%s folds back on itself at corner %d.", name, i+1),
				fmt.Sprintf("Move or remove corner %d.", i+1), []Point{a}}
		}
	}
	if i, j, at, found := meeting(r, nil); found {
		return &Fault{hole, fmt.Sprintf("%s crosses itself: side %d meets side %d.", name, i+1, j+1),
			"Move the corners so that the sides do not meet.", []Point{at}}
	}
	return nil
}

func neighbours(i, j, n int) bool {
	gap := i - j
	return gap >= -1 && gap <= 1 || gap == n-1 || gap == 1-n
}

// touching finds where two segments meet, overlapping ones included.
func touching(a, b, c, d Point) (Point, bool) {
	u, v, w := b.Minus(a), d.Minus(c), c.Minus(a)
	// Most pairs are settled here: both ends of one on the same side of the other.
	if one, two := cross(u, w), cross(u, d.Minus(a)); one*two > 0 &&
		min(one*one, two*two) > Tolerance*Tolerance*dot(u, u) {
		return Point{}, false
	}
	across := cross(u, v)
	if across*across < 1e-24*dot(u, u)*dot(v, v) {
		length := math.Hypot(u.X, u.Y)
		if math.Abs(cross(u, w)) > Tolerance*length {
			return Point{}, false
		}
		from, to := dot(w, u)/length, dot(d.Minus(a), u)/length
		if math.Max(from, to) < 0 || math.Min(from, to) > length {
			return Point{}, false
		}
		return a.Toward(b, math.Max(0, math.Min(from, to))/length), true
	}
	s, t := cross(w, v)/across, cross(w, u)/across
	if s < 0 || s > 1 || t < 0 || t > 1 {
		return Point{}, false
	}
	return a.Toward(b, s), true
}

// Nearest is the place on the ring nearest to p: its side and the distance
// along that side from the side's first corner.
func (r Ring) Nearest(p Point) (index int, along float64, at Point) {
	best := math.Inf(1)
	for i, a := range r {
		b := r[(i+1)%len(r)]
		u := b.Minus(a)
		share := 0.0
		if square := dot(u, u); square > 0 {
			share = math.Max(0, math.Min(1, dot(p.Minus(a), u)/square))
		}
		q := a.Toward(b, share)
		if d := q.Distance(p); d < best {
			best, index, along, at = d, i, share*a.Distance(b), q
		}
	}
	return index, along, at
}
