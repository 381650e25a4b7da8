// Package buildup works out the film and the quantity of each coat over a
// surface.
package buildup

import (
	"fmt"
	"slices"

	"nephelon/core/finding"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/school"
)

// Stated names how the amount of a coat is stated.
type Stated string

// The ways a data sheet states an amount.
const (
	WetFilm     Stated = "wet-film"      // m
	DryFilm     Stated = "dry-film"      // m
	SpreadRate  Stated = "spread"        // m²/m³
	MassPerArea Stated = "mass-per-area" // kg/m²
	Notch       Stated = "notch"         // m: depth of the notch or pin that leaves the film
	AreaPerKit  Stated = "area-per-kit"  // m² that the largest kit covers
	ByStone     Stated = "by-stone"      // kg of mix to a kg of the stones that are wetted in it
)

// Figure says whether what a floor takes beside the film is in an amount.
type Figure = material.Figure

// Amount holds how much of a product goes on, as it was stated.
type Amount struct {
	Basis  Stated  `json:"basis"`
	Value  float64 `json:"value" exclusiveMinimum:"0" maximum:"1000000" doc:"m for films and notches, m²/m³ for spread, kg/m² for mass per area, m² for what the largest kit covers, kg to a kg of stone"`
	Figure Figure  `json:"figure,omitempty" doc:"What a spread, mass per area or area per kit is: practical, with loss, profile, absorption, residue and edges in it, or theoretical, the film alone; when left out a spread and an area per kit are practical, a mass per area theoretical"`
}

// Practical reports whether the amount is what a floor takes in all, so that nothing is added to it.
func (a Amount) Practical() bool {
	if a.Figure != "" {
		return a.Figure == material.Practical
	}
	return a.Basis == SpreadRate || a.Basis == AreaPerKit
}

// Either reports whether the amount can be practical or theoretical; films, notches and shares of stone
// are theoretical.
func (a Amount) Either() bool {
	return a.Basis == SpreadRate || a.Basis == MassPerArea || a.Basis == AreaPerKit
}

// Coat is one product applied once over a surface.
type Coat struct {
	ID       string                             `json:"id" minLength:"1" maxLength:"60"`
	Product  string                             `json:"product" minLength:"1" maxLength:"60" doc:"The id of one of the file's products"`
	Hardener string                             `json:"hardener,omitempty" maxLength:"60" doc:"The id of one of its other hardeners"`
	Amount   Amount                             `json:"amount"`
	Loss     *measure.Sourced[measure.Fraction] `json:"loss,omitempty" doc:"Loss of what is mixed; the sheet's usual loss when left out"`
	On       string                             `json:"on,omitempty" enum:"upright,level" doc:"Only the edges and upright faces of its surface, or only what is level; all of it when left out"`
	Faces    *measure.Sourced[measure.Film]     `json:"faces,omitempty" doc:"m wet on edges and upright faces, out of the same mix as what is level; the coat's own film when left out"`
	Seal     bool                               `json:"seal,omitempty" doc:"A seal coat: a thin coat that clears the pores, soaks in and need not reach the minimum film of its sheet; what it raises on wood and board is sanded"`
	OverWet  bool                               `json:"overWet,omitempty" doc:"Poured over the coat below in the same session, while that one still flows"`
	Own      *OwnWay                            `json:"own,omitempty" doc:"How it is laid and mixed, where that departs from the job"`
	Pace     *measure.Sourced[measure.Pace]     `json:"pace,omitempty" doc:"m²/s one person spreads of this coat; the crew's pace when left out"`
	Fill     *measure.Sourced[measure.Film]     `json:"fill,omitempty" doc:"m³/m² that the profile takes; by the profile found under the first coat when left out"`
	Soak     *measure.Sourced[measure.Film]     `json:"soak,omitempty" doc:"m³/m² that an open surface drinks"`
	Residue  *measure.Sourced[measure.Volume]   `json:"residue,omitempty" doc:"m³ of this coat that stay in pails and tools"`
	Thinner  *material.Portion                  `json:"thinner,omitempty" doc:"Thinner, by volume"`
	ThinWith string                             `json:"thinWith,omitempty" maxLength:"60" doc:"The id of one of the file's media, the thinner; unknown when left out"`
	Pigment  *Tint                              `json:"pigment,omitempty"`
	Scatter  *Scatter                           `json:"scatter,omitempty" doc:"What is broadcast into the wet film"`
	Grit     *Grit                              `json:"grit,omitempty" doc:"Texture stirred into the mix"`
	Colours  *Colouring                         `json:"colours,omitempty" doc:"Divided into cups of colour"`
	Wait     *measure.Span                      `json:"wait,omitempty" minimum:"0" maximum:"31536000" doc:"s planned after the coat below"`
	When     Moment                             `json:"when,omitempty" doc:"morning: not on the day of the coat below; tacky: while that is no longer wet and not yet tack-free; as soon as it may when left out"`
	Hours    *OpeningHours                      `json:"hours,omitempty" doc:"Hours of the day in which the first kit is opened; any of the shift when left out"`
	Abraded  bool                               `json:"abraded,omitempty" doc:"The coat below is abraded and cleaned before this one"`
}

