// Laws of what else is kept of people: days in their order, cost splits that are whole, honours that their kinds allow.
import type { Award, Change, Day, Flags, Problem, Row, SectionName } from '@gremium/contract';
import { BEGINNING, completedYears, isBefore, isOn, overlaps } from '../time/calendar';
import type { Offence } from '../time/offence';
import { problem } from '../time/problem';
import type { Register } from '../time/register';
import { spellsOf, workerFlags } from './employments';

// Of each section the days that follow each other, as far as both are said.
const DAYS: { [S in SectionName]?: readonly (readonly [string, string])[] } = {
  identifier: [['issuedOn', 'expiresOn']],
  held_certificate: [['issuedOn', 'expiresOn']],
  attended_training: [['completedOn', 'expiresOn']],
  medical_fitness: [['examinedOn', 'expiresOn']],
  disciplinary_measure: [['imposedOn', 'lapsesOn']],
  asset: [['givenOn', 'returnedOn']],
  award: [
    ['awardedOn', 'expiresOn'],
    ['awardedOn', 'takenBackOn'],
  ],
};

/** A day that ends something does not lie before the one that began it (`days_turned`). */
export const daysInOrder = (row: Row): Offence[] =>
  (DAYS[row.section] ?? []).flatMap(([first, last]) => {
    const values = row.values as Record<string, unknown>;
    const [from, until] = [values[first], values[last]];
    return typeof from === 'string' && typeof until === 'string' && isBefore(until as never, from as never)
      ? [{ problem: problem('days_turned', { day: from }, last), rows: [row], on: row }]
      : [];
  });

/** What is paid each time says how often a year; of hours, days and years that says nothing (`times_*`). */
export const timesFit = (row: Row): Offence[] => {
  if (row.section !== 'pay') return [];
  const { basis, timesAYear } = (row as Row<'pay'>).values;
  if (basis === 'time' && timesAYear === null)
    return [{ problem: problem('times_needed', {}, 'timesAYear'), rows: [row], on: row }];
  const isOdd = timesAYear !== null && basis !== 'time' && basis !== 'month';
  return isOdd ? [{ problem: problem('times_senseless', {}, 'timesAYear'), rows: [row], on: row }] : [];
};

const WHOLE = 100;

/** Where the cost of an employment is split, its parts are exactly the whole on each day (`cost_split_whole`). */
export const splitWhole = (register: Register, employmentId: number): Offence[] => {
  const rows = register.referrers('cost_split', 'employmentId', employmentId);
  // it can be otherwise only where a part begins or ends
  const days = [...new Set(rows.flatMap(({ from, until }) => [from, until]))];
  for (const day of days) {
    const there = rows.filter((row) => isOn(row, day));
    const sum = there.reduce((total, { values }) => total + values.part, 0);
    if (there.length === 0 || sum === WHOLE) continue;
    const said = { sum: (sum / WHOLE).toFixed(2), day };
    const [on] = there as [Row<'cost_split'>];
    return [{ problem: problem('cost_split_whole', said, 'part'), rows: there, on }];
  }
  return [];
};

/** What a kind of honour says of itself. */
export const meaningOf = (register: Register, honourId: number): Flags =>
  register.rows('list_entry', honourId).at(-1)?.values.flags ?? {};

/** Whether each of its kind has a number: first, second, third. */
export const isSeries = ({ asks = [] }: Flags): boolean => asks.includes('ordinal');

/** Whether an honour still stands: it was not taken back. */
export const standsStill = ({ values }: Pick<Row<'award'>, 'values'>): boolean => values.takenBackOn === null;

type Given = Pick<Award, 'personId' | 'honourId' | 'awardedOn' | 'country' | 'ordinal'>;

// For whom and where a kind makes sense: paid by us, for so many years of service, in some countries.
const makesNoSense = (register: Register, given: Given): Problem | null => {
  const { personId, honourId, awardedOn, country } = given;
  const { countries, years, paidOnly = false } = meaningOf(register, honourId);
  if (countries && country !== null && !countries.includes(country))
    return problem('honour_country', { country, countries: countries.join(', ') }, 'country');
  if (paidOnly && !isPaidOn(register, personId, awardedOn))
    return problem('honour_paid_only', { day: awardedOn }, 'personId');
  if (years !== undefined) {
    const served = yearsServed(register, personId, awardedOn);
    if (served < years) return problem('honour_too_early', { years, served, day: awardedOn }, 'awardedOn');
  }
  return null;
};

