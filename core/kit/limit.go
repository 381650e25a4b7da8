package kit

import (
	"cmp"
	"fmt"
	"slices"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// PotLife gives the pot life of a mass at the temperature that it is mixed at.
type PotLife interface {
	Life(measure.Mass) measure.Span
}

// Spreading holds the rate at which a coat leaves the bucket, and its pot life there. It is comparable:
// limits of equal products, buckets and Spreadings are equal.
type Spreading struct {
	Spreaders int
	Pace      measure.Pace   // of one person
	PerArea   measure.Volume // m³ mixed for each m², loss included
	Density   measure.Density
	Life      PotLife        // nil where there is none
	Carry     measure.Span   // from the mixing place to the floor
	Kit       measure.Volume // the largest at hand
	KitShare  float64        // of a kit that is mixed at most at once; 0 is no limit
	Mixing    Mixing         // before it is carried
	Stones    Stones         // that are wetted in it
	Wanted    measure.Volume // at most in one batch, by choice; 0 is no limit
	Thinner   float64        // stirred in, as a share of what is mixed; it takes room in the bucket
}

// left is the pot life of a mass that remains on the floor.
func (s Spreading) left(v measure.Volume) measure.Span {
	return s.Life.Life(s.Density.Of(v)) - s.Carry - s.Mixing.Ready()
}

// spread is the time that a volume takes to be spread.
func (s Spreading) spread(v measure.Volume) measure.Span {
	return measure.Span(float64(v/s.PerArea) / (float64(s.Pace) * float64(s.Spreaders)))
}

// least is the smallest batch that anyone mixes, m³: common practice, no source.
const least measure.Volume = 0.00005

// Spreadable is the largest batch that this crew spreads within the life that so
// large a batch has left after mixing, standing and carrying, looked for up to a
// largest one; 0 where not even the least batch can be spread.
func (s Spreading) Spreadable(p *material.Product, largest measure.Volume) measure.Volume {
	fits := func(v measure.Volume) bool { return s.spread(v) <= s.left(v) }
	if !fits(least) {
		return 0
	}
	low, high := least, max(largest, 2*least)
	if fits(high) {
		return high
	}
	for high-low > low*1e-6 {
		if middle := (low + high) / 2; fits(middle) {
			low = middle
		} else {
			high = middle
		}
	}
	return low
}

// reach is the number of buckets' worth that is asked about, so that what the pot life
// allows can be told even where the bucket decides.
const reach = 8

// Limits lists what bounds one batch, the tightest first. It fails where no
// batch at all can be spread in time.
func Limits(p *material.Product, bucket Bucket, s Spreading, units measure.System) ([]Limit, error) {
	limits := []Limit{{
		Kind: ByBucket, Volume: bucket.Usable() / measure.Volume(1+s.Thinner),
		Text: fmt.Sprintf("The bucket of %s holds %s with %s headroom.", units.Volume(bucket.Volume),
			units.Volume(bucket.Usable()), units.Fraction(bucket.Headroom)),
	}}
	if s.Thinner > 0 {
		limits[0].Text += fmt.Sprintf(" With %s of thinner that is %s of A and B.",
			units.Fraction(measure.Fraction(s.Thinner)), units.Volume(limits[0].Volume))
	}
	if len(p.Components) > 1 && s.Life != nil {
		v := s.Spreadable(p, reach*bucket.Usable())
		if v == 0 {
			return nil, fmt.Errorf("its pot life of %s ends before mixing, standing and carrying are done",
				units.Span(s.Life.Life(s.Density.Of(least))))
		}
		area := measure.Area(float64(v / s.PerArea))
		limits = append(limits, Limit{
			Kind: ByPotLife, Volume: v,
			Text: fmt.Sprintf("%s can be spread over %s in the %s of pot life that %s of it has left after mixing.",
				people(s.Spreaders),
				units.Area(area), units.Span(s.left(v)), units.Mass(s.Density.Of(v))),
		})
	}
	if s.KitShare > 0 && s.Kit > 0 {
		text := fmt.Sprintf("You mix at most %s of a kit of %s at a time.", units.Fraction(measure.Fraction(s.KitShare)),
			units.Volume(s.Kit))
		if s.KitShare == 1 {
			text = fmt.Sprintf("You mix one kit of %s at a time.", units.Volume(s.Kit))
		}
		limits = append(limits, Limit{Kind: ByPolicy, Volume: s.Kit * measure.Volume(s.KitShare), Text: text})
	}
	if s.Stones.PerArea > 0 {
		limits = append(limits, s.Stones.limit(s.PerArea, units))
	}
	if s.Wanted > 0 {
		limits = append(limits, Limit{Kind: ByChoice, Volume: s.Wanted,
			Text: fmt.Sprintf("You want at most %s in a batch of this coat.", units.Volume(s.Wanted))})
	}
	if most := p.MixMax; most != nil {
		limits = append(limits, Limit{Kind: BySheet, Volume: s.Density.Volume(most.Value),
			Text: fmt.Sprintf("Its sheet allows at most %s mixed at once.", units.Mass(most.Value))})
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
