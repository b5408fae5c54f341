// A file of people as one change: each row a draft of its own over the same register, then managers, then the laws over all
// of them. A row that breaks a law is taken out, and the rest is judged again until nothing is broken.
import type {
  Change,
  Day,
  DayOrder,
  Fault,
  Grant,
  ImportField,
  Kind,
  ImportSummary,
  OwnColumn,
  Problem,
  Row,
  RowChange,
  RowStatus,
  SectionName,
} from '@gremium/contract';
import { importFields, may } from '@gremium/contract';
import { ownRecord } from '../access/own-record';
import { uncoveredWrites } from '../access/reach';
import { laws } from '../laws';
import { decimalSignOf } from '../rules/read-number';
import { isBefore, later } from '../time/calendar';
import { Draft, type NewId } from '../time/draft';
import type { Offence } from '../time/offence';
import { isError, problem } from '../time/problem';
import { type Register, RowRegister, everyRow } from '../time/register';
import { applyRow, faultOf } from './apply-row';
import { LookUps } from './look-ups';
import { type OwnCells, applyOwn, ownCellsOf } from './own-cells';
import { Managers } from './managers';
import { columnOrderOf, readColumnDay } from '../rules/read-day';
import type { FileSaid } from './plain-values';
import { type Cells, type Habits, readChoices, readPlain, type Said } from './read-row';
import { rowChanges } from './row-changes';
import { People, recognise, refuseTwins } from './recognise';

/** A row of a file: its number there, and its cells by field. */
export type FileRow = { row: number; cells: Cells };

/** What rows are planned with. */
export type Importing = {
  register: Register;
  newId: NewId;
  entry: number;
  today: Day;
  /** From when rows hold that do not say. */
  day: Day;
  /** Numbers that nobody has are those of new people. */
  newNumbers: boolean;
  /** A number for somebody new, or what stands for it until it is given. */
  nextNumber: () => string;
  grants: readonly Grant[];
  /** Whether the viewer may see a thing at all. */
  sees: (section: SectionName, thing: number) => boolean;
  ownPerson: number | null;
  /** Told how many rows are done. */
  onRow?: (done: number) => void;
};

/** A row on its way: what it says, what it does, what is wrong with it. */
export type Planned = FileRow & {
  said: Said;
  what: 'hire' | 'move' | 'other';
  personId: number | null;
  on: Day;
  faults: Fault[];
  warnings: Problem[];
  /** What it writes, once it is planned; applied to the register until the row is refused. */
  change: Change | null;
};

/** What became of a row. */
export type RowResult = {
  row: number;
  status: RowStatus;
  what: 'hire' | 'move' | 'other';
  personId: number | null;
  /** Of a plain subject: the thing it is about, and the thing whose record shows it. */
  thing?: number | null;
  opens?: { kind: Kind; id: number } | null;
  on: Day;
  faults: Fault[];
  warnings: Problem[];
  /** What it changes, old and new; of the first few thousand rows. */
  changes: RowChange[];
};

/** What a file came to: each row, and one change of all that are written. */
export type Imported = { results: RowResult[]; change: Change };

/** What is known of a file beyond the portion of its rows that is being planned. */
export type WholeFile = Habits & {
  own: OwnCells;
  /** The rows read so far by number, email and person: none may come twice. */
  seen: Map<string, Planned[]>;
};

/** What all of its rows show of how it writes. */
export const wholeFile = (
  rows: readonly FileRow[],
  said: FileSaid,
  ownColumns: readonly OwnColumn[] = [],
): WholeFile => ({
  ...habitsOf(rows, said),
  own: ownCellsOf(ownColumns, rows, said),
  seen: new Map(),
});

// Cells that touch nothing but what belongs to the person of their row.
const APART = new Set<ImportField>([
  ...([
    'number',
    'name',
    'wholeName',
    'given',
    'middle',
    'family',
    'preferred',
    'birthDate',
    'gender',
  ] as const),
  ...(['nationality', 'language', 'email', 'phone', 'from', 'seniorityDate', 'reason'] as const),
  ...(['contract', 'fixedUntil', 'probationUntil', 'payKind', 'pay', 'currency', 'basis'] as const),
]);

