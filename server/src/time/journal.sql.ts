import { type SectionName, sectionNames } from '@gremium/contract';
import { type Sql, join, sql } from '../database/sql';
import { rowColumns, tableOf, thingColumn } from './version.sql';

/** A moment as the wire has it. */
export const utc = (expression: Sql): Sql =>
  sql`to_char(${expression} at time zone 'utc', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"')`;

export const head = sql`select number, ${utc(sql`moment`)} as moment, digest from journal_head`;

/** All entries with what they undo, as the chain of digests goes through them. */
export const chain = sql`
  select e.id, e.number, ${utc(sql`e.moment`)} as moment, e.kind, e.account, e.reason, e.origin, e.digest,
    coalesce((select array_agg(u.undone_id) from entry_undo u where u.entry_id = e.id), '{}') as undoes
  from entry e
  order by e.number`;

export const numbersOf = (ids: readonly number[]): Sql => sql`
  select id, number from entry where id = any(${ids}::bigint[])`;

export const everyEntry = sql`true`;
export const ofNumbers = (numbers: readonly number[]): Sql => sql`e.number = any(${numbers}::bigint[])`;

/** Entries that touched a thing. */
export const touching = (thing: number): Sql =>
  sql`e.id in (${join(
    sectionNames.map(
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
}): Sql => sql`
  with next as (
    update journal_head
    set number = number + 1,
        moment = greatest(${entry.now}::timestamptz, moment + interval '1 microsecond'),
        digest = encode(sha256(convert_to(digest || '|' || (number + 1)::text || '|'
          || ${utc(sql`greatest(${entry.now}::timestamptz, moment + interval '1 microsecond')`)}
          || '|' || ${entry.content}::text, 'UTF8')), 'hex')
    returning number, moment, digest
  )
  insert into entry (id, number, moment, kind, account, reason, origin, digest)
  select ${entry.id}, number, moment, ${entry.kind}, ${entry.account}, ${entry.reason}, ${entry.origin}, digest
  from next
  returning number, ${utc(sql`moment`)} as moment`;

export const insertUndone = (entry: number, undone: readonly number[]): Sql => sql`
  insert into entry_undo (entry_id, undone_id) select ${entry}, unnest(${undone}::bigint[])`;

/** Later entries get moments after this one, whatever their clocks say: what was believed at it can change no more. */
export const closeMoment = (moment: string): Sql => sql`
  update journal_head set moment = greatest(moment, ${moment}::timestamptz) where moment < ${moment}::timestamptz`;

export const lastNumberBy = (moment: string): Sql => sql`
  select coalesce(max(number), 0) as number from entry where moment <= ${moment}::timestamptz`;

/** Heads of entries with what undoes them in force; liveness is worked out in core. */
export const entries = (where: Sql, page: { limit: number; offset: number }): Sql => sql`
  select e.id, e.number, ${utc(sql`e.moment`)} as moment, e.kind, e.account, e.reason, e.digest,
    coalesce((select array_agg(u.undone_id) from entry_undo u where u.entry_id = e.id), '{}') as undoes
  from entry e
  where ${where}
  order by e.number desc
  limit ${page.limit} offset ${page.offset}`;

/** Everything that undoes, or undoes the undoing of, one of the entries. */
export const undoings = (ids: readonly number[]): Sql => sql`
  with recursive up (id) as (
    select unnest(${ids}::bigint[])
    union
    select u.entry_id from up join entry_undo u on u.undone_id = up.id
  )
  select e.id, e.number, array_agg(u.undone_id) as undoes
  from up
  join entry e on e.id = up.id
  join entry_undo u on u.entry_id = e.id
  group by e.id, e.number
  order by e.number`;

/** Numbers of the last entries that touched a section of things, up to one (null: all). */
export const lastEntriesOf = (section: SectionName, ids: readonly number[], by: number | null): Sql => sql`
  select v.${thingColumn(section)} as thing, max(e.number) as number
  from ${tableOf(section)} v
  join entry e on e.id = v.recorded_by or e.id = v.superseded_by
  where v.${thingColumn(section)} = any(${ids}::bigint[]) and (${by}::bigint is null or e.number <= ${by}::bigint)
  group by 1`;

export const ofIds = (ids: readonly number[]): Sql => sql`e.id = any(${ids}::bigint[])`;

/** All that entries, undoes aside, ever said of some things, in their order. */
export const beginnings = (section: SectionName, ids: readonly number[], by: number | null): Sql => sql`
  select ${rowColumns(section)}
  from ${tableOf(section)} v
  join entry e on e.id = v.recorded_by
  where v.${thingColumn(section)} = any(${ids}::bigint[]) and e.kind <> 'undo'
    and (${by}::bigint is null or e.number <= ${by}::bigint)
  order by e.number`;

/** Entries after a number, in order; no more than `most`. */
export const entriesAfter = (number: number, most: number): Sql => sql`
  select id from entry where number > ${number}::bigint order by number limit ${most}`;
