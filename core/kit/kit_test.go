package kit

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"nephelon/core/material"
	"nephelon/core/measure"
)

func near(a, b, relative float64) bool {
	return math.Abs(a-b) <= relative*math.Max(math.Abs(a), math.Abs(b))
}

// bruteForce tries every count of every size that could matter.
func bruteForce(need measure.Volume, sizes []Size) int64 {
	best := int64(math.MaxInt64)
	var try func(k int, rest measure.Volume, cost int64)
	try = func(k int, rest measure.Volume, cost int64) {
		if k == len(sizes) {
			if rest <= need*slack && cost < best {
				best = cost
			}
			return
		}
		for n := 0; ; n++ {
			left := rest - measure.Volume(n)*sizes[k].Volume
			try(k+1, left, cost+int64(n)*sizes[k].Cost)
			if left <= 0 {
				return
			}
		}
	}
	try(0, need, 0)
	return best
}

func TestLeastCostAgainstBruteForce(t *testing.T) {
	random := rand.New(rand.NewPCG(21, 34))
	for range 600 {
		sizes := make([]Size, 1+random.IntN(4))
		for i := range sizes {
			sizes[i] = Size{Volume: measure.Volume(1+random.IntN(40)) * measure.Litre / 2, Cost: int64(500 + random.IntN(20000))}
			if random.IntN(3) == 0 { // proportional prices make the hardest ties
				sizes[i].Cost = int64(float64(sizes[i].Volume) * 1e6)
			}
		}
		need := measure.Volume(random.Float64()*60+0.2) * measure.Litre
		counts := LeastCost(need, sizes)
		var cost int64
		var volume measure.Volume
		for i, n := range counts {
			cost += int64(n) * sizes[i].Cost
			volume += measure.Volume(n) * sizes[i].Volume
		}
		if volume < need*(1-2*slack) {
			t.Fatalf("bought %v for a need of %v from %v", volume, need, sizes)
		}
		if want := bruteForce(need, sizes); cost != want {
			t.Fatalf("need %v from %v: counts %v cost %d, brute force finds %d", need, sizes, counts, cost, want)
		}
	}
}

// A purchase by the largest size first would cost more here.
func TestLeastCostIsNotGreedy(t *testing.T) {
	sizes := []Size{{Name: "9 L", Volume: 9 * measure.Litre, Cost: 9000},
		{Name: "5 L", Volume: 5 * measure.Litre, Cost: 5200}}
	if counts := LeastCost(10*measure.Litre, sizes); counts[0] != 0 || counts[1] != 2 {
		t.Errorf("got %v, want two of 5 L", counts)
	}
}

// Handbook check value: a kit that covers 500 ft², a floor a little over
// 2,400 ft²: 5 kits.
func TestFiveKitsForTwentyFourHundredSquareFeet(t *testing.T) {
	film := measure.Film(8 * measure.Mil)
	kit := film.Over(500 * measure.SqFoot)
	if counts := LeastCost(film.Over(2410*measure.SqFoot), []Size{{Volume: kit, Cost: 100}}); counts[0] != 5 {
		t.Errorf("got %d kits, want 5", counts[0])
	}
}

func twoPack(partsA, partsB float64) material.Product {
	density := func(d measure.Density) *measure.Sourced[measure.Density] {
		return &measure.Sourced[measure.Density]{Value: d, Source: measure.Sheet}
	}
	volume := measure.Volume(12 * measure.Litre)
	return material.Product{
		ID: "p", Name: "Two-pack", Ratio: material.Ratio{Basis: material.ByVolume, Source: measure.Sheet},
		Components: []material.Component{
			{Name: "A", Parts: partsA, Density: density(1160)},
			{Name: "B", Parts: partsB, Density: density(980)},
		},
		Kits: []material.Kit{{Name: "12 L", Volume: &volume, Source: measure.Sheet}},
	}
}

