// A file about a plain subject as one change: each row sets fields of one thing from a day on, or makes a new one. Rows are
// carried out in the order of their days; what names others of the same file is set in a second pass; then the laws are asked
// about all of it. Where rows are refused, all is taken back and carried out again without them.
import type {
  Bound,
  Change,
  Day,
  Fault,
  Kind,
  PlainColumn,
  Problem,
  Row,
  Section,
  SectionName,
} from '@gremium/contract';
import { keyFields, usualOf } from '@gremium/contract';
import { ownRecord } from '../access/own-record';
import { laws } from '../laws';
import { OPEN, isBefore, isOn } from '../time/calendar';
import { Draft } from '../time/draft';
import { isError, problem } from '../time/problem';
import type { Register } from '../time/register';
import { isEqual } from '../time/timeline';
import {
  type Imported,
  type Importing,
  type MayWrite,
  type PlanStep,
  type RowResult,
  rightsOf,
  unionOf,
} from './import-people';
import { LookUps, isNamed } from './look-ups';
import {
  type ColumnHabit,
  type FileSaid,
  FROM_BEGINNING,
  habitOf,
  isClear,
  readFrom,
  readPlainValue,
  writtenValue,
} from './plain-values';
import { rowChanges } from './row-changes';

/** A row of a plain file: its number there, and its cells by column; blanks left out. */
export type PlainRow = { row: number; cells: Readonly<Record<string, string>> };

/** What a plain file is planned with. */
export type PlainAsked = Pick<
  Importing,
  'register' | 'newId' | 'entry' | 'today' | 'day' | 'grants' | 'sees' | 'ownPerson' | 'onRow'
> &
  FileSaid & {
    section: Section;
    columns: readonly PlainColumn[];
    /** What an option is called, in any language. */
    wordsOf: (option: string) => readonly string[];
    /** Kinds of things that other files of the same import bring later: what is not there yet, and may be empty, is set then. */
    later?: ReadonlySet<string> | undefined;
  };

/** A plan, and the rows of a second one: what is to be set once all files are in. */
export type PlannedPlain = Imported & { later: PlainRow[] };

type Planned = {
  row: number;
  cells: Readonly<Record<string, string>>;
  on: Bound;
  faults: Fault[];
  warnings: Problem[];
  /** Refused for good: by its cells, or by a law. */
  isOut: boolean;
  thing: number | null;
  isNew: boolean;
  change: Change;
  /** Cells that name what a later file brings. */
  later: Record<string, string>;
};

const NOTHING: Change = { recorded: [], superseded: [] };
const MOST_TOLD = 3000;
const MOST_ROUNDS = 200;
const BREATH = 100;

/** Plans a file about a plain subject; a generator of what must be loaded in between. */
export const planPlain = function* (
  rows: readonly PlainRow[],
  asked: PlainAsked,
): Generator<PlanStep, PlannedPlain, void> {
  const planned = new PlainPlan(rows, asked);
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const drafts: Draft[] = [];
    yield* planned.carryOut(drafts);
    const change = unionOf(drafts.map((draft) => draft.change));
    yield change;
    const isBroken = planned.judge(change);
    if (!isBroken) return planned.result(change);
    for (const draft of drafts.reverse()) draft.discard();
  }
  throw new Error('a file is refused without end');
};

class PlainPlan {
  private readonly rows: Planned[];
  private readonly ordered: Planned[];
  private readonly habits: ReadonlyMap<string, ColumnHabit>;
  private readonly keys: readonly string[];
  private readonly mayWrite: MayWrite;
  private readonly name: SectionName;
  private owners = new Map<number, Planned>();

