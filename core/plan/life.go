package plan

import (
	"fmt"

	"nephelon/core/cure"
	"nephelon/core/finding"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// lives is what the pot life of a sheet comes to with the parts as warm as they
// are planned.
type lives struct {
	table  *cure.Table         // pot life over mass; nil where there is none
	model  *cure.Remembered    // fitted; nil where there is none
	start  measure.Temperature // of the mix
	beyond bool                // the temperatures of the sheet
}

// of is the pot life of a mass, 0 where there is none.
func (l *lives) of(mass measure.Mass) measure.Span {
	if l == nil || l.table == nil {
		return 0
	}
	return l.table.Life(mass)
}

// left is what becomes of a mass that is left in its pail; empty where that is not
// known.
func (l *lives) left(mass measure.Mass) cure.Left {
	if l == nil || l.table == nil {
		return cure.Left{}
	}
	left, err := l.model.Left(mass, l.start)
	if err != nil {
		return cure.Left{}
	}
	return left
}

// mixedAt is a sheet whose parts met at a temperature.
type mixedAt struct {
	sheet *sheet
	start measure.Temperature
}

// tabled is its pot life over mass, with the model behind it; both nil where
// there is none.
type tabled struct {
	table *cure.Table
	model *cure.Remembered
	bad   error // why there is none, where the sheet gives one
}

// leastMass is the smallest mass whose pot life is worked out, a cup in kg; below it the
// pot life is taken to stay.
const leastMass measure.Mass = 0.02

// life returns the pot life of a sheet with its parts as warm as they are planned.
func (d *divider) life(s *sheet) *lives {
	known := d.tables.get(mixedAt{s, s.parts})
	l := &lives{start: s.parts, table: known.table, model: known.model}
	if l.table != nil {
		l.beyond = l.table.Beyond
	}
	return l
}

// table returns the pot life over mass of parts that met at a temperature.
func (d *divider) table(at mixedAt) tabled {
	s, made := at.sheet, tabled{}
	if len(s.product.Components) < 2 || len(s.product.PotLife) == 0 {
		return made
	}
	made.model, made.bad = d.fits.Life(s.product.Sheet(s.mix))
	if made.bad != nil {
		return made
	}
	air := d.in.slab
	if own := d.in.file.Job.Mixing.Air; own != nil {
		air = own.Value
	}
	most := max(s.mix.Density.Value.Of(largestBucket(d.in.file.Job.Bucket, d.in.layers)), 2*leastMass)
	table, err := made.model.Over(leastMass, most, at.start, air, d.in.file.Job.Mixing.Standing)
	if made.bad = err; err == nil {
		made.table = &table
	}
	return made
}

// extremes warns, once for a sheet, where a mix is outside what its sheet speaks of.
func (d *divider) extremes(s *sheet, l *lives) {
	if l.table == nil || d.told[s] {
		return
	}
	d.told[s] = true
	p, path := s.product, "/job/mixing"
	switch {
	case p.MaterialMin != nil && l.start < p.MaterialMin.Value, p.MaterialMax != nil && l.start > p.MaterialMax.Value:
		d.find(finding.Finding{
			Level: finding.Warning, Step: finding.Batches, Path: path,
			Text:   fmt.Sprintf("%s is mixed at %s; its sheet allows its parts %s.", p.Name, d.in.units.Temperature(l.start), rangeOf(d.in, p.MaterialMin, p.MaterialMax)),
			WayOut: "Store the parts at the working temperature for 12 to 18 h before.",
		})
	case l.beyond:
		d.find(finding.Finding{
			Level: finding.Warning, Step: finding.Batches, Path: path,
			Text:   fmt.Sprintf("The pot life of %s at %s is beyond the sheet, which tells of %s; colder than that no longer one is planned with.", p.Name, d.in.units.Temperature(l.start), timedAt(d.in, p.PotLife)),
			WayOut: "Bring the parts to a temperature of the sheet, or time a small batch and enter it as your own test.",
		})
	}
	if l.model.Fit.Assumed {
		d.find(finding.Finding{
			Level: finding.Note, Step: finding.Batches, Path: s.path + "/potLife",
			Text:   fmt.Sprintf("The sheet of %s gives one pot life only; how it changes with mass and heat is assumed from its chemistry.", p.Name),
			WayOut: "Time a batch of the size you mix, and enter it as your own test.",
		})
	}
	if p.Massed() == 0 {
		d.find(finding.Finding{
			Level: finding.Note, Step: finding.Batches, Path: s.path + "/potLife",
			Text:   fmt.Sprintf("The sheet of %s does not say on which mass its pot life was measured; %s was assumed, and how much shorter a bucket lives rests on that.", p.Name, d.in.units.Mass(cure.AssumedMass)),
			WayOut: "Ask the maker, or time a batch and enter it as your own test.",
		})
	}
}

// told names the temperatures at which pot lives were timed.
func timedAt(in *inputs, all []material.PotLife) string {
	low, high := all[0].At, all[0].At
	for _, p := range all {
		low, high = min(low, p.At), max(high, p.At)
	}
	if low == high {
		return in.units.Temperature(low) + " only"
	}
	return in.units.Temperature(low) + " to " + in.units.Temperature(high)
}

func rangeOf(in *inputs, low, high *measure.Sourced[measure.Temperature]) string {
	switch {
	case low == nil:
		return "at most " + in.units.Temperature(high.Value)
	case high == nil:
		return "at least " + in.units.Temperature(low.Value)
	}
	return in.units.Temperature(low.Value) + " to " + in.units.Temperature(high.Value)
}
