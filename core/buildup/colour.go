package buildup

import (
	"fmt"
	"math"

	"nephelon/core/finding"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// Colouring holds how a coat is divided into cups of colour. The first colour is
// the base, poured first and over everything.
type Colouring struct {
	Way     string         `json:"way" enum:"shares,base" doc:"shares: each colour has its share; base: so much for the base, the rest in equal cups"`
	Base    measure.Volume `json:"base,omitempty" minimum:"0" maximum:"1" doc:"m³ of the whole coat for the base, where the rest goes in equal cups"`
	Colours []Colour       `json:"colours" minItems:"1" maxItems:"12" doc:"Colours in the order in which they are poured"`
	Left    measure.Volume `json:"left,omitempty" minimum:"0" maximum:"0.001" doc:"m³ that cling to each cup; 5 mL when left out"`
	Least   measure.Volume `json:"least,omitempty" minimum:"0" maximum:"0.01" doc:"m³ of the smallest cup worth colouring; 60 mL when left out"`
	Mists   int            `json:"mists,omitempty" minimum:"0" maximum:"2" doc:"Mists of alcohol onto the poured film, as an accent"`
	Each    measure.Span   `json:"each,omitempty" minimum:"0" maximum:"3600" doc:"s to colour a cup; a minute when left out"`
}

// Colour is one of them.
type Colour struct {
	Name    string            `json:"name" minLength:"1" maxLength:"60"`
	Color   string            `json:"color" pattern:"^#[0-9a-fA-F]{6}$"`
	Share   measure.Fraction  `json:"share,omitempty" minimum:"0" maximum:"1" doc:"Share of the mix, where each colour has its share"`
	Medium  string            `json:"medium,omitempty" maxLength:"60" doc:"The id of one of the file's media; clear when left out"`
	Portion *material.Portion `json:"portion,omitempty" doc:"Share of pigment, by mass"`
	Where   string            `json:"where,omitempty" maxLength:"200" doc:"Where it is poured, in words"`
}

// What stands in where nobody said: common practice, no source.
const (
	leftInCup = 5e-6
	leastCup  = 60e-6
)

// Cling returns what stays in each cup.
func (c Colouring) Cling() measure.Volume {
	if c.Left > 0 {
		return c.Left
	}
	return leftInCup
}

// Smallest is the smallest cup worth colouring.
func (c Colouring) Smallest() measure.Volume {
	if c.Least > 0 {
		return c.Least
	}
	return leastCup
}

// Minutes returns how long one person colours a cup, s.
func (c Colouring) Minutes() measure.Span {
	if c.Each > 0 {
		return c.Each
	}
	return measure.Minute
}

// Takes returns how long so many hands colour all cups of a batch.
func (c Colouring) Takes(hands int) measure.Span {
	return c.Minutes() * measure.Span(math.Ceil(float64(len(c.Colours))/float64(max(1, hands))))
}

// Volumes are the colours' parts of a batch that is a share of the whole coat.
func (c Colouring) Volumes(batch measure.Volume, share float64) []measure.Volume {
	all := make([]measure.Volume, len(c.Colours))
	if c.Way != "base" {
		for i, colour := range c.Colours {
			all[i] = batch * measure.Volume(colour.Share)
		}
		return all
	}
	all[0] = min(batch, c.Base*measure.Volume(share))
	for i := 1; i < len(all); i++ {
		all[i] = (batch - all[0]) / measure.Volume(len(all)-1)
	}
	if len(all) == 1 {
		all[0] = batch
	}
	return all
}

// check names what the colours cannot be, or nil.
func (c Colouring) check(path string) *finding.Finding {
	sum := 0.0
	for i, colour := range c.Colours {
		sum += float64(colour.Share)
		if colour.Portion != nil && !colour.Portion.Within(mostPigment) {
			return &finding.Finding{Level: finding.Refused, Step: finding.BuildUp,
				Path:   fmt.Sprintf("%s/colours/%d/portion", path, i),
				Text:   fmt.Sprintf("That much pigment cannot be stirred into %s.", colour.Name),
				WayOut: "Enter it as a percentage, such as 3 %, and say of what."}
		}
	}
	if c.Way != "base" && math.Abs(sum-1) > sharesOff {
		return &finding.Finding{Level: finding.Refused, Step: finding.BuildUp, Path: path + "/colours",
			Text:   fmt.Sprintf("The colours' shares add up to %.4g %%, not to 100.", 100*sum),
			WayOut: "Change a share, or take so much for the base and the rest in equal cups."}
	}
	if c.Way == "base" && c.Base <= 0 {
		return &finding.Finding{Level: finding.Refused, Step: finding.BuildUp, Path: path + "/base",
			Text: "Nothing is set aside for the base.", WayOut: "Enter the share of the coat that is base colour."}
	}
	return nil
}

// sharesOff is the greatest difference of a sum of shares from one: what rounding whole
// percents of twelve colours can bring.
const sharesOff = 0.006
