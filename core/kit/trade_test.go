package kit

import (
	"math/rand/v2"
	"strings"
	"testing"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// The least volume against every count that could matter.
func TestLeastVolumeAgainstBruteForce(t *testing.T) {
	random := rand.New(rand.NewPCG(8, 13))
	for range 800 {
		sizes := make([]Size, 1+random.IntN(4))
		for i := range sizes {
			sizes[i].Volume = measure.Volume(1+random.IntN(60)) * measure.Litre / 4
			sizes[i].Cost = int64(sizes[i].Volume*1e6 + 0.5) // brute force counts cost
		}
		need := measure.Volume(random.Float64()*50+0.2) * measure.Litre
		counts := LeastVolume(need, sizes)
		var volume measure.Volume
		var cost int64
		for i, n := range counts {
			volume += measure.Volume(n) * sizes[i].Volume
			cost += int64(n) * sizes[i].Cost
		}
		if volume < need*(1-1e-6) {
			t.Fatalf("%v of %v covers %v only", counts, sizes, volume)
		}
		if want := bruteForce(need, sizes); cost != want {
			t.Fatalf("need %v from %v: %v make %d mL, brute force %d", need, sizes, counts, cost, want)
		}
	}
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
	if b, err := Buy(p, "", p.Mix(), 5*measure.Litre, Stock{Mix: 5 * measure.Litre}, nil); err != nil || b.Choices != nil || *b.Cost != 0 {
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

func BenchmarkLeastVolume(b *testing.B) {
	sizes := []Size{{Volume: 1.2 * measure.Litre}, {Volume: 5.7 * measure.Litre}, {Volume: 14.3 * measure.Litre}, {Volume: 55 * measure.Litre}}
	for b.Loop() {
		LeastVolume(10, sizes)
	}
}
