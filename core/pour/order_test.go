package pour

import (
	"reflect"
	"slices"
	"strings"
	"testing"

	"nephelon/core/geometry"
	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/takeoff"
)

func poolOf(t *testing.T, p takeoff.Pool) []takeoff.Panel {
	t.Helper()
	taken, _, found := takeoff.Measure(takeoff.Shape{Pool: &p}, "", measure.Metric)
	if taken == nil {
		t.Fatal(found)
	}
	return taken.Panels
}

func names(panels []takeoff.Panel, order []int) string {
	all := make([]string, len(order))
	for n, at := range order {
		all[n] = panels[at].Name
	}
	return strings.Join(all, "; ")
}

// A pool of 8 m × 4 m with its shallow end at x = 0: wherever the ladder stands, its wall is
// the last of the walls and the floor at its foot the last of the floors.
func TestThePoolEndsAtItsLadder(t *testing.T) {
	panels := poolOf(t, takeoff.Pool{Form: takeoff.Rectangular, Length: 8, Width: 4, Shallow: 1, Deep: 2.5, FlatRun: 3,
		SlopeRun: 2, Coping: 0.3})
	for _, c := range []struct {
		ladder geometry.Point
		want   string
	}{
		{geometry.Point{X: 0, Y: 2}, "Right wall along the shallow floor; Right wall along the slope; Right wall along the " +
			"deep floor; Deep end wall; Left wall along the deep floor; Left wall along the slope; Left wall along the " +
			"shallow floor; Shallow end wall; Deep floor; Slope; Shallow floor; Coping return"},
		{geometry.Point{X: 8, Y: 2}, "Left wall along the deep floor; Left wall along the slope; Left wall along the " +
			"shallow floor; Shallow end wall; Right wall along the shallow floor; Right wall along the slope; Right wall " +
			"along the deep floor; Deep end wall; Shallow floor; Slope; Deep floor; Coping return"},
	} {
		if got := names(panels, Order(panels, c.ladder)); got != c.want {
			t.Errorf("ladder at %v: %s", c.ladder, got)
		}
	}
	// Round pools, ovals and freeforms keep to it, and every panel is worked once.
	for _, p := range []takeoff.Pool{
		{Form: takeoff.Round, Length: 6, Shallow: 1.2}, {Form: takeoff.Oval, Length: 9, Width: 5, Shallow: 1, Deep: 2,
			FlatRun: 3, SlopeRun: 3},
		{Form: takeoff.LShaped, Length: 8, Width: 4, Shallow: 1.2,
			Arm: &takeoff.Arm{At: 1, Width: 3, Out: 2, Mirrored: true}},
		{Form: takeoff.Freeform, Outline: geometry.Ring{{X: 0, Y: 0}, {X: 5, Y: 0}, {X: 7, Y: 3}, {X: 2, Y: 5}},
			Depths: []takeoff.Depth{{At: geometry.Point{X: 3, Y: 2}, Depth: 1.4}}},
	} {
		panels, ladder := poolOf(t, p), geometry.Point{X: 0, Y: 1}
		order := Order(panels, ladder)
		sorted := slices.Clone(order)
		slices.Sort(sorted)
		if len(slices.Compact(sorted)) != len(panels) {
			t.Errorf("%s: %v of %d", p.Form, order, len(panels))
		}
		var walls, floors []int
		for _, at := range order {
			if panels[at].At == (geometry.Point{}) {
				t.Errorf("%s: nobody knows where %s is", p.Form, panels[at].Name)
			}
			if panels[at].Facing == takeoff.Vertical {
				walls = append(walls, at)
				if len(floors) > 0 {
					t.Errorf("%s: %s comes after a floor", p.Form, panels[at].Name)
				}
			} else {
				floors = append(floors, at)
			}
		}
		last := walls[len(walls)-1]
		for _, at := range walls {
			if panels[at].At.Distance(ladder) < panels[last].At.Distance(ladder) {
				t.Errorf("%s: %s is nearer to the ladder than the last, %s", p.Form, panels[at].Name, panels[last].Name)
			}
		}
	}
}

