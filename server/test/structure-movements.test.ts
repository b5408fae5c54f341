// Units and positions made, moved, closed over HTTP, and their records; counted by SQL of their own.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { endpoints } from '@gremium/contract';
import { asDemo, many, one, sql } from './harness';
import { type Moving, TODAY, startMoving } from './moving';

let {
  running,
  admin,
  entries,
  move,
  refused,
  undo,
  unitNamed,
  jobCoded,

  branchOf,
  makeUnit,
  makePosition,
  hireInto,
} = {} as Moving;
beforeAll(async () => {
  ({
    running,
    admin,
    entries,
    move,
    refused,
    undo,
    unitNamed,
    jobCoded,

    branchOf,
    makeUnit,
    makePosition,
    hireInto,
  } = await startMoving());
});
afterAll(() => running.close());

describe('units', () => {
  test('three are made, one moves with its branch from a date; a ring is refused naming the path', async () => {
    const harbour = await unitNamed('Tallinn Harbour');
    const top = await makeUnit('Branch top', harbour);
    const middle = await makeUnit('Branch middle', top);
    const low = await makeUnit('Branch low', middle);
    const yards = await unitNamed('Larvik Harbour');
    const before = {
      harbour: await branchOf(harbour, '2027-03-01'),
      yards: await branchOf(yards, '2027-03-01'),
    };
    const moved = await move('change_unit', { unitId: top, firstDay: '2027-03-01', parentId: yards });
    expect(moved.slip).toEqual([
      expect.objectContaining({
        field: 'parentId',
        before: harbour,
        after: yards,
        afterName: 'Larvik Harbour',
      }),
    ]);
    expect(moved.effects.find(({ code }) => code === 'effect_branch')?.params).toEqual({
      units: 3,
      positions: 0,
    });
    expect(await branchOf(harbour, '2027-02-28')).toEqual(before.harbour);
    expect(await branchOf(harbour, '2027-03-01')).toEqual(
      before.harbour.filter((id) => ![top, middle, low].includes(id)),
    );
    expect(await branchOf(yards, '2027-03-01')).toEqual(
      [...before.yards, top, middle, low].sort((a, b) => a - b),
    );
    const ring = await refused('change_unit', { unitId: top, firstDay: '2027-04-01', parentId: low });
    expect(ring.codes).toEqual(['unit_ring']);
    const path = ring.problems[0]?.params['path'] as { label: string }[];
    expect(path.map(({ label }) => label).sort()).toEqual(['Branch low', 'Branch middle', 'Branch top']);
    await undo(moved.entry as number);
    expect(await branchOf(harbour, '2027-03-01')).toEqual(before.harbour);
  });

  test('a unit closes when nothing stands in it; what still does is named', async () => {
    const top = await makeUnit('To be closed', await unitNamed('Tallinn Harbour'));
    const low = await makeUnit('Stands in it', top);
    const positionId = await makePosition(top, { title: 'Stands there too' });
    const input = { unitId: top, lastDay: '2027-05-31' };
    const full = await refused('close_unit', input);
    expect(full.problems[0]).toMatchObject({ code: 'unit_not_empty', params: { count: 2 } });
    expect((full.problems[0]?.params['what'] as { label: string }[]).map(({ label }) => label)).toEqual([
      'Stands in it',
      expect.stringContaining('Stands there too'),
    ]);
    await move('close_unit', { unitId: low, lastDay: '2027-05-31' });
    await move('change_position', { positionId, firstDay: '2027-06-01', standing: 'closed' });
    const closed = await move('close_unit', input);
    const rows = () =>
      many(
        running.owner,
        sql`select 1 from unit_version where unit_id = ${top} and superseded_by is null and valid_until > '2027-06-01'`,
      );
    expect(await rows()).toEqual([]);
    await undo(closed.entry as number);
    expect(await rows()).toHaveLength(1);
  });
});

