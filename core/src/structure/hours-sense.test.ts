import { expect, test } from '@jest/globals';
import type { Bound, Row } from '@gremium/contract';
import { RowRegister } from '../time/register';
import { hoursOfJob, hoursOfPosition } from './hours-sense';

let id = 0;
const row = (section: string, thing: number, values: object) =>
  ({
    ...{ id: ++id, lineage: id, entry: 1, section, thing, values },
    ...{ from: '-infinity', until: 'infinity' },
  }) as unknown as Row;
const [ORGANISATION, UNIT, POSITION, JOB] = [1, 2, 3, 4];
const ground = (hours: number | null, fte: number | null) =>
  new RowRegister([
    row('organisation', ORGANISATION, { fullTime: 3750, workingDays: null }),
    row('unit', UNIT, { parentId: null, locationId: null, agreementId: null }),
    row('position', POSITION, { unitId: UNIT, jobId: JOB, hours, standing: 'in_force' }),
    row('position_limits', POSITION, { places: 1, fte, handoverDays: 0 }),
  ]);
const said = (hours: number | null, fte: number | null) =>
  hoursOfPosition(ground(hours, fte), POSITION, '2027-01-01' as Bound).map(({ params }) => params);

test('hours above the own limit say what they come to, and what would fit', () => {
  // 38.5 ÷ 37.5 = 1.0266…: above 1.00; 37.5 h would fit, or 1.03
  expect(said(3850, 100)).toEqual([
    { weekly: '38.5', full: '37.5', limit: '1', fitting: '37.5', needed: '1.03', share: '1.03' },
  ]);
  // 20 ÷ 37.5 = 0.5333…: above 0.50; 18.75 h would fit, or 0.54
  expect(said(2000, 50)[0]).toMatchObject({ fitting: '18.75', needed: '0.54', share: '0.53' });
});

test('exactly at the limit, below, without one, or without hours nothing is said', () => {
  expect([said(3750, 100), said(3000, 100), said(3850, null), said(null, 100)]).toEqual([[], [], [], []]);
});

test('a job is asked at the full-time hours of the organisation', () => {
  const job = row('job', JOB, { hours: 4000, fte: 100 }) as Row<'job'>;
  expect(hoursOfJob(ground(null, null), job)).toMatchObject([
    { code: 'hours_above_fte', params: { needed: '1.07', fitting: '37.5' } },
  ]);
});
