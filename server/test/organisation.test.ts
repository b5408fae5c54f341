// The organisation's settings over HTTP: a new register's, full-time hours, holidays, exchange rates; on real PostgreSQL.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import {
  type Day,
  type Holiday,
  type MovementInput,
  accessEndpoints,
  calendarEndpoints,
  measureEndpoints,
  movementEndpoints,
  recordEndpoints,
  structureEndpoints,
} from '@gremium/contract';
import type { Client } from './harness';
import { Refused, type Running, asDemo, many, one, sql, startServer } from './harness';
import { undoBy } from './moving';

let running: Running;
let admin: Client;
let specialist: Client;
beforeAll(async () => {
  running = await startServer('demo');
  [admin, specialist] = [await asDemo(running.address, 'admin'), await asDemo(running.address, 'fleet')];
});
afterAll(() => running.close());

// What came of a call: the reply, or the refusal.
const outcome = async (called: Promise<unknown>) => {
  try {
    return { status: 200, body: await called, codes: [] as string[] };
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
    return { status: error.status, body: error.body, codes: error.codes };
  }
};

const organisationId = async (): Promise<number> => {
  const { organisationId: id } = (await admin.call(accessEndpoints.whoAmI, {})) as { organisationId: number };
  return id;
};

describe('settings', () => {
  test('what every page needs comes with the session, and follows a change at once', async () => {
    const id = await organisationId();
    const { lastEntries } = await admin.call(structureEndpoints.organisationRecord, { params: { id } });
    const basedOn = lastEntries.find(({ section }) => section === 'organisation')?.number ?? 0;
    const edit = {
      mode: 'set' as const,
      from: '2026-11-01' as Day,
      values: {
        numberFormat: '1 234,56',
        weekStart: 7,
        workingDays: ['fri', 'mon'],
        address: ' Quay 1\nHelsinki ',
      },
      override: false,
    };
    const params = { kind: 'organisation' as const, id, section: 'organisation' as const };
    const { entry } = await admin.call(recordEndpoints.editRecord, {
      params,
      body: { edit, basedOn, preview: false, words: {} },
    });
    expect(await admin.call(accessEndpoints.whoAmI, {})).toMatchObject({
      numberFormat: '1 234,56',
      weekStart: 7,
      fiscalMonth: 1,
      organisation: 'Vessmar Ferries',
    });
    // several words stand in the order of the week, a text without blanks around it
    const { rows } = await admin.call(structureEndpoints.organisationRecord, { params: { id } });
    expect(rows.at(-1)?.values).toMatchObject({ workingDays: ['mon', 'fri'], address: 'Quay 1\nHelsinki' });
    await undoBy(admin, entry as number);
    expect(await admin.call(accessEndpoints.whoAmI, {})).toMatchObject({ numberFormat: null, weekStart: 1 });
  });

  test('a setting changed from a day changes no report of the month before', async () => {
    const id = await organisationId();
    const report = async () => {
      const query = { measure: 'fte', by: 'division', from: '2026-08', until: '2026-10' } as never;
      const { entry: _, ...counted } = await admin.call(measureEndpoints.crossTable, { query });
      return counted;
    };
    const before = await report();
    const { lastEntries } = await admin.call(structureEndpoints.organisationRecord, { params: { id } });
    const basedOn = lastEntries.find(({ section }) => section === 'organisation')?.number ?? 0;
    const values = { fullTime: 3000, fiscalMonth: 7, workingDays: ['sat'], currency: 'SEK' };
    const { entry } = await admin.call(recordEndpoints.editRecord, {
      params: { kind: 'organisation', id, section: 'organisation' },
      body: {
        edit: { mode: 'set', from: '2026-11-01' as Day, values, override: false },
        basedOn,
        preview: false,
        words: {},
      },
    });
    expect(await report()).toEqual(before);
    await undoBy(admin, entry as number);
  });

  test('there is one organisation', async () => {
    const { rows } = await admin.call(structureEndpoints.organisationRecord, {
      params: { id: await organisationId() },
    });
    const refused = await admin.refusal(recordEndpoints.createRecord, {
      params: { kind: 'organisation' },
      body: {
        from: '-infinity',
        until: 'infinity',
        sections: { organisation: rows[0]?.values as Record<string, unknown> },
        preview: false,
        words: {},
      } as never,
    });
    expect(refused.codes).toEqual(['organisation_there']);
  });
});

