package geometry

import (
	"math"
	"slices"
	"testing"
)

// Every corner of an arc lies on the circle through both ends and the crown, and the sides enclose
// the circular segment, r²/2·(θ − sin θ), to within 0.05 % of its sector.
func TestArcLiesOnItsCircle(t *testing.T) {
	for _, c := range []struct{ chord, rise float64 }{{4, 2}, {4, 0.3}, {10, -1}, {3, 2.4}} {
		a, b := Point{1, 1}, Point{1 + c.chord, 1}
		corners, err := Arc(a, b, c.rise)
		if err != nil {
			t.Fatal(err)
		}
		s := math.Abs(c.rise)
		radius := c.chord*c.chord/(8*s) + s/2
		// To the right of the way along x lies the side of smaller y.
		centre := Point{1 + c.chord/2, 1 + math.Copysign(1, c.rise)*(radius-s)}
		for _, p := range corners {
			if !near(p.Distance(centre), radius, 2e-5) {
				t.Errorf("%v: %v lies %v m from the centre, want %v", c, p, p.Distance(centre), radius)
			}
		}
		angle := 2 * math.Acos((radius-s)/radius)
		want := radius * radius / 2 * (angle - math.Sin(angle))
		ring := slices.Concat(Ring{a}, corners, Ring{b})
		if got := math.Abs(ring.SignedArea()); !near(got, want, 5e-4*radius*radius*angle/2) {
			t.Errorf("%v: %v m², want %v", c, got, want)
		}
	}
	for _, c := range []struct{ b, rise float64 }{{0, 1}, {4, 0}, {4, 1e-4}} {
		if _, err := Arc(Point{}, Point{c.b, 0}, c.rise); err == nil || err.Error() != string(noArc) {
			t.Errorf("an arc over %v m with a rise of %v m: %v", c.b, c.rise, err)
		}
	}
}

// On gives points of the curve; Ring encloses what Segment computes.
func TestEllipsePointsAndRing(t *testing.T) {
	e := Ellipse{Long: 4, Wide: 2.5}
	for _, at := range []float64{0, 0.7, 4, 7.9} {
		for _, left := range []bool{true, false} {
			p := e.On(at, left)
			x, y := (p.X-e.Long)/e.Long, (p.Y-e.Wide)/e.Wide
			if !near(x*x+y*y, 1, 1e-12) || left != (p.Y >= e.Wide) && at > 0 && at < 8 {
				t.Errorf("at %v, left %v: %v", at, left, p)
			}
		}
	}
	for _, c := range [][2]float64{{0, 8}, {1, 3}, {0, 4}} {
		area, _ := e.Segment(c[0], c[1])
		if got := e.Ring(c[0], c[1]).SignedArea(); !near(math.Abs(got), area, 3e-3*area) {
			t.Errorf("from %v to %v: %v m² drawn, %v computed", c[0], c[1], got, area)
		}
	}
}

func TestPushedWall(t *testing.T) {
	floor := box(0, 0, 8, 5)
	longer, err := floor.Pushed(0, 10)
	if err != nil || longer.SignedArea() != 50 {
		t.Errorf("%v, %v", longer, err)
	}
	// Of a triangle the third corner stays.
	if turned, err := (Ring{{0, 0}, {4, 0}, {0, 3}}).Pushed(0, 8); err != nil || turned[2] != (Point{0, 3}) ||
		turned[1] != (Point{8, 0}) {
		t.Errorf("%v, %v", turned, err)
	}
	for name, try := range map[string]func() error{
		"There is no wall 9.": func() error { _, err := floor.Pushed(8, 1); return err },
		"A wall must be longer than 0. Enter its length from corner to corner.": func() error {
			_, err := floor.Pushed(0, math.NaN())
			return err
		},
		"Wall 1 has no length.": func() error { _, err := (Ring{{0, 0}, {0, 0}, {1, 1}}).Pushed(0, 2); return err },
		"The rise of a rounded wall": func() error {
			_, err := floor.Bayed(0, 0, false)
			return err
		},
	} {
		if err := try(); err == nil || len(err.Error()) < len(name) || err.Error()[:len(name)] != name {
			t.Errorf("%v, want %q", err, name)
		}
	}
}

