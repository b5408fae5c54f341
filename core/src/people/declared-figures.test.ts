// Figures of what people declared of themselves: nothing under five can be told or worked out.
import { describe, expect, test } from '@jest/globals';
import type { NewValues } from '@gremium/contract';
import fc from 'fast-check';
import { START, smallWorld } from '../../test/small-world';
import { BEGINNING, day } from '../time/calendar';
import { declaredOn, toldFigures } from './declared-figures';

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

test('counted are those in headcount on the day, each once; answers stand under their question', () => {
  const world = smallWorld();
  const fact = (code: string, question: string): number =>
    world.draft.create('list_entry', BEGINNING, {
      ...{ list: 'declared_fact', code, label: { en: code, de: code } },
      flags: { question },
    } as NewValues<'list_entry'>);
  const [yes, no, other] = [fact('YES', 'A'), fact('NO', 'A'), fact('OTHER', 'B')];
  const people = Array.from(
    { length: 14 },
    (_, i) => world.hired(`P${i}`, world.position(world.units.harbour, `P${i}`), START)?.personId ?? 0,
  );
  const say = (personId: number, factId: number, from = START) =>
    world.draft.create('declared_fact', from, {
      personId,
      factId,
      country: null,
    } as NewValues<'declared_fact'>);
  for (const id of people.slice(0, 6)) say(id, yes);
  // twice, and once after the day
  say(people[0] as number, yes);
  say(people[9] as number, yes, day('2024-07-01'));
  for (const id of people.slice(6, 13)) say(id, no);
  say(people[0] as number, other);
  expect(declaredOn(world.register, day('2024-06-01'))).toEqual({
    counted: 14,
    questions: [
      {
        question: 'A',
        cells: [
          { factId: yes, count: 6 },
          { factId: no, count: 7 },
        ],
        total: 13,
      },
      { question: 'B', cells: [{ factId: other, count: null }], total: null },
    ],
  });
  // before anybody was hired nobody counts
  expect(declaredOn(world.register, day('2023-12-31')).counted).toBe(0);
});
