-- +goose Up
-- A stock that is retired leaves the stockroom; designs keep the one they were made with.
alter table stocks add column retired_at timestamptz;
create index designs_stock on designs ((document->'stock'->>'number'));

-- +goose Down
drop index designs_stock;
alter table stocks drop column retired_at;
