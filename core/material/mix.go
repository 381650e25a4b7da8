package material

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"nephelon/core/measure"
)

// Share is one component's part of a unit of mix.
type Share struct {
	Name    string
	Volume  float64 // share of the mix's volume
	Density measure.Sourced[measure.Density]
}

// Mix holds what the components make together. Volumes are taken to add up.
type Mix struct {
	Shares  []Share
	Density measure.Sourced[measure.Density]
}

// Mix works out the shares by volume and the density of the mix. Where a
// component's density is unknown the mix's own is used for it, and failing that
// AssumedDensity, marked assumed.
func (p Product) Mix() Mix {
	fallback := measure.Sourced[measure.Density]{Value: AssumedDensity, Source: measure.Assumed}
	if p.Density != nil {
		fallback = *p.Density
	}
	m := Mix{Shares: make([]Share, len(p.Components))}
	whole, missing := 0.0, false
	for i, c := range p.Components {
		share := Share{Name: c.Name, Volume: c.Parts, Density: fallback}
		if c.Density != nil {
			share.Density = *c.Density
		} else {
			missing = true
		}
		if p.Ratio.Basis == ByMass {
			share.Volume = c.Parts / float64(share.Density.Value)
		}
		whole += share.Volume
		m.Shares[i] = share
	}
	m.Density = m.Shares[0].Density
	m.Density.Value = 0
	for i := range m.Shares {
		s := &m.Shares[i]
		s.Volume /= whole
		m.Density.Value += measure.Density(s.Volume) * s.Density.Value
		if s.Density.Source.Weak() {
			m.Density.Source = s.Density.Source
		}
	}
	if missing {
		m.Density = fallback
	}
	return m
}

// OtherRatio is the ratio by the basis that the sheet's own does not count, as
// the densities make it, and that basis. It is empty while a density is missing.
func (p Product) OtherRatio() (string, Basis) {
	other := ByVolume
	if p.Ratio.Basis == ByVolume {
		other = ByMass
	}
	if !p.mixes() {
		return "", other
	}
	mix := p.Mix()
	parts := make([]float64, len(mix.Shares))
	for i, s := range mix.Shares {
		if p.Components[i].Density == nil {
			return "", other
		}
		parts[i] = s.Volume
		if other == ByMass {
			parts[i] *= float64(s.Density.Value)
		}
	}
	told := make([]string, len(parts))
	for i := range parts {
		told[i] = strconv.FormatFloat(math.Round(100*parts[i]/parts[len(parts)-1])/100, 'f', -1, 64)
	}
	return strings.Join(told, " : "), other
}

// mixes reports whether the sheet says enough to mix by.
func (p Product) mixes() bool {
	return len(p.Components) > 0 && !slices.ContainsFunc(p.Components, func(c Component) bool {
		return c.Parts <= 0 || c.Density != nil && c.Density.Value <= 0
	})
}

// contradiction says where the sheet prints both ratios and the densities deny
// it by more than 3 %, which rounding on a sheet does not explain; else it is
// empty.
func (p Product) contradiction() string {
	mix := p.Mix()
	for i := 1; i < len(p.Components); i++ {
		a, b := p.Components[0], p.Components[i]
		if a.Other <= 0 || b.Other <= 0 || a.Density == nil || b.Density == nil {
			continue
		}
		printed, derived := a.Other/b.Other, mix.Shares[0].Volume/mix.Shares[i].Volume
		other := ByVolume
		if p.Ratio.Basis == ByVolume {
			other = ByMass
			derived *= float64(a.Density.Value / b.Density.Value)
		}
		if off := derived/printed - 1; math.Abs(off) > 0.03 {
			return fmt.Sprintf("The sheet prints %.4g : 1 of %s to %s by %s, but %.4g : 1 by %s and the densities come to "+
				"%.4g : 1, which is %.1f %% off.",
				printed, a.Name, b.Name, other, a.Parts/b.Parts, p.Ratio.Basis, derived, 100*math.Abs(off))
		}
	}
	return ""
}
