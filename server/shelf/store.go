package shelf

import (
	"context"

	"github.com/google/uuid"

	"nephelon/core/buildup"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/store"
)

// Store holds what the package asks of the database.
type Store interface {
	ArchiveSheet(ctx context.Context, company uuid.UUID, shelf store.Shelf, id string, archived bool) error
	DeleteSheet(ctx context.Context, company uuid.UUID, shelf store.Shelf, id string) error
	DeleteSystem(ctx context.Context, company uuid.UUID, base int64, id string) error
	House(ctx context.Context, company uuid.UUID) (store.Revised[job.House], error)
	KeepOriginal(ctx context.Context, company, person uuid.UUID, name, kind string, content []byte) (string, error)
	Original(ctx context.Context, company uuid.UUID, hash string) (store.Original, error)
	Reservations(ctx context.Context, company uuid.UUID) ([]store.Reservation, error)
	SaveContainer(ctx context.Context, company uuid.UUID, base int64, c kit.Container) (int64, error)
	SaveHouse(ctx context.Context, company uuid.UUID, base int64, house job.House) (int64, error)
	SaveSheets(ctx context.Context, company uuid.UUID, person *uuid.UUID, sheets ...store.NewSheet) error
	SaveSystem(ctx context.Context, company uuid.UUID, base int64, system buildup.System) (int64, error)
	Sheet(ctx context.Context, company uuid.UUID, shelf store.Shelf, id string) (store.SheetRow, error)
	SheetVersions(ctx context.Context, company uuid.UUID, shelf store.Shelf, id string) ([]store.SheetRow, error)
	Sheets(ctx context.Context, company uuid.UUID, shelf store.Shelf, q store.SheetQuery) ([]store.SheetRow, int, error)
	Stock(ctx context.Context, company uuid.UUID) ([]store.Revised[kit.Container], error)
	Systems(ctx context.Context, company uuid.UUID) ([]store.Revised[buildup.System], error)
	TakeOutContainer(ctx context.Context, company uuid.UUID, base int64, id string) error
	Users(ctx context.Context, company uuid.UUID, shelf store.Shelf, id string) ([]store.User, error)
}
