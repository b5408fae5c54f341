import type { Day } from '@gremium/contract';
import { type Sql, join, name, sql } from '../database/sql';

/** How many rows of a section in effect on a day say something in each of its fields: one walk over its rows. */
export const ownValueCounts = (section: number, fields: readonly string[], on: Day): Sql => sql`
  select ${join(fields.map((field) => sql`count(nullif(v."values" -> ${field}, 'null'))::int as ${name(field)}`))}
  from own_version v
  where v.section_id = ${section} and v.superseded_by is null and v.valid_from <= ${on}::date and ${on}::date < v.valid_until`;

/** How many people employed on a day have nothing in a field of an own section. */
export const peopleWithout = (section: number, field: string, on: Day): Sql => sql`
  select count(distinct e.person_id)::int as count from employment_version e
  where e.superseded_by is null and e.valid_from <= ${on}::date and ${on}::date < e.valid_until
    and not exists (select from own_version v where v.section_id = ${section} and v.owner_id = e.person_id and v.superseded_by is null
      and v.valid_from <= ${on}::date and ${on}::date < v.valid_until and coalesce(v."values" -> ${field}, 'null') <> 'null')`;

/**
 * How many rows of a section in effect on a day say in a field what another one of them says, capitals aside, and what the first
 * of them say.
 */
export const saidTwice = (section: number, field: string, on: Day): Sql => sql`
  with said as (
    select v."values" ->> ${field} as text, count(*) over (partition by lower(v."values" ->> ${field})) as n
    from own_version v
    where v.section_id = ${section} and v.superseded_by is null and v.valid_from <= ${on}::date and ${on}::date < v.valid_until
      and v."values" ->> ${field} is not null
  )
  select count(*)::int as count,
    coalesce((select json_agg(text) from (select distinct text from said where n > 1 order by text limit 40) t), '[]') as alike
  from said where n > 1`;
