-- +goose Up
-- What was answered to a design's questions for a run, when it was printed first (formulas say that moment, on a reprint too), and what
-- quantities were taken for that are none.
alter table runs add answers jsonb not null default '{}', add moment timestamptz, add taken jsonb not null default '[]';

-- +goose Down
alter table runs drop answers, drop moment, drop taken;
