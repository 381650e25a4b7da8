package takeoff

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// corners runs legs from the origin.
func corners(legs []Leg) geometry.Ring {
	at := geometry.Point{}
	ring := geometry.Ring{at}
	for _, l := range legs {
		sin, cos := math.Sincos(float64(l.Heading) * math.Pi / 180)
		at = geometry.Point{X: at.X + float64(l.Length)*cos, Y: at.Y + float64(l.Length)*sin}
		ring = append(ring, at)
	}
	return ring
}

func walk(t *testing.T, text string, units measure.System) geometry.Ring {
	t.Helper()
	legs, _, err := ReadWalk(text, 0, nil, units)
	if err != nil {
		t.Fatalf("%s: %v", text, err)
	}
	return corners(legs)
}

func TestReadWalk(t *testing.T) {
	cases := []struct {
		text    string
		units   measure.System
		walls   int
		heading measure.Angle // of the next wall
		end     geometry.Point
	}{
		{"7 m, left, 4 m, left, 7 m, left, 4 m", measure.Metric, 4, 270, geometry.Point{}},
		{"12'6, left, 8'2, right, 3'", measure.US, 3, 0, geometry.Point{X: 15.5 * 0.3048, Y: 98 * 0.0254}},
		{"3000; L; 4000", measure.Metric, 2, 90, geometry.Point{X: 3, Y: 4}},
		{"2 m, left 45, 2 m", measure.Metric, 2, 45, geometry.Point{X: 2 + math.Sqrt2, Y: math.Sqrt2}},
		{"3,5 m,left,4,5 m", measure.Metric, 2, 90, geometry.Point{X: 3.5, Y: 4.5}},
		{"2 m\nright\n1 m\n", measure.Metric, 2, 270, geometry.Point{X: 2, Y: -1}},
		{"8 × 5", measure.Metric, 3, 270, geometry.Point{Y: 5}},
		{"8.4 m x 5,2 m", measure.Metric, 3, 270, geometry.Point{Y: 5.2}},
		{"12'6 by 9'", measure.US, 3, 270, geometry.Point{Y: 9 * 0.3048}},
		// 3, 4, 5: a right angle pinned by its diagonal (Euclid I.47).
		{"3 m, 4 m diagonal 5 m left", measure.Metric, 2, 90, geometry.Point{X: 3, Y: 4}},
		{"3 m, 4 m diag 5 m right", measure.Metric, 2, 270, geometry.Point{X: 3, Y: -4}},
		// An equilateral corner: the inner angle is 60°, the turn 120°.
		{"2 m, 2 m diagonal 2 m", measure.Metric, 2, 120, geometry.Point{X: 1, Y: math.Sqrt(3)}},
	}
	for _, c := range cases {
		legs, heading, err := ReadWalk(c.text, 0, nil, c.units)
		if err != nil || len(legs) != c.walls {
			t.Errorf("%q: %v, %v", c.text, legs, err)
			continue
		}
		ring := corners(legs)
		if end := ring[len(ring)-1]; end.Distance(c.end) > 1e-9 || math.Abs(float64(heading-c.heading)) > 1e-9 {
			t.Errorf("%q ends at %v heading %v; want %v heading %v", c.text, end, heading, c.end, c.heading)
		}
	}
}

func TestReadWalkRefusesWithARemedy(t *testing.T) {
	for text, says := range map[string]string{
		"":                           "Nothing is typed",
		"7 m, sideways":              "not a number",
		"7 m, left 200, 2 m":         "between 0° and 180°",
		"1,250 m, left":              "may mean 1.250 or 1250",
		"0 m":                        "longer than 0",
		"8 m × 0":                    "longer than 0",
		"8 m × wide":                 "not a number",
		"4 m diagonal 5 m":           "there is none",
		"3 m, 4 m diagonal 9 m left": "cannot have a diagonal of 9 m. It must be between 1 m and 7 m",
		strings.Repeat("1 m,", 600):  "more than 500 walls",
	} {
		_, _, err := ReadWalk(text, 0, nil, measure.Metric)
		if err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%.30q: got %v, want %q", text, err, says)
		}
	}
}

// A rectangle is a whole outline: it is refused as a part of one.
func TestARectangleBeginsAnOutline(t *testing.T) {
	if _, _, err := ReadWalk("8 × 5", 0, &Leg{Length: 3}, measure.Metric); err == nil ||
		!strings.Contains(err.Error(), "begins an outline") {
		t.Errorf("after a wall: %v", err)
	}
}

