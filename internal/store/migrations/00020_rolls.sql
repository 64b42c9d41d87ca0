-- +goose Up
-- Rolls, and stacks of sheets, that lie in the Stockroom.
create table rolls (
  id bigint generated always as identity primary key,
  stock text not null, -- the plant's number of it
  left_over bigint not null check (left_over > 0), -- pieces; sheets of a stock of sheets; micrometres of a tape
  place text not null default '',
  noted_by text not null,
  noted_at timestamptz not null default now()
);
create index rolls_stock on rolls (stock);

-- +goose Down
drop table rolls;
