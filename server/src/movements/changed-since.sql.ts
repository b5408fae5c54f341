import type { Row, Section } from '@gremium/contract';
import { type Sql, sql } from '../database/sql';
import { rowColumns, tableOf, thingColumn } from '../time/version.sql';

/** How a row is found from its owners: itself, by the person or employment it names, or by an employment of them. */
export type Owned = 'thing' | 'person' | 'employment';

/** A row with the numbers of the entries that recorded and superseded it. */
export type Touched = Row & { recorded: number; superseded: number | null };

type Asked = { ids: readonly number[]; seen: number };

// By the owner's column; of what belongs to an employment, those of its person or the employment itself.
const ownedBy = (section: Section, how: Owned, ids: readonly number[]): Sql => {
  if (how === 'thing') return sql`v.${thingColumn(section)} = any(${ids}::bigint[])`;
  if (how === 'person')
    return sql`(v.person_id = any(${ids}::bigint[]) or v.employment_id = any(${ids}::bigint[]))`;
  return sql`v.employment_id in (
    select e.employment_id from employment_version e
    where e.person_id = any(${ids}::bigint[]) or e.employment_id = any(${ids}::bigint[]))`;
};

/** Rows of these owners that entries after `seen` (a number of the journal) recorded or superseded, with their numbers. */
export const touchedSince = (section: Section, how: Owned, { ids, seen }: Asked): Sql => sql`
  select ${rowColumns(section)}, r.number as recorded, s.number as superseded
  from ${tableOf(section)} v
  join entry r on r.id = v.recorded_by
  left join entry s on s.id = v.superseded_by
  where ${ownedBy(section, how, ids)} and (r.number > ${seen} or s.number > ${seen})`;
