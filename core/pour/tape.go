package pour

import (
	"math"
	"slices"

	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// Tape steps that a person reads, m: a centimetre, or half an inch.
const (
	stepMetric = 0.01
	stepUS     = 0.0127
)

// Taped are cuts as somebody puts the tape: each mark rounded to a step of the tape towards
// the section worked before it, so that its batch covers it, with a check measure straight
// across. Marks on earlier tape are rounded alone.
func Taped(p geometry.Polygon, l Laying, units measure.System) []Cut {
	step := stepMetric
	if units.Units() == measure.US {
		step = stepUS
	}
	rings := append([]geometry.Ring{p.Outline}, p.Holes...)
	cuts := make([]Cut, len(l.Cuts))
	for n, c := range l.Cuts {
		c.Marks = slices.Clone(c.Marks)
		before := l.Sections[c.After-1]
		for k := range c.Marks {
			m := &c.Marks[k]
			if m.Tape > 0 {
				m.Along = measure.Length(math.Round(float64(m.Along)/step) * step)
				continue
			}
			a, b := side(rings, *m)
			length := a.Distance(b)
			// Towards the section before, but never off the wall.
			steps := float64(m.Along) / step
			ahead := 0.0 // of the wall, on the side of the section before
			if k^1 < len(l.Cuts[n].Marks) {
				into := before.side(m.At, l.Cuts[n].Marks[k^1].At)
				ahead = (into.X*(b.X-a.X) + into.Y*(b.Y-a.Y)) / length
			}
			switch near := math.Round(steps); {
			case math.Abs(near-steps) < 1e-6, math.Abs(ahead) < alongWall:
				steps = near
			case ahead > 0:
				steps = math.Ceil(steps)
			default:
				steps = math.Floor(steps)
			}
			along := math.Min(length, steps*step)
			m.Along, m.At = measure.Length(along), a.Toward(b, along/length)
		}
		for k := range c.Marks {
			if k^1 >= len(c.Marks) {
				break
			}
			if other := c.Marks[k^1]; other.Tape == 0 && c.Marks[k].Tape == 0 {
				corner, _ := side(rings, other)
				c.Marks[k].Check = measure.Length(c.Marks[k].At.Distance(corner))
			}
		}
		cuts[n] = c
	}
	return cuts
}

// alongWall is the sine below which a cut counts as running along its wall.
const alongWall = 1e-6

// side returns the unit vector square to a join that points into the section on whose edge
// the join lies.
func (s Section) side(from, to geometry.Point) geometry.Point {
	length := from.Distance(to)
	if length == 0 {
		return geometry.Point{}
	}
	square := geometry.Point{X: (from.Y - to.Y) / length, Y: (to.X - from.X) / length}
	off := func(p geometry.Point) float64 { return square.X*(p.X-from.X) + square.Y*(p.Y-from.Y) }
	shared := 0.0 // of the join along edges of the section, counted with their sense
	for _, r := range s.Rings {
		for i, a := range r {
			b := r[(i+1)%len(r)]
			if math.Abs(off(a)) > geometry.Tolerance || math.Abs(off(b)) > geometry.Tolerance {
				continue
			}
			at := func(p geometry.Point) float64 {
				return math.Max(0, math.Min(length, square.Y*(p.X-from.X)-square.X*(p.Y-from.Y)))
			}
			shared += at(b) - at(a)
		}
	}
	if shared < 0 { // the inside lies to the left of every edge
		return geometry.Point{X: -square.X, Y: -square.Y}
	}
	return square
}

// side is the wall or the side of a column that a mark is on.
func side(rings []geometry.Ring, m Mark) (a, b geometry.Point) {
	r := rings[m.Hole+1]
	return r[m.Side-1], r[m.Side%len(r)]
}
