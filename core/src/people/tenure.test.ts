import { describe, expect, test } from '@jest/globals';
import type { Bound, Row, Values } from '@gremium/contract';
import { day } from '../time/calendar';
import { RowRegister } from '../time/register';
import { tenureOn, yearsOfService } from './tenure';

describe('service', () => {
  test.each([
    ['2020-01-01', '2024-12-31', 5],
    ['2020-01-01', '2024-12-30', 4],
    ['2020-03-01', '2021-02-28', 1],
    ['2020-02-29', '2021-02-27', 1],
    ['2024-11-23', '2024-11-23', 0],
  ])('from %s to %s is %i completed years', (first, last, years) =>
    expect(yearsOfService(day(first), day(last))).toBe(years),
  );
});

const PERSON = 1;
const employment = (
  id: number,
  [from, until]: [string, string],
  values: Partial<Values<'employment'>>,
): Row => ({
  id,
  lineage: id,
  section: 'employment',
  thing: id,
  from: from as Bound,
  until: until as Bound,
  values: { personId: PERSON, continuesId: null, seniorityDate: null, ...values } as Values,
  entry: 1,
});

describe('tenure', () => {
  test.each([
    ['on the first day', '2020-01-01', 0],
    ['on the eve of the anniversary', '2022-12-31', 2],
    ['on the anniversary', '2023-01-01', 3],
    ['on the day before the last', '2024-12-30', 4],
    ['on the last day, which is worked', '2024-12-31', 5],
    ['years after leaving, as of the last day', '2026-06-30', 5],
    ['before the first day', '2019-12-31', null],
  ])('%s, %s: %s', (_, on, years) => {
    const register = new RowRegister([employment(10, ['2020-01-01', '2025-01-01'], {})]);
    expect(tenureOn(register, PERSON, day(on))).toBe(years);
  });

  test('counts from the seniority date where there is one, and not from an employment that ended before', () => {
    const earlier = employment(10, ['2010-01-01', '2015-01-01'], {});
    const plain = employment(11, ['2020-01-01', 'infinity'], {});
    const senior = employment(11, ['2020-01-01', 'infinity'], { seniorityDate: day('2012-07-01') });
    const on = day('2026-06-30');
    expect(tenureOn(new RowRegister([earlier, plain]), PERSON, on)).toBe(6);
    expect(tenureOn(new RowRegister([earlier, senior]), PERSON, on)).toBe(13);
  });

  test('is unknown where the employment always held, or there is none', () => {
    const always = employment(10, ['-infinity', 'infinity'], {});
    expect(tenureOn(new RowRegister([always]), PERSON, day('2026-06-30'))).toBeNull();
    expect(tenureOn(new RowRegister([]), PERSON, day('2026-06-30'))).toBeNull();
  });
});
