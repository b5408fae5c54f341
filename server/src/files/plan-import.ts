// An import as a decision: what its rows name is loaded in few large queries, core plans and judges them row by row.
import { setImmediate } from 'node:timers/promises';
import type { Day, DayOrder, OwnColumn, Row, SectionName, Viewer } from '@gremium/contract';
import { may, ownPeopleColumns } from '@gremium/contract';
import {
  areRowsApart,
  bareNumber,
  earlier,
  firstDayIn,
  imported,
  planRows,
  type Planned,
  wholeFile,
  type Cells,
  type FileRow,
  type Imported,
  type RowResult,
  fold,
  pointedPositions,
  rowInside,
} from '@gremium/core';
import type { ClientBase } from 'pg';
import { many } from '../database/sql';
import { nextNumbers } from '../people/number.sql';
import type { Deciding, Decision } from '../time/act';
import type { Neighbourhood } from '../time/neighbourhood';
import { peopleNamed, peopleNumbered, positionsCoded } from './import.sql';
import { limits } from './limits';

export type PlanAsk = {
  /** Read anew for each decision, and let go with it: they may be many. */
  rows: () => Promise<FileRow[]>;
  /** What its columns are taken for. */
  fields: string[];
  viewer: Viewer;
  day: Day;
  /** Whether the file is a workbook. */
  workbook: boolean;
  /** Columns of which somebody said which of day and month comes first, by field. */
  orders: ReadonlyMap<string, DayOrder>;
  newNumbers: boolean;
  onRow: (done: number, total: number) => void;
  /** Among other files of one import: its rows may name what those bring, and are planned over the same register. */
  amongOthers?: boolean;
};

/** Its new people have stand-ins for numbers until they are written (`numberNewcomers`): a check takes none of the series. */
export type PlannedImport = Imported & {
  standIns: ReadonlySet<string>;
  /** Of several files: what each row of each does, by the id of the part. */
  parts?: ReadonlyMap<number, RowResult[]>;
  /** Something is refused of a row whose other part stands: good rows cannot be written without it. */
  isWhole?: boolean;
};

/** New ids that a row may need at most: a person with contacts, terms, a position made with it, and versions cut. */
export const IDS_PER_ROW = 24;

const REFERENCE: readonly SectionName[] = [
  'organisation',
  'list_entry',
  'least_age',
  'legal_entity',
  'location',
  'grade',
  'grade_range',
  'job',
  'unit',
  'unit_hiring',
];

type Loaded = { portion: FileRow[]; near: Neighbourhood };

/** Decides an import. Its problems are those of rows; the decision as a whole has none. */
export const planImport = async (deciding: Deciding, ask: PlanAsk): Promise<Decision<PlannedImport>> => {
  const rows = await ask.rows();
  await deciding.near.loadAll(REFERENCE);
  const ownColumns = ownPeopleColumns(deciding.catalogue, ask.viewer.grants);
  const { workbook, orders } = ask;
  const file = wholeFile(rows, { workbook, orders, today: deciding.today }, ownColumns);
  const isApart = !ask.amongOthers && areRowsApart(ask.fields, ownColumns);
  const standIns = new Set<string>();
  // no number that somebody could have typed begins so
  const nextNumber = () => {
    const number = `\u0001${standIns.size}`;
    standIns.add(number);
    return number;
  };
  const total = rows.length;
  const planned: Planned[] = [];
  const load = async (): Promise<Loaded> => {
    const near = isApart ? deciding.near.beside() : deciding.near;
    const portion = rows.splice(0, isApart ? limits.portion : total);
    // whom somebody limited to a part may see goes by where people are today
    const after = isApart ? earlier(firstDayIn(portion, file, ask.day), deciding.today) : undefined;
    await loadNamed({ ...deciding, near }, portion, { after, own: file.own.columns });
    return { portion, near };
  };
  for (let next: Promise<Loaded> | null = load(); next;) {
    const { portion, near }: Loaded = await next;
    // the database reads the next portion while this one is planned
    next = rows.length > 0 ? load() : null;
    next?.catch(() => undefined);
    const done = planned.length;
    const importing = {
      ...deciding,
      register: near.register,
      day: ask.day,
      newNumbers: ask.newNumbers,
      nextNumber,
      grants: ask.viewer.grants,
      sees: sight(near, ask.viewer, deciding.today),
      ownPerson: ask.viewer.personId,
      onRow: (row: number) => ask.onRow(done + row, total),
    };
    for (const row of await carriedOut(planRows(portion, importing, file), near)) planned.push(row);
  }
  const result = { ...imported(planned), standIns };
  return { change: result.change, problems: [], result, isJudged: true };
};

