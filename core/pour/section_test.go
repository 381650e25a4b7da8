package pour

import (
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
		course := Plot(hall, Layout{Exit: &door}, equal(3))
		laying := course.Lay(hall, equal(3))
		if len(laying.Findings("/s", 1)) > 0 {
			t.Errorf("door at %v: %v", door, laying.Findings("/s", 1))
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
	course := Plot(hall, Layout{Direction: &along}, equal(2))
	if !course.Chosen || course.Direction != 90 {
		t.Errorf("course %+v", course)
	}
	// Turned round where that brings the work to the door, never aside.
	door := geometry.Point{X: 6, Y: 0}
	if course = Plot(hall, Layout{Direction: &along, Exit: &door}, equal(2)); course.Direction != 270 {
		t.Errorf("towards the door it became %v", course.Direction)
	}
}

func TestAwkwardSectionsAreTold(t *testing.T) {
	// Across the legs of a U every early section lies in two pieces, and a door
	// in the middle of a long wall is cut off.
	horseshoe := geometry.Polygon{Outline: geometry.Ring{{X: 0, Y: 0}, {X: 9, Y: 0}, {X: 9, Y: 8}, {X: 6, Y: 8}, {X: 6, Y: 3}, {X: 3, Y: 3}, {X: 3, Y: 8}, {X: 0, Y: 8}}}
	down, right := measure.Angle(270), measure.Angle(0)
	told := Plot(horseshoe, Layout{Direction: &down}, equal(3)).Lay(horseshoe, equal(3)).Findings("/s", 2)
	if len(told) == 0 || !strings.Contains(told[0].Text, "Coat 2: section 1 falls into 2 separate pieces") {
		t.Errorf("told %v", told)
	}
	door := geometry.Point{X: 5, Y: 0}
	told = Plot(hall, Layout{Direction: &right, Exit: &door}, equal(4)).Lay(hall, equal(4)).Findings("/s", 1)
	if len(told) != 1 || !strings.Contains(told[0].Text, "cross wet film") || told[0].WayOut == "" {
		t.Errorf("told %v", told)
	}
	// Left to itself the plan finds a way without either.
	if told = Plot(horseshoe, Layout{}, equal(3)).Lay(horseshoe, equal(3)).Findings("/s", 1); len(told) > 0 {
		t.Errorf("left to itself: %v", told)
	}
}
