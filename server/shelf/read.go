package shelf

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/draft"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/sheet"
	"nephelon/exchange"
	"nephelon/server/api"
)

// PDFReader reads the text of a PDF, within bounds of time and memory.
type PDFReader func(ctx context.Context, file []byte) ([]sheet.Line, error)

// plainly reads a PDF in this process, with no bounds but those of the file.
func plainly(_ context.Context, file []byte) ([]sheet.Line, error) { return exchange.PDFLines(file) }

// SheetRead holds what was read of a maker's sheet, and the kept sheet of the same product.
type SheetRead struct {
	draft.Draft
	Conflicts []draft.Conflict `json:"conflicts" doc:"What values of the sheet deny between them"`

	Kept *KeptSheet `json:"kept,omitempty" doc:"Sheet of the shelf with the same name; absent where there is none"`
}

// KeptSheet is a sheet of the shelf beside a newer one of its maker.
type KeptSheet struct {
	ID      string             `json:"id"`
	Edition int                `json:"edition"`
	Sheet   material.Product   `json:"sheet" doc:"The kept sheet with what was read in its place"`
	Changes []material.Revised `json:"changes" doc:"What would change of the kept edition"`
}

func (s *Service) readRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "readSheet", Summary: "Read a maker's data sheet",
		Method: http.MethodPost, Path: "/api/shelf-file/sheet", MaxBodyBytes: exchange.MostPDFBytes,
		Description: "Reads the text of a data sheet, or a PDF, and returns a draft with the line that each value was read " +
			"from, compared with the shelf's sheet of that name; stores nothing"}, s.readMakers)
}

func (s *Service) readMakers(ctx context.Context, in *struct {
	Without []int  `query:"without" maxItems:"400" doc:"Places of values that are left out, from 0"`
	Lines   string `query:"lines" maxLength:"20000" doc:"Lines as a person corrected them, by number from 1, as a JSON object"`
	RawBody []byte
}) (*api.Body[SheetRead], error) {
	lines := sheet.Lines(string(in.RawBody))
	if bytes.HasPrefix(in.RawBody, []byte("%PDF-")) {
		var err error
		if lines, err = s.pdf(ctx, in.RawBody); err != nil {
			return nil, huma.Error422UnprocessableEntity(err.Error())
		}
	}
	const longest = 250_000 // bytes, of sixty pages
	length := 0
	for _, l := range lines {
		length += len(l.Text) + 1
	}
	if length > longest {
		return nil, huma.Error422UnprocessableEntity("The text is longer than a data sheet. Paste the part that matters.")
	}
	if in.Lines != "" {
		corrected := make(map[int]string)
		if err := json.Unmarshal([]byte(in.Lines), &corrected); err != nil {
			return nil, huma.Error422UnprocessableEntity("The corrected lines are no JSON object of texts by number.")
		}
		lines = sheet.Corrected(lines, corrected)
	}
	var err error
	out := SheetRead{Draft: sheet.From(lines).Without(in.Without).In(api.Person(ctx).Units)}
	if out.Conflicts, err = conflicts(out.Draft, api.Person(ctx).Units); err != nil {
		return nil, s.Fail(ctx, "judge what was read", err)
	}
	shelf, err := s.wholeShelf(ctx, false)
	if err != nil {
		return nil, s.Fail(ctx, "read shelf", err)
	}
	name, _ := out.Product["name"].(string)
	for _, known := range shelf {
		if name == "" || !strings.EqualFold(strings.TrimSpace(known.Name), strings.TrimSpace(name)) {
			continue
		}
		if out.Kept, err = keptWith(out.Draft, known, api.Person(ctx).Units); err != nil {
			return nil, s.Fail(ctx, "compare with the kept sheet", err)
		}
	}
	return api.Answer(out), nil
}

// conflicts returns what values of a sheet deny between them, with their lines.
func conflicts(d draft.Draft, units measure.System) ([]draft.Conflict, error) {
	text, err := json.Marshal(d.Product)
	if err != nil {
		return nil, fmt.Errorf("write what was read: %w", err)
	}
	var p material.Product
	if err := json.Unmarshal(text, &p); err != nil {
		return nil, fmt.Errorf("read the draft as a sheet: %w", err)
	}
	if d.Product["volumeSolids"] == nil { // what is not stated is not judged
		p.VolumeSolids = measure.Sourced[measure.Fraction]{Value: 1, Source: measure.Assumed}
	}
	found := []draft.Conflict{}
	add := func(field, text string) {
		if lines := d.Lines(field); len(lines) > 0 {
			found = append(found, draft.Conflict{Text: text, Lines: lines})
		}
	}
	for _, f := range p.Faults() {
		add(f.Field, f.Text)
	}
	for _, o := range p.Doubts(units) {
		add(o.Field, o.Text)
	}
	return found, nil
}

// keptWith returns a kept sheet with what was read in its place, and what that changes.
func keptWith(d draft.Draft, known material.Product, units measure.System) (*KeptSheet, error) {
	text, err := json.Marshal(known)
	if err != nil {
		return nil, fmt.Errorf("write the kept sheet: %w", err)
	}
	if text, err = d.Over(text); err != nil {
		return nil, err
	}
	out := &KeptSheet{ID: known.ID, Edition: known.Version}
	if err := json.Unmarshal(text, &out.Sheet); err != nil {
		return nil, fmt.Errorf("read the newer sheet: %w", err)
	}
	out.Changes = out.Sheet.Changes(known, units)
	return out, nil
}
