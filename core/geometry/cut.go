package geometry

import (
	"cmp"
	"math"
	"slices"
)

// Strip is one piece of a polygon between two parallel cut lines.
type Strip struct {
	Rings []Ring  // outlines counter-clockwise, holes clockwise
	Area  float64 // m²
	From  float64 // where it begins along the direction of travel, m
	To    float64 // where it ends
}

// Patches is the number of separate pieces the strip falls into.
func (s Strip) Patches() int {
	count := 0
	for _, ring := range s.Rings {
		if ring.SignedArea() > 0 {
			count++
		}
	}
	return count
}

// Travel is a direction across the plan along which strips follow each other.
type Travel struct{ X, Y float64 }

// Heading is the direction of an angle in degrees, counter-clockwise from x.
func Heading(degrees float64) Travel {
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	if math.Mod(degrees, 90) == 0 {
		sin, cos = math.Round(sin), math.Round(cos)
	}
	return Travel{cos, sin}
}

// Along returns how far a point lies in the direction of travel.
func (t Travel) Along(p Point) float64 { return t.X*p.X + t.Y*p.Y }

// aside returns how far a point lies to the left of the direction.
func (t Travel) aside(p Point) float64 { return -t.Y*p.X + t.X*p.Y }

// Strips cuts the polygon by lines square to the direction into pieces whose
// areas stand in the proportion of the shares, the first piece lying farthest
// back. The polygon must have passed Check; shares must be positive.
func Strips(p Polygon, travel Travel, shares []float64) []Strip {
	rings := p.Rings()
	total := 0.0
	for _, share := range shares {
		total += share
	}
	low, high := reach(rings, travel)
	strips := make([]Strip, 0, len(shares))
	from := low
	for i, share := range shares {
		to, piece := high, rings
		if i < len(shares)-1 {
			to = levelFor(rings, travel, from, high, share/total)
			piece, rings = cut(rings, travel, to)
			total -= share
		}
		strip := Strip{Rings: piece, From: from, To: to}
		for _, ring := range piece {
			strip.Area += ring.SignedArea()
		}
		strips = append(strips, strip)
		from = to
	}
	return strips
}

// StripsAt cuts the polygon at levels along the direction, rising.
func StripsAt(p Polygon, travel Travel, levels []float64) []Strip {
	rings := p.Rings()
	from, high := reach(rings, travel)
	strips := make([]Strip, 0, len(levels)+1)
	for i := range len(levels) + 1 {
		to, piece := high, rings
		if i < len(levels) {
			to = snapped(rings, travel, levels[i])
			piece, rings = cut(rings, travel, to)
		}
		strip := Strip{Rings: piece, From: from, To: to}
		for _, ring := range piece {
			strip.Area += ring.SignedArea()
		}
		strips, from = append(strips, strip), to
	}
	return strips
}

// Below is the area of the part of rings, as Polygon.Rings gives them, that lies under a level.
func Below(rings []Ring, travel Travel, level float64) float64 {
	area, _ := below(rings, travel, level)
	return area
}

// reach is the extent of the rings along the direction of travel.
func reach(rings []Ring, travel Travel) (low, high float64) {
	low, high = math.Inf(1), math.Inf(-1)
	for _, ring := range rings {
		for _, p := range ring {
			t := travel.Along(p)
			low, high = math.Min(low, t), math.Max(high, t)
		}
	}
	return low, high
}

// below measures the part of the rings under a level: its area, and the width
// of the figure at the level. Each side of a ring, taken with its sense, bounds
// a trapezoid against the line of travel (Green's theorem).
func below(rings []Ring, travel Travel, level float64) (area, width float64) {
	for _, ring := range rings {
		a := ring[len(ring)-1]
		ta, sa := travel.Along(a), travel.aside(a)
		for _, b := range ring {
			tb, sb := travel.Along(b), travel.aside(b)
			switch {
			case ta < level && tb < level:
				area -= (tb - ta) * (sa + sb) / 2
			case ta < level || tb < level:
				at := sa + (level-ta)/(tb-ta)*(sb-sa)
				if ta < level {
					area -= (level - ta) * (sa + at) / 2
					width -= at
				} else {
					area -= (tb - level) * (at + sb) / 2
					width += at
				}
			}
			ta, sa = tb, sb
		}
	}
	// A cut ring is closed along the level line, which bounds no trapezoid.
	return area, width
}