/** Whether no row of a file with these columns can touch what another one does: then it may be planned in portions. */
export const areRowsApart = (fields: Iterable<string>, ownColumns: readonly OwnColumn[] = []): boolean =>
  [...fields].every((field) => {
    const own = ownColumns.find(({ name }) => name === field);
    return own ? !own.meta.unique : APART.has(field as ImportField);
  });

/** The first day from which a row of a file whose rows are apart can write anything about somebody who works then. */
export const firstDayIn = (rows: readonly FileRow[], { orders, today }: WholeFile, day: Day): Day => {
  let first = day;
  for (const { cells } of rows) {
    const order = orders.get('from') ?? null;
    const read = cells.from === undefined ? null : readColumnDay(cells.from, { order, today });
    if (read && 'value' in read && isBefore(read.value, first)) first = read.value;
  }
  return first;
};

const NAMING = ['name', 'given', 'family', 'manager'] as const;

/** A change whose neighbourhood must be loaded before the plan goes on; null: something else may be done meanwhile. */
export type PlanStep = Change | null;

/**
 * Reads, recognises, applies and judges rows of a file: all of them, or a portion where rows are apart. A generator of what
 * must be done in between. The register is left with what the rows write applied to it.
 */
export const planRows = function* (
  rows: readonly FileRow[],
  importing: Importing,
  file: WholeFile,
): Generator<PlanStep, Planned[], void> {
  const { register } = importing;
  const isNaming = rows.some(({ cells }) => NAMING.some((field) => cells[field] !== undefined));
  const people = new People(register, importing.day, isNaming);
  const written = file.own.columns.map(({ section }) => section as SectionName);
  const mayWrite = rightsOf(importing, [...WRITTEN, ...written]);
  const planned = yield* plan(rows, importing, { people, mayWrite, file });
  const managers = new Managers(people, importing, planned);
  for (;;) {
    const leading = setManagers(planned, managers, { register, mayWrite });
    if (leading === null) continue;
    const change = unionOf([...changes(planned), ...leading.map((draft) => draft.change)]);
    yield change;
    const offences = laws(register, change);
    const owners = offences.length === 0 ? NOBODY : ownersOf(planned, leading);
    const refused = refuse(
      offences.filter((offence) => isError(offence.problem)),
      owners,
    );
    if (refused.size === 0) {
      for (const { problem: found, rows: at } of offences)
        for (const row of new Set(at.map(({ id }) => owners.get(id)))) row?.warnings.push(found);
      for (const draft of leading) {
        const row = leads.get(draft) as Planned;
        row.change = unionOf([...(row.change ? [row.change] : []), draft.change]);
      }
      return planned;
    }
    for (const draft of leading.reverse()) draft.discard();
    for (const row of refused) drop(row, register);
  }
};

// Of so many rows it is told what each changes: nobody reads more of them.
const MOST_TOLD = 3000;

/** All rows of a file as one change, with the result of each. */
export const imported = (planned: readonly Planned[]): Imported => ({
  results: planned.map((row, i) => resultOf(row, i < MOST_TOLD)),
  change: unionOf(changes(planned)),
});

/** What writing would do, from what each row does. */
export const summaryOf = (results: readonly RowResult[], today: Day): ImportSummary => {
  const written = results.filter(({ status }) => status === 'new' || status === 'changed');
  const days = written.map(({ on }) => on).filter((on) => later(on, today) !== today);
  const of = (what: RowResult['what']) => written.filter((row) => row.what === what).length;
  days.sort();
  return {
    hires: of('hire'),
    moves: of('move'),
    others: of('other'),
    begun: written.length - days.length,
    later: days.length,
    firstLater: days[0] ?? null,
    lastLater: days.at(-1) ?? null,
  };
};

const changes = (planned: readonly Planned[]): Change[] => planned.flatMap(({ change }) => change ?? []);

const resultOf = (
  { row, change, what, personId, on, faults, warnings }: Planned,
  isTold: boolean,
): RowResult => {
  const isChanged = change !== null && change.recorded.length + change.superseded.length > 0;
  const status = faults.length > 0 ? 'refused' : !isChanged ? 'same' : what === 'hire' ? 'new' : 'changed';
  const changes = isTold && isChanged ? rowChanges(change) : [];
  return { row, status, what, personId, on, faults, warnings, changes };
};

const drop = (row: Planned, register: Register): void => {
  if (row.change) register.revert(row.change);
  row.change = null;
};

