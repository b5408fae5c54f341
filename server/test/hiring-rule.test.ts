// Whether hires need a position, switched off and on from days with holders in the unit: nothing is undone, and hires on both
// sides of a day go by the rule of their first day. A unit's defaults come into the hire with their source.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { endpoints } from '@gremium/contract';
import { believed, many, newcomer, sql } from './harness';
import { type Moving, startMoving } from './moving';

let moving: Moving;
let unit: number;
let jobId: number;
beforeAll(async () => {
  moving = await startMoving();
  unit = await moving.makeUnit('Switching', await moving.unitNamed('Tallinn Harbour'), {
    hiresNeedPosition: true,
  });
  jobId = await moving.jobCoded('ASSIST');
});
afterAll(() => moving.running.close());

const byJob = (family: string, firstDay: string) =>
  moving.move('hire', { person: newcomer(family), firstDay, unitId: unit, jobId });
const refusedByJob = async (family: string, firstDay: string) =>
  (await moving.refused('hire', { person: newcomer(family), firstDay, unitId: unit, jobId })).codes;
const rule = (hiresNeedPosition: boolean | null, firstDay: string, preview = false) =>
  moving.move(
    'change_unit',
    { unitId: unit, firstDay, hiresNeedPosition },
    // what was planned for later stays, which is said
    { preview, words: { later_versions: 'on again from June anyway' } },
  );
const placedIn = () =>
  many<{ person: number; from: string; until: string; position: number }>(
    moving.running.owner,
    sql`select e.person_id as person, v.valid_from::text as from, v.valid_until::text as until, v.position_id as position
      from placement_version v
      join employment_version e on e.employment_id = v.employment_id and e.superseded_by is null
      join position_version p on p.position_id = v.position_id and p.superseded_by is null and p.valid_until = 'infinity'
      where v.superseded_by is null and p.unit_id = ${unit} order by 1, 2`,
  );

describe('hires need a position', () => {
  test('off from January and on again from June, with holders in the unit', async () => {
    const position = await moving.makePosition(unit);
    await moving.hireInto({ positionId: position }, 'Before');
    expect(await refusedByJob('Early', '2026-12-15')).toEqual(['hires_need_position']);

    const off = await rule(false, '2027-01-01', true);
    // whom it concerns: everybody there from that day on, with the position each holds
    expect(off.concerned?.count).toBe(1);
    expect(off.concerned?.lines[0]).toMatchObject({
      kind: 'placement',
      name: expect.stringContaining('Before'),
    });
    await rule(false, '2027-01-01');
    await rule(true, '2027-06-01');

    // nobody who was there is touched
    expect(await placedIn()).toHaveLength(1);
    expect(await refusedByJob('Eve', '2026-12-31')).toEqual(['hires_need_position']);
    const first = await byJob('First', '2027-01-01');
    const last = await byJob('Last', '2027-05-31');
    expect(await refusedByJob('June', '2027-06-01')).toEqual(['hires_need_position']);
    const placed = await placedIn();
    expect(placed.map(({ from }) => from).sort()).toEqual(['2026-12-01', '2027-01-01', '2027-05-31']);

    // on again earlier: whoever came by a job stays, with the position made with them
    const again = await rule(true, '2027-03-01');
    expect(again.concerned?.count).toBe(3);
    expect(await placedIn()).toEqual(placed);
    expect(await refusedByJob('March', '2027-03-01')).toEqual(['hires_need_position']);
    expect((await byJob('February', '2027-02-28')).positionId).toBeGreaterThan(0);

    // and with all of it undone, nothing of the people is
    await moving.undo(again.entry as number);
    expect((await moving.standing(first.positionId as number, '2027-12-01')).standing).toBe('in_force');
    expect((await moving.standing(last.positionId as number, '2027-12-01')).standing).toBe('in_force');
  });

  test('empty means as the unit above; what concerns nobody says so', async () => {
    const inner = await moving.makeUnit('Inner', unit);
    const about = await moving.move(
      'change_unit',
      { unitId: inner, firstDay: '2027-02-01', hiresNeedPosition: true },
      { preview: true },
    );
    expect(about.concerned).toEqual({ count: 0, lines: [] });
  });

  test('a hire into a unit with others below warns, and names them', async () => {
    const before = await believed(moving.running);
    await moving.makeUnit('Below one', unit);
    const { problems } = await moving.move(
      'hire',
      { person: newcomer('Above'), firstDay: '2027-02-01', unitId: unit, jobId },
      { preview: true },
    );
    const warned = problems.find(({ code }) => code === 'unit_has_sub_units');
    expect(warned?.severity).toBe('warning');
    expect((warned?.params['units'] as { label: string }[]).map(({ label }) => label)).toContain('Below one');
    expect(before.length).toBeGreaterThan(0);
  });
});

describe('hiring defaults', () => {
  test('half fill a hire, each said to come from the unit; what is typed takes their place', async () => {
    const { admin, entries } = moving;
    const inner = await moving.makeUnit('Defaults', await moving.unitNamed('Tallinn Harbour'), {
      hiresNeedPosition: false,
    });
    const { sections } = await admin.call(endpoints.record, { params: { kind: 'unit', id: inner } });
    await admin.call(endpoints.editRecord, {
      params: { kind: 'unit', id: inner, section: 'unit_hiring' },
      body: {
        edit: {
          mode: 'begin',
          from: '2026-12-01',
          values: { jobId, contractKindId: entries['SEAS'], hours: 3000 },
        },
        basedOn: Math.max(
          0,
          ...sections.filter(({ name }) => name === 'unit_hiring').map((one) => one.lastEntry),
        ),
        preview: false,
        words: {},
      } as never,
    });
    const ask = (more: object) =>
      moving.move(
        'hire',
        { person: newcomer('Half'), firstDay: '2026-12-01', unitId: inner, contract: {}, ...more },
        { preview: true },
      );
    const { slip } = await ask({});
    expect(slip.find(({ field, section }) => field === 'kindId' && section === 'contract')).toMatchObject({
      after: entries['SEAS'],
      source: 'unit',
    });
    const typed = await ask({ contract: { kindId: entries['FIX'] } });
    expect(
      typed.slip.find(({ field, section }) => field === 'kindId' && section === 'contract'),
    ).toMatchObject({
      after: entries['FIX'],
      source: 'typed',
    });
  });
});
