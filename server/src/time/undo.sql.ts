import type { SectionName } from '@gremium/contract';
import { sectionNames, sectionRefs } from '@gremium/contract';
import { type Sql, join, name, sql } from '../database/sql';
import { rowColumns, snake, tableOf, thingColumn } from './version.sql';

export const entryOfNumber = (number: number): Sql => sql`select id from entry where number = ${number}`;

/** Ids, numbers and undone entries of entries, in the order of their numbers. */
export const entryHeads = (ids: readonly number[]): Sql => sql`
  select e.id, e.number, coalesce(array_agg(u.undone_id) filter (where u.undone_id is not null), '{}') as undoes
  from entry e
  left join entry_undo u on u.entry_id = e.id
  where e.id = any(${ids}::bigint[])
  group by e.id
  order by e.number`;

/** Rows of a section that entries recorded or superseded. For decisions. */
export const rowsTouchedBy = (section: SectionName, ids: readonly number[]): Sql => sql`
  select ${rowColumns(section)}, v.superseded_by as "supersededBy"
  from ${tableOf(section)} v
  where v.recorded_by = any(${ids}::bigint[]) or v.superseded_by = any(${ids}::bigint[])`;

const superseders = (section: SectionName, lineages: readonly number[]): Sql => sql`
  select v.superseded_by as id from ${tableOf(section)} v
  where v.lineage = any(${lineages}::bigint[]) and v.superseded_by is not null`;

const namers = (section: SectionName, things: readonly number[]): Sql[] =>
  [thingColumn(section), ...sectionRefs(section).map(({ field }) => name(snake(field)))].map(
    (column) =>
      sql`select v.recorded_by from ${tableOf(section)} v where v.${column} = any(${things}::bigint[])`,
  );

/** Entries that superseded one of the lineages, or recorded rows of, or naming, one of the things. */
export const dependentEntries = (lineages: readonly number[], things: readonly number[]): Sql =>
  sql`select e.id from entry e where e.id in (${join(
    sectionNames.flatMap((section) => [
      superseders(section, lineages),
      ...(things.length === 0 ? [] : namers(section, things)),
    ]),
    ' union ',
  )}) order by e.number`;

/** The entries that recorded rows, by the ids of the rows. */
export const recordersOf = (section: SectionName, rows: readonly number[]): Sql => sql`
  select id, recorded_by as entry from ${tableOf(section)} where id = any(${rows}::bigint[])`;
