// Package kit decides what to buy, how to divide it into batches, and what the
// mix card of each batch says.
package kit

import (
	"cmp"
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
	Volume measure.Volume `json:"volume" doc:"Of one kit when mixed, m³"`
	Cost   *float64       `json:"cost,omitempty" doc:"Of the line, in the job's currency"`
}

// Purchase is what to buy of one product.
type Purchase struct {
	Product  string            `json:"product"`
	Hardener string            `json:"hardener,omitempty"`
	Name     string            `json:"name"`
	Color    string            `json:"color"`
	Need     measure.Volume    `json:"need" doc:"m³"`
	NeedMass measure.Mass      `json:"needMass" doc:"kg"`
	Stock    []Held            `json:"stock,omitempty" doc:"Used first, first-expiring first"`
	InStock  measure.Volume    `json:"inStock,omitempty" doc:"m³ of mix that the stock makes"`
	Lines    []Item            `json:"lines" doc:"To buy"`
	Bought   measure.Volume    `json:"bought" doc:"m³ at hand in the end: stock and what is bought"`
	Leftover measure.Volume    `json:"leftover" doc:"m³ at hand above the need"`
	Margin   measure.Fraction  `json:"margin" doc:"Leftover as a share of the need"`
	Cost     *float64          `json:"cost,omitempty" doc:"In the job's currency; absent where a size has no price"`
	Choices  []Trade           `json:"choices,omitempty" doc:"Ways to buy that differ, the least left over first; absent where there is one"`
	Reason   string            `json:"reason"`
	Workings []measure.Working `json:"workings"`
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

// LeastCost counts how many of each size cover the need at least cost. The
// answer is exact: it is found by branch and bound over the sizes in the order
// of their unit cost, where a branch is left only if even its linear relaxation
// cannot cost less than the best found. Counts come in the order of sizes.
func LeastCost(need measure.Volume, sizes []Size) []int {
	s := search{sizes: slices.Clone(sizes), best: math.MaxInt64}
	order := make([]int, len(sizes))
	for i := range order {
		order[i] = i
	}
	unit := func(z Size) float64 { return float64(z.Cost) / float64(z.Volume) }
	slices.SortStableFunc(order, func(i, j int) int { return cmp.Compare(unit(sizes[i]), unit(sizes[j])) })
	for k, i := range order {
		s.sizes[k] = sizes[i]
		s.step = gcd(s.step, sizes[i].Cost)
	}
	s.count = make([]int, len(sizes))
	s.found = make([]int, len(sizes))
	s.descend(0, float64(need)*(1-slack), 0)
	counts := make([]int, len(sizes))
	for k, i := range order {
		counts[i] = s.found[k]
	}
	return counts
}

type search struct {
	sizes []Size // dearest unit cost last
	step  int64  // every cost is a multiple of it
	count []int
	found []int
	best  int64
}

func (s *search) descend(k int, rest float64, cost int64) {
	z := s.sizes[k]
	most := 0
	if rest > 0 {
		most = int(math.Ceil(rest / float64(z.Volume)))
	}
	if k == len(s.sizes)-1 || rest <= 0 {
		if total := cost + int64(most)*z.Cost; total < s.best {
			s.best = total
			copy(s.found, s.count)
			s.found[k] = most
			for j := k + 1; j < len(s.found); j++ {
				s.found[j] = 0
			}
		}
		return
	}
	next := s.sizes[k+1]
	for n := most; n >= 0; n-- {
		left := rest - float64(n)*float64(z.Volume)
		so := cost + int64(n)*z.Cost
		least := so
		if left > 0 {
			// Fewer of this size only moves volume to dearer ones, so once
			// the bound fails it fails for every smaller count.
			least += s.roundUp(float64(next.Cost) * left / float64(next.Volume))
		}
		if least >= s.best && left > 0 {
			return
		}
		s.count[k] = n
		s.descend(k+1, left, so)
		s.count[k] = 0
	}
}

// roundUp lifts a bound to the next cost that can occur.
func (s *search) roundUp(bound float64) int64 {
	if s.step == 0 {
		return 0
	}
	return int64(math.Ceil(bound/float64(s.step)*(1-slack))) * s.step
}

func gcd(a, b int64) int64 {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}

// Buy chooses the kits of a product for a need, after what is in stock and as
// the contractor wishes. It fails where something is needed and no size is sold
// any more.
func Buy(p material.Product, hardener string, mix material.Mix, need measure.Volume, stock Stock, wants []Wish) (Purchase, error) {
	sizes, priced := Sizes(p, mix.Density.Value)
	wish := wished(wants, p, hardener)
	b := Purchase{
		Product: p.ID, Hardener: hardener, Name: p.Name, Color: p.Color, Need: need, NeedMass: mix.Density.Value.Of(need),
		Stock: stock.Held, InStock: stock.Mix, Lines: []Item{},
		Reason: "Whole kits that cover the need at least cost; every combination of sizes was weighed.",
	}
	bought := measure.Working{
		Title: "Kits to buy", Formula: "Σ count × size ≥ need, at least cost", Source: "Exact search over whole kits",
		Inputs: []measure.Value{{Name: "Need", Kind: measure.KindVolume, SI: float64(need)}},
	}
	if stock.Mix > 0 {
		bought.Formula = "stock + " + bought.Formula
		bought.Inputs = append(bought.Inputs, measure.Value{Name: "In stock", Kind: measure.KindVolume, SI: float64(stock.Mix)})
	}
	if wish.Margin > 0 {
		bought.Formula = strings.Replace(bought.Formula, "need", "need × (1 + margin)", 1)
		bought.Inputs = append(bought.Inputs, measure.Value{Name: "Margin asked for", Kind: measure.KindFraction, SI: float64(wish.Margin)})
	}
	switch {
	case float64(need*measure.Volume(1+wish.Margin)-stock.Mix) <= float64(need)*slack:
		b.Reason, priced = "The stock covers the need.", true
	case len(sizes) == 0:
		return b, fmt.Errorf("no size of %s is sold any more", p.Name)
	case !priced || wish.Least == "leftover":
		bought.Formula = strings.Replace(bought.Formula, "at least cost", "with the least left over", 1)
		b.Reason = "A size has no price, so the kits with the least leftover were chosen."
		if priced {
			b.Reason = "Whole kits that cover the need with the least left over, as you chose."
		}
	}
	var volume measure.Volume
	b.Lines, volume, b.Cost = items(wish.choose(need, need-stock.Mix, sizes, priced), sizes, priced)
	b.Bought = stock.Mix + volume
	b.Choices = trades(need, stock.Mix, sizes, priced, wish)
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
