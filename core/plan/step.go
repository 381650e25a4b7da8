package plan

import "nephelon/core/finding"

// State says how far a step of the work is.
type State string

// The states of a step.
const (
	ToDo     State = "todo"
	Warnings State = "warnings"
	Done     State = "done"
)

// StepState is one step of the work with its state.
type StepState struct {
	Step     finding.Step `json:"step"`
	State    State        `json:"state"`
	Findings int          `json:"findings" doc:"Warnings and refusals"`
}

// steps judges each step by what there is and by what was found.
func steps(p Plan) []StepState {
	measured, surveyed, built, divided := 0, 0, 0, 0
	coats := 0
	for _, s := range p.Surfaces {
		if s.Takeoff != nil {
			measured++
		}
		if s.Survey != nil {
			surveyed++
		}
		for _, c := range s.Coats {
			coats++
			if c.Build != nil {
				built++
			}
			if c.Division != nil {
				divided++
			}
		}
	}
	whole := func(done, of int) State {
		if of > 0 && done == of {
			return Done
		}
		return ToDo
	}
	all := []StepState{
		{Step: finding.Measure, State: whole(measured, len(p.Surfaces))},
		{Step: finding.Survey, State: whole(surveyed, len(p.Surfaces))},
		{Step: finding.BuildUp, State: whole(built, max(coats, len(p.Surfaces)))},
		{Step: finding.Kits, State: whole(len(p.Purchases), len(p.Purchases))},
		{Step: finding.Batches, State: whole(divided, coats)},
		{Step: finding.Pour, State: whole(divided, coats)},
	}
	for i := range all {
		for _, f := range p.Findings {
			if f.Step == all[i].Step && f.Level != finding.Note {
				all[i].Findings++
				all[i].State = Warnings
			}
		}
	}
	return all
}

// Values returns all values, in the order in which they are shown.
func (State) Values() []State {
	return []State{ToDo, Warnings, Done}
}
