// Jobs, positions, grades and pay steps over HTTP, counted by SQL of their own; as the wrong role, in two windows, undone.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type Day, endpoints } from '@gremium/contract';
import { type Client, asDemo, many, newcomer, one, sql } from './harness';
import { type Moving, TODAY, startMoving } from './moving';

let moving: Moving;
let specialist: Client;
let manager: Client;
beforeAll(async () => {
  moving = await startMoving();
  [specialist, manager] = [
    await asDemo(moving.running.address, 'fleet'),
    await asDemo(moving.running.address, 'tallinn'),
  ];
});
afterAll(() => moving.running.close());

const rows = <T extends object>(text: ReturnType<typeof sql>) => many<T>(moving.running.owner, text);
const believed = () =>
  rows(sql`select 'position' as of, position_id as id, valid_from, valid_until, to_jsonb(v) - 'id' - 'lineage' - 'recorded_by' - 'salt' as v
      from position_version v where superseded_by is null
    union all select 'limits', position_id, valid_from, valid_until, to_jsonb(v) - 'id' - 'lineage' - 'recorded_by' - 'salt'
      from position_limits_version v where superseded_by is null
    union all select 'job', job_id, valid_from, valid_until, to_jsonb(v) - 'id' - 'lineage' - 'recorded_by' - 'salt'
      from job_version v where superseded_by is null
    order by 1, 2, 3`);

