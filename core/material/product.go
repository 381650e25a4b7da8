// Package material describes coating products as their data sheets do.
package material

import (
	"fmt"

	"nephelon/core/measure"
)

// Kind is what a product is for.
type Kind string

// Chemistry is what a product is made of.
type Chemistry string

// Basis tells whether a mixing ratio counts volumes or masses.
type Basis string

// The two bases of a ratio.
const (
	ByVolume Basis = "volume"
	ByMass   Basis = "mass"
)

// AssumedDensity stands in where a sheet gives none: common practice, no
// source. Whoever uses it must say so.
const AssumedDensity measure.Density = 1100

// Product is one data sheet. Quantities are in SI units; every value names its
// source.
type Product struct {
	ID              string                                `json:"id" minLength:"1" maxLength:"60"`
	Name            string                                `json:"name" minLength:"1" maxLength:"120"`
	Kind            Kind                                  `json:"kind" enum:"moisture-barrier,primer,body,metallic,flood,pool-paint,urethane,polyaspartic"`
	Chemistry       Chemistry                             `json:"chemistry" enum:"epoxy,polyurethane,polyaspartic,acrylic"`
	Color           string                                `json:"color" pattern:"^#[0-9a-f]{6}$" doc:"The colour its coat is drawn in"`
	Use             string                                `json:"use,omitempty" maxLength:"400" doc:"What it is for, in a sentence"`
	Ratio           Ratio                                 `json:"ratio"`
	Components      []Component                           `json:"components" minItems:"1" maxItems:"3" doc:"A, B and C; one alone is a single-pack paint"`
	Density         *measure.Sourced[measure.Density]     `json:"density,omitempty" doc:"Of the mix, kg/m³, where the components' own are unknown"`
	VolumeSolids    measure.Sourced[measure.Fraction]     `json:"volumeSolids" doc:"1 is 100 % solids"`
	FilmMin         *measure.Sourced[measure.Film]        `json:"filmMin,omitempty" doc:"Thinnest wet film of one coat, m"`
	FilmMax         *measure.Sourced[measure.Film]        `json:"filmMax,omitempty" doc:"Thickest wet film of one coat, m"`
	FilmMaxVertical *measure.Sourced[measure.Film]        `json:"filmMaxVertical,omitempty" doc:"Thickest wet film of one coat on a wall, m"`
	Loss            *measure.Sourced[measure.Fraction]    `json:"loss,omitempty" doc:"Usual loss"`
	PotLife         *measure.Sourced[measure.Span]        `json:"potLife,omitempty" doc:"s, at the mass and temperature beside it"`
	PotLifeMass     *measure.Sourced[measure.Mass]        `json:"potLifeMass,omitempty" doc:"kg"`
	PotLifeAt       *measure.Sourced[measure.Temperature] `json:"potLifeAt,omitempty" doc:"°C"`
	SlabHumidityMax *measure.Sourced[measure.Fraction]    `json:"slabHumidityMax,omitempty" doc:"Most in-situ relative humidity of a slab below it"`
	SlabMin         *measure.Sourced[measure.Temperature] `json:"slabMin,omitempty" doc:"Coldest slab, °C"`
	SlabMax         *measure.Sourced[measure.Temperature] `json:"slabMax,omitempty" doc:"Warmest slab, °C"`
	Mixing          *measure.Sourced[measure.Span]        `json:"mixing,omitempty" doc:"s of mixing"`
	Induction       *measure.Sourced[measure.Span]        `json:"induction,omitempty" doc:"s of standing after mixing"`
	Kits            []Kit                                 `json:"kits" minItems:"1" maxItems:"12" doc:"The sizes it is sold in"`
	Cautions        []string                              `json:"cautions,omitempty" maxItems:"12" doc:"What can hurt, in sentences"`
}

// Ratio says what the components' parts count.
type Ratio struct {
	Basis  Basis          `json:"basis" enum:"volume,mass"`
	Source measure.Source `json:"source" enum:"sheet,own-test,standard,rule-of-thumb,colleague,assumed"`
}

// Component is one container of the set: A the resin, B the hardener, C a
// powder or additive.
type Component struct {
	Name    string                            `json:"name" minLength:"1" maxLength:"40"`
	Parts   float64                           `json:"parts" exclusiveMinimum:"0" maximum:"1000" doc:"Parts by the ratio's basis"`
	Density *measure.Sourced[measure.Density] `json:"density,omitempty" doc:"kg/m³"`
}

// Kit is a size the product is sold in: matched containers, bought together.
// It states a volume or a mass.
type Kit struct {
	Name   string          `json:"name" minLength:"1" maxLength:"60"`
	Volume *measure.Volume `json:"volume,omitempty" exclusiveMinimum:"0" maximum:"10" doc:"m³ when mixed"`
	Mass   *measure.Mass   `json:"mass,omitempty" exclusiveMinimum:"0" maximum:"10000" doc:"kg when mixed"`
	Price  *float64        `json:"price,omitempty" minimum:"0" maximum:"1000000" doc:"In the job's currency"`
	Source measure.Source  `json:"source" enum:"sheet,own-test,standard,rule-of-thumb,colleague,assumed"`
}

