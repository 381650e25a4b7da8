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
	if units == measure.US {
		step = stepUS
	}
	rings := append([]geometry.Ring{p.Outline}, p.Holes...)
	cuts := make([]Cut, len(l.Cuts))
	for n, c := range l.Cuts {
		c.Marks = slices.Clone(c.Marks)
		back := l.Sections[c.After-1].Label
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
			if near := math.Round(steps); math.Abs(near-steps) < 1e-6 {
				steps = near
			} else if ahead := a.Toward(b, math.Min(1, (float64(m.Along)+step)/length)); ahead.Distance(back) < m.At.Distance(back) {
				steps = math.Ceil(steps)
			} else {
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

// side is the wall or the side of a column that a mark is on.
func side(rings []geometry.Ring, m Mark) (a, b geometry.Point) {
	r := rings[m.Hole+1]
	return r[m.Side-1], r[m.Side%len(r)]
}
