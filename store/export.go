package store

import (
	"archive/zip"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"time"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"

	"nephelon/core/record/ledger"
)

// All data of a company is one zip of open formats: plan files, a shelf file, JSON and JPEG.
// Nothing in it lets anybody sign in.
const (
	companyFormat  = "nephelon-company"
	companyVersion = 2
	shelfFormat    = "nephelon-shelf" // as package exchange reads it
	mostOfFile     = 32 << 20         // bytes of one file of an archive
)

// archivedCompany is company.json.
type archivedCompany struct {
	Format   string          `json:"format"`
	Version  int             `json:"version"`
	Name     string          `json:"name"`
	At       time.Time       `json:"at"`
	House    json.RawMessage `json:"house"`
	Bookings json.RawMessage `json:"bookings"`
	BookedBy *uuid.UUID      `json:"bookedBy,omitempty"`
}

type archivedPerson struct {
	ID     uuid.UUID `json:"id" db:"id"`
	Name   string    `json:"name" db:"name"`
	Email  string    `json:"email" db:"email"`
	Role   string    `json:"role" db:"role"`
	Units  string    `json:"units" db:"units"`
	Clock  string    `json:"clock,omitempty" db:"clock"`
	Active bool      `json:"active" db:"active"`
}

type archivedEdition struct {
	Shelf      string          `json:"shelf" db:"shelf"`
	ID         string          `json:"id" db:"id"`
	Version    int             `json:"version" db:"version"`
	Sheet      json.RawMessage `json:"sheet" db:"doc"`
	ChangedBy  *uuid.UUID      `json:"changedBy,omitempty" db:"changed_by"`
	ChangedAt  time.Time       `json:"changedAt" db:"changed_at"`
	ArchivedAt *time.Time      `json:"archivedAt,omitempty" db:"archived_at"`
	Newest     bool            `json:"newest" db:"newest"`
}

type archivedDoc struct {
	ID     string          `json:"id" db:"id"`
	Doc    json.RawMessage `json:"doc" db:"doc"`
	GoneAt *time.Time      `json:"goneAt,omitempty" db:"gone_at"`
}

type archivedJob struct {
	ID         uuid.UUID  `json:"id" db:"id"`
	Revision   int64      `json:"revision" db:"revision"`
	ChangedBy  uuid.UUID  `json:"changedBy" db:"changed_by"`
	ChangedAt  time.Time  `json:"changedAt" db:"changed_at"`
	ArchivedAt *time.Time `json:"archivedAt,omitempty" db:"archived_at"`
}

// archivedRecord holds what was issued and logged of a job.
type archivedRecord struct {
	Issues []archivedIssue `json:"issues"`
	Events []archivedEvent `json:"events"`
}

type archivedIssue struct {
	Number int             `json:"number" db:"number"`
	Save   uuid.UUID       `json:"save" db:"save_id"`
	Person uuid.UUID       `json:"person" db:"person_id"`
	At     time.Time       `json:"at" db:"at"`
	Plan   json.RawMessage `json:"plan" db:"doc"`
}

type archivedEvent struct {
	ID         uuid.UUID       `json:"id" db:"id"`
	Device     string          `json:"device" db:"device"`
	Number     int64           `json:"number" db:"number"`
	Person     uuid.UUID       `json:"person" db:"person_id"`
	ReceivedAt time.Time       `json:"receivedAt" db:"received_at"`
	Event      json.RawMessage `json:"event" db:"doc"`
}

type archivedPhoto struct {
	ID      uuid.UUID `json:"id" db:"id"`
	Job     uuid.UUID `json:"job" db:"job_id"`
	Surface string    `json:"surface" db:"surface_id"`
	Caption string    `json:"caption" db:"caption"`
	AddedBy uuid.UUID `json:"addedBy" db:"added_by"`
	AddedAt time.Time `json:"addedAt" db:"added_at"`

	HiddenAt *time.Time `json:"hiddenAt,omitempty" db:"removed_at"`
}

