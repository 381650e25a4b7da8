package pour

import (
	"math"
	"slices"
	"strings"
	"testing"

	"nephelon/core/geometry"
	"nephelon/core/measure"
	"nephelon/core/takeoff"
)

func rectangle(left, bottom, right, top float64) geometry.Ring {
	return geometry.Ring{{X: left, Y: bottom}, {X: right, Y: bottom}, {X: right, Y: top}, {X: left, Y: top}}
}

// Of several doors the work ends at one that is never shut, where there is one; at which
// suits best, the first of two that suit alike.
func TestWhichDoorsAreWorthEndingAt(t *testing.T) {
	west, east, south := geometry.Point{X: 0, Y: 2}, geometry.Point{X: 12, Y: 2}, geometry.Point{X: 6, Y: 0}
	for name, c := range map[string]struct {
		layout Layout
		worth  []geometry.Point
		exit   *geometry.Point
		shuts  string
	}{
		"none":            {Layout{}, nil, nil, ""},
		"one":             {Layout{Exit: &west}, []geometry.Point{west}, &west, ""},
		"one that closes": {Layout{Exit: &west, Closes: "16:00"}, []geometry.Point{west}, &west, "16:00"},
		"one of two closes": {Layout{Exit: &west, Closes: "16:00", Others: []Exit{{At: east}}},
			[]geometry.Point{east}, &east, ""},
		"both close": {Layout{Exit: &west, Closes: "16:00", Others: []Exit{{At: east, Closes: "17:00"}}},
			[]geometry.Point{west, east}, &west, "16:00"},
		"in the long wall and in the short one": {Layout{Exit: &south, Others: []Exit{{At: east}}},
			[]geometry.Point{south, east}, &east, ""},
	} {
		if got := c.layout.worth(); len(got) != len(c.worth) {
			t.Errorf("%s: %v", name, got)
			continue
		}
		for i, e := range c.layout.worth() {
			if e.At != c.worth[i] {
				t.Errorf("%s: %v", name, e)
			}
		}
		course := Plot(hall, c.layout, nil, equal(3), nil)
		at, shuts := course.Exit()
		if (at == nil) != (c.exit == nil) || at != nil && *at != *c.exit || shuts != c.shuts {
			t.Errorf("%s: ends at %v, shut at %q", name, at, shuts)
		}
		if !slices.Equal(course.ways, c.worth) {
			t.Errorf("%s: out by %v", name, course.ways)
		}
	}
}

// Ways through a floor are kept, told apart by floor and place, and lead round a wall: by
// hand from one arm of a U of 6 × 6 m, whose arms are 2 m wide, to the other's end.
func TestWaysAreKept(t *testing.T) {
	u := geometry.Polygon{Outline: geometry.Ring{{X: 0, Y: 0}, {X: 6, Y: 0}, {X: 6, Y: 6}, {X: 4, Y: 6}, {X: 4, Y: 2},
		{X: 2, Y: 2}, {X: 2, Y: 6}, {X: 0, Y: 6}}}
	from, to := geometry.Point{X: 1.9, Y: 5.9}, geometry.Point{X: 4.1, Y: 5.9}
	byHand := 3.9 + 2 + 3.9 + 2*0.1
	m := NewMemory()
	for _, memory := range []*Memory{m, nil} {
		d, there := memory.WaysFrom(u, from).To(to)
		if !there || math.Abs(float64(d)-byHand) > 0.05*byHand {
			t.Errorf("%v m, by hand %v", d, byHand)
		}
	}
	kept := m.WaysFrom(u, from)
	if again := m.WaysFrom(u, from); again != kept {
		t.Error("worked out twice")
	}
	if kept == m.WaysFrom(u, to) || kept == m.WaysFrom(hall, from) {
		t.Error("another place, or another floor, has the same ways")
	}
	if _, there := m.WaysFrom(u, geometry.Point{X: 30, Y: 30}).To(to); there {
		t.Error("a way from outside")
	}
}