describe('jobs', () => {
  test('hours of a job: as many follow as SQL counts, the one with its own is told; one entry, undone as one', async () => {
    const { move, undo, jobCoded, makePosition, unitNamed } = moving;
    const jobId = await jobCoded('DUTY');
    const own = await makePosition(await unitNamed('Tallinn Harbour'), { jobId, hours: 3000 });
    const before = await believed();
    const { followers } = await one<{ followers: number }>(
      moving.running.owner,
      sql`select count(distinct position_id)::int as followers from position_version
        where superseded_by is null and job_id = ${jobId} and standing <> 'closed' and valid_until > '2027-01-01'
          and sources ->> 'hours' = 'job'`,
    );
    expect(followers).toBeGreaterThan(2);
    const changed = await move('change_job', { jobId, firstDay: '2027-01-01', hours: 3500 });
    const lines = changed.concerned?.lines ?? [];
    const values = lines.map(({ id, values: [hours] }) => ({ id, ...hours }));
    expect(changed.concerned?.count).toBe(followers + 1);
    expect(values.filter(({ source }) => source === 'job')).toHaveLength(followers);
    expect(values.filter(({ source }) => source === 'before')).toEqual([
      expect.objectContaining({ id: own, before: 3000, after: 3000 }),
    ]);
    const now = await rows<{ hours: number; count: number }>(
      sql`select hours, count(*)::int as count from position_version where superseded_by is null and job_id = ${jobId}
        and valid_from <= '2027-01-01' and valid_until > '2027-01-01' and standing <> 'closed' group by 1 order by 1`,
    );
    expect(now).toEqual([
      { hours: 3000, count: 1 },
      { hours: 3500, count: followers },
    ]);
    await undo(changed.entry as number);
    expect(await believed()).toEqual(before);
  });

  test('a job of code, name and day, from the beginning; the same code again is refused by its field', async () => {
    const { move, refused } = moving;
    const made = await move('new_job', {
      firstDay: TODAY,
      fromBeginning: true,
      code: 'DIVER',
      name: 'Taucher für Häfen',
    });
    expect(made.jobId).toBeGreaterThan(0);
    const record = await moving.admin.call(endpoints.jobRecord, {
      params: { id: made.jobId as number },
      query: {},
    });
    expect(record).toMatchObject({ count: 0, holders: 0 });
    expect(record.rows[0]).toMatchObject({
      from: '-infinity',
      values: { title: 'Taucher für Häfen', fte: 100 },
    });
    const again = await refused('new_job', { firstDay: TODAY, code: 'DIVER', name: 'Twice' });
    expect(again.problems).toMatchObject([{ code: 'code_taken', field: 'code' }]);
    const odd = await refused('new_job', { firstDay: TODAY, code: 'X', name: '', hours: -1 });
    expect(odd.status).toBe(400);
    expect(odd.problems.map(({ field }) => field)).toEqual(['input.name', 'input.hours']);
  });

  test('of a pattern, without an entry that is left out; no position is of a pattern', async () => {
    const { move, refused, jobCoded, unitNamed } = moving;
    const pattern = await jobCoded('PAT-SEA');
    const previewed = await move(
      'new_job',
      { firstDay: TODAY, code: 'CADET', name: 'Cadet', likeId: pattern },
      { preview: true },
    );
    expect(previewed.concerned?.lines.map(({ name }) => name).sort()).toEqual([
      'Basic safety training',
      'Certificate of good conduct',
      'Keeps the lookout',
    ]);
    const left = previewed.concerned?.lines.find(({ name }) => name === 'Keeps the lookout')?.id as number;
    const made = await move('new_job', {
      firstDay: TODAY,
      code: 'CADET',
      name: 'Cadet',
      likeId: pattern,
      parts: ['tasks', 'certificates'],
      without: [left],
    });
    const [job] = await rows<{ tasks: unknown; checks: unknown; needs: number }>(
      sql`select task_ids as tasks, check_ids as checks, (select count(*)::int from job_requirement_version r
        where r.job_id = v.job_id and superseded_by is null) as needs from job_version v where job_id = ${made.jobId as number}`,
    );
    expect(job).toEqual({ tasks: null, checks: null, needs: 1 });
    const unitId = await unitNamed('Tallinn Harbour');
    const no = await refused('new_position', { firstDay: TODAY, unitId, jobId: pattern });
    expect(no.problems).toMatchObject([{ code: 'job_is_pattern', field: 'jobId' }]);
  });

  test('two windows: who prepared a change before another one came sees both, and nothing is written', async () => {
    const { move, refused, jobCoded } = moving;
    const jobId = await jobCoded('TICKET');
    const first = await move(
      'change_job',
      { jobId, firstDay: '2027-02-01', summary: 'one' },
      { preview: true },
    );
    await move('change_job', { jobId, firstDay: '2027-02-01', summary: 'the other' });
    const second = await refused(
      'change_job',
      { jobId, firstDay: '2027-02-01', summary: 'one' },
      { seen: first.asOf },
    );
    expect([second.status, second.codes]).toEqual([409, ['movement_conflict']]);
  });

  test('a specialist for a part and a manager may look at jobs, and change none', async () => {
    const { refused, jobCoded } = moving;
    const jobId = await jobCoded('TICKET');
    for (const client of [specialist, manager]) {
      const no = await refused('change_job', { jobId, firstDay: '2027-02-01', hours: 3000 }, {}, client);
      expect([no.status, no.codes]).toEqual([403, ['right_missing']]);
      const record = await client.call(endpoints.jobRecord, { params: { id: jobId }, query: {} });
      expect(record.count).toBeLessThan(200);
    }
  });
});

