-- +goose Up
-- Reference packs that were here: the one of the program, and those that were brought in. The one that was chosen last is in use.
create table reference_packs (
  version text primary key,
  pack bytea not null,
  issued_on text not null,
  issued_by text not null,
  notes text not null,
  taken_by text not null,
  taken_at timestamptz not null default now(),
  chosen_by text,
  chosen_at timestamptz
);

-- Ready messages of signs of the plant's own.
create table sign_texts (
  id bigint generated always as identity primary key,
  kind text not null,
  symbols text[] not null,
  message text not null unique,
  added_by text not null,
  added_at timestamptz not null default now()
);

-- +goose Down
drop table sign_texts, reference_packs;
