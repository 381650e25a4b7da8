package whatif

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"nephelon/core/climate"
	"nephelon/core/facts"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/plan/stage"
	"nephelon/core/pour/sim"
	"nephelon/core/work"
)

// PourHour holds what becomes of a coat whose first kit is opened at an hour.
type PourHour struct {
	At      time.Time           `json:"at" doc:"When its first kit is opened"`
	Makes   bool                `json:"makes"`
	Tight   sim.Pinch           `json:"tight" doc:"Tightest moment of the pour"`
	Slab    measure.Temperature `json:"slab" doc:"°C when it is laid"`
	Falls   bool                `json:"falls,omitempty" doc:"The slab cools while it is laid, so that pores draw in and do not blow"`
	Life    measure.Span        `json:"life,omitempty" doc:"s that the shortest-lived of its pails can be used; absent where none has a pot life"`
	Opens   *time.Time          `json:"opens,omitempty" doc:"When the film below takes it"`
	Closes  *time.Time          `json:"closes,omitempty" doc:"When the film below no longer takes it"`
	Odds    *float64            `json:"odds,omitempty" doc:"Share of the runs that make it; told where one hour is asked for"`
	Against []string            `json:"against" doc:"What speaks against it, in sentences"`
	For     []string            `json:"for" doc:"What speaks for it"`
	Best    bool                `json:"best,omitempty"`
}

// daysAhead bounds on how many days an hour is looked for.
const daysAhead = 3

// Hours tries the hours of the shifts on the day on which a coat is planned and the two after it, or one hour that
// is asked for, and marks the best: one that nothing speaks against, on a falling slab where there is one, with the
// most time to spare. It plans the job as often.
func (p Planner) Hours(ctx context.Context, f job.File, world facts.Facts, units measure.System, coat string,
	at *time.Time) ([]PourHour, error) {
	f = f.In(world.Zone)
	zone, err := f.Job.Place()
	if err != nil {
		zone = time.UTC // a finding says so
	}
	asked := []time.Time{}
	if at != nil {
		asked = append(asked, at.In(zone))
	} else {
		planned, _, err := p.poured(ctx, f, world, units, coat, 0)
		if err != nil {
			return nil, err
		}
		in, _ := input.Read(f, world, units)
		from := in.Now.In(zone)
		if planned.Start != nil {
			from = *planned.Start
		}
		asked = shiftHours(in, from)
	}
	all := []PourHour{}
	for _, t := range asked {
		h, train, err := p.hour(ctx, f, world, units, coat, t)
		if errors.Is(err, ErrNoPour) {
			continue
		}
		if err != nil {
			return nil, err
		}
		if at != nil {
			chance, err := sim.Try(ctx, train, f.Job.Crew.SpreadsOf(), oddsRuns, 1, nil)
			if err != nil {
				return nil, fmt.Errorf("try the pour: %w", err)
			}
			h.Odds = &chance.Makes.Of
		}
		all = append(all, h)
	}
	if at == nil {
		best(all)
	}
	return all, nil
}

// shiftHours are whole hours of the shifts from a day on that are still to come.
func shiftHours(in *input.Inputs, from time.Time) []time.Time {
	var all []time.Time
	for n := range daysAhead {
		d := from.AddDate(0, 0, n)
		begin, end, works := in.Hours.Shift(d.Year(), d.Month(), d.Day(), from.Location())
		for t := begin; works && t.Before(end); t = t.Add(time.Hour) {
			if t.After(in.Now) {
				all = append(all, t)
			}
		}
	}
	return all
}