// Moment names when a coat is laid on the one below, where it is not as soon as it may.
type Moment string

// The moments.
const (
	NextMorning Moment = "morning"
	OnTacky     Moment = "tacky"
)

// OwnWay holds how one coat departs from its job.
type OwnWay struct {
	Laying    school.Laying   `json:"laying,omitempty" doc:"How it is laid"`
	Spreaders int             `json:"spreaders,omitempty" minimum:"0" maximum:"50" doc:"People spreading it, the mixer not counted"`
	Kits      school.Kits     `json:"kits,omitempty" doc:"How much of a kit is mixed at once"`
	Bucket    measure.Volume  `json:"bucket,omitempty" minimum:"0" maximum:"1" doc:"m³ to the brim of what it is mixed in, with the headroom of the job"`
	Batch     measure.Volume  `json:"batch,omitempty" minimum:"0" maximum:"1" doc:"m³ wanted in one batch at most"`
	Shares    []float64       `json:"shares,omitempty" maxItems:"400" doc:"How large its batches are against each other, in their order, where somebody placed the joins; the plan divides it when left out"`
	Pinned    []float64       `json:"pinned,omitempty" maxItems:"60" doc:"Joins that stay where they are, each as the share of the coat that is laid before it, 0 to 1, ascending; the plan divides what lies between them"`
	Pumps     *material.Pumps `json:"pumps,omitempty" doc:"The pumps that its parts are drawn by"`
}

// fair reports whether the shares of a coat's batches are ones that can be laid.
func (o OwnWay) fair() bool {
	if len(o.Shares) == 0 {
		return true
	}
	const most = 1000 // times the smallest
	low, high := slices.Min(o.Shares), slices.Max(o.Shares)
	return low > 0 && high <= most*low && high < 1e12
}

// held reports whether the joins that stay where they are can be.
func (o OwnWay) held() bool {
	const least = 1e-3 // of the coat, between two of them
	before := 0.0
	for _, at := range o.Pinned {
		if !(at-before >= least) {
			return false
		}
		before = at
	}
	return 1-before >= least
}

// Under holds what a coat goes on.
type Under struct {
	Area    measure.Area
	Upright measure.Area // of it, edges and upright faces
	RunOff  measure.Area // film that runs over poured edges and drips off
	First   bool         // nothing is below the coat but the surface
	Profile int          // CSP of the surface, 0 while unknown
	Media   map[string]*material.Medium
	Grains  *Grains // what was broadcast into the coat below
	Tossed  bool    // grit is scattered onto the wet film, not stirred in
}

// ProfileFill returns what a profile takes before a film stands on it, m³/m², by CSP 1
// to 6: planning defaults, from memory, to be edited.
func ProfileFill(profile int) measure.Film {
	fills := [...]float64{0, 0.02, 0.05, 0.10, 0.20, 0.35, 0.50}
	return measure.Film(fills[max(0, min(profile, len(fills)-1))] * measure.Litre)
}

// Step is one step of the way from theory to what is to be mixed.
type Step struct {
	Name   string         `json:"name"`
	Volume measure.Volume `json:"volume" doc:"m³ that this step adds"`
	Source measure.Source `json:"source,omitempty"`
}

