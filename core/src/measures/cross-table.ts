// A cross table: one measure by one dimension over months (docs/model.md, "Measures").
import type { Parts } from '../access/part';
import type { Day, DimensionName, MeasureName, ReasonClass } from '@gremium/contract';
import { ZERO, type Fraction, fraction, hundredths, plus } from '../structure/fraction';
import { addMonths, earlier, endOfMonth, startOfMonth } from '../time/calendar';
import { type Coded, type Key, coded, existence } from './dimensions';
import type { Facts } from './facts';
import { classCodes } from './presences';
import { type Asked, type FteTally, type Months, type Tally, fteTally, monthsOf, tally } from './tally';
import { type Narrowing, type Seen, narrowable } from './walk';

/** A measure, what it is split by, and the months. */
export type CrossAsk = {
  measure: MeasureName;
  by: DimensionName;
  /** Any day of the first month shown, and of the last. */
  from: Day;
  until: Day;
  narrowing: Narrowing;
  part: Parts;
  seen?: Seen | undefined;
  /** The day looked at: the month it lies in is counted up to it ("so far"), nothing after it. */
  on: Day;
  today: Day;
  /** First day for which figures are complete. */
  dataFrom: Day;
};

/** One cell: what opened, came, went and closed. */
export type CrossMonth = {
  month: string;
  /** The day at whose close people are counted. */
  end: Day;
  /** It ends after today: planned things are in it. */
  isFuture: boolean;
  /** Counted up to the day looked at, before the month is over ("so far"). */
  isCut: boolean;
  /** False where the data do not reach back far enough: cells are blank. */
  isKnown: boolean;
};

/** A value's cells: whole numbers, FTE in hundredths, or a rate; null is no rate, or blank where the month is not known. */
export type CrossRow = {
  key: Key;
  values: (number | null)[];
  /** How much the row weighs beside others: the sum of what its rates are of, or of its values. */
  weight: number;
  closes?: number[];
};

/** Values with their cells, month by month. */
export type CrossTable = {
  months: CrossMonth[];
  rows: CrossRow[];
  total: { values: (number | null)[] };
  chips: { dimension: DimensionName; values: { key: Key; count: number }[] }[];
  classes: { class: ReasonClass; count: number }[];
};

const LEAD = 11; // a rolling rate looks back over eleven more months

/** The months to walk for a question, and which of them are shown. */
export const monthsAsked = ({ measure, from, until, on }: CrossAsk): { months: Months; shown: number } => {
  const shown = measure === 'turnover' ? LEAD : 0;
  const last = earlier(endOfMonth(until), on);
  return { months: monthsOf(addMonths(startOfMonth(from), -shown), last), shown };
};

/** What is said of the month that ends, or is cut short, on a day; `lead` months before it are needed, too. */
export const monthOf = (
  end: Day,
  { today, dataFrom }: Pick<CrossAsk, 'today' | 'dataFrom'>,
  lead: number,
): CrossMonth => ({
  month: end.slice(0, 7),
  end,
  isFuture: end > today,
  isCut: end < endOfMonth(end),
  isKnown: addMonths(startOfMonth(end), -lead) >= dataFrom,
});

/** The whole table, with what it could be narrowed to. */
export const crossTable = (facts: Facts, ask: CrossAsk): CrossTable => {
  const { months, shown } = monthsAsked(ask);
  if (months.ends.length <= shown)
    return { months: [], rows: [], total: { values: [] }, chips: [], classes: [] };
  const asked: Asked = { ...ask, months, shown };
  const head = months.ends.slice(shown).map((end) => monthOf(end, ask, shown));
  if (ask.measure === 'fte' || ask.measure === 'fteAtWork') {
    const sums = fteTally(facts, asked, ask.measure === 'fteAtWork');
    return { months: head, ...fteRows(sums, head), chips: chipsOf(facts, sums.chips, 100), classes: [] };
  }
  const sums = tally(facts, asked);
  const rows =
    ask.measure === 'turnover' ? rateRows(facts, ask, { sums, months, head }) : countRows(sums, ask, head);
  const classes = classCodes.map((name, i) => ({ class: name, count: sums.classes[i] as number }));
  return { months: head, ...rows, chips: chipsOf(facts, sums.chips, 1), classes };
};

type Rows = Pick<CrossTable, 'rows' | 'total'>;

const blanked = (head: readonly CrossMonth[], values: (number | null)[]): (number | null)[] => {
  for (let i = 0; i < values.length && !head[i]?.isKnown; i++) values[i] = null;
  return values;
};

const isZero = (cells: Int32Array, from: number, until: number): boolean => {
  for (let at = from; at < until; at++) if (cells[at] !== 0) return false;
  return true;
};

