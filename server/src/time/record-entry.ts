import type { Change, EntryKind, Moment, Row, SectionName } from '@gremium/contract';
import { sectionNames, sections } from '@gremium/contract';
import { problem } from '@gremium/core';
import type { ClientBase } from 'pg';
import { Failure } from '../database/failure';
import { copyIn } from '../database/copy-in';
import { many, one } from '../database/sql';
import { giveNumbers, numbersOfOthers } from '../people/number.sql';
import { insertEntry, insertUndone } from './journal.sql';
import {
  insertThings,
  insertVersions,
  rowDigests,
  supersede,
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

const MOST_INSERTED = 500;

const sorted = (ids: number[]): number[] => [...ids].sort((a, b) => a - b);

/** The one place that writes to the register: rows, then, last, the entry under the lock of the journal. */
export const recordEntry = async (
  tx: ClientBase,
  head: Head,
  change: Change,
): Promise<{ number: number; moment: Moment }> => {
  const bySection = (rows: readonly Row[]) =>
    sectionNames
      .map((section) => [section, rows.filter((row) => row.section === section)] as const)
      .filter(([, found]) => found.length > 0);
  for (const [section, rows] of bySection(change.superseded)) await supersedeAll(tx, section, rows, head.id);
  const digests = new Map<number, string>();
  for (const [section, rows] of bySection(change.recorded)) {
    await many(tx, insertThings(sections[section].kind, [...new Set(rows.map(({ thing }) => thing))]));
    if (section === 'person') await keepNumbers(tx, rows as Row<'person'>[]);
    await insertRows(tx, section, rows);
    const found = await many<{ id: number; digest: string }>(tx, rowDigests(section, [head.id]));
    for (const { id, digest } of found) digests.set(id, digest);
  }
  const { kind, account, reason, undoes = [] } = head;
  const origin = JSON.stringify(head.origin ?? {});
  const ordered = sorted([...digests.keys()]).map((id) => digests.get(id) as string);
  const content = contentOf(
    { kind, account, reason, origin, undoes },
    ordered,
    change.superseded.map(({ id }) => id),
  );
  const entry = { id: head.id, now: head.now, kind, account, reason, origin, content };
  const written = await one<{ number: number; moment: Moment }>(tx, insertEntry(entry));
  if (undoes.length > 0) await many(tx, insertUndone(head.id, undoes));
  return written;
};

const supersedeAll = async (
  tx: ClientBase,
  section: SectionName,
  rows: Row[],
  entry: number,
): Promise<void> => {
  const ids = rows.map(({ id }) => id);
  const query = supersede(section, ids, entry);
  const { rowCount } = await tx.query({ text: query.text, values: query.values });
  if (rowCount !== ids.length) throw new Failure([problem('conflict', { section })]);
};

// Few rows are inserted, many are copied in.
const insertRows = async (tx: ClientBase, section: SectionName, rows: Row[]): Promise<void> => {
  if (rows.length <= MOST_INSERTED) {
    await many(tx, insertVersions(section, rows));
    return;
  }
  await copyIn(tx, `${section}_version`, versionColumns(section), function* () {
    for (const row of rows) yield versionCells(row);
  });
};

// A person's number stays theirs for ever; undone or merged, nobody else gets it.
const keepNumbers = async (tx: ClientBase, rows: Row<'person'>[]): Promise<void> => {
  const numbers = rows.map(({ values }) => values.number);
  const things = rows.map(({ thing }) => thing);
  await many(tx, giveNumbers(numbers, things));
  const [taken] = await many<{ number: string }>(tx, numbersOfOthers(numbers, things));
  if (taken) throw new Failure([problem('number_taken', { number: taken.number }, 'person.number')]);
};
