-- +goose Up
-- What lists and searches ask of a document stands beside it, so that they need not read it.
alter table jobs
    add column surfaces int generated always as (coalesce(jsonb_array_length(doc -> 'job' -> 'surfaces'), 0)) stored,
    add column zone text generated always as (coalesce(doc -> 'job' ->> 'zone', '')) stored,
    add column done text generated always as (coalesce(doc -> 'job' ->> 'done', '')) stored;
create index jobs_open on jobs (company_id, id) where archived_at is null and done = '';

-- Times of events are written in UTC, with a Z, so that what they are depends on no setting.
-- +goose StatementBegin
create function event_happened(doc jsonb) returns timestamptz language sql immutable parallel safe as $$
    select coalesce((doc #>> '{body,noticed}')::timestamptz,
        (doc ->> 'at')::timestamptz + make_interval(secs => coalesce((doc ->> 'behind')::float8, 0)))
$$;
-- +goose StatementEnd
-- +goose StatementBegin
create function event_words(doc jsonb) returns text language sql immutable parallel safe as $$
    select string_agg(value, ' ') from jsonb_each_text(coalesce(doc -> 'body', '{}'))
$$;
-- +goose StatementEnd
alter table events
    add column kind text generated always as (coalesce(doc ->> 'kind', '')) stored,
    add column happened timestamptz generated always as (event_happened(doc)) stored,
    add column struck text generated always as (case when doc ->> 'kind' = 'struck' then doc -> 'body' ->> 'struck' end) stored,
    add column words text generated always as (event_words(doc)) stored;
create extension if not exists pg_trgm;
create index events_by_time on events (company_id, happened desc nulls last, number desc);
create index events_by_kind on events (company_id, kind, happened desc nulls last, number desc);
create index events_struck on events (company_id, job_id, struck) where struck is not null;
create index events_by_words on events using gin (words gin_trgm_ops);
create index issues_by_time on issues (company_id, at desc) include (job_id);

-- +goose Down
drop index issues_by_time, events_by_words, events_struck, events_by_kind, events_by_time, jobs_open;
alter table events drop column words, drop column struck, drop column happened, drop column kind;
drop function event_words, event_happened;
alter table jobs drop column done, drop column zone, drop column surfaces;
