// Figures of what people declared of themselves: nothing under five can be told or worked out.
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { toldFigures } from './declared-figures';

const told = (...counts: number[]) => {
  const { cells, total } = toldFigures(new Map(counts.map((count, i) => [i, count])));
  return [cells.map(({ count }) => count), total];
};

describe('figures of what was declared', () => {
  test.each([
    [[7, 12], [7, 12], 19],
    // three is left out, and with it the next smallest: 7 alone would give it away
    [[3, 7, 12], [null, null, 12], 22],
    // two of them, but three people: the next one goes too
    [[1, 2, 9, 20], [null, null, null, 20], 32],
    [[4, 4, 9], [null, null, 9], 17],
    // nothing can be put beside it: no total
    [[3], [null], null],
    [[3, 0], [null, 0], null],
    [[], [], 0],
  ] as const)('%p are told as %p, together %p', (counts, cells, total) => {
    expect(told(...counts)).toEqual([cells, total]);
  });

  test('whatever the counts: no cell under five but none, and what is left out is five people in two cells at least, or there is no total', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(40), { maxLength: 8 }), (counts) => {
        const { cells, total } = toldFigures(new Map(counts.map((count, i) => [i, count])));
        const hidden = cells.flatMap(({ count }, i) => (count === null ? [counts[i] as number] : []));
        expect(cells.every(({ count }) => count === null || count === 0 || count >= 5)).toBe(true);
        if (total === null || hidden.length === 0) return;
        expect(hidden.length).toBeGreaterThanOrEqual(2);
        expect(hidden.reduce((sum, count) => sum + count, 0)).toBeGreaterThanOrEqual(5);
      }),
    );
  });
});