// archivedLog is the log of a company's records.
type archivedLog struct {
	Entries []ledger.Entry `json:"entries"`
	Heads   []string       `json:"heads"`
}

type archivedDone struct {
	At     time.Time  `json:"at" db:"at"`
	Person *uuid.UUID `json:"person,omitempty" db:"person_id"`
	What   string     `json:"what" db:"what"`
	About  string     `json:"about" db:"about"`
}

// rowsOf reads rows of a company.
func rowsOf[T any](ctx context.Context, tx *sqlx.Tx, query string, args ...any) ([]T, error) {
	rows := []T{}
	if err := tx.SelectContext(ctx, &rows, query, args...); err != nil {
		return nil, fmt.Errorf("read for an archive: %w", err)
	}
	return rows, nil
}

// Export writes all data of a company as one archive, as they stood at one moment.
func (s *Store) Export(ctx context.Context, company uuid.UUID, to io.Writer) error {
	tx, err := s.db.BeginTxx(ctx, readOneMoment())
	if err != nil {
		return fmt.Errorf("begin an archive: %w", err)
	}
	defer func() { _ = tx.Rollback() }()
	z := zip.NewWriter(to)
	if err := export(ctx, tx, company, z); err != nil {
		return err
	}
	if err := z.Close(); err != nil {
		return fmt.Errorf("end an archive: %w", err)
	}
	return nil
}

func put(z *zip.Writer, name string, content any) error {
	text, raw := content.([]byte)
	if !raw {
		var err error
		if text, err = json.MarshalIndent(content, "", " "); err != nil {
			return fmt.Errorf("encode %s: %w", name, err)
		}
	}
	w, err := z.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Deflate, Modified: time.Now()})
	if err != nil {
		return fmt.Errorf("write %s: %w", name, err)
	}
	if _, err := w.Write(text); err != nil {
		return fmt.Errorf("write %s: %w", name, err)
	}
	return nil
}

func export(ctx context.Context, tx *sqlx.Tx, company uuid.UUID, z *zip.Writer) error {
	c := archivedCompany{Format: companyFormat, Version: companyVersion, At: time.Now().UTC()}
	if err := tx.QueryRowxContext(ctx, `
		select c.name, c.house, coalesce(r.bookings, '[]'), r.changed_by from companies c
		left join rosters r on r.company_id = c.id where c.id = $1`,
		company).Scan(&c.Name, &c.House, &c.Bookings, &c.BookedBy); err != nil {
		return found(err, "read the company")
	}
	people, err := rowsOf[archivedPerson](ctx, tx, `select id, name, email, role, units, clock, active from people
		where company_id = $1 order by name`, company)
	if err != nil {
		return err
	}
	editions, err := rowsOf[archivedEdition](ctx, tx, `
		select v.shelf, v.id, v.version, v.doc, v.changed_by, v.changed_at, s.archived_at, s.version = v.version as newest
		from sheet_versions v join sheets s on s.company_id = v.company_id and s.shelf = v.shelf and s.id = v.id
		where v.company_id = $1 order by 1, 2, 3`, company)
	if err != nil {
		return err
	}
	systems, err := rowsOf[archivedDoc](ctx, tx, `select id, doc from systems where company_id = $1 order by id`, company)
	if err != nil {
		return err
	}
	stock, err := rowsOf[archivedDoc](ctx, tx, `select id, doc, gone_at from stock where company_id = $1
		order by id`, company)
	if err != nil {
		return err
	}
	jobs, err := rowsOf[archivedJob](ctx, tx, `select id, revision, changed_by, changed_at, archived_at from jobs
		where company_id = $1 order by id`, company)
	if err != nil {
		return err
	}
	photos, err := rowsOf[archivedPhoto](ctx, tx, `select id, job_id, surface_id, caption, added_by, added_at, removed_at
		from photos where company_id = $1 order by id`, company)
	if err != nil {
		return err
	}
	log := archivedLog{Heads: []string{}}
	if log.Entries, err = entriesOf(ctx, tx, company, uuid.NullUUID{}); err != nil {
		return err
	}
	if log.Heads, err = rowsOf[string](ctx, tx, selectHeads, company); err != nil {
		return err
	}
	done, err := rowsOf[archivedDone](ctx, tx, `select at, person_id, what, about from audit where company_id = $1
		order by id`, company)
	if err != nil {
		return err
	}
	for _, file := range []struct {
		name    string
		content any
	}{
		{"company.json", c}, {"people.json", people}, {"shelf.json", shelfFile(editions)}, {"editions.json", editions},
		{"systems.json", systems},
		{"stock.json", stock}, {"jobs.json", jobs}, {"photos.json", photos}, {"audit.json", done}, {logName, log},
	} {
		if err := put(z, file.name, file.content); err != nil {
			return err
		}
	}
	for _, j := range jobs {
		if err := exportJob(ctx, tx, company, j.ID, z); err != nil {
			return err
		}
	}
	if err := exportPhotos(ctx, tx, company, photos, z); err != nil {
		return err
	}
	return exportOriginals(ctx, tx, company, z)
}

