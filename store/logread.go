package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"
	"golang.org/x/mod/sumdb/tlog"

	"nephelon/core/record"
	"nephelon/core/record/ledger"
)

// keptRows are the documents of records as they are kept.
type keptRows struct {
	events []struct {
		ID       string    `db:"id"`
		Job      string    `db:"job_id"`
		Person   string    `db:"person_id"`
		Hash     string    `db:"hash"`
		Received time.Time `db:"received_at"`
		Signer   string    `db:"signer"`
		Doc      []byte    `db:"doc"`
	}
	plans []struct {
		Job    string    `db:"job_id"`
		Number int       `db:"number"`
		Person string    `db:"person_id"`
		At     time.Time `db:"at"`
		Signer string    `db:"signer"`
		Doc    []byte    `db:"doc"`
	}
	photos []struct {
		ID     string    `db:"id"`
		Job    string    `db:"job_id"`
		Person string    `db:"added_by"`
		At     time.Time `db:"added_at"`
		Hash   string    `db:"hash"`
	}
}

// kept reads what a company, or one of its jobs, keeps of records.
func kept(ctx context.Context, q sqlx.QueryerContext, company uuid.UUID, job uuid.NullUUID) (keptRows, error) {
	var k keptRows
	const of = ` where t.company_id = $1 and ($2::uuid is null or t.job_id = $2) order by `
	err := errors.Join(
		sqlx.SelectContext(ctx, q, &k.events, `select t.id, t.job_id, t.person_id, coalesce(t.doc ->> 'hash', '') as hash,
			t.received_at, p.name as signer, t.doc from events t join people p on p.company_id = t.company_id
			and p.id = t.person_id`+of+`t.received_at, t.device, t.number`, company, job),
		sqlx.SelectContext(ctx, q, &k.plans, `select t.job_id, t.number, t.person_id, t.at, p.name as signer, t.doc
			from issues t join people p on p.company_id = t.company_id and p.id = t.person_id`+of+`t.job_id,
			t.number desc`, company, job),
		sqlx.SelectContext(ctx, q, &k.photos, `select t.id, t.job_id, t.added_by, t.added_at,
			encode(sha256(t.image), 'hex') as hash from photos t`+of+`t.added_at, t.id`, company, job))
	if err != nil {
		return k, fmt.Errorf("read the records: %w", err)
	}
	return k, nil
}

// evidence puts what is kept into the form that a check reads.
func (k keptRows) evidence() ledger.Evidence {
	var e ledger.Evidence
	for _, r := range k.events {
		e.Events = append(e.Events, ledger.HeldEvent{Job: r.Job, Person: r.Person, Received: r.Received, Doc: r.Doc})
	}
	for _, r := range k.plans {
		e.Plans = append(e.Plans, ledger.HeldPlan{Job: r.Job, Number: r.Number, Doc: r.Doc})
	}
	for _, r := range k.photos {
		e.Photos = append(e.Photos, ledger.HeldPhoto{Job: r.Job, ID: r.ID, Hash: r.Hash})
	}
	return e
}

const selectLog = `select entry from log_entries where company_id = $1 and ($2::uuid is null or job_id = $2)
	order by number`

const selectHeads = `select note from log_heads where company_id = $1 order by size`

func entriesOf(ctx context.Context, q sqlx.QueryerContext, company uuid.UUID, job uuid.NullUUID) ([]ledger.Entry,
	error) {
	var docs [][]byte
	if err := sqlx.SelectContext(ctx, q, &docs, selectLog, company, job); err != nil {
		return nil, fmt.Errorf("read the log: %w", err)
	}
	entries := make([]ledger.Entry, len(docs))
	for n, doc := range docs {
		if err := json.Unmarshal(doc, &entries[n]); err != nil {
			return nil, fmt.Errorf("decode an entry of the log: %w", err)
		}
	}
	return entries, nil
}

// Evidence reads all that a check of a company's records looks at, as it stands at one moment.
func (s *Store) Evidence(ctx context.Context, company uuid.UUID) (ledger.Evidence, error) {
	tx, err := s.db.BeginTxx(ctx, readOneMoment())
	if err != nil {
		return ledger.Evidence{}, fmt.Errorf("begin to read the records: %w", err)
	}
	defer func() { _ = tx.Rollback() }()
	return evidenceOf(ctx, tx, company)
}