// Handbook check values: 5 : 1 by volume, 1 US gal of A takes 25.6 fl oz of B;
// 3 : 1 takes 42.7 fl oz.
func TestCardKeepsTheRatio(t *testing.T) {
	for _, c := range []struct{ parts, flOz float64 }{{5, 25.6}, {3, 42.7}} {
		p := twoPack(c.parts, 1)
		mix := p.Mix()
		total := measure.Volume(measure.Gallon * (1 + 1/c.parts))
		card := NewCard(&p, mix, Batch{Number: 1, Volume: total, Mass: mix.Density.Value.Of(total)}, 1, 10, 0.0003, 0,
			Filling{}, measure.Metric)
		if got := float64(card.Parts[1].Volume) / measure.FlOz; !near(got, c.flOz, 2e-3) {
			t.Errorf("%v : 1 gives %v fl oz of B, want %v", c.parts, got, c.flOz)
		}
		if !near(float64(card.Parts[0].Volume), measure.Gallon, 1e-12) ||
			!near(float64(card.Parts[1].FillTo), float64(total), 1e-12) {
			t.Errorf("%v : 1: A is %v, the last mark %v of %v", c.parts, card.Parts[0].Volume, card.Parts[1].FillTo, total)
		}
		if !near(float64(card.Parts[1].ScaleTo), float64(card.Mass), 1e-12) {
			t.Errorf("%v : 1: the scale ends at %v, the batch weighs %v", c.parts, card.Parts[1].ScaleTo, card.Mass)
		}
		// Ratio by mass differs from the ratio by volume as the densities do.
		byMass := float64(card.Parts[0].Mass) / float64(card.Parts[1].Mass)
		if !near(byMass, c.parts*1160/980, 1e-12) {
			t.Errorf("%v : 1 by volume is %v by mass", c.parts, byMass)
		}
	}
}

func TestMassRatioTurnsIntoVolumes(t *testing.T) {
	p := twoPack(100, 43)
	p.Ratio.Basis = material.ByMass
	mix := p.Mix()
	a, b := 100.0/1160, 43.0/980
	if !near(mix.Shares[0].Volume, a/(a+b), 1e-12) {
		t.Errorf("A is %v of the volume, want %v", mix.Shares[0].Volume, a/(a+b))
	}
	if want := 143 / (a + b); !near(float64(mix.Density.Value), want, 1e-12) {
		t.Errorf("the mix weighs %v kg/m³, want %v", mix.Density.Value, want)
	}
	p.Components[1].Density = nil
	if got := p.Mix().Density; got.Source != measure.Assumed || got.Value != material.AssumedDensity {
		t.Errorf("a missing density gave %v, want it assumed", got)
	}
}

func supplyOf(need measure.Volume, sizes ...Item) *AtHand {
	p := Purchase{Need: need, Lines: sizes}
	for _, l := range sizes {
		p.Bought += measure.Volume(l.Count) * l.Volume
	}
	return NewAtHand(p)
}

func TestDividePrefersWholeKitsThenFractionsThenMeasured(t *testing.T) {
	const l = measure.Litre
	cases := []struct {
		name    string
		need    measure.Volume
		largest measure.Volume
		lines   []Item
		count   int
		volume  measure.Volume
		share   string
	}{
		{"whole kits", 35 * l, 16 * l, []Item{{Kit: "12 L", Count: 3, Volume: 12 * l}}, 3, 12 * l, "1 × 12 L"},
		{"two kits at once", 47 * l, 25 * l, []Item{{Kit: "12 L", Count: 4, Volume: 12 * l}}, 2, 24 * l, "2 × 12 L"},
		{"half kits", 35 * l, 8 * l, []Item{{Kit: "12 L", Count: 3, Volume: 12 * l}}, 6, 6 * l, "½ × 12 L"},
		{"a third of one kit", 3.9 * l, 16 * l, []Item{{Kit: "12 L", Count: 1, Volume: 12 * l}}, 1, 4 * l, "⅓ × 12 L"},
		{"measured, far from any kit", 20.5 * l, 11 * l, []Item{{Kit: "12 L", Count: 2, Volume: 12 * l}}, 2, 10.25 * l,
			"measured"},
		{"two sizes as bought", 16.5 * l, 13 * l,
			[]Item{{Kit: "5 L", Count: 1, Volume: 5 * l}, {Kit: "12 L", Count: 1, Volume: 12 * l}}, 2, 12 * l, "1 × 12 L"},
	}
	for _, c := range cases {
		d, err := Divide(c.need, []Limit{{Volume: c.largest}}, supplyOf(c.need, c.lines...), false)
		if err != nil {
			t.Errorf("%s: %v", c.name, err)
			continue
		}
		first := d.Batches[0]
		if len(d.Batches) != c.count || !near(float64(first.Volume), float64(c.volume), 1e-12) || first.Share != c.share ||
			d.Reason == "" {
			t.Errorf("%s: got %d × %v (%s: %s), want %d × %v (%s)", c.name, len(d.Batches), first.Volume, first.Share, d.Reason,
				c.count, c.volume, c.share)
		}
	}
}