describe('positions', () => {
  test('four alike at once, each with a code of its own, undone as one; a copy stands beside what it is like', async () => {
    const { move, undo, jobCoded, unitNamed } = moving;
    const [jobId, unitId] = [await jobCoded('LINES'), await unitNamed('Tallinn Harbour')];
    const count = async () =>
      (
        await one<{ n: number }>(
          moving.running.owner,
          sql`select count(*)::int as n from position_version where superseded_by is null and unit_id = ${unitId} and job_id = ${jobId}`,
        )
      ).n;
    const before = await count();
    const made = await move('new_position', {
      firstDay: '2027-01-01',
      unitId,
      jobId,
      count: 4,
      places: 2,
      fte: 150,
    });
    expect(await count()).toBe(before + 4);
    expect(new Set(made.concerned?.lines.map(({ values: [code] }) => code?.after)).size).toBe(4);
    const copy = await move('copy_position', {
      likeId: made.positionId,
      firstDay: '2027-02-01',
      title: 'Lead line',
    });
    const [like] = await rows(
      sql`select places, fte from position_limits_version where position_id = ${copy.positionId as number}`,
    );
    expect(like).toEqual({ places: 2, fte: 150 });
    // the copy stands for itself
    await undo(made.entry as number);
    expect(await count()).toBe(before + 1);
  });

  test('two hundred alike, more than the ids an act begins with; one more is refused by its field', async () => {
    const { move, refused, undo, jobCoded, unitNamed } = moving;
    const [jobId, unitId] = [await jobCoded('LINES'), await unitNamed('Tallinn Harbour')];
    const many = { firstDay: '2027-01-01', unitId, jobId, count: 200 };
    const made = await move('new_position', many);
    expect(made.concerned?.count).toBe(200);
    await undo(made.entry as number);
    expect((await refused('new_position', { ...many, count: 201 })).problems).toMatchObject([
      { field: 'input.count' },
    ]);
  });

  test('limits by season name who is over when; a hire then is refused, and other positions with room are found', async () => {
    const { move, refused, makePosition, unitNamed, hireInto, jobCoded } = moving;
    const unit = await unitNamed('Tallinn Harbour');
    const summer = await makePosition(unit, { places: 3, fte: 100 });
    const { fullTime } = await one<{ fullTime: number }>(
      moving.running.owner,
      sql`select full_time as "fullTime" from location_version where name = 'Tallinn terminal' and superseded_by is null`,
    );
    await hireInto({ positionId: summer, hours: Math.round(fullTime * 0.8) }, 'Summer');
    const season = {
      positionId: summer,
      firstDay: '2027-04-01',
      lastDay: '2027-09-30',
      years: 1,
      fte: 100,
      otherFte: 50,
    };
    const warned = await refused('limits_by_season', season);
    expect(warned.problems[0]).toMatchObject({
      code: 'limit_lowered_fte',
      params: { day: '2027-10-01', over: 30 },
    });
    await move('limits_by_season', season, { words: { limit_lowered_fte: 'they leave in autumn' } });
    const winter = await refused('hire', {
      person: newcomer('Winter'),
      firstDay: '2027-10-01',
      positionId: summer,
      hours: 400,
    });
    expect(winter.codes).toContain('fte_taken');
    const share = Number(winter.problems.find(({ code }) => code === 'fte_taken')?.params['share']);
    expect(share).toBe(Math.round((400 / fullTime) * 100));
    const { positions } = await moving.admin.call(endpoints.positions, {
      query: { on: '2027-10-01' as Day, job: await jobCoded('ASSIST'), free: 'yes', least: share },
    });
    expect(positions.length).toBeGreaterThan(0);
    expect(positions.every(({ freeFte }) => freeFte === null || freeFte >= share)).toBe(true);
    const long = await refused('limits_by_season', { ...season, lastDay: '2028-03-31' });
    expect(long.codes).toEqual(['season_too_long']);
  });

  test('above a limit: by right only, with a reason; listed, marked in the outline, with the day of review', async () => {
    const { move, refused, makePosition, unitNamed, hireInto } = moving;
    const unit = await unitNamed('Vess Alka');
    const place = await makePosition(unit);
    await hireInto({ positionId: place }, 'First');
    const over = async () => {
      const { units } = await moving.admin.call(endpoints.outline, { query: { on: '2026-12-05' as Day } });
      return units.find(({ id }) => id === unit)?.own.marks['over_held'] ?? 0;
    };
    const above = { aboveReason: 'reinstated', reviewOn: '2027-02-01' };
    const second = { person: newcomer('Second'), firstDay: '2026-12-05', positionId: place, above };
    const before = await over();
    expect((await refused('hire', { ...second, above: undefined })).codes).toEqual(['place_taken']);
    expect((await refused('hire', { ...second, above: { aboveReason: 'why' } })).codes).toContain(
      'review_needed',
    );
    expect((await refused('hire', second)).codes).toEqual(['over_by_right', 'word_missing']);
    const words = { over_by_right: 'as the court says' };
    const no = await refused('hire', second, { words }, specialist);
    expect([no.status, no.problems[0]?.field]).toEqual([403, 'reviewOn']);
    await move('hire', second, { words });
    expect(await over()).toBe(before + 1);
    const { positions } = await moving.admin.call(endpoints.positions, {
      query: { on: '2026-12-05' as Day, which: 'above' },
    });
    expect(positions.find(({ id }) => id === place)).toMatchObject({
      mark: 'over_held',
      reviewOn: '2027-02-01',
    });
  });

  test('a ring of three is refused and named; a vacant manager is bridged; a top nobody confirmed is listed', async () => {
    const { move, refused, makePosition, unitNamed } = moving;
    const unit = await unitNamed('Tallinn Harbour');
    const [a, b, c] = [
      await makePosition(unit, { title: 'Ring A' }),
      await makePosition(unit, { title: 'Ring B' }),
      await makePosition(unit, { title: 'Ring C' }),
    ] as [number, number, number];
    await move('change_position', { positionId: a, firstDay: '2026-12-01', reportsToId: b });
    await move('change_position', { positionId: b, firstDay: '2026-12-01', reportsToId: c });
    const ring = await refused('change_position', { positionId: c, firstDay: '2026-12-01', reportsToId: a });
    expect(ring.codes).toEqual(['reporting_ring']);
    const path = ring.problems[0]?.params['path'] as { label: string }[];
    expect(path.map(({ label }) => label).sort()).toEqual(['Ring A', 'Ring B', 'Ring C']);
    // b and c are vacant: who comes into a is led by whoever stands above both
    const hired = await moving.hireInto({ positionId: a }, 'Bridged', '2026-12-02');
    const record = await moving.admin.call(endpoints.personRecord, {
      params: { id: hired.personId as number },
      query: { on: '2026-12-02' as Day },
    });
    expect(record.managers[0]).toMatchObject({ bridged: true });
    const tops = async () =>
      (await moving.admin.call(endpoints.positions, { query: { which: 'top' } })).positions.map(
        ({ id }) => id,
      );
    const { id: top } = await one<{ id: number }>(
      moving.running.owner,
      sql`select position_id as id from position_version v join job_version j using (job_id)
        where j.code = 'CEO' and v.superseded_by is null and j.superseded_by is null and v.valid_until = 'infinity'`,
    );
    expect(await tops()).toEqual([]);
    await move('change_position', { positionId: top, firstDay: TODAY, confirmedTop: false });
    expect(await tops()).toEqual([top]);
    await move('change_position', { positionId: top, firstDay: TODAY, confirmedTop: true });
    expect(await tops()).toEqual([]);
  });

  test('holders who differ are those that SQL finds', async () => {
    const { positions } = await moving.admin.call(endpoints.positions, { query: { which: 'differs' } });
    const found = await rows<{ id: number }>(
      sql`select distinct p.position_id as id from position_version p join placement_version h using (position_id)
        where p.superseded_by is null and h.superseded_by is null and p.valid_from <= ${TODAY} and p.valid_until > ${TODAY}
          and h.valid_from <= ${TODAY} and h.valid_until > ${TODAY} and h.kind not in ('acting', 'cover')
          and (p.hours is not null and p.hours <> h.hours or h.cost_centre_id is not null) order by 1`,
    );
    expect(found.length).toBeGreaterThan(0);
    expect(positions.map(({ id }) => id)).toEqual(found.map(({ id }) => id));
  });

  test('a time of the day is read as people type it; another text names its field', async () => {
    const { move, refused, makePosition, unitNamed } = moving;
    const positionId = await makePosition(await unitNamed('Tallinn Harbour'));
    const done = await move('change_position', {
      positionId,
      firstDay: '2026-12-01',
      startTime: '8:30',
      endTime: '1700',
    });
    expect(done.slip.map(({ after }) => after)).toEqual(['08:30', '17:00']);
    const no = await refused('change_position', { positionId, firstDay: '2026-12-01', startTime: '25:00' });
    expect(no.problems).toMatchObject([{ code: 'time_invalid', field: 'input.startTime' }]);
  });
});

