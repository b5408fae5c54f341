// Transfers for a time and what was said of them, worked by hand: shares, limits, days.
import { beforeEach, describe, expect, test } from '@jest/globals';
import type { MovementInput, MovementKind } from '@gremium/contract';
import { type SmallWorld, smallWorld } from '../../test/small-world';
import { laws } from '../laws';
import { hundredths } from '../structure/fraction';
import { contractedShare, positionState } from '../structure/occupancy';
import { addDays, day } from '../time/calendar';
import { Draft } from '../time/draft';
import { decisionOf } from './decisions';
import type { Hired } from './hire';

const on = (text: string) => day(text);
let world: SmallWorld;
let ids = 50_000;

// An act of its own on what stands: what it broke, and a way to take it back.
const acted = <K extends MovementKind>(kind: K, input: MovementInput<K>, today = '2027-06-15') => {
  const draft = new Draft(world.register, () => ids++, 2);
  const moved = decisionOf(kind)(draft, input, { today: on(today), number: '77' });
  const problems = [
    ...draft.problems,
    ...laws(world.register, draft.change).map(({ problem }) => problem),
  ].filter(({ severity }) => severity !== 'note');
  return {
    moved,
    problems,
    codes: problems.map(({ code }) => code),
    undo: () => draft.discard(),
    entry: draft.change,
  };
};
const heldOn = (positionId: number, text: string) => {
  const { held, freeFte, freePlaces, hireFte, occupancy } = positionState(
    world.register,
    positionId,
    on(text),
  );
  const shown = (share: typeof held | null) => share && hundredths(share);
  return { held: shown(held), free: shown(freeFte), places: freePlaces, hire: shown(hireFte), occupancy };
};
const contractedOn = (employmentId: number, text: string) =>
  world.register
    .referrers('placement', 'employmentId', employmentId)
    .filter((row) => row.from <= on(text) && on(text) < row.until)
    .map(({ values }) => [values.kind, hundredths(contractedShare(values))])
    .sort();

let old: number;
let there: number;
let ann: Hired;
const away = (more: Partial<MovementInput<'transfer_for_a_time'>> = {}) =>
  acted('transfer_for_a_time', {
    personId: ann.personId,
    positionId: there,
    firstDay: on('2027-04-01'),
    lastDay: on('2027-07-31'),
    hours: 2625,
    oldPlace: 'kept',
    reasonId: null,
    ...more,
  });
const hireOf = (lastDay?: string) =>
  acted('hire', {
    person: { number: 'B', name: { given: 'Bea' }, contacts: [{ kind: 'phone', value: '+1 2345678' }] },
    positionId: old,
    firstDay: on('2027-04-01'),
    ...(lastDay ? { lastDay: on(lastDay) } : {}),
    pay: [],
    reasonId: null,
  } as never);

beforeEach(() => {
  world = smallWorld();
  const { position, units, hired } = world;
  old = position(units.harbour, 'Old', {}, { places: 2, fte: 170 });
  there = position(units.terminal, 'There', {}, { places: 1, fte: 100 });
  ann = hired('A', old, '2024-01-01');
});

