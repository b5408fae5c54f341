import { type Catalogue, type Section, ownFieldName } from '@gremium/contract';
import { type Sql, join, sql } from '../database/sql';
import { naming, rowColumns, tableOf } from './version.sql';

export const entryOfNumber = (number: number): Sql => sql`select id from entry where number = ${number}`;

/** Ids, numbers, sections and undone entries of entries, in the order of their numbers. */
export const entryHeads = (ids: readonly number[]): Sql => sql`
  select e.id, e.number, e.sections,
    coalesce(array_agg(u.undone_id) filter (where u.undone_id is not null), '{}') as undoes
  from entry e
  left join entry_undo u on u.entry_id = e.id
  where e.id = any(${ids}::bigint[])
  group by e.id
  order by e.number`;

/** Rows of a section that entries recorded or superseded. For decisions. */
export const rowsTouchedBy = (section: Section, ids: readonly number[]): Sql => sql`
  select ${rowColumns(section)}, v.superseded_by as "supersededBy"
  from ${tableOf(section)} v
  where v.recorded_by = any(${ids}::bigint[]) or v.superseded_by = any(${ids}::bigint[])`;

const superseders = (section: Section, lineages: readonly number[]): Sql => sql`
  select v.superseded_by as id from ${tableOf(section)} v
  where v.lineage = any(${lineages}::bigint[]) and v.superseded_by is not null`;

const namers = (section: Section, things: readonly number[]): Sql[] =>
  ['thing', ...section.refs.map(({ field }) => field)].map(
    (field) => sql`select v.recorded_by from ${tableOf(section)} v where ${naming(section, field, things)}`,
  );

// Rows of own sections that one of the things defines, itself or by a field.
const defined = ({ sections }: Catalogue, things: readonly number[]): Sql[] =>
  sections
    .filter(
      ({ own, metas }) => own !== null && things.some((id) => id === own || metas.has(ownFieldName(id))),
    )
    .map((section) => sql`select v.recorded_by from ${tableOf(section)} v`);

/** Entries that superseded one of the lineages, recorded rows of, or naming, or defined by, one of the things, or undo one. */
export const dependentEntries = (
  catalogue: Catalogue,
  { lineages, things, turned }: Record<'lineages' | 'things' | 'turned', readonly number[]>,
): Sql =>
  sql`select e.id from entry e where e.id in (${join(
    [
      ...catalogue.sections.flatMap((section) => [
        superseders(section, lineages),
        ...(things.length === 0 ? [] : namers(section, things)),
      ]),
      ...defined(catalogue, things),
      sql`select u.entry_id from entry_undo u where u.undone_id = any(${turned}::bigint[])`,
    ],
    ' union ',
  )}) order by e.number`;

/** The entries that recorded rows, by the ids of the rows. */
export const recordersOf = (section: Section, rows: readonly number[]): Sql => sql`
  select v.id, v.recorded_by as entry from ${tableOf(section)} v where v.id = any(${rows}::bigint[])`;
