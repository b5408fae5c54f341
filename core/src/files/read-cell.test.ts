import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { boundOf } from '../time/calendar';
import { matchColumns } from './match-columns';
import { dayOrderOf, readDay } from './read-cell';

const dayOf = (text: string, order: 'day_first' | 'month_first' = 'day_first') => {
  const read = readDay(text, order);
  return 'value' in read ? read.value : [read.problem.code, ...read.offers].join(' ');
};

describe('days in cells', () => {
  test.each([
    ['2027-03-01', '2027-03-01'],
    ['1.3.2027', '2027-03-01'],
    ['01/03/27', '2027-03-01'],
    ['1 Mar 2027', '2027-03-01'],
    ['1. März 2027', '2027-03-01'],
    ['2027-03-01 00:00:00', '2027-03-01'],
    ['2027/3/1', '2027-03-01'],
    ['Mar 1, 2027', '2027-03-01'],
    ['31.12.1968', '1968-12-31'],
    ['5.6.68', '1968-06-05'],
    // only one of the two can be a month
    ['3/25/2027', '2027-03-25'],
    ['31.02.2027', 'day_unreal 2027-02-28 2027-03-01'],
    ['29.02.2028', '2028-02-29'],
    ['29.02.2027', 'day_unreal 2027-02-28 2027-03-01'],
    ['31.06.2027', 'day_unreal 2027-06-30 2027-07-01'],
    ['1.13.2027', '2027-01-13'],
    ['soon', 'day_unread'],
    ['46082', 'day_unread'],
    ['1.1.1850', 'day_invalid'],
    ['40.1.2027', 'day_invalid'],
  ])('%s is %s', (text, expected) => expect(dayOf(text)).toBe(expected));

  test('a column shows whether the day or the month comes first', () => {
    expect(dayOrderOf(['3/4/2027', '12/31/2027'])).toBe('month_first');
    expect(dayOrderOf(['3/4/2027', '31/12/2027'])).toBe('day_first');
    expect(dayOrderOf(['3/4/2027'])).toBe('day_first');
    expect(dayOf('3/4/2027', 'month_first')).toBe('2027-03-04');
  });

  test('every day written in any of the usual ways is read as itself', () => {
    fc.assert(
      fc.property(fc.integer({ min: -36000, max: 72000 }), (n) => {
        const day = boundOf(n) as string;
        const [y, m, d] = day.split('-').map(Number) as [number, number, number];
        const ways = [day, `${d}.${m}.${y}`, `${d}/${m}/${y}`, `${y}-${m}-${d}`, `${day}T12:30`];
        return ways.every((text) => dayOf(text) === day);
      }),
      { numRuns: 300 },
    );
  });
});

describe('columns', () => {
  test('are matched by name, by label in either language, by other names, with marks or without, each field once', () => {
    const headings = [
      'Vorname *',
      'LAST NAME',
      'E-Mail',
      'e mail',
      'Eintritt',
      'Avdelning',
      'Locker',
      'legalEntity',
    ];
    expect(matchColumns(headings, new Map()).map(({ field }) => field)).toEqual([
      'given',
      'family',
      'email',
      null,
      'firstDay',
      'unit',
      null,
      'legalEntity',
    ]);
  });

  test('what was chosen for a heading before goes first, also that it is not taken in', () => {
    const memory = new Map<string, 'phone' | null>([
      ['locker', 'phone'],
      ['e mail', null],
    ]);
    expect(matchColumns(['Locker', 'E-Mail'], memory)).toEqual([
      { field: 'phone', how: 'memory' },
      { field: null, how: null },
    ]);
  });
});
