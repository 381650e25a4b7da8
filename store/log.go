package store

import (
	"cmp"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"time"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"
	"golang.org/x/mod/sumdb/note"
	"golang.org/x/mod/sumdb/tlog"

	"nephelon/core/record"
	"nephelon/core/record/ledger"
)

// SignWith signs the heads of every company's log with a key from now on; verifier is its public
// part, which each log names.
func (s *Store) SignWith(signer note.Signer, verifier string) {
	s.signer, s.verifier = signer, verifier
}

// hashesOf reads hashes of a company's tree, those that are not kept yet from more.
func hashesOf(ctx context.Context, q sqlx.QueryerContext, company uuid.UUID,
	more map[int64]tlog.Hash) tlog.HashReader {
	return tlog.HashReaderFunc(func(indexes []int64) ([]tlog.Hash, error) {
		missing := slices.DeleteFunc(slices.Clone(indexes), func(at int64) bool {
			_, is := more[at]
			return is
		})
		if len(missing) == 0 {
			return inMemory(more).ReadHashes(indexes)
		}
		var rows []struct {
			Index int64  `db:"index"`
			Hash  []byte `db:"hash"`
		}
		if err := sqlx.SelectContext(ctx, q, &rows, `select index, hash from log_hashes where company_id = $1
			and index = any($2)`, company, missing); err != nil {
			return nil, fmt.Errorf("read the tree of a log: %w", err)
		}
		kept := make(map[int64]tlog.Hash, len(rows))
		for _, r := range rows {
			kept[r.Index] = tlog.Hash(r.Hash)
		}
		out := make([]tlog.Hash, len(indexes))
		for n, at := range indexes {
			hash, is := kept[at]
			if !is {
				hash, is = more[at]
			}
			if !is {
				return nil, fmt.Errorf("the tree of a log lacks hash %d", at)
			}
			out[n] = hash
		}
		return out, nil
	})
}

// enter adds entries to the log of a company, in the transaction that keeps what they are about,
// and signs the new head. Whoever else adds to it waits. The first time it begins the log, with
// all that is kept already.
func (s *Store) enter(ctx context.Context, tx *sqlx.Tx, company uuid.UUID, entries ...ledger.Entry) error {
	if _, err := tx.ExecContext(ctx, `select pg_advisory_xact_lock(hashtextextended($1, 0))`,
		"log "+company.String()); err != nil {
		return fmt.Errorf("wait for others who add to the log: %w", err)
	}
	var size int64
	if err := tx.GetContext(ctx, &size, `select coalesce(max(number), -1) + 1 from log_entries
		where company_id = $1`, company); err != nil {
		return fmt.Errorf("read the size of a log: %w", err)
	}
	now := time.Now().UTC().Truncate(time.Millisecond)
	if size == 0 {
		id, err := newID()
		if err != nil {
			return err
		}
		if entries, err = s.before(ctx, tx, company); err != nil {
			return err
		}
		entries = slices.Insert(entries, 0, ledger.Entry{Kind: ledger.Begun, Item: id.String(), At: now})
	}
	if s.signer != nil {
		var key string
		err := tx.GetContext(ctx, &key, `select entry ->> 'item' from log_entries where company_id = $1
			and entry ->> 'kind' = 'key' order by number desc limit 1`, company)
		if err != nil && !errors.Is(err, sql.ErrNoRows) {
			return fmt.Errorf("read the key of a log: %w", err)
		}
		if key != s.verifier {
			entries = append(entries, ledger.Entry{Kind: ledger.Key, Item: s.verifier, At: now})
		}
	}
	if len(entries) > 0 {
		if err := s.number(ctx, tx, company, size, entries); err != nil {
			return err
		}
	}
	return s.sign(ctx, tx, company, size+int64(len(entries)), now)
}

