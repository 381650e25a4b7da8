package plan

import (
	"fmt"

	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/school"
)

// bought is the kits of every sheet over the whole job.
type bought struct {
	purchases []kit.Purchase
	by        map[material.SheetKey]*kit.Purchase
	cost      *float64 // nil where a size has no price
	found     []finding.Finding
}

// tightMargin is the margin under which a purchase is called tight: common
// practice, no source.
const tightMargin measure.Fraction = 0.02

// buyAll sums the need of each sheet over the whole job and chooses its kits.
func buyAll(in *inputs, b built) bought {
	needs := make(map[material.SheetKey]measure.Volume)
	var order []material.SheetKey
	for i, layers := range in.layers {
		for c, l := range layers {
			made := b.coats[i][c]
			if made == nil {
				continue
			}
			if _, seen := needs[l.sheet.key]; !seen {
				order = append(order, l.sheet.key)
			}
			needs[l.sheet.key] += made.Need
		}
	}
	out := bought{purchases: make([]kit.Purchase, 0, len(order)), by: make(map[material.SheetKey]*kit.Purchase, len(order))}
	tell := func(f finding.Finding) { out.found = append(out.found, f) }
	total, priced := 0.0, true
	for _, key := range order {
		s := in.sheets[key]
		p := s.product
		stock := kit.OnHand(*p, s.mix, key.Hardener, in.file.Job.Stock, in.now, in.methods.Shelf == school.IfSealed, in.units)
		out.found = append(out.found, stockFindings(in, p.Name, stock)...)
		bought, err := kit.Buy(*p, key.Hardener, s.mix, needs[key], stock, in.file.Job.Buying)
		if err != nil {
			tell(refused(finding.Kits, s.path+"/kits", "Choose another product, or enter the sizes that are sold now.", "%s: %s.", p.Name, err.Error()))
			continue
		}
		out.purchases = append(out.purchases, bought)
		if bought.Cost != nil {
			total += *bought.Cost
		} else {
			priced = false
		}
		if values := p.WeakValues(); len(values) > 0 {
			tell(finding.Finding{
				Level: finding.Note, Step: finding.BuildUp, Path: s.path,
				Text:   fmt.Sprintf("The plan rests on weak values of %s: %s.", p.Name, list(values)),
				WayOut: "Replace them with the data sheet's or your own test's.",
			})
		}
	}
	if priced && len(order) > 0 {
		out.cost = &total
	}
	for i := range out.purchases {
		p := &out.purchases[i]
		out.by[material.SheetKey{Product: p.Product, Hardener: p.Hardener}] = p
		out.found = append(out.found, nearMiss(in, *p, b)...)
		if p.Margin < tightMargin {
			tell(finding.Finding{
				Level: finding.Warning, Step: finding.Kits, Path: productPath(in, p.Product),
				Text: fmt.Sprintf("%s: %s at hand for a need of %s leaves a margin of %s, almost none.",
					p.Name, in.units.Volume(p.Bought), in.units.Volume(p.Need), in.units.Fraction(p.Margin)),
				WayOut: "Add a kit, or be sure of the loss you planned with.",
			})
		}
	}
	return out
}

// nearly says where a need passes a whole number of kits by a little, with the ways
// around one kit more: a film as thin as the kits allow while it keeps its limits, or
// less loss.
func nearMiss(in *inputs, p kit.Purchase, b built) []finding.Finding {
	s := in.sheets[material.SheetKey{Product: p.Product, Hardener: p.Hardener}]
	have := p.Nearly(*s.product, s.mix.Density.Value)
	if have <= 0 {
		return nil
	}
	fixed, film := 0.0, 0.0 // of A and B: what does not follow the film, and what does
	type one struct {
		layer *resolvedCoat
		build *buildup.Build
	}
	var coats []one
	for i, layers := range in.layers {
		for c := range layers {
			l, made := &layers[c], b.coats[i][c]
			if made == nil || l.sheet.key != s.key {
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
	thin, saving := &finding.Fix{Label: "Lay it thinner, " + in.units.Film(coats[0].build.Wet*measure.Film(by)) + " wet"}, &finding.Fix{}
	for _, c := range coats {
		if least := s.product.FilmMin; thin != nil && least != nil && !c.layer.coat.Seal && c.build.Wet*measure.Film(by) < least.Value {
			thin = nil
		}
		if thin != nil {
			thin.Patch = append(thin.Patch, finding.PatchStep{Op: "replace", Path: c.layer.path + "/amount", Value: c.layer.coat.Amount.Scaled(by)})
		}
		loss := 1 - (1-float64(c.build.Loss.Value))/by
		if saving == nil || loss < 0 {
			saving = nil
			continue
		}
		saving.Label = "Plan with a loss of " + in.units.Fraction(measure.Fraction(loss))
		saving.Patch = append(saving.Patch, finding.PatchStep{Op: "add", Path: c.layer.path + "/loss", Value: measure.Sourced[measure.Fraction]{Value: measure.Fraction(loss), Source: measure.Assumed}})
	}
	found := finding.Finding{
		Level: finding.Note, Step: finding.Kits, Path: first.path + "/amount",
		Text: fmt.Sprintf("%s: the need of %s passes %s of whole kits by %s only.", p.Name, in.units.Volume(p.Need), in.units.Volume(have), in.units.Fraction(measure.Fraction(p.Need/have-1))),
	}
	found.WayOut = "Keep the kit more for touch-up."
	switch {
	case thin != nil && saving != nil:
		found.WayOut = "Lay it as thin as these kits make it, which keeps its limits; plan with less loss, where you know why it will be less; or keep the kit more for touch-up."
		found.Fix, found.Others = thin, []finding.Fix{*saving}
	case thin != nil:
		found.WayOut = "Lay it as thin as these kits make it, which keeps its limits, or keep the kit more for touch-up."
		found.Fix = thin
	case saving != nil:
		found.WayOut = "Plan with less loss, where you know why it will be less, or keep the kit more for touch-up; no film within its limits makes that up."
		found.Fix = saving
	}
	return []finding.Finding{found}
}

// stockFindings says what of the stock cannot be used as it stands.
func stockFindings(in *inputs, name string, s kit.Stock) []finding.Finding {
	var found []finding.Finding
	for _, text := range s.Lone {
		found = append(found, finding.Finding{Level: finding.Warning, Step: finding.Kits, Path: "/job/stock", Text: text, WayOut: "Reserve its partner too, or free it for another job."})
	}
	for _, c := range s.Expired {
		text, way := "is left out", "Free it, or choose the school that a sealed pail is still good."
		if in.methods.Shelf == school.IfSealed && !c.Opened {
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
			Text: fmt.Sprintf("%s is in stock in %d lots (%s); one visible floor wants one lot.", name, len(s.Lots), list(s.Lots)), WayOut: "Lay each lot on a floor of its own, or mix the lots together before the first batch.",
		})
	}
	return found
}