// Build is a coat worked out over an area.
type Build struct {
	Wet       measure.Film                      `json:"wet" doc:"m"`
	Dry       measure.Film                      `json:"dry" doc:"m"`
	Spread    measure.Spread                    `json:"spread" doc:"m²/m³"`
	Coverage  measure.Coverage                  `json:"coverage" doc:"kg/m²"`
	Density   measure.Sourced[measure.Density]  `json:"density" doc:"Density of the mix, kg/m³"`
	Loss      measure.Sourced[measure.Fraction] `json:"loss" doc:"Added to the film; 0 where the amount is practical"`
	Practical bool                              `json:"practical,omitempty" doc:"Loss, profile, absorption, residue and edges are in the amount: nothing was added"`
	Takes     measure.Spread                    `json:"takes" doc:"m²/m³ with all that was added: the practical spread"`
	OnSurface measure.Volume                    `json:"onSurface" doc:"m³ of film that stay on the surface"`
	Extra     measure.Volume                    `json:"extra" doc:"m³ that fill the profile and grains, soak in and stay in pails"`
	Thinner   measure.Volume                    `json:"thinner,omitempty" doc:"m³ of thinner in it, on top of the need"`
	Additions []Addition                        `json:"additions,omitempty"`
	Shares    []Step                            `json:"shares" doc:"From theory to what is to be mixed; thinner counts against it"`
	Need      measure.Volume                    `json:"need" doc:"m³ to mix, run-off and loss included"`
	NeedMass  measure.Mass                      `json:"needMass" doc:"kg to mix"`
	Workings  []measure.Working                 `json:"workings"`
}

// NotchOverFilm is the ratio of a notch's depth to the wet film it leaves: common practice,
// no source. A notch gauge on the floor tells (ASTM D4414).
const NotchOverFilm = 2.0

// WetFor is the wet film that an amount stands for, given the product's volume
// solids, mixed density and thinner as a share of A and B. Spread rates and
// masses per area are those of the product before it is thinned.
func WetFor(a Amount, solids measure.Fraction, density measure.Density, thinner float64) measure.Film {
	switch a.Basis {
	case DryFilm:
		return measure.Film(a.Value * (1 + thinner) / float64(solids))
	case SpreadRate:
		return measure.Film((1 + thinner) / a.Value)
	case MassPerArea:
		return measure.Film(a.Value * (1 + thinner) / float64(density))
	case Notch:
		return measure.Film(a.Value / NotchOverFilm)
	default:
		return measure.Film(a.Value)
	}
}

// Check names the first value of the coat that cannot be, or nil. The path is
// the coat's JSON Pointer. The schema has checked what a single number can be.
func (c Coat) Check(path string) *finding.Finding {
	for _, check := range []func(refusing) *finding.Finding{c.checkAmounts, c.checkParts, c.checkSequence, c.checkAdded,
		c.checkHours} {
		if bad := check(refusing(path)); bad != nil {
			return bad
		}
	}
	if c.Colours != nil {
		return c.Colours.check(path + "/colours")
	}
	return nil
}

// refusing is the path of a coat of which a value is refused.
type refusing string

func (path refusing) refuse(field, text, way string) *finding.Finding {
	return &finding.Finding{Level: finding.Refused, Step: finding.BuildUp, Path: string(path) + field, Text: text,
		WayOut: way}
}

// checkAmounts names what of it cannot be an amount.
func (c Coat) checkAmounts(path refusing) *finding.Finding {
	switch {
	case c.Loss != nil && (c.Loss.Value < 0 || c.Loss.Value > 0.8):
		return path.refuse("/loss", fmt.Sprintf("A loss of %.4g %% cannot be planned with.", 100*float64(c.Loss.Value)),
			"Enter a loss from 0 to 80 %.")
	case c.Pace != nil && !AnyPace(c.Pace.Value):
		return path.refuse("/pace", "The pace is not one a person can spread at.",
			"Enter the area one person spreads in an hour.")
	case c.Fill != nil && (c.Fill.Value < 0 || c.Fill.Value > maxFilm), c.Soak != nil &&
		(c.Soak.Value < 0 || c.Soak.Value > maxFilm):
		return path.refuse("/fill", "The surface cannot take as much as that.",
			"Enter what it takes as a film, such as 100 µm for 0.1 L/m².")
	case c.Residue != nil && (c.Residue.Value < 0 || c.Residue.Value > 1):
		return path.refuse("/residue", "That much does not stay in pails and tools.",
			"Enter the litres left in all pails of this coat together.")
	case (c.Amount.Basis == WetFilm || c.Amount.Basis == DryFilm || c.Amount.Basis == Notch) &&
		c.Amount.Value > float64(maxFilm):
		return path.refuse("/amount", "A film above 100 mm is not a coat.",
			"Check the unit: films are entered in µm, mm or mil.")
	case c.Amount.Figure != "" && !c.Amount.Either():
		return path.refuse("/amount/figure", "A film, a notch or a share of stone is theoretical: losses come on top of it.",
			"Leave the figure out, or state the amount as a spread, a mass per area or an area per kit.")
	}
	return nil
}

