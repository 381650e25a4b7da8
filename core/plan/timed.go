package plan

import (
	"context"
	"math"
	"slices"
	"time"

	"nephelon/core/buildup"
	"nephelon/core/climate"
	"nephelon/core/cure"
	"nephelon/core/finding"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/pour/sim"
	"nephelon/core/school"
	"nephelon/core/survey"
)

// CoatTimes is when a coat is laid, if the crew works on without a break, and
// when its film comes to what its sheet names.
type CoatTimes struct {
	Start  *time.Time          `json:"start,omitempty" doc:"Of its first section; absent while the start of the work is not planned"`
	End    *time.Time          `json:"end,omitempty" doc:"Of its last section"`
	Abrade *time.Time          `json:"abrade,omitempty" doc:"When the coat below is abraded before it"`
	Sanded *time.Time          `json:"sanded,omitempty" doc:"When that is done"`
	Spread measure.Span        `json:"spread" doc:"s from its first batch poured to its last section done, as its train runs"`
	Slab   measure.Temperature `json:"slab" doc:"°C of the slab when it is laid"`
	Stages []FilmStage         `json:"stages"`
}

// FilmStage is one time of a film. What ends, as the working time and the last
// chance for the next coat, counts from the first section; all else from the last.
type FilmStage struct {
	Key     material.StageKey `json:"key" enum:"working,tackFree,recoatFrom,recoatUntil,foot,furniture,vehicle,water,full"`
	Name    string            `json:"name"`
	After   measure.Span      `json:"after" doc:"s after its section was laid"`
	At      *time.Time        `json:"at,omitempty"`
	Outside bool              `json:"outside,omitempty" doc:"The slab is outside the temperatures of the sheet on the way: extrapolated"`
	Beyond  bool              `json:"beyond,omitempty" doc:"The forecast ends on the way; the mean of its last day stands in"`
}

// stage of a coat, empty where its sheet gives none.
func (t *CoatTimes) stage(key material.StageKey) FilmStage {
	for _, s := range t.Stages {
		if s.Key == key {
			return s
		}
	}
	return FilmStage{}
}

// timed is every coat on the clock.
type timed struct {
	coats [][]timedCoat
	found []finding.Finding
}

type timedCoat struct {
	times  *CoatTimes      // nil where the coat is not divided
	window *buildup.Window // nil where the sheet gives none
	clocks []clock         // by batch; empty while no start is planned
	train  *sim.Train      // nil where the coat is not divided
	run    *sim.Run        // nil where nobody can run it
}

// clock is when A meets B, and until when the pail can be used.
type clock struct{ meets, useBy time.Time }

// slabHours is the temperature of a surface's slab hour by hour, from a time on;
// one steady temperature where there is no forecast.
type slabHours struct {
	steady bool
	from   time.Time
	hourly []measure.Temperature
	passed memo[passing, *cure.Passage]
}

// passing is a sheet's film on its way to a stage.
type passing struct {
	sheet *sheet
	stage material.StageKey
}

func steadySlab(at measure.Temperature) *slabHours {
	return (&slabHours{steady: true, hourly: []measure.Temperature{at}}).open()
}

func hourlySlab(from time.Time, hourly []measure.Temperature) *slabHours {
	return (&slabHours{from: from, hourly: hourly}).open()
}

// open readies the memory of the passages over a slab.
func (w *slabHours) open() *slabHours {
	w.passed = newMemo(func(at passing) *cure.Passage {
		for _, s := range at.sheet.product.Stages() {
			if s.Key != at.stage {
				continue
			}
			if rate, err := s.Rate(); err == nil {
				return rate.Along(w.hourly)
			}
		}
		return nil
	})
	return w
}

// passage returns the way of a sheet's film to a stage; nil where its sheet gives none.
func (w *slabHours) passage(s *sheet, stage material.StageKey) *cure.Passage {
	return w.passed.get(passing{s, stage})
}