// Whatever the need, the kits and the limit: no batch passes the limit, the
// batches cover the need, and no more is mixed than was bought.
func TestDivideKeepsItsLaws(t *testing.T) {
	random := rand.New(rand.NewPCG(55, 89))
	for range 3000 {
		p := twoPack(2, 1)
		p.Kits = nil
		for range 1 + random.IntN(3) {
			v := measure.Volume(1+random.IntN(20)) * measure.Litre
			price := float64(random.IntN(300))
			p.Kits = append(p.Kits, material.Kit{Name: "kit", Volume: &v, Price: &price})
		}
		needs := make([]measure.Volume, 1+random.IntN(3))
		var total measure.Volume
		for i := range needs {
			needs[i] = measure.Volume(0.5+60*random.Float64()) * measure.Litre
			total += needs[i]
		}
		bought, err := Buy(p, "", p.Mix(), total, Stock{}, nil)
		if err != nil {
			t.Fatal(err)
		}
		supply := NewAtHand(bought)
		largest := measure.Volume(0.5+25*random.Float64()) * measure.Litre
		var mixed measure.Volume
		for _, need := range needs {
			d, err := Divide(need, []Limit{{Volume: largest}}, supply, random.IntN(4) == 0)
			if err != nil {
				t.Fatal(err)
			}
			var sum measure.Volume
			for _, b := range d.Batches {
				if b.Volume > largest*(1+2*slack) {
					t.Fatalf("a batch of %v passes the limit of %v", b.Volume, largest)
				}
				sum += b.Volume
			}
			if sum < need*(1-2*slack) || !near(float64(sum), float64(d.Mixed), 1e-12) {
				t.Fatalf("batches hold %v (told %v) for a need of %v", sum, d.Mixed, need)
			}
			mixed += sum
		}
		if mixed > bought.Bought*(1+3*slack) {
			t.Fatalf("%v mixed of %v bought", mixed, bought.Bought)
		}
	}
}

// Two coats of 2.9 and 3 kits, of which 6 were bought: the first may round up to 3,
// since the second does without what it takes, and nothing has to be measured. Six
// equal kits are not told as of sizes that differ.
func TestWholeKitsServeTwoCoats(t *testing.T) {
	bought := Purchase{Need: 59 * measure.Litre, Bought: 60 * measure.Litre,
		Lines: []Item{{Kit: "10 L", Count: 6, Volume: 10 * measure.Litre}}}
	supply := NewAtHand(bought)
	for i, need := range []measure.Volume{29 * measure.Litre, 30 * measure.Litre} {
		d, err := Divide(need, []Limit{{Volume: 12 * measure.Litre}}, supply, false)
		if err != nil || len(d.Batches) != 3 || d.Batches[0].Share != "1 × 10 L" {
			t.Errorf("coat %d: %+v, %v", i+1, d, err)
		}
	}
	six := Purchase{Need: 51 * measure.Litre, Bought: 60 * measure.Litre,
		Lines: []Item{{Kit: "10 L", Count: 6, Volume: 10 * measure.Litre}}}
	if c, ok := NewAtHand(six).asBought(53*measure.Litre, 12*measure.Litre); ok {
		t.Errorf("another need is divided as bought: %+v", c)
	}
	six.Need = 53 * measure.Litre
	c, ok := NewAtHand(six).asBought(53*measure.Litre, 12*measure.Litre)
	if !ok || strings.Contains(c.why, "differ") {
		t.Errorf("six equal kits: %q", c.why)
	}
	six.Lines = append(six.Lines, Item{Kit: "4 L", Count: 1, Volume: 4 * measure.Litre})
	six.Bought, six.Need = 64*measure.Litre, 63*measure.Litre
	if c, ok = NewAtHand(six).asBought(63*measure.Litre, 12*measure.Litre); !ok ||
		!strings.Contains(c.why, "the sizes differ") || c.volumes[6] != 4*measure.Litre {
		t.Errorf("two sizes: %+v", c)
	}
}

