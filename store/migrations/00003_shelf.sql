-- +goose Up
-- Data sheets of products and media in one table, with every edition kept.
create table sheets (
    company_id  uuid not null references companies (id),
    shelf       text not null check (shelf in ('product', 'medium')),
    id          text not null,
    version     integer not null,
    doc         jsonb not null,
    changed_by  uuid references people (id),
    changed_at  timestamptz not null default now(),
    archived_at timestamptz,
    name        text generated always as (doc ->> 'name') stored,
    kind        text generated always as (doc ->> 'kind') stored,
    chemistry   text generated always as (coalesce(doc ->> 'chemistry', '')) stored,
    search      tsvector generated always as (to_tsvector('simple'::regconfig,
        coalesce(doc ->> 'name', '') || ' ' || coalesce(doc ->> 'kind', '') || ' ' || coalesce(doc ->> 'chemistry', '') || ' ' ||
        coalesce(doc ->> 'carrier', '') || ' ' || coalesce(doc ->> 'use', '') || ' ' || coalesce(doc ->> 'note', '') || ' ' || coalesce(doc ->> 'blend', ''))) stored,
    primary key (company_id, shelf, id)
);
create index sheets_by_words on sheets using gin (search);
create index sheets_by_name on sheets (company_id, shelf, name);

create table sheet_versions (
    company_id uuid not null,
    shelf      text not null,
    id         text not null,
    version    integer not null,
    doc        jsonb not null,
    changed_by uuid references people (id),
    changed_at timestamptz not null,
    primary key (company_id, shelf, id, version),
    foreign key (company_id, shelf, id) references sheets on delete cascade
);

create table systems (
    company_id uuid not null references companies (id),
    id         text not null,
    doc        jsonb not null,
    name       text generated always as (doc ->> 'name') stored,
    primary key (company_id, id)
);

create table stock (
    company_id uuid not null references companies (id),
    id         text not null,
    doc        jsonb not null,
    changed_at timestamptz not null default now(),
    gone_at    timestamptz,
    primary key (company_id, id)
);

alter table companies add column house jsonb not null default '{}';
create index jobs_by_product on jobs using gin ((doc -> 'products') jsonb_path_ops);
create index jobs_by_medium on jobs using gin ((doc -> 'media') jsonb_path_ops);

-- Pot life became points over temperature and mass.
-- +goose StatementBegin
create function pot_life_as_points(p jsonb) returns jsonb language sql immutable as $$
    select case when jsonb_typeof(p -> 'potLife') = 'object' then
        (p - 'potLife' - 'potLifeAt' - 'potLifeMass') || jsonb_build_object('potLife', jsonb_build_array(jsonb_strip_nulls(jsonb_build_object(
            'at', coalesce(p #> '{potLifeAt,value}', '20'), 'mass', p #> '{potLifeMass,value}',
            'lasts', p #> '{potLife,value}', 'source', p #> '{potLife,source}'))))
    else p end
$$;
-- +goose StatementEnd
-- +goose StatementBegin
create function file_with_points(f jsonb) returns jsonb language sql immutable as $$
    select jsonb_set(f, '{products}', (select coalesce(jsonb_agg(pot_life_as_points(e) order by n), '[]')
        from jsonb_array_elements(f -> 'products') with ordinality t (e, n)))
$$;
-- +goose StatementEnd
update jobs set doc = file_with_points(doc);
update job_revisions set doc = file_with_points(doc);
insert into sheets (company_id, shelf, id, version, doc)
    select company_id, 'product', id, 1, pot_life_as_points(doc) || '{"version": 1}' from products;
insert into sheet_versions (company_id, shelf, id, version, doc, changed_at)
    select company_id, shelf, id, version, doc, changed_at from sheets;
drop function file_with_points (jsonb);
drop function pot_life_as_points (jsonb);
drop table products;

-- +goose Down
create table products (
    company_id uuid not null references companies (id),
    id         text not null,
    doc        jsonb not null,
    name       text generated always as (doc ->> 'name') stored,
    primary key (company_id, id)
);
insert into products (company_id, id, doc) select company_id, id, doc from sheets where shelf = 'product';
drop index jobs_by_product, jobs_by_medium;
alter table companies drop column house;
drop table stock, systems, sheet_versions, sheets;
