package material

import (
	"nephelon/core/measure"
)

// Portion is a percentage with what it is a percentage of.
type Portion struct {
	Value  measure.Fraction `json:"value" minimum:"0" maximum:"5"`
	Of     string           `json:"of" enum:"a,a+b,mix" doc:"What it is a share of: component A, A and B together, or the finished mix with the addition in it"`
	Source measure.Source   `json:"source"`
}

// The bases of a portion.
const (
	OfA   = "a"
	OfAB  = "a+b"
	OfMix = "mix"
)

// OfParts is the portion as a share of A and B together, which every basis can
// be turned into. A is the share of component A in them, by what the portion
// counts.
func (p Portion) OfParts(a float64) float64 {
	switch p.Of {
	case OfA:
		return float64(p.Value) * a
	case OfMix:
		return float64(p.Value) / (1 - float64(p.Value))
	}
	return float64(p.Value)
}

// Within reports whether it can be, and comes to at most a share of A and B.
func (p Portion) Within(most float64) bool {
	if p.Of == OfMix && p.Value >= 1 {
		return false
	}
	of := p
	if p.Of == OfA {
		of.Of = OfAB // a share of A is at least as much of what it is a part of
	}
	share := of.OfParts(1)
	return share >= 0 && share <= most
}

func (p *Portion) impossible() bool { return p != nil && !p.Within(MostAdded) }

// MostAdded is far above what any mix takes of pigment, filler or thinner, as a share
// of A and B.
const MostAdded = 4

// Words are the base as a person would say it.
func (p Portion) Words() string {
	switch p.Of {
	case OfA:
		return "of A"
	case OfMix:
		return "of the finished mix"
	}
	return "of A + B"
}

// MassShare is the share of the first component in the mass of the mix.
func (m Mix) MassShare() float64 {
	whole := 0.0
	for _, s := range m.Shares {
		whole += s.Volume * float64(s.Density.Value)
	}
	return m.Shares[0].Volume * float64(m.Shares[0].Density.Value) / whole
}