// A bay of half a circle outward adds π·r²/2, inward it takes it away, whichever way round the
// ring runs.
func TestBayedWall(t *testing.T) {
	for name, floor := range map[string]Ring{"counter-clockwise": box(0, 0, 8, 5),
		"clockwise": {{0, 0}, {0, 5}, {8, 5}, {8, 0}}} {
		side := slices.IndexFunc(floor, func(p Point) bool { return p == (Point{8, 5}) })
		whole := math.Abs(floor.SignedArea())
		length := floor[side].Distance(floor[(side+1)%4])
		half := math.Pi * length * length / 8
		for inward, want := range map[bool]float64{false: whole + half, true: whole - half} {
			bayed, err := floor.Bayed(side, length/2, inward)
			if got := math.Abs(bayed.SignedArea()); err != nil || !near(got, want, 1e-3*want) {
				t.Errorf("%s, inward %v: %v m², want %v; %v", name, inward, got, want, err)
			}
		}
	}
}

func TestMirroredAndTurned(t *testing.T) {
	p := Point{3, -2}
	if p.Mirrored() != (Point{-3, -2}) || p.Turned() != (Point{2, 3}) || p.Turned().Turned().Turned().Turned() != p {
		t.Errorf("%v, %v", p.Mirrored(), p.Turned())
	}
	if q := (Point{0, 0}).Mirrored(); math.Signbit(q.X) {
		t.Error("zero has a sign")
	}
}

// A line 2 m from a wall divides the floor into what its width says; where it would fall apart
// or leave nothing, that is said.
func TestPartedAlongAWall(t *testing.T) {
	floor := Polygon{Outline: box(0, 0, 10, 6)}
	parts, line, err := floor.Parted(0, 2)
	if err != nil || !near(Ring.SignedArea(parts[0][0]), 20, 1e-9) || !near(Ring.SignedArea(parts[1][0]), 40, 1e-9) ||
		line[0].Y != 2 || line[1].Y != 2 || line[0].Distance(line[1]) != 10 {
		t.Errorf("%v, %v, %v", parts, line, err)
	}
	clockwise := Polygon{Outline: Ring{{0, 0}, {0, 6}, {10, 6}, {10, 0}}}
	if parts, _, err := clockwise.Parted(3, 2); err != nil ||
		!near(math.Abs(parts[0][0].SignedArea()), 20, 1e-9) {
		t.Errorf("clockwise: %v, %v", parts, err)
	}
	u := Polygon{Outline: Ring{{0, 0}, {10, 0}, {10, 6}, {7, 6}, {7, 2}, {3, 2}, {3, 6}, {0, 6}}}
	for name, try := range map[string]struct {
		of    Polygon
		side  int
		width float64
	}{
		"There is no wall 7.":                       {floor, 6, 1},
		"No part of the floor is that far":          {floor, 0, 7},
		"A line along that wall is interrupted on ": {u, 0, 4},
	} {
		if _, _, err := try.of.Parted(try.side, try.width); err == nil || err.Error()[:len(name)] != name {
			t.Errorf("%v, want %q", err, name)
		}
	}
}

