package plan

import (
	"fmt"
	"math"
	"runtime"
	"runtime/debug"
	"sync"
	"sync/atomic"
	"time"

	"nephelon/core/buildup"
	"nephelon/core/cure"
	"nephelon/core/finding"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/school"
	"nephelon/core/survey"
	"nephelon/core/work"
)

// stages are all that was worked out before the plan is told.
type stages struct {
	measured measured
	surveyed surveyed
	built    built
	bought   bought
	divided  divided
	laid     laid
	timed    timed
}

// tell puts the stages together into a plan, with what spans them: cards,
// neighbouring coats, media, tools, tasks, and how far each step is.
func tell(in *inputs, found []finding.Finding, s stages) Plan {
	p := Plan{
		Overall: Overall{
			Units: in.units, Zone: in.file.Job.Zone, Area: s.measured.area, Cost: s.bought.cost, Purchases: s.bought.purchases,
			Findings: make([]finding.Finding, 0, len(found)+16),
		},
		Surfaces: make([]SurfacePlan, len(in.layers)),
	}
	for _, all := range [][]finding.Finding{found, s.measured.found, s.surveyed.found, s.built.found, s.bought.found, s.divided.found, s.laid.found, s.timed.found} {
		p.Findings = append(p.Findings, all...)
	}
	type told struct {
		found, neighbours []finding.Finding
		tasks             []work.Task
	}
	all := make([]told, len(in.layers))
	each(len(all), func(i int) {
		p.Surfaces[i], all[i].found = surfacePlan(in, i, s)
		all[i].neighbours = neighbourFindings(in, i, s)
		all[i].tasks = work.Derive(surfaceWork(in, i, s))
	})
	count := 0
	for i := range all {
		p.Findings = append(p.Findings, all[i].found...)
		count += len(all[i].tasks)
	}
	p.Tasks = make([]work.Task, 0, count)
	for i := range all {
		p.Findings = append(p.Findings, all[i].neighbours...)
		p.Tasks = append(p.Tasks, all[i].tasks...)
	}
	p.Findings = append(p.Findings, smokeWarnings(in, s)...)
	p.Media, p.Tools = suppliesOf(in, p)
	p.Line = line(in, p)
	p.Steps = steps(p)
	return p
}

// each calls a function for every number below one, several at a time. It panics where
// one of them does.
func each(count int, do func(int)) {
	var next atomic.Int64
	var all sync.WaitGroup
	var failed atomic.Value
	for range min(count, runtime.GOMAXPROCS(0)) {
		all.Go(func() {
			defer func() {
				if fault := recover(); fault != nil {
					failed.Store(fmt.Sprintf("%v\n%s", fault, debug.Stack()))
				}
			}()
			for i := next.Add(1) - 1; i < int64(count); i = next.Add(1) - 1 {
				do(int(i))
			}
		})
	}
	all.Wait()
	if fault := failed.Load(); fault != nil {
		panic(fault)
	}
}

// surface puts one surface together.
func surfacePlan(in *inputs, i int, s stages) (SurfacePlan, []finding.Finding) {
	from, m := in.file.Job.Surfaces[i], s.measured.surfaces[i]
	out := SurfacePlan{
		Bare: Bare{
			ID: from.ID, Name: from.Name, Takeoff: m.takeoff, Faults: m.faults, Exit: m.exit,
			Survey: s.surveyed.surfaces[i], Course: s.laid.courses[i],
		},
		Coats: make([]CoatPlan, len(in.layers[i])),
	}
	var found []finding.Finding
	for c, l := range in.layers[i] {
		d, lay, timed := s.divided.coats[i][c], s.laid.coats[i][c], s.timed.coats[i][c]
		coat := CoatPlan{
			ID: l.coat.ID, Number: l.number, Product: l.coat.Product, Hardener: l.coat.Hardener,
			Build: s.built.coats[i][c], Window: timed.window, Times: timed.times,
			Price: d.price, Reached: d.reached, Mixed: d.mixed, Division: d.division, Sections: lay.sections, Cuts: lay.cuts,
		}
		if timed.run != nil {
			coat.Crew, coat.Train = timed.train.People, timed.run
		}
		if l.sheet != nil {
			coat.Name, coat.Color = l.sheet.product.Name, l.sheet.product.Color
		}
		if d.division != nil {
			working := measure.Span(0)
			if timed.times != nil {
				working = timed.times.stage(material.StageWorking).After
			}
			cards, told := cardsOf(in, i, l, coat.Build, d, lay, timed.clocks, s.divided.lives[l.sheet], working)
			coat.Cards, found = cards, append(found, told...)
			var start *time.Time
			if timed.times != nil {
				start = timed.times.Start
			}
			coat.Ahead = dayBefore(in, i, l, start)
			found = append(found, practiceFindings(in, i, l)...)
		}
		out.Coats[c] = coat
	}
	out.Begin = preparationStart(in, out)
	return out, found
}

