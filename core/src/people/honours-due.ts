// Who becomes due for an honour by their years of service.
import type { Day } from '@gremium/contract';
import { BEGINNING, addDays, addMonths, completedYears, isBefore, isOn } from '../time/calendar';
import type { Register } from '../time/register';
import { mainEmployment, spellsOf } from './employments';
import { standsStill } from './record-laws';

/** A kind of honour that is given for years of service. */
export type ServiceHonour = { honourId: number; years: number };

/** Kinds of honours given for years of service that may be chosen on a day, fewest years first. */
export const serviceHonours = (register: Register, on: Day): ServiceHonour[] =>
  [...register.allOn('list_entry', on)]
    .flatMap(({ thing, values }) =>
      values.list === 'honour' && values.flags.years !== undefined
        ? [{ honourId: thing, years: values.flags.years }]
        : [],
    )
    .sort((a, b) => a.years - b.years || a.honourId - b.honourId);

/** The first day with so many completed years: of 29 February that is the day after 28 February, where there is no 29th. */
export const dayOfYears = (first: Day, years: number): Day => {
  const day = addMonths(first, 12 * years);
  return completedYears(first, day) >= years ? day : addDays(day, 1);
};

/** The honours that somebody employed on `by` has the years for by then, and does not hold; each with the day it was reached. */
export const honoursDue = (
  register: Register,
  personId: number,
  by: Day,
  kinds: readonly ServiceHonour[],
): { honourId: number; years: number; due: Day }[] => {
  const spell = mainEmployment(spellsOf(register, personId), by);
  if (!spell || spell.from === BEGINNING) return [];
  const first = spell.rows.find((row) => isOn(row, by))?.values.seniorityDate ?? (spell.from as Day);
  const reached = kinds
    .map(({ honourId, years }) => ({ honourId, years, due: dayOfYears(first, years) }))
    .filter(({ due }) => !isBefore(by, due));
  if (reached.length === 0) return [];
  const held = new Set(
    register
      .referrers('award', 'personId', personId)
      .filter((row) => standsStill(row))
      .map(({ values }) => values.honourId),
  );
  return reached.filter(({ honourId }) => !held.has(honourId));
};
