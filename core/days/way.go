package days

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"
	"time"

	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/roster"
	"nephelon/core/roster/search"
)

// Try is a change of the company or of a job that is tried without being kept.
type Try struct {
	Saturdays string `json:"saturdays,omitempty" maxLength:"60" doc:"The id of a crew that works Saturdays from 7 to 13 as overtime"`
	Twin      string `json:"twin,omitempty" maxLength:"60" doc:"The id of a crew of which there is another like it"`
	Sooner    string `json:"sooner,omitempty" maxLength:"60" doc:"The id of a job that is begun before the day it was to be"`
	Job       string `json:"job,omitempty" maxLength:"60" doc:"The id of a job of which a coat takes another hardener"`
	Coat      string `json:"coat,omitempty" maxLength:"60" doc:"The id of that coat"`
	Hardener  string `json:"hardener,omitempty" maxLength:"60" doc:"The id of that hardener; empty: the product's own B"`
}

// saturdays returns when a crew works on Saturdays, where it is asked to.
func saturdays() *job.Hours {
	return &job.Hours{Days: []job.Weekday{job.Saturday}, From: "07:00", Until: "13:00"}
}

// twinID is the id of a crew that is tried beside another.
func twinID(id string) string { return fmt.Sprintf("%.50s-too", id) }

// House is the company with the change.
func (t Try) House(h job.House) job.House {
	h.Crews = slices.Clone(job.CrewsOf(h))
	for i := range h.Crews {
		c := &h.Crews[i]
		switch c.ID {
		case t.Saturdays:
			c.Overtime = saturdays()
		case t.Twin:
			twin := *c
			twin.ID, twin.Name = twinID(c.ID), fmt.Sprintf("%.45s, another one", c.Name)
			h.Crews = append(h.Crews, twin)
		}
	}
	return h
}

// Jobs are the jobs with the change; remake plans one anew.
func (t Try) Jobs(jobs []Job, remake func(string, job.File) (Job, error)) ([]Job, error) {
	all := slices.Clone(jobs)
	for i, j := range all {
		switch {
		case t.Sooner != "" && j.ID == t.Sooner:
			all[i].File.Job.Earliest, all[i].File.Job.Start = "", ""
		case t.Coat != "" && j.ID == t.Job:
			f, err := exchanged(j.File, t.Coat, t.Hardener)
			if err != nil {
				return nil, err
			}
			if all[i], err = remake(j.ID, f); err != nil {
				return nil, err
			}
		}
	}
	return all, nil
}

// exchanged is a file in which a coat takes another hardener.
func exchanged(f job.File, coat, hardener string) (job.File, error) {
	f.Job.Surfaces = slices.Clone(f.Job.Surfaces)
	for i := range f.Job.Surfaces {
		s := &f.Job.Surfaces[i]
		if at := slices.IndexFunc(s.Coats, func(c buildup.Coat) bool { return c.ID == coat }); at >= 0 {
			s.Coats = slices.Clone(s.Coats)
			s.Coats[at].Hardener = hardener
			return f, nil
		}
	}
	return f, fmt.Errorf("%w: %s", ErrNoCoat, coat)
}

// ErrNoCoat means that a job has no such coat.
var ErrNoCoat = errors.New("no such coat")

// tries are the changes that could help: Saturdays of each crew that does not work them,
// another crew like each, and of the jobs that are late or miss a window an earlier beginning
// and the other hardeners of all their coats that are ready sooner or wait longer.
func (c *Calendar) tries(h job.House, now *roster.Plan) []Try {
	var all []Try
	crews := job.CrewsOf(h)
	for _, c := range crews {
		if c.Overtime == nil && !slices.Contains(job.HoursOf(h, c).Days, job.Saturday) {
			all = append(all, Try{Saturdays: c.ID})
		}
	}
	for _, c := range crews {
		all = append(all, Try{Twin: c.ID})
	}
	var others []Try
	for _, j := range c.Problem.Jobs {
		if !pressed(j, now) {
			continue
		}
		if j.Release > c.ceil(c.now) {
			all = append(all, Try{Sooner: j.ID})
		}
		f, slab := c.byJob[j.ID].File, c.byJob[j.ID].Plan.Slab.Slab
		for _, s := range f.Job.Surfaces {
			for n, coat := range s.Coats {
				at := slices.IndexFunc(f.Products, func(p material.Product) bool { return p.ID == coat.Product })
				if at < 0 {
					continue
				}
				for _, id := range hardeners(f.Products[at]) {
					if id != coat.Hardener && eases(f.Products[at], coat.Hardener, id, n < len(s.Coats)-1, slab) {
						others = append(others, Try{Job: j.ID, Coat: coat.ID, Hardener: id})
					}
				}
			}
		}
	}
	return append(all, others...)
}

