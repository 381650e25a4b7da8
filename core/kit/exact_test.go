package kit

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// What is exactly as much as a limit, a need or what there is still counts, whatever a
// computer makes of the last digit; a little more does not.
func TestExactlyAsMuch(t *testing.T) {
	divide := func(need, limit float64, lines ...Item) (Division, *AtHand) {
		t.Helper()
		hand := NewAtHand(bought(need, lines...))
		d, err := Divide(measure.Volume(need), bounded(limit), hand, false)
		if err != nil {
			t.Fatal(err)
		}
		return d, hand
	}
	// Kits as large as the limit, as many as are bought, and no more mixed than that.
	d, hand := divide(0.030, 0.010, Item{Kit: "10 L", Volume: 0.010, Count: 3})
	if len(d.Batches) != 3 || d.Batches[0].Share != "1 × 10 L" || d.Batches[2].Number != 3 || hand.lines[0].left != 0 ||
		!strings.Contains(d.Reason, "equal batches") {
		t.Errorf("%+v, %v left", d, hand.lines[0].left)
	}
	if d, _ := divide(0.030, 0.0099, Item{Kit: "10 L", Volume: 0.010, Count: 3}); d.Batches[0].Share == "1 × 10 L" {
		t.Errorf("a kit above the limit: %+v", d)
	}
	// Two kits to a batch; what is taken is taken.
	d, hand = divide(0.020, 0.010, Item{Kit: "5 L", Volume: 0.005, Count: 4})
	if len(d.Batches) != 2 || d.Batches[0].Share != "2 × 5 L" || hand.lines[0].left != 0 {
		t.Errorf("%+v, %v left", d, hand.lines[0].left)
	}
	// Of two lines the one that is used is taken down.
	d, hand = divide(0.020, 0.010, Item{Kit: "3 L", Volume: 0.003, Count: 1}, Item{Kit: "10 L", Volume: 0.010, Count: 2})
	if d.Batches[0].Share != "1 × 10 L" || hand.lines[0].left != 1 || hand.lines[1].left != 0 {
		t.Errorf("%+v, %+v", d, hand.lines)
	}
	// Halves of kits: four of 5 L for 19.5 L, within 8 % of it; for 18.5 L they are not.
	d, hand = divide(0.0195, 0.005, Item{Kit: "10 L", Volume: 0.010, Count: 2})
	if len(d.Batches) != 4 || d.Batches[0].Share != "½ × 10 L" || hand.lines[0].left != 0 ||
		!strings.Contains(d.Reason, "clean fraction") {
		t.Errorf("%+v, %v left", d, hand.lines[0].left)
	}
	if d, _ := divide(0.0185, 0.005, Item{Kit: "10 L", Volume: 0.010, Count: 2}); d.Batches[0].Share != MeasuredShare {
		t.Errorf("8.1 %% over: %+v", d)
	}
	// Fractions may take half as many batches again as the fewest, and no more: by hand 7 of a
	// quarter of 4 L for 6.9 L where 0.99 L are allowed take a fifth, 0.8 L, nine times.
	d, _ = divide(0.0071, 0.00099, Item{Kit: "4 L", Volume: 0.004, Count: 2})
	if len(d.Batches) > 12 {
		t.Errorf("%d batches", len(d.Batches))
	}
	// A coat's part of what is bought goes by its part of the need.
	both := NewAtHand(bought(0.020, Item{Kit: "11 L", Volume: 0.011, Count: 2}))
	if got := both.allowance(0.010); !near(float64(got), 0.011, 1e-12) {
		t.Errorf("half of the need may mix %v", got)
	}
	if got := both.spare(0.010); !near(float64(got), 0.012, 1e-12) {
		t.Errorf("all that the other can spare: %v", got)
	}
}

