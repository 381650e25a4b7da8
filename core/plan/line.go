package plan

import (
	"time"

	"nephelon/core/facts"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/work"
)

// Figures are the whole job in one row of figures, from its area to the day on which
// it is ready.
type Figures struct {
	Area    measure.Area   `json:"area" doc:"Coated, m²"`
	Coats   int            `json:"coats"`
	Film    measure.Film   `json:"film" doc:"Dry film of the thickest build-up, m"`
	Volume  measure.Volume `json:"volume" doc:"Volume to mix, m³"`
	Mass    measure.Mass   `json:"mass" doc:"Mass to mix, kg"`
	Kits    int            `json:"kits" doc:"Kits to buy"`
	Cost    *float64       `json:"cost,omitempty" doc:"Cost, in the job's currency; absent where a size has no price"`
	Others  float64        `json:"others" doc:"Cost of media, preparation materials, tools and consumables that have a price, in the job's currency"`
	Lacking int            `json:"lacking" doc:"How many of these have no price"`
	Labour  *float64       `json:"labour,omitempty" doc:"Cost of all hours; absent while a person-hour has no price"`
	Batches int            `json:"batches"`
	Effort  measure.Span   `json:"effort" doc:"Effort of all tasks, person-seconds"`
	People  int            `json:"people"`
	Ready   *time.Time     `json:"ready,omitempty" doc:"When the last film takes light foot traffic; absent while no start is planned, or a sheet does not say"`
	Basis   facts.Basis    `json:"basis,omitempty" doc:"What that rests on: booked where every coat is"`
	Next    *NextWork      `json:"next,omitempty" doc:"What is booked next; absent where nothing is"`
}

// NextWork holds the work that is booked next.
type NextWork struct {
	At   time.Time `json:"at"`
	Name string    `json:"name" doc:"Name of the task"`
	Crew string    `json:"crew,omitempty"`
}

// next returns what is booked next of tasks.
func next(in *input.Inputs, tasks []work.Task) *NextWork {
	var first *NextWork
	for _, t := range tasks {
		b, is := in.Booked(t.ID)
		if b.Comes != nil {
			b.From = b.Comes.In(b.From.Location())
		}
		if is && !b.Until.Before(in.Now) && (first == nil || b.From.Before(first.At)) {
			first = &NextWork{b.From, t.Name, b.Crew}
		}
	}
	return first
}

// line sums a plan up.
func line(in *input.Inputs, p Plan) Figures {
	out := Figures{Area: p.Area, Cost: p.Cost, People: in.File.Job.Crew.People(), Next: next(in, p.Tasks)}
	basis := facts.Logged
	for _, b := range p.Purchases {
		for _, l := range b.Lines {
			out.Kits += l.Count
		}
	}
	ready, known := time.Time{}, in.Start != nil
	for _, s := range p.Surfaces {
		film := measure.Film(0)
		for _, c := range s.Coats {
			out.Coats++
			if c.Build != nil {
				film += c.Build.Dry
				out.Volume += c.Build.Need
				out.Mass += c.Build.NeedMass
			}
			switch {
			case c.Times == nil || c.Times.Basis == facts.Proposed:
				basis = facts.Proposed
			case c.Times.Basis == facts.Booked && basis == facts.Logged:
				basis = facts.Booked
			}
			if c.Division != nil {
				out.Batches += len(c.Division.Batches)
			}
		}
		out.Film = max(out.Film, film)
		known = known && len(s.Coats) > 0
		if !known {
			continue
		}
		last := s.Coats[len(s.Coats)-1].Times
		if last == nil {
			known = false
			continue
		}
		foot := last.Stage(material.StageFoot).At
		switch {
		case foot == nil:
			known = false
		case foot.After(ready):
			ready = *foot
		}
	}
	if known && !ready.IsZero() {
		out.Ready, out.Basis = &ready, basis
	}
	for _, task := range p.Tasks {
		out.Effort += task.Effort
	}
	out.Others, out.Lacking = materialsCost(p)
	if hour := in.File.Job.HourCost; hour != nil {
		labour := *hour * float64(out.Effort) / measure.Hour
		out.Labour = &labour
	}
	return out
}