describe('positions', () => {
  test('take from the job what is not said, and change from a day on', async () => {
    const unitId = await unitNamed('Tallinn Harbour');
    const jobId = await jobCoded('DUTY');
    const job = await one<{ title: string; grade: number }>(
      running.owner,
      sql`select title, grade_id as grade from job_version where job_id = ${jobId} and superseded_by is null limit 1`,
    );
    const made = await move('new_position', { firstDay: '2027-01-01', unitId, jobId, places: 2, fte: 150 });
    const told = (field: string) => made.slip.find((value) => value.field === field);
    expect(told('title')).toMatchObject({ after: job.title, source: 'job' });
    expect(told('gradeId')).toMatchObject({ after: job.grade, source: 'job' });
    expect(told('fte')).toMatchObject({ after: 150, source: 'typed' });
    const positionId = made.positionId as number;
    const first = await hireInto({ positionId }, 'One', '2027-01-01');
    expect(first.positionId).toBe(positionId);
    await hireInto({ positionId, hours: 2000 }, 'Two', '2027-01-01');
    const lowered = await refused('change_position', { positionId, firstDay: '2027-02-01', places: 1 });
    expect(lowered.codes).toEqual(['limit_lowered', 'word_missing']);
    const stranded = await refused('change_position', {
      positionId,
      firstDay: '2027-02-01',
      standing: 'closed',
    });
    expect(stranded.codes).toContain('position_stranded');
    const larvik = await unitNamed('Larvik Harbour');
    const abroad = await refused('change_position', { positionId, firstDay: '2027-02-01', unitId: larvik });
    expect(abroad.codes).toContain('entity_differs');
    const held = await move('change_position', { positionId, firstDay: '2027-02-01', standing: 'on_hold' });
    expect(held.slip).toEqual([
      expect.objectContaining({ field: 'standing', before: 'in_force', after: 'on_hold' }),
    ]);
    const same = await refused('change_position', {
      positionId,
      firstDay: '2027-02-01',
      standing: 'on_hold',
    });
    expect(same.codes).toContain('nothing_changed');
  });
});

describe('who may', () => {
  test('a kind needs its right; nothing outside the viewer’s part can be named', async () => {
    const auditor = await asDemo(running.address, 'audit');
    const fleet = await asDemo(running.address, 'fleet');
    const unitId = await unitNamed('Tallinn Harbour');
    const jobId = await jobCoded('DUTY');
    const inputs: Record<string, object> = {
      new_unit: { firstDay: '2027-01-01', name: 'Not mine', kindId: entries['TEAM'], parentId: unitId },
      change_unit: { firstDay: '2027-01-01', unitId, name: 'Not mine' },
      close_unit: { lastDay: '2027-01-01', unitId },
      new_position: { firstDay: '2027-01-01', unitId, jobId },
    };
    for (const [kind, input] of Object.entries(inputs)) {
      expect((await refused(kind, input, {}, auditor)).codes).toEqual(['right_missing']);
      expect((await refused(kind, input, {}, fleet)).codes).toEqual(['record_hidden']);
    }
    const odd = await refused('leave', { employmentId: 1, lastDay: '2027-01-01', reasonId: 1, extra: true });
    expect(odd.problems[0]).toMatchObject({ code: 'field_unknown' });
    const unknown = await refused('promote', {});
    expect(unknown.status).toBe(400);
  });
});

