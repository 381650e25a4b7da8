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
	table *cure.Table         // pot life over mass; nil where there is none
	model *cure.Life          // calibrated; nil where there is none
	start measure.Temperature // of the mix
}

// of is the pot life of a mass, 0 where there is none.
func (l *lives) of(mass measure.Mass) measure.Span {
	if l == nil || l.table == nil {
		return 0
	}
	return l.table.Life(mass)
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
	model *cure.Life
}

// The masses over which a pot life is worked out: from a cup to a full bucket,
// beyond which it is taken to stay.
const leastMass measure.Mass = 0.2

// life works out, once for a sheet, how long a mass of it lives in the pail; nil
// where it has no pot life.
func (d *divider) life(s *sheet) func(measure.Mass) measure.Span {
	l := d.lives[s.key]
	if l == nil {
		l = &lives{start: d.partsAt(s.mix)}
		d.lives[s.key] = l
		known := d.table(s, l.start)
		l.table, l.model = known.table, known.model
		d.extremes(s, l)
	}
	if l.table == nil {
		return nil
	}
	return l.table.Life
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
	points, mass := s.product.PotPoints()
	if len(s.product.Components) < 2 || len(points) == 0 {
		return made
	}
	if l := d.lives[s.key]; l != nil && l.model != nil {
		made.model = l.model
	} else if model, err := cure.NewLife(cure.Sheet{Points: points, Mass: mass, Density: s.mix.Density.Value, Kinetics: s.product.Reacts()}); err == nil {
		made.model = &model
	} else {
		return made // refused by Faults
	}
	air := d.slab
	if own := d.file.Job.Mixing.Air; own != nil {
		air = own.Value
	}
	most := max(s.mix.Density.Value.Of(d.file.Job.Bucket.Usable()), 2*leastMass)
	if table, err := made.model.Over(leastMass, most, start, air, d.file.Job.Mixing.Standing); err == nil {
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
	_, mass := p.PotPoints()
	switch _, _, outside := p.Lives(l.start); {
	case p.MaterialMin != nil && l.start < p.MaterialMin.Value, p.MaterialMax != nil && l.start > p.MaterialMax.Value:
		d.find(finding.Finding{
			Level: finding.Warning, Step: finding.Batches, Path: path,
			Text:   fmt.Sprintf("%s is mixed at %s; its sheet allows its parts %s.", p.Name, d.units.Temperature(l.start), d.between(p.MaterialMin, p.MaterialMax)),
			WayOut: "Store the parts at the working temperature for 12 to 18 h before.",
		})
	case outside:
		d.find(finding.Finding{
			Level: finding.Note, Step: finding.Batches, Path: path,
			Text:   fmt.Sprintf("The pot life of %s at %s lies outside the temperatures of its sheet and is extrapolated.", p.Name, d.units.Temperature(l.start)),
			WayOut: "Try a small batch first, with a clock.",
		})
	}
	if mass == 0 {
		d.find(finding.Finding{
			Level: finding.Note, Step: finding.Batches, Path: s.path + "/potLife",
			Text:   fmt.Sprintf("The sheet of %s does not say on which mass its pot life was measured; %s was assumed, and how much shorter a bucket lives rests on that.", p.Name, d.units.Mass(cure.AssumedMass)),
			WayOut: "Ask the maker, or time a batch and enter it as your own test.",
		})
	}
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
