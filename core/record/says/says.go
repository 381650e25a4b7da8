// Package says holds the words for the work with a pail, by how a coat is laid: who rolls from trays is not told to
// pour it out.
package says

import "nephelon/core/school"

// Words are the words for one way of laying a coat: what is to be done, and what the touch says that it is done.
type Words struct {
	Pour, Spread, Roll       string
	Pours, SpreadOut, Rolled string
	Joins                    string // added to what is done last where a section meets another
	After                    string // added to that in the end
}

// Of returns the words for a way of laying, on a top or elsewhere, of a film that is broadcast into or not; those for
// pouring where the way is not known.
func Of(laying string, top, broadcast bool) Words {
	w := laid(laying, top)
	if broadcast {
		w.After, w.Rolled = "; then broadcast into it while it is wet", "Broadcast: do not touch it again"
	}
	return w
}

func laid(laying string, top bool) Words {
	const joins, done = ", past the line into the one before", ": do not touch it again"
	switch school.Laying(laying) {
	case school.DipAndRoll:
		return Words{Pour: "into the trays at once, all of it; a full pail heats itself", Pours: "Into the trays",
			Spread: "roll it on from the tray", SpreadOut: "All rolled on",
			Roll: "cross-roll it", Rolled: "Cross-rolled" + done, Joins: joins}
	case school.Trowel:
		return Words{Pour: "turn it out, all of it", Pours: "Turning it out",
			Spread: "spread it and press it flat", SpreadOut: "All spread",
			Roll: "close it with a clean trowel", Rolled: "Closed" + done, Joins: joins}
	case school.Brush:
		return Words{Pour: "into the pots at once, all of it", Pours: "Into the pots",
			Spread: "brush it out", SpreadOut: "All brushed out",
			Roll: "lay it off with the tips of the brush", Rolled: "Laid off" + done, Joins: joins}
	case school.Spray:
		return Words{Pour: "into the machine", Pours: "Into the machine",
			Spread: "spray it", SpreadOut: "All sprayed",
			Roll: "look for runs, and roll them out", Rolled: "Looked over" + done, Joins: joins}
	}
	w := Words{Pour: "pour it out, all of it; never stand it on its rim", Pours: "Pouring it out",
		Spread: "spread it", SpreadOut: "All spread", Roll: "roll it", Rolled: "Rolled" + done, Joins: joins}
	if top {
		w.Pour, w.Spread = "pour it in beads over the top, all of it; never stand it on its rim", "spread it to the edges"
		w.Roll, w.Rolled, w.Joins = "draw off the bubbles, and let it flow", "It flows"+done, ""
	}
	return w
}
