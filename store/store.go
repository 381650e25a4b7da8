// Package store keeps the application's records in PostgreSQL. It is the only
// place with SQL. Every record belongs to a company, and every query names it.
package store

import (
	"cmp"
	"context"
	"database/sql"
	"database/sql/driver"
	"embed"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net"
	"slices"
	"strings"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/jmoiron/sqlx"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
	"golang.org/x/mod/sumdb/note"

	"nephelon/core/cure"
)

//go:embed migrations/*.sql
var migrations embed.FS

// ErrNewerSchema means that a newer program has worked with the database.
var ErrNewerSchema = errors.New("the database is newer than this program")

// ErrNotFound means that the company has no such record.
var ErrNotFound = errors.New("not found")

// Store is a connection pool to the database.
type Store struct {
	db    *sqlx.DB
	locks *sqlx.DB    // connections that hold a lock while something else is done
	url   string      // of the database itself
	lives *cure.Known // of mixes on record, which depend on nothing stored

	signer   note.Signer // of the heads of logs; nil where this program signs none
	verifier string
}

// Open connects to the database and brings its tables up to date.
func Open(ctx context.Context, url string) (*Store, error) {
	return OpenThrough(ctx, "", url)
}

// OpenThrough connects to the database, and does what a transaction holds through a pool of connections to it, such as
// pgbouncer in transaction mode. What outlives a transaction goes to the database itself: listening, migrations, locks
// that are held while a roster is planned, and backups. Without a pool all goes there.
//
// The address may name several hosts, one the standby of another: the one that can be written to is taken.
func OpenThrough(ctx context.Context, pool, url string) (*Store, error) {
	url, err := writable(url)
	if err != nil {
		return nil, err
	}
	config, err := pgx.ParseConfig(cmp.Or(pool, url))
	if err != nil {
		return nil, fmt.Errorf("read the address of the database: %w", err)
	}
	if pool != "" { // a statement that is prepared on one connection is not there on the next
		config.DefaultQueryExecMode = pgx.QueryExecModeCacheDescribe
	}
	db := sqlx.NewDb(stdlib.OpenDB(*config), "pgx")
	const connections = 16
	db.SetMaxOpenConns(connections)
	db.SetMaxIdleConns(connections)
	locks, err := sqlx.Open("pgx", url)
	if err != nil {
		return nil, errors.Join(fmt.Errorf("connect to the database: %w", err), db.Close())
	}
	const planned = 8 // companies whose rosters are planned or waited for at once
	locks.SetMaxOpenConns(planned)
	locks.SetMaxIdleConns(1)
	s := &Store{db: db, locks: locks, url: url, lives: cure.NewKnown()}
	if err := s.Ready(ctx); err != nil {
		return nil, errors.Join(fmt.Errorf("connect to the database: %w", err), s.Close())
	}
	if err := s.migrate(ctx); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	return s, nil
}

// writable returns the address of a database; of several hosts that it names, one that can be written to is asked for.
func writable(address string) (string, error) {
	config, err := pgx.ParseConfig(address)
	if err != nil {
		return "", fmt.Errorf("read the address of the database: %w", err)
	}
	another := func(f *pgconn.FallbackConfig) bool { return f.Host != config.Host || f.Port != config.Port }
	if strings.Contains(address, "target_session_attrs") || !slices.ContainsFunc(config.Fallbacks, another) {
		return address, nil
	}
	between := " "
	if strings.Contains(address, "://") {
		between = "?"
		if strings.Contains(address, "?") {
			between = "&"
		}
	}
	return address + between + "target_session_attrs=read-write", nil
}

// lockTries is the number of seconds that a server waits for others that bring the database up to date.
const lockTries = 120

