package instruct

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"nephelon/core/buildup"
	"nephelon/core/cure"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/pour"
	"nephelon/core/school"
	"nephelon/core/work"
)

// spikesFrom is the wet film from which people walk through it in spiked shoes, m, as they do through any that is
// scattered into: common practice, no source.
const spikesFrom = 0.5e-3

// floorSteps returns what a section needs after the pail, by how the coat is laid and on what:
// common practice, no source, but for what the sheet and the plan say.
func floorSteps(in *input.Inputs, i int, l input.ResolvedCoat, section pour.Section, faces measure.Volume,
	card kit.Card, film filmOf) []kit.CardStep {
	s := in.File.Job.Surfaces[i]
	all := make([]kit.CardStep, 0, 8)
	do := func(format string, args ...any) {
		if len(args) > 0 {
			format = fmt.Sprintf(format, args...)
		}
		all = append(all, kit.CardStep{Text: format})
	}
	if l.Coat.OverWet {
		do("Pour over coat %d while it still flows: what has begun to string is left alone. What is below shows through "+
			"light colours.", l.Number-1)
	}
	switch {
	case l.Coat.On == input.OnUpright:
		do("Brush or roll it thinly onto edges and upright faces, from the top down; come back after some minutes for runs.")
	case s.Top != nil:
		topSteps(in, i, l, do, section, faces, card.Wet, film)
	case s.Pool != nil:
		if s.Layout.Exit == nil {
			do("From the deep end to the ladder, walls from the top down; edges and corners by brush ahead of the roller.")
		} else {
			do("Walls once round from beside the ladder, then the floor from its far end to the ladder's foot; walls from the " +
				"top down, edges and corners by brush ahead of the roller.")
		}
		for _, span := range section.Spans {
			if span.Lifts > 1 {
				do("%s in %d bands, the top one first, each into the one above while that is wet.", span.Name, span.Lifts)
			}
		}
		do("Roll it out at once, cross-roll at right angles, and into the section done before.")
	default:
		for _, f := range section.Steps {
			do("%s first, from the top down: steps %d to %d, counted from the top; nobody comes back up over them.", f.Name,
				f.From, f.To)
		}
		groundSteps(in, do, s.Floor.Outline != nil, l.Number == len(in.Layers[i]), l, card, film)
	}
	if m := broadcastWords(l); m != "" && !l.Coat.Wets() {
		do("Broadcast %s", m)
	}
	if l.Coat.Wets() {
		do("Look across it for dry stones and stray ones: a loose stone hurts a foot. Press them in, or take them off.")
		return all
	}
	if g := l.Coat.Grit; g != nil && in.Methods.Texture == school.Scattered {
		do("Scatter the grit evenly over the wet film, upwards and outwards from the hand.")
	}
	if film.working > 0 && len(all) > 0 {
		do("Look against the light for thin spots, hair and puddles; mend them within %s of %s.",
			in.Units.Span(film.working), film.of)
	} else {
		do("Look against the light for thin spots, hair and puddles, and mend them while it is wet.")
	}
	return all
}

