package takeoff

import (
	"math"
	"reflect"
	"strings"
	"testing"

	"nephelon/core/geometry"
	"nephelon/core/measure"
)

func at(x, y float64) geometry.Point { return geometry.Point{X: x, Y: y} }

// The floor of a pool along its middle, by hand: depths go down.
func TestProfilesByHand(t *testing.T) {
	for name, c := range map[string]struct {
		pool Pool
		want []geometry.Point
	}{
		"level": {Pool{Form: Rectangular, Length: 6, Width: 3, Shallow: 1.2},
			[]geometry.Point{at(0, -1.2), at(6, -1.2)}},
		"sloping": {Pool{Form: Rectangular, Length: 6, Width: 3, Shallow: 1, Deep: 2},
			[]geometry.Point{at(0, -1), at(6, -2)}},
		"flat, sloping": {Pool{Form: Rectangular, Length: 6, Width: 3, Shallow: 1, Deep: 2, FlatRun: 2},
			[]geometry.Point{at(0, -1), at(2, -1), at(6, -2)}},
		"all three": {Pool{Form: Rectangular, Length: 9, Width: 3, Shallow: 1, Deep: 2, FlatRun: 2, SlopeRun: 4},
			[]geometry.Point{at(0, -1), at(2, -1), at(6, -2), at(9, -2)}},
		"down to a break": {Pool{Form: Rectangular, Length: 9, Width: 3, Shallow: 1, Break: 1.3, Deep: 2, FlatRun: 2,
			SlopeRun: 4}, []geometry.Point{at(0, -1), at(2, -1.3), at(6, -2), at(9, -2)}},
		"level at last": {Pool{Form: Rectangular, Length: 9, Width: 3, Shallow: 1, Deep: 2, SlopeRun: 4},
			[]geometry.Point{at(0, -1), at(4, -2), at(9, -2)}},
		"deep at both": {Pool{Form: Rectangular, Length: 9, Width: 3, Shallow: 2, Break: 1, Deep: 1, FlatRun: 9},
			[]geometry.Point{at(0, -2), at(9, -1)}},
		"a hopper": {Pool{Form: Rectangular, Length: 10, Width: 6, Shallow: 1, Break: 1.2, Deep: 2.5, FlatRun: 4,
			Hopper: &Hopper{Length: 2, Width: 2, FromEnd: 1}}, []geometry.Point{at(0, -1), at(4, -1.2), at(7, -2.5), at(9, -2.5),
			at(10, -1.2)}},
		"an oval": {Pool{Form: Oval, Length: 8, Width: 4, Shallow: 1, Deep: 2, FlatRun: 3, SlopeRun: 2},
			[]geometry.Point{at(0, -1), at(3, -1), at(5, -2), at(8, -2)}},
	} {
		if got := take(t, Shape{Pool: &c.pool}).Profile; !reflect.DeepEqual(got, c.want) {
			t.Errorf("%s: %v, want %v", name, got, c.want)
		}
	}
}

func rings(t *Takeoff) map[string]geometry.Ring {
	all := make(map[string]geometry.Ring)
	for _, f := range t.Figures {
		all[f.Name] = f.Ring
	}
	return all
}

func middles(t *Takeoff) map[string]geometry.Point {
	all := make(map[string]geometry.Point)
	for _, p := range t.Panels {
		all[p.Name] = p.At
	}
	return all
}

func same(a, b geometry.Point) bool { return a.Distance(b) < 1e-9 }

