// A range said in the form in which pay is typed: worked out by hand from 2,569 to 3,759 EUR a month at 37.5 h.
import { describe, expect, test } from '@jest/globals';
import type { Values } from '@gremium/contract';
import { hundredths } from '../structure/fraction';
import { isTooFine, placesOf } from './currency-places';
import { type Paid, rangeIn } from './pay-range';
import { yearly } from './yearly';

const range: Values<'grade_range'> = {
  ...{ gradeId: 1, currency: 'EUR', minimum: '2569', middle: '3164', maximum: '3759', fullTime: 3750 },
};
type Form = Pick<Paid, 'basis' | 'rate' | 'timesAYear'>;
const said = (form: Form, hours: number, fullTime = 4000, days = 500) => {
  const { minimum, maximum } = rangeIn(form, { gradeId: 1, hours, fullTime, days }, range);
  return [minimum, maximum];
};

describe('a range of 37.5 h', () => {
  test('is another one for other hours, whichever of the two the amount is said for', () => {
    const actual: Form = { basis: 'month', rate: 'actual' };
    expect(said(actual, 3000)).toEqual(['2055.20', '3007.20']);
    expect(said(actual, 3750)).toEqual(['2569.00', '3759.00']);
    // 2,637.5066… and 3,859.24: the first cent inside
    expect(said(actual, 3850)).toEqual(['2637.51', '3859.24']);
    // 2,740.2666…
    expect(said(actual, 4000)).toEqual(['2740.27', '4009.60']);
    const rate: Form = { basis: 'month', rate: 'full_time' };
    expect(said(rate, 3000)).toEqual(['2740.27', '4009.60']);
    expect(said(rate, 3000, 3750)).toEqual(['2569.00', '3759.00']);
  });

  test('is said by the hour, the day and the year', () => {
    // an hour of 37.5 a week: 2,569 × 12 ÷ (52 × 37.5) = 15.8092…; 3,759 × 12 ÷ 1,950 = 23.1323…
    expect(said({ basis: 'hour', rate: 'full_time' }, 3750, 3750)).toEqual(['15.81', '23.13']);
    // a day of five a week: 2,569 × 12 ÷ 260 = 118.5692…; of four: 2,569 × 12 ÷ 208 = 148.2115…
    expect(said({ basis: 'day', rate: 'full_time' }, 3750, 3750)).toEqual(['118.57', '173.49']);
    expect(said({ basis: 'day', rate: 'full_time' }, 3750, 3750, 400)).toEqual(['148.22', '216.86']);
    expect(said({ basis: 'year', rate: 'full_time' }, 3750, 3750)).toEqual(['30828.00', '45108.00']);
    const { grade } = rangeIn(
      { basis: 'month', rate: 'actual' },
      { gradeId: 1, hours: 3750, fullTime: 4000, days: 500 },
      range,
    );
    expect(grade).toBeNull();
  });
});

test('a year of daily pay is 52 times the days of the week worked', () => {
  const day = { amount: '100', basis: 'day' as const };
  expect(hundredths(yearly(day, { fullTime: 3750, days: 500 }))).toBe(2_600_000);
  expect(hundredths(yearly(day, { fullTime: 3750, days: 300 }))).toBe(1_560_000);
  expect(hundredths(yearly(day, { fullTime: 3750, days: 250 }))).toBe(1_300_000);
});

test('an amount has the places of its currency', () => {
  expect(['EUR', 'JPY', 'KWD'].map(placesOf)).toEqual([2, 0, 3]);
  expect(isTooFine('12.345', 'EUR')).toBe(true);
  expect(isTooFine('12.340', 'EUR')).toBe(false);
  expect(isTooFine('1200.5', 'JPY')).toBe(true);
});
