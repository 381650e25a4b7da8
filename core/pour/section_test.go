package pour

import (
	"math"
	"slices"
	"strings"
	"testing"

	"nephelon/core/geometry"
	"nephelon/core/measure"
)

func near(a, b float64) bool { return a-b < 1e-9 && b-a < 1e-9 }

func equal(n int) []float64 {
	shares := make([]float64, n)
	for i := range shares {
		shares[i] = 1
	}
	return shares
}

var hall = geometry.Polygon{Outline: geometry.Ring{{X: 0, Y: 0}, {X: 12, Y: 0}, {X: 12, Y: 5}, {X: 0, Y: 5}}}

// Three equal sections of a hall of 12 m, worked towards a door in the short
// wall: tape at 8 m and 4 m from that wall.
func TestSectionsEndAtTheDoor(t *testing.T) {
	for _, door := range []geometry.Point{{X: 0, Y: 2}, {X: 12, Y: 2}} {
		course := Plot(hall, Layout{Exit: &door}, nil, equal(3), nil)
		laying := course.Lay(hall, equal(3))
		if len(laying.Findings("/s", 1, measure.Metric)) > 0 {
			t.Errorf("door at %v: %v", door, laying.Findings("/s", 1, measure.Metric))
		}
		for i, s := range laying.Sections {
			if !near(float64(s.Area), 20) || s.Number != i+1 {
				t.Errorf("section %d has %v m²", i+1, s.Area)
			}
		}
		first, last := laying.Sections[0].Label, laying.Sections[2].Label
		if first.Distance(door) < last.Distance(door) {
			t.Errorf("door at %v: work begins at %v and ends at %v", door, first, last)
		}
		for _, cut := range laying.Cuts {
			if !near(float64(cut.Wet), 5) || len(cut.Marks) != 2 {
				t.Errorf("cut %+v", cut)
			}
		}
		mark := laying.Cuts[0].Marks[0]
		if along := float64(mark.Along); !near(along, 4) && !near(along, 8) || mark.Side != 1 && mark.Side != 3 {
			t.Errorf("first mark %+v", mark)
		}
	}
}

func TestAChosenDirectionIsKept(t *testing.T) {
	along := measure.Angle(90)
	course := Plot(hall, Layout{Direction: &along}, nil, equal(2), nil)
	if !course.Chosen || course.Direction != 90 {
		t.Errorf("course %+v", course)
	}
	// Turned round where that brings the work to the door, never aside.
	door := geometry.Point{X: 6, Y: 0}
	if course = Plot(hall, Layout{Direction: &along, Exit: &door}, nil, equal(2), nil); course.Direction != 270 {
		t.Errorf("towards the door it became %v", course.Direction)
	}
}

func TestAwkwardSectionsAreTold(t *testing.T) {
	// Across the legs of a U every early section lies in two pieces, and a door
	// in the middle of a long wall is cut off.
	horseshoe := geometry.Polygon{Outline: geometry.Ring{{X: 0, Y: 0}, {X: 9, Y: 0}, {X: 9, Y: 8}, {X: 6, Y: 8},
		{X: 6, Y: 3}, {X: 3, Y: 3}, {X: 3, Y: 8}, {X: 0, Y: 8}}}
	down, right := measure.Angle(270), measure.Angle(0)
	told := Plot(horseshoe, Layout{Direction: &down}, nil, equal(3), nil).Lay(horseshoe, equal(3)).Findings("/s", 2,
		measure.Metric)
	if len(told) == 0 || !strings.Contains(told[0].Text, "Coat 2: section 1 falls into 2 separate pieces") {
		t.Errorf("told %v", told)
	}
	door := geometry.Point{X: 5, Y: 0}
	told = Plot(hall, Layout{Direction: &right, Exit: &door}, nil, equal(4), nil).Lay(hall, equal(4)).Findings("/s", 1,
		measure.Metric)
	if len(told) != 1 || !strings.Contains(told[0].Text, "cross wet film") || told[0].WayOut == "" {
		t.Errorf("told %v", told)
	}
	// Left to itself the plan finds a way without either.
	if told = Plot(horseshoe, Layout{}, nil, equal(3), nil).Lay(horseshoe, equal(3)).Findings("/s", 1,
		measure.Metric); len(told) > 0 {
		t.Errorf("left to itself: %v", told)
	}
}

