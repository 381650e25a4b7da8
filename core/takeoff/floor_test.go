package takeoff

import (
	"math"
	"strings"
	"testing"

	"nephelon/core/geometry"
	"nephelon/core/measure"
)

func TestFloorWorking(t *testing.T) {
	floor := Floor{
		Outline: geometry.Ring{{X: 0, Y: 0}, {X: 7, Y: 0}, {X: 7, Y: 3}, {X: 0, Y: 3}},
		Holes:   []Hole{{ID: "h", Outline: geometry.Ring{{X: 1, Y: 1}, {X: 1.5, Y: 1}, {X: 1.5, Y: 2}, {X: 1, Y: 2}}}},
	}
	taken, _, found := Measure(Shape{Floor: floor}, "", measure.Metric)
	if len(found) > 0 {
		t.Fatal(found)
	}
	if math.Abs(float64(taken.Area)-20.5) > 1e-12 || math.Abs(float64(taken.Perimeter)-20) > 1e-12 ||
		math.Abs(float64(taken.HoleEdge)-3) > 1e-12 {
		t.Errorf("%+v", taken)
	}
	sum := 0.0
	for _, v := range taken.Working.Inputs {
		sum += v.SI
	}
	if math.Abs(sum-taken.Working.Result.SI) > 1e-12 || taken.Pieces[1].Name != "Hole 1" {
		t.Errorf("the working adds up to %v of %v: %+v", sum, taken.Working.Result.SI, taken.Pieces)
	}
}

// Parts worked by hand from their formulas.
func TestPartsByHand(t *testing.T) {
	around := measure.Length(24)
	cases := []struct {
		name string
		part Part
		area float64
	}{
		{"cove around everything", Part{Kind: Cove, Height: 0.15}, 3.6},
		{"cove on one wall with returns", Part{Kind: Cove, Run: 6, Height: 0.2, Count: 2, Return: 0.25}, 1.3},
		{"five steps", Part{Kind: Stairs, Count: 5, Width: 1.2, Tread: 0.28, Riser: 0.18, Nosing: 0.04}, 3},
		{"their two sides", Part{Kind: Stairs, Count: 5, Width: 1.2, Tread: 0.28, Riser: 0.18, Nosing: 0.04, Sides: 2},
			3 + 2*15*0.28*0.18},
		{"a ramp of 3, 4, 5", Part{Kind: Ramp, Run: 4, Height: 3, Width: 2}, 10},
		{"the same inside the outline", Part{Kind: Ramp, Run: 4, Height: 3, Width: 2, OnFloor: true}, 2},
		{"a threshold", Part{Kind: Threshold, Run: 1.1, Width: 0.3}, 0.33},
		{"an upstand", Part{Kind: Upstand, Run: 8, Height: 0.45}, 3.6},
	}
	for _, c := range cases {
		w, missing := c.part.working(around)
		if missing != "" || math.Abs(w.Result.SI-c.area) > 1e-12 || w.Formula == "" {
			t.Errorf("%s: %v m² by %q, want %v (%s)", c.name, w.Result.SI, w.Formula, c.area, missing)
		}
	}
	for _, kind := range []PartKind{Cove, Stairs, Ramp, Threshold, Upstand} {
		if _, missing := (Part{Kind: kind}).working(around); missing == "" {
			t.Errorf("a %s without measures asks for nothing", kind)
		}
	}
}

// A crack of 3 m × 8 mm × 20 mm takes 0.48 L; a joint that moves takes none.
func TestFillerByHand(t *testing.T) {
	square := geometry.Ring{{X: 0, Y: 0}, {X: 3, Y: 0}, {X: 3, Y: 3}, {X: 0, Y: 3}}
	taken, _, found := Measure(Shape{Floor: Floor{Outline: square, Lines: []Line{
		{ID: "a", Kind: "crack", Length: 3, Width: 0.008, Depth: 0.02},
		{ID: "b", Kind: "moving-joint", Length: 9, Width: 0.01, Depth: 0.05},
	}}}, "", measure.Metric)
	if len(found) > 0 || math.Abs(float64(taken.Filler)-0.00048) > 1e-12 {
		t.Errorf("%v m³, %v", taken.Filler, found)
	}
}

// Hollows by hand on a square of 4 m with a door of 1 m and a zone of 2 m × 1 m: three holes of 20 × 15 × 4 cm
// are 3.6 L; a zone 9 mm deep half of 18 L; a dish of 1 m × 60 cm × 1 cm π/8 of 6 L, 2.356 L; a step of 3 m × 40
// cm × 12 mm half of 14.4 L; a fillet of 3 cm round 15 m 0.2146 × 13.5 L, 2.897 L.
func TestHollowsByHand(t *testing.T) {
	rect := func(x, y, w, h float64) geometry.Ring {
		return geometry.Ring{{X: x, Y: y}, {X: x + w, Y: y}, {X: x + w, Y: y + h}, {X: x, Y: y + h}}
	}
	floor := Floor{
		Outline: rect(0, 0, 4, 4), Zones: []Hole{{ID: "z", Outline: rect(1, 1, 2, 1)}},
		Fittings: []Fitting{{ID: "d", Kind: "door", Width: 1}},
		Lines:    []Line{{ID: "a", Kind: "crack", Length: 3, Width: 0.008, Depth: 0.02}},
	}
	liters := map[string]float64{"pits": 3.6, "zone": 9, "dish": 2.3562, "step": 7.2, "cove": 2.8971}
	for _, h := range []Hollow{
		{ID: "pits", Kind: Pit, Count: 3, Length: 0.2, Width: 0.15, Depth: 0.04},
		{ID: "zone", Kind: Low, Zone: "z", Depth: 0.009},
		{ID: "dish", Kind: Low, Length: 1, Width: 0.6, Depth: 0.01},
		{ID: "step", Kind: Fall, Length: 3, Width: 0.4, Depth: 0.012},
		{ID: "cove", Kind: Fillet, Depth: 0.03},
	} {
		f := floor
		f.Hollows = []Hollow{h}
		taken, _, found := Measure(Shape{Floor: f}, "", measure.Metric)
		if want := liters[h.ID] / 1000; len(found) > 0 || math.Abs(float64(taken.Hollows)-want) > 1e-6 ||
			math.Abs(float64(taken.Filler)-want-0.00048) > 1e-6 || len(taken.FillWorkings) != 1 ||
			(taken.Deepest == h.Depth) == (h.Kind == Fillet) {
			t.Errorf("%s: %v m³ of %v, by hand %v L; %v", h.ID, taken.Hollows, taken.Filler, liters[h.ID], found)
		}
	}
	for _, h := range []Hollow{{ID: "a", Kind: Low, Zone: "gone", Depth: 0.01},
		{ID: "b", Kind: Pit, Length: 1, Depth: 1}} {
		f := floor
		f.Hollows = []Hollow{h}
		taken, _, found := Measure(Shape{Floor: f}, "", measure.Metric)
		if len(found) != 1 || found[0].WayOut == "" || taken.Hollows != 0 {
			t.Errorf("%s: %v m³, %v", h.ID, taken.Hollows, found)
		}
	}
}

func TestAGivenAreaIsCalledOne(t *testing.T) {
	taken, _, found := Measure(Shape{Given: &Given{Area: 31, Note: "by telephone"}}, "", measure.Metric)
	if taken == nil || taken.Area != 31 || len(found) != 1 || !strings.Contains(found[0].Text, "by telephone") {
		t.Errorf("%+v, %v", taken, found)
	}
}
