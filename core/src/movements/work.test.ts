// Jobs, positions, their holders and pay steps, worked by hand on a small organisation.
import { beforeEach, describe, expect, test } from '@jest/globals';
import type { Bound, Change, MovementInput, MovementKind, Row, Values } from '@gremium/contract';
import { START, type SmallWorld, smallWorld } from '../../test/small-world';
import { laws } from '../laws';
import { payPlace } from '../people/pay-range';
import { sense } from '../people/sense';
import { followAbsences } from '../people/absences';
import { nextStep, stepDue } from '../people/steps';
import { hundredths, toNumber } from '../structure/fraction';
import { positionState, vacancyOn } from '../structure/occupancy';
import { BEGINNING, OPEN, day } from '../time/calendar';
import { decisionOf } from './decisions';

let world: SmallWorld;
beforeEach(() => {
  world = smallWorld();
});

const on = (text: string) => day(text);
const decide = <K extends MovementKind>(kind: K, input: MovementInput<K>) =>
  decisionOf(kind)(world.draft, input, { today: START, number: '77' });
const codes = () => world.draft.problems.map(({ code }) => code);
const broken = () => laws(world.register, world.draft.change).map(({ problem }) => problem);

// What came since a moment, as an entry of its own: what stood before is settled.
const since = (act: () => void): Change => {
  const before = new Set(world.draft.change.recorded.map(({ id }) => id));
  const all = [...world.draft.change.recorded];
  act();
  const now = world.draft.change;
  return {
    recorded: now.recorded.filter(({ id }) => !before.has(id)),
    superseded: all.filter(({ id }) => !now.recorded.some((row) => row.id === id)),
  };
};
const codesOf = (change: Change) => laws(world.register, change).map(({ problem }) => problem.code);
const sensed = (change: Change) =>
  sense(world.register, change, { twins: false, today: '2026-11-23' as never }).problems;

