package shelf

import (
	"bytes"
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/sheet"
	"nephelon/exchange"
	"nephelon/server/api"
)

// PDFReader reads the text of a PDF, within bounds of time and memory.
type PDFReader func(ctx context.Context, file []byte) ([]sheet.Line, error)

// plainly reads a PDF in this process, with no bounds but those of the file.
func plainly(_ context.Context, file []byte) ([]sheet.Line, error) { return exchange.PDFLines(file) }

func (s *Service) readRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "readSheet", Summary: "Read a maker's data sheet",
		Method: http.MethodPost, Path: "/api/shelf-file/sheet", MaxBodyBytes: exchange.MostPDFBytes,
		Description: "Reads the text of a data sheet, or a PDF, and returns a draft with the line that each value was read " +
			"from; stores nothing"},
		func(ctx context.Context, in *struct{ RawBody []byte }) (*api.Body[sheet.Draft], error) {
			lines := sheet.Lines(string(in.RawBody))
			if bytes.HasPrefix(in.RawBody, []byte("%PDF-")) {
				var err error
				if lines, err = s.pdf(ctx, in.RawBody); err != nil {
					return nil, huma.Error422UnprocessableEntity(err.Error())
				}
			}
			const longest = 20_000
			if len(lines) > longest {
				return nil, huma.Error422UnprocessableEntity(
					"The text has more lines than a data sheet. Paste the part that matters.")
			}
			return api.Answer(sheet.From(lines)), nil
		})
}
