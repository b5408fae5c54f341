// This module and timeline.ts own time: nobody else compares or computes dates.
import type { Bound, Day, Moment } from '@gremium/contract';

/** From the beginning. */
export const BEGINNING = '-infinity' as Bound;
/** Until further notice. */
export const OPEN = 'infinity' as Bound;

/** A half-open period `[from, until)`. */
export type Period = { from: Bound; until: Bound };

/** Takes a text that is known to be a day. */
export const day = (text: string): Day => text as Day;

// Days since 1970-01-01 of the proleptic Gregorian calendar and back (H. Hinnant, "chrono-compatible low-level date algorithms").
const toNumber = (of: Day): number => {
  const [y, m, d] = of.split('-').map(Number) as [number, number, number];
  const year = m <= 2 ? y - 1 : y;
  const era = Math.floor(year / 400);
  const yearOfEra = year - era * 400;
  const dayOfYear = Math.floor((153 * (m + (m > 2 ? -3 : 9)) + 2) / 5) + d - 1;
  const dayOfEra = yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear;
  return era * 146097 + dayOfEra - 719468;
};

const fromNumber = (days: number): Day => {
  const z = days + 719468;
  const era = Math.floor(z / 146097);
  const doe = z - era * 146097;
  const yoe = Math.floor(
    (doe - Math.floor(doe / 1460) + Math.floor(doe / 36524) - Math.floor(doe / 146096)) / 365,
  );
  const doy = doe - (365 * yoe + Math.floor(yoe / 4) - Math.floor(yoe / 100));
  const mp = Math.floor((5 * doy + 2) / 153);
  const month = mp < 10 ? mp + 3 : mp - 9;
  const year = yoe + era * 400 + (month <= 2 ? 1 : 0);
  return write(year, month, doy - Math.floor((153 * mp + 2) / 5) + 1);
};

const write = (year: number, month: number, dayOfMonth: number): Day =>
  day(
    `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(dayOfMonth).padStart(2, '0')}`,
  );

