import { type Sql, join, sql } from '../database/sql';
import { tableOf, thingColumn } from './version.sql';

export type NamedKind = 'unit' | 'position' | 'job' | 'location' | 'legal_entity' | 'grade' | 'cost_centre';

/** The latest name (title of a position) of things of several kinds. */
export const thingNames = (groups: readonly (readonly [NamedKind, readonly number[]])[]): Sql =>
  join(
    groups.map(
      ([kind, ids]) => sql`
        select ${kind}::text as kind, ${thingColumn(kind)} as id,
          (array_agg(${kind === 'position' ? sql`title` : sql`name`} order by valid_from desc))[1] as label
        from ${tableOf(kind)}
        where superseded_by is null and ${thingColumn(kind)} = any(${ids}::bigint[])
        group by 2`,
    ),
    ' union all ',
  );

/** The persons behind employments and placements. */
export const personsBehind = (persons: number[], employments: number[], placements: number[]): Sql => sql`
  select 'person' as kind, id, id as person from unnest(${persons}::bigint[]) t (id)
  union
  select 'employment', employment_id, person_id from employment_version
  where employment_id = any(${employments}::bigint[])
  union
  select 'placement', p.placement_id, e.person_id
  from placement_version p
  join employment_version e on e.employment_id = p.employment_id
  where p.placement_id = any(${placements}::bigint[])`;

/** Names of persons on a day, else the first known. */
export const namesOn = (ids: readonly number[], on: string): Sql => sql`
  select distinct on (person_id) person_id as id, given, middle, family, prefix, preferred,
    birth_name as "birthName", sort_name as "sortName"
  from person_name_version
  where superseded_by is null and person_id = any(${ids}::bigint[])
  order by person_id, (valid_from <= ${on}::date and ${on}::date < valid_until) desc, valid_from`;
