package company

import (
	"archive/zip"
	"context"
	"io"

	"github.com/google/uuid"

	"nephelon/core/record/ledger"
	"nephelon/store"
)

// Store holds what the package asks of the database.
type Store interface {
	Export(ctx context.Context, company uuid.UUID, to io.Writer) error
	Import(ctx context.Context, company uuid.UUID, z *zip.Reader, check store.Checks) (ledger.Report, error)
	Storage(ctx context.Context, company uuid.UUID) (store.Storage, error)
}
