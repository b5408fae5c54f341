// The three kinds of work on an import: reading its file, checking its rows, writing them as one entry.
import {
  type Day,
  ImportField,
  type Problem,
  type RowChange,
  type Viewer,
  hiddenFields,
  importFields,
  importFieldsOf,
  ownPeopleColumns,
  plainColumns,
} from '@gremium/contract';
import {
  type DayBase,
  type FileRow,
  type PlainRow,
  type RowResult,
  columnOrderOf,
  dayOfSerial,
  headingKey,
  matchColumns,
  matchNamed,
  problem,
  splitName,
  summaryOf,
} from '@gremium/core';
import { arrayText, copyIn } from '../database/copy-in';
import { Failure, fail } from '../database/failure';
import { type Db, many, maybeOne, one } from '../database/sql';
import { transaction } from '../database/transaction';
import { type Deciding, type Decision, type Place, act } from '../time/act';
import { head } from '../time/journal.sql';
import * as queries from './import.sql';

type Matched = queries.Matched;
import { IDS_PER_ROW, type PlannedImport, cellsBy, numberNewcomers, planImport } from './plan-import';
import { planPlainImport } from './plan-plain';
import { ownHeadings, ownLabels, plainSection } from './plain-subjects';
import { planSet } from './plan-set';
import { filesIn } from './files-in';
import { formatOf } from './read-file';
import { subjects } from './subject-of';
import type { Ground, PlanInHand } from './plan-in-hand';
import { readApart } from './read-apart';
import { withSplit } from './whole-names';
import type { Job } from './work-desk';

type OnProgress = (done: number, total: number) => void;

/** A server as the worker has it: with the plan of its last check in hand. */
export type Workplace = Place & { hand: PlanInHand };

export const workOn = (place: Workplace, job: Job, onProgress: OnProgress): Promise<void> => {
  if (job.work !== 'write') place.hand.letGo();
  return WORK[job.work as keyof typeof WORK](place, job, onProgress);
};

// Somebody else has the work now, or it was cancelled: nothing of it is kept.
const mine = <T>(kept: T | undefined): T => kept ?? fail('import_busy');

const BATCH = 2000;

const read = async (place: Place, job: Job, onProgress: OnProgress): Promise<void> => {
  const { pool } = place;
  const kept = await one<queries.Kept>(pool, queries.importById(job.id));
  const { content } = await one<{ content: Buffer }>(pool, queries.contentOf(job.id));
  if (kept.format === 'zip') await readSet(place, job, { kept, content, onProgress });
  else await readOne(place, job, { kept, content, onProgress });
  // one of several that was read anew: what all of them come to is checked
  if (kept.partOf !== null) await many(pool, queries.askCheck(kept.partOf, true));
};

type Reading = { kept: queries.Kept; content: Buffer; onProgress: OnProgress };

// Each file of several becomes a part with columns and rows of its own. What cannot be read says so there, and is looked at when
// all are read.
const readSet = async (place: Place, job: Job, { kept, content, onProgress }: Reading): Promise<void> => {
  const { pool } = place;
  const { id, worker } = job;
  await many(pool, queries.dropParts(id));
  for (const file of await filesIn(content)) {
    const made = await one<{ id: number }>(
      pool,
      queries.insertPart(kept, worker, { ...file, format: formatOf(file.content) }),
    );
    const part = await one<queries.Kept>(pool, queries.importById(made.id));
    try {
      await readOne(place, { ...job, id: part.id }, { kept: part, content: file.content, onProgress });
    } catch (error) {
      if (!(error instanceof Failure)) throw error;
      await many(pool, queries.keepTrouble(part, worker, error.problems));
    }
  }
  mine(await maybeOne(pool, queries.keepPartsRead(id, worker)));
};