describe('0.7 of 1.0 lent from April to July 2027, in a position of 2 places and 1.7 FTE', () => {
  test('contracted 1.0 on each day: 1.0 before, 0.3 and 0.7 meanwhile, 1.0 after', () => {
    expect(away().codes).toEqual([]);
    const { employmentId } = ann;
    expect(contractedOn(employmentId, '2027-03-31')).toEqual([['primary', 100]]);
    for (const text of ['2027-04-01', '2027-07-31'])
      expect(contractedOn(employmentId, text)).toEqual([
        ['primary', 30],
        ['temporary', 70],
      ]);
    expect(contractedOn(employmentId, '2027-08-01')).toEqual([['primary', 100]]);
    expect(heldOn(there, '2027-03-31')).toMatchObject({ held: 0 });
    expect(heldOn(there, '2027-04-01')).toMatchObject({ held: 70, free: 30 });
    expect(heldOn(there, '2027-08-01')).toMatchObject({ held: 0 });
  });

  test('kept: a hire of 1.0 is refused, 0.3 over', () => {
    away();
    expect(heldOn(old, '2027-04-01')).toMatchObject({ held: 100, free: 70 });
    const { problems } = hireOf('2027-07-31');
    expect(problems).toMatchObject([{ code: 'fte_taken', params: { over: 30, day: '2027-04-01' } }]);
  });

  test('backfilled: 0.3 held, 1.4 and one place free; with a last day of 31 July a hire fits, without one it is 0.3 over from 1 August', () => {
    away({ oldPlace: 'backfilled' });
    expect(heldOn(old, '2027-04-01')).toMatchObject({ held: 30, free: 140, places: 1 });
    const endless = hireOf();
    expect(endless.problems).toMatchObject([{ code: 'fte_taken', params: { over: 30, day: '2027-08-01' } }]);
    endless.undo();
    expect(hireOf('2027-07-31').codes).toEqual([]);
    expect(heldOn(old, '2027-04-01')).toMatchObject({ held: 130, free: 40, places: 0, hire: 0 });
  });

  describe('with that hire', () => {
    let temporary: number;
    beforeEach(() => {
      temporary = away({ oldPlace: 'backfilled' }).moved?.things.placementId as number;
      hireOf('2027-07-31');
    });

    test('extended to 31 August: accepted', () => {
      expect(acted('change_return', { placementId: temporary, lastDay: on('2027-08-31') }).codes).toEqual([]);
      expect(heldOn(old, '2027-08-31')).toMatchObject({ held: 30 });
      expect(heldOn(old, '2027-09-01')).toMatchObject({ held: 100 });
      expect(contractedOn(ann.employmentId, '2027-08-31')).toEqual([
        ['primary', 30],
        ['temporary', 70],
      ]);
    });

    test('a planned end on 10 June is refused: 0.3 over from 11 June to 31 July, and who holds the place', () => {
      const early = acted('change_return', { placementId: temporary, lastDay: on('2027-06-10') });
      expect(early.problems).toMatchObject([
        { code: 'fte_taken', params: { over: 30, day: '2027-06-11', until: '2027-07-31' } },
      ]);
      expect(early.problems[0]?.params['holders']).toHaveLength(1);
    });

    test('said to be back on 11 June: recorded, over-held, with a day of review', () => {
      const back = acted('back', { placementId: temporary, firstDay: on('2027-06-11') });
      expect(back.codes).toEqual(['over_by_right']);
      expect(heldOn(old, '2027-06-10')).toMatchObject({ held: 130, occupancy: 'filled' });
      expect(heldOn(old, '2027-06-11')).toMatchObject({ held: 200, occupancy: 'over_held' });
      expect(heldOn(old, '2027-08-01')).toMatchObject({ held: 100, occupancy: 'part_filled' });
      // fourteen days after it was said
      expect(world.register.at('placement', ann.placementId, on('2027-06-11'))?.reviewOn).toBe('2027-06-29');
      expect(world.register.at('placement', ann.placementId, on('2027-06-10'))?.reviewOn).toBeNull();
      // nothing of it outlives what made it so
      expect(world.register.at('placement', ann.placementId, on('2027-08-01'))?.reviewOn).toBeNull();
    });

    test('of a day to come nobody says that it has happened', () => {
      const codes = acted('back', { placementId: temporary, firstDay: on('2027-06-16') }).codes;
      expect(codes).toEqual(['not_yet_happened']);
    });
  });
});

describe('what is refused', () => {
  test('more than the person has, a return after the end of the old place, the same place, days that turn', () => {
    expect(away({ hours: 3760 }).codes).toEqual(['lent_too_much']);
    expect(away({ positionId: old }).codes).toContain('same_position');
    expect(away({ lastDay: on('2027-03-31') }).codes).toEqual(['period']);
    const { hired, position, units } = world;
    const short = hired('C', position(units.harbour, 'Short'), '2027-01-01', { lastDay: on('2027-06-30') });
    expect(away({ personId: short.personId }).codes).toEqual(['return_after_end']);
  });

  test('a second lending beside the first takes what is left, not more', () => {
    const third = world.position(world.units.terminal, 'Third');
    expect(away().codes).toEqual([]);
    expect(away({ positionId: third, hours: 1126 }).codes).toEqual(['lent_too_much']);
    expect(away({ positionId: third, hours: 1125 }).codes).toEqual([]);
    expect(contractedOn(ann.employmentId, '2027-05-01')).toEqual([
      ['primary', 0],
      ['temporary', 30],
      ['temporary', 70],
    ]);
  });

  test('lent hours that nobody works, or that are worked without being lent', () => {
    const draft = new Draft(world.register, () => ids++, 2);
    draft.set('placement', ann.placementId, { from: on('2027-04-01'), values: { lentHours: 100 } });
    expect(laws(world.register, draft.change).map(({ problem }) => problem.code)).toEqual(['lent_unlike']);
  });
});

