-- +goose Up
-- What the values of fields must be in records that are written by hand: a list of questions (ask.Question) that they answer.
alter table record_sets add checks jsonb not null default '[]';

-- +goose Down
alter table record_sets drop checks;