const readOne = async (
  place: Place,
  { id, worker, viewer }: Job,
  { kept: { sheetAt, headingRow, subject: said, fileName }, content, onProgress }: Reading,
): Promise<void> => {
  const { pool } = place;
  const about = await subjects(place, said, viewer);
  const keys = about.known();
  const { seen, headings: ownKeys } = await peopleColumnsOf(place, viewer);
  await readApart(
    content,
    { sheet: sheetAt, headingRow, ...(keys ? { known: keys } : {}) },
    async ({ headings, sheet, sheets, preview, ...file }) => {
      const subject = about.of(headings, fileName);
      const names = about.names(subject);
      const known = await many<{ heading: string; field: ImportField | null }>(
        pool,
        queries.remembered(subject, headings.map(headingKey)),
      );
      const memory = new Map(known.map(({ heading, field }) => [heading, field]));
      const columns = names
        ? matchNamed(headings, names, memory)
        : withOwn(matchColumns(headings, memory), headings, ownKeys).map((one) =>
            one.field === null || seen.includes(one.field) ? one : { field: null, how: null },
          );
      const split = withSplit(headings, columns);
      await many(pool, queries.keepPreview(id, worker, preview));
      await transaction(pool, async (tx) => {
        await many(tx, queries.dropRows(id));
        let count = 0;
        await copyIn(tx, 'import_row', ['import_id', 'row', 'cells'], async function* () {
          for await (const { row, cells } of file.rows) {
            if (++count % BATCH === 0) onProgress(count, 0);
            yield [
              id,
              row,
              arrayText(split.at < 0 ? cells : [...cells, ...splitName(cells[split.at] ?? '')]),
            ];
          }
        });
        if (count === 0) fail('file_empty');
        const comments = file.comments();
        const { headings: own, columns: matched } = split;
        const read = { headings: own, columns: matched, sheet, sheets, comments, preview, subject };
        mine(await maybeOne(tx, queries.keepRead(id, worker, read)));
      });
    },
  );
};

// What columns of a file of people a viewer may fill, and by what headings those of own fields are known.
const peopleColumnsOf = async ({ pool, catalogues }: Pick<Place, 'pool' | 'catalogues'>, viewer: Viewer) => {
  const catalogue = await catalogues.now(pool);
  const own = ownPeopleColumns(catalogue, viewer.grants);
  const seen: readonly string[] = [...importFieldsOf(viewer.grants), ...own.map(({ name }) => name)];
  return { own, seen, headings: ownHeadings(own, await ownLabels(pool, catalogue)) };
};

// Columns that are called as an own field is, where nothing else was found for them.
const withOwn = (
  found: readonly Matched[],
  headings: readonly string[],
  own: ReadonlyMap<string, string>,
): Matched[] => {
  const taken = new Set(found.map(({ field }) => field));
  return found.map((one, i) => {
    const field = one.field === null ? own.get(headingKey(headings[i] as string)) : undefined;
    if (field === undefined || taken.has(field)) return one;
    taken.add(field);
    return { field, how: 'name' };
  });
};

// Columns of days, by the fields they are taken for.
const dayColumns = async (
  { pool, catalogues }: Place,
  { subject, columns }: queries.Kept,
  viewer: Viewer,
): Promise<string[]> => {
  const days =
    subject === 'people'
      ? [
          ...ImportField.options.filter((field) => importFields[field].reading === 'day'),
          ...(await peopleColumnsOf({ pool, catalogues }, viewer)).own.flatMap(({ name, meta }) =>
            meta.is === 'day' ? name : [],
          ),
        ]
      : plainColumns(plainSection(await catalogues.now(pool), subject, viewer))
          .filter(({ is, meta }) => is === 'from' || meta?.is === 'day')
          .map(({ name }) => name);
  return days.filter((name) => columns.some(({ field }) => field === name));
};

// Columns of a file, those that are not the viewer's to fill as columns of nothing.
const seenColumns = async (
  { pool, catalogues }: Place,
  { subject, columns }: queries.Kept,
  viewer: Viewer,
) => {
  if (hiddenFields(viewer.grants).size === 0) return columns;
  const seen: readonly string[] =
    subject === 'people'
      ? (await peopleColumnsOf({ pool, catalogues }, viewer)).seen
      : plainColumns(plainSection(await catalogues.now(pool), subject, viewer)).map(({ name }) => name);
  return columns.map((column) =>
    column.field === null || seen.includes(column.field) ? column : { ...column, field: null },
  );
};

const fileRows = async (place: Place, db: Db, kept: queries.Kept, viewer: Viewer): Promise<FileRow[]> => {
  const columns = await seenColumns(place, kept, viewer);
  if (!columns.some(({ field }) => field !== null)) fail('columns_none');
  const rows: FileRow[] = [];
  const days = await dayColumns(place, kept, viewer);
  // where a workbook shows numbers for days, those are days too
  const base: DayBase | null = kept.preview?.dayBase ?? null;
  for (let after = 0; ;) {
    const found = await many<{ row: number; cells: string[] }>(db, queries.cellsFrom(kept.id, after, 10_000));
    for (const { row, cells } of found) {
      const own = cellsBy(columns, cells);
      for (const name of base === null ? [] : days)
        if (own[name] !== undefined) own[name] = dayOfSerial(own[name], base as DayBase);
      rows.push({ row, cells: own as FileRow['cells'] });
    }
    const last = found.at(-1);
    if (!last) break;
    after = last.row;
  }
  const cellsOf = (name: string) =>
    rows.flatMap(({ cells }) => (cells as Record<string, string>)[name] ?? []);
  const shown = Object.fromEntries(days.map((name) => [name, columnOrderOf(cellsOf(name))]));
  await many(db, queries.keepDays(kept.id, shown));
  return rows;
};

