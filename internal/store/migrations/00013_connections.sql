-- +goose Up
-- Where records are kept outside: databases, files that others write, the order desk. A password is sealed under a key that is not here.
create table connections (
  id bigint generated always as identity primary key,
  name text not null,
  kind text not null,
  place jsonb not null,
  secret bytea,
  made_by text not null,
  made_at timestamptz not null default now(),
  closed_at timestamptz
);
create unique index connections_name on connections (lower(name)) where closed_at is null;

-- What is read there again: its newest records are the set that is not retired.
create table feeds (
  id bigint generated always as identity primary key,
  connection_id bigint not null references connections,
  request jsonb not null,
  answers jsonb not null default '{}',
  key jsonb not null default '[]',
  every_minutes int not null default 0,
  before_run boolean not null default false,
  read_at timestamptz not null default now(),
  tried_at timestamptz not null default now(),
  changes jsonb,
  trouble text not null default ''
);
alter table record_sets add feed_id bigint references feeds;
create index record_sets_feed on record_sets (feed_id) where feed_id is not null;

-- +goose Down
alter table record_sets drop feed_id;
drop table feeds;
drop table connections;
