// A view evaluated over the register in memory: its rows in order, groups with subtotals, totals, and how many match.
import type { Day, DayTerm, SectionName, TotalName, ViewColumn, ViewDefinition } from '@gremium/contract';
import { hiddenFields } from '@gremium/contract';
import type { Sight } from '../access/sight';
import type { Facts } from '../measures/facts';
import { type Fraction, fraction, plus, toNumber } from '../structure/fraction';
import { fold } from '../people/names';
import { addDays, dayNumber } from '../time/calendar';
import { type Coding, ConditionError, compileCondition } from './condition';
import { Cursor } from './cursor';
import type { ReportField, Value } from './field';
import { fieldsOfSubject } from './subjects';
import { asNumber } from './worked-out';

/** A column of the answer: its field, or none where it is not there or not the viewer's. */
export type AskedColumn = { asked: ViewColumn; field: ReportField | null; why: 'hidden' | 'unknown' | null };

/** A total of a column: exact sums, means as fractions; null where nothing has a value. */
export type ViewTotal = { name: TotalName; value: Value } | null;

/** A group with how many rows it has and its totals; groups within come before the next one. */
export type ViewGroup = {
  depth: number;
  label: string;
  first: number;
  rows: number;
  things: number;
  totals: ViewTotal[];
};

export type Evaluated = {
  columns: AskedColumn[];
  /** How many rows there are; `goTo` goes to one of them in their order. */
  slots: Int32Array;
  goTo: (row: number) => Cursor;
  groups: ViewGroup[];
  totals: ViewTotal[];
  /** Different things the rows are of (people, where it is about people). */
  things: number;
  looked: number;
  matched: number;
  boundary: number;
  noValue: number;
  cursor: Cursor;
  labelOf: (field: ReportField, value: Value) => string;
};

/** What is evaluated, on which day, with which labels. */
export type ViewAsked = {
  view: ViewDefinition;
  on: Day;
  today: Day;
  /** Texts of entries and things, as they are called in the language asked for. */
  labels: Labelling;
};

/** How ids of entries and things are called, and coded in conditions. */
export type Labelling = Coding & { labelOf: (field: ReportField, id: number) => string };

/** Fields of a subject, by their ids. */
export const fieldMap = (facts: Facts, subject: SectionName): Map<string, ReportField> =>
  new Map(fieldsOfSubject(facts.columns.catalogue, subject).map((field) => [field.id, field]));

/** The first section that a field reads and the viewer may not see, or that hides it; null where there is none. */
export const hiddenFor = (sight: Sight) => {
  const hidden = hiddenFields(sight.viewer.grants);
  return ({ needs, id, reads = [], section }: ReportField): string | null => {
    const unseen = needs.find((name) => !sight.has(name));
    if (unseen !== undefined) return unseen;
    return hidden.size > 0 && [id, ...reads].some((one) => hidden.has(one)) ? section : null;
  };
};

/**
 * Evaluates a view on a day for a viewer: rows of the subject in effect that the viewer may see and for which the condition is
 * true, sorted by groups and order, ids last. Throws `ConditionError` for a condition, an order or a group that names what is
 * not there, or not the viewer's; a column like that is blank and marked.
 */
export const evaluateView = (
  facts: Facts,
  sight: Sight,
  { view, on, today, labels }: ViewAsked,
): Evaluated => {
  const fields = fieldMap(facts, view.subject);
  const hidden = hiddenFor(sight);
  const mustSee = (id: string): ReportField => {
    const field = fields.get(id);
    if (!field) throw new ConditionError('field_unknown', { field: id, at: 0 });
    const section = hidden(field);
    if (section !== null) throw new ConditionError('field_hidden', { section, at: 0 });
    return field;
  };
  const columns = view.columns.map((asked): AskedColumn => {
    const field = fields.get(asked.field) ?? null;
    if (!field) return { asked, field: null, why: 'unknown' };
    return hidden(field) === null ? { asked, field, why: null } : { asked, field: null, why: 'hidden' };
  });
  const each = eachOf(columns);
  const cursor = new Cursor(facts, sight, view.subject, on, view.period !== undefined, each);
  const found = matching(cursor, { view, on, today, labels, fields, hidden });
  const labelOf = (field: ReportField, value: Value) => labelled(field, value, labels);
  const keys = [...view.groups.map((field) => ({ field, down: false })), ...view.order].map(
    ({ field, down }) => ({
      field: mustSee(field),
      down,
    }),
  );
  const rows = sorted(cursor, found.rows, keys, labelOf);
  const totalled = columns.map(({ asked, field }) =>
    field && asked.total ? { field, name: asked.total } : null,
  );
  const groupFields = view.groups.map(mustSee);
  return {
    columns,
    slots: rows.slots,
    goTo: (row) => at(cursor, rows, row),
    ...grouped(cursor, rows, { groupFields, totalled, labelOf }),
    looked: found.looked,
    matched: rows.slots.length,
    boundary: found.boundary,
    noValue: found.noValue,
    cursor,
    labelOf,
  };
};

