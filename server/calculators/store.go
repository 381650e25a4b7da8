package calculators

import (
	"context"

	"github.com/google/uuid"

	"nephelon/store"
)

// Store holds what the package asks of the database.
type Store interface {
	MostUsedSheet(ctx context.Context, company uuid.UUID) (string, error)
	Sheet(ctx context.Context, company uuid.UUID, shelf store.Shelf, id string) (store.SheetRow, error)
}