type Ask = { place: Place; db: Db; kept: queries.Kept; viewer: Viewer; onProgress: OnProgress };

// The plan of a file: that of people, the plain one of what it is about, or of several files one after the other.
const planned = async (deciding: Deciding, ask: Ask): Promise<Decision<PlannedImport>> => {
  const { kept, db, viewer } = ask;
  if (kept.format === 'zip') {
    const parts = await openParts(db, kept);
    return planSet(
      deciding,
      parts.map((part) => ({ ...planAsk({ ...ask, kept: part }), ...aboutOf(ask, part) })),
      viewer,
    );
  }
  if (kept.subject === 'people') return planImport(deciding, planAsk(ask));
  const { fields: _, newNumbers: __, ...plain } = planAsk(ask);
  const { subject, plainRows } = aboutOf(ask, kept);
  return planPlainImport(deciding, { ...plain, rows: plainRows, subject });
};

const aboutOf = ({ place, db, viewer }: Ask, kept: queries.Kept) => ({
  id: kept.id,
  subject: kept.subject,
  plainRows: async () => (await fileRows(place, db, kept, viewer)) as PlainRow[],
});

// The files of several that are to be taken in; refused while one of them cannot be read, or says not what it is about.
const openParts = async (db: Db, { id }: queries.Kept): Promise<queries.Kept[]> => {
  const parts = (await many<queries.Kept>(db, queries.partsOf(id))).filter(
    ({ state }) => state !== 'cancelled',
  );
  const wrong = parts.flatMap(({ trouble, columns, fileName }) =>
    trouble.length > 0 || !columns.some(({ field }) => field !== null)
      ? problem('part_unread', { file: fileName })
      : [],
  );
  if (wrong.length > 0) throw new Failure(wrong);
  return parts.length > 0 ? parts : fail('file_empty');
};

const planAsk = ({ place, db, kept, viewer, onProgress }: Ask) => ({
  rows: () => fileRows(place, db, kept, viewer),
  fields: kept.columns.flatMap(({ field }) => field ?? []),
  viewer,
  day: kept.day as Day,
  workbook: kept.format === 'xlsx',
  orders: new Map(
    kept.columns.flatMap(({ field, order }) => (field !== null && order ? [[field, order]] : [])),
  ),
  newNumbers: kept.newNumbers,
  onRow: (done: number, total: number) => {
    if (done % 500 === 0 || done === total) onProgress(done, total);
  },
});

const groundOf = async (
  { tx, today }: Deciding,
  { id, revision }: queries.Kept,
  viewer: Viewer,
): Promise<Ground> => {
  const { number: last } = await one<{ number: number }>(tx, head);
  return { id, revision, last, today, viewer };
};

const check = async (
  place: Workplace,
  { id, worker, viewer }: Job,
  onProgress: OnProgress,
): Promise<void> => {
  const { pool, hand } = place;
  const kept = await one<queries.Kept>(pool, queries.importById(id));
  const { total } = await one<{ total: number }>(pool, queries.countRowsOfAll(id));
  let today: Day | undefined;
  const { result } = await act<PlannedImport>(place, viewer, {
    kind: 'import',
    loadsAll: true,
    preview: true,
    locks: [],
    newIds: total * IDS_PER_ROW + 10,
    decide: async (deciding) => {
      today = deciding.today;
      const ground = await groundOf(deciding, kept, viewer);
      const plan = await planned(deciding, { place, db: pool, kept, viewer, onProgress });
      // what was committed in the midst of it may be in some of its reading only
      const { last } = await groundOf(deciding, kept, viewer);
      if (last === ground.last) hand.keep(ground, plan);
      return plan;
    },
  });
  const { results } = result;
  const counts = await keepResults(pool, kept, result);
  const summary = summaryOf(results, today as Day);
  const found = { revision: kept.revision, counts, summary, warnings: warningsOf(results) };
  mine(await maybeOne(pool, queries.keepChecked(id, worker, found)));
};

/** How many rows do what. */
const countsOf = (results: readonly RowResult[], leftOut: number) => {
  const of = (status: RowResult['status']) => results.filter((row) => row.status === status).length;
  return {
    read: results.length + leftOut,
    new: of('new'),
    changed: of('changed'),
    same: of('same'),
    refused: of('refused'),
    left_out: leftOut,
  };
};

