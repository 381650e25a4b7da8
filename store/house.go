package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"

	"github.com/google/uuid"

	"nephelon/core/buildup"
	"nephelon/core/job"
	"nephelon/core/kit"
)

// Revised is a record with the number it stands at. A change names the number it was made from;
// one that was made from an older one changes nothing and fails with ErrChanged, unless what
// it says stands there already: then its answer was lost on the way.
type Revised[T any] struct {
	Revision int64
	Of       T
}

// ErrChanged means that somebody else changed a record meanwhile.
var ErrChanged = errors.New("somebody else changed this meanwhile")

// row is a record as it is read.
type row struct {
	Revision int64  `db:"revision"`
	Doc      []byte `db:"doc"`
}

// Bridge is the address of a company's bridge to instruments and weather; empty where it has none.
func (s *Store) Bridge(ctx context.Context, company uuid.UUID) (string, error) {
	var address string
	err := s.db.GetContext(ctx, &address, `select bridge from companies where id = $1`, company)
	return address, found(err, "find the bridge")
}

// decoded reads a list of documents.
func decoded[T any](rows []row, what string) ([]Revised[T], error) {
	all := make([]Revised[T], len(rows))
	for i, r := range rows {
		all[i].Revision = r.Revision
		if err := json.Unmarshal(r.Doc, &all[i].Of); err != nil {
			return nil, fmt.Errorf("decode %s: %w", what, err)
		}
	}
	return all, nil
}

// keep runs a statement that keeps a document if nobody else did, and gives its new number.
func (s *Store) keep(ctx context.Context, what, statement string, doc any, args ...any) (int64, error) {
	text, err := json.Marshal(doc)
	if err != nil {
		return 0, fmt.Errorf("encode %s: %w", what, err)
	}
	var revision int64
	err = s.db.GetContext(ctx, &revision, statement, append(args, text)...)
	if errors.Is(err, sql.ErrNoRows) {
		return 0, ErrChanged
	}
	if err != nil {
		return 0, fmt.Errorf("save %s: %w", what, err)
	}
	return revision, nil
}

// House reads how a company works.
func (s *Store) House(ctx context.Context, company uuid.UUID) (Revised[job.House], error) {
	var r row
	if err := s.db.GetContext(ctx, &r, `select house as doc, house_revision as revision from companies
		where id = $1`, company); err != nil {
		return Revised[job.House]{}, found(err, "read house methods")
	}
	all, err := decoded[job.House]([]row{r}, "house methods")
	if err != nil {
		return Revised[job.House]{}, err
	}
	return all[0], nil
}

// SaveHouse keeps how a company works, made from a revision, and gives the new one.
func (s *Store) SaveHouse(ctx context.Context, company uuid.UUID, base int64, house job.House) (int64, error) {
	return s.keep(ctx, "house methods", `
		update companies set house = $3, house_revision = house_revision + (house_revision = $2)::int
		where id = $1 and (house_revision = $2 or house = $3::jsonb) returning house_revision`, house, company, base)
}

// Systems lists the company's build-ups by name.
func (s *Store) Systems(ctx context.Context, company uuid.UUID) ([]Revised[buildup.System], error) {
	var rows []row
	if err := s.db.SelectContext(ctx, &rows, `select doc, revision from systems where company_id = $1
		order by name`, company); err != nil {
		return nil, fmt.Errorf("list systems: %w", err)
	}
	return decoded[buildup.System](rows, "system")
}

// SaveSystem keeps a build-up under its id, made from a revision, 0 for a new one.
func (s *Store) SaveSystem(ctx context.Context, company uuid.UUID, base int64, system buildup.System) (int64, error) {
	return s.keep(ctx, "system", `
		insert into systems (company_id, id, doc)
		select $1, $2, $4 where $3 = 0 or exists (select from systems where company_id = $1 and id = $2)
		on conflict (company_id, id) do update set doc = excluded.doc,
		revision = systems.revision + (systems.revision = $3::bigint)::int
		where systems.revision = $3 or systems.doc = excluded.doc returning revision`, system, company, system.ID, base)
}

// DeleteSystem forgets a build-up as it stood at a revision. Jobs that began with it keep their coats.
func (s *Store) DeleteSystem(ctx context.Context, company uuid.UUID, base int64, id string) error {
	err := s.changeOne(ctx, "delete system", `delete from systems where company_id = $1 and id = $2
		and revision = $3`, company, id, base)
	return s.orChanged(ctx, err, `select true from systems where company_id = $1 and id = $2`, company, id)
}

// orChanged returns a record that was changed from one that is not there.
func (s *Store) orChanged(ctx context.Context, err error, there string, args ...any) error {
	if !errors.Is(err, ErrNotFound) {
		return err
	}
	var is bool
	if err := found(s.db.GetContext(ctx, &is, there, args...), "look for a record"); err != nil {
		return err
	}
	return ErrChanged
}

// SaveContainer keeps a container under its id, made from a revision, 0 for a new one.
func (s *Store) SaveContainer(ctx context.Context, company uuid.UUID, base int64, c kit.Container) (int64, error) {
	return s.keep(ctx, "container", `
		insert into stock (company_id, id, doc)
		select $1, $2, $4 where $3 = 0 or exists (select from stock where company_id = $1 and id = $2)
		on conflict (company_id, id) do update set doc = excluded.doc, changed_at = now(), gone_at = null,
		revision = stock.revision + (stock.revision = $3)::int
		where stock.revision = $3 or (stock.doc = excluded.doc and stock.gone_at is null)
		returning revision`, c, company, c.ID, base)
}

// TakeOutContainer takes a container out of stock as it stood at a revision: used up or thrown
// away. It stands at the next one then.
func (s *Store) TakeOutContainer(ctx context.Context, company uuid.UUID, base int64, id string) error {
	err := s.changeOne(ctx, "take out container", `
		update stock set gone_at = coalesce(gone_at, now()), revision = $3 + 1
		where company_id = $1 and id = $2 and (revision = $3 and gone_at is null or revision = $3 + 1
		and gone_at is not null)`, company, id, base)
	return s.orChanged(ctx, err, `select true from stock where company_id = $1 and id = $2`, company, id)
}

// Reservation is a job that reserves a container.
type Reservation struct {
	Container string    `db:"container" json:"-"`
	Job       uuid.UUID `db:"job" json:"job" format:"uuid"`
	Name      string    `db:"name" json:"name"`
}

// Reservations lists which jobs reserve which containers.
func (s *Store) Reservations(ctx context.Context, company uuid.UUID) ([]Reservation, error) {
	rows := []Reservation{}
	if err := s.db.SelectContext(ctx, &rows, `
		select c ->> 'id' as container, j.id as job, j.name
		from jobs j, jsonb_array_elements(coalesce(j.doc -> 'job' -> 'stock', '[]')) c
		where j.company_id = $1 and j.archived_at is null order by j.name`, company); err != nil {
		return nil, fmt.Errorf("list reservations: %w", err)
	}
	return rows, nil
}