// number gives entries their places and keeps them with the hashes of the tree.
func (s *Store) number(ctx context.Context, tx *sqlx.Tx, company uuid.UUID, size int64, entries []ledger.Entry) error {
	jobs := make(map[string]int64)
	for _, e := range entries {
		jobs[e.Job] = 0
	}
	delete(jobs, "")
	ids := make([]string, 0, len(jobs))
	for job := range jobs {
		ids = append(ids, job)
	}
	var counted []struct {
		Job string `db:"job_id"`
		Of  int64  `db:"of"`
	}
	if err := tx.SelectContext(ctx, &counted, `select job_id, max(of_job) as of from log_entries where company_id = $1
		and job_id = any($2::uuid[]) group by job_id`, company, list(ids)); err != nil {
		return fmt.Errorf("count the entries of a job: %w", err)
	}
	for _, c := range counted {
		jobs[c.Job] = c.Of
	}
	more := make(map[int64]tlog.Hash)
	numbers, texts, of, named := make([]int64, len(entries)), make([]string, len(entries)), make([]sql.NullInt64,
		len(entries)), make([]sql.NullString, len(entries))
	for n := range entries {
		e := &entries[n]
		e.Number = size + int64(n)
		if e.Job != "" {
			jobs[e.Job]++
			e.Of = jobs[e.Job]
		}
		text, err := e.Text()
		if err != nil {
			return fmt.Errorf("write an entry of the log: %w", err)
		}
		numbers[n], texts[n] = e.Number, string(text)
		of[n], named[n] = sql.NullInt64{Int64: e.Of, Valid: e.Of > 0}, sql.NullString{String: e.Job, Valid: e.Job != ""}
		if err := grow(more, e.Number, text, hashesOf(ctx, tx, company, more)); err != nil {
			return err
		}
	}
	if _, err := tx.ExecContext(ctx, insertEntries, company, numbers, named, of, texts); err != nil {
		return fmt.Errorf("add to the log: %w", err)
	}
	return keepHashes(ctx, tx, company, more)
}

const insertEntries = `insert into log_entries (company_id, number, job_id, of_job, entry)
	select $1, n, j::uuid, o, t::jsonb from unnest($2::bigint[], $3::text[], $4::bigint[], $5::text[]) x (n, j, o, t)`

// grow adds the hashes of one more entry to a tree.
func grow(tree map[int64]tlog.Hash, number int64, text []byte, known tlog.HashReader) error {
	more, err := tlog.StoredHashes(number, text, known)
	if err != nil {
		return fmt.Errorf("add to the tree of a log: %w", err)
	}
	for k, hash := range more {
		tree[tlog.StoredHashIndex(0, number)+int64(k)] = hash
	}
	return nil
}

// inMemory reads hashes of a tree that is all in memory.
func inMemory(tree map[int64]tlog.Hash) tlog.HashReader {
	return tlog.HashReaderFunc(func(indexes []int64) ([]tlog.Hash, error) {
		out := make([]tlog.Hash, len(indexes))
		for n, at := range indexes {
			out[n] = tree[at]
		}
		return out, nil
	})
}

func keepHashes(ctx context.Context, tx *sqlx.Tx, company uuid.UUID, more map[int64]tlog.Hash) error {
	indexes, hashes := make([]int64, 0, len(more)), make([][]byte, 0, len(more))
	for at, hash := range more {
		indexes, hashes = append(indexes, at), append(hashes, hash[:])
	}
	if _, err := tx.ExecContext(ctx, `insert into log_hashes (company_id, index, hash)
		select $1, i, h from unnest($2::bigint[], $3::bytea[]) x (i, h)`, company, indexes, hashes); err != nil {
		return fmt.Errorf("add to the tree of a log: %w", err)
	}
	return nil
}

// headsApart is the time between two heads that are kept with a log.
const headsApart = time.Hour

// sign keeps the signed head of a log at a size, where there is a key and the last one is old.
func (s *Store) sign(ctx context.Context, tx *sqlx.Tx, company uuid.UUID, size int64, now time.Time) error {
	if s.signer == nil || size == 0 {
		return nil
	}
	var young bool
	if err := tx.GetContext(ctx, &young, `select exists (select from log_heads where company_id = $1
		and made_at > $2)`, company, now.Add(-headsApart)); err != nil {
		return fmt.Errorf("read the heads of a log: %w", err)
	}
	if young {
		return nil
	}
	text, err := s.signed(ctx, tx, company, size, now)
	if err != nil {
		return err
	}
	if _, err := tx.ExecContext(ctx, `insert into log_heads (company_id, size, note, made_at) values ($1, $2, $3, $4)
		on conflict do nothing`, company, size, text, now); err != nil {
		return fmt.Errorf("keep a head of the log: %w", err)
	}
	return nil
}

