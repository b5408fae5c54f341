// Leaving, coming by job, coming back over HTTP: what they write and refuse; figures counted by SQL of their own.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { endpoints, presets } from '@gremium/contract';
import { addDays } from '@gremium/core';
import { asAccount, many, newcomer, one, sql, vacantPosition, PASSWORD } from './harness';
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
  standing,
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
    standing,
    makeUnit,
    makePosition,
    hireInto,
  } = await startMoving());
});
afterAll(() => running.close());

describe('leaving', () => {
  test('ends what hangs on the employment, says what becomes of position, reports and access; undone as one', async () => {
    const unit = await makeUnit('Office of reports', await unitNamed('Tallinn Harbour'));
    const head = await makePosition(unit, { title: 'Head of it' });
    const other = await makePosition(unit, { title: 'The other one' });
    await move('change_unit', { unitId: unit, firstDay: '2026-12-01', headPositionId: head });
    const below = [await makePosition(unit), await makePosition(unit)];
    const leader = await hireInto({ positionId: head, pay: [{ amount: '3000' }] }, 'Leader');
    for (const [i, positionId] of below.entries()) await hireInto({ positionId }, `Report${i}`);
    const before = await standing(below[0]!, '2027-07-01');
    const input = {
      employmentId: leader.employmentId,
      lastDay: '2027-06-30',
      reasonId: entries['RESIGNED'],
      lastDayAtWork: '2027-06-11',
      positionAfter: 'on_hold',
      reportsToId: other,
    };
    // bridged, where nothing is said: both then report to whoever leads Tallinn Harbour
    const bridged = await move('leave', { ...input, reportsToId: null }, { preview: true });
    expect(bridged.effects.find(({ code }) => code === 'effect_reports')?.params).toMatchObject({ count: 3 });
    const left = await move('leave', input);
    expect(left.slip.map(({ field, after }) => [field, after])).toEqual([
      ['lastDay', '2027-06-30'],
      ['endReasonId', entries['RESIGNED']],
      ['lastDayAtWork', '2027-06-11'],
      ['mayReturn', true],
      ['accessUntil', '2027-06-30'],
      ['positionId', null],
      ['standing', 'on_hold'],
      ['reportsToId', other],
    ]);
    expect(await standing(head, '2027-06-30')).toMatchObject({ standing: 'in_force' });
    expect(await standing(head, '2027-07-01')).toMatchObject({ standing: 'on_hold' });
    for (const id of below) {
      expect(await standing(id, '2027-06-30')).toMatchObject({ reportsTo: null });
      expect(await standing(id, '2027-07-01')).toMatchObject({ reportsTo: other });
    }
    const open = await many<{ section: string }>(
      running.owner,
      sql`select 'pay' as section from pay_version where employment_id = ${leader.employmentId} and superseded_by is null and valid_until = 'infinity'
        union all select 'placement' from placement_version where employment_id = ${leader.employmentId} and superseded_by is null and valid_until = 'infinity'`,
    );
    expect(open).toEqual([]);
    await undo(left.entry as number);
    expect(await standing(below[0]!, '2027-07-01')).toEqual(before);
    expect(await standing(head, '2027-07-01')).toMatchObject({ standing: 'in_force' });
  });

  test('days after the last one are refused, a short notice wants a word', async () => {
    const positionId = await vacantPosition(running, admin);
    const hired = await move('hire', {
      person: newcomer('Notice'),
      firstDay: '2026-12-01',
      positionId,
      contract: { kindId: entries['PERM'], noticeByEmployeeDays: 30, noticeByEmployerDays: 90 },
    });
    const input = (more: object) => ({ employmentId: hired.employmentId, lastDay: '2027-03-31', ...more });
    const late = await refused(
      'leave',
      input({ reasonId: entries['RESIGNED'], lastDayAtWork: '2027-04-01' }),
    );
    expect(late.problems[0]).toMatchObject({ code: 'day_after_last', field: 'lastDayAtWork' });
    // 30 days from 15 March are 14 April, 90 are 13 June
    const short = await refused('leave', input({ reasonId: entries['RESIGNED'], noticeOn: '2027-03-15' }));
    expect(short.codes).toEqual(['notice_short', 'word_missing']);
    expect(short.problems[0]?.params).toMatchObject({ count: 30, earliest: '2027-04-14' });
    const byUs = await move('leave', input({ reasonId: entries['DISMISSED'], noticeOn: '2027-03-15' }), {
      preview: true,
    });
    expect(byUs.problems[0]?.params).toMatchObject({ count: 90, earliest: '2027-06-13' });
    const inTime = await move('leave', input({ reasonId: entries['RESIGNED'], noticeOn: '2027-03-01' }), {
      preview: true,
    });
    expect(inTime.problems).toEqual([]);
    const done = await move('leave', input({ reasonId: entries['RESIGNED'], noticeOn: '2027-03-15' }), {
      words: { notice_short: 'agreed with her' },
    });
    expect(done.entry).not.toBeNull();
  });

  test('access ends with the last day, or at once; an undo gives it back', async () => {
    const hired = await move('hire', {
      person: newcomer('Access'),
      firstDay: '2026-11-01',
      positionId: await vacantPosition(running, admin),
    });
    const grants = presets.crew();
    const own = await asAccount(running, 'access@vessmar.example', grants);
    await running.owner.query('update account set person_id = $1 where email = $2', [
      hired.personId,
      'access@vessmar.example',
    ]);
    const mayLook = async () => (await own.send(endpoints.whoAmI, {})).status;
    expect(await mayLook()).toBe(200);
    const input = { employmentId: hired.employmentId, lastDay: '2027-01-31', reasonId: entries['RESIGNED'] };
    const later = await move('leave', input);
    expect(await mayLook()).toBe(200);
    await undo(later.entry as number);
    const atOnce = await move('leave', { ...input, accessEnds: 'at_once' });
    expect(await mayLook()).toBe(401);
    const again = await own.refusal(endpoints.signIn, {
      body: { email: 'access@vessmar.example', password: PASSWORD },
    });
    expect(again.codes).toEqual(['access_ended']);
    await undo(atOnce.entry as number);
    expect(await mayLook()).toBe(200);
    // who left yesterday is out today
    await move('leave', { ...input, lastDay: addDays(TODAY, -1) });
    expect(await mayLook()).toBe(401);
  });

  test('of one employment by two at the same moment: one is recorded, the other told', async () => {
    const hired = await hireInto({ positionId: await vacantPosition(running, admin) }, 'Twice');
    const input = { employmentId: hired.employmentId, lastDay: '2027-05-31', reasonId: entries['RESIGNED'] };
    const results = await Promise.allSettled([
      move('leave', input),
      move('leave', { ...input, lastDay: '2027-08-31' }),
    ]);
    const ends = await many<{ until: string }>(
      running.owner,
      sql`select valid_until::text as until from employment_version where employment_id = ${hired.employmentId} and superseded_by is null`,
    );
    expect(ends).toHaveLength(1);
    // the later one may come first and be shortened by the other; never do both stand
    expect(['2027-06-01', '2027-09-01']).toContain(ends[0]?.until);
    expect(results.filter(({ status }) => status === 'fulfilled').length).toBeGreaterThan(0);
  });
});