// A joint that gets another name gives it to the joins that lie on it.
func TestARenamedJointRenamesItsJoins(t *testing.T) {
	floor := geometry.Polygon{
		Outline: geometry.Ring{{X: 0, Y: 0}, {X: 16, Y: 0}, {X: 16, Y: 12}, {X: 0, Y: 12}},
		Holes:   []geometry.Ring{{{X: 5, Y: 4}, {X: 11, Y: 4}, {X: 11, Y: 8}, {X: 5, Y: 8}}},
	}
	door, memory := geometry.Point{X: 0, Y: 6}, NewMemory()
	plain := Plot(floor, Layout{Exit: &door}, nil, equal(7), memory).Lay(floor, equal(7))
	cut := plain.Cuts[0]
	if len(cut.Marks) != 2 {
		t.Fatalf("%+v", cut)
	}
	for _, name := range []string{"saw cut", "cold joint"} {
		seam := geometry.Seam{A: cut.Marks[0].At, B: cut.Marks[1].At, Name: name}
		if on := Plot(floor, Layout{Exit: &door}, []geometry.Seam{seam}, equal(7), memory).Lay(floor, equal(7)).
			Cuts[0].On; on != name {
			t.Errorf("the join lies on %q, not on %q", on, name)
		}
	}
}

// The directions that are tried are those of the walls, the longest first, a right angle apart
// counting as one; three pairs of them at most.
func TestDirectionsOfTheLongestWalls(t *testing.T) {
	turned := func(r geometry.Ring, degrees float64) geometry.Ring {
		sin, cos := math.Sincos(degrees * math.Pi / 180)
		out := make(geometry.Ring, len(r))
		for i, p := range r {
			out[i] = geometry.Point{X: p.X*cos - p.Y*sin, Y: p.X*sin + p.Y*cos}
		}
		return out
	}
	for name, c := range map[string]struct {
		outline geometry.Ring
		want    []float64
	}{
		"rectangle":      {rectangle(0, 0, 8, 5), []float64{0, 90}},
		"turned by 30°":  {turned(rectangle(0, 0, 8, 5), 30), []float64{30, 120}},
		"turned by 120°": {turned(rectangle(0, 0, 8, 5), 120), []float64{30, 120}},
		"triangle 3 4 5": {geometry.Ring{{X: 0, Y: 0}, {X: 4, Y: 0}, {X: 0, Y: 3}}, []float64{0, 90, 53.1, 143.1}},
		"two alike": {geometry.Ring{{X: 0, Y: 0}, {X: 2, Y: 0}, {X: 2 + math.Sqrt2, Y: math.Sqrt2},
			{X: math.Sqrt2, Y: math.Sqrt2}}, []float64{0, 90, 45, 135}},
	} {
		if got := candidates(c.outline); !slices.Equal(got, c.want) {
			t.Errorf("%s: %v, want %v", name, got, c.want)
		}
	}
	round := make(geometry.Ring, 36)
	for i := range round {
		sin, cos := math.Sincos(float64(i) * math.Pi / 18)
		round[i] = geometry.Point{X: 5 * cos, Y: 5 * sin}
	}
	if got := candidates(round); len(got) != maxCandidates {
		t.Errorf("%v", got)
	}
}

// The work turns round towards an exit that lies behind its middle, and stays within a turn.
func TestTheWorkTurnsToTheExit(t *testing.T) {
	for _, c := range []struct {
		exit          geometry.Point
		degrees, want float64
	}{
		{geometry.Point{X: 12, Y: 2}, 0, 0}, {geometry.Point{X: 0, Y: 2}, 0, 180}, {geometry.Point{X: 6, Y: 0}, 0, 0},
		{geometry.Point{X: 5.99, Y: 0}, 0, 180},
		{geometry.Point{X: 12, Y: 2}, 180, 0}, {geometry.Point{X: 12, Y: 2}, 200, 20}, {geometry.Point{X: 6, Y: 5}, 270, 90},
		{geometry.Point{X: 6, Y: 0}, 90, 270},
	} {
		got := newCourse(hall, Layout{Exit: &c.exit}, c.degrees)
		if !near(float64(got.Direction), c.want) || math.Abs(got.travel.X-math.Cos(c.want*math.Pi/180)) > 1e-12 ||
			math.Abs(got.travel.Y-math.Sin(c.want*math.Pi/180)) > 1e-12 {
			t.Errorf("to %v at %v°: %v°", c.exit, c.degrees, got.Direction)
		}
	}
}

