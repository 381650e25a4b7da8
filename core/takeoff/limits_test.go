package takeoff

import (
	"fmt"
	"math"
	"reflect"
	"slices"
	"strings"
	"testing"

	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// refusal expects that a shape is refused once, on a field, in words; where it names
// nothing the shape must be taken.
func refusal(t *testing.T, name string, s Shape, path, says string) {
	t.Helper()
	taken, _, found := Measure(s, "", measure.Metric)
	if path == "" {
		if taken == nil {
			t.Errorf("%s is refused: %v", name, found)
		}
		return
	}
	if taken != nil || len(found) != 1 || found[0].Level != finding.Refused || found[0].Path != path ||
		!strings.Contains(found[0].Text, says) || found[0].WayOut == "" {
		t.Errorf("%s: %+v", name, found)
	}
}

func TestFloorsAtTheirLimits(t *testing.T) {
	at := func(x, y float64) geometry.Point { return geometry.Point{X: x, Y: y} }
	drain := func(width measure.Length, x float64) Floor {
		return Floor{Outline: box(0, 0, 4, 3), Holes: []Hole{{Outline: box(2, 1, 3, 2)}},
			Fittings: []Fitting{{Kind: "drain", At: at(x, 1.5), Width: width}}}
	}
	// From x = 0.5 a wall is 0.5 m away; from 1.75 the hole is, 0.25 m.
	refusal(t, "a drain to the wall", Shape{Floor: drain(1, 0.5)}, "", "")
	refusal(t, "one through it", Shape{Floor: drain(1.01, 0.5)}, "/floor/fittings/0/width", "Drain 1, 1.01 m wide")
	refusal(t, "a drain to the hole", Shape{Floor: drain(0.5, 1.75)}, "", "")
	refusal(t, "one into it", Shape{Floor: drain(0.51, 1.75)}, "/floor/fittings/0/width", "0.25 m away")
	hole := Floor{Outline: box(0, 0, 4, 3),
		Holes: []Hole{{Outline: box(1, 1, 2, 2)}, {Name: "Pit", Outline: box(3, 1, 5, 2)}}}
	refusal(t, "a hole through the wall", Shape{Floor: hole}, "/floor/holes/1", "Pit: ")
	hole.Holes[1].Name = ""
	if _, _, found := Measure(Shape{Floor: hole}, "", measure.Metric); strings.HasPrefix(found[0].Text, ":") ||
		strings.HasPrefix(found[0].Text, "Pit") {
		t.Errorf("%v", found)
	}
	round := func(n int) geometry.Ring {
		ring := make(geometry.Ring, n)
		for i := range ring {
			sin, cos := math.Sincos(2 * math.Pi * float64(i) / float64(n))
			ring[i] = at(50*cos, 50*sin)
		}
		return ring
	}
	many := Floor{Outline: round(mostCorners - 8), Holes: []Hole{{Outline: box(0, 0, 1, 1)}},
		Zones: []Hole{{Outline: box(-2, -2, -1, -1)}}}
	refusal(t, "5000 corners", Shape{Floor: many}, "", "")
	many.Outline = round(mostCorners - 7)
	refusal(t, "5001 corners", Shape{Floor: many}, "/floor/outline", "have 5001 corners together, more than 5000")
}

// What is marked outside the floor is told and counts for nothing.
func TestWhatLiesOutsideTheFloor(t *testing.T) {
	f := Floor{Outline: box(0, 0, 8, 5),
		Fittings: []Fitting{{Kind: "drain", Name: "Gully", At: geometry.Point{X: 9, Y: 1}, Width: 0.3},
			{Kind: "drain", At: geometry.Point{X: 7, Y: 1}}},
		Zones: []Hole{{Outline: geometry.Ring{{X: 0, Y: 0}, {X: 2, Y: 2}, {X: 2, Y: 0}, {X: 0, Y: 2}}},
			{Outline: box(6, 0, 8.02, 5)}, {Name: "Bay", Outline: box(6, 0, 8.03, 5)}},
		Lines: []Line{{Kind: "crack", Width: 0.01, Depth: 0.02}},
	}
	taken, _, found := Measure(Shape{Floor: f}, "", measure.Metric)
	var told []string
	for _, w := range found {
		told = append(told, w.Path)
		if w.Level != finding.Warning || w.WayOut == "" {
			t.Errorf("%+v", w)
		}
	}
	// A hundredth of a zone may reach out, by how it was drawn.
	if want := []string{"/floor/fittings/0/at", "/floor/zones/0", "/floor/zones/2",
		"/floor/lines/0/length"}; !slices.Equal(told, want) {
		t.Errorf("%v, want %v", told, want)
	}
	if !strings.HasPrefix(found[0].Text, "Gully is outside") || !strings.Contains(found[1].Text, "Zone 1: ") ||
		!strings.Contains(found[2].Text, "Bay reaches outside the floor; only 99 %") {
		t.Errorf("%v", found)
	}
	if !near(float64(taken.Area), 40, 1e-12) || len(taken.Zones) != 2 || !near(float64(taken.Zones[1].Area), 10, 1e-9) {
		t.Errorf("%+v", taken)
	}
}

// A cove follows the walls less the doors, and the columns; more door than wall is no
// wall.
func TestWhatACoveFollows(t *testing.T) {
	f := Floor{Outline: box(0, 0, 3, 2), Holes: []Hole{{Outline: box(1, 1, 1.5, 1.5)}},
		Parts: []Part{{Kind: Cove, Height: 0.1}},
		Fittings: []Fitting{{Kind: "door", At: geometry.Point{X: 1}, Width: 4},
			{Kind: "door", At: geometry.Point{X: 1}, Width: 1}}}
	if taken, _, _ := Measure(Shape{Floor: f}, "", measure.Metric); !near(float64(taken.Area), 6-0.25+(10-5+2)*0.1,
		1e-9) || !near(float64(taken.Openings), 5, 1e-12) {
		t.Errorf("%+v", taken)
	}
	f.Fittings[0].Width = 11
	if taken, _, _ := Measure(Shape{Floor: f}, "", measure.Metric); !near(float64(taken.Area), 6-0.25+2*0.1, 1e-9) {
		t.Errorf("%+v", taken)
	}
	f.Parts[0].Height = 0
	if taken, _, found := Measure(Shape{Floor: f}, "", measure.Metric); len(found) != 1 ||
		found[0].Path != "/floor/parts/0" || !strings.Contains(found[0].WayOut, "a height") ||
		!near(float64(taken.Area), 5.75, 1e-9) {
		t.Errorf("%v", found)
	}
}

// How steep the parts of a floor stand: treads are level and risers upright; a ramp
// is level to 20° and steep to 70°.
func TestPartsByHowSteep(t *testing.T) {
	split := func(p Part) Split {
		f := Floor{Outline: box(0, 0, 10, 10), Parts: []Part{p}}
		s := take(t, Shape{Floor: f}).Facing
		s.Level -= 100
		return s
	}
	same := func(name string, got Split, level, steep, vertical float64) {
		t.Helper()
		if math.Abs(float64(got.Level)-level) > 1e-9 || math.Abs(float64(got.Steep)-steep) > 1e-9 ||
			math.Abs(float64(got.Vertical)-vertical) > 1e-9 {
			t.Errorf("%s: %+v, want %v, %v, %v", name, got, level, steep, vertical)
		}
	}
	same("stairs", split(Part{Kind: Stairs, Count: 3, Width: 1, Tread: 0.3, Riser: 0.2}), 0.9, 0, 0.6)
	ramp := func(degrees float64) (Part, float64) {
		rise := 2 * math.Tan(degrees*math.Pi/180)
		return Part{Kind: Ramp, Run: 2, Height: measure.Length(rise), Width: 1}, math.Hypot(2, rise)
	}
	for degrees, at := range map[float64]int{19.99: 0, 20.01: 1, 69.9: 1, 70.1: 2} {
		p, area := ramp(degrees)
		want := [3]float64{}
		want[at] = area
		same(fmt.Sprint(degrees), split(p), want[0], want[1], want[2])
	}
	same("threshold", split(Part{Kind: Threshold, Run: 1, Width: 0.2}), 0.2, 0, 0)
	same("upstand", split(Part{Kind: Upstand, Run: 2, Height: 0.3}), 0, 0, 0.6)
	for kind, title := range map[PartKind]string{Cove: "Cove base", Stairs: "Stairs", Ramp: "Ramp", Threshold: "Threshold",
		Upstand: "Upstand"} {
		if got := (Part{Kind: kind}).title(); got != title {
			t.Errorf("%s is called %q", kind, got)
		}
	}
	if (Part{Kind: Ramp, Name: "Dock"}).title() != "Dock" {
		t.Error("its own name is left out")
	}
	if got := (Line{Length: 7, Path: geometry.Ring{{X: 1, Y: 1}}}).Run(); got != 7 {
		t.Errorf("a line of one point runs %v m", got)
	}
}

// A working goes down to the tape, with what was mended and moved since.
func TestTheTapeInTheWorking(t *testing.T) {
	gap := measure.Length(0.012)
	w := &Walk{Readings: []Taping{{Typed: " 3.2 E, 2 left "}, {Typed: "3.2 left"}}, Gap: &gap, Mended: "Wall 2 by 12 mm."}
	f := Floor{Outline: box(0, 0, 3.2, 2), Walk: w,
		Holes: []Hole{{Name: "Sump", Outline: box(1, 1, 1.5, 1.5),
			Walk: &Walk{Readings: []Taping{{Typed: "0.5 E"}}, Changed: true}}}}
	taken := take(t, Shape{Floor: f})
	if len(taken.PartWorkings) != 2 {
		t.Fatalf("%+v", taken.PartWorkings)
	}
	outline, sump := taken.PartWorkings[0], taken.PartWorkings[1]
	if outline.Title != "The outline by the tape" || outline.Formula != "3.2 E, 2 left · 3.2 left" ||
		outline.Source != "Tape, as typed; corrected: Wall 2 by 12 mm" ||
		outline.Result.Name != "Misclosure" || outline.Result.SI != 0.012 || len(outline.Inputs) != 4 ||
		outline.Inputs[1].Name != "Wall 2" || outline.Inputs[1].SI != 2 {
		t.Errorf("%+v", outline)
	}
	if sump.Title != "Sump by the tape" || sump.Source != "Tape, as typed; corners moved on the plan since" ||
		sump.Result.Name != "Around" || sump.Result.SI != 0 {
		t.Errorf("%+v", sump)
	}
	long := Walk{}.working("x", slices.Repeat([]measure.Length{2}, 61))
	if len(long.Inputs) != 60 || long.Result.SI != 122 {
		t.Errorf("%d walls told, %v around", len(long.Inputs), long.Result.SI)
	}
	// Moving a corner is told once; nothing walked stays nothing.
	moved := w.Moved()
	if !moved.Changed || w.Changed || moved.Moved() != moved || (*Walk)(nil).Moved() != nil {
		t.Errorf("%+v after %+v", moved, w)
	}
}

func TestWhereMeasuringBegins(t *testing.T) {
	for _, c := range []struct {
		shape    Shape
		measured bool
		at       string
	}{
		{Shape{}, false, "/floor/outline"}, {Shape{Floor: Floor{Outline: box(0, 0, 1, 1)}}, true, "/floor/outline"},
		{Shape{Top: &Top{}}, false, "/top/pieces"}, {Shape{Top: &Top{Pieces: make([]TopPiece, 1)}}, true, "/top/pieces"},
		{Shape{Pool: &Pool{Form: Rectangular}}, false, "/pool"}, {Shape{Pool: &Pool{Form: Rectangular, Length: 3, Width: 2}},
			true, "/pool"},
	} {
		if at, way := c.shape.Unmeasured(); c.shape.Measured() != c.measured || at != c.at || way == "" {
			t.Errorf("%+v: measured %v, at %s", c.shape, c.shape.Measured(), at)
		}
	}
	// A given area stands in only for what is not measured; parts of a floor add to it.
	given := &Given{Area: 30, Note: "by the owner"}
	floor := Shape{Given: given, Floor: Floor{Parts: []Part{{Kind: Upstand, Run: 4, Height: 0.5}}}}
	if taken, _, found := Measure(floor, "/s", measure.Metric); !near(float64(taken.Area), 32, 1e-12) || len(found) != 1 {
		t.Errorf("%+v, %v", taken, found)
	}
	if taken, _, found := Measure(Shape{Given: given, Top: &Top{}}, "/s", measure.Metric); taken.Area != 30 ||
		len(found) != 1 {
		t.Errorf("%+v, %v", taken, found)
	}
	if taken, _, _ := Measure(Shape{Given: given, Pool: &Pool{}}, "/s", measure.Metric); taken.Area != 30 {
		t.Errorf("%+v", taken)
	}
	if taken, _, _ := Measure(Shape{Given: given, Floor: Floor{Outline: box(0, 0, 2, 1)}}, "/s",
		measure.Metric); taken.Area != 2 {
		t.Errorf("measured, yet %v m²", taken.Area)
	}
}

// Every part with an id is named, and a listener can stop anywhere.
func TestIDs(t *testing.T) {
	s := Shape{
		Floor: Floor{Holes: []Hole{{ID: "h"}}, Parts: []Part{{ID: "p"}, {ID: "q"}}, Lines: []Line{{ID: "l"}},
			Zones: []Hole{{ID: "z"}}, Fittings: []Fitting{{ID: "f"}}},
		Top:  &Top{Pieces: []TopPiece{{ID: "t", Cutouts: []Hole{{ID: "c"}}}, {ID: "u", Cutouts: []Hole{{ID: "d"}}}}},
		Pool: &Pool{Depths: []Depth{{ID: "e"}}, Parts: []PoolPart{{ID: "s"}}},
	}
	want := []string{"/floor/holes/0 h", "/floor/parts/0 p", "/floor/parts/1 q", "/floor/lines/0 l", "/floor/zones/0 z",
		"/floor/fittings/0 f",
		"/top/pieces/0 t", "/top/pieces/1 u", "/top/pieces/0/cutouts/0 c", "/top/pieces/1/cutouts/0 d", "/pool/depths/0 e",
		"/pool/parts/0 s"}
	for stop := 1; stop <= len(want); stop++ {
		var got []string
		for at, id := range s.IDs() {
			if got = append(got, at+" "+id); len(got) == stop {
				break
			}
		}
		if !reflect.DeepEqual(got, want[:stop]) {
			t.Fatalf("%v, want %v", got, want[:stop])
		}
	}
}

func TestPoolsAtTheirLimits(t *testing.T) {
	straight := Pool{Form: Rectangular, Length: 9, Width: 4, Shallow: 1, Deep: 2, FlatRun: 3, SlopeRun: 4}
	hopper := Pool{Form: Rectangular, Length: 9, Width: 4, Shallow: 1, Deep: 2, FlatRun: 3,
		Hopper: &Hopper{Length: 2, Width: 2, FromEnd: 1}}
	arm := Pool{Form: LShaped, Length: 9, Width: 4, Shallow: 1, Arm: &Arm{At: 2, Width: 3, Out: 2}}
	step := func(change func(*PoolPart)) Pool {
		p := straight
		part := PoolPart{Kind: PoolSteps, Width: 2, Tread: 0.3, Riser: 0.3, Count: 3}
		change(&part)
		p.Parts = []PoolPart{part}
		return p
	}
	of := func(p Pool, change func(*Pool)) Pool {
		if p.Hopper != nil {
			h := *p.Hopper
			p.Hopper = &h
		}
		if p.Arm != nil {
			a := *p.Arm
			p.Arm = &a
		}
		change(&p)
		return p
	}
	for _, c := range []struct {
		name, path, says string
		pool             Pool
	}{
		{"straight", "", "", straight}, {"with a hopper", "", "", hopper}, {"with an arm", "", "", arm},
		{"no length", "/pool/length", "no size", of(straight, func(p *Pool) { p.Length = 0 })},
		{"no width", "/pool/length", "no size", of(straight, func(p *Pool) { p.Width = 0 })},
		{"all shallow", "", "", of(straight, func(p *Pool) { p.FlatRun, p.SlopeRun, p.Deep = 9, 0, 0 })},
		{"longer than the pool", "/pool/flatRun", "longer than the pool", of(straight, func(p *Pool) { p.FlatRun = 9.01 })},
		{"no place to slope", "/pool/flatRun", "nothing is left to slope",
			of(straight, func(p *Pool) { p.FlatRun, p.SlopeRun = 9, 0 })},
		{"to the end", "", "", of(straight, func(p *Pool) { p.SlopeRun = 6 })},
		{"past the end", "/pool/slopeRun", "9.01 m together",
			of(straight, func(p *Pool) { p.FlatRun, p.SlopeRun = 2.99, 6.02 })},
		{"a short floor", "/pool/flatRun", "too short to be measured",
			of(straight, func(p *Pool) { p.FlatRun = leastRun * 0.9 })},
		{"the shortest floor", "", "", of(straight, func(p *Pool) { p.FlatRun = leastRun })},
		{"a short slope", "/pool/slopeRun", "too short to be measured",
			of(straight, func(p *Pool) { p.SlopeRun = leastRun * 0.9 })},
		{"the shortest slope", "", "", of(straight, func(p *Pool) { p.SlopeRun = leastRun })},
		{"water at the floor", "/pool/water", "under the deepest floor", of(straight, func(p *Pool) { p.Water = 2 })},
		{"some water", "", "", of(straight, func(p *Pool) { p.Water = 1.99 })},
		{"water over a deep shallow end", "", "", of(straight, func(p *Pool) { p.Shallow, p.Break, p.Water = 2.5, 1, 2.4 })},
		{"a pad of no length", "/pool/hopper/length", "no pad", of(hopper, func(p *Pool) { p.Hopper.Length = 0 })},
		{"a pad of no width", "/pool/hopper/length", "no pad", of(hopper, func(p *Pool) { p.Hopper.Width = 0 })},
		{"a pad as wide", "", "", of(hopper, func(p *Pool) { p.Hopper.Width = 4 })},
		{"a pad wider", "/pool/hopper/width", "4.01 m wide", of(hopper, func(p *Pool) { p.Hopper.Width = 4.01 })},
		{"a pad as long", "", "", of(hopper, func(p *Pool) { p.Hopper.Length = 5 })},
		{"a pad longer", "/pool/hopper/length", "take 6.01 m", of(hopper, func(p *Pool) { p.Hopper.Length = 5.01 })},
		{"hardly deeper", "", "", of(hopper, func(p *Pool) { p.Deep = 1.01 })},
		{"no deeper", "/pool/deep", "no deeper", of(hopper, func(p *Pool) { p.Deep = 1 })},
		{"no arm", "/pool/arm", "no size", of(arm, func(p *Pool) { p.Arm.Out = 0 })},
		{"an arm of no width", "/pool/arm", "no size", of(arm, func(p *Pool) { p.Arm.Width = 0 })},
		{"an arm to the end", "", "", of(arm, func(p *Pool) { p.Arm.At = 6 })},
		{"past it", "/pool/arm/at", "beyond the pool", of(arm, func(p *Pool) { p.Arm.At = 6.01 })},
		{"beside a hopper", "", "", of(hopper, func(p *Pool) { p.Form, p.Arm = LShaped, &Arm{At: 0, Width: 3, Out: 2} })},
		{"into it", "/pool/arm/at", "opens into the hopper",
			of(hopper, func(p *Pool) { p.Form, p.Arm = LShaped, &Arm{At: 0.1, Width: 3, Out: 2} })},
		{"an arm of no L", "", "", of(straight, func(p *Pool) { p.Arm = &Arm{At: 8, Width: 3, Out: 2} })},
		{"bare to the lowest floor", "", "", of(straight, func(p *Pool) { p.Band = 1 })},
		{"barer", "/pool/band", "higher than the lowest wall", of(straight, func(p *Pool) { p.Band = 1.01 })},
		{"steps along half of it", "", "", step(func(p *PoolPart) { p.Width = 13 })},
		{"along more", "/pool/parts/0/width", "Steps is 13.1 m wide", step(func(p *PoolPart) { p.Width = 13.1 })},
		{"out to half", "", "", step(func(p *PoolPart) { p.Tread = 13.0 / 3 })},
		{"out further", "/pool/parts/0/tread", "reach 13.2 m out", step(func(p *PoolPart) { p.Tread = 4.4 })},
		{"as high as deep", "", "", step(func(p *PoolPart) { p.Riser = 0.66 })},
		{"higher", "/pool/parts/0/riser", "2.01 m high", step(func(p *PoolPart) { p.Riser = 0.67 })},
		{"no width", "/pool/parts/0", "Bench has no size", step(func(p *PoolPart) { p.Kind, p.Width = Bench, 0 })},
		{"no tread", "/pool/parts/0", "Swim-out has no size", step(func(p *PoolPart) { p.Kind, p.Tread = SwimOut, 0 })},
		{"no riser", "/pool/parts/0", "Ledge has no size", step(func(p *PoolPart) { p.Name, p.Riser = "Ledge", 0 })},
		{"set in wide", "", "", step(func(p *PoolPart) { p.Outside, p.Depth, p.Width = true, 1, 20 })},
		{"set in as deep as high", "", "", step(func(p *PoolPart) { p.Outside, p.Riser, p.Depth = true, 0.25, 0.75 })},
		{"set in over nothing", "/pool/parts/0/depth", "less than its height",
			step(func(p *PoolPart) { p.Outside, p.Riser, p.Depth = true, 0.25, 0.74 })},
	} {
		pool := c.pool
		refusal(t, c.name, Shape{Pool: &pool}, c.path, c.says)
	}
	// Benches that hide more wall than there is.
	hides := Pool{Form: Rectangular, Length: 4, Width: 4, Shallow: 1}
	for range 16 {
		hides.Parts = append(hides.Parts, PoolPart{Kind: Bench, Width: 1, Tread: 1, Riser: 0.5, Walled: 2})
	}
	refusal(t, "as much hidden as there is", Shape{Pool: &hides}, "", "")
	hides.Parts = append(hides.Parts, hides.Parts[0])
	refusal(t, "more hidden", Shape{Pool: &hides}, "/pool/parts", "hide more wall")
	// A step with one end in the open hides as much as it shows.
	even := Pool{Form: Rectangular, Length: 4, Width: 4, Shallow: 1,
		Parts: []PoolPart{{Kind: Bench, Width: 2, Tread: 0.5, Riser: 0.4, Walled: 1}}}
	if taken := take(t, Shape{Pool: &even}); !near(float64(taken.Area), 32, 1e-9) ||
		!near(float64(taken.Water), 16-0.4, 1e-9) || taken.Pieces[len(taken.Pieces)-1].Name != "Bench, as much as it hides" {
		t.Errorf("%+v", taken.Pieces)
	}
	free := func(water float64, depths ...Depth) Pool {
		return Pool{Form: Freeform, Outline: box(0, 0, 4, 4), Water: measure.Length(water), Depths: depths}
	}
	deep := func(x, y, d float64) Depth {
		return Depth{At: geometry.Point{X: x, Y: y}, Depth: measure.Length(d)}
	}
	for _, c := range []struct {
		name, path, says string
		pool             Pool
	}{
		{"a depth of nothing", "/pool/depths/0/depth", "depth point 1 has no depth", free(0, deep(2, 2, 0))},
		{"under the floor", "/pool/water", "1.5 m below", free(1.5, deep(2, 2, 1.5))},
		{"over it", "", "", free(1.49, deep(2, 2, 1.5))},
		{"twice at a corner", "/pool/depths/1/at", "1 m was measured already", free(0, deep(0, 0.02, 1), deep(0.02, 0, 1.2))},
		{"by the next corner", "/pool/depths/1/at", "1 m was measured already",
			free(0, deep(3.98, 0, 1), deep(4, 0.02, 1.2))},
		{"just apart on the floor", "", "", free(0, deep(2, 2, 1), deep(2.031, 2, 1.2))},
		{"together on the floor", "/pool/depths/1/at", "measured already", free(0, deep(2, 2, 1), deep(2.029, 2, 1.2))},
	} {
		pool := c.pool
		refusal(t, c.name, Shape{Pool: &pool}, c.path, c.says)
	}
}

func TestTopsAtTheirLimits(t *testing.T) {
	run := func(v float64) *measure.Sourced[measure.Length] {
		return &measure.Sourced[measure.Length]{Value: measure.Length(v), Source: measure.OwnTest}
	}
	for _, c := range []struct {
		name, path, says string
		change           func(*Top)
	}{
		{"as it is", "", "", func(*Top) {}},
		{"a crossing outline", "/top/pieces/0/outline", "Run: ", func(p *Top) {
			p.Pieces[0].Outline = geometry.Ring{{X: 0, Y: 0}, {X: 2, Y: 2}, {X: 2, Y: 0}, {X: 0, Y: 2}}
		}},
		{"the first side", "", "", func(p *Top) { p.Pieces[0].Edges = []TopEdge{{Side: 4, Kind: Exposed}} }},
		{"no side 0", "/top/pieces/0/edges/0/side", "no side 0", func(p *Top) { p.Pieces[0].Edges[0].Side = 0 }},
		{"rounded to the underside", "", "", func(p *Top) { p.Profile, p.Arris = Rounded, 0.038 }},
		{"further", "/top/arris", "cut back by 39 mm", func(p *Top) { p.Profile, p.Arris = Rounded, 0.039 }},
		{"of a square edge", "", "", func(p *Top) { p.Arris = 0.05 }},
		{"no thickness yet", "", "", func(p *Top) { p.Profile, p.Arris, p.Thickness = Chamfer, 0.05, 0 }},
		{"no run-off", "", "", func(p *Top) { p.RunOff = run(0) }},
		{"a metre of run-off", "", "", func(p *Top) { p.RunOff = run(1) }},
		{"more", "/top/runOff", "a run-off of", func(p *Top) { p.RunOff = run(1.1) }},
		{"less than none", "/top/runOff", "a run-off of", func(p *Top) { p.RunOff = run(-0.1) }},
		{"a waterfall of no height", "/top/pieces/0/edges/0/height", "the waterfall end has no height",
			func(p *Top) { p.Pieces[0].Edges[0].Kind = Waterfall }},
		{"all under another", "/top/pieces/1/outline", "Under adds no area", func(p *Top) {
			p.Pieces = append(p.Pieces, TopPiece{ID: "u", Name: "Under", Outline: box(0.5, 0.05, 1.7, 0.6),
				Cutouts: []Hole{{Outline: box(0.6, 0.1, 0.8, 0.4)}}})
		}},
	} {
		top := sinkRun()
		c.change(&top)
		if c.path == "" {
			refusal(t, c.name, Shape{Top: &top}, "", "")
			continue
		}
		_, _, found := Measure(Shape{Top: &top}, "", measure.Metric)
		if len(found) == 0 || found[0].Path != c.path || !strings.Contains(found[0].Text, c.says) || found[0].WayOut == "" {
			t.Errorf("%s: %v", c.name, found)
		}
	}
	// An edge without a thickness, and a side that is a joint all along, are told.
	top := Top{Pieces: []TopPiece{
		{ID: "a", Outline: box(0, 0, 2, 1), Edges: []TopEdge{{Side: 1, Kind: Exposed}, {Side: 2, Kind: Exposed}}},
		{ID: "b", Outline: box(2, 0, 3, 1)},
	}}
	taken, _, found := Measure(Shape{Top: &top}, "", measure.Metric)
	if len(found) != 2 || found[0].Path != "/top/pieces/0/edges/0" ||
		!strings.Contains(found[0].Text, "Piece 1, side 1 is exposed, but the top has no thickness") ||
		found[1].Path != "/top/pieces/0/edges/1" || !strings.Contains(found[1].Text, "a joint with another piece all along") {
		t.Errorf("%v", found)
	}
	if !near(float64(taken.Area), 3, 1e-12) || !near(float64(taken.Exposed), 2, 1e-12) {
		t.Errorf("%+v", taken)
	}
	// An outline walked the other way has the same face.
	mirrored := sinkRun()
	slices.Reverse(mirrored.Pieces[0].Outline)
	mirrored.Pieces[0].Edges = []TopEdge{{Side: 3, Kind: Exposed}, {Side: 2, Kind: Exposed}}
	if one := take(t, Shape{Top: &mirrored}); !near(float64(one.Exposed), 2.6+0.64, 1e-9) {
		t.Errorf("%v m exposed", one.Exposed)
	}
	// A width of one's own from which strips are called narrow, and a run-off.
	own := sinkRun()
	own.Strip, own.RunOff = run(0.06), run(0.03)
	if taken := take(t, Shape{Top: &own}); len(taken.Strips) != 0 || !near(float64(taken.RunOff), 3.24*0.03, 1e-12) {
		t.Errorf("%+v", taken.Strips)
	}
	own.Strip = run(0.061)
	if taken := take(t, Shape{Top: &own}); len(taken.Strips) != 1 ||
		!near(float64(taken.Strips[0].Area), 0.78*0.06, 1e-9) {
		t.Errorf("%+v", taken.Strips)
	}
}

// Stretches of a side that overlap count once, in whatever order they come.
func TestCovered(t *testing.T) {
	for _, c := range []struct {
		stretches [][2]float64
		want      float64
	}{
		{nil, 0}, {[][2]float64{{0.2, 0.5}}, 0.3}, {[][2]float64{{0.4, 0.7}, {0.2, 0.5}}, 0.5},
		{[][2]float64{{0, 1}, {0.2, 0.5}}, 1},
		{[][2]float64{{0.6, 0.8}, {0.1, 0.2}, {0.15, 0.3}}, 0.4}, {[][2]float64{{0.1, 0.4}, {0.1, 0.2}}, 0.3},
	} {
		if got := covered(c.stretches); math.Abs(got-c.want) > 1e-12 {
			t.Errorf("%v: %v, want %v", c.stretches, got, c.want)
		}
	}
}

// The slips that tapes and pencils make, and what is none of them.
func TestSlips(t *testing.T) {
	const foot, inch = measure.Foot, measure.Inch
	for _, c := range []struct {
		wrong, right float64
		units        measure.System
		want         string
	}{
		{3.81, 3.18, measure.Metric, "two figures changed places"},
		{12.34, 13.24, measure.Metric, "two figures changed places"},
		{2.345, 2.435, measure.Metric, "two figures changed places"},
		{6*foot + 8*inch, 8*foot + 6*inch, measure.US, "feet and inches changed places"},
		{6*foot + 8*inch, 8*foot + 6*inch, measure.Metric, ""},
		{4.2, 4.2 + foot, measure.Metric, "a foot miscounted"},
		{4.2, 3.2, measure.Metric, "a metre miscounted"},
		{4.203, 3.2, measure.Metric, "a metre miscounted"},
		{4.205, 3.2, measure.Metric, ""},
		{4.2, 4.3, measure.Metric, "ten centimetres misread"},
		{4.2, 2.1, measure.Metric, "counted twice or half"},
		{2.1, 4.2, measure.Metric, "counted twice or half"},
		{4.2, 4.25, measure.Metric, ""},
	} {
		if got := slipOf(c.wrong, c.right, c.units); got != c.want {
			t.Errorf("%v for %v: %q, want %q", c.wrong, c.right, got, c.want)
		}
	}
	if swappedFeet(6*foot+6*inch, 6*foot+6*inch) {
		t.Error("6' 6\" is the same either way")
	}
}

func TestHowSteep(t *testing.T) {
	tan := func(degrees float64) float64 { return math.Tan(degrees * math.Pi / 180) }
	for degrees, want := range map[float64]Facing{0: Level, 19.99: Level, -19.99: Level, 20.01: Steep, -20.01: Steep,
		69.99: Steep, 70.01: Vertical, -80: Vertical} {
		if got := facing(tan(degrees)); got != want {
			t.Errorf("%v° is %s, want %s", degrees, got, want)
		}
	}
	s := Split{Level: 1, Steep: 2, Vertical: 3}
	if s.of(Level) != 1 || s.of(Steep) != 2 || s.of(Vertical) != 3 || s.plus(s) != (Split{2, 4, 6}) {
		t.Errorf("%+v", s)
	}
	if capital("") != "" || capital("slope") != "Slope" {
		t.Error(capital("slope"))
	}
}
