package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"

	"nephelon/core/job"
)

// keptRevisions is how far back a job's saves are kept.
const keptRevisions = 300

// Job is a stored job with the state of its last save.
type Job struct {
	ID        uuid.UUID
	File      job.File
	Revision  int64
	ChangedBy string
	ChangedAt time.Time
}

// JobLine is a job as it stands in a list.
type JobLine struct {
	ID        uuid.UUID `db:"id"`
	Name      string    `db:"name"`
	Client    string    `db:"client"`
	Site      string    `db:"site"`
	Surfaces  int       `db:"surfaces"`
	ChangedBy string    `db:"changed_by"`
	ChangedAt time.Time `db:"changed_at"`
}

// Stale means that a job was saved by someone else since the base of a save.
type Stale struct {
	Base   job.File  // what the refused save was made from
	Theirs Job       // what stands now
	SaveID uuid.UUID // of the save that stands now
}

func (s *Stale) Error() string {
	return fmt.Sprintf("changed by %s at %s", s.Theirs.ChangedBy, s.Theirs.ChangedAt.Format(time.RFC3339))
}

// Jobs lists a company's jobs whose name, client or site holds the words,
// newest change first.
func (s *Store) Jobs(ctx context.Context, company uuid.UUID, words string, archived bool) ([]JobLine, error) {
	lines := []JobLine{}
	err := s.db.SelectContext(ctx, &lines, `
		select j.id, j.name, j.client, j.site, jsonb_array_length(j.doc -> 'job' -> 'surfaces') as surfaces,
		       p.name as changed_by, j.changed_at
		from jobs j join people p on p.id = j.changed_by
		where j.company_id = $1 and (j.archived_at is not null) = $3
		  and ($2 = '' or strpos(lower(concat_ws(' ', j.name, j.client, j.site)), lower($2)) > 0)
		order by j.changed_at desc limit 500`, company, words, archived)
	if err != nil {
		return nil, fmt.Errorf("list jobs: %w", err)
	}
	return lines, nil
}

// Job reads one job of the company.
func (s *Store) Job(ctx context.Context, company, id uuid.UUID) (Job, error) {
	return readJob(ctx, s.db, company, id)
}

func readJob(ctx context.Context, from sqlx.QueryerContext, company, id uuid.UUID) (Job, error) {
	var row struct {
		Doc       []byte    `db:"doc"`
		Revision  int64     `db:"revision"`
		ChangedBy string    `db:"changed_by"`
		ChangedAt time.Time `db:"changed_at"`
	}
	err := sqlx.GetContext(ctx, from, &row, `
		select j.doc, j.revision, p.name as changed_by, j.changed_at
		from jobs j join people p on p.id = j.changed_by
		where j.company_id = $1 and j.id = $2`, company, id)
	if err := found(err, "read job"); err != nil {
		return Job{}, err
	}
	j := Job{ID: id, Revision: row.Revision, ChangedBy: row.ChangedBy, ChangedAt: row.ChangedAt}
	if err := json.Unmarshal(row.Doc, &j.File); err != nil {
		return Job{}, fmt.Errorf("decode job %s: %w", id, err)
	}
	return j, nil
}

// AddJob stores a new job of the company and returns its id.
func (s *Store) AddJob(ctx context.Context, company, person uuid.UUID, file job.File) (uuid.UUID, error) {
	id, err := newID()
	if err != nil {
		return id, err
	}
	doc, err := json.Marshal(file)
	if err != nil {
		return id, fmt.Errorf("encode job: %w", err)
	}
	err = s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `insert into jobs (id, company_id, doc, revision, changed_by) values ($1, $2, $3, 1, $4)`,
			id, company, doc, person); err != nil {
			return fmt.Errorf("add job: %w", err)
		}
		return addRevision(ctx, tx, id, 1, id, doc, person)
	})
	return id, err
}

