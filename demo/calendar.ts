// Public holidays and exchange rates of Vessmar Ferries: days as the countries have them, rates invented.
import type { Day } from '@gremium/contract';
import { BEGINNING, type Draft, OPEN, addDays } from '@gremium/core';
import type { Country, Port } from './structure';

const EVERYWHERE: [string, string][] = [
  ['01-01', 'New Year’s Day'],
  ['12-25', 'Christmas Day'],
  ['12-26', 'Second Day of Christmas'],
];

// day in the year, name, countries
const NATIONAL: [string, string, string][] = [
  ['01-06', 'Epiphany', 'FI SE'],
  ['05-01', 'May Day', 'FI EE SE NO DE'],
  ['05-17', 'Constitution Day', 'NO'],
  ['06-06', 'National Day', 'SE'],
  ['10-03', 'Unity Day', 'DE'],
  ['12-06', 'Independence Day', 'FI'],
];

const EASTER: Record<number, Day> = {
  2024: '2024-03-31' as Day,
  2025: '2025-04-20' as Day,
  2026: '2026-04-05' as Day,
  2027: '2027-03-28' as Day,
};

/** Holidays of the year before a day's, that year, and the next. */
export const makeHolidays = (draft: Draft, ports: readonly Port[], year: number): void => {
  const add = (day: Day, name: string, locationId: number | null) =>
    draft.create('holiday', BEGINNING, { day, name, locationId });
  for (const one of [year - 1, year, year + 1]) {
    const easter = EASTER[one];
    for (const [day, name] of EVERYWHERE) add(`${one}-${day}` as Day, name, null);
    if (easter) add(addDays(easter, 1), 'Easter Monday', null);
    for (const [day, name, countries] of NATIONAL)
      for (const { location, country } of ports)
        if (countries.includes(country.code)) add(`${one}-${day}` as Day, name, location);
  }
};

/** A rate of each other currency, and another one from the first day of a later year. */
export const makeRates = (draft: Draft, countries: readonly Country[]): void => {
  const turn = '2026-01-01' as Day;
  for (const { currency: code, perMonth } of countries) {
    if (code === 'EUR') continue;
    const id = draft.newId();
    draft.begin('exchange_rate', id, { from: BEGINNING, until: OPEN }, { code, rate: String(perMonth) });
    draft.set('exchange_rate', id, { from: turn, values: { rate: (perMonth * 1.02).toFixed(4) } });
  }
};
