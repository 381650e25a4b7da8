// Package whatif runs the pours of a job ahead of time, and what would become of them if the
// job were changed. It may know the inputs and the stages of a plan, not how a plan is told.
package whatif

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"math"
	"slices"
	"time"

	"nephelon/core/facts"

	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/plan/advice"
	"nephelon/core/plan/input"
	"nephelon/core/plan/stage"
	"nephelon/core/pour/sim"
	"nephelon/core/school"
	"nephelon/core/work"
)

// Planner answers what would become of a pour.
type Planner struct{ *stage.Row }

// PourPlan is the pour of one coat, run ahead of time.
type PourPlan struct {
	Surface  string              `json:"surface" doc:"Id of the surface"`
	Coat     string              `json:"coat" doc:"Id of the coat"`
	Number   int                 `json:"number" doc:"Number of the coat, from 1"`
	Name     string              `json:"name" doc:"Name of its product"`
	Start    *time.Time          `json:"start,omitempty" doc:"When its first batch is poured; absent while no start is planned"`
	Slab     measure.Temperature `json:"slab" doc:"°C when it is laid"`
	Crew     []work.Person       `json:"crew"`
	Batches  []work.Mix          `json:"batches"`
	Run      sim.Run             `json:"run"`
	Pace     measure.Pace        `json:"pace,omitempty" doc:"m²/s of each, where the time of the first section tells it"`
	Working  measure.Span        `json:"working,omitempty" doc:"s that its film can be worked where it is laid first; absent where the sheet does not say"`
	Cost     *float64            `json:"cost,omitempty" doc:"Price of all kits of the job; absent where a size has none"`
	Findings []finding.Finding   `json:"findings" doc:"What comes too late"`
}

// ErrNoPour is returned for a coat that the job does not have or that cannot be poured.
var ErrNoPour = errors.New("there is no pour of this coat")

// poured finds a coat of a file and runs the stages that its pour needs; as its people work
// whose first section took so long, where that is known.
func (p Planner) poured(ctx context.Context, f job.File, world facts.Facts, units measure.System, coat string,
	first measure.Span) (PourPlan, sim.Train, error) {
	in, _ := input.Read(f, world, units)
	done, err := p.Run(ctx, in)
	if err != nil {
		return PourPlan{}, sim.Train{}, fmt.Errorf("plan the pour: %w", err)
	}
	d, l, c := done.Divided, done.Laid, done.Timed
	for i, layers := range in.Layers {
		for n, layer := range layers {
			timed := c.Coats[i][n]
			if layer.Coat.ID != coat {
				continue
			}
			if timed.Run == nil {
				return PourPlan{}, sim.Train{}, ErrNoPour
			}
			pace := measure.Pace(0)
			runner := new(sim.Runner)
			if first > 0 {
				paced, times, err := runner.Paced(*timed.Train, first)
				if err != nil {
					return PourPlan{}, sim.Train{}, fmt.Errorf("pace the pour: %w", err)
				}
				run, err := runner.Best(paced)
				if err != nil {
					return PourPlan{}, sim.Train{}, fmt.Errorf("run the pour: %w", err)
				}
				timed.Train, timed.Run, pace = &paced, &run, layer.Crew.Pace.Value/measure.Pace(times)
			}
			out := PourPlan{
				Surface: f.Job.Surfaces[i].ID, Coat: coat, Number: layer.Number, Name: layer.Sheet.Product.Name,
				Start: timed.Times.Start, Slab: timed.Times.Slab,
				Crew: timed.Train.People, Run: *timed.Run, Batches: make([]work.Mix, len(timed.Train.Batches)),
				Findings: []finding.Finding{}, Pace: pace, Cost: done.Bought.Cost,
			}
			for k, batch := range d.Coats[i][n].Division.Batches {
				own := timed.Train.Batches[k]
				out.Batches[k] = work.Mix{ID: work.ID(batch.ID), Section: work.ID(l.Coats[i][n].Sections[k].ID),
					Volume: batch.Volume, Mass: batch.Mass, Mixing: own.Mix + own.Stand, Life: own.Life}
			}
			if timed.Train.Edge != nil {
				out.Working = timed.Train.Edge(0)
			}
			out.Findings = append(out.Findings, advice.TooLate(in, runner, i, layer, *timed.Train, *timed.Run, l.Coats[i][n])...)
			return out, *timed.Train, nil
		}
	}
	return PourPlan{}, sim.Train{}, ErrNoPour
}

