-- +goose Up
-- Number series, which are kept for good: how each counts, and what becomes of numbers that a run took and does not need.
create table series (
  id bigint generated always as identity primary key,
  name text not null check (name <> ''),
  counts jsonb not null, -- series.Spec
  listed boolean not null default false, -- its numbers are those of series_lists, in their order
  unused text not null check (unused in ('return', 'void')),
  made_by text not null,
  made_at timestamptz not null default now(),
  retired_at timestamptz
);
create unique index series_name on series (name) where retired_at is null;

-- Ready numbers that were brought in, to be used up.
create table series_lists (
  series_id bigint not null references series,
  ordinal bigint not null,
  number text not null check (number <> ''),
  primary key (series_id, ordinal)
);
create unique index series_lists_number on series_lists (series_id, number);

-- How far a series has counted, for each key under which it counts on its own. Its row is the lock under which numbers are taken.
create table counters (
  series_id bigint not null references series,
  key text not null,
  next bigint not null default 0,
  primary key (series_id, key)
);

-- Every number that was ever taken, and its fate. One that was returned may be taken again: that is a row of its own.
create table numbers (
  id bigint generated always as identity primary key,
  series_id bigint not null, -- of series and runs, which are never deleted: to look for each would take longer than all else
  key text not null,
  ordinal bigint not null,
  number text not null,
  run_id bigint not null,
  record integer not null, -- the first one that it is for
  first_label integer not null,
  last_label integer not null,
  after_print bigint not null default 0, -- it stands on labels of later prints than this one
  last_print bigint, -- the last print on whose labels it stands; null: on those of later ones too
  sent boolean not null default false, -- it was at a printer, whatever came of it: no other label has it
  state text not null default 'open' check (state in ('open', 'printed', 'spoiled', 'voided', 'returned')),
  taken_by text not null,
  taken_at timestamptz not null default now(),
  changed_by text not null default '', -- by whom it got its state; empty: by its printing
  changed_at timestamptz,
  why text not null default ''
);
create unique index numbers_once on numbers (series_id, key, ordinal) where state <> 'returned';
create index numbers_returned on numbers (series_id, key, ordinal) where state = 'returned';
create index numbers_run on numbers (run_id, series_id, first_label);
create index numbers_open on numbers (run_id, first_label) where state = 'open';
create index numbers_number on numbers (number text_pattern_ops);

-- What was answered to questions that are asked for each record (copy 0) or each label of a record (copies from 1).
create table run_answers (
  run_id bigint not null references runs on delete cascade,
  record integer not null,
  copy integer not null,
  name text not null,
  answer text not null,
  primary key (run_id, record, copy, name)
);

-- A run that was given up prints nothing more. Its edits count what was changed, so that what was found before is not kept for it.
alter table runs add closed_at timestamptz, add closed_by text not null default '', add edits integer not null default 0,
  add numbers jsonb not null default '[]'; -- what its labels have of each series, see RunNumbers

alter table pieces drop constraint pieces_state_check;
alter table pieces add constraint pieces_state_check check (state in ('waiting', 'printed', 'cancelled', 'unknown', 'spoiled'));

-- +goose Down
update pieces set state = 'printed' where state = 'spoiled';
alter table pieces drop constraint pieces_state_check;
alter table pieces add constraint pieces_state_check check (state in ('waiting', 'printed', 'cancelled', 'unknown'));
alter table runs drop closed_at, drop closed_by, drop edits, drop numbers;
drop table run_answers, numbers, counters, series_lists, series;
