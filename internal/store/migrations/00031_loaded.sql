-- +goose Up

-- What a person says is loaded in a printer that says something else, with the reason; null: the printer is believed.
alter table printers add loaded_said jsonb;

-- +goose Down
alter table printers drop loaded_said;