// What a course costs is its wet edge, and for a piece too many, or for an exit that it does
// not end at, the way around the floor each time. By hand for 12 × 5 m: two joins of 5 m, and
// three sections that end away from the door, 34 m around.
func TestWhatACourseCosts(t *testing.T) {
	course := newCourse(hall, Layout{}, 0)
	if got := course.cost(hall, equal(3)); !near(got, 10) {
		t.Errorf("%v", got)
	}
	aside := geometry.Point{X: 5, Y: 5}
	course.exit = &aside
	if got := course.cost(hall, equal(3)); !near(got, 10+3*34) {
		t.Errorf("%v", got)
	}
	// The last of three begins at 8 m.
	at := geometry.Point{X: 8, Y: 5}
	course.exit = &at
	if got := course.cost(hall, equal(3)); !near(got, 10) {
		t.Errorf("%v", got)
	}
	// A column over the whole of the middle section's height but for two gaps leaves it in one
	// piece; one that a section ends in does not.
	column := geometry.Polygon{Outline: hall.Outline, Holes: []geometry.Ring{rectangle(5, 0.5, 7, 4.5)}}
	split := newCourse(column, Layout{}, 0)
	strips := geometry.Strips(column, split.travel, []float64{19, 14, 19})
	if got, torn := split.cost(column, []float64{19, 14, 19}), strips[1].Patches()-1; !near(got, 5+5+34*float64(torn)) {
		t.Errorf("%v, %d torn", got, torn)
	}
}

// How long an edge waits: the most sections between one and the earliest beside it.
func TestHowLongAnEdgeWaits(t *testing.T) {
	l := Laying{Sections: []Section{{Number: 1}, {Number: 2, Beside: []int{1}}, {Number: 5, Beside: []int{4, 2}},
		{Number: 6, Beside: []int{5}}}}
	if got := l.oldest(); got != 3 {
		t.Errorf("%d", got)
	}
	if got := (Laying{Sections: []Section{{Number: 1}}}).oldest(); got != 0 {
		t.Errorf("%d", got)
	}
}

// A mark lies on the wall or column that it is on, or on tape that is there; else on the wall
// that is nearest.
func TestWhereAMarkLies(t *testing.T) {
	p := geometry.Polygon{Outline: rectangle(0, 0, 10, 6),
		Holes: []geometry.Ring{{{X: 4, Y: 2}, {X: 4, Y: 4}, {X: 6, Y: 4}, {X: 6, Y: 2}}}}
	taped := []Cut{
		{After: 1, Marks: []Mark{{At: geometry.Point{X: 2, Y: 0}}, {At: geometry.Point{X: 2, Y: 6}}}},
		{After: 2, Marks: []Mark{{At: geometry.Point{X: 6, Y: 3}}, {At: geometry.Point{X: 10, Y: 3}},
			{At: geometry.Point{X: 0, Y: 5}}, {At: geometry.Point{X: 2, Y: 5}}}},
	}
	for _, c := range []struct {
		at   geometry.Point
		want Mark
	}{
		{geometry.Point{X: 3, Y: 0}, Mark{Hole: -1, Side: 1, Along: 3}},
		{geometry.Point{X: 10, Y: 1.5}, Mark{Hole: -1, Side: 2, Along: 1.5}},
		{geometry.Point{X: 4, Y: 3.5}, Mark{Hole: 0, Side: 1, Along: 1.5}},
		{geometry.Point{X: 6, Y: 3}, Mark{Hole: 0, Side: 3, Along: 1}},
		{geometry.Point{X: 2, Y: 2.5}, Mark{Hole: -1, Tape: 1, Along: 2.5}},
		{geometry.Point{X: 8, Y: 3}, Mark{Hole: -1, Tape: 2, Along: 2}},
		{geometry.Point{X: 1.5, Y: 5}, Mark{Hole: -1, Tape: 2, Along: 1.5}},
		{geometry.Point{X: 0.5, Y: 3}, Mark{Hole: -1, Side: 4, Along: 3}},
	} {
		got := mark(p, c.at, taped)
		if c.want.At = c.at; got.Hole != c.want.Hole || got.Side != c.want.Side || got.Tape != c.want.Tape ||
			!near(float64(got.Along), float64(c.want.Along)) || got.At != c.at {
			t.Errorf("%v: %+v, want %+v", c.at, got, c.want)
		}
	}
}