// Pour runs the pour of one coat: as planned, or, where its first section is known to have
// taken some time from being poured until it was done, as people of that pace do. It fails
// with ErrNoPour where there is none, and with sim.ErrPace where no pace explains that time.
func (p Planner) Pour(ctx context.Context, f job.File, world facts.Facts, units measure.System, coat string,
	first measure.Span) (PourPlan, error) {
	out, _, err := p.poured(ctx, f, world, units, coat, first)
	return out, err
}

// Odds tries the pour of one coat many times. See sim.Try.
func (p Planner) Odds(ctx context.Context, f job.File, world facts.Facts, coat string, first measure.Span,
	s sim.Spreads,
	runs int, seed uint64, tell func(int)) (sim.Chance, error) {
	_, train, err := p.poured(ctx, f, world, measure.Metric, coat, first)
	if err != nil {
		return sim.Chance{}, err
	}
	return sim.Try(ctx, train, s, runs, seed, tell)
}

// Way is a change to a job with what it does for the pour of a coat.
type Way struct {
	Label   string              `json:"label"`
	Patch   []finding.PatchStep `json:"patch" doc:"Patch of the plan file"`
	Makes   bool                `json:"makes"`
	Tight   sim.Pinch           `json:"tight" doc:"Tightest moment of the pour"`
	Gain    measure.Span        `json:"gain" doc:"s that the tightest moment gains"`
	Ends    measure.Span        `json:"ends" doc:"s from the first batch poured to the last section done"`
	Odds    sim.Odds            `json:"odds" doc:"How often nothing comes too late"`
	People  int                 `json:"people"`
	Cost    *float64            `json:"cost,omitempty" doc:"What all kits of the job cost more with it; absent where a size has no price"`
	Batches int                 `json:"batches"`
}

// oddsRuns holds how often each way is tried: odds come within some 5 % then.
const oddsRuns = 400

// rank orders ways: those that make it first, then those with the better odds, by tenths, then those that need
// fewer hands, then what costs less, then what leaves more time.
func rank(a, b Way) int {
	tenths := func(w Way) float64 { return math.Round(10 * w.Odds.Of) }
	cost := func(w Way) float64 {
		if w.Cost == nil {
			return 0
		}
		return math.Round(100 * *w.Cost)
	}
	if a.Makes != b.Makes {
		if a.Makes {
			return -1
		}
		return 1
	}
	return cmp.Or(cmp.Compare(tenths(b), tenths(a)), cmp.Compare(a.People, b.People), cmp.Compare(cost(a), cost(b)),
		cmp.Compare(b.Tight.Slack, a.Tight.Slack))
}

// coldest is the temperature down to which cooler parts are asked for, °C: colder ones no longer mix.
const coldest measure.Temperature = 12

// change holds what may help a pour: on the file, and as its patch.
type change struct {
	label string
	apply func(*job.File, *buildup.Coat)
	patch []finding.PatchStep
}

// Ways tries what may help the pour of a coat, each by planning the job with it, and
// returns what does: first what makes it, by odds, then by hands, then by cost.
func (p Planner) Ways(ctx context.Context, f job.File, world facts.Facts, units measure.System,
	coat string) ([]Way, error) {
	before, train, err := p.poured(ctx, f, world, units, coat, 0)
	if err != nil {
		return nil, err
	}
	at := slices.IndexFunc(f.Job.Surfaces, func(s job.Surface) bool { return s.ID == before.Surface })
	in, _ := input.Read(f, world, units)
	l := in.Layers[at][before.Number-1]
	ways := []Way{}
	for _, c := range pourChanges(in, l, train) {
		changed := f
		changed.Job.Surfaces = slices.Clone(f.Job.Surfaces)
		s := &changed.Job.Surfaces[at]
		s.Coats = slices.Clone(s.Coats)
		c.apply(&changed, &s.Coats[before.Number-1])
		after, again, err := p.poured(ctx, changed, world, units, coat, 0)
		if errors.Is(err, ErrNoPour) {
			continue
		}
		if err != nil {
			return nil, err
		}
		way := Way{Label: c.label, Patch: c.patch, Makes: after.Run.Makes, Tight: after.Run.Tight(),
			Gain: after.Run.Tight().Slack - before.Run.Tight().Slack, Ends: after.Run.Ends, People: len(after.Crew),
			Batches: len(after.Batches)}
		if way.Gain <= 1 {
			continue
		}
		chance, err := sim.Try(ctx, again, in.File.Job.Crew.SpreadsOf(), oddsRuns, 1, nil)
		if err != nil {
			return nil, fmt.Errorf("try a way: %w", err)
		}
		way.Odds = chance.Makes
		if before.Cost != nil && after.Cost != nil {
			more := *after.Cost - *before.Cost
			way.Cost = &more
		}
		ways = append(ways, way)
	}
	slices.SortStableFunc(ways, rank)
	return ways, nil
}

