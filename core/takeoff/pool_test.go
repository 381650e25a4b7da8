package takeoff

import (
	"math"
	"strings"
	"testing"

	"nephelon/core/geometry"
	"nephelon/core/measure"
)

func near(a, b, relative float64) bool {
	return math.Abs(a-b) <= relative*math.Max(math.Abs(a), math.Abs(b))
}

func take(t *testing.T, s Shape) *Takeoff {
	t.Helper()
	taken, _, found := Measure(s, "", measure.Metric)
	if taken == nil {
		t.Fatal(found)
	}
	sum, panels := measure.Area(0), measure.Area(0)
	for _, p := range taken.Pieces {
		sum += p.Area
	}
	for _, p := range taken.Panels {
		panels += p.Area
	}
	split := taken.Facing.Level + taken.Facing.Steep + taken.Facing.Vertical
	if !near(float64(sum), float64(taken.Area), 1e-9) || len(taken.Panels) > 0 &&
		!near(float64(panels), float64(taken.Area), 1e-9) || !near(float64(split), float64(taken.Area), 1e-9) {
		t.Errorf("pieces add up to %v, panels to %v, facings to %v of %v", sum, panels, split, taken.Area)
	}
	return taken
}

// Prisms and frusta worked by hand from the formulas that handbooks give: a
// prism's sides are perimeter × height, a frustum's lateral area is ½ (p₁ + p₂)
// × slant height, its volume h/3 (A₁ + A₂ + √(A₁A₂)).
func TestPoolsByHand(t *testing.T) {
	slope := math.Hypot(5, 1)
	// A hopper with a square mouth of 6 m, a square pad of 2 m in its middle and
	// a fall of 1.5 m is the frustum of a pyramid with a slant height of 2.5 m.
	frustum := 0.5 * (24 + 8) * 2.5
	cases := []struct {
		name        string
		pool        Pool
		area, water float64
		vertical    float64
	}{
		{"a box", Pool{Form: Rectangular, Length: 7, Width: 3, Shallow: 1.4, Water: 0.2}, 21 + 20*1.4, 21 * 1.2, 28},
		{"a slope between two floors", Pool{Form: Rectangular, Length: 11, Width: 4, Shallow: 1, Deep: 2, FlatRun: 3,
			SlopeRun: 5},
			4*(3+slope+3) + 4*1 + 4*2 + 2*(3*1+5*1.5+3*2), 4 * (3 + 7.5 + 6), 4 + 8 + 2*16.5},
		{"one even slope", Pool{Form: Rectangular, Length: 5, Width: 2, Shallow: 1, Deep: 2},
			2*slope + 2 + 4 + 2*7.5, 15, 21},
		{"a hopper", Pool{Form: Rectangular, Length: 10, Width: 6, Shallow: 1, Deep: 2.5, FlatRun: 4,
			Hopper: &Hopper{Length: 2, Width: 2, FromEnd: 2}},
			24 + 4 + frustum + 32, 60 + 1.5/3*(36+4+math.Sqrt(36*4)), 32},
		{"an L of even depth", Pool{Form: LShaped, Length: 8, Width: 4, Shallow: 1.2, Arm: &Arm{At: 1, Width: 3, Out: 2}},
			32 + 6 + 1.2*(24+4), 38 * 1.2, 1.2 * 28},
		{"an L across the break", Pool{Form: LShaped, Length: 8, Width: 4, Shallow: 1, Deep: 2, FlatRun: 4, SlopeRun: 4,
			Arm: &Arm{At: 3, Width: 3, Out: 2, Mirrored: true}},
			4*(4+math.Hypot(4, 1)) + 2*(1+math.Hypot(2, 0.5)) + 4*1 + 4*2 + 2*(4+6) + 2*(1+1.5), 4*(4+6) + 2*(1+2.5),
			12 + 20 + 5},
		{"round", Pool{Form: Round, Length: 6, Shallow: 1.3, Water: 0.1}, 9*math.Pi + 6*math.Pi*1.3, 9 * math.Pi * 1.2,
			6 * math.Pi * 1.3},
		// A plane through a cylinder: floor A·√(1 + slope²), wall perimeter × mean depth.
		{"round, sloping", Pool{Form: Round, Length: 6, Shallow: 1, Deep: 2}, 9*math.Pi*math.Hypot(1, 1.0/6) + 6*math.Pi*1.5,
			9 * math.Pi * 1.5, 6 * math.Pi * 1.5},
		{"a coping and a tiled band", Pool{Form: Rectangular, Length: 7, Width: 3, Shallow: 1.4, Coping: 0.3, Band: 0.15},
			21 + 28 + 6 - 3, 29.4, 25},
		{"a bench between two walls", Pool{Form: Rectangular, Length: 7, Width: 3, Shallow: 1.4,
			Parts: []PoolPart{{Kind: Bench, Width: 3, Tread: 0.5, Riser: 0.4, Walled: 2}}},
			49 - 2*0.2, 29.4 - 0.6, 28 - 0.4},
		{"steps with both ends open", Pool{Form: Rectangular, Length: 7, Width: 3, Shallow: 1.4,
			Parts: []PoolPart{{Kind: PoolSteps, Width: 1, Tread: 0.3, Riser: 0.3, Count: 3}}},
			49 + 2*0.54, 29.4 - 0.54, 28 + 2*0.54},
		{"steps set into the wall", Pool{Form: Rectangular, Length: 7, Width: 3, Shallow: 1.4,
			Parts: []PoolPart{{Kind: PoolSteps, Width: 2, Tread: 0.3, Riser: 0.3, Count: 4, Outside: true, Depth: 1.4}}},
			49 + 2.4 + 2*(1.2*0.2+0.09*6), 29.4 + 2*(1.2*0.2+0.09*6), 28 + 2*(1.2*0.2+0.09*6)},
	}
	for _, c := range cases {
		taken := take(t, Shape{Pool: &c.pool})
		if !near(float64(taken.Area), c.area, 1e-9) || !near(float64(taken.Water), c.water, 1e-9) ||
			!near(float64(taken.Facing.Vertical), c.vertical, 1e-9) {
			t.Errorf("%s: %v m², %v m³, %v m² upright; want %v, %v, %v", c.name, taken.Area, taken.Water, taken.Facing.Vertical,
				c.area, c.water, c.vertical)
		}
		if len(taken.Profile) < 2 || taken.Figures[0].Kind != "shell" {
			t.Errorf("%s: no picture", c.name)
		}
	}
}

