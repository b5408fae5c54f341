// All that the page of a record shows, cut to what the viewer may see.
import { isDeepStrictEqual } from 'node:util';
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

const NAMED = ['person', 'unit', 'position', 'employment', 'placement'];

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
    for (const last of await many<{ thing: number; number: number }>(
      db,
      lastEntriesOf(section, [...ids], looking.by),
    ))
      lastEntries.push({ section, ...last });
  const made = await makings(db, things, looking);
  const makers = rows.flatMap((row) => {
    const { formedBy, endedBy, corrections } = made.get(beginKey(row)) ?? NOTHING;
    return [row.entry, formedBy, endedBy, ...corrections.map(({ entry }) => entry)];
  });
  const entryIds = [...new Set(makers.filter((id) => id > 0))];
  const page = { limit: entryIds.length, offset: 0 };
  const entries = await readHeads(db, viewer, { where: ofIds(entryIds), page, looking, headsOnly: true });
  const names = await namesFor(db, viewer, rows.flatMap(refsIn), looking);
  return {
    rows: rows.map((row) => ({
      ...row,
      values: row.values as Record<string, unknown>,
      ...(made.get(beginKey(row)) ?? { formedBy: row.entry, endedBy: row.entry, corrections: [] }),
    })),
    lastEntries,
    entries: entries.map(({ seen: _, ...entry }) => entry),
    names: [...names.values()],
  };
};

const NOTHING: Making = { formedBy: 0, endedBy: 0, corrections: [] };

type Begin = Pick<Row, 'section' | 'thing' | 'from' | 'until'> & {
  entry: number;
  values: Record<string, unknown>;
};
const beginKey = ({ section, thing, from }: Pick<Row, 'section' | 'thing' | 'from'>): string =>
  `${section} ${thing} ${from}`;

/** Who made what stands in a row: see `SectionRowOut`. */
type Making = {
  formedBy: number;
  endedBy: number;
  corrections: { entry: number; before: Begin['values']; after: Begin['values'] }[];
};

const begin = ({ entry }: Begin): Making => ({ formedBy: entry, endedBy: entry, corrections: [] });

// What an employment says of its end is recorded by whoever ends it.
const OF_THE_END = new Set(['endReasonId', 'mayReturn', 'returnReason', 'returnBarredUntil']);

const partsOf = ({ section, values }: Begin) => {
  if (section !== 'employment') return { end: null, rest: values };
  const fields = Object.entries(values);
  return {
    end: fields.filter(([field]) => OF_THE_END.has(field)),
    rest: fields.filter(([field]) => !OF_THE_END.has(field)),
  };
};

// A later act that cuts a version records it anew; only one that says something else of the same days forms it.
const madeOf = (begins: readonly Begin[]): Making => {
  const [first, ...later] = begins as [Begin, ...Begin[]];
  const made = begin(first);
  let before = first;
  for (const next of later) {
    const [was, is] = [partsOf(before), partsOf(next)];
    if (next.until !== before.until || !isDeepStrictEqual(is.end, was.end)) made.endedBy = next.entry;
    if (!isDeepStrictEqual(is.rest, was.rest)) {
      made.formedBy = next.entry;
      made.corrections.push({ entry: next.entry, before: before.values, after: next.values });
    }
    before = next;
  }
  return made;
};

// Of each first day of each thing, what entries that are not undone said, in their order.
const makings = async (
  db: Db,
  things: ReadonlyMap<SectionName, ReadonlySet<number>>,
  { by }: Looking,
): Promise<Map<string, Making>> => {
  const found: Begin[] = [];
  for (const [section, ids] of things)
    found.push(...(await many<Begin>(db, beginnings(section, [...ids], by))));
  const undone = await undoneAmong(db, [...new Set(found.map(({ entry }) => entry))]);
  const begins = new Map<string, Begin[]>();
  for (const one of found) {
    if (undone.has(one.entry)) continue;
    const known = begins.get(beginKey(one));
    if (known) known.push(one);
    else begins.set(beginKey(one), [one]);
  }
  return new Map([...begins].map(([key, all]) => [key, madeOf(all)]));
};