// levelFor finds the level under which a share of the area lies: Newton's
// method on the area, whose derivative is the width, kept inside a bracket that
// shrinks with every step.
func levelFor(rings []Ring, travel Travel, low, high, share float64) float64 {
	whole, _ := below(rings, travel, math.Inf(1))
	wanted := whole * share
	least, most := low, high
	level := low + share*(high-low)
	for range 100 {
		area, width := below(rings, travel, level)
		miss := wanted - area
		if math.Abs(miss) <= 1e-13*whole {
			break
		}
		if miss > 0 {
			least = level
		} else {
			most = level
		}
		next := level + miss/width
		if !(next > least && next < most) {
			next = (least + most) / 2
		}
		if next == level {
			break
		}
		level = next
	}
	return snapped(rings, travel, level)
}

// snapped moves a level that misses a corner by less than a micrometre onto it,
// so that a cut meant to run along a wall leaves no sliver beside it.
func snapped(rings []Ring, travel Travel, level float64) float64 {
	for _, ring := range rings {
		for _, p := range ring {
			if t := travel.Along(p); math.Abs(t-level) < 1e-6 {
				return t
			}
		}
	}
	return level
}

// cut divides rings at a level along the travel into what lies below and what
// lies at or above. A corner exactly on the line counts as above, so every
// crossing is a clean one.
func cut(rings []Ring, travel Travel, level float64) (below, above []Ring) {
	c := cutter{travel: travel, level: level, crossings: make([]crossing, 0, 4), chains: make([]chain, 0, 4)}
	for _, ring := range rings {
		switch sides := c.sides(ring); sides {
		case -1:
			below = append(below, ring)
		case 1:
			above = append(above, ring)
		default:
			c.split(ring)
		}
	}
	if len(c.crossings) == 0 {
		return below, above
	}
	return append(below, c.join(false)...), append(above, c.join(true)...)
}

// crossing holds where a ring passes the cut line.
type crossing struct {
	at    Point
	aside float64
	up    bool // passes from below to above
}

// chain is the run of corners between two crossings, on one side of the line.
type chain struct {
	corners    []Point
	start, end int // crossings
	above      bool
}

type cutter struct {
	travel    Travel
	level     float64
	crossings []crossing
	chains    []chain
}

func (c *cutter) isAbove(p Point) bool { return c.travel.Along(p) >= c.level }

// sides is -1 or 1 for a ring wholly below or above, 0 for one that is cut.
func (c *cutter) sides(ring Ring) int {
	above := 0
	for _, p := range ring {
		if c.isAbove(p) {
			above++
		}
	}
	switch above {
	case 0:
		return -1
	case len(ring):
		return 1
	}
	return 0
}

// split breaks a ring at its crossings into chains.
func (c *cutter) split(ring Ring) {
	n := len(ring)
	start := 0
	for c.isAbove(ring[start]) == c.isAbove(ring[(start+n-1)%n]) {
		start++
	}
	first := len(c.crossings)
	run := make([]Point, 0, n)
	for k := range n {
		a, b := ring[(start+k)%n], ring[(start+k+1)%n]
		run = append(run, a)
		if c.isAbove(a) == c.isAbove(b) {
			continue
		}
		ta, tb := c.travel.Along(a), c.travel.Along(b)
		at := a.Toward(b, (c.level-ta)/(tb-ta))
		c.crossings = append(c.crossings, crossing{at, c.travel.aside(at), c.isAbove(b)})
		c.chains = append(c.chains, chain{
			corners: run, start: len(c.crossings) - 2, end: len(c.crossings) - 1, above: c.isAbove(a),
		})
		run = run[len(run):]
	}
	c.chains[len(c.chains)-c.count(first)].start = len(c.crossings) - 1
}

func (c *cutter) count(first int) int { return len(c.crossings) - first }

