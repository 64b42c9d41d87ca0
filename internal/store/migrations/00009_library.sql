-- +goose Up
alter table designs add column tags text[] not null default '{}';
alter table design_revisions add column why text not null default '';

-- Who has a design open: a row a page, told anew every few seconds.
create table at_bench (
    design_id bigint not null references designs,
    page text not null,
    name text not null,
    seen_at timestamptz not null default now(),
    primary key (design_id, page)
);

-- +goose Down
drop table at_bench;
alter table design_revisions drop column why;
alter table designs drop column tags;