describe('started on the real day', () => {
  const shownOf = (employmentId: number) =>
    world.register
      .referrers('placement', 'employmentId', employmentId)
      .map(({ from, until, values }) => [
        values.positionId === old ? 'old' : 'there',
        values.kind,
        values.lentHours,
        from,
        until,
      ])
      .sort();

  test.each([
    ['two days late', '2027-04-03'],
    ['one day early', '2027-03-31'],
    ['as planned', '2027-04-01'],
  ])('for a time, %s: what is lent begins when the work there does', (_, real) => {
    const temporary = away().moved?.things.placementId as number;
    expect(acted('started', { placementId: temporary, firstDay: on(real) }).codes).toEqual([]);
    expect(shownOf(ann.employmentId)).toEqual([
      ['old', 'primary', 0, '2024-01-01', real],
      ['old', 'primary', 0, '2027-08-01', 'infinity'],
      ['old', 'primary', 2625, real, '2027-08-01'],
      ['there', 'temporary', 0, real, '2027-08-01'],
    ]);
  });

  test.each([
    ['two days late', '2027-04-03'],
    ['one day early', '2027-03-31'],
  ])('for good, %s: the old place is held until then', (_, real) => {
    const done = acted('transfer', {
      personId: ann.personId,
      positionId: there,
      firstDay: on('2027-04-01'),
      reasonId: null,
    });
    const placementId = done.moved?.things.placementId as number;
    expect(acted('started', { placementId, firstDay: on(real) }).codes).toEqual([]);
    expect(shownOf(ann.employmentId)).toEqual([
      ['old', 'primary', 0, '2024-01-01', real],
      ['there', 'primary', 0, real, 'infinity'],
    ]);
  });

  // model: the new employment begins on the agreed day and holds the old position until the arrival; early, the old one the new position
  test.each([
    ['two days late', '2027-04-03', 'old', '2027-04-01'],
    ['one day early', '2027-03-31', 'there', '2027-03-31'],
  ])('across legal entities, %s', (_, real, between, from) => {
    const abroad = world.position(world.units.terminal, 'Abroad', { legalEntityId: world.entity.ee });
    there = abroad;
    const done = acted('transfer', {
      personId: ann.personId,
      positionId: abroad,
      firstDay: on('2027-04-01'),
      reasonId: null,
    });
    const { placementId, employmentId } = done.moved?.things as { placementId: number; employmentId: number };
    expect(employmentId).not.toBe(ann.employmentId);
    expect(acted('started', { placementId, firstDay: on(real) }).codes).toEqual([]);
    // entity and contract keep the agreed day
    expect(world.register.rows('employment', employmentId)[0]?.from).toBe('2027-04-01');
    expect(world.register.rows('employment', ann.employmentId)[0]?.until).toBe('2027-04-01');
    const late = between === 'old';
    expect(shownOf(ann.employmentId)).toEqual(
      late
        ? [['old', 'primary', 0, '2024-01-01', '2027-04-01']]
        : [
            ['old', 'primary', 0, '2024-01-01', from],
            ['there', 'primary', 0, from, '2027-04-01'],
          ],
    );
    expect(shownOf(employmentId)).toEqual(
      late
        ? [
            ['old', 'primary', 0, '2027-04-01', real],
            ['there', 'primary', 0, real, 'infinity'],
          ]
        : [['there', 'primary', 0, '2027-04-01', 'infinity']],
    );
  });

  test('where the place is taken until later: recorded above the limit, with a day of review', () => {
    world.hired('D', there, '2024-01-01', { lastDay: on('2027-03-31') });
    const temporary = away({ hours: 3750 }).moved?.things.placementId as number;
    const early = acted('started', { placementId: temporary, firstDay: on('2027-03-30') });
    expect(early.codes).toEqual(['over_by_right']);
    expect(heldOn(there, '2027-03-31').occupancy).toBe('over_held');
    expect(heldOn(there, '2027-04-01').occupancy).toBe('filled');
  });
});

test('made for good: the transfer to the same place ends what was lent, on each day one primary placement', () => {
  away();
  const good = acted('transfer', {
    personId: ann.personId,
    positionId: there,
    firstDay: on('2027-06-01'),
    reasonId: null,
  });
  expect(good.codes).toEqual([]);
  expect(contractedOn(ann.employmentId, '2027-05-31')).toEqual([
    ['primary', 30],
    ['temporary', 70],
  ]);
  expect(contractedOn(ann.employmentId, '2027-06-01')).toEqual([['primary', 100]]);
  expect(heldOn(old, '2027-06-01')).toMatchObject({ held: 0 });
  expect(addDays(on('2027-05-31'), 1)).toBe('2027-06-01');
});
