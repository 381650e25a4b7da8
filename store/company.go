package store

import (
	"archive/zip"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"
)

// All data of a company is one zip of open formats: plan files, a shelf file, JSON and JPEG.
// Nothing in it lets anybody sign in.
const (
	companyFormat  = "nephelon-company"
	companyVersion = 1
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

// archivedRecord is what was issued and logged of a job.
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
		select c.name, c.house, coalesce(r.bookings, '[]'), r.changed_by from companies c left join rosters r on r.company_id = c.id where c.id = $1`,
		company).Scan(&c.Name, &c.House, &c.Bookings, &c.BookedBy); err != nil {
		return found(err, "read the company")
	}
	people, err := rowsOf[archivedPerson](ctx, tx, `select id, name, email, role, units, active from people where company_id = $1 order by name`, company)
	if err != nil {
		return err
	}
	editions, err := rowsOf[archivedEdition](ctx, tx, `
		select v.shelf, v.id, v.version, v.doc, v.changed_by, v.changed_at, s.archived_at, s.version = v.version as newest
		from sheet_versions v join sheets s on s.company_id = v.company_id and s.shelf = v.shelf and s.id = v.id where v.company_id = $1 order by 1, 2, 3`, company)
	if err != nil {
		return err
	}
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
	systems, err := rowsOf[archivedDoc](ctx, tx, `select id, doc from systems where company_id = $1 order by id`, company)
	if err != nil {
		return err
	}
	stock, err := rowsOf[archivedDoc](ctx, tx, `select id, doc, gone_at from stock where company_id = $1 order by id`, company)
	if err != nil {
		return err
	}
	jobs, err := rowsOf[archivedJob](ctx, tx, `select id, revision, changed_by, changed_at, archived_at from jobs where company_id = $1 order by id`, company)
	if err != nil {
		return err
	}
	photos, err := rowsOf[archivedPhoto](ctx, tx, `select id, job_id, surface_id, caption, added_by, added_at from photos where company_id = $1 and removed_at is null order by id`, company)
	if err != nil {
		return err
	}
	done, err := rowsOf[archivedDone](ctx, tx, `select at, person_id, what, about from audit where company_id = $1 order by id`, company)
	if err != nil {
		return err
	}
	for _, file := range []struct {
		name    string
		content any
	}{
		{"company.json", c}, {"people.json", people}, {"shelf.json", shelf}, {"editions.json", editions}, {"systems.json", systems},
		{"stock.json", stock}, {"jobs.json", jobs}, {"photos.json", photos}, {"audit.json", done},
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
	for _, p := range photos {
		var image, thumb []byte
		if err := tx.QueryRowxContext(ctx, `select image, thumb from photos where company_id = $1 and id = $2`, company, p.ID).Scan(&image, &thumb); err != nil {
			return fmt.Errorf("read a photograph: %w", err)
		}
		if err := errors.Join(put(z, photoName(p.ID, false), image), put(z, photoName(p.ID, true), thumb)); err != nil {
			return err
		}
	}
	return nil
}

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
	if r.Issues, err = rowsOf[archivedIssue](ctx, tx, `select number, save_id, person_id, at, doc from issues where company_id = $1 and job_id = $2 order by number`, company, id); err != nil {
		return err
	}
	if r.Events, err = rowsOf[archivedEvent](ctx, tx, `select id, device, number, person_id, received_at, doc from events where company_id = $1 and job_id = $2 order by received_at, device, number`, company, id); err != nil {
		return err
	}
	if err := put(z, planName(id), doc); err != nil || len(r.Issues)+len(r.Events) == 0 {
		return err
	}
	return put(z, recordName(id), r)
}

// BadArchive tells why an archive is not taken; nothing of it is kept then.
type BadArchive struct{ File, Text string }

func (b *BadArchive) Error() string { return b.File + ": " + b.Text }

// opened reads a file of an archive.
func opened(z *zip.Reader, name string) ([]byte, error) {
	f, err := z.Open(name)
	if err != nil {
		return nil, &BadArchive{name, "It is not in the archive; the archive breaks off, or is none of Nephelon."}
	}
	defer f.Close()
	text, err := io.ReadAll(io.LimitReader(f, mostOfFile+1))
	if err != nil {
		return nil, &BadArchive{name, "It is damaged; take the archive anew."}
	}
	if len(text) > mostOfFile {
		return nil, &BadArchive{name, fmt.Sprintf("It is larger than %d MB.", mostOfFile>>20)}
	}
	return text, nil
}

func read[T any](z *zip.Reader, name string) (T, error) {
	var into T
	text, err := opened(z, name)
	if err != nil {
		return into, err
	}
	if err := json.Unmarshal(text, &into); err != nil {
		return into, &BadArchive{name, "It cannot be read: " + err.Error() + "."}
	}
	return into, nil
}

// Import brings an archive into a company that holds nothing yet: all of it or nothing. Who is
// in it cannot sign in until an owner opens their account. Plans are given to check first,
// which may write them anew.
func (s *Store) Import(ctx context.Context, company uuid.UUID, z *zip.Reader, check func(plan []byte) ([]byte, error)) error {
	return s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		var there bool
		if err := tx.GetContext(ctx, &there, `
			select exists (select from jobs where company_id = $1) or exists (select from sheets where company_id = $1)
			or exists (select from stock where company_id = $1) or exists (select from systems where company_id = $1)`, company); err != nil {
			return fmt.Errorf("look what is there: %w", err)
		}
		if there {
			return ErrNotEmpty
		}
		im := importing{ctx: ctx, tx: tx, company: company, z: z}
		return im.all(check)
	})
}

// importing is an archive on its way in.
type importing struct {
	ctx     context.Context
	tx      *sqlx.Tx
	company uuid.UUID
	z       *zip.Reader
}

func (im importing) insert(statement string, args ...any) error {
	if _, err := im.tx.ExecContext(im.ctx, statement, append([]any{im.company}, args...)...); err != nil {
		return &BadArchive{"the archive", "Something in it cannot be kept: " + err.Error() + "."}
	}
	return nil
}

func (im importing) all(check func([]byte) ([]byte, error)) error {
	c, err := read[archivedCompany](im.z, "company.json")
	if err != nil {
		return err
	}
	if c.Format != companyFormat || c.Version != companyVersion {
		return &BadArchive{"company.json", "This is no archive of a company that this program reads."}
	}
	people, err := read[[]archivedPerson](im.z, "people.json")
	if err != nil {
		return err
	}
	for _, p := range people {
		if err := im.insert(`insert into people (company_id, id, name, email, role, units, active, password_hash) values ($1, $2, $3, lower($4), $5, $6, false, '') on conflict do nothing`,
			p.ID, p.Name, p.Email, p.Role, p.Units); err != nil {
			return err
		}
	}
	if err := im.insert(`update companies set house = $2, house_revision = house_revision + 1, shelf_revision = shelf_revision + 1 where id = $1`, []byte(c.House)); err != nil {
		return err
	}
	for _, part := range []func() error{im.shelf, im.docs, func() error { return im.jobs(check) }, im.photos} {
		if err := part(); err != nil {
			return err
		}
	}
	if c.BookedBy != nil {
		return im.insert(`insert into rosters (company_id, revision, bookings, changed_by) values ($1, 1, $2, $3)
			on conflict (company_id) do update set revision = rosters.revision + 1, bookings = excluded.bookings`, []byte(c.Bookings), c.BookedBy)
	}
	return nil
}

func (im importing) shelf() error {
	editions, err := read[[]archivedEdition](im.z, "editions.json")
	if err != nil {
		return err
	}
	for _, newest := range []bool{true, false} { // sheets before their editions
		for _, e := range editions {
			if newest && e.Newest {
				err = im.insert(`insert into sheets (company_id, shelf, id, version, doc, changed_by, changed_at, archived_at) values ($1, $2, $3, $4, $5, $6, $7, $8)`,
					e.Shelf, e.ID, e.Version, []byte(e.Sheet), e.ChangedBy, e.ChangedAt, e.ArchivedAt)
			} else if !newest {
				err = im.insert(`insert into sheet_versions (company_id, shelf, id, version, doc, changed_by, changed_at) values ($1, $2, $3, $4, $5, $6, $7)`,
					e.Shelf, e.ID, e.Version, []byte(e.Sheet), e.ChangedBy, e.ChangedAt)
			}
			if err != nil {
				return err
			}
		}
	}
	return nil
}

func (im importing) docs() error {
	systems, err := read[[]archivedDoc](im.z, "systems.json")
	if err != nil {
		return err
	}
	for _, d := range systems {
		if err := im.insert(`insert into systems (company_id, id, doc) values ($1, $2, $3)`, d.ID, []byte(d.Doc)); err != nil {
			return err
		}
	}
	stock, err := read[[]archivedDoc](im.z, "stock.json")
	if err != nil {
		return err
	}
	for _, d := range stock {
		if err := im.insert(`insert into stock (company_id, id, doc, gone_at) values ($1, $2, $3, $4)`, d.ID, []byte(d.Doc), d.GoneAt); err != nil {
			return err
		}
	}
	return nil
}

func (im importing) jobs(check func([]byte) ([]byte, error)) error {
	jobs, err := read[[]archivedJob](im.z, "jobs.json")
	if err != nil {
		return err
	}
	for _, j := range jobs {
		text, err := opened(im.z, planName(j.ID))
		if err != nil {
			return err
		}
		if text, err = check(text); err != nil {
			return &BadArchive{planName(j.ID), err.Error()}
		}
		if err := im.insert(`insert into jobs (company_id, id, doc, revision, changed_by, changed_at, archived_at) values ($1, $2, $3, $4, $5, $6, $7)`,
			j.ID, text, j.Revision, j.ChangedBy, j.ChangedAt, j.ArchivedAt); err != nil {
			return err
		}
		if err := im.insert(`insert into job_revisions (company_id, job_id, revision, save_id, doc, person_id) values ($1, $2, $3, $2, $4, $5)`,
			j.ID, j.Revision, text, j.ChangedBy); err != nil {
			return err
		}
		if err := im.record(j.ID); err != nil {
			return err
		}
	}
	return nil
}

func (im importing) record(job uuid.UUID) error {
	if _, err := fs.Stat(im.z, recordName(job)); errors.Is(err, fs.ErrNotExist) {
		return nil // nothing was issued
	}
	r, err := read[archivedRecord](im.z, recordName(job))
	if err != nil {
		return err
	}
	for _, i := range r.Issues {
		if err := im.insert(`insert into issues (company_id, job_id, number, save_id, doc, person_id, at) values ($1, $2, $3, $4, $5, $6, $7)`,
			job, i.Number, i.Save, []byte(i.Plan), i.Person, i.At); err != nil {
			return err
		}
	}
	for _, e := range r.Events {
		if err := im.insert(`insert into events (company_id, job_id, id, device, number, doc, person_id, received_at) values ($1, $2, $3, $4, $5, $6, $7, $8)`,
			job, e.ID, e.Device, e.Number, []byte(e.Event), e.Person, e.ReceivedAt); err != nil {
			return err
		}
	}
	return nil
}

func (im importing) photos() error {
	photos, err := read[[]archivedPhoto](im.z, "photos.json")
	if err != nil {
		return err
	}
	for _, p := range photos {
		image, err := opened(im.z, photoName(p.ID, false))
		if err != nil {
			return err
		}
		thumb, err := opened(im.z, photoName(p.ID, true))
		if err != nil {
			return err
		}
		if err := im.insert(`insert into photos (company_id, id, job_id, surface_id, caption, image, thumb, added_by, added_at) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
			p.ID, p.Job, p.Surface, p.Caption, image, thumb, p.AddedBy, p.AddedAt); err != nil {
			return err
		}
	}
	return nil
}

