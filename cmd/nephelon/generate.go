package main

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"os"
	"path/filepath"

	"nephelon/core/measure"
	"nephelon/exchange"
	"nephelon/server"
)

// runGenerate writes what is made from the Go types: the description of the
// API, the table of units and the schema of the plan file.
func runGenerate(_ context.Context, arguments []string, _ io.Reader, _, complain io.Writer) error {
	f := flags("generate", "[-api FOLDER] [-schema FILE]", complain)
	api := f.String("api", "", "`folder` for openapi.gen.json and units.gen.json")
	schema := f.String("schema", "", "`file` for the JSON Schema of the plan file")
	if err := parse(f, arguments); err != nil {
		return err
	}
	if *schema != "" {
		text, err := exchange.Schema()
		if err != nil {
			return err
		}
		if err := write(*schema, text); err != nil {
			return err
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
	return write(filepath.Join(*api, "units.gen.json"), units)
}

func write(name string, text []byte) error {
	if err := os.WriteFile(name, text, 0o644); err != nil {
		return fmt.Errorf("write: %w", err)
	}
	return nil
}
