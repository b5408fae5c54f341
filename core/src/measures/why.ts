// What a cell of a cross table is made of: inputs by month and the people behind it (docs/model.md, "Measures").
import type { Day } from '@gremium/contract';
import { addMonths, boundOf, dayNumber, day as asDay } from '../time/calendar';
import { type CrossAsk, type CrossMonth, crossTable, monthsAsked, monthOf, ratesOf } from './cross-table';
import { type Key, coded, existence } from './dimensions';
import type { Facts } from './facts';
import { type WhyPerson, peopleBehind } from './people-behind';
import { type Asked, monthsOf, tally } from './tally';

/** A value and a month of a cross table. */
export type WhyCell = { key: Key | 'all'; month: string };

/** What a cell is made of. */
export type Why = Omit<CrossMonth, 'month'> & {
  value: number | null;
  months: { month: string; close: number | null; joiners: number; leavers: number }[];
  average: number | null;
  leavers: number;
  people: WhyPerson[];
  total: number;
};

/** Which of the people behind a figure are asked for; they are counted all the same. */
export type WhyPage = { offset: number; limit: number };

const ALL: WhyPage = { offset: 0, limit: Infinity };

const NOTHING = { value: null, months: [], average: null, leavers: 0, people: [], total: 0 };

const notYet = (ask: CrossAsk, month: string): Omit<CrossMonth, 'month'> => {
  const { month: _, ...about } = monthOf(asDay(`${month}-01`), ask, 0);
  return { ...about, isCut: true };
};

/** Opens one cell. The value is worked out anew from the inputs shown; people are those of the numerator. */
export const why = (facts: Facts, ask: CrossAsk, { key, month }: WhyCell, page: WhyPage = ALL): Why => {
  const one = { ...ask, from: asDay(`${month}-01`), until: asDay(`${month}-01`) };
  const { months } = monthsAsked(one);
  const end = months.ends.at(-1) ?? one.from;
  const n = months.ends.length;
  // nothing is counted after the day looked at
  if (!end.startsWith(month) || n === 0) return { ...notYet(one, month), ...NOTHING };
  const code = key === 'all' ? -1 : coded(facts.columns, ask.by).codeOf(key);
  const sums = tally(facts, { ...one, months, shown: 0 });
  const rowOf = (cells: Int32Array): Int32Array => {
    if (key !== 'all') return code < 0 ? new Int32Array(n) : cells.subarray(code * n, (code + 1) * n);
    const all = new Int32Array(n);
    for (let at = 0; at < cells.length; at++) all[at % n] = (all[at % n] as number) + (cells[at] as number);
    return all;
  };
  const isThere = existence(facts.columns, ask.by, months.ends);
  const exists =
    key === 'all'
      ? new Uint8Array(n).fill(1)
      : code < 0
        ? new Uint8Array(n)
        : isThere.subarray(code * n, (code + 1) * n);
  const [closes, joiners, leavers] = [rowOf(sums.closes), rowOf(sums.joiners), rowOf(sums.leavers)];
  const isRate = ask.measure === 'turnover';
  const rate = isRate ? ratesOf({ closes, leavers, exists, start: 0, end: n }) : null;
  const behind = peopleBehind(facts, one, { code, all: key === 'all', end });
  const valueOf = (): number | null => {
    if (rate) return rate.values[0] ?? null;
    if (ask.measure === 'fte' || ask.measure === 'fteAtWork') {
      const table = crossTable(facts, one);
      const cell = key === 'all' ? table.total : table.rows.find((row) => row.key === key);
      return cell?.values[0] ?? 0;
    }
    return { headcount: closes, joiners, leavers, turnover: closes }[ask.measure][n - 1] as number;
  };
  const { month: _, ...about } = monthOf(end, ask, isRate ? n - 1 : 0);
  return {
    ...about,
    value: about.isKnown ? valueOf() : null,
    months: months.ends.map((at, i) => ({
      month: at.slice(0, 7),
      close: exists[i] === 1 ? (closes[i] as number) : null,
      joiners: joiners[i] as number,
      leavers: leavers[i] as number,
    })),
    average: rate?.averages[0] ?? null,
    leavers: leavers.reduce((sum, count) => sum + count, 0),
    people: behind.slice(page.offset, page.offset + page.limit),
    total: behind.length,
  };
};

/** A value split, and the days over which flows are counted. */
export type FlowsAsk = Pick<CrossAsk, 'by' | 'part' | 'seen'> & { from: Day; until: Day };

/** Opening, joiners, in and out by move, leavers and closing of each month, by value. */
export const monthFlows = (facts: Facts, { from, until, ...rest }: FlowsAsk) => {
  const first = addMonths(asDay(`${from.slice(0, 7)}-01`), -1);
  const last = addMonths(asDay(`${until.slice(0, 7)}-01`), 1);
  const months = monthsOf(first, boundOf(dayNumber(last) - 1) as Day);
  const n = months.ends.length;
  const asked: Asked = { ...rest, measure: 'headcount', months, shown: 1, narrowing: { dimensions: {} } };
  const sums = tally(facts, asked);
  return months.ends.slice(1).map((end, i) => ({
    month: end.slice(0, 7),
    values: Array.from({ length: sums.values.size }, (_, code) => {
      const at = code * n + i + 1;
      return {
        key: sums.values.keyOf(code),
        opening: sums.closes[at - 1] as number,
        joiners: sums.joiners[at] as number,
        in: sums.in[at] as number,
        leavers: sums.leavers[at] as number,
        out: sums.out[at] as number,
        closing: sums.closes[at] as number,
      };
    }).filter(({ opening, joiners, in: came, leavers, out, closing }) =>
      [opening, joiners, came, leavers, out, closing].some((count) => count !== 0),
    ),
  }));
};
