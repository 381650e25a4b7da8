package advice

import (
	"fmt"
	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/plan/stage"
	"nephelon/core/school"
)

// built says what of each coat its sheet does not allow.
func built(in *input.Inputs, m stage.Measured, b stage.Built) []finding.Finding {
	var found []finding.Finding
	for i, layers := range in.Layers {
		s, off := in.File.Job.Surfaces[i], m.Surfaces[i].Takeoff
		if len(layers) == 0 {
			found = append(found, finding.Finding{
				Level: finding.Note, Step: finding.BuildUp, Path: input.SurfacePath(i) + "/coats",
				Text: s.Name + " has no coats yet.", WayOut: "Add the first coat of its build-up.",
			})
		}
		for c, l := range layers {
			if off == nil || !l.Sound {
				continue
			}
			made := b.Coats[i][c]
			if made == nil {
				found = append(found, input.Refused(finding.BuildUp, l.Path+"/on",
					"Lay it on the whole surface, or measure its edges.",
					"%s, coat %d: it goes on a part of the surface that has no area.", s.Name, l.Number))
				continue
			}
			upright := off.Facing.Vertical / off.Area
			switch l.Coat.On {
			case input.OnUpright:
				upright = 1
			case input.OnLevel:
				upright = 0
			}
			found = append(found, l.Coat.Findings(l.Sheet.Product, *made, upright, l.Number, l.Path, in.Units)...)
		}
	}
	return found
}

// tightMargin is the margin under which a purchase is called tight: common
// practice, no source.
const tightMargin measure.Fraction = 0.02

// bought says what cannot be bought, what of the stock is left out, and where a purchase is
// tight or just passes whole kits.
func bought(in *input.Inputs, b stage.Built, all stage.Bought) []finding.Finding {
	var found []finding.Finding
	tell := func(f finding.Finding) { found = append(found, f) }
	for _, asked := range all.Asked {
		s := asked.Sheet
		p := s.Product
		found = append(found, stockFindings(in, p.Name, asked.Stock)...)
		if asked.Bad != nil {
			tell(input.Refused(finding.Kits, s.Path+"/kits", "Choose another product, or enter the sizes that are sold now.",
				"%s: %s.", p.Name, asked.Bad.Error()))
			continue
		}
		if values := p.WeakValues(); len(values) > 0 {
			tell(finding.Finding{
				Level: finding.Note, Step: finding.BuildUp, Path: s.Path,
				Text:   fmt.Sprintf("The plan rests on weak values of %s: %s.", p.Name, input.List(values)),
				WayOut: "Replace them with the data sheet's or your own test's.",
			})
		}
	}
	for _, p := range all.Purchases {
		found = append(found, nearMiss(in, p, b)...)
		if p.Margin < tightMargin {
			tell(finding.Finding{
				Level: finding.Warning, Step: finding.Kits, Path: input.ProductPath(in, p.Product),
				Text: fmt.Sprintf("%s: %s at hand for a need of %s leaves a margin of %s, almost none.",
					p.Name, in.Units.Volume(p.Bought), in.Units.Volume(p.Need), in.Units.Fraction(p.Margin)),
				WayOut: "Add a kit, or be sure of the loss or the coverage you planned with.",
			})
		}
	}
	return found
}

