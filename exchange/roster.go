package exchange

import (
	"io"
	"reflect"

	"nephelon/core/roster"
)

// RosterSchema makes the JSON Schema (2020-12) of what `nephelon roster` reads.
func RosterSchema() ([]byte, error) {
	return schema(reflect.TypeFor[roster.Problem](), "Nephelon roster problem",
		"Crews, machines and jobs whose tasks are to be scheduled. Times are whole slots from the beginning.")
}

// ReadRoster reads a problem. Unknown fields, wrong types and values outside what their
// field allows are refused, all at once, as joined Refusals.
func (r *Reader) ReadRoster(from io.Reader) (roster.Problem, error) {
	var p roster.Problem
	text, document, err := parsed(from, "roster problem")
	if err != nil {
		return p, err
	}
	if err := validated(r.roster, document); err != nil {
		return p, err
	}
	return p, decoded(text, document, &p)
}
