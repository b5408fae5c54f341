// What somebody brings against what their position asks, worked by hand.
import { beforeEach, expect, test } from '@jest/globals';
import type { NewValues } from '@gremium/contract';
import { START, type SmallWorld, smallWorld } from '../../test/small-world';
import type { Hired } from '../movements/hire';
import { day } from '../time/calendar';
import { expiryOn, qualifiedFor } from './qualified';

const ON = day('2026-06-01');
let world: SmallWorld;
let personId: number;
let positionId: number;
let low: number;
let high: number;
const entry = (list: string, code: string, flags: object = {}): number =>
  world.draft.create('list_entry', START, {
    ...{ list, code, label: { en: code, de: code } },
    flags,
  } as NewValues<'list_entry'>);
beforeEach(() => {
  world = smallWorld();
  positionId = world.position(world.units.harbour, 'Pilot');
  ({ personId } = world.hired('A', positionId, START) as Hired);
  low = entry('certificate', 'LOW', { series: 'nautical', rank: 1 });
  high = entry('certificate', 'HIGH', { series: 'nautical', rank: 2 });
});
const asks = (values: object) =>
  world.draft.create('job_requirement', START, {
    jobId: world.job,
    needed: 'required',
    ...values,
  } as NewValues<'job_requirement'>);
const holds = (certificateId: number, expiresOn: string | null) =>
  world.draft.create('held_certificate', START, {
    ...{ personId, certificateId, expiresOn: expiresOn === null ? null : day(expiresOn) },
  } as NewValues<'held_certificate'>);
const said = (on = ON) =>
  qualifiedFor(world.register, personId, positionId, on).map(({ state, until }) => [state, until]);

test.each([
  // on the last day it is still met, and runs out; sixty days before it does not run out yet
  ['2026-06-01', ['runs_out', '2026-06-01']],
  ['2026-05-31', ['missing', null]],
  ['2026-07-30', ['runs_out', '2026-07-30']],
  ['2026-07-31', ['met', '2026-07-31']],
  [null, ['met', null]],
])('a certificate until %s', (until, wanted) => {
  asks({ certificateIds: [low] });
  expect(said()).toEqual([['missing', null]]);
  holds(low, until);
  expect(said()).toEqual([wanted]);
});

test('a higher one of the series meets a lower one, not the other way round; of several the longest counts', () => {
  asks({ certificateIds: [low] });
  holds(high, '2026-06-10');
  expect(said()).toEqual([['runs_out', '2026-06-10']]);
  holds(low, '2027-01-01');
  expect(said()).toEqual([['met', '2027-01-01']]);
  asks({ certificateIds: [high] });
  // the lower follows from the higher, and is not asked twice
  expect(said()).toEqual([['runs_out', '2026-06-10']]);
});

test('a skill at its level, and what the position asks beside the job', () => {
  const diesel = entry('skill', 'DIESEL');
  asks({ skillIds: [diesel], level: 3 });
  const skill = world.draft.create('held_skill', START, {
    ...{ personId, skillId: diesel, level: 2 },
  } as NewValues<'held_skill'>);
  expect(said()).toEqual([['missing', null]]);
  world.draft.set('held_skill', skill, { from: day('2026-06-02'), values: { level: 3 } });
  expect([said(), said(day('2026-06-02'))]).toEqual([[['missing', null]], [['met', null]]]);
  world.draft.create('position_requirement', START, {
    ...{ positionId, needed: 'wished', certificateIds: [low] },
  } as NewValues<'position_requirement'>);
  expect(said(day('2026-06-02'))).toEqual([
    ['met', null],
    ['missing', null],
  ]);
});

test('a certificate until yesterday reads as run out on each later day of the lens, and as running out before', () => {
  const until = day('2026-05-31');
  expect(expiryOn(until, day('2026-06-01'))).toBe('over');
  expect(expiryOn(until, day('2030-01-01'))).toBe('over');
  // its last day is a day on which it holds
  expect(expiryOn(until, day('2026-05-31'))).toBe('due');
  // sixty days: from 2 April on
  expect(expiryOn(until, day('2026-04-02'))).toBe('due');
  expect(expiryOn(until, day('2026-04-01'))).toBeNull();
});
