-- Files that rows name: documents, evidence. Their ids are chances, not numbers in a row; the bytes alone say nothing of whose they are,
-- and are served only by way of the rows that name them. What no entry ever named goes after thirty days.
create table kept_file (
  id text primary key,
  account_id bigint not null references account,
  at timestamptz not null,
  type text not null,
  bytes bytea not null,
  -- the first entry that named it
  entry bigint
);
alter table kept_file alter column bytes set storage external;
create index kept_file_unnamed on kept_file (at) where entry is null;
grant select, insert, update, delete on kept_file to gremium_server;
