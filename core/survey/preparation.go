package survey

import (
	"nephelon/core/measure"
	"nephelon/core/school"
)

// Supply is a material or tool that a task takes.
type Supply struct {
	Name  string       `json:"name"`
	Kind  measure.Kind `json:"kind" enum:"length,area,volume,mass,count"`
	Value float64      `json:"value"`
}

// PreparationTask is one piece of preparation.
type PreparationTask struct {
	ID       string       `json:"id"`
	Name     string       `json:"name"`
	How      string       `json:"how" doc:"Machine, grit, passes"`
	Items    []Supply     `json:"items"`
	Work     measure.Span `json:"work" doc:"Person-seconds"`
	People   int          `json:"people,omitempty" doc:"People at it, where a person said so; else the whole crew"`
	Drying   measure.Span `json:"drying" doc:"s before the next task"`
	Wet      bool         `json:"wet,omitempty" doc:"It brings water onto the surface"`
	Passes   int          `json:"passes,omitempty" doc:"How often it is done, where a person said so"`
	Step     string       `json:"step,omitempty" doc:"Id of the own step that it is"`
	Like     string       `json:"like,omitempty" doc:"Step whose machines and skills an own one takes"`
	Check    string       `json:"check" doc:"What closes it"`
	Cautions []string     `json:"cautions"`
}

// Preparation holds what is to be done to a surface before its coats, in order.
type Preparation struct {
	Tasks   []PreparationTask `json:"tasks"`
	Work    measure.Span      `json:"work" doc:"Person-seconds"`
	Drying  measure.Span      `json:"drying"`
	Days    float64           `json:"days" doc:"Working days of 8 h with this crew, nights for drying"`
	Refused string            `json:"refused,omitempty" doc:"A school or a change that this surface does not allow, and what stands in"`
	Left    []StepLeft        `json:"left,omitempty" doc:"Steps that a person leaves out"`
	Others  []Other           `json:"others" doc:"The same with another school"`
}

// Names of preparation materials that a list of tools holds as well.
const (
	Tape      = "Masking tape"
	Caulk     = "Caulk, cartridges of 12 m"
	DoorStrip = "Release strip"
	Discs     = "Diamond cups"
	Pads      = "Discs or pads"
)

// Other is a preparation by another school, to compare.
type Other struct {
	School school.Key    `json:"school"`
	Title  string        `json:"title"`
	Choice school.Choice `json:"choice"`
	Work   measure.Span  `json:"work"`
	Drying measure.Span  `json:"drying"`
	Days   float64       `json:"days"`
	Items  []Supply      `json:"items"`
}
