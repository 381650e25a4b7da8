package cure

import "nephelon/core/measure"

// Standing names where a pail stands while it waits.
type Standing string

// The ways to stand a pail: in the still air of the place, out of the sun (cooler
// by 4 K, common practice, no source), in wind, on a concrete floor, in water of
// the place, in ice water, in warm water.
const (
	InAir      Standing = ""
	InShade    Standing = "shade"
	InWind     Standing = "wind"
	OnConcrete Standing = "concrete"
	InWater    Standing = "water"
	InIce      Standing = "ice"
	InWarm     Standing = "warm"
)

// What a surface gives to what is around it, W/(m²·K). Still air and wind are the
// reciprocals of the surface resistances of ISO 6946, 0.13 and 0.04 m²·K/W, from
// memory. A pail on concrete loses more through its bottom, a sixth of its surface:
// about 25 by the semi-infinite solid after twenty minutes (Carslaw and Jaeger
// 1959, 2.4, with 1.5 W/(m·K) and 8·10⁻⁷ m²/s, from memory). Water and stirred ice
// water take some 300 and 500 from a wall, from memory, behind 2 mm of plastic of
// 0.45 W/(m·K).
const (
	stillAir   = 7.7
	windy      = 25
	onConcrete = 10.6
	inWater    = 130
	inIceWater = 155
	// onSlab is the mean of a film's two faces: still air above, concrete below.
	onSlab = 16
)

// around is the temperature and the heat loss of what surrounds a pail.
func (s Standing) around(air measure.Temperature) (measure.Temperature, float64) {
	switch s {
	case InShade:
		return air - 4, stillAir
	case InWind:
		return air, windy
	case OnConcrete:
		return air, onConcrete
	case InWater:
		return air, inWater
	case InIce:
		return 1, inIceWater
	case InWarm:
		return 38, inWater
	}
	return air, stillAir
}

// Values returns all values, in the order in which they are shown.
func (Standing) Values() []Standing {
	return []Standing{InShade, InWind, OnConcrete, InWater, InIce, InWarm}
}