// Strips between levels add up to the floor, and each begins where the one before ended.
func TestStripsAtLevels(t *testing.T) {
	floor := Polygon{Outline: Ring{{0, 0}, {10, 0}, {10, 4}, {6, 8}, {0, 8}}, Holes: []Ring{box(2, 2, 1, 1)}}
	travel := Heading(0)
	low, high := reach(floor.Rings(), travel)
	levels := []float64{low + (high-low)*0.3, low + (high-low)*0.75}
	strips := StripsAt(floor, travel, levels)
	total := 0.0
	for i, s := range strips {
		total += s.Area
		if i > 0 && s.From != strips[i-1].To {
			t.Errorf("strip %d begins at %v, and the one before ended at %v", i, s.From, strips[i-1].To)
		}
		if inside := s.Inside(travel); !(Polygon{Outline: s.Rings[0], Holes: s.Rings[1:]}).Outline.contains(inside) {
			t.Errorf("strip %d: %v does not lie inside", i, inside)
		}
	}
	if len(strips) != 3 || !near(total, floor.Area(), 1e-9) {
		t.Errorf("%d strips of %v m², want 3 of %v", len(strips), total, floor.Area())
	}
	if got := Below(floor.Rings(), travel, levels[0]); !near(got, strips[0].Area, 1e-9) {
		t.Errorf("%v m² lie below, want %v", got, strips[0].Area)
	}
}

// A line across a floor with a column meets four walls; the part in the column does not count.
func TestChordPastAColumn(t *testing.T) {
	floor := Polygon{Outline: box(0, 0, 10, 6), Holes: []Ring{box(4, 2, 2, 2)}}
	met, width := Chord(floor, Travel{X: 0, Y: 1}, 3)
	if len(met) != 4 || !near(width, 8, 1e-9) || met[1].Hole != 0 || met[0].Hole != -1 {
		t.Errorf("%+v, %v m", met, width)
	}
	for i := 1; i < len(met); i++ {
		if met[i].At.X <= met[i-1].At.X {
			t.Errorf("not from left to right: %+v", met)
		}
	}
}

func TestOpenAhead(t *testing.T) {
	along := Travel{X: 1, Y: 0}
	for name, c := range map[string]struct {
		floor Polygon
		width float64
		want  bool
	}{
		"a hall":            {Polygon{Outline: box(0, 0, 10, 4)}, 0.8, true},
		"narrower than way": {Polygon{Outline: box(0, 0, 10, 0.9)}, 0.8, false},
		"a column":          {Polygon{Outline: box(0, 0, 10, 4), Holes: []Ring{box(4, 1, 1, 1)}}, 0.8, false},
		"a slanting wall":   {Polygon{Outline: Ring{{0, 0}, {10, 0}, {9, 4}, {0, 4}}}, 0.8, false},
	} {
		if got := OpenAhead(c.floor, along, c.width); got != c.want {
			t.Errorf("%s: %v", name, got)
		}
	}
}

// A seam carries a join that covers four fifths of it within a centimetre, and no other.
func TestSeamCarriesAJoin(t *testing.T) {
	seam := Seam{Point{0, 3}, Point{8, 3}, "saw joint"}
	for _, c := range []struct {
		join [2]Point
		want bool
	}{
		{[2]Point{{0, 3}, {8, 3}}, true}, {[2]Point{{8, 3.005}, {0, 3.005}}, true}, {[2]Point{{1, 3}, {10, 3}}, false},
		{[2]Point{{0, 3.02}, {8, 3.02}}, false}, {[2]Point{{0, 2}, {8, 4}}, false}, {[2]Point{{1, 3}, {1, 3}}, false},
		{[2]Point{{1, 3}, {9.7, 3}}, true},
	} {
		if got := seam.Carries(c.join); got != c.want {
			t.Errorf("%v: %v", c.join, got)
		}
	}
	if level, square := seam.Level(Travel{X: 0, Y: 1}); level != 3 || !square {
		t.Errorf("%v, %v", level, square)
	}
	if _, square := seam.Level(Travel{X: 1, Y: 0}); square {
		t.Error("a seam along the travel runs square to it")
	}
}

