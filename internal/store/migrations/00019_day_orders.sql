-- +goose Up
-- Orders of the day: what a run of a design is usually made with, under a name.
create table day_orders (
  id bigint generated always as identity primary key,
  name text not null unique check (name <> ''),
  design_id bigint not null references designs,
  set_name text not null, -- the newest record set of this name; empty: a label without records
  choice jsonb not null, -- of records, how many, printer and set-up
  kept_by text not null,
  kept_at timestamptz not null default now()
);

-- +goose Down
drop table day_orders;