// An oval pool whose floor falls evenly: the plane cuts the elliptic cylinder,
// so the wall is the perimeter × the mean depth by symmetry. The perimeter is
// 4·a·E(k); E at sin⁻¹k = 60° is 1.2110560276 (Abramowitz and Stegun, table
// 17.2, from memory).
func TestOvalPoolAgainstTheEllipticIntegral(t *testing.T) {
	pool := Pool{Form: Oval, Length: 10, Width: 5, Shallow: 1, Deep: 2.2}
	taken := take(t, Shape{Pool: &pool})
	around := 4 * 5 * 1.2110560276
	floor := math.Pi * 5 * 2.5 * math.Hypot(1, 0.12)
	if !near(float64(taken.Perimeter), around, 1e-9) || !near(float64(taken.Area), floor+around*1.6, 1e-9) ||
		!near(float64(taken.Water), math.Pi*12.5*1.6, 1e-9) {
		t.Errorf("%+v", taken)
	}
	// With a break in the floor there is no closed form; slices of a millimetre
	// stand in.
	pool.FlatRun, pool.SlopeRun, pool.Deep = 3, 4, 2.6
	taken = take(t, Shape{Pool: &pool})
	depth := func(x float64) float64 { return 1 + 1.6*math.Max(0, math.Min(1, (x-3)/4)) }
	area, water := 0.0, 0.0
	half := func(x float64) float64 { return 2.5 * math.Sqrt(math.Max(0, 1-(x-5)*(x-5)/25)) }
	for i := range 200000 {
		a, z := float64(i)/20000, float64(i+1)/20000
		chord, fall := half(a)+half(z), depth(z)-depth(a)
		area += chord*math.Hypot(z-a, fall) + 2*math.Hypot(z-a, half(z)-half(a))*(depth(a)+depth(z))/2
		water += chord * (z - a) * (depth(a) + depth(z)) / 2
	}
	if !near(float64(taken.Area), area, 1e-5) || !near(float64(taken.Water), water, 1e-5) {
		t.Errorf("%v m² and %v m³, in slices %v and %v", taken.Area, taken.Water, area, water)
	}
}

