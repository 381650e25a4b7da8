-- +goose Up
-- Plan files of version 3 say whether a spread or an area per kit is practical; until then all amounts
-- were theoretical, and stay so.
-- +goose StatementBegin
create function amounts_theoretical(doc jsonb) returns jsonb language sql immutable as $$
    select replace(replace(doc::text,
        '"amount": {"basis": "spread",', '"amount": {"basis": "spread", "figure": "theoretical",'),
        '"amount": {"basis": "area-per-kit",', '"amount": {"basis": "area-per-kit", "figure": "theoretical",')::jsonb
$$;
-- +goose StatementEnd
update jobs set doc = jsonb_set(amounts_theoretical(doc), '{version}', '3') where doc ->> 'version' = '2';
update job_revisions set doc = jsonb_set(amounts_theoretical(doc), '{version}', '3') where doc ->> 'version' = '2';
update systems set doc = amounts_theoretical(doc)
    where doc::text ~ '"amount": [{]"basis": "(spread|area-per-kit)"';
drop function amounts_theoretical;

-- +goose Down
update jobs set doc = jsonb_set(doc, '{version}', '2') where doc ->> 'version' = '3';
update job_revisions set doc = jsonb_set(doc, '{version}', '2') where doc ->> 'version' = '3';
