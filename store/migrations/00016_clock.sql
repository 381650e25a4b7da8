-- +goose Up
-- The face of the clock by which a person reads times.
alter table people add column clock text not null default '24' check (clock in ('12', '24'));

-- +goose Down
alter table people drop column clock;
