package pour

import (
	"testing"

	"nephelon/core/geometry"
	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/takeoff"
)

func block(x, y, w, h float64) geometry.Ring {
	return geometry.Ring{{X: x, Y: y}, {X: x + w, Y: y}, {X: x + w, Y: y + h}, {X: x, Y: y + h}}
}

// By hand: a run of 3 × 0.6 m with a sink of 0.5 × 0.4 m from 1 m on is 1.6 m². Half of it is 0.6 m² left of the sink,
// 0.1 before and behind it, and 0.1 beyond, so the first of two batches ends 1.5 + 0.1 / 0.6 = 1.667 m from the left.
// Of its 1.5 L then 1.125 go left of the sink, 0.1875 beside it and as much right of it; all of the second goes right.
func TestWhereABatchEndsOnARun(t *testing.T) {
	sink := takeoff.Hole{Name: "Sink", Outline: block(1, 0.1, 0.5, 0.4)}
	lying := takeoff.Board{Outline: block(0, 0, 3, 0.6), Cutouts: []takeoff.Hole{sink}}
	upright := takeoff.Board{Outline: block(0, 0, 0.6, 3),
		Cutouts: []takeoff.Hole{{Name: "Sink", Outline: block(0.1, 1, 0.4, 0.5)}}}
	for name, test := range map[string]struct {
		board         *takeoff.Board
		before, after string
	}{
		"lying": {&lying, "left of", "right of"}, "upright": {&upright, "below", "above"},
	} {
		panels := []takeoff.Panel{{Name: "Run", Facing: takeoff.Level, Area: 1.6, Board: test.board}}
		takes := func(takeoff.Panel) float64 { return 1 }
		sections := Allot(panels, []float64{1, 1}, takes)
		Pour(panels, sections, []kit.Batch{{Volume: 0.0015}, {Volume: 0.0015}}, nil, takes)
		first, second := sections[0].Spans[0], sections[1].Spans[0]
		if !near(float64(first.To), 1.5+0.1/0.6) || first.From != 0 || second.From != first.To ||
			!near(float64(second.To), 3) || !first.Goes || second.Goes {
			t.Errorf("%s: ends %v, goes on %v to %v", name, first.To, second.From, second.To)
		}
		if len(first.Rings) == 0 || len(second.Rings) == 0 || first.Label == nil {
			t.Errorf("%s: not drawn", name)
		}
		want := map[string]measure.Volume{"1 Run, " + test.before + " Sink": 0.001125, "1 Run, beside Sink": 0.0001875,
			"1 Run, " + test.after + " Sink": 0.0001875, "2 Run, " + test.after + " Sink": 0.0015}
		found := 0
		for n, s := range sections {
			for _, b := range s.Beads {
				found++
				if v := want[string(rune('1'+n))+" "+b.Name]; !near(float64(v), float64(b.Volume)) {
					t.Errorf("%s: batch %d, %s: %v, want %v", name, n+1, b.Name, b.Volume, v)
				}
			}
		}
		if found != len(want) {
			t.Errorf("%s: %d parts, want %d", name, found, len(want))
		}
	}
}

// Between two cut-outs is a part of its own; one that reaches over another in depth is told once.
func TestPartsBesideCutOuts(t *testing.T) {
	b := takeoff.Board{Outline: block(0, 0, 4, 1), Cutouts: []takeoff.Hole{
		{Name: "Hob", Outline: block(2.5, 0.2, 0.5, 0.5)}, {Name: "Sink", Outline: block(1, 0.1, 0.5, 0.5)}}}
	var names string
	total := 0.0
	for _, z := range zones(&b, b.Polygon().Rings()) {
		names += z.name + "; "
		total += z.area
	}
	if names != "left of Sink; beside Sink; between Sink and Hob; beside Hob; right of Hob; " || !near(total, 3.5) {
		t.Errorf("%s over %v m²", names, total)
	}
	// One cut-out within the length of another divides nothing more.
	b.Cutouts = append(b.Cutouts, takeoff.Hole{Name: "Tap", Outline: block(1.2, 0.8, 0.05, 0.05)})
	names = ""
	for _, z := range zones(&b, b.Polygon().Rings()) {
		names += z.name + "; "
	}
	if names != "left of Sink; beside Sink; between Sink and Hob; beside Hob; right of Hob; " {
		t.Errorf("with a tap: %s", names)
	}
	if plain := zones(&takeoff.Board{Outline: block(0, 0, 4, 1)}, []geometry.Ring{block(0, 0, 4, 1)}); len(plain) != 1 ||
		plain[0].name != "" || !near(plain[0].area, 4) {
		t.Errorf("without a cut-out: %+v", plain)
	}
}