// The order of pouring and what is weighed, of three parts B first: B, A, C; doses whose
// density is a guess say so.
func TestThreePartsBFirst(t *testing.T) {
	p := twoPack(2, 1)
	p.Components = append(p.Components, material.Component{Name: "C", Parts: 1})
	card := NewCard(&p, p.Mix(), Batch{Number: 1, Volume: 0.004, Mass: 4}, 1, 10, 4e-4, 1800, Filling{BFirst: true},
		measure.Metric)
	var order []string
	for _, d := range card.Parts {
		order = append(order, d.Name)
		if d.DensityAssumed != (d.Name == "C") {
			t.Errorf("%s: its density is assumed: %v", d.Name, d.DensityAssumed)
		}
	}
	if !slices.Equal(order, []string{"B", "A", "C"}) || !near(float64(card.Parts[2].FillTo), 0.004, 1e-12) ||
		!near(float64(card.Parts[0].FillTo), 0.001, 1e-12) {
		t.Errorf("%v: %+v", order, card.Parts)
	}
	paint := p
	paint.Components = p.Components[:1]
	if card := NewCard(&paint, paint.Mix(), Batch{Number: 1, Volume: 0.004, Mass: 4}, 1, 10, 4e-4, 1800,
		Filling{BFirst: true, Scale: 10}, measure.Metric); card.Parts[0].Name != "A" || card.Warning != "" {
		t.Errorf("of one part: %+v", card)
	}
	// By hand: 40 g read in steps of 10 g can be off by 5 g, an eighth.
	c := Card{Parts: []Dose{{Mass: 0.08, ScaleTo: 0.08}, {Mass: 0.04, ScaleTo: 0.12}}}
	if got := c.rounded(0.01); !near(got, 0.125, 1e-12) {
		t.Errorf("off by %v", got)
	}
	// 84 g read as 80 and 36 as 40: 0.952 against 1.111, a sixth.
	c = Card{Parts: []Dose{{Mass: 0.084, ScaleTo: 0.08}, {Mass: 0.036, ScaleTo: 0.12}}}
	if got := c.rounded(0.01); !near(got, (0.04/0.036)/(0.08/0.084)-1, 1e-12) {
		t.Errorf("off by %v", got)
	}
	if c.rounded(0) != 0 {
		t.Error("a scale that is read off exactly rounds nothing")
	}
}

// What the pot life allows is looked for up to eight buckets, and told as an area.
func TestHowFarThePotLifeReaches(t *testing.T) {
	p := twoPack(2, 1)
	s := Spreading{Spreaders: 1, Pace: 20.0 / measure.Hour, PerArea: 0.0005, Density: 1000, Life: lasting(1e6)}
	limits, err := Limits(&p, Bucket{Volume: 0.010, Headroom: 0.2}, s, measure.Metric)
	if err != nil || len(limits) != 2 || limits[1].Kind != ByPotLife || !near(float64(limits[1].Volume), 0.064, 1e-9) ||
		!strings.Contains(limits[1].Text, "over 128 m²") || !strings.Contains(limits[1].Text, "64 kg") {
		t.Errorf("%+v, %v", limits, err)
	}
}

// A purchase after stock and with a margin, by hand: 10 L with a tenth more are 11 L; 4 L
// are there, so 7 L are bought, in sets of 3 L nine.
func TestAPurchaseAfterStock(t *testing.T) {
	p := twoPack(2, 1)
	p.Kits = []material.Kit{kitOf(3, 48)}
	b, err := Buy(p, "", p.Mix(), 10*measure.Litre, Stock{Mix: 4 * measure.Litre},
		[]Wish{{Product: p.ID, Least: "cost", Margin: 0.1}})
	if err != nil || b.Lines[0].Count != 3 || !near(float64(b.Bought), 0.013, 1e-12) {
		t.Fatalf("%+v, %v", b, err)
	}
	w := b.Workings[0]
	of := map[string]float64{}
	for _, v := range w.Inputs {
		of[v.Name] = v.SI
	}
	if w.Formula != "stock + Σ count × size ≥ need × (1 + margin), at least cost" || of["In stock"] != 4*measure.Litre ||
		of["Margin asked for"] != 0.1 || of["Kits of set"] != 3 {
		t.Errorf("%s: %+v", w.Formula, w.Inputs)
	}
	plain, err := Buy(p, "", p.Mix(), 10*measure.Litre, Stock{}, nil)
	if err != nil || plain.Workings[0].Formula != "Σ count × size ≥ need, at least cost" ||
		len(plain.Workings[0].Inputs) != 3 {
		t.Errorf("%+v, %v", plain.Workings, err)
	}
}

