// Long absences, returns and whoever stands in, worked by hand: shares, limits, days.
import { beforeEach, describe, expect, test } from '@jest/globals';
import type { MovementInput, MovementKind } from '@gremium/contract';
import { type SmallWorld, smallWorld } from '../../test/small-world';
import { laws } from '../laws';
import { statusOf } from '../people/status';
import { hundredths, sum } from '../structure/fraction';
import { contractedShare, positionState, shareAtWork } from '../structure/occupancy';
import { directReports, leaderOf } from '../structure/manager';
import { addDays, day } from '../time/calendar';
import { Draft } from '../time/draft';
import { decisionOf } from './decisions';
import type { Hired } from './hire';

const on = (text: string) => day(text);
let world: SmallWorld;
let ids = 70_000;
let ann: Hired;
let place: number;
let kinds: { counts: number; away: number };

const acted = <K extends MovementKind>(kind: K, input: MovementInput<K>, today = '2027-09-15') => {
  const draft = new Draft(world.register, () => ids++, 2);
  const moved = decisionOf(kind)(draft, input, { today: on(today), number: String(ids) });
  const problems = [
    ...draft.problems,
    ...laws(world.register, draft.change).map(({ problem }) => problem),
  ].filter(({ severity }) => severity !== 'note');
  return { moved, problems, codes: problems.map(({ code }) => code), undo: () => draft.discard() };
};
const heldOn = (positionId: number, text: string) => {
  const { held, occupancy, freeFte } = positionState(world.register, positionId, on(text));
  return { held: hundredths(held), free: freeFte && hundredths(freeFte), occupancy };
};
/** Contracted and at work over all placements on a day, in hundredths; and people with a primary place. */
const figuresOn = (text: string) => {
  const here = [...world.register.all('placement')].filter((row) => row.from <= text && text < row.until);
  return {
    people: here.filter(({ values }) => values.kind === 'primary').length,
    contracted: hundredths(sum(here.map(({ values }) => contractedShare(values)))),
    atWork: hundredths(sum(here.map(({ values }) => shareAtWork(values)))),
  };
};
const away = (more: Partial<MovementInput<'long_absence'>> = {}) =>
  acted('long_absence', {
    employmentId: ann.employmentId,
    firstDay: on('2027-03-01'),
    lastDay: on('2027-11-30'),
    kindId: kinds.counts,
    oldPlace: 'kept',
    ...more,
  });
const awayOn = (text: string) =>
  world.register
    .referrers('placement', 'employmentId', ann.employmentId)
    .find((row) => row.from <= text && text < row.until)?.values.awayHours;
const back = (firstDay: string, more: Partial<MovementInput<'return_from_absence'>> = {}) =>
  acted('return_from_absence', { employmentId: ann.employmentId, firstDay: on(firstDay), ...more });
const hireOf = (name: string, positionId: number, firstDay: string, more = {}) =>
  acted('hire', {
    person: { number: name, name: { given: name }, contacts: [{ kind: 'phone', value: '+1 2345678' }] },
    positionId,
    firstDay: on(firstDay),
    pay: [],
    reasonId: null,
    ...more,
  } as never);

beforeEach(() => {
  world = smallWorld();
  const { draft, position, units, hired } = world;
  const kind = (code: string, flags = {}) =>
    draft.create('list_entry', '-infinity', {
      list: 'absence_kind',
      code,
      label: { en: code, de: code },
      flags,
    });
  kinds = { counts: kind('PARENT'), away: kind('ILLNESS', { stepsAreAway: true }) };
  place = position(units.terminal, 'Desk');
  ann = hired('A', place, '2024-01-01');
});

