package shelf

import (
	"bytes"
	"context"
	"net/http"

	"nephelon/server/api"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/material"
	"nephelon/exchange"
	"nephelon/store"
)

// mostSheets is more than a shelf file holds.
const mostSheets = 10_000

// ShelfImport holds what a file of data sheets holds, before anything is kept.
type ShelfImport struct {
	Lines   []ImportLine       `json:"lines" doc:"Good rows, ready to be kept"`
	Media   []material.Medium  `json:"media"`
	Refused []exchange.Refused `json:"refused" doc:"Rows that cannot be kept, each with its line"`
}

// ImportLine is a good row.
type ImportLine struct {
	Line    int                `json:"line"`
	Sheet   material.Product   `json:"sheet"`
	New     bool               `json:"new"`
	Changes []material.Revised `json:"changes" doc:"Against the sheet on the shelf"`
	Doubts  []material.Doubt   `json:"doubts"`
}

func (s *Service) shelfFileRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "readShelfFile", Summary: "Read a file of data sheets",
		Method:       http.MethodPost,
		Path:         "/api/shelf-file/reading",
		MaxBodyBytes: api.BodyLimit,
		Description:  "Reads a shelf file or CSV and stores nothing"}, s.readShelfFile)
	api.Register(s.API, huma.Operation{OperationID: "keepSheets", Summary: "Save imported data sheets",
		Method: http.MethodPost, Path: "/api/shelf-file/kept",
		MaxBodyBytes: api.BodyLimit,
		Description:  "Saves sheets that were read, all or none"}, s.keepSheets)
	api.Register(s.API, huma.Operation{OperationID: "writeShelfFile", Summary: "Export data sheets",
		Method: http.MethodGet, Path: "/api/shelf-file"},
		s.writeShelfFile)
}

func (s *Service) readShelfFile(ctx context.Context, in *struct{ RawBody []byte }) (*api.Body[ShelfImport], error) {
	p := api.Person(ctx)
	shelf, err := s.wholeShelf(ctx, true)
	if err != nil {
		return nil, s.Fail(ctx, "read shelf", err)
	}
	var reading exchange.ShelfReading
	if exchange.IsJSON(in.RawBody) {
		reading = s.files.ReadShelf(bytes.NewReader(in.RawBody))
	} else {
		reading = s.files.ReadCSV(in.RawBody, shelf)
	}
	answer := ShelfImport{Lines: []ImportLine{}, Media: reading.Media, Refused: reading.Refused}
	for _, l := range reading.Lines {
		line := ImportLine{Line: l.Line, Sheet: l.Sheet, Doubts: l.Sheet.Doubts(p.Units), Changes: []material.Revised{}}
		known, there := shelf[l.Sheet.ID]
		line.New = !there
		line.Sheet.Version = known.Version
		if there {
			line.Changes = l.Sheet.Changes(known, p.Units)
		}
		answer.Lines = append(answer.Lines, line)
	}
	if answer.Media == nil {
		answer.Media = []material.Medium{}
	}
	if answer.Refused == nil {
		answer.Refused = []exchange.Refused{}
	}
	return api.Answer(answer), nil
}

// wholeShelf is every product by its id.
func (s *Service) wholeShelf(ctx context.Context, archived bool) (map[string]material.Product, error) {
	rows, _, err := s.store.Sheets(ctx, api.Person(ctx).CompanyID, store.ProductShelf,
		store.SheetQuery{Any: archived, Limit: mostSheets})
	if err != nil {
		return nil, err
	}
	shelf := make(map[string]material.Product, len(rows))
	for _, row := range rows {
		p, err := Sheet[material.Product](row)
		if err != nil {
			return nil, err
		}
		shelf[p.ID] = p
	}
	return shelf, nil
}

func (s *Service) keepSheets(ctx context.Context, in *api.Body[struct {
	Products []material.Product `json:"products" maxItems:"10000" doc:"Each names the version on the shelf that it takes the place of, or none"`
	Media    []material.Medium  `json:"media" maxItems:"10000"`
}]) (*struct{}, error) {
	p := api.Person(ctx)
	var sheets []store.NewSheet
	for _, product := range in.Body.Products {
		if faults := product.Faults(); len(faults) > 0 {
			return nil, api.Faulty(faults)
		}
		base := product.Version
		product.Version = base + 1
		sheets = append(sheets, store.NewSheet{Shelf: store.ProductShelf, ID: product.ID, Base: base,
			Version: product.Version, Doc: product})
	}
	known, err := Media(ctx, s.store, p.CompanyID, store.SheetQuery{Any: true, Limit: mostSheets})
	if err != nil {
		return nil, s.Fail(ctx, "keep media", err)
	}
	versions := make(map[string]int, len(known))
	for _, m := range known {
		versions[m.ID] = m.Version
	}
	for _, m := range in.Body.Media {
		if faults := m.Faults(); len(faults) > 0 {
			return nil, api.Faulty(faults)
		}
		base := versions[m.ID]
		m.Version = base + 1
		sheets = append(sheets, store.NewSheet{Shelf: store.MediumShelf, ID: m.ID, Base: base, Version: m.Version, Doc: m})
	}
	if err := s.store.SaveSheets(ctx, p.CompanyID, &p.ID, sheets...); err != nil {
		return nil, s.unsaved(ctx, "keep sheets", err)
	}
	return nil, nil
}

func (s *Service) writeShelfFile(ctx context.Context, in *struct {
	Form string `query:"form" enum:"json,csv" default:"json"`
}) (*api.Download, error) {
	company := api.Person(ctx).CompanyID
	rows, _, err := s.store.Sheets(ctx, company, store.ProductShelf, store.SheetQuery{Limit: mostSheets})
	if err != nil {
		return nil, s.Fail(ctx, "read shelf", err)
	}
	products := make([]material.Product, len(rows))
	for i, row := range rows {
		if products[i], err = Sheet[material.Product](row); err != nil {
			return nil, s.Fail(ctx, "read shelf", err)
		}
	}
	var text bytes.Buffer
	if in.Form == "csv" {
		if err := exchange.WriteCSV(&text, products); err != nil {
			return nil, s.Fail(ctx, "write sheets", err)
		}
		return api.Attached("text/csv; charset=utf-8", "shelf.csv", text.Bytes()), nil
	}
	media, err := Media(ctx, s.store, company, store.SheetQuery{Limit: mostSheets})
	if err != nil {
		return nil, s.Fail(ctx, "read media", err)
	}
	if err := exchange.WriteShelf(&text, products, media); err != nil {
		return nil, s.Fail(ctx, "write sheets", err)
	}
	return api.Attached("application/json", "shelf.nephelon-shelf.json", text.Bytes()), nil
}
