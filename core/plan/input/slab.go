package input

import (
	"fmt"
	"time"

	"nephelon/core/cure"
	"nephelon/core/facts"
	"nephelon/core/finding"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/survey"
)

// SlabBasis names what the temperature of a slab rests on.
type SlabBasis string

// What it may rest on.
const (
	SlabIsRead  SlabBasis = "read"
	SlabEntered SlabBasis = "entered"
	SlabAssumed SlabBasis = "assumed"
)

// Values returns all values, in the order in which they are shown.
func (SlabBasis) Values() []SlabBasis { return []SlabBasis{SlabIsRead, SlabEntered, SlabAssumed} }

// slabFresh holds how long a reading of a slab is planned with in place of what was assumed: common practice,
// no source.
const slabFresh = 48 * time.Hour

// slabRecent holds how long a reading of a slab is compared with what was entered: another season has another slab.
// Common practice, no source.
const slabRecent = 14 * 24 * time.Hour

// SlabFrom holds the temperature of the slab that a job is planned for, and what it rests on.
type SlabFrom struct {
	Slab  measure.Temperature `json:"slab" doc:"°C; through a forecast, where there is one, only of the parts"`
	Parts measure.Temperature `json:"parts" doc:"°C of parts that nobody entered: as they were read, or as the slab"`
	Air   measure.Temperature `json:"air" doc:"°C of air at the mixing place that nobody entered: as it was read, or as the slab"`
	Basis SlabBasis           `json:"basis"`
	At    *time.Time          `json:"at,omitempty" doc:"When it was read"`
	On    string              `json:"on,omitempty" doc:"The surface that it was read on"`

	PartsAt *time.Time `json:"partsAt,omitempty" doc:"When the parts were read"`
	AirAt   *time.Time `json:"airAt,omitempty" doc:"When the air was read"`
}

// SlabRead holds a temperature as it was read, of a slab or of what is mixed over it, and where.
type SlabRead struct {
	Slab measure.Temperature
	At   time.Time
	On   string // the surface; empty where it was read on a job day
}

// newest returns the newest reading of a kind: of a survey, or of a slab on a job day; nil where none was taken of
// late.
func (in *Inputs) newest(kind survey.ReadingKind, logged []facts.Reading) *SlabRead {
	var newest *SlabRead
	take := func(r SlabRead) {
		if in.Now.Sub(r.At) > slabRecent {
			return
		}
		if newest == nil || r.At.After(newest.At) {
			newest = &r
		}
	}
	for _, s := range in.File.Job.Surfaces {
		if s.Survey == nil || len(s.Coats) == 0 {
			continue
		}
		for n := range s.Survey.Readings {
			if r := &s.Survey.Readings[n]; r.Kind == kind && r.Check(in.Now, in.Units) == nil {
				take(SlabRead{measure.Temperature(r.Value), r.At, s.Name})
			}
		}
	}
	for _, r := range logged {
		if !r.At.After(in.Now) {
			take(SlabRead{r.Slab, r.At, ""})
		}
	}
	return newest
}

