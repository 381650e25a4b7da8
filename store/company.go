package store

import (
	"context"
	"strings"

	"github.com/google/uuid"
)

// Storage holds what a company keeps, in bytes.
type Storage struct {
	Photos int64 `db:"photos" json:"photos"`
	Plans  int64 `db:"plans" json:"plans"`
	Record int64 `db:"record" json:"record"`
	Sheets int64 `db:"sheets" json:"sheets" doc:"Makers' documents that data sheets were read from"`
	Quota  int64 `db:"quota" json:"quota" doc:"What it may keep"`
}

// Used is all of it.
func (s Storage) Used() int64 { return s.Photos + s.Plans + s.Record + s.Sheets }

// Storage returns how much a company keeps and may keep.
func (s *Store) Storage(ctx context.Context, company uuid.UUID) (Storage, error) {
	var out Storage
	err := s.db.GetContext(ctx, &out, `
		select coalesce((select sum(octet_length(image) + octet_length(thumb)) from photos where company_id = c.id),
		0) as photos,
		       coalesce((select sum(pg_column_size(doc)) from job_revisions where company_id = c.id), 0)
		       + coalesce((select sum(pg_column_size(doc)) from jobs where company_id = c.id), 0) as plans,
		       coalesce((select sum(pg_column_size(doc)) from events where company_id = c.id), 0)
		       + coalesce((select sum(pg_column_size(doc)) from issues where company_id = c.id), 0) as record,
		       coalesce((select sum(octet_length(content)) from originals where company_id = c.id), 0) as sheets,
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