describe('coming by job, and coming back', () => {
  test('a hire by job makes its position, which closes with the leaving; refused where hires need one', async () => {
    const parent = await unitNamed('Tallinn Harbour');
    const unit = await makeUnit('Freely hiring', parent, { hiresNeedPosition: false });
    const jobId = await jobCoded('ASSIST');
    const strict = await makeUnit('Strictly hiring', parent);
    expect(
      (await refused('hire', { person: newcomer('No'), firstDay: '2026-12-01', unitId: strict, jobId }))
        .codes,
    ).toEqual(['hires_need_position']);
    const hired = await hireInto({ unitId: unit, jobId, hours: 2000 }, 'ByJob', '2027-01-01');
    const positionId = hired.positionId as number;
    expect(await standing(positionId, '2027-01-01')).toMatchObject({ standing: 'in_force', unit });
    expect(hired.slip.find(({ field }) => field === 'hours')).toMatchObject({ after: 2000, source: 'typed' });
    const input = { employmentId: hired.employmentId, lastDay: '2027-09-30', reasonId: entries['RESIGNED'] };
    const left = await move('leave', input);
    expect(await standing(positionId, '2027-09-30')).toMatchObject({ standing: 'in_force' });
    expect(await standing(positionId, '2027-10-01')).toMatchObject({ standing: 'closed' });
    await undo(left.entry as number);
    expect(await standing(positionId, '2027-10-01')).toMatchObject({ standing: 'in_force' });
  });

  test('a rehire keeps the number; a bar to returning wants a word; while employed it is refused', async () => {
    const first = await hireInto({ positionId: await vacantPosition(running, admin) }, 'Returns');
    const number = async () =>
      (
        await one<{ number: string }>(
          running.owner,
          sql`select number from person_version where person_id = ${first.personId} and superseded_by is null limit 1`,
        )
      ).number;
    const was = await number();
    const positionId = await vacantPosition(running, admin, '%Tallinn%');
    const back = { personId: first.personId, firstDay: '2027-06-01', positionId };
    await move('leave', {
      employmentId: first.employmentId,
      lastDay: '2027-03-31',
      reasonId: entries['DISMISSED'],
      mayReturn: false,
      returnReason: 'took the cash',
      returnBarredUntil: '2027-12-31',
    });
    const barred = await refused('rehire', back);
    expect(barred.codes).toEqual(expect.arrayContaining(['return_barred', 'word_missing']));
    expect(barred.problems.find(({ code }) => code === 'return_barred')?.params).toMatchObject({
      reason: 'took the cash',
    });
    const later = await move('rehire', { ...back, firstDay: '2028-01-01' }, { preview: true });
    expect(later.problems.map(({ code }) => code)).not.toContain('return_barred');
    const done = await move('rehire', back, {
      words: { return_barred: 'the board agreed', requirement_missing: 'is being trained' },
    });
    expect(done.personId).toBe(first.personId);
    expect(await number()).toBe(was);
    const elsewhere = await vacantPosition(running, admin, '%Tallinn%');
    const twice = await refused('rehire', { ...back, firstDay: '2027-07-01', positionId: elsewhere });
    expect(twice.codes).toContain('person_employed');
  });

  test('what is not said of pay and contract comes from the legal entity and the unit, and is told so', async () => {
    const positionId = await vacantPosition(running, admin, '%Tallinn%');
    const shown = await move(
      'hire',
      {
        person: newcomer('Terms'),
        firstDay: '2026-12-01',
        positionId,
        contract: {},
        pay: [{ amount: '2450.50' }],
      },
      { preview: true },
    );
    const told = (section: string, field: string) =>
      shown.slip.find((value) => value.section === section && value.field === field);
    expect(told('pay', 'amount')).toMatchObject({ after: '2450.5', source: 'typed' });
    expect(told('pay', 'currency')).toMatchObject({ after: 'EUR', source: 'legal_entity' });
    expect(told('contract', 'kindId')).toMatchObject({ after: entries['PERM'], source: 'preset' });
  });
});
