// Sums of one walk by value and month: closes, joiners, leavers, moves, and what chips count.
import type { Parts } from '../access/part';
import type { DimensionName, MeasureName } from '@gremium/contract';
import type { Day } from '@gremium/contract';
import { addMonths, dayNumber, endOfMonth, startOfMonth } from '../time/calendar';
import type { Columns } from '../time/columns';
import { type Coded, coded } from './dimensions';
import type { Facts } from './facts';
import { EDGE, classCodes } from './presences';
import {
  Chips,
  type Narrowing,
  type Seen,
  type Stretch,
  placementsWalked,
  presencesWalked,
  walk,
} from './walk';

/** Months in a row, each with the day at whose close is counted: its last, or an earlier one for the last month. */
export type Months = { ends: Day[]; first: number; last: number; indexOf: Int16Array };

/** The months from one first day to the day looked at, which may cut the last one short. */
export const monthsOf = (from: Day, until: Day): Months => {
  const ends: Day[] = [];
  for (let month = startOfMonth(from); month <= until; month = addMonths(month, 1)) {
    const end = endOfMonth(month);
    ends.push(end < until ? end : until);
  }
  const first = dayNumber(startOfMonth(from));
  const end = ends.at(-1);
  const last = end === undefined ? first - 1 : dayNumber(end);
  const indexOf = new Int16Array(Math.max(0, last - first + 1));
  let month = 0;
  for (let i = 0; i < indexOf.length; i++) {
    if (i + first > dayNumber(ends[month] as Day)) month++;
    indexOf[i] = month;
  }
  return { ends, first, last, indexOf };
};

// How many closes lie before a day.
const closesBefore = (months: Months, at: number): number => {
  if (at <= months.first) return 0;
  return at > months.last ? months.ends.length : (months.indexOf[at - months.first] as number);
};

const monthAt = (months: Months, at: number): number =>
  at < months.first || at > months.last ? -1 : (months.indexOf[at - months.first] as number);

/** What is counted, over which days, of whom. */
export type Asked = {
  measure: MeasureName;
  by: DimensionName;
  /** All months walked: for a rolling rate 11 more than shown. */
  months: Months;
  /** Place of the first month shown. */
  shown: number;
  narrowing: Narrowing;
  part: Parts;
  seen?: Seen | undefined;
};

/** Sums by `code * months + month`. */
export type Tally = {
  values: Coded;
  closes: Int32Array;
  joiners: Int32Array;
  leavers: Int32Array;
  in: Int32Array;
  out: Int32Array;
  /** Counts of the numerator by code, for each dimension that people can be narrowed by. */
  chips: Float64Array[];
  classes: Int32Array;
};

const noTally = (columns: Columns, by: DimensionName, months: number): Tally => {
  const values = coded(columns, by);
  const cells = () => new Int32Array(values.size * months);
  return {
    values,
    closes: cells(),
    joiners: cells(),
    leavers: cells(),
    in: cells(),
    out: cells(),
    chips: [],
    classes: new Int32Array(classCodes.length),
  };
};

const passing = ({ classes }: Narrowing): Uint8Array =>
  Uint8Array.from(classCodes, (name) => (!classes?.length || classes.includes(name) ? 1 : 0));

/**
 * Headcount at each close, joiners, leavers and moves by value. Joiners belong to the value of the first day, leavers to that
 * of the last; whoever comes from outside the part or the narrowing is in by move. So opening + joiners + in − leavers − out
 * is closing for every value and month (docs/model.md, "Measures").
 */
