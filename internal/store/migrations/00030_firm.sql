-- +goose Up

-- Tokens of sessions are kept hashed from now on. Those that were kept as they are let nobody in any more.
delete from sessions;

-- +goose Down
delete from sessions;