  constructor(
    rows: readonly PlainRow[],
    private readonly asked: PlainAsked,
  ) {
    const { section, columns } = asked;
    this.name = section.name as SectionName;
    this.keys = keyFields(section);
    this.mayWrite = rightsOf(asked, [this.name]);
    this.habits = new Map(
      columns.map(({ name }) => {
        const texts = rows.flatMap(({ cells }) => cells[name] ?? []);
        return [name, habitOf(name, texts, asked)];
      }),
    );
    this.rows = rows.map(({ row, cells }) => this.begun(row, cells));
    // stable: rows of one day stay in the order of the file
    this.ordered = [...this.rows].sort((a, b) => (isBefore(a.on, b.on) ? -1 : isBefore(b.on, a.on) ? 1 : 0));
  }

  /** Carries out all rows that are not refused; the second pass sets what names others of the file. */
  *carryOut(drafts: Draft[]): Generator<null, void, void> {
    const { register, sees, onRow } = this.asked;
    this.owners = new Map();
    const written = new Map<string, Planned>();
    const lookUps = new LookUps(register, sees);
    const later: [Planned, Record<string, string>][] = [];
    for (const [i, row] of this.ordered.entries()) {
      if (i % BREATH === 0) yield null;
      onRow?.(i + 1);
      if (row.isOut) continue;
      [row.faults, row.warnings, row.thing, row.isNew, row.change] = [[], [], null, false, NOTHING];
      row.later = {};
      const draft = this.draft();
      const postponed = this.apply(row, draft, lookUps);
      this.keep(row, draft, drafts);
      if (row.isOut || row.thing === null) continue;
      if (Object.keys(postponed).length > 0) later.push([row, postponed]);
      if (draft.change.recorded.length + draft.change.superseded.length === 0) continue;
      const key = `${row.thing} ${row.on}`;
      const twin = written.get(key);
      if (twin)
        for (const [one, other] of [
          [row, twin],
          [twin, row],
        ] as const)
          this.refuseTwin(one, other);
      written.set(key, row);
    }
    const found = new LookUps(register, sees);
    for (const [row, cells] of later) {
      if (row.isOut) continue;
      const draft = this.draft();
      this.applyLater(row, cells, { draft, lookUps: found });
      this.keep(row, draft, drafts);
    }
  }

  /** Refuses rows that break a law, or that were refused on the way; whether anything must be carried out again. */
  judge(change: Change): boolean {
    const isRefused = this.rows.some((row) => row.isOut && row.change !== NOTHING);
    if (isRefused) {
      for (const row of this.rows) if (row.isOut) row.change = NOTHING;
      return true;
    }
    const offences = laws(this.asked.register, change);
    let isBroken = false;
    for (const { problem: found, rows } of offences) {
      const at = [...new Set(rows.flatMap(({ id }) => this.owners.get(id) ?? []))].sort(
        (a, b) => a.row - b.row,
      );
      if (!isError(found)) {
        for (const row of at) row.warnings.push(found);
        continue;
      }
      // of a ring all, else the last of the file; a law broken among others by the file all the same takes its last row
      const isRing = found.code.endsWith('_ring');
      const last = at.at(-1) ?? [...this.rows].reverse().find((row) => !row.isOut && row.change !== NOTHING);
      const ring = isRing ? at.filter((row) => this.namesOwnKind(row)) : [];
      for (const row of ring.length > 0 ? ring : last ? [last] : []) {
        this.fault(row, found);
        row.isOut = true;
        row.change = NOTHING;
        isBroken = true;
      }
    }
    return isBroken;
  }

  /** All rows as one change, with the result of each. */
  result(change: Change): PlannedPlain {
    const results = this.rows.map((row, i): RowResult => {
      const own = row.isOut ? NOTHING : row.change;
      const isChanged = own.recorded.length + own.superseded.length > 0;
      const status = row.isOut ? 'refused' : !isChanged ? 'same' : row.isNew ? 'new' : 'changed';
      const on = (row.on === '-infinity' ? this.asked.day : row.on) as Day;
      const changes = isChanged && i < MOST_TOLD ? rowChanges(own) : [];
      const { faults, warnings } = row;
      const { thing } = row;
      const opens = thing === null || row.isOut ? null : this.opens(thing);
      const about = { row: row.row, what: 'other' as const, personId: null, thing, opens, on };
      return { ...about, status, faults, warnings, changes };
    });
    const later = this.rows.flatMap(({ row, isOut, thing, on, later: cells }): PlainRow[] => {
      if (isOut || thing === null || Object.keys(cells).length === 0) return [];
      const from = on === '-infinity' ? FROM_BEGINNING : on;
      return [{ row, cells: { id: String(thing), from, ...cells } }];
    });
    return { results, change, later };
  }

