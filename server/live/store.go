package live

import (
	"context"

	"github.com/google/uuid"

	"nephelon/store"
)

// Store holds what the package asks of the database.
type Store interface {
	FindSession(ctx context.Context, token string) ([]byte, bool, error)
	Listen(ctx context.Context, begun func(), tell func(store.Change)) error
	Person(ctx context.Context, company, id uuid.UUID) (store.Person, error)
}
