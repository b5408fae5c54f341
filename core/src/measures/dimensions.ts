import type { Bound, DimensionName, Kind } from '@gremium/contract';
import type { Columns } from '../time/columns';
import { dayNumber } from '../time/calendar';
import type { Facts } from './facts';

/** A value of a dimension: the id of a thing, the code of a country, 0 for the whole, null for none. */
export type Key = number | string | null;

/** Dimensions that follow from where the position is; the others belong to the employment. */
const ofPosition = ['unit', 'division', 'location', 'country', 'jobFamily', 'job'] as const;
/** A dimension that follows from where the position is. */
export type OfPosition = (typeof ofPosition)[number];
/** Whether a dimension follows from where the position is. */
export const isOfPosition = (name: DimensionName): name is OfPosition =>
  (ofPosition as readonly string[]).includes(name);

const kinds = {
  unit: 'unit',
  division: 'unit',
  location: 'location',
  jobFamily: 'list_entry',
  job: 'job',
  legalEntity: 'legal_entity',
  workerType: 'list_entry',
} as const satisfies Record<Exclude<DimensionName, 'whole' | 'country'>, Kind>;

/** Values of a dimension as small numbers: 0 is none (or the whole), 1 + n the dense index or code n. */
export type Coded = { size: number; keyOf: (code: number) => Key; codeOf: (key: Key) => number };

/** Values of a dimension as they are numbered in columns now. */
export const coded = (columns: Columns, name: DimensionName): Coded => {
  if (name === 'whole') return { size: 1, keyOf: () => 0, codeOf: () => 0 };
  if (name === 'country') {
    const { words } = columns.table('location').field('country');
    return {
      size: words.texts.length + 1,
      keyOf: (code) => (code === 0 ? null : (words.texts[code - 1] as string)),
      codeOf: (key) => (key === null ? 0 : words.find(String(key)) + 1 || -1),
    };
  }
  const things = columns.thingsOf(kinds[name]);
  return {
    size: things.ids.length + 1,
    keyOf: (code) => (code === 0 ? null : (things.ids[code - 1] as number)),
    codeOf: (key) => (key === null ? 0 : things.find(Number(key)) + 1 || -1),
  };
};

/** The column that holds a dimension, by segment of a position or by presence; null for the whole. */
export const sourceOf = ({ places }: Facts, name: OfPosition): Int32Array =>
  ({
    unit: places.unit,
    division: places.division,
    location: places.location,
    country: places.country,
    jobFamily: places.family,
    job: places.job,
  })[name];

/** On which of the days (in order) each value of a dimension existed: `exists[code * days.length + i]`. */
export const existence = (columns: Columns, name: DimensionName, days: readonly Bound[]): Uint8Array => {
  const { size } = coded(columns, name);
  const n = days.length;
  const flags = new Uint8Array(size * n);
  flags.fill(1, 0, n); // none, and the whole
  if (name === 'whole') return flags;
  const table = columns.table(name === 'country' ? 'location' : kinds[name]);
  const countries = name === 'country' ? table.column('country') : null;
  const numbers = Int32Array.from(days, dayNumber);
  for (let slot = 0; slot < table.size; slot++) {
    const [from, until] = [table.from[slot] as number, table.until[slot] as number];
    const code = 1 + (countries ? (countries[slot] as number) : (table.thing[slot] as number));
    let [first, last] = [0, n];
    while (first < n && (numbers[first] as number) < from) first++;
    while (last > first && (numbers[last - 1] as number) >= until) last--;
    flags.fill(1, code * n + first, code * n + last);
  }
  return flags;
};
