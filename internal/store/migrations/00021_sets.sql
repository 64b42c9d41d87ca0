-- +goose Up
-- How many labels a record has in a run before these: a run may be printed as a whole again and again.
alter table run_records add before integer not null default 0;

-- +goose Down
alter table run_records drop before;
