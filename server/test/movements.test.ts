// Movements of every kind over HTTP: what they write, refuse and keep; figures counted by SQL of their own.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type Day, type ReplyOf, endpoints, movementKinds } from '@gremium/contract';
import { addDays } from '@gremium/core';
import {
  type Client,
  PASSWORD,
  type Running,
  asAccount,
  asDemo,
  many,
  newcomer,
  one,
  sql,
  startServer,
  vacantPosition,
} from './harness';
import { presets } from '@gremium/contract';

let running: Running;
let admin: Client;
const entries: Record<string, number> = {};
beforeAll(async () => {
  running = await startServer('demo');
  admin = await asDemo(running.address, 'admin');
  const { rows } = await admin.call(endpoints.records, {
    params: { kind: 'list_entry' },
    query: { limit: 1000 },
  });
  for (const { thing, values } of rows) entries[String(values['code'])] = thing;
});
afterAll(() => running.close());

const TODAY = '2026-11-23' as Day;
const move = (kind: string, input: object, more: object = {}, client = admin) =>
  client.call(endpoints.move, { body: { kind, input, ...more } as never });
const refused = (kind: string, input: object, more: object = {}, client = admin) =>
  client.refusal(endpoints.move, { body: { kind, input, ...more } as never });
const undo = async (number: number) => {
  const plan = await admin.call(endpoints.planUndo, { params: { number } });
  return admin.call(endpoints.undo, {
    params: { number },
    body: { plan: plan.entries.map((entry) => entry.number) },
  });
};
const unitNamed = async (name: string): Promise<number> =>
  (
    await one<{ id: number }>(
      running.owner,
      sql`select unit_id as id from unit_version where superseded_by is null and name = ${name} and valid_until = 'infinity' limit 1`,
    )
  ).id;
const jobCoded = async (code: string): Promise<number> =>
  (
    await one<{ id: number }>(
      running.owner,
      sql`select job_id as id from job_version where superseded_by is null and code = ${code} limit 1`,
    )
  ).id;
/** Values of what a position or unit is believed to be on a day. */
const standing = (positionId: number, on: string) =>
  one<{ standing: string; reportsTo: number | null; unit: number }>(
    running.owner,
    sql`select standing, reports_to_id as "reportsTo", unit_id as unit from position_version
      where position_id = ${positionId} and superseded_by is null and valid_from <= ${on}::date and ${on}::date < valid_until`,
  );
/** Ids of units that are a unit or below it, by a walk of its own. */
const branchOf = async (unitId: number, on: string): Promise<number[]> =>
  (
    await many<{ id: number }>(
      running.owner,
      sql`with recursive b (id) as (
        select ${unitId}::bigint
        union
        select v.unit_id from unit_version v join b on v.parent_id = b.id
        where v.superseded_by is null and v.valid_from <= ${on}::date and ${on}::date < v.valid_until
      ) select id from b order by id`,
    )
  ).map(({ id }) => id);

const makeUnit = async (name: string, parentId: number, more: object = {}): Promise<number> => {
  const made = await move('new_unit', {
    firstDay: '2026-12-01',
    name,
    kindId: entries['TEAM'],
    parentId,
    ...more,
  });
  return made.unitId as number;
};
const makePosition = async (unitId: number, more: object = {}): Promise<number> => {
  const jobId = await jobCoded('ASSIST');
  const made = await move('new_position', { firstDay: '2026-12-01', unitId, jobId, ...more });
  return made.positionId as number;
};
const hireInto = async (target: object, family: string, firstDay = '2026-12-01') =>
  move('hire', { person: newcomer(family), firstDay, ...target });

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
    expect(barred.codes).toEqual(['return_barred', 'word_missing']);
    expect(barred.problems[0]?.params).toMatchObject({ reason: 'took the cash' });
    const later = await move('rehire', { ...back, firstDay: '2028-01-01' }, { preview: true });
    expect(later.problems.map(({ code }) => code)).not.toContain('return_barred');
    const done = await move('rehire', back, { words: { return_barred: 'the board agreed' } });
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

