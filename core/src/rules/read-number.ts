// Numbers as people write them: one reader for slips, sections, files and cells, so that the same text is the same everywhere.
import type { Problem } from '@gremium/contract';
import { problem } from '../time/problem';

/** A number as decimal text, or what is wrong with the text and the readings there are of it. */
export type NumberReading = { value: string } | { problem: Problem; offers: string[] };

/** The sign that groups thousands: a language's own, or the one that a column of a file shows; null where nothing says. */
export type Grouping = ',' | '.' | null;

/** The grouping sign in which a language shows numbers. */
export const groupingOf = (language: string): ',' | '.' => (language === 'de' ? '.' : ',');

const unread = (text: string): NumberReading => ({ problem: problem('number_unread', { text }), offers: [] });

type Marked = { sign: string; whole: string; marks: string[]; after: number };

// Blanks and apostrophes only group, and always by three; what is left are digits, points and commas.
const marked = (text: string): Marked | null => {
  const shaped = /^([+\-−]?)\s*(\d[\d\s.,'’]*)$/.exec(text.trim());
  if (!shaped) return null;
  const body = (shaped[2] as string).trim();
  if (/[\s'’]/.test(body) && !/^\d{1,3}([\s'’]\d{3})+([.,]\d+)?$/.test(body)) return null;
  const whole = body.replace(/[\s'’]/g, '');
  if (!/^\d+([.,]\d+)*$/.test(whole)) return null;
  const marks = [...whole.matchAll(/[.,]/g)].map(([mark]) => mark);
  return {
    sign: shaped[1] === '-' || shaped[1] === '−' ? '-' : '',
    whole,
    marks,
    after: whole.length - Math.max(whole.lastIndexOf('.'), whole.lastIndexOf(',')) - 1,
  };
};

const plain = ({ sign, whole }: Marked, decimal: boolean): string => {
  const at = decimal ? Math.max(whole.lastIndexOf('.'), whole.lastIndexOf(',')) : whole.length;
  const digits = whole
    .slice(0, at)
    .replace(/[.,]/g, '')
    .replace(/^0+(?=\d)/, '');
  const part = whole.slice(at + 1).replace(/0+$/, '');
  const value = part === '' ? digits : `${digits}.${part}`;
  return value === '0' ? value : `${sign}${value}`;
};

// What the marks of a text say by themselves: the last is one of decimals, all group, or it could be either.
const roleOf = ({ whole, marks }: Marked): 'decimal' | 'grouping' | 'either' | null => {
  const [first, ...others] = marks;
  if (first === undefined) return 'grouping';
  const isGrouped = (text: string) => /^[1-9]\d{0,2}([.,]\d{3})+$/.test(text);
  const last = marks.at(-1) as string;
  if (last !== first) {
    const head = whole.slice(0, whole.lastIndexOf(last));
    return marks.indexOf(last) === marks.length - 1 && isGrouped(head) ? 'decimal' : null;
  }
  if (others.length > 0) return isGrouped(whole) ? 'grouping' : null;
  return isGrouped(whole) ? 'either' : 'decimal';
};

/**
 * Reads a number as decimal text without groups or needless zeros. Blanks (no-break ones too) and ’ group by three; of two
 * different signs the last is the decimal one; the same sign twice groups. One sign before just three digits groups if it is
 * the `grouping` sign; if it is the other one it is asked (`number_ambiguous`, both readings offered), unless only one of the
 * readings lies within `most`. Anything else is `number_unread`.
 */
export const readNumber = (text: string, grouping: Grouping, most = Infinity): NumberReading => {
  const found = marked(text);
  const role = found && roleOf(found);
  if (!found || !role) return unread(text);
  if (role !== 'either') return { value: plain(found, role === 'decimal') };
  const isWithin = (reading: string) => Math.abs(Number(reading)) <= most;
  const readings = [plain(found, true), plain(found, false)].filter(isWithin);
  if (readings.length === 1) return { value: readings[0] as string };
  if (grouping === found.marks[0]) return { value: plain(found, false) };
  // four places: typed again, only one reading is left
  const decimal = `${found.sign}${found.whole.replace(',', '.')}0`;
  return { problem: problem('number_ambiguous', { text }), offers: [decimal, plain(found, false)] };
};

/**
 * What the cells of one column show of their signs: the decimal sign, if those that can be read in one way only agree.
 * Cells of a `workbook` that are numbers come with a point whatever its office writes: they show nothing.
 */
export const decimalSignOf = (texts: Iterable<string>, workbook = false): ',' | '.' | null => {
  const shown = new Set<string>();
  for (const text of texts) {
    const found = marked(text);
    if (!found || found.marks.length === 0) continue;
    // nor do readings that were chosen where it had to be asked: they are of one cell
    if (/^-?\d{1,3}\.\d{3}0$/.test(text) || (workbook && /^-?\d+\.\d+$/.test(text))) continue;
    const role = roleOf(found);
    const last = found.marks.at(-1) as string;
    if (role === 'decimal') shown.add(last);
    if (role === 'grouping') shown.add(last === ',' ? '.' : ',');
  }
  const [one, ...others] = shown;
  return one !== undefined && others.length === 0 ? (one as ',' | '.') : null;
};

/** The same for a column of a file: its own cells decide what one sign before three digits means, else it is asked. */
export const readColumnNumber = (text: string, decimal: ',' | '.' | null, most = Infinity): NumberReading => {
  const read = readNumber(text, decimal === null ? null : decimal === ',' ? '.' : ',', most);
  const found = marked(text);
  const isAsked = 'problem' in read && read.problem.code === 'number_ambiguous';
  return isAsked && found && decimal === found.marks[0] ? { value: plain(found, true) } : read;
};

/** Hundredths (hours, shares) of a number: `37,5` is 3750. Refused beyond two places, at 0 and above `most` (`share_range`). */
export const readHundredths = (
  text: string,
  grouping: Grouping,
  most: number,
): { value: number } | { problem: Problem; offers: string[] } =>
  asHundredths(readNumber(text, grouping, most), most);

/** A number that was read as hundredths. */
export const asHundredths = (
  read: NumberReading,
  most: number,
): { value: number } | { problem: Problem; offers: string[] } => {
  if ('problem' in read) return read;
  const value = Math.round(Number(read.value) * 100);
  if (value <= 0 || value > most * 100)
    return { problem: problem('share_range', { least: '0', most: String(most) }), offers: [] };
  return { value };
};
