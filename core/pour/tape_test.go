package pour

import (
	"math"
	"math/rand/v2"
	"testing"

	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// By hand: a hall of 12 × 5 m in seven sections towards a door in the short wall at x = 0.
// The first join lies 12/7 = 1.714 m from the far wall, 10.286 m from the door's: told as
// 10.29 m, towards the section before, to a centimetre; from the other corner 1.71 m. Its
// check measures run straight to the corner of the other end: √(1.71² + 5²) = 5.284 m.
func TestTapeOnTheSafeSide(t *testing.T) {
	door := geometry.Point{X: 0, Y: 2}
	laying := Plot(hall, Layout{Exit: &door}, nil, equal(7), nil).Lay(hall, equal(7))
	for _, m := range Taped(hall, laying, measure.Metric)[0].Marks {
		wanted, corner := 10.29, math.Hypot(1.71, 5) // wall 1 runs from x = 0
		if m.Side == 3 {                             // and wall 3 from x = 12
			wanted, corner = 1.71, math.Hypot(10.29, 5)
		}
		if !near(float64(m.Along), wanted) || math.Abs(float64(m.Check)-corner) > 1e-9 {
			t.Errorf("wall %d: %v m, check %v m, want %v and %v", m.Side, m.Along, m.Check, wanted, corner)
		}
		if !near(m.At.X, 10.29) {
			t.Errorf("at %v", m.At)
		}
	}
	for _, c := range Taped(hall, laying, measure.US) {
		for _, m := range c.Marks {
			if steps := float64(m.Along) / 0.0127; math.Abs(steps-math.Round(steps)) > 1e-6 {
				t.Errorf("%v m is no half inch", m.Along)
			}
		}
	}
	if laying.Cuts[0].Marks[0].Along == Taped(hall, laying, measure.Metric)[0].Marks[0].Along {
		t.Error("what was laid is changed")
	}
}

// The marks of slanted cuts lie on the side of the section worked before, whatever the
// angle, so that its batch covers what the tape bounds.
func TestTapedSlantedCutsStayOnTheSafeSide(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 22))
	lean := geometry.Polygon{Outline: geometry.Ring{{X: 0, Y: 0}, {X: 13, Y: 1}, {X: 12, Y: 8.5}, {X: 1.4, Y: 6.1}}}
	for _, floor := range []geometry.Polygon{hall, lean, rooms(1.3)} {
		for range 60 {
			angle := measure.Angle(360 * r.Float64())
			door := floor.Outline[0].Toward(floor.Outline[1], r.Float64())
			course := Plot(floor, Layout{Exit: &door, Direction: &angle}, nil, equal(6), nil)
			laying := course.Lay(floor, equal(6))
			for _, units := range []measure.System{measure.Metric, measure.US} {
				for n, cut := range Taped(floor, laying, units) {
					for _, m := range cut.Marks {
						if past := course.travel.Along(m.At) - course.travel.Along(laying.Cuts[n].Marks[0].At); m.Tape == 0 &&
							past > 1e-6 {
							t.Fatalf("at %v°: a mark lies %.1f mm past the cut", angle, 1000*past)
						}
					}
				}
			}
		}
	}
}
