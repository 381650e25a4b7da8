// Package buildup works out the film and the quantity of each coat over a
// surface.
package buildup

import (
	"fmt"

	"nephelon/core/finding"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// Basis names how the amount of a coat is stated.
type Basis string

// The ways a data sheet states an amount.
const (
	WetFilm     Basis = "wet-film"      // m
	DryFilm     Basis = "dry-film"      // m
	SpreadRate  Basis = "spread"        // m²/m³
	MassPerArea Basis = "mass-per-area" // kg/m²
)

// Amount is how much of a product goes on, as it was stated.
type Amount struct {
	Basis Basis   `json:"basis" enum:"wet-film,dry-film,spread,mass-per-area"`
	Value float64 `json:"value" exclusiveMinimum:"0" maximum:"1000000" doc:"m for films, m²/m³ for spread, kg/m² for mass per area"`
}

// Coat is one product applied once over a surface.
type Coat struct {
	ID      string                             `json:"id" minLength:"1" maxLength:"60"`
	Product string                             `json:"product" minLength:"1" maxLength:"60" doc:"The id of one of the file's products"`
	Amount  Amount                             `json:"amount"`
	Loss    *measure.Sourced[measure.Fraction] `json:"loss,omitempty" doc:"Of what is mixed; the sheet's usual loss when left out"`
	Pace    *measure.Sourced[measure.Pace]     `json:"pace,omitempty" doc:"m²/s one person spreads of this coat; the crew's pace when left out"`
	Fill    *measure.Sourced[measure.Film]     `json:"fill,omitempty" doc:"m³/m² that the profile takes; by the profile found under the first coat when left out"`
	Soak    *measure.Sourced[measure.Film]     `json:"soak,omitempty" doc:"m³/m² that an open surface drinks"`
	Residue *measure.Sourced[measure.Volume]   `json:"residue,omitempty" doc:"m³ of this coat that stay in pails and tools"`
}

// Under is what a coat goes on.
type Under struct {
	Area    measure.Area
	RunOff  measure.Area // film that runs over poured edges and drips off
	First   bool         // nothing is below the coat but the surface
	Profile int          // CSP of the surface, 0 while unknown
}

// ProfileFill is what a profile takes before a film stands on it, m³/m², by CSP 1
// to 6: planning defaults, from memory, to be edited.
func ProfileFill(profile int) measure.Film {
	fills := [...]float64{0, 0.02, 0.05, 0.10, 0.20, 0.35, 0.50}
	return measure.Film(fills[max(0, min(profile, len(fills)-1))] * measure.Litre)
}

// Share is one step of the way from theory to what is to be mixed.
type Share struct {
	Name   string         `json:"name"`
	Volume measure.Volume `json:"volume" doc:"m³ that this step adds"`
	Source measure.Source `json:"source,omitempty" enum:"sheet,own-test,standard,rule-of-thumb,colleague,assumed"`
}

// Build is a coat worked out over an area.
type Build struct {
	Wet       measure.Film                      `json:"wet" doc:"m"`
	Dry       measure.Film                      `json:"dry" doc:"m"`
	Spread    measure.Spread                    `json:"spread" doc:"m²/m³"`
	Coverage  measure.Coverage                  `json:"coverage" doc:"kg/m²"`
	Density   measure.Sourced[measure.Density]  `json:"density" doc:"Of the mix, kg/m³"`
	Loss      measure.Sourced[measure.Fraction] `json:"loss"`
	OnSurface measure.Volume                    `json:"onSurface" doc:"m³ of film that stay on the surface"`
	Extra     measure.Volume                    `json:"extra" doc:"m³ that fill the profile, soak in and stay in pails"`
	Shares    []Share                           `json:"shares" doc:"From theory to what is to be mixed"`
	Need      measure.Volume                    `json:"need" doc:"m³ to mix, run-off and loss included"`
	NeedMass  measure.Mass                      `json:"needMass" doc:"kg to mix"`
	Workings  []measure.Working                 `json:"workings"`
}

// DefaultLoss stands in where neither coat nor sheet names one: common
// practice, no source.
const DefaultLoss measure.Fraction = 0.05

// WetFor is the wet film that an amount stands for, given the product's volume
// solids and mixed density.
func WetFor(a Amount, solids measure.Fraction, density measure.Density) measure.Film {
	switch a.Basis {
	case DryFilm:
		return measure.Film(a.Value / float64(solids))
	case SpreadRate:
		return measure.Film(1 / a.Value)
	case MassPerArea:
		return measure.Film(a.Value / float64(density))
	default:
		return measure.Film(a.Value)
	}
}

// Check names the first value of the coat that cannot be, or nil. The path is
// the coat's JSON Pointer. The schema has checked what a single number can be.
func (c Coat) Check(path string) *finding.Finding {
	refuse := func(field, text, way string) *finding.Finding {
		return &finding.Finding{Level: finding.Refused, Step: finding.BuildUp, Path: path + field, Text: text, WayOut: way}
	}
	switch {
	case c.Loss != nil && (c.Loss.Value < 0 || c.Loss.Value > 0.8):
		return refuse("/loss", fmt.Sprintf("A loss of %.4g %% cannot be planned with.", 100*float64(c.Loss.Value)), "Enter a loss from 0 to 80 %.")
	case c.Pace != nil && (c.Pace.Value <= 0 || c.Pace.Value > MaxPace):
		return refuse("/pace", "The pace is not one a person can spread at.", "Enter the area one person spreads in an hour.")
	case c.Fill != nil && (c.Fill.Value < 0 || c.Fill.Value > maxFilm), c.Soak != nil && (c.Soak.Value < 0 || c.Soak.Value > maxFilm):
		return refuse("/fill", "The surface cannot take as much as that.", "Enter what it takes as a film, such as 100 µm for 0.1 L/m².")
	case c.Residue != nil && (c.Residue.Value < 0 || c.Residue.Value > 1):
		return refuse("/residue", "That much does not stay in pails and tools.", "Enter the litres left in all pails of this coat together.")
	case c.Amount.Basis != SpreadRate && c.Amount.Basis != MassPerArea && c.Amount.Value > float64(maxFilm):
		return refuse("/amount", "A film above 100 mm is not a coat.", "Check the unit: films are entered in µm, mm or mil.")
	}
	return nil
}

// MaxPace is far above what one person can spread: 1 m² a second.
const MaxPace measure.Pace = 1

const maxFilm measure.Film = 0.1

// Build works out a coat of a product over a surface.
func (c Coat) Build(p material.Product, mix material.Mix, u Under) Build {
	density := mix.Density
	wet := WetFor(c.Amount, p.VolumeSolids.Value, density.Value)
	b := Build{
		Wet:      wet,
		Dry:      measure.Film(float64(wet) * float64(p.VolumeSolids.Value)),
		Spread:   measure.Spread(1 / float64(wet)),
		Coverage: measure.Coverage(float64(wet) * float64(density.Value)),
		Density:  density,
		Loss:     c.loss(p),
	}
	add := func(name string, v measure.Volume, source measure.Source) measure.Volume {
		if v != 0 {
			b.Shares = append(b.Shares, Share{name, v, source})
		}
		return v
	}
	b.OnSurface = add("Film on the surface", wet.Over(u.Area), "")
	theory := b.OnSurface + add("Run-off over the edges", wet.Over(u.RunOff), measure.RuleOfThumb)
	b.Need = theory + add("Loss", measure.Volume(float64(theory)/(1-float64(b.Loss.Value)))-theory, b.Loss.Source)
	fill := c.Fill
	if fill == nil && u.First {
		fill = &measure.Sourced[measure.Film]{Value: ProfileFill(u.Profile), Source: measure.RuleOfThumb}
	}
	if fill != nil {
		b.Extra += add("Filling the profile", fill.Value.Over(u.Area), fill.Source)
	}
	if c.Soak != nil {
		b.Extra += add("Soaked in", c.Soak.Value.Over(u.Area), c.Soak.Source)
	}
	if c.Residue != nil {
		b.Extra += add("Left in pails and tools", c.Residue.Value, c.Residue.Source)
	}
	b.Need += b.Extra
	b.NeedMass = density.Value.Of(b.Need)
	b.Workings = c.workings(p, b, u)
	return b
}

// FilmOf is the wet film that results when a volume of the coat is mixed.
func (b Build) FilmOf(v measure.Volume) measure.Film {
	return measure.Film(float64(b.Wet) * float64(max(0, v-b.Extra)) / float64(b.Need-b.Extra))
}

func (c Coat) loss(p material.Product) measure.Sourced[measure.Fraction] {
	switch {
	case c.Loss != nil:
		return *c.Loss
	case p.Loss != nil:
		return *p.Loss
	}
	return measure.Sourced[measure.Fraction]{Value: DefaultLoss, Source: measure.RuleOfThumb}
}

// workings show the film from the amount, the volume from the film, and the
// mass from the volume.
func (c Coat) workings(p material.Product, b Build, u Under) []measure.Working {
	film := measure.Working{
		Title:  "Wet film",
		Result: measure.Value{Name: "Wet film", Kind: measure.KindFilm, SI: float64(b.Wet)},
		Source: "Definition of volume solids; 1 m² × 1 mm = 1 L",
	}
	given := func(name string, kind measure.Kind) {
		film.Inputs = append(film.Inputs, measure.Value{Name: name, Kind: kind, SI: c.Amount.Value})
	}
	switch c.Amount.Basis {
	case DryFilm:
		film.Formula = "dry film ÷ volume solids"
		given("Dry film", measure.KindFilm)
		film.Inputs = append(film.Inputs, measure.Value{Name: "Volume solids", Kind: measure.KindFraction, SI: float64(p.VolumeSolids.Value), Source: p.VolumeSolids.Source})
	case SpreadRate:
		film.Formula = "1 ÷ spread rate"
		given("Spread rate", measure.KindSpread)
	case MassPerArea:
		film.Formula = "mass per area ÷ density of the mix"
		given("Mass per area", measure.KindCoverage)
		film.Inputs = append(film.Inputs, measure.Value{Name: "Density of the mix", Kind: measure.KindDensity, SI: float64(b.Density.Value), Source: b.Density.Source})
	default:
		film.Formula = "as entered"
		given("Wet film", measure.KindFilm)
	}
	volume := measure.Working{
		Title:   "Volume to mix",
		Formula: "area × wet film ÷ (1 − loss)",
		Inputs:  []measure.Value{{Name: "Area", Kind: measure.KindArea, SI: float64(u.Area)}},
		Result:  measure.Value{Name: "Volume to mix", Kind: measure.KindVolume, SI: float64(b.Need)},
		Source:  "1 m² × 1 mm = 1 L; gallon of 231 in³ (NIST Handbook 44)",
	}
	if u.RunOff > 0 {
		volume.Formula = "(area + run-off) × wet film ÷ (1 − loss)"
		volume.Inputs = append(volume.Inputs, measure.Value{Name: "Run-off over the edges, as area", Kind: measure.KindArea, SI: float64(u.RunOff)})
	}
	volume.Inputs = append(volume.Inputs,
		measure.Value{Name: "Wet film", Kind: measure.KindFilm, SI: float64(b.Wet)},
		measure.Value{Name: "Loss", Kind: measure.KindFraction, SI: float64(b.Loss.Value), Source: b.Loss.Source})
	if b.Extra > 0 {
		volume.Formula += " + profile fill + soaked in + residue"
		for _, share := range b.Shares {
			if share.Name == "Filling the profile" || share.Name == "Soaked in" || share.Name == "Left in pails and tools" {
				volume.Inputs = append(volume.Inputs, measure.Value{Name: share.Name, Kind: measure.KindVolume, SI: float64(share.Volume), Source: share.Source})
			}
		}
	}
	return []measure.Working{film, volume, {
		Title:   "Mass to mix",
		Formula: "volume × density of the mix",
		Inputs: []measure.Value{
			{Name: "Volume to mix", Kind: measure.KindVolume, SI: float64(b.Need)},
			{Name: "Density of the mix", Kind: measure.KindDensity, SI: float64(b.Density.Value), Source: b.Density.Source},
		},
		Result: measure.Value{Name: "Mass to mix", Kind: measure.KindMass, SI: float64(b.NeedMass)},
		Source: "Definition of density",
	}}
}

// Findings says what is wrong with a coat as built. Upright is the share of the
// surface that stands vertical; the path is the coat's JSON Pointer.
func (c Coat) Findings(p material.Product, b Build, upright measure.Area, number int, path string, units measure.System) []finding.Finding {
	var found []finding.Finding
	warn := func(field, way, text string, args ...any) {
		found = append(found, finding.Finding{
			Level: finding.Warning, Step: finding.BuildUp, Path: path + field, Text: fmt.Sprintf(text, args...), WayOut: way,
		})
	}
	const slack = 1e-9
	if p.FilmMin != nil && b.Wet < p.FilmMin.Value*(1-slack) {
		warn("/amount", fmt.Sprintf("Put on at least %s wet, or choose a thinner product.", units.Film(p.FilmMin.Value)),
			"Coat %d: %s wet of %s is under its least film of %s (%s); it may not level or hide.",
			number, units.Film(b.Wet), p.Name, units.Film(p.FilmMin.Value), p.FilmMin.Source.Words())
	}
	if p.FilmMax != nil && b.Wet > p.FilmMax.Value*(1+slack) {
		lifts := int(float64(b.Wet)/float64(p.FilmMax.Value)*(1-slack)) + 1
		warn("/amount", fmt.Sprintf("Split it into %d coats of %s, or choose a product for thicker films.", lifts, units.Film(b.Wet/measure.Film(lifts))),
			"Coat %d: %s wet of %s is over its greatest film of %s in one coat (%s).",
			number, units.Film(b.Wet), p.Name, units.Film(p.FilmMax.Value), p.FilmMax.Source.Words())
	}
	found = append(found, c.sags(p, b, upright, number, path, units)...)
	if b.Density.Source == measure.Assumed {
		if c.Amount.Basis == MassPerArea || p.Ratio.Basis == material.ByMass || soldByMass(p) {
			warn("/amount", "Weigh a known volume of the mix and enter its density on the sheet.",
				"Coat %d: the sheet of %s gives no density, so %s was assumed to turn kilograms into litres. If the true density is a tenth higher, the same kilograms fill a tenth less.",
				number, p.Name, units.Density(b.Density.Value))
		} else {
			warn("/product", "Enter the density, or measure this product by volume only.",
				"Coat %d: the sheet of %s gives no density, so its masses on the mix cards rest on an assumed %s.",
				number, p.Name, units.Density(b.Density.Value))
		}
	}
	return found
}

// sags says whether a coat would run on what stands vertical.
func (c Coat) sags(p material.Product, b Build, upright measure.Area, number int, path string, units measure.System) []finding.Finding {
	const slack = 1e-9
	switch limit := p.FilmMaxVertical; {
	case upright <= 0:
		return nil
	case limit != nil && b.Wet > limit.Value*(1+slack):
		lifts := int(float64(b.Wet)/float64(limit.Value)*(1-slack)) + 1
		return []finding.Finding{{
			Level: finding.Warning, Step: finding.BuildUp, Path: path + "/amount",
			Text: fmt.Sprintf("Coat %d: %s of %s runs on upright faces, which hold %s of it in one coat (%s); %s of this surface is upright.",
				number, units.Film(b.Wet), p.Name, units.Film(limit.Value), limit.Source.Words(), units.Fraction(measure.Fraction(upright))),
			WayOut: fmt.Sprintf("Put it on in %d coats of %s.", lifts, units.Film(b.Wet/measure.Film(lifts))),
		}}
	case limit == nil && upright > mostlyUpright:
		return []finding.Finding{{
			Level: finding.Note, Step: finding.BuildUp, Path: path + "/amount",
			Text: fmt.Sprintf("Coat %d: %s of this surface is upright, and the sheet of %s names no greatest film on walls.",
				number, units.Fraction(measure.Fraction(upright)), p.Name),
			WayOut: "Ask the maker, or try it on a wall.",
		}}
	}
	return nil
}

// mostlyUpright is the share of upright faces from which a missing limit is
// told: common practice, no source.
const mostlyUpright = 0.2

func soldByMass(p material.Product) bool {
	for _, k := range p.Kits {
		if k.Mass != nil {
			return true
		}
	}
	return false
}
