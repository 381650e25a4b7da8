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

// keptRevisions is the number of saves of a job that are kept.
const keptRevisions = 1000

// Job is a stored job with the state of its last save.
type Job struct {
	ID        uuid.UUID
	Company   uuid.UUID
	File      job.File
	Revision  int64
	Logged    int64 // how many events its record holds, where jobs are listed for the roster
	ChangedBy string
	ChangedAt time.Time
}

// JobLine is a job as it stands in a list. Summary is JSON, nil where none was
// kept yet.
type JobLine struct {
	ID        uuid.UUID  `db:"id"`
	Name      string     `db:"name"`
	Client    string     `db:"client"`
	Site      string     `db:"site"`
	Surfaces  int        `db:"surfaces"`
	ChangedBy string     `db:"changed_by"`
	ChangedAt time.Time  `db:"changed_at"`
	Archived  *time.Time `db:"archived_at"`
	Summary   []byte     `db:"summary"`
}

// Stamp distinguishes one state of a job, of its bookings and of the shelf it is planned with
// from another.
type Stamp struct {
	Revision int64 `db:"revision"`
	Booked   int64 `db:"booked"` // how often its bookings changed
	Logged   int64 `db:"logged"` // how many events its record holds
	Shelf    int64 `db:"shelf_revision"`
}

// Version counts the saves of a job, the changes of its bookings and the events of its record.
func (s Stamp) Version() int64 { return s.Revision + s.Booked + s.Logged }

// counted returns how many events the record of a job j holds.
const counted = `(select count(*) from events e where e.company_id = j.company_id and e.job_id = j.id)`

// Stale means that a job was saved by someone else since the base of a save.
type Stale struct {
	Base   job.File  // what the refused save was made from
	Theirs Job       // what stands now
	SaveID uuid.UUID // of the save that stands now
}

func (s *Stale) Error() string {
	return fmt.Sprintf("changed by %s at %s", s.Theirs.ChangedBy, s.Theirs.ChangedAt.Format(time.RFC3339))
}

const selectJobs = `
	select j.id, j.name, j.client, j.site, j.surfaces, p.name as changed_by, j.changed_at, j.archived_at, j.summary
	from jobs j join people p on p.company_id = j.company_id and p.id = j.changed_by
	where j.company_id = $1 and (j.archived_at is not null) = $3
	  and ($2 = '' or strpos(lower(concat_ws(' ', j.name, j.client, j.site)), lower($2)) > 0)
	order by j.changed_at desc limit 1000`

