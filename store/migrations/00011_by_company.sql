-- +goose Up
-- Every record is found by its company first, so that the tables can be laid out over several
-- databases by company. Only these are of all companies: by what address somebody signs in,
-- sessions, attempts to sign in, links that carry a secret, and the queue of plans.
create table addresses (
    email      text primary key check (email = lower(email)),
    company_id uuid not null,
    person_id  uuid not null
);
insert into addresses (email, company_id, person_id) select email, company_id, id from people;
alter table people drop constraint people_email_key;
alter table people drop constraint people_pkey cascade;
alter table people add primary key (company_id, id);
drop index people_of_company;
create index people_of_company on people (company_id, name);

alter table job_revisions add column company_id uuid;
update job_revisions r set company_id = j.company_id from jobs j where j.id = r.job_id;
alter table jobs drop constraint jobs_pkey cascade;
alter table jobs add primary key (company_id, id);
alter table job_revisions alter column company_id set not null, drop constraint job_revisions_pkey, drop constraint job_revisions_job_id_save_id_key;
alter table job_revisions add primary key (company_id, job_id, revision), add unique (company_id, job_id, save_id);
drop index job_revisions_by_job;
alter table photos drop constraint photos_pkey;
alter table photos add primary key (company_id, id);
drop index photos_of_job;
create index photos_of_job on photos (company_id, job_id, added_at);

alter table jobs add foreign key (company_id, changed_by) references people;
alter table job_revisions add foreign key (company_id, job_id) references jobs on delete cascade, add foreign key (company_id, person_id) references people;
alter table photos add foreign key (company_id, job_id) references jobs on delete cascade, add foreign key (company_id, added_by) references people;
alter table sheets add foreign key (company_id, changed_by) references people;
alter table sheet_versions add foreign key (company_id, changed_by) references people;
alter table rosters add foreign key (company_id, changed_by) references people;
alter table issues add foreign key (company_id, job_id) references jobs, add foreign key (company_id, person_id) references people;
alter table events add foreign key (company_id, job_id) references jobs, add foreign key (company_id, person_id) references people;
alter table recovery_codes add foreign key (company_id, person_id) references people;

-- What was done with nobody signed in belongs to no company, which has a number, too.
alter table audit drop constraint audit_company_id_fkey, drop constraint audit_pkey;
alter table audit disable trigger kept;
update audit set company_id = '00000000-0000-0000-0000-000000000000' where company_id is null;
alter table audit enable trigger kept;
drop index audit_of_company;
alter table audit alter column company_id set not null, add primary key (company_id, id);

-- Plans are of the second format: a pot life is points, as they have been since the third
-- version of these tables.
update jobs set doc = jsonb_set(doc, '{version}', '2');
update job_revisions set doc = jsonb_set(doc, '{version}', '2');

-- A session says whose company it is of.
delete from sessions;
alter table sessions add column company_id uuid;
drop index sessions_of_person;
create index sessions_of_person on sessions (company_id, person_id);