// begin is when the preparation of a surface has to begin.
func preparationStart(in *inputs, s SurfacePlan) *time.Time {
	if s.Survey == nil || s.Survey.Preparation == nil || len(s.Coats) == 0 || s.Coats[0].Times == nil || s.Coats[0].Times.Start == nil {
		return nil
	}
	takes := measure.Span(0)
	for _, task := range s.Survey.Preparation.Tasks {
		if task.ID != survey.BetweenCoats {
			takes += task.Work/measure.Span(in.file.Job.Crew.People()) + task.Drying
		}
	}
	at := (-takes).After(*s.Coats[0].Times.Start)
	return &at
}

// neighbours checks the coats of a surface against each other.
func neighbourFindings(in *inputs, i int, s stages) []finding.Finding {
	from := in.file.Job.Surfaces[i]
	layers := make([]buildup.Layer, 0, len(in.layers[i]))
	for c, l := range in.layers[i] {
		if l.sheet == nil {
			return nil // the gap is told already
		}
		window := l.sheet.window
		if own := s.timed.coats[i][c].window; own != nil {
			window = *own
		}
		coat := l.coat
		coat.Abraded = coat.Abraded || l.overSeal
		layers = append(layers, buildup.Layer{Coat: coat, Sheet: l.sheet.product, Window: window, Mix: l.sheet.mix, Build: s.built.coats[i][c], Path: l.path})
	}
	bed := buildup.Bed{
		Name: from.Name, Path: surfacePath(i), Temperature: in.slab, Media: in.media, Service: from.Service,
		Sands: in.methods.Between == school.SandEvery, DampMost: measure.Fraction(in.rules["slab-humidity"].Value),
	}
	if v := in.file.Job.VOCMax; v != nil {
		bed.VOCMax = v.Value
	}
	if off := s.measured.surfaces[i].takeoff; off != nil {
		bed.Fills = off.Filler > 0
	}
	if from.Survey != nil {
		bed.Substrate = substrate(from.Survey.Substrate)
		for _, r := range from.Survey.Readings {
			if r.Kind == survey.SlabHumidity {
				bed.Damp = max(bed.Damp, measure.Fraction(r.Value))
			}
		}
	}
	return buildup.Neighbours(layers, bed, in.units)
}

// substrate is in the words in which sheets say what they go over.
func substrate(s survey.Substrate) string {
	switch s {
	case survey.Trowelled:
		return string(survey.Concrete)
	case survey.Timber, survey.Board:
		return "wood"
	case survey.OldCoating:
		return "old-paint"
	}
	return string(s)
}

// smoke warns of the largest batch of a sheet that would smoke if it were left
// standing.
func smokeWarnings(in *inputs, s stages) []finding.Finding {
	largest := make(map[*sheet]kit.Batch)
	var order []*sheet
	for i, layers := range in.layers {
		for c, l := range layers {
			division := s.divided.coats[i][c].division
			if division == nil {
				continue
			}
			for _, b := range division.Batches {
				if _, seen := largest[l.sheet]; !seen {
					order = append(order, l.sheet)
				}
				if b.Mass > largest[l.sheet].Mass {
					largest[l.sheet] = b
				}
			}
		}
	}
	var found []finding.Finding
	for _, of := range order {
		life, b := s.divided.lives[of], largest[of]
		if life == nil || life.table == nil {
			continue
		}
		left := life.left(b.Mass)
		if left.Smokes == nil {
			continue
		}
		found = append(found, finding.Finding{
			Level: finding.Note, Step: finding.Batches, Path: of.path,
			Text: fmt.Sprintf("%s: a batch of %s left standing smokes about %s after it can no longer be used, and heats itself to about %s.",
				of.product.Name, in.units.Mass(b.Mass), in.units.Span(smokesAfter(left)), in.units.Temperature(measure.Temperature(math.Round(float64(left.Peak.Temperature)/5)*5))),
			WayOut: "Pour it out at once. If one runs hot, carry it outside and leave it; never add water, never seal it.",
		})
	}
	return found
}

// smokesAfter is how long after it can no longer be used a mix smokes, to the half minute
// below.
func smokesAfter(left cure.Left) measure.Span {
	return measure.Span(math.Floor(float64(*left.Smokes-*left.Usable)/30) * 30)
}
