package kit

import (
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// By hand: 360 m² of rolled and back-rolled coats at 1 for 60 are 6 covers; three people take 9
// pairs of gloves; 46 m of walls 1.1 times are 50.6 m of tape, 2 rolls.
func TestToolsByHand(t *testing.T) {
	w := Work{People: 3, Sites: []Site{{Place: "floor", Area: 120, Ground: 120, Perimeter: 46, Doors: 1.8,
		Coats: []CoatWork{
			{Kind: "primer", Area: 120, Batches: 3}, {Kind: "body", Area: 120, Batches: 8},
			{Kind: "urethane", Area: 120, Batches: 2},
		}}}}
	packs := func(tools []Tool, id string) int {
		at := slices.IndexFunc(tools, func(x Tool) bool { return x.ID == id })
		if at < 0 {
			return 0
		}
		return tools[at].Packs
	}
	usual := Tools(w, nil, measure.Metric)
	for id, want := range map[string]int{
		"tool-roller-cover": 6, "tool-gloves": 9, "tool-tape": 2, "tool-bucket": 13, "tool-strainer": 2, "tool-blade": 1,
		"tool-disc": 2, "tool-foam-cover": 0, "tool-dam": 2,
	} {
		if got := packs(usual, id); got != want {
			t.Errorf("%s: %d, want %d", id, got, want)
		}
	}
	// A table top takes foam, and nothing for walls, feet and concrete.
	top :=
		Tools(
			Work{People: 2,
				Sites: []Site{{Place: "top", Area: 3, Perimeter: 7, Coats: []CoatWork{{Kind: "flood", Area: 3, Batches: 1}}}}}, nil,
			measure.Metric)
	for id, want := range map[string]int{"tool-foam-cover": 1, "tool-roller-cover": 0, "tool-caulk": 0, "tool-spikes": 0,
		"tool-disc": 0, "tool-blade": 0, "tool-gloves": 6, "tool-tape": 1} {
		if got := packs(top, id); got != want {
			t.Errorf("%s on a table: %d, want %d", id, got, want)
		}
	}
	price := 30.0
	own := []material.Medium{{ID: "tool-gloves", Name: "Long gloves", Kind: "tool",
		Packs: []material.Pack{{Name: "box", Amount: 50, Price: &price}}, Use: &material.ToolUse{Per: "person", Amount: 5}}}
	tools := Tools(w, own, measure.US)
	at := slices.IndexFunc(tools, func(x Tool) bool { return x.ID == "tool-gloves" })
	if g := tools[at]; g.Packs != 1 || *g.Cost != 30 || g.Name != "Long gloves" || len(tools) != len(usual) {
		t.Errorf("the contractor's own: %+v", g)
	}
	at = slices.IndexFunc(tools, func(x Tool) bool { return x.ID == "tool-disc" })
	if !strings.Contains(tools[at].Why, "ft²") {
		t.Errorf("in US units it says %q", tools[at].Why)
	}
}

// A without its B is told, not counted: 8 L of A and 2.6 L of B at 4 : 1 make 10 L
// and leave 0.6 L of B.
func TestPairsInStock(t *testing.T) {
	today := time.Date(2031, 5, 6, 12, 0, 0, 0, time.UTC)
	p := twoPack(4, 1)
	p.ID = "p"
	held := []Container{{ID: "a", Sheet: "p", Part: "A", Volume: 0.008}, {ID: "b", Sheet: "p", Part: "B", Volume: 0.0026},
		{ID: "x", Sheet: "other", Part: "kit", Volume: 1}}
	s := OnHand(p, p.Mix(), "", held, today, false, measure.Metric)
	if !near(float64(s.Mix), 0.010, 1e-9) || len(s.Lone) != 1 || !strings.Contains(s.Lone[0], "600 mL") {
		t.Errorf("%+v", s)
	}
	s = OnHand(p, p.Mix(), "", held[:1], today, false, measure.Metric)
	if s.Mix != 0 || len(s.Lone) != 1 {
		t.Errorf("A alone: %+v", s)
	}
	// B of another hardener is no partner.
	held[1].Hardener = "slow"
	if s = OnHand(p, p.Mix(), "", held, today, false, measure.Metric); s.Mix != 0 {
		t.Errorf("the wrong B made %v", s.Mix)
	}
	for name, c := range map[string]Container{
		"nothing in it": {Part: "kit"}, "no date": {Part: "kit", Volume: 1, Expires: "soon"},
		"dates exchanged": {Part: "kit", Volume: 1, Received: "2030-01-01", Expires: "2029-01-01"},
	} {
		if len(c.Faults()) != 1 || c.Faults()[0].Way == "" {
			t.Errorf("%s: %v", name, c.Faults())
		}
	}
}

// A size that is no longer sold is not bought; with none left the purchase fails
// unless the stock suffices.
func TestSizesNoLongerSold(t *testing.T) {
	p := twoPack(2, 1)
	small, big := measure.Volume(0.004), measure.Volume(0.010)
	p.Kits = []material.Kit{{Name: "4 L", Volume: &small, Gone: true}, {Name: "10 L", Volume: &big}}
	b, err := Buy(p, "", p.Mix(), 0.012, Stock{}, nil)
	if err != nil || len(b.Lines) != 1 || b.Lines[0].Kit != "10 L" || b.Lines[0].Count != 2 {
		t.Errorf("%+v, %v", b.Lines, err)
	}
	p.Kits[1].Gone = true
	if _, err := Buy(p, "", p.Mix(), 0.012, Stock{}, nil); err == nil {
		t.Error("nothing is sold, yet it was bought")
	}
	if b, err := Buy(p, "", p.Mix(), 0.012, Stock{Mix: 0.02, Held: []Held{{Volume: 0.02}}}, nil); err != nil ||
		len(b.Lines) != 0 || !near(float64(b.Margin), 2.0/3, 1e-9) {
		t.Errorf("from stock: %+v, %v", b, err)
	}
}

// B first: the marks add up in the order of pouring, and the doses stay.
func TestTheCardFollowsTheOrderOfPouring(t *testing.T) {
	p := twoPack(3, 1)
	mix := p.Mix()
	b := Batch{Number: 1, Volume: 0.008}
	a, other := NewCard(&p, mix, b, 1, 20, 4e-4, 0, Filling{}, measure.Metric),
		NewCard(&p, mix, b, 1, 20, 4e-4, 0, Filling{BFirst: true}, measure.Metric)
	if other.Parts[0].Name != a.Parts[1].Name || other.Parts[0].Volume != a.Parts[1].Volume ||
		!near(float64(other.Parts[0].FillTo), 0.002, 1e-12) {
		t.Errorf("B first: %+v", other.Parts)
	}
	if !near(float64(other.Parts[1].FillTo), float64(a.Parts[1].FillTo), 1e-12) ||
		!near(float64(other.Parts[1].ScaleTo), float64(a.Parts[1].ScaleTo), 1e-12) {
		t.Errorf("the last marks differ: %+v and %+v", a.Parts, other.Parts)
	}
	if other.RatioParts[0] != 3 {
		t.Errorf("the ratio turned about: %v", other.RatioParts)
	}
}

// A pail of 26 cm at the bottom, 30 cm at the brim and 36 cm high holds
// π/12 · 36 · (26² + 26·30 + 30²) = 22.20 L (frustum); a straight one is a
// cylinder; and heights give their volumes back.
func TestMarksInATaperedPail(t *testing.T) {
	p := Pail{Bottom: 0.26, Top: 0.30, Height: 0.36}
	if got := p.Holds(p.Height); !near(float64(got), 0.0222048, 1e-5) {
		t.Errorf("it holds %v", got)
	}
	straight := Pail{Bottom: 0.2, Top: 0.2, Height: 0.4}
	if got := straight.HeightOf(0.00314159265); !near(float64(got), 0.1, 1e-4) {
		t.Errorf("3.14 L stand %v m high", got)
	}
	for v := measure.Volume(0.0005); v < 0.022; v += 0.0007 {
		if back := p.Holds(p.HeightOf(v)); !near(float64(back), float64(v), 1e-3) {
			t.Errorf("%v came back as %v", v, back)
		}
	}
	if p.HeightOf(1) != p.Height {
		t.Error("a flood stands above the brim")
	}
	mix := twoPack(2, 1)
	card := NewCard(&mix, mix.Mix(), Batch{Number: 1, Volume: 0.009}, 1, 20, 4e-4, 0, Filling{Pail: &straight},
		measure.Metric)
	if a, b := card.Parts[0].Height, card.Parts[1].Height; !near(float64(b/a), 1.5, 1e-4) {
		t.Errorf("marks at %v and %v", a, b)
	}
}

// What is past its date counts only sealed, and only by the rule for sealed pails.
func TestAnOpenedPailPastItsDate(t *testing.T) {
	today := time.Date(2031, 5, 6, 12, 0, 0, 0, time.UTC)
	p := twoPack(4, 1)
	p.ID = "p"
	held := []Container{
		{ID: "sealed", Sheet: "p", Part: "kit", Volume: 0.004, Expires: "2031-05-05"},
		{ID: "opened", Sheet: "p", Part: "kit", Volume: 0.003, Expires: "2031-05-05", Opened: true},
		{ID: "fresh", Sheet: "p", Part: "kit", Volume: 0.002, Expires: "2031-05-06", Opened: true},
		{ID: "kept", Sheet: "p", Part: "kit", Volume: 0.05, TouchUp: true},
	}
	for sealedIsGood, want := range map[bool]measure.Volume{false: 0.002, true: 0.006} {
		s := OnHand(p, p.Mix(), "", held, today, sealedIsGood, measure.Metric)
		if !near(float64(s.Mix), float64(want), 1e-12) || len(s.Expired) != 2 {
			t.Errorf("sealed is good %v: %v m³, %d past their date", sealedIsGood, s.Mix, len(s.Expired))
		}
	}
}

// Buckets by hand, over five batches of two parts and three of one: eight where each is fresh, thirteen where what
// has two parts is mixed again in a second bucket, two where they are used again within a coat, three with a
// second one for the first. Each cup of colour is counted.
func TestBucketsAsTheyAreUsed(t *testing.T) {
	for _, k := range []struct {
		second, reused bool
		need           float64
	}{{false, false, 8}, {true, false, 13}, {false, true, 2}, {true, true, 3}} {
		w := Work{People: 2, Second: k.second, Reused: k.reused, Sites: []Site{{Place: "floor", Area: 30, Coats: []CoatWork{
			{Kind: "metallic", Area: 30, Batches: 5, Mixed: true, Cups: 20}, {Kind: "paint", Area: 30, Batches: 3}}}}}
		needs := make(map[string]float64)
		for _, tool := range Tools(w, nil, measure.Metric) {
			needs[tool.ID] = tool.Need
		}
		if needs["tool-bucket"] != k.need || needs["tool-stick"] != k.need || needs["tool-colour-cup"] != 20 {
			t.Errorf("second %v, reused %v: %v buckets, %v sticks, %v cups, by hand %v", k.second, k.reused,
				needs["tool-bucket"], needs["tool-stick"], needs["tool-colour-cup"], k.need)
		}
	}
}
