// Package says holds the words for the work with a pail, by how a coat is laid: who rolls from trays is not told to pour
// it out.
package says

import "nephelon/core/school"

// Words are the words for one way of laying a coat: what is to be done, and what the touch says that it is done.
type Words struct {
	Pour, Spread, Roll       string
	Pours, SpreadOut, Rolled string
	Joins                    string // added to what is done last where a section meets another
}

// Of returns the words for a way of laying, on a top or elsewhere; those for pouring where it is not known.
func Of(laying string, top bool) Words {
	const joins = ", past the line into the one before"
	switch school.Laying(laying) {
	case school.DipAndRoll:
		return Words{"into the trays at once, all of it; a full pail heats itself", "roll it on from the tray", "cross-roll it",
			"Into the trays", "All rolled on", "Cross-rolled: do not touch it again", joins}
	case school.Trowel:
		return Words{"turn it out, all of it", "spread it and press it flat", "close it with a clean trowel",
			"Turning it out", "All spread", "Closed: do not touch it again", joins}
	case school.Brush:
		return Words{"into the pots at once, all of it", "brush it out", "lay it off with the tips of the brush",
			"Into the pots", "All brushed out", "Laid off: do not touch it again", joins}
	case school.Spray:
		return Words{"into the machine", "spray it", "look for runs, and roll them out", "Into the machine", "All sprayed",
			"Looked over: do not touch it again", joins}
	}
	if top {
		return Words{"pour it in beads over the top, all of it; never stand it on its rim", "spread it to the edges",
			"draw off the bubbles, and let it flow", "Pouring it out", "All spread", "It flows: do not touch it again", ""}
	}
	return Words{"pour it out, all of it; never stand it on its rim", "spread it", "roll it", "Pouring it out", "All spread",
		"Rolled: do not touch it again", joins}
}