// nearMiss says where a need passes a whole number of kits by a little, with the ways
// around one kit more: a film as thin as the kits allow while it keeps its limits, or
// less loss.
func nearMiss(in *input.Inputs, p kit.Purchase, b stage.Built) []finding.Finding {
	s := in.Sheets[material.SheetKey{Product: p.Product, Hardener: p.Hardener}]
	have := p.Nearly(*s.Product, s.Mix.Density.Value)
	if have <= 0 {
		return nil
	}
	fixed, film := 0.0, 0.0 // of A and B: what does not follow the film, and what does
	type one struct {
		layer *input.ResolvedCoat
		build *buildup.Build
	}
	var coats []one
	for i, layers := range in.Layers {
		for c := range layers {
			l, made := &layers[c], b.Coats[i][c]
			if made == nil || l.Sheet.Key != s.Key {
				continue
			}
			liquid := float64(made.Need + made.Thinner)
			share := float64(made.Need) / liquid
			fixed += float64(made.Extra) * share
			film += (liquid - float64(made.Extra)) * share
			coats = append(coats, one{l, made})
		}
	}
	by := (float64(have)*(1-1e-7) - fixed) / film
	if by <= 0 || by >= 1 || len(coats) == 0 {
		return nil
	}
	first := coats[0].layer
	thin, saving := &finding.Fix{Label: "Lay it thinner, " + in.Units.Film(coats[0].build.Wet*measure.Film(by)) + " wet"},
		&finding.Fix{}
	for _, c := range coats {
		if least := s.Product.FilmMin; thin != nil && least != nil && !c.layer.Coat.Seal &&
			c.build.Wet*measure.Film(by) < least.Value {
			thin = nil
		}
		if thin != nil {
			thin.Patch = append(thin.Patch, finding.PatchStep{Op: "replace", Path: c.layer.Path + "/amount",
				Value: c.layer.Coat.Amount.Scaled(by)})
		}
		loss := 1 - (1-float64(c.build.Loss.Value))/by
		if saving == nil || loss < 0 {
			saving = nil
			continue
		}
		saving.Label = "Plan with a loss of " + in.Units.Fraction(measure.Fraction(loss))
		saving.Patch = append(saving.Patch, finding.PatchStep{Op: "add", Path: c.layer.Path + "/loss",
			Value: measure.Sourced[measure.Fraction]{Value: measure.Fraction(loss), Source: measure.Assumed}})
	}
	found := finding.Finding{
		Level: finding.Note, Step: finding.Kits, Path: first.Path + "/amount",
		Text: fmt.Sprintf("%s: the need of %s exceeds %s of whole kits by only %s.", p.Name, in.Units.Volume(p.Need),
			in.Units.Volume(have), in.Units.Fraction(measure.Fraction(p.Need/have-1))),
	}
	found.WayOut = "Keep the kit more for touch-up."
	switch {
	case thin != nil && saving != nil:
		found.WayOut = "Lay it as thin as these kits make it, which keeps its limits; plan with less loss, where you know " +
			"why it will be less; or keep the kit more for touch-up."
		found.Fix, found.Others = thin, []finding.Fix{*saving}
	case thin != nil:
		found.WayOut = "Lay it as thin as these kits make it, which keeps its limits, or keep the kit more for touch-up."
		found.Fix = thin
	case saving != nil:
		found.WayOut = "Plan with less loss, where you know why it will be less, or keep the kit more for touch-up; no " +
			"film within its limits makes that up."
		found.Fix = saving
	}
	return []finding.Finding{found}
}

// stockFindings says what of the stock cannot be used as it stands.
func stockFindings(in *input.Inputs, name string, s kit.Stock) []finding.Finding {
	var found []finding.Finding
	for _, text := range s.Lone {
		found = append(found, finding.Finding{Level: finding.Warning, Step: finding.Kits, Path: "/job/stock", Text: text,
			WayOut: "Reserve its partner too, or free it for another job."})
	}
	for _, c := range s.Expired {
		text, way := "is left out", "Free it, or choose the school that a sealed pail is still good."
		if in.Methods.Shelf == school.IfSealed && !c.Opened {
			text, way = "counts all the same, by your rule for sealed pails", "Try a cup of it first."
		}
		found = append(found, finding.Finding{
			Level: finding.Warning, Step: finding.Kits, Path: "/job/stock",
			Text: fmt.Sprintf("%s, lot %s, expired on %s and %s.", name, c.Lot, c.Expires, text), WayOut: way,
		})
	}
	if len(s.Lots) > 1 {
		found = append(found, finding.Finding{
			Level: finding.Note, Step: finding.Kits, Path: "/job/stock",
			Text: fmt.Sprintf("%s is in stock in %d lots (%s); use one lot for one visible floor.", name, len(s.Lots),
				input.List(s.Lots)), WayOut: "Lay each lot on a floor of its own, or mix the lots together before the first batch.",
		})
	}
	return found
}
