-- Reports that somebody keeps: views of the register, no part of it. Ordinary rows, not entries.
create sequence report_id;
create table report (
  id bigint primary key default nextval('report_id'),
  account_id bigint not null references account,
  name text not null,
  folder text not null,
  tags jsonb not null,
  shared jsonb not null,
  view jsonb not null,
  changed_at timestamptz not null,
  deleted_at timestamptz
);
create index on report (account_id);
grant select, insert, update, delete on report to gremium_server;
grant usage on sequence report_id to gremium_server;