// The picture on plan and where each panel lies, by hand.
func TestThePictureOfAPool(t *testing.T) {
	straight := take(t, Shape{Pool: &Pool{Form: Rectangular, Length: 9, Width: 4, Shallow: 1, Deep: 2, FlatRun: 2,
		SlopeRun: 4}})
	for name, want := range map[string]geometry.Point{
		"Deep end wall": at(9, 2), "Shallow end wall": at(0, 2), "Left wall along the slope": at(4, 4),
		"Right wall along the slope":        at(4, 0),
		"Left wall along the shallow floor": at(1, 4), "Right wall along the deep floor": at(7.5, 0),
		"Shallow floor": at(1, 2), "Slope": at(4, 2), "Deep floor": at(7.5, 2),
	} {
		if got, there := middles(straight)[name]; !there || !same(got, want) {
			t.Errorf("%s lies at %v, want %v", name, got, want)
		}
	}
	for name, want := range map[string]geometry.Ring{"Top edge": box(0, 0, 9, 4), "Shallow floor": box(0, 0, 2, 4),
		"Slope": box(2, 0, 6, 4), "Deep floor": box(6, 0, 9, 4)} {
		if got := rings(straight)[name]; !reflect.DeepEqual(got, want) {
			t.Errorf("%s is drawn %v", name, got)
		}
	}
	for _, f := range straight.Figures {
		if kind := map[string]string{"Top edge": "shell", "Slope": "slope", "Shallow floor": "floor",
			"Deep floor": "floor"}[f.Name]; f.Kind != kind {
			t.Errorf("%s is drawn as %s", f.Name, f.Kind)
		}
	}
	// A hopper 2 m × 3 m, 1 m from the end of a pool of 10 m × 5 m, behind 4 m of floor.
	hopper := take(t, Shape{Pool: &Pool{Form: Rectangular, Length: 10, Width: 5, Shallow: 1, Deep: 2.5, FlatRun: 4,
		Hopper: &Hopper{Length: 2, Width: 3, FromEnd: 1}}})
	for name, want := range map[string]geometry.Ring{
		"Pad of the hopper": box(7, 1, 9, 4), "Slope from the deep end": {at(10, 0), at(10, 5), at(9, 4), at(9, 1)},
		"Left slope of the hopper":  {at(4, 5), at(10, 5), at(9, 4), at(7, 4)},
		"Right slope of the hopper": {at(4, 0), at(10, 0), at(9, 1), at(7, 1)},
		"Slope into the hopper":     {at(4, 0), at(4, 5), at(7, 4), at(7, 1)},
	} {
		if got := rings(hopper)[name]; !reflect.DeepEqual(got, want) {
			t.Errorf("%s is drawn %v", name, got)
		}
	}
	if m := middles(hopper); !same(m["Left wall beside the hopper"], at(7, 5)) ||
		!same(m["Right wall beside the hopper"], at(7, 0)) || !same(m["Pad of the hopper"], at(8, 2.5)) {
		t.Errorf("%v", m)
	}
	// The four slopes, by hand: trapezia over their runs and a fall of 1.5 m.
	areas := make(map[string]float64)
	for _, p := range hopper.Panels {
		areas[p.Name] = float64(p.Area)
	}
	for name, want := range map[string]float64{
		"Pad of the hopper": 6, "Slope from the deep end": 4 * math.Hypot(1, 1.5),
		"Left slope of the hopper": 4 * math.Hypot(1, 1.5), "Right slope of the hopper": 4 * math.Hypot(1, 1.5),
		"Slope into the hopper": 4 * math.Hypot(3, 1.5), "Left wall beside the hopper": 6, "Deep end wall": 5,
		"Shallow end wall": 5, "Left wall along the shallow floor": 4,
	} {
		if !near(areas[name], want, 1e-9) {
			t.Errorf("%s: %v m², want %v", name, areas[name], want)
		}
	}
}