  // What is part of a record is shown there; that of an employment, with its person.
  private opens(thing: number): { kind: Kind; id: number } | null {
    const { register, section } = this.asked;
    const { owner } = section;
    const field = owner && owner.field !== 'thing' ? owner.field : null;
    const values = register.rows(this.name, thing).at(-1)?.values as Record<string, unknown> | undefined;
    const found = field ? { kind: owner!.kind, id: values?.[field] } : { kind: section.kind, id: thing };
    if (typeof found.id !== 'number') return null;
    if (found.kind !== 'employment') return { kind: found.kind, id: found.id };
    const person = register.rows('employment', found.id)[0]?.values.personId;
    return person === undefined ? null : { kind: 'person', id: person };
  }

  private namesOwnKind({ cells }: Planned): boolean {
    const { columns, section } = this.asked;
    return columns.some(
      ({ name, meta }) => meta?.is === 'ref' && meta.kind === section.kind && cells[name] !== undefined,
    );
  }

  private draft(): Draft {
    const { register, newId, entry } = this.asked;
    return new Draft(register, newId, entry);
  }

  private begun(row: number, cells: PlainRow['cells']): Planned {
    const begun: Planned = {
      row,
      cells,
      on: this.asked.day,
      faults: [],
      warnings: [],
      isOut: false,
      thing: null,
      isNew: false,
      change: NOTHING,
      later: {},
    };
    const from = cells['from'];
    if (from === undefined) return begun;
    const read = readFrom(from, this.habits.get('from') as ColumnHabit);
    if ('problem' in read) {
      begun.faults.push({ field: 'from', ...read });
      begun.isOut = true;
    } else begun.on = read.value;
    return begun;
  }

  // A draft that came to nothing is taken back; of one that holds it is known whose its rows are.
  private keep(row: Planned, draft: Draft, drafts: Draft[]): void {
    for (const found of draft.problems) {
      if (isError(found)) this.fault(row, found);
      else if (found.severity === 'warning' && found.code !== 'later_versions') row.warnings.push(found);
    }
    const { change } = draft;
    const { ownPerson, register } = this.asked;
    if (row.faults.length === 0 && ownPerson !== null)
      for (const found of ownRecord(change, ownPerson, register)) this.fault(row, found);
    const denied = row.faults.length === 0 ? this.mayWrite(change) : null;
    if (denied) row.faults.push(denied);
    if (row.faults.length > 0) {
      row.isOut = true;
      draft.discard();
      return;
    }
    drafts.push(draft);
    row.change = row.change === NOTHING ? change : unionOf([row.change, change]);
    for (const { id } of change.recorded) this.owners.set(id, row);
  }

  private refuseTwin(row: Planned, other: Planned): void {
    row.isOut = true;
    if (!row.faults.some(({ problem: { code } }) => code === 'thing_twice'))
      row.faults.push({ field: 'from', problem: problem('thing_twice', { rows: other.row }), offers: [] });
  }

  private fault(row: Planned, found: Problem): void {
    const at = found.field?.split('.').at(-1);
    const column = this.asked.columns.find(({ name, field }) => name === at || field === at)?.name ?? null;
    if (!row.faults.some(({ problem: { code } }) => code === found.code))
      row.faults.push({ field: column, problem: found, offers: [] });
  }

