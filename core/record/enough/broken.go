package enough

import (
	"time"

	"nephelon/core/measure"
	"nephelon/core/record"
)

// BrokenOff returns when a coat was broken off and what share of its area was laid then: its day was closed after what
// was last done of it, with sections left. False where it was not.
func BrokenOff(plan *record.Issue, d *record.Day, c *record.CoatDay) (at time.Time, share measure.Fraction, is bool) {
	of := plan.Coat(c.ID)
	if d.Closed == nil || c.Begun == nil || c.Done != nil || of == nil {
		return at, 0, false
	}
	at = *c.Begun
	laid, all := measure.Area(0), measure.Area(0)
	for n, b := range c.Batches {
		area := of.Batches[n].SectionArea()
		all += area
		if b.When(record.Rolled) != nil || b.When(record.Spread) != nil {
			laid += area
		}
		for _, touched := range []*time.Time{b.Meets, b.Mixed, b.Poured, b.Spread, b.Rolled} {
			if touched != nil && touched.After(at) {
				at = *touched
			}
		}
	}
	if d.Closed.At.Before(at) || all <= 0 {
		return at, 0, false
	}
	return at, measure.Fraction(laid / all), true
}
