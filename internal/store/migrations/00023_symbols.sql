-- +goose Up
-- Symbols that people brought in. What one is called says its bytes, so that labels of then are the same now.
create table symbols (
  id text primary key,
  drawing bytea not null, -- SVG with its facts in it
  added_by text not null,
  added_at timestamptz not null default now(),
  retired_at timestamptz
);

-- +goose Down
drop table symbols;