// The one section that is shown by a row for each; two at once would multiply each other.
const eachOf = (columns: readonly AskedColumn[]): SectionName | null => {
  const all = columns.flatMap(({ asked, field }) =>
    asked.several === 'each' && field?.isSeveral ? field.section : [],
  );
  const [first = null] = all;
  const other = all.find((one) => one !== first);
  if (other) throw new ConditionError('each_twice', { section: other, at: 0 });
  return first;
};

/** A day that may be told from the day looked at, or from today. */
export const dayOfTerm = (term: DayTerm, on: Day, today: Day): Day => {
  const [, base, days = '0'] = /^(on|today)([+-]\d+)?$/.exec(term) ?? [];
  return base === undefined ? (term as Day) : addDays(base === 'on' ? on : today, Number(days));
};

// Rows by their slots, and of several by the slot of each.
type Rows = { slots: Int32Array; each: Int32Array };

const at = (cursor: Cursor, { slots, each }: Rows, row: number): Cursor =>
  cursor.to(slots[row] as number, each[row]);

type Matching = ViewAsked & {
  fields: Map<string, ReportField>;
  hidden: (field: ReportField) => string | null;
};

const matching = (cursor: Cursor, { view, on, today, labels, fields, hidden }: Matching) => {
  const ground = { fields, coding: labels, on, today, hidden, each: cursor.eachOf };
  const test = compileCondition(view.condition, ground);
  const nearly = /[<>](?!=)/.test(view.condition)
    ? compileCondition(view.condition, { ...ground, isInclusive: true })
    : null;
  const { table, eachOf: severalOf } = cursor;
  const isShown = shownBy(table, view, { on, today });
  const slots: number[] = [];
  const each: number[] = [];
  let [looked, boundary, noValue] = [0, 0, 0];
  for (let slot = 0; slot < table.size; slot++) {
    if (!isShown(slot) || cursor.to(slot).of(view.subject) < 0) continue;
    // whoever has none of several is still there, once
    const several = severalOf === null ? ONCE : cursor.severalOf(severalOf);
    for (const one of several.length === 0 ? ONCE : several) {
      cursor.to(slot, one);
      looked++;
      const is = test(cursor);
      if (is === true) {
        slots.push(slot);
        each.push(one);
      } else if (is === null) noValue++;
      else if (nearly?.(cursor) === true) boundary++;
    }
  }
  return { rows: { slots: Int32Array.from(slots), each: Int32Array.from(each) }, looked, boundary, noValue };
};

const ONCE: readonly number[] = [-1];

// In effect on the day, or begun within the period.
const shownBy = (
  { from, until }: Cursor['table'],
  { period }: ViewDefinition,
  { on, today }: { on: Day; today: Day },
): ((slot: number) => boolean) => {
  if (!period) {
    const day = dayNumber(on);
    return (slot) => (from[slot] as number) <= day && day < (until[slot] as number);
  }
  const first = dayNumber(dayOfTerm(period.from, on, today));
  const last = dayNumber(dayOfTerm(period.until, on, today));
  if (first > last) throw new ConditionError('period_turned', { at: 0 });
  return (slot) => {
    const began = from[slot] as number;
    return began >= first && began <= last && began < (until[slot] as number);
  };
};

const labelled = (field: ReportField, value: Value, labels: Labelling): string => {
  if (value === null) return '';
  if ((field.kind === 'entry' || field.kind === 'thing') && typeof value === 'number')
    return labels.labelOf(field, value);
  if (field.kind === 'entries' && Array.isArray(value))
    return (value as number[]).map((id) => labels.labelOf(field, id)).join(', ');
  if (typeof value === 'object') return '';
  return String(value);
};

const collator = new Intl.Collator('en', { numeric: true });
const isPlain = /^[\x20-\x7e]*$/;

type Key = { field: ReportField; down: boolean };

