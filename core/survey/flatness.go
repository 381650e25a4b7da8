package survey

import (
	"fmt"
	"math"

	"nephelon/core/measure"
)

// LevelsFrom is the wet film from which a coat levels itself over what is uneven.
const LevelsFrom measure.Film = 1e-3

// Gaps under a straightedge of 2 m that a film of its thickness still hides: 1.5 mm on a very flat floor, 2 to 3 mm on
// a less perfect one. Common practice, no source; the steps between are ours.
const (
	gapOfLeast = 1e-3
	leastLevel = 1.5e-3
	mostLevel  = 3e-3
)

// LevellingFilm returns the wet film that hides a gap under a straightedge, 0 where none does and the floor is levelled
// first.
func LevellingFilm(gap float64) measure.Film {
	switch {
	case gap <= gapOfLeast:
		return leastLevel
	case gap <= mostLevel:
		return measure.Film(math.Max(leastLevel, gap))
	}
	return 0
}

// flatness judges whether the film that levels itself hides how uneven the floor is.
func (j *judge) flatness() {
	r := j.worst(Flatness, more)
	if r == nil || j.coats.Levels == 0 {
		return
	}
	units, wants := j.scene.Units, LevellingFilm(r.Value)
	gap, film := units.Length(measure.Length(r.Value)), units.Film(j.coats.Levels)
	where := j.spots(Flatness, func(v float64) bool { f := LevellingFilm(v); return f == 0 || f > j.coats.Levels })
	const basis = "common practice"
	switch {
	case wants == 0:
		j.say("flatness", FitAfter, basis, "Fill the low places or grind the high ones, and measure again.",
			"There is a gap of %s under a straightedge of 2 m; a levelling coat hides at most %s.%s", gap,
			units.Film(mostLevel), where)
	case wants > j.coats.Levels:
		j.say("flatness", FitAfter, basis,
			fmt.Sprintf("Lay %s, which takes %.0f %% more of that coat, or fill the low places first.", units.Film(wants),
				100*(float64(wants/j.coats.Levels)-1)),
			"There is a gap of %s under a straightedge of 2 m, and the levelling coat is %s: it shows.%s", gap, film, where)
	default:
		j.say("flatness", FitNow, basis, "",
			"There is a gap of %s under a straightedge of 2 m; a levelling coat of %s hides it.", gap, film)
	}
}