describe('full-time hours', () => {
  const input = async (more: Partial<MovementInput<'change_full_time'>> = {}) => ({
    organisationId: await organisationId(),
    firstDay: '2027-01-01' as Day,
    fullTime: 3700,
    keep: 'share' as const,
    others: [],
    ...more,
  });
  const ask = async (client: Client, more: object = {}, preview = true, words = {}) =>
    outcome(
      client.call(movementEndpoints.move, {
        body: { kind: 'change_full_time', input: await input(more), preview, words },
      }),
    );
  // who rests on a location's hours in 2027, counted by SQL
  const restingOn = (location: number) =>
    one<{ count: number }>(
      running.owner,
      sql`select count(distinct placement_id)::int as count from placement_version
        where superseded_by is null and full_time_source = 'location' and valid_until > '2027-01-01'
          and position_id in (
            select position_id from position_version p where superseded_by is null
              and coalesce(location_id, (with recursive up as (
                select parent_id, location_id from unit_version where unit_id = p.unit_id and superseded_by is null
                  and valid_from <= '2027-01-01' and valid_until > '2027-01-01'
                union all select u.parent_id, u.location_id from unit_version u join up on u.unit_id = up.parent_id
                  where up.location_id is null and u.superseded_by is null and u.valid_from <= '2027-01-01' and u.valid_until > '2027-01-01')
                select location_id from up where location_id is not null limit 1)) = ${location})`,
    );
  const everything = () =>
    many(
      running.owner,
      sql`select placement_id, valid_from, valid_until, hours, full_time, full_time_source from placement_version
        where superseded_by is null order by 1, 2`,
    );

  test('of a location: as many are concerned as SQL counts; one entry; undone, all is as before', async () => {
    const { id } = await one<{ id: number }>(
      running.owner,
      sql`select location_id as id from location_version where name = 'Kiel terminal' and superseded_by is null`,
    );
    const { count } = await restingOn(id);
    expect(count).toBeGreaterThan(20);
    const looked = await ask(admin, { locationId: id, fullTime: 3800 });
    expect(looked.body).toMatchObject({ entry: null, concerned: { count } });
    const before = await everything();
    const done = await ask(admin, { locationId: id, fullTime: 3800 }, false, {
      share_above_one: 'as agreed',
      pay_of_others_outside: 'as agreed',
    });
    const { entry } = done.body as { entry: number };
    const now = await many<{ fullTime: number; hours: number; old: number; oldHours: number }>(
      running.owner,
      sql`select v.full_time as "fullTime", v.hours, w.full_time as old, w.hours as "oldHours"
        from placement_version v join placement_version w using (placement_id)
        where v.superseded_by is null and w.superseded_by is null and w.valid_until = v.valid_from
          and v.valid_from = '2027-01-01' and v.recorded_by = (select id from entry where number = ${entry})`,
    );
    expect(now.length).toBeGreaterThan(20);
    for (const one of now) {
      expect([one.fullTime, one.old]).toEqual([3800, 3900]);
      expect(one.hours).toBe(Math.floor((one.oldHours * 3800) / 3900));
    }
    await undoBy(admin, entry);
    expect(await everything()).toEqual(before);
  });

  test('a specialist for a part has no right to it; hours that no week has are refused with the field', async () => {
    expect((await ask(specialist)).status).toBe(403);
    const refused = await ask(admin, { fullTime: 0 });
    expect(refused.status).toBe(400);
    expect(JSON.stringify(refused.body)).toContain('fullTime');
  });
});

