-- +goose Up
-- What was answered to a design's questions for a run, and when it was printed first: formulas say that moment, on a reprint too.
alter table runs add answers jsonb not null default '{}', add moment timestamptz;

-- +goose Down
alter table runs drop answers, drop moment;
