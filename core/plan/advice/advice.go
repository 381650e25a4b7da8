// Package advice says what of a plan somebody should know, with a way out and often a change
// that takes it: what cannot be, what comes too late, near misses and better ways. It may know
// the inputs and the values of the stages, and changes neither.
package advice

import (
	"nephelon/core/finding"
	"nephelon/core/plan/input"
	"nephelon/core/plan/stage"
	"slices"
)

// Stages returns the findings about the stages of a plan, in their order.
func Stages(in *input.Inputs, s stage.Stages) []finding.Finding {
	return slices.Concat(
		measured(in, s.Measured), surveyed(in, s.Surveyed), built(in, s.Measured, s.Built), bought(in, s.Built, s.Bought),
		divided(in, s.Built, s.Divided), laid(in, s.Laid), timed(in, s.Laid, s.Timed),
	)
}
