import { describe, expect, test } from '@jest/globals';
import { day } from '../time/calendar';
import { yearsOfService } from './tenure';

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
