package store

import (
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"

	"nephelon/core/cure"
)

// BackupTables are the tables that a backup knows, kept or not, for the tests.
func BackupTables(t *testing.T) []string {
	t.Helper()
	return slices.Concat(backedUp(), notBackedUp())
}

// OpenAt opens a database with its tables as they were at a version.
func OpenAt(t *testing.T, url string, version int64) *Store {
	t.Helper()
	db, err := sqlx.ConnectContext(t.Context(), "pgx", url)
	if err != nil {
		t.Fatal(err)
	}
	s := &Store{db: db, locks: db, url: url, lives: cure.NewKnown()}
	provider, err := s.provider()
	if err != nil {
		t.Fatal(err)
	}
	if _, err := provider.UpTo(t.Context(), version); err != nil {
		t.Fatal(err)
	}
	return s
}

// HotQueries are the statements that people wait for, by what they do, with their arguments.
func HotQueries(company, job uuid.UUID, products []string) map[string]Query {
	searched := func(words, kind string) Query {
		query, args := entriesQuery(company, words, kind, []string{job.String()}, nil)
		return Query{query, args}
	}
	return map[string]Query{
		"list jobs": {selectJobs, []any{company, "", false}}, "find jobs": {selectJobs, []any{company, "harbour", false}},
		"newest entries": searched("", ""), "entries of a kind": searched("", "deviation"),
		"entries with words":           searched("yellow streak", ""),
		"entries of a kind with words": searched("streak", "note"), "past causes": {selectCauses, []any{company, job}},
		"what records show": {selectCases, []any{company, mostLearnt}},
		"jobs under way":    {selectUnderway, []any{company, time.Now().AddDate(0, 0, -21), mostUnderway}},
		"log of a job":      {selectLog, []any{company, uuid.NullUUID{UUID: job, Valid: true}}},
		"head of a log":     {`select coalesce(max(number), -1) + 1 from log_entries where company_id = $1`, []any{company}},
		"events of jobs":    {selectEventsOf, []any{company, []string{job.String()}}},
		"issues of jobs":    {selectIssuesOf, []any{company, []string{job.String()}}},
		"record of a job":   {selectEvents + `and e.xact >= ($3::text)::xid8`, []any{company, job, "0"}},
		"sheets": {selectSheet + ` where s.company_id = $1 and s.shelf = 'product' and s.id = any($2)`,
			[]any{company, products}},
	}
}

// Query is a statement with its arguments.
type Query struct {
	Text string
	Args []any
}

// Newest is the version of the tables that this program works with.
func Newest(t *testing.T) int64 {
	t.Helper()
	entries, err := migrations.ReadDir("migrations")
	if err != nil {
		t.Fatal(err)
	}
	return int64(len(entries))
}
