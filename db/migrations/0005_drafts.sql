-- What people are writing and have not recorded yet. Ordinary rows, not entries.
create table draft (
  account_id bigint not null references account,
  key text not null,
  kind text not null,
  about text not null,
  content jsonb not null,
  kept_at timestamptz not null,
  primary key (account_id, key)
);
grant select, insert, update, delete on draft to gremium_server;
