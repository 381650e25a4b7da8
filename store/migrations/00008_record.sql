-- +goose Up
-- Plans as they were given to a crew: frozen. A later one supersedes and takes nothing away.
create table issues (
    company_id uuid not null references companies (id),
    job_id     uuid not null references jobs (id),
    number     integer not null,
    save_id    uuid not null,
    doc        jsonb not null,
    person_id  uuid not null references people (id),
    at         timestamptz not null default now(),
    primary key (company_id, job_id, number),
    unique (company_id, job_id, save_id)
);

-- What people logged. Whoever reads on from a transaction misses nothing: the number of a
-- transaction that was still under way at an earlier reading is not below that reading's mark.
create table events (
    company_id  uuid not null references companies (id),
    job_id      uuid not null references jobs (id),
    id          uuid not null,
    device      text not null,
    number      bigint not null,
    doc         jsonb not null,
    person_id   uuid not null references people (id),
    received_at timestamptz not null default now(),
    xact        xid8 not null default pg_current_xact_id(),
    primary key (company_id, job_id, id)
);
create index events_since on events (company_id, job_id, xact);

-- +goose StatementBegin
create function kept_as_it_is() returns trigger language plpgsql as $$
begin
    raise exception 'what was recorded is never changed or taken away; strike it with an event' using errcode = 'restrict_violation';
end
$$;
-- +goose StatementEnd
create trigger kept before update or delete on events for each row execute function kept_as_it_is();
create trigger kept_whole before truncate on events for each statement execute function kept_as_it_is();
create trigger kept before update or delete on issues for each row execute function kept_as_it_is();
create trigger kept_whole before truncate on issues for each statement execute function kept_as_it_is();

-- +goose Down
drop table events, issues;
drop function kept_as_it_is;
