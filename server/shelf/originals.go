package shelf

import (
	"bytes"
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/material"
	"nephelon/exchange"
	"nephelon/server/api"
)

func (s *Service) originalRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "keepOriginal", Summary: "Keep a maker's document",
		Method: http.MethodPost, Path: "/api/originals", MaxBodyBytes: exchange.MostPDFBytes,
		Description: "Keeps the PDF or text that a data sheet is read from, to be named by the sheet. A document that no " +
			"sheet names is forgotten after 30 days"}, s.keepOriginal)
	api.Register(s.API, huma.Operation{OperationID: "original", Summary: "Get a maker's document",
		Method: http.MethodGet, Path: "/api/originals/{hash}"},
		func(ctx context.Context, in *struct {
			Hash string `path:"hash" minLength:"64" maxLength:"64"`
		}) (*api.Download, error) {
			kept, err := s.store.Original(ctx, api.Person(ctx).CompanyID, in.Hash)
			if err != nil {
				return nil, s.Fail(ctx, "read a document", err)
			}
			return api.Attached(kept.Kind, kept.Name, kept.Content), nil
		})
}

func (s *Service) keepOriginal(ctx context.Context, in *struct {
	Name    string `query:"name" minLength:"1" maxLength:"200" pattern:"^[^\\r\\n]*$"`
	RawBody []byte
}) (*api.Body[material.Original], error) {
	kind := "text/plain"
	switch {
	case len(in.RawBody) == 0:
		return nil, huma.Error422UnprocessableEntity("The document is empty.")
	case bytes.HasPrefix(in.RawBody, []byte("%PDF-")):
		kind = "application/pdf"
	case bytes.IndexByte(in.RawBody, 0) >= 0:
		return nil, huma.Error422UnprocessableEntity("The document is neither a PDF nor text.")
	}
	if err := s.quota.Room(ctx, len(in.RawBody)); err != nil {
		return nil, err
	}
	who := api.Person(ctx)
	hash, err := s.store.KeepOriginal(ctx, who.CompanyID, who.ID, in.Name, kind, in.RawBody)
	if err != nil {
		return nil, s.Fail(ctx, "keep a document", err)
	}
	return api.Answer(material.Original{Hash: hash, Name: in.Name}), nil
}
