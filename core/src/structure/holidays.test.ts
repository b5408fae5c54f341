import { describe, expect, test } from '@jest/globals';
import { byDay, day, weekdayOf, yearDays, yearOf } from '../time/calendar';
import { copiedHolidays, isWorkingDay } from './holidays';

const one = (on: string, name: string, locationId: number | null = null) => ({
  day: day(on),
  name,
  locationId,
});

describe('holidays copied from the year before', () => {
  const known = [
    one('2025-12-25', 'Christmas Day'),
    one('2026-12-25', 'Christmas Day'),
    one('2025-04-21', 'Easter Monday'),
    one('2026-04-06', 'Easter Monday'),
    one('2026-06-24', 'Founding day', 7),
    one('2026-05-01', 'May Day'),
    one('2027-05-01', 'may day'),
  ];

  test('say which stood on the same day, which moved, and which are known from one year only; those there are left out', () => {
    expect(copiedHolidays(known, 2027)).toEqual([
      { ...one('2027-04-06', 'Easter Monday'), before: 'moved' },
      { ...one('2027-06-24', 'Founding day', 7), before: 'unknown' },
      { ...one('2027-12-25', 'Christmas Day'), before: 'same' },
    ]);
  });

  test('the same name at another place is another holiday; nothing before is nothing to copy', () => {
    const there = [one('2026-06-24', 'Founding day', 7), one('2027-06-24', 'Founding day', 8)];
    expect(copiedHolidays(there, 2027)).toHaveLength(1);
    expect(copiedHolidays(known, 2031)).toEqual([]);
  });

  test('29 February stands on the 28th in other years', () => {
    expect(copiedHolidays([one('2028-02-29', 'Leap day')], 2029)[0]?.day).toBe('2029-02-28');
  });
});

describe('days of the week', () => {
  test('are those of the calendar, before 1970 too', () => {
    // Monday 23 November 2026, Sunday 29 February 2032, Thursday 1 January 1970, Monday 1 January 1900
    expect(['2026-11-23', '2032-02-29', '1970-01-01', '1900-01-01'].map((on) => weekdayOf(day(on)))).toEqual([
      1, 7, 4, 1,
    ]);
  });

  test('Saturday is worked where it is said, Friday where nothing is', () => {
    expect(isWorkingDay(['sat', 'sun'], day('2026-11-28'))).toBe(true);
    expect(isWorkingDay(['sat', 'sun'], day('2026-11-27'))).toBe(false);
    expect(isWorkingDay(null, day('2026-11-27'))).toBe(true);
    expect(isWorkingDay(null, day('2026-11-28'))).toBe(false);
  });

  test('a year has its first and last day', () => {
    expect(yearDays(yearOf(day('2026-11-23')))).toEqual({ first: '2026-01-01', last: '2026-12-31' });
    expect([one('2026-03-01', 'b'), one('2026-02-01', 'a')].sort(byDay).map(({ name }) => name)).toEqual([
      'a',
      'b',
    ]);
  });
});
