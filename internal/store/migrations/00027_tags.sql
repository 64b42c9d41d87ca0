-- +goose Up
alter table printers add encoder text not null default ''; -- address of the reader that writes tags; empty: none

-- What became of tags: each that was written into a label, and each that was printed over as void.
create table tags (
  id bigint generated always as identity primary key,
  print_id bigint not null references prints on delete cascade,
  run_id bigint not null references runs on delete cascade,
  label integer not null, -- of the run, that it was meant for
  tid text not null, -- of the chip, hexadecimal; empty: it did not tell
  epc text not null,
  user_memory text not null,
  outcome text not null check (outcome in ('written', 'void')),
  why text not null,
  job integer, -- that prints it over, until that is out
  at timestamptz not null default now()
);
create index tags_print on tags (print_id);
create index tags_label on tags (run_id, label);
create index tags_epc on tags (epc) where outcome = 'written';
create index tags_tid on tags (tid) where tid <> '';

-- +goose Down
drop table tags;
alter table printers drop encoder;
