// Package company offers what a company keeps as a whole: how much of it there is, and the
// archive in which it leaves and comes in.
package company

import (
	"archive/zip"
	"context"
	"errors"
	"fmt"
	"io"
	"net/http"
	"os"
	"time"

	"nephelon/exchange"
	"nephelon/server/api"
	"nephelon/server/photos"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/store"
)

// Service answers what is asked about a company's data.
type Service struct {
	api.Base
	store     Store
	files     *exchange.Reader
	confirmed func(context.Context) error
}

// New returns the service. It calls confirmed before data leave: an error for the caller where
// the person has to give the password once more.
func New(base api.Base, in Store, files *exchange.Reader, confirmed func(context.Context) error) *Service {
	return &Service{Base: base, store: in, files: files, confirmed: confirmed}
}

const (
	ArchivePath  = "/api/company/archive"
	archiveBytes = 1 << 30 // larger ones are brought in with the program itself
	// nearQuota is the share of what a company may keep from which it is told.
	nearQuota = 0.8
)

// StorageState holds what a company keeps, in bytes.
type StorageState struct {
	store.Storage
	Used int64 `json:"used"`
	Near bool  `json:"near" doc:"Whether it is time to make room"`
}

// Imported says what came in with an archive.
type Imported struct {
	Records string `json:"records,omitempty" doc:"Whether the records fit the log that came with them; left out where none did"`
}

// Routes adds the operations.
func (s *Service) Routes() {
	api.Register(s.API, huma.Operation{OperationID: "storage", Summary: "Get storage used and quota",
		Method: http.MethodGet, Path: "/api/company/storage"},
		func(ctx context.Context, _ *struct{}) (*api.Body[StorageState], error) {
			kept, err := s.store.Storage(ctx, api.Person(ctx).CompanyID)
			if err != nil {
				return nil, s.Fail(ctx, "measure what is kept", err)
			}
			return api.Answer(StorageState{kept, kept.Used(), float64(kept.Used()) >= nearQuota*float64(kept.Quota)}),
				nil
		})
	api.Register(s.API, huma.Operation{OperationID: "exportCompany", Summary: "Export the company's data",
		Method: http.MethodGet, Path: ArchivePath,
		Description: "All data of the company as a zip of open formats; nothing in it lets anybody sign in"}, s.exportCompany)
	api.Register(s.API, huma.Operation{OperationID: "importCompany", Summary: "Import a company's data",
		Method: http.MethodPost, Path: ArchivePath,
		Description: "Imports such an archive into an empty company"},
		func(ctx context.Context, in *spooled) (*api.Body[Imported], error) {
			defer in.close()
			p := api.Person(ctx)
			z, err := zip.NewReader(in.file, in.size)
			if err != nil {
				return nil, huma.Error422UnprocessableEntity(
					"This is not an archive, or it is incomplete. Export it again and choose it again.")
			}
			report, err := s.store.Import(ctx, p.CompanyID, z, store.Checks{Plan: s.files.Today, Photo: photos.Kept})
			if errors.Is(err, store.ErrNotEmpty) {
				return nil,
					huma.Error409Conflict("Your company has jobs, sheets, systems or stock already. An archive can only be imported " +
						"into an empty company.")
			}
			if bad, is := errors.AsType[*store.BadArchive](err); is {
				return nil, huma.Error422UnprocessableEntity("Nothing was kept. " + bad.Error())
			}
			if err != nil {
				return nil, s.Fail(ctx, "bring an archive in", err)
			}
			out := Imported{}
			if report.Entries > 0 {
				out.Records = report.Words()
			}
			s.Audit(ctx, p, "archive brought in", out.Records)
			return api.Answer(out), nil
		})
}

// spooled is a body in a file, since it may be large: an archive is read from its end.
type spooled struct {
	file *os.File
	size int64
}

// Resolve takes the body in.
func (s *spooled) Resolve(ctx huma.Context) []error {
	file, err := os.CreateTemp("", "nephelon-archive-")
	if err != nil {
		return []error{huma.Error500InternalServerError("There is no space left for the archive. Nothing was saved.")}
	}
	s.file = file
	if s.size, err = io.Copy(file, io.LimitReader(ctx.BodyReader(), archiveBytes+1)); err != nil {
		s.close()
		return []error{huma.Error400BadRequest(
			"The upload of the archive was interrupted. Nothing was saved; send it again.")}
	}
	if s.size > archiveBytes {
		s.close()
		return []error{huma.Error413RequestEntityTooLarge(
			"An archive of more than 1 GB can be imported only by your administrator, with nephelon import.")}
	}
	return nil
}

func (s *spooled) close() {
	_ = s.file.Close() // it is given up
	_ = os.Remove(s.file.Name())
}

func (s *Service) exportCompany(ctx context.Context, _ *struct{}) (*huma.StreamResponse, error) {
	p := api.Person(ctx)
	if err := s.confirmed(ctx); err != nil {
		return nil, err
	}
	s.Audit(ctx, p, "company exported", "")
	return &huma.StreamResponse{Body: func(out huma.Context) {
		out.SetHeader("Content-Type", "application/zip")
		out.SetHeader("Content-Disposition", fmt.Sprintf(`attachment; filename="nephelon-%s.zip"`,
			time.Now().Format(time.DateOnly)))
		// An archive that breaks off has no list of its files, so nobody takes it for whole.
		if err := s.store.Export(ctx, p.CompanyID, out.BodyWriter()); err != nil {
			s.Log.ErrorContext(ctx, "export a company", "error", err)
		}
	}}, nil
}

// Room refuses what would not fit into what the company may keep. The record of a day is
// always taken.
func (s *Service) Room(ctx context.Context, more int) error {
	kept, err := s.store.Storage(ctx, api.Person(ctx).CompanyID)
	if err != nil {
		return s.Fail(ctx, "measure what is kept", err)
	}
	if kept.Used()+int64(more) > kept.Quota {
		return huma.NewError(http.StatusInsufficientStorage,
			fmt.Sprintf("Your company uses %s of its %s of storage. Remove photographs, or ask your administrator for "+
				"more space.", bytesIn(kept.Used()), bytesIn(kept.Quota)))
	}
	return nil
}

func bytesIn(n int64) string {
	const gigabyte = 1_000_000_000
	if n >= gigabyte {
		return fmt.Sprintf("%.1f GB", float64(n)/gigabyte)
	}
	return fmt.Sprintf("%.0f MB", float64(n)/1_000_000)
}
