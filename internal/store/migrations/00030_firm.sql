-- +goose Up

-- Tokens of sessions are kept hashed from now on. Those that were kept as they are let nobody in any more.
delete from sessions;

-- Which database this is, so that it knows when it was put back from a copy: the columns are compared with what PostgreSQL says of itself.
-- Null: no server worked on it yet.
create table installation (
    only_one boolean primary key default true check (only_one),
    id uuid not null default gen_random_uuid(),
    system text,           -- identifier of the cluster
    database bigint,       -- oid of the database
    place bigint,          -- oid of this table: a dump that is restored makes a new one
    timeline text,         -- of the cluster's log: another after it was put back to an earlier moment, or another server took its place
    written bigint,        -- the transaction that wrote this row last: a dump that is restored writes it in another
    beats bigint not null default 0, -- counted on by servers, which remember it outside: a disk that is put back is behind them
    copied_at timestamptz, -- when it was last found to be a copy; null: never
    copied_why text not null default ''
);
insert into installation default values;

-- Since its database turned out to be a copy, nobody knows which numbers of a series are on labels already.
alter table series add held_at timestamptz, add least_next integer not null default 0 check (least_next >= 0); -- where a new key begins to count

-- Numbers that no label gets here, since they may be on labels that this database knows nothing of.
create table skips (
    id bigint generated always as identity primary key,
    series_id bigint not null references series,
    key text not null,
    first integer not null,
    last integer not null check (last >= first),
    skipped_by text not null,
    skipped_at timestamptz not null default now(),
    why text not null
);
create index skips_series on skips (series_id, id);

-- Prepared before its database was put back: its labels may have been printed since.
alter table runs add doubted_at timestamptz;

-- The label stands first: with the print first, a planner that knows nothing of a new print (its statistics are of before, as after a crash)
-- would read all of its pieces by this index, where it should look a few places up.
drop index pieces_label;
create index pieces_label on pieces (label, print_id);

-- The places of a large print are written down as it goes on, so that it begins at once.
alter table prints
    add lease_lasts bigint not null default 0, -- milliseconds: a lease that ends later than that was given before the clock was set back
    add listing jsonb,      -- what is left out of them; null: all places are written down
    add listed integer,     -- places that are; null: all
    add last_label integer; -- of the run, that the print ends with; null: that of its last place

-- Records that are read from somewhere and were changed by hand since: the next reading asks before it takes their place.
alter table record_sets add by_hand boolean not null default false;

-- Runs are found by answers too.
create index run_answers_answer on run_answers using hash (answer);

-- +goose Down
drop index run_answers_answer;
alter table record_sets drop by_hand;
alter table prints drop lease_lasts, drop listing, drop listed, drop last_label;
drop index pieces_label;
create index pieces_label on pieces (print_id, label);
alter table runs drop doubted_at;
drop table skips;
alter table series drop held_at, drop least_next;
drop table installation;
delete from sessions;
