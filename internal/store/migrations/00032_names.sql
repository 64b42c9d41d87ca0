-- +goose Up
-- Tables by the words of the trade. The old names stay as views for servers of the version before, which go on while
-- the first new one starts.
alter table deeds rename to audit;
create view deeds as select * from audit;
alter table tellings rename to outbox;
create view tellings as select * from outbox;

-- +goose Down
drop view tellings;
alter table outbox rename to tellings;
drop view deeds;
alter table audit rename to deeds;
