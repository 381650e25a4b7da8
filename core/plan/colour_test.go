package plan

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"testing"

	"nephelon/core/buildup"
	"nephelon/core/facts"
	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/school"
	"nephelon/core/takeoff"
)

// fiveColours is a flood coat over two tops, in a base and four colours.
func fiveColours(t *testing.T) job.File {
	c := coat("meniscus-flood", 3000)
	c.Colours = &buildup.Colouring{Way: "base", Base: 3.5 * measure.Litre, Colours: []buildup.Colour{
		{Name: "Foam", Color: "#f2f2ee", Medium: "pigment-foam", Portion: &material.Portion{Value: 0.03, Of: material.OfAB,
			Source: measure.OwnTest}},
		{Name: "Ash", Color: "#8f9098", Medium: "pigment-pearl-ash",
			Portion: &material.Portion{Value: 0.02, Of: material.OfAB, Source: measure.OwnTest}},
		{Name: "Copper", Color: "#a8623e", Medium: "pigment-pearl-copper",
			Portion: &material.Portion{Value: 0.02, Of: material.OfAB, Source: measure.OwnTest}},
		{Name: "Pitch", Color: "#1d1f22", Medium: "pigment-pitch", Portion: &material.Portion{Value: 0.02, Of: material.OfAB,
			Source: measure.OwnTest}},
		{Name: "Clear", Color: "#dddddd"},
	}}
	s := demoShelf(t)
	f := laidJob(t, s, c)
	f.Media = s.Media
	f.Job.Surfaces[0].Floor = takeoff.Floor{}
	board := func(w, d float64) geometry.Ring {
		return geometry.Ring{{X: 0, Y: 0}, {X: w, Y: 0}, {X: w, Y: d}, {X: 0, Y: d}}
	}
	f.Job.Surfaces[0].Top = &takeoff.Top{Thickness: 0.04, Pieces: []takeoff.TopPiece{
		{ID: "p1", Name: "Bar", Outline: board(2.4, 0.65)}, {ID: "p2", Name: "Hatch", Outline: board(1.1, 0.5)},
	}}
	return f
}

// Five colours over two tops: what is poured, what clings and what is spread
// agree; the pieces take turns inside the pot life; colouring costs minutes.
func TestFiveColoursOverTwoTops(t *testing.T) {
	f := fiveColours(t)
	p := Make(f, measure.Metric, noon())
	c := p.Surfaces[0].Coats[0]
	if len(c.Cards) == 0 {
		t.Fatalf("no cards: %v", texts(p.Findings))
	}
	for _, card := range c.Cards {
		sum := measure.Volume(0)
		for _, cup := range card.Cups {
			sum += cup.Volume
		}
		if len(card.Cups) != 5 || !near(float64(sum), float64(card.Volume), 1e-9) {
			t.Errorf("batch %d of %v in %d cups of %v together", card.Batch, card.Volume, len(card.Cups), sum)
		}
		last := card.Turns[len(card.Turns)-1]
		if last.Until > card.PotLife || card.Turns[0].From < card.Mixing+2*measure.Minute {
			t.Errorf("turns from %v to %v of a life of %v", card.Turns[0].From, last.Until, card.PotLife)
		}
	}
	at := 0.0
	for _, share := range c.Build.Shares {
		if share.Name == "Left in cups" {
			at = float64(share.Volume)
		}
	}
	if !near(at, 25e-6, 1e-9) {
		t.Errorf("%v left in five cups", at)
	}
	pigments := 0
	for _, m := range p.Media {
		if strings.HasPrefix(m.Medium, "pigment-") && m.Mass > 0 && len(m.Lines) > 0 {
			pigments++
		}
	}
	if pigments != 4 {
		t.Errorf("%d pigments are bought: %+v", pigments, p.Media)
	}
	// Coloured beforehand the pot life is all for pouring.
	f.Job.Methods.Tinting = "before"
	early := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0].Cards[0]
	if early.Turns[0].From >= c.Cards[0].Turns[0].From || early.Cups[1].A == 0 {
		t.Errorf("coloured beforehand, pouring begins at %v instead of %v", early.Turns[0].From, c.Cards[0].Turns[0].From)
	}
}

// Shares that do not add up are refused, a cup too small and too much pigment
// are called out.
func TestColoursThatCannotBe(t *testing.T) {
	f := fiveColours(t)
	colours := f.Job.Surfaces[0].Coats[0].Colours
	colours.Way, colours.Colours[0].Share = "shares", 0.9
	if told := saying(Make(f, measure.Metric, noon()), "shares add up to 90 %, not to 100"); told == nil ||
		told.Path != "/job/surfaces/0/coats/0/colours/colours" {
		t.Errorf("90 %% pass: %+v", told)
	}
	colours.Colours[0].Share, colours.Colours[1].Share = 0.995, 0.005
	if saying(Make(f, measure.Metric, noon()), "the cup of Ash holds") == nil {
		t.Error("a cup of half a percent passes")
	}
	colours.Way, colours.Base = "base", 0
	if saying(Make(f, measure.Metric, noon()), "Nothing is set aside for the base") == nil {
		t.Error("no base passes")
	}
	colours.Base, colours.Colours[1].Portion.Value = 3*measure.Litre, 0.5
	told := saying(Make(f, measure.Metric, noon()), "of pigment in Ash (of A + B) is more than")
	if told == nil || told.Fix == nil {
		t.Fatalf("half pigment passes: %v", texts(Make(f, measure.Metric, noon()).Findings))
	}
	colours.Colours[3].Medium = "pigment-nowhere"
	if saying(Make(f, measure.Metric, noon()), "names a medium “pigment-nowhere”") == nil {
		t.Error("a pigment that is not in the file passes")
	}
}