// hour runs the pour of a coat as if it were booked for an hour.
func (p Planner) hour(ctx context.Context, f job.File, world facts.Facts, units measure.System, coat string,
	at time.Time) (PourHour, sim.Train, error) {
	task := string(work.PourID(coat))
	others := slices.DeleteFunc(slices.Clone(world.Bookings), func(b facts.Booking) bool { return b.Task == task })
	world.Bookings = append(others, facts.Booking{Task: task, From: at, Until: at.Add(time.Minute)})
	in, _ := input.Read(f, world, units)
	done, err := p.Run(ctx, in)
	if err != nil {
		return PourHour{}, sim.Train{}, fmt.Errorf("plan the pour: %w", err)
	}
	for i, layers := range in.Layers {
		for n, layer := range layers {
			timed := done.Timed.Coats[i][n]
			if layer.Coat.ID != coat {
				continue
			}
			if timed.Run == nil || timed.Times == nil || timed.Times.End == nil {
				return PourHour{}, sim.Train{}, ErrNoPour
			}
			h := PourHour{At: at, Makes: timed.Run.Makes, Tight: timed.Run.Tight(), Slab: timed.Times.Slab, Against: []string{},
				For: []string{}}
			for _, b := range timed.Train.Batches {
				if b.Life > 0 && (h.Life == 0 || b.Life < h.Life) {
					h.Life = b.Life
				}
			}
			if n > 0 && !layer.Coat.OverWet {
				h.window(in, done.Timed.Coats[i][n-1].Times)
			}
			h.weather(in, done.Surveyed.Surfaces[i], *timed.Times.End)
			h.shift(in, *timed.Times.End)
			h.asked(stage.NewSlabs(in).Opening(i, layer), *timed.Times.End)
			return h, *timed.Train, nil
		}
	}
	return PourHour{}, sim.Train{}, ErrNoPour
}

// window reports whether the film below takes a coat at the hour.
func (h *PourHour) window(in *input.Inputs, below *stage.CoatTimes) {
	if below == nil {
		return
	}
	h.Opens, h.Closes = below.Stage(material.StageRecoatFrom).At, below.Stage(material.StageRecoatUntil).At
	told := func(t time.Time) string { return in.Units.Time(t.In(h.At.Location()), "Mon 15:04") }
	switch {
	case h.Opens != nil && h.At.Before(*h.Opens):
		h.Against = append(h.Against, fmt.Sprintf("The film below is ready %s.", told(*h.Opens)))
	case h.Closes != nil && h.At.After(*h.Closes):
		h.Against = append(h.Against, fmt.Sprintf("The window of the film below closes %s.", told(*h.Closes)))
	case h.Closes != nil:
		left := measure.Span(h.Closes.Sub(h.At).Seconds())
		h.For = append(h.For, fmt.Sprintf("%s of the window are left", in.Units.Span(left)))
	}
}

// weather reports the hours of the forecast in which a coat would be laid.
func (h *PourHour) weather(in *input.Inputs, s *stage.SurveyPlan, end time.Time) {
	if s == nil {
		return
	}
	var first *climate.Judged
	for k := range s.Hours {
		hour := &s.Hours[k]
		if hour.At.Add(time.Hour).After(h.At) && hour.At.Before(end) && hour.State != climate.Go && len(h.Against) < 3 {
			h.Against = append(h.Against, fmt.Sprintf("%s: %s", in.Units.Time(hour.At.In(h.At.Location()), "15:04"),
				hour.Reason))
		}
		if !hour.At.After(h.At) {
			first = hour
		}
	}
	if first != nil && h.At.Sub(first.At) <= time.Hour && first.State == climate.Go && len(h.Against) == 0 {
		h.For = append(h.For, strings.TrimSuffix(first.Reason, "."))
	}
}

// asked reports whether the coat asks for other hours, and whether the slab cools then.
func (h *PourHour) asked(own stage.Opening, end time.Time) {
	if why := own.Against(h.At, end); why != "" {
		h.Against = append(h.Against, why)
	}
	if h.Falls = own.Falls(h.At); h.Falls {
		h.For = append(h.For, "the slab cools, so that pores do not blow")
	}
}

// shift reports whether people work until a coat is laid.
func (h *PourHour) shift(in *input.Inputs, end time.Time) {
	closes, open := in.Hours.Closes(h.At)
	switch {
	case !open:
		h.Against = append(h.Against, "Nobody works then.")
	case end.After(closes):
		told := func(t time.Time) string { return in.Units.Time(t.In(h.At.Location()), "15:04") }
		h.Against = append(h.Against, fmt.Sprintf("It takes until %s, and the shift ends %s.", told(end), told(closes)))
	}
}

// best marks the hour that is best, where nothing speaks against one.
func best(all []PourHour) {
	at := -1
	for n, h := range all {
		if len(h.Against) > 0 || !h.Makes {
			continue
		}
		switch {
		case at < 0, h.Falls && !all[at].Falls,
			h.Falls == all[at].Falls && h.Tight.Slack > all[at].Tight.Slack+measure.Minute:
			at = n
		}
	}
	if at >= 0 {
		all[at].Best = true
	}
}
