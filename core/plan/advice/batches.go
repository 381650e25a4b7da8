package advice

import (
	"fmt"
	"math"
	"nephelon/core/buildup"
	"nephelon/core/cure"
	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/plan/stage"
	"nephelon/core/school"
	"slices"
	"strings"
)

// divided says which coats cannot be divided into batches, and what is awkward about the
// batches of the others.
func divided(in *input.Inputs, b stage.Built, all stage.Divided) []finding.Finding {
	var found []finding.Finding
	told := make(map[*input.Sheet]bool)
	for i, layers := range in.Layers {
		s := in.File.Job.Surfaces[i]
		for n, l := range layers {
			c := all.Coats[i][n]
			if c.Life == nil {
				continue
			}
			if c.Life.Table != nil && !told[l.Sheet] {
				told[l.Sheet] = true
				found = append(found, extremes(in, l.Sheet, c.Life)...)
			}
			if len(c.Over) > 0 {
				found = append(found, tooLarge(in, s, l, c))
			}
			if c.Bad != nil {
				found = append(found, input.Refused(finding.Batches, l.Path, wayToBatches(l.Sheet.Product),
					"%s, coat %d of %s cannot be divided into batches: %s.", s.Name, l.Number, l.Sheet.Product.Name, c.Bad.Error()))
				continue
			}
			found = append(found, awkward(in, l, *b.Coats[i][n], c)...)
		}
	}
	return found
}

// tooLarge says which batch the joins as somebody placed them make too large.
func tooLarge(in *input.Inputs, s job.Surface, l input.ResolvedCoat, c stage.DividedCoat) finding.Finding {
	n, most := c.Over[0], c.Division.Limits[0]
	return finding.Finding{
		Level: finding.Warning, Step: finding.Batches, Path: l.Path + "/own/shares",
		Text: fmt.Sprintf("%s, coat %d: batch %d is %s where the joins are placed, and %s is the most. %s", s.Name,
			l.Number, n,
			in.Units.Volume(c.Division.Batches[n-1].Volume), in.Units.Volume(most.Volume), most.Text),
		WayOut: "Place the joints closer to each other there, or let the plan divide it.",
		Fix: &finding.Fix{Label: "Let the plan divide it",
			Patch: []finding.PatchStep{{Op: "remove", Path: l.Path + "/own/shares"}}},
	}
}

// shortBatch is the share of the first batch under which the last is called
// short: common practice, no source.
const shortBatch = 0.75

// A film from which the heat of a pour is looked at, and the temperature that it
// should stay under: common practice, no source.
const (
	deepFilm = 2e-3 // m
	hotPour  = 60   // °C
)

// deep warns of a pour that its own heat would spoil.
func deep(in *input.Inputs, l input.ResolvedCoat, life *stage.Lives, wet measure.Film) *finding.Finding {
	if wet < deepFilm || life.Model == nil {
		return nil
	}
	peak, err := life.Model.Poured(wet, life.Start, in.Slab)
	if err != nil || peak <= hotPour {
		return nil
	}
	deepest, err := life.Model.DeepestPour(life.Start, in.Slab, hotPour, wet)
	if err != nil {
		return nil
	}
	text := fmt.Sprintf("Coat %d: %s of %s in one pour would heat itself to about %s; %s stay under %s.",
		l.Number, in.Units.Film(wet), l.Sheet.Product.Name,
		in.Units.Temperature(measure.Temperature(math.Round(float64(peak)/5)*5)), in.Units.Film(deepest),
		in.Units.Temperature(hotPour))
	if most := l.Sheet.Product.FilmMax; most != nil {
		text += fmt.Sprintf(" Its sheet allows %s.", in.Units.Film(most.Value))
	}
	return &finding.Finding{Level: finding.Warning, Step: finding.Batches, Path: l.Path, Text: text,
		WayOut: "Pour it in several coats, take a slower hardener, or cool the parts."}
}

