package kit

import (
	"cmp"
	"fmt"
	"slices"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// Spreading is how fast a coat leaves the bucket.
type Spreading struct {
	Spreaders int
	Pace      measure.Pace   // of one person
	PerArea   measure.Volume // m³ mixed for each m², loss included
}

// Limits lists what bounds one batch, the tightest first. It fails where no
// batch at all can be spread in time.
func Limits(p material.Product, bucket Bucket, s Spreading, units measure.System) ([]Limit, error) {
	limits := []Limit{{
		Name: "bucket", Volume: bucket.Usable(),
		Text: fmt.Sprintf("The bucket of %s holds %s with %s headroom.", units.Volume(bucket.Volume), units.Volume(bucket.Usable()), units.Fraction(bucket.Headroom)),
	}}
	if len(p.Components) > 1 && p.PotLife != nil {
		left := p.PotLife.Value
		if p.Mixing != nil {
			left -= p.Mixing.Value
		}
		if p.Induction != nil {
			left -= p.Induction.Value
		}
		if left <= 0 {
			return nil, fmt.Errorf("its pot life of %s ends before mixing and standing are done", units.Span(p.PotLife.Value))
		}
		area := measure.Area(float64(s.Pace) * float64(s.Spreaders) * float64(left))
		limits = append(limits, Limit{
			Name: "pot life", Volume: s.PerArea * measure.Volume(area),
			Text: fmt.Sprintf("%s can be spread over %s in the %s of pot life left after mixing.", people(s.Spreaders), units.Area(area), units.Span(left)),
		})
	}
	slices.SortStableFunc(limits, func(a, b Limit) int { return cmp.Compare(a.Volume, b.Volume) })
	return limits, nil
}

func people(n int) string {
	if n == 1 {
		return "By one person it"
	}
	return fmt.Sprintf("By %d people it", n)
}
