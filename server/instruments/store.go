package instruments

import (
	"context"

	"github.com/google/uuid"
)

// Store holds what the package asks of the database.
type Store interface {
	Bridge(ctx context.Context, company uuid.UUID) (string, error)
}
