package store

import (
	"archive/tar"
	"compress/gzip"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
)

// backedUp are the tables of a backup, each after those that it points to. Sessions, attempts
// to sign in, links that set passwords and plans under way are not kept: whoever is signed
// in signs in again.
func backedUp() []string {
	return []string{
		"companies", "people", "addresses", "recovery_codes", "jobs", "job_revisions", "photos", "sheets", "sheet_versions",
		"originals",
		"systems", "stock", "rosters", "calendar_links", "issues", "events", "audit",
		"log_entries", "log_hashes", "log_heads",
	}
}

// notBackedUp are all others.
func notBackedUp() []string {
	return []string{"sessions", "sign_in_failures", "password_links", "roster_runs", "goose_db_version"}
}

// Manifest says what a backup holds.
type Manifest struct {
	Format string            `json:"format"`
	Schema int64             `json:"schema" doc:"Version of the tables"`
	At     time.Time         `json:"at"`
	Tables []ManifestedTable `json:"tables"`
}

// ManifestedTable is a table of a backup.
type ManifestedTable struct {
	Name    string   `json:"name"`
	Columns []string `json:"columns"`
	Rows    int64    `json:"rows"`
	Bytes   int64    `json:"bytes"`
	Sum     string   `json:"sha256"`
}

const (
	backupFormat = "nephelon-backup"
	manifestName = "manifest.json"
)

// ErrNotEmpty means that a backup is to be brought into a database that holds records.
var ErrNotEmpty = errors.New("the database holds records already; bring a backup into an empty one")

// Backup writes all records as one file, as they stood at one moment, whatever is saved
// meanwhile, and tells what it holds.
func (s *Store) Backup(ctx context.Context, to io.Writer) (Manifest, error) {
	m := Manifest{Format: backupFormat, At: time.Now().UTC().Truncate(time.Second)}
	conn, err := pgx.Connect(ctx, s.url)
	if err != nil {
		return m, fmt.Errorf("connect for a backup: %w", err)
	}
	defer func() { _ = conn.Close(context.WithoutCancel(ctx)) }()
	tx, err := conn.BeginTx(ctx, pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly})
	if err != nil {
		return m, fmt.Errorf("begin a backup: %w", err)
	}
	defer func() { _ = tx.Rollback(context.WithoutCancel(ctx)) }()
	if err := tx.QueryRow(ctx, `select max(version_id) from goose_db_version
		where is_applied`).Scan(&m.Schema); err != nil {
		return m, fmt.Errorf("read the version of the tables: %w", err)
	}
	zipped := gzip.NewWriter(to)
	archive := tar.NewWriter(zipped)
	for _, table := range backedUp() {
		one, err := backupTable(ctx, conn, tx, table, archive, m.At)
		if err != nil {
			return m, err
		}
		m.Tables = append(m.Tables, one)
	}
	text, err := json.MarshalIndent(m, "", "  ")
	if err != nil {
		return m, fmt.Errorf("write the manifest: %w", err)
	}
	if err := errors.Join(archive.WriteHeader(&tar.Header{Name: manifestName, Mode: 0o600, Size: int64(len(text)),
		ModTime: m.At})); err != nil {
		return m, fmt.Errorf("write the manifest: %w", err)
	}
	_, err = archive.Write(text)
	if err := errors.Join(err, archive.Close(), zipped.Close()); err != nil {
		return m, fmt.Errorf("end the backup: %w", err)
	}
	return m, nil
}

// columns are those of a table that are not worked out from others. The number of a
// transaction means something in its own database only.
func columns(ctx context.Context, tx pgx.Tx, table string) ([]string, error) {
	rows, err := tx.Query(ctx, `
		select column_name from information_schema.columns
		where table_schema = 'public' and table_name = $1 and is_generated = 'NEVER' and data_type <> 'xid8'
		order by ordinal_position`, table)
	if err != nil {
		return nil, fmt.Errorf("read the columns of %s: %w", table, err)
	}
	names, err := pgx.CollectRows(rows, pgx.RowTo[string])
	if err != nil {
		return nil, fmt.Errorf("read the columns of %s: %w", table, err)
	}
	return names, nil
}