// eases reports whether a hardener in place of another can help the days: below another coat by a film that takes it
// sooner or for longer, on top by one that people walk on sooner.
func eases(p material.Product, was, is string, below bool, slab measure.Temperature) bool {
	before, errBefore := p.With(was)
	after, errAfter := p.With(is)
	if errBefore != nil || errAfter != nil {
		return false
	}
	takes := func(key material.StageKey) (old, now measure.Span) {
		old, _ = before.Reach(key, slab)
		now, _ = after.Reach(key, slab)
		return old, now
	}
	if !below {
		old, now := takes(material.StageFoot)
		return now > 0 && now < old
	}
	opened, opens := takes(material.StageRecoatFrom)
	closed, closes := takes(material.StageRecoatUntil)
	return opens > 0 && opens < opened || closed > 0 && (closes == 0 || closes > closed)
}

// hardeners are the ids of those that a product can be mixed with, its own B first.
func hardeners(p material.Product) []string {
	all := []string{""}
	for _, h := range p.Hardeners {
		all = append(all, h.ID)
	}
	return all
}

// pressed reports whether a job is late in a plan or misses a window; every one is where
// nothing fits.
func pressed(j roster.Job, p *roster.Plan) bool {
	return p == nil || slices.ContainsFunc(p.Bookings, func(b roster.Booking) bool {
		return b.Job == j.ID && (len(b.Bought) > 0 || j.Due != nil && b.End > *j.Due)
	})
}

// WayOut is a change with what it would do.
type WayOut struct {
	Try      Try      `json:"try"`
	Text     string   `json:"text" doc:"What it is, and what it does"`
	Late     float64  `json:"late" doc:"Hours that jobs are late then, together"`
	Bought   int      `json:"bought" doc:"Windows that are missed then"`
	Overtime float64  `json:"overtime" doc:"Hours of overtime of crews"`
	Cost     float64  `json:"cost,omitempty" doc:"Cost of that overtime, of another crew's hours, or of other kits, in the company's currency; absent while that has no price"`
	Warns    []string `json:"warns,omitempty" doc:"What the job is warned of then and was not before"`
}

// Tried holds how a company's plan comes out with a change: nil where nothing fits.
type Tried func(t Try) (*Calendar, *roster.Plan, error)

// price returns what hours of people cost, paid more as overtime.
func price(h job.House, hours float64, overtime bool) float64 {
	if h.HourCost == nil {
		return 0
	}
	more := 1.0
	if overtime {
		more += usualPremium
		if h.OvertimeMore != nil {
			more = 1 + float64(*h.OvertimeMore)
		}
	}
	return *h.HourCost * hours * more
}

// usualPremium is the share by which an hour of overtime costs more: common practice, no source; contracts
// and local law rule.
const usualPremium = 0.5

