package material

import (
	"fmt"
	"slices"

	"nephelon/core/measure"
)

// Assumption holds a value that a plan uses although nobody measured it and no sheet states it, with the range in which
// it may lie.
type Assumption struct {
	Field string // JSON Pointer inside the sheet
	Name  string
	Kind  measure.Kind
	Value float64 // SI
	Least float64
	Most  float64

	with func(p *Product, value float64)
}

// With returns the sheet with another value in its place.
func (a Assumption) With(p Product, value float64) Product {
	a.with(&p, value)
	return p
}

// UsualLoss is planned where a sheet gives none: common practice, no source.
const UsualLoss measure.Fraction = 0.05

// leastLoss and mostLoss bound it: common practice, no source.
const leastLoss, mostLoss = 0.03, 0.10

// Assumptions returns what the sheet is planned with on assumption.
func (p Product) Assumptions() []Assumption {
	all := []Assumption{}
	add := func(field, name string, kind measure.Kind, value float64, usual spread, with func(*Product, float64)) {
		if usual.known() {
			all = append(all, Assumption{field, name, kind, value, min(usual.least, value), max(usual.most, value), with})
		}
	}
	if s := p.VolumeSolids; s.Source == measure.Assumed {
		add("/volumeSolids", "volume solids", measure.KindFraction, float64(s.Value), typicalSolids(p),
			func(p *Product, v float64) { p.VolumeSolids.Value = measure.Fraction(v) })
	}
	if p.Density == nil {
		for i, c := range p.Components {
			value := float64(AssumedDensity)
			if c.Density != nil {
				value = float64(c.Density.Value)
			}
			if c.Density == nil || c.Density.Source == measure.Assumed {
				add(fmt.Sprintf("/components/%d/density", i), "density of "+c.Name, measure.KindDensity, value,
					typicalDensity(p, i), func(p *Product, v float64) {
						p.Components = slices.Clone(p.Components)
						p.Components[i].Density = &measure.Sourced[measure.Density]{Value: measure.Density(v), Source: measure.Assumed}
					})
			}
		}
	}
	if p.Loss == nil || p.Loss.Source == measure.Assumed {
		value := float64(UsualLoss)
		if p.Loss != nil {
			value = float64(p.Loss.Value)
		}
		add("/loss", "usual loss", measure.KindFraction, value, spread{float64(UsualLoss), leastLoss, mostLoss},
			func(p *Product, v float64) {
				p.Loss = &measure.Sourced[measure.Fraction]{Value: measure.Fraction(v), Source: measure.Assumed}
			})
	}
	return append(all, p.assumedTimes()...)
}

// assumedTimes returns the times that are assumed, each by the one nearest to room temperature; the others of it move
// with it.
func (p Product) assumedTimes() []Assumption {
	var all []Assumption
	times := typicalTimesOf(p.Chemistry)
	if life, _ := p.Lives(roomTemperature); life > 0 && times.life.known() && len(p.PotLife) > 0 &&
		!slices.ContainsFunc(p.PotLife, func(l PotLife) bool { return l.Source != measure.Assumed }) {
		all = append(all, Assumption{"/potLife", "pot life", measure.KindSpan, float64(life),
			min(times.life.least, float64(life)), max(times.life.most, float64(life)), func(p *Product, v float64) {
				p.PotLife = slices.Clone(p.PotLife)
				for i := range p.PotLife {
					p.PotLife[i].Lasts *= measure.Span(v / float64(life))
				}
			}})
	}
	for _, t := range []struct {
		field, name string
		usual       spread
		of          func(*Product) *[]TimeAt
	}{
		{"/recoatFrom", "recoat from", times.from, func(p *Product) *[]TimeAt { return &p.RecoatFrom }},
		{"/recoatUntil", "recoat until", times.until, func(p *Product) *[]TimeAt { return &p.RecoatUntil }},
		{"/foot", "light foot traffic", times.foot, func(p *Product) *[]TimeAt { return &p.Foot }},
		{"/full", "full cure", times.full, func(p *Product) *[]TimeAt { return &p.Full }},
	} {
		points := *t.of(&p)
		after, is := nearest(points)
		if !is || !t.usual.known() ||
			slices.ContainsFunc(points, func(at TimeAt) bool { return at.Source != measure.Assumed }) {
			continue
		}
		all = append(all, Assumption{t.field, t.name, measure.KindSpan, float64(after),
			min(t.usual.least, float64(after)), max(t.usual.most, float64(after)), func(p *Product, v float64) {
				points := slices.Clone(*t.of(p))
				for i := range points {
					points[i].After *= measure.Span(v / float64(after))
				}
				*t.of(p) = points
			}})
	}
	return all
}
