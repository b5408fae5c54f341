// Heads of entries as a viewer may see them: their reasons only where all they touched is in sight.
import {
  type Entry,
  type JournalLine,
  type Kind,
  type Named,
  type Row,
  type ThingRef,
  type Viewer,
  sectionNames,
  sections,
} from '@gremium/contract';
import { seesAll } from '../access/scope.sql';
import { type Db, type Sql, many } from '../database/sql';
import { entries, numbersOf } from './journal.sql';
import { namesFor } from './labels';
import type { Looking } from './lens';
import { countRowsOf, visibleRowsOf } from './records.sql';
import { undoneAmong } from './undo';

export type SeenRow = { row: Row; supersededBy: number | null };
export type Seen = JournalLine & { seen: SeenRow[] };
type Page = { limit: number; offset: number };

const ABOUT = 3;

export const seesEverything = (viewer: Viewer): boolean =>
  sectionNames.every((section) => seesAll(viewer, section));

/** Entries with the rows of them that the viewer may see; none of which nothing may be seen. */
export const readEntries = async (
  db: Db,
  viewer: Viewer,
  { where, page, looking }: { where: Sql; page: Page; looking: Looking },
): Promise<Seen[]> =>
  withSubjects(db, viewer, await readHeads(db, viewer, { where, page, looking }), looking);

type Head = Entry & { seen: SeenRow[] };

/**
 * The same without what they are about. Rows are left out (`headsOnly`) where nothing is hidden from the viewer: a pay round
 * has a thousand of them.
 */
export const readHeads = async (
  db: Db,
  viewer: Viewer,
  {
    where,
    page,
    looking,
    headsOnly = false,
  }: { where: Sql; page: Page; looking: Looking; headsOnly?: boolean },
): Promise<Head[]> => {
  const heads = await many<Entry>(db, entries(where, page));
  const ids = heads.map(({ id }) => id);
  const isSeen = headsOnly && seesEverything(viewer);
  const { seen, all } = await seenRows(db, viewer, isSeen ? [] : ids, looking);
  const undone = await undoneAmong(db, ids);
  const undoes = heads.flatMap((head) => head.undoes.map(Number));
  const numbers = new Map(
    (await many<{ id: number; number: number }>(db, numbersOf(undoes))).map(({ id, number }) => [id, number]),
  );
  return heads
    .filter(({ id }) => seesEverything(viewer) || (seen.get(id) ?? []).length > 0)
    .map((head) => {
      const own = seen.get(head.id) ?? [];
      const isWhole = own.length === (all.get(head.id) ?? 0);
      return {
        ...head,
        reason: isWhole ? head.reason : null,
        undoes: isWhole ? head.undoes.map((id) => numbers.get(Number(id)) as number) : [],
        undoneBy: undone.get(head.id)?.number ?? null,
        rows: own.length,
        seen: own,
      };
    });
};

// Rows of entries that the viewer may see, and for how many more there are.
const seenRows = async (db: Db, viewer: Viewer, ids: number[], looking: Looking) => {
  const seen = new Map<number, SeenRow[]>(ids.map((id) => [id, []]));
  const all = new Map<number, number>();
  if (ids.length === 0) return { seen, all };
  for (const section of sectionNames) {
    const counts = await many<{ entry: number; rows: number }>(db, countRowsOf(section, ids));
    if (counts.length === 0) continue;
    for (const { entry, rows } of counts) all.set(entry, (all.get(entry) ?? 0) + rows);
    const rows = await many<Row & { supersededBy: number | null }>(
      db,
      visibleRowsOf(viewer, section, ids, looking),
    );
    for (const { supersededBy, ...row } of rows) {
      seen.get(row.entry)?.push({ row, supersededBy });
      if (supersededBy !== null) seen.get(supersededBy)?.push({ row, supersededBy });
    }
  }
  return { seen, all };
};

/** What a row is about: the thing itself, or the person or employment it belongs to. */
export const subjectOf = ({
  section,
  thing,
  values,
}: Pick<Row, 'section' | 'thing' | 'values'>): ThingRef => {
  const named = values as { personId?: number; employmentId?: number };
  if (section === 'contact') return { kind: 'person', id: named.personId as number };
  if (section === 'contract' || section === 'pay')
    return { kind: 'employment', id: named.employmentId as number };
  return { kind: sections[section].kind, id: thing };
};

const ORDER: Kind[] = ['person', 'position', 'unit', 'job'];
const rankOf = ({ kind }: Named): number => (ORDER.indexOf(kind) + ORDER.length + 1) % (ORDER.length + 1);

const withSubjects = async (db: Db, viewer: Viewer, lines: Head[], looking: Looking): Promise<Seen[]> => {
  const refs = lines.map(({ seen }) => seen.slice(0, 30).map(({ row }) => subjectOf(row)));
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