// An arm of an L, on either side, across the break of the floor.
func TestThePictureOfAnL(t *testing.T) {
	pool := Pool{Form: LShaped, Length: 9, Width: 4, Shallow: 1, Deep: 2, FlatRun: 3, SlopeRun: 4,
		Arm: &Arm{At: 2, Width: 3, Out: 2}}
	right := take(t, Shape{Pool: &pool})
	if got, want := rings(right)["Top edge"],
		(geometry.Ring{at(0, 0), at(2, 0), at(2, -2), at(5, -2), at(5, 0), at(9, 0), at(9, 4), at(0, 4)}); !reflect.DeepEqual(
		got, want) {
		t.Errorf("%v", got)
	}
	for name, want := range map[string]geometry.Point{
		"Arm, near side wall": at(2, -1), "Arm, far side wall": at(5, -1),
		"Arm, end wall along the shallow floor": at(2.5, -2), "Arm, end wall along the slope": at(4, -2),
		"Floor of the arm": at(2.5, -1), "Floor of the arm, slope": at(4, -1), "Right wall along the shallow floor": at(1, 0),
		"Right wall along the slope": at(6, 0), "Left wall along the slope": at(5, 4),
	} {
		if got, there := middles(right)[name]; !there || !same(got, want) {
			t.Errorf("%s lies at %v, want %v", name, got, want)
		}
	}
	pool.Arm.Mirrored = true
	left := take(t, Shape{Pool: &pool})
	if got, want := rings(left)["Top edge"],
		(geometry.Ring{at(0, 4), at(2, 4), at(2, 6), at(5, 6), at(5, 4), at(9, 4), at(9, 0), at(0, 0)}); !reflect.DeepEqual(
		got, want) {
		t.Errorf("%v", got)
	}
	if m := middles(left); !same(m["Arm, near side wall"], at(2, 5)) || !same(m["Floor of the arm"], at(2.5, 5)) ||
		!same(m["Left wall along the slope"], at(6, 4)) || !same(m["Right wall along the slope"], at(5, 0)) {
		t.Errorf("%v", m)
	}
	if !near(float64(left.Area), float64(right.Area), 1e-12) || !near(float64(left.Water), float64(right.Water), 1e-12) {
		t.Errorf("mirrored it is %v m² and %v m³, not %v and %v", left.Area, left.Water, right.Area, right.Water)
	}
	// The walls of the arm, by hand: at its near side 1 m deep, at its far side 1.5 m.
	for _, p := range right.Panels {
		want, there := map[string]float64{
			"Arm, near side wall": 2, "Arm, far side wall": 3, "Arm, end wall along the shallow floor": 1,
			"Arm, end wall along the slope": 2 * 1.25,
			"Floor of the arm":              2, "Floor of the arm, slope": 2 * math.Hypot(2, 0.5),
			"Right wall along the shallow floor": 2,
			"Right wall along the slope":         2 * 1.75,
		}[p.Name]
		if there && !near(float64(p.Area), want, 1e-9) {
			t.Errorf("%s: %v m², want %v", p.Name, p.Area, want)
		}
	}
	// An arm within one stretch leaves its wall before and behind.
	within := take(t, Shape{Pool: &Pool{Form: LShaped, Length: 9, Width: 4, Shallow: 1,
		Arm: &Arm{At: 3, Width: 2, Out: 1}}})
	m := middles(within)
	if !same(m["Right wall along the floor, before the arm"], at(1.5, 0)) ||
		!same(m["Right wall along the floor"], at(7, 0)) {
		t.Errorf("%v", m)
	}
}

// Curved walls and floors lie where the curve is; a freeform's planes where they are.
func TestWhereCurvesLie(t *testing.T) {
	oval := take(t, Shape{Pool: &Pool{Form: Oval, Length: 10, Width: 6, Shallow: 1, Deep: 2}})
	m := middles(oval)
	if !same(m["Left half of the wall"], at(5, 6)) || !same(m["Right half of the wall"], at(5, 0)) ||
		!same(m["Slope"], at(5, 3)) {
		t.Errorf("%v", m)
	}
	parts := take(t, Shape{Pool: &Pool{Form: Oval, Length: 10, Width: 6, Shallow: 1, Deep: 2, FlatRun: 4, SlopeRun: 3}})
	// Half-way of 4 m along: 2 m from the end the half chord is 3 × √(1 − 0.6²) = 2.4 m.
	if m := middles(parts); !same(m["Left wall along the shallow floor"], at(2, 5.4)) ||
		!same(m["Right wall along the shallow floor"], at(2, 0.6)) {
		t.Errorf("%v", m)
	}
	sum := 0.0
	for name, ring := range rings(parts) {
		if name != "Top edge" {
			sum += math.Abs(ring.SignedArea())
		}
	}
	if !near(sum, math.Abs(rings(parts)["Top edge"].SignedArea()), 0.01) {
		t.Errorf("the floors cover %v of %v m²", sum, rings(parts)["Top edge"].SignedArea())
	}
	free := take(t, Shape{Pool: &Pool{Form: Freeform, Outline: box(0, 0, 6, 4),
		Depths: []Depth{{At: at(3, 2), Depth: 1.5}}}})
	if m := middles(free); !same(m["Wall 1"], at(3, 0)) || !same(m["Wall 4"], at(0, 2)) || !same(m["Floor"], at(3, 2)) {
		t.Errorf("%v", m)
	}
}

