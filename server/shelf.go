package server

import (
	"context"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/takeoff"
)

// routes registers every operation.
func (s *Server) routes() {
	s.sessionRoutes()
	s.peopleRoutes()
	s.jobRoutes()
	s.shelfRoutes()
}

// Reading is how a typed quantity was understood.
type Reading struct {
	SI   float64 `json:"si"`
	Echo string  `json:"echo" doc:"The same in the person's units"`
}

// Measured is what a drawing encloses so far, or why it encloses nothing.
type Measured struct {
	Area      measure.Area   `json:"area" doc:"m²"`
	Perimeter measure.Length `json:"perimeter" doc:"m"`
	Fault     string         `json:"fault,omitempty"`
}

func (s *Server) shelfRoutes() {
	huma.Register(s.api, huma.Operation{OperationID: "shelf", Method: http.MethodGet, Path: "/api/shelf"},
		func(ctx context.Context, _ *struct{}) (*body[[]material.Product], error) {
			products, err := s.store.Products(ctx, person(ctx).CompanyID)
			if err != nil {
				return nil, s.trouble("list products", err)
			}
			return &body[[]material.Product]{products}, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "measure", Method: http.MethodPost, Path: "/api/measure", MaxBodyBytes: bodyLimit,
		Description: "Measures a floor that is still being drawn"},
		func(_ context.Context, in *body[takeoff.Floor]) (*body[Measured], error) {
			t, _, fault := takeoff.MeasureFloor(in.Body, "")
			if fault != nil {
				return &body[Measured]{Measured{Fault: fault.Text}}, nil
			}
			return &body[Measured]{Measured{Area: t.Area, Perimeter: t.Perimeter}}, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "read", Method: http.MethodPost, Path: "/api/read",
		Description: "Understands a quantity as people write it"},
		func(ctx context.Context, in *body[struct {
			Kind measure.Kind `json:"kind" enum:"length,area,film,volume,mass,density,spread,coverage,pace,span,fraction,angle"`
			Text string       `json:"text" maxLength:"200"`
		}]) (*body[Reading], error) {
			units := person(ctx).Units
			si, err := units.Read(in.Body.Kind, in.Body.Text)
			var refused *measure.ReadError
			if errors.As(err, &refused) {
				return nil, huma.Error422UnprocessableEntity(refused.Error())
			}
			return &body[Reading]{Reading{si, units.Format(in.Body.Kind, si)}}, err
		})
}