// after is how long a film laid at a time takes to a stage.
func (w *slabHours) after(p *cure.Passage, laid time.Time) (after measure.Span, outside, beyond bool) {
	if w.steady {
		after, outside, _ = p.Reach(0)
		return after, outside, false
	}
	return p.Reach(measure.Span(laid.Sub(w.from).Seconds()))
}

// slabs are the slabs under the surfaces of a job. Surfaces on like slabs share theirs.
type slabs struct {
	in     *inputs
	steady *slabHours
	places map[climate.Place]*slabHours
}

func newSlabs(in *inputs) *slabs {
	return &slabs{in: in, steady: steadySlab(in.slab), places: make(map[climate.Place]*slabHours)}
}

// timer follows the films of a job.
type timer struct {
	in       *inputs
	trains   *sim.Memory
	measured measured
	divided  divided
	laid     laid
	slabs    *slabs
	runner   sim.Runner
	out      timed

	free   time.Time    // the crew is
	below  []*CoatTimes // by surface, the coat that was laid last
	under  []*slabHours // by surface, its slab
	walked []time.Time  // by surface, when people can walk on what was laid last
}

// timeAll lays the coats one after another, round by round over the surfaces, and
// follows each film.
func timeAll(ctx context.Context, in *inputs, trains *sim.Memory, m measured, d divided, l laid) timed {
	clock := timer{
		in: in, trains: trains, measured: m, divided: d, laid: l, slabs: newSlabs(in), out: timed{coats: make([][]timedCoat, len(in.layers))},
		free: in.now, below: make([]*CoatTimes, len(in.layers)), under: make([]*slabHours, len(in.layers)), walked: make([]time.Time, len(in.layers)),
	}
	if in.start != nil {
		clock.free = *in.start
	}
	rounds := 0
	for i, layers := range in.layers {
		clock.out.coats[i] = make([]timedCoat, len(layers))
		rounds = max(rounds, len(layers))
		for c, l := range layers {
			if l.sheet != nil && (l.sheet.window.From > 0 || l.sheet.window.Until > 0) {
				window := l.sheet.window
				clock.out.coats[i][c].window = &window
			}
		}
	}
	for _, wave := range surfaceWaves(in) {
		for round := range rounds {
			for _, i := range wave {
				if round < len(in.layers[i]) && ctx.Err() == nil {
					clock.next(i, round)
				}
			}
		}
	}
	return clock.out
}

// next lays a coat of a surface on the one below, when the crew is free for it.
func (t *timer) next(i, round int) {
	l, below := t.in.layers[i][round], t.below[i]
	if t.divided.coats[i][round].division == nil {
		t.below[i] = nil
		return
	}
	if t.under[i] == nil {
		t.under[i] = t.slabs.under(i)
	}
	at := t.free
	if after := t.in.follows[i]; after >= 0 && t.walked[after].After(at) {
		at = t.walked[after]
	}
	if below != nil && t.in.start != nil && !l.coat.OverWet {
		wait := below.stage(material.StageRecoatFrom).After
		if own := l.coat.Wait; own != nil {
			wait = *own
		}
		if l.coat.When == buildup.OnTacky {
			wait = below.stage(material.StageWorking).After
		}
		if ready := wait.After(*below.End); ready.After(at) {
			at = ready
		}
		if next := below.End.AddDate(0, 0, 1); l.coat.When == buildup.NextMorning {
			if day := time.Date(next.Year(), next.Month(), next.Day(), 0, 0, 0, 0, next.Location()); day.After(at) {
				at = day
			}
		}
	}
	var abrade, sanded *time.Time
	if below != nil && t.in.start != nil && l.abrades {
		from, until := t.abrading(i, below, t.free)
		abrade, sanded = &from, &until
		if until.After(at) {
			at = until
		}
	}
	if t.in.start != nil && !at.Equal(*t.in.start) && !l.coat.OverWet {
		at = t.inShift(i, round, t.under[i], at)
	}
	times := t.lay(i, round, t.under[i], at)
	times.Abrade, times.Sanded = abrade, sanded
	if t.in.start != nil {
		t.free = *times.End
		t.walked[i] = times.walkable().After(*times.End)
		t.out.coats[i][round].clocks = t.batches(i, round, times)
		if below != nil {
			t.late(i, round, below, *times.Start)
			t.stiff(i, round, below, *times.Start)
			t.dry(i, round, below, *times.Start)
		}
	}
	t.out.coats[i][round].times, t.below[i] = times, times
}