// mates are the crossings at the two ends of each stretch of the cut line inside. Along
// the line the inside lies between a crossing upward and the next crossing downward, so
// the k-th of the one belongs to the k-th of the other, even where crossings coincide.
func (c *cutter) mates() []int {
	half := len(c.crossings) / 2
	up, down := make([]int, 0, half), make([]int, 0, half)
	for i, x := range c.crossings {
		if x.up {
			up = append(up, i)
		} else {
			down = append(down, i)
		}
	}
	byAside := func(i, j int) int { return cmp.Compare(c.crossings[i].aside, c.crossings[j].aside) }
	slices.SortFunc(up, byAside)
	slices.SortFunc(down, byAside)
	mate := make([]int, len(c.crossings))
	for k := range up {
		mate[up[k]], mate[down[k]] = down[k], up[k]
	}
	return mate
}

// join closes the chains of one side along the cut line.
func (c *cutter) join(above bool) []Ring {
	mate := c.mates()
	from := make([]int, len(c.crossings)) // the chain that starts at a crossing
	for k, ch := range c.chains {
		if ch.above == above {
			from[ch.start] = k
		}
	}
	used := make([]bool, len(c.chains))
	var rings []Ring
	for k, ch := range c.chains {
		if ch.above != above || used[k] {
			continue
		}
		ring := make(Ring, 0, len(ch.corners)+4)
		for next := k; !used[next]; {
			used[next] = true
			link := c.chains[next]
			ring = append(ring, c.crossings[link.start].at)
			ring = append(ring, link.corners...)
			ring = append(ring, c.crossings[link.end].at)
			next = from[mate[link.end]]
		}
		if ring = ring.tidied(); len(ring) >= 3 {
			rings = append(rings, ring)
		}
	}
	return rings
}

// tidied drops corners that repeat the one before.
func (r Ring) tidied() Ring {
	kept := r[:0]
	for _, p := range r {
		if len(kept) == 0 || kept[len(kept)-1] != p {
			kept = append(kept, p)
		}
	}
	for len(kept) > 1 && kept[0] == kept[len(kept)-1] {
		kept = kept[:len(kept)-1]
	}
	return kept
}

// Meeting holds where a cut line meets a ring of the polygon.
type Meeting struct {
	Hole  int     // -1 for the outline, else the hole's index
	Side  int     // from 0
	Along float64 // m from the side's first corner
	At    Point
}

// Chord finds where the line at a level along the travel meets the polygon,
// from its left to its right as one looks along the travel, and how much of the
// line lies inside.
func Chord(p Polygon, travel Travel, level float64) ([]Meeting, float64) {
	met := make([]Meeting, 0, 4)
	scan := func(ring Ring, hole int) {
		for i, a := range ring {
			b := ring[(i+1)%len(ring)]
			ta, tb := travel.Along(a), travel.Along(b)
			if (ta >= level) == (tb >= level) {
				continue
			}
			share := (level - ta) / (tb - ta)
			met = append(met, Meeting{hole, i, share * a.Distance(b), a.Toward(b, share)})
		}
	}
	scan(p.Outline, -1)
	for h, hole := range p.Holes {
		scan(hole, h)
	}
	slices.SortFunc(met, func(a, b Meeting) int { return cmp.Compare(travel.aside(b.At), travel.aside(a.At)) })
	width := 0.0
	for i := 0; i+1 < len(met); i += 2 {
		width += met[i].At.Distance(met[i+1].At)
	}
	return met, width
}

// Inside is a place well inside the strip: the middle of its longest chord
// half-way along the travel.
func (s Strip) Inside(travel Travel) Point {
	middle := (s.From + s.To) / 2
	figure := Polygon{Outline: s.Rings[0], Holes: s.Rings[1:]}
	met, _ := Chord(figure, travel, middle)
	best, at := -1.0, s.Rings[0][0]
	for i := 0; i+1 < len(met); i += 2 {
		if d := met[i].At.Distance(met[i+1].At); d > best {
			best, at = d, met[i].At.Toward(met[i+1].At, 0.5)
		}
	}
	return at
}
