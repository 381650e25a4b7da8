-- +goose Up
-- A link that sets a password, used once. Of the secret in it only its hash is kept.
create table password_links (
    secret     bytea primary key,
    company_id uuid not null references companies (id),
    person_id  uuid not null references people (id),
    made_by    uuid not null references people (id),
    until      timestamptz not null,
    used_at    timestamptz
);

-- Who signs in where: a session belongs to a person, and ends with all others of theirs.
alter table sessions add column person_id uuid references people (id), add column seen_at timestamptz not null default now(), add column agent text not null default '';
create index sessions_of_person on sessions (person_id);

-- What people did with accounts and rights, and what left the house: insert-only.
create table audit (
    id         bigint generated always as identity primary key,
    company_id uuid references companies (id),
    person_id  uuid references people (id),
    at         timestamptz not null default now(),
    what       text not null,
    about      text not null default ''
);
create index audit_of_company on audit (company_id, id desc);
create trigger kept before update or delete on audit for each row execute function kept_as_it_is();
create trigger kept_whole before truncate on audit for each statement execute function kept_as_it_is();
delete from sessions;

-- +goose Down
drop table audit, password_links;
alter table sessions drop column person_id, drop column seen_at, drop column agent;
