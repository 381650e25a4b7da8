package geometry

import "math"

// Ellipse has its half axes along x and y and touches the y axis from the right:
// x runs from 0 to twice Long.
type Ellipse struct{ Long, Wide float64 }

// Perimeter is the exact length of the curve: 4·a·E(e), the complete elliptic
// integral by the arithmetic-geometric mean (Abramowitz and Stegun 17.6, from
// memory).
func (e Ellipse) Perimeter() float64 {
	a, b := math.Max(e.Long, e.Wide), math.Min(e.Long, e.Wide)
	if b <= 0 {
		return 4 * a
	}
	x, y, sum, power := a, b, (a*a-b*b)/2, 1.0
	for math.Abs(x-y) > 1e-15*a {
		c := (x - y) / 2
		x, y = (x+y)/2, math.Sqrt(x*y)
		sum += power * c * c
		power *= 2
	}
	return 2 * math.Pi / x * (a*a - sum)
}

// Segment is the area between the chords at from and to, and its moment about
// the y axis.
func (e Ellipse) Segment(from, to float64) (area, moment float64) {
	a, b := e.Long, e.Wide
	u0, u1 := share((from-a)/a), share((to-a)/a)
	primitive := func(u float64) float64 { return a * b * (u*math.Sqrt(1-u*u) + math.Asin(u)) }
	cube := func(u float64) float64 { return -math.Pow(1-u*u, 1.5) / 3 }
	area = primitive(u1) - primitive(u0)
	return area, a*area + 2*a*a*b*(cube(u1)-cube(u0))
}

func share(u float64) float64 { return math.Max(-1, math.Min(1, u)) }

// Arc adds f(x) along one half of the curve between the chords at from and to.
func (e Ellipse) Arc(from, to float64, f func(x float64) float64) float64 {
	begin, end := math.Acos(share((e.Long-from)/e.Long)), math.Acos(share((e.Long-to)/e.Long))
	const steps = 24
	sum, width := 0.0, (end-begin)/steps
	for i := range steps {
		middle := begin + (float64(i)+0.5)*width
		for k, node := range legendreNodes() {
			theta := middle + node*width/2
			ds := math.Hypot(e.Long*math.Sin(theta), e.Wide*math.Cos(theta))
			sum += legendreWeights()[k] * f(e.Long*(1-math.Cos(theta))) * ds * width / 2
		}
	}
	return sum
}

// legendreNodes returns the nodes, legendreWeights the weights, of five-point Gauss–Legendre quadrature (Abramowitz
// and Stegun, table 25.4, from memory; a test integrates polynomials with them).
func legendreNodes() [5]float64 {
	return [5]float64{-0.906179845938664, -0.538469310105683, 0, 0.538469310105683, 0.906179845938664}
}

func legendreWeights() [5]float64 {
	return [5]float64{0.236926885056189, 0.478628670499366, 0.568888888888889, 0.478628670499366, 0.236926885056189}
}

// On is the place on the curve so far along its length, on the left or the right as one
// looks along it.
func (e Ellipse) On(at float64, left bool) Point {
	side := -1.0
	if left {
		side = 1
	}
	return Point{at, e.Wide * (1 + side*math.Sin(math.Acos(share((e.Long-at)/e.Long))))}
}

// Ring draws what lies between the chords at from and to as a polygon.
func (e Ellipse) Ring(from, to float64) Ring {
	begin, end := math.Acos(share((e.Long-from)/e.Long)), math.Acos(share((e.Long-to)/e.Long))
	const steps = 36
	var ring Ring
	put := func(theta, side float64) {
		p := Point{e.Long * (1 - math.Cos(theta)), e.Wide * (1 + side*math.Sin(theta))}
		if n := len(ring); n == 0 || ring[n-1].Distance(p) > Tolerance && ring[0].Distance(p) > Tolerance {
			ring = append(ring, p)
		}
	}
	for i := 0; i <= steps; i++ {
		put(begin+(end-begin)*float64(i)/steps, -1)
	}
	for i := steps; i >= 0; i-- {
		put(begin+(end-begin)*float64(i)/steps, 1)
	}
	return ring
}
