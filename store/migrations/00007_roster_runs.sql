-- +goose Up
-- Plans of a company that are asked for: waiting, being worked out by some server, or done.
-- Whoever works at one says so now and then; one that nobody works at any more is taken up
-- again by another.
create table roster_runs (
  id uuid primary key,
  company_id uuid not null references companies (id),
  person_id uuid not null references people (id),
  question jsonb not null,
  state text not null default 'waiting' check (state in ('waiting', 'running', 'done', 'stopped')),
  beat timestamptz not null default now(),
  progress jsonb,
  answer jsonb,
  made_at timestamptz not null default now()
);
create index roster_runs_open on roster_runs (company_id, made_at) where state in ('waiting', 'running');

-- +goose Down
drop table roster_runs;
