import type { Bound } from '@gremium/contract';
import { type Sql, sql } from '../database/sql';

/** A primary place that says hours are away while no absence says why. */
export type AwayAlone = {
  employment: number;
  from: Bound;
  until: Bound;
  /** All that there is, less what is lent, is away. */
  isWhole: boolean;
  away: number;
  /** Why, where the place said it itself. */
  kind: number | null;
};

/** Primary places with hours away beside which no absence stands; the column that said why is there only where it once was. */
export const awayAlone: Sql = sql`
  select p.employment_id as employment, p.valid_from::text as "from", p.valid_until::text as until,
    p.away_hours >= p.hours - p.lent_hours as "isWhole", p.away_hours as away,
    (to_jsonb(p) ->> 'absence_kind_id')::bigint as kind
  from placement_version p
  where p.superseded_by is null and p.kind = 'primary' and p.away_hours > 0 and not exists (
    select from absence_version a where a.superseded_by is null and a.employment_id = p.employment_id
      and a.valid_from < p.valid_until and p.valid_from < a.valid_until)
  order by p.employment_id, p.valid_from`;

/** The kind of absence of that code, where there is one. */
export const kindCoded = (code: string): Sql => sql`
  select list_entry_id as id from list_entry_version
  where superseded_by is null and list = 'absence_kind' and code = ${code} limit 1`;
