// Terms, pay, absences, and whoever stands in, over HTTP: figures by SQL, the wrong role, and nobody told why somebody is away.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { endpoints } from '@gremium/contract';
import { type Client, asDemo, many, newcomer, one, sql, vacantPosition } from './harness';
import { type Moving, startMoving } from './moving';

let { running, admin, entries, move, refused, undo, hireInto, unitNamed, makeUnit, makePosition } =
  {} as Moving;
beforeAll(async () => {
  ({ running, admin, entries, move, refused, undo, hireInto, unitNamed, makeUnit, makePosition } =
    await startMoving());
});
afterAll(() => running.close());

const hired = async (family: string, firstDay = '2026-10-01') =>
  move(
    'hire',
    {
      ...{ person: newcomer(family), firstDay, positionId: await vacantPosition(running, admin) },
      ...{ pay: [{ amount: '3000' }], contract: {} },
    },
    { words: { pay_outside_range: 'agreed', pay_jump: 'agreed' } },
  );
const sharesOn = (employmentId: number, on: string) =>
  many<{ kind: string; hours: number; away: number }>(
    running.owner,
    sql`select kind, hours, away_hours as away from placement_version where superseded_by is null
      and employment_id = ${employmentId} and valid_from <= ${on}::date and ${on}::date < valid_until order by kind`,
  );
const paidOn = async (employmentId: number, on: string): Promise<string[]> =>
  (
    await many<{ amount: string }>(
      running.owner,
      sql`select trim_scale(amount)::text as amount from pay_version where superseded_by is null
        and employment_id = ${employmentId} and valid_from <= ${on}::date and ${on}::date < valid_until order by amount`,
    )
  ).map(({ amount }) => amount);

describe('terms and pay', () => {
  test('hours for a time, other pay, something once, each by SQL; undone one by one', async () => {
    const { employmentId } = await hired('Termsman');
    const id = employmentId as number;
    const { hours } = (await sharesOn(id, '2026-12-01'))[0]!;
    const terms = { employmentId: id, firstDay: '2027-01-01', lastDay: '2027-03-31', hours: hours / 2 };
    const less = await move('change_terms', terms);
    const hoursOn = async (on: string) => (await sharesOn(id, on))[0]?.hours;
    expect([await hoursOn('2026-12-31'), await hoursOn('2027-01-01')]).toEqual([hours, hours / 2]);
    expect([await hoursOn('2027-03-31'), await hoursOn('2027-04-01')]).toEqual([hours / 2, hours]);
    const paid = await move('change_pay', {
      employmentId: id,
      firstDay: '2027-02-01',
      pay: [{ amount: '3100' }],
    });
    expect([await paidOn(id, '2027-01-31'), await paidOn(id, '2027-02-01')]).toEqual([['3000'], ['3100']]);
    const once = { employmentId: id, paidOn: '2027-02-15', kindId: entries['SEA'], amount: '250' };
    await move('pay_once', once);
    const { n } = await one<{ n: number }>(
      running.owner,
      sql`select count(*)::int as n from one_off_payment_version where superseded_by is null and employment_id = ${id} and amount = 250`,
    );
    expect(n).toBe(1);
    await undo(paid.entry as number);
    expect(await paidOn(id, '2027-02-01')).toEqual(['3000']);
    await undo(less.entry as number);
    expect(await hoursOn('2027-01-01')).toBe(hours);
  });

  test('wrong input names its field; nothing is written by it', async () => {
    const { employmentId } = await hired('Wrongly');
    const at = { employmentId, firstDay: '2027-01-01' };
    const cases = [
      ['change_pay', { ...at, pay: [{ amount: '3.000,00' }] }, 'input.pay.0.amount'],
      ['change_pay', { ...at, firstDay: '31/3/27', pay: [{ amount: '3000' }] }, 'input.firstDay'],
      ['change_terms', { ...at, hours: -1 }, 'input.hours'],
      ['long_absence', { ...at, lastDay: '2026-12-31', kindId: entries['PARENT'] }, 'lastDay'],
    ] as const;
    for (const [kind, input, field] of cases) {
      const { problems } = await refused(kind, input);
      expect([kind, problems.some((one) => one.field === field)]).toEqual([kind, true]);
    }
    expect(await paidOn(employmentId as number, '2027-01-01')).toEqual(['3000']);
  });

  test('who may not change pay is refused', async () => {
    const { employmentId } = await hired('Others');
    const input = { employmentId, firstDay: '2027-01-01', pay: [{ amount: '9000' }] };
    for (const who of ['audit', 'tallinn', 'crew', 'manager'] as const) {
      const client = await asDemo(running.address, who);
      expect((await refused('change_pay', input, {}, client)).codes[0]).toMatch(
        /right_missing|record_hidden/,
      );
    }
    expect(await paidOn(employmentId as number, '2027-01-01')).toEqual(['3000']);
  });
});

