// Days as people write them: one reader for slips, sections, conditions, the lens and the cells of files, so that the same
// text is the same day everywhere. What is no day is never turned into one: it is refused, with the readings there are.
import type { DayOrder, Problem } from '@gremium/contract';
import { Day } from '@gremium/contract';
import {
  addDays,
  addMonths,
  completedYears,
  day as asDay,
  endOfMonth,
  isBefore,
  startOfMonth,
  weekdayOf,
  yearDays,
  yearOf,
} from '../time/calendar';
import { problem } from '../time/problem';
import { fold } from '../people/names';

/** The order of a format of days, such as `DD.MM.YYYY`; where the year comes first, nothing but the year is said by it. */
export const dayOrderIn = (format: string): DayOrder => (/^M/.test(format) ? 'month_first' : 'day_first');

/**
 * What a text is read by. `birth`: it is the birth date of somebody on the register, or of their kin, which says what two
 * digits of a year mean.
 */
export type DayHabit = { order: DayOrder; today: Day; birth?: 'person' | 'kin' | undefined };

/** A day, or what is wrong with the text and the days it may mean. */
export type DayReading = { value: Day } | { problem: Problem; offers: Day[] };

const refused = (found: Problem, offers: readonly Day[] = []): DayReading => ({
  problem: found,
  offers: [...new Set(offers)],
});

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

const WEEKDAYS = [
  'mon monday mo montag',
  'tue tues tuesday di dienstag',
  'wed wednesday mi mittwoch',
  'thu thur thurs thursday do donnerstag',
  'fri friday fr freitag',
  'sat saturday sa samstag sonnabend',
  'sun sunday so sonntag',
].map((names) => new Set(names.split(' ')));

const FILLERS = new Set(['of', 'the', 'den', 'der', 'am', 'on']);

const iso = (year: number, month: number, dayOfMonth: number): string =>
  `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(dayOfMonth).padStart(2, '0')}`;

const isDay = (text: string): text is Day => Day.safeParse(text).success;

// Years as they are written; two digits say no century yet, and none is left out.
type Parts = { year: string | null; month: number; dayOfMonth: number; weekday?: number };
/** What numbers alone say: the parts in the order asked for, and in the other one. */
type Found = { parts: Parts; other?: Parts };

