package plan

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"nephelon/core/facts"
	"nephelon/core/geometry"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/plan/instruct"
	"nephelon/core/plan/stage"
	"nephelon/core/pour"
	"nephelon/core/record"
	"nephelon/core/record/fact"
	"nephelon/core/survey"
	"nephelon/core/takeoff"
)

// ErrNothingToIssue is returned where no coat that was asked for can be poured.
var ErrNothingToIssue = errors.New("no coat of this plan can be poured yet: each needs a measured surface, a data " +
	"sheet and somebody who pours it")

// Issue freezes the plan of a job for a crew: all of its coats that can be poured, or those
// that begin on a day of its site, such as 2031-03-04. Number, job, and who gives it to whom are left
// for the caller. It fails with ErrNothingToIssue where no coat is left.
func (p *Planner) Issue(ctx context.Context, f job.File, world facts.Facts, units measure.System,
	day string) (record.Issue, error) {
	in, found := input.Read(f, world, units)
	row, err := p.Run(ctx, in)
	if err != nil {
		return record.Issue{}, fmt.Errorf("plan the job: %w", err)
	}
	made := tell(in, found, row)
	out := record.Issue{
		Name: f.Job.Name, Site: f.Job.Site, Day: day, Zone: made.Zone, Standing: f.Job.Mixing.Standing,
		Bucket: f.Job.Bucket.Volume, Pace: f.Job.Crew.Pace.Value,
		Air: in.MixingAir(), Tasks: made.Tasks, Surfaces: []record.Surface{}, Coats: []record.Coat{},
	}
	slabs := stage.NewSlabs(in)
	for i, s := range made.Surfaces {
		if s.Takeoff == nil {
			continue
		}
		surface := record.Surface{ID: s.ID, Name: s.Name, Kind: f.Job.Surfaces[i].Kind(), Area: s.Takeoff.Area}
		surface.Outline = drawn(&f.Job.Surfaces[i])
		if w := slabs.Under(i); !w.Steady {
			surface.From, surface.Forecast = &w.From, w.Hourly
		}
		surface.Signs = signsOf(s.Survey)
		if found := f.Job.Surfaces[i].Survey; found != nil {
			surface.Profile, surface.Outdoors = found.Profile, found.Outdoors
		}
		before := len(out.Coats)
		for c := range s.Coats {
			if coat, pours := issuedCoat(in, i, c, s); pours &&
				(day == "" || coat.Start != nil && coat.Start.Format(time.DateOnly) == day) {
				coat.Spares = spares(in, row, i, c)
				out.Coats = append(out.Coats, coat)
			}
		}
		if len(out.Coats) > before {
			out.Surfaces = append(out.Surfaces, surface)
			out.Guides = append(out.Guides, guides(&s, made.Tasks, units)...)
		}
	}
	if len(out.Coats) == 0 {
		return out, ErrNothingToIssue
	}
	for _, b := range made.Purchases {
		if b.Need > 0 {
			mass := b.NeedMass * measure.Mass(b.Bought/b.Need)
			out.Supplies = append(out.Supplies, record.Supply{Product: b.Product, Hardener: b.Hardener, Mass: mass})
		}
	}
	slices.SortStableFunc(out.Coats, func(a, b record.Coat) int {
		if a.Start == nil || b.Start == nil {
			return 0
		}
		return a.Start.Compare(*b.Start)
	})
	return out, nil
}

// drawn returns the outlines of a surface and of what is cut out of it; none where it is not drawn.
func drawn(s *job.Surface) []geometry.Ring {
	var all []geometry.Ring
	add := func(outline geometry.Ring, cut []takeoff.Hole) {
		if len(outline) == 0 {
			return
		}
		all = append(all, outline)
		for _, h := range cut {
			all = append(all, h.Outline)
		}
	}
	add(s.Floor.Outline, s.Floor.Holes)
	if s.Top != nil {
		for _, p := range s.Top.Pieces {
			add(p.Outline, p.Cutouts)
		}
	}
	return all
}

// covered returns the outlines of a section, on the floor or on the pieces of a top, and a place inside for its number.
func covered(s *pour.Section) ([]geometry.Ring, geometry.Point) {
	rings, label := s.Rings, s.Label
	for n := range s.Spans {
		if at := s.Spans[n].Label; at != nil {
			if len(rings) == 0 {
				label = *at
			}
			rings = append(slices.Clip(rings), s.Spans[n].Rings...)
		}
	}
	return rings, label
}

