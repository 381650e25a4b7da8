-- +goose Up
-- What records show is kept with the version of what worked it out; all of it is worked out anew.
update jobs set cases = null where cases is not null;

-- +goose Down
update jobs set cases = null where cases is not null;
