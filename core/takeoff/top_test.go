package takeoff

import (
	"math"
	"strings"
	"testing"

	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// sinkRun is a run of 2.6 m × 0.64 m, 38 mm thick, with a sink of 0.78 m × 0.44 m
// that leaves 60 mm in front and 140 mm behind, exposed in front and to the right.
func sinkRun() Top {
	return Top{
		Thickness: 0.038,
		Pieces: []TopPiece{{
			ID: "run", Name: "Run", Outline: box(0, 0, 2.6, 0.64),
			Cutouts: []Hole{{ID: "sink", Name: "Sink", Outline: box(0.9, 0.06, 1.68, 0.5)}},
			Edges:   []TopEdge{{Side: 1, Kind: Exposed}, {Side: 2, Kind: Exposed}},
		}},
	}
}

func TestTopWithASinkByHand(t *testing.T) {
	top := sinkRun()
	taken, _, found := Measure(Shape{Top: &top}, "", measure.Metric)
	face := 2.6*0.64 - 0.78*0.44
	if !near(float64(taken.Area), face+3.24*0.038, 1e-12) || !near(float64(taken.Exposed), 3.24, 1e-12) ||
		!near(float64(taken.RunOff), 3.24*float64(DefaultRunOff), 1e-12) {
		t.Errorf("%+v", taken)
	}
	if len(taken.Strips) != 1 || !near(float64(taken.Strips[0].Width), 0.06, 1e-9) ||
		!near(float64(taken.Strips[0].Length), 0.78, 1e-9) {
		t.Errorf("strips %+v", taken.Strips)
	}
	if len(found) != 1 || found[0].Level != finding.Note || !strings.Contains(found[0].Text, "between Sink and side 1") ||
		!strings.Contains(found[0].WayOut, "bead") {
		t.Errorf("%v", found)
	}
}

// Two runs that both reach into the corner share 0.6 m × 0.6 m of it, and the
// edges of one that lie in the other are joints.
func TestCornersCountOnce(t *testing.T) {
	top := Top{Thickness: 0.04, Pieces: []TopPiece{
		{ID: "a", Name: "Long run", Outline: box(0, 0, 3, 0.6),
			Edges: []TopEdge{{Side: 1, Kind: Exposed}, {Side: 2, Kind: Exposed}}},
		{ID: "b", Name: "Short run", Outline: box(2.4, -1.4, 3, 0.6),
			Edges: []TopEdge{{Side: 1, Kind: Exposed}, {Side: 4, Kind: Exposed}}},
	}}
	taken := take(t, Shape{Top: &top})
	// Along the front 3 m less 0.6 m of corner, and the end of the long run; then
	// the front of the short run and its inner side up to the corner.
	edges := 2.4 + 0.6 + 0.6 + 1.4
	if !near(float64(taken.Area), 1.8+1.2-0.36+edges*0.04, 1e-9) || !near(float64(taken.Exposed), edges, 1e-9) {
		t.Errorf("%v m², %v m: %+v", taken.Area, taken.Exposed, taken.Pieces)
	}
	// Picked on both, the end that they share counts once: 1.4 m are added.
	top.Pieces[1].Edges = append(top.Pieces[1].Edges, TopEdge{Side: 2, Kind: Exposed})
	if both := take(t, Shape{Top: &top}); !near(float64(both.Exposed), edges+1.4, 1e-9) {
		t.Errorf("%v m exposed", both.Exposed)
	}
	if taken.Pieces[1].Name != "Long run, side 1, edge" {
		t.Errorf("%+v", taken.Pieces)
	}
	// The same cut on the skew: overlapping parallelograms and a triangle.
	skew := Top{Pieces: []TopPiece{
		{ID: "a", Outline: geometry.Ring{{X: 0, Y: 0}, {X: 4, Y: 0}, {X: 4, Y: 2}, {X: 0, Y: 2}}},
		{ID: "b", Outline: geometry.Ring{{X: 3, Y: 1}, {X: 6, Y: 1}, {X: 3, Y: 4}}},
	}}
	if taken := take(t, Shape{Top: &skew}); !near(float64(taken.Area), 8+4.5-1, 1e-9) {
		t.Errorf("%v m²", taken.Area)
	}
}

func TestEdgesByTheirProfile(t *testing.T) {
	// Of an edge 30 mm thick: the developed face less what it takes from the top
	// face, worked by hand from arcs and diagonals.
	cases := []struct {
		profile EdgeProfile
		arris   measure.Length
		face    float64
	}{
		{Square, 0, 30},
		{"", 0, 30},
		{Chamfer, 0.005, 25 + 5*math.Sqrt2 - 5},
		{Rounded, 0.010, 20 + 5*math.Pi - 10},
		{Bullnose, 0, 15*math.Pi - 15},
	}
	for _, c := range cases {
		top := Top{Thickness: 0.03, Profile: c.profile, Arris: c.arris,
			Pieces: []TopPiece{{ID: "a", Outline: box(0, 0, 2, 1), Edges: []TopEdge{{Side: 3, Kind: Exposed}}}}}
		if taken := take(t, Shape{Top: &top}); !near(float64(taken.Area)-2, 2*c.face/1000, 1e-9) {
			t.Errorf("%s: %v m² of edge", c.profile, taken.Area-2)
		}
	}
}

func TestSplashbacksAndWaterfallEnds(t *testing.T) {
	top := Top{Thickness: 0.05, Pieces: []TopPiece{{ID: "a", Name: "Island", Outline: box(0, 0, 2, 0.9), Edges: []TopEdge{
		{Side: 3, Kind: Splashback, Height: 0.1}, {Side: 2, Kind: Waterfall, Height: 0.88, Inside: true},
		{Side: 4, Kind: Waterfall, Height: 0.88}}}}}
	taken := take(t, Shape{Top: &top})
	want := 1.8 + 0.2 + (0.9*0.88*2 + 2*0.88*0.05) + (0.9*0.88 + 2*0.88*0.05)
	if !near(float64(taken.Area), want, 1e-9) || !near(float64(taken.Exposed), 1.8, 1e-9) {
		t.Errorf("%v m², want %v; %v m exposed", taken.Area, want, taken.Exposed)
	}
}

func TestStripsBetweenCutouts(t *testing.T) {
	top := Top{Pieces: []TopPiece{{ID: "a", Name: "Run", Outline: box(0, 0, 3, 0.8), Cutouts: []Hole{
		{ID: "s", Name: "Sink", Outline: box(0.5, 0.2, 1.1, 0.6)},
		{ID: "h", Name: "Hob", Outline: box(1.18, 0.15, 1.8, 0.65)}}}}}
	taken := take(t, Shape{Top: &top})
	if len(taken.Strips) != 1 || taken.Strips[0].Name != "between Sink and Hob" ||
		!near(float64(taken.Strips[0].Width), 0.08, 1e-9) || !near(float64(taken.Strips[0].Length), 0.4, 1e-9) {
		t.Errorf("%+v", taken.Strips)
	}
}

func TestTopsThatCannotBe(t *testing.T) {
	cases := []struct {
		name   string
		change func(*Top)
		path   string
		says   string
	}{
		{"a cut-out larger than its top", func(p *Top) { p.Pieces[0].Cutouts[0].Outline = box(-1, -1, 3, 2) },
			"/top/pieces/0/cutouts/0", "larger than the piece"},
		{"a cut-out over the edge", func(p *Top) { p.Pieces[0].Cutouts[0].Outline = box(0.9, -0.1, 1.6, 0.4) },
			"/top/pieces/0/cutouts/0", "Sink: "},
		{"a side that is not there", func(p *Top) { p.Pieces[0].Edges[0].Side = 5 }, "/top/pieces/0/edges/0/side",
			"no side 5"},
		{"a side twice", func(p *Top) { p.Pieces[0].Edges[1].Side = 1 }, "/top/pieces/0/edges/1/side", "named twice"},
		{"a splashback of no height", func(p *Top) { p.Pieces[0].Edges[0].Kind = Splashback }, "/top/pieces/0/edges/0/height",
			"no height"},
		{"a chamfer deeper than the top", func(p *Top) { p.Profile = Chamfer; p.Arris = 0.05 }, "/top/arris", "cut back"},
		{"three in one corner", func(p *Top) {
			p.Pieces = append(p.Pieces, TopPiece{ID: "b", Outline: box(2, 0, 3, 1)},
				TopPiece{ID: "c", Outline: box(2.2, 0.1, 4, 0.5)})
		}, "/top/pieces/2/outline", "two other pieces"},
	}
	for _, c := range cases {
		top := sinkRun()
		c.change(&top)
		taken, _, found := Measure(Shape{Top: &top}, "", measure.Metric)
		if taken != nil || len(found) == 0 {
			t.Errorf("%s: %v", c.name, found)
			continue
		}
		if f := found[0]; f.Path != c.path || !strings.Contains(f.Text, c.says) || f.WayOut == "" {
			t.Errorf("%s: %v", c.name, f)
		}
	}
}

func TestDoorsDrainsAndZones(t *testing.T) {
	floor := Floor{
		Outline: box(0, 0, 8, 5),
		Holes:   []Hole{{ID: "h", Outline: box(1, 1, 2, 2)}},
		Parts:   []Part{{ID: "c", Kind: Cove, Height: 0.1}},
		Fittings: []Fitting{{ID: "d", Kind: "door", At: geometry.Point{X: 3, Y: 0}, Width: 1.2},
			{ID: "g", Kind: "drain", At: geometry.Point{X: 5, Y: 2}, Width: 0.2}},
		Zones: []Hole{{ID: "z", Name: "Wash-down", Outline: box(0, 0, 3, 5)}, {ID: "y", Outline: box(6, 0, 10, 5)}},
		Lines: []Line{{ID: "l", Kind: "saw-joint", Width: 0.006, Depth: 0.03,
			Path: geometry.Ring{{X: 0, Y: 3}, {X: 4, Y: 3}, {X: 7, Y: 7}}}},
	}
	taken, _, found := Measure(Shape{Floor: floor}, "", measure.Metric)
	if want := 39 - math.Pi*0.01 + (26-1.2+4)*0.1; !near(float64(taken.Area), want, 1e-9) {
		t.Errorf("%v m², want %v", taken.Area, want)
	}
	if !near(float64(taken.Zones[0].Area), 14, 1e-9) || !near(float64(taken.Zones[1].Area), 10, 1e-9) ||
		!near(float64(taken.Filler), 9*0.006*0.03, 1e-9) {
		t.Errorf("%+v, %v m³", taken.Zones, taken.Filler)
	}
	if len(found) != 1 || !strings.Contains(found[0].Text, "Zone 2 reaches outside the floor; only 50 %") {
		t.Errorf("%v", found)
	}
}
