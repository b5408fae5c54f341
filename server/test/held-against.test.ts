// What somebody with the least right may send: a condition, an email, a calendar file, a preview. Nobody else waits for it, and
// nothing hidden is told.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { type Day, MeasureName, endpoints, isEmailForm, preset, presets } from '@gremium/contract';
import { ThreadCalls } from '@gremium/server';
import {
  type Client,
  PATIENT,
  type Running,
  Refused,
  asAccount,
  asDemo,
  many,
  one,
  sql,
  startServer,
} from './harness';

let running: Running;
let admin: Client;
let least: Client;
beforeAll(async () => {
  running = await startServer('demo');
  admin = await asDemo(running.address, 'admin');
  least = await asDemo(running.address, 'tallinn');
});
afterAll(() => running.close());

const asked = async (client: Client, condition: string): Promise<string> => {
  const view = {
    subject: 'person_name',
    columns: [{ field: 'person_name.name' }],
    condition,
    groups: [],
    order: [],
  };
  try {
    await client.call(endpoints.runReport, { body: { view, language: 'en', limit: 5, offset: 0 } as never });
    return 'answered';
  } catch (error) {
    if (error instanceof Refused) return `${error.status} ${error.codes[0]}`;
    throw error;
  }
};

/** Asks while others look: how long the slowest of them waited, in milliseconds, and what they got. */
const beside = async (
  attack: () => Promise<unknown>,
  times = 20,
): Promise<{ slowest: number; statuses: number[] }> => {
  const tried = (async () => {
    for (let i = 0; i < times; i++) await attack();
  })();
  let isOver = false;
  void tried.finally(() => (isOver = true));
  const statuses = new Set<number>();
  let slowest = 0;
  do {
    await Promise.all(
      Array.from({ length: 20 }, async (_, i) => {
        const began = performance.now();
        const reply = await (i % 2 === 0
          ? admin.send(endpoints.people, { query: { limit: 5 } })
          : admin.send(endpoints.journal, { query: { limit: 5 } }));
        await reply.text();
        statuses.add(reply.status);
        slowest = Math.max(slowest, performance.now() - began);
      }),
    );
  } while (!isOver);
  await tried;
  return { slowest, statuses: [...statuses] };
};

const long = (sum: (i: number) => string): string => {
  let text = '';
  for (let i = 101; text.length < 3900; i += 2) text += `${text ? '+' : ''}${sum(i)}`;
  return `${text} > 0`;
};

describe('a condition', () => {
  test.each([
    ['that adds fractions without end', long((i) => `1/${i}`), '400 condition_number_long'],
    ['that multiplies fields without end', `${'employment.tenure*'.repeat(200)}1 > 0`, null],
    ['that asks for too much of a row', long(() => 'employment.tenure'), '400 condition_too_much'],
    ['that is nested without end', `${'('.repeat(1900)}1${')'.repeat(1900)} > 0`, null],
    ['of numbers beyond all measure', '1e308/1e-308 > 1', '400 condition_number_long'],
    ['of a number next to nothing', '4.9e-324 > 0.0', '400 condition_number_long'],
    ['that names what every object has', 'person_name.name.hasOwnProperty("a")', '400 condition_function'],
    ['that names where objects come from', 'person_name.name.__proto__("a")', '400 condition_function'],
  ])('%s is refused by name', async (_, condition, expected) => {
    const found = await asked(least, condition);
    expect(found).toMatch(/^400 condition_/);
    if (expected) expect(found).toBe(expected);
  });

  test('that is reckoned with all the same is exact as before', async () => {
    expect(await asked(admin, '1/3 + 1/3 + 1/3 == 1 && 0.1 + 0.2 == 0.3')).toBe('answered');
  });

  test('tried twenty times keeps nobody waiting', async () => {
    const { statuses } = await beside(() =>
      asked(
        least,
        long((i) => `1/${i}`),
      ),
    );
    expect(statuses).toEqual([200]);
  });
});