// checkParts names what cannot be on edges alone, or as it is divided.
func (c Coat) checkParts(path refusing) *finding.Finding {
	switch {
	case c.Faces != nil && !(c.Faces.Value > 0 && c.Faces.Value <= maxFilm):
		return path.refuse("/faces", "That is no film on an edge.",
			"Enter the wet film on edges and upright faces, such as 0.3 mm.")
	case c.Faces != nil && c.On != "":
		return path.refuse("/faces", "The coat goes on a part of the surface alone, so edges have no film of their own.",
			"Lay it on the whole surface, or leave the film on edges out.")
	case c.Own != nil && len(c.Own.Shares) > 0 && len(c.Own.Pinned) > 0:
		return path.refuse("/own/pinned", "All joints of this coat are placed, and some are locked as well.",
			"Keep the one or the other.")
	case c.Own != nil && !c.Own.held():
		return path.refuse("/own/pinned", "A locked joint lies on another one, or at the edge of the surface.",
			"Lock each joint at its own share of the coat, between 0 and 1, in the order of the work.")
	case c.Own != nil && !c.Own.fair():
		return path.refuse("/own/shares", "A batch of nothing, or a thousand times as large as another, covers no section.",
			"Give each batch a share of its own, or let the plan divide the coat.")
	}
	return nil
}

// checkSequence names what contradicts when it is laid.
func (c Coat) checkSequence(path refusing) *finding.Finding {
	switch {
	case c.OverWet && c.Abraded:
		return path.refuse("/overWet", "A film that still flows cannot be abraded.",
			"Pour over it wet, or let it harden and abrade it.")
	case c.OverWet && c.Wait != nil:
		return path.refuse("/overWet", "It is poured over the coat below while that still flows, and waits for it to harden.",
			"Leave the wait out, or do not pour it over wet.")
	case c.OverWet && c.When != "":
		return path.refuse("/when", "It is poured over the coat below while that still flows, so it is not laid later.",
			"Choose one of the two.")
	case c.When == OnTacky && c.Abraded:
		return path.refuse("/when", "A film that is still tacky cannot be abraded.",
			"Lay it on the tacky film, or let that harden and abrade it.")
	case c.When == OnTacky && c.Wait != nil:
		return path.refuse("/when", "It is laid while the film below is tacky, and waits for a time of its own.",
			"Remove the wait, or lay it as soon as possible.")
	}
	return nil
}

