package takeoff

import (
	"math"
	"testing"

	"nephelon/core/measure"
)

// FuzzWalk follows any text as a walk along walls.
func FuzzWalk(f *testing.F) {
	for _, text := range []string{"12' 6 1/2\" E, 3.81 m left 4", "4 r 3 r 4 r 3", "", "5 left 45° 2.2",
		"1e400 right -0"} {
		f.Add(text, 0.0)
	}
	f.Fuzz(func(t *testing.T, text string, heading float64) {
		for _, units := range []measure.System{measure.Metric, measure.US} {
			legs, _, err := ReadWalk(text, measure.Angle(heading), nil, units)
			if err != nil {
				continue
			}
			for _, l := range legs {
				if v := float64(l.Length); math.IsNaN(v) || math.IsInf(v, 0) {
					t.Fatalf("%q makes a wall of %v", text, v)
				}
			}
		}
	})
}
