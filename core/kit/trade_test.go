package kit

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// bruteFront tries every count of every size that could matter, and keeps what no
// other betters.
func bruteFront(need measure.Volume, sizes []Size) []Trade {
	var all []Trade
	var try func(k int, volume measure.Volume, cost float64)
	try = func(k int, volume measure.Volume, cost float64) {
		if k == len(sizes) {
			if volume >= need*(1-slack) {
				all = append(all, Trade{Leftover: volume - need, Cost: &cost})
			}
			return
		}
		for n := 0; ; n++ {
			so := volume + measure.Volume(n)*sizes[k].Volume
			try(k+1, so, cost+float64(n)*float64(sizes[k].Cost))
			if so >= need*(1-slack) {
				return
			}
		}
	}
	try(0, 0, 0)
	slices.SortFunc(all, func(a, b Trade) int {
		if math.Abs(float64(a.Leftover-b.Leftover)) > 1e-9 {
			return cmp.Compare(a.Leftover, b.Leftover)
		}
		return cmp.Compare(*a.Cost, *b.Cost)
	})
	front := all[:1]
	for _, t := range all[1:] {
		if *t.Cost < *front[len(front)-1].Cost {
			front = append(front, t)
		}
	}
	return front
}

// The front against every count that could matter: the same costs, the same left
// over, nothing dominated on it.
func TestFrontAgainstBruteForce(t *testing.T) {
	random := rand.New(rand.NewPCG(8, 13))
	for c := range 800 {
		sizes := make([]Size, 1+random.IntN(4))
		part := []float64{0.25, 0.1, measure.Gallon / measure.Litre}[c%3]
		for i := range sizes {
			sizes[i].Volume = measure.Volume(float64(1+random.IntN(60)) * part * measure.Litre)
			sizes[i].Cost = int64(200 + random.IntN(9000))
			if random.IntN(2) == 0 { // proportional prices make the hardest ties
				sizes[i].Cost = int64(math.Round(float64(sizes[i].Volume) * 1e6))
			}
		}
		need := measure.Volume((random.Float64()*40+0.2)*part*4) * measure.Litre
		got, want := Front(need, sizes), bruteFront(need, sizes)
		if len(got) != len(want) {
			t.Fatalf("need %v from %v: %v, brute force finds %d ways", need, sizes, got, len(want))
		}
		for i, counts := range got {
			cost := 0.0
			for k, n := range counts {
				cost += float64(n) * float64(sizes[k].Cost)
			}
			if cost != *want[i].Cost || math.Abs(float64(volumeOf(counts, sizes)-need-want[i].Leftover)) > 1e-9 {
				t.Fatalf("need %v from %v: way %d is %v for %v leaving %v, brute force %v leaving %v", need, sizes, i, counts, cost,
					volumeOf(counts, sizes)-need, *want[i].Cost, want[i].Leftover)
			}
		}
	}
}

// Twelve sizes whose price is the same per litre, prices that differ by little, sizes
// without a common measure: thousands of litres stay exact. Two that share no measure
// leave nothing over only in the right numbers: 19,999 and 20,000 mL make 9,999,900 mL
// as 100 of the one and 400 of the other.
func TestFrontOfAGreatNeed(t *testing.T) {
	pair := []Size{{Volume: 19.999 * measure.Litre, Cost: 19999}, {Volume: 20 * measure.Litre, Cost: 20000}}
	front := Front(9999.9*measure.Litre, pair)
	if len(front) != 1 || front[0][0] != 100 || front[0][1] != 400 {
		t.Errorf("%v", front)
	}
	// The same need and sizes as whole numbers, by the definition of a cover.
	for _, counts := range Front(10000*measure.Litre, twelve()) {
		if v := volumeOf(counts, twelve()); v < 10000*measure.Litre*(1-slack) || v > 10025*measure.Litre {
			t.Errorf("%v make %v", counts, v)
		}
	}
}

// twelve sizes at almost one price per litre.
func twelve() []Size {
	sizes := make([]Size, 12)
	for i := range sizes {
		millilitres := 731 + 1999*i + 7*i*i
		sizes[i] = Size{Volume: measure.Volume(millilitres) * 1e-6, Cost: int64(millilitres*3) + int64(i%3)}
	}
	return sizes
}

func kitOf(litres, price float64) material.Kit {
	v := measure.Volume(litres * measure.Litre)
	return material.Kit{Name: "set", Volume: &v, Price: &price, Source: measure.Sheet}
}

