// Package learn gathers what own floors show of how a product is laid, against what was planned.
// It takes nothing over.
package learn

import (
	"cmp"
	"maps"
	"math"
	"slices"
	"time"

	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/core/record/current"
	"nephelon/core/record/fact"
	"nephelon/core/school"
)

// What names what own floors show.
type What string

// What is shown, each as a ratio of what was so to what was planned, but for shares and what is covered.
const (
	Pace     What = "pace"     // the time a section took on the floor
	Mixing   What = "mixing"   // the time with the mixer
	Consumed What = "consumed" // the mass that was poured on an area, as weighed
	Lost     What = "lost"     // the share of the mass that went in lost pails
	Lived    What = "lived"    // the share of its pot life after which a pail went hot
	Joined   What = "joined"   // the share of the working time after which edges were joined on coats without a defect
	Casting  What = "casting"  // the time one person took to broadcast a mass
	Loss     What = "loss"     // the share of what was poured that is neither in the film nor planned beside it
	Covered  What = "covered"  // m² that a m³ covered, as weighed: all is in it
)

// Values lists what is shown.
func (What) Values() []What {
	return []What{Pace, Mixing, Casting, Consumed, Covered, Loss, Lost, Lived, Joined}
}

// Version rises with every change of what is worked out of a record, so that what is kept is worked out anew.
const Version = 2

// Case holds what one coat of one job shows.
type Case struct {
	Job     string               `json:"job"`
	Product string               `json:"product" doc:"Id of the product"`
	Name    string               `json:"name" doc:"Name of the product"`
	Method  school.Laying        `json:"method,omitempty"`
	Surface material.SurfaceKind `json:"surface,omitempty"`
	Crew    string               `json:"crew"`
	Begun   time.Time            `json:"begun"`
	Slab    measure.Temperature  `json:"slab"`
	Pace    measure.Pace         `json:"pace,omitempty" doc:"m²/s of each, as planned"`
	Throws  measure.MassRate     `json:"throws,omitempty" doc:"kg/s of each who broadcasts, as planned"`
	Profile int                  `json:"profile,omitempty" doc:"Concrete surface profile found; 0 where nobody says"`
	Ratios  map[What][]float64   `json:"ratios"`
}

// OfRecord returns what the record of a job shows.
func OfRecord(issues []record.Issue, events []record.Event, now time.Time, units measure.System) []Case {
	stands := current.Plan(issues, events)
	day := record.NewTeller().Tell(&stands, events, now, units)
	return Cases(&stands, &day)
}

// Cases returns what the coats of a job show that were begun.
func Cases(i *record.Issue, day *record.Day) []Case {
	var all []Case
	for c := range day.Coats {
		of := &day.Coats[c]
		plan := i.Coat(of.ID)
		if plan == nil || of.Begun == nil {
			continue
		}
		one := Case{Job: i.Job, Product: plan.Product.ID, Name: plan.Name, Method: school.Laying(plan.Method), Crew: i.To,
			Begun: *of.Begun,
			Slab:  plan.Slab, Pace: cmp.Or(plan.Pace, i.Pace), Throws: plan.Throws, Ratios: make(map[What][]float64)}
		for _, s := range i.Surfaces {
			if s.ID == plan.Surface {
				one.Surface, one.Profile = s.Kind, s.Profile
			}
		}
		add := func(what What, ratio float64) {
			if (ratio >= 0 || what == Loss) && !math.IsInf(ratio, 0) && !math.IsNaN(ratio) {
				one.Ratios[what] = append(one.Ratios[what], ratio)
			}
		}
		weighed := true
		planned, poured := measure.Mass(0), 0
		for b := range of.Batches {
			batch := &of.Batches[b]
			times(plan, b, batch, add)
			spread(plan, b, batch, add)
			if batch.Began != nil {
				poured++
				planned += plan.Batches[b].Card.Mass
				weighed = weighed && len(batch.Masses) > 0
			}
		}
		if used := of.Used; poured > 0 {
			if weighed && planned > 0 {
				add(Consumed, float64(used.Mass/planned))
			}
			if all := used.Mass + used.Lost; all > 0 {
				add(Lost, float64(used.Lost/all))
			}
		}
		for _, f := range day.Facts {
			if f.Key == fact.JoinedLate && f.Coat == of.ID && !faulty(day, plan.Surface, i) {
				add(Joined, 1+f.By)
			}
		}
		if len(one.Ratios) > 0 {
			all = append(all, one)
		}
	}
	return all
}

// times adds how long a batch took against the plan, and when pails of it went hot.
func times(plan *record.Coat, n int, batch *record.BatchDay, add func(What, float64)) {
	for _, hot := range batch.Hot {
		add(Lived, hot)
	}
	if took, known := record.Times(&plan.Batches[n], batch); known {
		add(Pace, took)
	}
	if hands := plan.Batches[n].Card.Stirred().Hands(); batch.Meets != nil && batch.Mixed != nil && hands > 0 {
		if took := batch.Mixed.Sub(*batch.Meets).Seconds() / float64(hands); took > tooQuick && took < tooSlow {
			add(Mixing, took)
		}
	}
	for _, thrown := range batch.Thrown {
		if plan.Throws > 0 {
			add(Casting, float64(thrown.Took)*float64(plan.Throws)/float64(thrown.Mass))
		}
	}
}