// pourChanges returns what may help the pour of a coat.
func pourChanges(in *input.Inputs, l input.ResolvedCoat, train sim.Train) []change {
	crew, p := l.Crew, l.Sheet.Product
	own := func(by func(*buildup.OwnWay)) *buildup.OwnWay {
		way := buildup.OwnWay{}
		if l.Coat.Own != nil {
			way = *l.Coat.Own
		}
		by(&way)
		return &way
	}
	ownWay := func(label string, by func(*buildup.OwnWay)) change {
		way := own(by)
		return change{label, func(_ *job.File, c *buildup.Coat) { c.Own = way },
			[]finding.PatchStep{{Op: "add", Path: l.Path + "/own", Value: way}}}
	}
	team := func(label string, people []work.Person, drills int) change {
		patch := []finding.PatchStep{{Op: "add", Path: "/job/crew/team", Value: people}}
		if drills > in.File.Job.Mixing.Drills {
			mixing := in.File.Job.Mixing
			mixing.Drills = drills
			patch = append(patch, finding.PatchStep{Op: "add", Path: "/job/mixing", Value: mixing})
		}
		return change{label, func(f *job.File, _ *buildup.Coat) {
			f.Job.Crew.Team, f.Job.Mixing.Drills = people,
				drills
		}, patch}
	}
	var all []change
	another := work.Person{Name: fmt.Sprintf("Floor %d", len(crew.Team)+1), Roles: stage.OnFloor()}
	switch {
	case len(crew.Team) > 0:
		all = append(all, team("One more spreader", append(slices.Clone(crew.Team), another), train.Drills))
	case l.Coat.Own != nil && l.Coat.Own.Spreaders > 0:
		all = append(all, ownWay("One more spreader", func(o *buildup.OwnWay) { o.Spreaders++ }))
	default:
		more := crew.Spreaders + 1
		all = append(all, change{"One more spreader", func(f *job.File, _ *buildup.Coat) { f.Job.Crew.Spreaders = more },
			[]finding.PatchStep{{Op: "replace", Path: "/job/crew/spreaders", Value: more}}})
		if crew.Alone {
			all = append(all, change{"A separate mixer", func(f *job.File, _ *buildup.Coat) { f.Job.Crew.Alone = false },
				[]finding.PatchStep{{Op: "replace", Path: "/job/crew/alone", Value: false}}})
		}
	}
	if len(p.Components) > 1 && (l.Coat.Own == nil || l.Coat.Own.Spreaders == 0) {
		second := work.Person{Name: "Mixer 2", Roles: []work.Role{work.Mixer}}
		all = append(all, team("A second mixer with a drill", append(slices.Clone(train.People), second),
			train.Drills+1))
	}
	for _, k := range kitChanges(l) {
		all = append(all, ownWay(k.label, func(o *buildup.OwnWay) { o.Kits = k.kits }))
	}
	caster := work.Person{Name: "Helper", Roles: []work.Role{work.Caster}}
	if l.Coat.Own == nil || l.Coat.Own.Spreaders == 0 {
		all = append(all, castingChanges(l, team("A helper who broadcasts behind",
			append(slices.Clone(train.People), caster), train.Drills))...)
	}
	least := coldest
	if p.MaterialMin != nil {
		least = max(least, p.MaterialMin.Value)
	}
	if now := l.Sheet.Parts; now-stage.Cooler >= least && len(p.Components) > 1 {
		mixing := in.File.Job.Mixing
		mixing.A = &measure.Sourced[measure.Temperature]{Value: now - stage.Cooler, Source: measure.Assumed}
		mixing.B = nil
		all = append(all, change{"Parts at " + in.Units.Temperature(now-stage.Cooler),
			func(f *job.File, _ *buildup.Coat) { f.Job.Mixing = mixing },
			[]finding.PatchStep{{Op: "add", Path: "/job/mixing", Value: mixing}}})
	}
	for _, h := range p.Hardeners {
		if h.ID == l.Coat.Hardener {
			continue
		}
		id := h.ID
		all = append(all, change{"Hardener " + h.Name, func(_ *job.File, c *buildup.Coat) { c.Hardener = id },
			[]finding.PatchStep{{Op: "add", Path: l.Path + "/hardener", Value: id}}})
	}
	return append(all, practiceChanges(in, l, train)...)
}

