// All that the page of a record shows, cut to what the viewer may see: rows, then who made them, then names, each by one
// statement whatever the number of sections.
import { isDeepStrictEqual } from 'node:util';
import {
  type Kind,
  type RecordOut,
  type Row,
  type SectionName,
  type ThingRef,
  fieldsOfEnd,
} from '@gremium/contract';
import { type Db, type Sql, join, manyById, sql } from '../database/sql';
import type { Seer } from './catalogues';
import { pastOf } from './journal.sql';
import { namesFor } from './labels';
import type { Looking } from './lens';
import { type Kept, seenHeads } from './read-entries';
import { type Which, visibleHistory } from './records.sql';
import { HIDEABLE } from './seen';
import { type Undoing, undoneBy } from './undo';
import { believedBy } from './version.sql';

/** What a row refers to, of kinds that are not in the reference lists. */
export const refsIn = (
  { catalogue }: Pick<Seer, 'catalogue'>,
  { section, values }: Pick<Row, 'section' | 'values'>,
): ThingRef[] =>
  catalogue.refs(section).flatMap(({ field, kind }) => {
    const id = (values as Record<string, unknown>)[field];
    return typeof id === 'number' && HIDEABLE.has(kind) ? [{ kind, id }] : [];
  });

type AskedSection = readonly [SectionName, Which];

// Versions of sections, and, of those found there, what they lead to: by one statement.
const readRows = async (
  db: Db,
  viewer: Seer,
  looking: Looking,
  asked: readonly AskedSection[],
  further: readonly AskedSection[] = [],
): Promise<Row[]> => {
  const queryFor = ([section, which]: AskedSection) =>
    sql`(${visibleHistory(viewer, section, which, looking)})`;
  const found = sql`with found as (${join(asked.map(queryFor), ' union all ')}) select * from found`;
  const query = [found, ...further.map((one) => sql`select * from ${queryFor(one)} q`)];
  return ordered(viewer, await manyById<Row>(db, join(query, ' union all ')));
};

// Ids that a field of rows of a section names, of those found.
const named = (section: SectionName, field: string): Sql =>
  sql`select (f."values" ->> ${field})::bigint from found f where f.section = ${section}`;

/** All of a thing of one kind that the viewer may see: its sections, each version on each of its days. */
export const readThing = (db: Db, viewer: Seer, looking: Looking, kind: Kind, id: number): Promise<Row[]> =>
  readRows(db, viewer, looking, ofThing(viewer, kind, id));

/** All versions of some sections of some things that the viewer may see. */
export const readThings = (
  db: Db,
  viewer: Seer,
  looking: Looking,
  things: ReadonlyMap<SectionName, readonly number[]>,
): Promise<Row[]> =>
  readRows(
    db,
    viewer,
    looking,
    [...things].map(([section, ids]) => [section, { field: 'thing', ids }] as const),
  );

/** All of a person: what is theirs, what belongs to their employments, and the positions of placements that were seen. */
export const readPerson = (db: Db, viewer: Seer, looking: Looking, id: number): Promise<Row[]> =>
  readRows(db, viewer, looking, ofPerson(viewer, id, looking.by), [
    ['position', { field: 'thing', ids: named('placement', 'positionId') }],
    ['position_requirement', { field: 'positionId', ids: named('placement', 'positionId') }],
  ]);

/** All of a position, with its holdings that were seen and the employments of these. */
export const readPosition = (db: Db, viewer: Seer, looking: Looking, id: number): Promise<Row[]> =>
  readRows(
    db,
    viewer,
    looking,
    [...ofThing(viewer, 'position', id), ['placement', { field: 'positionId', ids: [id] }]],
    [['employment', { field: 'thing', ids: named('placement', 'employmentId') }]],
  );

const ordered = ({ catalogue }: Seer, rows: Row[]): Row[] => {
  const order = new Map(catalogue.names.map((name, i) => [name, i]));
  const place = ({ section }: Row) => order.get(section) ?? 0;
  return rows.sort(
    (a, b) => place(a) - place(b) || (a.from < b.from ? -1 : a.from > b.from ? 1 : a.id - b.id),
  );
};

