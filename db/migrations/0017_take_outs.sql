-- What is taken out of the register as files. Ordinary rows, not entries; they stay as the record of who took what out, and their
-- files go after thirty days. The six columns of work are those of imports: one desk does both.
create table take_out (
  id bigint generated always as identity primary key,
  account_id bigint not null references account,
  at timestamptz not null,
  title text not null,
  asked jsonb not null,
  format text not null constraint take_out_format check (format in ('csv', 'xlsx', 'zip')),
  state text not null default 'waiting'
    constraint take_out_state check (state in ('waiting', 'ready', 'failed', 'cancelled', 'gone')),
  -- looked at this day, as after this entry, with these rights: a file is fetched with the same ones only
  on_day date not null,
  entry bigint not null,
  grants text not null,
  counts jsonb not null default '[]',
  sections text[] not null default '{}',
  bytes bigint,
  trouble jsonb not null default '[]',
  work text constraint take_out_work check (work = 'write'),
  worker uuid,
  beat timestamptz,
  attempts int not null default 0,
  done int not null default 0,
  total int not null default 0
);
create index take_out_work_waiting on take_out (id) where work is not null;
create index take_out_account on take_out (account_id, id desc);
create table take_out_part (
  take_out_id bigint not null references take_out on delete cascade,
  place int not null,
  content bytea not null,
  primary key (take_out_id, place)
);
grant select, insert, update on take_out to gremium_server;
grant select, insert, delete on take_out_part to gremium_server;

-- Whoever waits for work, or for its end, is told at once: the table and the id.
create function tell_of_work() returns trigger language plpgsql as $$
begin
  perform pg_notify('gremium_work', tg_table_name || ' ' || new.id);
  return null;
end $$;
create trigger import_told after insert or update of state, work, worker, done, revision on import
  for each row execute function tell_of_work();
create trigger take_out_told after insert or update of state, work, worker, done on take_out
  for each row execute function tell_of_work();
