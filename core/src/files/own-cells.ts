// Own fields in a file of people: what cells say of them, written beside what the row says of the person.
import { type Day, type Fault, type OwnColumn, type SectionName, problemCodes } from '@gremium/contract';
import { OPEN, isOn } from '../time/calendar';
import type { Draft } from '../time/draft';
import { problem } from '../time/problem';
import { isEqual } from '../time/timeline';
import type { LookUps } from './look-ups';
import { type ColumnHabit, type FileSaid, habitOf, isClear, readPlainValue } from './plain-values';

type Cells = Readonly<Record<string, string | undefined>>;

/** Own columns with how the file writes their days and numbers. */
export type OwnCells = { columns: readonly OwnColumn[]; habits: ReadonlyMap<string, ColumnHabit> };

/** How a file writes own columns, by all of its rows. */
export const ownCellsOf = (
  columns: readonly OwnColumn[],
  rows: readonly { cells: Cells }[],
  said: FileSaid,
): OwnCells => {
  const textsOf = (name: string) => rows.flatMap(({ cells }) => cells[name] ?? []);
  const there = columns.filter(
    ({ name, meta }) => meta.required || rows.some(({ cells }) => cells[name] !== undefined),
  );
  const habits = there.map(({ name }): [string, ColumnHabit] => [name, habitOf(name, textsOf(name), said)]);
  return { columns: there, habits: new Map(habits) };
};

type Row = { cells: Cells; personId: number; on: Day; isHired: boolean };

/**
 * Writes what a row says in own fields to the draft, from its day on; what is equal writes nothing. Of somebody new what a hire
 * asks for must be said. Answers with what is wrong, at its column.
 */
export const applyOwn = (
  draft: Draft,
  row: Row,
  { columns, habits }: OwnCells,
  lookUps: LookUps,
): Fault[] => {
  const faults: Fault[] = [];
  const said = new Map<SectionName, Map<string, unknown>>();
  for (const { name, section, field, meta } of columns) {
    const text = row.cells[name];
    if (text === undefined) {
      if (row.isHired && meta.required && meta.atHire)
        faults.push({ field: name, problem: problem('value_missing'), offers: [] });
      continue;
    }
    const habit = habits.get(name) as ColumnHabit;
    const asked = { on: row.on, lookUps, habit, wordsOf: () => [] };
    const read = isClear(text)
      ? { value: null }
      : readPlainValue({ name, is: 'field', field, meta, required: false, clears: true }, text, asked);
    if ('problem' in read) faults.push({ field: name, ...read });
    else said.set(section, (said.get(section) ?? new Map<string, unknown>()).set(field, read.value));
  }
  if (faults.length > 0) return faults;
  for (const [section, values] of said) faults.push(...writeOwn(draft, section, row, values));
  return faults;
};

const writeOwn = (
  draft: Draft,
  section: SectionName,
  { personId, on }: Row,
  said: ReadonlyMap<string, unknown>,
): Fault[] => {
  const declared = draft.register.catalogue.section(section);
  const rows = draft.register.referrers(section, 'ownerId' as never, personId);
  const now = rows.find((one) => isOn(one, on));
  const current = (now?.values ?? { ...declared.nulls, ownerId: personId }) as Record<string, unknown>;
  const read = declared.fields.safeParse({ ...current, ...Object.fromEntries(said) });
  if (!read.success)
    return read.error.issues.map(({ path, message }) => ({
      field: `${section}.${String(path[0])}`,
      problem: problem(message in problemCodes ? (message as 'value_invalid') : 'value_invalid'),
      offers: [],
    }));
  const whole = read.data as Record<string, unknown>;
  const changed = [...said.keys()].filter((field) => !isEqual(current[field] ?? null, whole[field] ?? null));
  if (changed.length === 0) return [];
  if (now) {
    const values = Object.fromEntries(changed.map((field) => [field, whole[field]]));
    draft.set(section, now.thing, { from: on, values: values as never });
  } else draft.begin(section, rows[0]?.thing ?? draft.newId(), { from: on, until: OPEN }, whole as never);
  return [];
};
