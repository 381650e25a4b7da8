package plan

import (
	"context"
	"fmt"
	"slices"
	"time"

	"nephelon/core/facts"
	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/pour/sim"
	"nephelon/core/school"
)

// Side holds what a job comes to when it is done in one of several ways.
type Side struct {
	Line    Figures   `json:"line"`
	Total   *float64  `json:"total,omitempty" doc:"Kits, other materials with a price, and labour, in the job's currency; absent where kits or hours have no price"`
	Begins  time.Time `json:"begins" doc:"When the first work begins; the same for all ways of the same hours"`
	Nights  *int      `json:"nights,omitempty" doc:"Nights between that and light foot traffic; absent while a sheet does not say when that is"`
	Odds    *sim.Odds `json:"odds,omitempty" doc:"How often nothing comes too late, of the pour that most often fails"`
	Hardest string    `json:"hardest,omitempty" doc:"The coat of that pour"`
	Steps   []string  `json:"steps" doc:"Names of the preparation and of the coats, in order"`
	Doubts  []string  `json:"doubts" doc:"What is refused or warned of"`
	Risks   []string  `json:"risks" doc:"What its answers to the questions of the trade cost or risk, and the cautions of its work, where the other ways differ"`
}

// besideRuns holds how often the pour of a coat is tried for a comparison: odds come within some 5 % then.
const besideRuns = 400

// Beside plans files of the same surfaces and tells what each comes to. Bookings count for none of them: all are
// proposals whose work begins with the next shift, or with the first after the start of the job. Files and sides are in
// the same order.
func (p *Planner) Beside(ctx context.Context, files []job.File, world facts.Facts,
	units measure.System) ([]Side, error) {
	world.Bookings = nil
	sides := make([]Side, len(files))
	own := make([][]string, len(files))
	for n, f := range files {
		made, from, err := p.begun(ctx, &f, world, units)
		if err != nil {
			return nil, err
		}
		if sides[n], err = p.side(ctx, f, world, made, from); err != nil {
			return nil, err
		}
		own[n] = cautions(made)
	}
	questions := school.Questions()
	for n, f := range files {
		sides[n].Risks = append(answered(questions, f, files), others(own, n)...)
	}
	return sides, nil
}

// begun plans a file whose work begins with the next shift, or the first after its start: its first pail is put off
// until its preparation fits between.
func (p *Planner) begun(ctx context.Context, f *job.File, world facts.Facts, units measure.System) (made Plan,
	shift time.Time, err error) {
	*f = f.In(world.Zone)
	zone, bad := f.Job.Place()
	if bad != nil {
		zone = time.UTC
	}
	in, _ := input.Read(*f, world, units)
	shift = in.Hours.Begins(world.Now.In(zone))
	if r, bad := f.Job.Start.In(zone); f.Job.Start != "" && bad == nil && r.At.After(shift) {
		shift = in.Hours.Next(r.At)
	}
	local := func(t time.Time) job.Local { return job.Local(t.Format("2006-01-02T15:04:05")) }
	// early reports whether work would begin before the shift with the first pail poured at a time.
	early := func(pail time.Time) (made Plan, is bool, err error) {
		f.Job.Start = local(pail)
		made, err = p.MakeFor(ctx, *f, world, units)
		first := begins(made)
		return made, first != nil && first.Before(shift.Add(-time.Minute)), err
	}
	low, high := shift, shift
	made, is, err := early(high)
	for step := 8 * time.Hour; err == nil && is && high.Sub(shift) < mostPutOff; step *= 2 {
		low, high = high, high.Add(step)
		made, is, err = early(high)
	}
	for err == nil && !is && high.Sub(low) > fineStart {
		middle := low.Add(high.Sub(low) / 2)
		tried, before, bad := early(middle)
		if err = bad; before {
			low = middle
		} else {
			high, made = middle, tried
		}
	}
	f.Job.Start = local(high)
	return made, shift, err
}

// mostPutOff bounds the preparation that a comparison waits for, and fineStart how finely its end is found.
const (
	mostPutOff = 90 * 24 * time.Hour
	fineStart  = 10 * time.Minute
)

