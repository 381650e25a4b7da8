// Package draft holds what is read of a maker's data sheet: values with their lines, how they are scored, and the sheet
// of the shelf that they make.
package draft

import (
	"cmp"
	"regexp"
	"slices"
	"strings"
)

// State says how sure a value is.
type State string

// The states of a value.
const (
	Read     State = "read"
	Derived  State = "derived"  // from other values, as its reason says
	Doubtful State = "doubtful" // a person has to look at it
)

// Values lists the states of a value.
func (State) Values() []State { return []State{Read, Derived, Doubtful} }

// Value is one value of a draft.
type Value struct {
	Path       string   `json:"path" doc:"Place in the shelf's data sheet, such as recoatFrom"`
	Value      any      `json:"value" doc:"Value in the shelf's form, SI"`
	At         *float64 `json:"at,omitempty" doc:"°C it holds at"`
	Hardener   string   `json:"hardener,omitempty" doc:"Hardener it holds with, where the sheet has several"`
	As         string   `json:"as" doc:"As the sheet writes it"`
	Understood string   `json:"understood,omitempty" doc:"Value in words and in the units of the reader"`
	Line       int      `json:"line" doc:"Number of the line, from 1"`
	Text       string   `json:"text" doc:"The line"`
	State      State    `json:"state"`
	Why        string   `json:"why,omitempty" doc:"Why it is doubtful, or what it was derived from"`
}

// Draft holds what was read from a sheet.
type Draft struct {
	Format  string         `json:"format"`
	Version int            `json:"version"`
	Values  []Value        `json:"values" doc:"Values in the order of the sheet"`
	Missing []string       `json:"missing" doc:"Fields of which the sheet says nothing"`
	Product map[string]any `json:"product" doc:"The values in the shape of the shelf; what is not stated is left out"`
}

// Conflict holds what values of a sheet deny between them, with the line of each.
type Conflict struct {
	Text  string  `json:"text"`
	Lines []Quote `json:"lines"`
}

// Quote holds a line of a sheet.
type Quote struct {
	Line int    `json:"line" doc:"Number, from 1"`
	Text string `json:"text"`
}

// against holds the fields that a field of the shelf is judged against.
func against() map[string][]string {
	return map[string][]string{"density": {"density:A", "density:B", "ratio"}, "ratio": {"density:A", "density:B"},
		"components": {"ratio", "density", "density:A", "density:B"}, "massSolids": {"volumeSolids"},
		"voc": {"massSolids", "density", "carrier"}, "printed": {"filmMin", "filmMax"}, "carrier": {"volumeSolids"},
		"volumeSolids": {"chemistry"}, "thinnerMax": {"carrier"}, "filmMax": {"filmMin"}, "airMax": {"airMin"},
		"slabMax": {"slabMin"}, "materialMax": {"materialMin"}, "humidityMax": {"humidityMin"}, "recoatUntil": {"recoatFrom"},
		"recoatFrom": {"tackFree"}, "foot": {"tackFree", "recoatFrom"}, "furniture": {"foot"}, "vehicle": {"foot"},
		"full": {"foot", "vehicle"}}
}

// Lines returns the lines that a field of the shelf was read from, by its JSON Pointer, and those of the fields that it
// is judged against; nothing where the field was not read.
func (d Draft) Lines(pointer string) []Quote {
	field, _, _ := strings.Cut(strings.TrimPrefix(pointer, "/"), "/")
	paths := append([]string{field}, against()[field]...)
	lines := []Quote{}
	read := field == "components"
	for _, v := range d.Values {
		quote := Quote{v.Line, v.Text}
		if slices.Contains(paths, v.Path) && !slices.Contains(lines, quote) {
			lines = append(lines, quote)
		}
		read = read || v.Path == field
	}
	if !read {
		return nil
	}
	return lines
}

// Format and Version name the form of a draft.
const (
	Format  = "nephelon-draft"
	Version = 1
)

// shelfFile names the form of a shelf file, as package exchange reads it.
const shelfFile = "nephelon-shelf"

// Shelf returns what was read as a shelf file. What the shelf cannot do without and the sheet does not
// state is missing in it: it has to be entered before it is taken.
func (d Draft) Shelf() map[string]any {
	product := map[string]any{"id": slug(d.Product["name"]), "color": "#8fa3a0"}
	for name, value := range d.Product {
		product[name] = value
	}
	return map[string]any{"format": shelfFile, "version": 1, "products": []any{product}, "media": []any{}}
}

// slug returns a name as an id of the shelf.
func slug(name any) string {
	text, _ := name.(string)
	words := regexp.MustCompile(`[a-z0-9]+`).FindAllString(strings.ToLower(text), -1)
	const longest = 60
	id := strings.Join(words, "-")
	return cmp.Or(id[:min(len(id), longest)], "sheet")
}
