package kit

import (
	"nephelon/core/buildup"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// Cup is one colour of a batch.
type Cup struct {
	Name     string         `json:"name"`
	Color    string         `json:"color"`
	Volume   measure.Volume `json:"volume" doc:"m³ of mix in it"`
	Mass     measure.Mass   `json:"mass" doc:"kg of mix in it"`
	A        measure.Mass   `json:"a,omitempty" doc:"kg of A in it, where A is coloured before B is added"`
	B        measure.Mass   `json:"b,omitempty" doc:"kg of B for it"`
	Pigment  measure.Mass   `json:"pigment,omitempty" doc:"kg of pigment"`
	Medium   string         `json:"medium,omitempty"`
	Where    string         `json:"where,omitempty"`
	Pours    []Dab          `json:"pours" doc:"Over the pieces, in their order"`
	Left     measure.Volume `json:"left" doc:"m³ that cling to it"`
	TooSmall bool           `json:"tooSmall,omitempty"`
}

// Dab holds what a piece gets of a cup.
type Dab struct {
	Piece  string         `json:"piece"`
	Volume measure.Volume `json:"volume" doc:"m³"`
}

// Turn holds when a piece is poured.
type Turn struct {
	Piece string       `json:"piece"`
	Area  measure.Area `json:"area" doc:"m²"`
	From  measure.Span `json:"from" doc:"s after A met B"`
	Until measure.Span `json:"until" doc:"s after A met B"`
}

// Patch is a piece that a batch is poured over.
type Patch struct {
	Name string
	Area measure.Area
}

// Cups divides a batch, a share of its coat, into its colours, and the colours
// over the pieces by their area. What clings to a cup reaches no piece. Where A
// is coloured beforehand each cup has its own A and B.
func Cups(c buildup.Colouring, b Batch, share float64, pieces []Patch, mix material.Mix, before bool) []Cup {
	area := measure.Area(0)
	for _, p := range pieces {
		area += p.Area
	}
	a := mix.MassShare()
	cups := make([]Cup, len(c.Colours))
	for i, volume := range c.Volumes(b.Volume, share) {
		colour := c.Colours[i]
		cup := Cup{
			Name: colour.Name, Color: colour.Color, Medium: colour.Medium, Where: colour.Where, Volume: volume,
			Mass: b.Mass * measure.Mass(volume/b.Volume),
			Left: min(volume, c.Cling()), TooSmall: volume < c.Smallest(), Pours: make([]Dab, len(pieces)),
		}
		if colour.Portion != nil {
			cup.Pigment = cup.Mass * measure.Mass(colour.Portion.OfParts(a))
		}
		if before {
			cup.A, cup.B = cup.Mass*measure.Mass(a), cup.Mass*measure.Mass(1-a)
		}
		for n, p := range pieces {
			cup.Pours[n] = Dab{p.Name, (volume - cup.Left) * measure.Volume(p.Area/area)}
		}
		cups[i] = cup
	}
	return cups
}

// Turns share what is left of a batch's life among the pieces by their area.
func Turns(pieces []Patch, ready, life measure.Span) []Turn {
	area, done := measure.Area(0), measure.Area(0)
	for _, p := range pieces {
		area += p.Area
	}
	turns := make([]Turn, len(pieces))
	at := func() measure.Span { return ready + (life-ready)*measure.Span(done/area) }
	for i, p := range pieces {
		turns[i] = Turn{Piece: p.Name, Area: p.Area, From: at()}
		done += p.Area
		turns[i].Until = at()
	}
	return turns
}