describe('limits', () => {
  test('4 places and 2.8 FTE held by 1.0, 0.7 and 0.5: part filled, 1 place and 0.6 free; 0.8 more is 0.2 over', () => {
    const { position, hired, units, register } = world;
    const crew = position(units.terminal, 'Crew', {}, { places: 4, fte: 280 });
    hired('A', crew, '2024-01-01', { hours: 3750 });
    hired('B', crew, '2024-01-01', { hours: 2625 });
    hired('C', crew, '2024-01-01', { hours: 1875 });
    const state = positionState(register, crew, on('2024-02-01'));
    expect([state.occupancy, state.freePlaces, state.freeFte && hundredths(state.freeFte)]).toEqual([
      'part_filled',
      1,
      60,
    ]);
    const fourth = since(() => hired('D', crew, '2024-02-01', { hours: 3000 }));
    expect(laws(register, fourth)[0]?.problem).toMatchObject({ code: 'fte_taken', params: { over: 20 } });
  });

  test('seven people at 5 of 35 hours fill exactly 1.0', () => {
    const { position, hired, units, register, draft } = world;
    draft.set('organisation', [...register.things('organisation')][0] as number, {
      from: BEGINNING,
      values: { fullTime: 3500 },
    });
    const desk = position(units.terminal, 'Desk', {}, { places: null, fte: 100 });
    for (const name of 'ABCDEFG') hired(name, desk, '2024-01-01', { hours: 500 });
    const state = positionState(register, desk, START);
    expect([state.occupancy, state.held]).toEqual(['filled', { num: 1n, den: 1n }]);
    expect(broken()).toEqual([]);
    const eighth = since(() => hired('H', desk, '2024-01-01', { hours: 500 }));
    expect(codesOf(eighth)).toEqual(['fte_taken']);
  });

  test('FTE 1.0 from April to September and 0.5 else: a holder of 0.8 is 0.3 over from October, a newcomer then is refused', () => {
    const { position, hired, units, register } = world;
    const summer = position(units.terminal, 'Summer', {}, { places: 3, fte: 100 });
    hired('A', summer, '2024-04-01', { hours: 3000 });
    const season = since(() =>
      decide('limits_by_season', {
        positionId: summer,
        firstDay: on('2024-04-01'),
        lastDay: on('2024-09-30'),
        years: 2,
        fte: 100,
        otherFte: 50,
      }),
    );
    const fteOn = (text: string) => register.at('position_limits', summer, on(text))?.fte;
    expect(
      [
        '2024-03-31',
        '2024-04-01',
        '2024-09-30',
        '2024-10-01',
        '2025-03-31',
        '2025-04-01',
        '2025-10-01',
        '2026-06-01',
      ].map(fteOn),
    ).toEqual([100, 100, 100, 50, 50, 100, 50, 50]);
    const warned = laws(register, season).map(({ problem: { code, params } }) => [
      code,
      params['day'],
      params['over'],
    ]);
    expect(warned).toEqual([
      ['limit_lowered_fte', '2024-10-01', 30],
      ['limit_lowered_fte', '2025-10-01', 30],
    ]);
    const inSummer = since(() => hired('C', summer, '2024-05-01', { hours: 375, lastDay: on('2024-09-30') }));
    expect(codesOf(inSummer)).toEqual([]);
    const winter = since(() => hired('B', summer, '2024-10-01', { hours: 375 }));
    expect(codesOf(winter)).toContain('fte_taken');
  });

  test('above a limit by right wants a word, and a reason with a day on which it is looked at again', () => {
    const { position, hired, units, register } = world;
    const place = position(units.terminal, 'Place');
    hired('A', place, '2024-01-01');
    const above = { aboveReason: 'reinstated by the court', reviewOn: on('2024-06-30') };
    const second = since(() => hired('B', place, '2024-02-01', { above }));
    expect(codesOf(second)).toEqual(['over_by_right']);
    expect(positionState(register, place, on('2024-02-01')).occupancy).toBe('over_held');
    const third = since(() => hired('C', place, '2024-03-01'));
    expect(codesOf(third)).toEqual(['place_taken']);
    const held = register.referrers('placement', 'positionId', place)[0] as Row<'placement'>;
    const half = since(() =>
      world.draft.set('placement', held.thing, { from: START, values: { aboveReason: 'why' } }),
    );
    expect(codesOf(half)).toContain('review_needed');
  });

  test('left 30 November, on hold 1 January to 30 June, asked on 10 July: 41 days vacant', () => {
    const { position, hired, units, draft, register } = world;
    const place = position(units.terminal, 'Place');
    hired('A', place, '2024-02-01', { lastDay: on('2024-11-30') });
    draft.set('position', place, { from: on('2025-01-01'), values: { standing: 'on_hold' } });
    draft.set('position', place, { from: on('2025-07-01'), values: { standing: 'in_force' } });
    expect(vacancyOn(register, place, on('2025-07-10'))).toEqual({ since: '2024-12-01', days: 41 });
  });
});

