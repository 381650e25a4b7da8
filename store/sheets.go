package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"
)

// Shelf names what a data sheet describes.
type Shelf string

// The two shelves.
const (
	ProductShelf Shelf = "product"
	MediumShelf  Shelf = "medium"
)

// SheetRow is a data sheet as it is kept; Doc is its JSON.
type SheetRow struct {
	ID        string    `db:"id"`
	Version   int       `db:"version"`
	Doc       []byte    `db:"doc"`
	Archived  bool      `db:"archived"`
	ChangedBy string    `db:"changed_by"`
	ChangedAt time.Time `db:"changed_at"`
}

// SheetQuery narrows a shelf. Empty fields do not.
type SheetQuery struct {
	Words     string
	Kinds     []string
	Chemistry string
	IDs       []string
	Archived  bool // those put away instead of those in use
	Any       bool // both
	Limit     int
}

const selectSheet = `
	select s.id, s.version, s.doc, s.archived_at is not null as archived, coalesce(p.name, '') as changed_by, s.changed_at
	from sheets s left join people p on p.company_id = s.company_id and p.id = s.changed_by `

// Sheets finds data sheets by name, and how many there are in all.
func (s *Store) Sheets(ctx context.Context, company uuid.UUID, shelf Shelf, q SheetQuery) ([]SheetRow, int, error) {
	const narrowed = `
		where s.company_id = $1 and s.shelf = $2 and ($3 = '' or s.search @@ to_tsquery('simple', $3))
		  and (cardinality($4::text[]) = 0 or s.kind = any($4)) and ($5 = '' or s.chemistry = $5)
		  and (cardinality($6::text[]) = 0 or s.id = any($6)) and ($8 or (s.archived_at is not null) = $7)`
	if q.Limit == 0 {
		q.Limit = 100
	}
	args := []any{company, shelf, words(q.Words), list(q.Kinds), q.Chemistry, list(q.IDs), q.Archived, q.Any}
	rows := []SheetRow{}
	if err := s.db.SelectContext(ctx, &rows, selectSheet+narrowed+` order by s.name limit $9`,
		append(args, q.Limit)...); err != nil {
		return nil, 0, fmt.Errorf("find sheets: %w", err)
	}
	if len(rows) < q.Limit {
		return rows, len(rows), nil
	}
	var total int
	if err := s.db.GetContext(ctx, &total, `select count(*) from sheets s `+narrowed, args...); err != nil {
		return nil, 0, fmt.Errorf("count sheets: %w", err)
	}
	return rows, total, nil
}

func list(of []string) []string {
	if of == nil {
		return []string{}
	}
	return of
}

// words turns what a person types into a query of word beginnings.
func words(typed string) string {
	fields := strings.FieldsFunc(strings.ToLower(typed),
		func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
	for i, f := range fields {
		fields[i] = f + ":*"
	}
	return strings.Join(fields, " & ")
}

// Sheet reads one data sheet.
func (s *Store) Sheet(ctx context.Context, company uuid.UUID, shelf Shelf, id string) (SheetRow, error) {
	var row SheetRow
	err := s.db.GetContext(ctx, &row, selectSheet+` where s.company_id = $1 and s.shelf = $2 and s.id = $3`,
		company, shelf, id)
	return row, found(err, "read sheet")
}

// SheetVersions lists the editions of a data sheet, newest first.
func (s *Store) SheetVersions(ctx context.Context, company uuid.UUID, shelf Shelf, id string) ([]SheetRow, error) {
	rows := []SheetRow{}
	err := s.db.SelectContext(ctx, &rows, `
		select v.id, v.version, v.doc, false as archived, coalesce(p.name, '') as changed_by, v.changed_at
		from sheet_versions v left join people p on p.company_id = v.company_id and p.id = v.changed_by
		where v.company_id = $1 and v.shelf = $2 and v.id = $3 order by v.version desc limit 100`, company, shelf, id)
	if err != nil {
		return nil, fmt.Errorf("list editions: %w", err)
	}
	return rows, nil
}

// NewSheet is an edition of a data sheet to be kept. Base is the version it was
// made from, 0 for a new one.
type NewSheet struct {
	Shelf   Shelf
	ID      string
	Base    int
	Version int
	Doc     any
}

// ErrSheetChanged means that someone else saved the sheet, or that its id is
// taken.
var ErrSheetChanged = errors.New("the sheet was changed by someone else, or its id is taken")

// SaveSheets keeps editions of data sheets, all or none.
func (s *Store) SaveSheets(ctx context.Context, company uuid.UUID, person *uuid.UUID, sheets ...NewSheet) error {
	return s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		for _, n := range sheets {
			if err := saveSheet(ctx, tx, company, person, n); err != nil {
				return err
			}
		}
		return turnShelf(ctx, tx, company)
	})
}

