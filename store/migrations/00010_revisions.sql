-- +goose Up
-- Whatever people edit carries a number, so that nobody writes over what they have not seen.
alter table companies add column house_revision bigint not null default 1;
alter table systems add column revision bigint not null default 1;
alter table stock add column revision bigint not null default 1;
alter table people add column revision bigint not null default 1;

-- A second factor of signing in: the shared secret of codes by time, and the last step of
-- time that was taken, so that a code is taken once. Of recovery codes only hashes are kept.
alter table people add column factor text not null default '', add column factor_step bigint not null default 0;
alter table companies add column factor_wanted boolean not null default false;
create table recovery_codes (
    company_id uuid not null references companies (id),
    person_id  uuid not null references people (id),
    code       bytea not null,
    used_at    timestamptz,
    primary key (company_id, person_id, code)
);

-- Instruments and scale of a company, and how many bytes it may keep.
alter table companies add column bridge text not null default '', add column quota bigint not null default 20000000000;

-- +goose Down
drop table recovery_codes;
alter table companies drop column house_revision, drop column factor_wanted, drop column bridge, drop column quota;
alter table systems drop column revision;
alter table stock drop column revision;
alter table people drop column revision, drop column factor, drop column factor_step;