// spread adds what a batch that was weighed covered, and what of it is not in the film as gauges showed it.
func spread(plan *record.Coat, n int, batch *record.BatchDay, add func(What, float64)) {
	card := &plan.Batches[n].Card
	mass := measure.Mass(0)
	for _, part := range batch.Masses {
		mass += part
	}
	if batch.Began == nil || !(mass > 0) || !(card.Mass > 0) || !(card.Area > 0) {
		return
	}
	poured := card.Volume * measure.Volume(mass/card.Mass)
	add(Covered, float64(card.Area)/float64(poured))
	films := make([]float64, len(batch.Films))
	for f := range batch.Films {
		films[f] = float64(batch.Films[f].Film)
	}
	if len(films) >= enough && plan.Extra != nil && *plan.Extra < 1 {
		film := measure.Film(median(films)).Over(card.Area)
		add(Loss, 1-float64(film)/float64(poured)/(1-float64(*plan.Extra)))
	}
}

// faulty reports whether anything is wrong with a surface.
func faulty(day *record.Day, surface string, i *record.Issue) bool {
	return slices.ContainsFunc(day.Faults, func(f record.Trouble) bool {
		c := i.Coat(f.Coat)
		return c != nil && c.Surface == surface
	})
}

// A mixing time below or above these shares of the plan was touched late.
const (
	tooQuick = 0.1
	tooSlow  = 10
)

// enough is from how many jobs on an estimate is offered, and from how many films on a section is judged: fewer
// are an accident.
const enough = 3

// Estimate holds what floors show of one thing: robust, so that a touch that was forgotten for an
// hour moves it no more than any other.
type Estimate struct {
	What    What    `json:"what"`
	Jobs    int     `json:"jobs"`
	Cases   int     `json:"cases" doc:"Sections, pails or coats"`
	Value   float64 `json:"value" doc:"The median over jobs of the median of each"`
	Spread  float64 `json:"spread,omitempty" doc:"1.4826 times the median deviation of jobs from it, the standard deviation of normal ones; left out under three jobs"`
	Low     float64 `json:"low" doc:"The least of a job"`
	High    float64 `json:"high" doc:"The greatest of a job"`
	Recent  float64 `json:"recent,omitempty" doc:"The median of the three newest jobs, where there are six or more"`
	Offered bool    `json:"offered,omitempty" doc:"From three jobs on"`
}

// Learnt holds what own floors show of a product, laid in one way on one sort of surface by a crew.
type Learnt struct {
	Product   string               `json:"product" doc:"Id of the product"`
	Name      string               `json:"name"`
	Method    school.Laying        `json:"method,omitempty" doc:"How it is laid"`
	Surface   material.SurfaceKind `json:"surface,omitempty" doc:"What it is laid on; a floor or a pool when left out"`
	Crew      string               `json:"crew,omitempty" doc:"All crews when left out"`
	Jobs      int                  `json:"jobs"`
	Last      time.Time            `json:"last" doc:"When a coat of it was last begun"`
	Pace      measure.Pace         `json:"pace,omitempty" doc:"m²/s of each, by which it would have been planned right"`
	Estimates []Estimate           `json:"estimates"`
	Throws    measure.MassRate     `json:"throws,omitempty" doc:"kg/s of each who broadcasts, by which it would have been planned right"`
	ByHeat    []Band               `json:"byHeat,omitempty" doc:"Pace and pot life by the temperature of the slab, where that is more than one"`
	ByProfile []Profiled           `json:"byProfile,omitempty" doc:"What was covered by the profile of the concrete, where one is known"`
}

// Profiled holds what floors show on a profile of the concrete.
type Profiled struct {
	Profile  int      `json:"profile" doc:"ICRI 310.2R"`
	Estimate Estimate `json:"estimate"`
}

// Band is a range of slab temperatures.
type Band struct {
	From     measure.Temperature `json:"from" doc:"°C"`
	Until    measure.Temperature `json:"until" doc:"°C"`
	Estimate Estimate            `json:"estimate"`
}

// wide is the width of a band, K.
const wide measure.Temperature = 5

type key struct {
	product, crew string
	method        school.Laying
	surface       material.SurfaceKind
}