describe('an extension', () => {
  test('to a later day, and for good: place, contract and pay go on, by SQL', async () => {
    const positionId = await vacantPosition(running, admin);
    const person = newcomer('Seasonal');
    const { employmentId } = await move('hire', {
      ...{ person, positionId, firstDay: '2026-11-02', lastDay: '2027-03-31' },
      ...{ contract: { fixedUntil: '2027-03-31' }, pay: [] },
    });
    const ends = async () =>
      (
        await many<{ until: string }>(
          running.owner,
          sql`select valid_until::text as until from employment_version where superseded_by is null and employment_id = ${employmentId as number}
            union select max(valid_until)::text from placement_version where superseded_by is null and employment_id = ${employmentId as number}
            union select max(valid_until)::text from contract_version where superseded_by is null and employment_id = ${employmentId as number}`,
        )
      ).map(({ until }) => until);
    expect((await refused('extend', { employmentId, lastDay: '2027-02-28' })).codes).toEqual(['period']);
    await move('extend', { employmentId, lastDay: '2027-09-30' });
    expect(await ends()).toEqual(['2027-10-01']);
    await move('extend', { employmentId, lastDay: null });
    expect(await ends()).toEqual(['infinity']);
    expect((await refused('extend', { employmentId, lastDay: null })).codes).toEqual(['nothing_to_extend']);
  });
});

describe('a long absence', () => {
  test('headcount, contracted and at work by the pages: away, backfilled, back with 0.6, undone', async () => {
    const unit = await makeUnit('Away from here', await unitNamed('Tallinn Harbour'));
    const positionId = await makePosition(unit);
    const { employmentId } = await hireInto({ positionId }, 'Awayling');
    const id = employmentId as number;
    const figures = async (on: string) => {
      const { units } = await admin.call(endpoints.outline, { query: { on: on as never } });
      const { people, fte, fteAtWork } = units.find((one) => one.id === unit)!.own;
      return [people, fte, fteAtWork];
    };
    const absence = await move('long_absence', {
      ...{ employmentId: id, firstDay: '2027-03-01', lastDay: '2027-11-30' },
      ...{ kindId: entries['PARENT'], oldPlace: 'backfilled' },
    });
    await hireInto({ positionId, lastDay: '2027-11-30' }, 'Instead', '2027-03-01');
    expect(await figures('2027-02-28')).toEqual([1, 100, 100]);
    expect(await figures('2027-08-31')).toEqual([2, 200, 100]);
    expect(await figures('2027-12-01')).toEqual([1, 100, 100]);
    // planned for a day to come, where the place is taken: not without the right to be above
    const { hours } = (await sharesOn(id, '2027-08-31'))[0]!;
    const back = { employmentId: id, firstDay: '2027-09-01', hours: Math.round(hours * 0.6) };
    expect((await refused('return_from_absence', back)).codes).toContain('place_taken');
    const above = { aboveReason: 'Right to return', reviewOn: '2027-10-01' };
    await move('return_from_absence', { ...back, above }, { words: { over_by_right: 'agreed' } });
    expect(await figures('2027-09-01')).toEqual([2, 200, 160]);
    await undo(absence.entry as number);
    expect(await figures('2027-09-01')).toEqual([1, 100, 100]);
    const left = await one<{ n: number }>(
      running.owner,
      sql`select count(*)::int as n from absence_version where superseded_by is null and employment_id = ${id}`,
    );
    expect(left.n).toBe(0);
  });

  test('a second one inside, and what is away without one, are refused', async () => {
    const { employmentId } = await hired('Twice');
    const away = { employmentId, firstDay: '2027-03-01', lastDay: '2027-06-30', kindId: entries['PARENT'] };
    await move('long_absence', away);
    const second = await refused('long_absence', { ...away, firstDay: '2027-04-01', lastDay: '2027-04-30' });
    expect(second.problems).toMatchObject([
      { code: 'absence_overlaps', params: { from: '2027-03-01', until: '2027-06-30' } },
    ]);
    const { placement } = await one<{ placement: number }>(
      running.owner,
      sql`select placement_id as placement from placement_version where superseded_by is null and employment_id = ${employmentId as number} limit 1`,
    );
    const edit = await admin.refusal(endpoints.editRecord, {
      params: { kind: 'placement', section: 'placement', id: placement },
      body: { edit: { mode: 'set', from: '2027-08-01', values: { awayHours: 100 } }, basedOn: 1e9 } as never,
    });
    expect(edit.codes).toEqual(['away_unlike']);
  });
});

// What the kinds are called, and what was noted, in every language it could be said in.
const WHY = ['SECRETWHY', 'Long illness', 'Lange Krankheit', 'ILLNESS'];