const isLeap = (year: number): boolean => (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;
const monthLength = (year: number, month: number): number =>
  [31, isLeap(year) ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31][month - 1] as number;

const EPOCH = 10957; // 2000-01-01, from which PostgreSQL counts days
const FIRST = -2147483648;
const LAST = 2147483647;
const numbers = new Map<Bound, number>([
  [BEGINNING, FIRST],
  [OPEN, LAST],
]);
const bounds = new Map<number, Bound>([
  [FIRST, BEGINNING],
  [LAST, OPEN],
]);

/** A bound as a whole number of 32 bits: days since 2000-01-01, open ends at the extremes, as PostgreSQL sends dates. */
export const dayNumber = (bound: Bound): number => {
  const known = numbers.get(bound);
  if (known !== undefined) return known;
  const made = toNumber(bound as Day) - EPOCH;
  numbers.set(bound, made);
  bounds.set(made, bound);
  return made;
};

/** The bound of a number of `dayNumber`. */
export const boundOf = (number: number): Bound => {
  const known = bounds.get(number);
  if (known !== undefined) return known;
  const made = fromNumber(number + EPOCH);
  bounds.set(number, made);
  numbers.set(made, number);
  return made;
};

const isOpen = (bound: Bound): boolean => bound === OPEN || bound === BEGINNING;

/** The bound `n` days later; open bounds stay. */
export const addDays = <B extends Bound>(bound: B, n: number): B =>
  isOpen(bound) ? bound : (fromNumber(toNumber(bound as Day) + n) as B);

/** Days from `a` to `b`; negative if `b` is earlier. */
export const daysBetween = (a: Day, b: Day): number => toNumber(b) - toNumber(a);

/** The same day `n` months later, the last of the month where that month is shorter. */
export const addMonths = (from: Day, n: number): Day => {
  const [y, m, d] = from.split('-').map(Number) as [number, number, number];
  const months = y * 12 + (m - 1) + n;
  const [year, month] = [Math.floor(months / 12), (months % 12) + 1];
  return write(year, month, Math.min(d, monthLength(year, month)));
};

/** Last day of the day's month. */
export const endOfMonth = (of: Day): Day => {
  const [year, month] = of.split('-').map(Number) as [number, number];
  return write(year, month, monthLength(year, month));
};

/** First day of the day's month. */
export const startOfMonth = (of: Day): Day => day(`${of.slice(0, 7)}-01`);

/** The year of a day. */
export const yearOf = (of: Day): number => Number(of.slice(0, 4));
/** First and last day of a year. */
export const yearDays = (year: number): { first: Day; last: Day } => ({
  first: write(year, 1, 1),
  last: write(year, 12, 31),
});
/** Day of the week: 1 is Monday, 7 is Sunday. */
export const weekdayOf = (of: Day): number => ((((toNumber(of) + 3) % 7) + 7) % 7) + 1;

/**
 * Completed months from `a` to `b`: months whose day has come, `b` included; on the last day of shorter months.
 * @example completedMonths('2024-01-31', '2024-02-29') // 1
 */
export const completedMonths = (a: Day, b: Day): number => {
  const guess =
    (Number(b.slice(0, 4)) - Number(a.slice(0, 4))) * 12 + Number(b.slice(5, 7)) - Number(a.slice(5, 7));
  return addMonths(a, guess) <= b ? guess : guess - 1;
};

/** Completed years from `a` to `b`, anniversaries up to and including `b`; 29 February counts on 28 in other years. */
export const completedYears = (a: Day, b: Day): number => Math.floor(completedMonths(a, b) / 12);

/** The earlier of two bounds. */
export const earlier = <B extends Bound>(a: B, b: B): B => (a <= b ? a : b);
/** The later of two bounds. */
export const later = <B extends Bound>(a: B, b: B): B => (a >= b ? a : b);

/** Sorts days, the earliest first. */
export const byDay = (a: { day: Day }, b: { day: Day }): number =>
  a.day < b.day ? -1 : a.day > b.day ? 1 : 0;

/** Whether a day lies in a period; its end is outside. */
export const isOn = (period: Period, on: Bound): boolean => period.from <= on && on < period.until;
/** Whether two periods share a day. */
export const overlaps = (a: Period, b: Period): boolean => a.from < b.until && b.from < a.until;
/** Whether all of one period lies in another. */
export const isWithin = (inner: Period, outer: Period): boolean =>
  outer.from <= inner.from && inner.until <= outer.until;
/** Whether a bound comes before another. */
export const isBefore = (a: Bound, b: Bound): boolean => a < b;
/** All days there are. */
export const ALWAYS: Period = { from: BEGINNING, until: OPEN };

/** The common part of two periods, or null. */
export const intersection = (a: Period, b: Period): Period | null =>
  overlaps(a, b) ? { from: later(a.from, b.from), until: earlier(a.until, b.until) } : null;

/** Orders periods by their beginnings. */
export const byFrom = (a: Period, b: Period): number => (a.from < b.from ? -1 : a.from > b.from ? 1 : 0);

/** The last day of a period, or null if it is open. */
export const lastDay = (of: Period): Day | null =>
  of.until === OPEN ? null : (addDays(of.until, -1) as Day);

/** The parts of `whole` that no period of `parts` covers, in order. */
export const uncovered = (whole: Period, parts: readonly Period[]): Period[] => {
  if (parts.some((part) => isWithin(whole, part))) return [];
  const gaps: Period[] = [];
  let at = whole.from;
  for (const part of [...parts].sort(byFrom)) {
    if (part.until <= at || part.from >= whole.until) continue;
    if (part.from > at) gaps.push({ from: at, until: part.from });
    at = later(at, part.until);
  }
  if (at < whole.until) gaps.push({ from: at, until: whole.until });
  return gaps;
};

/** All days on which any of the periods begins or ends, in order, inside `within`. */
export const boundaries = (periods: readonly Period[], within: Period = ALWAYS): Bound[] =>
  [...new Set(periods.flatMap(({ from, until }) => [from, until]))]
    .filter((bound) => within.from <= bound && bound < within.until)
    .sort();

/** Cuts `within` at every boundary of the periods: on each segment nothing changes. */
export const segments = (periods: readonly Period[], within: Period = ALWAYS): Period[] => {
  const cuts = [...new Set([within.from, ...boundaries(periods, within)])].sort();
  return cuts.map((from, i) => ({ from, until: cuts[i + 1] ?? within.until }));
};

/** The moment a microsecond before one: what was known just before an entry. */
export const momentBefore = (moment: Moment): Moment => {
  const [seconds = '', fraction = ''] = moment.replace('Z', '').split('.');
  const micros = Number(fraction.padEnd(6, '0'));
  if (micros > 0) return `${seconds}.${String(micros - 1).padStart(6, '0')}Z` as Moment;
  const [date = '', time = ''] = seconds.split('T');
  const [h = 0, m = 0, s = 0] = time.split(':').map(Number);
  const before = h * 3600 + m * 60 + s - 1;
  const two = (n: number) => String(n).padStart(2, '0');
  const clock = (n: number) => `${two(Math.floor(n / 3600))}:${two(Math.floor(n / 60) % 60)}:${two(n % 60)}`;
  return (before >= 0
    ? `${date}T${clock(before)}.999999Z`
    : `${addDays(date as Day, -1)}T23:59:59.999999Z`) as unknown as Moment;
};