func evidenceOf(ctx context.Context, tx *sqlx.Tx, company uuid.UUID) (ledger.Evidence, error) {
	rows, err := kept(ctx, tx, company, uuid.NullUUID{})
	if err != nil {
		return ledger.Evidence{}, err
	}
	e := rows.evidence()
	if e.Entries, err = entriesOf(ctx, tx, company, uuid.NullUUID{}); err != nil {
		return e, err
	}
	if err := tx.SelectContext(ctx, &e.Heads, selectHeads, company); err != nil {
		return e, fmt.Errorf("read the heads of a log: %w", err)
	}
	return e, nil
}

// Documents are the issued plans and events of a job as they are kept, each with who it is by and
// when it came, and the part of the log that is about them.
type Documents struct {
	Plans  []json.RawMessage
	Events []json.RawMessage
	Log    ledger.Part
}

// beside returns a document with members that are not kept in it.
func beside(doc []byte, members map[string]any) (json.RawMessage, error) {
	var all map[string]json.RawMessage
	if err := json.Unmarshal(doc, &all); err != nil {
		return nil, fmt.Errorf("decode a document of a record: %w", err)
	}
	for name, value := range members {
		text, err := json.Marshal(value)
		if err != nil {
			return nil, fmt.Errorf("encode %s of a document: %w", name, err)
		}
		all[name] = text
	}
	return json.Marshal(all)
}

// Documents reads the record of a job as it is kept, at one moment.
func (s *Store) Documents(ctx context.Context, company, job uuid.UUID) (Documents, error) {
	var d Documents
	tx, err := s.db.BeginTxx(ctx, readOneMoment())
	if err != nil {
		return d, fmt.Errorf("begin to read a record: %w", err)
	}
	defer func() { _ = tx.Rollback() }()
	of := uuid.NullUUID{UUID: job, Valid: true}
	rows, err := kept(ctx, tx, company, of)
	if err != nil {
		return d, err
	}
	for _, r := range rows.plans {
		sum, err := record.PlanSum(r.Doc)
		if err != nil {
			return d, err
		}
		doc, err := beside(r.Doc, map[string]any{"by": r.Signer, "hash": sum})
		if err != nil {
			return d, err
		}
		d.Plans = append(d.Plans, doc)
	}
	for _, r := range rows.events {
		doc, err := beside(r.Doc, map[string]any{"name": r.Signer, "received": r.Received.UTC()})
		if err != nil {
			return d, err
		}
		d.Events = append(d.Events, doc)
	}
	d.Log, err = s.jobLog(ctx, tx, company, of)
	return d, err
}

// jobLog proves the entries of a job against the log as it was when the last of them was made, and
// signs how many there are: the same entries give the same bytes.
func (s *Store) jobLog(ctx context.Context, tx *sqlx.Tx, company uuid.UUID, job uuid.NullUUID) (ledger.Part, error) {
	l := ledger.Part{Job: job.UUID.String(), Keys: []string{}, Entries: []ledger.Entry{}, Proofs: [][]string{}}
	var err error
	if l.Entries, err = entriesOf(ctx, tx, company, job); err != nil || len(l.Entries) == 0 || s.signer == nil {
		return l, err
	}
	if err := tx.SelectContext(ctx, &l.Keys, `select entry ->> 'item' from log_entries where company_id = $1
		and entry ->> 'kind' = 'key' order by number`, company); err != nil {
		return l, fmt.Errorf("read the keys of a log: %w", err)
	}
	last := l.Entries[len(l.Entries)-1]
	size := last.Number + 1
	h, err := headOf(ctx, tx, company, size)
	if err != nil {
		return l, err
	}
	h.At, h.Job, h.Of = last.At, job.UUID.String(), int64(len(l.Entries))
	if l.Head, err = h.Sign(s.signer); err != nil {
		return l, err
	}
	reader := remembering(hashesOf(ctx, tx, company, nil))
	for _, e := range l.Entries {
		proof, err := tlog.ProveRecord(size, e.Number, reader)
		if err != nil {
			return l, fmt.Errorf("prove an entry of the log: %w", err)
		}
		l.Proofs = append(l.Proofs, ledger.Texts(proof))
	}
	return l, nil
}

// remembering asks for each hash once.
func remembering(from tlog.HashReader) tlog.HashReader {
	known := make(map[int64]tlog.Hash)
	return tlog.HashReaderFunc(func(indexes []int64) ([]tlog.Hash, error) {
		var missing []int64
		for _, at := range indexes {
			if _, is := known[at]; !is {
				missing = append(missing, at)
			}
		}
		if len(missing) > 0 {
			read, err := from.ReadHashes(missing)
			if err != nil {
				return nil, err
			}
			for n, at := range missing {
				known[at] = read[n]
			}
		}
		out := make([]tlog.Hash, len(indexes))
		for n, at := range indexes {
			out[n] = known[at]
		}
		return out, nil
	})
}
