package daylog

import (
	"context"
	"time"

	"github.com/google/uuid"
	"golang.org/x/mod/sumdb/tlog"

	"nephelon/core/facts"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/record"
	"nephelon/core/record/cause"
	"nephelon/core/record/learn"
	"nephelon/store"
)

// Store holds what the package asks of the database.
type Store interface {
	Events(ctx context.Context, company, job uuid.UUID, since int64) (store.Logged, error)
	EventsByID(ctx context.Context, company, job uuid.UUID, ids []string) (map[string]record.Event, error)
	Facts(ctx context.Context, company, id uuid.UUID, now time.Time) (facts.Facts, error)
	House(ctx context.Context, company uuid.UUID) (store.Revised[job.House], error)
	Head(ctx context.Context, company uuid.UUID, from int64) (text string, proof []tlog.Hash, err error)
	IssueSums(ctx context.Context, company, job uuid.UUID) (map[int]string, error)
	Documents(ctx context.Context, company, job uuid.UUID) (store.Documents, error)
	IssueNumber(ctx context.Context, company, job uuid.UUID) (int, error)
	IssuePlan(ctx context.Context, company, person, job, save uuid.UUID, plan record.Issue) (record.Issue, error)
	Issues(ctx context.Context, company, job uuid.UUID) ([]record.Issue, error)
	Job(ctx context.Context, company, id uuid.UUID) (store.Job, error)
	Log(ctx context.Context, company, person, job uuid.UUID, events []record.Event,
		now time.Time) (other []string, err error)
	PastCauses(ctx context.Context, company, but uuid.UUID) ([]cause.Past, error)
	People(ctx context.Context, company uuid.UUID) ([]store.Person, error)
	PhotoImage(ctx context.Context, company, id uuid.UUID, small bool) ([]byte, error)
	Photos(ctx context.Context, company, job uuid.UUID) ([]store.Photo, error)
	Cases(ctx context.Context, company uuid.UUID, work func(store.JobRecord) []learn.Case) ([]learn.Case, error)
	SaveJob(ctx context.Context, company, person uuid.UUID, save store.Save) (store.Kept, error)
	Search(ctx context.Context, company uuid.UUID, words, kind string) ([]store.Entry, error)
	Sheet(ctx context.Context, company uuid.UUID, shelf store.Shelf, id string) (store.SheetRow, error)
	Underway(ctx context.Context, company uuid.UUID, since time.Time) ([]store.Underway, error)
	Stock(ctx context.Context, company uuid.UUID) ([]store.Revised[kit.Container], error)
}
