package buildup

import (
	"fmt"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// Tint is colour stirred into a coat.
type Tint struct {
	Medium  string           `json:"medium,omitempty" maxLength:"60" doc:"The id of one of the file's media"`
	Dark    bool             `json:"dark,omitempty" doc:"Dark enough to hide fillings"`
	Portion material.Portion `json:"portion" doc:"Pigment, by mass"`
}

// Scatter is a medium broadcast into a wet coat.
type Scatter struct {
	Medium string                             `json:"medium" minLength:"1" maxLength:"60" doc:"The id of one of the file's media"`
	Degree string                             `json:"degree" enum:"light,even,full" doc:"full is to rejection"`
	Way    Throw                              `json:"way,omitempty" doc:"How it is thrown; by hand from the edge when left out"`
	Pace   *measure.Sourced[measure.MassRate] `json:"pace,omitempty" doc:"kg/s one person throws; by the way it is thrown when left out"`
	Mass   *measure.Sourced[measure.Coverage] `json:"mass,omitempty" doc:"kg/m² that stay; by the degree when left out"`
}

// Throw names how a person broadcasts.
type Throw string

// The ways of throwing.
const (
	ByHand     Throw = "hand"
	ByBlower   Throw = "blower"
	FromSpikes Throw = "spikes"
)

// Values returns all values, in the order in which they are shown.
func (Throw) Values() []Throw { return []Throw{ByHand, ByBlower, FromSpikes} }

// Paces of one person who broadcasts: several kg a minute by hand from a bucket, more by blower, less walking
// through the film in spiked shoes; and however little it is, no more of the floor than can be walked past:
// common practice, no source.
const (
	handThrows   measure.MassRate = 4.0 / measure.Minute
	blowerThrows measure.MassRate = 8.0 / measure.Minute
	spikesThrow  measure.MassRate = 3.0 / measure.Minute

	walkedPast = 0.5                 // m²/s
	unknown    = 60.0 / measure.Hour // m²/s, of a medium whose rate nobody knows
)

// Throws returns how much one person throws in a time.
func (s Scatter) Throws() measure.MassRate {
	if s.Pace != nil && s.Pace.Value > 0 {
		return s.Pace.Value
	}
	switch s.Way {
	case ByBlower:
		return blowerThrows
	case FromSpikes:
		return spikesThrow
	}
	return handThrows
}

// Stays returns what stays of a medium on a coat; 0 where that is not known.
func (s Scatter) Stays(m *material.Medium) measure.Coverage {
	switch {
	case s.Mass != nil:
		return s.Mass.Value
	case m != nil && m.Full != nil:
		return m.Full.Value * measure.Coverage(DegreeShare(s.Degree))
	}
	return 0
}

// Casting returns the person-seconds of broadcasting on a square metre, of what stays and, to rejection, of what
// bounces off.
func (s Scatter) Casting(m *material.Medium) measure.Span {
	thrown := s.Stays(m)
	if s.Degree == "full" && m != nil && m.Spare != nil {
		thrown *= measure.Coverage(1 + m.Spare.Value)
	}
	return casting(thrown, s.Throws())
}

// Casting returns the person-seconds of scattering grit by hand on a square metre that takes so much of the mix.
func (g Grit) Casting(perArea measure.Film) measure.Span {
	return casting(measure.Coverage(float64(g.Dose.Value)*float64(perArea)), handThrows)
}

func casting(thrown measure.Coverage, by measure.MassRate) measure.Span {
	if !(thrown > 0) {
		return 1 / unknown
	}
	return max(1/walkedPast, measure.Span(float64(thrown)/float64(by)))
}

// Grit is texture stirred into a coat.
type Grit struct {
	Medium string                           `json:"medium" minLength:"1" maxLength:"60" doc:"The id of one of the file's media"`
	Dose   measure.Sourced[measure.Content] `json:"dose" doc:"kg for each m³ of A and B"`
	Packs  *PacksToKit                      `json:"packs,omitempty" doc:"The dose in packs to a kit, in place of the one above"`
}

// PacksToKit is a dose as it is said: a packet to a can, half a bag to a kit.
type PacksToKit struct {
	Count float64 `json:"count" exclusiveMinimum:"0" maximum:"50"`
	Pack  string  `json:"pack" maxLength:"60" doc:"Name of a pack of the medium"`
	Kit   string  `json:"kit" maxLength:"60" doc:"Name of a kit of the product"`
}

// Dosed returns the grit with the dose that its packs to a kit come to; as it is, and false, where it names none that
// there is.
func (g Grit) Dosed(m *material.Medium, p *material.Product, density measure.Density) (Grit, bool) {
	if g.Packs == nil || m == nil || p == nil {
		return g, g.Packs == nil
	}
	for _, pack := range m.Packs {
		for _, kit := range p.Kits {
			if pack.Name != g.Packs.Pack || kit.Name != g.Packs.Kit {
				continue
			}
			volume := measure.Volume(0)
			switch {
			case kit.Volume != nil:
				volume = *kit.Volume
			case kit.Mass != nil && density > 0:
				volume = density.Volume(*kit.Mass)
			}
			if volume > 0 {
				g.Dose = measure.Sourced[measure.Content]{
					Value: measure.Content(g.Packs.Count * pack.Amount / float64(volume)), Source: measure.OwnTest}
				return g, true
			}
		}
	}
	return g, false
}

// DegreeShare returns how much of a full broadcast a degree is: common practice, no
// source.
func DegreeShare(degree string) float64 {
	return map[string]float64{"light": 0.15, "even": 0.5, "full": 1}[degree]
}

// How an addition gets into the coat, where it is stirred in.
const (
	IntoMix  = "into the mix"
	IntoCups = "into its cups"
	WithMix  = "wetted in the mix, and laid with it" // stones
)

// Grains holds what a broadcast coat leaves for the next one to fill.
type Grains struct {
	Name  string
	Voids measure.Sourced[measure.Film]
}

// Mixed reports whether it is stirred in, so that it follows what is mixed and not
// what is needed.
func (a Addition) Mixed() bool { return a.How == IntoMix || a.How == IntoCups }

// AsMixed returns the addition for all that is mixed for a need: what is dosed into the mix
// follows its volume, what goes onto the film does not.
func (a Addition) AsMixed(mixed, need measure.Volume) Addition {
	if a.Mixed() && need > 0 {
		a.Mass *= measure.Mass(mixed / need)
		a.Volume *= mixed / need
	}
	return a
}

// Addition holds what goes into or onto a coat beside its parts.
type Addition struct {
	Medium string         `json:"medium,omitempty"`
	Name   string         `json:"name"`
	How    string         `json:"how"`
	Mass   measure.Mass   `json:"mass,omitempty" doc:"kg"`
	Volume measure.Volume `json:"volume,omitempty" doc:"m³"`
}

// Naming is a medium that a coat names, with the field that does, as a JSON
// Pointer inside the coat.
type Naming struct{ Field, Medium string }

// Media lists every medium that the coat names, in the order in which it is
// worked. Whoever copies, prunes, guards or checks media goes by this list.
func (c Coat) Media() []Naming {
	var all []Naming
	add := func(field, medium string) {
		if medium != "" {
			all = append(all, Naming{field, medium})
		}
	}
	if c.Scatter != nil {
		add("/scatter/medium", c.Scatter.Medium)
	}
	if c.Grit != nil {
		add("/grit/medium", c.Grit.Medium)
	}
	if c.Colours != nil {
		for i, colour := range c.Colours.Colours {
			add(fmt.Sprintf("/colours/colours/%d/medium", i), colour.Medium)
		}
	}
	if c.Pigment != nil {
		add("/pigment/medium", c.Pigment.Medium)
	}
	add("/thinWith", c.ThinWith)
	return all
}

// scattered is the medium broadcast into the coat, or nil.
func (c Coat) scattered(u Under) *material.Medium {
	if c.Scatter == nil {
		return nil
	}
	return u.Media[c.Scatter.Medium]
}

// Leaves returns what the coat's broadcast leaves for the next coat to fill, or nil.
func (c Coat) Leaves(media map[string]*material.Medium) *Grains {
	m := c.scattered(Under{Media: media})
	if m == nil || m.Voids == nil {
		return nil
	}
	voids := *m.Voids
	voids.Value *= measure.Film(DegreeShare(c.Scatter.Degree))
	return &Grains{m.Name, voids}
}

// additions returns what goes into or onto the coat beside its parts.
func (c Coat) additions(mix material.Mix, b Build, u Under) []Addition {
	var all []Addition
	if c.Thinner != nil && b.Thinner > 0 {
		a := Addition{Medium: c.ThinWith, Name: "Thinner", How: IntoMix, Volume: b.Thinner}
		if m := u.Media[a.Medium]; m != nil {
			a.Name = m.Name
		}
		all = append(all, a)
	}
	if c.Pigment != nil {
		a := Addition{Name: "Pigment", How: IntoMix, Medium: c.Pigment.Medium,
			Mass: b.NeedMass * measure.Mass(c.Pigment.Portion.OfParts(mix.MassShare()))}
		if m := u.Media[a.Medium]; m != nil {
			a.Name = m.Name
		}
		all = append(all, a)
	}
	if c.Colours != nil {
		volumes := c.Colours.Volumes(b.Need, 1)
		for i, colour := range c.Colours.Colours {
			if m := u.Media[colour.Medium]; m != nil && colour.Portion != nil {
				mass := b.Density.Value.Of(volumes[i]) * measure.Mass(colour.Portion.OfParts(mix.MassShare()))
				all = append(all, Addition{Medium: m.ID, Name: m.Name, How: IntoCups, Mass: mass})
			}
		}
	}
	if c.Grit != nil {
		if m := u.Media[c.Grit.Medium]; m != nil {
			a := Addition{Medium: m.ID, Name: m.Name, How: IntoMix,
				Mass: measure.Mass(float64(c.Grit.Dose.Value) * float64(b.Need))}
			if u.Tossed {
				a.How = "scattered evenly onto the wet film"
			}
			all = append(all, a)
		}
	}
	if m := c.scattered(u); m != nil {
		a := Addition{Medium: m.ID, Name: m.Name,
			How: map[string]string{"light": "scattered lightly", "even": "scattered evenly",
				"full": "broadcast to rejection"}[c.Scatter.Degree]}
		if c.Wets() {
			a.How = WithMix
		}
		a.Mass = measure.Mass(float64(c.Scatter.Stays(m)) * float64(u.Area))
		all = append(all, a)
	}
	return all
}
