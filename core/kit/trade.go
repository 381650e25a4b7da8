package kit

import (
	"cmp"
	"math"
	"slices"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// Aim names what a purchase is to have least of.
type Aim string

// Values lists the aims.
func (Aim) Values() []Aim { return []Aim{"cost", "leftover"} }

// Wish holds how a contractor wants the kits of a product chosen.
type Wish struct {
	Product  string           `json:"product" minLength:"1" maxLength:"60"`
	Hardener string           `json:"hardener,omitempty" maxLength:"60"`
	Least    Aim              `json:"least" doc:"What is to be least"`
	Margin   measure.Fraction `json:"margin,omitempty" minimum:"0" maximum:"1" doc:"Bought above the need, as a share of it"`
	Within   measure.Volume   `json:"within,omitempty" minimum:"0" maximum:"10000" doc:"m³ left over at most, at the least cost; the least left over where that cannot be"`
}

// Trade is one way to buy: what it costs against what it leaves.
type Trade struct {
	Least    Aim              `json:"least"`
	Margin   measure.Fraction `json:"margin,omitempty" doc:"Asked for above the need"`
	Within   measure.Volume   `json:"within,omitempty" doc:"m³ left over at most, of a way between the two"`
	Lines    []Item           `json:"lines"`
	Leftover measure.Volume   `json:"leftover" doc:"m³ at hand above the need"`
	Cost     *float64         `json:"cost,omitempty" doc:"Absent where a size has no price"`
	Chosen   bool             `json:"chosen"`
}

// margins are shown beside the front: what is bought above the need on purpose.
func margins() []measure.Fraction { return []measure.Fraction{0.05, 0.1} }

// choose counts the kits for a wish, and the front that it is chosen from.
func (w Wish) choose(need, short measure.Volume, sizes []Size, priced bool) (chosen []int, front [][]int) {
	short += need * measure.Volume(w.Margin)
	if short <= need*slack || len(sizes) == 0 {
		return make([]int, len(sizes)), nil
	}
	if !priced {
		front = Front(short, byVolume(sizes))
		return front[0], front[:1]
	}
	front = Front(short, sizes)
	chosen = front[len(front)-1]
	switch {
	case w.Least == "leftover":
		chosen = front[0]
	case w.Within > 0:
		for _, counts := range slices.Backward(front) {
			if chosen = counts; volumeOf(counts, sizes)-short <= w.Within*(1+slack) {
				break
			}
		}
	}
	return chosen, front
}

// byVolume are the sizes with their volume for a cost.
func byVolume(sizes []Size) []Size {
	all := slices.Clone(sizes)
	for i := range all {
		all[i].Cost = int64(math.Round(float64(all[i].Volume) * 1e9))
	}
	return all
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

// trades are the front of cost against what is left over, with what a margin costs
// beside it, the least left over first; none where there is nothing to choose.
func trades(need, inStock measure.Volume, sizes []Size, priced bool, wish Wish, chosen []int, front [][]int) []Trade {
	if front == nil {
		return nil
	}
	var all []Trade
	var seen [][]int
	add := func(w Wish, counts []int) {
		if slices.ContainsFunc(seen, func(c []int) bool { return slices.Equal(c, counts) }) {
			return
		}
		t := Trade{Least: w.Least, Margin: w.Margin, Within: w.Within, Chosen: slices.Equal(counts, chosen)}
		var volume measure.Volume
		t.Lines, volume, t.Cost = items(counts, sizes, priced)
		t.Leftover = max(0, inStock+volume-need)
		all, seen = append(all, t), append(seen, counts)
	}
	if wish.Margin > 0 {
		add(wish, chosen)
		_, front = Wish{Least: "cost"}.choose(need, need-inStock, sizes, priced)
	}
	for i, counts := range front {
		w := Wish{Least: "leftover"}
		switch {
		case i == len(front)-1:
			w.Least = "cost"
		case i > 0:
			w = Wish{Least: "cost", Within: max(0, inStock+volumeOf(counts, sizes)-need)}
		}
		add(w, counts)
	}
	for _, margin := range margins() {
		w := Wish{Least: "cost", Margin: margin}
		counts, _ := w.choose(need, need-inStock, sizes, priced)
		add(w, counts)
	}
	if len(all) < 2 {
		return nil
	}
	slices.SortStableFunc(all, func(a, b Trade) int { return cmp.Compare(a.Leftover, b.Leftover) })
	return all
}

// wished returns what was wished of a product, at least cost where nothing was.
func wished(all []Wish, p material.Product, hardener string) Wish {
	for _, w := range all {
		if w.Product == p.ID && w.Hardener == hardener {
			return w
		}
	}
	return Wish{Least: "cost"}
}
