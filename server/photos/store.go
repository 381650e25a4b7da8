package photos

import (
	"context"

	"github.com/google/uuid"

	"nephelon/store"
)

// Store holds what the package asks of the database.
type Store interface {
	AddPhoto(ctx context.Context, company, person, job, id uuid.UUID, surface string, image,
		thumb []byte) (uuid.UUID, error)
	CaptionPhoto(ctx context.Context, company, id uuid.UUID, caption string) error
	PhotoImage(ctx context.Context, company, id uuid.UUID, small bool) ([]byte, error)
	Photos(ctx context.Context, company, job uuid.UUID) ([]store.Photo, error)
	RemovePhoto(ctx context.Context, company, id uuid.UUID, removed bool, own uuid.NullUUID) error
}
