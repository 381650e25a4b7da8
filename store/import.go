package store

import (
	"archive/zip"
	"bytes"
	"cmp"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"
	"golang.org/x/mod/sumdb/tlog"

	"nephelon/core/buildup"
	"nephelon/core/days"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/core/record/ledger"
)

// BadArchive says why an archive is not taken; nothing of it is kept then.
type BadArchive struct{ File, Text string }

func (b *BadArchive) Error() string { return b.File + ": " + b.Text }

// opened reads a file of an archive.
func opened(z *zip.Reader, name string) ([]byte, error) {
	f, err := z.Open(name)
	if err != nil {
		return nil, &BadArchive{name, "It is not in the archive; the archive is incomplete, or not from Nephelon."}
	}
	defer f.Close()
	text, err := io.ReadAll(io.LimitReader(f, mostOfFile+1))
	if err != nil {
		return nil, &BadArchive{name, "It is damaged; export the archive again."}
	}
	if len(text) > mostOfFile {
		return nil, &BadArchive{name, fmt.Sprintf("It is larger than %d MB.", mostOfFile>>20)}
	}
	return text, nil
}

// few refuses a text with more of some signs than anything in an archive has.
func few(name string, text []byte, most int, signs string) error {
	for _, sign := range []byte(signs) {
		if most -= bytes.Count(text, []byte{sign}); most < 0 {
			return &BadArchive{name, "It holds more than a company may hold."}
		}
	}
	return nil
}

// fits refuses a document that would not be read again.
func fits[T any](name string, doc json.RawMessage) error {
	if err := few(name, doc, mostValues, ",{["); err != nil {
		return err
	}
	var into T
	if err := json.Unmarshal(doc, &into); err != nil {
		return &BadArchive{name, "It cannot be read: " + err.Error() + "."}
	}
	return nil
}

// Bounds of what is read from one file of an archive: entries of a list, objects of a record,
// and values of all else, by the signs that stand between them.
const (
	mostListed  = 200_000
	mostObjects = 1_000_000
	mostValues  = 400_000
)

// readList reads a file that holds a list, entry by entry, so that a list without end takes
// no memory.
func readList[T any](z *zip.Reader, name string) ([]T, error) {
	text, err := opened(z, name)
	if err != nil {
		return nil, err
	}
	all := []T{}
	bad := func(err error) ([]T, error) {
		return nil, &BadArchive{name, "It cannot be read: " + err.Error() + "."}
	}
	decoder := json.NewDecoder(bytes.NewReader(text))
	switch start, err := decoder.Token(); {
	case err != nil:
		return bad(err)
	case start == nil:
		return all, nil
	case start != json.Delim('['):
		return bad(errors.New("it holds no list"))
	}
	for decoder.More() {
		if len(all) == mostListed {
			return nil, &BadArchive{name, fmt.Sprintf("It lists more than %d entries.", mostListed)}
		}
		var one T
		if err := decoder.Decode(&one); err != nil {
			return bad(err)
		}
		all = append(all, one)
	}
	return all, nil
}

func read[T any](z *zip.Reader, name string) (T, error) {
	var into T
	text, err := opened(z, name)
	if err != nil {
		return into, err
	}
	most, signs := mostValues, ",{["
	if _, record := any(into).(archivedRecord); record { // years of events, each of three objects at least
		most, signs = mostObjects, "{"
	}
	if err := few(name, text, most, signs); err != nil {
		return into, err
	}
	if err := json.Unmarshal(text, &into); err != nil {
		return into, &BadArchive{name, "It cannot be read: " + err.Error() + "."}
	}
	return into, nil
}

// Checks look at what an archive brings before it is kept, and write it anew.
type Checks struct {
	Plan  func(text []byte) ([]byte, error)
	Photo func(picture []byte) (full, thumb []byte, err error)
}

// Import brings an archive into a company that holds nothing yet: all of it or nothing. Who is
// in it cannot sign in until an owner opens their account. Plans and photographs are given to
// checks first, which write them anew. It returns whether the records fit the log that came with them.
func (s *Store) Import(ctx context.Context, company uuid.UUID, z *zip.Reader, check Checks) (ledger.Report, error) {
	var report ledger.Report
	err := s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		var there bool
		if err := tx.GetContext(ctx, &there, `
			select exists (select from jobs where company_id = $1) or exists (select from sheets where company_id = $1)
			or exists (select from stock where company_id = $1) or exists (select from systems
			where company_id = $1)`, company); err != nil {
			return fmt.Errorf("look what is there: %w", err)
		}
		if there {
			return ErrNotEmpty
		}
		im := importing{ctx: ctx, tx: tx, company: company, z: z}
		if err := im.all(check); err != nil {
			return err
		}
		if logged, err := im.log(); err != nil || !logged {
			return err
		}
		evidence, err := evidenceOf(ctx, tx, company)
		report = ledger.Check(evidence, nil, nil)
		return err
	})
	return report, err
}

