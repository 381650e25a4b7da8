package stage

import (
	"context"
	"slices"
	"time"

	"nephelon/core/buildup"
	"nephelon/core/facts"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/pour/sim"
	"nephelon/core/school"
	"nephelon/core/survey"
	"nephelon/core/work"
)

// CoatTimes holds when a coat is laid, if the crew works on without a break, and
// when its film comes to what its sheet names.
type CoatTimes struct {
	Basis  facts.Basis         `json:"basis,omitempty" doc:"What its hours rest on; absent while the start of the work is not planned"`
	Begins *time.Time          `json:"begins,omitempty" doc:"When its first kit is opened"`
	Start  *time.Time          `json:"start,omitempty" doc:"Start of its first section; absent while the start of the work is not planned"`
	End    *time.Time          `json:"end,omitempty" doc:"End of its last section, not before its booking ends"`
	Abrade *time.Time          `json:"abrade,omitempty" doc:"When the coat below is abraded before it"`
	Sanded *time.Time          `json:"sanded,omitempty" doc:"When that is done"`
	Spread measure.Span        `json:"spread" doc:"s from its first batch poured to its last section done, as its train runs"`
	Slab   measure.Temperature `json:"slab" doc:"°C of the slab when it is laid"`
	Stages []FilmStage         `json:"stages"`

	Ready  time.Time `json:"-"` // from when the film below lets it begin; zero where it is the first
	Booked time.Time `json:"-"` // until when it is booked; zero where it is not

	Unsuited string `json:"-"` // why its first kit is not to be opened then; empty where it may
}

// FilmStage is one time of a film. What ends, as the working time and the last
// chance for the next coat, counts from the first section; all else from the last.
type FilmStage struct {
	Key     material.StageKey `json:"key"`
	Name    string            `json:"name"`
	After   measure.Span      `json:"after" doc:"s after its section was laid"`
	At      *time.Time        `json:"at,omitempty"`
	Outside bool              `json:"outside,omitempty" doc:"The slab is outside the temperatures of the sheet on the way: extrapolated"`
	Beyond  bool              `json:"beyond,omitempty" doc:"The forecast ends on the way; the mean of its last day stands in"`
}

// Stage of a coat, empty where its sheet gives none.
func (t *CoatTimes) Stage(key material.StageKey) FilmStage {
	for _, s := range t.Stages {
		if s.Key == key {
			return s
		}
	}
	return FilmStage{}
}

// Timed is every coat on the clock.
type Timed struct {
	Coats [][]TimedCoat
	Order []Place // in which the crew lays them
}

// Place is a coat of a surface, both from 0.
type Place struct{ Surface, Coat int }

// TimedCoat holds when a coat is laid, and what follows from its hour.
type TimedCoat struct {
	Times  *CoatTimes      // nil where the coat is not divided
	Window *buildup.Window // nil where the sheet gives none
	Clocks []Clock         // by batch; empty while no start is planned
	Train  *sim.Train      // nil where the coat is not divided
	Run    *sim.Run        // nil where nobody can run it
}

// Clock holds the mixing start of a batch and the end of its use.
type Clock struct{ Meets, UseBy time.Time }

// timer follows the films of a job.
type timer struct {
	in       *input.Inputs
	trains   *sim.Memory
	measured Measured
	divided  Divided
	laid     Laid
	slabs    *slabs
	runner   sim.Runner
	out      Timed

	free   time.Time    // the crew is
	below  []*CoatTimes // by surface, the coat that was laid last
	under  []*slabHours // by surface, its slab
	cooler []*slabHours // by surface, the same cooler by the margin of the job
	walked []time.Time  // by surface, when people can walk on what was laid last
}

