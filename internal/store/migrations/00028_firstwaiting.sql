-- +goose Up
-- No place before it waits to be printed, so that what waits is found without an index of its own: it made a print of 100,000 labels begin a
-- third of a second later.
alter table prints add first_waiting integer not null default 1;
drop index pieces_waiting;

-- +goose Down
create index pieces_waiting on pieces (print_id, place) where state = 'waiting';
alter table prints drop first_waiting;