describe('a position of one place and 1.0, its holder away from 1 March to 30 November, somebody hired for the time', () => {
  beforeEach(() => {
    expect(away({ oldPlace: 'backfilled' }).codes).toEqual([]);
    expect(hireOf('B', place, '2027-03-01', { lastDay: on('2027-11-30') }).codes).toEqual([]);
  });

  test('31 August: two people, contracted 2.0, at work 1.0, not over-held', () => {
    expect(figuresOn('2027-08-31')).toEqual({ people: 2, contracted: 200, atWork: 100 });
    expect(heldOn(place, '2027-08-31')).toMatchObject({ held: 100, occupancy: 'filled' });
    expect(figuresOn('2027-02-28')).toEqual({ people: 1, contracted: 100, atWork: 100 });
    expect(figuresOn('2027-12-01')).toEqual({ people: 1, contracted: 100, atWork: 100 });
  });

  test('back with 0.6 from 1 September: 0.6 over, recorded with a review; with the other one at 0.4: contracted 1.4, at work 1.0', () => {
    const returned = back('2027-09-01', { hours: 2250 });
    expect(returned.codes).toEqual(['over_by_right']);
    expect(heldOn(place, '2027-09-01')).toMatchObject({ held: 160, occupancy: 'over_held' });
    expect(figuresOn('2027-09-01')).toEqual({ people: 2, contracted: 200, atWork: 160 });
    expect(awayOn('2027-09-01')).toBe(1500);
    const own = world.register.referrers('placement', 'employmentId', ann.employmentId);
    expect(own.find(({ from }) => from === '2027-09-01')?.values.reviewOn).toBe('2027-09-29');
    const bea = [...world.register.all('employment')].find((row) => row.thing !== ann.employmentId)!;
    const less = acted('change_terms', {
      employmentId: bea.thing,
      firstDay: on('2027-09-01'),
      hours: 1500,
      reasonId: null,
    });
    expect(less.codes).toEqual([]);
    expect(heldOn(place, '2027-09-01')).toMatchObject({ held: 100 });
    const { contracted, atWork } = figuresOn('2027-09-01');
    expect([contracted, atWork]).toEqual([140, 100]);
    less.undo();
    returned.undo();
    expect(figuresOn('2027-09-01')).toEqual({ people: 2, contracted: 200, atWork: 100 });
  });

  test('with a change of terms to 0.6 instead, and the other one at 0.4: contracted 1.0', () => {
    back('2027-09-01');
    const terms = (employmentId: number, hours: number) =>
      acted('change_terms', { employmentId, firstDay: on('2027-09-01'), hours, reasonId: null });
    terms(ann.employmentId, 2250);
    const bea = [...world.register.all('employment')].find((row) => row.thing !== ann.employmentId)!;
    terms(bea.thing, 1500);
    const { contracted, atWork } = figuresOn('2027-09-01');
    expect([contracted, atWork]).toEqual([100, 100]);
  });

  test('planned for a day to come where the place is taken, a return is refused, naming who holds it', () => {
    const planned = acted(
      'return_from_absence',
      { employmentId: ann.employmentId, firstDay: on('2027-09-01'), hours: 2250 },
      '2027-07-01',
    );
    expect(planned.problems).toMatchObject([{ code: 'place_taken', params: { day: '2027-09-01' } }]);
  });
});

describe('days and steps', () => {
  test('a return in steps of 0.3, 0.6, 1.0 counts as at work, or as away until the last one, by its kind', () => {
    for (const [kindId, atWork] of [
      [kinds.counts, [0, 30, 60, 100]],
      [kinds.away, [0, 0, 0, 100]],
    ] as const) {
      const absence = away({ kindId });
      const steps = [
        { from: on('2027-06-01'), hours: 2250 },
        { from: on('2027-08-01'), hours: 3750 },
      ];
      const returned = back('2027-05-01', { hours: 1125, steps });
      expect(returned.codes).toEqual([]);
      const days = ['2027-04-30', '2027-05-01', '2027-06-01', '2027-08-01'];
      expect(days.map((text) => figuresOn(text).atWork)).toEqual(atWork);
      expect(days.map((text) => figuresOn(text).contracted)).toEqual([100, 100, 100, 100]);
      // it is over with the last step
      expect(awayOn('2027-11-01')).toBe(0);
      returned.undo();
      absence.undo();
    }
    expect(back('2027-05-01').codes).toEqual(['nobody_away']);
    // steps say with how many hours they begin: else somebody would be back wholly until the first of them
    away();
    const steps = [{ from: on('2027-06-01'), hours: 2250 }];
    expect(back('2027-05-01', { steps }).problems).toMatchObject([{ code: 'value_missing', field: 'hours' }]);
  });

  test('moved earlier, the place follows; a second one inside the first is refused with its days', () => {
    away();
    const [row] = world.register.referrers('absence', 'employmentId', ann.employmentId);
    const moved = acted('change_absence', {
      absenceId: row!.thing,
      firstDay: on('2027-02-15'),
      lastDay: on('2027-10-31'),
    });
    expect(moved.codes).toEqual([]);
    expect(['2027-02-14', '2027-02-15', '2027-10-31', '2027-11-01'].map(awayOn)).toEqual([0, 3750, 3750, 0]);
    const second = away({ firstDay: on('2027-05-01'), lastDay: on('2027-05-31') });
    expect(second.problems).toMatchObject([
      { code: 'absence_overlaps', params: { from: '2027-02-15', until: '2027-10-31' } },
    ]);
  });

  test('a part of the hours; without a last day; other hours and another place follow', () => {
    away({ lastDay: null, hours: 1500 });
    const { personId, employmentId } = ann;
    expect(awayOn('2031-01-01')).toBe(1500);
    expect(statusOf(world.register, personId, on('2027-04-01'))).toBe('at_work');
    back('2027-04-01');
    away({ firstDay: on('2027-05-01'), lastDay: null });
    expect(statusOf(world.register, personId, on('2027-05-01'))).toBe('away');
    acted('change_terms', { employmentId, firstDay: on('2027-06-01'), hours: 3000, reasonId: null });
    expect(awayOn('2027-06-01')).toBe(3000);
    const other = world.position(world.units.harbour, 'Other');
    const moved = acted('transfer', {
      personId,
      positionId: other,
      firstDay: on('2027-07-01'),
      reasonId: null,
    });
    expect(moved.codes).toEqual([]);
    expect(awayOn('2027-07-01')).toBe(3750);
  });

  test('what is away without an absence is refused', () => {
    const draft = new Draft(world.register, () => ids++, 2);
    draft.set('placement', ann.placementId, { from: on('2027-03-01'), values: { awayHours: 1000 } });
    expect(laws(world.register, draft.change).map(({ problem: { code } }) => code)).toEqual(['away_unlike']);
    draft.discard();
  });
});