// Learn gathers cases by product, method, surface and crew, and over all crews where there are more
// than one; the most jobs first.
func Learn(cases []Case) []Learnt {
	groups := make(map[key][]*Case)
	for n := range cases {
		c := &cases[n]
		for _, crew := range []string{c.Crew, ""} {
			k := key{c.Product, crew, c.Method, c.Surface}
			groups[k] = append(groups[k], c)
		}
	}
	out := []Learnt{}
	for k, of := range groups {
		if k.crew == "" && !slices.ContainsFunc(of, func(c *Case) bool { return c.Crew != of[0].Crew }) {
			continue // they are one crew's
		}
		l := Learnt{Product: k.product, Name: of[0].Name, Method: k.method, Surface: k.surface, Crew: k.crew,
			Jobs:      jobsOf(of),
			Estimates: []Estimate{}}
		for _, what := range What("").Values() {
			if e, any := estimate(of, what); any {
				l.Estimates = append(l.Estimates, e)
			}
		}
		paces, throws := []float64{}, []float64{}
		for _, c := range of {
			if c.Begun.After(l.Last) {
				l.Last, l.Name = c.Begun, c.Name
			}
			if took := c.Ratios[Pace]; len(took) > 0 && c.Pace > 0 {
				paces = append(paces, float64(c.Pace)/median(took))
			}
			if took := c.Ratios[Casting]; len(took) > 0 {
				throws = append(throws, float64(c.Throws)/median(took))
			}
		}
		if len(throws) > 0 {
			l.Throws = measure.MassRate(median(throws))
		}
		if len(paces) > 0 {
			l.Pace = measure.Pace(median(paces))
		}
		l.ByHeat = append(bands(of, Pace), bands(of, Lived)...)
		l.ByProfile = profiles(of)
		out = append(out, l)
	}
	slices.SortFunc(out, func(a, b Learnt) int {
		return cmp.Or(cmp.Compare(b.Jobs, a.Jobs), cmp.Compare(a.Name, b.Name), cmp.Compare(a.Method, b.Method),
			cmp.Compare(a.Surface, b.Surface), cmp.Compare(a.Crew, b.Crew))
	})
	return out
}

func jobsOf(cases []*Case) int {
	jobs := make(map[string]bool)
	for _, c := range cases {
		jobs[c.Job] = true
	}
	return len(jobs)
}

// profiles returns what was covered by profile, the smoothest first.
func profiles(cases []*Case) []Profiled {
	by := make(map[int][]*Case)
	for _, c := range cases {
		if c.Profile > 0 {
			by[c.Profile] = append(by[c.Profile], c)
		}
	}
	var all []Profiled
	for profile, of := range by {
		if e, any := estimate(of, Covered); any {
			all = append(all, Profiled{profile, e})
		}
	}
	slices.SortFunc(all, func(a, b Profiled) int { return cmp.Compare(a.Profile, b.Profile) })
	return all
}

// bands returns one thing by slab temperature; nothing where all was laid in one band.
func bands(cases []*Case, what What) []Band {
	by := make(map[int][]*Case)
	for _, c := range cases {
		at := int(math.Floor(float64(c.Slab / wide)))
		by[at] = append(by[at], c)
	}
	var all []Band
	for at, of := range by {
		if e, any := estimate(of, what); any {
			from := measure.Temperature(at) * wide
			all = append(all, Band{from, from + wide, e})
		}
	}
	if len(all) < 2 {
		return nil
	}
	slices.SortFunc(all, func(a, b Band) int { return cmp.Compare(a.From, b.From) })
	return all
}

// estimate returns what cases show of one thing; false where they show nothing of it.
func estimate(cases []*Case, what What) (Estimate, bool) {
	e := Estimate{What: what}
	of := make(map[string][]float64)
	last := make(map[string]time.Time)
	for _, c := range cases {
		of[c.Job] = append(of[c.Job], c.Ratios[what]...)
		e.Cases += len(c.Ratios[what])
		if len(c.Ratios[what]) > 0 && c.Begun.After(last[c.Job]) {
			last[c.Job] = c.Begun
		}
	}
	var jobs []float64
	for _, job := range slices.SortedFunc(maps.Keys(last), func(a, b string) int {
		return cmp.Or(last[b].Compare(last[a]), cmp.Compare(a, b))
	}) {
		jobs = append(jobs, median(of[job]))
	}
	if len(jobs) == 0 {
		return e, false
	}
	e.Jobs, e.Value, e.Low, e.High = len(jobs), median(jobs), slices.Min(jobs), slices.Max(jobs)
	if e.Jobs >= 2*enough {
		e.Recent = median(jobs[:enough])
	}
	if e.Jobs >= enough {
		e.Offered = true
		off := make([]float64, len(jobs))
		for n, j := range jobs {
			off[n] = math.Abs(j - e.Value)
		}
		const normal = 1.4826 // 1 / Φ⁻¹(3/4)
		e.Spread = normal * median(off)
	}
	return e, true
}

// median returns the middle of values, the mean of both where there are two. There must be some.
func median(of []float64) float64 {
	sorted := slices.Sorted(slices.Values(of))
	n := len(sorted)
	return (sorted[(n-1)/2] + sorted[n/2]) / 2
}
