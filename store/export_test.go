package store

import (
	"slices"
	"testing"

	"github.com/jmoiron/sqlx"
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
	s := &Store{db: db, url: url}
	provider, err := s.provider()
	if err != nil {
		t.Fatal(err)
	}
	if _, err := provider.UpTo(t.Context(), version); err != nil {
		t.Fatal(err)
	}
	return s
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