describe('whoever stands in', () => {
  let bea: Hired;
  beforeEach(() => {
    const { position, units, hired } = world;
    bea = hired('Bea', position(units.harbour, 'Yard'), '2025-01-01', { hours: 1875 });
  });
  const coverOf = (more: Partial<MovementInput<'cover'>> = {}) =>
    acted('cover', {
      awayEmploymentId: ann.employmentId,
      personId: bea.personId,
      firstDay: on('2027-03-01'),
      hours: 1875,
      reasonId: null,
      ...more,
    });

  test('a cover lasts as long as the absence, holds no more than is away, and no place', () => {
    expect(coverOf().codes).toEqual(['nobody_away']);
    away();
    const covered = coverOf();
    expect(covered.codes).toEqual([]);
    expect(heldOn(place, '2027-03-01')).toMatchObject({ held: 100, occupancy: 'filled' });
    expect(figuresOn('2027-03-01')).toEqual({ people: 2, contracted: 200, atWork: 100 });
    expect(figuresOn('2027-12-01')).toEqual({ people: 2, contracted: 150, atWork: 150 });
    // 0.8 are away again from 1 September: the cover of 0.5 has 0.3 too much, which has happened
    const returned = back('2027-09-01', { hours: 3000 });
    expect(returned.codes).toEqual(['over_by_right']);
    returned.undo();
    covered.undo();
    expect(coverOf({ hours: 3751 }).codes).toContain('cover_too_large');
    expect(coverOf({ personId: ann.personId }).codes).toContain('own_position');
  });

  test('a cover that begins two weeks before is one of handover, where the position has as many days', () => {
    away();
    const early = coverOf({ firstDay: on('2027-02-15') });
    expect(early.problems).toMatchObject([{ code: 'cover_too_large', params: { over: 50 } }]);
    early.undo();
    world.draft.set('position_limits', place, { from: on('2027-01-01'), values: { handoverDays: 14 } });
    const fits = coverOf({ firstDay: on('2027-02-15') });
    expect(fits.codes).toEqual([]);
    fits.undo();
    expect(coverOf({ firstDay: on('2027-02-14') }).codes).toContain('cover_too_large');
  });

  test('acting: direct reports follow, the allowance ends with it, and goes with another last day', () => {
    const { position, units, hired, draft } = world;
    const below = position(units.terminal, 'Below', { reportsToId: place });
    hired('C', below, '2025-01-01');
    away();
    const kindId = draft.create('list_entry', '-infinity', {
      list: 'pay_kind',
      code: 'ACT',
      label: { en: 'Acting', de: 'Vertretung' },
      flags: {},
    });
    const acts = acted('acting', {
      positionId: place,
      personId: bea.personId,
      firstDay: on('2027-03-01'),
      lastDay: on('2027-11-30'),
      allowance: { kindId, amount: '200' },
      reasonId: null,
    });
    expect(acts.codes).toEqual([]);
    const leader = (text: string) => leaderOf(world.register, place, on(text))?.personId;
    expect(directReports(world.register, place, on('2027-03-01'))).toEqual([below]);
    expect(['2027-02-28', '2027-03-01', '2027-11-30', '2027-12-01'].map(leader)).toEqual([
      ann.personId,
      bea.personId,
      bea.personId,
      ann.personId,
    ]);
    const paid = () =>
      world.register
        .referrers('pay', 'employmentId', bea.employmentId)
        .map((row) => [row.from, row.until, row.values.amount]);
    expect(paid()).toEqual([['2027-03-01', '2027-12-01', '200']]);
    const standInId = acts.moved?.things.placementId as number;
    expect(acted('end_stand_in', { standInId, lastDay: on('2027-06-30') }).codes).toEqual([]);
    expect(paid()).toEqual([['2027-03-01', '2027-07-01', '200']]);
    // nobody acts any more: who is away leads by name
    expect(leader('2027-07-01')).not.toBe(bea.personId);
    expect(acted('end_stand_in', { standInId: ann.placementId, lastDay: on('2027-06-30') }).codes).toEqual([
      'no_stand_in',
    ]);
  });

  test('a second place takes room and share: above 1.0 in all wants a word, above 1.5 is refused', () => {
    const second = world.position(world.units.company, 'Also');
    const at = (hours: number) =>
      acted('second_placement', {
        ...{ personId: bea.personId, positionId: second, hours, reasonId: null },
        firstDay: on('2027-03-01'),
        lastDay: addDays(on('2027-03-01'), 99),
      });
    const fits = at(1500);
    expect(fits.codes).toEqual([]);
    expect(heldOn(second, '2027-03-01')).toMatchObject({ held: 40, free: 60 });
    fits.undo();
    const more = at(3000);
    expect(more.codes).toEqual(['share_above_one']);
    more.undo();
    expect(at(3751).codes).toEqual(expect.arrayContaining(['share_too_high']));
  });
});
