// Package calculators offers what helps while something is typed or drawn: reading quantities,
// measuring, following a walk, and the calculators of the bench. It keeps nothing.
package calculators

import (
	"context"
	"net/http"

	"nephelon/server/api"
	"nephelon/server/shelf"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/bench"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/store"
)

// Service answers what the calculators are asked.
type Service struct {
	api.Base
	store Store
}

// New returns the service.
func New(base api.Base, in Store) *Service { return &Service{Base: base, store: in} }

// Routes adds the operations.
func (s *Service) Routes() {
	s.benchRoutes()
	s.measureRoutes()
}

// BenchStart is a product on the bench, with what to begin from.
type BenchStart struct {
	Sheet material.Product   `json:"sheet"`
	Usual bench.PailQuestion `json:"usual"`
}

// BenchUsual names the product that the bench opens with.
type BenchUsual struct {
	ID string `json:"id,omitempty" doc:"Absent where the company has no product with a pot life"`
}

func (s *Service) benchRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "benchUsual", Summary: "Get the product used most",
		Method: http.MethodGet, Path: "/api/bench",
		Description: "The product that the company's jobs use most"},
		func(ctx context.Context, _ *struct{}) (*api.Body[BenchUsual], error) {
			id, err := s.store.MostUsedSheet(ctx, api.Person(ctx).CompanyID)
			if err != nil {
				return nil, s.Fail(ctx, "find the most used product", err)
			}
			return api.Answer(BenchUsual{id}), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "benchStart",
		Summary: "Get a product with starting values for the bench", Method: http.MethodGet, Path: "/api/bench/{id}"},
		func(ctx context.Context, in *api.SheetPath) (*api.Body[BenchStart], error) {
			sheet, err := s.sheet(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			if api.Person(ctx).Role == store.Hand {
				sheet = sheet.Unpriced()
			}
			return api.Answer(BenchStart{sheet, bench.Usual(sheet)}), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "bench", Summary: "Compute pot life and film of a pail",
		Method: http.MethodPost, Path: "/api/bench/{id}",
		Description: "Computes the pot life of a pail and the times of its film; stores nothing"},
		func(ctx context.Context, in *struct {
			api.SheetPath
			Body bench.PailQuestion
		}) (*api.Body[bench.PailAnswer], error) {
			sheet, err := s.sheet(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			answer, err := bench.Pail(sheet, in.Body)
			if err != nil {
				return nil, huma.Error422UnprocessableEntity(err.Error())
			}
			return api.Answer(answer), nil
		})
	s.toolRoutes()
}

// toolRoutes are the calculators beside the pail: spread, pumps, parts and ratio.
func (s *Service) toolRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "benchSpread", Summary: "Compute spread rate and notch",
		Method: http.MethodPost, Path: "/api/bench/{id}/spread",
		Description: "Computes the amount for an area and the notch that leaves it; stores nothing"},
		func(ctx context.Context, in *struct {
			api.SheetPath
			Body bench.SpreadQuestion
		}) (*api.Body[bench.SpreadAnswer], error) {
			answer, err := tool(ctx, s, in.ID, in.Body, bench.Spread)
			if err == nil && answer.Body.Purchase != nil && api.Person(ctx).Role == store.Hand {
				*answer.Body.Purchase = answer.Body.Purchase.Unpriced()
			}
			return answer, err
		})
	api.Register(s.API, huma.Operation{OperationID: "benchPump", Summary: "Compute pump strokes of a batch",
		Method: http.MethodPost, Path: "/api/bench/{id}/pump",
		Description: "Computes the pump strokes of a batch; stores nothing"},
		func(ctx context.Context, in *struct {
			api.SheetPath
			Body bench.PumpQuestion
		}) (*api.Body[bench.PumpAnswer], error) {
			return tool(ctx, s, in.ID, in.Body, bench.Pump)
		})
	api.Register(s.API, huma.Operation{OperationID: "benchParts", Summary: "Compute cooling or warming of the parts",
		Method: http.MethodPost, Path: "/api/bench/{id}/parts",
		Description: "Computes how long parts take to reach a temperature, and the pot life then; stores nothing"},
		func(ctx context.Context, in *struct {
			api.SheetPath
			Body bench.PartsQuestion
		}) (*api.Body[bench.PartsAnswer], error) {
			return tool(ctx, s, in.ID, in.Body, bench.Parts)
		})
	api.Register(s.API, huma.Operation{OperationID: "checkRatio", Summary: "Check a mixing ratio as weighed",
		Method: http.MethodPost, Path: "/api/bench/{id}/ratio",
		Description: "Judges the ratio of a batch as weighed; stores nothing"},
		func(ctx context.Context, in *struct {
			api.SheetPath
			Hardener string `query:"hardener" maxLength:"60"`
			Body     kit.Weighed
		}) (*api.Body[kit.RatioCheck], error) {
			sheet, err := s.sheet(ctx, in.ID)
			if err == nil {
				sheet, err = sheet.With(in.Hardener)
			}
			if err != nil {
				return nil, err
			}
			check, err := kit.CheckRatio(&sheet, in.Body, api.Person(ctx).Units)
			if err != nil {
				return nil, huma.Error422UnprocessableEntity(err.Error())
			}
			return api.Answer(check), nil
		})
}

// tool asks a calculator of the bench about a product.
func tool[Q, A any](ctx context.Context, s *Service, id string, question Q,
	work func(material.Product, Q, measure.System) (A, error)) (*api.Body[A], error) {
	sheet, err := s.sheet(ctx, id)
	if err != nil {
		return nil, err
	}
	answer, err := work(sheet, question, api.Person(ctx).Units)
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error())
	}
	return api.Answer(answer), nil
}

// sheet reads a product of the person's company.
func (s *Service) sheet(ctx context.Context, id string) (material.Product, error) {
	row, err := s.store.Sheet(ctx, api.Person(ctx).CompanyID, store.ProductShelf, id)
	if err != nil {
		return material.Product{}, s.Fail(ctx, "read sheet", err)
	}
	sheet, err := shelf.Sheet[material.Product](row)
	if err != nil {
		return sheet, s.Fail(ctx, "read sheet", err)
	}
	return sheet, nil
}
