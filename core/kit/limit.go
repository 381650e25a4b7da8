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
	Life      measure.Span   // pot life at this temperature, 0 where there is none
	Kit       measure.Volume // the largest at hand
	KitShare  float64        // of a kit that is mixed at most at once; 1 or 0 is a whole one or more
}

// Limits lists what bounds one batch, the tightest first. It fails where no
// batch at all can be spread in time.
func Limits(p *material.Product, bucket Bucket, s Spreading, units measure.System) ([]Limit, error) {
	limits := []Limit{{
		Name: "bucket", Volume: bucket.Usable(),
		Text: fmt.Sprintf("The bucket of %s holds %s with %s headroom.", units.Volume(bucket.Volume), units.Volume(bucket.Usable()), units.Fraction(bucket.Headroom)),
	}}
	life := s.Life
	if len(p.Components) > 1 && life > 0 {
		left := life
		if p.Mixing != nil {
			left -= p.Mixing.Value
		}
		if p.Induction != nil {
			left -= p.Induction.Value
		}
		if left <= 0 {
			return nil, fmt.Errorf("its pot life of %s ends before mixing and standing are done", units.Span(life))
		}
		area := measure.Area(float64(s.Pace) * float64(s.Spreaders) * float64(left))
		limits = append(limits, Limit{
			Name: "pot life", Volume: s.PerArea * measure.Volume(area),
			Text: fmt.Sprintf("%s can be spread over %s in the %s of pot life left after mixing.", people(s.Spreaders), units.Area(area), units.Span(left)),
		})
	}
	if share := s.KitShare; share > 0 && share < 1 && s.Kit > 0 {
		limits = append(limits, Limit{
			Name: "kit policy", Volume: s.Kit * measure.Volume(share),
			Text: fmt.Sprintf("You mix at most %s of a kit of %s at a time.", units.Fraction(measure.Fraction(share)), units.Volume(s.Kit)),
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
