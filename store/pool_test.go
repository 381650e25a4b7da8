package store_test

import (
	"context"
	"fmt"
	"os"
	"testing"
	"time"

	"github.com/google/uuid"

	"nephelon/core/measure"
	"nephelon/store"
	"nephelon/store/localdb"
)

// A pool of connections lets more programs in than the database itself, and what one of them changes is told to those
// that listen, around the pool.
func TestThroughAPool(t *testing.T) {
	ctx := t.Context()
	folder, err := os.MkdirTemp("", "nephelon-pool-")
	if err != nil {
		t.Fatal(err)
	}
	defer os.RemoveAll(folder)
	cluster, err := localdb.Start(ctx, folder, localdb.Scratch)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = cluster.Stop(context.Background()) }()
	pool, err := cluster.Pool(ctx)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = pool.Stop() }()
	s, err := store.OpenThrough(ctx, pool.URL, cluster.URL)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	// More than the 60 connections that this database takes.
	for range 9 {
		other, err := store.OpenThrough(ctx, pool.URL, cluster.URL)
		if err != nil {
			t.Fatal(err)
		}
		defer other.Close()
		for range 8 {
			conn, err := other.DB().Conn(ctx)
			if err != nil {
				t.Fatalf("a program is not let in: %v", err)
			}
			defer conn.Close()
		}
	}
	// A statement that comes again finds another connection behind the pool, while the one before is held.
	again, err := s.DB().Conn(ctx)
	if err != nil {
		t.Fatal(err)
	}
	defer again.Close()
	ask := func() (backend int, err error) {
		err = again.QueryRowContext(ctx, `select pg_backend_pid() + 0 * $1::int`, 1).Scan(&backend)
		return backend, err
	}
	first, err := ask()
	if err != nil {
		t.Fatal(err)
	}
	for range 12 {
		held, err := s.DB().BeginTx(ctx, nil)
		if err != nil {
			t.Fatal(err)
		}
		defer func() { _ = held.Rollback() }()
		if _, err := held.ExecContext(ctx, `select 1`); err != nil {
			t.Fatal(err)
		}
		next, err := ask()
		if err != nil {
			t.Fatalf("asked again of another connection: %v", err)
		}
		if next != first {
			break
		}
	}
	heard, begun := make(chan store.Change, 10), make(chan struct{})
	listening, stop := context.WithCancel(ctx)
	defer stop()
	go func() {
		_ = s.Listen(listening, func() { close(begun) }, func(c store.Change) { heard <- c })
	}()
	<-begun
	company, err := s.AddCompany(ctx, "Through a pool")
	if err != nil {
		t.Fatal(err)
	}
	person, err := s.AddPerson(ctx, store.Person{CompanyID: company, Name: "Owner", Email: "pool@test.example",
		Role: store.Owner, PasswordHash: "x", Units: measure.Metric})
	if err != nil {
		t.Fatal(err)
	}
	id, err := s.AddJob(ctx, company, person, file("Pier"), map[string]string{})
	if err != nil {
		t.Fatal(err)
	}
	for n := range int64(3) { // each perhaps on another connection
		name := fmt.Sprintf("Pier %d", n+2)
		if _, err := s.SaveJob(ctx, company, person, store.Save{Job: id, Base: n + 1, ID: uuid.New(), File: file(name),
			Summary: map[string]string{}}); err != nil {
			t.Fatal(err)
		}
		if j, err := s.Job(ctx, company, id); err != nil || j.File.Job.Name != name || j.Revision != n+2 {
			t.Errorf("%s: %d, %v", j.File.Job.Name, j.Revision, err)
		}
	}
	select {
	case c := <-heard:
		if c.ID != id {
			t.Errorf("told of %+v", c)
		}
	case <-time.After(30 * time.Second):
		t.Error("nothing is told of what changed")
	}
}