// Two rooms joined by an opening of 1.2 m have one doorway; an opening wider than asked for is
// none, and neither is a niche seen across a wall.
func TestDoorways(t *testing.T) {
	rooms := Polygon{Outline: Ring{{0, 0}, {5, 0}, {5, 2}, {5.2, 2}, {5.2, 0}, {10, 0}, {10, 6}, {5.2, 6},
		{5.2, 3.2}, {5, 3.2}, {5, 6}, {0, 6}}}
	found := Doorways(rooms, 1.3)
	if len(found) == 0 || len(found) > 4 {
		t.Fatalf("%+v", found)
	}
	for _, d := range found {
		if d.Name != "doorway" || d.A.Distance(d.B) > 1.3 || !rooms.Outline.Holds(d.A.Toward(d.B, 0.5)) {
			t.Errorf("%+v", d)
		}
	}
	if found := Doorways(rooms, 1.1); len(found) != 0 {
		t.Errorf("narrower: %+v", found)
	}
	if found := Doorways(Polygon{Outline: box(0, 0, 5, 1)}, 2); len(found) != 0 {
		t.Errorf("a room with no inner corner: %+v", found)
	}
}

// A floor with a joint square to its length is cut along the joint where that is near enough to
// the shares.
func TestPiecesFollowSeams(t *testing.T) {
	floor := Polygon{Outline: box(0, 0, 12, 4)}
	joint := Seam{Point{6.1, 0}, Point{6.1, 4}, "saw joint"}
	for _, seams := range [][]Seam{nil, {joint}, {joint, {Point{6.1, 0}, Point{6.1, 4}, "zone"}}} {
		pieces, complete, err := Peel(floor, Point{12, 2}, []float64{24, 24}, seams)
		if err != nil || !complete || len(pieces) != 2 {
			t.Fatalf("%+v, %v, %v", pieces, complete, err)
		}
		want := 24.0
		if len(seams) > 0 {
			want = 24.4
		}
		if !near(pieces[0].Area, want, 1e-6) {
			t.Errorf("with %d seams the first piece has %v m², want %v", len(seams), pieces[0].Area, want)
		}
	}
	// A joint far from the shares is not followed.
	pieces, _, err := Peel(floor, Point{12, 2}, []float64{24, 24}, []Seam{{Point{9, 0}, Point{9, 4}, "saw joint"}})
	if err != nil || !near(pieces[0].Area, 24, 1e-6) {
		t.Errorf("%+v, %v", pieces, err)
	}
}

func TestMeasuresOfRingsAndLines(t *testing.T) {
	room := box(1, 2, 6, 4)
	if room.Perimeter() != 20 || room.Middle() != (Point{4, 4}) || (Ring{{1, 1}, {1, 1}}).Middle() != (Point{1, 1}) {
		t.Errorf("%v, %v", room.Perimeter(), room.Middle())
	}
	if !room.Holds(Point{1, 3}) || !room.Holds(Point{3, 3}) || room.Holds(Point{0.9, 3}) {
		t.Error("what it holds")
	}
	// 4 m of the line run along the bottom wall.
	if got := Shared([2]Point{{3, 2}, {9, 2}}, []Ring{room}); !near(got, 4, 1e-9) {
		t.Errorf("%v m shared", got)
	}
	if got := Shared([2]Point{{3, 2}, {3, 2}}, []Ring{room}); got != 0 {
		t.Errorf("%v m shared by a point", got)
	}
	if stretch, found := Along(Point{0, 0}, Point{10, 0}, Point{4, 0}, Point{12, 0}); !found ||
		stretch != [2]float64{0.4, 1} {
		t.Errorf("%v, %v", stretch, found)
	}
	if _, found := Along(Point{0, 0}, Point{10, 0}, Point{4, 1}, Point{12, 1}); found {
		t.Error("a line aside lies along")
	}
	length, gap, at := box(2, 1, 3, 2).Beside(Point{0, 0}, Point{10, 0})
	if !near(length, 3, 1e-9) || !near(gap, 1, 1e-9) || !near(at.Y, 0.5, 1e-9) {
		t.Errorf("%v m, %v m away, %v", length, gap, at)
	}
	if length, _, _ := box(12, 1, 3, 2).Beside(Point{0, 0}, Point{10, 0}); length != 0 {
		t.Errorf("beyond its end: %v m", length)
	}
}