// Marks are put by a step of the tape towards the section before, exact ones stay, none goes
// off its wall, and one on tape is rounded alone. By hand on walls of 10 m and 6 m.
func TestMarksByTheStep(t *testing.T) {
	p := geometry.Polygon{Outline: rectangle(0, 0, 10, 6)}
	for _, c := range []struct {
		units measure.System
		from  geometry.Point // in the section before
		mark  Mark
		want  float64
	}{
		{measure.Metric, geometry.Point{X: 1, Y: 3}, Mark{Hole: -1, Side: 1, Along: 3.333}, 3.33},
		{measure.Metric, geometry.Point{X: 9, Y: 3}, Mark{Hole: -1, Side: 1, Along: 3.333}, 3.34},
		{measure.Metric, geometry.Point{X: 9, Y: 3}, Mark{Hole: -1, Side: 1, Along: 3.33}, 3.33},
		{measure.Metric, geometry.Point{X: 1, Y: 3}, Mark{Hole: -1, Side: 3, Along: 6.667}, 6.67},
		{measure.Metric, geometry.Point{X: 9, Y: 3}, Mark{Hole: -1, Side: 1, Along: 9.995}, 9.99},
		{measure.Metric, geometry.Point{X: 5, Y: 5}, Mark{Hole: -1, Side: 4, Along: 5.992}, 5.99},
		{measure.US, geometry.Point{X: 1, Y: 3}, Mark{Hole: -1, Side: 1, Along: 3.333}, 262 * 0.0127},
		{measure.US, geometry.Point{X: 9, Y: 3}, Mark{Hole: -1, Side: 1, Along: 3.333}, 263 * 0.0127},
		{measure.Metric, geometry.Point{X: 9, Y: 3}, Mark{Hole: -1, Tape: 1, Along: 3.334}, 3.33},
		{measure.Metric, geometry.Point{X: 9, Y: 3}, Mark{Hole: -1, Tape: 1, Along: 3.336}, 3.34},
	} {
		if c.mark.Tape == 0 {
			a, b := side([]geometry.Ring{p.Outline}, c.mark)
			c.mark.At = a.Toward(b, float64(c.mark.Along)/a.Distance(b))
		}
		x, y := c.mark.At.X, c.mark.At.Y
		mate, before := Mark{Tape: 1, At: geometry.Point{X: x, Y: 3}}, rectangle(0, 0, x, 6)
		switch {
		case c.mark.Side == 4:
			mate, before = Mark{Tape: 1, At: geometry.Point{X: 9, Y: y}}, rectangle(0, y, 10, 6)
		case c.from.X > x:
			before = rectangle(x, 0, 10, 6)
		}
		l := Laying{Sections: []Section{{Rings: []geometry.Ring{before}}, {}},
			Cuts: []Cut{{After: 1, Marks: []Mark{c.mark, mate}}}}
		got := Taped(p, l, c.units)[0].Marks[0]
		if !near(float64(got.Along), c.want) || got.Check != 0 {
			t.Errorf("%+v from %v: %v, want %v", c.mark, c.from, got.Along, c.want)
		}
		if c.mark.Tape > 0 {
			continue
		}
		if a, b := side([]geometry.Ring{p.Outline}, c.mark); got.At.Distance(a.Toward(b, c.want/a.Distance(b))) > 1e-9 {
			t.Errorf("it lies at %v", got.At)
		}
	}
	// A wall of 9.996 m has no mark at 10 m.
	slanted := geometry.Polygon{Outline: geometry.Ring{{X: 0, Y: 0}, {X: 9.996, Y: 0}, {X: 20, Y: 6}, {X: 0, Y: 6}}}
	beyond := geometry.Ring{{X: 9.993, Y: 0}, {X: 9.996, Y: 0}, {X: 20, Y: 6}, {X: 9.993, Y: 6}}
	end := Laying{Sections: []Section{{Rings: []geometry.Ring{beyond}}, {}}, Cuts: []Cut{{After: 1, Marks: []Mark{
		{Hole: -1, Side: 1, Along: 9.993, At: geometry.Point{X: 9.993}}, {Tape: 1, At: geometry.Point{X: 9.993, Y: 6}},
	}}}}
	if got := Taped(slanted, end, measure.Metric)[0].Marks[0]; !near(float64(got.Along), 9.996) || !near(got.At.X, 9.996) {
		t.Errorf("%+v", got)
	}
	// A check measure runs to the corner from which the mark at the other end is measured, and
	// there is none to tape.
	walls := []Mark{{Hole: -1, Side: 1, Along: 3, At: geometry.Point{X: 3}},
		{Hole: -1, Side: 3, Along: 7, At: geometry.Point{X: 3, Y: 6}}}
	tape := []Mark{{Hole: -1, Side: 1, Along: 3, At: geometry.Point{X: 3}},
		{Hole: -1, Tape: 1, Along: 1, At: geometry.Point{X: 3, Y: 2}}}
	l := Laying{Sections: []Section{{Label: geometry.Point{X: 1, Y: 3}}, {}, {}},
		Cuts: []Cut{{After: 1, Marks: slices.Concat(walls, tape)}}}
	got := Taped(p, l, measure.Metric)[0].Marks
	if !near(float64(got[0].Check), math.Hypot(7, 6)) || !near(float64(got[1].Check), math.Hypot(3, 6)) ||
		got[2].Check != 0 || got[3].Check != 0 {
		t.Errorf("%+v", got)
	}
}

