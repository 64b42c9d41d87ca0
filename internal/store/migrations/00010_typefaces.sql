-- +goose Up
create table typefaces (
    hash text primary key,
    family text not null,
    bold boolean not null,
    italic boolean not null,
    rights text not null,
    data bytea not null,
    brought_by text not null,
    brought_at timestamptz not null default now(),
    unique (family, bold, italic)
);

-- +goose Down
drop table typefaces;