const NUMBERS = /^(\d{1,4})\s*[./\-\s]\s*(\d{1,2})(?:\s*[./\-\s]\s*['’]?(\d{1,4})?)?\s*\.?$/;

const ofNumbers = (text: string, order: DayOrder): Found | null => {
  const found = NUMBERS.exec(text);
  if (!found) return null;
  const [, a = '', b = '', c] = found;
  if (a.length === 4) return c === undefined || c.length > 2 ? null : { parts: partsOf(a, b, c) };
  const year = c ?? null;
  if (a.length > 2 || (year !== null && year.length !== 4 && year.length !== 2)) return null;
  const [dayFirst, monthFirst] = [partsOf(year, b, a), partsOf(year, a, b)];
  return order === 'day_first'
    ? { parts: dayFirst, other: monthFirst }
    : { parts: monthFirst, other: dayFirst };
};

const partsOf = (year: string | null, month: string, dayOfMonth: string): Parts => ({
  year,
  month: Number(month),
  dayOfMonth: Number(dayOfMonth),
});

// 31032027, 20270331, 310327: the year, where it stands first, cannot be taken for a day and a month.
const ofDigits = (text: string, order: DayOrder): Found | null => {
  const year = /^(19|20|21)\d{2}(0[1-9]|1[0-2])\d{2}$/.test(text);
  if (year) return { parts: partsOf(text.slice(0, 4), text.slice(4, 6), text.slice(6)) };
  if (!/^(\d{8}|\d{6})$/.test(text)) return null;
  return ofNumbers(`${text.slice(0, 2)}.${text.slice(2, 4)}.${text.slice(4)}`, order);
};

const ofWords = (text: string): Found | null => {
  const words = fold(text)
    .replace(/(\d)(st|nd|rd|th)\b/g, '$1')
    .replace(/(\d)(?=[a-z])|([a-z])(?=\d)/g, '$1$2 ')
    .split(/[\s.,/'’-]+/)
    .filter((word) => word !== '' && !FILLERS.has(word));
  const indexIn = (names: readonly Set<string>[], word: string) => names.findIndex((some) => some.has(word));
  const named = words.filter((word) => !/^\d+$/.test(word));
  const months = named.filter((word) => indexIn(MONTHS, word) >= 0);
  const weekdays = named.filter((word) => indexIn(WEEKDAYS, word) >= 0);
  const numbers = words.filter((word) => /^\d{1,4}$/.test(word));
  const [month] = months;
  if (month === undefined || months.length + weekdays.length + numbers.length !== words.length) return null;
  if (months.length > 1 || weekdays.length > 1 || numbers.length < 1 || numbers.length > 2) return null;
  const [first = '', second = null] = numbers;
  const [year, dayOfMonth] = first.length === 4 ? [first, second] : [second, first];
  if (dayOfMonth === null || dayOfMonth.length > 2 || (year !== null && ![2, 4].includes(year.length)))
    return null;
  const parts = { year, month: indexIn(MONTHS, month) + 1, dayOfMonth: Number(dayOfMonth) };
  const [weekday] = weekdays;
  return { parts: weekday === undefined ? parts : { ...parts, weekday: indexIn(WEEKDAYS, weekday) + 1 } };
};

/** Ages between which somebody on the register is taken to be, in years, where a year of birth has two digits. */
export const BORN = { least: 14, most: 90 };
// Years ahead that two digits may mean; beyond, they are of the century before.
const AHEAD = 20;

// The years that two digits may mean; one of them, but of a birth date, where it may be asked.
const yearsOf = (digits: string, { today, birth }: DayHabit, partOf: (year: number) => string): number[] => {
  if (digits.length > 2) return [Number(digits)];
  const century = Math.floor(yearOf(today) / 100) * 100;
  const of = Number(digits);
  if (!birth) {
    const all = [century - 100 + of, century + of, century + 100 + of];
    return [all.findLast((year) => year <= yearOf(today) + AHEAD) as number];
  }
  const born = [century - 100 + of, century + of].filter((year) => {
    const written = partOf(year);
    return !isDay(written) || !isBefore(today, written);
  });
  if (birth === 'kin') return born.slice(-1);
  const likely = born.filter((year) => {
    const written = partOf(year);
    if (!isDay(written)) return true;
    const age = completedYears(written, today);
    return age >= BORN.least && age <= BORN.most;
  });
  return likely.length === 1 ? likely : born;
};

const unreal = (text: string, { month, dayOfMonth }: Parts, year: number): DayReading => {
  const first = iso(year, month, 1);
  if (!isDay(first) || dayOfMonth < 29 || dayOfMonth > 31) return refused(problem('day_invalid', { text }));
  const last = endOfMonth(asDay(first));
  return refused(problem('day_unreal', { text }), [last, addDays(last, 1)]);
};

const readParts = (text: string, parts: Parts, habit: DayHabit): DayReading => {
  const { month, dayOfMonth, weekday } = parts;
  const written = (year: number) => iso(year, month, dayOfMonth);
  if (parts.year === null) {
    const years = [yearOf(habit.today), yearOf(habit.today) + 1];
    return refused(problem('day_year_missing', { text }), years.map(written).filter(isDay));
  }
  const years = yearsOf(parts.year, habit, written);
  const [year = 0, another] = years;
  if (another !== undefined)
    return refused(problem('birth_year_unclear', { text }), years.map(written).filter(isDay));
  const read = written(year);
  if (!isDay(read)) return unreal(text, parts, year);
  if (weekday !== undefined && weekdayOf(read) !== weekday)
    return refused(problem('day_weekday', { text }), [read]);
  return { value: read };
};

// No day is written longer; patterns are not tried on what a cell can hold.
const LONGEST = 60;

// Without a time of day behind it.
const bareDay = (text: string): string =>
  text
    .trim()
    .replace(/[T\s]\d{1,2}:\d{2}(:\d{2}(\.\d+)?)?Z?$/, '')
    .trim();

/**
 * A day written as `2027-03-01`, `1.3.2027`, `1/3/27`, `1 Mar 2027`, `1. März 27`, `March 1, 2027`, `01032027`, also with a
 * time after it. Two digits of a year mean one at most 20 years ahead; of a birth date one that makes somebody 14 to 90 years
 * old, else both are offered (`birth_year_unclear`). Numbers that are a day in the other order only are refused with that day
 * as an offer (`day_order`), a day that no calendar has with the last one of the month and the first of the next
 * (`day_unreal`), a day without a year with those of this year and the next (`day_year_missing`).
 */
export const readDay = (text: string, habit: DayHabit): DayReading => {
  if (text.length > LONGEST) return refused(problem('day_unread', { text: text.slice(0, LONGEST) }));
  const bare = bareDay(text);
  if (isDay(bare)) return { value: bare };
  const found = ofNumbers(bare, habit.order) ?? ofDigits(bare, habit.order) ?? ofWords(bare);
  if (!found) return refused(problem('day_unread', { text }));
  const read = readParts(text, found.parts, habit);
  if ('value' in read || !found.other || found.parts.month <= 12) return read;
  const other = readParts(text, found.other, habit);
  return 'value' in other ? refused(problem('day_order', { first: habit.order }), [other.value]) : read;
};

const NAMED: readonly (readonly [RegExp, (at: Day, today: Day) => Day])[] = [
  [/^(today|heute)$/, (_, today) => today],
  [/^(tomorrow|morgen)$/, (_, today) => addDays(today, 1)],
  [/^(yesterday|gestern)$/, (_, today) => addDays(today, -1)],
  [/^(day after tomorrow|the day after tomorrow|ubermorgen|uebermorgen)$/, (_, today) => addDays(today, 2)],
  [
    /^(end of (the |this )?month|month end|monatsende|ende des monats|monatsletzter)$/,
    (at) => endOfMonth(at),
  ],
  [/^(start of (the |this )?month|monatsanfang|anfang des monats|monatserster)$/, (at) => startOfMonth(at)],
  [/^(end of next month|ende (des )?nachsten monats)$/, (at) => endOfMonth(addMonths(startOfMonth(at), 1))],
  [/^(start of next month|first of next month|anfang (des )?nachsten monats|nachster erster)$/, nextMonth],
  [/^(end of (the |this )?year|year end|jahresende|ende des jahres)$/, (at) => yearDays(yearOf(at)).last],
  [/^(start of (the |this )?year|jahresanfang|anfang des jahres)$/, (at) => yearDays(yearOf(at)).first],
];

function nextMonth(at: Day): Day {
  return addMonths(startOfMonth(at), 1);
}

const STEPS: Record<string, (at: Day, n: number) => Day> = {
  d: (at, n) => addDays(at, n),
  w: (at, n) => addDays(at, 7 * n),
  m: addMonths,
  y: (at, n) => addMonths(at, 12 * n),
};
const STEP =
  /^([+-])\s*(\d{1,5})\s*(d|days?|tage?n?|w|weeks?|wochen?|m|months?|monate?n?|y|years?|jahre?n?)?$/;
// tage are days and jahre years; weeks and months begin with the same letter in both languages
const unitOf = (word = 'd'): string => ({ t: 'd', j: 'y' })[word[0] as string] ?? (word[0] as string);

// Folded, but for the sign of what is counted.
const counted = (text: string): string => {
  const [, sign = '', rest = ''] = /^([+−-]?)(.*)$/s.exec(text.trim()) ?? [];
  return `${sign.replace('−', '-')}${fold(rest)}`;
};

/**
 * A day as it is typed: as `readDay`, or counted. `today`, `tomorrow`, `+14`, `-3`, `+2 weeks`, `end of month` and their
 * German; `+n` and the month's ends count from `at`, the day that stood in the field, or else from today.
 */
export const readTypedDay = (text: string, habit: DayHabit, at: Day | null = null): DayReading => {
  if (text.length > LONGEST) return readDay(text, habit);
  const base = at ?? habit.today;
  const folded = counted(text);
  const named = NAMED.find(([pattern]) => pattern.test(folded));
  const [, sign, count, unit] = STEP.exec(folded) ?? [];
  if (!named && sign === undefined) return readDay(text, habit);
  const step = STEPS[unitOf(unit)] as (from: Day, n: number) => Day;
  const read = named ? named[1](base, habit.today) : step(base, Number(`${sign}${count}`));
  return isDay(read) ? { value: read } : refused(problem('day_invalid', { text }));
};

/** What the cells of a column say of its order: so many only with the day first, only with the month first, or both ways. */
export type ColumnOrder = {
  order: DayOrder | null;
  dayFirst: number;
  monthFirst: number;
  /** The first cell that is a day both ways, another one each. */
  example: string | null;
  /** The first cell that tells. */
  told: string | null;
};

/**
 * In which order a column writes day and month: as most cells that are a day in one order only; points stand in day-first
 * dates only (`3.4.2027`). Null where none tells, or as many tell the one as the other, while some are a day both ways:
 * then it is asked. Without such cells it does not matter.
 */
export const columnOrderOf = (texts: Iterable<string>): ColumnOrder => {
  const found = { dayFirst: 0, monthFirst: 0, points: 0 };
  let example: string | null = null;
  let told: string | null = null;
  let pointed: string | null = null;
  for (const text of texts) {
    const shown = shownBy(text);
    if (shown === 'both') example ??= text;
    else if (shown) found[shown]++;
    if (shown === 'dayFirst' || shown === 'monthFirst') told ??= text;
    if (shown === 'points') pointed ??= text;
  }
  const { dayFirst, monthFirst, points } = found;
  if (example !== null && told === null) told = pointed;
  return {
    order: orderOf(dayFirst, monthFirst, points > 0 || !example),
    dayFirst,
    monthFirst,
    example,
    told,
  };
};

const orderOf = (dayFirst: number, monthFirst: number, isDayFirstElse: boolean): DayOrder | null => {
  if (dayFirst !== monthFirst) return dayFirst > monthFirst ? 'day_first' : 'month_first';
  return dayFirst === 0 && isDayFirstElse ? 'day_first' : null;
};

// What a cell shows of the order of its column; points are weaker than a number above 12.
const shownBy = (text: string): 'dayFirst' | 'monthFirst' | 'points' | 'both' | null => {
  const [, a = '', b = '', c] = text.length > LONGEST ? [] : (NUMBERS.exec(bareDay(text)) ?? []);
  if (a === '' || a.length > 2 || c === undefined) return null;
  const [first, second] = [Number(a), Number(b)];
  if (first > 12 && first <= 31 && second <= 12) return 'dayFirst';
  if (second > 12 && second <= 31 && first <= 12) return 'monthFirst';
  if (first > 12 || second > 12 || first === second) return null;
  return /^\d+\s*\./.test(text) ? 'points' : 'both';
};

/**
 * A cell read in the order of its column. Where that is not decided (`order` null) a cell that is a day both ways is refused
 * with both (`day_both`).
 */
export const readColumnDay = (
  text: string,
  { order, ...habit }: Omit<DayHabit, 'order'> & { order: DayOrder | null },
): DayReading => {
  if (order !== null || shownBy(text) === null)
    return readDay(text, { ...habit, order: order ?? 'day_first' });
  const both = (['day_first', 'month_first'] as const).map((one) => readDay(text, { ...habit, order: one }));
  const days = both.flatMap((read) => ('value' in read ? read.value : []));
  return days.length === 1 ? { value: days[0] as Day } : refused(problem('day_both', { text }), days);
};