describe('what follows a job', () => {
  const madeOf = (more: object = {}) =>
    decide('new_position', {
      firstDay: START,
      unitId: world.units.terminal,
      jobId: world.job,
      standing: 'in_force',
      ...more,
    })?.things.positionId as number;

  test('hours of a job changed: three follow, one keeps its own 30 hours; what was decided otherwise is done otherwise', () => {
    const { job, register } = world;
    const [a, b, c] = [madeOf(), madeOf(), madeOf()];
    const own = madeOf({ hours: 3000 });
    const from = on('2024-07-01');
    const done = decide('change_job', { jobId: job, firstDay: from, hours: 3500 });
    const said = done?.concerned?.lines.map(({ what, values }) => [
      what.id,
      values[0]?.before,
      values[0]?.after,
    ]);
    expect(said).toEqual([
      [a, null, 3500],
      [b, null, 3500],
      [c, null, 3500],
      [own, 3000, 3000],
    ]);
    expect(done?.concerned?.count).toBe(4);
    expect([a, own].map((id) => register.at('position', id, on('2024-06-30'))?.hours)).toEqual([null, 3000]);
    expect([a, own].map((id) => register.at('position', id, from)?.hours)).toEqual([3500, 3000]);
    // a keeps what it has from now on, own follows
    decide('change_job', { jobId: job, firstDay: on('2025-01-01'), hours: 2000, others: [a, own] });
    const later = on('2025-01-01');
    expect([a, b, own].map((id) => register.at('position', id, later)?.hours)).toEqual([3500, 2000, 2000]);
    expect([a, b, own].map((id) => register.at('position', id, later)?.sources.hours)).toEqual([
      'own',
      'job',
      'job',
    ]);
    decide('change_job', { jobId: job, firstDay: on('2026-01-01'), hours: 1000, followers: 'keep' });
    expect([b, own].map((id) => register.at('position', id, on('2026-01-01'))?.sources.hours)).toEqual([
      'own',
      'own',
    ]);
  });

  test('followers follow only up to where the job changes again by itself', () => {
    const { job, register } = world;
    const a = madeOf();
    decide('change_job', { jobId: job, firstDay: on('2025-01-01'), hours: 2000 });
    decide('change_job', { jobId: job, firstDay: on('2024-07-01'), hours: 3500 });
    const hours = (text: string) => register.at('position', a, on(text))?.hours;
    expect([hours('2024-06-30'), hours('2024-07-01'), hours('2024-12-31'), hours('2025-01-01')]).toEqual([
      null,
      3500,
      3500,
      2000,
    ]);
  });

  test('the FTE of a job is the limit of those that follow it', () => {
    const { job, register } = world;
    const [a, own] = [madeOf(), madeOf({ fte: 200 })];
    decide('change_job', { jobId: job, firstDay: START, fte: 50 });
    expect([a, own].map((id) => register.at('position_limits', id, START)?.fte)).toEqual([50, 200]);
  });

  test('a job of code, name and day; copied with certificates and checks but not skills, without one entry', () => {
    const { draft, register } = world;
    const entry = (list: 'task' | 'check' | 'skill' | 'certificate', code: string) =>
      draft.create('list_entry', BEGINNING, { list, code, label: { en: code, de: code }, flags: {} });
    const [look, fit, clean] = [entry('task', 'LOOK'), entry('check', 'FIT'), entry('check', 'CLEAN')];
    const [plan, ticket, radio] = [
      entry('skill', 'PLAN'),
      entry('certificate', 'TICKET'),
      entry('certificate', 'RADIO'),
    ];
    const bare = decide('new_job', { firstDay: START, fromBeginning: true, code: 'BARE', name: 'Bare' });
    const bareId = bare?.things.jobId as number;
    expect(register.at('job', bareId, BEGINNING)).toMatchObject({
      title: 'Bare',
      fte: 100,
      active: true,
      hours: null,
    });
    decide('change_job', {
      jobId: bareId,
      firstDay: START,
      taskIds: [look],
      checkIds: [fit, clean],
      level: 4,
    });
    const needs = { jobId: bareId, skillIds: null, certificateIds: null, educationIds: null, level: null };
    draft.create('job_requirement', START, { ...needs, needed: 'required', skillIds: [plan], level: 3 });
    draft.create('job_requirement', START, { ...needs, needed: 'required', certificateIds: [ticket, radio] });
    const copied = decide('new_job', {
      firstDay: START,
      code: 'COPY',
      name: 'Copy',
      likeId: bareId,
      parts: ['checks', 'certificates'],
      without: [clean, radio],
    })?.things.jobId as number;
    expect(register.at('job', copied, START)).toMatchObject({ taskIds: null, checkIds: [fit], level: null });
    const of = (id: number) =>
      register
        .referrers('job_requirement', 'jobId', id)
        .map(({ values }) => [values.skillIds, values.certificateIds]);
    expect(of(copied)).toEqual([[null, [ticket]]]);
    // parts into a job that is there: lists are added to, what is empty is filled, what stands stays
    draft.set('job', copied, { from: START, values: { level: 7 } });
    const filled = decide('copy_into_job', {
      jobId: copied,
      likeId: bareId,
      firstDay: START,
      parts: ['described', 'tasks', 'checks', 'skills'],
    });
    expect(register.at('job', copied, START)).toMatchObject({
      taskIds: [look],
      checkIds: [fit, clean],
      level: 7,
    });
    expect(of(copied)).toEqual([
      [null, [ticket]],
      [[plan], null],
    ]);
    expect(filled?.slip.map(({ field }) => field).sort()).toEqual(['checkIds', 'skillIds', 'taskIds']);
    decide('copy_into_job', { jobId: copied, likeId: bareId, firstDay: START, parts: ['tasks', 'skills'] });
    expect(codes()).toEqual(['nothing_to_copy']);
  });

  test('no position is of a pattern; a retired job, another branch, one more than allowed want a word', () => {
    const { draft, job, units } = world;
    const pattern = decide('new_job', { firstDay: START, code: 'P', name: 'P', pattern: true })?.things
      .jobId as number;
    const made = (jobId: number, unitId: number) =>
      sensed(since(() => decide('new_position', { firstDay: START, unitId, jobId, standing: 'in_force' })));
    expect(made(pattern, units.terminal)).toMatchObject([{ code: 'job_is_pattern', severity: 'error' }]);
    draft.set('job', job, { from: START, values: { mostPositions: 1, branchId: units.harbour } });
    expect(made(job, units.terminal)).toEqual([]);
    expect(made(job, units.company).map(({ code, params }) => [code, params['count'] ?? null])).toEqual([
      ['job_of_branch', null],
      ['job_used_up', 2],
    ]);
    draft.set('job', job, { from: START, values: { mostPositions: null, branchId: null, active: false } });
    expect(made(job, units.terminal).map(({ code }) => code)).toEqual(['job_retired']);
  });
});

