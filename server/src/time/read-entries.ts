// Heads of entries as a viewer may see them: their reasons only where all they touched is in sight.
import type { Changed, Entry, JournalLine, Kind, Named, Row, SectionName, ThingRef } from '@gremium/contract';
import { addDays, earlier, isEqual, later } from '@gremium/core';
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

/** Whether nothing is hidden from a viewer but what people tell of themselves. */
export const seesEverything = (viewer: Seer): boolean =>
  viewer.catalogue.sections.every(({ name, byOneself }) => byOneself || seesAll(viewer, name as SectionName));

// Whether all that an entry touched is in sight, whatever its rows are.
const isInSight = (viewer: Seer): ((head: Kept) => boolean) => {
  const known = new Map<string, boolean>();
  const sees = (name: string): boolean => {
    const found = known.get(name) ?? (!viewer.catalogue.has(name) || seesAll(viewer, name as SectionName));
    known.set(name, found);
    return found;
  };
  return ({ sections }) => sections.every(sees);
};

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
 * Heads of entries as a viewer may see them, with the rows seen of each. Rows are left out (`headsOnly`) where nothing of an
 * entry is hidden from the viewer: a pay round has a thousand of them.
 */
export const seenHeads = async (
  db: Db,
  viewer: Seer,
  asked: { heads: readonly Kept[]; undoings: readonly Undoing[]; looking: Looking; headsOnly?: boolean },
): Promise<Head[]> => {
  const { heads, undoings, looking, headsOnly = false } = asked;
  const isAll = seesEverything(viewer);
  const inSight = isInSight(viewer);
  const hidden = headsOnly ? heads.filter((head) => !inSight(head)) : heads;
  const { seen, all } = await seenRows(db, viewer, hidden, looking);
  const undone = undoneBy(undoings);
  return heads
    .filter(
      (head) =>
        ((isAll || head.sections.length > 0) && inSight(head)) || (seen.get(head.id) ?? []).length > 0,
    )
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

const ORDER: Kind[] = ['person', 'employment', 'placement', 'position', 'unit', 'job'];
const rankOf = (kind: Kind): number => (ORDER.indexOf(kind) + ORDER.length + 1) % (ORDER.length + 1);
/** So many of what an entry touched are looked up, people first: two of them may be one person. */
const MOST_NAMED = 12;

// What an entry is about, each once: people before the places that came along with them.
const subjectsOf = (viewer: Seer, seen: readonly SeenRow[]): ThingRef[] => {
  const refs = new Map<string, ThingRef>();
  for (const { row } of seen) {
    const ref = subjectOf(viewer, row);
    refs.set(`${ref.kind} ${ref.id}`, ref);
  }
  return [...refs.values()].sort((a, b) => rankOf(a.kind) - rankOf(b.kind));
};

const withSubjects = async (db: Db, viewer: Seer, lines: Head[], looking: Looking): Promise<Seen[]> => {
  const all = lines.map(({ seen }) => subjectsOf(viewer, seen));
  const refs = all.map((subjects) => subjects.slice(0, MOST_NAMED));
  const named = await namesFor(db, viewer, refs.flat(), looking);
  return lines.map((line, i) => {
    const about = new Map<string, Named>();
    for (const { kind, id } of refs[i] ?? []) {
      const found = named.get(`${kind} ${id}`);
      if (found) about.set(`${found.kind} ${found.id}`, found);
    }
    const names = [...about.values()].sort((a, b) => rankOf(a.kind) - rankOf(b.kind));
    const isMore = names.length > ABOUT || (all[i] ?? []).length > MOST_NAMED;
    return { ...line, about: names.slice(0, ABOUT), isMore, changed: changedBy(line) };
  });
};

// Acts of which it is said what they changed; a round over thousands is said by its kind.
const SAID = new Set<Entry['kind']>(['edit', 'mend', 'end', 'create', 'put_back']);
const MOST_SAID = 80;

const changedBy = ({ id, kind, seen }: Head): Changed[] => {
  if (!SAID.has(kind) || seen.length > MOST_SAID) return [];
  const recorded = seen.filter(({ row }) => row.entry === id).map(({ row }) => row);
  const before = seen.filter(({ supersededBy }) => supersededBy === id).map(({ row }) => row);
  // what is left of an old version, cut where the new one begins, did not change
  const isRest = (row: Row) =>
    before.some(
      (old) => old.section === row.section && old.thing === row.thing && isEqual(old.values, row.values),
    );
  const sections = [...new Set(recorded.map(({ section }) => section))];
  return sections.map((section) => {
    const rows = recorded.filter((row) => row.section === section);
    const fresh = rows.filter((row) => !isRest(row)).map(({ from }) => from);
    if (fresh.length > 0) return { section, day: fresh.reduce(earlier), isEnd: false };
    const last = rows.map(({ until }) => until).reduce(later);
    return { section, day: addDays(last, -1), isEnd: true };
  });
};