// signed returns the signed head of a log at a size.
func (s *Store) signed(ctx context.Context, q sqlx.QueryerContext, company uuid.UUID, size int64,
	now time.Time) (string, error) {
	h, err := headOf(ctx, q, company, size)
	if err != nil {
		return "", err
	}
	h.At = now
	return h.Sign(s.signer)
}

// headOf returns the head of a log at a size, without its time.
func headOf(ctx context.Context, q sqlx.QueryerContext, company uuid.UUID, size int64) (ledger.Head, error) {
	h := ledger.Head{Size: size}
	if err := sqlx.GetContext(ctx, q, &h.Log, `select entry ->> 'item' from log_entries where company_id = $1
		and number = 0`, company); err != nil {
		return h, fmt.Errorf("read the id of a log: %w", err)
	}
	var err error
	if h.Root, err = tlog.TreeHash(size, hashesOf(ctx, q, company, nil)); err != nil {
		return h, fmt.Errorf("read the root of a log: %w", err)
	}
	return h, nil
}

// before returns entries for everything that a company keeps while it has no log yet, in the
// order in which it came.
func (s *Store) before(ctx context.Context, tx *sqlx.Tx, company uuid.UUID) ([]ledger.Entry, error) {
	kept, err := kept(ctx, tx, company, uuid.NullUUID{})
	if err != nil {
		return nil, err
	}
	entries := make([]ledger.Entry, 0, len(kept.events)+len(kept.plans)+len(kept.photos))
	for _, e := range kept.events {
		entries = append(entries, ledger.Entry{Kind: ledger.Event, Job: e.Job, Item: e.ID, Person: e.Person, Hash: e.Hash,
			At: e.Received})
	}
	for _, p := range kept.plans {
		sum, err := record.PlanSum(p.Doc)
		if err != nil {
			return nil, err
		}
		entries = append(entries, ledger.Entry{Kind: ledger.Plan, Job: p.Job, Item: strconv.Itoa(p.Number), Hash: sum,
			Person: p.Person, At: p.At})
	}
	for _, p := range kept.photos {
		entries = append(entries, ledger.Entry{Kind: ledger.Photo, Job: p.Job, Item: p.ID, Hash: p.Hash, Person: p.Person,
			At: p.At})
	}
	for n := range entries {
		entries[n].At = entries[n].At.UTC().Truncate(time.Millisecond)
	}
	slices.SortStableFunc(entries, func(a, b ledger.Entry) int { return cmp.Compare(a.At.UnixNano(), b.At.UnixNano()) })
	return entries, nil
}

// CheckedRecords is the line of the audit log that a check of a company's records leaves.
const CheckedRecords = "records checked"

// Unchecked lists the companies that have a log and whose records were not checked since a time.
func (s *Store) Unchecked(ctx context.Context, since time.Time) ([]uuid.UUID, error) {
	due := []uuid.UUID{}
	if err := s.db.SelectContext(ctx, &due, `select c.id from companies c
		where exists (select from log_entries l where l.company_id = c.id and l.number = 0)
		and not exists (select from audit a where a.company_id = c.id and a.at > $1 and a.what = $2)
		order by c.id`, since, CheckedRecords); err != nil {
		return nil, fmt.Errorf("list companies to check: %w", err)
	}
	return due, nil
}

// Head returns the signed head of a company's log as it is now, with a proof that it continues the
// one of an earlier size, if that is above 0. It is empty where there is no log or no key.
func (s *Store) Head(ctx context.Context, company uuid.UUID, from int64) (text string, proof []tlog.Hash, err error) {
	var size int64
	if err := s.db.GetContext(ctx, &size, `select coalesce(max(number), -1) + 1 from log_entries
		where company_id = $1`, company); err != nil {
		return "", nil, fmt.Errorf("read the size of a log: %w", err)
	}
	if size == 0 || s.signer == nil {
		return "", nil, nil
	}
	if text, err = s.signed(ctx, s.db, company, size, time.Now().UTC()); err != nil || from <= 0 || from >= size {
		return text, nil, err
	}
	if proof, err = tlog.ProveTree(size, from, hashesOf(ctx, s.db, company, nil)); err != nil {
		return text, nil, fmt.Errorf("prove that a log goes on: %w", err)
	}
	return text, proof, nil
}