// Water over a stretch that falls, and where its shore is, by hand.
func TestWaterOverAStretch(t *testing.T) {
	r := reach{"slope", 2, 6, 1, 3} // falls half a metre to a metre
	for _, c := range []struct{ line, from, to, want float64 }{
		{0.5, 2, 6, 4 * 1.5}, {1, 2, 6, 4}, {2, 2, 6, 1}, {3, 2, 6, 0}, {3.5, 2, 6, 0}, {2, 2, 4, 0}, {2, 4, 6, 1},
		{2, 5, 6, 0.75}, {0, 2, 3, 1.25},
	} {
		if got := r.water(c.line, c.from, c.to); !near(got, c.want, 1e-12) && math.Abs(got-c.want) > 1e-12 {
			t.Errorf("water at %v from %v to %v: %v, want %v", c.line, c.from, c.to, got, c.want)
		}
	}
	rising := reach{"slope", 0, 4, 3, 1}
	if got := rising.water(2, 0, 4); !near(got, 1, 1e-12) {
		t.Errorf("rising: %v", got)
	}
	for _, c := range []struct {
		r              reach
		line, from, to float64
	}{{r, 0.5, 2, 6}, {r, 2, 4, 6}, {r, 3, 2, 2}, {rising, 2, 0, 2}, {rising, 0.5, 0, 4}, {rising, 3, 0, 0}} {
		if from, to := c.r.wet(c.line); !near(from, c.from, 1e-12) || !near(to, c.to, 1e-12) {
			t.Errorf("wet at %v: %v to %v, want %v to %v", c.line, from, to, c.from, c.to)
		}
	}
	if !near(r.depth(4), 2, 1e-12) || !near(r.slope(), 0.5, 1e-12) || r.kind() != "slope" ||
		(reach{at: 1, then: 1}).kind() != "floor" {
		t.Errorf("%v, %v, %s", r.depth(4), r.slope(), r.kind())
	}
	// The frustum of a pyramid, 4 m × 4 m to 2 m × 2 m over 3 m: 28 m³.
	if got := prismatoid(4, 4, 2, 2, 3); !near(got, 28, 1e-12) {
		t.Errorf("%v m³", got)
	}
}

// A bare band takes from each wall its share, and nothing from the floor.
func TestTheBandTakesFromTheWalls(t *testing.T) {
	pool := Pool{Form: Rectangular, Length: 8, Width: 4, Shallow: 1, Deep: 2}
	plain, bare := take(t, Shape{Pool: &pool}), (*Takeoff)(nil)
	pool.Band = 0.2
	bare = take(t, Shape{Pool: &pool})
	share := 1 - 24*0.2/float64(plain.Facing.Vertical)
	for i, p := range plain.Panels {
		want := float64(p.Area)
		if p.Facing == Vertical {
			want *= share
		}
		if !near(float64(bare.Panels[i].Area), want, 1e-9) {
			t.Errorf("%s: %v m², want %v", p.Name, bare.Panels[i].Area, want)
		}
	}
	last := bare.PartWorkings[len(bare.PartWorkings)-1]
	if last.Title != "Bare waterline band" || !near(last.Result.SI, -4.8, 1e-12) || last.Source != "Plane geometry" {
		t.Errorf("%+v", last)
	}
	if w := plain.PartWorkings[0]; w.Title != "Deep end wall" || !near(w.Result.SI, 8, 1e-12) ||
		w.Source != "Plane geometry" {
		t.Errorf("%+v", w)
	}
}