// checkTemperatures refuses what no site is at, and plans with what is assumed in
// its place.
func (in *Inputs) checkTemperatures() []finding.Finding {
	var found []finding.Finding
	mixing := &in.File.Job.Mixing
	for _, c := range []struct {
		value     **measure.Sourced[measure.Temperature]
		path      string
		low, high measure.Temperature
		text      string
	}{
		{&in.File.Job.Slab, "/job/slab", -30, 60, "The slab is planned for"},
		{&mixing.A, "/job/mixing/a", -10, 60, "Part A comes at"},
		{&mixing.B, "/job/mixing/b", -10, 60, "Part B comes at"},
		{&mixing.Air, "/job/mixing/air", -30, 60, "The air at the mixing place is at"},
	} {
		at := *c.value
		if at == nil || at.Value >= c.low && at.Value <= c.high {
			continue
		}
		found = append(found, Refused(finding.Batches, c.path, fmt.Sprintf("Enter %s to %s.", in.Units.Temperature(c.low),
			in.Units.Temperature(c.high)), "%s %s.", c.text, in.Units.Temperature(at.Value)))
		*c.value = nil
	}
	in.Slab, in.From = material.AssumedSlab, SlabFrom{Basis: SlabAssumed}
	own := in.File.Job.Slab
	if own != nil {
		in.Slab, in.From.Basis = own.Value, SlabEntered
	}
	if r := in.Read; r != nil && !Entered(own) && in.Now.Sub(r.At) <= slabFresh {
		in.Slab, in.From = r.Slab, SlabFrom{Basis: SlabIsRead, At: &r.At, On: r.On}
	}
	in.From.Slab, in.From.Parts = in.Slab, in.Slab
	if in.From.Basis == SlabIsRead { // nobody read the parts: a cold slab does not lengthen their pot life
		in.From.Parts = max(in.Slab, material.AssumedSlab)
	}
	in.From.Air = in.Slab
	if r := in.ReadParts; r != nil && in.Now.Sub(r.At) <= slabFresh {
		in.From.Parts, in.From.PartsAt = r.Slab, &r.At
	}
	if r := in.ReadAir; r != nil && in.Now.Sub(r.At) <= slabFresh {
		in.From.Air, in.From.AirAt = r.Slab, &r.At
	}
	return found
}

// Entered reports whether somebody entered a temperature, and did not only assume it.
func Entered(t *measure.Sourced[measure.Temperature]) bool {
	return t != nil && t.Source != measure.Assumed
}

// MixingAir returns the temperature of the air at the mixing place.
func (in *Inputs) MixingAir() measure.Temperature {
	if own := in.File.Job.Mixing.Air; own != nil && (Entered(own) || in.From.AirAt == nil) {
		return own.Value
	}
	return in.From.Air
}

// Brought is a part of a product, as it comes and as it is mixed.
type Brought struct {
	From, To measure.Temperature // °C; the same where it is neither warmed nor cooled
}

// brought returns what a part that comes at a temperature is mixed at: as the sheet allows it, to which it is warmed or
// cooled before. What was read as too hot stays so: a pot life may not rest on cooling that nobody has seen.
func (in *Inputs) brought(p *material.Product, at measure.Temperature, read bool) Brought {
	low, high := p.MaterialMin, p.MaterialMax
	switch {
	case len(p.Components) < 2:
	case low != nil && at < low.Value:
		return Brought{at, low.Value}
	case high != nil && at > high.Value && !read:
		return Brought{at, high.Value}
	}
	return Brought{at, at}
}

// Parts returns the parts of a product as they are brought to where they are mixed, and what its mix is at once they
// have met.
func (in *Inputs) Parts(p *material.Product, mix material.Mix) ([]Brought, measure.Temperature) {
	a, b := in.From.Parts, in.From.Parts
	rules := func(own *measure.Sourced[measure.Temperature]) bool {
		return own != nil && (Entered(own) || in.From.PartsAt == nil)
	}
	readA, readB := in.From.PartsAt != nil, in.From.PartsAt != nil
	if own := in.File.Job.Mixing.A; rules(own) {
		a, b, readA, readB = own.Value, own.Value, false, false
	}
	if own := in.File.Job.Mixing.B; rules(own) {
		b, readB = own.Value, false
	}
	all, parts := make([]Brought, len(mix.Shares)), make([]cure.Part, len(mix.Shares))
	for i, s := range mix.Shares {
		if all[i] = in.brought(p, b, readB); i == 0 {
			all[i] = in.brought(p, a, readA)
		}
		parts[i] = cure.Part{Mass: s.Density.Value.Of(measure.Volume(s.Volume)), At: all[i].To}
	}
	return all, cure.Mixed(parts...)
}
