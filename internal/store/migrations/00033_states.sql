-- +goose Up
-- A state changes only as internal/store/states.go has it, whoever asks for it.
-- +goose StatementBegin
create function state_kept() returns trigger language plpgsql as $$
begin
  if not (old.state || ' ' || new.state) = any (tg_argv) then
    raise exception '% do not go from % to %', tg_table_name, old.state, new.state using errcode = 'check_violation';
  end if;
  return new;
end $$;
-- +goose StatementEnd
create trigger state_kept before update of state on numbers for each row when (old.state <> new.state)
  execute function state_kept('open printed', 'open returned', 'open spoiled', 'open voided', 'printed open',
    'printed spoiled', 'returned voided');
create trigger state_kept before update of state on prints for each row when (old.state <> new.state)
  execute function state_kept('held cancelled', 'held done', 'held printing', 'printing cancelled', 'printing done',
    'printing held');
create trigger state_kept before update of state on pieces for each row when (old.state <> new.state)
  execute function state_kept('printed spoiled', 'printed waiting', 'unknown printed', 'unknown waiting',
    'waiting cancelled', 'waiting printed', 'waiting unknown');

-- +goose Down
drop trigger state_kept on pieces;
drop trigger state_kept on prints;
drop trigger state_kept on numbers;
drop function state_kept();