  // What a row says, but for what names things of its own kind, which may stand further down.
  private said(row: Planned, lookUps: LookUps) {
    const { columns, section, wordsOf } = this.asked;
    const said = new Map<string, unknown>();
    const parts = new Map<string, Record<string, string>>();
    const postponed: Record<string, string> = {};
    for (const column of columns) {
      const text = row.cells[column.name];
      if (text === undefined || column.is !== 'field') continue;
      const field = column.field as string;
      if (isClear(text)) {
        if (column.clears) said.set(field, null);
        else row.faults.push({ field: column.name, problem: problem('clear_refused', {}), offers: [] });
        continue;
      }
      const isOwnKind = column.meta?.is === 'ref' && column.meta.kind === section.kind;
      if (isOwnKind && column.clears) {
        postponed[column.name] = text;
        continue;
      }
      const habit = this.habits.get(column.name) as ColumnHabit;
      const read = readPlainValue(column, text, { on: row.on, lookUps, habit, wordsOf });
      if ('problem' in read) {
        // what stands there already need not be found again
        const kept = this.keptValue(row, column, text);
        if (kept !== undefined) said.set(field, kept);
        else if (this.isLater(column)) row.later[column.name] = text;
        else row.faults.push({ field: column.name, ...read });
      } else if (column.part) parts.set(field, { ...parts.get(field), [column.part]: text });
      else said.set(field, read.value);
    }
    return { said, parts, postponed };
  }

  private isLater({ clears, meta }: PlainColumn): boolean {
    return clears && meta?.is === 'ref' && (this.asked.later?.has(meta.kind) ?? false);
  }

  // The value that the thing with the id of the row has, where it is written just so; undefined where it is not.
  private keptValue(row: Planned, column: PlainColumn, text: string): unknown {
    const { register, today } = this.asked;
    const id = Number(row.cells['id']);
    const values = Number.isInteger(id)
      ? (register.at(this.name, id, row.on) as Record<string, unknown> | undefined)
      : undefined;
    if (!values) return undefined;
    const codeOf = (kind: string, thing: number): string | null => {
      if (kind === 'employment') {
        const person = register.rows('employment', thing)[0]?.values.personId;
        return person === undefined ? null : codeOf('person', person);
      }
      const of = (register.at(kind as SectionName, thing, today) ??
        register.rows(kind as SectionName, thing).at(-1)?.values) as
        { code?: string; number?: string } | undefined;
      return of?.code ?? of?.number ?? null;
    };
    const kept = values[column.field as string];
    return writtenValue(column, kept, codeOf) === text ? kept : undefined;
  }

  // Adds what a row asks for to a draft; returns what is to be set once all are there.
  private apply(row: Planned, draft: Draft, lookUps: LookUps): Record<string, string> {
    const { said, parts, postponed } = this.said(row, lookUps);
    if (row.faults.length > 0) return {};
    const thing = this.recognised(row, said, lookUps);
    if (thing === undefined) return {};
    const current = thing === null ? undefined : this.currentOf(row, thing);
    if (row.faults.length > 0) return {};
    for (const [field, words] of parts)
      said.set(field, { ...((current?.[field] as object | null | undefined) ?? {}), ...words });
    if (!current) this.makeNew(row, thing, said, draft);
    else this.setKnown(row, { thing: thing as number, current, said, draft });
    return postponed;
  }

  private applyLater(
    row: Planned,
    cells: Readonly<Record<string, string>>,
    { draft, lookUps }: { draft: Draft; lookUps: LookUps },
  ): void {
    const { columns, wordsOf, register } = this.asked;
    const said = new Map<string, unknown>();
    for (const [name, text] of Object.entries(cells)) {
      const column = columns.find((one) => one.name === name) as PlainColumn;
      const habit = this.habits.get(name) as ColumnHabit;
      const read = readPlainValue(column, text, { on: row.on, lookUps, habit, wordsOf });
      if (!('problem' in read)) said.set(column.field as string, read.value);
      else if (this.isLater(column)) row.later[name] = text;
      else row.faults.push({ field: name, ...read });
    }
    const thing = row.thing as number;
    const current = register.at(this.name, thing, row.on) as Record<string, unknown> | undefined;
    if (row.faults.length === 0 && current) this.setKnown(row, { thing, current, said, draft });
  }

