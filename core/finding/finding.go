// Package finding holds what the plan has to say about what was entered:
// sentences with a number, a reason and a way out.
package finding

import "nephelon/core/material"

// Level says how much a finding weighs.
type Level string

// The levels, heaviest first.
const (
	Refused Level = "refused" // cannot be computed as entered
	Warning Level = "warning" // computed, but would go wrong on the floor
	Note    Level = "note"    // worth knowing
)

// Step names the part of the work a finding belongs to.
type Step string

// The steps of the work, in their order.
const (
	Measure Step = "measure"
	Survey  Step = "survey"
	BuildUp Step = "build-up"
	Kits    Step = "kits"
	Batches Step = "batches"
	Pour    Step = "pour"
)

// Finding is one sentence about one place of the job.
type Finding struct {
	Level  Level  `json:"level"`
	Step   Step   `json:"step"`
	Path   string `json:"path" doc:"The field it is about, as a JSON Pointer into the plan file"`
	Text   string `json:"text" doc:"What is so, with the numbers"`
	WayOut string `json:"wayOut,omitempty" doc:"What would mend it"`
	Fix    *Fix   `json:"fix,omitempty" doc:"The same as one change of the plan file"`
	Others []Fix  `json:"others,omitempty" doc:"Other ways out, each one change of the plan file"`
	Seek   *Seek  `json:"-"` // a way out that wants a product or a medium from the shelf
}

// Seek is a way out that needs a product or a medium which may not be in the
// file yet.
type Seek struct {
	Kinds      []material.Kind // worth looking among
	Fits       func(material.Product) bool
	Fix        func(material.Product) *Fix
	FitsMedium func(material.Medium) bool
	FixMedium  func(material.Medium) *Fix
}

// Fix is a way out that can be taken with one action.
type Fix struct {
	Label string      `json:"label"`
	Patch []PatchStep `json:"patch" doc:"JSON Patch (RFC 6902) on the plan file"`
}

// PatchStep is one operation of a JSON Patch.
type PatchStep struct {
	Op    string `json:"op" enum:"add,replace,remove"`
	Path  string `json:"path" doc:"JSON Pointer into the plan file"`
	Value any    `json:"value,omitempty"`
}

// Error makes a refused finding usable as an error.
func (f Finding) Error() string {
	text := f.Path + ": " + f.Text
	if f.WayOut != "" {
		text += " " + f.WayOut
	}
	return text
}

// Values returns all values, in the order in which they are shown.
func (Level) Values() []Level {
	return []Level{Refused, Warning, Note}
}

// Values returns all values, in the order in which they are shown.
func (Step) Values() []Step {
	return []Step{Measure, Survey, BuildUp, Kits, Batches, Pour}
}
