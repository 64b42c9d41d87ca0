-- +goose Up
-- What a source is told of labels that came out: each label once, at its first coming out. It waits here until the source has taken it.
alter table feeds add write_back jsonb;
alter table pieces add told boolean not null default false; -- its label is in a telling, whichever print it came out in first
create table tellings (
  id bigint generated always as identity primary key,
  mark uuid not null default gen_random_uuid(), -- by which a source knows it again
  feed_id bigint not null references feeds,
  run_id bigint not null references runs,
  record integer not null,
  labels integer[] not null,
  printed_by text not null,
  printed_at timestamptz not null default now(),
  key text[], -- of the record, once it was tried
  told_at timestamptz,
  next_at timestamptz not null default now(),
  tries integer not null default 0,
  trouble text not null default ''
);
create index tellings_waiting on tellings (next_at) where told_at is null;
create index tellings_feed on tellings (feed_id, key);

-- +goose Down
drop table tellings;
alter table pieces drop told;
alter table feeds drop write_back;
