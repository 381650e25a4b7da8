package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"

	"nephelon/core/record/ledger"
)

// Photo is a picture of a surface as it stands in a list.
type Photo struct {
	ID      uuid.UUID `db:"id"`
	Surface string    `db:"surface_id"`
	Caption string    `db:"caption"`
	AddedBy string    `db:"added_by"`
	AddedAt time.Time `db:"added_at"`
}

// MaxPhotos limits how many photographs a job can hold.
const MaxPhotos = 200

// ErrTooManyPhotos means that a job holds as many pictures as it can.
var ErrTooManyPhotos = fmt.Errorf("a job holds at most %d photographs", MaxPhotos)

// Photos lists the pictures of a job, oldest first.
func (s *Store) Photos(ctx context.Context, company, job uuid.UUID) ([]Photo, error) {
	var there bool
	if err := found(s.db.GetContext(ctx, &there, `select true from jobs where company_id = $1
		and id = $2`, company, job), "read job"); err != nil {
		return nil, err
	}
	photos := []Photo{}
	err := s.db.SelectContext(ctx, &photos, `
		select f.id, f.surface_id, f.caption, p.name as added_by, f.added_at
		from photos f join people p on p.company_id = f.company_id and p.id = f.added_by
		where f.company_id = $1 and f.job_id = $2 and f.removed_at is null
		order by f.added_at, f.id`, company, job)
	if err != nil {
		return nil, fmt.Errorf("list photos: %w", err)
	}
	return photos, nil
}

// AddPhoto stores a picture of a surface of one of the company's jobs, under an id that it
// is known by or else a new one. One that is there already is left as it is.
func (s *Store) AddPhoto(ctx context.Context, company, person, job, id uuid.UUID, surface string, image,
	thumb []byte) (uuid.UUID, error) {
	if id == uuid.Nil {
		var err error
		if id, err = newID(); err != nil {
			return id, err
		}
	}
	held, err := s.Photos(ctx, company, job)
	if err != nil {
		return id, err
	}
	if len(held) >= MaxPhotos {
		return id, ErrTooManyPhotos
	}
	err = s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		entries, err := forgetPhotos(ctx, tx, company)
		if err != nil {
			return err
		}
		now := time.Now().UTC().Truncate(time.Millisecond)
		added, err := tx.ExecContext(ctx, `
			insert into photos (id, company_id, job_id, surface_id, image, thumb, added_by, added_at)
			values ($1, $2, $3, $4, $5, $6, $7, $8) on conflict do nothing`,
			id, company, job, surface, image, thumb, person, now)
		if err != nil {
			return fmt.Errorf("add photo: %w", err)
		}
		if n, err := added.RowsAffected(); err == nil && n > 0 {
			sum := sha256.Sum256(image)
			entries = append(entries, ledger.Entry{Kind: ledger.Photo, Job: job.String(), Item: id.String(),
				Person: person.String(), Hash: hex.EncodeToString(sum[:]), At: now})
		}
		return s.enter(ctx, tx, company, entries...)
	})
	return id, err
}

// forgetPhotos deletes what was taken out of jobs long ago and is in no record, and returns the
// entries of the log that say so.
func forgetPhotos(ctx context.Context, tx *sqlx.Tx, company uuid.UUID) ([]ledger.Entry, error) {
	var gone []struct {
		ID  string `db:"id"`
		Job string `db:"job_id"`
	}
	if err := tx.SelectContext(ctx, &gone, `delete from photos f where company_id = $1
		and removed_at < now() - interval '30 days' and not exists (select from events e where e.company_id = f.company_id
		and e.job_id = f.job_id and e.doc -> 'body' ->> 'photo' = f.id::text) returning id, job_id`,
		company); err != nil {
		return nil, fmt.Errorf("forget removed photos: %w", err)
	}
	entries := make([]ledger.Entry, len(gone))
	for n, p := range gone {
		entries[n] = ledger.Entry{Kind: ledger.Gone, Job: p.Job, Item: p.ID, At: time.Now().UTC()}
	}
	return entries, nil
}

// PhotoImage reads a picture, or its small copy.
func (s *Store) PhotoImage(ctx context.Context, company, id uuid.UUID, small bool) ([]byte, error) {
	var image []byte
	err := s.db.GetContext(ctx, &image, `select case when $3 then thumb else image end from photos where company_id = $1
		and id = $2 and removed_at is null`, company, id, small)
	return image, found(err, "read photo")
}

// CaptionPhoto writes what a picture shows.
func (s *Store) CaptionPhoto(ctx context.Context, company, id uuid.UUID, caption string) error {
	return s.changeOne(ctx, "change photo", `update photos set caption = $3 where company_id = $1
		and id = $2`, company, id, caption)
}

// RemovePhoto hides a picture of its job, or shows it again; only one that a person added
// themselves, where somebody is named.
func (s *Store) RemovePhoto(ctx context.Context, company, id uuid.UUID, removed bool, own uuid.NullUUID) error {
	return s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		var job string
		if err := found(tx.GetContext(ctx, &job, `update photos set removed_at = case when $3 then now() end
			where company_id = $1 and id = $2 and ($4::uuid is null or added_by = $4) returning job_id`, company, id, removed,
			own), "change photo"); err != nil || !removed {
			return err
		}
		return s.enter(ctx, tx, company, ledger.Entry{Kind: ledger.Hidden, Job: job, Item: id.String(),
			At: time.Now().UTC()})
	})
}