const MOST_NAMED = 20;

// Warnings of rows that would be written, each with where it stands.
const warningsOf = (results: readonly RowResult[]) => {
  const found = new Map<string, { problem: Problem; count: number; rows: number[] }>();
  for (const { row, status, warnings } of results) {
    if (status === 'refused') continue;
    for (const warning of new Map(warnings.map((one) => [one.code, one])).values()) {
      const kept = found.get(warning.code) ?? { problem: warning, count: 0, rows: [] };
      found.set(warning.code, kept);
      kept.count += 1;
      if (kept.rows.length < MOST_NAMED) kept.rows.push(row);
    }
  }
  return [...found.values()];
};

// Somebody new whose row is refused will not be there.
const outcomeOf = ({ row, status, faults, personId, thing, opens, what, changes }: RowResult) => ({
  row,
  status,
  faults: faults.length > 0 ? JSON.stringify(faults) : null,
  person: what === 'hire' && status !== 'new' ? null : personId,
  thing: status === 'refused' ? null : (thing ?? null),
  opensKind: opens?.kind ?? null,
  opensId: opens?.id ?? null,
  changes: status === 'refused' || changes.length === 0 ? null : JSON.stringify(changes.filter(isTold)),
});

// Numbers that are not given yet have stand-ins.
const isTold = ({ is }: RowChange): boolean => typeof is !== 'string' || !is.startsWith('\u0001');

const keepOutcomes = async (db: Db, id: number, results: readonly RowResult[]): Promise<void> => {
  for (let i = 0; i < results.length; i += BATCH)
    await many(db, queries.keepOutcomes(id, results.slice(i, i + BATCH).map(outcomeOf)));
};

// What became of each row, kept with its file; answers with how many rows do what.
const keepResults = async (db: Db, kept: queries.Kept, planned: PlannedImport, areKept = false) => {
  const files: (readonly [number, readonly RowResult[]])[] = planned.parts
    ? [...planned.parts]
    : [[kept.id, planned.results]];
  let leftOut = 0;
  for (const [id, results] of files) {
    if (!areKept) await keepOutcomes(db, id, results);
    const { total } = await one<{ total: number }>(db, queries.countLeftOut(id));
    leftOut += total;
    const counts = countsOf(results, total);
    if (id !== kept.id) await many(db, queries.keepPart(id, counts));
  }
  return countsOf(planned.results, leftOut);
};

type Writing = { rows: 'all' | 'good'; words: Record<string, string>; reason?: string };

const write = async (
  place: Workplace,
  { id, worker, viewer }: Job,
  onProgress: OnProgress,
): Promise<void> => {
  const { pool, hand } = place;
  const kept = await one<queries.Kept>(pool, queries.importById(id));
  const { writing } = await one<{ writing: Writing }>(pool, queries.writingOf(id));
  const { total } = await one<{ total: number }>(pool, queries.countRowsOfAll(id));
  let isAsChecked = false;
  await act<PlannedImport>(place, viewer, {
    kind: 'import',
    reason: writing.reason,
    origin: {
      import: id,
      file: kept.fileName,
      ...(Object.keys(writing.words).length > 0 ? { words: writing.words } : {}),
    },
    preview: false,
    alone: true,
    loadsAll: true,
    locks: [],
    newIds: total * IDS_PER_ROW + 10,
    words: writing.words,
    decide: async (deciding) => {
      const checked = hand.take(await groundOf(deciding, kept, viewer));
      isAsChecked = checked !== undefined;
      const plan = checked ?? (await planned(deciding, { place, db: pool, kept, viewer, onProgress }));
      const { change, results } = plan.result;
      for (const row of change.recorded) row.entry = deciding.entry;
      const { refused } = countsOf(results, 0);
      if ((writing.rows === 'all' || plan.result.isWhole) && refused > 0)
        return { ...plan, problems: [problem('import_refused_rows', { count: refused })] };
      await numberNewcomers(deciding.tx, plan.result);
      return { ...plan, problems: warningsOf(results).map(({ problem: warning }) => warning) };
    },
    ahead: async (tx, result) => {
      // as they were checked, so they stand already
      const counts = await keepResults(tx, kept, result, isAsChecked);
      await many(tx, queries.keepCounts(id, counts));
    },
    alongside: async (tx, entry) => {
      await many(tx, queries.keepPartsWritten(id, entry));
      mine(await maybeOne(tx, queries.keepWritten(id, worker, entry)));
    },
  });
};

const WORK = { read, check, write };
