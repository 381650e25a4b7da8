package store

import (
	"slices"
	"testing"
)

// BackupTables are the tables that a backup knows, kept or not, for the tests.
func BackupTables(t *testing.T) []string {
	t.Helper()
	return slices.Concat(backedUp(), notBackedUp())
}