// Every way to buy says what it leaves: stock and what is bought less the need; exactly one
// is the one that is taken.
func TestWhatEachWayLeaves(t *testing.T) {
	p := twoPack(2, 1)
	p.Kits = nil
	litres := map[string]float64{}
	for _, k := range []struct{ litres, price float64 }{{10, 100}, {3, 36}, {1, 15}} {
		kit := kitOf(k.litres, k.price)
		kit.Name = fmt.Sprint(k.litres)
		litres[kit.Name] = k.litres
		p.Kits = append(p.Kits, kit)
	}
	for _, wish := range []Wish{{Least: "cost"}, {Least: "leftover"}, {Least: "cost", Margin: 0.3},
		{Least: "cost", Within: 0.0011}} {
		wish.Product = p.ID
		b, err := Buy(p, "", p.Mix(), 9*measure.Litre, Stock{Mix: 2 * measure.Litre}, []Wish{wish})
		if err != nil || len(b.Choices) < 2 {
			t.Fatalf("%+v, %v", b, err)
		}
		taken, last := 0, -1.0
		for _, c := range b.Choices {
			sum, cost := 2.0, 0.0
			for _, l := range c.Lines {
				sum += litres[l.Kit] * float64(l.Count)
				cost += *l.Cost
			}
			if !near(float64(c.Leftover), (sum-9)*measure.Litre, 1e-9) &&
				math.Abs(float64(c.Leftover)-(sum-9)*measure.Litre) > 1e-9 || !near(cost, *c.Cost, 1e-9) ||
				float64(c.Leftover) < last {
				t.Errorf("%+v leaves %v after %v", c, sum-9, last)
			}
			if last = float64(c.Leftover); c.Chosen {
				taken++
			}
			if c.Within > 0 && math.Abs(float64(c.Within-c.Leftover)) > 1e-9 {
				t.Errorf("a way between is within %v and leaves %v", c.Within, c.Leftover)
			}
		}
		if taken != 1 {
			t.Errorf("%+v: %d ways are taken", wish, taken)
		}
	}
}

// How much of each usual tool there is, as the list has it: common practice, to be edited.
func TestUsualTools(t *testing.T) {
	want := map[string]float64{
		"tool-roller-cover": 1.0 / 60, "tool-foam-cover": 1, "tool-frame": 1, "tool-brush": 1, "tool-blade": 1,
		"tool-spiked-roller": 1, "tool-spikes": 1, "tool-tape": 1.1,
		"tool-caulk": 1.0 / 12, "tool-dam": 1, "tool-bucket": 1, "tool-spare-bucket": 2, "tool-stick": 1, "tool-strainer": 1,
		"tool-cup": 2, "tool-cloth": 1.0 / 15, "tool-alcohol": 0.01,
		"tool-gloves": 3, "tool-cartridge": 1, "tool-disc": 1.0 / 80, "tool-pad": 1.0 / 40,
	}
	for _, m := range UsualTools() {
		if m.Use.Amount != want[m.ID] || len(m.Packs) != 1 || m.Use.Source != measure.RuleOfThumb {
			t.Errorf("%s: %+v", m.ID, m.Use)
		}
		delete(want, m.ID)
	}
	if len(want) > 0 {
		t.Errorf("missing: %v", want)
	}
	// One's own stands in its own place, and all others stay.
	own := material.Medium{ID: "tool-gloves", Name: "Long gloves", Kind: "tool",
		Use: &material.ToolUse{Per: "person", Amount: 5}}
	names := map[string]string{}
	for _, tool := range Tools(Work{People: 2,
		Sites: []Site{{Place: "floor", Area: 50, Ground: 50, Perimeter: 30,
			Coats: []CoatWork{{Kind: "body", Area: 50, Batches: 2}}}}}, []material.Medium{own}, measure.Metric) {
		names[tool.ID] = tool.Name
	}
	if names["tool-gloves"] != "Long gloves" || names["tool-roller-cover"] == "" || names["tool-dam"] != "" {
		t.Errorf("%v", names)
	}
}

// The parts as weighed and as they should be, to one of the last.
func TestTheTrueRatio(t *testing.T) {
	p := twoPack(2, 1) // 2.32 : 0.98 by mass
	c, err := CheckRatio(&p, Weighed{Masses: []measure.Mass{5, 2}, Bucket: 1}, measure.Metric)
	if err != nil || len(c.True) != 2 || !near(c.True[0], 2.5, 1e-12) || c.True[1] != 1 ||
		!near(c.Right[0], 2.32/0.98, 1e-12) || !near(float64(c.Off), 2.5/(2.32/0.98)-1, 1e-12) {
		t.Errorf("%+v, %v", c, err)
	}
}

