import { describe, expect, test } from '@jest/globals';
import type { Day, DayOrder } from '@gremium/contract';
import fc from 'fast-check';
import { STANDS, TYPED_ON, spellings } from '../../test/spellings-of-days';
import { addDays, boundOf } from '../time/calendar';
import { type DayReading, columnOrderOf, dayOrderIn, readColumnDay, readDay, readTypedDay } from './read-day';

const said = (read: DayReading): string =>
  'value' in read ? read.value : [read.problem.code, ...read.offers].join(' ');
const reading = (text: string, order: DayOrder = 'day_first') =>
  said(readDay(text, { order, today: TYPED_ON }));

describe('a day as it is typed', () => {
  test.each(spellings)('$text is $is', ({ text, is, offers = [] }) =>
    expect(said(readTypedDay(text, { order: 'day_first', today: TYPED_ON }, STANDS))).toBe(
      [is, ...offers].join(' '),
    ),
  );

  test('what is counted is no day without a field, but from today', () => {
    expect(reading('+14')).toBe('day_unread');
    expect(said(readTypedDay('+14', { order: 'day_first', today: TYPED_ON }))).toBe('2026-12-07');
    expect(said(readTypedDay('+1 m', { order: 'day_first', today: TYPED_ON }, '2027-01-31' as Day))).toBe(
      '2027-02-28',
    );
    expect(said(readTypedDay('+99999 years', { order: 'day_first', today: TYPED_ON }))).toBe('day_invalid');
  });

  test('where the month comes first, numbers are read so, and nothing else is', () => {
    expect(reading('4/25/2027', 'month_first')).toBe('2027-04-25');
    expect(reading('3/4/27', 'month_first')).toBe('2027-03-04');
    expect(reading('25/4/2027', 'month_first')).toBe('day_order 2027-04-25');
    expect(reading('2/30/2027', 'month_first')).toBe('day_unreal 2027-02-28 2027-03-01');
    expect(reading('03312027', 'month_first')).toBe('2027-03-31');
    expect(reading('1 Mar 2027', 'month_first')).toBe('2027-03-01');
    expect(['D MMM YYYY', 'MM/DD/YYYY', 'YYYY-MM-DD'].map(dayOrderIn)).toEqual([
      'day_first',
      'month_first',
      'day_first',
    ]);
  });

  test('every day written in any of the usual ways is read as itself', () => {
    fc.assert(
      fc.property(fc.integer({ min: -36000, max: 72000 }), (n) => {
        const day = boundOf(n) as string;
        const [y, m, d] = day.split('-').map(Number) as [number, number, number];
        const two = (of: number) => String(of).padStart(2, '0');
        const ways = [
          ...[day, `${d}.${m}.${y}`, `${d}/${m}/${y}`, `${y}-${m}-${d}`, `${day}T12:30`],
          ...[`${two(d)}${two(m)}${y}`, `${y}${two(m)}${two(d)}`],
        ];
        return ways.every((text) => reading(text) === day);
      }),
      { numRuns: 300 },
    );
  });

  test('no text is ever a day that is not written in it: digits taken away or put in are refused or another day of theirs', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 14 }), (text) => {
        const read = readTypedDay(text, { order: 'day_first', today: TYPED_ON });
        return 'problem' in read || /\d|heute|morgen|today|month|year|monat|jahr|gestern|day/i.test(text);
      }),
      { numRuns: 2000 },
    );
  });
});

describe('two digits of a year', () => {
  const born = (text: string, birth: 'person' | 'kin') =>
    said(readDay(text, { order: 'day_first', today: TYPED_ON, birth }));

  test('mean one at most twenty years ahead', () => {
    expect(reading('1.1.46')).toBe('2046-01-01');
    expect(reading('1.1.47')).toBe('1947-01-01');
    expect(reading('1.1.99')).toBe('1999-01-01');
    expect(reading('1.1.00')).toBe('2000-01-01');
  });

  test('of a birth date make somebody 14 to 90 years old, else it is asked which', () => {
    expect(born('3.5.87', 'person')).toBe('1987-05-03');
    expect(born('3.5.36', 'person')).toBe('1936-05-03');
    // 14 on 23 November 2026, which the other reading is not by a day
    expect(born('23.11.12', 'person')).toBe('2012-11-23');
    expect(born('24.11.12', 'person')).toBe('birth_year_unclear 1912-11-24 2012-11-24');
    expect(born('3.5.15', 'person')).toBe('birth_year_unclear 1915-05-03 2015-05-03');
    // 96, and not yet born: nothing but the one is left
    expect(born('3.5.30', 'person')).toBe('1930-05-03');
    expect(born('3.5.19', 'kin')).toBe('2019-05-03');
    expect(born('3.5.87', 'kin')).toBe('1987-05-03');
    expect(born('1.12.26', 'kin')).toBe('1926-12-01');
  });
});

describe('the order of a column', () => {
  const order = (...texts: string[]) => columnOrderOf(texts).order;
  const cell = (text: string, of: DayOrder | null) =>
    said(readColumnDay(text, { order: of, today: TYPED_ON }));

  test('is told by cells that are a day in one order only, by most of them where they differ', () => {
    expect(order('3/4/2027', '12/31/2027')).toBe('month_first');
    expect(order('3/4/2027', '31/12/2027')).toBe('day_first');
    expect(order('25/04/1987', '26/04/1987', '4/25/1987')).toBe('day_first');
    expect(columnOrderOf(['03/04/1987', '25/04/1987'])).toMatchObject({
      example: '03/04/1987',
      told: '25/04/1987',
    });
  });

  test('is asked where nothing tells, or as many tell the one as the other', () => {
    expect(order('03/04/1987')).toBeNull();
    expect(order('25/04/1987', '4/25/1987')).toBeNull();
    expect(order('03/04/1987 00:00')).toBeNull();
  });

  test('is none to ask of where it does not matter; points are written with the day first', () => {
    expect(order('5/5/2027', '2027-03-04', '')).toBe('day_first');
    expect(order('03.04.1987')).toBe('day_first');
    expect(order('03/04/1987', '3.4.87')).toBe('day_first');
  });

  test('decides each cell of it; who contradicts is refused with an offer, what is not decided with both', () => {
    expect(cell('3/4/1987', 'day_first')).toBe('1987-04-03');
    expect(cell('3/4/1987', 'month_first')).toBe('1987-03-04');
    expect(cell('4/25/1987', 'day_first')).toBe('day_order 1987-04-25');
    expect(cell('3/4/1987', null)).toBe('day_both 1987-04-03 1987-03-04');
    expect(cell('25/4/1987', null)).toBe('1987-04-25');
    expect(cell('1987-04-03', null)).toBe('1987-04-03');
    expect(addDays('1987-04-03' as Day, 1)).toBe('1987-04-04');
  });
});
