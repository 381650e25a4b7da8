package kit

import (
	"fmt"
	"math"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// Verdict names what a ratio as weighed is worth.
type Verdict string

// The verdicts, best first.
const (
	Good     Verdict = "good"
	Doubtful Verdict = "doubtful"
	Spoilt   Verdict = "spoilt"
)

// How far off a ratio may be: common practice, no source. The sheet rules.
const (
	goodOff     = 0.02
	doubtfulOff = 0.05
)

// Weighed is a batch as it stands on the scale.
type Weighed struct {
	Masses  []measure.Mass `json:"masses" minItems:"2" maxItems:"3" doc:"kg of A, B and C as poured"`
	Elapsed measure.Span   `json:"elapsed" minimum:"0" maximum:"86400" doc:"s since A met B"`
	Life    measure.Span   `json:"life" minimum:"0" maximum:"604800" doc:"s of pot life of this mass"`
	Bucket  measure.Volume `json:"bucket" exclusiveMinimum:"0" maximum:"1" doc:"m³ to the brim"`
}

// mostWeighed is more than stands on any scale at a mixing place, kg.
const mostWeighed measure.Mass = 2000

// RatioCheck is the true ratio of a batch, and how to save it.
type RatioCheck struct {
	True    []float64        `json:"true" doc:"Parts by mass as poured, to one of the last"`
	Right   []float64        `json:"right" doc:"Parts by mass as they should be, to one of the last"`
	Off     measure.Fraction `json:"off" doc:"The part furthest from right; above zero is too much of A"`
	Verdict Verdict          `json:"verdict"`
	Text    string           `json:"text"`
	Save    []Rescue         `json:"save" doc:"What to add, mixed in at once; empty where nothing can or need be saved"`

	Workings []measure.Working `json:"workings"`
}

// Rescue holds what to add of one component.
type Rescue struct {
	Name   string         `json:"name"`
	Mass   measure.Mass   `json:"mass" doc:"kg"`
	Volume measure.Volume `json:"volume" doc:"m³"`
}

// saveBefore is the share of the pot life within which more can still be mixed
// in: common practice, no source.
const saveBefore = 0.3

// CheckRatio judges a batch as it was weighed. It fails on weights that are no
// batch.
func CheckRatio(p *material.Product, w Weighed, units measure.System) (RatioCheck, error) {
	mix := p.Mix()
	c := RatioCheck{Save: []Rescue{}}
	if len(mix.Shares) < 2 {
		return c, fmt.Errorf("%s has one part only, so there is no ratio to check", p.Name)
	}
	if len(w.Masses) != len(mix.Shares) {
		return c, fmt.Errorf("%s has %d parts; enter the mass of each", p.Name, len(mix.Shares))
	}
	right := make([]float64, len(mix.Shares)) // kg of each to a kg of the mix
	whole := 0.0
	for i, s := range mix.Shares {
		if !(w.Masses[i] > 0 && w.Masses[i] <= mostWeighed) {
			return c, fmt.Errorf("enter the mass of %s as the scale shows it, above zero and at most %s", s.Name,
				units.Mass(mostWeighed))
		}
		right[i] = s.Volume * float64(s.Density.Value)
		whole += right[i]
	}
	most, last := 0.0, len(right)-1
	for i := range right {
		right[i] /= whole
		most = math.Max(most, float64(w.Masses[i])/right[i])
		c.True = append(c.True, float64(w.Masses[i]/w.Masses[last]))
	}
	for i := range right {
		c.Right = append(c.Right, right[i]/right[last])
	}
	// Against the part of which there is most, each other is short by a share.
	volume := measure.Volume(0)
	for i, s := range mix.Shares {
		off := float64(w.Masses[0])/right[0]/(float64(w.Masses[i])/right[i]) - 1
		if math.Abs(off) > math.Abs(float64(c.Off)) {
			c.Off = measure.Fraction(off)
		}
		volume += s.Density.Value.Volume(w.Masses[i])
		if add := measure.Mass(most*right[i]) - w.Masses[i]; float64(add) > 1e-6*float64(w.Masses[i]) {
			c.Save = append(c.Save, Rescue{s.Name, add, s.Density.Value.Volume(add)})
		}
	}
	c.Workings = []measure.Working{{
		Title: "Ratio as weighed", Formula: "(A ÷ A wanted) ÷ (part ÷ part wanted) − 1, the worst of them",
		Source: "Definition of the ratio; ±2 % good, to ±5 % doubtful: common practice",
		Inputs: []measure.Value{},
		Result: measure.Value{Name: "Off", Kind: measure.KindFraction, SI: float64(c.Off)},
	}}
	for i, s := range mix.Shares {
		c.Workings[0].Inputs = append(c.Workings[0].Inputs,
			measure.Value{Name: s.Name + " as weighed", Kind: measure.KindMass, SI: float64(w.Masses[i])},
			measure.Value{Name: s.Name + " wanted, of the mix", Kind: measure.KindFraction, SI: right[i],
				Source: p.Ratio.Source})
	}
	c.judge(p, w, volume, units)
	return c, nil
}

// judge gives the verdict and its words.
func (c *RatioCheck) judge(p *material.Product, w Weighed, volume measure.Volume, units measure.System) {
	off := math.Abs(float64(c.Off))
	side := "too much hardener"
	if c.Off > 0 {
		side = "too much resin"
	}
	told := fmt.Sprintf("%s is off by %s, %s", p.Name, units.Fraction(measure.Fraction(off)), side)
	switch {
	case off <= goodOff:
		c.Verdict, c.Save = Good, []Rescue{}
		c.Text = fmt.Sprintf("The ratio is right within %s. Go on.", units.Fraction(measure.Fraction(off)))
		return
	case off <= doubtfulOff:
		c.Verdict = Doubtful
	default:
		c.Verdict = Spoilt
	}
	full := volume
	for _, r := range c.Save {
		full += r.Volume
	}
	switch {
	case w.Life > 0 && w.Elapsed > w.Life*saveBefore:
		c.Save = []Rescue{}
		c.Text = fmt.Sprintf("%s, and it was mixed %s ago of its pot life of %s: too late to mix more in. Do not use it.",
			told,
			units.Span(w.Elapsed), units.Span(w.Life))
	case full > w.Bucket:
		c.Save = []Rescue{}
		c.Text = fmt.Sprintf("%s. Corrected, it would be %s, more than the bucket of %s holds. Pour it into a larger one "+
			"first, or do not use it.", told, units.Volume(full), units.Volume(w.Bucket))
	default:
		c.Text = told + ". Add what is missing at once, and mix again from the beginning:"
		for _, r := range c.Save {
			c.Text += fmt.Sprintf(" %s of %s.", units.Mass(r.Mass), r.Name)
		}
	}
	if asVolumes(p.Mix(), w.Masses) {
		c.Text += " These masses stand as its volumes should: was it poured by volume and read as weight, or the volume " +
			"ratio weighed? Read again before you add anything."
	}
	if c.Verdict == Spoilt && len(c.Save) == 0 {
		c.Text += " Off ratio it never hardens through, and no later coat cures it. Let it harden outside, and dispose of " +
			"it by local rules."
	}
}

// asVolumes reports whether masses stand in the ratio of the volumes within what is good: litres that were entered as
// kilograms, or parts by volume that were weighed.
func asVolumes(mix material.Mix, masses []measure.Mass) bool {
	for i, s := range mix.Shares {
		off := float64(masses[0]) / mix.Shares[0].Volume / (float64(masses[i]) / s.Volume)
		if math.Abs(off-1) > goodOff {
			return false
		}
	}
	return true
}

// Values returns all values, in the order in which they are shown.
func (Verdict) Values() []Verdict {
	return []Verdict{Good, Doubtful, Spoilt}
}
