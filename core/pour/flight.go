package pour

import (
	"math"

	"nephelon/core/measure"
	"nephelon/core/takeoff"
)

// floorLeast is the least share of a batch that is kept for the floor, so that each section has
// a place on it: common practice, no source.
const floorLeast = 0.1

// Down gives flights of steps to the first batches, from the top down and in whole steps, so
// that nobody has to come back over what is wet. Areas are what each batch covers in all; it
// returns what is left of each for the floor, and the steps of each. Where a step is more
// than a batch covers, the steps stay with the other parts, which is told by nil.
func Down(flights []takeoff.Flight, areas []float64) (floor []float64, steps [][]Descent) {
	floor, steps = append([]float64(nil), areas...), make([][]Descent, len(areas))
	n, room := 0, 0.0
	if len(areas) > 0 {
		room = areas[0] * (1 - floorLeast)
	}
	for _, f := range flights {
		each := float64(f.Area) / float64(f.Count)
		for done := 0; done < f.Count; {
			fit := min(f.Count-done, int(math.Floor(room/each*(1+1e-9))))
			if fit == 0 {
				if n++; n >= len(areas) {
					return areas, nil
				}
				room = areas[n] * (1 - floorLeast)
				continue
			}
			area := float64(fit) * each
			steps[n] = append(steps[n], Descent{Name: f.Name, From: done + 1, To: done + fit, Area: measure.Area(area)})
			floor[n], room, done = floor[n]-area, room-area, done+fit
		}
	}
	return floor, steps
}
