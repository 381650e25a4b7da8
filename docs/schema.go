// Package docs carries the published description of the plan file into the
// program that checks files against it.
package docs

import _ "embed"

// PlanFileSchema is the JSON Schema (2020-12) of the plan file, made from the
// types of core/plan by exchange.Schema.
//
//go:embed plan-file.schema.json
var PlanFileSchema []byte
