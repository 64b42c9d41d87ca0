-- +goose Up
-- Parts that several designs share. Each design has copies of the elements: it keeps those it was approved with until a person takes newer ones.
create table parts (
    id bigint generated always as identity primary key,
    name text not null check (name <> ''),
    version integer not null default 1,
    elements jsonb not null,
    updated_by text not null,
    updated_at timestamptz not null default now(),
    retired_at timestamptz
);

-- +goose Down
drop table parts;
