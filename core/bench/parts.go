package bench

import (
	"fmt"

	"nephelon/core/cure"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// PartsQuestion is a pail of part A that is to come to a temperature before it is
// mixed, B being brought to the same.
type PartsQuestion struct {
	Hardener  string              `json:"hardener,omitempty" maxLength:"60"`
	Mass      measure.Mass        `json:"mass" exclusiveMinimum:"0" maximum:"500" doc:"kg of A in its pail"`
	Viscosity measure.Viscosity   `json:"viscosity,omitempty" minimum:"0" maximum:"10000" doc:"Pa·s of A as it is; that of the fresh mix of the sheet when left out"`
	From      measure.Temperature `json:"from" minimum:"-20" maximum:"60" doc:"°C"`
	To        measure.Temperature `json:"to" minimum:"-20" maximum:"60" doc:"°C wanted"`
	Put       cure.Surrounding    `json:"put"`
	Place     measure.Temperature `json:"place" minimum:"-30" maximum:"60" doc:"°C of the room or van, where it is put into no bath"`
	Batch     measure.Mass        `json:"batch" exclusiveMinimum:"0" maximum:"500" doc:"kg mixed at once, for its pot life"`
}

// PartsAnswer holds how long it takes, and what it does for the pot life.
type PartsAnswer struct {
	Takes  measure.Span `json:"takes" doc:"s until the pail is within half a kelvin of it"`
	Now    measure.Span `json:"now" doc:"s that a batch of these parts can be used as they are"`
	Then   measure.Span `json:"then" doc:"s that it can be used once they are there"`
	Beyond bool         `json:"beyond" doc:"One of the two lies beyond the temperatures of the sheet"`
	Notes  []string     `json:"notes"`
}

// Parts works out the cooling or warming of parts. It fails, with a sentence, where
// they never come there.
func Parts(p material.Product, q PartsQuestion, units measure.System) (PartsAnswer, error) {
	a := PartsAnswer{Notes: []string{}}
	sheet, err := p.With(q.Hardener)
	if err != nil {
		return a, fmt.Errorf("choose one of its hardeners: %w", err)
	}
	mix := sheet.Mix()
	model, err := lifeOf(sheet, mix)
	if err != nil {
		return a, err
	}
	viscosity, flowed := q.Viscosity, q.From
	if viscosity == 0 && len(sheet.Viscosity) > 0 {
		viscosity, flowed = sheet.Viscosity[0].Value, sheet.Viscosity[0].At
	}
	if a.Takes, err = (cure.Conditioning{
		Mass: q.Mass, Density: mix.Shares[0].Density.Value, Viscosity: viscosity, Flowed: flowed,
		From: q.From, To: q.To, Put: q.Put, Place: q.Place,
	}).Takes(); err != nil {
		return a, err
	}
	life := func(at measure.Temperature) (measure.Span, error) {
		span, beyond, err := model.Of(model.Promised(q.Batch, at, at, cure.InAir))
		a.Beyond = a.Beyond || beyond
		return span, err
	}
	if a.Now, err = life(q.From); err != nil {
		return a, err
	}
	if a.Then, err = life(q.To); err != nil {
		return a, err
	}
	if viscosity == 0 {
		a.Notes = append(a.Notes, "Its viscosity is not known: the liquid is assumed not to circulate; a thin part changes "+
			"temperature faster.")
	}
	if q.To < q.From && (sheet.MaterialMin != nil && q.To < sheet.MaterialMin.Value) {
		a.Notes = append(a.Notes,
			fmt.Sprintf("Its sheet requires parts of %s at least: colder ones are thick, hard to mix and may blush.",
				units.Temperature(sheet.MaterialMin.Value)))
	}
	if q.Put == cure.IceBath {
		a.Notes = append(a.Notes, "Keep the lids closed and wipe the pails dry: water in a part spoils it. Cold parts draw "+
			"dew; mix above the dew point.")
	}
	if q.Put == cure.WarmBath || q.Put == cure.Blanket {
		a.Notes = append(a.Notes, "Warm parts are thinner and have a shorter pot life. No flame; turn the pail so that the "+
			"wall does not "+
			"overheat.")
	}
	return a, nil
}
