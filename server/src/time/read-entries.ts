// Heads of entries as a viewer may see them: their reasons only where all they touched is in sight.
import type { Entry, JournalLine, Kind, Named, Row, SectionName, ThingRef } from '@gremium/contract';
import { seesAll } from '../access/scope.sql';
import { type Db, type Sql, many, one } from '../database/sql';
import type { Seer } from './catalogues';
import { entries } from './journal.sql';
import { namesFor } from './labels';
import type { Looking } from './lens';
import { touchedRows } from './records.sql';
import { type Undoing, undoneBy } from './undo';
import { allOf } from './version.sql';

export type SeenRow = { row: Row; supersededBy: number | null };
export type Seen = JournalLine & { seen: SeenRow[] };
type Page = { limit: number; offset: number };

const ABOUT = 3;

export const seesEverything = (viewer: Seer): boolean =>
  viewer.catalogue.names.every((section) => seesAll(viewer, section));

/** Entries with the rows of them that the viewer may see; none of which nothing may be seen. */
export const readEntries = async (
  db: Db,
  viewer: Seer,
  { where, page, looking }: { where: Sql; page: Page; looking: Looking },
): Promise<Seen[]> => {
  const { heads, undoings } = await one<{ heads: Kept[]; undoings: Undoing[] }>(db, entries(where, page));
  return withSubjects(db, viewer, await seenHeads(db, viewer, { heads, undoings, looking }), looking);
};

/** An entry as it is kept, with the names of the sections it touched. */
export type Kept = Omit<Entry, 'undoneBy' | 'rows'> & { sections: string[] };
export type Head = Entry & { seen: SeenRow[] };

/**
 * Heads of entries as a viewer may see them, with the rows seen of each. Rows are left out (`headsOnly`) where nothing is
 * hidden from the viewer: a pay round has a thousand of them.
 */
export const seenHeads = async (
  db: Db,
  viewer: Seer,
  asked: { heads: readonly Kept[]; undoings: readonly Undoing[]; looking: Looking; headsOnly?: boolean },
): Promise<Head[]> => {
  const { heads, undoings, looking, headsOnly = false } = asked;
  const isAll = seesEverything(viewer);
  const { seen, all } =
    headsOnly && isAll
      ? { seen: new Map<number, SeenRow[]>(), all: new Map<number, number>() }
      : await seenRows(db, viewer, heads, looking);
  const undone = undoneBy(undoings);
  return heads
    .filter(({ id }) => isAll || (seen.get(id) ?? []).length > 0)
    .map(({ sections: _, ...head }) => {
      const own = seen.get(head.id) ?? [];
      const isWhole = own.length === (all.get(head.id) ?? 0);
      return {
        ...head,
        reason: isWhole ? head.reason : null,
        undoes: isWhole ? head.undoes : [],
        undoneBy: undone.get(head.id)?.number ?? null,
        rows: own.length,
        seen: own,
      };
    });
};

/** Sections that some entries touched, as far as there are any. */
export const sectionsIn = (viewer: Pick<Seer, 'catalogue'>, heads: readonly Pick<Kept, 'sections'>[]) => [
  ...new Set(
    heads.flatMap(({ sections }) => sections as SectionName[]).filter((name) => viewer.catalogue.has(name)),
  ),
];

// Rows of entries that the viewer may see, and how many there are in all: of the sections they touched, by one statement.
const seenRows = async (db: Db, viewer: Seer, heads: readonly Kept[], looking: Looking) => {
  const ids = heads.map(({ id }) => id);
  const seen = new Map<number, SeenRow[]>(ids.map((id) => [id, []]));
  const all = new Map<number, number>();
  const sections = sectionsIn(viewer, heads);
  if (sections.length === 0) return { seen, all };
  const queries = sections.map((section) => touchedRows(viewer, section, ids, looking));
  type Touched = Row & { supersededBy: number | null; isSeen: boolean };
  const rows = await many<Touched>(db, allOf(queries));
  const order = new Map(viewer.catalogue.names.map((name, i) => [name, i]));
  rows.sort((a, b) => (order.get(a.section) ?? 0) - (order.get(b.section) ?? 0) || a.id - b.id);
  for (const { supersededBy, isSeen, ...row } of rows)
    for (const entry of supersededBy === null ? [row.entry] : [row.entry, supersededBy]) {
      all.set(entry, (all.get(entry) ?? 0) + 1);
      if (isSeen) seen.get(entry)?.push({ row, supersededBy });
    }
  return { seen, all };
};

/** What a row is about: the thing itself, or whose it is. */
export const subjectOf = (
  viewer: Pick<Seer, 'catalogue'>,
  { section, thing, values }: Pick<Row, 'section' | 'thing' | 'values'>,
): ThingRef => {
  const { field, kind } = viewer.catalogue.anchor(section);
  return { kind, id: field === 'thing' ? thing : ((values as Record<string, unknown>)[field] as number) };
};

const ORDER: Kind[] = ['person', 'position', 'unit', 'job'];
const rankOf = ({ kind }: Named): number => (ORDER.indexOf(kind) + ORDER.length + 1) % (ORDER.length + 1);

const withSubjects = async (db: Db, viewer: Seer, lines: Head[], looking: Looking): Promise<Seen[]> => {
  const refs = lines.map(({ seen }) => seen.slice(0, 30).map(({ row }) => subjectOf(viewer, row)));
  const named = await namesFor(db, viewer, refs.flat(), looking);
  return lines.map((line, i) => {
    const about = new Map<string, Named>();
    for (const { kind, id } of refs[i] ?? []) {
      const found = named.get(`${kind} ${id}`);
      if (found) about.set(`${found.kind} ${found.id}`, found);
    }
    return { ...line, about: [...about.values()].sort((a, b) => rankOf(a) - rankOf(b)).slice(0, ABOUT) };
  });
};