// By hand, for 12 L of sets of 10 L at 100 and of 3 L at 48.
func TestCostAgainstLeftover(t *testing.T) {
	p := twoPack(2, 1)
	p.Kits = nil
	for _, k := range []struct{ litres, price float64 }{{10, 100}, {3, 48}} {
		p.Kits = append(p.Kits, kitOf(k.litres, k.price))
	}
	// 12 L: 10 + 3 cost 148 and leave 1 L; four of 3 cost 192 and leave nothing.
	b, err := Buy(p, "", p.Mix(), 12*measure.Litre, Stock{}, nil)
	if err != nil || *b.Cost != 148 || len(b.Choices) < 2 {
		t.Fatalf("%+v, %v", b, err)
	}
	first := b.Choices[0]
	if *first.Cost != 192 || first.Leftover > 1e-9 || first.Chosen || first.Least != "leftover" {
		t.Errorf("the least left over: %+v", first)
	}
	b, err = Buy(p, "", p.Mix(), 12*measure.Litre, Stock{}, []Wish{{Product: p.ID, Least: "leftover"}})
	if err != nil || *b.Cost != 192 || !strings.Contains(b.Reason, "as you chose") || !b.Choices[0].Chosen {
		t.Errorf("as wished: %+v, %v", b, err)
	}
	b, err = Buy(p, "", p.Mix(), 12*measure.Litre, Stock{}, []Wish{{Product: p.ID, Least: "cost", Margin: 0.2}})
	if err != nil || b.Bought < 14.4*measure.Litre || b.Margin < 0.2 {
		t.Errorf("with a margin: %+v, %v", b, err)
	}
	// A wish for another product changes nothing, and what cannot be bought at
	// all has no choices.
	b, err = Buy(p, "", p.Mix(), 12*measure.Litre, Stock{}, []Wish{{Product: "other", Least: "leftover"}})
	if err != nil || *b.Cost != 148 {
		t.Errorf("%+v, %v", b, err)
	}
	p.Kits = nil
	if b, err := Buy(p, "", p.Mix(), 5*measure.Litre, Stock{Mix: 5 * measure.Litre}, nil); err != nil ||
		b.Choices != nil || *b.Cost != 0 {
		t.Errorf("from stock: %+v, %v", b, err)
	}
}

// More margin never costs less, whatever the sizes; of the choices the one with
// less left over never costs less than one it could be swapped for.
func TestChoicesKeepTheirOrder(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 4))
	for range 300 {
		p := twoPack(2, 1)
		p.Kits = nil
		for range 1 + random.IntN(3) {
			p.Kits = append(p.Kits, kitOf(float64(1+random.IntN(30)), float64(20+random.IntN(400))))
		}
		need := measure.Volume(1+80*random.Float64()) * measure.Litre
		b, err := Buy(p, "", p.Mix(), need, Stock{}, nil)
		if err != nil {
			t.Fatal(err)
		}
		chosen := 0
		for i, c := range b.Choices {
			if c.Chosen {
				chosen++
			}
			if *c.Cost < *b.Cost-1e-9 {
				t.Fatalf("%+v costs less than the cheapest %v", c, *b.Cost)
			}
			if i > 0 && c.Leftover < b.Choices[i-1].Leftover {
				t.Fatalf("%+v", b.Choices)
			}
			if c.Margin > 0 && c.Leftover < need*measure.Volume(c.Margin)*(1-1e-6) {
				t.Fatalf("%+v leaves less than its margin of %v", c, need)
			}
		}
		if len(b.Choices) > 0 && chosen != 1 {
			t.Fatalf("%d are chosen: %+v", chosen, b.Choices)
		}
	}
}

// BenchmarkFront is twelve sizes for 10,000 L: at almost one price, at one price per
// litre, at prices of their own. The aim is 20 ms each.
func BenchmarkFront(b *testing.B) {
	random := rand.New(rand.NewPCG(3, 5))
	one, own := twelve(), twelve()
	for i := range one {
		one[i].Cost = int64(math.Round(float64(one[i].Volume) * 3e6))
		own[i].Cost = int64(float64(one[i].Cost) * (0.7 + 0.6*random.Float64()))
	}
	for name, sizes := range map[string][]Size{"almost": twelve(), "equal": one, "own": own} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				Front(10, sizes)
			}
		})
	}
}
