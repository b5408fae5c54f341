import type { Catalogue, Section } from '@gremium/contract';
import { type Sql, empty, join, sql } from '../database/sql';
import { rowColumns, tableOf, thingColumn } from './version.sql';

/** A moment as the wire has it. */
export const utc = (expression: Sql): Sql =>
  sql`to_char(${expression} at time zone 'utc', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"')`;

export const head = sql`select number, defined, ${utc(sql`moment`)} as moment, digest from journal_head`;

/** All entries with what they undo, as the chain of digests goes through them. */
export const chain = sql`
  select e.id, e.number, ${utc(sql`e.moment`)} as moment, e.kind, e.account, e.reason, e.origin, e.digest,
    coalesce((select array_agg(u.undone_id) from entry_undo u where u.entry_id = e.id), '{}') as undoes
  from entry e
  order by e.number`;

export const everyEntry = sql`true`;
export const ofNumbers = (numbers: readonly number[]): Sql => sql`e.number = any(${numbers}::bigint[])`;

/** Entries that touched a thing. */
export const touching = (catalogue: Catalogue, thing: number): Sql =>
  sql`e.id in (${join(
    catalogue.sections.map(
      (section) => sql`select unnest(array[v.recorded_by, v.superseded_by]) from ${tableOf(section)} v
      where v.${thingColumn(section)} = ${thing}`,
    ),
    ' union ',
  )})`;

/**
 * Gives the entry its number, moment and digest, under the lock of the head row held to the end of the transaction.
 * The digest is over the one before, the number, the moment and the content.
 */
export const insertEntry = (entry: {
  id: number;
  now: string;
  kind: string;
  account: string;
  reason: string | null;
  origin: string;
  content: string;
  /** Names of the sections it touches. */
  sections: readonly string[];
  /** Whether it defines an own section or field. */
  defines: boolean;
}): Sql => sql`
  with next as (
    update journal_head
    set number = number + 1,
        defined = ${entry.defines ? sql`number + 1` : sql`defined`},
        moment = greatest(${entry.now}::timestamptz, moment + interval '1 microsecond'),
        digest = encode(sha256(convert_to(digest || '|' || (number + 1)::text || '|'
          || ${utc(sql`greatest(${entry.now}::timestamptz, moment + interval '1 microsecond')`)}
          || '|' || ${entry.content}::text, 'UTF8')), 'hex')
    returning number, moment, digest
  )
  insert into entry (id, number, moment, kind, account, reason, origin, digest, sections)
  select ${entry.id}, number, moment, ${entry.kind}, ${entry.account}, ${entry.reason}, ${entry.origin}, digest,
    ${entry.sections}::text[]
  from next
  returning number, ${utc(sql`moment`)} as moment`;

export const insertUndone = (entry: number, undone: readonly number[]): Sql => sql`
  insert into entry_undo (entry_id, undone_id) select ${entry}, unnest(${undone}::bigint[])`;

/** Later entries get moments after this one, whatever their clocks say: what was believed at it can change no more. */
export const closeMoment = (moment: string): Sql => sql`
  update journal_head set moment = greatest(moment, ${moment}::timestamptz) where moment < ${moment}::timestamptz`;

export const lastNumberBy = (moment: string): Sql => sql`
  select coalesce(max(number), 0) as number from entry where moment <= ${moment}::timestamptz`;

const headOf = sql`json_build_object('id', e.id, 'number', e.number, 'moment', ${utc(sql`e.moment`)}, 'kind', e.kind,
  'account', e.account, 'reason', e.reason, 'digest', e.digest, 'sections', e.sections, 'undoes',
  coalesce((select json_agg(o.number) from entry_undo u join entry o on o.id = u.undone_id where u.entry_id = e.id), '[]'))`;

// Everything that undoes, or undoes the undoing of, some entries; liveness is worked out in core.
const undoingsOf = (ids: Sql): Sql => sql`(
  with recursive up (id) as (
    select id from (${ids}) i
    union
    select u.entry_id from up join entry_undo u on u.undone_id = up.id
  )
  select coalesce(json_agg(json_build_object('id', d.id, 'number', d.number, 'undoes', d.undoes) order by d.number), '[]')
  from (
    select e.id, e.number, json_agg(u.undone_id) as undoes
    from up
    join entry e on e.id = up.id
    join entry_undo u on u.entry_id = e.id
    group by e.id, e.number
  ) d)`;

/** Heads of entries, latest first, with all that undoes them: one row of two lists. */
export const entries = (where: Sql, page: { limit: number; offset: number } | null): Sql => sql`
  with picked as (
    select e.id, e.number, ${headOf} as head from entry e where ${where}
    order by e.number desc ${page ? sql`limit ${page.limit} offset ${page.offset}` : empty}
  )
  select coalesce((select json_agg(head order by number desc) from picked), '[]') as heads,
    ${undoingsOf(sql`select id from picked`)} as undoings`;

/** All that undoes some entries. */
export const undoings = (ids: readonly number[]): Sql =>
  sql`select ${undoingsOf(sql`select unnest(${ids}::bigint[]) as id`)} as undoings`;

/** Numbers of the last entries that touched a section of things, up to one (null: all). */
export const lastEntriesOf = (section: Section, ids: readonly number[], by: number | null): Sql => sql`
  select v.${thingColumn(section)} as thing, max(e.number) as number
  from ${tableOf(section)} v
  join entry e on e.id = v.recorded_by or e.id = v.superseded_by
  where v.${thingColumn(section)} = any(${ids}::bigint[]) and (${by}::bigint is null or e.number <= ${by}::bigint)
  group by 1`;

export const ofIds = (ids: readonly number[]): Sql => sql`e.id = any(${ids}::bigint[])`;

// Every version there ever was of some things, with the entries that recorded and superseded it.
const everSaid = (section: Section, ids: readonly number[], by: number | null): Sql => sql`
  select ${rowColumns(section)}, v.superseded_by as "supersededBy"
  from ${tableOf(section)} v
  where v.${thingColumn(section)} = any(${ids}::bigint[])
    ${by === null ? empty : sql`and exists (select from entry e where e.id = v.recorded_by and e.number <= ${by})`}`;

/**
 * All that entries up to one (null: all) ever said of some things, with the heads of these entries and what undoes them: one
 * row of three lists, whatever the number of sections.
 */
export const pastOf = (
  things: readonly (readonly [Section, readonly number[]])[],
  by: number | null,
): Sql => sql`
  with said as (${join(
    things.map(([section, ids]) => sql`(${everSaid(section, ids, by)})`),
    ' union all ',
  )}), picked as (
    select e.id, e.number, ${headOf} as head from entry e
    where e.id in (select entry from said union select "supersededBy" from said)
      ${by === null ? empty : sql`and e.number <= ${by}`}
  )
  select (select json_agg(said) from said) as said,
    (select json_agg(head) from picked) as heads,
    ${undoingsOf(sql`select id from picked`)} as undoings`;

/** Entries after a number, in order; no more than `most`. */
export const entriesAfter = (number: number, most: number): Sql => sql`
  select id from entry where number > ${number}::bigint order by number limit ${most}`;