// A turn the wrong way mends to the very room that was walked; a gap is told by its sides.
func TestAMendedTurn(t *testing.T) {
	walked := walk(t, "6 m, left, 3 m, left, 2 m, left, 4 m, left, 8 m, left, 7 m", measure.Metric)
	closure := CheckWalk(walked, measure.Metric)
	first := closure.Mends[0]
	want := geometry.Ring{at(0, 0), at(6, 0), at(6, 3), at(8, 3), at(8, 7), at(0, 7)}
	if !strings.Contains(first.Text, "After wall 2 the walk would turn right, not left") ||
		len(first.Points) != len(want) || !first.Likely {
		t.Fatalf("%+v", first)
	}
	for i, p := range first.Points {
		if !same(p, want[i]) {
			t.Errorf("corner %d at %v, want %v", i+1, p, want[i])
		}
	}
	// The other way round: right for left.
	back := CheckWalk(walk(t, "6 m, right, 3 m, right, 2 m, right, 4 m, right, 8 m, right, 7 m", measure.Metric),
		measure.Metric)
	if !strings.Contains(back.Mends[0].Text, "would turn left, not right") || !same(back.Mends[0].Points[3], at(8, -3)) {
		t.Errorf("%+v", back.Mends[0])
	}
	for miss, want := range map[geometry.Point]string{
		at(0.5, 0): "0.5 m too far right", at(-0.5, 0): "0.5 m too far left", at(0, 0.25): "0.25 m too far up",
		at(0, -0.25): "0.25 m too far down", at(1.5, -0.25): "1.5 m too far right and 0.25 m too far down",
	} {
		if got := where(miss, measure.Metric); got != want {
			t.Errorf("%v: %q, want %q", miss, got, want)
		}
	}
}

// What a doubtful walk can be mended to: wall by wall, and spread where the gap is small
// against what was walked.
func TestMendsOfAWall(t *testing.T) {
	// 4 × 3 m, its last wall read 3.4 m: it ends 0.4 m too far down.
	c := CheckWalk(geometry.Ring{at(0, 0), at(4, 0), at(4, 3), at(0, 3), at(0, -0.4)}, measure.Metric)
	if c.Closes || !near(float64(c.Gap), 0.4, 1e-9) || math.Abs(float64(c.Right)) > 1e-12 ||
		!near(float64(c.Up), -0.4, 1e-9) {
		t.Errorf("%+v", c)
	}
	var told []string
	for _, m := range c.Mends {
		told = append(told, m.Text)
	}
	said := strings.Join(told, " ")
	for _, words := range []string{"Wall 2 would be 3.4 m instead of 3 m.", "Wall 4 would be 3 m instead of 3.4 m."} {
		if !strings.Contains(said, words) {
			t.Errorf("%q is not among %s", words, said)
		}
	}
	if strings.Contains(said, "Wall 1 would") || strings.Contains(said, "Wall 3 would") {
		t.Errorf("walls that run the other way do not close it: %s", said)
	}
	// Up to a hundredth of what was walked a gap may be spread.
	spread := func(gap float64) bool {
		c := CheckWalk(geometry.Ring{at(0, 0), at(4, 0), at(4, 3), at(0, 3), at(0, -gap)}, measure.Metric)
		return strings.Contains(c.Mends[len(c.Mends)-1].Text, "Spread the")
	}
	if !spread(0.14) || spread(0.142) { // 14.14 m and 14.142 m walked
		t.Errorf("a gap of 0.14 m is spread: %v, of 0.142 m: %v", spread(0.14), spread(0.142))
	}
	// To 5 mm, or a thousandth of the walk, it closes by itself.
	for gap, closes := range map[float64]bool{0.014: true, 0.0142: false} {
		if c := CheckWalk(geometry.Ring{at(0, 0), at(4, 0), at(4, 3), at(0, 3), at(0, -gap)},
			measure.Metric); c.Closes != closes {
			t.Errorf("%v m: closes %v", gap, c.Closes)
		}
	}
	for gap, closes := range map[float64]bool{0.0049: true, 0.0051: false} {
		if c := CheckWalk(geometry.Ring{at(0, 0), at(1, 0), at(1, 1), at(0, 1), at(0, -gap)},
			measure.Metric); c.Closes != closes {
			t.Errorf("of a small one %v m: closes %v", gap, c.Closes)
		}
	}
}