// groundSteps adds the work on a floor.
func groundSteps(in *input.Inputs, do func(string, ...any), drawn, last bool, l input.ResolvedCoat,
	card kit.Card, film filmOf) {
	if l.Coat.Wets() {
		stoneSteps(do)
		return
	}
	switch l.Laying {
	case school.DipAndRoll:
		do("Cut in along the walls by brush, ahead of the roller.")
		do("Roll from the tray in one direction, each dip across the last, then cross-roll at right angles: %s.",
			rollerWords(in, l, card.Area*measure.Area(card.Of), card.Wet))
	case school.Trowel:
		do("Pour in lines, spread with the trowel held flat, lap by lap.")
	case school.Brush:
		do("Brush it on in two directions; lay off the last strokes one way.")
	case school.Spray:
		do("Spray as its sheet says, in passes at right angles that lap by half; the mask and air that the safety data " +
			"sheet names.")
	default:
		do("Pour it in lines along the last edge; nothing stays in the pail.")
		if card.Wet >= notchFrom {
			do("Spread with a notch or pins of %s for %s wet; check with a gauge (ASTM D4414).",
				in.Units.Film(buildup.NotchOverFilm*card.Wet), in.Units.Film(card.Wet))
		} else {
			do("Pull it flat with a plain squeegee and roll it out to %s wet; check with a gauge (ASTM D4414). Roller: %s.",
				in.Units.Film(card.Wet), rollerWords(in, l, card.Area*measure.Area(card.Of), card.Wet))
		}
		do("Cut in along the walls by brush, ahead of the roller; back-roll at once, then cross-roll at right angles.")
		if card.Wet > spikesFrom || l.Scatter != nil {
			do("Walk in spiked shoes, lifting the feet: dragging leaves marks.")
		}
	}
	if card.Of > 1 && card.Batch > 1 && in.Methods.Session == school.WholeFloor {
		do("Roll past the line into section %d while it is wet: a stop on the line shows.", card.Section-1)
	}
	if card.Of > 1 && in.Methods.Session == school.TapeLines {
		do("Stop at the tape of this section and pull it while the film is wet; the next section begins at a clean edge.")
	}
	accentSteps(in, l, do, film)
	bubbleSteps(in, do)
	if card.Batch == card.Of && last {
		do("Pull the tape and the strips while this film is soft: slowly, back over itself; scrape what ran under them.")
	}
	if l.Number == 1 && drawn {
		if in.Methods.Doors == school.BeyondDoor {
			do("At doors run on to the line beyond the door leaf.")
		} else {
			do("At doors stop at the line under the closed door.")
		}
	}
}

// stoneSteps adds the work of laying wetted stones.
func stoneSteps(do func(string, ...any)) {
	do("Edges and forms first. Tip the stones along the last edge.")
	do("Spread them one or two layers deep by board or rails, into the section before.")
	do("Press them flat with a clean steel trowel; wipe it with solvent when it drags, away from any flame.")
}

// topSteps adds the work on a table or counter.
func topSteps(in *input.Inputs, i int, l input.ResolvedCoat, do func(string, ...any), section pour.Section,
	faces measure.Volume, wet measure.Film, film filmOf) {
	if faces > 0 {
		do("Edges first: %s of this pail with a nearly dry roller, so that what runs over wets them evenly.",
			in.Units.Volume(faces))
	} else {
		do("Edges first: a thin coat with a nearly dry roller, so that what runs over wets them evenly.")
	}
	for _, b := range section.Beads {
		if b.Narrow {
			do("Of what goes beside the cut-out, %s as a bead into the strip of %s, where it does not flow by itself.",
				in.Units.Volume(b.Volume), b.Name)
		} else {
			do("Pour %s in beads over %s.", in.Units.Volume(b.Volume), b.Name)
		}
	}
	for _, s := range section.Spans {
		if s.Goes {
			do("It ends %s along %s, from its left or lower end as it is drawn; the next batch goes on from there while it "+
				"flows.", in.Units.Length(s.To), s.Name)
		}
	}
	levelSteps(in, l, do, wet, film)
	accentSteps(in, l, do, film)
	if covered(in, i, l) {
		do("Leave it flowing, and its tape on: coat %d is poured over it while it is wet.", l.Number+1)
		return
	}
	bubbleSteps(in, do)
	switch {
	case !film.edge.Drips && film.edge.Tape > 0:
		do("Pull the tape about %s, and brush out what gathers along the lower edge; so thin a film hangs in no drips.",
			film.after(in, film.edge.Tape))
		return
	case !film.edge.Drips:
		do("Brush out what gathers along the lower edge; so thin a film hangs in no drips.")
		return
	}
	do("Pull the tape when the run down it has slowed, about %s; help the edge over and scrape the drips below.",
		film.after(in, film.edge.Tape))
	switch {
	case film.tack > 0:
		do("Scrape the drips again after %s; what hangs is cut when the film no longer sticks but bends, about %s.",
			in.Units.Span(work.DripsAgain), film.after(in, film.tack))
	default:
		do("Scrape the drips again after %s; what hangs is cut when the film no longer sticks but bends.",
			in.Units.Span(work.DripsAgain))
	}
}

// Edge holds what is done along the edge of a top once a coat is on it.
type Edge struct {
	Tape  measure.Span // after pouring, until the tape is pulled; 0 where it stays
	Drips bool         // the film runs down and hangs in drips
}