  // The thing a row is about: null for a new one, undefined where it is refused.
  private recognised(
    row: Planned,
    said: ReadonlyMap<string, unknown>,
    lookUps: LookUps,
  ): number | null | undefined {
    const { register, section, sees } = this.asked;
    const id = row.cells['id'];
    if (id !== undefined) {
      const thing = Number(id);
      const isThere = Number.isInteger(thing) && register.rows(this.name, thing).length > 0;
      if (isThere && sees(this.name, thing)) return (row.thing = thing);
      row.faults.push({ field: 'id', problem: problem('row_unknown', { id }), offers: [] });
      return undefined;
    }
    const of = row.cells['of'];
    if (!section.base && section.own === null) {
      if (of === undefined) {
        row.faults.push({ field: 'of', problem: problem('value_missing'), offers: [] });
        return undefined;
      }
      const found = isNamed(section.kind) ? lookUps.find(section.kind, of, row.on) : null;
      if (!found || 'problem' in found) {
        if (found) row.faults.push({ field: 'of', ...found });
        return undefined;
      }
      return (row.thing = found.value);
    }
    const known = this.byOrigin(row, said);
    if (known === undefined) return this.byKeys(row, said);
    // what another system calls it wins; a code that is another thing's speaks against it
    const code = this.keys.find((field) => section.metas.get(field)?.is === 'code');
    const others = code && said.has(code) ? this.candidates(said).filter((one) => isOn(one, row.on)) : [];
    if (others.some((one) => one.thing !== known)) {
      row.faults.push({
        field: this.columnOf(code as string),
        problem: problem('row_ambiguous', { count: 2 }),
        offers: [],
      });
      return undefined;
    }
    return (row.thing = known);
  }

  // The one thing with the id it has in another system.
  private byOrigin(row: Planned, said: ReadonlyMap<string, unknown>): number | undefined {
    const { register, section, sees } = this.asked;
    if (!section.metas.has('originId') || !section.metas.has('originCode')) return undefined;
    const [origin, code] = [said.get('originId'), said.get('originCode')];
    if (typeof origin !== 'number' || typeof code !== 'string') return undefined;
    const rows = [...register.all(this.name)].filter(({ values }) => {
      const own = values as { originId?: unknown; originCode?: unknown };
      return own.originId === origin && own.originCode === code;
    });
    const then = rows.filter((one) => isOn(one, row.on));
    const [only, ...more] = new Set((then.length > 0 ? then : rows).map(({ thing }) => thing));
    return only !== undefined && more.length === 0 && sees(this.name, only) ? only : undefined;
  }

  private byKeys(row: Planned, said: ReadonlyMap<string, unknown>): number | null | undefined {
    const missing = this.keys.filter((field) => said.get(field) === undefined);
    for (const field of missing)
      row.faults.push({ field: this.columnOf(field), problem: problem('value_missing'), offers: [] });
    if (missing.length > 0 || this.keys.length === 0) return missing.length > 0 ? undefined : null;
    const fits = ({ values }: Row) =>
      this.keys.every((field) => same((values as Record<string, unknown>)[field], said.get(field)));
    const rows = this.candidates(said).filter(fits);
    const then = rows.filter((one) => isOn(one, row.on));
    const things = [...new Set((then.length > 0 ? then : rows).map(({ thing }) => thing))];
    if (things.length === 0) return null;
    const [only] = things;
    // a part of a record that is over is not gone on with: it is another one
    if (then.length === 0 && this.asked.section.owner) return null;
    if (things.length === 1 && this.asked.sees(this.name, only as number))
      return (row.thing = only as number);
    const count = things.length;
    row.faults.push({
      field: this.columnOf(this.keys.at(-1) as string),
      problem:
        count > 1 ? problem('row_ambiguous', { count }) : problem('record_hidden', { kind: this.name }),
      offers: [],
    });
    return undefined;
  }

