-- A movement has a number of its own, may wait for conditions, can be taken over, and what was done with it is kept.
alter table movement drop constraint value_invalid;
alter table movement add constraint value_invalid check (state in ('draft', 'conditions_open', 'recorded'));
alter table movement add column id bigint generated always as identity;
create unique index movement_by_id on movement (id);
alter table movement add column revision int not null default 0;
alter table movement add column about_kind text not null generated always as (split_part(about, ' ', 1)) stored;
alter table movement add column about_id bigint not null generated always as (split_part(about, ' ', 2)::bigint) stored;
-- what was said to the warnings when it was handed in to wait for its conditions
alter table movement add column words jsonb not null default '{}';
create index movement_about on movement (about_kind, about_id);
create index movement_open on movement (state, kept_at desc);
create index movement_by_account on movement (account_id, state);

-- What has to be so before it is recorded, each line ticked by somebody.
create table movement_condition (
  movement_id bigint not null references movement (id) on delete cascade,
  place int not null,
  line text not null,
  met_at timestamptz,
  met_by bigint references account,
  primary key (movement_id, place)
);
grant select, insert, update, delete on movement_condition to gremium_server;

-- What has to be said of a recorded one once it has happened: left, started, back; planned on a day, said with the real one.
create table movement_saying (
  movement_id bigint not null references movement (id) on delete cascade,
  what text not null constraint value_invalid check (what in ('left', 'started', 'back')),
  placement_id bigint,
  planned date not null,
  said date,
  said_at timestamptz,
  said_by bigint references account,
  -- where the register followed: its entry
  entry_number bigint,
  primary key (movement_id, what)
);
create index movement_saying_open on movement_saying (planned) where said is null;
create index movement_saying_placement on movement_saying (placement_id);
grant select, insert, update, delete on movement_saying to gremium_server;

-- What was done with a movement, by whom: only added to.
create table movement_act (
  id bigint generated always as identity primary key,
  movement_id bigint not null references movement (id) on delete cascade,
  at timestamptz not null,
  account_id bigint not null references account,
  act text not null,
  day date,
  word text,
  entry_number bigint
);
create index movement_act_of on movement_act (movement_id);
grant select, insert on movement_act to gremium_server;
