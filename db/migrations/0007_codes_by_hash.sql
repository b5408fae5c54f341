-- Codes and numbers are kept apart by their hash first: keys that share a long beginning (codes made with hires) pile up
-- in one corner of the index, where 50,000 new ones took two minutes instead of two seconds. The text itself is still compared.
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
      alter table %I add constraint %I
        exclude using gist (hashtextextended(%3$I, 0) with =, %3$I with =, daterange(valid_from, valid_until) with &&)
        where (superseded_by is null)
    $f$, kept.section || '_version', kept.name, kept.field);
  end loop;
end $$;
