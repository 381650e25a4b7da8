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
	key   material.SheetKey
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

// life works out, once for a sheet, how long a mass of it lives in the pail; nil
// where it has no pot life. It fails where the sheet gives one that cannot be
// followed: a batch sized without it would trust the bucket alone.
func (d *divider) life(s *sheet) (func(measure.Mass) measure.Span, error) {
	l := d.lives[s.key]
	if l == nil {
		l = &lives{start: d.partsAt(s.mix)}
		d.lives[s.key] = l
		known := d.table(s, l.start)
		l.table, l.model = known.table, known.model
		if l.table != nil {
			l.beyond = l.table.Beyond
		}
		d.extremes(s, l)
	}
	if l.table == nil {
		return nil, d.table(s, l.start).bad
	}
	return l.table.Life, nil
}

// partsAt is the temperature at which the parts of a mix have met.
func (t terms) partsAt(mix material.Mix) measure.Temperature {
	a, b := t.slab, t.slab
	if own := t.file.Job.Mixing.A; own != nil {
		a, b = own.Value, own.Value
	}
	if own := t.file.Job.Mixing.B; own != nil {
		b = own.Value
	}
	parts := make([]cure.Part, len(mix.Shares))
	for i, s := range mix.Shares {
		parts[i] = cure.Part{Mass: s.Density.Value.Of(measure.Volume(s.Volume)), At: b}
		if i == 0 {
			parts[i].At = a
		}
	}
	return cure.Mixed(parts...)
}

// table is the pot life over mass of parts that met at a temperature. Each is
// worked out once, and a sheet is calibrated once.
func (d *divider) table(s *sheet, start measure.Temperature) *tabled {
	at := mixedAt{s.key, start}
	if known := d.tables[at]; known != nil {
		return known
	}
	made := &tabled{}
	d.tables[at] = made
	if len(s.product.Components) < 2 || len(s.product.PotLife) == 0 {
		return made
	}
	made.model, made.bad = d.known.Life(s.product.Sheet(s.mix))
	if made.bad != nil {
		return made
	}
	air := d.slab
	if own := d.file.Job.Mixing.Air; own != nil {
		air = own.Value
	}
	most := max(s.mix.Density.Value.Of(d.largestBucket()), 2*leastMass)
	table, err := made.model.Over(leastMass, most, start, air, d.file.Job.Mixing.Standing)
	if made.bad = err; err == nil {
		made.table = &table
	}
	return made
}

// extremes says where a mix is outside what its sheet speaks of.
func (d *divider) extremes(s *sheet, l *lives) {
	if l.table == nil {
		return
	}
	p, path := s.product, "/job/mixing"
	switch {
	case p.MaterialMin != nil && l.start < p.MaterialMin.Value, p.MaterialMax != nil && l.start > p.MaterialMax.Value:
		d.find(finding.Finding{
			Level: finding.Warning, Step: finding.Batches, Path: path,
			Text:   fmt.Sprintf("%s is mixed at %s; its sheet allows its parts %s.", p.Name, d.units.Temperature(l.start), d.between(p.MaterialMin, p.MaterialMax)),
			WayOut: "Store the parts at the working temperature for 12 to 18 h before.",
		})
	case l.beyond:
		d.find(finding.Finding{
			Level: finding.Warning, Step: finding.Batches, Path: path,
			Text:   fmt.Sprintf("The pot life of %s at %s is beyond the sheet, which tells of %s; colder than that no longer one is planned with.", p.Name, d.units.Temperature(l.start), d.told(p.PotLife)),
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
			Text:   fmt.Sprintf("The sheet of %s does not say on which mass its pot life was measured; %s was assumed, and how much shorter a bucket lives rests on that.", p.Name, d.units.Mass(cure.AssumedMass)),
			WayOut: "Ask the maker, or time a batch and enter it as your own test.",
		})
	}
}

// told names the temperatures at which pot lives were timed.
func (t terms) told(all []material.PotLife) string {
	low, high := all[0].At, all[0].At
	for _, p := range all {
		low, high = min(low, p.At), max(high, p.At)
	}
	if low == high {
		return t.units.Temperature(low) + " only"
	}
	return t.units.Temperature(low) + " to " + t.units.Temperature(high)
}

func (t terms) between(low, high *measure.Sourced[measure.Temperature]) string {
	switch {
	case low == nil:
		return "at most " + t.units.Temperature(high.Value)
	case high == nil:
		return "at least " + t.units.Temperature(low.Value)
	}
	return t.units.Temperature(low.Value) + " to " + t.units.Temperature(high.Value)
}