// From the earliest day that any employment gives: what is refused is surely too early.
const yearsServed = (register: Register, personId: number, on: Day): number => {
  const firsts = spellsOf(register, personId).flatMap(({ from, rows }) => [
    ...(from === BEGINNING ? [] : [from as Day]),
    ...rows.flatMap(({ values }) => values.seniorityDate ?? []),
  ]);
  const first = firsts.sort()[0];
  return first && !isBefore(on, first) ? completedYears(first, on) : 0;
};

const isPaidOn = (register: Register, personId: number, on: Day): boolean =>
  spellsOf(register, personId).some(({ rows }) =>
    rows.some((row) => isOn(row, on) && workerFlags(register, row.values.workerTypeId).paid),
  );

type Others = readonly Pick<Row<'award'>, 'values'>[];

// One that is given once only, a number where there is no series, a number that another one has.
const isTaken = (register: Register, given: Given, others: Others): Problem | null => {
  const meaning = meaningOf(register, given.honourId);
  const held = others.find(standsStill);
  if (meaning.once && held) return problem('honour_once', { day: held.values.awardedOn }, 'honourId');
  if (given.ordinal === null) return null;
  if (!isSeries(meaning)) return problem('honour_no_series', {}, 'ordinal');
  const same = others.find(({ values }) => values.ordinal === given.ordinal);
  const params = { number: given.ordinal, day: same?.values.awardedOn ?? '' };
  return same ? problem('honour_number_taken', params, 'ordinal') : null;
};

/** Why somebody may not have an honour beside those of its kind that they hold; null where they may. */
export const honourForbids = (register: Register, given: Given, others: Others): Problem | null =>
  isTaken(register, given, others) ?? makesNoSense(register, given);

/** What was said anew of honours in a change: rows of another kind, day, country or number than before. */
const saidAnew = ({ recorded, superseded }: Change): Set<number> => {
  const told = ({ thing, values }: Row): string => {
    const { honourId, awardedOn, country, ordinal } = values as Award;
    return [thing, honourId, awardedOn, country, ordinal].join(' ');
  };
  const ofAwards = (rows: readonly Row[]) => rows.filter(({ section }) => section === 'award');
  const stood = new Set(ofAwards(superseded).map(told));
  return new Set(ofAwards(recorded).flatMap((row) => (stood.has(told(row)) ? [] : row.id)));
};

/**
 * An honour says what its kind asks for, is given as often and to whom that allows, and is taken back by an order (`honour_*`).
 * Asked of what a change says anew: whoever mends a note is not stopped by what its kind asks for since.
 */
export const honoursFit = (register: Register, personId: number, change: Change): Offence[] => {
  const rows = register.referrers('award', 'personId', personId);
  const recorded = new Set(change.recorded.map(({ id }) => id));
  const anew = saidAnew(change);
  return rows.flatMap((row): Offence[] => {
    const { values, id, thing } = row;
    if (!recorded.has(id)) return [];
    const found: Problem[] = [];
    const alike = rows.filter(
      (one) => one.thing !== thing && one.values.honourId === values.honourId && overlaps(one, row),
    );
    const forbids = anew.has(id) && standsStill(row) ? honourForbids(register, values, alike) : null;
    if (forbids) found.push(forbids);
    if (anew.has(id))
      for (const field of meaningOf(register, values.honourId).asks ?? [])
        if (values[field] === null) found.push(problem('honour_needs', {}, field));
    if ((values.takenBackOn === null) !== (values.takenBackOrder === null))
      found.push(problem('order_taken_back', {}, 'takenBackOrder'));
    return found.map((one) => ({ problem: one, rows: [row], on: row }));
  });
};

/** The number in the series that an honour of a kind would have: after those awarded before it, also such as were taken back. */
export const nextOrdinal = (
  honours: readonly Pick<Row<'award'>, 'values'>[],
  honourId: number,
  awardedOn: Day,
): number =>
  honours.reduce(
    (next, { values }) =>
      values.honourId === honourId && !isBefore(awardedOn, values.awardedOn)
        ? Math.max(next, (values.ordinal ?? 0) + 1)
        : next,
    1,
  );

/** People of whose honours a change says something. */
export const honouredIn = ({ recorded }: Change): boolean =>
  recorded.some(({ section }) => section === 'award');
