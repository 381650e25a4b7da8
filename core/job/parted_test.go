package job

import (
	"math"
	"testing"

	"nephelon/core/buildup"
	"nephelon/core/geometry"
	"nephelon/core/measure"
	"nephelon/core/pour"
	"nephelon/core/takeoff"
)

// By hand: of a hall of 12 m × 6 m, 1.5 m along its long wall are 18 m², and 54 m² the
// rest. What lies on a part goes with it; a cove follows the walls alone.
func TestAFloorThatStaysPassableOnOneSide(t *testing.T) {
	at := func(x, y float64) geometry.Point { return geometry.Point{X: x, Y: y} }
	square := func(x, y, s float64) geometry.Ring {
		return geometry.Ring{at(x, y), at(x+s, y), at(x+s, y+s), at(x, y+s)}
	}
	exit := at(12, 0.75)
	hall := Surface{
		ID: "hall", Name: "Hall", Shape: takeoff.Shape{Floor: takeoff.Floor{
			Outline: geometry.Ring{at(0, 0), at(12, 0), at(12, 6), at(0, 6)},
			Holes:   []takeoff.Hole{{ID: "low", Outline: square(2, 0.5, 0.5)}, {ID: "high", Outline: square(6, 3, 0.5)}},
			Parts: []takeoff.Part{{ID: "cove", Kind: takeoff.Cove, Height: 0.1},
				{ID: "steps", Kind: takeoff.Stairs, Count: 3, Width: 1, Tread: 0.3, Riser: 0.2}},
			Lines:    []takeoff.Line{{ID: "l", Path: geometry.Ring{at(0, 1), at(12, 1)}}, {ID: "m", Length: 2}},
			Fittings: []takeoff.Fitting{{ID: "d", Kind: "door", At: exit, Width: 1}, {ID: "g", Kind: "drain", At: at(9, 5)}},
			Zones:    []takeoff.Hole{{ID: "z", Outline: square(8, 3, 2)}},
			Hollows:  []takeoff.Hollow{{ID: "n"}, {ID: "w", Zone: "z"}},
		}},
		Layout: pour.Layout{Exit: &exit, Others: []pour.Exit{{At: at(0, 5)}}},
		Coats:  []buildup.Coat{{ID: "c1", Own: &buildup.OwnWay{Spreaders: 2, Shares: []float64{1, 2}}}, {ID: "c2"}},
	}
	p, err := hall.Parted(1, 1.5)
	if err != nil {
		t.Fatal(err)
	}
	area := func(s Surface) float64 { return math.Abs(s.Floor.Outline.SignedArea()) }
	if math.Abs(area(p.Strip)-18) > 1e-9 || math.Abs(area(p.Open)-54) > 1e-9 {
		t.Errorf("%v and %v m²", area(p.Strip), area(p.Open))
	}
	if p.Open.ID != "hall" || p.Strip.ID != "hall-wall-1" || p.Strip.After != "hall" || p.Open.After != "" ||
		p.Strip.Name != "Hall, along wall 1" {
		t.Errorf("%s, %s after %q", p.Open.ID, p.Strip.ID, p.Strip.After)
	}
	// The crew leaves the rest over the strip, and the strip by the door.
	if e := p.Open.Layout.Exit; e.Distance(at(6, 1.5)) > 1e-9 || p.Strip.Layout.Exit.Distance(exit) > 1e-9 {
		t.Errorf("exits at %v and %v", e, p.Strip.Layout.Exit)
	}
	if len(p.Open.Layout.Others) != 1 || len(p.Strip.Layout.Others) != 0 || len(hall.Layout.Others) != 1 {
		t.Errorf("other doors %v and %v", p.Open.Layout.Others, p.Strip.Layout.Others)
	}
	o, s := p.Open.Floor, p.Strip.Floor
	if len(o.Holes) != 1 || o.Holes[0].ID != "high" || len(s.Holes) != 1 || s.Holes[0].ID != "low" || len(o.Zones) != 1 ||
		len(s.Zones) != 0 {
		t.Errorf("%+v and %+v", o, s)
	}
	if len(o.Lines) != 1 || o.Lines[0].ID != "m" || len(s.Lines) != 1 || len(o.Hollows) != 2 ||
		len(s.Hollows) != 0 || len(o.Fittings) != 1 || o.Fittings[0].ID != "g" ||
		len(s.Fittings) != 1 {
		t.Errorf("%+v and %+v", o, s)
	}
	// Around the rest 12 + 2 × 4.5 m of wall and 2 m of column; along the strip 12 + 2 × 1.5
	// less the door, and 2 m of column.
	if len(o.Parts) != 2 || len(s.Parts) != 1 || math.Abs(float64(o.Parts[0].Run)-23) > 1e-9 ||
		math.Abs(float64(s.Parts[0].Run)-16) > 1e-9 || s.Parts[0].ID != "cove-wall-1" {
		t.Errorf("%+v and %+v", o.Parts, s.Parts)
	}
	if c := p.Strip.Coats; c[0].ID != "c1-wall-1" || c[1].ID != "c2-wall-1" || c[0].Own.Shares != nil ||
		c[0].Own.Spreaders != 2 || p.Open.Coats[0].Own.Shares != nil {
		t.Errorf("%+v", c)
	}
	if hall.Coats[0].Own.Shares == nil || hall.Floor.Parts[0].Run != 0 || hall.Coats[0].ID != "c1" {
		t.Errorf("the floor itself was changed: %+v", hall)
	}
	// The other way round the same.
	turned := hall
	turned.Floor.Outline = geometry.Ring{at(0, 6), at(12, 6), at(12, 0), at(0, 0)}
	if p, err := turned.Parted(3, 1.5); err != nil || math.Abs(area(p.Strip)-18) > 1e-9 {
		t.Errorf("clockwise %v m² (%v)", area(p.Strip), err)
	}
	for name, c := range map[string]struct {
		wall  int
		width float64
	}{"no such wall": {5, 1}, "nothing": {1, 0}, "all of it": {1, 6}, "through a column": {1, 0.7}} {
		if _, err := hall.Parted(c.wall, measure.Length(c.width)); err == nil {
			t.Errorf("%s is divided off", name)
		}
	}
}
