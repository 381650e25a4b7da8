// Package storetest gives tests a real, private PostgreSQL.
package storetest

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"os"
	"testing"

	"golang.org/x/mod/sumdb/note"

	"nephelon/store"
	"nephelon/store/localdb"
)

// Main runs a package's tests on a scratch database, which it hands to use
// before the first test.
func Main(m *testing.M, use func(*store.Store)) {
	code, err := run(m, use)
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		code = 1
	}
	os.Exit(code)
}

func run(m *testing.M, use func(*store.Store)) (code int, err error) {
	ctx := context.Background()
	folder, err := os.MkdirTemp("", "nephelon-test-")
	if err != nil {
		return 0, fmt.Errorf("make a folder for the database: %w", err)
	}
	defer func() { err = errors.Join(err, os.RemoveAll(folder)) }()
	cluster, err := localdb.Start(ctx, folder, localdb.Scratch)
	if err != nil {
		return 0, err
	}
	defer func() { err = errors.Join(err, cluster.Stop(ctx)) }()
	through := ""
	if os.Getenv("NEPHELON_POOL") != "" { // the same tests, with pgbouncer between
		pool, err := cluster.Pool(ctx)
		if err != nil {
			return 0, err
		}
		defer func() { err = errors.Join(err, pool.Stop()) }()
		through = pool.URL
	}
	records, err := store.OpenThrough(ctx, through, cluster.URL)
	if err != nil {
		return 0, err
	}
	defer func() { err = errors.Join(err, records.Close()) }()
	if err := Sign(records); err != nil {
		return 0, err
	}
	use(records)
	return m.Run(), nil
}

// Sign has a store sign the heads of logs with a key that is made for this run.
func Sign(records *store.Store) error {
	private, public, err := note.GenerateKey(rand.Reader, "nephelon-test")
	if err != nil {
		return fmt.Errorf("make a key: %w", err)
	}
	signer, err := note.NewSigner(private)
	if err != nil {
		return fmt.Errorf("read the key: %w", err)
	}
	records.SignWith(signer, public)
	return nil
}
