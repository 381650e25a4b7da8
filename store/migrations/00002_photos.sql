-- +goose Up
create table photos (
    id         uuid primary key,
    company_id uuid not null references companies (id),
    job_id     uuid not null references jobs (id) on delete cascade,
    surface_id text not null,
    caption    text not null default '',
    image      bytea not null,
    thumb      bytea not null,
    added_by   uuid not null references people (id),
    added_at   timestamptz not null default now(),
    removed_at timestamptz
);
create index photos_of_job on photos (job_id, added_at);

-- +goose Down
drop table photos;
