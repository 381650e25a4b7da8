-- +goose Up
-- Who does what when: what people decided, one document a company; times that
-- follow are worked out.
create table rosters (
  company_id uuid primary key references companies (id),
  revision bigint not null,
  bookings jsonb not null,
  changed_by uuid not null references people (id),
  changed_at timestamptz not null default now()
);

-- +goose Down
drop table rosters;