func TestOneWrongReadingIsFound(t *testing.T) {
	cases := []struct {
		name, text string
		units      measure.System
		says       string // the first mend
		area       float64
	}{
		// 8.35 m written down as 8.53 m.
		{"figures swapped", "8.35 m, left, 4.1 m, left, 8.53 m, left, 4.1 m", measure.Metric,
			"Wall 1 would be 8.53 m instead of 8.35 m: two figures changed places", 8.53 * 4.1},
		{"a metre lost", "9 m, left, 6 m, left, 5 m, left, 2 m, right, 3 m, left, 4 m", measure.Metric,
			"a metre miscounted", 0},
		{"feet and inches swapped", "10', left, 6'8, left, 10', left, 8'6", measure.US, "feet and inches changed places", 0},
		{"a turn the wrong way", "6 m, left, 3 m, right, 2 m, left, 4 m, left, 8 m, left, 7 m", measure.Metric, "", 0},
		{"left for right", "6 m, left, 3 m, left, 2 m, left, 4 m, left, 8 m, left, 7 m", measure.Metric,
			"After wall 2 the walk would turn right, not left", 0},
	}
	for _, c := range cases {
		closure := CheckWalk(walk(t, c.text, c.units), c.units)
		if c.says == "" {
			if !closure.Closes {
				t.Errorf("%s: a good walk does not close: %s", c.name, closure.Text)
			}
			continue
		}
		if closure.Closes || len(closure.Mends) == 0 {
			t.Errorf("%s: %+v", c.name, closure)
			continue
		}
		first := closure.Mends[0]
		if !first.Likely || !strings.Contains(first.Text, c.says) {
			t.Errorf("%s: first mend %q, want %q (%s)", c.name, first.Text, c.says, closure.Text)
		}
		if c.area > 0 && math.Abs(math.Abs(first.Points.SignedArea())-c.area) > 1e-9 {
			t.Errorf("%s: mended to %v m², want %v", c.name, first.Points.SignedArea(), c.area)
		}
	}
}

// Whatever single wall of a random square-cornered room is misread, its true
// length is among the mends, and that mend gives the room's true area.
func TestTheMisreadWallIsAmongTheMends(t *testing.T) {
	random := rand.New(rand.NewPCG(4, 9))
	for range 300 {
		w, h, nx, ny := 4+6*random.Float64(), 4+6*random.Float64(), 1+2*random.Float64(), 1+2*random.Float64()
		room := geometry.Ring{{X: 0, Y: 0}, {X: w, Y: 0}, {X: w, Y: h - ny}, {X: w - nx, Y: h - ny}, {X: w - nx, Y: h},
			{X: 0, Y: h}, {X: 0, Y: 0}}
		area := w*h - nx*ny
		wall, by := 1+random.IntN(6), 0.2+0.6*random.Float64()
		a, b := room[wall-1], room[wall]
		shift := geometry.Point{X: (b.X - a.X) / a.Distance(b) * by, Y: (b.Y - a.Y) / a.Distance(b) * by}
		misread := make(geometry.Ring, len(room))
		copy(misread, room)
		for k := wall; k < len(misread); k++ {
			misread[k] = geometry.Point{X: misread[k].X + shift.X, Y: misread[k].Y + shift.Y}
		}
		closure := CheckWalk(misread, measure.Metric)
		if closure.Closes || math.Abs(float64(closure.Gap)-by) > 1e-9 {
			t.Fatalf("gap %v for a wall %v too long", closure.Gap, by)
		}
		found := false
		for _, m := range closure.Mends {
			found = found || math.Abs(m.Points.SignedArea()-area) < 1e-9
		}
		if !found {
			t.Fatalf("wall %d misread by %v: no mend of %v gives %v m²", wall, by, closure.Mends, area)
		}
	}
}

// A gap of a few millimetres is spread by the compass rule: each corner moves
// by its share of the way walked.
func TestSmallGapsAreSpread(t *testing.T) {
	ring := geometry.Ring{{X: 0, Y: 0}, {X: 10, Y: 0}, {X: 10, Y: 5}, {X: 0, Y: 5}, {X: 0.006, Y: 0}}
	closure := CheckWalk(ring, measure.Metric)
	if !closure.Closes || len(closure.Mends) != 1 {
		t.Fatalf("%+v", closure)
	}
	if third := closure.Mends[0].Points[2]; math.Abs(third.X-(10-0.006*15/30)) > 1e-6 {
		t.Errorf("corner 3 moved to %v", third)
	}
}
