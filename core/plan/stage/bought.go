package stage

import (
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/school"
)

// Bought is the kits of every sheet over the whole job.
type Bought struct {
	Purchases []kit.Purchase
	By        map[material.SheetKey]*kit.Purchase
	Cost      *float64 // nil where a size has no price
	Asked     []Asked  // in the order in which coats need them
}

// Asked holds the stock of one sheet and why no kits cover its need.
type Asked struct {
	Sheet *input.Sheet
	Stock kit.Stock
	Bad   error // why it cannot be bought
}

// BuyAll sums the need of each sheet over the whole job and chooses its kits.
func BuyAll(in *input.Inputs, b Built) Bought {
	needs := make(map[material.SheetKey]measure.Volume)
	var order []material.SheetKey
	for i, layers := range in.Layers {
		for c, l := range layers {
			made := b.Coats[i][c]
			if made == nil {
				continue
			}
			if _, seen := needs[l.Sheet.Key]; !seen {
				order = append(order, l.Sheet.Key)
			}
			needs[l.Sheet.Key] += made.Need
		}
	}
	out := Bought{Purchases: make([]kit.Purchase, 0, len(order)),
		By: make(map[material.SheetKey]*kit.Purchase, len(order))}
	total, priced := 0.0, true
	for _, key := range order {
		s := in.Sheets[key]
		p := s.Product
		stock := kit.OnHand(*p, s.Mix, key.Hardener, in.File.Job.Stock, in.Now, in.Methods.Shelf == school.IfSealed, in.Units)
		bought, err := kit.Buy(*p, key.Hardener, s.Mix, needs[key], stock, in.File.Job.Buying)
		out.Asked = append(out.Asked, Asked{s, stock, err})
		if err != nil {
			continue
		}
		out.Purchases = append(out.Purchases, bought)
		if bought.Cost != nil {
			total += *bought.Cost
		} else {
			priced = false
		}
	}
	if priced && len(order) > 0 {
		out.Cost = &total
	}
	for i := range out.Purchases {
		p := &out.Purchases[i]
		out.By[material.SheetKey{Product: p.Product, Hardener: p.Hardener}] = p
	}
	return out
}