describe('positions alike', () => {
  test('several at once, each with a code; a copy has limits, requirements and dotted lines of the one it is like', () => {
    const { units, job, register, draft, position } = world;
    const boss = position(units.company, 'Boss');
    const made = decide('new_position', {
      firstDay: START,
      unitId: units.terminal,
      jobId: job,
      standing: 'planned',
      count: 3,
      code: 'DECK',
      places: 2,
      fte: 150,
    });
    expect(made?.concerned?.lines.map(({ values }) => values[0]?.after)).toEqual([
      'DECK-1',
      'DECK-2',
      'DECK-3',
    ]);
    const first = made?.things.positionId as number;
    const skill = draft.create('list_entry', BEGINNING, {
      list: 'skill',
      code: 'S',
      label: { en: 'S', de: 'S' },
      flags: {},
    });
    draft.create('position_requirement', START, { positionId: first, skillIds: [skill], needed: 'wished' });
    draft.create('dotted_line', START, { positionId: first, toId: boss });
    const copy = decide('copy_position', {
      likeId: first,
      firstDay: on('2024-03-01'),
      standing: 'in_force',
      title: 'Mate',
    });
    const id = copy?.things.positionId as number;
    expect(register.at('position', id, on('2024-03-01'))).toMatchObject({
      title: 'Mate',
      unitId: units.terminal,
      jobId: job,
      standing: 'in_force',
      sources: { gradeId: 'job', hours: 'job' },
    });
    expect(register.at('position_limits', id, on('2024-03-01'))).toMatchObject({ places: 2, fte: 150 });
    expect(register.referrers('position_requirement', 'positionId', id)).toHaveLength(1);
    expect(register.referrers('dotted_line', 'positionId', id)[0]?.values.toId).toBe(boss);
  });
});

