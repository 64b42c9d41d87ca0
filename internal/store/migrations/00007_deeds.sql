-- +goose Up
-- Who did what: written once, never changed.
create table deeds (
    id bigint generated always as identity primary key,
    done_at timestamptz not null default now(),
    account text not null,
    operation text not null, -- of the contract
    subject_kind text not null,
    subject_id bigint not null,
    name text not null -- of the subject, as it was called then
);
create index on deeds (subject_kind, subject_id);

-- +goose Down
drop table deeds;
