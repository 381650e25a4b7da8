package exchange

import (
	"io"
	"reflect"

	"nephelon/core/facts"
)

// FactsSchema makes the JSON Schema (2020-12) of what is known of the world beside a plan file.
func FactsSchema() ([]byte, error) {
	return schema(reflect.TypeFor[facts.Facts](), "Nephelon facts",
		"What the world says beside a plan file: the time, and what is booked of the job.")
}

// ReadFacts reads facts. Unknown fields, wrong types and values outside what their field allows are refused, all
// at once, as joined Refusals.
func (r *Reader) ReadFacts(from io.Reader) (facts.Facts, error) {
	var f facts.Facts
	text, document, err := parsed(from, "facts file")
	if err != nil {
		return f, err
	}
	if err := validated(r.facts, document); err != nil {
		return f, err
	}
	if err := decoded(text, document, &f); err != nil {
		return f, err
	}
	if at, text := f.Fault(); text != "" {
		return f, &Refusal{Path: at, Text: text}
	}
	return f, nil
}
