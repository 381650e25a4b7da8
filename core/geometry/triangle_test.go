package geometry

import (
	"math"
	"math/rand/v2"
	"testing"
)

// star is a ring that does not cross itself, with corners at random distances
// around the origin.
func star(random *rand.Rand, corners int) Ring {
	ring := make(Ring, corners)
	for i := range ring {
		angle := 2 * math.Pi * float64(i) / float64(corners)
		radius := 1 + 4*random.Float64()
		ring[i] = Point{radius * math.Cos(angle), radius * math.Sin(angle)}
	}
	return ring
}

func sum(points []Point, triangles []Triangle) (area float64, turned int) {
	for _, t := range triangles {
		one := Ring{points[t[0]], points[t[1]], points[t[2]]}.SignedArea()
		area += one
		if one < -1e-12 {
			turned++
		}
	}
	return area, turned
}

// Triangles tile the figure: none turned over, and their areas add up to it.
func TestTrianglesTile(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 5))
	for range 300 {
		ring := star(random, 3+random.IntN(40))
		if area, turned := sum(ring, ring.Triangles()); turned > 0 || math.Abs(area-ring.SignedArea()) > 1e-9 {
			t.Fatalf("%v: %v of %v, %d turned", ring, area, ring.SignedArea(), turned)
		}
		var inner []Point
		for range random.IntN(25) {
			if p := (Point{6 * (random.Float64() - 0.5), 6 * (random.Float64() - 0.5)}); ring.contains(p) {
				inner = append(inner, p)
			}
		}
		points, triangles := Mesh(ring, inner)
		if area, turned := sum(points, triangles); turned > 0 || math.Abs(area-ring.SignedArea()) > 1e-9 ||
			len(triangles) != len(ring)-2+2*len(inner) {
			t.Fatalf("mesh of %d + %d: %v of %v, %d turned, %d triangles", len(ring), len(inner), area, ring.SignedArea(),
				turned, len(triangles))
		}
	}
}

// In a convex outline the mesh is Delaunay's: no corner lies in the circle about
// a triangle.
func TestMeshOfAConvexOutlineIsDelaunay(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 9))
	for range 50 {
		inner := make([]Point, 30)
		for i := range inner {
			inner[i] = Point{0.1 + 9.8*random.Float64(), 0.1 + 5.8*random.Float64()}
		}
		points, triangles := Mesh(Ring{{0, 0}, {10, 0}, {10, 6}, {0, 6}}, inner)
		for _, tri := range triangles {
			a, b, c := points[tri[0]], points[tri[1]], points[tri[2]]
			// The centre solves |x − a|² = |x − b|² = |x − c|².
			u, v := b.Minus(a), c.Minus(a)
			d := 2 * cross(u, v)
			centre := Point{a.X + (v.Y*dot(u, u)-u.Y*dot(v, v))/d, a.Y + (u.X*dot(v, v)-v.X*dot(u, u))/d}
			for i, p := range points {
				if p.Distance(centre) < a.Distance(centre)*(1-1e-7) {
					t.Fatalf("point %d lies in the circle of %v", i, tri)
				}
			}
		}
	}
}

// Points set on the sides of earlier triangles, as on a grid, are the hard case.
func TestMeshOfAGrid(t *testing.T) {
	var inner []Point
	for x := 1; x < 10; x++ {
		for y := 1; y < 6; y++ {
			inner = append(inner, Point{float64(x), float64(y)})
		}
	}
	points, triangles := Mesh(Ring{{0, 0}, {10, 0}, {10, 6}, {0, 6}}, inner)
	slivers := 0
	for _, tri := range triangles {
		if (Ring{points[tri[0]], points[tri[1]], points[tri[2]]}).SignedArea() < 1e-9 {
			slivers++
		}
	}
	if area, turned := sum(points, triangles); math.Abs(area-60) > 1e-9 || turned+slivers > 0 {
		t.Errorf("%v m², %d turned, %d slivers", area, turned, slivers)
	}
}

