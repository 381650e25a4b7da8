package server

import (
	"bytes"
	"context"
	"mime"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/material"
	"nephelon/exchange"
	"nephelon/store"
)

// mostSheets is more than a shelf file holds.
const mostSheets = 10_000

// ShelfImport is what a file of data sheets holds, before anything is kept.
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

func (s *Server) shelfFileRoutes() {
	register(s.api, huma.Operation{OperationID: "readShelfFile", Method: http.MethodPost, Path: "/api/shelf-file/reading",
		MaxBodyBytes: bodyLimit,
		Description:  "Reads a shelf file or CSV and keeps nothing"}, s.readShelfFile)
	register(s.api, huma.Operation{OperationID: "keepSheets", Method: http.MethodPost, Path: "/api/shelf-file/kept",
		MaxBodyBytes: bodyLimit,
		Description:  "Keeps sheets that were read, all or none"}, s.keepSheets)
	register(s.api, huma.Operation{OperationID: "writeShelfFile", Method: http.MethodGet, Path: "/api/shelf-file"},
		s.writeShelfFile)
}

func (s *Server) readShelfFile(ctx context.Context, in *struct{ RawBody []byte }) (*body[ShelfImport], error) {
	p := person(ctx)
	shelf, err := s.wholeShelf(ctx, true)
	if err != nil {
		return nil, s.trouble(ctx, "read shelf", err)
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
	return &body[ShelfImport]{answer}, nil
}

// wholeShelf is every product by its id.
func (s *Server) wholeShelf(ctx context.Context, archived bool) (map[string]material.Product, error) {
	rows, _, err := s.store.Sheets(ctx, person(ctx).CompanyID, store.ProductShelf,
		store.SheetQuery{Any: archived, Limit: mostSheets})
	if err != nil {
		return nil, err
	}
	shelf := make(map[string]material.Product, len(rows))
	for _, row := range rows {
		p, err := sheetOf[material.Product](row)
		if err != nil {
			return nil, err
		}
		shelf[p.ID] = p
	}
	return shelf, nil
}

func (s *Server) keepSheets(ctx context.Context, in *body[struct {
	Products []material.Product `json:"products" maxItems:"10000" doc:"Each names the version on the shelf that it takes the place of, or none"`
	Media    []material.Medium  `json:"media" maxItems:"10000"`
}]) (*struct{}, error) {
	p := person(ctx)
	var sheets []store.NewSheet
	for _, product := range in.Body.Products {
		if faults := product.Faults(); len(faults) > 0 {
			return nil, faulty(faults)
		}
		base := product.Version
		product.Version = base + 1
		sheets = append(sheets, store.NewSheet{Shelf: store.ProductShelf, ID: product.ID, Base: base,
			Version: product.Version, Doc: product})
	}
	known, err := s.media(ctx, p.CompanyID, store.SheetQuery{Any: true, Limit: mostSheets})
	if err != nil {
		return nil, s.trouble(ctx, "keep media", err)
	}
	versions := make(map[string]int, len(known))
	for _, m := range known {
		versions[m.ID] = m.Version
	}
	for _, m := range in.Body.Media {
		if faults := m.Faults(); len(faults) > 0 {
			return nil, faulty(faults)
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

func (s *Server) writeShelfFile(ctx context.Context, in *struct {
	Form string `query:"form" enum:"json,csv" default:"json"`
}) (*download, error) {
	company := person(ctx).CompanyID
	rows, _, err := s.store.Sheets(ctx, company, store.ProductShelf, store.SheetQuery{Limit: mostSheets})
	if err != nil {
		return nil, s.trouble(ctx, "read shelf", err)
	}
	products := make([]material.Product, len(rows))
	for i, row := range rows {
		if products[i], err = sheetOf[material.Product](row); err != nil {
			return nil, s.trouble(ctx, "read shelf", err)
		}
	}
	var text bytes.Buffer
	if in.Form == "csv" {
		if err := exchange.WriteCSV(&text, products); err != nil {
			return nil, s.trouble(ctx, "write sheets", err)
		}
		return attached("text/csv; charset=utf-8", "shelf.csv", text.Bytes()), nil
	}
	media, err := s.media(ctx, company, store.SheetQuery{Limit: mostSheets})
	if err != nil {
		return nil, s.trouble(ctx, "read media", err)
	}
	if err := exchange.WriteShelf(&text, products, media); err != nil {
		return nil, s.trouble(ctx, "write sheets", err)
	}
	return attached("application/json", "shelf.nephelon-shelf.json", text.Bytes()), nil
}

// download is a file for the person to keep.
type download struct {
	Type        string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

func attached(kind, name string, text []byte) *download {
	return &download{kind, mime.FormatMediaType("attachment", map[string]string{"filename": name}), text}
}
