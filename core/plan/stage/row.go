// Package stage works a job out in stages, each a function from what it needs to a new value that
// nothing changes afterwards:
//
//	measured → surveyed → built → bought → divided → laid → timed
//
// It may know the inputs and the stages before; it holds values, no advice and no instructions.
package stage

import (
	"context"

	"nephelon/core/cure"
	"nephelon/core/plan/input"
	"nephelon/core/pour"
	"nephelon/core/pour/sim"
)

// Stages are the values of all stages of one plan.
type Stages struct {
	Measured Measured
	Surveyed Surveyed
	Built    Built
	Bought   Bought
	Divided  Divided
	Laid     Laid
	Timed    Timed
}

// Row runs the stages one after another, and remembers of one plan what the next one needs,
// too: fitted pot lives, divided floors and trains as they run best. It may be shared.
type Row struct {
	fits   *cure.Known
	floors *pour.Memory
	trains *sim.Memory
}

// NewRow remembers nothing yet.
func NewRow() *Row { return &Row{cure.NewKnown(), pour.NewMemory(), sim.NewMemory()} }

// Run runs the stages over a job. It fails with the context's error where the caller is gone
// before the last is done.
func (r *Row) Run(ctx context.Context, in *input.Inputs) (Stages, error) {
	var s Stages
	for _, run := range []func(){
		func() { s.Measured = MeasureAll(in) },
		func() { s.Surveyed = SurveyAll(in, s.Measured) },
		func() { s.Built = BuildAll(in, s.Measured) },
		func() { s.Bought = BuyAll(in, s.Built) },
		func() { s.Divided = DivideAll(ctx, in, r.fits, s.Measured, s.Built, s.Bought) },
		func() { s.Laid = LayAll(ctx, in, r.floors, s.Measured, s.Divided) },
		func() { s.Timed = TimeAll(ctx, in, r.trains, s.Measured, s.Divided, s.Laid) },
	} {
		if ctx.Err() != nil {
			break
		}
		run()
	}
	return s, ctx.Err()
}