// A freeform pool measured at the corners of a shaped one, and in the middle of
// its break, must come out alike.
func TestFreeformAgreesWithShapedPools(t *testing.T) {
	hopper := Pool{Form: Rectangular, Length: 10, Width: 6, Shallow: 1, Deep: 2.5, FlatRun: 4, Water: 0.1,
		Hopper: &Hopper{Length: 2, Width: 2, FromEnd: 2}}
	free := Pool{Form: Freeform, Water: 0.1, Outline: geometry.Ring{{X: 0, Y: 0}, {X: 4, Y: 0}, {X: 10, Y: 0},
		{X: 10, Y: 6}, {X: 4, Y: 6}, {X: 0, Y: 6}}}
	for _, d := range []struct{ x, y, depth float64 }{{0, 0, 1}, {4, 3, 1}, {6, 2, 2.5}, {8, 2, 2.5}, {8, 4, 2.5},
		{6, 4, 2.5}} {
		free.Depths = append(free.Depths, Depth{At: geometry.Point{X: d.x, Y: d.y}, Depth: measure.Length(d.depth)})
	}
	one, two := take(t, Shape{Pool: &hopper}), take(t, Shape{Pool: &free})
	if !near(float64(one.Area), float64(two.Area), 1e-9) || !near(float64(one.Water), float64(two.Water), 1e-9) ||
		!near(float64(one.Facing.Steep), float64(two.Facing.Steep), 1e-9) {
		t.Errorf("shaped %v m², %v m³, %v; freeform %v m², %v m³, %v", one.Area, one.Water, one.Facing, two.Area,
			two.Water, two.Facing)
	}
	// Even depth all over, measured once in the middle of a pool with a bay.
	bay := Pool{Form: Freeform, Outline: geometry.Ring{{X: 0, Y: 0}, {X: 6, Y: 0}, {X: 6, Y: 4}, {X: 4, Y: 4},
		{X: 4, Y: 2}, {X: 2, Y: 2}, {X: 2, Y: 4}, {X: 0, Y: 4}},
		Depths: []Depth{{At: geometry.Point{X: 3, Y: 1}, Depth: 1.5}}}
	if taken := take(t, Shape{Pool: &bay}); !near(float64(taken.Area), 20+24*1.5, 1e-9) ||
		!near(float64(taken.Water), 30, 1e-9) {
		t.Errorf("%v m², %v m³", taken.Area, taken.Water)
	}
}

func TestWallDepthsRunEvenlyBetweenMeasuredPlaces(t *testing.T) {
	pool := Pool{Form: Freeform, Outline: geometry.Ring{{X: 0, Y: 0}, {X: 4, Y: 0}, {X: 8, Y: 0}, {X: 8, Y: 2},
		{X: 0, Y: 2}},
		Depths: []Depth{{At: geometry.Point{X: 0, Y: 0.01}, Depth: 1}, {At: geometry.Point{X: 8, Y: 0}, Depth: 2},
			{At: geometry.Point{X: 8, Y: 2}, Depth: 2}, {At: geometry.Point{X: 0, Y: 2}, Depth: 1}}}
	taken := take(t, Shape{Pool: &pool})
	if !near(float64(taken.Facing.Vertical), 2*12+2+4, 1e-9) ||
		!near(float64(taken.Facing.Level), 2*math.Hypot(8, 1), 1e-9) {
		t.Errorf("%+v", taken.Facing)
	}
}

