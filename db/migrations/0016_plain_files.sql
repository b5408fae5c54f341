-- Files about any subject: what an import is about, and what a heading was taken for there. Several files may be one import: each
-- is then a part of it, with columns, rows and counts of its own, and no work of its own.
alter table import add column subject text not null default 'people',
  add column part_of bigint references import;
alter table import drop constraint import_format,
  add constraint import_format check (format in ('csv', 'xlsx', 'zip'));
create index import_parts on import (part_of) where part_of is not null;
alter table import_heading add column subject text not null default 'people';
alter table import_heading drop constraint import_heading_pkey;
alter table import_heading add primary key (subject, heading);
-- of a plain subject: the thing a row is about, and whose record shows it
alter table import_outcome add column thing_id bigint, add column opens_kind text, add column opens_id bigint;
-- parts of an import are read anew from their file
grant delete on import to gremium_server;
