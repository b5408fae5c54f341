import type { Day } from '@gremium/contract';
import { type Sql, sql } from '../database/sql';

/** How many rows of own sections in effect on a day say something in each field. */
export const ownValueCounts = (on: Day): Sql => sql`
  select e.key as field, count(*)::int as values
  from own_version v cross join jsonb_each(v."values") e
  where v.superseded_by is null and v.valid_from <= ${on}::date and ${on}::date < v.valid_until
    and e.value <> 'null' and e.key ~ '^f[0-9]+$'
  group by 1`;

/** How many people employed on a day have nothing in a field of an own section. */
export const peopleWithout = (section: number, field: string, on: Day): Sql => sql`
  select count(distinct e.person_id)::int as count from employment_version e
  where e.superseded_by is null and e.valid_from <= ${on}::date and ${on}::date < e.valid_until
    and not exists (select from own_version v where v.section_id = ${section} and v.owner_id = e.person_id and v.superseded_by is null
      and v.valid_from <= ${on}::date and ${on}::date < v.valid_until and coalesce(v."values" -> ${field}, 'null') <> 'null')`;

/** How many rows of a section in effect on a day say in a field what another one of them says, capitals aside. */
export const saidTwice = (section: number, field: string, on: Day): Sql => sql`
  select coalesce(sum(n), 0)::int as count from (
    select count(*) as n from own_version v
    where v.section_id = ${section} and v.superseded_by is null and v.valid_from <= ${on}::date and ${on}::date < v.valid_until
      and v."values" ->> ${field} is not null
    group by lower(v."values" ->> ${field}) having count(*) > 1) same`;