// What is awkward is told in words that name where.
func TestAwkwardSectionsAreNamed(t *testing.T) {
	l := Laying{Sections: []Section{{Number: 1, Patches: 1}, {Number: 2, Patches: 3}, {Number: 3, Patches: 1}},
		escapes: []geometry.Escape{{}, {Blocked: true, Wet: 2.41}, {Blocked: true, Wet: 4}}}
	found := l.Findings("/job/surfaces/0", 2, measure.Metric)
	if len(found) != 3 || !strings.HasPrefix(found[0].Text, "Coat 2: section 2 falls into 3 separate pieces") ||
		!strings.HasPrefix(found[1].Text, "Coat 2: from a part of section 2 nobody") ||
		!strings.Contains(found[1].Text, "over 2.5 m of wet film") ||
		!strings.HasPrefix(found[2].Text, "Coat 2: the exit does not lie at section 3") {
		t.Errorf("%+v", found)
	}
	if found[0].Path != "/job/surfaces/0/layout/direction" || found[1].Path != "/job/surfaces/0/layout/walkway" {
		t.Errorf("%+v", found)
	}
	l = Laying{Sections: []Section{{Number: 1, Patches: 1}}, escapes: []geometry.Escape{{}}}
	if found := l.Findings("/s", 1, measure.Metric); len(found) != 0 {
		t.Errorf("%+v", found)
	}
}

// A way out that is blocked is told as what it is: a dry neck, wet film in half metres or
// feet, or no way at all.
func TestFindingsNameWhatBlocksTheWay(t *testing.T) {
	for _, c := range []struct {
		wet   float64
		units measure.System
		want  string
	}{
		{0, measure.Metric, "a neck on the way is too narrow"},
		{11.078, measure.Metric, "over 11 m of wet film"},
		{0.13, measure.Metric, "over 0.5 m of wet film"},
		{11.078, measure.US, "over 36' 0\" of wet film"},
		{math.Inf(1), measure.Metric, "no way through the floor leads there"},
	} {
		l := Laying{endsAtExit: true, Sections: []Section{{Number: 1, Patches: 1}, {Number: 2, Patches: 1}},
			escapes: []geometry.Escape{{Blocked: true, Wet: c.wet}, {}}}
		found := l.Findings("/s", 1, c.units)
		if len(found) != 1 || !strings.Contains(found[0].Text, c.want) || strings.Contains(found[0].Text, "Inf") {
			t.Errorf("%v m: %+v", c.wet, found)
		}
	}
}

