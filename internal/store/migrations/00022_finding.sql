-- +goose Up
-- Runs are found by words about them, by a value of their records, and in the order in which they were lately printed, over years of them.
alter table runs add last_printed_at timestamptz, add says text not null default '';
update runs r set last_printed_at = (select max(coalesce(ended_at, started_at)) from prints where run_id = r.id and printed > 0),
  says = (select concat_ws(' ', v.document->>'name', s.name, r.prepared_by, p.name, v.document->'stock'->>'name', v.document->'stock'->>'number')
    from design_revisions v, printers p, (select 1) one left join record_sets s on s.id = r.record_set_id
    where v.id = r.design_revision_id and p.id = r.printer_id);
create index runs_lately on runs (coalesce(last_printed_at, prepared_at) desc, id desc);
create index records_values on records using gin ("values");
create index run_records_record on run_records (run_id, record);
-- Prints and runs are never deleted: to look for theirs at each label took as long as all else.
alter table pieces drop constraint pieces_print_id_fkey;
alter table run_records drop constraint run_records_run_id_fkey;

-- +goose Down
alter table run_records add foreign key (run_id) references runs on delete cascade;
alter table pieces add foreign key (print_id) references prints on delete cascade;
drop index run_records_record, records_values, runs_lately;
alter table runs drop last_printed_at, drop says;
