package cure

import (
	"fmt"
	"math"

	"nephelon/core/measure"
)

// Part is a component as it comes to the mixing place.
type Part struct {
	Mass measure.Mass
	At   measure.Temperature
}

// Mixed is the temperature of parts poured together, their heat capacities taken
// as equal.
func Mixed(parts ...Part) measure.Temperature {
	mass, heat := 0.0, 0.0
	for _, p := range parts {
		mass += float64(p.Mass)
		heat += float64(p.Mass) * float64(p.At)
	}
	if mass == 0 {
		return 0
	}
	return measure.Temperature(heat / mass)
}

// Surrounding names what a pail of one part is put into before it is mixed.
type Surrounding string

// The ways to cool and warm parts.
const (
	IceBath  Surrounding = "ice-bath"
	WarmBath Surrounding = "warm-bath"
	Blanket  Surrounding = "blanket"
	Place    Surrounding = "place" // a room, a cold van overnight
)

// blanketed is the temperature, °C, at which a heating blanket holds a pail's wall: common practice,
// no source; it lies close to the wall.
const (
	blanketed     = 35.0
	blanketPasses = 40
)

// around is the temperature and the heat loss of a surrounding.
func (s Surrounding) around(place measure.Temperature) (measure.Temperature, float64) {
	switch s {
	case IceBath:
		return InIce.around(place)
	case WarmBath:
		return InWarm.around(place)
	case Blanket:
		return blanketed, blanketPasses
	}
	return place, stillAir
}

// Conditioning is a pail of one part that is to come to a temperature.
type Conditioning struct {
	Mass      measure.Mass
	Density   measure.Density
	Viscosity measure.Viscosity   // of this part; it only conducts where it is 0
	Flowed    measure.Temperature // at which that is
	From      measure.Temperature
	To        measure.Temperature
	Put       Surrounding
	Place     measure.Temperature // of the air around it, where it is put into no bath
}

// within is the distance, K, at which a wanted temperature counts as reached.
const within = 0.5

// Takes returns how long it takes for the mean of the pail to come to the temperature.
// It fails, with a sentence, where it never does.
func (c Conditioning) Takes() (measure.Span, error) {
	around, loss := c.Put.around(c.Place)
	falls := float64(c.From - c.To)
	if math.Abs(falls) <= within {
		return 0, nil
	}
	if falls*float64(c.To-around) <= 0 {
		return 0, fmt.Errorf("it is at %.0f °C and never reaches %.0f °C in surroundings at %.0f °C", float64(c.From),
			float64(c.To), float64(around))
	}
	inert := Kinetics{A1: 1e-30, Cp: cp, Gel: 0.6}
	// What flows is the film along the wall, half-way between the part and the bath.
	film := float64(c.From+c.To)/4 + float64(around)/2
	thick := ViscosityAt(c.Viscosity, c.Flowed, measure.Temperature(film))
	v := Vessel{Mass: c.Mass, Density: c.Density, Viscosity: min(thick, 1e5), Loss: loss, Start: c.From, Air: around}
	return reached(inert, v, c.To)
}

// thickensBy is the cooling, K, that makes a resin flow half as well: from memory,
// near room temperature.
const thickensBy = 8

// cp of a part, J/(kg·K): from memory.
const cp = 1800.0

// longest is the time for which a part is followed.
const longest = 14 * 24 * measure.Hour

// reached returns when the mean of a pail that does not react comes to a temperature.
func reached(k Kinetics, v Vessel, to measure.Temperature) (measure.Span, error) {
	if err := v.check(); err != nil {
		return 0, err
	}
	r := &reactor{k, newBody(v, k.Cp)}
	var y state
	for i := range r.n {
		y.kelvins[i] = float64(v.Start) + kelvin
	}
	mean := func(y *state) float64 {
		sum := 0.0
		for i := range r.n {
			sum += r.weight[i] * y.kelvins[i]
		}
		return sum - kelvin - float64(to)
	}
	sign := math.Copysign(1, mean(&y))
	t, step := 0.0, 10.0
	for t < float64(longest) {
		f, d := r.slope(&y)
		next, fault := r.step(&y, &f, &d, step, quick)
		if fault > 1 {
			step *= math.Max(0.2, 0.85/math.Sqrt(math.Sqrt(fault)))
			continue
		}
		if before, after := mean(&y), mean(&next); sign*after <= within {
			return measure.Span(t + step*(sign*before-within)/(sign*before-sign*after)), nil
		}
		y, t = next, t+step
		step = math.Min(600, step*math.Min(4, 0.85/math.Sqrt(math.Sqrt(math.Max(fault, 1e-5)))))
	}
	return 0, fmt.Errorf("it does not reach %.0f °C within two weeks", float64(to))
}

// Values returns all values, in the order in which they are shown.
func (Surrounding) Values() []Surrounding {
	return []Surrounding{IceBath, WarmBath, Blanket, Place}
}