func TestPoolsThatCannotBe(t *testing.T) {
	box := func(change func(*Pool)) Pool {
		p := Pool{Form: Rectangular, Length: 9, Width: 4, Shallow: 1, Deep: 2, FlatRun: 3, SlopeRun: 4}
		change(&p)
		return p
	}
	cases := []struct {
		name string
		pool Pool
		path string
		says string
	}{
		{"no width", box(func(p *Pool) { p.Width = 0; p.Form = Oval }), "/pool/length", "no size"},
		{"no depth", box(func(p *Pool) { p.Shallow = 0 }), "/pool/shallow", "no depth"},
		{"floors too long", box(func(p *Pool) { p.SlopeRun = 7 }), "/pool/slopeRun", "longer than the pool"},
		{"water under the floor", box(func(p *Pool) { p.Water = 3 }), "/pool/water", "3 m below"},
		{"a pad too wide", box(func(p *Pool) { p.Hopper = &Hopper{Length: 1, Width: 5} }), "/pool/hopper/width",
			"wider than the pool"},
		{"a pad too long", box(func(p *Pool) { p.Hopper = &Hopper{Length: 5, Width: 2, FromEnd: 2} }), "/pool/hopper/length",
			"7 m of the pool's length"},
		{"a hopper in the round", Pool{Form: Round, Length: 5, Shallow: 1, Deep: 2, Hopper: &Hopper{Length: 1, Width: 1}},
			"/pool/hopper", "only a rectangle"},
		{"a flat hopper", box(func(p *Pool) { p.Deep = 1; p.Hopper = &Hopper{Length: 1, Width: 1} }), "/pool/deep",
			"no deeper"},
		{"an L without its arm", box(func(p *Pool) { p.Form = LShaped }), "/pool/arm", "no size"},
		{"an arm past the end", box(func(p *Pool) { p.Form = LShaped; p.Arm = &Arm{At: 7, Width: 3, Out: 2} }),
			"/pool/arm/at", "beyond the pool"},
		{"a band above the wall", box(func(p *Pool) { p.Band = 1.2 }), "/pool/band", "higher than the lowest wall"},
		{"steps higher than the pool",
			box(func(p *Pool) { p.Parts = []PoolPart{{Kind: PoolSteps, Width: 1, Tread: 0.3, Riser: 0.5, Count: 5}} }),
			"/pool/parts/0/riser", "2.5 m high"},
		{"steps of nothing", box(func(p *Pool) { p.Parts = []PoolPart{{Kind: Bench}} }), "/pool/parts/0",
			"Bench has no size"},
		{"depth points outside", Pool{Form: Freeform, Outline: geometry.Ring{{X: 0, Y: 0}, {X: 4, Y: 0}, {X: 0, Y: 4}},
			Depths: []Depth{{At: geometry.Point{X: 1, Y: 1}, Depth: 1}, {At: geometry.Point{X: 3, Y: 3}, Depth: 1.7}}},
			"/pool/depths/1/at", "1.7 m) is outside"},
		{"no depth points", Pool{Form: Freeform, Outline: geometry.Ring{{X: 0, Y: 0}, {X: 4, Y: 0}, {X: 0, Y: 4}}},
			"/pool/depths", "no depth"},
		{"two depths in one place", Pool{Form: Freeform, Outline: geometry.Ring{{X: 0, Y: 0}, {X: 4, Y: 0}, {X: 0, Y: 4}},
			Depths: []Depth{{At: geometry.Point{X: 1, Y: 1}, Depth: 1}, {At: geometry.Point{X: 1, Y: 1.01}, Depth: 2}}},
			"/pool/depths/1/at", "measured already"},
		{"a crossing shell", Pool{Form: Freeform, Outline: geometry.Ring{{X: 0, Y: 0}, {X: 4, Y: 4}, {X: 4, Y: 0},
			{X: 0, Y: 3}}}, "/pool/outline", "crosses itself"},
	}
	for _, c := range cases {
		taken, _, found := Measure(Shape{Pool: &c.pool}, "", measure.Metric)
		if taken != nil || len(found) != 1 || found[0].Path != c.path || !strings.Contains(found[0].Text, c.says) ||
			found[0].WayOut == "" {
			t.Errorf("%s: %v", c.name, found)
		}
	}
}