// Ways tries what could make a plan less late, keep more windows, or fit at all, and tells
// of each that does, the best first, and last those that bring a warning. Now is the plan without
// them; nil where nothing fits.
func (c *Calendar) Ways(ctx context.Context, h job.House, now *roster.Plan, try Tried) ([]WayOut, error) {
	worst := roster.Cost{math.MaxInt64, math.MaxInt64}
	before := worst
	if now != nil {
		before = now.Cost
	}
	ways := []WayOut{}
	costs := map[Try]roster.Cost{}
	for _, t := range c.tries(h, now) {
		if ctx.Err() != nil {
			break
		}
		then, p, err := try(t)
		var conflict *search.Conflict
		if errors.As(err, &conflict) || err == nil && p == nil {
			continue
		}
		if err != nil {
			return nil, fmt.Errorf("try a way out: %w", err)
		}
		if len(then.Problem.Jobs) < len(c.Problem.Jobs) { // a job that can no longer be planned is no way out
			continue
		}
		if p.Cost[roster.Late] > before[roster.Late] || p.Cost[roster.Late] == before[roster.Late] &&
			p.Cost[roster.Bought] >= before[roster.Bought] {
			continue
		}
		ways, costs[t] = append(ways, c.way(then, t.House(h), t, p)), p.Cost
	}
	slices.SortStableFunc(ways, func(a, b WayOut) int {
		if by := min(1, len(a.Warns)) - min(1, len(b.Warns)); by != 0 {
			return by
		}
		switch {
		case costs[a.Try].Less(costs[b.Try]):
			return -1
		case costs[b.Try].Less(costs[a.Try]):
			return 1
		}
		return 0
	})
	return ways, nil
}

// warned returns what a job is warned of and was not before.
func warned(was, is Job) []string {
	before := make(map[string]bool)
	for _, f := range was.Plan.Findings {
		before[f.Text] = true
	}
	var all []string
	for _, f := range is.Plan.Findings {
		if f.Level != finding.Note && !before[f.Text] {
			all = append(all, f.Text)
		}
	}
	return all
}

// way returns what a change does, of which a calendar and its plan came.
func (c *Calendar) way(then *Calendar, h job.House, t Try, p *roster.Plan) WayOut {
	w := WayOut{Try: t, Late: float64(p.Cost[roster.Late]) * c.slot.Hours(), Bought: int(p.Cost[roster.Bought]),
		Overtime: float64(p.Cost[roster.Overtime]) * c.slot.Hours()}
	people, worked := make(map[string]int), time.Duration(0)
	name := ""
	for _, crew := range job.CrewsOf(h) {
		people[crew.ID] = crew.People
		if crew.ID == t.Saturdays || crew.ID == t.Twin {
			name = crew.Name
		}
	}
	for _, b := range p.Bookings {
		w.Cost += price(h, float64(b.Overtime)*c.slot.Hours()*float64(people[b.Crew]), true)
		if t.Twin != "" && b.Crew == twinID(t.Twin) {
			worked += time.Duration(b.End-b.Start) * c.slot
		}
	}
	switch {
	case t.Twin != "":
		w.Cost += price(h, worked.Hours()*float64(people[t.Twin]), false)
		w.Text = fmt.Sprintf("Another crew like %s", name)
	case t.Saturdays != "":
		w.Text = fmt.Sprintf("%s works Saturdays from 7 to 13", name)
	case t.Sooner != "":
		w.Text = fmt.Sprintf("%s starts before its earliest day, if the client agrees", c.byJob[t.Sooner].File.Job.Name)
	default:
		was, is := c.byJob[t.Job], then.byJob[t.Job]
		if was.Plan.Cost != nil && is.Plan.Cost != nil {
			w.Cost += *is.Plan.Cost - *was.Plan.Cost
		}
		w.Warns = warned(was, is)
		w.Text = fmt.Sprintf("%s, %s", was.File.Job.Name, hardened(is.File, t.Coat))
	}
	return w
}

// hardened names a coat with its hardener.
func hardened(f job.File, id string) string {
	for _, s := range f.Job.Surfaces {
		for n, c := range s.Coats {
			if c.ID != id {
				continue
			}
			p := f.Products[slices.IndexFunc(f.Products, func(p material.Product) bool { return p.ID == c.Product })]
			name := "its own hardener"
			for _, h := range p.Hardeners {
				if h.ID == c.Hardener {
					name = "the hardener " + h.Name
				}
			}
			return fmt.Sprintf("coat %d of %s takes %s", n+1, s.Name, name)
		}
	}
	return ""
}
