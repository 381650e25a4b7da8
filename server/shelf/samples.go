package shelf

import (
	"context"
	"embed"
	"encoding/json"
	"fmt"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/buildup"
	"nephelon/core/material"
	"nephelon/server/api"
	"nephelon/store"
)

//go:embed samples/*.json
var sampleFiles embed.FS

// samples returns the sheets and systems that a new company can try the application with.
func samples() (products []material.Product, systems []buildup.System, err error) {
	for name, into := range map[string]any{"products": &products, "systems": &systems} {
		text, err := sampleFiles.ReadFile("samples/" + name + ".json")
		if err != nil {
			return nil, nil, fmt.Errorf("read the samples: %w", err)
		}
		if err := json.Unmarshal(text, into); err != nil {
			return nil, nil, fmt.Errorf("decode the sample %s: %w", name, err)
		}
	}
	return products, systems, nil
}

func (s *Service) sampleRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "addSamples", Summary: "Add the sample sheets and systems",
		Method: http.MethodPost, Path: "/api/samples",
		Description: "Adds those samples that the shelf does not have yet, marked as samples"}, s.addSamples)
}

func (s *Service) addSamples(ctx context.Context, _ *struct{}) (*api.Body[[]SystemLine], error) {
	p := api.Person(ctx)
	products, systems, err := samples()
	if err != nil {
		return nil, s.Fail(ctx, "add the samples", err)
	}
	ids := make([]string, len(products))
	for n, product := range products {
		ids[n] = product.ID
	}
	known, _, err := s.store.Sheets(ctx, p.CompanyID, store.ProductShelf, store.SheetQuery{IDs: ids, Any: true})
	if err != nil {
		return nil, s.Fail(ctx, "add the samples", err)
	}
	var fresh []store.NewSheet
	for _, product := range products {
		if !slices.ContainsFunc(known, func(row store.SheetRow) bool { return row.ID == product.ID }) {
			product.Version = 1
			fresh = append(fresh, store.NewSheet{Shelf: store.ProductShelf, ID: product.ID, Version: 1, Doc: product})
		}
	}
	if len(fresh) > 0 {
		if err := s.store.SaveSheets(ctx, p.CompanyID, &p.ID, fresh...); err != nil {
			return nil, s.unsaved(ctx, "add the samples", err)
		}
	}
	there, err := s.store.Systems(ctx, p.CompanyID)
	if err != nil {
		return nil, s.Fail(ctx, "add the samples", err)
	}
	for _, system := range systems {
		if slices.ContainsFunc(there, func(o store.Revised[buildup.System]) bool { return o.Of.ID == system.ID }) {
			continue
		}
		if _, err := s.store.SaveSystem(ctx, p.CompanyID, 0, system); err != nil {
			return nil, s.Fail(ctx, "add the samples", err)
		}
	}
	return s.listSystems(ctx, nil)
}