// turnShelf counts a change of the company's shelf, so that plans made with it
// before are told from those made after.
func turnShelf(ctx context.Context, tx sqlx.ExtContext, company uuid.UUID) error {
	if _, err := tx.ExecContext(ctx, `update companies set shelf_revision = shelf_revision + 1
		where id = $1`, company); err != nil {
		return fmt.Errorf("count the shelf's change: %w", err)
	}
	return nil
}

func saveSheet(ctx context.Context, tx *sqlx.Tx, company uuid.UUID, person *uuid.UUID, n NewSheet) error {
	doc, err := json.Marshal(n.Doc)
	if err != nil {
		return fmt.Errorf("encode sheet: %w", err)
	}
	var result sql.Result
	if n.Base == 0 {
		result, err = tx.ExecContext(ctx, `insert into sheets (company_id, shelf, id, version, doc, changed_by)
			values ($1, $2, $3, $4, $5, $6) on conflict do nothing`,
			company, n.Shelf, n.ID, n.Version, doc, person)
	} else {
		result, err = tx.ExecContext(ctx, `
			update sheets set version = $4, doc = $5, changed_by = $6, changed_at = now(), archived_at = null
			where company_id = $1 and shelf = $2 and id = $3
			and version = $7`, company, n.Shelf, n.ID, n.Version, doc, person, n.Base)
	}
	if err != nil {
		return fmt.Errorf("save sheet: %w", err)
	}
	if count, err := result.RowsAffected(); err != nil {
		return fmt.Errorf("save sheet: %w", err)
	} else if count == 0 {
		// Where it stands as it was to be, the answer to an earlier sending was lost on the way.
		var same bool
		if err := tx.GetContext(ctx, &same, `select version = $4 and doc = $5::jsonb and archived_at is null from sheets
			where company_id = $1 and shelf = $2 and id =
			$3`, company, n.Shelf, n.ID, n.Version, doc); err != nil && !errors.Is(err, sql.ErrNoRows) {
			return fmt.Errorf("save sheet: %w", err)
		}
		if same {
			return nil
		}
		return fmt.Errorf("%s: %w", n.ID, ErrSheetChanged)
	}
	if _, err := tx.ExecContext(ctx, `
		insert into sheet_versions (company_id, shelf, id, version, doc, changed_by, changed_at)
		values ($1, $2, $3, $4, $5, $6, now())`, company, n.Shelf, n.ID, n.Version, doc, person); err != nil {
		return fmt.Errorf("keep edition: %w", err)
	}
	return nil
}

// ArchiveSheet puts a data sheet away, or takes it out again.
func (s *Store) ArchiveSheet(ctx context.Context, company uuid.UUID, shelf Shelf, id string, archived bool) error {
	return s.changeShelf(ctx, company, "archive sheet", `
		update sheets set archived_at = case when $4 then now() end where company_id = $1 and shelf = $2
		and id = $3`, company, shelf, id, archived)
}

// DeleteSheet removes a data sheet that nothing uses, with its editions.
func (s *Store) DeleteSheet(ctx context.Context, company uuid.UUID, shelf Shelf, id string) error {
	return s.changeShelf(ctx, company, "delete sheet", `delete from sheets where company_id = $1 and shelf = $2
		and id = $3`, company, shelf, id)
}

// changeShelf runs a statement that must touch a sheet, and counts the change.
func (s *Store) changeShelf(ctx context.Context, company uuid.UUID, doing, statement string, args ...any) error {
	return s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		if err := changeOne(ctx, tx, doing, statement, args...); err != nil {
			return err
		}
		return turnShelf(ctx, tx, company)
	})
}

