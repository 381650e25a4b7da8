// Package kit decides what to buy, how to divide it into batches, and what the
// mix card of each batch says.
package kit

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// slack is the relative difference under which two volumes count as equal.
const slack = 1e-9

// Item is one kit size and how many of it to buy.
type Item struct {
	Kit    string         `json:"kit"`
	Count  int            `json:"count"`
	Volume measure.Volume `json:"volume" doc:"Volume of one kit when mixed, m³"`
	Cost   *float64       `json:"cost,omitempty" doc:"Cost of the line, in the job's currency"`
}

// Purchase holds what to buy of one product.
type Purchase struct {
	Product  string            `json:"product"`
	Hardener string            `json:"hardener,omitempty"`
	Name     string            `json:"name"`
	Color    string            `json:"color"`
	Need     measure.Volume    `json:"need" doc:"m³"`
	NeedMass measure.Mass      `json:"needMass" doc:"kg"`
	Stock    []Held            `json:"stock,omitempty" doc:"Used first, first-expiring first"`
	InStock  measure.Volume    `json:"inStock,omitempty" doc:"m³ of mix that the stock makes"`
	Lines    []Item            `json:"lines" doc:"Lines to buy"`
	Bought   measure.Volume    `json:"bought" doc:"m³ at hand in the end: stock and what is bought"`
	Leftover measure.Volume    `json:"leftover" doc:"m³ at hand above the need"`
	Margin   measure.Fraction  `json:"margin" doc:"Leftover as a share of the need"`
	Cost     *float64          `json:"cost,omitempty" doc:"Cost, in the job's currency; absent where a size has no price"`
	Choices  []Trade           `json:"choices,omitempty" doc:"Ways to buy that differ, the least left over first; absent where there is one"`
	Reason   string            `json:"reason"`
	Workings []measure.Working `json:"workings"`
}

// Unpriced returns the purchase without costs and without the ways to buy, which differ by them.
func (p Purchase) Unpriced() Purchase {
	p.Cost, p.Choices, p.Lines = nil, nil, slices.Clone(p.Lines)
	for i := range p.Lines {
		p.Lines[i].Cost = nil
	}
	return p
}

// Size is a kit ready to be counted.
type Size struct {
	Name   string
	Volume measure.Volume
	Cost   int64 // minor units of the currency
}

// Sizes reads the kits that a product is still sold in. Priced is false where any
// size lacks a price; then the least volume is bought instead of the least cost.
func Sizes(p material.Product, density measure.Density) (sizes []Size, priced bool) {
	priced = true
	sold := slices.DeleteFunc(slices.Clone(p.Kits), func(k material.Kit) bool { return k.Gone })
	for _, k := range sold {
		priced = priced && k.Price != nil
	}
	for _, k := range sold {
		s := Size{Name: k.Name}
		if k.Volume != nil {
			s.Volume = *k.Volume
		} else {
			s.Volume = density.Volume(*k.Mass)
		}
		if priced {
			s.Cost = int64(math.Round(*k.Price * 100))
		}
		sizes = append(sizes, s)
	}
	return sizes, priced
}

// LeastCost counts how many of each size cover the need at least cost, with the least
// left over of all that cost the same.
func LeastCost(need measure.Volume, sizes []Size) []int {
	front := Front(need, sizes)
	return front[len(front)-1]
}

// nearMiss is the share of a need by which a purchase may fall short and still be told:
// common practice, no source.
const nearMiss = 0.03

// mostNeed is more than any job needs.
const mostNeed measure.Volume = 1e6

// Nearly returns what less would be at hand where a cheaper purchase falls short of the need
// by a little only; 0 where none does.
func (b Purchase) Nearly(p material.Product, density measure.Density) measure.Volume {
	short := b.Need - b.InStock
	sizes, priced := Sizes(p, density)
	if len(b.Lines) == 0 || short > mostNeed || len(sizes) == 0 || short <= 0 {
		return 0
	}
	if !priced {
		sizes = byVolume(sizes)
	}
	counts := LeastCost(short*(1-nearMiss), sizes)
	least := volumeOf(counts, sizes)
	if least >= short*(1-slack) || b.InStock+least >= b.Bought*(1-slack) {
		return 0
	}
	return b.InStock + least
}

