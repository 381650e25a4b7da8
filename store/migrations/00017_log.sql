-- +goose Up
-- The log of a company: one entry for each thing that the server took into its records, in a
-- Merkle tree (RFC 6962) whose heads are signed. Nothing of it is ever changed or taken away.
create table log_entries (
    company_id uuid not null references companies (id),
    number     bigint not null,
    job_id     uuid,
    of_job     bigint,
    entry      jsonb not null,
    primary key (company_id, number)
);
create unique index log_entries_of_job on log_entries (company_id, job_id, of_job) where job_id is not null;
create index log_entries_keys on log_entries (company_id, number) where entry ->> 'kind' = 'key';

-- Hashes of the tree, by the index that golang.org/x/mod/sumdb/tlog gives them.
create table log_hashes (
    company_id uuid not null references companies (id),
    index      bigint not null,
    hash       bytea not null,
    primary key (company_id, index)
);

-- One an hour at most, while something is added: whoever asks gets one of the moment.
create table log_heads (
    company_id uuid not null references companies (id),
    size       bigint not null,
    note       text not null,
    made_at    timestamptz not null default now(),
    primary key (company_id, size)
);

-- +goose StatementBegin
do $$
declare
    t text;
begin
    foreach t in array array['log_entries', 'log_hashes', 'log_heads'] loop
        execute format('create trigger kept before update or delete on %I for each row execute function kept_as_it_is()', t);
        execute format('create trigger kept_whole before truncate on %I for each statement execute function kept_as_it_is()', t);
    end loop;
end
$$;
-- +goose StatementEnd

alter table issues add column hash text;

-- What a job's record shows of its products; worked out when somebody asks, forgotten when
-- something is logged.
alter table jobs add column cases jsonb;

-- A photograph that a record names stays; its picture never changes.
-- +goose StatementBegin
create function photo_kept() returns trigger language plpgsql as $$
begin
    if tg_op = 'UPDATE' then
        if (new.company_id, new.id, new.job_id, new.surface_id, new.image, new.thumb, new.added_by, new.added_at)
            is distinct from (old.company_id, old.id, old.job_id, old.surface_id, old.image, old.thumb, old.added_by, old.added_at) then
            raise exception 'a photograph is never changed; add another' using errcode = 'restrict_violation';
        end if;
        return new;
    end if;
    if exists (select from events e where e.company_id = old.company_id and e.job_id = old.job_id
        and e.doc -> 'body' ->> 'photo' = old.id::text) then
        raise exception 'a photograph of a record is never deleted; hide it' using errcode = 'restrict_violation';
    end if;
    return old;
end
$$;
-- +goose StatementEnd
create trigger photo_kept before update or delete on photos for each row execute function photo_kept();

-- +goose Down
drop trigger photo_kept on photos;
drop function photo_kept;
alter table issues drop column hash;
alter table jobs drop column cases;
drop table log_heads, log_hashes, log_entries;
