package store

import (
	"context"
	"encoding/json"
	"fmt"

	"github.com/google/uuid"

	"nephelon/core/buildup"
	"nephelon/core/job"
	"nephelon/core/kit"
)

// House reads how a company works.
func (s *Store) House(ctx context.Context, company uuid.UUID) (job.House, error) {
	var house job.House
	var doc []byte
	if err := s.db.GetContext(ctx, &doc, `select house from companies where id = $1`, company); err != nil {
		return house, found(err, "read house methods")
	}
	if err := json.Unmarshal(doc, &house); err != nil {
		return house, fmt.Errorf("decode house methods: %w", err)
	}
	return house, nil
}

// SaveHouse keeps how a company works.
func (s *Store) SaveHouse(ctx context.Context, company uuid.UUID, house job.House) error {
	doc, err := json.Marshal(house)
	if err != nil {
		return fmt.Errorf("encode house methods: %w", err)
	}
	return s.changeOne(ctx, "save house methods", `update companies set house = $2 where id = $1`, company, doc)
}

// decoded reads a list of documents.
func decoded[T any](docs [][]byte, what string) ([]T, error) {
	all := make([]T, len(docs))
	for i, doc := range docs {
		if err := json.Unmarshal(doc, &all[i]); err != nil {
			return nil, fmt.Errorf("decode %s: %w", what, err)
		}
	}
	return all, nil
}

// Systems lists the company's build-ups by name.
func (s *Store) Systems(ctx context.Context, company uuid.UUID) ([]buildup.System, error) {
	var docs [][]byte
	if err := s.db.SelectContext(ctx, &docs, `select doc from systems where company_id = $1 order by name`, company); err != nil {
		return nil, fmt.Errorf("list systems: %w", err)
	}
	return decoded[buildup.System](docs, "system")
}

// SaveSystem keeps a build-up under its id.
func (s *Store) SaveSystem(ctx context.Context, company uuid.UUID, system buildup.System) error {
	doc, err := json.Marshal(system)
	if err != nil {
		return fmt.Errorf("encode system: %w", err)
	}
	return s.changeOne(ctx, "save system", `
		insert into systems (company_id, id, doc) values ($1, $2, $3)
		on conflict (company_id, id) do update set doc = excluded.doc`, company, system.ID, doc)
}

// DeleteSystem forgets a build-up. Jobs that began with it keep their coats.
func (s *Store) DeleteSystem(ctx context.Context, company uuid.UUID, id string) error {
	return s.changeOne(ctx, "delete system", `delete from systems where company_id = $1 and id = $2`, company, id)
}

// Stock lists what the company has on its own shelf.
func (s *Store) Stock(ctx context.Context, company uuid.UUID) ([]kit.Container, error) {
	var docs [][]byte
	if err := s.db.SelectContext(ctx, &docs, `
		select doc from stock where company_id = $1 and gone_at is null
		order by doc ->> 'sheet', doc ->> 'expires' nulls last, id`, company); err != nil {
		return nil, fmt.Errorf("list stock: %w", err)
	}
	return decoded[kit.Container](docs, "container")
}

// SaveContainer keeps a container under its id.
func (s *Store) SaveContainer(ctx context.Context, company uuid.UUID, c kit.Container) error {
	doc, err := json.Marshal(c)
	if err != nil {
		return fmt.Errorf("encode container: %w", err)
	}
	return s.changeOne(ctx, "save container", `
		insert into stock (company_id, id, doc) values ($1, $2, $3)
		on conflict (company_id, id) do update set doc = excluded.doc, changed_at = now(), gone_at = null`, company, c.ID, doc)
}

// TakeOutContainer takes a container out of stock: used up or thrown away.
func (s *Store) TakeOutContainer(ctx context.Context, company uuid.UUID, id string) error {
	return s.changeOne(ctx, "take out container", `update stock set gone_at = now() where company_id = $1 and id = $2 and gone_at is null`, company, id)
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