// changeOne runs a statement that must touch a record.
func (s *Store) changeOne(ctx context.Context, doing, statement string, args ...any) error {
	return changeOne(ctx, s.db, doing, statement, args...)
}

func changeOne(ctx context.Context, in sqlx.ExecerContext, doing, statement string, args ...any) error {
	result, err := in.ExecContext(ctx, statement, args...)
	if err != nil {
		return fmt.Errorf("%s: %w", doing, err)
	}
	count, err := result.RowsAffected()
	if err != nil {
		return fmt.Errorf("%s: %w", doing, err)
	}
	if count == 0 {
		return ErrNotFound
	}
	return nil
}

// User is a place that names a data sheet.
type User struct {
	What string `db:"what" json:"what" enum:"job,system,stock"`
	ID   string `db:"id" json:"id"`
	Name string `db:"name" json:"name"`
}

// Users lists where a data sheet is used: in jobs that are not archived, in
// systems and in stock.
func (s *Store) Users(ctx context.Context, company uuid.UUID, shelf Shelf, id string) ([]User, error) {
	users := []User{}
	named, err := json.Marshal([]map[string]string{{"id": id}})
	if err != nil {
		return nil, fmt.Errorf("encode id: %w", err)
	}
	err = s.db.SelectContext(ctx, &users, `
		select 'job' as what, id::text, name from jobs
		where company_id = $1 and archived_at is null
		and case when $2 = 'product' then doc -> 'products' else doc -> 'media' end @> $3::jsonb
		union all
		select 'stock', id, coalesce(nullif(doc ->> 'lot', ''), id) from stock
		where company_id = $1 and gone_at is null and doc ->> 'sheet' = $4
		order by 1, 3 limit 100`, company, shelf, named, id)
	if err != nil {
		return nil, fmt.Errorf("find users: %w", err)
	}
	systems, err := s.Systems(ctx, company)
	if err != nil {
		return nil, err
	}
	for _, system := range systems {
		products, media := system.Of.Names()
		if shelf == MediumShelf {
			products = media
		}
		if slices.Contains(products, id) {
			users = append(users, User{What: "system", ID: system.Of.ID, Name: system.Of.Name})
		}
	}
	return users, nil
}

// SheetVersion reads the versions of data sheets in use, by id.
func (s *Store) SheetVersion(ctx context.Context, company uuid.UUID, shelf Shelf,
	ids []string) (map[string]int, error) {
	var rows []struct {
		ID      string `db:"id"`
		Version int    `db:"version"`
	}
	if err := s.db.SelectContext(ctx, &rows, `select id, version from sheets where company_id = $1 and shelf = $2
		and id = any($3)`, company, shelf, list(ids)); err != nil {
		return nil, fmt.Errorf("read versions of sheets: %w", err)
	}
	versions := make(map[string]int, len(rows))
	for _, r := range rows {
		versions[r.ID] = r.Version
	}
	return versions, nil
}

// MostUsedSheet is the product with a pot life that most of the company's jobs
// name; of those that none names the first by name. It is empty where there is
// none.
func (s *Store) MostUsedSheet(ctx context.Context, company uuid.UUID) (string, error) {
	var id string
	err := s.db.GetContext(ctx, &id, `
		select s.id from sheets s
		left join lateral (select count(*) as jobs, max(j.changed_at) as last from jobs j
			where j.company_id = s.company_id and j.archived_at is null
			and j.doc -> 'products' @> jsonb_build_array(jsonb_build_object('id', s.id))) used on true
		where s.company_id = $1 and s.shelf = 'product' and s.archived_at is null
		  and jsonb_array_length(s.doc -> 'components') > 1 and jsonb_array_length(coalesce(s.doc -> 'potLife', '[]')) > 0
		order by used.jobs desc, used.last desc nulls last, s.name limit 1`, company)
	if errors.Is(err, sql.ErrNoRows) {
		return "", nil
	}
	if err != nil {
		return "", fmt.Errorf("find the most used sheet: %w", err)
	}
	return id, nil
}