// Storage is what a company keeps, in bytes.
type Storage struct {
	Photos int64 `db:"photos" json:"photos"`
	Plans  int64 `db:"plans" json:"plans"`
	Record int64 `db:"record" json:"record"`
	Quota  int64 `db:"quota" json:"quota" doc:"What it may keep"`
}

// Used is all of it.
func (s Storage) Used() int64 { return s.Photos + s.Plans + s.Record }

// Storage tells how much a company keeps and may keep.
func (s *Store) Storage(ctx context.Context, company uuid.UUID) (Storage, error) {
	var out Storage
	err := s.db.GetContext(ctx, &out, `
		select coalesce((select sum(octet_length(image) + octet_length(thumb)) from photos where company_id = c.id), 0) as photos,
		       coalesce((select sum(pg_column_size(doc)) from job_revisions where company_id = c.id), 0)
		       + coalesce((select sum(pg_column_size(doc)) from jobs where company_id = c.id), 0) as plans,
		       coalesce((select sum(pg_column_size(doc)) from events where company_id = c.id), 0)
		       + coalesce((select sum(pg_column_size(doc)) from issues where company_id = c.id), 0) as record,
		       c.quota
		from companies c where c.id = $1`, company)
	return out, found(err, "measure what is kept")
}

// SetCompany sets what whoever runs Nephelon decides of the company that somebody with an
// address belongs to: its bridge and its quota, each where it is named.
func (s *Store) SetCompany(ctx context.Context, email string, bridge *string, quota *int64) error {
	return s.changeOne(ctx, "set a company", `
		update companies set bridge = coalesce($2::text, bridge), quota = coalesce($3::bigint, quota)
		where id = (select company_id from addresses where email = $1)`, strings.ToLower(email), bridge, quota)
}

// CompanyOf is the company that somebody with an address belongs to.
func (s *Store) CompanyOf(ctx context.Context, email string) (uuid.UUID, error) {
	var company uuid.UUID
	err := s.db.GetContext(ctx, &company, `select company_id from addresses where email = $1`, strings.ToLower(email))
	return company, found(err, "find a company")
}
