// Package plan is the whole of the trade in one call: from a job as people
// decided it to its plan. It puts together what the packages below it say:
//
//	input → stage → advice, instruct → plan; whatif runs the stages again
package plan

import (
	"context"
	"fmt"
	"slices"
	"time"

	"nephelon/core/facts"

	"nephelon/core/buildup"
	"nephelon/core/cure"
	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/plan/instruct"
	"nephelon/core/plan/stage"
	"nephelon/core/plan/whatif"
	"nephelon/core/pour"
	"nephelon/core/pour/sim"
	"nephelon/core/takeoff"
	"nephelon/core/work"
)

// Plan holds what follows from a job. It is derived, never edited.
type Plan struct {
	Overall
	Surfaces []SurfacePlan `json:"surfaces"`
	Tasks    []work.Task   `json:"tasks" doc:"Everything people do, in the order of the work"`
}

// Overall holds what of a plan spans its surfaces.
type Overall struct {
	Units     measure.System    `json:"units" doc:"The system its sentences are written in; its numbers are SI"`
	Zone      string            `json:"zone,omitempty" doc:"IANA time zone of its clock times; the offset of the start where none is named"`
	Slab      input.SlabFrom    `json:"slab" doc:"The slab it is planned for, and what that rests on"`
	Area      measure.Area      `json:"area" doc:"Area of all surfaces, m²"`
	Cost      *float64          `json:"cost,omitempty" doc:"Cost of all kits, in the job's currency; absent where a size has no price"`
	Line      Figures           `json:"line" doc:"The whole job in one row of figures"`
	Purchases []kit.Purchase    `json:"purchases"`
	Media     []MediumNeed      `json:"media" doc:"Broadcast, pigment, grit and thinner to buy"`
	Supplies  []SupplyNeed      `json:"supplies" doc:"Preparation materials to buy"`
	Tools     []kit.Tool        `json:"tools" doc:"Tools and consumables"`
	Steps     []StepState       `json:"steps"`
	Findings  []finding.Finding `json:"findings"`
}

// SurfacePlan holds what follows for one surface.
type SurfacePlan struct {
	Bare
	Coats []CoatPlan `json:"coats"`
}

// Bare holds what of a surface's plan is there before its coats.
type Bare struct {
	ID      string            `json:"id"`
	Name    string            `json:"name"`
	Takeoff *takeoff.Takeoff  `json:"takeoff,omitempty" doc:"Absent while the outline is not usable"`
	Faults  []geometry.Point  `json:"faults,omitempty" doc:"Where the outline is at fault"`
	Survey  *stage.SurveyPlan `json:"survey,omitempty" doc:"Absent while nothing was surveyed"`
	Begin   *time.Time        `json:"begin,omitempty" doc:"When preparation must begin for the first coat to start as planned, with its drying and without a break; absent while either is not known"`
	Course  *pour.Course      `json:"course,omitempty"`
	Exit    *pour.Mark        `json:"exit,omitempty" doc:"The wall on which the exit lies"`
}

// CoatPlan holds what follows for one coat.
type CoatPlan struct {
	ID       string            `json:"id"`
	Number   int               `json:"number" doc:"From 1, bottom to top"`
	Product  string            `json:"product"`
	Hardener string            `json:"hardener,omitempty"`
	Name     string            `json:"name"`
	Color    string            `json:"color"`
	Price    *float64          `json:"price,omitempty" doc:"Price of 1 m², in the job's currency, as its kits are bought"`
	Window   *buildup.Window   `json:"window,omitempty" doc:"When the next coat may go on it"`
	Times    *stage.CoatTimes  `json:"times,omitempty"`
	Build    *buildup.Build    `json:"build,omitempty" doc:"Absent while the coat or its surface is not usable"`
	Reached  measure.Film      `json:"reached,omitempty" doc:"Wet film if all that is bought is used, m"`
	Mixed    measure.Film      `json:"mixed,omitempty" doc:"Wet film if all that is mixed is spread, m"`
	Pace     measure.Pace      `json:"pace,omitempty" doc:"m²/s that one person lays it at"`
	Division *kit.Division     `json:"division,omitempty"`
	Sections []pour.Section    `json:"sections,omitempty"`
	Cuts     []pour.Cut        `json:"cuts,omitempty"`
	Cards    []kit.Card        `json:"cards,omitempty"`
	Crew     []work.Person     `json:"crew,omitempty" doc:"Who pours it"`
	Booked   string            `json:"booked,omitempty" doc:"Name of the crew that is booked for it"`
	Train    *sim.Run          `json:"train,omitempty" doc:"Pour of the coat, batch by batch; absent where nobody can pour it"`
	Staging  *instruct.Staging `json:"staging,omitempty" doc:"What making its pails ready takes"`
	Ahead    []string          `json:"ahead,omitempty" doc:"What is done the day before and in the last minutes, in order"`

	ages cure.Aging // of its batches in their pails
}

// Planner makes plans, and what would become of them. It remembers of one what the next one
// needs, too. It may be shared.
type Planner struct{ whatif.Planner }

// NewPlanner remembers nothing yet.
func NewPlanner() *Planner { return &Planner{whatif.Planner{Row: stage.NewRow()}} }

// Make is the plan of a job by a planner of its own.
func Make(f job.File, units measure.System, now time.Time) Plan {
	return NewPlanner().Make(f, units, now)
}

// Make works out the plan of a job. It computes all that can be computed; what
// cannot be is told as refused findings, each with the path of its field. The
// units are those in which its sentences speak.
func (p *Planner) Make(f job.File, units measure.System, now time.Time) Plan {
	made, _ := p.MakeFor(context.Background(), f, facts.At(now), units) // ends by itself
	return made
}

// MakeFor is the same for a caller who may be gone: then it fails with the context's
// error before the next coat is worked out.
func (p *Planner) MakeFor(ctx context.Context, f job.File, world facts.Facts, units measure.System) (Plan, error) {
	in, found := input.Read(f, world, units)
	s, err := p.Run(ctx, in)
	if err != nil {
		return Plan{}, fmt.Errorf("plan the job: %w", err)
	}
	return tell(in, found, s), nil
}

// Brief is the plan without who does what when in its pours, which are asked for one by
// one.
func (p Plan) Brief() Plan {
	p.Surfaces = slices.Clone(p.Surfaces)
	for i := range p.Surfaces {
		p.Surfaces[i].Coats = slices.Clone(p.Surfaces[i].Coats)
		for c := range p.Surfaces[i].Coats {
			if coat := &p.Surfaces[i].Coats[c]; coat.Train != nil {
				brief := *coat.Train
				brief.Passages, brief.Parts = nil, nil
				coat.Train, coat.Crew = &brief, nil
			}
		}
	}
	return p
}

// Refused returns the findings that keep a plan from being whole.
func (p Plan) Refused() []finding.Finding {
	var all []finding.Finding
	for _, f := range p.Findings {
		if f.Level == finding.Refused {
			all = append(all, f)
		}
	}
	return all
}