// A film too thick to be rolled from a tray, and one too thin to be poured out: common
// practice, no source.
const (
	thickToRoll = 350e-6 // m
	thinToPour  = 130e-6
)

// tool warns where a coat is laid in a way that its film does not take.
func tool(in *input.Inputs, l input.ResolvedCoat, life *stage.Lives, wet measure.Film) *finding.Finding {
	laying, text, way := l.Laying, "", ""
	switch {
	case laying == school.DipAndRoll && wet > thickToRoll:
		text, way = "%s wet rolled from a tray comes out in thick and thin bands, and the tray heats",
			"Pour it out and spread it with a rake or a notched squeegee."
	case laying == school.PourAndSpread && wet < thinToPour && fast(life):
		text, way = "%s wet poured out puddles and does not cure evenly", "Dip and roll it."
	default:
		return nil
	}
	return &finding.Finding{
		Level: finding.Warning, Step: finding.Batches, Path: l.Path, WayOut: way,
		Text: fmt.Sprintf("Coat %d of %s: "+text+".", l.Number, l.Sheet.Product.Name, in.Units.Film(wet)),
	}
}

// fast reports whether a cup of a mix can be used for less than an hour.
func fast(l *stage.Lives) bool {
	life := l.Of(stage.LeastMass)
	return life > 0 && life < measure.Hour
}

// awkward says what is awkward about the batches of a coat.
func awkward(in *input.Inputs, l input.ResolvedCoat, b buildup.Build, c stage.DividedCoat) []finding.Finding {
	var found []finding.Finding
	tell := func(f finding.Finding) { found = append(found, f) }
	for _, f := range []*finding.Finding{deep(in, l, c.Life, b.Wet), tool(in, l, c.Life, b.Wet)} {
		if f != nil {
			tell(*f)
		}
	}
	p := l.Sheet.Product
	if p.FilmMax != nil && c.Mixed > p.FilmMax.Value && b.Wet <= p.FilmMax.Value {
		tell(finding.Finding{
			Level: finding.Warning, Step: finding.Batches, Path: l.Path,
			Text: fmt.Sprintf("Coat %d: spreading all %s that is mixed lays %s, over the maximum film of %s.",
				l.Number, in.Units.Volume(c.Division.Mixed), in.Units.Film(c.Mixed), in.Units.Film(p.FilmMax.Value)),
			WayOut: fmt.Sprintf("Keep %s back for touch-up.", in.Units.Volume(c.Division.Excess)),
		})
	}
	first, last := c.Division.Batches[0], c.Division.Batches[len(c.Division.Batches)-1]
	if last.Volume < first.Volume*shortBatch {
		tell(finding.Finding{
			Level: finding.Note, Step: finding.Batches, Path: l.Path,
			Text: fmt.Sprintf("Coat %d: the last batch is %s against %s for the first; on a coloured coat a short batch "+
				"can show.",
				l.Number, in.Units.Volume(last.Volume), in.Units.Volume(first.Volume)),
			WayOut: "Lay it where it is least seen, or buy the larger size throughout.",
		})
	}
	return found
}

// conditioned says which parts of a sheet are warmed or cooled before they are mixed.
func conditioned(in *input.Inputs, s *input.Sheet) []string {
	var all []string
	alike := !slices.ContainsFunc(s.Brought, func(b input.Brought) bool { return b != s.Brought[0] })
	for k, b := range s.Brought {
		what, goes := s.Mix.Shares[k].Name+" comes at", "is"
		if alike {
			what, goes = "its parts come at", "are"
		}
		does, bound := "warmed", "at least"
		if b.To < b.From {
			does, bound = "cooled", "at most"
		}
		if b.To != b.From && (k == 0 || !alike) {
			all = append(all, fmt.Sprintf("%s %s and %s %s to %s first, since its sheet asks for %s that", what,
				in.Units.Temperature(b.From), goes, does, in.Units.Temperature(b.To), bound))
		}
	}
	return all
}

