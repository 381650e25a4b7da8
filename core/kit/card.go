package kit

import (
	"fmt"
	"math"
	"time"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// Dose holds what one component contributes to a batch.
type Dose struct {
	Name           string         `json:"name"`
	Volume         measure.Volume `json:"volume" doc:"m³"`
	Mass           measure.Mass   `json:"mass" doc:"kg"`
	FillTo         measure.Volume `json:"fillTo" doc:"Mark on the pail once this is in, m³"`
	Height         measure.Length `json:"height,omitempty" doc:"Height of that mark above the inner bottom of the pail, m; absent while the pail is not measured"`
	ScaleTo        measure.Mass   `json:"scaleTo" doc:"What the scale then shows, kg: the empty pail counted where it is not tared, rounded to the scale's step"`
	Tolerance      measure.Mass   `json:"tolerance" doc:"kg that this dose may be off, so that the ratio stays good even if the others are too"`
	DensityAssumed bool           `json:"densityAssumed" doc:"The mass rests on an assumed density"`
}

// Card holds what a person mixing a batch needs to know.
type Card struct {
	Batch      int            `json:"batch"`
	Of         int            `json:"of"`
	Product    string         `json:"product"`
	Color      string         `json:"color"`
	Share      string         `json:"share"`
	Ratio      material.Basis `json:"ratio" doc:"What the parts below count"`
	RatioParts []float64      `json:"ratioParts"`
	Parts      []Dose         `json:"parts"`
	Tare       measure.Mass   `json:"tare,omitempty" doc:"kg of the empty pail, counted in what the scale shows; absent where the scale is tared with it"`
	Strokes    *Strokes       `json:"strokes,omitempty" doc:"The same doses by pump"`
	Volume     measure.Volume `json:"volume"`
	Mass       measure.Mass   `json:"mass"`
	PotLife    measure.Span   `json:"potLife,omitempty" doc:"s from the moment A meets B; absent for a single-pack paint"`
	Beyond     bool           `json:"beyond,omitempty" doc:"The pot life rests on a temperature beyond its sheet"`
	Smokes     measure.Span   `json:"smokes,omitempty" doc:"s after the pot life that a pail left standing smokes; absent where it does not"`
	Mixing     measure.Span   `json:"mixing,omitempty" doc:"s of mixing A with B; stirring, of a product of one part"`
	MixingMax  measure.Span   `json:"mixingMax,omitempty" doc:"s of that at most"`
	Again      measure.Span   `json:"again,omitempty" doc:"s of mixing in a second vessel"`
	Colouring  measure.Span   `json:"colouring,omitempty" doc:"s of dividing it into cups and colouring them"`
	Turning    measure.Span   `json:"turning,omitempty" doc:"s of turning its stones in it"`
	Induction  measure.Span   `json:"induction,omitempty" doc:"s of standing before use"`
	Steps      []CardStep     `json:"steps" doc:"What is done, in its order"`
	Floor      []CardStep     `json:"floor" doc:"What its section then needs, by how it is laid and on what"`
	Meets      *time.Time     `json:"meets,omitempty" doc:"When A is to meet B; absent while the start of the work is not planned"`
	UseBy      *time.Time     `json:"useBy,omitempty" doc:"When the pail can no longer be used"`
	Section    int            `json:"section"`
	Area       measure.Area   `json:"area" doc:"Area of the section, m²"`
	Wet        measure.Film   `json:"wet" doc:"Film to lay, m"`
	Cups       []Cup          `json:"cups,omitempty" doc:"Cups by colour, in the order of pouring"`
	Turns      []Turn         `json:"turns,omitempty" doc:"When each piece is poured, so that the last still lives"`
	Additions  []Added        `json:"additions,omitempty" doc:"What else goes in or on, in the order of the work"`
	Warning    string         `json:"warning,omitempty" doc:"Why this batch cannot be dosed as is usual here"`
	Cautions   []string       `json:"cautions"`
}

// CardStep is one thing to do.
type CardStep struct {
	Text  string       `json:"text"`
	Lasts measure.Span `json:"lasts,omitempty" doc:"s"`
}

// Added is one addition of a batch.
type Added struct {
	Name   string         `json:"name"`
	How    string         `json:"how"`
	Mass   measure.Mass   `json:"mass,omitempty" doc:"kg"`
	Volume measure.Volume `json:"volume,omitempty" doc:"m³"`
}

// Filling holds how a contractor doses a pail.
type Filling struct {
	BFirst bool
	Pail   *Pail
	Tare   measure.Mass // of the empty pail; 0 where it is tared away
	Scale  measure.Mass // the smallest step of the scale; 0 where it is as fine as one reads
	Pumps  *material.Pumps
	Mixing Mixing
}

// halfMinute is the step, s, to which a pot life is rounded down on a card.
const halfMinute = 30

// NewCard writes the card of a batch that covers an area of a section with a
// wet film and lives for a time. Its parts come in the order of pouring,
// with heights in the pail where that is measured. Section n is batch n's.
func NewCard(p *material.Product, mix material.Mix, b Batch, of int, area measure.Area, wet measure.Film,
	life measure.Span, how Filling, units measure.System) Card {
	c := Card{
		Batch: b.Number, Of: of, Product: p.Name, Color: p.Color, Share: b.Share,
		Ratio: p.Ratio.Basis, Volume: b.Volume, Mass: b.Mass, Tare: how.Tare,
		Section: b.Number, Area: area, Wet: wet, Steps: []CardStep{}, Floor: []CardStep{}, Cautions: p.Cautions,
		Parts: make([]Dose, len(mix.Shares)), RatioParts: make([]float64, len(p.Components)),
	}
	var fill measure.Volume
	scale := how.Tare
	for i := range mix.Shares {
		at := i
		if how.BFirst && len(mix.Shares) > 1 && i < 2 {
			at = 1 - i
		}
		s := mix.Shares[at]
		part := Dose{Name: s.Name, Volume: measure.Volume(s.Volume) * b.Volume,
			DensityAssumed: s.Density.Source == measure.Assumed}
		part.Mass = s.Density.Value.Of(part.Volume)
		part.Tolerance = part.Mass * goodOff / 2
		fill += part.Volume
		scale += part.Mass
		part.FillTo, part.ScaleTo = fill, stepped(scale, how.Scale)
		if how.Pail != nil {
			part.Height = how.Pail.HeightOf(fill)
		}
		c.Parts[i] = part
		c.RatioParts[i] = p.Components[i].Parts
	}
	c.PotLife = CardLife(p, life)
	if len(c.Parts) > 1 {
		c.doses(p.Name, mix, how, units)
	}
	m := how.Mixing
	if p.MixingMax != nil {
		c.MixingMax = p.MixingMax.Value
	}
	c.Mixing, c.Again, c.Colouring, c.Turning, c.Induction = m.First, m.Second, m.Colours, m.Turned, m.Stand
	return c
}

// CardLife is a pot life as a card promises it, rounded down; 0 for a product of
// one part.
func CardLife(p *material.Product, life measure.Span) measure.Span {
	if len(p.Components) < 2 {
		return 0
	}
	return measure.Span(math.Floor((float64(life)+0.5)/halfMinute) * halfMinute)
}

func stepped(m, step measure.Mass) measure.Mass {
	if step <= 0 {
		return m
	}
	return measure.Mass(math.Round(float64(m/step))) * step
}

// doses looks whether the scale and the pumps at hand keep the ratio.
func (c *Card) doses(name string, mix material.Mix, how Filling, units measure.System) {
	if off := c.rounded(how.Scale); off > goodOff {
		c.Warning = fmt.Sprintf("A scale in steps of %s puts the ratio off by up to %s on a batch this small: take a finer "+
			"one, or measure by volume.", units.Mass(how.Scale), units.Fraction(measure.Fraction(off)))
	}
	if how.Pumps == nil {
		return
	}
	strokes, err := Pumped(*how.Pumps, name, mix, c.Volume, units)
	if err != nil {
		c.Warning = "Not with these pumps: " + err.Error() + "."
		return
	}
	c.Strokes = &strokes
}

// rounded returns how far doses read off a scale of these steps can put the ratio
// off: by the readings themselves where they are rounded, and by half a step of
// the smallest dose.
func (c *Card) rounded(step measure.Mass) float64 {
	if step <= 0 {
		return 0
	}
	worst, before := 0.0, stepped(c.Tare, step)
	low, high := math.Inf(1), math.Inf(-1)
	for _, d := range c.Parts {
		share := float64((d.ScaleTo - before) / d.Mass)
		before = d.ScaleTo
		low, high = math.Min(low, share), math.Max(high, share)
		worst = math.Max(worst, float64(step/2/d.Mass))
	}
	if low <= 0 {
		return 1
	}
	return math.Max(worst, high/low-1)
}