  private candidates(said: ReadonlyMap<string, unknown>): readonly Row[] {
    const { register, section } = this.asked;
    const { owner } = section;
    const code = this.keys.find((field) => section.metas.get(field)?.is === 'code');
    if (code) return register.valued(this.name, code as never, String(said.get(code)));
    if (owner && owner.field !== 'thing')
      return register.referrers(this.name, owner.field as never, said.get(owner.field) as number);
    return [...register.all(this.name)];
  }

  private columnOf(field: string): string | null {
    return this.asked.columns.find((column) => column.field === field)?.name ?? null;
  }

  // Its values on the day of the row; none where it has none yet, and may get them.
  private currentOf(row: Planned, thing: number): Record<string, unknown> | undefined {
    const { register } = this.asked;
    const current = register.at(this.name, thing, row.on) as Record<string, unknown> | undefined;
    if (current) return current;
    const { base } = this.asked.section;
    const rows = register.rows(this.name, thing);
    const isMissing = base ? rows.length > 0 : false;
    if (isMissing)
      row.faults.push({ field: 'from', problem: problem('row_not_there', { day: row.on }), offers: [] });
    return undefined;
  }

  private makeNew(
    row: Planned,
    thing: number | null,
    said: ReadonlyMap<string, unknown>,
    draft: Draft,
  ): void {
    const { section } = this.asked;
    const values: Record<string, unknown> = {};
    for (const field of section.metas.keys()) {
      const value = said.has(field) ? said.get(field) : usualOf(section, field);
      if (value === undefined)
        row.faults.push({ field: this.columnOf(field), problem: problem('value_missing'), offers: [] });
      else values[field] = value;
    }
    const whole = row.faults.length === 0 ? this.checked(row, values) : null;
    if (!whole) return;
    row.isNew = true;
    if (thing === null) row.thing = draft.create(this.name, row.on, whole as never);
    else draft.begin(this.name, thing, { from: row.on, until: OPEN }, whole as never);
  }

  private setKnown(
    row: Planned,
    {
      thing,
      current,
      said,
      draft,
    }: { thing: number; current: Record<string, unknown>; said: ReadonlyMap<string, unknown>; draft: Draft },
  ): void {
    const merged = { ...current, ...Object.fromEntries(said) };
    const whole = this.checked(row, merged);
    if (!whole) return;
    const changed = [...said.keys()].filter(
      (field) => !isEqual(current[field] ?? null, whole[field] ?? null),
    );
    if (changed.length === 0) return;
    const values = Object.fromEntries(changed.map((field) => [field, whole[field]]));
    draft.set(this.name, thing, { from: row.on, values: values as never });
  }

  // Values as the section has them, or faults at the cells that it does not take.
  private checked(row: Planned, values: Record<string, unknown>): Record<string, unknown> | null {
    const read = this.asked.section.fields.safeParse(values);
    if (read.success) return read.data as Record<string, unknown>;
    for (const issue of read.error.issues) {
      const field = String(issue.path[0] ?? '');
      const said = row.cells[this.columnOf(field) ?? ''] ?? '';
      if (!row.faults.some((one) => one.field === this.columnOf(field)))
        row.faults.push({
          field: this.columnOf(field),
          problem: problem(codeOf(issue.message), { text: said, message: issue.message }),
          offers: [],
        });
    }
    return null;
  }
}

// Schemas say a code of ours where they have one.
const codeOf = (message: string) =>
  (/^[a-z_]+$/.test(message) ? message : 'value_invalid') as 'value_invalid';

const same = (kept: unknown, said: unknown): boolean =>
  typeof kept === 'string' && typeof said === 'string'
    ? kept.toLowerCase() === said.toLowerCase()
    : isEqual(kept ?? null, said ?? null);

/** The register as a plain file needs it. */
export type PlainRegister = Register;