const countRows = (sums: Tally, { measure }: CrossAsk, head: CrossMonth[]): Rows => {
  const n = head.length;
  const cells = measure === 'headcount' ? sums.closes : measure === 'joiners' ? sums.joiners : sums.leavers;
  const rows: CrossRow[] = [];
  const total = new Array<number>(n).fill(0);
  for (let code = 0; code < sums.values.size; code++) {
    if (isZero(cells, code * n, (code + 1) * n)) continue;
    const values = new Array<number | null>(n);
    let weight = 0;
    for (let i = 0; i < n; i++) {
      const count = cells[code * n + i] as number;
      values[i] = count;
      weight += count;
      total[i] = (total[i] as number) + count;
    }
    rows.push({ key: sums.values.keyOf(code), values: blanked(head, values), weight });
  }
  return { rows, total: { values: blanked(head, total) } };
};

type Rolling = { sums: Tally; months: Months; head: CrossMonth[] };

// Leavers of twelve months over the mean of their closes; of those at which the value existed, where not of all.
const rateRows = (facts: Facts, ask: CrossAsk, { sums, months, head }: Rolling): Rows => {
  const n = months.ends.length;
  const exists = existence(facts.columns, ask.by, months.ends);
  const all = { closes: new Int32Array(n), leavers: new Int32Array(n) };
  const rows: CrossRow[] = [];
  for (let code = 0; code < sums.values.size; code++) {
    const [start, end] = [code * n, (code + 1) * n];
    if (isZero(sums.closes, start, end) && isZero(sums.leavers, start, end)) continue;
    for (let i = 0; i < n; i++) {
      all.closes[i] = (all.closes[i] as number) + (sums.closes[start + i] as number);
      all.leavers[i] = (all.leavers[i] as number) + (sums.leavers[start + i] as number);
    }
    const rates = ratesOf({ closes: sums.closes, leavers: sums.leavers, exists, start, end });
    if (!rates.isAny) continue;
    rows.push({
      key: sums.values.keyOf(code),
      values: blanked(head, rates.values),
      weight: rates.weight,
      ...(rates.closes.some((there) => there < 12) ? { closes: rates.closes } : {}),
    });
  }
  const always = new Uint8Array(n).fill(1);
  const total = ratesOf({ ...all, exists: always, start: 0, end: n }).values;
  return { rows, total: { values: blanked(head, total) } };
};

/** Counts by month of one value, from `start` up to `end` in the arrays. */
export type Year = {
  closes: Int32Array;
  leavers: Int32Array;
  exists: Uint8Array;
  start: number;
  end: number;
};

/**
 * Rolling rates, one for each twelve months in a row: leavers by the mean of the closes at which the value existed; null
 * where nobody was there to leave. `isAny`: there was anybody, or anybody left, in any of them.
 */
export const ratesOf = ({ closes, leavers, exists, start, end }: Year) => {
  const n = Math.max(0, end - start - LEAD);
  const values = new Array<number | null>(n);
  const averages = new Array<number | null>(n);
  const counted = new Array<number>(n);
  let [gone, sum, there, weight, isAny] = [0, 0, 0, 0, false];
  for (let at = start; at < end; at++) {
    const old = at - 12;
    const isOld = old >= start;
    gone += (leavers[at] as number) - (isOld ? (leavers[old] as number) : 0);
    weight += closes[at] as number;
    sum += exists[at] === 1 ? (closes[at] as number) : 0;
    sum -= isOld && exists[old] === 1 ? (closes[old] as number) : 0;
    there += (exists[at] as number) - (isOld ? (exists[old] as number) : 0);
    const i = at - start - LEAD;
    if (i < 0) continue;
    averages[i] = there === 0 ? null : sum / there;
    values[i] = sum === 0 ? null : gone / (sum / there);
    counted[i] = there;
    isAny ||= gone > 0 || sum > 0;
  }
  return { values, averages, closes: counted, weight, isAny };
};

const fteRows = ({ values, weeks, hours }: FteTally, head: CrossMonth[]): Rows => {
  const n = head.length;
  const exact = (code: number, i: number): Fraction =>
    weeks.reduce((sum, week, w) => {
      const share = hours[(w * values.size + code) * n + i] as number;
      return share === 0 ? sum : plus(sum, fraction(share, week));
    }, ZERO);
  const rows: CrossRow[] = [];
  const total = new Array<Fraction>(n).fill(ZERO);
  for (let code = 0; code < values.size; code++) {
    const shares = head.map((_, i) => exact(code, i));
    if (shares.every(({ num }) => num === 0n)) continue;
    shares.forEach((share, i) => (total[i] = plus(total[i] as Fraction, share)));
    const cells = shares.map(hundredths);
    const weight = cells.reduce((sum, cell) => sum + cell, 0);
    rows.push({ key: values.keyOf(code), values: blanked(head, cells), weight });
  }
  return { rows, total: { values: blanked(head, total.map(hundredths)) } };
};

const chipsOf = (facts: Facts, chips: Tally['chips'], unit: number): CrossTable['chips'] =>
  narrowable.map((dimension, i) => ({
    dimension,
    values: chipValues(coded(facts.columns, dimension), chips[i] as Float64Array, unit),
  }));

const chipValues = ({ keyOf }: Coded, counts: Float64Array, unit: number) =>
  Array.from(counts, (count, code) => ({ key: keyOf(code), count: Math.round(count * unit) }))
    .filter(({ count }) => count > 0)
    .sort((a, b) => b.count - a.count);