// What is sorted by is read once for each row: numbers as numbers, the rest as text; blanks come last either way.
const sorted = (
  cursor: Cursor,
  rows: Rows,
  keys: readonly Key[],
  labelOf: (field: ReportField, value: Value) => string,
): Rows => {
  const { slots, each } = rows;
  const ids = cursor.table.things.ids;
  const read = keys.map(({ field }) => {
    const isNumeric = ['number', 'hundredths', 'exact'].includes(field.kind);
    return Array.from(slots, (_, row) => {
      const there = at(cursor, rows, row);
      if (field.sortedBy) return field.sortedBy(there);
      const value = field.read(there);
      if (value === null) return null;
      if (isNumeric) return asNumber(value);
      if (field.kind === 'yes_no') return value ? 1 : 0;
      const text = labelOf(field, value);
      return isPlain.test(text) ? text.toLowerCase() : fold(text);
    });
  });
  const order = Array.from(slots, (_, i) => i);
  const compare = (a: number, b: number): number => {
    for (const [k, { down }] of keys.entries()) {
      const values = read[k] as (string | number | null)[];
      const [x, y] = [values[a] as string | number | null, values[b] as string | number | null];
      if (x === y) continue;
      if (x === null) return 1;
      if (y === null) return -1;
      const by =
        typeof x === 'number' && typeof y === 'number'
          ? x - y
          : isPlain.test(x as string) && isPlain.test(y as string)
            ? x < y
              ? -1
              : 1
            : collator.compare(String(x), String(y));
      if (by !== 0) return down ? -by : by;
    }
    const [one, other] = [a, b].map((i) => ids[cursor.table.thing[slots[i] as number] as number] as number);
    return (one as number) - (other as number) || a - b;
  };
  order.sort(compare);
  return {
    slots: Int32Array.from(order, (i) => slots[i] as number),
    each: Int32Array.from(order, (i) => each[i] as number),
  };
};

type Totalled = { field: ReportField; name: TotalName } | null;

// Adds up a column: what a value belongs to is counted once, however many rows lead to it.
class Adding {
  private readonly seen = new Set<number>();
  private readonly values: number[] = [];
  private sum: Fraction = fraction(0);
  private whole = 0;
  private count = 0;

  constructor(private readonly of: NonNullable<Totalled>) {}

  add(cursor: Cursor): void {
    const { field } = this.of;
    const source = field.source(cursor);
    if (source < 0 || this.seen.has(source)) return;
    this.seen.add(source);
    const value = field.read(cursor);
    if (value === null || (Array.isArray(value) && value.length === 0)) return;
    this.count++;
    if (typeof value === 'number') {
      this.whole += value;
      this.values.push(value);
    } else if (typeof value === 'object' && 'num' in value) {
      this.sum = plus(this.sum, value);
      this.values.push(toNumber(value));
    }
  }

  result(): ViewTotal {
    const { name, field } = this.of;
    if (name === 'count') return { name, value: this.count };
    if (this.values.length === 0) return null;
    const sum = field.kind === 'exact' ? this.sum : fraction(this.whole);
    if (name === 'sum') return { name, value: field.kind === 'exact' ? sum : this.whole };
    if (name === 'mean') return { name, value: fraction(sum.num, sum.den * BigInt(this.values.length)) };
    const ordered = [...this.values].sort((a, b) => a - b);
    if (name === 'median') {
      const middle = ordered.length >> 1;
      const value =
        ordered.length % 2 === 1
          ? (ordered[middle] as number)
          : ((ordered[middle - 1] as number) + (ordered[middle] as number)) / 2;
      return { name, value };
    }
    return { name, value: (name === 'least' ? ordered[0] : ordered.at(-1)) as number };
  }
}

type Grouping = {
  groupFields: readonly ReportField[];
  totalled: readonly Totalled[];
  labelOf: (field: ReportField, value: Value) => string;
};

type Open = { label: string; first: number; rows: number; things: Set<number>; adding: (Adding | null)[] };

const grouped = (
  cursor: Cursor,
  rows: Rows,
  { groupFields, totalled, labelOf }: Grouping,
): { groups: ViewGroup[]; totals: ViewTotal[]; things: number } => {
  const adders = () => totalled.map((of) => of && new Adding(of));
  const all: Open = { label: '', first: 0, rows: 0, things: new Set(), adding: adders() };
  const open: (Open | undefined)[] = groupFields.map(() => undefined);
  const groups: ViewGroup[] = [];
  const close = (depth: number): void => {
    for (let d = open.length - 1; d >= depth; d--) {
      const one = open[d];
      if (!one) continue;
      groups.push({
        depth: d,
        label: one.label,
        first: one.first,
        rows: one.rows,
        things: one.things.size,
        totals: one.adding.map((adding) => adding?.result() ?? null),
      });
      open[d] = undefined;
    }
  };
  const person = (): number => {
    const found = cursor.anchor('person');
    return found >= 0 ? found : (cursor.table.thing[cursor.slot] as number);
  };
  for (let i = 0; i < rows.slots.length; i++) {
    at(cursor, rows, i);
    for (const [depth, field] of groupFields.entries()) {
      const label = labelOf(field, field.read(cursor));
      if (open[depth] && open[depth]?.label !== label) close(depth);
      open[depth] ??= { label, first: i, rows: 0, things: new Set(), adding: adders() };
    }
    const thing = person();
    for (const one of [all, ...open]) {
      if (!one) continue;
      one.rows++;
      one.things.add(thing);
      for (const adding of one.adding) adding?.add(cursor);
    }
  }
  close(0);
  return {
    groups: groups.sort((a, b) => a.first - b.first || a.depth - b.depth),
    totals: all.adding.map((adding) => adding?.result() ?? null),
    things: all.things.size,
  };
};
