-- +goose Up
-- A number for each company that grows with every change of what the list of its jobs shows: the
-- jobs themselves, and the names of the people who changed them.
alter table companies add column list_revision bigint not null default 0;
-- +goose StatementBegin
create function list_changed() returns trigger language plpgsql as $$
begin
    -- What a restore brings in is as it was when it was backed up.
    if coalesce(current_setting('nephelon.restoring', true), '') <> '' then
        return null;
    end if;
    update companies set list_revision = list_revision + 1 where id in (select company_id from changed);
    return null;
end
$$;
-- +goose StatementEnd
create trigger jobs_added after insert on jobs
    referencing new table as changed for each statement execute function list_changed();
create trigger jobs_changed after update on jobs
    referencing new table as changed for each statement execute function list_changed();
create trigger jobs_deleted after delete on jobs
    referencing old table as changed for each statement execute function list_changed();
create trigger people_changed after update on people
    referencing new table as changed for each statement execute function list_changed();

-- +goose Down
drop trigger people_changed on people;
drop trigger jobs_deleted on jobs;
drop trigger jobs_changed on jobs;
drop trigger jobs_added on jobs;
drop function list_changed;
alter table companies drop column list_revision;
