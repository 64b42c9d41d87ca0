-- +goose Up
-- A session belongs to the account as it was when it began: a new password, or closing the account, raises the number.
alter table accounts add sessions integer not null default 1, add closed_at timestamptz;

-- +goose Down
alter table accounts drop closed_at, drop sessions;
