package kit

import (
	"math"
	"slices"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// Wish is how a contractor wants the kits of a product chosen.
type Wish struct {
	Product  string           `json:"product" minLength:"1" maxLength:"60"`
	Hardener string           `json:"hardener,omitempty" maxLength:"60"`
	Least    string           `json:"least" enum:"cost,leftover" doc:"What is to be least"`
	Margin   measure.Fraction `json:"margin,omitempty" minimum:"0" maximum:"1" doc:"Bought above the need, as a share of it"`
}

// Trade is one way to buy: what it costs against what it leaves.
type Trade struct {
	Least    string           `json:"least" enum:"cost,leftover"`
	Margin   measure.Fraction `json:"margin,omitempty" doc:"Asked for above the need"`
	Lines    []Item           `json:"lines"`
	Leftover measure.Volume   `json:"leftover" doc:"m³ at hand above the need"`
	Cost     *float64         `json:"cost,omitempty" doc:"Absent where a size has no price"`
	Chosen   bool             `json:"chosen"`
}

// wishes are the ways that are always shown beside the one chosen.
func wishes() []Wish {
	return []Wish{{Least: "cost"}, {Least: "leftover"}, {Least: "cost", Margin: 0.05}, {Least: "cost", Margin: 0.1}}
}

// unit is what sizes are measured in where the least volume is sought, m³.
const unit = 1e-6 // 1 mL

// LeastVolume counts how many of each size cover the need with the least left
// over, each size rounded down to a millilitre. It is exact: for every remainder
// modulo the smallest size the least total with that remainder is found, going
// round the remainders size by size (Böcker and Lipták 2007, from memory), and
// filled up with the smallest size.
func LeastVolume(need measure.Volume, sizes []Size) []int {
	counts := make([]int, len(sizes))
	units, step := make([]int64, len(sizes)), int64(0)
	for i, z := range sizes {
		units[i] = max(1, int64(math.Floor(float64(z.Volume)/unit+slack)))
		step = gcd(step, units[i])
	}
	smallest := 0
	for i := range units {
		units[i] /= step
		if units[i] < units[smallest] {
			smallest = i
		}
	}
	wanted := int64(math.Ceil(float64(need) / unit / float64(step) * (1 - slack)))
	if wanted <= 0 {
		return counts
	}
	m := units[smallest]
	const never = math.MaxInt64
	least, from := make([]int64, m), make([]int, m)
	for r := range least {
		least[r] = never
	}
	least[0] = 0
	// Sizes are taken up one after another: around each cycle of remainders that
	// adding one of them makes, twice is enough.
	for i, u := range units {
		if i == smallest {
			continue
		}
		cycles := gcd(u%m, m)
		if u%m == 0 {
			continue
		}
		for start := range cycles {
			at := start
			for range 2 * m / cycles {
				next := (at + u) % m
				if least[at] != never && least[at]+u < least[next] {
					least[next], from[next] = least[at]+u, i
				}
				at = next
			}
		}
	}
	best, at := int64(never), int64(0)
	for r, total := range least {
		if total == never {
			continue
		}
		if total < wanted {
			total += (wanted - total + m - 1) / m * m
		}
		if total < best {
			best, at = total, int64(r)
		}
	}
	counts[smallest] = int((best - least[at]) / m)
	for at != 0 {
		i := from[at]
		counts[i]++
		at = ((at-units[i])%m + m) % m
	}
	return counts
}

// choose counts the kits for a wish.
func (w Wish) choose(need, short measure.Volume, sizes []Size, priced bool) []int {
	short += need * measure.Volume(w.Margin)
	if short <= need*slack || len(sizes) == 0 {
		return make([]int, len(sizes))
	}
	if !priced {
		return LeastVolume(short, sizes)
	}
	cheap := LeastCost(short, sizes)
	if w.Least == "leftover" {
		if least := LeastVolume(short, sizes); volumeOf(least, sizes) < volumeOf(cheap, sizes)*(1-slack) {
			return least
		}
	}
	return cheap
}

func volumeOf(counts []int, sizes []Size) measure.Volume {
	v := measure.Volume(0)
	for i, n := range counts {
		v += measure.Volume(n) * sizes[i].Volume
	}
	return v
}

// items are the lines of a choice, their volume and cost.
func items(counts []int, sizes []Size, priced bool) (lines []Item, volume measure.Volume, cost *float64) {
	lines = []Item{}
	if priced {
		cost = new(float64)
	}
	for i, n := range counts {
		if n == 0 {
			continue
		}
		line := Item{Kit: sizes[i].Name, Count: n, Volume: sizes[i].Volume}
		if priced {
			c := float64(sizes[i].Cost*int64(n)) / 100
			line.Cost = &c
			*cost += c
		}
		lines, volume = append(lines, line), volume+measure.Volume(n)*sizes[i].Volume
	}
	return lines, volume, cost
}

// trades are the different ways to buy, the chosen one among them; none where
// there is nothing to choose.
func trades(need, inStock measure.Volume, sizes []Size, priced bool, wish Wish) []Trade {
	var all []Trade
	var seen [][]int
	for _, w := range append([]Wish{wish}, wishes()...) {
		counts := w.choose(need, need-inStock, sizes, priced)
		if slices.ContainsFunc(seen, func(c []int) bool { return slices.Equal(c, counts) }) {
			continue
		}
		t := Trade{Least: w.Least, Margin: w.Margin, Chosen: len(all) == 0}
		var volume measure.Volume
		t.Lines, volume, t.Cost = items(counts, sizes, priced)
		t.Leftover = max(0, inStock+volume-need)
		all, seen = append(all, t), append(seen, counts)
	}
	if len(all) < 2 {
		return nil
	}
	slices.SortStableFunc(all, func(a, b Trade) int {
		switch {
		case a.Leftover < b.Leftover:
			return -1
		case a.Leftover > b.Leftover:
			return 1
		}
		return 0
	})
	return all
}

// wished is what was wished of a product, at least cost where nothing was.
func wished(all []Wish, p material.Product, hardener string) Wish {
	for _, w := range all {
		if w.Product == p.ID && w.Hardener == hardener {
			return w
		}
	}
	return Wish{Least: "cost"}
}
