// Package exchange reads and writes open formats.
package exchange

import (
	"encoding/json"
	"fmt"
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/plan"
)

// Schema makes the JSON Schema (2020-12) of the plan file from the types it is
// read into, so that the two cannot drift apart.
func Schema() ([]byte, error) {
	huma.DefaultArrayNullable = false
	registry := huma.NewMapRegistry("#/$defs/", huma.DefaultSchemaNamer)
	root := registry.Schema(reflect.TypeFor[plan.File](), true, "File")
	text, err := json.MarshalIndent(map[string]any{
		"$schema":     "https://json-schema.org/draft/2020-12/schema",
		"title":       "Nephelon plan file",
		"description": "A coating job and the data sheets it was planned with. Numbers are in SI units.",
		"$ref":        root.Ref,
		"$defs":       registry.Map(),
	}, "", "  ")
	if err != nil {
		return nil, fmt.Errorf("write the schema of the plan file: %w", err)
	}
	return append(text, '\n'), nil
}
