-- +goose Up
create table accounts (
    id bigint generated always as identity primary key,
    name text not null unique check (name <> ''),
    password_hash text not null,
    created_at timestamptz not null default now()
);

create table sessions (
    token text primary key,
    data bytea not null,
    expiry timestamptz not null
);
create index sessions_expiry on sessions (expiry);

create table stocks (
    id bigint generated always as identity primary key,
    number text not null unique check (number <> ''),
    about jsonb not null,
    created_at timestamptz not null default now()
);

create table printers (
    id bigint generated always as identity primary key,
    name text not null unique check (name <> ''),
    about jsonb not null,
    address text not null,
    camera text not null default '',
    created_at timestamptz not null default now()
);

create table record_sets (
    id bigint generated always as identity primary key,
    name text not null check (name <> ''),
    fields text[] not null,
    record_count integer not null,
    imported_by text not null,
    imported_at timestamptz not null default now(),
    retired_at timestamptz
);

-- A record set never changes once it is there: what was printed from it can be looked at for good.
create table records (
    record_set_id bigint not null references record_sets on delete cascade,
    number integer not null check (number > 0),
    "values" text[] not null,
    primary key (record_set_id, number)
);

create table designs (
    id bigint generated always as identity primary key,
    name text not null check (name <> ''),
    document jsonb not null,
    edit bigint not null default 1,
    record_set_id bigint references record_sets,
    printer_id bigint references printers,
    updated_by text not null,
    updated_at timestamptz not null default now(),
    created_at timestamptz not null default now(),
    retired_at timestamptz
);

-- A version that was kept. It never changes.
create table design_revisions (
    id bigint generated always as identity primary key,
    design_id bigint not null references designs,
    number integer not null check (number > 0),
    document jsonb not null,
    made_by text not null,
    made_at timestamptz not null default now(),
    unique (design_id, number)
);

create table runs (
    id bigint generated always as identity primary key,
    design_revision_id bigint not null references design_revisions,
    record_set_id bigint not null references record_sets,
    printer_id bigint not null references printers,
    records text not null,
    how_many jsonb not null,
    label_count integer not null check (label_count >= 0),
    proof jsonb,
    prepared_by text not null,
    prepared_at timestamptz not null default now()
);
create index runs_prepared_at on runs (prepared_at desc);

-- The records of a run in order, with the numbers of their labels.
create table run_records (
    run_id bigint not null references runs on delete cascade,
    record integer not null check (record > 0),
    first_label integer not null check (first_label > 0),
    copies integer not null check (copies > 0),
    primary key (run_id, first_label)
);

create table prints (
    id bigint generated always as identity primary key,
    run_id bigint not null references runs,
    kind text not null check (kind in ('sample', 'rest', 'all', 'again')),
    state text not null check (state in ('printing', 'held', 'done', 'cancelled')),
    label_count integer not null check (label_count > 0),
    printed integer not null default 0,
    cancel_asked boolean not null default false,
    note text not null default '',
    note_do text not null default '',
    -- The slice at the printer: the number of its job there, and the places it holds.
    device_job integer,
    slice_first integer,
    slice_last integer,
    failures integer not null default 0,
    started_by text not null,
    started_at timestamptz not null default now(),
    ended_at timestamptz,
    check (printed between 0 and label_count),
    check ((device_job is null) = (slice_first is null) and (device_job is null) = (slice_last is null))
);
create index prints_run on prints (run_id);
create index prints_open on prints (state) where state in ('printing', 'held');

-- Each label a print is to bring out, in order, and what became of it.
create table pieces (
    print_id bigint not null references prints on delete cascade,
    place integer not null check (place > 0),
    label integer not null check (label > 0),
    record integer not null check (record > 0),
    state text not null default 'waiting' check (state in ('waiting', 'printed', 'cancelled')),
    read_back text check (read_back in ('meant', 'other', 'none')),
    read_as text,
    primary key (print_id, place)
);
create index pieces_other on pieces (print_id, place) where read_back = 'other';

-- +goose Down
drop table pieces, prints, run_records, runs, design_revisions, designs, records, record_sets, printers, stocks, sessions, accounts;