/** Several changes as one, in any order: what one records and another supersedes leaves no trace. */
export const unionOf = (all: readonly Change[]): Change => {
  const recorded: Row[] = [];
  const superseded: Row[] = [];
  for (const change of all) {
    for (const row of change.recorded) recorded.push(row);
    for (const row of change.superseded) superseded.push(row);
  }
  if (superseded.length === 0) return { recorded, superseded };
  // few of them are both: those alone are looked for
  const lost = new Set(superseded.map(({ id }) => id));
  const both = new Set(recorded.flatMap(({ id }) => (lost.has(id) ? id : [])));
  if (both.size === 0) return { recorded, superseded };
  const stays = ({ id }: Row) => !both.has(id);
  return { recorded: recorded.filter(stays), superseded: superseded.filter(stays) };
};

const leads = new WeakMap<Draft, Planned>();

const NOBODY: ReadonlyMap<number, Planned> = new Map();

const ownersOf = (planned: readonly Planned[], leading: readonly Draft[]): Map<number, Planned> => {
  const owners = new Map<number, Planned>();
  for (const row of planned) for (const { id } of row.change?.recorded ?? []) owners.set(id, row);
  for (const draft of leading)
    for (const { id } of draft.change.recorded) owners.set(id, leads.get(draft) as Planned);
  return owners;
};

// Adds each broken law to the rows at fault: all of a ring, otherwise the last of the file. Returns the rows.
const refuse = (offences: readonly Offence[], owners: ReadonlyMap<number, Planned>): Set<Planned> => {
  const refused = new Set<Planned>();
  for (const { problem: found, rows } of offences) {
    const at = [...new Set(rows.flatMap(({ id }) => owners.get(id) ?? []))].sort((a, b) => a.row - b.row);
    const isRing = found.code === 'reporting_ring';
    // a law broken among rows of the register alone, by the file all the same: the last row goes, until it holds
    const fallback = at.length > 0 ? [] : [...owners.values()].slice(-1);
    for (const row of isRing ? at : [...at.slice(-1), ...fallback]) {
      refused.add(row);
      const made = isRing
        ? { field: 'manager' as const, problem: problem('manager_ring'), offers: [] }
        : (ownFault(found, rows) ?? faultOf(found, row.said));
      if (!row.faults.some((one) => one.problem.code === made.problem.code)) row.faults.push(made);
    }
  }
  return refused;
};

// A law broken in an own field, at its column.
const ownFault = (found: Problem, rows: readonly Row[]): Fault | null => {
  const section = rows.find((row) => row.section.startsWith('own.'))?.section;
  return section && found.field ? { field: `${section}.${found.field}`, problem: found, offers: [] } : null;
};

// Drafts of managers, or null where rows had to be refused for theirs and it must be tried again.
const setManagers = (
  planned: readonly Planned[],
  managers: Managers,
  { register, mayWrite }: { register: Register; mayWrite: MayWrite },
): Draft[] | null => {
  const made: Draft[] = [];
  const refused: Planned[] = [];
  const taken = new Map<number, { managerId: number; positionId: number }>();
  for (const row of planned) {
    if (row.cells.manager === undefined || row.faults.length > 0) continue;
    const found = managers.set(row, taken);
    if (found instanceof Draft) {
      leads.set(found, row);
      made.push(found);
    }
    const fault = found instanceof Draft ? mayWrite(found.change) : found.fault;
    if (!fault) continue;
    row.faults.push(fault);
    refused.push(row);
  }
  if (refused.length === 0) return made;
  for (const draft of made.reverse()) draft.discard();
  for (const row of refused) drop(row, register);
  return null;
};

/** A fault where the viewer may not write what a change writes. */
export type MayWrite = (change: Change) => Fault | null;

/** Asked row by row, against the register as it was before the file. */
export const rightsOf = (
  { register, grants, today }: Pick<Importing, 'register' | 'grants' | 'today'>,
  written: readonly SectionName[] = WRITTEN,
): MayWrite => {
  if (writesAll(grants, written)) return () => null;
  const before = new RowRegister(everyRow(register));
  return (change) => {
    const [section] = uncoveredWrites(change, grants, { before, after: register, today });
    return section ? { field: null, problem: problem('right_missing', { section }), offers: [] } : null;
  };
};

