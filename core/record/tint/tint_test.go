package tint

import (
	"testing"
	"time"

	"nephelon/core/kit"
	"nephelon/core/record"
)

// Four cups of a top: 5 kg white, 1 kg of copper and of black, 2 kg clear. Worked by hand: 20 g of copper to 1 kg are
// 100 g to 5 and 40 g to 2.
func cups() []kit.Cup {
	return []kit.Cup{{Name: "White", Medium: "w", Mass: 5, Pigment: 0.1}, {Name: "Copper", Medium: "c", Mass: 1,
		Pigment: 0.02}, {Name: "Black", Medium: "b", Mass: 1, Pigment: 0.03}, {Name: "Clear", Mass: 2}}
}

// Before the colours are in, a cup can be any other; afterwards only the clear one.
func TestWhatACupCanBe(t *testing.T) {
	of := func(n int, coloured bool) map[string]float64 {
		all := make(map[string]float64)
		for _, m := range Makes(cups(), n, coloured) {
			all[m.Name] = float64(m.Pigment)
		}
		return all
	}
	near := func(a, b float64) bool { return a-b < 1e-12 && b-a < 1e-12 }
	if all := of(0, false); len(all) != 2 || !near(all["Copper"], 0.1) || !near(all["Black"], 0.15) {
		t.Errorf("white, not coloured: %v", all)
	}
	if all := of(3, true); len(all) != 3 || !near(all["Copper"], 0.04) || !near(all["White"], 0.04) {
		t.Errorf("clear: %v", all)
	}
	if all := of(1, true); len(all) != 0 {
		t.Errorf("copper, coloured: %v", all)
	}
}

// What is poured is no longer told; wet on wet ends with the limit of what is spread.
func TestCupsThatAreLeft(t *testing.T) {
	until := time.Date(2031, 3, 4, 12, 0, 0, 0, time.UTC)
	i := &record.Issue{Coats: []record.Coat{{ID: "a", Batches: []record.Batch{{Card: kit.Card{Cups: cups()}},
		{Card: kit.Card{Cups: cups()}}, {}}}}}
	day := &record.Day{Coats: []record.CoatDay{{ID: "a", Now: []record.Say{{Do: "spread", Batch: 1, Until: &until}},
		Batches: []record.BatchDay{{Number: 1, State: record.Pouring, Cups: map[int]string{1: "x", 3: "y"}},
			{Number: 2, State: record.Waiting}, {Number: 3, State: record.Mixing}}}, {ID: "gone"}}}
	all := Of(i, day)
	if len(all) != 1 || len(all[0].Left) != 2 || all[0].Left[0].Cup != 2 || all[0].Left[1].Cup != 4 ||
		all[0].Open == nil || !all[0].Open.Equal(until) || len(all[0].Left[0].Makes) != 0 || len(all[0].Left[1].Makes) != 3 {
		t.Errorf("%+v", all)
	}
	day.Coats[0].Batches[0].State = record.Mixing
	if all = Of(i, day); all[0].Open != nil || len(all[0].Left[0].Makes) == 0 {
		t.Errorf("while it is mixed: %+v", all)
	}
}