// Buy chooses the kits of a product for a need, after what is in stock and as
// the contractor wishes. It fails where something is needed and no size is sold
// any more.
func Buy(p material.Product, hardener string, mix material.Mix, need measure.Volume, stock Stock,
	wants []Wish) (Purchase, error) {
	sizes, priced := Sizes(p, mix.Density.Value)
	wish := wished(wants, p, hardener)
	b := Purchase{
		Product: p.ID, Hardener: hardener, Name: p.Name, Color: p.Color, Need: need, NeedMass: mix.Density.Value.Of(need),
		Stock: stock.Held, InStock: stock.Mix, Lines: []Item{},
		Reason: "Whole kits that cover the need at least cost, and of those with the least left over.",
	}
	bought := measure.Working{
		Title: "Kits to buy", Formula: "Σ count × size ≥ need, at least cost", Source: "Exact search over whole kits",
		Inputs: []measure.Value{{Name: "Need", Kind: measure.KindVolume, SI: float64(need)}},
	}
	if stock.Mix > 0 {
		bought.Formula = "stock + " + bought.Formula
		bought.Inputs = append(bought.Inputs, measure.Value{Name: "In stock", Kind: measure.KindVolume,
			SI: float64(stock.Mix)})
	}
	if wish.Margin > 0 {
		bought.Formula = strings.Replace(bought.Formula, "need", "need × (1 + margin)", 1)
		bought.Inputs = append(bought.Inputs, measure.Value{Name: "Margin asked for", Kind: measure.KindFraction,
			SI: float64(wish.Margin)})
	}
	switch {
	case float64(need*measure.Volume(1+wish.Margin)-stock.Mix) <= float64(need)*slack:
		b.Reason, priced = "The stock covers the need.", true
	case need-stock.Mix > mostNeed:
		return b, fmt.Errorf("no job needs %.3g m³ of %s; look at the area, the film and the loss again",
			float64(need), p.Name)
	case len(sizes) == 0:
		return b, fmt.Errorf("no size of %s is sold any more", p.Name)
	case !priced || wish.Least == "leftover":
		bought.Formula = strings.Replace(bought.Formula, "at least cost", "with the least left over", 1)
		b.Reason = "A size has no price, so the kits with the least leftover were chosen."
		if priced {
			b.Reason = "Whole kits that cover the need with the least left over, as you chose, and of those at the least cost."
		}
	case wish.Within > 0:
		b.Reason = "The cheapest whole kits that leave no more over than you chose."
	}
	var volume measure.Volume
	counts, front := wish.choose(need, need-stock.Mix, sizes, priced)
	b.Lines, volume, b.Cost = items(counts, sizes, priced)
	b.Bought = stock.Mix + volume
	b.Choices = trades(need, stock.Mix, sizes, priced, wish, counts, front)
	for _, line := range b.Lines {
		bought.Inputs = append(bought.Inputs,
			measure.Value{Name: "Kits of " + line.Kit, Kind: measure.KindCount, SI: float64(line.Count)},
			measure.Value{Name: "Size of " + line.Kit, Kind: measure.KindVolume, SI: float64(line.Volume)})
	}
	b.Leftover = max(0, b.Bought-need)
	b.Margin = measure.Fraction(b.Leftover / need)
	bought.Result = measure.Value{Name: "At hand", Kind: measure.KindVolume, SI: float64(b.Bought)}
	b.Workings = []measure.Working{bought, {
		Title: "Margin", Formula: "(at hand − need) ÷ need", Source: "Definition",
		Inputs: []measure.Value{
			{Name: "At hand", Kind: measure.KindVolume, SI: float64(b.Bought)},
			{Name: "Need", Kind: measure.KindVolume, SI: float64(need)},
		},
		Result: measure.Value{Name: "Margin", Kind: measure.KindFraction, SI: float64(b.Margin)},
	}}
	return b, nil
}
