// What a cell of a file says: days, numbers and words as people write them. Where a cell can be read in one way only it is
// read; where not, its readings are listed and somebody chooses.
import type { Day, Problem } from '@gremium/contract';
import { Day as DaySchema } from '@gremium/contract';
import { day as asDay, endOfMonth, addDays } from '../time/calendar';
import { problem } from '../time/problem';
import { fold } from '../people/names';

/** A value, or what is wrong with the text and what could stand there instead. */
export type CellReading<T> = { value: T } | { problem: Problem; offers: string[] };

const refused = (found: Problem, offers: readonly string[] = []): { problem: Problem; offers: string[] } => ({
  problem: found,
  offers: [...new Set(offers)],
});

/** In which order a column writes day and month where both are numbers. */
export type DayOrder = 'day_first' | 'month_first';

const NUMBERS = /^(\d{1,4})[./\-\s](\d{1,2})[./\-\s](\d{1,4})\.?$/;

/** The order that the cells of one column show: a number above 12 in one of the places; else the day comes first. */
export const dayOrderOf = (texts: Iterable<string>): DayOrder => {
  for (const text of texts) {
    const [, a = '', b = ''] = NUMBERS.exec(text) ?? [];
    if (a.length > 2) continue;
    if (Number(a) > 12 && Number(a) <= 31) return 'day_first';
    if (Number(b) > 12 && Number(b) <= 31) return 'month_first';
  }
  return 'day_first';
};

const MONTHS = [
  'jan januar january januari tammikuu jaanuar',
  'feb februar february februari helmikuu veebruar',
  'mar marz march mars maaliskuu marts maerz mrz',
  'apr april huhtikuu aprill',
  'may mai maj toukokuu',
  'jun juni june kesakuu juuni',
  'jul juli july heinakuu juuli',
  'aug august augusti elokuu',
  'sep sept september syyskuu',
  'oct okt october oktober lokakuu oktoober',
  'nov november marraskuu',
  'dec dez des december dezember desember joulukuu detsember',
].map((names) => new Set(names.split(' ')));

const iso = (year: number, month: number, dayOfMonth: number): string =>
  `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(dayOfMonth).padStart(2, '0')}`;

const isDay = (text: string): text is Day => DaySchema.safeParse(text).success;

// Two digits mean the century that makes sense for people at work: 30 and above 19xx.
const wholeYear = (text: string): number =>
  text.length > 2 ? Number(text) : Number(text) + (Number(text) >= 30 ? 1900 : 2000);

type Parts = { year: number; month: number; dayOfMonth: number };

const partsOf = (text: string, order: DayOrder): Parts | null => {
  const numbers = NUMBERS.exec(text);
  if (numbers) {
    const [, a = '', b = '', c = ''] = numbers;
    if (a.length === 4) return { year: Number(a), month: Number(b), dayOfMonth: Number(c) };
    if (a.length > 2 || (c.length !== 4 && c.length !== 2)) return null;
    const [first, second] = [Number(a), Number(b)];
    const isDayFirst = order === 'day_first' ? second <= 12 || first > 12 : first > 12;
    return isDayFirst
      ? { year: wholeYear(c), month: second, dayOfMonth: first }
      : { year: wholeYear(c), month: first, dayOfMonth: second };
  }
  const words = fold(text)
    .split(/[\s.,-]+/)
    .filter(Boolean);
  const month = words.map((word) => MONTHS.findIndex((names) => names.has(word))).find((i) => i >= 0);
  const [a, b] = words.filter((word) => /^\d+$/.test(word));
  if (month === undefined || a === undefined || b === undefined || words.length !== 3) return null;
  return a.length === 4
    ? { year: Number(a), month: month + 1, dayOfMonth: Number(b) }
    : { year: wholeYear(b), month: month + 1, dayOfMonth: Number(a) };
};

/**
 * A day written as `2027-03-01`, `1.3.2027`, `1/3/27`, `1 Mar 2027`, `1. März 2027`, also with a time after it. A day that
 * no calendar has (31 February) is refused with the last day of that month and the first of the next.
 */
export const readDay = (text: string, order: DayOrder): CellReading<Day> => {
  const bare = text.replace(/[T\s]\d{1,2}:\d{2}(:\d{2}(\.\d+)?)?Z?$/, '').trim();
  if (isDay(bare)) return { value: bare };
  const parts = partsOf(bare, order);
  if (!parts) return refused(problem('day_unread', { text }));
  const { year, month, dayOfMonth } = parts;
  const written = iso(year, month, dayOfMonth);
  if (isDay(written)) return { value: written };
  const first = iso(year, month, 1);
  if (!isDay(first) || dayOfMonth < 29 || dayOfMonth > 31) return refused(problem('day_invalid', { text }));
  const last = endOfMonth(asDay(first));
  return refused(problem('day_unreal', { text }), [last, addDays(last, 1)]);
};

/** One of a closed set of words; `words` gives each value's spellings, folded. */
export const readWord = <T extends string>(
  text: string,
  words: Record<T, readonly string[]>,
): CellReading<T> => {
  const folded = fold(text);
  for (const [value, spellings] of Object.entries(words) as [T, readonly string[]][])
    if (fold(value) === folded || spellings.includes(folded)) return { value };
  return refused(problem('value_unknown', { text }), Object.keys(words));
};
