import type { Day, Organisation, Values } from '@gremium/contract';
import { weekdays } from '@gremium/contract';
import { addMonths, byDay, weekdayOf, yearOf } from '../time/calendar';

type Holiday = Values<'holiday'>;

/**
 * A holiday proposed for another year; `before`: whether it stood on the same day in the two years before, on another one, or
 * whether only one year is known.
 */
export type ProposedHoliday = Holiday & { before: 'same' | 'moved' | 'unknown' };

const placeOf = ({ name, locationId }: Holiday): string => `${locationId} ${name.toLowerCase()}`;

/**
 * The holidays of a year as copied from the year before, earliest first: those not there yet for the same place by name; 29
 * February stands on the 28th in other years.
 */
export const copiedHolidays = (known: readonly Holiday[], year: number): ProposedHoliday[] => {
  const of = (wanted: number) => known.filter(({ day }) => yearOf(day) === wanted);
  const there = new Set(of(year).map(placeOf));
  const earlier = of(year - 2);
  const beforeOf = (one: Holiday): ProposedHoliday['before'] => {
    const alike = earlier.filter((other) => placeOf(other) === placeOf(one));
    if (alike.length === 0) return 'unknown';
    return alike.some(({ day }) => addMonths(day, 12) === one.day) ? 'same' : 'moved';
  };
  return of(year - 1)
    .filter((one) => !there.has(placeOf(one)))
    .map((one) => ({ ...one, day: addMonths(one.day, 12), before: beforeOf(one) }))
    .sort((a, b) => byDay(a, b) || a.name.localeCompare(b.name));
};

const USUAL: NonNullable<Organisation['workingDays']> = ['mon', 'tue', 'wed', 'thu', 'fri'];

/** Whether a day is one on which work is done, holidays aside; where nothing is said, Monday to Friday. */
export const isWorkingDay = (workingDays: Organisation['workingDays'], day: Day): boolean => {
  const name = weekdays[weekdayOf(day) - 1];
  return name !== undefined && (workingDays ?? USUAL).includes(name);
};