/** Gives new people their numbers of the series. */
export const numberNewcomers = async (
  tx: ClientBase,
  { change: { recorded }, standIns }: PlannedImport,
): Promise<void> => {
  const people = recorded.filter((row): row is Row<'person'> => row.section === 'person');
  const waiting = people.filter(({ values }) => standIns.has(values.number));
  const own = new Set(people.map(({ values }) => values.number));
  const numbers: string[] = [];
  while (numbers.length < waiting.length) {
    const found = await many<{ number: string }>(tx, nextNumbers(waiting.length - numbers.length));
    for (const { number } of found) if (!own.has(number)) numbers.push(number);
  }
  waiting.forEach(({ values }, i) => (values.number = numbers[i] as string));
};

const carriedOut = async (plan: ReturnType<typeof planRows>, near: Neighbourhood): Promise<Planned[]> => {
  for (;;) {
    const step = plan.next();
    if (step.done) return step.value;
    // what the database sends of the next portion is taken in between
    if (step.value === null) await setImmediate();
    else await near.loadFor(step.value);
  }
};

const texts = (rows: readonly FileRow[], ...fields: (keyof Cells)[]): string[] => [
  ...new Set(rows.flatMap(({ cells }) => fields.flatMap((field) => cells[field] ?? []))),
];

const loadNamed = async (
  { tx, near }: Deciding,
  rows: readonly FileRow[],
  { after, own }: { after: Day | undefined; own: readonly OwnColumn[] },
): Promise<void> => {
  const reached = rows.filter(({ cells }) => cells.email ?? cells.phone ?? cells.manager);
  const others = rows.filter(({ cells }) => !(cells.email ?? cells.phone ?? cells.manager));
  const found = await peopleOf(tx, reached);
  await near.loadNaming('contact', 'personId', found);
  const people = [...found, ...(await peopleOf(tx, others))];
  for (const section of new Set(own.map((column) => column.section)))
    await near.loadNaming(section, 'ownerId', people);
  for (const { name, section, field, meta } of own) {
    const said = rows.flatMap(({ cells }) => (cells as Record<string, string>)[name] ?? []);
    // what is said by one person only is looked for among all; people are named by their numbers
    if (meta.unique) await near.loadValued(section, field, said);
    if (meta.is === 'ref' && meta.kind === 'person')
      people.push(...(await ids(tx, peopleNumbered(said.map(bareNumber)))));
  }
  const codes = texts(rows, 'position').map((text) => text.toLowerCase());
  const positions = await ids(tx, positionsCoded(codes));
  await near.load(
    [
      ...people.map((id) => ({ kind: 'person' as const, id })),
      ...positions.map((id) => ({ kind: 'position' as const, id })),
    ],
    after,
  );
  if (texts(rows, 'manager').length > 0) await loadLeaders(near);
};

const ids = async (tx: ClientBase, query: Parameters<typeof many>[1]): Promise<number[]> =>
  (await many<{ id: number }>(tx, query)).map(({ id }) => id);

// Everybody whom rows may be about, or name as managers.
const peopleOf = async (tx: ClientBase, rows: readonly FileRow[]): Promise<number[]> => {
  if (rows.length === 0) return [];
  const emails = texts(rows, 'email', 'manager').map((text) => text.toLowerCase());
  const called = rows.flatMap(({ cells: { given, family } }) => [given, family].filter(Boolean).join(' '));
  const names = [...new Set([...texts(rows, 'manager', 'name'), ...called].map(fold))];
  return ids(tx, peopleNamed(texts(rows, 'number', 'manager'), emails, names));
};

// Who leads is found upward from any position: all that somebody reports to, with their holders.
const loadLeaders = async (near: Neighbourhood): Promise<void> => {
  const heads = [...pointedPositions(near.register)];
  await near.loadNaming('position', 'thing', heads);
  const held = await near.loadNaming('placement', 'positionId', heads);
  const employments = held.map(({ values }) => (values as { employmentId: number }).employmentId);
  const found = await near.loadNaming('employment', 'thing', employments);
  const people = found.map(({ values }) => (values as { personId: number }).personId);
  for (const section of ['person', 'person_name'] as const) await near.loadNaming(section, 'thing', people);
};

/** Whether a viewer may see a thing on some day, by the rows of the neighbourhood. */
export const sight = (near: Neighbourhood, viewer: Viewer, today: Day) => {
  const { catalogue } = near.register;
  const mine = may(viewer);
  return (section: SectionName, thing: number): boolean => {
    const coverings = mine.coverings([section]);
    if (coverings.length === 0) return false;
    if (catalogue.isReference(section) || mine.everywhere(section)) return true;
    const looker = { viewer: viewer.personId, today };
    return coverings.some((covering) =>
      near.register
        .rows(section, thing)
        .some((row) => rowInside(near.register, row, { covering, within: row, looker }).length > 0),
    );
  };
};

/** The cells of a kept row by the fields its columns are taken for; blanks left out. */
export const cellsBy = (
  columns: readonly { field: string | null }[],
  cells: readonly string[],
): Record<string, string> => {
  const found: Record<string, string> = {};
  columns.forEach(({ field }, i) => {
    const text = cells[i]?.trim();
    if (field !== null && text) found[field] = text;
  });
  return found;
};
