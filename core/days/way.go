package days

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"
	"time"

	"nephelon/core/job"
	"nephelon/core/roster"
)

// Try is a change of the company that is tried without being kept.
type Try struct {
	Saturdays string `json:"saturdays,omitempty" maxLength:"60" doc:"The id of a crew that works Saturdays from 7 to 13 as overtime"`
	Twin      string `json:"twin,omitempty" maxLength:"60" doc:"The id of a crew of which there is another like it"`
}

// saturdays are when a crew works on Saturdays, where it is asked to.
func saturdays() *job.Hours {
	return &job.Hours{Days: []job.Weekday{job.Saturday}, From: "07:00", Until: "13:00"}
}

// twinID is the id of a crew that is tried beside another.
func twinID(id string) string { return fmt.Sprintf("%.50s-too", id) }

// House is the company with the change.
func (t Try) House(h job.House) job.House {
	h.Crews = slices.Clone(Crews(h))
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

// tries are the changes that could help: Saturdays of each crew that does not work them, and
// another crew like each.
func tries(h job.House) []Try {
	var all []Try
	crews := Crews(h)
	for _, c := range crews {
		if c.Overtime == nil && !slices.Contains(hoursOf(h, c).Days, job.Saturday) {
			all = append(all, Try{Saturdays: c.ID})
		}
	}
	for _, c := range crews {
		all = append(all, Try{Twin: c.ID})
	}
	return all
}

// WayOut is a change with what it would do.
type WayOut struct {
	Try      Try     `json:"try"`
	Text     string  `json:"text" doc:"What it is, and what it does"`
	Late     float64 `json:"late" doc:"Hours that jobs are late then, together"`
	Bought   int     `json:"bought" doc:"Windows that are missed then"`
	Overtime float64 `json:"overtime" doc:"Hours of overtime of crews"`
	Cost     float64 `json:"cost,omitempty" doc:"Of that overtime and of another crew's hours, in the company's currency; absent while no hour has a price"`
}

// Tried is how a company's plan comes out: nil where nothing fits.
type Tried func(h job.House) (*Calendar, *roster.Plan, error)

// price is what hours of people cost, paid more as overtime.
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

// usualPremium is what an hour of overtime costs more: common practice, no source; contracts
// and local law rule.
const usualPremium = 0.5

// Ways tries what could make a plan less late, keep more windows, or fit at all, and tells
// of each that does, the best first. Now is the plan without them; nil where nothing fits.
func Ways(ctx context.Context, h job.House, now *roster.Plan, try Tried) ([]WayOut, error) {
	worst := roster.Cost{math.MaxInt64, math.MaxInt64}
	before := worst
	if now != nil {
		before = now.Cost
	}
	ways := []WayOut{}
	costs := map[Try]roster.Cost{}
	for _, t := range tries(h) {
		if ctx.Err() != nil {
			break
		}
		c, p, err := try(t.House(h))
		var conflict *roster.Conflict
		if errors.As(err, &conflict) || err == nil && p == nil {
			continue
		}
		if err != nil {
			return nil, fmt.Errorf("try a way out: %w", err)
		}
		if p.Cost[roster.Late] > before[roster.Late] || p.Cost[roster.Late] == before[roster.Late] && p.Cost[roster.Bought] >= before[roster.Bought] {
			continue
		}
		ways, costs[t] = append(ways, c.way(h, t, p)), p.Cost
	}
	slices.SortStableFunc(ways, func(a, b WayOut) int {
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

// way tells what a change does.
func (c *Calendar) way(h job.House, t Try, p *roster.Plan) WayOut {
	w := WayOut{Try: t, Late: float64(p.Cost[roster.Late]) * slot.Hours(), Bought: int(p.Cost[roster.Bought]), Overtime: float64(p.Cost[roster.Overtime]) * slot.Hours()}
	people, worked := make(map[string]int), time.Duration(0)
	name := ""
	for _, crew := range Crews(h) {
		people[crew.ID] = crew.People
		if crew.ID == t.Saturdays || crew.ID == t.Twin {
			name = crew.Name
		}
	}
	for _, b := range p.Bookings {
		w.Cost += price(h, float64(b.Overtime)*slot.Hours()*float64(people[b.Crew]), true)
		if t.Twin != "" && b.Crew == twinID(t.Twin) {
			worked += time.Duration(b.End-b.Start) * slot
		}
	}
	if t.Twin != "" {
		w.Cost += price(h, worked.Hours()*float64(people[t.Twin]), false)
		w.Text = fmt.Sprintf("Another crew like %s", name)
	} else {
		w.Text = fmt.Sprintf("%s works Saturdays from 7 to 13", name)
	}
	return w
}
