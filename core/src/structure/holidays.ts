import type { Values } from '@gremium/contract';
import { addMonths } from '../time/calendar';

type Holiday = Values<'holiday'>;

/** A holiday proposed for another year; `isSure`: it stood on the same day in each of the two years before. */
export type ProposedHoliday = Holiday & { isSure: boolean };

const yearOf = ({ day }: Pick<Holiday, 'day'>): number => Number(day.slice(0, 4));
const placeOf = ({ name, locationId }: Holiday): string => `${locationId} ${name.toLowerCase()}`;
const within = ({ day }: Holiday): string => day.slice(5);

/**
 * The holidays of a year as copied from the year before, earliest first: those not there yet for the same place by name. One
 * that stood on another day in the year before that may move, and is not sure; 29 February stands on the 28th in other years.
 */
export const copiedHolidays = (known: readonly Holiday[], year: number): ProposedHoliday[] => {
  const of = (wanted: number) => known.filter((one) => yearOf(one) === wanted);
  const there = new Set(of(year).map(placeOf));
  const before = of(year - 2);
  return of(year - 1)
    .filter((one) => !there.has(placeOf(one)))
    .map((one) => ({
      ...one,
      day: addMonths(one.day, 12),
      isSure: before.some((other) => placeOf(other) === placeOf(one) && within(other) === within(one)),
    }))
    .sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.name.localeCompare(b.name)));
};