describe('a movement that is kept', () => {
  type Kept = ReplyOf<typeof endpoints.movement>;
  const kept = (key: string, client = admin): Promise<Kept> =>
    client.call(endpoints.movement, { params: { key } });

  test('stays a draft with the names of what it names, becomes what was recorded, and tells its undoing', async () => {
    const positionId = await vacantPosition(running, admin);
    const key = 'keptmovement1';
    const body = {
      kind: 'hire' as const,
      about: `position ${positionId}`,
      input: { positionId, firstDay: '2027-02-01', person: { name: { given: 'Åse' } } },
      typed: { 'pay.0.amount': '26,4x' },
    };
    await admin.call(endpoints.keepMovement, { params: { key }, body });
    const mine = (await admin.call(endpoints.movements, {})).movements.find((one) => one.key === key);
    expect(mine).toMatchObject({ ...body, state: 'draft', result: null });
    expect(mine?.names).toEqual(
      expect.arrayContaining([expect.objectContaining({ kind: 'position', id: positionId })]),
    );
    const fleet = await asDemo(running.address, 'fleet');
    expect((await fleet.refusal(endpoints.movement, { params: { key } })).codes).toEqual([
      'movement_unknown',
    ]);
    const done = await move(
      'hire',
      { person: newcomer('Kept'), firstDay: '2027-02-01', positionId, pay: [] },
      { key },
    );
    const recorded = await kept(key);
    expect(recorded).toMatchObject({ state: 'recorded', undoneBy: null });
    expect(recorded.result).toMatchObject({ entry: done.entry, slip: done.slip, personId: done.personId });
    const late = await admin.refusal(endpoints.keepMovement, { params: { key }, body });
    expect(late.codes).toEqual(['movement_recorded']);
    const { entry } = await undo(done.entry as number);
    expect((await kept(key)).undoneBy).toBe(entry);
    const long = { ...body, typed: { a: 'x'.repeat(2000) }, input: { text: 'y'.repeat(60_000) } };
    const refusedLong = await admin.refusal(endpoints.keepMovement, {
      params: { key: 'toolong12' },
      body: long,
    });
    expect(refusedLong.codes).toEqual(['draft_limit']);
  });

  test('carried out without being kept before, it is there all the same; the origin of its entry names it', async () => {
    const hired = await hireInto({ positionId: await vacantPosition(running, admin) }, 'Straight');
    const row = await one<{ kind: string; origin: { movement: string } }>(
      running.owner,
      sql`select m.kind, e.origin::jsonb as origin from movement m join entry e on e.number = m.entry_number where m.entry_number = ${hired.entry}`,
    );
    expect(row).toMatchObject({ kind: 'hire', origin: { movement: 'hire' } });
  });

  test('every kind refuses an empty input by its fields', async () => {
    for (const kind of movementKinds) {
      const { status, problems } = await refused(kind, {});
      expect([kind, status]).toEqual([kind, 400]);
      expect(problems.some(({ field }) => field?.startsWith('input'))).toBe(true);
    }
  });
});

describe('edits that begin and end rows', () => {
  test('a second phone and the end of an address are one entry, what now stands comes back, undone as one', async () => {
    const { personId } = await hireInto(
      { positionId: await vacantPosition(running, admin) },
      'Phones',
      '2026-11-01',
    );
    const create = (values: object) => ({
      section: 'contact' as const,
      edit: { mode: 'create' as const, from: TODAY, values: { personId, primary: false, ...values } },
    });
    const address = await admin.call(endpoints.saveEdits, {
      body: { edits: [create({ kind: 'address', use: 'private', value: 'Pikk 1, Tallinn' })] },
    });
    const [row] = address.rows;
    expect(row).toMatchObject({ section: 'contact', values: { value: 'Pikk 1, Tallinn' } });
    const saved = await admin.call(endpoints.saveEdits, {
      body: {
        edits: [
          create({ kind: 'phone', use: 'private', value: '+372 555 0199' }),
          {
            kind: 'contact',
            id: row!.thing,
            section: 'contact',
            edit: { mode: 'end', lastDay: '2026-12-31' },
            basedOn: address.entry as number,
          },
        ],
      },
    });
    expect(saved.touched).toEqual(['contact']);
    expect(saved.rows.map(({ values, until }) => [values['value'], until]).sort()).toEqual([
      ['+372 555 0199', 'infinity'],
      ['Pikk 1, Tallinn', '2027-01-01'],
    ]);
    const page = await admin.call(endpoints.personRecord, { params: { id: personId as number }, query: {} });
    const contacts = page.rows.filter(({ section }) => section === 'contact');
    for (const one of saved.rows) expect(contacts).toContainEqual(one);
    await undo(saved.entry as number);
    const after = await many<{ value: string; until: string }>(
      running.owner,
      sql`select value, valid_until::text as until from contact_version where person_id = ${personId} and superseded_by is null and kind <> 'email' order by value`,
    );
    expect(after).toEqual([{ value: 'Pikk 1, Tallinn', until: 'infinity' }]);
  });

  test('whoever may not write them is refused, and what is nobody’s is not begun so', async () => {
    const crew = await asDemo(running.address, 'crew');
    const { personId } = crew.viewer as { personId: number };
    const values = { personId, kind: 'phone', use: 'private', value: '+372 555 0100', primary: false };
    const edit = { mode: 'create' as const, from: TODAY, values };
    const denied = await crew.refusal(endpoints.saveEdits, {
      body: { edits: [{ section: 'contact', edit }] },
    });
    expect(denied.codes).toEqual(['right_missing']);
    const unit = await admin.refusal(endpoints.saveEdits, {
      body: { edits: [{ section: 'unit', edit: { ...edit, values: { name: 'X' } } }] },
    });
    expect(unit.problems[0]).toMatchObject({ code: 'value_invalid', field: 'edit.mode' });
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
