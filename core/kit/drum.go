package kit

import (
	"fmt"

	"nephelon/core/measure"
)

// Drum holds what a forced-action mixer turns at once.
type Drum struct {
	Volume measure.Volume `json:"volume" exclusiveMinimum:"0" maximum:"2" doc:"m³ of loose stones"`
	Mass   measure.Mass   `json:"mass" exclusiveMinimum:"0" maximum:"3000" doc:"kg"`
}

// UsualDrum is a mixer that two people lift: common practice, no source.
func UsualDrum() Drum { return Drum{Volume: 0.08, Mass: 120} }

// Turning holds how long stones are turned in the mix until all are glossy: common practice, no source.
const Turning = 3 * measure.Minute

// packed holds which share of a heap its grains fill, and heaped the density of a heap whose grains' density is not
// known, kg/m³: both of round gravel, common practice, no source.
const (
	packed                 = 0.58
	heaped measure.Density = 1500
)

// Stones are wetted in the mix of a coat, lot by lot. It is comparable; the zero value is of none.
type Stones struct {
	PerArea measure.Coverage // kg/m²
	Grain   measure.Density  // of the stones themselves; 0 where it is not known
	Drum    Drum
}

// lot returns the stones that the drum turns at once, and by what it is full.
func (s Stones) lot() (measure.Mass, string) {
	heap := heaped
	if s.Grain > 0 {
		heap = s.Grain * packed
	}
	if byVolume := heap.Of(s.Drum.Volume); byVolume < s.Drum.Mass {
		return byVolume, "by volume"
	}
	return s.Drum.Mass, "by mass"
}

// limit returns the most mix that one lot takes, so much of it going onto a square metre.
func (s Stones) limit(perArea measure.Volume, units measure.System) Limit {
	mass, full := s.lot()
	area := measure.Area(float64(mass) / float64(s.PerArea))
	return Limit{
		Kind: ByDrum, Volume: measure.Volume(float64(perArea) * float64(area)),
		Text: fmt.Sprintf("The mixer turns %s of stones at once, full %s, which cover %s.", units.Mass(mass), full,
			units.Area(area)),
	}
}