// signsOf returns what a survey told of the ground that bears on how a floor comes out later: of what
// nobody looked at nothing.
func signsOf(s *stage.SurveyPlan) []record.Sign {
	if s == nil {
		return nil
	}
	keys := map[string]fact.Key{"slab-humidity": fact.DampSlab, "emission": fact.DampSlab,
		"carbide":       fact.DampSlab,
		"plastic-sheet": fact.DampSlab, "behind": fact.DampSlab, "age": fact.YoungSlab, "soundness": fact.WeakSlab,
		"pull-off": fact.WeakSlab, "water-drop": fact.Contaminated, "profile": fact.NoProfile, "ph": fact.OffPH,
		"pores": fact.OpenPores}
	var all []record.Sign
	for _, v := range s.Verdicts {
		key := keys[v.ID]
		if strings.HasPrefix(v.ID, "contamination-") {
			key = fact.Contaminated
		}
		if key == "" || v.Fit == survey.Unknown {
			continue
		}
		sign := record.Sign{Key: key, So: v.Fit != survey.FitNow, Text: v.Text}
		if sign.So {
			sign.By = 0.5 // what was to be done about it may have been
		}
		if v.Override != nil {
			sign.By = 1
			sign.Text += fmt.Sprintf(" Overridden by %s: %s", v.Override.By, v.Override.Reason)
		}
		all = append(all, sign)
	}
	return all
}

// issuedCoat returns a coat as a crew gets it; false where nobody can pour it.
func issuedCoat(in *input.Inputs, i, c int, s SurfacePlan) (record.Coat, bool) {
	made, l := &s.Coats[c], in.Layers[i][c]
	if made.Train == nil || len(made.Cards) == 0 || len(made.Train.Passages) != len(made.Cards) || l.Sheet == nil {
		return record.Coat{}, false
	}
	out := record.Coat{
		ID: made.ID, Surface: s.ID, Number: made.Number, Last: c == len(s.Coats)-1, Product: l.Sheet.Product.Unpriced(),
		Hardener: made.Hardener, Name: made.Name, Color: made.Color, Method: string(l.Laying),
		Wet: made.Mixed, Pace: made.Pace, Start: made.Times.Start, Slab: made.Times.Slab, Crew: made.Crew, Ahead: made.Ahead,
		Limits: layingLimits(in, i, l), Reacts: !l.Sheet.Product.Dries(),
		Abrade: made.Times.Abrade != nil, Stages: []record.Promise{}, Batches: make([]record.Batch, len(made.Cards)),
	}
	if b := made.Build; b != nil && !b.Practical && b.Need+b.Thinner > 0 {
		extra := measure.Fraction(b.Extra / (b.Need + b.Thinner))
		out.Extra = &extra
	}
	if s := l.Coat.Scatter; s != nil {
		out.Throws = s.Throws()
	}
	for _, stage := range made.Times.Stages {
		switch stage.Key {
		case material.StageWorking:
			out.Working = stage.After
		case material.StageRecoatFrom:
			out.From = stage.At
		case material.StageRecoatUntil:
			out.Until = stage.At
		}
		out.Stages = append(out.Stages, record.Promise{Stage: stage.Key, Name: stage.Name, At: stage.At})
	}
	edge := instruct.EdgeOf(in, i, l, made.Cards[0].Wet, out.Working)
	out.Tape, out.Drips = edge.Tape, edge.Drips
	for k, card := range made.Cards {
		section := made.Sections[k]
		rings, label := covered(&section)
		out.Batches[k] = record.Batch{
			ID: made.Division.Batches[k].ID, Section: section.ID, Number: card.Batch, Card: card,
			Passage: made.Train.Passages[k], Life: card.PotLife, Ages: made.ages,
			Rings: rings, Label: label, Beside: section.Beside,
		}
	}
	return out, true
}

// spares returns the pails of other sizes of a coat, for what is decided on the day.
func spares(in *input.Inputs, row stage.Stages, i, c int) []record.Spare {
	l, d := in.Layers[i][c], row.Divided.Coats[i][c]
	cards := instruct.SpareCards(in, i, l, row.Built.Coats[i][c], d, row.Laid.Coats[i][c], row.Timed.Coats[i][c],
		row.Divided.Lives[l.Sheet])
	all := make([]record.Spare, len(cards))
	for n, card := range cards {
		all[n] = record.Spare{Share: instruct.SpareShares()[n], Card: card}
	}
	return all
}

// layingLimits returns the conditions that a coat is laid in: the rules of the survey, with its
// own sheet where that is stricter or says more.
func layingLimits(in *input.Inputs, i int, l input.ResolvedCoat) record.Limits {
	rules := survey.Rules(stage.SurveyRules(in, i))
	p := l.Sheet.Product
	low, high, _ := survey.Bounds(survey.Coats{First: p.Name, SlabMin: p.SlabMin, SlabMax: p.SlabMax}, rules)
	out := record.Limits{
		DewMargin: measure.Temperature(rules["dew-margin"].Value), HumidityMax: measure.Fraction(rules["air-humidity"].Value),
		SlabMin: low, SlabMax: high, Source: fmt.Sprintf("rules of the survey, and the sheet of %s", p.Name),
	}
	if d := p.DewMargin; d != nil {
		out.DewMargin = max(out.DewMargin, d.Value)
	}
	if h := p.HumidityMin; h != nil {
		out.HumidityMin = h.Value
	}
	if h := p.HumidityMax; h != nil {
		out.HumidityMax = min(out.HumidityMax, h.Value)
	}
	return out
}
