import { describe, expect, test } from '@jest/globals';
import { chartLines } from './chart-lines';

const row = (key: string, weight: number, ...values: (number | null)[]) => ({ key, weight, values });
const keys = (rows: { key: string }[]) => rows.map(({ key }) => key).join('');

describe('the lines of a chart', () => {
  test('are the largest five, in their order', () => {
    const rows = [
      row('a', 1, 5),
      row('b', 9, 9),
      row('c', 3, 4),
      row('d', 8, 1),
      row('e', 7, 1),
      row('f', 6, 2),
    ];
    expect(keys(chartLines(rows))).toBe('bdefc');
  });

  test('the one that reaches highest takes the place of the fifth, however little it weighs', () => {
    const large = [
      row('a', 90, 0.1),
      row('b', 80, 0.2),
      row('c', 70, 0.1),
      row('d', 60, 0.1),
      row('e', 50, 0.3),
    ];
    expect(keys(chartLines([...large, row('x', 1, null, 0.9, 0.1), row('y', 2, 0.4)]))).toBe('abcdx');
  });

  test('no more lines than rows, and none without any', () => {
    expect(keys(chartLines([row('a', 1, null)]))).toBe('a');
    expect(chartLines([])).toEqual([]);
  });
});
