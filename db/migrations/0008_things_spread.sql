-- Versions are kept apart by their thing's id, spread: new things then do not all come at the end of the index, where
-- finding their place takes twice the time. No id is spread to that of another. An expression, so that no query takes
-- this index for one by thing.
create function spread(id bigint) returns bigint language sql immutable strict parallel safe as $$
  select (id >> 31 << 31) | (((id & 2147483647) * 1640531527) & 2147483647)
$$;

create procedure keep_apart(tab text, name text, thing text, believed text default 'superseded_by is null')
language plpgsql as $$
begin
  execute format('alter table %I drop constraint %I', tab, name);
  execute format($f$
    alter table %I add constraint %I
      exclude using gist (spread(%I) with =, daterange(valid_from, valid_until) with &&) where (%s)
  $f$, tab, name, thing, believed);
end $$;

do $$
declare
  kept record;
begin
  for kept in
    select c.conrelid::regclass::text as tab, c.conname as name, a.attname as thing
    from pg_constraint c
    join pg_attribute a on a.attrelid = c.conrelid and a.attnum = c.conkey[1]
    where c.contype = 'x' and c.conname like '%\_overlap' and c.conrelid::regclass::text like '%\_version'
  loop
    call keep_apart(kept.tab, kept.name, kept.thing);
  end loop;
end $$;
call keep_apart('placement_version', 'placement_one_primary', 'employment_id', 'superseded_by is null and kind = ''primary''');
alter table employment_version
  drop constraint employment_apart,
  add constraint employment_apart exclude using gist
    (spread(person_id) with =, legal_entity_id with =, daterange(valid_from, valid_until) with &&)
    where (superseded_by is null);

-- The tables to come have it from the beginning.
alter procedure keep_versions rename to shape_versions;
create procedure keep_versions(section text, thing text, refs text[] default '{}') language plpgsql as $$
begin
  call shape_versions(section, thing, refs);
  call keep_apart(section || '_version', section || '_overlap', thing || '_id');
end $$;

-- The same for codes and numbers (0007), which are looked for by an index of their own.
do $$
declare
  kept record;
begin
  for kept in
    select * from (values
      ('unit', 'code', 'unit_code_taken'),
      ('job', 'code', 'job_code_taken'),
      ('position', 'code', 'position_code_taken'),
      ('person', 'number', 'person_number_taken')) as k (section, field, name)
  loop
    execute format('alter table %I drop constraint %I', kept.section || '_version', kept.name);
    execute format($f$
      alter table %I add constraint %I exclude using gist
        (hashtextextended(%3$I, 0) with =, (%3$I || '') with =, daterange(valid_from, valid_until) with &&)
        where (superseded_by is null)
    $f$, kept.section || '_version', kept.name, kept.field);
    execute format('create index on %I (%I) where superseded_by is null', kept.section || '_version', kept.field);
  end loop;
end $$;
