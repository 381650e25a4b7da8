package store

import (
	"context"
	"fmt"
	"strconv"
	"strings"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

const changedChannel = "job_changed"

// Change tells that a job was saved, or that something was logged on it.
type Change struct {
	Job      uuid.UUID
	Revision int64 // of the job; of its record it only grows
	Logged   bool
}

// Listen calls tell for every save of any job, and for whatever is logged, by whatever
// process, until the context ends or the connection breaks.
func (s *Store) Listen(ctx context.Context, tell func(Change)) error {
	conn, err := pgx.Connect(ctx, s.url)
	if err != nil {
		return fmt.Errorf("connect to listen: %w", err)
	}
	defer func() { _ = conn.Close(context.WithoutCancel(ctx)) }()
	for _, channel := range []string{changedChannel, recordedChannel} {
		if _, err := conn.Exec(ctx, "listen "+channel); err != nil {
			return fmt.Errorf("listen: %w", err)
		}
	}
	for {
		n, err := conn.WaitForNotification(ctx)
		if err != nil {
			return fmt.Errorf("wait for a change: %w", err)
		}
		job, revision, _ := strings.Cut(n.Payload, " ")
		id, err := uuid.Parse(job)
		if err != nil {
			continue
		}
		if number, err := strconv.ParseInt(revision, 10, 64); err == nil {
			tell(Change{id, number, n.Channel == recordedChannel})
		}
	}
}
