-- +goose Up
-- Choices of records that are kept by name, for record sets of a name: those that come later too.
create table choices (
  id bigint generated always as identity primary key,
  set_name text not null,
  name text not null,
  choosing jsonb not null,
  kept_by text not null,
  kept_at timestamptz not null default now(),
  unique (set_name, name)
);

-- +goose Down
drop table choices;
