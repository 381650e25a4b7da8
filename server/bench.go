package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/bench"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/store"
)

// BenchStart is a product on the bench, with what to begin from.
type BenchStart struct {
	Sheet material.Product   `json:"sheet"`
	Usual bench.PailQuestion `json:"usual"`
}

// BenchUsual names the product that the bench opens with.
type BenchUsual struct {
	ID string `json:"id,omitempty" doc:"Absent where the company has no product with a pot life"`
}

func (s *Server) benchRoutes() {
	register(s.api, huma.Operation{OperationID: "benchUsual", Method: http.MethodGet, Path: "/api/bench",
		Description: "The product that the company's jobs use most"},
		func(ctx context.Context, _ *struct{}) (*body[BenchUsual], error) {
			id, err := s.store.MostUsedSheet(ctx, person(ctx).CompanyID)
			if err != nil {
				return nil, s.trouble(ctx, "find the most used product", err)
			}
			return &body[BenchUsual]{BenchUsual{id}}, nil
		})
	register(s.api, huma.Operation{OperationID: "benchStart", Method: http.MethodGet, Path: "/api/bench/{id}"},
		func(ctx context.Context, in *SheetPath) (*body[BenchStart], error) {
			sheet, err := s.sheet(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			return &body[BenchStart]{BenchStart{sheet, bench.Usual(sheet)}}, nil
		})
	register(s.api, huma.Operation{OperationID: "bench", Method: http.MethodPost, Path: "/api/bench/{id}",
		Description: "What becomes of a pail and of its film; keeps nothing"},
		func(ctx context.Context, in *struct {
			SheetPath
			Body bench.PailQuestion
		}) (*body[bench.PailAnswer], error) {
			sheet, err := s.sheet(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			answer, err := bench.Pail(sheet, in.Body)
			if err != nil {
				return nil, huma.Error422UnprocessableEntity(err.Error())
			}
			return &body[bench.PailAnswer]{answer}, nil
		})
	register(s.api, huma.Operation{OperationID: "benchSpread", Method: http.MethodPost, Path: "/api/bench/{id}/spread",
		Description: "An amount over an area, and the notch that leaves it; keeps nothing"},
		func(ctx context.Context, in *struct {
			SheetPath
			Body bench.SpreadQuestion
		}) (*body[bench.SpreadAnswer], error) {
			return tool(ctx, s, in.ID, in.Body, bench.Spread)
		})
	register(s.api, huma.Operation{OperationID: "benchPump", Method: http.MethodPost, Path: "/api/bench/{id}/pump",
		Description: "The strokes of a batch; keeps nothing"},
		func(ctx context.Context, in *struct {
			SheetPath
			Body bench.PumpQuestion
		}) (*body[bench.PumpAnswer], error) {
			return tool(ctx, s, in.ID, in.Body, bench.Pump)
		})
	register(s.api, huma.Operation{OperationID: "benchParts", Method: http.MethodPost, Path: "/api/bench/{id}/parts",
		Description: "How long parts take to come to a temperature, and what that does for their pot life; keeps nothing"},
		func(ctx context.Context, in *struct {
			SheetPath
			Body bench.PartsQuestion
		}) (*body[bench.PartsAnswer], error) {
			return tool(ctx, s, in.ID, in.Body, bench.Parts)
		})
	register(s.api, huma.Operation{OperationID: "checkRatio", Method: http.MethodPost, Path: "/api/bench/{id}/ratio",
		Description: "Judges a batch as it was weighed; keeps nothing"},
		func(ctx context.Context, in *struct {
			SheetPath
			Hardener string `query:"hardener" maxLength:"60"`
			Body     kit.Weighed
		}) (*body[kit.RatioCheck], error) {
			sheet, err := s.sheet(ctx, in.ID)
			if err == nil {
				sheet, err = sheet.With(in.Hardener)
			}
			if err != nil {
				return nil, err
			}
			check, err := kit.CheckRatio(&sheet, in.Body, person(ctx).Units)
			if err != nil {
				return nil, huma.Error422UnprocessableEntity(err.Error())
			}
			return &body[kit.RatioCheck]{check}, nil
		})
}

// tool asks a calculator of the bench about a product.
func tool[Q, A any](ctx context.Context, s *Server, id string, question Q,
	work func(material.Product, Q, measure.System) (A, error)) (*body[A], error) {
	sheet, err := s.sheet(ctx, id)
	if err != nil {
		return nil, err
	}
	answer, err := work(sheet, question, person(ctx).Units)
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error())
	}
	return &body[A]{answer}, nil
}

// sheet reads a product of the person's company.
func (s *Server) sheet(ctx context.Context, id string) (material.Product, error) {
	row, err := s.store.Sheet(ctx, person(ctx).CompanyID, store.ProductShelf, id)
	if err != nil {
		return material.Product{}, s.trouble(ctx, "read sheet", err)
	}
	sheet, err := sheetOf[material.Product](row)
	if err != nil {
		return sheet, s.trouble(ctx, "read sheet", err)
	}
	return sheet, nil
}
