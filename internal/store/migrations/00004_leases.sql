-- +goose Up
-- A print is worked on by who has its lease, which a server renews and which ends by itself. Its number
-- only grows: whatever is written of a print is written under the lease that is in force.
alter table prints
    add printer_id bigint references printers,
    add lease bigint not null default 0,
    add lease_worker text not null default '',
    add lease_until timestamptz,
    -- What was counted before is kept, so that nobody counts pieces.
    add first_label integer not null default 0,
    add settled integer not null default 0, -- labels of slices that are over; printed counts those under way too
    add slices integer not null default 0, -- the number of the latest
    add read_meant integer not null default 0,
    add read_other integer not null default 0,
    add read_none integer not null default 0;
update prints p set printer_id = r.printer_id from runs r where r.id = p.run_id;
update prints p set
    settled = (select count(*) from pieces where print_id = p.id and state = 'printed'),
    first_label = coalesce((select label from pieces where print_id = p.id and place = 1), 0),
    read_meant = (select count(*) from pieces where print_id = p.id and read_back = 'meant'),
    read_other = (select count(*) from pieces where print_id = p.id and read_back = 'other'),
    read_none = (select count(*) from pieces where print_id = p.id and read_back = 'none');
alter table prints alter printer_id set not null;
create index prints_printer on prints (printer_id, id) where state in ('printing', 'held');

-- The slices of a print that are at its printer, or of which a camera has yet to see what came out.
create table slices (
    print_id bigint not null references prints on delete cascade,
    number integer not null,
    device_job integer not null,
    first_place integer not null check (first_place > 0),
    last_place integer not null check (last_place >= first_place),
    lease bigint not null, -- under which it was begun
    came integer check (came between 0 and last_place - first_place + 1), -- null: it is not over
    primary key (print_id, number)
);
insert into slices (print_id, number, device_job, first_place, last_place, lease)
    select id, 1, device_job, slice_first, slice_last, 0 from prints where device_job is not null;
update prints set slices = 1 where device_job is not null;
alter table prints drop device_job, drop slice_first, drop slice_last;

-- What became of a label that was at a printer which can no longer tell is unknown, until a person says.
alter table pieces drop constraint pieces_state_check;
alter table pieces add constraint pieces_state_check check (state in ('waiting', 'printed', 'cancelled', 'unknown'));
create index pieces_label on pieces (print_id, label);
create index pieces_unknown on pieces (print_id) where state = 'unknown';
create index pieces_waiting on pieces (print_id, place) where state = 'waiting';

-- A run may be of a label without records, and keeps what it has to count.
alter table runs
    alter record_set_id drop not null,
    add chosen integer not null default 0,
    add printed integer not null default 0;
update runs r set
    chosen = (select count(*) from run_records c where c.run_id = r.id),
    printed = (select count(distinct p.label) from pieces p join prints q on q.id = p.print_id where q.run_id = r.id and p.state = 'printed');

-- Work on prints was jobs of a queue.
drop table if exists river_client_queue, river_client, river_queue, river_leader, river_job, river_migration cascade;
drop type if exists river_job_state cascade;
drop function if exists river_job_notify cascade;
drop function if exists river_job_state_in_bitmask cascade;

-- +goose Down
alter table runs drop printed, drop chosen;
delete from runs where record_set_id is null;
alter table runs alter record_set_id set not null;
drop index pieces_label, pieces_unknown, pieces_waiting;
update pieces set state = 'cancelled' where state = 'unknown';
alter table pieces drop constraint pieces_state_check;
alter table pieces add constraint pieces_state_check check (state in ('waiting', 'printed', 'cancelled'));
alter table prints add device_job integer, add slice_first integer, add slice_last integer;
update prints p set device_job = s.device_job, slice_first = s.first_place, slice_last = s.last_place
    from (select distinct on (print_id) * from slices where came is null order by print_id, number) s where s.print_id = p.id;
drop table slices;
drop index prints_printer;
alter table prints drop printer_id, drop lease, drop lease_worker, drop lease_until, drop settled, drop first_label, drop slices, drop read_meant, drop read_other, drop read_none;
