-- +goose Up
-- Pictures, kept once by the hash of their bytes. One never changes.
create table pictures (
    hash text primary key check (hash ~ '^[0-9a-f]{64}$'),
    data bytea not null,
    name text not null,
    width integer not null,
    height integer not null,
    added_by text not null references accounts (name),
    added_at timestamptz not null default now()
);

-- +goose Down
drop table pictures;
