package plan

import (
	"strings"
	"testing"

	"nephelon/core/buildup"
	"nephelon/core/geometry"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
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
