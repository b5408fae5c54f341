// What a cell of a cross table is made of: inputs by month and the people behind it (docs/model.md, "Measures").
import type { Bound, Day, ReasonClass } from '@gremium/contract';
import { fraction, hundredths } from '../structure/fraction';
import { spokenName } from '../people/names';
import { addMonths, boundOf, dayNumber, day as asDay } from '../time/calendar';
import { type CrossAsk, type CrossMonth, crossTable, monthsAsked, monthOf, ratesOf } from './cross-table';
import { type Key, coded, existence } from './dimensions';
import type { Facts } from './facts';
import { EDGE, classCodes } from './presences';
import { type Asked, monthsOf, tally } from './tally';
import { type Stretch, placementsWalked, presencesWalked, walk } from './walk';

export type WhyCell = { key: Key | 'all'; month: string };

export type WhyPerson = {
  personId: number;
  name: string;
  title: string;
  place: string;
  day: Day | null;
  class: ReasonClass | null;
  fte: number | null;
};

export type Why = Omit<CrossMonth, 'month'> & {
  value: number | null;
  months: { month: string; close: number | null; joiners: number; leavers: number }[];
  average: number | null;
  leavers: number;
  people: WhyPerson[];
  total: number;
};

const MOST_PEOPLE = 500;

/** Opens one cell. The value is worked out anew from the inputs shown; people are those of the numerator. */
export const why = (facts: Facts, ask: CrossAsk, { key, month }: WhyCell): Why => {
  const one = { ...ask, from: asDay(`${month}-01`), until: asDay(`${month}-01`) };
  const { months } = monthsAsked(one);
  const end = months.ends.at(-1) ?? one.from;
  const n = months.ends.length;
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
    people: behind.slice(0, MOST_PEOPLE),
    total: behind.length,
  };
};

type Cell = { code: number; all: boolean; end: Day };

const peopleBehind = (facts: Facts, ask: CrossAsk, { code, all, end }: Cell): WhyPerson[] => {
  const { months } = monthsAsked(ask);
  const { measure } = ask;
  const isFte = measure === 'fte' || measure === 'fteAtWork';
  const { presences } = facts;
  const close = dayNumber(end);
  const { classes } = ask.narrowing;
  const found: WhyPerson[] = [];
  const isOurs = ({ inside, misses, code: own }: Stretch): boolean =>
    inside && misses === 0 && (all || own === code);
  const visit = (stretch: Stretch): void => {
    if (!isOurs(stretch)) return;
    const { presence, person, from, until, isFirst, isLast, segment } = stretch;
    const at = (day: number, more: Partial<WhyPerson> = {}) =>
      found.push({ ...describe(facts, person, segment, day), ...more });
    if (measure === 'joiners') {
      const joins = isFirst && presences.start[presence] === EDGE.employment;
      if (joins && months.first <= from && from <= close) at(from, { day: boundOf(from) as Day });
      return;
    }
    const leaves = isLast && presences.end[presence] === EDGE.employment;
    if (measure === 'headcount') {
      if (from <= close && close < (leaves ? until - 1 : until)) at(close);
      return;
    }
    const last = until - 1;
    const reason = classCodes[presences.reason[presence] as number] as ReasonClass;
    if (!leaves || last < months.first || last > close) return;
    if (classes?.length && !classes.includes(reason)) return;
    at(last, { day: boundOf(last) as Day, class: reason });
  };
  if (!isFte) walk(facts, presencesWalked(facts), { ...ask, from: months.first, until: months.last }, visit);
  else found.push(...sharesBehind(facts, ask, close, isOurs));
  return found.sort(
    (a, b) => (a.day === b.day ? 0 : (a.day ?? '') > (b.day ?? '') ? -1 : 1) || (a.name < b.name ? -1 : 1),
  );
};

const sharesBehind = (
  facts: Facts,
  ask: CrossAsk,
  close: number,
  isOurs: (stretch: Stretch) => boolean,
): WhyPerson[] => {
  const { columns, presences } = facts;
  const table = columns.table('placement');
  const cell = (field: string, slot: number) => table.column(field)[slot] as number;
  const found: WhyPerson[] = [];
  walk(facts, placementsWalked(facts), { ...ask, from: close, until: close }, (stretch) => {
    const { presence: slot, from, until, isLast, segment, person } = stretch;
    const isEnd = isLast && presences.lastDay[cell('employmentId', slot)] === until - 1;
    if (!isOurs(stretch) || from > close || close >= (isEnd ? until - 1 : until)) return;
    const away = ask.measure === 'fteAtWork' ? cell('awayHours', slot) : 0;
    const share = fraction(cell('hours', slot) - cell('lentHours', slot) - away, cell('fullTime', slot));
    found.push({ ...describe(facts, person, segment, close), fte: hundredths(share) });
  });
  return found;
};

const describe = (facts: Facts, person: number, segment: number, on: number): WhyPerson => {
  const { columns, places } = facts;
  const personId = columns.thingsOf('person').ids[person] as number;
  const day: Bound = boundOf(on);
  const name =
    columns.at('person_name', personId, day) ?? columns.rows('person_name', personId).at(-1)?.values;
  const unit = segment < 0 ? -1 : (places.unit[segment] as number);
  const unitName =
    unit < 0 ? undefined : columns.at('unit', columns.thingsOf('unit').ids[unit] as number, day)?.name;
  return {
    personId,
    name: name ? spokenName(name) : '',
    title: titleOn(facts, segment, day),
    place: unitName ?? '',
    day: null,
    class: null,
    fte: null,
  };
};

const titleOn = ({ columns, places }: Facts, segment: number, day: Bound): string => {
  if (segment < 0) return '';
  const position = columns.thingsOf('position').ids[places.position[segment] as number] as number;
  return columns.at('position', position, day)?.title ?? '';
};

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
