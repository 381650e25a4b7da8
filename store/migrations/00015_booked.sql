-- +goose Up
-- How often the bookings of a job changed, since its plan follows them.
alter table jobs add column booked bigint not null default 0;

-- +goose Down
alter table jobs drop column booked;