describe('a change carried to holders', () => {
  const ground = (holders: number) => {
    const { draft, position, units, hired } = world;
    const [north, south] = ['N', 'S'].map((code) =>
      draft.create('cost_centre', BEGINNING, { code, name: code }),
    );
    const place = position(
      units.terminal,
      'Place',
      { costCentreId: north as number },
      { places: 2, fte: 200 },
    );
    const held = ['A', 'B'].slice(0, holders).map((name) => hired(name, place, '2024-01-01').placementId);
    return { north: north as number, south: south as number, place, held };
  };
  const ownOf = (id: number) => world.register.at('placement', id, on('2024-07-01'))?.costCentreId;

  test('a cost centre, with nobody: nothing is concerned', () => {
    const { place, south } = ground(0);
    const done = decide('change_position', {
      positionId: place,
      firstDay: on('2024-07-01'),
      costCentreId: south,
    });
    expect(done?.concerned).toEqual({ count: 0, lines: [] });
  });

  test('with one: the holder follows by itself, or keeps the old one as their own', () => {
    const { place, north, south, held } = ground(1);
    const done = decide('change_position', {
      positionId: place,
      firstDay: on('2024-07-01'),
      costCentreId: south,
    });
    expect(done?.concerned?.lines.map(({ values }) => [values[0]?.before, values[0]?.after])).toEqual([
      [north, south],
    ]);
    expect(held.map(ownOf)).toEqual([null]);
    decide('change_position', {
      positionId: place,
      firstDay: on('2024-08-01'),
      costCentreId: north,
      holders: 'keep',
    });
    const [placement] = held as [number];
    expect(world.register.at('placement', placement, on('2024-08-01'))?.costCentreId).toBe(south);
  });

  test('with two, one with a value of their own: that one stays and is told, unless it is decided otherwise', () => {
    const { place, north, south, held } = ground(2);
    const [a, b] = held as [number, number];
    world.draft.set('placement', b, { from: START, values: { costCentreId: north } });
    const change = { positionId: place, firstDay: on('2024-07-01'), costCentreId: south };
    const done = decide('change_position', change);
    const said = done?.concerned?.lines.map(({ what, values }) => [
      what.id,
      values[0]?.before,
      values[0]?.after,
    ]);
    expect(said).toEqual([
      [a, north, south],
      [b, north, north],
    ]);
    expect([a, b].map(ownOf)).toEqual([null, north]);
    decide('change_position', { ...change, firstDay: on('2024-09-01'), costCentreId: north, others: [b] });
    expect(world.register.at('placement', b, on('2024-09-01'))?.costCentreId).toBeNull();
  });

  test('hours are kept unless it is said; who works others than the position keeps them', () => {
    const { place, held } = ground(2);
    const [a, b] = held as [number, number];
    world.draft.set('placement', b, { from: START, values: { hours: 1000 } });
    const hoursOn = (id: number, text: string) => world.register.at('placement', id, on(text))?.hours;
    decide('change_position', { positionId: place, firstDay: on('2024-07-01'), hours: 3000 });
    expect([a, b].map((id) => hoursOn(id, '2024-07-01'))).toEqual([3750, 1000]);
    decide('change_position', {
      positionId: place,
      firstDay: on('2024-08-01'),
      hours: null,
      holders: 'follow',
    });
    expect([a, b].map((id) => hoursOn(id, '2024-08-01'))).toEqual([3750, 1000]);
    const until = { lastDay: on('2024-12-31'), holders: 'follow' as const };
    decide('change_position', { positionId: place, firstDay: on('2024-10-01'), hours: 2500, ...until });
    expect([a, b].map((id) => hoursOn(id, '2024-10-01'))).toEqual([2500, 1000]);
    expect([hoursOn(a, '2025-01-01'), world.register.at('position', place, on('2025-01-01'))?.hours]).toEqual(
      [3750, null],
    );
  });
});