// Jobs lists a company's jobs whose name, client or site holds the words,
// newest change first.
func (s *Store) Jobs(ctx context.Context, company uuid.UUID, words string, archived bool) ([]JobLine, error) {
	lines := []JobLine{}
	if err := s.db.SelectContext(ctx, &lines, selectJobs, company, words, archived); err != nil {
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
		from jobs j join people p on p.company_id = j.company_id and p.id = j.changed_by
		where j.company_id = $1 and j.id = $2`, company, id)
	if err := found(err, "read job"); err != nil {
		return Job{}, err
	}
	j := Job{ID: id, Company: company, Revision: row.Revision, ChangedBy: row.ChangedBy, ChangedAt: row.ChangedAt}
	if err := json.Unmarshal(row.Doc, &j.File); err != nil {
		return Job{}, fmt.Errorf("decode job %s: %w", id, err)
	}
	return j, nil
}

// Stamp reads which state of a job stands, and with which state of the shelf.
func (s *Store) Stamp(ctx context.Context, company, id uuid.UUID) (Stamp, error) {
	var stamp Stamp
	err := s.db.GetContext(ctx, &stamp, `
		select j.revision, j.booked, `+counted+` as logged, c.shelf_revision from jobs j join companies c on c.id = j.company_id
		where j.company_id = $1 and j.id = $2`, company, id)
	return stamp, found(err, "read stamp")
}

// JobAt reads a job as it was at a revision that is still kept.
func (s *Store) JobAt(ctx context.Context, company, id uuid.UUID, revision int64) (job.File, error) {
	var file job.File
	var doc []byte
	err := s.db.GetContext(ctx, &doc, `
		select doc from job_revisions where company_id = $1 and job_id = $2 and revision = $3`, company, id, revision)
	if err := found(err, "read revision"); err != nil {
		return file, err
	}
	if err := json.Unmarshal(doc, &file); err != nil {
		return file, fmt.Errorf("decode job %s: %w", id, err)
	}
	return file, nil
}

// KeepSummary keeps what a list shows of a job, unless it was changed since.
func (s *Store) KeepSummary(ctx context.Context, company, id uuid.UUID, changed time.Time, summary any) error {
	text, err := json.Marshal(summary)
	if err != nil {
		return fmt.Errorf("encode summary: %w", err)
	}
	if _, err := s.db.ExecContext(ctx, `update jobs set summary = $4 where company_id = $1 and id = $2
		and changed_at = $3`, company, id, changed, text); err != nil {
		return fmt.Errorf("keep summary: %w", err)
	}
	return nil
}

// AddJob stores a new job of the company, with what a list shows of it, and
// returns its id.
func (s *Store) AddJob(ctx context.Context, company, person uuid.UUID, file job.File, summary any) (uuid.UUID, error) {
	id, err := newID()
	if err != nil {
		return id, err
	}
	doc, err := json.Marshal(file)
	if err != nil {
		return id, fmt.Errorf("encode job: %w", err)
	}
	told, err := json.Marshal(summary)
	if err != nil {
		return id, fmt.Errorf("encode summary: %w", err)
	}
	err = s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `insert into jobs (id, company_id, doc, revision, changed_by, summary)
			values ($1, $2, $3, 1, $4, $5)`,
			id, company, doc, person, told); err != nil {
			return fmt.Errorf("add job: %w", err)
		}
		return addRevision(ctx, tx, company, id, 1, id, doc, person)
	})
	return id, err
}

func addRevision(ctx context.Context, tx *sqlx.Tx, company, job uuid.UUID, revision int64, save uuid.UUID, doc []byte,
	person uuid.UUID) error {
	if _, err := tx.ExecContext(ctx, `insert into job_revisions (company_id, job_id, revision, save_id, doc, person_id)
		values ($1, $2, $3, $4, $5, $6)`,
		company, job, revision, save, doc, person); err != nil {
		return fmt.Errorf("add revision: %w", err)
	}
	if _, err := tx.ExecContext(ctx, `delete from job_revisions where company_id = $1 and job_id = $2
		and revision <= $3`, company, job, revision-keptRevisions); err != nil {
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

	Summary any // what a list shows of it
}

// Kept is the state that a save left behind.
type Kept struct {
	Stamp
	At time.Time `db:"changed_at"`
}

// SaveJob keeps a save and returns the state it left. A save whose base is no
// longer the newest fails with *Stale and changes nothing.
func (s *Store) SaveJob(ctx context.Context, company, person uuid.UUID, save Save) (Kept, error) {
	doc, err := json.Marshal(save.File)
	if err != nil {
		return Kept{}, fmt.Errorf("encode job: %w", err)
	}
	told, err := json.Marshal(save.Summary)
	if err != nil {
		return Kept{}, fmt.Errorf("encode summary: %w", err)
	}
	var kept Kept
	err = s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		// A save that was kept already is answered with the state it left then.
		err := tx.GetContext(ctx, &kept, `
			select r.revision, j.booked, `+counted+` as logged, r.at as changed_at, c.shelf_revision
			from job_revisions r join companies c on c.id = r.company_id
			join jobs j on j.company_id = r.company_id and j.id = r.job_id
			where r.company_id = $1 and r.job_id = $2 and r.save_id = $3`, company, save.Job, save.ID)
		if err == nil || !errors.Is(err, sql.ErrNoRows) {
			return found(err, "look for the save")
		}
		err = tx.GetContext(ctx, &kept, `
			update jobs j set doc = $4, revision = revision + 1, changed_by = $5, changed_at = now(), summary = $6
			from companies c
			where c.id = j.company_id and j.company_id = $1 and j.id = $2 and j.revision = $3
			returning j.revision, j.booked, `+counted+` as logged, j.changed_at, c.shelf_revision`, company, save.Job, save.Base, doc, person, told)
		if errors.Is(err, sql.ErrNoRows) {
			return stale(ctx, tx, company, save)
		}
		if err != nil {
			return fmt.Errorf("save job: %w", err)
		}
		if err := addRevision(ctx, tx, company, save.Job, kept.Revision, save.ID, doc, person); err != nil {
			return err
		}
		_, err = tx.ExecContext(ctx, `select pg_notify($1,
			$2)`, changedChannel, fmt.Sprintf("%s %d", save.Job, kept.Version()))
		if err != nil {
			return fmt.Errorf("tell of the save: %w", err)
		}
		return nil
	})
	return kept, err
}

// stale gathers what a refused save needs to be compared with.
func stale(ctx context.Context, tx *sqlx.Tx, company uuid.UUID, save Save) error {
	theirs, err := readJob(ctx, tx, company, save.Job)
	if err != nil {
		return err
	}
	conflict := &Stale{Base: theirs.File, Theirs: theirs}
	if err := tx.GetContext(ctx, &conflict.SaveID, `select save_id from job_revisions where company_id = $1
		and job_id = $2 and revision = $3`, company, save.Job, theirs.Revision); err != nil {
		return fmt.Errorf("read the save that stands: %w", err)
	}
	var doc []byte
	err = tx.GetContext(ctx, &doc, `select doc from job_revisions where company_id = $1 and job_id = $2
		and revision = $3`, company, save.Job, save.Base)
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