// Strips behind a passage that is too narrow are looked at once, and remembered.
func TestNarrowWaysAreRemembered(t *testing.T) {
	floor, door := rooms(0.4), geometry.Point{X: 13, Y: 2.5}
	memory := NewMemory()
	along := measure.Angle(0)
	course := Plot(floor, Layout{Exit: &door, Direction: &along}, nil, equal(4), memory)
	first := course.Lay(floor, equal(4))
	if !slices.ContainsFunc(first.escapes, func(e geometry.Escape) bool { return e.Blocked }) {
		t.Fatalf("%v", first.escapes)
	}
	if again := course.Lay(floor, equal(4)); &again.escapes[0] != &first.escapes[0] {
		t.Error("it is looked at anew")
	}
	// With another way out on this side of the passage nobody crosses wet film.
	both := Plot(floor, Layout{Exit: &door, Others: []Exit{{At: geometry.Point{X: 0, Y: 2.5}}}, Direction: &along}, nil,
		equal(4), memory)
	if got := both.Lay(floor, equal(4)).escapes; slices.Equal(got, first.escapes) {
		t.Errorf("%v", got)
	}
}

// Pieces are told with what straight strips would do, and with their edges.
func TestWhyItGoesPieceByPiece(t *testing.T) {
	ring := geometry.Polygon{Outline: rectangle(0, 0, 16, 12),
		Holes: []geometry.Ring{{{X: 5, Y: 4}, {X: 5, Y: 8}, {X: 11, Y: 8}, {X: 11, Y: 4}}}}
	door := geometry.Point{X: 0, Y: 6}
	course := Plot(ring, Layout{Exit: &door}, nil, equal(7), nil)
	laying := course.Lay(ring, equal(7))
	wet, longest := 0.0, 0.0
	for _, c := range laying.Cuts {
		wet, longest = wet+float64(c.Wet), math.Max(longest, float64(c.Wet))
	}
	told := course.Told(measure.Metric)
	if !course.Pieces || !strings.Contains(told, "across would fall apart, so") ||
		!strings.Contains(told,
			measure.Metric.Length(measure.Length(wet))+" of wet edge in all, the longest joint "+measure.Metric.Length(
				measure.Length(longest))) {
		t.Errorf("%q for %v and %v", told, wet, longest)
	}
	straight := Plot(hall, Layout{}, nil, equal(2), nil)
	if straight.Told(measure.Metric) != straight.Reason {
		t.Errorf("%q", straight.Told(measure.Metric))
	}
}

// Up to where a panel holds an area: by hand for a wall that deepens from 1 m to 2 m over 6 m,
// 9 m² in all. At 3 m it is 1.5 m deep and holds 3.75 m² before it.
func TestUpToWhereAPanelHoldsAnArea(t *testing.T) {
	deepens := takeoff.Panel{Run: 6, Start: 1, End: 2, Area: 9}
	for _, c := range []struct {
		panel takeoff.Panel
		area  float64
		want  float64
	}{
		{deepens, 0, 0}, {deepens, 3.75, 3}, {deepens, 9, 6}, {deepens, 9.5, 6},
		{takeoff.Panel{Run: 6, Start: 2, End: 1, Area: 9}, 5.25, 3},
		{takeoff.Panel{Run: 6, Start: 2, End: 2, Area: 12}, 4, 2}, {takeoff.Panel{Run: 6, Start: 0, End: 2, Area: 6}, 1.5, 3},
		{takeoff.Panel{Run: 6, Start: 1, End: 2, Area: 18}, 7.5, 3},
		{takeoff.Panel{Area: 9}, 3, 0}, {takeoff.Panel{Run: 6, Area: 9}, 3, 0},
		{takeoff.Panel{Run: 6, Start: 1, End: 1}, 3, 0},
	} {
		if got := along(c.panel, c.area); !near(float64(got), c.want) {
			t.Errorf("%+v holds %v m² up to %v m, want %v", c.panel, c.area, got, c.want)
		}
	}
}