describe('pay against the range of the grade', () => {
  const START_PAY = {
    kindId: 0,
    amount: '3000',
    currency: 'EUR',
    basis: 'month' as const,
    rate: 'full_time' as const,
  };
  const graded = (maximum: string, fullTime = 3750) => {
    const { draft, position, units } = world;
    const gradeId = draft.create('grade', BEGINNING, { code: 'G', name: 'G', level: 3, steps: 4 });
    const range = draft.create('grade_range', BEGINNING, {
      gradeId,
      currency: 'EUR',
      minimum: '2000',
      middle: '2500',
      maximum,
      fullTime,
    });
    return { gradeId, range, place: position(units.terminal, 'Graded', { gradeId }) };
  };
  const worked = { hours: 3750, fullTime: 3750 };

  test('exactly at the maximum passes, a cent above is flagged', () => {
    const { hired, lists, register } = world;
    const { place } = graded('3000');
    const pay = (amount: string) => [{ amount, kindId: lists.BASE }];
    expect(sensed(since(() => hired('A', place, '2024-01-01', { pay: pay('3000') })))).toEqual([]);
    const { place: other } = graded('3000');
    const flagged = sensed(since(() => hired('B', other, '2024-01-01', { pay: pay('3000.01') })));
    expect(flagged).toMatchObject([{ code: 'pay_outside_range', params: { maximum: '3000.00' } }]);
    expect(register.referrers('placement', 'positionId', place)).toHaveLength(1);
  });

  test('flagged where only hours change: what is really paid is more at full time', () => {
    const { hired, lists, draft } = world;
    const { place } = graded('3000');
    const pay = [{ amount: '3000', kindId: lists.BASE, rate: 'actual' as const }];
    const { placementId } = hired('A', place, '2024-01-01', { pay });
    const fewer = since(() =>
      draft.set('placement', placementId, { from: on('2024-06-01'), values: { hours: 3749 } }),
    );
    expect(sensed(fewer).map(({ code }) => code)).toEqual(['pay_outside_range']);
    const more = since(() =>
      draft.set('placement', placementId, { from: on('2024-07-01'), values: { hours: 3750 } }),
    );
    expect(sensed(more)).toEqual([]);
  });

  test('flagged where only the range changes, or the grade of the position; not again where it was so before', () => {
    const { hired, lists, draft } = world;
    const { place, range, gradeId } = graded('3000');
    const { personId } = hired('A', place, '2024-01-01', { pay: [{ amount: '3000', kindId: lists.BASE }] });
    const lowered = since(() =>
      draft.set('grade_range', range, { from: on('2024-06-01'), values: { maximum: '2999.99' } }),
    );
    expect(sensed(lowered)).toMatchObject([
      { code: 'pay_of_others_outside', params: { count: 1, people: [{ kind: 'person', id: personId }] } },
    ]);
    const again = since(() =>
      draft.set('grade_range', range, { from: on('2024-07-01'), values: { maximum: '2999' } }),
    );
    expect(sensed(again)).toEqual([]);
    draft.set('grade_range', range, { from: on('2024-08-01'), values: { maximum: '3000' } });
    const low = draft.create('grade', BEGINNING, { code: 'L', name: 'L', level: 1, steps: 1 });
    draft.create('grade_range', BEGINNING, {
      gradeId: low,
      currency: 'EUR',
      minimum: '1000',
      middle: '1500',
      maximum: '2000',
      fullTime: 3750,
    });
    const regraded = since(() =>
      draft.set('position', place, { from: on('2024-09-01'), values: { gradeId: low } }),
    );
    expect(sensed(regraded).map(({ code }) => code)).toEqual(['pay_of_others_outside']);
    expect(gradeId).not.toBe(low);
  });

  test('a range stands for hours: 38 of them at most 3800 is 3750 of 37.5, compa-ratio and place in range exact', () => {
    const { register, lists } = world;
    const { gradeId } = graded('3800', 3800);
    const at = (amount: string) =>
      payPlace(
        register,
        { ...START_PAY, kindId: lists.BASE, amount },
        { gradeId, ...worked, days: 500 },
        START,
      );
    expect([at('3750')?.isOutside, at('3750.01')?.isOutside]).toEqual([false, true]);
    // 3000 for 37.5 h is 3040 for 38: ÷ 2500; (3040 − 2000) ÷ 1800
    const place = at('3000') as NonNullable<ReturnType<typeof at>>;
    expect([toNumber(place.compaRatio as never), toNumber(place.placeInRange as never)]).toEqual([
      1.216,
      1040 / 1800,
    ]);
    const half = payPlace(
      register,
      { ...START_PAY, kindId: lists.BASE, amount: '1500', rate: 'actual' },
      { gradeId, hours: 1875, fullTime: 3750, days: 500 },
      START,
    );
    expect(half?.compaRatio).toEqual(place.compaRatio);
  });

  test('a job is paid by the hour in a country: by the month wants a word', () => {
    const { draft, job, hired, lists, position, units } = world;
    draft.create('job_pay_basis', BEGINNING, { jobId: job, country: 'FI', basis: 'hour' });
    const place = position(units.terminal, 'Hourly');
    const hire = (basis: 'hour' | 'month', amount: string) =>
      since(() => hired(amount, place, '2024-01-01', { pay: [{ amount, kindId: lists.BASE, basis }] }));
    expect(sensed(hire('month', '3000')).map(({ code }) => code)).toEqual(['pay_basis_differs']);
    expect(sensed(hire('hour', '20'))).toEqual([]);
  });
});

