// Laws of what else is kept of people, worked by hand.
import { beforeEach, describe, expect, test } from '@jest/globals';
import type { NewValues } from '@gremium/contract';
import type { Hired } from '../movements/hire';
import { START, type SmallWorld, smallWorld } from '../../test/small-world';
import { laws } from '../laws';
import { day } from '../time/calendar';
import { Draft } from '../time/draft';
import { mend } from '../time/timeline';
import { nextOrdinal } from './record-laws';

let world: SmallWorld;
beforeEach(() => {
  world = smallWorld();
});
const hired = (name: string) => world.hired(name, world.position(world.units.harbour, name), START) as Hired;
const broken = (): [string, string | undefined][] =>
  laws(world.register, world.draft.change).map(({ problem }) => [problem.code, problem.field]);

describe('days in their order', () => {
  test.each([
    ['2024-01-10', '2024-01-10', []],
    ['2024-01-10', '2024-01-09', [['days_turned', 'returnedOn']]],
    ['2024-01-10', null, []],
  ] as const)('given on %s, returned on %s', (givenOn, returnedOn, wanted) => {
    const personId = hired('A').personId;
    world.draft.create('asset', START, {
      ...{ personId, kindId: world.lists['TEAM'] as number, label: 'Key' },
      ...{ givenOn: day(givenOn), returnedOn: returnedOn && day(returnedOn) },
    });
    expect(broken().filter(([code]) => code === 'days_turned')).toEqual(wanted);
  });
});

describe('how many times a year', () => {
  test.each([
    ['month', null, []],
    ['month', 13, []],
    ['time', 2, []],
    ['time', null, ['times_needed']],
    ['hour', 12, ['times_senseless']],
    ['year', 1, ['times_senseless']],
  ] as const)('paid by %s, %s times', (basis, timesAYear, wanted) => {
    const { employmentId } = hired('A');
    world.draft.create('pay', START, {
      ...{ employmentId, kindId: world.lists.BASE, amount: '100', currency: 'EUR', rate: 'actual' as const },
      ...{ basis, timesAYear },
    });
    expect(broken().flatMap(([code]) => (code.startsWith('times_') ? code : []))).toEqual(wanted);
  });
});

describe('a cost split', () => {
  const split = (...parts: [number, string, string][]) => {
    const { employmentId } = hired('A');
    parts.forEach(([part, from, until], i) => {
      const costCentreId = world.draft.create('cost_centre', START, { code: `C${i}`, name: `C${i}` });
      world.draft.create('cost_split', day(from), { employmentId, costCentreId, part }, until as never);
    });
    return broken().filter(([code]) => code === 'cost_split_whole').length;
  };
  test('70 and 30 are the whole; 70 and 29 are not, nor is a part alone; none at all is no split', () => {
    expect(split([70, '2024-01-01', 'infinity'], [30, '2024-01-01', 'infinity'])).toBe(0);
    world = smallWorld();
    expect(split([70, '2024-01-01', 'infinity'], [29, '2024-01-01', 'infinity'])).toBe(1);
    world = smallWorld();
    expect(split([40, '2024-01-01', 'infinity'])).toBe(1);
    world = smallWorld();
    expect(split()).toBe(0);
  });
  test('a part that ends a day before the other leaves a day that is not whole', () => {
    expect(split([70, '2024-01-01', '2024-06-01'], [30, '2024-01-01', '2024-06-02'])).toBe(1);
    world = smallWorld();
    expect(
      split(
        [70, '2024-01-01', '2024-06-01'],
        [30, '2024-01-01', '2024-06-01'],
        [100, '2024-06-01', 'infinity'],
      ),
    ).toBe(0);
  });
});

describe('awards', () => {
  const kind = (flags: object): number =>
    world.draft.create('list_entry', START, {
      ...{ list: 'honour', code: `H${Math.random()}`.slice(0, 12), label: { en: 'H', de: 'H' } },
      flags,
    } as NewValues<'list_entry'>);
  const award = (personId: number, honourId: number, on: string, more: object = {}) =>
    world.draft.create('award', day(on), {
      ...{ personId, honourId, awardedOn: day(on) },
      ...more,
    } as NewValues<'award'>);
  const codes = () => broken().filter(([code]) => code.startsWith('honour') || code === 'order_taken_back');

  test('given once only, the second is refused; once the first was taken back by its order it may be given anew', () => {
    const { personId } = hired('A');
    const once = kind({ once: true });
    const first = award(personId, once, '2020-01-01');
    award(personId, once, '2022-01-01');
    expect(codes().map(([code]) => code)).toContain('honour_once');
    world.draft.set('award', first, {
      from: day('2021-01-01'),
      values: { takenBackOn: day('2021-01-01'), takenBackOrder: '7/21' },
    });
    expect(codes()).toEqual([]);
  });

  test('whoever mends a note is not stopped by what its kind asks for since; another day or number is asked about', () => {
    const { personId } = hired('A');
    const loose = kind({});
    const first = award(personId, loose, '2024-02-01');
    const flags = { asks: ['orderNumber' as const], years: 40 };
    const [entry] = world.register.rows('list_entry', loose);
    world.draft.revise('list_entry', loose, mend(entry as never, { flags }));
    // what a later change by itself is asked
    const later = (values: object) => {
      let ids = 90_000;
      const draft = new Draft(world.register, () => ids++, 2);
      const [row] = world.register.rows('award', first);
      draft.revise('award', first, mend(row as never, values as never));
      const found = laws(world.register, draft.change).map(({ problem: { code } }) => code);
      draft.discard();
      return found.filter((code) => code.startsWith('honour'));
    };
    expect(later({ notes: 'Given in rain' })).toEqual([]);
    expect(later({ awardedOn: day('2024-03-01') })).toEqual(['honour_too_early', 'honour_needs']);
  });

  test('a number that a later one has is taken, where nobody moves that up', () => {
    const { personId } = hired('A');
    const medal = kind({ asks: ['ordinal'] });
    award(personId, medal, '2025-01-01', { ordinal: 1 });
    award(personId, medal, '2024-02-01', { ordinal: 1 });
    expect(codes().map(([code]) => code)).toContain('honour_number_taken');
  });

  test('what its kind asks for must be said; taken back without an order it is not', () => {
    const { personId } = hired('A');
    const medal = kind({ asks: ['orderNumber', 'ordinal'] });
    award(personId, medal, '2020-01-01', { ordinal: 1 });
    expect(codes()).toEqual([['honour_needs', 'orderNumber']]);
    world = smallWorld();
    const other = hired('B').personId;
    award(other, kind({}), '2020-01-01', { takenBackOn: day('2021-01-01') });
    expect(codes()).toEqual([['order_taken_back', 'takenBackOrder']]);
  });

  test('the number in the series: second of 2020, then one of 2012 found is first; second taken back, next is third', () => {
    const of = (ordinal: number, awardedOn: string, takenBackOn: string | null = null) =>
      ({ values: { honourId: 1, ordinal, awardedOn, takenBackOn } }) as never;
    expect(nextOrdinal([], 1, day('2020-05-01'))).toBe(1);
    expect(nextOrdinal([of(2, '2020-05-01')], 1, day('2012-05-01'))).toBe(1);
    const both = [of(1, '2012-05-01'), of(2, '2020-05-01', '2021-01-01')];
    expect(nextOrdinal(both, 1, day('2024-01-01'))).toBe(3);
    expect(nextOrdinal(both, 9, day('2024-01-01'))).toBe(1);
  });
});
