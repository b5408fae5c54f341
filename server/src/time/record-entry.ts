import { randomUUID } from 'node:crypto';
import type { Catalogue, Change, EntryKind, Moment, Row, Section } from '@gremium/contract';
import { DEFINING, preset } from '@gremium/contract';
import { problem, touchedKeys } from '@gremium/core';
import type { ClientBase } from 'pg';
import { Failure } from '../database/failure';
import { copyIn } from '../database/copy-in';
import { type Sql, many, one } from '../database/sql';
import { giveNumbers, numbersOfOthers } from '../people/number.sql';
import { insertTouch } from './act.sql';
import { insertEntry, insertUndone } from './journal.sql';
import { digesterOf } from './row-digest';
import {
  type BySection,
  bySection,
  insertThings,
  insertVersions,
  rowDigests,
  supersede,
  tableName,
  versionCells,
  versionColumns,
} from './version.sql';

export type Head = {
  id: number;
  now: Moment;
  kind: EntryKind;
  account: string;
  reason: string | null;
  origin?: object;
  /** Ids of the entries it undoes. */
  undoes?: number[];
};

/** What an entry's digest is over, beside the digest before it, its number and its moment. */
export const contentOf = (
  head: Pick<Head, 'kind' | 'account' | 'reason'> & { origin: string; undoes: number[] },
  digests: string[],
  superseded: number[],
): string =>
  JSON.stringify([
    head.kind,
    head.account,
    head.reason,
    head.origin,
    sorted(head.undoes),
    digests,
    sorted(superseded),
  ]);

// By one statement at most: it takes some fifteen parameters a row, and 65,535 in all.
const MOST_INSERTED = 1500;

const sorted = (ids: number[]): number[] => [...ids].sort((a, b) => a - b);

/** The one place that writes to the register: rows, then, last, the entry under the lock of the journal. */
export const recordEntry = async (
  tx: ClientBase,
  head: Head,
  change: Change,
  catalogue: Catalogue = preset,
): Promise<{ number: number; moment: Moment }> => {
  await supersedeAll(tx, bySection(change.superseded, catalogue), head.id);
  const touch = insertTouch(head.id, touchedKeys(change, catalogue));
  const digests = await insertAll(tx, bySection(change.recorded, catalogue), { entry: head.id, touch });
  const { kind, account, reason, undoes = [] } = head;
  const origin = JSON.stringify(head.origin ?? {});
  const ordered = sorted([...digests.keys()]).map((id) => digests.get(id) as string);
  const content = contentOf(
    { kind, account, reason, origin, undoes },
    ordered,
    change.superseded.map(({ id }) => id),
  );
  const touched = new Set([...change.recorded, ...change.superseded].map(({ section }) => section));
  const sections = [...touched].sort();
  const defines = DEFINING.some((section) => touched.has(section));
  const entry = { id: head.id, now: head.now, kind, account, reason, origin, content, sections, defines };
  const written = await one<{ number: number; moment: Moment }>(tx, insertEntry(entry));
  if (undoes.length > 0) await many(tx, insertUndone(head.id, undoes));
  return written;
};

const supersedeAll = async (tx: ClientBase, groups: BySection, entry: number): Promise<void> => {
  if (groups.length === 0) return;
  const wanted = groups.reduce((sum, [, rows]) => sum + rows.length, 0);
  const { count } = await one<{ count: number }>(tx, supersede(groups, entry));
  if (count !== wanted)
    throw new Failure([problem('conflict', { section: groups.map(([{ name }]) => name).join(', ') })]);
};

type Digest = { id: number; digest: string };

// Few rows go in by one statement, many are copied in section by section. Answers with the digest of each row.
const insertAll = async (
  tx: ClientBase,
  groups: BySection,
  { entry, touch }: { entry: number; touch: Sql },
): Promise<Map<number, string>> => {
  const people = groups.find(([{ name }]) => name === 'person')?.[1] ?? [];
  if (people.length > 0) await keepNumbers(tx, people as Row<'person'>[]);
  const total = groups.reduce((sum, [, rows]) => sum + rows.length, 0);
  const found: Digest[] = [];
  if (total > 0 && total <= MOST_INSERTED)
    found.push(...(await many<Digest>(tx, insertVersions(groups, touch))));
  else await many(tx, touch);
  if (total > MOST_INSERTED) {
    // all things first: what names each other across sections may stand in any order
    for (const [section, rows] of groups)
      await many(tx, insertThings(section.kind, [...new Set(rows.map(({ thing }) => thing))]));
    for (const [section, rows] of groups)
      for (const one of await copyVersions(tx, section, rows, entry)) found.push(one);
  }
  return new Map(found.map(({ id, digest }) => [id, digest]));
};

// Salts and digests are made here where they can be, beside the copy; else the database is asked for them.
const copyVersions = async (
  tx: ClientBase,
  section: Section,
  rows: readonly Row[],
  entry: number,
): Promise<Digest[]> => {
  const digestOf = await digesterOf(tx, section);
  const digests: Digest[] = [];
  await copyIn(tx, tableName(section), [...versionColumns(section), 'salt'], function* () {
    for (const row of rows) {
      const cells = versionCells(row, section);
      const salt = randomUUID();
      if (digestOf) digests.push({ id: row.id, digest: digestOf(cells, salt) });
      cells.push(salt);
      yield cells;
    }
  });
  return digestOf ? digests : many<Digest>(tx, rowDigests(tableName(section), [entry]));
};

// A person's number stays theirs for ever; undone or merged, nobody else gets it.
const keepNumbers = async (tx: ClientBase, rows: Row<'person'>[]): Promise<void> => {
  const numbers = rows.map(({ values }) => values.number);
  const things = rows.map(({ thing }) => thing);
  await many(tx, giveNumbers(numbers, things));
  const [taken] = await many<{ number: string }>(tx, numbersOfOthers(numbers, things));
  if (taken) throw new Failure([problem('number_taken', { number: taken.number }, 'person.number')]);
};