// A floor around a core with one door: straight strips fall apart beside the core, so it
// is divided piece by piece, each in one, ending at the door; every join
// ends on walls or columns, and is told to the sections on both its sides.
func TestAroundACorePieceByPiece(t *testing.T) {
	floor := geometry.Polygon{
		Outline: geometry.Ring{{X: 0, Y: 0}, {X: 16, Y: 0}, {X: 16, Y: 12}, {X: 0, Y: 12}},
		Holes:   []geometry.Ring{{{X: 5, Y: 4}, {X: 11, Y: 4}, {X: 11, Y: 8}, {X: 5, Y: 8}}},
	}
	door := geometry.Point{X: 0, Y: 6}
	memory := NewMemory()
	course := Plot(floor, Layout{Exit: &door}, nil, equal(7), memory)
	if !course.Pieces || !strings.Contains(course.Told(measure.Metric), "piece by piece") {
		t.Fatalf("%+v", course)
	}
	laying := course.Lay(floor, equal(7))
	if told := laying.Findings("/s", 1, measure.Metric); len(told) > 0 {
		t.Errorf("%v", told)
	}
	if far, near := laying.Sections[0].Label.Distance(door),
		laying.Sections[6].Label.Distance(door); far < 12 || near > 4 {
		t.Errorf("it begins %v m from the door and ends %v m from it", far, near)
	}
	for _, cut := range laying.Cuts {
		if len(cut.With) == 0 || len(cut.Marks)%2 != 0 || len(cut.Marks) == 0 {
			t.Errorf("%+v", cut)
		}
		for _, m := range cut.Marks {
			if m.Tape > 0 {
				found := false
				for k := 0; k < len(laying.Cuts[m.Tape-1].Marks); k += 2 {
					first := laying.Cuts[m.Tape-1].Marks[k].At
					found = found || math.Abs(first.Distance(m.At)-float64(m.Along)) < 1e-6
				}
				if m.Tape >= cut.After || !found {
					t.Errorf("a mark on the tape after %d: %+v", m.Tape, m)
				}
				continue
			}
			ring := floor.Outline
			if m.Hole >= 0 {
				ring = floor.Holes[m.Hole]
			}
			a, b := ring[m.Side-1], ring[m.Side%len(ring)]
			if on := a.Toward(b, float64(m.Along)/a.Distance(b)); on.Distance(m.At) > 1e-6 {
				t.Errorf("a mark at %v is told as %v", m.At, on)
			}
		}
	}
	for n, s := range laying.Sections[1:] {
		if len(s.Beside) == 0 || s.Edge <= 0 {
			t.Errorf("section %d meets nothing", n+2)
		}
	}
	// What meets what is told the same from both sides, by the numbers of the sections.
	met := 0
	for n, s := range laying.Sections {
		if s.Number != n+1 {
			t.Errorf("section %d is numbered %d", n+1, s.Number)
		}
		for _, b := range s.Beside {
			met++
			if b >= s.Number || !slices.Contains(laying.Cuts[b-1].With, s.Number) {
				t.Errorf("section %d meets %d, which is told of %v", s.Number, b, laying.Cuts[b-1].With)
			}
		}
	}
	for n, cut := range laying.Cuts {
		met -= len(cut.With)
		if cut.After != n+1 {
			t.Errorf("cut %d comes after section %d", n+1, cut.After)
		}
	}
	if met != 0 {
		t.Errorf("%d more are met from one side than from the other", met)
	}
	if again := Plot(floor, Layout{Exit: &door}, nil, equal(7), memory).Lay(floor, equal(7)); &again.Sections[0] !=
		&laying.Sections[0] {
		t.Error("it is divided anew")
	}
	along := measure.Angle(0)
	if Plot(floor, Layout{Exit: &door, Direction: &along}, nil, equal(7), memory).Pieces {
		t.Error("a direction chosen by a person is not kept")
	}
}

// A hall with a column in many narrow strips: those that the column tears are joined at once
// all the same, while pieces would leave an edge open for long.
func TestAColumnDoesNotLeaveAnEdgeOpen(t *testing.T) {
	floor := geometry.Polygon{
		Outline: geometry.Ring{{X: 0, Y: 0}, {X: 16, Y: 0}, {X: 16, Y: 8}, {X: 0, Y: 8}},
		Holes:   []geometry.Ring{{{X: 4, Y: 3}, {X: 10, Y: 3}, {X: 10, Y: 4}, {X: 4, Y: 4}}},
	}
	door := geometry.Point{X: 0, Y: 4}
	for _, s := range Plot(floor, Layout{Exit: &door}, nil, equal(30), nil).Lay(floor, equal(30)).Sections[1:] {
		if waits := s.Number - slices.Min(s.Beside); waits > mostBehind {
			t.Errorf("section %d meets an edge that waited for %d", s.Number, waits)
		}
	}
}
