package main

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"os"
	"path/filepath"

	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/exchange"
	"nephelon/server"
)

// runGenerate writes what is made from the Go types: the description of the
// API, the tables of units and words, and the schemas of the files.
func runGenerate(_ context.Context, arguments []string, _ io.Reader, _, complain io.Writer) error {
	f := flags("generate", "[-api FOLDER] [-schemas FOLDER]", complain)
	api := f.String("api", "", "`folder` for openapi.gen.json, units.gen.json and words.gen.json")
	schemas := f.String("schemas", "", "`folder` for the JSON Schemas of the plan file, the shelf file and the plan")
	if err := parse(f, arguments); err != nil {
		return err
	}
	if *schemas != "" {
		for name, schema := range map[string]func() ([]byte, error){
			"plan-file.schema.json": exchange.PlanSchema, "shelf-file.schema.json": exchange.ShelfSchema,
			"sheet-draft.schema.json": exchange.DraftSchema,
			"plan.schema.json":        exchange.DerivedSchema, "facts.schema.json": exchange.FactsSchema,
			"roster.schema.json": exchange.RosterSchema, "record.schema.json": exchange.RecordSchema,
		} {
			text, err := schema()
			if err != nil {
				return err
			}
			if err := write(filepath.Join(*schemas, name), text); err != nil {
				return err
			}
		}
	}
	if *api == "" {
		return nil
	}
	s, err := server.New(server.Options{Log: slog.New(slog.DiscardHandler)})
	if err != nil {
		return err
	}
	text, err := s.OpenAPI()
	if err != nil {
		return err
	}
	if err := write(filepath.Join(*api, "openapi.gen.json"), text); err != nil {
		return err
	}
	units, err := json.MarshalIndent(measure.DisplayTable(), "", "  ")
	if err != nil {
		return fmt.Errorf("encode the units: %w", err)
	}
	if err := write(filepath.Join(*api, "units.gen.json"), units); err != nil {
		return err
	}
	words, err := json.MarshalIndent(map[string]any{"recordKinds": record.Words(),
		"planVersion": job.Version}, "", "  ")
	if err != nil {
		return fmt.Errorf("encode the words: %w", err)
	}
	return write(filepath.Join(*api, "words.gen.json"), words)
}

func write(name string, text []byte) error {
	if err := os.WriteFile(name, text, 0o644); err != nil {
		return fmt.Errorf("write: %w", err)
	}
	return nil
}
