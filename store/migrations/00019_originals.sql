-- +goose Up
-- Documents of makers that data sheets were read from, by their content; a sheet names the one it was read from.
create table originals (
    company_id uuid not null references companies on delete cascade,
    hash       text not null,
    name       text not null,
    kind       text not null check (kind in ('application/pdf', 'text/plain')),
    content    bytea not null,
    added_by   uuid,
    added_at   timestamptz not null default now(),
    primary key (company_id, hash),
    foreign key (company_id, added_by) references people
);
alter table originals alter column content set storage external;

-- +goose Down
drop table originals;
