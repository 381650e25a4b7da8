package jobs

import (
	"context"
	"time"

	"github.com/google/uuid"

	"nephelon/core/facts"
	"nephelon/core/job"
	"nephelon/core/record/learn"
	"nephelon/store"
)

// Store holds what the package asks of the database.
type Store interface {
	AddJob(ctx context.Context, company, person uuid.UUID, file job.File, summary any) (uuid.UUID, error)
	ArchiveJob(ctx context.Context, company, id uuid.UUID, archived bool) error
	Facts(ctx context.Context, company, id uuid.UUID, now time.Time) (facts.Facts, error)
	Open(ctx context.Context, company uuid.UUID, most int) (jobs []store.Job, count int, err error)
	Cases(ctx context.Context, company uuid.UUID, work func(store.JobRecord) []learn.Case) ([]learn.Case, error)
	Job(ctx context.Context, company, id uuid.UUID) (store.Job, error)
	JobAt(ctx context.Context, company, id uuid.UUID, revision int64) (job.File, error)
	Jobs(ctx context.Context, company uuid.UUID, words string, archived bool) ([]store.JobLine, error)
	KeepSummary(ctx context.Context, company, id uuid.UUID, changed time.Time, summary any) error
	SaveJob(ctx context.Context, company, person uuid.UUID, save store.Save) (store.Kept, error)
	SheetVersion(ctx context.Context, company uuid.UUID, shelf store.Shelf, ids []string) (map[string]int, error)
	Sheets(ctx context.Context, company uuid.UUID, shelf store.Shelf, q store.SheetQuery) ([]store.SheetRow, int, error)
	Stamp(ctx context.Context, company, id uuid.UUID) (store.Stamp, error)
}
