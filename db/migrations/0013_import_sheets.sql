-- Which sheet of a file is taken in and which of its rows holds the headings (none said: what looks like it), with the first
-- rows of each sheet to choose from; rows that are left out; what each row changes, old and new.
alter table import
  add column sheet_at int,
  add column heading_row int,
  add column preview jsonb;
alter table import_row add column left_out boolean not null default false;
alter table import_outcome add column changes jsonb;
