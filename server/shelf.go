package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/material"
)

func (s *Server) shelfRoutes() {
	huma.Register(s.api, huma.Operation{OperationID: "shelf", Method: http.MethodGet, Path: "/api/shelf"},
		func(ctx context.Context, _ *struct{}) (*body[[]material.Product], error) {
			products, err := s.store.Products(ctx, person(ctx).CompanyID)
			if err != nil {
				return nil, s.trouble("list products", err)
			}
			return &body[[]material.Product]{products}, nil
		})
}