// exportPhotos writes the pictures of photographs.
func exportPhotos(ctx context.Context, tx *sqlx.Tx, company uuid.UUID, photos []archivedPhoto, z *zip.Writer) error {
	for _, p := range photos {
		var image, thumb []byte
		if err := tx.QueryRowxContext(ctx, `select image, thumb from photos where company_id = $1
			and id = $2`, company, p.ID).Scan(&image, &thumb); err != nil {
			return fmt.Errorf("read a photograph: %w", err)
		}
		if err := errors.Join(put(z, photoName(p.ID, false), image), put(z, photoName(p.ID, true), thumb)); err != nil {
			return err
		}
	}
	return nil
}

// shelfFile returns the newest editions as a shelf file.
func shelfFile(editions []archivedEdition) any {
	shelf := struct {
		Format   string            `json:"format"`
		Version  int               `json:"version"`
		Products []json.RawMessage `json:"products"`
		Media    []json.RawMessage `json:"media"`
	}{shelfFormat, 1, []json.RawMessage{}, []json.RawMessage{}}
	for _, e := range editions {
		switch {
		case !e.Newest:
		case e.Shelf == string(ProductShelf):
			shelf.Products = append(shelf.Products, e.Sheet)
		default:
			shelf.Media = append(shelf.Media, e.Sheet)
		}
	}
	return shelf
}

const logName = "log.json"

func photoName(id uuid.UUID, small bool) string {
	if small {
		return "photos/" + id.String() + ".small.jpg"
	}
	return "photos/" + id.String() + ".jpg"
}

func planName(id uuid.UUID) string { return "jobs/" + id.String() + ".nephelon.json" }

func recordName(id uuid.UUID) string { return "records/" + id.String() + ".json" }

func exportJob(ctx context.Context, tx *sqlx.Tx, company, id uuid.UUID, z *zip.Writer) error {
	var doc []byte
	if err := tx.GetContext(ctx, &doc, `select doc from jobs where company_id = $1 and id = $2`, company, id); err != nil {
		return fmt.Errorf("read a job: %w", err)
	}
	var r archivedRecord
	var err error
	if r.Issues, err = rowsOf[archivedIssue](ctx, tx, `select number, save_id, person_id, at, doc from issues
		where company_id = $1 and job_id = $2 order by number`, company, id); err != nil {
		return err
	}
	if r.Events, err = rowsOf[archivedEvent](ctx, tx, `select id, device, number, person_id, received_at, doc from events
		where company_id = $1 and job_id = $2 order by received_at, device, number`, company, id); err != nil {
		return err
	}
	if err := put(z, planName(id), doc); err != nil || len(r.Issues)+len(r.Events) == 0 {
		return err
	}
	return put(z, recordName(id), r)
}