// log brings the log of an archive in, and reports whether there is one.
func (im importing) log() (bool, error) {
	if _, err := fs.Stat(im.z, logName); errors.Is(err, fs.ErrNotExist) {
		return false, nil // of an earlier build: the log begins with what is here
	}
	l, err := readLog(im.z)
	if err != nil || len(l.Entries) == 0 {
		return false, err
	}
	tree := make(map[int64]tlog.Hash)
	numbers, jobs, of, texts := make([]int64, len(l.Entries)), make([]sql.NullString, len(l.Entries)),
		make([]sql.NullInt64, len(l.Entries)), make([]string, len(l.Entries))
	for n, e := range l.Entries {
		text, err := e.Text()
		if err != nil || e.Number != int64(n) {
			return false, &BadArchive{logName, fmt.Sprintf("Entry %d of the log is missing or cannot be read.", n)}
		}
		numbers[n], texts[n] = e.Number, string(text)
		jobs[n], of[n] = sql.NullString{String: e.Job, Valid: e.Job != ""}, sql.NullInt64{Int64: e.Of, Valid: e.Job != ""}
		if err := grow(tree, e.Number, text, inMemory(tree)); err != nil {
			return false, err
		}
	}
	if err := im.insert(insertEntries, numbers, jobs, of, texts); err != nil {
		return false, err
	}
	if err := keepHashes(im.ctx, im.tx, im.company, tree); err != nil {
		return false, err
	}
	for _, head := range l.Heads {
		h, err := ledger.Read(head)
		if err != nil {
			return false, &BadArchive{logName, "A head of the log cannot be read."}
		}
		if err := im.insert(`insert into log_heads (company_id, size, note) values ($1, $2, $3)`, h.Size, head); err != nil {
			return false, err
		}
	}
	return true, nil
}

// readLog reads the log of an archive.
func readLog(z *zip.Reader) (archivedLog, error) {
	var l archivedLog
	text, err := opened(z, logName)
	if err != nil {
		return l, err
	}
	if err := few(logName, text, mostObjects, "{"); err != nil {
		return l, err
	}
	if err := json.Unmarshal(text, &l); err != nil {
		return l, &BadArchive{logName, "It cannot be read: " + err.Error() + "."}
	}
	return l, nil
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
		if Away(err) || im.ctx.Err() != nil {
			return fmt.Errorf("bring a part of an archive in: %w", err)
		}
		return &BadArchive{"the archive", "An entry in it contradicts another, is there twice, or is not valid."}
	}
	return nil
}

func (im importing) all(check Checks) error {
	c, err := read[archivedCompany](im.z, "company.json")
	if err != nil {
		return err
	}
	if c.Format != companyFormat || c.Version < 1 || c.Version > companyVersion {
		return &BadArchive{"company.json", "This is no archive of a company that this program reads."}
	}
	if err := errors.Join(fits[job.House]("company.json", c.House),
		fits[[]days.Booked]("company.json", c.Bookings)); err != nil {
		return err
	}
	people, err := readList[archivedPerson](im.z, "people.json")
	if err != nil {
		return err
	}
	for _, p := range people {
		if err := im.insert(`insert into people (company_id, id, name, email, role, units, clock, active, password_hash)
			values ($1, $2, $3, lower($4), $5, $6, $7, false, '') on conflict do nothing`,
			p.ID, p.Name, p.Email, p.Role, p.Units,
			cmp.Or(p.Clock, string(measure.Clock24))); err != nil {
			return err
		}
	}
	if err := im.insert(`update companies set house = $2, house_revision = house_revision + 1,
		shelf_revision = shelf_revision + 1 where id = $1`, []byte(c.House)); err != nil {
		return err
	}
	for _, part := range []func() error{im.shelf, im.originals, func() error { return im.docs(c.Version) },
		func() error { return im.jobs(check.Plan) },
		func() error { return im.photos(check.Photo) }} {
		if err := part(); err != nil {
			return err
		}
	}
	if c.BookedBy != nil {
		return im.insert(`insert into rosters (company_id, revision, bookings, changed_by) values ($1, 1, $2, $3)
			on conflict (company_id) do update set revision = rosters.revision + 1,
			bookings = excluded.bookings`, []byte(c.Bookings), c.BookedBy)
	}
	return nil
}

func (im importing) shelf() error {
	editions, err := readList[archivedEdition](im.z, "editions.json")
	if err != nil {
		return err
	}
	for _, e := range editions {
		fit := fits[material.Medium]
		if e.Shelf == string(ProductShelf) {
			fit = fits[material.Product]
		}
		if err := fit("editions.json", e.Sheet); err != nil {
			return err
		}
	}
	for _, newest := range []bool{true, false} { // sheets before their editions
		for _, e := range editions {
			if newest && e.Newest {
				err = im.insert(`insert into sheets (company_id, shelf, id, version, doc, changed_by, changed_at, archived_at)
					values ($1, $2, $3, $4, $5, $6, $7, $8)`,
					e.Shelf, e.ID, e.Version, []byte(e.Sheet), e.ChangedBy, e.ChangedAt, e.ArchivedAt)
			} else if !newest {
				err = im.insert(`insert into sheet_versions (company_id, shelf, id, version, doc, changed_by, changed_at)
					values ($1, $2, $3, $4, $5, $6, $7)`,
					e.Shelf, e.ID, e.Version, []byte(e.Sheet), e.ChangedBy, e.ChangedAt)
			}
			if err != nil {
				return err
			}
		}
	}
	return nil
}