// walkable is how long a coat takes until people can walk on it, or else lay the next one.
func (t *CoatTimes) walkable() measure.Span {
	if hard := t.stage(material.StageFoot).After; hard > 0 {
		return hard
	}
	return t.stage(material.StageRecoatFrom).After
}

// inShift is when a coat that is ready at a time is begun: while people work, and so that
// its pour lies inside one shift where one is long enough and it is not laid in parts.
func (t *timer) inShift(i, n int, w *slabHours, at time.Time) time.Time {
	at = t.in.hours.Next(at)
	until, open := t.in.hours.Closes(at)
	if !open || t.in.methods.Session != school.WholeFloor {
		return at
	}
	_, run, err := t.ran(i, n, w, at)
	if err != nil || !run.Ends.After(at).After(until) || run.Ends > t.in.hours.Work() {
		return at
	}
	return t.in.hours.Begins(at)
}

// abrading is when the crew abrades the coat below: once it can be walked on, or else
// takes the next coat, and nobody spreads elsewhere.
func (t *timer) abrading(i int, below *CoatTimes, free time.Time) (from, until time.Time) {
	from = below.walkable().After(*below.End)
	if free.After(from) {
		from = free
	}
	from = t.in.hours.Next(from)
	people := float64(t.in.file.Job.Crew.People())
	return from, (measure.Span(float64(t.measured.surfaces[i].takeoff.Area) / survey.SandPace / people * measure.Hour)).After(from)
}

// under returns the slab of a surface through the forecast, corrected by what was read on it;
// where there is no forecast, the slab planned for.
func (w *slabs) under(i int) *slabHours {
	place, read := placed(w.in.file.Job.Surfaces[i].Survey)
	slab := w.in.weather.slab(place)
	if len(slab) == 0 {
		return w.steady
	}
	hours := w.in.weather.hours
	if len(read) > 0 {
		return hourlySlab(hours[0].At, climate.Correct(slab, hours, read))
	}
	if w.places[place] == nil {
		w.places[place] = hourlySlab(hours[0].At, slab)
	}
	return w.places[place]
}

// lay follows the film of a coat that is begun at a time.
func (t *timer) lay(i, n int, w *slabHours, at time.Time) *CoatTimes {
	l, out := t.in.layers[i][n], &t.out.coats[i][n]
	c := &CoatTimes{Spread: t.pour(i, n, w, at), Slab: t.in.slab, Stages: []FilmStage{}}
	end := c.Spread.After(at)
	if t.in.start != nil {
		first, last := at, end
		c.Start, c.End = &first, &last
	}
	stages := l.sheet.product.Stages()
	c.Stages = slices.Grow(c.Stages, len(stages))
	for _, stage := range stages {
		p := w.passage(l.sheet, stage.Key)
		if p == nil {
			continue
		}
		if !w.steady {
			c.Slab = p.At(measure.Span(at.Sub(w.from).Seconds()))
		}
		f := FilmStage{Key: stage.Key, Name: stage.Name}
		from := end
		if stage.Key.Ends() {
			from = at
		}
		f.After, f.Outside, f.Beyond = w.after(p, from)
		if c.Start != nil {
			when := f.After.After(from)
			f.At = &when
		}
		c.Stages = append(c.Stages, f)
	}
	t.limits(l, c)
	if out.window != nil && c.Start != nil && !w.steady {
		// The window as it comes out through the forecast, counted from the end
		// of this coat.
		from, until := c.stage(material.StageRecoatFrom), c.stage(material.StageRecoatUntil)
		window := buildup.Window{From: from.After, At: c.Slab, Outside: from.Outside || until.Outside, Forecast: true}
		if until.After > 0 {
			window.Until = max(until.After-c.Spread, 1)
		}
		out.window = &window
	}
	return c
}

