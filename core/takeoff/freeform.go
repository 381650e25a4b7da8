package takeoff

import (
	"fmt"
	"math"
	"slices"

	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// nearWall is the distance from a wall at which a depth counts as one of the wall's: the
// width of a tape held against it.
const nearWall = 0.03

// freeform measures a pool by its outline and the depths at points. The floor is
// taken as planes between neighbouring points; along the wall the depth runs
// evenly from one measured place to the next.
func (p Pool) freeform(t *Takeoff, b *bed, path string, units measure.System) ([]geometry.Point, []finding.Finding) {
	if fault := (geometry.Polygon{Outline: p.Outline}).Check(); fault != nil {
		return fault.At, []finding.Finding{{Level: finding.Refused, Step: finding.Measure, Path: path + "/outline",
			Text: fault.Text, WayOut: fault.Way}}
	}
	if len(p.Depths) == 0 {
		return nil, refused(path+"/depths", "Add the depth at one place at least; better at every change of the floor.",
			"no depth has been measured yet.")
	}
	wall, inner, at, found := p.soundings(path, units)
	if len(found) > 0 {
		return at, found
	}
	ring, depths := wall.depths(inner)
	points := make([]geometry.Point, len(inner))
	for i, s := range inner {
		points[i] = s.at
		depths = append(depths, s.depth)
	}
	all, triangles := geometry.Mesh(ring, points)
	b.around, b.least = ring.Perimeter(), math.Inf(1)
	t.Figures = append(t.Figures, Figure{Name: "Top edge", Kind: "shell", Ring: p.Outline})
	for i, a := range ring {
		next := (i + 1) % len(ring)
		t.wall(fmt.Sprintf("Wall %d", i+1), a.Distance(ring[next]), depths[i], depths[next], a.Toward(ring[next], 0.5))
		b.least = math.Min(b.least, depths[i])
	}
	for _, d := range depths {
		b.most = math.Max(b.most, d)
	}
	t.beds(all, triangles, depths, float64(p.Water), b)
	if b.water <= 0 {
		return nil, refused(path+"/water", "Enter the distance from the top edge down to the water line.",
			"the water would stand %s below the top edge, under the floor.", units.Length(p.Water))
	}
	return nil, nil
}

// beds adds the floor, by how steep its planes lie.
func (t *Takeoff) beds(points []geometry.Point, triangles []geometry.Triangle, depths []float64, line float64, b *bed) {
	var area, flat [3]float64
	var middle [3]geometry.Point // weighed by the area on plan
	facings := [3]Facing{Level, Steep, Vertical}
	for _, tri := range triangles {
		a, q, r := points[tri[0]], points[tri[1]], points[tri[2]]
		da, dq, dr := depths[tri[0]], depths[tri[1]], depths[tri[2]]
		plan := geometry.Ring{a, q, r}.SignedArea()
		// The cross product of two sides in space: its third part is twice the plan area.
		x := (q.Y-a.Y)*(dr-da) - (r.Y-a.Y)*(dq-da)
		y := (dq-da)*(r.X-a.X) - (dr-da)*(q.X-a.X)
		if plan <= 0 {
			continue
		}
		slope := math.Hypot(x, y) / (2 * plan)
		for i, f := range facings {
			if facing(slope) == f {
				area[i] += plan * math.Hypot(1, slope)
				flat[i] += plan
				middle[i].X += plan * (a.X + q.X + r.X) / 3
				middle[i].Y += plan * (a.Y + q.Y + r.Y) / 3
			}
		}
		b.water += plan * wetDepth(da-line, dq-line, dr-line)
		t.Figures = append(t.Figures, Figure{Name: "Plane", Kind: "slope", Ring: geometry.Ring{a, q, r}})
	}
	for i, name := range []string{"Floor", "Steep floor", "Walls in the floor"} {
		if area[i] <= 0 {
			continue
		}
		var in inputs
		in.area("On plan", flat[i])
		in.count("Planes between points", len(triangles))
		t.add(Panel{Name: name, Facing: facings[i], Area: measure.Area(area[i]), Group: len(t.Panels),
			At: geometry.Point{X: middle[i].X / flat[i], Y: middle[i].Y / flat[i]}},
			measure.Working{Formula: "Σ area on plan × √(1 + slope²), over the planes between neighbouring points",
				Inputs: in.values, Source: "Delaunay triangulation; each plane by the cross product of two of its sides"})
	}
}

// wetDepth is the mean of what lies under water over a triangle whose corners lie
// so deep under it, negative where they are dry.
func wetDepth(a, b, c float64) float64 {
	d := []float64{a, b, c}
	slices.Sort(d)
	low, middle, high := d[0], d[1], d[2]
	switch {
	case high <= 0:
		return 0
	case low >= 0:
		return (low + middle + high) / 3
	case middle <= 0: // one corner is wet: a smaller pyramid
		return high * high * high / (3 * (high - low) * (high - middle))
	}
	// One corner is dry: the whole less the pyramid above the water.
	return (low+middle+high)/3 - low*low*low/(3*(high-low)*(middle-low))
}

// sounding is a depth at a place.
type sounding struct {
	at    geometry.Point
	depth float64
}

// shore is the outline with what was measured along it; a depth below zero is
// not known.
type shore []sounding

// soundings sorts the depths into those of the wall, as corners of it, and
// those of the floor.
func (p Pool) soundings(path string, units measure.System) (shore, []sounding, []geometry.Point, []finding.Finding) {
	wall := make(shore, len(p.Outline))
	for i, corner := range p.Outline {
		wall[i] = sounding{corner, -1}
	}
	var inner []sounding
	for i, d := range p.Depths {
		at := fmt.Sprintf("%s/depths/%d", path, i)
		if d.Depth <= 0 {
			return nil, nil, []geometry.Point{d.At}, refused(at+"/depth", "Measure down from the top edge of the wall.",
				"depth point %d has no depth.", i+1)
		}
		ring := wall.ring()
		side, along, near := ring.Nearest(d.At)
		length := ring[side].Distance(ring[(side+1)%len(ring)])
		switch {
		case near.Distance(d.At) <= nearWall && along <= nearWall, near.Distance(d.At) <= nearWall &&
			length-along <= nearWall:
			corner := side
			if along > nearWall {
				corner = (side + 1) % len(wall)
			}
			if wall[corner].depth >= 0 {
				return nil, nil, []geometry.Point{d.At},
					refused(at+"/at", "Remove one of the two.", "depth point %d is where one of %s was measured already.", i+1,
						units.Length(measure.Length(wall[corner].depth)))
			}
			wall[corner].depth = float64(d.Depth)
		case near.Distance(d.At) <= nearWall:
			wall = append(wall[:side+1], append(shore{{near, float64(d.Depth)}}, wall[side+1:]...)...)
		case !p.Outline.Holds(d.At):
			return nil, nil, []geometry.Point{d.At},
				refused(at+"/at", "Move it inside or remove it.", "depth point %d (%s) is outside the pool.", i+1,
					units.Length(d.Depth))
		default:
			for k, other := range inner {
				if other.at.Distance(d.At) < nearWall {
					return nil, nil, []geometry.Point{d.At},
						refused(at+"/at", "Remove one of the two.", "depth point %d is where one of %s was measured already.", i+1,
							units.Length(measure.Length(inner[k].depth)))
				}
			}
			inner = append(inner, sounding{d.At, float64(d.Depth)})
		}
	}
	return wall, inner, nil, nil
}

func (s shore) ring() geometry.Ring {
	ring := make(geometry.Ring, len(s))
	for i, corner := range s {
		ring[i] = corner.at
	}
	return ring
}

// depths fills the corners between measured ones evenly along the wall. A wall
// where nothing was measured takes the depth of the floor near it, each point
// weighing by one over the square of its distance.
func (s shore) depths(inner []sounding) (geometry.Ring, []float64) {
	ring, n := s.ring(), len(s)
	known := -1
	depths := make([]float64, n)
	for i, corner := range s {
		depths[i] = corner.depth
		if corner.depth >= 0 && known < 0 {
			known = i
		}
	}
	if known < 0 {
		for i, corner := range s {
			sum, weights := 0.0, 0.0
			for _, other := range inner {
				weight := 1 / math.Pow(corner.at.Distance(other.at), 2)
				sum, weights = sum+weight*other.depth, weights+weight
			}
			depths[i] = sum / weights
		}
		return ring, depths
	}
	for from := 0; from < n; {
		to, length := from+1, 0.0
		for {
			a, b := (known+to-1)%n, (known+to)%n
			length += ring[a].Distance(ring[b])
			if s[b].depth >= 0 {
				break
			}
			to++
		}
		start, end, gone := s[(known+from)%n].depth, s[(known+to)%n].depth, 0.0
		for k := from + 1; k < to; k++ {
			gone += ring[(known+k-1)%n].Distance(ring[(known+k)%n])
			depths[(known+k)%n] = start + (end-start)*gone/length
		}
		from = to
	}
	return ring, depths
}
