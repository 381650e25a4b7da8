// Package docs carries the published descriptions of the file formats into the
// program that checks files against them.
package docs

import _ "embed"

// PlanFileSchema is the JSON Schema (2020-12) of the plan file, made from the
// types of core/plan by exchange.PlanSchema.
//
//go:embed plan-file.schema.json
var PlanFileSchema []byte

// ShelfFileSchema is the JSON Schema (2020-12) of the shelf file, made from
// exchange.ShelfFile by exchange.ShelfSchema.
//
//go:embed shelf-file.schema.json
var ShelfFileSchema []byte