func addRevision(ctx context.Context, tx *sqlx.Tx, job uuid.UUID, revision int64, save uuid.UUID, doc []byte, person uuid.UUID) error {
	if _, err := tx.ExecContext(ctx, `insert into job_revisions (job_id, revision, save_id, doc, person_id) values ($1, $2, $3, $4, $5)`,
		job, revision, save, doc, person); err != nil {
		return fmt.Errorf("add revision: %w", err)
	}
	if _, err := tx.ExecContext(ctx, `delete from job_revisions where job_id = $1 and revision <= $2`, job, revision-keptRevisions); err != nil {
		return fmt.Errorf("forget old revisions: %w", err)
	}
	return nil
}

// Save is one change of a job.
type Save struct {
	Job  uuid.UUID
	Base int64     // the revision it was made from
	ID   uuid.UUID // made by the client; a save sent twice is kept once
	File job.File
}

// SaveJob keeps a save and returns the new revision. A save whose base is no
// longer the newest fails with *Stale and changes nothing.
func (s *Store) SaveJob(ctx context.Context, company, person uuid.UUID, save Save) (int64, error) {
	doc, err := json.Marshal(save.File)
	if err != nil {
		return 0, fmt.Errorf("encode job: %w", err)
	}
	next := save.Base + 1
	err = s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		var kept int64
		err := tx.GetContext(ctx, &kept, `
			select r.revision from job_revisions r join jobs j on j.id = r.job_id
			where j.company_id = $1 and r.job_id = $2 and r.save_id = $3`, company, save.Job, save.ID)
		if err == nil {
			next = kept
			return nil
		}
		if !errors.Is(err, sql.ErrNoRows) {
			return fmt.Errorf("look for the save: %w", err)
		}
		done, err := tx.ExecContext(ctx, `
			update jobs set doc = $4, revision = revision + 1, changed_by = $5, changed_at = now()
			where company_id = $1 and id = $2 and revision = $3`, company, save.Job, save.Base, doc, person)
		if err != nil {
			return fmt.Errorf("save job: %w", err)
		}
		if n, err := done.RowsAffected(); err != nil {
			return fmt.Errorf("save job: %w", err)
		} else if n == 0 {
			return stale(ctx, tx, company, save)
		}
		if err := addRevision(ctx, tx, save.Job, next, save.ID, doc, person); err != nil {
			return err
		}
		_, err = tx.ExecContext(ctx, `select pg_notify($1, $2)`, changedChannel, fmt.Sprintf("%s %d", save.Job, next))
		if err != nil {
			return fmt.Errorf("tell of the save: %w", err)
		}
		return nil
	})
	return next, err
}

// stale gathers what a refused save needs to be compared with.
func stale(ctx context.Context, tx *sqlx.Tx, company uuid.UUID, save Save) error {
	theirs, err := readJob(ctx, tx, company, save.Job)
	if err != nil {
		return err
	}
	conflict := &Stale{Base: theirs.File, Theirs: theirs}
	if err := tx.GetContext(ctx, &conflict.SaveID, `select save_id from job_revisions where job_id = $1 and revision = $2`, save.Job, theirs.Revision); err != nil {
		return fmt.Errorf("read the save that stands: %w", err)
	}
	var doc []byte
	err = tx.GetContext(ctx, &doc, `select doc from job_revisions where job_id = $1 and revision = $2`, save.Job, save.Base)
	if err == nil {
		// A fresh file: decoding into one that shares slices with theirs would
		// write through to it.
		conflict.Base = job.File{}
		err = json.Unmarshal(doc, &conflict.Base)
	}
	if err != nil && !errors.Is(err, sql.ErrNoRows) {
		return fmt.Errorf("read the base of a stale save: %w", err)
	}
	return conflict
}

// ArchiveJob takes a job of the company off the list, or puts it back.
func (s *Store) ArchiveJob(ctx context.Context, company, id uuid.UUID, archived bool) error {
	return s.changeOne(ctx, "archive job", `
		update jobs set archived_at = case when $3 then now() end where company_id = $1 and id = $2`, company, id, archived)
}