// What a section is read by, of somebody or something: its thing, or what it belongs to.
const ofThing = (
  { catalogue }: Pick<Seer, 'catalogue'>,
  kind: Kind,
  id: number,
): (readonly [SectionName, Which])[] => [
  ...catalogue.of(kind).map((section) => [section, { field: 'thing', ids: [id] }] as const),
  ...catalogue
    .belongingTo(kind)
    .map(
      (section) =>
        [section, { field: catalogue.section(section).owner?.field ?? 'thing', ids: [id] }] as const,
    ),
];

const ofPerson = (
  viewer: Pick<Seer, 'catalogue'>,
  id: number,
  by: number | null,
): (readonly [SectionName, Which])[] => {
  const employments = sql`select v.employment_id from employment_version v
    where v.person_id = ${id} and ${believedBy(by)}`;
  const terms = viewer.catalogue.belongingTo('employment').map((section) => {
    const field = viewer.catalogue.section(section).owner?.field as string;
    return [section, { field, ids: employments }] as const;
  });
  return [...ofThing(viewer, 'person', id), ...terms];
};

type Past = { said: (Begin & { supersededBy: number | null })[] | null; heads: Kept[]; undoings: Undoing[] };

/** The rows of a record with their entries, the numbers that a save must name, and the names they refer to. */
export const readRecord = async (
  db: Db,
  viewer: Seer,
  looking: Looking,
  rows: readonly Row[],
): Promise<Omit<RecordOut, 'managers'>> => {
  const { made, heads, undoings, lastEntries } = await makings(db, viewer, rows, looking);
  const makers = new Set(
    rows.flatMap((row) => {
      const { formedBy, endedBy, corrections } = made.get(beginKey(row)) ?? NOTHING;
      return [row.entry, formedBy, endedBy, ...corrections.map(({ entry }) => entry)];
    }),
  );
  const shown = heads.filter(({ id }) => makers.has(id)).sort((a, b) => b.number - a.number);
  const entries = await seenHeads(db, viewer, { heads: shown, undoings, looking, headsOnly: true });
  const names = await namesFor(
    db,
    viewer,
    rows.flatMap((row) => refsIn(viewer, row)),
    looking,
  );
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

type Begin = Pick<Row, 'id' | 'section' | 'thing' | 'from' | 'until'> & {
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

const OF_THE_END: ReadonlySet<string> = new Set(fieldsOfEnd);

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

// Of each first day of each thing, what entries that are not undone said, in their order; and the last that touched it.
const makings = async (db: Db, viewer: Seer, rows: readonly Row[], { by }: Looking) => {
  const things = new Map<SectionName, Set<number>>();
  for (const { section, thing } of rows)
    things.set(section, (things.get(section) ?? new Set<number>()).add(thing));
  const asked = [...things].map(([name, ids]) => [viewer.catalogue.section(name), [...ids]] as const);
  const nothing: Past = { said: [], heads: [], undoings: [] };
  const [past = nothing] = asked.length === 0 ? [] : await manyById<Past>(db, pastOf(asked, by));
  const numbers = new Map(past.heads.map(({ id, number }) => [id, number]));
  const isUndo = new Set(past.heads.flatMap(({ id, kind }) => (kind === 'undo' ? id : [])));
  const undone = undoneBy(past.undoings);
  const begins = new Map<string, Begin[]>();
  const last = new Map<string, { section: SectionName; thing: number; number: number }>();
  const number = (entry: number | null) => (entry === null ? 0 : (numbers.get(entry) ?? 0));
  for (const { supersededBy, ...one } of [...(past.said ?? [])].sort(
    (a, b) => number(a.entry) - number(b.entry) || a.id - b.id,
  )) {
    const key = `${one.section} ${one.thing}`;
    const latest = Math.max(number(one.entry), number(supersededBy), last.get(key)?.number ?? 0);
    last.set(key, { section: one.section, thing: one.thing, number: latest });
    if (isUndo.has(one.entry) || undone.has(one.entry)) continue;
    const known = begins.get(beginKey(one));
    if (known) known.push(one);
    else begins.set(beginKey(one), [one]);
  }
  return {
    ...past,
    made: new Map([...begins].map(([key, all]) => [key, madeOf(all)])),
    lastEntries: [...last.values()],
  };
};