// side returns what a plan comes to.
func (p *Planner) side(ctx context.Context, f job.File, world facts.Facts, made Plan,
	from time.Time) (Side, error) {
	s := Side{Line: made.Line, Steps: []string{}, Doubts: []string{}, Begins: from}
	if cost, labour := made.Line.Cost, made.Line.Labour; cost != nil && labour != nil {
		total := *cost + made.Line.Others + *labour
		s.Total = &total
	}
	if s.Line.Ready != nil {
		nights := nightsBetween(from, *s.Line.Ready)
		s.Nights = &nights
	}
	for _, surface := range made.Surfaces {
		if surface.Survey != nil && surface.Survey.Preparation != nil {
			for _, t := range surface.Survey.Preparation.Tasks {
				s.Steps = append(s.Steps, surface.Name+": "+t.Name)
			}
		}
		for _, c := range surface.Coats {
			s.Steps = append(s.Steps, fmt.Sprintf("%s: coat %d, %s", surface.Name, c.Number, c.Name))
			if c.Train == nil {
				continue
			}
			chance, err := p.Odds(ctx, f, world, c.ID, 0, f.Job.Crew.SpreadsOf(), besideRuns, 1, nil)
			if err != nil {
				return s, fmt.Errorf("try coat %d of %s: %w", c.Number, surface.Name, err)
			}
			if s.Odds == nil || chance.Makes.Of < s.Odds.Of {
				s.Odds, s.Hardest = &chance.Makes, fmt.Sprintf("%s, coat %d", surface.Name, c.Number)
			}
		}
	}
	for _, doubt := range made.Findings {
		if doubt.Level == finding.Refused || doubt.Level == finding.Warning {
			s.Doubts = append(s.Doubts, doubt.Text)
		}
	}
	return s, nil
}

// begins returns when the first work of a plan begins; nil where none is on the clock.
func begins(p Plan) *time.Time {
	var first *time.Time
	earlier := func(t *time.Time) {
		if t != nil && (first == nil || t.Before(*first)) {
			first = t
		}
	}
	for _, s := range p.Surfaces {
		earlier(s.Begin)
		for _, c := range s.Coats {
			if c.Times != nil {
				earlier(c.Times.Begins)
			}
		}
	}
	return first
}

// nightsBetween counts the midnights between two instants, by the clock of the first.
func nightsBetween(from, until time.Time) int {
	day := func(t time.Time) time.Time {
		y, m, d := t.In(from.Location()).Date()
		return time.Date(y, m, d, 0, 0, 0, 0, time.UTC)
	}
	return int(day(until).Sub(day(from)) / (24 * time.Hour))
}

// answered returns what the answers of a file cost or risk where those of the other files differ.
func answered(questions []school.Question, f job.File, files []job.File) []string {
	all := []string{}
	own := f.Job.Methods.FilledFrom(questions)
	for _, q := range questions {
		answer := q.Chosen(own)
		if !slices.ContainsFunc(files, func(o job.File) bool {
			return q.Chosen(o.Job.Methods.FilledFrom(questions)) != answer
		}) {
			continue
		}
		for _, c := range q.Choices {
			if c.Value == answer {
				all = append(all, c.Name+": "+c.Consequence)
			}
		}
	}
	return all
}

// cautions lists those of a plan's preparation and of its sheets, each once.
func cautions(p Plan) []string {
	var all []string
	add := func(told []string) {
		for _, c := range told {
			if !slices.Contains(all, c) {
				all = append(all, c)
			}
		}
	}
	for _, s := range p.Surfaces {
		if s.Survey != nil && s.Survey.Preparation != nil {
			for _, t := range s.Survey.Preparation.Tasks {
				add(t.Cautions)
			}
		}
		for _, c := range s.Coats {
			for _, card := range c.Cards {
				add(card.Cautions)
			}
		}
	}
	return all
}

// others returns the cautions of a way that not all ways have.
func others(all [][]string, n int) []string {
	own := []string{}
	for _, c := range all[n] {
		if slices.ContainsFunc(all, func(o []string) bool { return !slices.Contains(o, c) }) {
			own = append(own, c)
		}
	}
	return own
}