// Panels that take more of a batch: by hand a wall of 6 m² and a face of 3 m² that takes twice
// as much, 12 shares in all. Of batches 3 : 1 the first covers the wall and half the face.
func TestPanelsThatTakeMore(t *testing.T) {
	panels := []takeoff.Panel{{Name: "wall", Run: 6, Start: 1, End: 1, Area: 6},
		{Name: "none", Run: 1, Start: 1, End: 1, Area: 1}, {Name: "face", Run: 3, Start: 1, End: 1, Area: 3}}
	takes := func(p takeoff.Panel) float64 { return map[string]float64{"wall": 1, "face": 2}[p.Name] }
	type span struct {
		panel          int
		area, from, to float64
		whole          bool
	}
	for name, c := range map[string]struct {
		shares []float64
		want   [][]span
	}{
		"3 : 1": {[]float64{3, 1}, [][]span{{{0, 6, 0, 6, true}, {2, 1.5, 0, 1.5, false}}, {{2, 1.5, 1.5, 3, false}}}},
		"1 : 3": {[]float64{1, 3}, [][]span{{{0, 3, 0, 3, false}}, {{0, 3, 3, 6, false}, {2, 3, 0, 3, true}}}},
		"1 : 1": {[]float64{1, 1}, [][]span{{{0, 6, 0, 6, true}}, {{2, 3, 0, 3, true}}}},
		"thirds": {[]float64{1, 1, 1}, [][]span{{{0, 4, 0, 4, false}}, {{0, 2, 4, 6, false}, {2, 1, 0, 1, false}},
			{{2, 2, 1, 3, false}}}},
		"8 : 2 : 2": {[]float64{8, 2, 2}, [][]span{{{0, 6, 0, 6, true}, {2, 1, 0, 1, false}}, {{2, 1, 1, 2, false}},
			{{2, 1, 2, 3, false}}}},
	} {
		sections := Allot(panels, c.shares, takes)
		for n, s := range sections {
			whole := 0.0
			if len(s.Spans) != len(c.want[n]) || s.Number != n+1 {
				t.Errorf("%s: section %d has %+v", name, n+1, s.Spans)
				continue
			}
			for i, want := range c.want[n] {
				got := s.Spans[i]
				whole += want.area
				if got.Panel != want.panel || !near(float64(got.Area), want.area) || !near(float64(got.From), want.from) ||
					!near(float64(got.To), want.to) || got.Whole != want.whole {
					t.Errorf("%s: section %d: %+v, want %+v", name, n+1, got, want)
				}
			}
			if !near(float64(s.Area), whole) {
				t.Errorf("%s: section %d has %v m²", name, n+1, s.Area)
			}
		}
	}
}

// Each join of straight strips lies between a section and the next; of two seams near it is laid
// on the nearer, and what a section gained by one join it may lose by the next.
func TestJoinsBetweenNeighbours(t *testing.T) {
	along := measure.Angle(0)
	seams := []geometry.Seam{across(3.05, 0, 5), across(2.97, 0, 5), across(6.06, 0, 5)}
	for _, order := range [][]geometry.Seam{seams, {seams[1], seams[0], seams[2]}} {
		laying := Plot(hall, Layout{Direction: &along}, order, equal(4), nil).Lay(hall, equal(4))
		var at []float64
		for i, cut := range laying.Cuts {
			if cut.After != i+1 || !slices.Equal(cut.With, []int{i + 2}) || len(cut.Marks) != 2 ||
				!slices.Equal(laying.Sections[i+1].Beside, []int{i + 1}) || laying.Sections[i+1].Edge != cut.Wet {
				t.Errorf("%+v beside %+v", cut, laying.Sections[i+1])
			}
			at = append(at, math.Round(cut.Marks[0].At.X*1000)/1000)
		}
		if !slices.Equal(at, []float64{2.97, 6.06, 9}) {
			t.Errorf("joins at %v", at)
		}
	}
}
