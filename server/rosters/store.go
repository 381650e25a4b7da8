package rosters

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"nephelon/core/days"
	"nephelon/core/facts"
	"nephelon/core/job"
	"nephelon/store"
)

// Store holds what the package asks of the database.
type Store interface {
	AddCalendarLink(ctx context.Context, company uuid.UUID, of store.CalendarLink, person uuid.UUID,
		secret []byte) (uuid.UUID, error)
	AddRun(ctx context.Context, company, person uuid.UUID, question json.RawMessage) (uuid.UUID, error)
	Alone(ctx context.Context, company uuid.UUID, do func(context.Context) error) (err error)
	Beat(ctx context.Context, run uuid.UUID, progress []byte) (bool, error)
	Book(ctx context.Context, company, person uuid.UUID, base int64, bookings []days.Booked) (int64, error)
	CalendarLink(ctx context.Context, secret []byte) (store.CalendarLink, error)
	CalendarLinks(ctx context.Context, company uuid.UUID) ([]store.CalendarLink, error)
	Facts(ctx context.Context, company, id uuid.UUID, now time.Time) (facts.Facts, error)
	EndRun(ctx context.Context, run uuid.UUID, answer []byte) error
	House(ctx context.Context, company uuid.UUID) (store.Revised[job.House], error)
	Open(ctx context.Context, company uuid.UUID, most int) (jobs []store.Job, count int, err error)
	OpenSites(ctx context.Context, company uuid.UUID) ([]store.OpenSite, error)
	Person(ctx context.Context, company, id uuid.UUID) (store.Person, error)
	RevokeCalendarLink(ctx context.Context, company, link uuid.UUID) error
	Underway(ctx context.Context, company uuid.UUID, since time.Time) ([]store.Underway, error)
	Roster(ctx context.Context, company uuid.UUID) (store.Roster, error)
	Run(ctx context.Context, company, run uuid.UUID) (store.Run, error)
	StopRun(ctx context.Context, company, run uuid.UUID) error
	TakeRun(ctx context.Context) (store.Run, error)
}
