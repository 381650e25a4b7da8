package store

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/core/record/current"
)

// Stock lists what the company has on its own shelf: less the mix that the jobs which reserved it have made since
// somebody last said how much is in it.
func (s *Store) Stock(ctx context.Context, company uuid.UUID) ([]Revised[kit.Container], error) {
	var rows []struct {
		row
		Changed time.Time `db:"changed_at"`
	}
	if err := s.db.SelectContext(ctx, &rows, `
		select doc, revision, changed_at from stock where company_id = $1 and gone_at is null
		order by doc ->> 'sheet', doc ->> 'expires' nulls last, id`, company); err != nil {
		return nil, fmt.Errorf("list stock: %w", err)
	}
	docs := make([]row, len(rows))
	since := make(map[string]time.Time, len(rows))
	for n, r := range rows {
		docs[n] = r.row
	}
	all, err := decoded[kit.Container](docs, "container")
	if err != nil || len(all) == 0 {
		return all, err
	}
	for n, r := range rows {
		since[all[n].Of.ID] = r.Changed
	}
	return all, s.draw(ctx, company, all, since)
}

// draw takes off the containers what the jobs that reserved them have mixed since.
func (s *Store) draw(ctx context.Context, company uuid.UUID, all []Revised[kit.Container],
	since map[string]time.Time) error {
	var jobs []struct {
		ID    uuid.UUID `db:"id"`
		Stock []byte    `db:"stock"`
	}
	if err := s.db.SelectContext(ctx, &jobs, `
		select j.id, j.doc -> 'job' -> 'stock' as stock from jobs j
		where j.company_id = $1 and jsonb_typeof(j.doc -> 'job' -> 'stock') = 'array'
		and exists (select from events e where e.company_id = $1 and e.job_id = j.id)`, company); err != nil {
		return fmt.Errorf("list the jobs that draw from stock: %w", err)
	}
	for _, j := range jobs {
		var held []kit.Container
		if err := json.Unmarshal(j.Stock, &held); err != nil {
			return fmt.Errorf("decode the stock of a job: %w", err)
		}
		var reserved []kit.Reserved
		for _, c := range all {
			if slices.ContainsFunc(held, func(h kit.Container) bool { return h.ID == c.Of.ID }) {
				reserved = append(reserved, kit.Reserved{Container: c.Of, Since: since[c.Of.ID]})
			}
		}
		if len(reserved) == 0 {
			continue
		}
		left, err := s.leftBy(ctx, company, j.ID, reserved)
		if err != nil {
			return err
		}
		for n := range all {
			if v, drawn := left[all[n].Of.ID]; drawn {
				all[n].Of.Opened = all[n].Of.Opened || v < all[n].Of.Volume
				all[n].Of.Volume = v
			}
		}
	}
	return nil
}

// leftBy returns what a job has left in the containers that it reserved.
func (s *Store) leftBy(ctx context.Context, company, id uuid.UUID,
	reserved []kit.Reserved) (map[string]measure.Volume, error) {
	issues, err := s.Issues(ctx, company, id)
	if err != nil || len(issues) == 0 {
		return nil, err
	}
	log, err := s.Events(ctx, company, id, 0)
	if err != nil {
		return nil, err
	}
	stands := current.Plan(issues, log.Events)
	drawn := record.DrawnBy(&stands, log.Events)
	left := make(map[string]measure.Volume)
	seen := make(map[material.SheetKey]bool)
	for _, c := range stands.Coats {
		key := material.SheetKey{Product: c.Product.ID, Hardener: c.Hardener}
		if seen[key] {
			continue
		}
		seen[key] = true
		for id, v := range kit.LeftOf(c.Product, c.Product.Mix(), c.Hardener, reserved, drawn) {
			left[id] = v
		}
		for n := range reserved { // an A serves every hardener
			if v, is := left[reserved[n].Container.ID]; is {
				reserved[n].Container.Volume = v
			}
		}
	}
	return left, nil
}