// checkAdded names what cannot be mixed in or broadcast.
func (c Coat) checkAdded(path refusing) *finding.Finding {
	switch {
	case c.Thinner != nil && !c.Thinner.Within(material.MostAdded):
		return path.refuse("/thinner", "That is too much thinner for a coating.",
			"Enter the thinner as a percentage, and say of what.")
	case c.Amount.Basis == ByStone && !c.Wets():
		return path.refuse("/scatter", "It is stated by the mass of its stones, but not how many there are on a "+
			"square metre.",
			"Choose the stones it takes, and enter their mass on a square metre.")
	case c.Amount.Basis == ByStone && c.Amount.Value > 1:
		return path.refuse("/amount", "That is more resin than stone.",
			"Enter the resin as a share of the stones' mass, such as 6 %.")
	case c.Pigment != nil && !c.Pigment.Portion.Within(mostPigment):
		return path.refuse("/pigment/portion", "That much pigment cannot be stirred in.",
			"Enter it as a percentage, such as 3 %, and say of what.")
	case c.Scatter != nil && c.Scatter.Pace != nil && !(c.Scatter.Pace.Value > 0 && c.Scatter.Pace.Value <= 2):
		return path.refuse("/scatter/pace", "Nobody throws that much.", "Enter what one person throws, up to 120 kg/min.")
	case c.Scatter != nil && c.Scatter.Mass != nil && !(c.Scatter.Mass.Value >= 0 && c.Scatter.Mass.Value <= 200):
		return path.refuse("/scatter/mass", "That much does not stay on a coat.",
			"Enter what stays on a square metre, at most 200 kg.")
	case c.Grit != nil && (c.Grit.Dose.Value <= 0 || c.Grit.Dose.Value > 1500):
		return path.refuse("/grit", "That much grit cannot be stirred in.",
			"Enter its mass for a litre of mix, such as 60 g/L.")
	}
	return nil
}

// mostPigment is far above what any mix takes, as a share of A and B.
const mostPigment = 0.5

// AnyPace reports whether a person can spread at a pace at all: from half a square
// metre an hour to one a second.
func AnyPace(p measure.Pace) bool { return p >= 0.5/measure.Hour && p <= 1 }

const maxFilm measure.Film = 0.1

// thinned is the thinner as a share of A and B.
func (c Coat) thinned(mix material.Mix) float64 {
	if c.Thinner == nil {
		return 0
	}
	return c.Thinner.OfParts(mix.Shares[0].Volume)
}

// Wet is the wet film of a coat of a product.
func (c Coat) Wet(p *material.Product, mix material.Mix) measure.Film {
	thinner := c.thinned(mix)
	if c.Wets() {
		return WetFor(Amount{Basis: MassPerArea, Value: c.Amount.Value * float64(c.Scatter.Mass.Value)}, p.VolumeSolids.Value,
			mix.Density.Value, thinner)
	}
	if c.Amount.Basis == AreaPerKit {
		return measure.Film(float64(largest(p, mix)) * (1 + thinner) / c.Amount.Value)
	}
	return WetFor(c.Amount, p.VolumeSolids.Value, mix.Density.Value, thinner)
}

// Wets reports whether the coat's stones are wetted in its mix, not broadcast.
func (c Coat) Wets() bool {
	return c.Amount.Basis == ByStone && c.Scatter != nil && c.Scatter.Mass != nil && c.Scatter.Mass.Value > 0
}

// largest is the largest kit that a product is sold in.
func largest(p *material.Product, mix material.Mix) measure.Volume {
	most := measure.Volume(0)
	for _, k := range p.Kits {
		switch {
		case k.Gone:
		case k.Volume != nil:
			most = max(most, *k.Volume)
		default:
			most = max(most, mix.Density.Value.Volume(*k.Mass))
		}
	}
	return most
}

// Dry returns what is left of it.
func (c Coat) Dry(p *material.Product, mix material.Mix) measure.Film {
	return measure.Film(float64(c.Wet(p, mix)) * float64(p.VolumeSolids.Value) / (1 + c.thinned(mix)))
}

// sealSoak is the volume on an area that soaks in of a seal coat where nobody says otherwise,
// 0.05 L/m²: common practice, no source.
const sealSoak measure.Film = 0.05e-3

