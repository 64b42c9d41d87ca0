-- +goose Up
-- Labels of further designs among those of a run, in the order in which its shares name them as parts.
alter table runs add besides jsonb not null default '[]', add pages integer; -- pages of its own printer, where labels besides break them up
alter table run_records
    add part smallint not null default 0, -- 0: the run's own design
    add ordinal integer not null default 0, -- labels of the part before these
    add group_number integer not null default 0,
    add group_labels integer not null default 0;
alter table pieces add part smallint not null default 0;

-- When a print takes its turn at its printer, among the numbers of prints; null: as it was started.
alter table prints add turn double precision;

-- +goose Down
alter table prints drop turn;
alter table pieces drop part;
alter table run_records drop part, drop ordinal, drop group_number, drop group_labels;
alter table runs drop besides, drop pages;
