// All that the page of a record shows, cut to what the viewer may see.
import {
  type RecordOut,
  type Row,
  type SectionName,
  type ThingRef,
  type Viewer,
  sectionRefs,
} from '@gremium/contract';
import { type Db, many } from '../database/sql';
import { beginnings, lastEntriesOf, ofIds } from './journal.sql';
import { namesFor } from './labels';
import type { Looking } from './lens';
import { readHeads } from './read-entries';
import { type Which, visibleHistory } from './records.sql';
import { undoneAmong } from './undo';

const NAMED = ['person', 'unit', 'position'];

/** What a row refers to, of kinds that are not in the reference lists. */
export const refsIn = ({ section, values }: Pick<Row, 'section' | 'values'>): ThingRef[] =>
  sectionRefs(section).flatMap(({ field, kind }) => {
    const id = (values as Record<string, unknown>)[field];
    return typeof id === 'number' && NAMED.includes(kind) ? [{ kind, id }] : [];
  });

/** Versions of sections, one after another; each step may ask by what the steps before it found. */
export const readHistory = async (
  db: Db,
  viewer: Viewer,
  looking: Looking,
  asked: readonly [SectionName, Which][],
): Promise<Row[]> => {
  const rows: Row[] = [];
  for (const [section, which] of asked)
    rows.push(...(await many<Row>(db, visibleHistory(viewer, section, which, looking))));
  return rows;
};

/** The rows of a record with their entries, the numbers that a save must name, and the names they refer to. */
export const readRecord = async (
  db: Db,
  viewer: Viewer,
  looking: Looking,
  rows: readonly Row[],
): Promise<Omit<RecordOut, 'managers'>> => {
  const things = new Map<SectionName, Set<number>>();
  for (const { section, thing } of rows)
    things.set(section, (things.get(section) ?? new Set<number>()).add(thing));
  const lastEntries = [];
  for (const [section, ids] of things)
    for (const last of await many<{ thing: number; number: number }>(db, lastEntriesOf(section, [...ids])))
      lastEntries.push({ section, ...last });
  const begun = await begunBy(db, things, looking);
  const entryIds = [...new Set([...rows.map(({ entry }) => entry), ...begun.values()])];
  const page = { limit: entryIds.length, offset: 0 };
  const entries = await readHeads(db, viewer, { where: ofIds(entryIds), page, looking, headsOnly: true });
  const names = await namesFor(db, viewer, rows.flatMap(refsIn), looking);
  return {
    rows: rows.map((row) => ({
      ...row,
      values: row.values as Record<string, unknown>,
      begunBy: begun.get(beginKey(row)) ?? row.entry,
    })),
    lastEntries,
    entries: entries.map(({ seen: _, ...entry }) => entry),
    names: [...names.values()],
  };
};

type Begin = { section: SectionName; thing: number; from: string };
const beginKey = ({ section, thing, from }: Begin): string => `${section} ${thing} ${from}`;

// A later act that cuts or changes a version records it anew: who began it is the first entry, not undone, that did so.
const begunBy = async (
  db: Db,
  things: ReadonlyMap<SectionName, ReadonlySet<number>>,
  { by }: Looking,
): Promise<Map<string, number>> => {
  const found: (Begin & { entry: number })[] = [];
  for (const [section, ids] of things)
    found.push(...(await many<Begin & { entry: number }>(db, beginnings(section, [...ids], by))));
  const undone = await undoneAmong(db, [...new Set(found.map(({ entry }) => entry))]);
  const begun = new Map<string, number>();
  for (const begin of found)
    if (!undone.has(begin.entry) && !begun.has(beginKey(begin))) begun.set(beginKey(begin), begin.entry);
  return begun;
};