// Build works out a coat of a product over a surface.
func (c Coat) Build(p *material.Product, mix material.Mix, u Under) Build {
	density := mix.Density
	thinner := c.thinned(mix)
	wet := c.Wet(p, mix)
	b := Build{
		Wet:      wet,
		Dry:      c.Dry(p, mix),
		Spread:   measure.Spread((1 + thinner) / float64(wet)),
		Coverage: measure.Coverage(float64(wet) * float64(density.Value) / (1 + thinner)),
		Density:  density,
		Loss:     c.loss(p),
	}
	if c.Amount.Practical() {
		b.Practical, b.Loss.Value = true, 0
		u.RunOff = 0
	}
	add := func(name string, v measure.Volume, source measure.Source) measure.Volume {
		if v != 0 {
			b.Shares = append(b.Shares, Step{name, v, source})
		}
		return v
	}
	if c.apart(u) {
		b.OnSurface = add(onLevel, wet.Over(u.Area-u.Upright), "") + add(onFaces, c.Faces.Value.Over(u.Upright),
			c.Faces.Source)
	} else {
		b.OnSurface = add("Film on the surface", wet.Over(u.Area), "")
	}
	theory := b.OnSurface + add("Run-off over the edges", wet.Over(u.RunOff), measure.RuleOfThumb)
	liquid := theory + add("Loss", measure.Volume(float64(theory)/(1-float64(b.Loss.Value)))-theory, b.Loss.Source)
	if !b.Practical {
		for _, more := range c.beside(u) {
			b.Extra += add(more.Name, more.Volume, more.Source)
		}
	}
	liquid += b.Extra
	b.Thinner = liquid * measure.Volume(thinner/(1+thinner))
	if b.Thinner > 0 {
		add("Thinner in it", -b.Thinner, c.Thinner.Source)
	}
	b.Need = liquid - b.Thinner
	b.NeedMass = density.Value.Of(b.Need)
	b.Takes = measure.Spread(float64(u.Area) / float64(b.Need))
	b.Additions = c.additions(mix, b, u)
	b.Workings = c.workings(p, b, u, thinner)
	return b
}

// beside lists what a surface takes of a coat beside its film and the loss.
func (c Coat) beside(u Under) []Step {
	var all []Step
	fill := c.Fill
	if fill == nil && u.First {
		fill = &measure.Sourced[measure.Film]{Value: ProfileFill(u.Profile), Source: measure.RuleOfThumb}
	}
	if fill != nil {
		all = append(all, Step{"Filling the profile", fill.Value.Over(u.Area), fill.Source})
	}
	soak := c.Soak
	if soak == nil && c.Seal {
		soak = &measure.Sourced[measure.Film]{Value: sealSoak, Source: measure.RuleOfThumb}
	}
	if soak != nil {
		all = append(all, Step{"Soaked in", soak.Value.Over(u.Area), soak.Source})
	}
	if c.Residue != nil {
		all = append(all, Step{"Left in pails and tools", c.Residue.Value, c.Residue.Source})
	}
	if c.Colours != nil {
		all = append(all, Step{"Left in cups", measure.Volume(len(c.Colours.Colours)) * c.Colours.Cling(),
			measure.RuleOfThumb})
	}
	if u.Grains != nil {
		all = append(all, Step{"Filling between grains", u.Grains.Voids.Value.Over(u.Area), u.Grains.Voids.Source})
	}
	if m := c.scattered(u); m != nil && m.Bind != nil && !c.Wets() {
		all = append(all, Step{"Holding the broadcast",
			measure.Film(float64(m.Bind.Value) * DegreeShare(c.Scatter.Degree)).Over(u.Area), m.Bind.Source})
	}
	return all
}

// The steps of a coat whose faces take a film of their own.
const (
	onLevel = "Film on what is level"
	onFaces = "Film on edges and upright faces"
)

// apart reports whether the faces of what a coat goes on take a film of their own.
func (c Coat) apart(u Under) bool { return c.Faces != nil && c.On == "" && u.Upright > 0 }

// FilmOf is the wet film that results when a volume of the product is mixed and
// thinned as planned.
func (b Build) FilmOf(v measure.Volume) measure.Film {
	liquid := b.Need + b.Thinner
	return measure.Film(float64(b.Wet) * float64(max(0, v*liquid/b.Need-b.Extra)) / float64(liquid-b.Extra))
}

func (c Coat) loss(p *material.Product) measure.Sourced[measure.Fraction] {
	switch {
	case c.Loss != nil:
		return *c.Loss
	case p.Loss != nil:
		return *p.Loss
	}
	return measure.Sourced[measure.Fraction]{Value: material.UsualLoss, Source: measure.RuleOfThumb}
}

// Values returns all values, in the order in which they are shown.
func (Moment) Values() []Moment {
	return []Moment{NextMorning, OnTacky}
}

// Values returns all values, in the order in which they are shown.
func (Stated) Values() []Stated {
	return []Stated{WetFilm, DryFilm, SpreadRate, MassPerArea, Notch, AreaPerKit, ByStone}
}
