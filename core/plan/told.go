package plan

import (
	"fmt"
	"runtime"
	"runtime/debug"
	"slices"
	"sync"
	"sync/atomic"
	"time"

	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/plan/advice"
	"nephelon/core/plan/input"
	"nephelon/core/plan/instruct"
	"nephelon/core/plan/stage"
	"nephelon/core/survey"
	"nephelon/core/work"
)

// tell puts the stages together into a plan, with what spans them: cards,
// neighbouring coats, media, tools, tasks, and how far each step is.
func tell(in *input.Inputs, found []finding.Finding, s stage.Stages) Plan {
	p := Plan{
		Overall: Overall{
			Units: in.Units.Units(), Zone: in.File.Job.Zone, Slab: in.From, Area: s.Measured.Area, Cost: s.Bought.Cost,
			Purchases: s.Bought.Purchases,
			Findings:  make([]finding.Finding, 0, len(found)+16),
		},
		Surfaces: make([]SurfacePlan, len(in.Layers)),
	}
	p.Findings = append(append(p.Findings, found...), advice.Stages(in, s)...)
	type told struct {
		found, neighbours []finding.Finding
		tasks             []work.Task
	}
	all := make([]told, len(in.Layers))
	each(len(all), func(i int) {
		p.Surfaces[i], all[i].found = surfacePlan(in, i, s)
		all[i].neighbours = advice.Neighbours(in, i, s)
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
	work.ClearAir(p.Tasks, func(surface string) bool {
		i := slices.IndexFunc(in.File.Job.Surfaces, func(s job.Surface) bool { return s.ID == surface })
		return in.Follows[i] >= 0 || in.File.Job.Surfaces[i].Shut()
	})
	p.Findings = append(p.Findings, advice.Smoke(in, s)...)
	p.Findings = append(p.Findings, advice.Samples(in)...)
	p.Findings = append(p.Findings, advice.Doses(in)...)
	p.Media, p.Tools = suppliesOf(in, p)
	p.Supplies = prepared(in, p.Surfaces)
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

// surfacePlan puts one surface together.
func surfacePlan(in *input.Inputs, i int, s stage.Stages) (SurfacePlan, []finding.Finding) {
	from, m := in.File.Job.Surfaces[i], s.Measured.Surfaces[i]
	out := SurfacePlan{
		Bare: Bare{
			ID: from.ID, Name: from.Name, Takeoff: m.Takeoff, Faults: m.Faults, Exit: m.Exit,
			Survey: s.Surveyed.Surfaces[i], Course: s.Laid.Courses[i],
		},
		Coats: make([]CoatPlan, len(in.Layers[i])),
	}
	var found []finding.Finding
	for c, l := range in.Layers[i] {
		d, lay, timed := s.Divided.Coats[i][c], s.Laid.Coats[i][c], s.Timed.Coats[i][c]
		coat := CoatPlan{
			ID: l.Coat.ID, Number: l.Number, Product: l.Coat.Product, Hardener: l.Coat.Hardener,
			Build: s.Built.Coats[i][c], Window: timed.Window, Times: timed.Times,
			Price: d.Price, Reached: d.Reached, Mixed: d.Mixed, Division: d.Division, Sections: lay.Sections, Cuts: lay.Cuts,
		}
		if timed.Run != nil {
			coat.Crew, coat.Train, coat.ages = timed.Train.People, timed.Run, timed.Train.Batches[0].Ages
		}
		coat.Pace = l.Crew.Pace.Value
		if b, booked := in.Booked(work.PourID(l.Coat.ID)); booked {
			coat.Booked = b.Crew
		}
		if l.Sheet != nil {
			coat.Name, coat.Color = l.Sheet.Product.Name, l.Sheet.Product.Color
		}
		if d.Division != nil {
			cards, told := instruct.CardsOf(in, i, l, coat.Build, d, lay, timed, s.Divided.Lives[l.Sheet])
			coat.Cards, found = cards, append(found, told...)
			coat.Staging = instruct.StagingOf(l, d.Division)
			coat.Ahead = instruct.DayBefore(in, i, l, coat.Staging, readyFor(in, coat))
			found = append(found, advice.Practice(in, i, l)...)
		}
		out.Coats[c] = coat
	}
	out.Begin = preparationStart(in, out)
	return out, found
}

// readyFor returns when the pails of a coat are made ready: as it is booked, else at the end of the last
// working day that lies long enough before its pour. Zero where nobody knows when that begins.
func readyFor(in *input.Inputs, c CoatPlan) (window [2]time.Time) {
	if b, booked := in.Booked(work.PourID(c.ID)); booked && b.Ready != nil {
		return [2]time.Time{b.Ready.From, b.Ready.Until}
	}
	if c.Times == nil || c.Times.Begins == nil || c.Staging == nil {
		return window
	}
	from, until, found := in.Hours.Before((-instruct.Ahead).After(*c.Times.Begins),
		(c.Staging.Effort+instruct.Counting)/measure.Span(min(instruct.AtReady, in.File.Job.Crew.People())))
	if !found {
		return window
	}
	return [2]time.Time{from, until}
}

// preparationStart returns when the preparation of a surface has to begin, in the working hours of its crew.
func preparationStart(in *input.Inputs, s SurfacePlan) *time.Time {
	if s.Survey == nil || s.Survey.Preparation == nil || len(s.Coats) == 0 || s.Coats[0].Times == nil ||
		s.Coats[0].Times.Begins == nil {
		return nil
	}
	at := *s.Coats[0].Times.Begins
	for _, task := range slices.Backward(s.Survey.Preparation.Tasks) {
		if task.ID != survey.BetweenCoats {
			at = in.Hours.Back((-task.Drying).After(at), task.Work/measure.Span(in.File.Job.Crew.People()))
		}
	}
	return &at
}
