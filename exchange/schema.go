// Package exchange reads and writes open formats.
package exchange

import (
	"encoding/json"
	"fmt"
	"reflect"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/job"
	"nephelon/core/plan"
)

// PlanSchema makes the JSON Schema (2020-12) of the plan file from the types it
// is read into, so that the two cannot drift apart.
func PlanSchema() ([]byte, error) {
	return schema(reflect.TypeFor[job.File](), "Nephelon plan file",
		"A coating job and the data sheets it was planned with. Numbers are in SI units.")
}

// DerivedSchema makes the JSON Schema (2020-12) of a plan as `nephelon plan`
// prints it, tasks included.
func DerivedSchema() ([]byte, error) {
	return schema(reflect.TypeFor[plan.Plan](), "Nephelon plan",
		"What follows from a plan file: areas, films, kits, batches, sections, times and tasks. Numbers are in SI units.")
}

// ShelfSchema makes the JSON Schema (2020-12) of the shelf file.
func ShelfSchema() ([]byte, error) {
	return schema(reflect.TypeFor[ShelfFile](), "Nephelon shelf file",
		"Data sheets of coating products and media. Numbers are in SI units.")
}

// definitions is the prefix of references within a schema.
const definitions = "#/$defs/"

func schema(of reflect.Type, title, description string) ([]byte, error) {
	huma.DefaultArrayNullable = false
	registry := huma.NewMapRegistry(definitions, huma.DefaultSchemaNamer)
	root := registry.Schema(of, true, of.Name())
	ListValues(registry, definitions)
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

// ListValues completes the schemas of a registry, which refers to them by a prefix, with the values
// of every type that lists them
// by a method Values, for each field that does not allow only some of them by a tag.
func ListValues(registry huma.Registry, prefix string) {
	for name, described := range registry.Map() {
		t := registry.TypeFromRef(prefix + name)
		if t == nil || t.Kind() != reflect.Struct {
			continue
		}
		for _, field := range reflect.VisibleFields(t) {
			as, _, _ := strings.Cut(field.Tag.Get("json"), ",")
			if property := described.Properties[as]; property != nil && !field.Anonymous {
				listValues(property, field.Type)
			}
		}
	}
}

func listValues(described *huma.Schema, t reflect.Type) {
	switch {
	case t.Kind() == reflect.Pointer:
		listValues(described, t.Elem())
		return
	case t.Kind() == reflect.Slice && described.Items != nil:
		listValues(described.Items, t.Elem())
		return
	}
	values := reflect.Zero(t).MethodByName("Values")
	if !values.IsValid() || t.Kind() != reflect.String || len(described.Enum) > 0 {
		return
	}
	list := values.Call(nil)[0]
	for i := range list.Len() {
		described.Enum = append(described.Enum, list.Index(i).String())
	}
	described.PrecomputeMessages()
}