func TestLimitsTellWhatBoundsABatch(t *testing.T) {
	p := twoPack(2, 1)
	p.Mixing = &measure.Sourced[measure.Span]{Value: 2 * measure.Minute, Source: measure.Sheet}
	bucket := Bucket{Volume: 20 * measure.Litre, Headroom: 0.25}
	slow := Spreading{Spreaders: 2, Pace: 30.0 / measure.Hour, PerArea: 0.0005, Density: 1100,
		Mixing: MixingOf(&p, false, false), Life: lasting(26 * measure.Minute)}
	limits, err := Limits(&p, bucket, slow, measure.Metric)
	if err != nil {
		t.Fatal(err)
	}
	// 2 people × 30 m²/h × 24 min = 24 m²; × 0.5 L/m² = 12 L, under the 15 L
	// that the bucket may hold.
	if limits[0].Kind != ByPotLife || !near(float64(limits[0].Volume), 0.012, 1e-5) {
		t.Errorf("tightest is %v", limits[0])
	}
	if !near(float64(limits[1].Volume), 0.015, 1e-12) {
		t.Errorf("bucket allows %v", limits[1].Volume)
	}
	slow.Mixing.Stand = 25 * measure.Minute
	if _, err := Limits(&p, bucket, slow, measure.Metric); err == nil ||
		!strings.Contains(err.Error(), "pot life of 26 min ends") {
		t.Errorf("a pot life shorter than mixing gave %v", err)
	}
}

func BenchmarkLeastCost(b *testing.B) {
	sizes := []Size{
		{Volume: 1.2 * measure.Litre, Cost: 4950}, {Volume: 5.7 * measure.Litre, Cost: 19900},
		{Volume: 14.3 * measure.Litre, Cost: 46800}, {Volume: 55 * measure.Litre, Cost: 177000},
	}
	for b.Loop() {
		LeastCost(10, sizes)
	}
}

// Kits are debited: what one coat takes the next does not find. Of three kits the first
// coat mixes two, so that the second, which would want two, measures its batches.
func TestKitsAreTakenOnce(t *testing.T) {
	supply := NewAtHand(Purchase{Need: 30 * measure.Litre, Bought: 30 * measure.Litre,
		Lines: []Item{{Kit: "10 L", Count: 3, Volume: 10 * measure.Litre}}})
	limits := []Limit{{Volume: 12 * measure.Litre}}
	first, err := Divide(20*measure.Litre, limits, supply, false)
	if err != nil || first.Batches[0].Share != "1 × 10 L" || len(first.Batches) != 2 {
		t.Fatalf("%+v, %v", first, err)
	}
	second, err := Divide(10*measure.Litre, limits, supply, false)
	if err != nil || second.Batches[0].Share != "1 × 10 L" || len(second.Batches) != 1 {
		t.Errorf("the kit that is left: %+v, %v", second, err)
	}
	third, err := Divide(10*measure.Litre, limits, supply, false)
	if err != nil || strings.Contains(third.Batches[0].Share, "1 × 10 L") {
		t.Errorf("a fourth kit out of three: %+v, %v", third, err)
	}
}

// What costs more than money can be written is still bought; more than any job needs is not.
func TestAbsurdPurchases(t *testing.T) {
	dearest := []Size{{Name: "drop", Volume: 1e-6, Cost: 1e8}, {Name: "two", Volume: 2e-6, Cost: 3e8}}
	if counts := LeastCost(1e6, dearest); float64(counts[0])*1e-6+float64(counts[1])*2e-6 < 1e6*(1-2*slack) {
		t.Errorf("a need of a million m³ is covered by %v", counts)
	}
	volume := measure.Volume(0.01)
	p := material.Product{Name: "Deep", Kits: []material.Kit{{Name: "10 L", Volume: &volume}}}
	if _, err := Buy(p, "", material.Mix{}, 4e16, Stock{}, nil); err == nil ||
		!strings.Contains(err.Error(), "look at the area") {
		t.Errorf("4·10¹⁶ m³ are bought: %v", err)
	}
	huge := Purchase{Need: 4e16, Lines: []Item{{}}, Bought: 4e16}
	if have := huge.Nearly(p, 1000); have != 0 {
		t.Errorf("nearly %v", have)
	}
}
