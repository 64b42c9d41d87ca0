-- +goose Up
-- Print set-ups: named, for a printer, and for one stock or for any.
create table setups (
    id bigint generated always as identity primary key,
    printer_id bigint not null references printers on delete cascade,
    stock text not null default '',
    about jsonb not null,
    changed_by text not null,
    changed_at timestamptz not null default now()
);
create unique index setups_name on setups (printer_id, stock, (about->>'name'));

alter table runs add setup_id bigint references setups on delete set null;

-- What a print was started with: the set-up as it was then, and the places of its first sheet that
-- were used already. label_count of a slice's first page is told by where the slice begins.
alter table prints add setup jsonb not null default '{}', add start_place integer not null default 0 check (start_place >= 0);

alter table printers add retired_at timestamptz;
alter table accounts add units text not null default 'mm' check (units in ('mm', 'in'));

-- +goose Down
alter table accounts drop units;
alter table printers drop retired_at;
alter table prints drop setup, drop start_place;
alter table runs drop setup_id;
drop table setups;