describe('the record of a unit and of a job', () => {
  test('says what a count of one’s own says', async () => {
    const unitId = await unitNamed('Tallinn Harbour');
    const unit = await admin.call(endpoints.unitRecord, { params: { id: unitId }, query: {} });
    const counted = await one<{ people: number; positions: number }>(
      running.owner,
      sql`select count(distinct p.employment_id)::int as people,
          (select count(*)::int from position_version o where o.unit_id = ${unitId} and o.superseded_by is null
            and o.standing <> 'closed' and o.valid_from <= ${TODAY}::date and ${TODAY}::date < o.valid_until) as positions
        from placement_version p
        join position_version o on o.position_id = p.position_id and o.superseded_by is null
          and o.valid_from <= ${TODAY}::date and ${TODAY}::date < o.valid_until
        where o.unit_id = ${unitId} and p.superseded_by is null and p.kind = 'primary'
          and p.valid_from <= ${TODAY}::date and ${TODAY}::date < p.valid_until`,
    );
    expect(unit.members).toHaveLength(counted.people);
    expect(unit.positions).toHaveLength(counted.positions);
    expect(unit.path.map(({ name }) => name)).toEqual(['Vessmar Ferries', 'Harbours']);
    const below = await many<{ id: number }>(
      running.owner,
      sql`select unit_id as id from unit_version where parent_id = ${unitId} and superseded_by is null
        and valid_from <= ${TODAY}::date and ${TODAY}::date < valid_until order by 1`,
    );
    expect(unit.below.map(({ id }) => id).sort((a, b) => a - b)).toEqual(below.map(({ id }) => id));
    expect(unit.branch?.people).toBe(
      unit.own!.people + unit.below.reduce((sum, { figures }) => sum + figures.people, 0),
    );
    const jobId = await jobCoded('DUTY');
    const job = await admin.call(endpoints.jobRecord, { params: { id: jobId }, query: {} });
    const ofJob = await one<{ count: number }>(
      running.owner,
      sql`select count(*)::int as count from position_version where job_id = ${jobId} and superseded_by is null
        and standing <> 'closed' and valid_from <= ${TODAY}::date and ${TODAY}::date < valid_until`,
    );
    expect(job.count).toBe(ofJob.count);
    const fleet = await asDemo(running.address, 'fleet');
    expect((await fleet.refusal(endpoints.unitRecord, { params: { id: unitId }, query: {} })).codes).toEqual([
      'record_hidden',
    ]);
    const part = await fleet.call(endpoints.jobRecord, { params: { id: jobId }, query: {} });
    expect(part.count).toBe(0);
  });
});

describe('two at the same moment', () => {
  test('put each of two units below the other: one is moved, the other told of the ring', async () => {
    const parent = await unitNamed('Tallinn Harbour');
    const [one_, two] = [await makeUnit('Race one', parent), await makeUnit('Race two', parent)];
    const both = await Promise.allSettled([
      move('change_unit', { unitId: one_, firstDay: '2027-02-01', parentId: two }),
      move('change_unit', { unitId: two, firstDay: '2027-02-01', parentId: one_ }),
    ]);
    expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    const refusal = both.find((result) => result.status === 'rejected')?.reason as { codes: string[] };
    expect(refusal.codes).toEqual(['unit_ring']);
  });

  test('hire by job into one unit: both are hired, each with a position of their own', async () => {
    const unitId = await makeUnit('Race by job', await unitNamed('Tallinn Harbour'), {
      hiresNeedPosition: false,
    });
    const jobId = await jobCoded('ASSIST');
    const both = await Promise.all(
      ['First', 'Second'].map((name) => hireInto({ unitId, jobId }, `Job${name}`)),
    );
    const made = both.map(({ positionId }) => positionId as number);
    expect(new Set(made).size).toBe(2);
    const codes = await many<{ code: string }>(
      running.owner,
      sql`select distinct code from position_version where position_id = any(${made}::bigint[]) and superseded_by is null`,
    );
    expect(codes).toHaveLength(2);
  });

  test('close a position and hire into it: never is somebody on a closed one', async () => {
    const unitId = await unitNamed('Tallinn Harbour');
    for (let n = 0; n < 4; n++) {
      const positionId = await makePosition(unitId, { title: `Race place ${n}` });
      const both = await Promise.allSettled([
        move('change_position', { positionId, firstDay: '2027-01-01', standing: 'closed' }),
        hireInto({ positionId }, `Raced${n}`, '2027-01-01'),
      ]);
      expect(both.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
      const held = await many(
        running.owner,
        sql`select 1 from placement_version p join position_version o on o.position_id = p.position_id and o.superseded_by is null
          where p.position_id = ${positionId} and p.superseded_by is null and o.standing = 'closed'
            and p.valid_from < o.valid_until and o.valid_from < p.valid_until`,
      );
      expect(held).toEqual([]);
    }
  });
});