// TimeAll lays the coats one after another, round by round over the surfaces, and
// follows each film.
func TimeAll(ctx context.Context, in *input.Inputs, trains *sim.Memory, m Measured, d Divided, l Laid) Timed {
	clock := timer{
		in: in, trains: trains, measured: m, divided: d, laid: l, slabs: NewSlabs(in),
		out:  Timed{Coats: make([][]TimedCoat, len(in.Layers))},
		free: in.Now, below: make([]*CoatTimes, len(in.Layers)), under: make([]*slabHours, len(in.Layers)),
		cooler: make([]*slabHours, len(in.Layers)),
		walked: make([]time.Time, len(in.Layers)),
	}
	if in.Start != nil {
		clock.free = *in.Start
	}
	rounds := 0
	for i, layers := range in.Layers {
		clock.out.Coats[i] = make([]TimedCoat, len(layers))
		rounds = max(rounds, len(layers))
		for c, l := range layers {
			if l.Sheet != nil && (l.Sheet.Window.From > 0 || l.Sheet.Window.Until > 0) {
				window := l.Sheet.Window
				clock.out.Coats[i][c].Window = &window
			}
		}
	}
	for _, wave := range input.SurfaceWaves(in) {
		for round := range rounds {
			for _, i := range wave {
				if round < len(in.Layers[i]) && ctx.Err() == nil {
					clock.next(i, round)
				}
			}
		}
	}
	return clock.out
}

// next lays a coat of a surface on the one below, when the crew is free for it.
func (t *timer) next(i, round int) {
	l, below := t.in.Layers[i][round], t.below[i]
	if t.divided.Coats[i][round].Division == nil {
		t.below[i] = nil
		return
	}
	if t.under[i] == nil {
		t.under[i] = t.slabs.Under(i)
	}
	at := t.free // the crew is
	if after := t.in.Follows[i]; after >= 0 && t.walked[after].After(at) {
		at = t.walked[after]
	}
	film, day := t.takes(i, round, below)
	for _, ready := range []time.Time{film, day} {
		if ready.After(at) {
			at = ready
		}
	}
	var abrade, sanded *time.Time
	if below != nil && t.in.Start != nil && l.Abrades {
		from, until := t.abrading(i, below, t.free)
		if b, is := t.in.Booked(work.AbradeID(l.Coat.ID)); is {
			from, until = b.From, b.Until
		}
		abrade, sanded = &from, &until
		if until.After(at) {
			at = until
		}
	}
	basis, until := facts.Proposed, time.Time{}
	logged, laid := t.in.Logged(l.Coat.ID)
	if laid {
		basis, at = facts.Logged, logged.From
		if logged.Broken != nil {
			basis, until = t.rest(i, round, logged)
		}
	} else if b, is := t.in.Booked(work.PourID(l.Coat.ID)); is {
		basis, at, until = facts.Booked, t.leads(i, round, t.under[i], b.From).After(b.From), b.Until
	} else if t.in.Start != nil && !l.Coat.OverWet && (!at.Equal(*t.in.Start) || l.Coat.Hours.Any()) {
		at = t.suited(i, round, t.under[i], at)
	}
	t.out.Order = append(t.out.Order, Place{i, round})
	times := t.lay(i, round, t.under[i], at, until, logged.Until)
	times.Abrade, times.Sanded, times.Ready, times.Booked = abrade, sanded, film, until
	if t.in.Start != nil {
		times.Basis = basis
		if own := t.slabs.Opening(i, l); own.Any() && basis != facts.Logged {
			times.Unsuited = own.Against(*times.Begins, *times.End)
		}
		t.free = *times.End
		t.walked[i] = times.Walkable().After(*times.End)
		t.out.Coats[i][round].Clocks = t.batches(i, round, times)
	}
	t.out.Coats[i][round].Times, t.below[i] = times, times
}