// The common part of two figures, against counting of points at random.
func TestCommonAgainstCounting(t *testing.T) {
	random := rand.New(rand.NewPCG(11, 13))
	for range 20 {
		a, b := star(random, 12), star(random, 9)
		for i := range b {
			b[i].X += 2
		}
		area := 0.0
		for _, ring := range a.Common(b) {
			area += ring.SignedArea()
		}
		back := 0.0
		for _, ring := range b.turned(false).Common(a) {
			back += ring.SignedArea()
		}
		const throws = 40000
		hits := 0
		for range throws {
			if p := (Point{-5 + 12*random.Float64(), -5 + 10*random.Float64()}); a.contains(p) && b.contains(p) {
				hits++
			}
		}
		if counted := 120 * float64(hits) / throws; math.Abs(area-counted) > 1.6 || math.Abs(area-back) > 1e-9 {
			t.Errorf("%v m² of %v counted; the other way %v", area, counted, back)
		}
	}
}

func TestCoversASegment(t *testing.T) {
	ring := Ring{{1, 0}, {2, 0}, {2, 1}, {3, 1}, {3, 0}, {4, 0}, {4, 3}, {1, 3}}
	total := func(a, b Point) float64 {
		length := 0.0
		for _, s := range ring.Covers(a, b) {
			length += (s[1] - s[0]) * a.Distance(b)
		}
		return length
	}
	for _, c := range []struct {
		a, b   Point
		length float64
	}{
		{Point{0, 0.5}, Point{5, 0.5}, 2},
		{Point{0, 0}, Point{5, 0}, 0},
		{Point{5, 0}, Point{0, 0}, 2},
		{Point{0, 2}, Point{2.5, 2}, 1.5},
		{Point{0, 3}, Point{5, 3}, 3},
		{Point{5, 3}, Point{0, 3}, 0},
		{Point{0, 3.2}, Point{5, 3.2}, 0},
	} {
		if got := total(c.a, c.b); math.Abs(got-c.length) > 1e-9 {
			t.Errorf("from %v to %v: %v m, want %v", c.a, c.b, got, c.length)
		}
	}
}

// Complete elliptic integrals of the second kind, E at modular angles of 15° to
// 75° (Abramowitz and Stegun, table 17.2, from memory): the perimeter of an
// ellipse is 4·a·E(k), with k² = 1 − b²/a².
func TestEllipsePerimeterAgainstTables(t *testing.T) {
	for angle, table := range map[float64]float64{15: 1.5441504969, 30: 1.4674622093, 45: 1.3506438810, 60: 1.2110560276,
		75: 1.0764051131} {
		e := Ellipse{Long: 3, Wide: 3 * math.Cos(angle*math.Pi/180)}
		if got := e.Perimeter(); math.Abs(got/(12*table)-1) > 1e-9 {
			t.Errorf("%v°: %v, table %v", angle, got, 12*table)
		}
		if half := e.Arc(0, 6, func(float64) float64 { return 1 }); math.Abs(2*half/e.Perimeter()-1) > 1e-9 {
			t.Errorf("%v°: arc %v of %v", angle, 2*half, e.Perimeter())
		}
		// Ramanujan 1914, second formula.
		h := math.Pow((e.Long-e.Wide)/(e.Long+e.Wide), 2)
		ramanujan := math.Pi * (e.Long + e.Wide) * (1 + 3*h/(10+math.Sqrt(4-3*h)))
		if math.Abs(e.Perimeter()/ramanujan-1) > 1e-4 {
			t.Errorf("%v°: %v, Ramanujan %v", angle, e.Perimeter(), ramanujan)
		}
	}
	if circle := (Ellipse{2, 2}).Perimeter(); math.Abs(circle-4*math.Pi) > 1e-12 {
		t.Errorf("a circle has %v", circle)
	}
	// The half of an ellipse has its centroid 4a/3π from the middle.
	if area, moment := (Ellipse{3, 2}).Segment(3, 6); math.Abs(area-3*math.Pi) > 1e-12 ||
		math.Abs(moment/area-3-4/math.Pi) > 1e-12 {
		t.Errorf("half an ellipse: %v m², moment %v", area, moment)
	}
}
