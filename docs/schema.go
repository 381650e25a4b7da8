// Package docs carries the published descriptions of the file formats into the
// program that checks files against them.
package docs

import _ "embed"

// PlanFileSchema is the JSON Schema (2020-12) of the plan file, made from the
// types of core/job by exchange.PlanSchema.
//
//go:embed plan-file.schema.json
var PlanFileSchema []byte

// ShelfFileSchema is the JSON Schema (2020-12) of the shelf file, made from
// exchange.ShelfFile by exchange.ShelfSchema.
//
//go:embed shelf-file.schema.json
var ShelfFileSchema []byte

// RosterSchema is the JSON Schema (2020-12) of what `nephelon roster` reads, made
// from core/roster by exchange.RosterSchema.
//
//go:embed roster.schema.json
var RosterSchema []byte

// FactsSchema is the JSON Schema (2020-12) of what is known beside a plan file, made from core/facts by
// exchange.FactsSchema.
//
//go:embed facts.schema.json
var FactsSchema []byte

// DraftSchema is the JSON Schema (2020-12) of what `nephelon sheet` reads of a data sheet, made from core/sheet by
// exchange.DraftSchema.
//
//go:embed sheet-draft.schema.json
var DraftSchema []byte

// PlanSchema is the JSON Schema (2020-12) of what the program prints of a plan,
// made from core/plan by exchange.DerivedSchema.
//
//go:embed plan.schema.json
var PlanSchema []byte

// RecordSchema is the JSON Schema (2020-12) of the record file, made by
// exchange.RecordSchema.
//
//go:embed record.schema.json
var RecordSchema []byte
