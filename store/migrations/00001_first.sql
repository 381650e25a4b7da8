-- +goose Up
create table companies (
    id   uuid primary key,
    name text not null
);

create table people (
    id            uuid primary key,
    company_id    uuid not null references companies (id),
    name          text not null,
    email         text not null unique check (email = lower(email)),
    role          text not null check (role in ('owner', 'estimator', 'lead', 'hand')),
    password_hash text not null,
    units         text not null default 'metric' check (units in ('us', 'metric')),
    active        boolean not null default true
);
create index people_of_company on people (company_id, name);

create table sign_in_failures (
    key text        not null,
    at  timestamptz not null default now()
);
create index sign_in_failures_by_key on sign_in_failures (key, at);

create table sessions (
    token  text primary key,
    data   bytea       not null,
    expiry timestamptz not null
);
create index sessions_by_expiry on sessions (expiry);

create table products (
    company_id uuid not null references companies (id),
    id         text not null,
    doc        jsonb not null,
    name       text generated always as (doc ->> 'name') stored,
    primary key (company_id, id)
);

create table jobs (
    id          uuid primary key,
    company_id  uuid not null references companies (id),
    doc         jsonb not null,
    revision    bigint not null,
    changed_by  uuid not null references people (id),
    changed_at  timestamptz not null default now(),
    archived_at timestamptz,
    name        text generated always as (doc -> 'job' ->> 'name') stored,
    client      text generated always as (coalesce(doc -> 'job' ->> 'client', '')) stored,
    site        text generated always as (coalesce(doc -> 'job' ->> 'site', '')) stored
);
create index jobs_of_company on jobs (company_id, changed_at desc);

-- Each save of a job, so that a stale write can be compared with what it was
-- based on, and a save sent twice is recognised by its client-made id.
create table job_revisions (
    job_id     uuid not null references jobs (id) on delete cascade,
    revision   bigint not null,
    save_id    uuid not null,
    doc        jsonb not null,
    person_id  uuid not null references people (id),
    at         timestamptz not null default now(),
    primary key (job_id, revision),
    unique (job_id, save_id)
);

-- +goose Down
drop table job_revisions, jobs, products, sessions, sign_in_failures, people, companies;