describe('why somebody is away', () => {
  let manager: Client;
  let away: { personId: number; employmentId: number };
  let entry: number;
  beforeAll(async () => {
    const unit = await makeUnit('Quiet team', await unitNamed('Tallinn Harbour'));
    const made = await hireInto({ positionId: await makePosition(unit) }, 'Quietly', '2026-12-01');
    away = { personId: made.personId as number, employmentId: made.employmentId as number };
    const done = await move('long_absence', {
      ...{ employmentId: away.employmentId, firstDay: '2026-12-05', kindId: entries['ILLNESS'] },
      notes: 'SECRETWHY',
    });
    entry = done.entry as number;
    manager = await asDemo(running.address, 'tallinn');
  });

  test('is told to nobody who may not see absences, while that they are away is', async () => {
    const on = '2026-12-10' as never;
    const { personId } = away;
    const answers: [string, unknown][] = [
      ['record', await manager.call(endpoints.personRecord, { params: { id: personId }, query: { on } })],
      ['people', await manager.call(endpoints.people, { query: { on, limit: 500 } as never })],
      ['movements', await manager.call(endpoints.movementLines, { query: {} })],
      ['outline', await manager.call(endpoints.outline, { query: { on } })],
    ];
    const lists = new Set(['record']);
    for (const [name, answer] of answers) {
      const text = JSON.stringify(answer);
      // reference lists hold what kinds are called; rows of people do not say which
      const said = WHY.filter((why) => text.includes(why) && !(lists.has(name) && why !== 'SECRETWHY'));
      expect([name, said]).toEqual([name, []]);
    }
    const record = answers[0]![1] as { rows: { section: string; values: Record<string, unknown> }[] };
    expect(record.rows.filter(({ section }) => section === 'absence')).toEqual([]);
    const places = record.rows.filter(({ section }) => section === 'placement');
    expect(places.some(({ values }) => (values['awayHours'] as number) > 0)).toBe(true);
    // no row of theirs names the kind
    const ill = entries['ILLNESS'] as number;
    const naming = record.rows.filter(
      ({ section, values }) => section !== 'list_entry' && Object.values(values).includes(ill),
    );
    expect(naming).toEqual([]);
    const people = JSON.stringify(answers[1]![1]);
    expect(people).toContain('"away"');
  });

  test('not by asking for the section, a list with it, the act, or its undo', async () => {
    const { absence } = await one<{ absence: number }>(
      running.owner,
      sql`select absence_id as absence from absence_version where employment_id = ${away.employmentId} and superseded_by is null`,
    );
    const { rows } = await manager.call(endpoints.records, {
      params: { kind: 'absence' as never },
      query: { limit: 10 },
    });
    expect(rows).toEqual([]);
    const doors = [
      await manager.refusal(endpoints.planUndo, { params: { number: entry } }),
      await refused(
        'long_absence',
        { employmentId: away.employmentId, kindId: entries['PARENT'], firstDay: '2027-05-01' },
        {},
        manager,
      ),
      await refused(
        'change_absence',
        { absenceId: absence, firstDay: '2026-12-06', lastDay: null },
        { preview: true },
        manager,
      ),
    ];
    for (const { codes } of doors)
      expect(codes[0]).toMatch(/right_missing|record_hidden|field_not_yours|entry_unknown/);
  });

  test('who is given the section sees it', async () => {
    const { rows } = await admin.call(endpoints.personRecord, {
      params: { id: away.personId },
      query: { on: '2026-12-10' as never },
    });
    const [said] = rows.filter(({ section }) => section === 'absence');
    expect(said?.values).toMatchObject({ kindId: entries['ILLNESS'], notes: 'SECRETWHY' });
  });
});

describe('whoever stands in', () => {
  test('covers what is away, acts with an allowance, holds a second place; each ends by its own act', async () => {
    const unit = await makeUnit('Standing in', await unitNamed('Tallinn Harbour'));
    const positionId = await makePosition(unit);
    const gone = await hireInto({ positionId }, 'Gone');
    const helper = await hired('Helper');
    const id = helper.employmentId as number;
    const cover = {
      ...{ awayEmploymentId: gone.employmentId, personId: helper.personId },
      ...{ firstDay: '2027-03-01', hours: 800 },
    };
    expect((await refused('cover', cover)).codes).toEqual(['nobody_away']);
    await move('long_absence', {
      ...{ employmentId: gone.employmentId, firstDay: '2027-03-01', lastDay: '2027-11-30' },
      kindId: entries['PARENT'],
    });
    const covered = await move('cover', cover, { words: { share_above_one: 'agreed' } });
    expect((await sharesOn(id, '2027-11-30')).map(({ kind }) => kind)).toEqual(['cover', 'primary']);
    expect((await sharesOn(id, '2027-12-01')).map(({ kind }) => kind)).toEqual(['primary']);
    await undo(covered.entry as number);
    const acting = await move('acting', {
      ...{ positionId, personId: helper.personId, firstDay: '2027-03-01', lastDay: '2027-11-30' },
      allowance: { kindId: entries['ACT'], amount: '200' },
    });
    expect(await paidOn(id, '2027-06-30')).toEqual(['200', '3000']);
    const standIn = await one<{ id: number }>(
      running.owner,
      sql`select distinct placement_id as id from placement_version where recorded_by = (select id from entry where number = ${acting.entry as number})`,
    );
    await move('end_stand_in', { standInId: standIn.id, lastDay: '2027-06-30' });
    expect([await paidOn(id, '2027-06-30'), await paidOn(id, '2027-07-01')]).toEqual([
      ['200', '3000'],
      ['3000'],
    ]);
    expect((await sharesOn(id, '2027-07-01')).map(({ kind }) => kind)).toEqual(['primary']);
  });
});