export const tally = (facts: Facts, asked: Asked): Tally => {
  const { months, measure, shown } = asked;
  const n = months.ends.length;
  const sums = noTally(facts.columns, asked.by, n);
  const { presences } = facts;
  const { start: starts, end: ends } = presences;
  const { closes } = sums;
  const walked = presencesWalked(facts);
  const chips = new Chips(facts, walked);
  sums.chips = chips.counts;
  const passes = passing(asked.narrowing);
  const lastClose = dayNumber(months.ends[n - 1] as Day);
  const chipsFrom = measure === 'turnover' ? Math.max(0, n - 12) : shown;
  const begun = new Int32Array(presences.size).fill(-2);
  const ended = new Int32Array(presences.size).fill(-2);
  let previous = -2;

  const move = (before: number, after: number, at: number): void => {
    const month = before === after ? -1 : monthAt(months, at);
    if (month < 0) return;
    if (before >= 0) add(sums.out, before * n + month);
    if (after >= 0) add(sums.in, after * n + month);
  };

  walk(facts, walked, { ...asked, from: months.first, until: months.last }, (stretch) => {
    const { presence, from, until, isFirst, isLast } = stretch;
    const isOne = stretch.inside && stretch.misses === 0;
    const code = isOne ? stretch.code : -1;
    const leaves = isLast && ends[presence] === EDGE.employment;
    const closeUntil = leaves ? until - 1 : until;
    if (isFirst) begun[presence] = code;
    else move(previous, code, from);
    if (isLast) ended[presence] = code;
    previous = code;
    if (!stretch.inside) return;
    if (isOne) {
      const first = closesBefore(months, from);
      const after = closesBefore(months, closeUntil);
      if (first < after) {
        closes[code * n + first] = (closes[code * n + first] as number) + 1;
        if (after < n) closes[code * n + after] = (closes[code * n + after] as number) - 1;
      }
    }
    // chips need those too that fail only one narrowing
    const isNear = (stretch.misses & (stretch.misses - 1)) === 0;
    if (!isNear) return;
    const start = isFirst ? starts[presence] : EDGE.linked;
    if (start !== EDGE.linked) {
      const month = monthAt(months, from);
      if (month >= 0 && isOne) add(start === EDGE.employment ? sums.joiners : sums.in, code * n + month);
      if (month >= shown && measure === 'joiners' && start === EDGE.employment) chips.add(stretch, 1);
    }
    if (isLast && ends[presence] === EDGE.other && isOne) {
      const month = monthAt(months, until);
      if (month >= 0) add(sums.out, code * n + month);
    }
    if (leaves) leave(stretch, code);
    if (measure === 'headcount' && from <= lastClose && lastClose < closeUntil) chips.add(stretch, 1);
  });

  function leave(stretch: Stretch, code: number): void {
    const month = monthAt(months, stretch.until - 1);
    if (month < 0) return;
    const reason = presences.reason[stretch.presence] as number;
    if (code >= 0 && month >= chipsFrom) sums.classes[reason] = (sums.classes[reason] as number) + 1;
    if (passes[reason] === 0) return;
    if (code >= 0) add(sums.leavers, code * n + month);
    if (month >= chipsFrom && (measure === 'leavers' || measure === 'turnover')) chips.add(stretch, 1);
  }

  // moves between presences that follow each other without a break
  for (let at = 0; at < presences.size; at++) {
    const before = presences.before[at] as number;
    if (before < 0 || (begun[at] === -2 && ended[before] === -2)) continue;
    move(
      Math.max(-1, ended[before] as number),
      Math.max(-1, begun[at] as number),
      presences.from[at] as number,
    );
  }
  accumulate(sums.closes, n);
  return sums;
};

const add = (sums: Int32Array, at: number): void => {
  sums[at] = (sums[at] as number) + 1;
};

// Cells hold differences: one more from the first close on, one less from the one after the last.
const accumulate = (sums: Int32Array | Float64Array, n: number): void => {
  for (let row = 0; row < sums.length; row += n)
    for (let at = row + 1; at < row + n; at++) sums[at] = (sums[at] as number) + (sums[at - 1] as number);
};

/** FTE at each close by value, as exact sums: numerators for each full-time week met (both in hundredths of hours). */
export type FteTally = Pick<Tally, 'values' | 'chips'> & {
  weeks: number[];
  /** By `(week * values + code) * months + month`. */
  hours: Float64Array;
};

/** Contracted FTE at each close, or that at work, of those who count in headcount; whoever leaves on the day of a close is gone. */
export const fteTally = (facts: Facts, asked: Asked, atWork: boolean): FteTally => {
  const { months } = asked;
  const n = months.ends.length;
  const { columns, presences } = facts;
  const table = columns.table('placement');
  const [fullTime, hours, lent, away, employments] = (
    ['fullTime', 'hours', 'lentHours', 'awayHours', 'employmentId'] as const
  ).map((name) => table.column(name)) as [Int32Array, Int32Array, Int32Array, Int32Array, Int32Array];
  const weeks = [...new Set(fullTime.subarray(0, table.size))];
  const places = new Map(weeks.map((week, i) => [week, i]));
  const values = coded(columns, asked.by);
  const sums = new Float64Array(weeks.length * values.size * n);
  const walked = placementsWalked(facts);
  const chips = new Chips(facts, walked);
  const lastClose = dayNumber(months.ends[n - 1] as Day);
  walk(facts, walked, { ...asked, from: months.first, until: months.last }, (stretch) => {
    const { presence: at, misses } = stretch;
    if (!stretch.inside || (misses & (misses - 1)) !== 0) return;
    if (!presences.countsEmployment(employments[at] as number)) return;
    const isEnd = stretch.isLast && presences.lastDay[employments[at] as number] === stretch.until - 1;
    const until = isEnd ? stretch.until - 1 : stretch.until;
    const share = (hours[at] as number) - (lent[at] as number) - (atWork ? (away[at] as number) : 0);
    const week = places.get(fullTime[at] as number) as number;
    if (misses === 0) {
      const row = (week * values.size + stretch.code) * n;
      const first = closesBefore(months, stretch.from);
      const after = closesBefore(months, until);
      if (first < after) {
        sums[row + first] = (sums[row + first] as number) + share;
        if (after < n) sums[row + after] = (sums[row + after] as number) - share;
      }
    }
    if (stretch.from <= lastClose && lastClose < until) chips.add(stretch, share / (fullTime[at] as number));
  });
  accumulate(sums, n);
  return { values, chips: chips.counts, weeks, hours: sums };
};
