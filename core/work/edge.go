package work

import "nephelon/core/measure"

// TapeAfter returns the time until the run of a film down an edge has slowed, by how long it can be worked, where that
// is known: common practice, no source.
func TapeAfter(working measure.Span) measure.Span {
	const slowed = 30 * measure.Minute
	if working > 0 {
		return min(slowed, working/2)
	}
	return slowed
}

// DripsAgain holds the time after which the lower edge of a top is looked at once more: common practice, no source.
const DripsAgain measure.Span = 10 * measure.Minute