// Fault is a value of a sheet that cannot be.
type Fault struct {
	Field string // JSON Pointer inside the product
	Text  string
	Way   string
}

// Check names the first value of the sheet that contradicts another or cannot
// be, or nil. The schema has checked what a single value can be.
func (p Product) Check() *Fault {
	switch {
	case !within(p.VolumeSolids.Value, 0, 1):
		return &Fault{"/volumeSolids", fmt.Sprintf("Volume solids of %.4g are not a share between 0 and 1.", p.VolumeSolids.Value), "Write 40 % as 0.4."}
	case p.FilmMin != nil && p.FilmMin.Value <= 0:
		return &Fault{"/filmMin", "The thinnest film must be above zero.", "Leave it out when unknown."}
	case p.FilmMax != nil && p.FilmMax.Value <= 0:
		return &Fault{"/filmMax", "The thickest film must be above zero.", "Leave it out when unknown."}
	case p.FilmMin != nil && p.FilmMax != nil && p.FilmMin.Value > p.FilmMax.Value:
		return &Fault{"/filmMax", "The thickest film is thinner than the thinnest.", "Exchange the two, or read the sheet again."}
	case p.FilmMaxVertical != nil && p.FilmMaxVertical.Value <= 0:
		return &Fault{"/filmMaxVertical", "The thickest film on a wall must be above zero.", "Leave it out when unknown."}
	case p.SlabHumidityMax != nil && !within(p.SlabHumidityMax.Value, 0, 1):
		return &Fault{"/slabHumidityMax", "The humidity of a slab lies between 0 and 100 %.", "Write 85 % as 0.85."}
	case p.SlabMin != nil && p.SlabMax != nil && p.SlabMin.Value >= p.SlabMax.Value:
		return &Fault{"/slabMax", "The warmest slab is no warmer than the coldest.", "Exchange the two, or read the sheet again."}
	case p.Loss != nil && (p.Loss.Value < 0 || p.Loss.Value >= 0.9):
		return &Fault{"/loss", "A loss lies between 0 and 90 %.", "Write 5 % as 0.05."}
	case p.PotLife != nil && p.PotLife.Value <= 0:
		return &Fault{"/potLife", "Pot life must be above zero.", "Leave it out for a single-pack paint."}
	case p.Mixing != nil && p.Mixing.Value < 0:
		return &Fault{"/mixing", "Mixing time cannot be negative.", "Leave it out when unknown."}
	case p.Induction != nil && p.Induction.Value < 0:
		return &Fault{"/induction", "Induction cannot be negative.", "Leave it out when there is none."}
	case p.PotLifeMass != nil && p.PotLifeMass.Value <= 0:
		return &Fault{"/potLifeMass", "The mass of the pot-life test must be above zero.", "Leave it out when unknown."}
	case p.Density != nil && !plausible(p.Density.Value):
		return &Fault{"/density", implausible(p.Density.Value), "Densities are in kg/m³: 1.1 kg/L is 1100."}
	}
	for i, c := range p.Components {
		if c.Density != nil && !plausible(c.Density.Value) {
			return &Fault{fmt.Sprintf("/components/%d/density", i), implausible(c.Density.Value), "Densities are in kg/m³: 1.1 kg/L is 1100."}
		}
	}
	for i, k := range p.Kits {
		if (k.Volume == nil) == (k.Mass == nil) {
			return &Fault{fmt.Sprintf("/kits/%d", i), fmt.Sprintf("Kit “%s” must state either a volume or a mass.", k.Name), "Give the one printed on the pail and leave the other out."}
		}
	}
	return nil
}

func within(v measure.Fraction, above, most measure.Fraction) bool { return v > above && v <= most }

func plausible(d measure.Density) bool { return d >= 500 && d <= 6000 }

func implausible(d measure.Density) string {
	return fmt.Sprintf("A density of %.4g kg/m³ is outside what coatings have (500 to 6000).", float64(d))
}

// Share is one component's part of a unit of mix.
type Share struct {
	Name    string
	Volume  float64 // share of the mix's volume
	Density measure.Sourced[measure.Density]
}

// Mix is what the components make together. Volumes are taken to add up.
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

// WeakValues names the values of the sheet that rest on a weak source.
func (p Product) WeakValues() []string {
	var weak []string
	note := func(name string, s measure.Source) {
		if s.Weak() {
			weak = append(weak, name+" ("+s.Words()+")")
		}
	}
	note("mixing ratio", p.Ratio.Source)
	note("volume solids", p.VolumeSolids.Source)
	for _, c := range p.Components {
		if c.Density != nil {
			note("density of "+c.Name, c.Density.Source)
		}
	}
	if p.Density != nil {
		note("density", p.Density.Source)
	}
	if p.FilmMin != nil {
		note("thinnest film", p.FilmMin.Source)
	}
	if p.FilmMax != nil {
		note("thickest film", p.FilmMax.Source)
	}
	if p.PotLife != nil {
		note("pot life", p.PotLife.Source)
	}
	for _, k := range p.Kits {
		note("kit "+k.Name, k.Source)
	}
	return weak
}
