package plan

import (
	"context"
	"fmt"
	"slices"
	"time"

	"nephelon/core/facts"
	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
)

// Assumed holds a value that a plan rests on although nobody measured it and no sheet states it, and what the plan
// would become if it lay at an end of its usual range.
type Assumed struct {
	Product string       `json:"product,omitempty" doc:"Id of the product; of the whole job when left out"`
	Name    string       `json:"name" doc:"Product and value in words"`
	Kind    measure.Kind `json:"kind"`
	Value   float64      `json:"value" doc:"Planned with, SI"`
	Ends    []AssumedEnd `json:"ends" doc:"Both ends of its range"`
}

// AssumedEnd holds how a plan differs with one end of a range.
type AssumedEnd struct {
	Value    float64      `json:"value" doc:"SI"`
	Kits     int          `json:"kits" doc:"How many more kits, or fewer below 0"`
	Batches  int          `json:"batches" doc:"How many more batches, or fewer below 0"`
	Cost     *float64     `json:"cost,omitempty" doc:"How much more the kits cost; absent where a size has no price"`
	Ready    measure.Span `json:"ready,omitempty" doc:"s that light foot traffic begins later, or earlier below 0"`
	Troubles []string     `json:"troubles" doc:"What would be refused or warned of then, and is not now"`
}

// slabRange bounds how far an assumed slab may be off, K: common practice, no source.
const slabRange = 5

// Assumptions tries a plan with each assumed value of its products at both ends of its range. What changes the plan
// stands first.
func (p *Planner) Assumptions(ctx context.Context, f job.File, world facts.Facts,
	units measure.System) ([]Assumed, error) {
	now, err := p.MakeFor(ctx, f, world, units)
	if err != nil {
		return nil, err
	}
	used := make(map[string]bool)
	for _, s := range f.Job.Surfaces {
		for _, c := range s.Coats {
			used[c.Product] = true
		}
	}
	all := []Assumed{}
	try := func(made Assumed, least, most float64, with func(value float64) job.File) error {
		for _, value := range []float64{least, most} {
			then, err := p.MakeFor(ctx, with(value), world, units)
			if err != nil {
				return err
			}
			made.Ends = append(made.Ends, endOf(value, now, then))
		}
		all = append(all, made)
		return nil
	}
	assumed := now.Slab.Basis == input.SlabAssumed ||
		now.Slab.Basis == input.SlabEntered && !input.Entered(f.Job.Slab)
	if assumed && len(used) > 0 {
		made := Assumed{Name: "slab temperature", Kind: measure.KindTemperature, Value: float64(now.Slab.Slab)}
		if err := try(made, made.Value-slabRange, made.Value+slabRange, func(value float64) job.File {
			tried := f
			tried.Job.Slab = &measure.Sourced[measure.Temperature]{Value: measure.Temperature(value),
				Source: measure.RuleOfThumb}
			return tried
		}); err != nil {
			return nil, err
		}
	}
	for i, product := range f.Products {
		if !used[product.ID] {
			continue
		}
		for _, a := range product.Assumptions() {
			made := Assumed{Product: product.ID, Name: fmt.Sprintf("%s, %s", product.Name, a.Name), Kind: a.Kind,
				Value: a.Value}
			if err := try(made, a.Least, a.Most, func(value float64) job.File {
				tried := f
				tried.Products = slices.Clone(f.Products)
				tried.Products[i] = a.With(product, value)
				return tried
			}); err != nil {
				return nil, err
			}
		}
	}
	slices.SortStableFunc(all, func(a, b Assumed) int { return b.weight() - a.weight() })
	return all, nil
}

// endOf compares two plans.
func endOf(value float64, now, then Plan) AssumedEnd {
	end := AssumedEnd{Value: value, Kits: then.Line.Kits - now.Line.Kits,
		Batches: then.Line.Batches - now.Line.Batches, Troubles: []string{}}
	if now.Cost != nil && then.Cost != nil {
		more := *then.Cost - *now.Cost
		end.Cost = &more
	}
	if now.Line.Ready != nil && then.Line.Ready != nil {
		end.Ready = measure.Span(then.Line.Ready.Sub(*now.Line.Ready).Round(time.Minute).Seconds())
	}
	// Findings tell figures, which differ with the value: those of a place and a level count.
	had := make(map[string]int)
	key := func(f finding.Finding) string { return string(f.Level) + string(f.Step) + f.Path }
	for _, f := range now.Findings {
		had[key(f)]++
	}
	for _, f := range then.Findings {
		if had[key(f)]--; had[key(f)] < 0 && f.Level != finding.Note {
			end.Troubles = append(end.Troubles, f.Text)
		}
	}
	return end
}

// weight orders what rests on assumptions: troubles before kits before all else.
func (a Assumed) weight() int {
	most := 0
	for _, e := range a.Ends {
		w := 0
		switch {
		case len(e.Troubles) > 0:
			w = 3
		case e.Kits != 0:
			w = 2
		case e.Batches != 0 || e.Ready != 0:
			w = 1
		}
		most = max(most, w)
	}
	return most
}