// A vast need is settled by what fills up at the least cost per litre, exactly. By hand for kits
// of 5 L at 5.00 and 3 L at 3.30: where the need is one more than a multiple of five, two small
// ones for the last six litres cost 6.60 where two large ones cost 10.00; where it is four more,
// three small ones for the last nine cost 9.90. Neither order of the sizes matters.
func TestAVastPurchaseIsExact(t *testing.T) {
	large, small := Size{Volume: 5, Cost: 500}, Size{Volume: 3, Cost: 330}
	for _, c := range []struct {
		need     measure.Volume
		fives    int
		threes   int
		reversed bool
	}{{1e8 + 1, 2e7 - 1, 2, false}, {1e8 + 1, 2e7 - 1, 2, true}, {1e8 + 4, 2e7 - 1, 3, false}, {1e8, 2e7, 0, true},
		{1e8 + 3, 2e7, 1, false}} {
		sizes, at := []Size{large, small}, 0
		if c.reversed {
			sizes, at = []Size{small, large}, 1
		}
		front, settled := search(c.need, sizes, 1)
		if !settled || len(front) == 0 {
			t.Fatalf("%v is not settled", c.need)
		}
		cheapest := front[len(front)-1]
		if cheapest[at] != c.fives || cheapest[1-at] != c.threes {
			t.Errorf("%v: %v of %v", c.need, cheapest, sizes)
		}
	}
	// At 6.00 the large ones only fill what is left: 10⁸ L are two of them and 33,333,330 small ones.
	if front, settled := search(1e8, []Size{{Volume: 5, Cost: 600}, small}, 1); !settled || front[len(front)-1][0] != 2 ||
		front[len(front)-1][1] != 33_333_330 {
		t.Errorf("%v, settled %v", front, settled)
	}
	// Without a size nothing is bought, and with nothing wanted none of it.
	if front, settled := search(0, []Size{large, small}, 1); !settled || len(front) != 1 || front[0][0]+front[0][1] != 0 {
		t.Errorf("%v", front)
	}
}

// What else could be bought, by hand: 12 L with 5 L in stock, out of kits of 7 L at 70, 8 L at 60
// and 9 L at 50. Seven litres more leave nothing, 1 L and 2 L over; 5 % and 10 % of the need more,
// 7.6 and 8.2 L, are the 8 L and the 9 L kit, or rather the 9 L one both times, since it costs less.
func TestTradesAfterWhatIsInStock(t *testing.T) {
	sizes := []Size{{Name: "7", Volume: 7, Cost: 7000}, {Name: "8", Volume: 8, Cost: 6000},
		{Name: "9", Volume: 9, Cost: 5000}}
	chosen, front := Wish{Least: "cost"}.choose(12, 7, sizes, true)
	for name, wish := range map[string]Wish{"at least cost": {Least: "cost"},
		"a tenth more": {Least: "cost", Margin: 0.1}} {
		all := trades(12, 5, sizes, true, wish, chosen, front)
		if len(all) != 3 {
			t.Fatalf("%s: %+v", name, all)
		}
		for i, want := range []Trade{{Least: "leftover", Leftover: 0}, {Least: "cost", Within: 1, Leftover: 1},
			{Least: "cost", Leftover: 2, Margin: wish.Margin, Chosen: true}} {
			got := all[i]
			if got.Least != want.Least || !near(float64(got.Within), float64(want.Within), 1e-12) ||
				!near(float64(got.Leftover), float64(want.Leftover), 1e-12) || got.Margin != want.Margin ||
				got.Chosen != want.Chosen || *got.Cost != float64(70-10*i) {
				t.Errorf("%s, %d: %+v at %v", name, i, got, *got.Cost)
			}
		}
	}
	// Kits of 1 L at 10 and 5 L at 40: 7 L are one and two, 7.6 L one and three, 8.2 L one and four.
	sizes = []Size{{Name: "1", Volume: 1, Cost: 1000}, {Name: "5", Volume: 5, Cost: 4000}}
	chosen, front = Wish{Least: "cost"}.choose(12, 7, sizes, true)
	all := trades(12, 5, sizes, true, Wish{Least: "cost"}, chosen, front)
	if len(all) != 3 {
		t.Fatalf("%+v", all)
	}
	for i, trade := range all {
		if !near(float64(trade.Leftover), float64(i), 1e-12) || *trade.Cost != float64(60+10*i) ||
			trade.Margin != []measure.Fraction{0, 0.05, 0.1}[i] {
			t.Errorf("%d: %+v at %v", i, trade, *trade.Cost)
		}
	}
}
