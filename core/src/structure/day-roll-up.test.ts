// The roll-up over columns against the definitions over rows, and its exact sums by hand.
import { describe, expect, test } from '@jest/globals';
import type { Change } from '@gremium/contract';
import { makeHistory } from '../../../demo/make';
import { randomHistory } from '../../../demo/random-history';
import { type Figures, rollUp } from '../../test/roll-up-by-rows';
import { Facts } from '../measures/facts';
import { day } from '../time/calendar';
import { Columns } from '../time/columns';
import type { Register } from '../time/register';
import { dayRollUp } from './day-roll-up';
import { ExactSums, MoneySums } from './exact-sums';
import { hundredths } from './fraction';
import { leaderOf } from './manager';

const plain = ({ fte, fteNotCounted, fteAtWork, freeFte, hireFte, cost, ...counts }: Figures) => ({
  ...counts,
  fte: hundredths(fte),
  fteNotCounted: hundredths(fteNotCounted),
  fteAtWork: hundredths(fteAtWork),
  freeFte: hundredths(freeFte),
  hireFte: hundredths(hireFte),
  cost: Object.fromEntries(
    // of somebody who is wholly elsewhere for a time nothing is paid here: that is not told as a cost of nought
    [...cost].flatMap(([currency, { num, den }]) =>
      num === 0n ? [] : [[currency, Number((num * 2n + den) / (den * 2n))] as const],
    ),
  ),
});

const compare = (entries: { change: Change }[], register: Register, days: string[]) => {
  const facts = new Facts(new Columns());
  for (const { change } of entries) facts.columns.apply(change);
  for (const on of days.map(day)) {
    const rolled = dayRollUp(facts, on, { withPay: true });
    const expected = rollUp(register, on);
    expect([on, rolled.units.length]).toEqual([on, expected.size]);
    rolled.units.forEach((id, at) => {
      const { own, branch } = expected.get(id)!;
      expect([on, id, rolled.figures(at)]).toEqual([on, id, { own: plain(own), branch: plain(branch) }]);
    });
    for (const { thing, values } of register.allOn('unit', on)) {
      const head = values.headPositionId;
      const leader = head === null ? null : leaderOf(register, head, on);
      if (head !== null) expect([thing, rolled.leader(head)?.personId]).toEqual([thing, leader?.personId]);
    }
  }
};

describe('figures of all units on a day', () => {
  test.each([1, 2, 3, 4, 5, 6])('history %i: are those worked out over rows', (seed) => {
    const { history } = randomHistory(seed, 150);
    compare(history.entries, history.register, ['2020-03-31', '2021-05-05', '2022-06-30']);
  });

  test('are those worked out over rows for the demo, past, present and planned', () => {
    const { entries, register } = makeHistory(day('2026-11-23'));
    compare(entries, register, ['2019-06-15', '2026-11-23', '2027-04-01']);
  });
});

describe('exact sums', () => {
  test('of shares with other weeks: three thirds are one, and a half is rounded up', () => {
    const sums = new ExactSums(2);
    for (let i = 0; i < 3; i++) sums.add(1, 1250, 3750);
    sums.add(0, 1, 200);
    expect([sums.hundredths(0), sums.hundredths(1)]).toEqual([1, 100]);
    expect(sums.rolledUp(Int32Array.of(-1, 0)).hundredths(0)).toBe(101);
  });

  test('of money, whatever the denominators', () => {
    const sums = new MoneySums(4);
    sums.add(0, 'EUR', 10n, 3); // 3.33
    sums.add(1, 'EUR', 10n, 7); // 1.43: together 4.76
    sums.add(1, 'SEK', 1n, 2);
    expect(sums.rolledUp(Int32Array.of(-1, 0)).of(0)).toEqual({ EUR: 5, SEK: 1 });
  });
});
