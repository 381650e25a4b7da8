package material

import (
	"fmt"

	"nephelon/core/measure"
)

// CupTest holds what a person without a data sheet weighs and times of a product mixed in its ratio.
type CupTest struct {
	Empty  measure.Mass        `json:"empty" minimum:"0" maximum:"50" doc:"kg of the empty cup"`
	Full   measure.Mass        `json:"full" exclusiveMinimum:"0" maximum:"100" doc:"kg of the cup filled to a mark"`
	Volume measure.Volume      `json:"volume" exclusiveMinimum:"0" maximum:"0.1" doc:"m³ up to the mark"`
	Lasts  measure.Span        `json:"lasts,omitempty" minimum:"0" maximum:"604800" doc:"s until it could no longer be poured; not timed when left out"`
	At     measure.Temperature `json:"at" minimum:"-10" maximum:"60" doc:"°C of cup and room"`
	Spread measure.Mass        `json:"spread,omitempty" minimum:"0" maximum:"100" doc:"kg spread on a trial area; none when left out"`
	Area   measure.Area        `json:"area,omitempty" minimum:"0" maximum:"100" doc:"m² of the trial area"`
}

// CupGives holds what a cup gives for a data sheet, each as an own test.
type CupGives struct {
	Density *measure.Sourced[measure.Density] `json:"density,omitempty" doc:"kg/m³ of the mix"`
	PotLife *PotLife                          `json:"potLife,omitempty"`
	Printed *Printed                          `json:"printed,omitempty" doc:"What the trial area took, practical"`
	Film    measure.Film                      `json:"film,omitempty" doc:"m, wet, that the trial area took"`
	Faults  []Fault                           `json:"faults"`
}

// Bounds of what is poured on floors: common practice, no source. Below is a foam, above a mortar.
const (
	lightest measure.Density = 700
	heaviest measure.Density = 2600
	leastCup measure.Mass    = 0.05 // a smaller one lives far longer than any pail
	thinnest measure.Film    = 20e-6
	thickest measure.Film    = 0.1
)

// Gives returns what a cup tells of a product: its density, how long a cup lives, and what an area takes. What
// cannot be is no part of it, and named.
func (c CupTest) Gives() CupGives {
	g := CupGives{Faults: []Fault{}}
	fault := func(field, text, way string, args ...any) {
		g.Faults = append(g.Faults, Fault{field, fmt.Sprintf(text, args...), way})
	}
	mix := c.Full - c.Empty
	if mix <= 0 {
		fault("/full", "The full cup is no heavier than the empty one.", "Weigh both again.")
		return g
	}
	density := measure.Density(float64(mix) / float64(c.Volume))
	if density < lightest || density > heaviest {
		fault("/volume", "%.0f kg/m³ is no coating.",
			"Check the mark on the cup, and the unit of the scale.", float64(density))
		return g
	}
	g.Density = &measure.Sourced[measure.Density]{Value: density, Source: measure.OwnTest}
	switch {
	case c.Lasts == 0:
	case mix < leastCup:
		fault("/full", "A cup of so little lives far longer than a pail.", "Mix at least 50 g, better 150 g.")
	default:
		g.PotLife = &PotLife{At: c.At, Mass: mix, Lasts: c.Lasts, Source: measure.OwnTest}
	}
	if c.Spread == 0 && c.Area == 0 {
		return g
	}
	if !(c.Spread > 0) || !(c.Area > 0) {
		fault("/area", "Mass and area of the trial belong together.", "Enter both, or neither.")
		return g
	}
	taken := float64(c.Spread) / float64(c.Area)
	film := measure.Film(taken / float64(density))
	if film < thinnest || film > thickest {
		fault("/area", "The trial would lie %.3g mm thick.", "Check the area and the mass of the trial.", float64(film)*1e3)
		return g
	}
	g.Film = film
	g.Printed = &Printed{Basis: "mass-per-area", Value: taken, Figure: Practical}
	return g
}
