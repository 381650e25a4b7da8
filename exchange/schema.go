// Package exchange reads and writes open formats.
package exchange

import (
	"encoding/json"
	"fmt"
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/job"
	"nephelon/core/plan"
)

// PlanSchema makes the JSON Schema (2020-12) of the plan file from the types it
// is read into, so that the two cannot drift apart.
func PlanSchema() ([]byte, error) {
	return schema(reflect.TypeFor[job.File](), "Nephelon plan file", "A coating job and the data sheets it was planned with. Numbers are in SI units.")
}

// DerivedSchema makes the JSON Schema (2020-12) of a plan as `nephelon plan`
// prints it, tasks included.
func DerivedSchema() ([]byte, error) {
	return schema(reflect.TypeFor[plan.Plan](), "Nephelon plan", "What follows from a plan file: areas, films, kits, batches, sections, times and tasks. Numbers are in SI units.")
}

// ShelfSchema makes the JSON Schema (2020-12) of the shelf file.
func ShelfSchema() ([]byte, error) {
	return schema(reflect.TypeFor[ShelfFile](), "Nephelon shelf file", "Data sheets of coating products and media. Numbers are in SI units.")
}

func schema(of reflect.Type, title, description string) ([]byte, error) {
	huma.DefaultArrayNullable = false
	registry := huma.NewMapRegistry("#/$defs/", huma.DefaultSchemaNamer)
	root := registry.Schema(of, true, of.Name())
	text, err := json.MarshalIndent(map[string]any{
		"$schema":     "https://json-schema.org/draft/2020-12/schema",
		"title":       title,
		"description": description,
		"$ref":        root.Ref,
		"$defs":       registry.Map(),
	}, "", "  ")
	if err != nil {
		return nil, fmt.Errorf("write the schema of the %s: %w", title, err)
	}
	return append(text, '\n'), nil
}
