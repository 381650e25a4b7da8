package stage

import (
	"math"

	"nephelon/core/cure"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
)

// Lives holds the pot life of a sheet with the parts as warm as they
// are planned.
type Lives struct {
	Table  *cure.Table         // pot life over mass; nil where there is none
	Model  *cure.Remembered    // fitted; nil where there is none
	Start  measure.Temperature // of the mix
	Beyond bool                // the temperatures of the sheet
}

// Of is the pot life of a mass, 0 where there is none.
func (l *Lives) Of(mass measure.Mass) measure.Span {
	if l == nil || l.Table == nil {
		return 0
	}
	return l.Table.Life(mass)
}

// Ages returns how a mix ages in the pail against a film on a slab; as fast, where that is not known.
func (l *Lives) Ages(slab measure.Temperature) cure.Aging {
	if l == nil || l.Model == nil {
		return cure.Aging{Times: 1}
	}
	return l.Model.Ages(l.Start, slab)
}

// Left returns what becomes of a mass that stays in its pail; empty where that is not
// known.
func (l *Lives) Left(mass measure.Mass) cure.Left {
	if l == nil || l.Table == nil {
		return cure.Left{}
	}
	left, err := l.Model.Left(mass, l.Start)
	if err != nil {
		return cure.Left{}
	}
	return left
}

// mixedAt is a sheet whose parts met at a temperature.
type mixedAt struct {
	sheet *input.Sheet
	start measure.Temperature
}

// tabled is its pot life over mass, with the model behind it; both nil where
// there is none.
type tabled struct {
	table *cure.Table
	model *cure.Remembered
	bad   error // why there is none, where the sheet gives one
}

// LeastMass is the smallest mass whose pot life is worked out, a cup in kg; below it the
// pot life is taken to stay.
const LeastMass measure.Mass = 0.02

// life returns the pot life of a sheet with its parts as warm as they are planned.
func (d *divider) life(s *input.Sheet) *Lives {
	known := d.tables.get(mixedAt{s, s.Parts})
	l := &Lives{Start: s.Parts, Table: known.table, Model: known.model}
	if l.Table != nil {
		l.Beyond = l.Table.Beyond
	}
	return l
}

// table returns the pot life over mass of parts that met at a temperature.
func (d *divider) table(at mixedAt) tabled {
	s, made := at.sheet, tabled{}
	if len(s.Product.Components) < 2 || len(s.Product.PotLife) == 0 {
		return made
	}
	made.model, made.bad = d.fits.Life(s.Product.Sheet(s.Mix))
	if made.bad != nil {
		return made
	}
	most := max(s.Mix.Density.Value.Of(input.LargestBucket(d.in.File.Job.Bucket, d.in.Layers)), 2*LeastMass)
	table, err := made.model.Over(LeastMass, most, at.start, d.in.MixingAir(), d.in.File.Job.Mixing.Standing)
	if made.bad = err; err == nil {
		made.table = &table
	}
	return made
}

// SmokesAfter returns the time from end of use to smoke, to the half minute
// below.
func SmokesAfter(left cure.Left) measure.Span {
	return measure.Span(math.Floor(float64(*left.Smokes-*left.Usable)/30) * 30)
}