// theoretical returns a system with its amounts as they were before they could be practical.
func theoretical(doc json.RawMessage) (json.RawMessage, error) {
	var s buildup.System
	if err := json.Unmarshal(doc, &s); err != nil {
		return nil, err
	}
	for n := range s.Coats {
		if a := &s.Coats[n].Amount; a.Practical() {
			a.Figure = material.Theoretical
		}
	}
	return json.Marshal(s)
}

// docs imports systems and stock of an archive of a version.
func (im importing) docs(version int) error {
	systems, err := readList[archivedDoc](im.z, "systems.json")
	if err != nil {
		return err
	}
	for _, d := range systems {
		if version < 2 {
			if d.Doc, err = theoretical(d.Doc); err != nil {
				return &BadArchive{"systems.json", "It cannot be read: " + err.Error() + "."}
			}
		}
		if err := fits[buildup.System]("systems.json", d.Doc); err != nil {
			return err
		}
		if err := im.insert(`insert into systems (company_id, id, doc)
			values ($1, $2, $3)`, d.ID, []byte(d.Doc)); err != nil {
			return err
		}
	}
	stock, err := readList[archivedDoc](im.z, "stock.json")
	if err != nil {
		return err
	}
	for _, d := range stock {
		if err := fits[kit.Container]("stock.json", d.Doc); err != nil {
			return err
		}
		if err := im.insert(`insert into stock (company_id, id, doc, gone_at)
			values ($1, $2, $3, $4)`, d.ID, []byte(d.Doc), d.GoneAt); err != nil {
			return err
		}
	}
	return nil
}

func (im importing) jobs(check func([]byte) ([]byte, error)) error {
	jobs, err := readList[archivedJob](im.z, "jobs.json")
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
		if err := im.insert(`insert into jobs (company_id, id, doc, revision, changed_by, changed_at, archived_at)
			values ($1, $2, $3, $4, $5, $6, $7)`,
			j.ID, text, j.Revision, j.ChangedBy, j.ChangedAt, j.ArchivedAt); err != nil {
			return err
		}
		if err := im.insert(`insert into job_revisions (company_id, job_id, revision, save_id, doc, person_id)
			values ($1, $2, $3, $2, $4, $5)`,
			j.ID, j.Revision, text, j.ChangedBy); err != nil {
			return err
		}
		if err := im.record(j.ID); err != nil {
			return err
		}
	}
	return nil
}

func (im importing) record(of uuid.UUID) error {
	if _, err := fs.Stat(im.z, recordName(of)); errors.Is(err, fs.ErrNotExist) {
		return nil // nothing was issued
	}
	r, err := read[archivedRecord](im.z, recordName(of))
	if err != nil {
		return err
	}
	for _, i := range r.Issues {
		if err := fits[record.Issue](recordName(of), i.Plan); err != nil {
			return err
		}
		if err := im.insert(`insert into issues (company_id, job_id, number, save_id, doc, person_id, at)
			values ($1, $2, $3, $4, $5, $6, $7)`,
			of, i.Number, i.Save, []byte(i.Plan), i.Person, i.At); err != nil {
			return err
		}
	}
	for _, e := range r.Events {
		if err := fits[record.Event](recordName(of), e.Event); err != nil {
			return err
		}
		if err := im.insert(`insert into events (company_id, job_id, id, device, number, doc, person_id, received_at)
			values ($1, $2, $3, $4, $5, $6, $7, $8)`,
			of, e.ID, e.Device, e.Number, []byte(e.Event), e.Person, e.ReceivedAt); err != nil {
			return err
		}
	}
	return nil
}

func (im importing) photos(redraw func([]byte) (full, thumb []byte, err error)) error {
	photos, err := readList[archivedPhoto](im.z, "photos.json")
	if err != nil {
		return err
	}
	for _, p := range photos {
		image, err := opened(im.z, photoName(p.ID, false))
		if err != nil {
			return err
		}
		image, thumb, err := redraw(image)
		if err != nil {
			return &BadArchive{photoName(p.ID, false), "It is no photograph that can be read: " + err.Error() + "."}
		}
		if err := im.insert(`insert into photos (company_id, id, job_id, surface_id, caption, image, thumb, added_by,
			added_at, removed_at) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)`,
			p.ID, p.Job, p.Surface, p.Caption, image, thumb, p.AddedBy, p.AddedAt, p.HiddenAt); err != nil {
			return err
		}
	}
	return nil
}