// takes returns when the film below takes a coat, and on which day that may be at the earliest; zero where it is the
// first, is poured over a wet film, or no start is planned.
func (t *timer) takes(i, round int, below *CoatTimes) (film, day time.Time) {
	l := t.in.Layers[i][round]
	if below == nil || t.in.Start == nil || l.Coat.OverWet {
		return film, day
	}
	wait := t.ripe(i, round-1, below)
	if own := l.Coat.Wait; own != nil {
		wait = *own
	}
	if l.Coat.When == buildup.OnTacky {
		wait = below.Stage(material.StageWorking).After
	}
	if next := below.End.AddDate(0, 0, 1); l.Coat.When == buildup.NextMorning {
		day = time.Date(next.Year(), next.Month(), next.Day(), 0, 0, 0, 0, next.Location())
	}
	return wait.After(*below.End), day
}

// rest returns when the rest of a coat that was broken off is laid, and what that rests on.
func (t *timer) rest(i, n int, broken facts.Laid) (facts.Basis, time.Time) {
	if b, is := t.in.Booked(work.PourID(broken.Coat)); is && b.From.After(*broken.Broken) {
		return facts.Booked, b.Until
	}
	from := t.in.Now
	if broken.Broken.After(from) {
		from = *broken.Broken
	}
	from = t.in.Hours.Next(from)
	left := measure.Span(1 - broken.Share)
	if _, run, err := t.ran(i, n, t.under[i], from); err == nil {
		return facts.Proposed, (left * (run.Ends - run.Begins)).After(from)
	}
	return facts.Proposed, from
}

// ripe returns how long after its end a film takes the next coat, on a slab as much cooler than told as the job allows
// for, though no longer than its window is open.
func (t *timer) ripe(i, n int, film *CoatTimes) measure.Span {
	from := film.Stage(material.StageRecoatFrom).After
	if margin := t.in.File.Job.Margin; margin > 0 {
		if t.cooler[i] == nil {
			t.cooler[i] = t.under[i].cooled(margin)
		}
		if p := t.cooler[i].passage(t.in.Layers[i][n], material.StageRecoatFrom); p != nil {
			later, _, _ := t.cooler[i].after(p, *film.End)
			if closes := film.Stage(material.StageRecoatUntil).At; closes == nil || !later.After(*film.End).After(*closes) {
				from = later
			}
		}
	}
	return from
}

// leads returns how long before its first section a coat begins whose first kit is opened at a time.
func (t *timer) leads(i, n int, w *slabHours, at time.Time) measure.Span {
	_, run, err := t.ran(i, n, w, at)
	if err != nil {
		return 0
	}
	return -run.Begins
}

// Walkable returns the time until people can walk on it, or else lay the next one.
func (t *CoatTimes) Walkable() measure.Span {
	if hard := t.Stage(material.StageFoot).After; hard > 0 {
		return hard
	}
	return t.Stage(material.StageRecoatFrom).After
}

// inShift returns when the first section of a coat that is ready at a time is laid: its first kit is opened while
// people work, and its pour lies inside one shift where one is long enough and it is not laid in parts.
func (t *timer) inShift(i, n int, w *slabHours, at time.Time) time.Time {
	lead := t.leads(i, n, w, at)
	kit := t.in.Hours.Next((-lead).After(at))
	if opened := lead.After(kit); opened.After(at) {
		at = opened
	}
	until, open := t.in.Hours.Closes(kit)
	if !open || t.in.Methods.Session != school.WholeFloor {
		return at
	}
	_, run, err := t.ran(i, n, w, at)
	if err != nil || !run.Ends.After(at).After(until) || run.Ends-run.Begins > t.in.Hours.Work() {
		return at
	}
	return lead.After(t.in.Hours.Begins(kit))
}

// abrading returns when the crew abrades the coat below: once it can be walked on, or else
// takes the next coat, and nobody spreads elsewhere.
func (t *timer) abrading(i int, below *CoatTimes, free time.Time) (from, until time.Time) {
	from = below.Walkable().After(*below.End)
	if free.After(from) {
		from = free
	}
	from = t.in.Hours.Next(from)
	people := float64(t.in.File.Job.Crew.People())
	return from,
		(measure.Span(float64(t.measured.Surfaces[i].Takeoff.Area) / survey.SandPace / people * measure.Hour)).After(from)
}

