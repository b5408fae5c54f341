// Who becomes due for an honour by service, worked by hand.
import { beforeEach, expect, test } from '@jest/globals';
import type { NewValues } from '@gremium/contract';
import { START, type SmallWorld, smallWorld } from '../../test/small-world';
import { BEGINNING, day } from '../time/calendar';
import { dayOfYears, honoursDue, serviceHonours } from './honours-due';

let world: SmallWorld;
beforeEach(() => {
  world = smallWorld();
});
const kind = (code: string, flags: object): number =>
  world.draft.create('list_entry', BEGINNING, {
    ...{ list: 'honour', code, label: { en: code, de: code } },
    flags,
  } as NewValues<'list_entry'>);

test('the first day with so many years, also of the last of February', () => {
  expect(dayOfYears(day('2020-03-10'), 5)).toBe('2025-03-10');
  expect(dayOfYears(day('2020-02-29'), 4)).toBe('2024-02-29');
  expect(['2025-02-28', '2025-03-01']).toContain(dayOfYears(day('2020-02-29'), 5));
});

test('due from the day on, until it is awarded, and again once it was taken back', () => {
  const [five, ten] = [kind('S5', { years: 5, once: true }), kind('S10', { years: 10, once: true })];
  kind('THANKS', {});
  const { personId } = world.hired('A', world.position(world.units.harbour, 'A'), START) as {
    personId: number;
  };
  const due = (by: string) =>
    honoursDue(world.register, personId, day(by), serviceHonours(world.register, day(by))).map(
      ({ honourId, due: on }) => [honourId, on],
    );
  expect(due('2028-12-31')).toEqual([]);
  expect(due('2029-01-01')).toEqual([[five, '2029-01-01']]);
  const award = world.draft.create('award', day('2029-02-01'), {
    ...{ personId, honourId: five, awardedOn: day('2029-02-01') },
  } as NewValues<'award'>);
  expect(due('2029-03-01')).toEqual([]);
  expect(due('2034-01-01')).toEqual([[ten, '2034-01-01']]);
  world.draft.set('award', award, {
    from: day('2029-02-01'),
    values: { takenBackOn: day('2030-01-01'), takenBackOrder: '1/30' },
  });
  expect(due('2030-02-01')).toEqual([[five, '2029-01-01']]);
});
