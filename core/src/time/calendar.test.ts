import { describe, expect, test } from '@jest/globals';
import type { Day } from '@gremium/contract';
import { Day as DaySchema } from '@gremium/contract';
import fc from 'fast-check';
import {
  addDays,
  addMonths,
  completedMonths,
  completedYears,
  day,
  daysBetween,
  endOfMonth,
  segments,
  uncovered,
} from './calendar';

const anyDay = fc
  .integer({ min: 0, max: 109_000 })
  .map((n) => addDays(day('1900-01-01'), n))
  .filter((d) => d <= '2199-12-31');

describe('days', () => {
  test('adding days agrees with the machine calendar', () => {
    fc.assert(
      fc.property(anyDay, fc.integer({ min: -400, max: 400 }), (d, n) => {
        const date = new Date(`${d}T00:00:00Z`);
        date.setUTCDate(date.getUTCDate() + n);
        expect(addDays(d, n)).toBe(date.toISOString().slice(0, 10));
        expect(daysBetween(d, addDays(d, n))).toBe(n);
      }),
    );
  });

  test.each([
    ['2024-02-29', '2025-02-27', 0],
    ['2024-02-29', '2025-02-28', 1],
    ['2000-02-29', '2024-02-28', 23],
    ['2000-02-29', '2024-02-29', 24],
    ['1990-06-15', '2026-06-14', 35],
    ['1990-06-15', '2026-06-15', 36],
  ])('completed years from %s to %s are %i', (a, b, years) => {
    expect(completedYears(a as Day, b as Day)).toBe(years);
  });

  test.each([
    ['2024-01-31', '2024-02-28', 0],
    ['2024-01-31', '2024-02-29', 1],
    ['2024-01-31', '2024-03-30', 1],
    ['2024-01-31', '2024-03-31', 2],
    ['2024-05-10', '2024-05-10', 0],
  ])('completed months from %s to %s are %i', (a, b, months) => {
    expect(completedMonths(a as Day, b as Day)).toBe(months);
  });

  test('the last day of a shorter month stands for a missing one', () => {
    expect(addMonths(day('2023-08-31'), 6)).toBe('2024-02-29');
    expect(endOfMonth(day('2100-02-01'))).toBe('2100-02-28');
  });

  test.each(['2023-02-29', '1899-12-31', '2200-01-01', '2024-13-01', '24-01-01', '2024-1-1'])(
    '%s is no day',
    (text) => {
      expect(DaySchema.safeParse(text).success).toBe(false);
    },
  );
});

describe('periods', () => {
  test('what is uncovered and what is covered make the whole', () => {
    const bounds = fc
      .tuple(anyDay, anyDay)
      .map(([a, b]) => (a < b ? { from: a, until: b } : { from: b, until: a }));
    fc.assert(
      fc.property(bounds, fc.array(bounds, { maxLength: 5 }), anyDay, (whole, parts, d) => {
        const isIn = (p: { from: string; until: string }) => p.from <= d && d < p.until;
        const expected = isIn(whole) && !parts.some(isIn);
        expect(uncovered(whole, parts).some(isIn)).toBe(expected);
        if (whole.from < whole.until)
          expect(segments(parts, whole).filter(isIn)).toHaveLength(isIn(whole) ? 1 : 0);
      }),
    );
  });
});