// A wall to 2 m is rolled in one; above it goes in bands, from the top down.
func TestWallsInBands(t *testing.T) {
	for deep, want := range map[measure.Length]int{1.2: 0, 2: 0, 2.1: 2, 4: 2, 4.1: 3} {
		panels := poolOf(t, takeoff.Pool{Form: takeoff.Rectangular, Length: 8, Width: 4, Shallow: 1, Deep: deep, SlopeRun: 8})
		sections := Allot(panels, []float64{1}, func(takeoff.Panel) float64 { return 1 })
		for _, s := range sections[0].Spans {
			switch {
			case s.Name == "Deep end wall" && s.Lifts != want, s.Name == "Shallow end wall" && s.Lifts != 0, s.Name == "Slope" &&
				s.Lifts != 0:
				t.Errorf("%v m deep: %s in %d bands", deep, s.Name, s.Lifts)
			}
		}
	}
}

// By hand: 3 L over a board of 2 m² and one of 1 m², in two batches: the first covers 1.5 m²
// of the first board. A strip of 0.04 m² takes 40 mL of its 1 L to a square metre, once.
func TestBeadsOverPieces(t *testing.T) {
	panels := []takeoff.Panel{{Name: "Run", Facing: takeoff.Level, Area: 2},
		{Name: "Run, side 1, edge", Facing: takeoff.Vertical, Area: 0.5},
		{Name: "Bar", Facing: takeoff.Level, Area: 1, Group: 1}}
	takes := func(p takeoff.Panel) float64 {
		if p.Facing == takeoff.Vertical {
			return 0
		}
		return 1
	}
	sections := Allot(panels, []float64{1, 1}, takes)
	Pour(panels, sections, []kit.Batch{{Volume: 0.0015}, {Volume: 0.0015}},
		[]takeoff.Narrow{{Piece: "Run", Name: "between Sink and side 1", Area: 0.04},
			{Piece: "Bar", Name: "x", Area: 0.01}}, takes)
	want := [][]Bead{
		{{Name: "Run", Volume: 0.0015}, {Name: "Run, between Sink and side 1", Narrow: true, Volume: 0.00004}},
		{{Name: "Run", Volume: 0.0005}, {Name: "Bar", Volume: 0.001}, {Name: "Bar, x", Narrow: true, Volume: 0.00001}},
	}
	for n, s := range sections {
		if len(s.Beads) != len(want[n]) {
			t.Fatalf("%+v", s.Beads)
		}
		for k, b := range s.Beads {
			if w := want[n][k]; b.Name != w.Name || b.Narrow != w.Narrow || !near(float64(b.Volume), float64(w.Volume)) {
				t.Errorf("batch %d: %+v, want %+v", n+1, b, w)
			}
		}
	}
}

// By hand: 12 steps of 0.5 m² and batches for 5 m² each. Nine tenths of a batch, 4.5 m², are
// nine steps; the other three, 1.5 m², come with the second.
func TestStepsFromTheTopDown(t *testing.T) {
	flight := takeoff.Flight{Name: "Stairs", Count: 12, Area: 6}
	floor, steps := Down([]takeoff.Flight{flight}, []float64{5, 5, 5})
	if !near(floor[0], 0.5) || !near(floor[1], 3.5) || !near(floor[2], 5) {
		t.Errorf("%v", floor)
	}
	if want := [][]Descent{{{"Stairs", 1, 9, 4.5}}, {{"Stairs", 10, 12, 1.5}}, nil}; !reflect.DeepEqual(steps, want) {
		t.Errorf("%+v", steps)
	}
	// Two flights follow each other; one that a batch cannot cover a step of stays apart.
	floor, steps = Down([]takeoff.Flight{{Name: "Up", Count: 2, Area: 1}, {Name: "Down", Count: 3, Area: 3}},
		[]float64{3, 3})
	if want := [][]Descent{{{"Up", 1, 2, 1}, {"Down", 1, 1, 1}}, {{"Down", 2, 3, 2}}}; !reflect.DeepEqual(steps, want) ||
		!near(floor[0], 1) || !near(floor[1], 1) {
		t.Errorf("%v, %+v", floor, steps)
	}
	if floor, steps := Down([]takeoff.Flight{{Name: "Wide", Count: 1, Area: 4}}, []float64{4, 4}); steps != nil ||
		!near(floor[0], 4) {
		t.Errorf("%v, %+v", floor, steps)
	}
}
