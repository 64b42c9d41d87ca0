-- +goose Up
-- Substances of the plant's own, and what it says of others than the book does.
create table substances (
  cas text primary key,
  about jsonb not null,
  changed_by text not null,
  changed_at timestamptz not null default now()
);

-- +goose Down
drop table substances;
