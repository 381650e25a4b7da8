package enough

import (
	"math"

	"nephelon/core/geometry"
	"nephelon/core/measure"
	"nephelon/core/record"
)

// grain is the number of places across a section at which its area is sampled.
const grain = 60

// LaidUpTo returns the area of a coat that is laid up to a place on its plan: all sections before the one that the
// place lies in but those left out, and that one as far as the place. Within a section the film goes on from the edge
// that it joins, in parallel to it. False where the place lies in no section, or where nothing shows which way the
// section is laid.
func LaidUpTo(c *record.Coat, d *record.CoatDay, place [2]float64) (area measure.Area, known bool) {
	at := geometry.Point{X: place[0], Y: place[1]}
	for k := range c.Batches {
		b := &c.Batches[k]
		if !holds(b.Rings, at) {
			if d.Batches[k].Out == nil {
				area += b.SectionArea()
			}
			continue
		}
		share, shown := shareUpTo(c, k, at)
		return area + measure.Area(share)*b.SectionArea(), shown
	}
	return 0, false
}

// holds reports whether a point lies in an area with holes: within an odd number of its rings.
func holds(rings []geometry.Ring, p geometry.Point) bool {
	within := false
	for _, r := range rings {
		within = within != r.Holds(p)
	}
	return within
}

// shareUpTo returns the share of a section that lies nearer to the edge it begins at than a place does. The first
// section has no such edge: it goes toward the edge that later sections join.
func shareUpTo(c *record.Coat, k int, at geometry.Point) (share float64, shown bool) {
	rings := c.Batches[k].Rings
	begins := border(c, k, func(n int) bool { return n < k })
	edge := begins
	if len(edge) == 0 {
		edge = border(c, k, func(n int) bool { return n > k })
	}
	if len(edge) == 0 {
		return 0, false
	}
	low, high := corners(rings)
	reach, nearer, all := distance(edge, at), 0, 0
	for i := range grain {
		for j := range grain {
			p := geometry.Point{X: low.X + (high.X-low.X)*(float64(i)+0.5)/grain,
				Y: low.Y + (high.Y-low.Y)*(float64(j)+0.5)/grain}
			if !holds(rings, p) {
				continue
			}
			all++
			if distance(edge, p) <= reach {
				nearer++
			}
		}
	}
	if all == 0 {
		return 0, false
	}
	share = float64(nearer) / float64(all)
	if len(begins) == 0 {
		share = 1 - share
	}
	return share, true
}

// border returns the stretches of the edge of a section that it shares with others.
func border(c *record.Coat, k int, with func(n int) bool) [][2]geometry.Point {
	var all [][2]geometry.Point
	for _, ring := range c.Batches[k].Rings {
		for i, a := range ring {
			b := ring[(i+1)%len(ring)]
			for n := range c.Batches {
				if n == k || !with(n) {
					continue
				}
				for _, other := range c.Batches[n].Rings {
					for _, s := range other.Covers(a, b) {
						all = append(all, [2]geometry.Point{a.Toward(b, s[0]), a.Toward(b, s[1])})
					}
				}
			}
		}
	}
	return all
}

// edgeAfter returns the length of the line between the sections up to one and those after it.
func edgeAfter(c *record.Coat, k int) measure.Length {
	length := 0.0
	for n := range k + 1 {
		for _, s := range border(c, n, func(m int) bool { return m > k }) {
			length += s[0].Distance(s[1])
		}
	}
	return measure.Length(length)
}

// lineAfter returns the line between the sections up to one and those after it, moved by a length toward what is
// laid later.
func lineAfter(c *record.Coat, k int, by measure.Length) [][2]geometry.Point {
	all := [][2]geometry.Point{}
	for n := range k + 1 {
		for _, s := range border(c, n, func(m int) bool { return m > k }) {
			long := s[0].Distance(s[1])
			if long == 0 {
				continue
			}
			// What is laid later lies on the right of an edge.
			out := geometry.Point{X: (s[1].Y - s[0].Y) / long, Y: (s[0].X - s[1].X) / long}
			moved := func(p geometry.Point) geometry.Point {
				return geometry.Point{X: p.X + float64(by)*out.X, Y: p.Y + float64(by)*out.Y}
			}
			all = append(all, [2]geometry.Point{moved(s[0]), moved(s[1])})
		}
	}
	return all
}

// distance returns how far a point is from the nearest of some lines.
func distance(lines [][2]geometry.Point, p geometry.Point) float64 {
	least := math.Inf(1)
	for _, l := range lines {
		_, _, at := geometry.Ring{l[0], l[1]}.Nearest(p)
		least = math.Min(least, at.Distance(p))
	}
	return least
}

func corners(rings []geometry.Ring) (low, high geometry.Point) {
	low, high = geometry.Point{X: math.Inf(1), Y: math.Inf(1)}, geometry.Point{X: math.Inf(-1), Y: math.Inf(-1)}
	for _, ring := range rings {
		for _, p := range ring {
			low.X, low.Y = math.Min(low.X, p.X), math.Min(low.Y, p.Y)
			high.X, high.Y = math.Max(high.X, p.X), math.Max(high.Y, p.Y)
		}
	}
	return low, high
}