// backupTable writes a table through a file, since an archive wants its size first.
func backupTable(ctx context.Context, conn *pgx.Conn, tx pgx.Tx, table string, into *tar.Writer,
	at time.Time) (ManifestedTable, error) {
	one := ManifestedTable{Name: table}
	fail := func(err error) (ManifestedTable, error) { return one, fmt.Errorf("back up %s: %w", table, err) }
	var err error
	if one.Columns, err = columns(ctx, tx, table); err != nil {
		return one, err
	}
	file, err := os.CreateTemp("", "nephelon-backup-")
	if err != nil {
		return fail(err)
	}
	defer func() {
		_ = file.Close()
		_ = os.Remove(file.Name())
	}()
	sum := sha256.New()
	done, err := conn.PgConn().CopyTo(ctx, io.MultiWriter(file, sum),
		`copy `+table+` (`+strings.Join(one.Columns, ", ")+`) to stdout`)
	if err != nil {
		return fail(err)
	}
	one.Rows, one.Sum = done.RowsAffected(), hex.EncodeToString(sum.Sum(nil))
	if one.Bytes, err = file.Seek(0, io.SeekCurrent); err != nil {
		return fail(err)
	}
	if _, err := file.Seek(0, io.SeekStart); err != nil {
		return fail(err)
	}
	if err := into.WriteHeader(&tar.Header{Name: table + ".copy", Mode: 0o600, Size: one.Bytes, ModTime: at}); err != nil {
		return fail(err)
	}
	if _, err := io.Copy(into, file); err != nil {
		return fail(err)
	}
	return one, nil
}

// Restore brings a backup into a database that holds nothing, all of it or nothing, and
// checks it against what its manifest tells.
func (s *Store) Restore(ctx context.Context, from io.Reader) (Manifest, error) {
	var m Manifest
	if there, err := s.HasCompany(ctx); err != nil || there {
		if err == nil {
			err = ErrNotEmpty
		}
		return m, err
	}
	zipped, err := gzip.NewReader(from)
	if err != nil {
		return m, fmt.Errorf("this is no backup of Nephelon: %w", err)
	}
	conn, err := pgx.Connect(ctx, s.url)
	if err != nil {
		return m, fmt.Errorf("connect to restore: %w", err)
	}
	defer func() { _ = conn.Close(context.WithoutCancel(ctx)) }()
	tx, err := conn.Begin(ctx)
	if err != nil {
		return m, fmt.Errorf("begin to restore: %w", err)
	}
	defer func() { _ = tx.Rollback(context.WithoutCancel(ctx)) }()
	if _, err := tx.Exec(ctx, `set local nephelon.restoring = 'yes'`); err != nil {
		return m, fmt.Errorf("begin to restore: %w", err)
	}
	got := make(map[string]ManifestedTable)
	archive := tar.NewReader(zipped)
	for {
		header, err := archive.Next()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return m, fmt.Errorf("the backup breaks off or is damaged: %w", err)
		}
		if header.Name == manifestName {
			if err := json.NewDecoder(archive).Decode(&m); err != nil {
				return m, fmt.Errorf("the backup breaks off or is damaged, its manifest cannot be read: %w", err)
			}
			continue
		}
		table := strings.TrimSuffix(header.Name, ".copy")
		names, err := columns(ctx, tx, table)
		if err != nil || len(names) == 0 {
			return m,
				errors.Join(fmt.Errorf("the backup holds %q, which this program does not know; restore it with the program that "+
					"made it", table), err)
		}
		sum := sha256.New()
		done, err := conn.PgConn().CopyFrom(ctx, io.TeeReader(archive, sum),
			`copy `+pgx.Identifier{table}.Sanitize()+` (`+strings.Join(names, ", ")+`) from stdin`)
		if err != nil {
			return m, fmt.Errorf("restore %s: %w", table, err)
		}
		got[table] = ManifestedTable{Rows: done.RowsAffected(), Sum: hex.EncodeToString(sum.Sum(nil))}
	}
	if m.Format != backupFormat {
		return m, errors.New("the backup has no manifest: it breaks off; nothing was restored")
	}
	for _, t := range m.Tables {
		g := got[t.Name]
		if g.Rows != t.Rows {
			return m, fmt.Errorf("restore table %s: read %d rows, want %d: the backup is damaged; nothing was restored", t.Name,
				g.Rows, t.Rows)
		}
		if g.Sum != t.Sum {
			return m,
				fmt.Errorf("restore table %s: checksum mismatch: its content was changed since it was written; nothing was "+
					"restored", t.Name)
		}
	}
	if _, err := tx.Exec(ctx, `select setval(pg_get_serial_sequence('audit', 'id'), coalesce((select max(id)
		from audit), 0) + 1, false)`); err != nil {
		return m, fmt.Errorf("number the log on: %w", err)
	}
	if err := tx.Commit(ctx); err != nil {
		return m, fmt.Errorf("keep what was restored: %w", err)
	}
	return m, nil
}