describe('grades', () => {
  const ofGrade = async (code: string) =>
    (
      await one<{ id: number }>(
        moving.running.owner,
        sql`select grade_id as id from grade_version where code = ${code} and superseded_by is null`,
      )
    ).id;

  test('who is paid outside the range is who SQL finds: both at the hours that the range stands for', async () => {
    const id = await ofGrade('G2');
    const record = await moving.admin.call(endpoints.gradeRecord, { params: { id }, query: {} });
    const found = await rows<{ person: number }>(
      sql`select distinct e.person_id as person
        from position_version p
        join placement_version h using (position_id)
        join employment_version e using (employment_id)
        join pay_version y using (employment_id)
        join list_entry_version k on k.list_entry_id = y.kind_id and k.superseded_by is null and k.flags ->> 'base' = 'true'
        join grade_range_version g on g.grade_id = p.grade_id and g.currency = y.currency
        where p.grade_id = ${id} and p.standing <> 'closed' and h.kind = 'primary' and h.hours > 0
          and p.superseded_by is null and h.superseded_by is null and e.superseded_by is null
          and y.superseded_by is null and g.superseded_by is null
          and p.valid_from <= ${TODAY} and p.valid_until > ${TODAY} and h.valid_from <= ${TODAY} and h.valid_until > ${TODAY}
          and e.valid_from <= ${TODAY} and e.valid_until > ${TODAY} and y.valid_from <= ${TODAY} and y.valid_until > ${TODAY}
          and g.valid_from <= ${TODAY} and g.valid_until > ${TODAY}
          and not (y.amount * g.full_time / case y.rate when 'full_time' then h.full_time else h.hours end
            between g.minimum and g.maximum)
        order by 1`,
    );
    expect(found.length).toBeGreaterThan(0);
    expect(record.outsideCount).toBe(found.length);
    expect(record.outside.map(({ personId }) => personId).sort((a, b) => a - b)).toEqual(
      found.map(({ person }) => person).slice(0, 100),
    );
  });

  test('a lower maximum names how many it puts outside; a manager who sees no pay sees nobody named', async () => {
    const id = await ofGrade('G3');
    const { rows: of } = await moving.admin.call(endpoints.gradeRecord, { params: { id }, query: {} });
    const range = of.find(
      ({ section, values, until }) =>
        section === 'grade_range' && values['currency'] === 'EUR' && until === 'infinity',
    )!;
    const before = await moving.admin.call(endpoints.gradeRecord, { params: { id }, query: {} });
    const maximum = String(
      Math.round((Number(range.values['middle']) + Number(range.values['maximum'])) / 2),
    );
    const edit = { mode: 'set' as const, from: TODAY, values: { maximum }, override: false };
    const call = (more: object) => ({
      params: { kind: 'grade_range' as const, id: range.thing, section: 'grade_range' as const },
      body: { edit, basedOn: 1_000_000, ...more } as never,
    });
    const asked = await moving.admin.refusal(endpoints.editRecord, call({}));
    const told = asked.problems.find(({ code }) => code === 'pay_of_others_outside');
    await moving.admin.call(endpoints.editRecord, call({ words: { pay_of_others_outside: 'agreed' } }));
    const after = await moving.admin.call(endpoints.gradeRecord, { params: { id }, query: {} });
    expect(after.outsideCount).toBeGreaterThan(before.outsideCount);
    // also those who come, or come to be paid so, later
    const found = await rows(
      sql`select distinct e.person_id
        from position_version p
        join placement_version h using (position_id)
        join employment_version e using (employment_id)
        join pay_version y using (employment_id)
        join list_entry_version k on k.list_entry_id = y.kind_id and k.superseded_by is null and k.flags ->> 'base' = 'true'
        where p.grade_id = ${id} and h.kind = 'primary' and h.hours > 0 and y.currency = 'EUR'
          and p.superseded_by is null and h.superseded_by is null and e.superseded_by is null and y.superseded_by is null
          and greatest(p.valid_from, h.valid_from, y.valid_from, ${TODAY}::date) < least(p.valid_until, h.valid_until, y.valid_until)
          and y.amount * ${range.values['fullTime'] as number} / case y.rate when 'full_time' then h.full_time else h.hours end
            between ${maximum}::numeric + 0.01 and ${range.values['maximum'] as string}::numeric`,
    );
    expect(found.length).toBeGreaterThan(3);
    expect(told?.params['count']).toBe(found.length);
    const seen = await manager.call(endpoints.gradeRecord, { params: { id }, query: {} });
    expect([seen.outside, seen.outsideCount]).toEqual([[], 0]);
  });

  test('steps due are those that SQL finds, applied as one entry, then not due any more; undone, due again', async () => {
    const by = '2027-06-30' as Day;
    const due = () => moving.admin.call(endpoints.stepsDue, { query: { by } });
    const first = await due();
    const found = await rows<{ employment: number; due: string }>(
      sql`select y.employment_id as employment, (y.valid_from + interval '24 months')::date::text as due
        from pay_version y join employment_version e using (employment_id)
        where y.superseded_by is null and y.step < 5 and y.valid_until = 'infinity' and e.superseded_by is null and e.valid_until = 'infinity'
          and y.valid_from + interval '24 months' <= ${by}::date
          and not exists (select 1 from pay_version o where o.pay_id = y.pay_id and o.superseded_by is null and o.step = y.step and o.valid_until = y.valid_from)`,
    );
    // a yearly round cuts pay in two: those on one step since before it are found by the program only
    const known = new Map(first.steps.map((line) => [line.employmentId, line.due]));
    for (const { employment, due: day } of found)
      expect([employment, known.get(employment)]).toEqual([employment, day]);
    expect(first.count).toBeGreaterThan(10);
    expect(first.steps.every((line) => line.due <= by)).toBe(true);
    const employmentIds = first.steps.map(({ employmentId }) => employmentId);
    const words = {
      pay_jump: 'by the table',
      pay_outside_range: 'by the table',
      pay_of_others_outside: 'by the table',
    };
    const applied = await moving.move('apply_steps', { firstDay: by, employmentIds }, { words });
    expect(applied.concerned?.count).toBe(employmentIds.length);
    expect((await due()).count).toBe(0);
    const [line] = first.steps.filter(({ amount }) => amount !== null);
    const [paid] = await rows<{ step: number; amount: string }>(
      sql`select step, amount::text from pay_version where employment_id = ${line!.employmentId} and superseded_by is null
        and valid_from = ${line!.due}`,
    );
    expect([paid?.step, Number(paid?.amount)]).toEqual([line!.step + 1, Number(line!.amount)]);
    await moving.undo(applied.entry as number);
    expect((await due()).steps).toEqual(first.steps);
    const refused = await moving.refused('apply_steps', {
      firstDay: TODAY,
      employmentIds: [employmentIds.at(-1)],
    });
    expect(refused.codes).toEqual(['step_not_due']);
  });

  test('who may not see pay is told nothing of steps; a specialist sees those of the own part', async () => {
    const by = '2027-06-30' as Day;
    expect((await manager.refusal(endpoints.stepsDue, { query: { by } })).status).toBe(403);
    const all = await moving.admin.call(endpoints.stepsDue, { query: { by } });
    const own = await specialist.call(endpoints.stepsDue, { query: { by } });
    const inside = new Set(all.steps.map(({ employmentId }) => employmentId));
    expect(own.steps.every(({ employmentId }) => inside.has(employmentId))).toBe(true);
    expect(own.count).toBeLessThan(all.count);
  });
});
