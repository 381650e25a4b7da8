-- +goose Up
-- Private addresses at which a crew's days are read by a calendar program. Of the secret
-- in an address only its hash is kept.
create table calendar_links (
  id uuid primary key,
  company_id uuid not null references companies (id),
  crew text not null,
  member text not null,
  secret bytea not null unique,
  made_by uuid not null references people (id),
  made_at timestamptz not null default now()
);
create index calendar_links_company on calendar_links (company_id);

-- +goose Down
drop table calendar_links;
