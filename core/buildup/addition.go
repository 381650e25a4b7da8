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
	Mass   *measure.Sourced[measure.Coverage] `json:"mass,omitempty" doc:"kg/m² that stay; by the degree when left out"`
}

// Grit is texture stirred into a coat.
type Grit struct {
	Medium string                           `json:"medium" minLength:"1" maxLength:"60" doc:"The id of one of the file's media"`
	Dose   measure.Sourced[measure.Content] `json:"dose" doc:"kg for each m³ of A and B"`
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
		switch {
		case c.Scatter.Mass != nil:
			a.Mass = measure.Mass(float64(c.Scatter.Mass.Value) * float64(u.Area))
		case m.Full != nil:
			a.Mass = measure.Mass(float64(m.Full.Value) * float64(u.Area) * DegreeShare(c.Scatter.Degree))
		}
		all = append(all, a)
	}
	return all
}
