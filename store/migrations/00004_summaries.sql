-- +goose Up
-- What a list of jobs shows of each, and by what a plan made with the shelf is
-- told from one made before the shelf changed.
alter table jobs add column summary jsonb;
alter table companies add column shelf_revision bigint not null default 1;
-- Sessions are written as JSON from here on; whoever is signed in signs in again.
delete from sessions;
create index job_revisions_by_job on job_revisions (job_id, revision desc);

-- +goose Down
drop index job_revisions_by_job;
alter table companies drop column shelf_revision;
alter table jobs drop column summary;