// provider brings the tables up, one server after the other where several start together.
func (s *Store) provider() (*goose.Provider, error) {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, fmt.Errorf("open the migrations: %w", err)
	}
	one, err := lock.NewPostgresSessionLocker(lock.WithLockTimeout(1, lockTries))
	if err != nil {
		return nil, fmt.Errorf("lock the migrations: %w", err)
	}
	provider, err := goose.NewProvider(goose.DialectPostgres, s.locks.DB, files, goose.WithSessionLocker(one))
	if err != nil {
		return nil, fmt.Errorf("read the migrations: %w", err)
	}
	return provider, nil
}

func (s *Store) migrate(ctx context.Context) error {
	provider, err := s.provider()
	if err != nil {
		return err
	}
	if _, err := provider.Up(ctx); err != nil {
		return fmt.Errorf("bring the database up to date: %w", err)
	}
	there, err := provider.GetDBVersion(ctx)
	if err != nil {
		return fmt.Errorf("read the version of the database: %w", err)
	}
	sources := provider.ListSources()
	if newest := sources[len(sources)-1].Version; there > newest {
		return fmt.Errorf("%w: its tables are of version %d, and this program knows those up to %d; start the program that "+
			"brought them up to date, or a newer one", ErrNewerSchema, there, newest)
	}
	return nil
}

// Away reports whether an error is of a database that does not answer, rather than of what was
// asked of it. A change that failed like that was perhaps made.
func Away(err error) bool {
	if told, is := errors.AsType[*pgconn.PgError](err); is {
		// Classes of PostgreSQL's conditions: connections, what it has too little of (memory,
		// disk, connections), what its operator ends, and what its system fails at.
		for _, class := range []string{"08", "53", "57P", "58"} {
			if strings.HasPrefix(told.Code, class) {
				return true
			}
		}
		return false
	}
	_, unreached := errors.AsType[*pgconn.ConnectError](err)
	_, cut := errors.AsType[net.Error](err)
	return unreached || cut || errors.Is(err, driver.ErrBadConn) || errors.Is(err, sql.ErrConnDone) ||
		errors.Is(err, net.ErrClosed) || strings.Contains(err.Error(), "conn closed") ||
		errors.Is(err, io.ErrUnexpectedEOF) || errors.Is(err, io.EOF) || errors.Is(err, context.DeadlineExceeded)
}

// Ready fails while the database does not answer.
func (s *Store) Ready(ctx context.Context) error {
	if err := s.db.PingContext(ctx); err != nil {
		return fmt.Errorf("reach the database: %w", err)
	}
	return nil
}

// URL is the address of the database itself.
func (s *Store) URL() string { return s.url }

// DB is the pool.
func (s *Store) DB() *sql.DB { return s.db.DB }

// Close lets go of the database.
func (s *Store) Close() error {
	if err := errors.Join(s.db.Close(), s.locks.Close()); err != nil {
		return fmt.Errorf("close the database: %w", err)
	}
	return nil
}

// readOneMoment is a transaction that sees the records as they stood when it began.
func readOneMoment() *sql.TxOptions {
	return &sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true}
}

// inTransaction runs do and commits if it succeeds.
func (s *Store) inTransaction(ctx context.Context, do func(*sqlx.Tx) error) (err error) {
	tx, err := s.db.BeginTxx(ctx, nil)
	if err != nil {
		return fmt.Errorf("begin: %w", err)
	}
	defer func() {
		if err != nil {
			err = errors.Join(err, tx.Rollback())
		}
	}()
	if err = do(tx); err != nil {
		return err
	}
	if err = tx.Commit(); err != nil {
		return fmt.Errorf("commit: %w", err)
	}
	return nil
}

func newID() (uuid.UUID, error) {
	id, err := uuid.NewV7()
	if err != nil {
		return id, fmt.Errorf("make an id: %w", err)
	}
	return id, nil
}

// found turns "no rows" into ErrNotFound and wraps the rest.
func found(err error, doing string) error {
	switch {
	case err == nil:
		return nil
	case errors.Is(err, sql.ErrNoRows):
		return ErrNotFound
	}
	return fmt.Errorf("%s: %w", doing, err)
}
