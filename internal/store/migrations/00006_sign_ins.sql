-- +goose Up
-- Each sign-in by itself, so that its owner sees it and can end it.
create table sign_ins (
    id bigint generated always as identity primary key,
    account text not null references accounts (name),
    sessions integer not null, -- the account's number when it began
    address text not null,
    agent text not null,
    began_at timestamptz not null default now(),
    seen_at timestamptz not null default now(),
    ended_at timestamptz
);
create index on sign_ins (account, began_at);

-- +goose Down
drop table sign_ins;
