package instruct

import (
	"fmt"
	"slices"

	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
)

// notchFrom is the wet film from which one is spread with a notch: a thinner one would run together under no notch that
// is made, so it is pulled flat and rolled. Common practice, no source.
const notchFrom measure.Film = 200e-6

// cover holds a roller's nap, and what a dip of it holds for each metre of its width, m³/m: common practice, no source.
type cover struct {
	nap string
	dip float64
}

// coverOf returns the cover that a coat is rolled with: short on what shows, long on what is rough.
func coverOf(l input.ResolvedCoat) cover {
	clear := []material.Kind{"clear", "urethane", "polyaspartic", "flood"}
	switch {
	case slices.Contains(clear, l.Sheet.Product.Kind):
		return cover{"foam or 6 mm (1/4 in)", 0.00035}
	case l.Number == 1:
		return cover{"12 mm (1/2 in)", 0.0007}
	}
	return cover{"10 mm (3/8 in)", 0.00055}
}

// The widths of a roller, m, and the surface from which the wide one is taken, m²: common practice, no source.
const (
	narrowRoller              = 0.23
	wideRoller                = 0.45
	wideFrom     measure.Area = 20
)

// rollerWords names the roller for a coat over an area, and how far a dip of it goes.
func rollerWords(in *input.Inputs, l input.ResolvedCoat, area measure.Area, wet measure.Film) string {
	c, width, words := coverOf(l), narrowRoller, "23 cm (9 in)"
	if area >= wideFrom {
		width, words = wideRoller, "45 cm (18 in)"
	}
	return fmt.Sprintf("%s nap, %s wide; a dip does about %s", c.nap, words,
		in.Units.Area(measure.Area(c.dip*width/float64(wet))))
}
