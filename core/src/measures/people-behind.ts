// The people whom a figure counts, each with where they stood on the day that counted.
import type { Bound, Day, ReasonClass } from '@gremium/contract';
import { spokenName } from '../people/names';
import { fraction, hundredths } from '../structure/fraction';
import { boundOf, dayNumber } from '../time/calendar';
import { type CrossAsk, monthsAsked } from './cross-table';
import type { Facts } from './facts';
import { EDGE, classCodes } from './presences';
import { type Stretch, placementsWalked, presencesWalked, walk } from './walk';

/** Somebody behind a figure, and how they came to be in it. */
export type WhyPerson = {
  personId: number;
  /** As of the day counted. */
  number: string;
  name: string;
  title: string;
  place: string;
  day: Day | null;
  class: ReasonClass | null;
  fte: number | null;
};

/** The cell of a value's code, or of all; counted at the close of a day. */
export type Cell = { code: number; all: boolean; end: Day };

/** Everybody whom a measure counts in a cell, by day, name and age of the record. */
export const peopleBehind = (facts: Facts, ask: CrossAsk, { code, all, end }: Cell): WhyPerson[] => {
  const { months } = monthsAsked(ask);
  const { measure } = ask;
  const { presences } = facts;
  const close = dayNumber(end);
  const { classes } = ask.narrowing;
  const found: WhyPerson[] = [];
  const isOurs = ({ inside, misses, code: own }: Stretch): boolean =>
    inside && misses === 0 && (all || own === code);
  if (measure === 'fte' || measure === 'fteAtWork')
    return sharesBehind(facts, ask, close, isOurs).sort(inOrder);
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
  walk(facts, presencesWalked(facts), { ...ask, from: months.first, until: months.last }, visit);
  return found.sort(inOrder);
};

const inOrder = (a: WhyPerson, b: WhyPerson): number => {
  if (a.day !== b.day) return (a.day ?? '') > (b.day ?? '') ? -1 : 1;
  if (a.name !== b.name) return a.name < b.name ? -1 : 1;
  return a.personId - b.personId;
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
    if (!presences.countsEmployment(cell('employmentId', slot))) return;
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
    number: columns.at('person', personId, day)?.number ?? '',
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
