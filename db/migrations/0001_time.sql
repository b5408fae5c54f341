-- The ground: entries, the head of the journal, and the one shape of everything that is kept in versions.
create extension if not exists btree_gist;

do $$
begin
  if not exists (select from pg_roles where rolname = 'gremium_server') then
    create role gremium_server nologin;
  end if;
exception when duplicate_object then null; -- another database of the cluster made it just now
end $$;
grant gremium_server to current_user;
grant usage on schema public to gremium_server;

-- One sequence numbers things, rows and entries; processes take ids in blocks of a thousand.
create sequence id_block increment by 1000 start with 1000;

create table entry (
  id bigint primary key,
  number bigint not null constraint entry_number unique,
  moment timestamptz not null constraint entry_moment unique,
  kind text not null,
  account text not null,
  reason text,
  origin text not null default '{}',
  digest text not null
);

create table entry_undo (
  entry_id bigint not null references entry,
  undone_id bigint not null references entry,
  primary key (entry_id, undone_id)
);
create index entry_undo_undone on entry_undo (undone_id);

-- Last number, moment and digest. Its row is the lock that every commit takes last: numbers are the order of commits.
create table journal_head (
  one boolean primary key default true constraint journal_one check (one),
  number bigint not null default 0,
  moment timestamptz not null default '1900-01-01',
  digest text not null default ''
);
insert into journal_head default values;

create function refuse_rewriting() returns trigger language plpgsql as $$
begin
  if old.superseded_by is not null
     or to_jsonb(new) - 'superseded_by' is distinct from to_jsonb(old) - 'superseded_by' then
    raise exception 'a version is written once' using errcode = '23514', constraint = 'version_write_once';
  end if;
  return new;
end $$;

-- Gives a table of versions its shape: keep_versions('unit_hiring', 'unit', '{job_id}').
-- The table "<section>_version" holds only its value columns when this is called.
create procedure keep_versions(section text, thing text, refs text[] default '{}') language plpgsql as $$
declare
  tab text := section || '_version';
  ref text;
begin
  execute format('create table if not exists %I (id bigint primary key)', thing);
  execute format($f$
    alter table %1$I
      add column id bigint primary key,
      add column lineage bigint not null,
      add column %2$I bigint not null references %3$I,
      add column valid_from date not null,
      add column valid_until date not null,
      add column recorded_by bigint not null references entry deferrable initially deferred,
      add column superseded_by bigint references entry deferrable initially deferred,
      add column salt uuid default gen_random_uuid(),
      add constraint %4$I check (valid_from < valid_until
        and (valid_from = '-infinity' or valid_from between '1900-01-01' and '2199-12-31')
        and (valid_until = 'infinity' or valid_until between '1900-01-02' and '2200-01-01')),
      add constraint %5$I exclude using gist (%2$I with =, daterange(valid_from, valid_until) with &&)
        where (superseded_by is null)
  $f$, tab, thing || '_id', thing, section || '_period', section || '_overlap');
  execute format('create index on %I (%I)', tab, thing || '_id');
  execute format('create index on %I (lineage)', tab);
  execute format('create index on %I (recorded_by)', tab);
  execute format('create index on %I (superseded_by) where superseded_by is not null', tab);
  foreach ref in array refs loop
    execute format('create index on %I (%I)', tab, ref);
  end loop;
  execute format('create trigger write_once before update on %I for each row execute function refuse_rewriting()', tab);
  execute format('grant select, insert on %I, %I to gremium_server', thing, tab);
  execute format('grant update (superseded_by) on %I to gremium_server', tab);
end $$;

-- Codes are unique among believed versions of a kind over each period.
create procedure keep_codes_apart(section text) language plpgsql as $$
begin
  execute format($f$
    alter table %I add constraint %I
      exclude using gist (code with =, daterange(valid_from, valid_until) with &&) where (superseded_by is null)
  $f$, section || '_version', section || '_code_taken');
end $$;

-- Numbers given are never used again, undone or not.
create table number_given (
  kind text not null,
  number text not null,
  thing_id bigint not null,
  constraint number_taken primary key (kind, number)
);
create sequence person_number start with 1000;

grant select, insert on entry, entry_undo, number_given to gremium_server;
grant select, update on journal_head to gremium_server;
grant usage on sequence id_block, person_number to gremium_server;