// pour runs the train of a coat that is begun at a time, and returns how long it takes.
func (t *timer) pour(i, n int, w *slabHours, at time.Time) measure.Span {
	l, out := t.in.layers[i][n], &t.out.coats[i][n]
	train, run, err := t.ran(i, n, w, at)
	out.train = &train
	if err != nil {
		crew, area := l.crew, l.covers(t.measured.surfaces[i].takeoff)
		t.out.found = append(t.out.found, missingRole(t.in, l))
		return measure.Span(float64(area) / (float64(crew.Pace.Value) * float64(max(1, crew.Spreaders))))
	}
	out.run = &run
	if t.in.start != nil {
		t.out.found = append(t.out.found, breakInPour(t.in, i, l, at, run.Ends.After(at))...)
		t.out.found = append(t.out.found, doorShut(t.in, i, l, t.laid.courses[i], run.Ends.After(at))...)
	}
	t.out.found = append(t.out.found, tooLate(t.in, &t.runner, i, l, train, run, t.laid.coats[i][n])...)
	return run.Ends
}

// ran is the train of a coat that is begun at a time, as it runs best.
func (t *timer) ran(i, n int, w *slabHours, at time.Time) (sim.Train, sim.Run, error) {
	l := t.in.layers[i][n]
	area := l.covers(t.measured.surfaces[i].takeoff)
	train := trainOf(t.in, l, t.divided.coats[i][n].division, sectionLoads(t.in, l, t.laid.coats[i][n]), area, t.divided.lives[l.sheet], t.edge(l, w, at), shiftLeft(t.in, at), lightLeft(t.in, at))
	best := t.runner.Best
	if w.steady {
		best = t.trains.Best
	}
	run, err := best(train)
	return train, run, err
}

// edge tells how long a film of a coat begun at a time can be worked where it is laid so
// much later; nil where its sheet does not say.
func (t *timer) edge(l resolvedCoat, w *slabHours, at time.Time) func(measure.Span) measure.Span {
	for _, stage := range l.sheet.product.Stages() {
		if stage.Key != material.StageWorking {
			continue
		}
		p := w.passage(l.sheet, stage.Key)
		if p == nil {
			return nil
		}
		if w.steady {
			always, _, _ := w.after(p, at)
			return func(measure.Span) measure.Span { return always }
		}
		return sampled(func(s measure.Span) measure.Span {
			works, _, _ := w.after(p, s.After(at))
			return works
		})
	}
	return nil
}

// often is how far apart a slab through a forecast of hours is asked for, s.
const often = 600

// sampled reads a function of time between values often apart, each asked for once.
func sampled(of func(measure.Span) measure.Span) func(measure.Span) measure.Span {
	known := make(map[int]measure.Span)
	at := func(n int) measure.Span {
		v, seen := known[n]
		if !seen {
			v = of(measure.Span(n) * often)
			known[n] = v
		}
		return v
	}
	return func(s measure.Span) measure.Span {
		n := math.Floor(float64(s / often))
		share := s/often - measure.Span(n)
		return at(int(n))*(1-share) + at(int(n)+1)*share
	}
}

// hour tells a time as the clock on site shows it.
func hour(t time.Time) string { return t.Format("Mon 15:04") }

// batches tells when A meets B for each batch as its train runs, and until when its
// pail can be used.
func (t *timer) batches(i, n int, c *CoatTimes) []clock {
	out := t.out.coats[i][n]
	clocks := make([]clock, len(out.train.Batches))
	if out.run == nil {
		return clocks
	}
	for k, b := range out.train.Batches {
		if b.Life > 0 {
			meets := out.run.Passages[k].Meets.After(*c.Start)
			clocks[k] = clock{meets, b.Life.After(meets)}
		}
	}
	return clocks
}
