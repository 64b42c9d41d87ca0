-- +goose Up
-- What a label has that is made again since the tag under it was bad.
alter table series add bad_tag text not null default 'same' check (bad_tag in ('same', 'new'));

-- +goose Down
alter table series drop bad_tag;