// kitsOf holds how much of a kit is mixed at once, in words.
type kitsOf struct {
	kits  school.Kits
	label string
}

// kitChanges returns how else the kits of a coat may be divided.
func kitChanges(l input.ResolvedCoat) []kitsOf {
	if len(l.Sheet.Product.Components) < 2 {
		return nil
	}
	all := []kitsOf{{school.WholeKits, "Whole kits, several at once"}, {school.OneKit, "One kit a batch"}}
	if l.Methods.Kits != school.Measured {
		all = append(all, kitsOf{school.HalfKits, "Half kits"})
	}
	return slices.DeleteFunc(all, func(k kitsOf) bool { return k.kits == l.Methods.Kits })
}

// castingChanges returns what another way of broadcasting may do for the pour of a coat.
func castingChanges(l input.ResolvedCoat, helper change) []change {
	s := l.Coat.Scatter
	if l.Casting(0) == 0 || s == nil {
		return nil
	}
	all := []change{helper}
	if s.Pace == nil && s.Way != buildup.ByBlower {
		blown := *s
		blown.Way = buildup.ByBlower
		all = append(all, change{"Broadcast by blower", func(_ *job.File, c *buildup.Coat) { c.Scatter = &blown },
			[]finding.PatchStep{{Op: "add", Path: l.Path + "/scatter", Value: blown}}})
	}
	return all
}

// practiceChanges returns what another practice may do for the pour of a coat.
func practiceChanges(in *input.Inputs, l input.ResolvedCoat, train sim.Train) []change {
	var all []change
	if l.Coat.Colours != nil && in.Methods.Tinting != school.TintBefore {
		tinting := in.File.Job.Methods
		tinting.Tinting = school.TintBefore
		all = append(all, change{"Part A coloured beforehand",
			func(f *job.File, _ *buildup.Coat) { f.Job.Methods.Tinting = school.TintBefore },
			[]finding.PatchStep{{Op: "add", Path: "/job/methods", Value: tinting}}})
	}
	if in.Methods.Session == school.WholeFloor && len(train.Batches) > 1 {
		taped := in.File.Job.Methods
		taped.Session = school.TapeLines
		all = append(all, change{"In sections with clean tape lines, over more than one session if need be",
			func(f *job.File, _ *buildup.Coat) { f.Job.Methods.Session = school.TapeLines },
			[]finding.PatchStep{{Op: "add", Path: "/job/methods", Value: taped}}})
	}
	return all
}

// Begun holds how the pour of a coat runs if the work on its job starts at another hour.
type Begun struct {
	Start job.Local  `json:"start" doc:"Start, by the clock on site"`
	Makes bool       `json:"makes"`
	Tight sim.Pinch  `json:"tight" doc:"Tightest moment of the pour"`
	Pours *time.Time `json:"pours,omitempty" doc:"When its first batch is poured then"`
}

// Starts runs the pour of a coat for each hour of the shift in which its job is planned to
// start, so that the earliest and the latest that make it are seen; none where no start is
// planned, and where the coat is booked, since the roster says then when it is poured. It plans the job as often.
func (p Planner) Starts(ctx context.Context, f job.File, world facts.Facts, units measure.System,
	coat string) ([]Begun, error) {
	begun := []Begun{}
	in, _ := input.Read(f, world, units)
	if _, booked := in.Booked(work.PourID(coat)); booked || in.Start == nil {
		return begun, nil
	}
	from, until, _ := in.Hours.Shift(in.Start.Year(), in.Start.Month(), in.Start.Day(), in.Start.Location())
	for at := from; at.Before(until); at = at.Add(time.Hour) {
		moved := f
		moved.Job.Start = job.Local(at.Format("2006-01-02T15:04"))
		run, _, err := p.poured(ctx, moved, world, units, coat, 0)
		if errors.Is(err, ErrNoPour) {
			continue
		}
		if err != nil {
			return nil, err
		}
		begun = append(begun, Begun{moved.Job.Start, run.Run.Makes, run.Run.Tight(), run.Start})
	}
	return begun, nil
}