// extremes warns where a mix is outside what its sheet speaks of.
func extremes(in *input.Inputs, s *input.Sheet, l *stage.Lives) []finding.Finding {
	var found []finding.Finding
	tell := func(f finding.Finding) { found = append(found, f) }
	p, path := s.Product, "/job/mixing"
	if parts := conditioned(in, s); len(parts) > 0 {
		tell(finding.Finding{
			Level: finding.Note, Step: finding.Batches, Path: path,
			Text:   fmt.Sprintf("%s: %s. Batches and pot life count on that.", p.Name, strings.Join(parts, "; ")),
			WayOut: "How long it takes is in what is done the day before. Read the parts again on the day.",
		})
	}
	switch {
	case p.MaterialMin != nil && l.Start < p.MaterialMin.Value, p.MaterialMax != nil && l.Start > p.MaterialMax.Value:
		wayOut := "Store the parts at the working temperature for 12 to 18 h before."
		if p.MaterialMax != nil && l.Start > p.MaterialMax.Value {
			wayOut = "Cool the parts in the shade or in ice water, lids shut, and read them again."
		}
		tell(finding.Finding{
			Level: finding.Warning, Step: finding.Batches, Path: path,
			Text: fmt.Sprintf("%s is mixed at %s; its sheet allows its parts %s.", p.Name, in.Units.Temperature(l.Start),
				rangeOf(in, p.MaterialMin, p.MaterialMax)),
			WayOut: wayOut,
		})
	case l.Beyond:
		tell(finding.Finding{
			Level: finding.Warning, Step: finding.Batches, Path: path,
			Text: fmt.Sprintf("The pot life of %s at %s is outside the range of its sheet, %s; below it, no longer pot life "+
				"is assumed.", p.Name, in.Units.Temperature(l.Start), timedAt(in, p.PotLife)),
			WayOut: "Bring the parts to a temperature of the sheet, or time a small batch and enter it as your own test.",
		})
	}
	if l.Model.Fit.Assumed {
		tell(finding.Finding{
			Level: finding.Note, Step: finding.Batches, Path: s.Path + "/potLife",
			Text: fmt.Sprintf("The sheet of %s gives one pot life only; how it changes with mass and temperature is "+
				"assumed from "+
				"its chemistry.", p.Name),
			WayOut: "Time a batch of the size you mix, and enter it as your own test.",
		})
	}
	if p.Massed() == 0 {
		tell(finding.Finding{
			Level: finding.Note, Step: finding.Batches, Path: s.Path + "/potLife",
			Text: fmt.Sprintf("The sheet of %s does not say on which mass its pot life was measured; %s was assumed, and "+
				"the pot life of a full pail depends on that.", p.Name, in.Units.Mass(cure.AssumedMass)),
			WayOut: "Ask the maker, or time a batch and enter it as your own test.",
		})
	}
	return found
}

// timedAt names the temperatures at which pot lives were timed.
func timedAt(in *input.Inputs, all []material.PotLife) string {
	low, high := all[0].At, all[0].At
	for _, p := range all {
		low, high = min(low, p.At), max(high, p.At)
	}
	if low == high {
		return in.Units.Temperature(low) + " only"
	}
	return in.Units.Temperature(low) + " to " + in.Units.Temperature(high)
}

func rangeOf(in *input.Inputs, low, high *measure.Sourced[measure.Temperature]) string {
	switch {
	case low == nil:
		return "at most " + in.Units.Temperature(high.Value)
	case high == nil:
		return "at least " + in.Units.Temperature(low.Value)
	}
	return in.Units.Temperature(low.Value) + " to " + in.Units.Temperature(high.Value)
}

// wayToBatches returns what helps where a coat cannot be divided at all.
func wayToBatches(p *material.Product) string {
	if len(p.Hardeners) > 0 {
		return "Take a slower hardener, cooler parts, more people or a larger bucket."
	}
	return "Take a larger bucket, cooler parts, more people, or a product with a longer pot life."
}