// EdgeOf returns that of a coat with a film: none on a floor, and none where the next coat is poured over it while it
// is wet. A film that runs nowhere by itself hangs in no drips, and its tape stays until the last coat.
func EdgeOf(in *input.Inputs, i int, l input.ResolvedCoat, wet measure.Film, working measure.Span) Edge {
	if in.File.Job.Surfaces[i].Top == nil || covered(in, i, l) {
		return Edge{}
	}
	e := Edge{Drips: wet >= (cure.Flow{Density: l.Sheet.Mix.Density.Value}).Rests()}
	if e.Drips || l.Number == len(in.Layers[i]) {
		e.Tape = work.TapeAfter(working)
	}
	return e
}

// covered reports whether the next coat is poured over one while it is wet.
func covered(in *input.Inputs, i int, l input.ResolvedCoat) bool {
	all := in.Layers[i]
	return l.Number < len(all) && all[l.Number].Coat.OverWet
}

// handApart holds the distance of beads, and the wave that levels last on a top: common practice, no source.
const handApart measure.Length = 0.15

// levelSteps adds how long a pour flows by itself, where its sheet says how thick it is.
func levelSteps(in *input.Inputs, l input.ResolvedCoat, do func(string, ...any), wet measure.Film, film filmOf) {
	p := l.Sheet.Product
	if len(p.Viscosity) == 0 {
		do("Wait and watch it level before it is touched again.")
		return
	}
	at := slices.MinFunc(p.Viscosity, func(a, b material.Flow) int {
		return cmp.Compare(math.Abs(float64(a.At-film.slab)), math.Abs(float64(b.At-film.slab)))
	})
	flow := cure.Flow{Viscosity: cure.ViscosityAt(at.Value, at.At, film.slab), Density: l.Sheet.Mix.Density.Value,
		Working: film.working}
	joined, joins := flow.Joins(wet, handApart)
	level, levels := flow.Levels(wet, handApart)
	switch {
	case wet < flow.Rests():
		do("Spread it by hand out to the edges: a film of %s does not run there by itself.", in.Units.Film(wet))
	case !joins || !levels:
		do("Spread it by hand: beads %s apart do not run together before it sets.", in.Units.Length(handApart))
	default:
		do("Beads %s apart run together and level in about %s: wait and watch before it is touched again.",
			in.Units.Length(handApart), in.Units.Span(max(joined, level, measure.Minute)))
	}
}

// evaporates is the time that a mist of alcohol is left before the next: common practice, no source.
const evaporates = 5 * measure.Minute

// accentSteps adds the mists of alcohol that draw cells into a coloured film.
func accentSteps(in *input.Inputs, l input.ResolvedCoat, do func(string, ...any), film filmOf) {
	if l.Coat.Colours == nil || l.Coat.Colours.Mists == 0 {
		return
	}
	do("Mist alcohol where cells shall open, little, a hand's length off; no flame, heat gun or dryer near. Let it " +
		"evaporate.")
	if l.Coat.Colours.Mists > 1 {
		do("A second, other mist about %s after the first.", in.Units.Span(evaporates))
	}
}

// bubbleSteps adds what this contractor does about them.
func bubbleSteps(in *input.Inputs, do func(string, ...any)) {
	switch in.Methods.Bubbles {
	case school.Torch:
		do("Torch for bubbles: quick, never still, no smoke, after the last touch; no alcohol or solvent open anywhere near.")
	case school.HeatGun:
		do("Heat gun for bubbles: always moving, after the last touch; its wire glows, so no alcohol or solvent open near.")
	case school.HairDryer:
		do("Hair dryer on low for bubbles, early and from the side: it pushes the film. No alcohol or solvent open near.")
	case school.Alcohol:
		do("Mist alcohol for bubbles after some minutes: small drops, not everywhere, and let it evaporate; no flame near.")
	}
}

// broadcastWords returns what is broadcast into a coat, in words; empty where nothing is.
func broadcastWords(l input.ResolvedCoat) string {
	if l.Scatter == nil {
		return ""
	}
	how := map[string]string{"light": "lightly", "even": "evenly", "full": "until no more sticks"}[l.Coat.Scatter.Degree]
	return fmt.Sprintf("%s %s, from a hand's height upwards so that it falls straight; leave a wet edge bare for the "+
		"next section.", l.Scatter.Name, how)
}
