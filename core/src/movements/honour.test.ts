// Honours given to one or to many, worked by hand.
import { beforeEach, describe, expect, test } from '@jest/globals';
import type { MovementInput, NewValues } from '@gremium/contract';
import { START, type SmallWorld, smallWorld } from '../../test/small-world';
import { laws } from '../laws';
import { day } from '../time/calendar';
import { decisionOf } from './decisions';

let world: SmallWorld;
beforeEach(() => {
  world = smallWorld();
});

const person = (name: string, from = START): number =>
  world.hired(name, world.position(world.units.harbour, name), from)?.personId ?? 0;
const kind = (flags: object): number =>
  world.draft.create('list_entry', START, {
    ...{ list: 'honour', code: `H${Math.random()}`.slice(0, 12), label: { en: 'H', de: 'H' } },
    flags,
  } as NewValues<'list_entry'>);
const give = (input: Omit<MovementInput<'give_honour'>, 'awardedOn'> & { awardedOn: string }) =>
  decisionOf('give_honour')(
    world.draft,
    { ...input, awardedOn: day(input.awardedOn) },
    { today: day('2026-01-01') },
  );
const problems = () => world.draft.problems.map(({ code, field }) => [code, field]);
const broken = () => laws(world.register, world.draft.change).map(({ problem }) => problem.code);
const held = (personId: number) =>
  world.register
    .referrers('award', 'personId', personId)
    .filter(({ until }) => until === 'infinity')
    .map(({ values }) => [values.awardedOn, values.ordinal])
    .sort();

describe('a series', () => {
  test('one of an earlier day found later is first; what had its number moves up, with what follows on it', () => {
    const [id, medal] = [person('A'), kind({ asks: ['ordinal'] })];
    const given = (awardedOn: string) => give({ personIds: [id], honourId: medal, awardedOn });
    given('2024-05-01');
    given('2025-05-01');
    expect(held(id)).toEqual([
      ['2024-05-01', 1],
      ['2025-05-01', 2],
    ]);
    const found = given('2024-02-01');
    expect(held(id)).toEqual([
      ['2024-02-01', 1],
      ['2024-05-01', 2],
      ['2025-05-01', 3],
    ]);
    expect(found?.concerned?.lines[0]?.values.map(({ before, after }) => [before, after])).toEqual([
      [1, 2],
      [2, 3],
    ]);
    expect([...problems(), ...broken()]).toEqual([]);
  });

  test('a number that is not needed by the earlier one stays: second of 2025, one of 2024 is first', () => {
    const [id, medal] = [person('A'), kind({ asks: ['ordinal'] })];
    give({ personIds: [id], honourId: medal, awardedOn: '2025-05-01', ordinal: 2 });
    give({ personIds: [id], honourId: medal, awardedOn: '2024-05-01' });
    expect(held(id)).toEqual([
      ['2024-05-01', 1],
      ['2025-05-01', 2],
    ]);
  });

  test('what has no series carries no number, and no number is given twice', () => {
    const [id, thanks, medal] = [person('A'), kind({}), kind({ asks: ['ordinal'] })];
    give({ personIds: [id], honourId: thanks, awardedOn: '2024-05-01', ordinal: 1 });
    expect(problems()).toEqual([['honour_no_series', 'ordinal']]);
    world.draft.problems.length = 0;
    give({ personIds: [id], honourId: medal, awardedOn: '2024-05-01' });
    give({ personIds: [id], honourId: medal, awardedOn: '2025-05-01', ordinal: 1 });
    expect(problems()).toEqual([['honour_number_taken', 'ordinal']]);
  });
});

describe('an order for many', () => {
  test('who holds one that is given once only is named and left out, the others get theirs', () => {
    const people = ['A', 'B', 'C', 'D'].map((name) => person(name));
    const once = kind({ once: true });
    give({ personIds: [people[1] as number], honourId: once, awardedOn: '2024-05-01' });
    const given = give({ personIds: people, honourId: once, awardedOn: '2025-05-01', orderNumber: '7/25' });
    expect(given?.concerned?.lines.map(({ what }) => what.id)).toEqual([people[0], people[2], people[3]]);
    expect(
      world.draft.problems.map(({ code, severity, field, params }) => [code, severity, field, params['why']]),
    ).toEqual([['honour_left_out', 'note', 'personIds.1', 'honour_once']]);
    expect(broken()).toEqual([]);
    expect(held(people[1] as number)).toEqual([['2024-05-01', null]]);
  });

  test('one alone is refused with the reason; all of several refused is an error', () => {
    const [a, b, once] = [person('A'), person('B'), kind({ once: true })];
    give({ personIds: [a], honourId: once, awardedOn: '2024-05-01' });
    give({ personIds: [b], honourId: once, awardedOn: '2024-05-01' });
    give({ personIds: [a], honourId: once, awardedOn: '2025-05-01' });
    expect(problems()).toEqual([['honour_once', 'honourId']]);
    world.draft.problems.length = 0;
    give({ personIds: [a, b], honourId: once, awardedOn: '2025-05-01' });
    expect(problems().at(-1)).toEqual(['honour_nobody', 'personIds']);
  });
});

describe('for whom a kind makes sense', () => {
  test('five years of service: 2024-01-01 to 2028-12-31 are not five, the day after they are', () => {
    const [id, service] = [person('A'), kind({ years: 5 })];
    give({ personIds: [id], honourId: service, awardedOn: '2028-12-31' });
    expect(problems()).toEqual([['honour_too_early', 'awardedOn']]);
    world.draft.problems.length = 0;
    give({ personIds: [id], honourId: service, awardedOn: '2029-01-01' });
    expect([...problems(), ...broken()]).toEqual([]);
  });

  test('only in some countries, only for those who are paid', () => {
    const id = person('A');
    const finnish = kind({ countries: ['FI'] });
    give({ personIds: [id], honourId: finnish, awardedOn: '2024-05-01', country: 'SE' });
    expect(problems()).toEqual([['honour_country', 'country']]);
    world.draft.problems.length = 0;
    give({ personIds: [id], honourId: finnish, awardedOn: '2024-05-01', country: 'FI' });
    give({ personIds: [id], honourId: kind({ paidOnly: true }), awardedOn: '2023-12-31' });
    expect(problems()).toEqual([['honour_paid_only', 'personIds']]);
  });
});
