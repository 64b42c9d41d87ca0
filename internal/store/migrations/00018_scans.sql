-- +goose Up
-- What was scanned of a run's labels after they were printed, held against what they are meant to say.
create table scans (
  id bigint generated always as identity primary key,
  run_id bigint not null references runs on delete cascade,
  scanned text not null,
  outcome text not null check (outcome in ('meant', 'again', 'spoiled', 'unprinted', 'other')),
  label integer, -- null: no label of the run says it
  scanned_by text not null,
  scanned_at timestamptz not null default now()
);
create index scans_run on scans (run_id, label);
create index scans_latest on scans (run_id, id desc);

-- Who asked for a print to pause; null: nobody.
alter table prints add pause_by text;

-- +goose Down
alter table prints drop pause_by;
drop table scans;