// lay follows the film of a coat whose first section is laid at a time, and that counts as laid no sooner than
// another, or as it was logged.
func (t *timer) lay(i, n int, w *slabHours, at, sooner time.Time, logged *time.Time) *CoatTimes {
	l, out := t.in.Layers[i][n], &t.out.Coats[i][n]
	c := &CoatTimes{Spread: t.pour(i, n, w, at), Slab: t.in.Slab, Stages: []FilmStage{}}
	end := c.Spread.After(at)
	if sooner.After(end) {
		end = sooner
	}
	if logged != nil {
		end = *logged
	}
	if t.in.Start != nil {
		first, last, begins := at, end, at
		if out.Run != nil {
			begins = out.Run.Begins.After(at)
		}
		c.Begins, c.Start, c.End = &begins, &first, &last
	}
	stages := l.Sheet.Product.Stages()
	c.Stages = slices.Grow(c.Stages, len(stages))
	for _, stage := range stages {
		p := w.passage(l, stage.Key)
		if p == nil {
			continue
		}
		if !w.Steady {
			c.Slab = p.At(measure.Span(at.Sub(w.From).Seconds()))
		}
		f := FilmStage{Key: stage.Key, Name: stage.Name}
		if slices.Contains(material.Returns(), stage.Key) {
			if f.Name = stage.Key.Service(t.in.File.Job.Surfaces[i].Kind()); f.Name == "" {
				continue
			}
		}
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
	if out.Window != nil && c.Start != nil && !w.Steady {
		// The window as it comes out through the forecast, counted from the end
		// of this coat.
		from, until := c.Stage(material.StageRecoatFrom), c.Stage(material.StageRecoatUntil)
		window := buildup.Window{From: from.After, At: c.Slab, Outside: from.Outside || until.Outside, Forecast: true}
		if until.After > 0 {
			window.Until = max(until.After-measure.Span(end.Sub(at).Seconds()), 1)
		}
		out.Window = &window
	}
	return c
}

// pour runs the train of a coat that is begun at a time, and returns how long it takes.
func (t *timer) pour(i, n int, w *slabHours, at time.Time) measure.Span {
	l, out := t.in.Layers[i][n], &t.out.Coats[i][n]
	train, run, err := t.ran(i, n, w, at)
	out.Train = &train
	if err != nil {
		crew, area := l.Crew, l.Covers(t.measured.Surfaces[i].Takeoff)
		return measure.Span(float64(area) / (float64(crew.Pace.Value) * float64(max(1, crew.Spreaders))))
	}
	out.Run = &run
	return run.Ends
}

// ran is the train of a coat that is begun at a time, as it runs best.
func (t *timer) ran(i, n int, w *slabHours, at time.Time) (sim.Train, sim.Run, error) {
	l := t.in.Layers[i][n]
	area := l.Covers(t.measured.Surfaces[i].Takeoff)
	train := trainOf(t.in, l, t.divided.Coats[i][n].Division, sectionLoads(t.in, l, t.laid.Coats[i][n]), area,
		t.divided.Lives[l.Sheet], t.edge(l, w, at), shiftLeft(t.in, at), lightLeft(t.in, at))
	best := t.runner.Best
	if w.Steady {
		best = t.trains.Best
	}
	run, err := best(train)
	return train, run, err
}

// batches returns when A meets B for each batch as its train runs, and until when its
// pail can be used.
func (t *timer) batches(i, n int, c *CoatTimes) []Clock {
	out := t.out.Coats[i][n]
	clocks := make([]Clock, len(out.Train.Batches))
	if out.Run == nil {
		return clocks
	}
	for k, b := range out.Train.Batches {
		if b.Life > 0 {
			meets := out.Run.Passages[k].Meets.After(*c.Start)
			clocks[k] = Clock{meets, b.Life.After(meets)}
		}
	}
	return clocks
}
