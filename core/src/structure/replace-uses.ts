// Uses of one thing move to another: on every day where two entries always meant the same, or from a day on.
import type { Bound, Day, Kind, Row, SectionName } from '@gremium/contract';
import { BEGINNING, addDays, isBefore } from '../time/calendar';
import type { Draft } from '../time/draft';

/** A row with the field by which it names the thing that is replaced. */
export type Use = { row: Row; field: string };

/** Which thing stands in place of which, from when on. */
export type Replacement = {
  kind: Kind;
  from: number;
  to: number;
  /** The first day of the other one; null: every day. */
  day: Day | null;
  today: Day;
};

const renamed = (value: unknown, from: number, to: number): unknown => {
  if (Array.isArray(value)) return [...new Set((value as number[]).map((id) => (id === from ? to : id)))];
  return value === from ? to : value;
};

/** Rows named by several fields once, with all of these. */
const byRow = (uses: readonly Use[]): { row: Row; fields: string[] }[] => {
  const rows = new Map<string, { row: Row; fields: string[] }>();
  for (const { row, field } of uses) {
    const key = `${row.section} ${row.id}`;
    const known = rows.get(key);
    if (known) known.fields.push(field);
    else rows.set(key, { row, fields: [field] });
  }
  return [...rows.values()];
};

/**
 * Lets rows that name one thing name another, each cut at the day where it holds before and after it; then the one replaced
 * ends: the day before, or (on every day) today. Returns how many rows moved.
 */
export const replaceUses = (
  draft: Draft,
  uses: readonly Use[],
  { kind, from, to, day, today }: Replacement,
): number => {
  const first: Bound = day ?? BEGINNING;
  let moved = 0;
  for (const { row, fields } of byRow(uses)) {
    if (!isBefore(first, row.until)) continue;
    const values = row.values as Record<string, unknown>;
    const after = { ...values };
    for (const field of fields) after[field] = renamed(values[field], from, to);
    const start = isBefore(row.from, first) ? first : row.from;
    const before = isBefore(row.from, start) ? [{ from: row.from, until: start, values }] : [];
    draft.revise(row.section, row.thing, {
      superseded: [row as never],
      recorded: [...before, { from: start, until: row.until, values: after }],
      problems: [],
    });
    moved++;
  }
  draft.cutFrom(kind as SectionName, from, day ?? addDays(today, 1));
  return moved;
};
