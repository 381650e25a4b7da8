package kit

import (
	"math"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// Dose is what one component contributes to a batch.
type Dose struct {
	Name           string         `json:"name"`
	Volume         measure.Volume `json:"volume" doc:"m³"`
	Mass           measure.Mass   `json:"mass" doc:"kg"`
	FillTo         measure.Volume `json:"fillTo" doc:"Mark on the pail once this is in, m³"`
	Height         measure.Length `json:"height,omitempty" doc:"Of that mark above the inner bottom of the pail, m; absent while the pail is not measured"`
	ScaleTo        measure.Mass   `json:"scaleTo" doc:"Reading of a scale tared with the empty pail, kg"`
	DensityAssumed bool           `json:"densityAssumed" doc:"The mass rests on an assumed density"`
}

// Card is what a person mixing a batch needs to know.
type Card struct {
	Batch      int            `json:"batch"`
	Of         int            `json:"of"`
	Product    string         `json:"product"`
	Color      string         `json:"color"`
	Share      string         `json:"share"`
	Ratio      material.Basis `json:"ratio" doc:"What the parts below count"`
	RatioParts []float64      `json:"ratioParts"`
	Parts      []Dose         `json:"parts"`
	Volume     measure.Volume `json:"volume"`
	Mass       measure.Mass   `json:"mass"`
	PotLife    measure.Span   `json:"potLife,omitempty" doc:"s from the moment A meets B; absent for a single-pack paint"`
	Mixing     measure.Span   `json:"mixing,omitempty" doc:"s"`
	Induction  measure.Span   `json:"induction,omitempty" doc:"s of standing before use"`
	Section    int            `json:"section"`
	Area       measure.Area   `json:"area" doc:"Of the section, m²"`
	Wet        measure.Film   `json:"wet" doc:"Film to lay, m"`
	Additions  []Added        `json:"additions,omitempty" doc:"What else goes in or on, in the order of the work"`
	Notes      []string       `json:"notes,omitempty" doc:"How this contractor works"`
	Cautions   []string       `json:"cautions"`
}

// Added is one addition of a batch.
type Added struct {
	Name   string         `json:"name"`
	How    string         `json:"how"`
	Mass   measure.Mass   `json:"mass,omitempty" doc:"kg"`
	Volume measure.Volume `json:"volume,omitempty" doc:"m³"`
}

// halfMinute is what a pot life is rounded down to on a card.
const halfMinute = 30

// NewCard writes the card of a batch that covers an area of a section with a
// wet film and lives for a time. Its parts come in the order of pouring,
// with heights in the pail where that is measured. Section n is batch n's.
func NewCard(p *material.Product, mix material.Mix, b Batch, of int, area measure.Area, wet measure.Film, life measure.Span, bFirst bool, pail *Pail) Card {
	c := Card{
		Batch: b.Number, Of: of, Product: p.Name, Color: p.Color, Share: b.Share,
		Ratio: p.Ratio.Basis, Volume: b.Volume, Mass: b.Mass,
		Section: b.Number, Area: area, Wet: wet, Cautions: p.Cautions,
		Parts: make([]Dose, len(mix.Shares)), RatioParts: make([]float64, len(p.Components)),
	}
	var fill measure.Volume
	var scale measure.Mass
	for i := range mix.Shares {
		at := i
		if bFirst && len(mix.Shares) > 1 && i < 2 {
			at = 1 - i
		}
		s := mix.Shares[at]
		part := Dose{Name: s.Name, Volume: measure.Volume(s.Volume) * b.Volume, DensityAssumed: s.Density.Source == measure.Assumed}
		part.Mass = s.Density.Value.Of(part.Volume)
		fill += part.Volume
		scale += part.Mass
		part.FillTo, part.ScaleTo = fill, scale
		if pail != nil {
			part.Height = pail.HeightOf(fill)
		}
		c.Parts[i] = part
		c.RatioParts[i] = p.Components[i].Parts
	}
	if len(c.Parts) > 1 {
		c.PotLife = measure.Span(math.Floor((float64(life)+0.5)/halfMinute) * halfMinute)
	}
	if p.Mixing != nil {
		c.Mixing = p.Mixing.Value
	}
	if p.Induction != nil {
		c.Induction = p.Induction.Value
	}
	return c
}
