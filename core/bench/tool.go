package bench

import (
	"fmt"

	"nephelon/core/buildup"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// SpreadQuestion is an amount of one product over an area, asked about away from
// any job.
type SpreadQuestion struct {
	Hardener string                            `json:"hardener,omitempty" maxLength:"60"`
	Amount   buildup.Amount                    `json:"amount"`
	Area     measure.Area                      `json:"area" exclusiveMinimum:"0" maximum:"1000000" doc:"m²"`
	Loss     measure.Sourced[measure.Fraction] `json:"loss"`
	Notch    measure.Number                    `json:"notch,omitempty" minimum:"0" maximum:"5" doc:"Depth of a notch over the wet film it leaves; 2 when left out"`
}

// SpreadAnswer is the film, what it takes, and the tool that leaves it.
type SpreadAnswer struct {
	Wet      measure.Film      `json:"wet" doc:"m"`
	Dry      measure.Film      `json:"dry" doc:"m"`
	Spread   measure.Spread    `json:"spread" doc:"m²/m³ by the film"`
	Takes    measure.Spread    `json:"takes" doc:"m²/m³ with the loss: the practical spread"`
	Coverage measure.Coverage  `json:"coverage" doc:"kg/m²"`
	Need     measure.Volume    `json:"need" doc:"m³, loss included"`
	NeedMass measure.Mass      `json:"needMass" doc:"kg"`
	Notch    measure.Film      `json:"notch" doc:"m: depth of the notch or pin that leaves this film"`
	Purchase *kit.Purchase     `json:"purchase,omitempty" doc:"Absent where no size is sold"`
	Notes    []string          `json:"notes"`
	Workings []measure.Working `json:"workings"`
}

// Spread works out an amount over an area. It fails, with a sentence, where the
// amount is none or the hardener is not its own.
func Spread(p material.Product, q SpreadQuestion, units measure.System) (SpreadAnswer, error) {
	a := SpreadAnswer{Notes: []string{}}
	sheet, err := p.With(q.Hardener)
	if err != nil {
		return a, fmt.Errorf("choose one of its hardeners: %w", err)
	}
	coat := buildup.Coat{Product: p.ID, Hardener: q.Hardener, Amount: q.Amount, Loss: &q.Loss}
	if bad := coat.Check(""); bad != nil {
		return a, fmt.Errorf("%s %s", bad.Text, bad.WayOut)
	}
	mix := sheet.Mix()
	b := coat.Build(&sheet, mix, buildup.Under{Area: q.Area})
	a.Wet, a.Dry, a.Spread, a.Takes, a.Coverage, a.Need, a.NeedMass, a.Workings = b.Wet, b.Dry, b.Spread, b.Takes,
		b.Coverage, b.Need, b.NeedMass, b.Workings
	factor := q.Notch
	source := measure.OwnTest
	if factor == 0 {
		factor, source = buildup.NotchOverFilm, measure.RuleOfThumb
	}
	a.Notch = b.Wet * measure.Film(factor)
	a.Workings = append(a.Workings, measure.Working{
		Title: "Notch", Formula: "wet film × depth over film",
		Source: "Common practice: about half of what stands in a notch stays; check with a notch gauge (ASTM D4414)",
		Inputs: []measure.Value{
			{Name: "Wet film", Kind: measure.KindFilm, SI: float64(b.Wet)},
			{Name: "Depth over film", Kind: measure.KindNumber, SI: float64(factor), Source: source},
		},
		Result: measure.Value{Name: "Depth of the notch", Kind: measure.KindFilm, SI: float64(a.Notch)},
	})
	if bought, err := kit.Buy(sheet, q.Hardener, mix, b.Need, kit.Stock{}, nil); err != nil {
		a.Notes = append(a.Notes, fmt.Sprintf("No size of %s is sold any more.", sheet.Name))
	} else {
		a.Purchase = &bought
		a.Workings = append(a.Workings, bought.Workings...)
	}
	if sheet.FilmMin != nil && b.Wet < sheet.FilmMin.Value {
		a.Notes = append(a.Notes, fmt.Sprintf("%s is under its minimum film of %s: it may not level or hide.",
			units.Film(b.Wet), units.Film(sheet.FilmMin.Value)))
	}
	if sheet.FilmMax != nil && b.Wet > sheet.FilmMax.Value {
		a.Notes = append(a.Notes, fmt.Sprintf("%s is over its maximum film of %s: lay it in several coats.",
			units.Film(b.Wet), units.Film(sheet.FilmMax.Value)))
	}
	if b.Density.Source == measure.Assumed {
		a.Notes = append(a.Notes, "Its sheet gives no density, so the masses rest on an assumed one.")
	}
	return a, nil
}

// PumpQuestion is a batch drawn by pumps.
type PumpQuestion struct {
	Hardener string         `json:"hardener,omitempty" maxLength:"60"`
	Pumps    material.Pumps `json:"pumps"`
	Volume   measure.Volume `json:"volume" exclusiveMinimum:"0" maximum:"1" doc:"m³ wanted"`
}

// PumpAnswer holds how often each pump is pressed.
type PumpAnswer struct {
	Strokes  kit.Strokes       `json:"strokes"`
	Workings []measure.Working `json:"workings"`
}

// Pump counts the strokes of a batch. It fails, with a sentence, where these
// pumps cannot keep the ratio.
func Pump(p material.Product, q PumpQuestion, units measure.System) (PumpAnswer, error) {
	var a PumpAnswer
	sheet, err := p.With(q.Hardener)
	if err != nil {
		return a, fmt.Errorf("choose one of its hardeners: %w", err)
	}
	mix := sheet.Mix()
	if a.Strokes, err = kit.Pumped(q.Pumps, sheet.Name, mix, q.Volume, units); err != nil {
		return a, err
	}
	doseA, doseB := q.Pumps.Gives(mix.Shares[0].Density.Value, mix.Shares[1].Density.Value)
	a.Workings = []measure.Working{{
		Title: "Strokes", Formula: "(strokes of A × stroke of A) ÷ (strokes of B × stroke of B) ÷ ratio − 1 = off",
		Source: "Definition of the ratio; ten weighed strokes override the stated volume per stroke",
		Inputs: []measure.Value{
			{Name: "Strokes of A", Kind: measure.KindCount, SI: float64(a.Strokes.A)},
			{Name: "Stroke of A", Kind: measure.KindVolume, SI: float64(doseA)},
			{Name: "Strokes of B", Kind: measure.KindCount, SI: float64(a.Strokes.B)},
			{Name: "Stroke of B", Kind: measure.KindVolume, SI: float64(doseB)},
			{Name: "Ratio of A to B by volume", Kind: measure.KindNumber, SI: mix.Shares[0].Volume / mix.Shares[1].Volume},
		},
		Result: measure.Value{Name: "Off", Kind: measure.KindFraction, SI: float64(a.Strokes.Off)},
	}}
	return a, nil
}

// lifeWorking shows how a pot life came about.
func lifeWorking(q PailQuestion, printed measure.Span, sheetMass measure.Mass, a PailAnswer) measure.Working {
	return measure.Working{
		Title:   "Pot life of this pail",
		Formula: "sheet's pot life at this temperature × gel of this pail ÷ gel of the sheet's mass",
		Source: "Arrhenius through the sheet's points; dα/dt = (k₁ + k₂·αᵐ)·(1 − α)ⁿ (Kamal and Sourour 1973) with " +
			"m·cp·dT/dt = m·ΔH·dα/dt − h·S·(T − air)",
		Inputs: []measure.Value{
			{Name: "A", Kind: measure.KindTemperature, SI: float64(q.A)},
			{Name: "B", Kind: measure.KindTemperature, SI: float64(q.B)},
			{Name: "Mixed", Kind: measure.KindTemperature, SI: float64(a.Mixed)},
			{Name: "Sheet's pot life at that temperature", Kind: measure.KindSpan, SI: float64(printed), Source: measure.Sheet},
			{Name: "on", Kind: measure.KindMass, SI: float64(sheetMass)},
			{Name: "In this pail", Kind: measure.KindMass, SI: float64(q.Mass)},
		},
		Result: measure.Value{Name: "Pot life", Kind: measure.KindSpan, SI: float64(a.Life)},
	}
}
