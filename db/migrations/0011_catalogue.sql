-- The catalogue as a value. Tables of preset sections are made from their declarations (server/src/database/shape.ts); here
-- stands what no section is.

-- Rows of the organisation's own sections: values by the ids of their fields, decimals as text.
create table own_version (
  section_id bigint not null,
  owner_id bigint not null,
  "values" jsonb not null
);
call keep_versions('own', 'own_row', '{owner_id}');
-- Whoever has an email is looked for by it at every hire, whatever kind of contact it is.
create index contact_value on contact_version (lower(value)) where superseded_by is null;

create index own_version_section on own_version (section_id) where superseded_by is null;

-- Which sections an entry touched: journal and undo read only those.
alter table entry add column sections text[] not null default '{}';
do $$
declare
  tab text;
begin
  create temporary table touched (id bigint, section text) on commit drop;
  for tab in select c.relname from pg_class c join pg_namespace n on n.oid = c.relnamespace
    where n.nspname = 'public' and c.relkind = 'r' and c.relname like '%\_version'
      and exists (select from pg_attribute a where a.attrelid = c.oid and a.attname = 'recorded_by')
  loop
    execute format('insert into touched select distinct recorded_by, %1$L from %2$I
      union select distinct superseded_by, %1$L from %2$I where superseded_by is not null',
      replace(tab, '_version', ''), tab);
  end loop;
  update entry e set sections = t.sections
  from (select id, array_agg(distinct section order by section) as sections from touched group by id) t
  where t.id = e.id;
end $$;
alter table entry alter column sections drop default;

-- The number of the last entry that defined an own section or field: who answers about them asks this first.
alter table journal_head add column defined bigint not null default 0;

-- What an entry touched, as keys that decisions in flight compare with what they read; kept for a day.
create table entry_touch (
  entry_id bigint primary key,
  keys text[] not null
);
grant select, insert, delete on entry_touch to gremium_server;

-- An account names roles with a scope; what they give is worked out from the catalogue of now. `grants` stays for what was
-- granted to an account alone. Accounts whose grants are those of a role as they were expanded until now get the role.
alter table account add column roles jsonb not null default '[]';
do $$
declare
  names text[] := '{organisation,list_entry,legal_entity,location,cost_centre,grade,grade_range,job,unit,unit_hiring,position,position_limits,person,person_name,contact,employment,contract,placement,pay}';
  refs text[] := '{organisation,list_entry,legal_entity,location,cost_centre,grade,grade_range,job}';
  edits jsonb := (select jsonb_object_agg(n, 'edit') from unnest(names) n);
  views jsonb := (select jsonb_object_agg(n, 'view') from unnest(names) n);
  preset record;
begin
  for preset in
    select * from (values
      ('administrator', 'all', edits),
      ('specialist', 'branch', edits || (select jsonb_object_agg(n, 'view') from unnest(refs) n)),
      ('auditor', 'all', views),
      ('manager', 'branch', views || '{"pay": "none", "contract": "none", "person": "none"}'),
      ('crew', 'oneself', '{"organisation": "view", "list_entry": "view", "location": "view", "person": "view", "person_name": "view", "contact": "view", "employment": "view", "contract": "view", "placement": "view", "pay": "view"}'::jsonb)
    ) as p (role, scope, sections)
  loop
    update account a
    set roles = jsonb_build_array(jsonb_build_object('role', preset.role, 'scope', a.grants -> 0 -> 'scope')),
        grants = '[]'
    where jsonb_array_length(a.grants) = 1
      and a.grants -> 0 -> 'scope' ->> 'type' = preset.scope
      and a.grants -> 0 -> 'sections' = preset.sections
      and (select coalesce(array_agg(act order by act), '{}') from jsonb_array_elements_text(a.grants -> 0 -> 'acts') act)
        = (case preset.role
            when 'administrator' then '{access,create,hire,import,journal,leave,mend,transfer,undo}'::text[]
            when 'specialist' then '{create,hire,import,journal,leave,mend,transfer,undo}'::text[]
            when 'auditor' then '{journal}'::text[]
            else '{}'::text[] end);
  end loop;
end $$;