describe('public holidays', () => {
  const record = (client: Client, holidays: Holiday[]) =>
    outcome(client.call(calendarEndpoints.recordHolidays, { body: { holidays, preview: false, words: {} } }));
  const read = (text: string, year = 2027) =>
    outcome(
      admin.call(calendarEndpoints.readCalendar, {
        body: { text, from: `${year}-01-01` as Day, until: `${year}-12-31` as Day },
      }),
    );
  const calendar = (...events: string[]) =>
    ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//An office//Feiertage//DE', ...events, 'END:VCALENDAR'].join(
      '\r\n',
    );
  const event = (...lines: string[]) => ['BEGIN:VEVENT', ...lines, 'END:VEVENT'].join('\r\n');

  test('as one entry; what is there already is left out and said', async () => {
    const one = (day: string, locationId: number | null = null) => ({
      day: day as Day,
      name: 'Åland Day',
      locationId,
    });
    const first = await record(admin, [one('2027-06-09'), one('2027-06-09'), one('2027-06-10')]);
    expect(first.body).toMatchObject({ recorded: 2, known: 1 });
    const again = await record(admin, [one('2027-06-09'), one('2027-06-11')]);
    expect(again.body).toMatchObject({ recorded: 1, known: 1 });
    // nothing new is nothing written
    expect((await record(admin, [one('2027-06-09')])).status).toBe(422);
    for (const { body } of [again, first]) await undoBy(admin, (body as { entry: number }).entry);
    const [left] = await many(
      running.owner,
      sql`select from holiday_version where name = 'Åland Day' and superseded_by is null`,
    );
    expect(left).toBeUndefined();
  });

  test('a calendar of another program: folded lines, umlauts, yearly ones, several days, events with times', async () => {
    const text = calendar(
      event('UID:1', 'DTSTART;VALUE=DATE:20200101', 'RRULE:FREQ=YEARLY', 'SUMMARY:Neujahr'),
      event(
        'UID:2',
        'DTSTART;VALUE=DATE:20270325',
        'DTEND;VALUE=DATE:20270327',
        'SUMMARY:Gründonnerstag und Kar',
        ' freitag',
      ),
      event(
        'UID:3',
        'DTSTART;VALUE=DATE:20261231',
        'DTEND;VALUE=DATE:20270102',
        'SUMMARY:Jahreswechsel\\, frei',
      ),
      event('UID:4', 'DTSTART:20270501T100000Z', 'DTEND:20270501T120000Z', 'SUMMARY:Kundgebung'),
      event('UID:5', 'DTSTART;VALUE=DATE:20280101', 'SUMMARY:zu spät'),
    );
    expect((await read(text)).body).toEqual({
      days: [
        { day: '2027-01-01', name: 'Neujahr' },
        { day: '2027-01-01', name: 'Jahreswechsel, frei' },
        { day: '2027-03-25', name: 'Gründonnerstag und Karfreitag' },
        { day: '2027-03-26', name: 'Gründonnerstag und Karfreitag' },
      ],
      left: 1,
    });
  });

  test('what is no calendar is refused in words; one that repeats for ever ends', async () => {
    for (const text of ['', 'hello', '<html></html>', 'BEGIN:VCALENDAR\nBEGIN:VEVENT\n', 'PK\u0003\u0004']) {
      const refused = await read(text);
      expect([text, refused.status, refused.codes]).toEqual([text, 422, ['calendar_unread']]);
    }
    const daily = calendar(event('UID:1', 'DTSTART;VALUE=DATE:19000101', 'RRULE:FREQ=DAILY', 'SUMMARY:x'));
    const began = performance.now();
    const { body } = await read(daily, 1950);
    expect((body as { days: unknown[] }).days).toHaveLength(365);
    // it is read apart, which takes its time to begin
    expect(performance.now() - began).toBeLessThan(30_000);
    const seconds = calendar(
      event('UID:1', 'DTSTART;VALUE=DATE:20270101', 'RRULE:FREQ=SECONDLY', 'SUMMARY:x'),
    );
    expect((await read(seconds)).status).toBeLessThan(500);
  });

  test('only whoever keeps them', async () => {
    const { status } = await record(specialist, [{ day: '2027-06-09' as Day, name: 'x', locationId: null }]);
    expect(status).toBe(403);
  });
});

describe('exchange rates', () => {
  const add = (code: string, rate: string) =>
    outcome(
      admin.call(recordEndpoints.createRecord, {
        params: { kind: 'exchange_rate' },
        body: {
          from: '-infinity',
          until: 'infinity',
          sections: { exchange_rate: { code, rate } },
          preview: false,
          words: {},
        } as never,
      }),
    );

  test('each currency once a day; a rate is above nothing', async () => {
    expect((await add('gbp', '0.8456')).status).toBe(200);
    const [kept] = await many(
      running.owner,
      sql`select code, rate::text from exchange_rate_version where code = 'GBP'`,
    );
    expect(kept).toEqual({ code: 'GBP', rate: '0.8456' });
    expect((await add('GBP', '0.9')).codes).toEqual(['code_taken']);
    for (const wrong of ['0', '-1', 'x'])
      expect((await add('CHF', wrong)).codes).toEqual(['decimal_invalid']);
    expect((await add('pounds', '1')).codes).toEqual(['currency_invalid']);
  });
});