// Water over a floor that is partly dry, in slices of half a millimetre; the area
// coated stays that of the whole shell.
func TestWaterOverADryFloor(t *testing.T) {
	oval := Pool{Form: Oval, Length: 10, Width: 5, Shallow: 0.6, Deep: 2.6, Water: 1.1}
	sum := 0.0
	for i := range 20000 {
		x := (float64(i) + 0.5) / 2000
		sum += 5 * math.Sqrt(1-(x-5)*(x-5)/25) * math.Max(0, 0.6+0.2*x-1.1) / 2000
	}
	if got := take(t, Shape{Pool: &oval}).Water; !near(float64(got), sum, 1e-5) {
		t.Errorf("an oval holds %v m³, in slices %v", got, sum)
	}
	round := Pool{Form: Round, Length: 6, Shallow: 0.5, Deep: 2, FlatRun: 2, SlopeRun: 3, Water: 0.9}
	sum = 0
	for i := range 12000 {
		x := (float64(i) + 0.5) / 2000
		sum += 6 * math.Sqrt(1-(x-3)*(x-3)/9) * math.Max(0, 0.5+1.5*math.Min(1, math.Max(0, (x-2)/3))-0.9) / 2000
	}
	if got := take(t, Shape{Pool: &round}).Water; !near(float64(got), sum, 1e-5) {
		t.Errorf("a round pool holds %v m³, in slices %v", got, sum)
	}
	hopper := Pool{Form: Rectangular, Length: 10, Width: 6, Shallow: 1, Deep: 2.5, FlatRun: 4, Water: 1.6,
		Hopper: &Hopper{Length: 2, Width: 2, FromEnd: 2}}
	// 0.9 m under the line: a frustum from a square of 6 − 4·0.4 = 4.4 m to one of 2 m.
	if got, want := take(t, Shape{Pool: &hopper}).Water, 0.9/3*(4.4*4.4+4+math.Sqrt(4.4*4.4*4)); !near(float64(got),
		want, 1e-9) {
		t.Errorf("a hopper holds %v m³, want %v", got, want)
	}
	// The same hopper measured freely, and a wedge: one deep corner.
	free := Pool{Form: Freeform, Water: 1.6, Outline: geometry.Ring{{X: 0, Y: 0}, {X: 4, Y: 0}, {X: 10, Y: 0},
		{X: 10, Y: 6}, {X: 4, Y: 6}, {X: 0, Y: 6}}}
	for _, d := range []struct{ x, y, depth float64 }{{0, 0, 1}, {4, 3, 1}, {6, 2, 2.5}, {8, 2, 2.5}, {8, 4, 2.5},
		{6, 4, 2.5}} {
		free.Depths = append(free.Depths, Depth{At: geometry.Point{X: d.x, Y: d.y}, Depth: measure.Length(d.depth)})
	}
	if one, two := take(t, Shape{Pool: &hopper}).Water,
		take(t, Shape{Pool: &free}).Water; !near(float64(one), float64(two), 1e-9) {
		t.Errorf("a hopper holds %v m³, measured freely %v", one, two)
	}
	for _, c := range []struct{ a, b, c, want float64 }{
		{3, 3, 3, 3}, {-1, -2, -3, 0}, {3, 0, 0, 1}, {2, -2, -2, 2.0 / 12}, {-2, 2, 2, 2.0/3 + 2.0/12}, {1, 2, 3, 2},
	} {
		if got := wetDepth(c.a, c.b, c.c); !near(got, c.want, 1e-12) {
			t.Errorf("%v, %v, %v: %v, want %v", c.a, c.b, c.c, got, c.want)
		}
	}
}
