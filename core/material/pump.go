package material

import "nephelon/core/measure"

// Pumps draw A and B from their pails stroke by stroke.
type Pumps struct {
	Built   string         `json:"built" enum:"ratio,equal" doc:"ratio: one stroke of each is a ratio; equal: every stroke gives the same"`
	A       measure.Volume `json:"a" minimum:"0.0000001" maximum:"0.01" doc:"m³ a stroke of A gives"`
	B       measure.Volume `json:"b" minimum:"0.0000001" maximum:"0.01" doc:"m³ a stroke of B gives"`
	TenA    measure.Mass   `json:"tenA,omitempty" minimum:"0" maximum:"50" doc:"kg that ten strokes of A weighed; wins over the stroke's volume"`
	TenB    measure.Mass   `json:"tenB,omitempty" minimum:"0" maximum:"50" doc:"kg that ten strokes of B weighed"`
	Priming int            `json:"priming,omitempty" minimum:"0" maximum:"50" doc:"Strokes of each put aside before the first dose"`
}

// calibration is the number of strokes that are weighed.
const calibration = 10

// Gives returns what a stroke of A and of B gives of parts of these densities.
func (p Pumps) Gives(a, b measure.Density) (doseA, doseB measure.Volume) {
	doseA, doseB = p.A, p.B
	if p.TenA > 0 {
		doseA = a.Volume(p.TenA) / calibration
	}
	if p.TenB > 0 {
		doseB = b.Volume(p.TenB) / calibration
	}
	return doseA, doseB
}