describe('forms of texts', () => {
  test('an email of 40 kB is none, found at once; what is one is one', () => {
    const began = performance.now();
    for (const text of [`a@${'a.'.repeat(20_000)}`, `${'a'.repeat(40_000)}@`, 'a@'.repeat(20_000)])
      expect(isEmailForm(text)).toBe(false);
    expect(performance.now() - began).toBeLessThan(1000);
    expect(['a@b.example', 'ä.ö@c.d.example', 'a@b', 'a@b.', '@b.c', 'a b@c.d'].map(isEmailForm)).toEqual([
      true,
      true,
      false,
      false,
      false,
      false,
    ]);
  });

  test('no pattern of the contract takes more than a pass over what it is tried on', () => {
    const files = readdirSync('contract/src', { recursive: true, encoding: 'utf8' }).filter((name) =>
      name.endsWith('.ts'),
    );
    const sources = files.flatMap((name) => {
      const text = readFileSync(path.join('contract/src', name), 'utf8');
      return [
        ...text.matchAll(/(?:regex\(\s*|= |\()(\/\^(?:[^/\\[\n]|\\.|\[(?:[^\]\\\n]|\\.)*\])+\/[a-z]*)/g),
      ].map(([, found]) => [name, found as string]);
    });
    expect(sources.length).toBeGreaterThan(20);
    const pumps = ['a', '1', ' ', 'a@', 'a.', '1.', '.1', 'a:b;', 'person:1,', '-', '/', 'http://a', 'f1'];
    const slow: string[] = [];
    for (const [name, found] of sources as [string, string][]) {
      const [, body, flags] = /^\/(.*)\/([a-z]*)$/s.exec(found) as unknown as [string, string, string];
      const pattern = new RegExp(body, flags);
      for (const pump of pumps)
        for (const head of ['', 'a@', 'https://', '1']) {
          const began = performance.now();
          pattern.test(`${head}${pump.repeat(Math.ceil(40_000 / pump.length))}\n!`);
          // one pass takes a millisecond, a square of it minutes
          if (performance.now() - began > 500) slow.push(`${name} ${found} ${pump}`);
        }
    }
    expect(slow).toEqual([]);
  });
});

describe('a calendar file', () => {
  const calendar = (rule: string) =>
    [
      'BEGIN:VCALENDAR',
      'VERSION:2.0',
      'PRODID:-//x//x//EN',
      'BEGIN:VEVENT',
      'UID:1',
      'DTSTART;VALUE=DATE:19000101',
      rule,
      'SUMMARY:x',
      'END:VEVENT',
      'END:VCALENDAR',
    ].join('\r\n');
  const read = (text: string) =>
    admin.send(endpoints.readCalendar, {
      body: { text, from: '2027-01-01' as Day, until: '2027-12-31' as Day },
    });

  test('whose rule no day fits, or that repeats without end, keeps nobody else waiting', async () => {
    const rules = [
      'RRULE:FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30',
      'RRULE:FREQ=DAILY;BYMONTH=2;BYMONTHDAY=31',
      'RRULE:FREQ=YEARLY;BYYEARDAY=366;BYDAY=MO;BYMONTH=3',
      'RRULE:FREQ=SECONDLY',
    ];
    let at = 0;
    const { statuses } = await beside(async () => {
      const reply = await read(calendar(rules[at++ % rules.length] as string));
      expect([200, 422]).toContain(reply.status);
      await reply.text();
    }, 4);
    expect(statuses).toEqual([200]);
  });
});

describe('a preview', () => {
  test('of pay of somebody who was once in sight says that the right is missing, and nothing else', async () => {
    const fleet = await one<{ id: number }>(
      running.owner,
      sql`select unit_id as id from unit_version where name = 'Fleet' and superseded_by is null limit 1`,
    );
    const specialist = await asAccount(running, 'once@own.example', presets.specialist(fleet.id));
    // whoever is paid, and holds nothing in the branch today
    const outside = await many<{ pay: number; person: number; employment: number }>(
      running.owner,
      sql`with recursive b (id) as (
          select ${fleet.id}::bigint union select v.unit_id from unit_version v join b on v.parent_id = b.id where v.superseded_by is null)
        select y.pay_id as pay, e.person_id as person, e.employment_id as employment
        from pay_version y join employment_version e on e.employment_id = y.employment_id and e.superseded_by is null
        where y.superseded_by is null and y.valid_from <= '2026-11-23' and y.valid_until > '2026-11-23'
          and not exists (select from placement_version p join position_version o on o.position_id = p.position_id and o.superseded_by is null
            where p.employment_id = e.employment_id and p.superseded_by is null and p.valid_until > '2026-11-23' and o.unit_id in (select id from b))
        order by exists (select from placement_version p join position_version o on o.position_id = p.position_id and o.superseded_by is null
            where p.employment_id = e.employment_id and p.superseded_by is null and o.unit_id in (select id from b)) desc, y.pay_id
        limit 40`,
    );
    expect(outside.length).toBe(40);
    const { reason } = await one<{ reason: number }>(
      running.owner,
      sql`select list_entry_id as reason from list_entry_version where code = 'RESIGNED' and superseded_by is null`,
    );
    const told = new Set<string>();
    for (const { pay, person, employment } of outside) {
      const edit = {
        mode: 'set' as const,
        from: '2027-03-01' as Day,
        until: 'infinity' as const,
        values: { amount: '1' },
        override: false,
      };
      const edits = [{ kind: 'pay', id: pay, section: 'pay', basedOn: 1_000_000, edit }];
      const saved = await specialist.refusal(endpoints.saveEdits, {
        body: { edits, preview: true } as never,
      });
      const leave = {
        kind: 'leave',
        input: { employmentId: employment, lastDay: '2027-03-31', reasonId: reason },
        preview: true,
      };
      const left = await specialist.refusal(endpoints.move, { body: leave as never });
      const move = {
        kind: 'transfer',
        input: { personId: person, positionId: 1, firstDay: '2027-03-31' },
        preview: true,
      };
      const moved = await specialist.refusal(endpoints.move, { body: move as never });
      for (const refused of [saved, left, moved]) {
        told.add(refused.codes.join());
        expect(JSON.stringify(refused.body)).not.toMatch(/\d{4}\.\d\d|amount|minimum|before/);
      }
    }
    const plain = ['right_missing', 'record_hidden', 'thing_unknown'];
    expect([...told].filter((codes) => !plain.includes(codes))).toEqual([]);
  });
});

test('of a day before the months asked for nothing is counted: an empty table, a blank cell, and no fault', async () => {
  const months = { from: '2026-06', until: '2026-12' };
  for (const measure of MeasureName.options)
    for (const on of ['2020-01-01', '2026-05-31'] as Day[]) {
      const query = { ...months, measure, by: 'division' as const, on };
      expect((await admin.call(endpoints.crossTable, { query })).months).toEqual([]);
      const cell = { ...query, key: 'all', month: '2026-07' };
      const found = await admin.call(endpoints.why, { query: { ...cell, limit: 5, offset: 0 } });
      expect([found.value, found.total, found.people, found.isCut]).toEqual([null, 0, [], true]);
      const file = await admin.send(endpoints.whyFile, { query: { ...cell, format: 'csv', language: 'en' } });
      expect(file.status).toBe(200);
    }
});

test('full-time hours of none are refused by their section itself, before any database', () => {
  const { edit } = preset.section('organisation');
  expect([0, 1, 3750].map((fullTime) => edit.safeParse({ fullTime }).success)).toEqual([false, true, true]);
});

test('a question that is worked on when the server is stopped is told to be asked again', async () => {
  const worker = new URL('data:text/javascript,setInterval(() => 0, 1000)');
  const calls = new ThreadCalls(worker, { url: running.url, waits: PATIENT, question: PATIENT });
  const told = calls.send({}).then(
    () => 'answered',
    (error: { status?: number; problems?: { code: string }[] }) => [
      error.status,
      error.problems?.map(({ code }) => code),
    ],
  );
  await calls.close();
  expect(await told).toEqual([503, ['starting']]);
});