type Ground = { people: People; mayWrite: MayWrite; file: WholeFile };

// After so many rows something else may be done.
const BREATH = 100;

const plan = function* (
  rows: readonly FileRow[],
  importing: Importing,
  ground: Ground,
): Generator<null, Planned[], void> {
  const { people, file } = ground;
  const { register, day } = importing;
  const lookUps = new LookUps(register, importing.sees);
  const planned = rows.map((row): Planned => {
    const { said, faults } = readPlain(row.cells, file);
    return { ...row, said, faults, warnings: [], what: 'other', personId: null, on: day, change: null };
  });
  for (const row of planned) recognise(row, people, importing);
  refuseTwins(planned, file.seen);
  const isLed = planned.some(({ cells }) => cells.manager !== undefined);
  for (const [i, row] of planned.entries()) {
    if (i % BREATH === 0) yield null;
    const { said } = row;
    row.on = said.from ?? firstOf(row, day);
    readChoices(row.cells, row.on, lookUps, row);
    if (row.personId === null && !said.firstDay && !row.faults.some(({ field }) => isOfWho(field)))
      row.faults.push({ field: 'firstDay', problem: problem('value_missing'), offers: [] });
    if (row.faults.length === 0) apply(row, { ...ground, importing, lookUps });
    // large files: what is not asked for any more is let go
    if (!isLed) row.cells = {};
    row.said = said.fte === undefined ? {} : { fte: said.fte };
    importing.onRow?.(i + 1);
  }
  return planned;
};

// Where it is not known whom a row is about, nothing is said to be missing of somebody new.
const isOfWho = (field: string | null): boolean =>
  field === 'number' || field === 'email' || field === 'firstDay';

const firstOf = ({ said, personId }: Planned, day: Day): Day => {
  if (!said.firstDay) return day;
  return personId === null ? said.firstDay : later(said.firstDay, day);
};

const WRITTEN: readonly SectionName[] = [
  'person',
  'person_name',
  'contact',
  'employment',
  'contract',
  'placement',
  'pay',
  'position',
  'position_limits',
];

const writesAll = (grants: readonly Grant[], written: readonly SectionName[]): boolean =>
  written.every((section) => may({ grants: [...grants] }).everywhere(section, 'edit'));

type Applying = Ground & { importing: Importing; lookUps: LookUps };

const apply = (row: Planned, { importing, people, lookUps, mayWrite, file }: Applying): void => {
  const draft = new Draft(importing.register, importing.newId, importing.entry);
  const { nextNumber, register, today } = importing;
  const applied = applyRow(draft, row, { lookUps, people, nextNumber, today });
  row.what = applied.what;
  row.on = applied.on;
  row.faults.push(...applied.faults);
  row.warnings.push(...applied.warnings);
  if (applied.personId !== null && row.faults.length === 0) {
    const whose = { cells: row.cells, personId: applied.personId, on: applied.on };
    row.faults.push(...applyOwn(draft, { ...whose, isHired: row.personId === null }, file.own, lookUps));
    for (const found of draft.problems.filter(isError))
      if (row.faults.length === 0) row.faults.push(faultOf(found, row.said));
  }
  const { change } = draft;
  row.change = change;
  if (row.personId !== null && row.personId === importing.ownPerson)
    for (const found of ownRecord(change, row.personId, register))
      row.faults.push({ field: null, problem: found, offers: [] });
  const fault = row.faults.length === 0 ? mayWrite(change) : null;
  if (fault) row.faults.push(fault);
  if (row.faults.length > 0) drop(row, register);
  else row.personId ??= applied.personId;
};

const habitsOf = (rows: readonly FileRow[], { workbook, today, orders: said }: FileSaid): Habits => {
  const orders = new Map<ImportField, DayOrder | null>();
  const decimals = new Map<ImportField, ',' | '.'>();
  const column = function* (field: ImportField) {
    for (const { cells } of rows) if (cells[field] !== undefined) yield cells[field];
  };
  for (const field of Object.keys(importFields) as ImportField[]) {
    const { reading } = importFields[field];
    if (reading === 'day') orders.set(field, said?.get(field) ?? columnOrderOf(column(field)).order);
    const sign = reading === 'decimal' ? decimalSignOf(column(field), workbook) : null;
    if (sign) decimals.set(field, sign);
  }
  return { orders, decimals, today };
};