describe('pay steps', () => {
  test('twelve months with two stopped are fourteen; a stop without an end stops for good', () => {
    const stop = (from: string, until: string) => ({ from: from as Bound, until: until as Bound });
    const due = (stops: ReturnType<typeof stop>[]) => stepDue(on('2024-01-01'), 12, stops);
    expect(due([])).toBe('2025-01-01');
    expect(due([stop('2024-03-01', '2024-05-01')])).toBe('2025-03-01');
    // one that begins only in the time that was added, one that lies before, two that touch
    expect(due([stop('2024-03-01', '2024-05-01'), stop('2025-02-01', '2025-02-15')])).toBe('2025-03-15');
    expect(due([stop('2023-03-01', '2023-05-01')])).toBe('2025-01-01');
    expect(due([stop('2024-03-01', '2024-04-01'), stop('2024-04-01', '2024-05-01')])).toBe('2025-03-01');
    expect(due([stop('2024-03-01', OPEN)])).toBeNull();
    expect(due([stop('2025-01-01', OPEN)])).toBe('2025-01-01');
  });

  const ground = () => {
    const { draft, position, units, hired, lists } = world;
    const entry = (code: string, flags: Values<'list_entry'>['flags']) =>
      draft.create('list_entry', BEGINNING, {
        list: 'absence_kind',
        code,
        label: { en: code, de: code },
        flags,
      });
    const kinds = { stops: entry('UNPAID', { stopsClock: true }), runs: entry('ILL', {}) };
    const gradeId = draft.create('grade', BEGINNING, { code: 'G', name: 'G', level: 3, steps: 3 });
    for (const step of [1, 2]) draft.create('grade_step', BEGINNING, { gradeId, step, months: 12 });
    for (const [step, amount] of [
      [2, '3100'],
      [3, '3200'],
    ] as const)
      draft.create('grade_step_pay', BEGINNING, { gradeId, step, currency: 'EUR', amount, fullTime: 3750 });
    const place = position(units.terminal, 'Graded', { gradeId, step: 1 });
    const hire = hired('A', place, '2024-01-01', { pay: [{ amount: '3000', kindId: lists.BASE }] });
    return { ...hire, kinds, gradeId };
  };
  const away = (employmentId: number, kindId: number, hours: number | null) => {
    const { draft } = world;
    const common = { from: on('2024-03-01'), until: on('2024-05-01') };
    for (const row of [...world.register.referrers('absence', 'employmentId', employmentId)])
      draft.cutFrom('absence', row.thing, common.from);
    draft.create('absence', common.from, { employmentId, kindId, hours }, common.until);
    followAbsences(draft);
  };

  test('who begins is on the step of the position; an absence stops the clock by its kind, and only where nothing is worked', () => {
    const { register } = world;
    const { employmentId, kinds } = ground();
    const due = () => nextStep(register, employmentId, on('2024-06-01'))?.due;
    expect(nextStep(register, employmentId, on('2024-06-01'))).toMatchObject({
      step: 1,
      since: '2024-01-01',
      amount: '3100',
    });
    expect(due()).toBe('2025-01-01');
    away(employmentId, kinds.runs, null);
    expect(due()).toBe('2025-01-01');
    away(employmentId, kinds.stops, 1000);
    expect(due()).toBe('2025-01-01');
    away(employmentId, kinds.stops, null);
    expect(due()).toBe('2025-03-01');
  });

  test('the due list is applied as one, each on their own day, twice where two are due; who is not due is named', () => {
    const { register, draft } = world;
    const { employmentId, gradeId } = ground();
    const done = decide('apply_steps', { firstDay: on('2026-03-01'), employmentIds: [employmentId] });
    const said = done?.concerned?.lines.map(({ values }) =>
      values.map(({ before, after }) => [before, after]),
    );
    expect(said).toEqual([
      [
        [null, '2025-01-01'],
        [1, 2],
        ['3000', '3100'],
      ],
      [
        [null, '2026-01-01'],
        [2, 3],
        ['3100', '3200'],
      ],
    ]);
    const paid = (text: string) => {
      const row = register
        .referrers('pay', 'employmentId', employmentId)
        .find((one) => one.from <= text && text < one.until);
      return [row?.values.step, row?.values.amount];
    };
    expect(['2024-12-31', '2025-01-01', '2026-01-01'].map(paid)).toEqual([
      [1, '3000'],
      [2, '3100'],
      [3, '3200'],
    ]);
    decide('apply_steps', { firstDay: on('2027-03-01'), employmentIds: [employmentId] });
    expect(codes()).toEqual(['step_not_due']);
    const beyond = since(() => {
      const [pay] = register.referrers('pay', 'employmentId', employmentId);
      draft.set('pay', pay?.thing as number, { from: on('2027-01-01'), values: { step: 4 } });
    });
    expect(sensed(beyond)).toMatchObject([{ code: 'step_not_there', params: { steps: 3 } }]);
    expect(gradeId).toBeGreaterThan(0);
  });

  test('another grade begins a clock of its own; an employment that is continued goes on with it', () => {
    const { register, draft, position, units } = world;
    const { employmentId, personId, gradeId } = ground();
    const other = draft.create('grade', BEGINNING, { code: 'H', name: 'H', level: 4, steps: 2 });
    draft.create('grade_step', BEGINNING, { gradeId: other, step: 1, months: 6 });
    const place = position(units.terminal, 'Other', { gradeId: other });
    decide('transfer', { personId, firstDay: on('2024-07-01'), positionId: place, reasonId: null });
    expect(nextStep(register, employmentId, on('2024-08-01'))).toMatchObject({
      gradeId: other,
      since: '2024-07-01',
      due: '2025-01-01',
      amount: null,
    });
    const abroad = position(units.terminal, 'Abroad', { gradeId: other, legalEntityId: world.entity.ee });
    const moved = decide('transfer', {
      personId,
      firstDay: on('2024-10-01'),
      positionId: abroad,
      reasonId: null,
    });
    expect(moved?.things.employmentId).not.toBe(employmentId);
    expect(nextStep(register, moved?.things.employmentId as number, on('2024-11-01'))).toMatchObject({
      since: '2024-07-01',
      due: '2025-01-01',
    });
    expect(gradeId).not.toBe(other);
  });
});
