package store

import (
	"context"
	"fmt"
	"strconv"
	"strings"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// The channels on which servers tell each other what changed.
const (
	changedChannel = "job_changed"
	personChannel  = "person_changed"
)

// Subject says what a change is of.
type Subject int

// The subjects.
const (
	OfJob Subject = iota
	OfRecord
	OfPerson
)

// Change says that a job was saved, that something was logged on it, or that what a person
// may do was changed.
type Change struct {
	Of       Subject
	ID       uuid.UUID // of the job, or of the person
	Revision int64     // version of the job; of others it only grows
}

// Listen calls tell for every change, by whatever process, until the context ends or the
// connection breaks; begun once it hears: what happened before, it has to be asked for.
func (s *Store) Listen(ctx context.Context, begun func(), tell func(Change)) error {
	conn, err := pgx.Connect(ctx, s.url)
	if err != nil {
		return fmt.Errorf("connect to listen: %w", err)
	}
	defer func() { _ = conn.Close(context.WithoutCancel(ctx)) }()
	for _, channel := range []string{changedChannel, recordedChannel, personChannel} {
		if _, err := conn.Exec(ctx, "listen "+channel); err != nil {
			return fmt.Errorf("listen: %w", err)
		}
	}
	begun()
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
			tell(Change{map[string]Subject{changedChannel: OfJob, recordedChannel: OfRecord, personChannel: OfPerson}[n.Channel],
				id, number})
		}
	}
}