// A mist of alcohol and what lights it are refused on one job; taken out, the card says when each mist is, when the
// pour is level, and when its drips are scraped and cut. What is poured over while wet keeps its tape.
func TestATopInItsMinutes(t *testing.T) {
	f := fiveColours(t)
	f.Job.Surfaces[0].Coats[0].Colours.Mists = 2
	f.Job.Methods.Bubbles = school.HeatGun
	told := saying(Make(f, measure.Metric, noon()), "alcohol is misted onto it as an accent")
	if told == nil || told.Level != finding.Refused || told.Fix == nil {
		t.Fatalf("a heat gun beside a mist of alcohol: %+v", told)
	}
	f = patched(t, f, *told.Fix)
	p := Make(f, measure.Metric, noon())
	card := floorOf(p.Surfaces[0].Coats[0].Cards[0])
	for _, words := range []string{"Mist alcohol where cells shall open", "A second, other mist about 5 min after",
		"run together and level in about", "Scrape the drips again after 10 min", "what hangs is cut when"} {
		if !strings.Contains(card, words) {
			t.Errorf("no %q in %s", words, card)
		}
	}
	if saying(p, "alcohol is misted onto it") != nil ||
		!slices.ContainsFunc(p.Tools, func(x kit.Tool) bool { return x.ID == "tool-mist" }) {
		t.Error("told again, or without its bottle")
	}
	over := coat("meniscus-flood", 1500)
	over.OverWet = true
	f.Job.Surfaces[0].Coats = append(f.Job.Surfaces[0].Coats, over)
	both := Make(f, measure.Metric, noon()).Surfaces[0].Coats
	if lower := floorOf(both[0].Cards[0]); strings.Contains(lower, "Pull the tape") ||
		!strings.Contains(lower, "coat 2 is poured over it while it is wet") {
		t.Errorf("the lower of two wet coats: %s", lower)
	}
	// The day waits for the edge as the cards say, and for nothing along one that is poured over.
	issued, err := NewPlanner().Issue(context.Background(), f, facts.At(noon()), measure.Metric, "")
	if err != nil || issued.Coats[0].Tape != 0 || issued.Coats[0].Drips || !issued.Coats[1].Drips ||
		!strings.Contains(floorOf(both[1].Cards[0]), "slowed, about "+measure.Metric.Span(issued.Coats[1].Tape)+" after") {
		t.Errorf("%v: %v s and %v s of %s", err, issued.Coats[0].Tape, issued.Coats[1].Tape, floorOf(both[1].Cards[0]))
	}
	if upper := floorOf(both[1].Cards[0]); !strings.Contains(upper, "Pull the tape") {
		t.Errorf("the upper of two wet coats: %s", upper)
	}
	f.Job.Surfaces[0].Coats = []buildup.Coat{coat("meniscus-flood", 200)}
	seal := floorOf(Make(f, measure.Metric, noon()).Surfaces[0].Coats[0].Cards[0])
	if strings.Contains(seal, "drips again") || !strings.Contains(seal, "does not run there by itself") {
		t.Errorf("a thin seal coat: %s", seal)
	}
}

// The longest mixing of a sheet stands on its card; a clear mix is done when it is clear.
func TestMixingHasAnEnd(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 800))
	f.Products[0].MixingMax = &measure.Sourced[measure.Span]{Value: 7 * measure.Minute, Source: measure.Sheet}
	f.Products[0].Look = "clear"
	card := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0].Cards[0]
	steps := fmt.Sprint(card.Steps)
	if card.MixingMax != 7*measure.Minute || !strings.Contains(steps, "7 min at most") ||
		!strings.Contains(steps, "until clear, no streaks") {
		t.Errorf("%v: %s", card.MixingMax, steps)
	}
}

// On a slab too cold for a coat a hardener that takes it comes first, then a sheet of the shelf, as one change each.
func TestAFasterHardenerForTheCold(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 800))
	own := &f.Products[0]
	at := func(v measure.Temperature) *measure.Sourced[measure.Temperature] {
		return &measure.Sourced[measure.Temperature]{Value: v, Source: measure.Sheet}
	}
	own.SlabMin, f.Job.Slab = at(10), at(6)
	own.Hardeners = nil
	cold := saying(Make(f, measure.Metric, noon()), "goes on a slab of 6 °C")
	if cold == nil || cold.Fix != nil || cold.Seek == nil {
		t.Fatalf("%+v", cold)
	}
	other := *own
	other.ID, other.Name, other.SlabMin = "keelbody-winter", "Keelbody Winter", at(3)
	if cold.Seek.Fits(*own) || !cold.Seek.Fits(other) {
		t.Error("the sheet looked for is not one for the cold")
	}
	own.Hardeners = []material.Hardener{{ID: "slow", Name: "slow", Ratio: own.Ratio, A: 2, B: 1, Curing: own.Curing},
		{ID: "winter", Name: "winter", Ratio: own.Ratio, A: 2, B: 1, Curing: own.Curing, SlabMin: at(4)}}
	cold = saying(Make(f, measure.Metric, noon()), "goes on a slab of 6 °C")
	if cold == nil || cold.Fix == nil || cold.Fix.Label != "Take the hardener winter" {
		t.Fatalf("%+v", cold)
	}
	if p := Make(patched(t, f, *cold.Fix), measure.Metric, noon()); saying(p, "goes on a slab of 6 °C") != nil {
		t.Error("told again with the hardener for the cold")
	}
}
