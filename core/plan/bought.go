package plan

import (
	"fmt"

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
func buyAll(t terms, b built) bought {
	needs := make(map[material.SheetKey]measure.Volume)
	var order []material.SheetKey
	for i, layers := range t.layers {
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
		s := t.sheets[key]
		p := s.product
		stock := kit.OnHand(*p, s.mix, key.Hardener, t.file.Job.Stock, t.now, t.methods.Shelf == school.IfSealed, t.units)
		out.found = append(out.found, t.stockFindings(p.Name, stock)...)
		bought, err := kit.Buy(*p, key.Hardener, s.mix, needs[key], stock, t.file.Job.Buying)
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
		if p.Margin < tightMargin {
			tell(finding.Finding{
				Level: finding.Warning, Step: finding.Kits, Path: t.productPath(p.Product),
				Text: fmt.Sprintf("%s: %s at hand for a need of %s leaves a margin of %s, almost none.",
					p.Name, t.units.Volume(p.Bought), t.units.Volume(p.Need), t.units.Fraction(p.Margin)),
				WayOut: "Add a kit, or be sure of the loss you planned with.",
			})
		}
	}
	return out
}

// stockFindings says what of the stock cannot be used as it stands.
func (t terms) stockFindings(name string, s kit.Stock) []finding.Finding {
	var found []finding.Finding
	for _, text := range s.Lone {
		found = append(found, finding.Finding{Level: finding.Warning, Step: finding.Kits, Path: "/job/stock", Text: text, WayOut: "Reserve its partner too, or free it for another job."})
	}
	for _, c := range s.Expired {
		text, way := "is left out", "Free it, or choose the school that a sealed pail is still good."
		if t.methods.Shelf == school.IfSealed && !c.Opened {
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
