// Accounts: links, limits of tries, blocking, and that no setting keeps everybody out.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, statSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { presets, endpoints } from '@gremium/contract';
import { firstAdministratorLink, isCommon } from '@gremium/server';
import { Client, Refused, type Running, asDemo, one, signIn, sql, startServer } from './harness';

let running: Running;
let admin: Client;
beforeAll(async () => {
  running = await startServer('demo', { trustedProxies: ['127.0.0.1'] });
  admin = await asDemo(running.address, 'admin');
});
afterAll(() => running.close());

const from = (address: string) => ({ 'x-forwarded-for': address });
const account = async (email: string, grants = presets.auditor()) =>
  admin.call(endpoints.createAccount, {
    body: { email, name: 'Made', password: 'a-long-and-rare-one', grants },
  });
const tryIn = async (email: string, password: string, address: string): Promise<string> => {
  const reply = await new Client(running.address).send(
    endpoints.signIn,
    { body: { email, password } },
    from(address),
  );
  return reply.ok ? 'in' : ((await reply.json()) as { title: string }).title;
};

describe('the first administrator’s link', () => {
  test('is worthless once an administrator exists, also one made before it was printed again', async () => {
    const empty = await startServer('empty');
    const [stolen, used] = [(await firstAdministratorLink(empty))!, (await firstAdministratorLink(empty))!];
    const client = new Client(empty.address);
    const body = { email: 'me@own.example', name: 'Me', password: 'long enough for this' };
    await client.call(endpoints.firstAdministrator, { body: { ...body, token: used } });
    const thief = { ...body, email: 'thief@own.example', token: stolen };
    expect((await client.refusal(endpoints.firstAdministrator, { body: thief })).codes).toEqual([
      'link_used',
    ]);
    expect(await firstAdministratorLink(empty)).toBeNull();
    await empty.close();
  });

  test('makes one administrator of two at the same moment', async () => {
    const empty = await startServer('empty');
    const tokens = [(await firstAdministratorLink(empty))!, (await firstAdministratorLink(empty))!];
    const made = await Promise.allSettled(
      tokens.map((token, i) =>
        new Client(empty.address).call(endpoints.firstAdministrator, {
          body: { token, email: `a${i}@own.example`, name: 'Me', password: 'long enough for this' },
        }),
      ),
    );
    expect(made.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    await empty.close();
  });
});

describe('tries to sign in', () => {
  test('are limited by account and address, with a sentence; another address is not kept out, nor the right one for good', async () => {
    await account('tried@own.example');
    expect(await tryIn('tried@own.example', 'a-long-and-rare-one', '10.0.0.9')).toBe('in');
    const tries = [];
    for (let i = 0; i < 8; i++) tries.push(await tryIn('tried@own.example', `guess ${i}`, '10.0.0.1'));
    expect(tries).toEqual([...Array(6).fill('sign_in_failed'), ...Array(2).fill('too_many_requests')]);
    expect(await tryIn('tried@own.example', 'a-long-and-rare-one', '10.0.0.2')).toBe('in');
  });

  test('from many addresses are limited too, but not for whoever signed in from theirs before', async () => {
    await account('hunted@own.example');
    expect(await tryIn('hunted@own.example', 'a-long-and-rare-one', '10.1.0.1')).toBe('in');
    const tries = [];
    for (let i = 0; i < 45; i++) tries.push(await tryIn('hunted@own.example', 'guess', `10.2.${i}.1`));
    expect(tries.slice(0, 40).every((one) => one === 'sign_in_failed')).toBe(true);
    expect(tries.at(-1)).toBe('too_many_requests');
    expect(await tryIn('hunted@own.example', 'a-long-and-rare-one', '10.3.0.1')).toBe('too_many_requests');
    expect(await tryIn('hunted@own.example', 'a-long-and-rare-one', '10.1.0.1')).toBe('in');
  });

  test('a proxy that is not trusted says nothing about the address', async () => {
    const plain = await startServer('demo');
    const addressOf = async (header: string) => {
      await new Client(plain.address).send(
        endpoints.signIn,
        { body: { email: 'nobody@own.example', password: 'x' } },
        from(header),
      );
      const { subject } = await one<{ subject: string }>(
        plain.owner,
        sql`select subject from sign_in_try where subject like 'here %' order by at desc limit 1`,
      );
      return subject.split(' ')[2];
    };
    expect([await addressOf('10.9.9.9'), await addressOf('10.8.8.8')]).toEqual(['127.0.0.1', '127.0.0.1']);
    await plain.close();
  });
});

describe('an account', () => {
  test('is changed and blocked: blocked it is signed out at once and let in no more', async () => {
    const { id } = await account('blocked@own.example');
    const client = await signIn(running.address, 'blocked@own.example', 'a-long-and-rare-one');
    await admin.call(endpoints.changeAccount, { params: { id }, body: { name: 'Renamed', language: 'de' } });
    expect((await client.call(endpoints.whoAmI, {})).viewer).toMatchObject({
      name: 'Renamed',
      language: 'de',
    });
    await admin.call(endpoints.changeAccount, { params: { id }, body: { active: false } });
    expect((await client.refusal(endpoints.whoAmI, {})).codes).toEqual(['sign_in_needed']);
    expect(await tryIn('blocked@own.example', 'a-long-and-rare-one', '10.4.0.1')).toBe('sign_in_failed');
  });

  test('gets a new password by a link, once; whoever held the old one is signed out', async () => {
    const { id } = await account('forgot@own.example');
    const client = await signIn(running.address, 'forgot@own.example', 'a-long-and-rare-one');
    const first = await admin.call(endpoints.passwordLink, { params: { id } });
    const { token } = await admin.call(endpoints.passwordLink, { params: { id } });
    const set = (given: string, password = 'another-rare-one') => ({ body: { token: given, password } });
    const nobody = new Client(running.address);
    expect((await nobody.refusal(endpoints.setPassword, set(first.token))).codes).toEqual(['link_used']);
    expect((await nobody.refusal(endpoints.setPassword, set(token, 'aaaaaaaaaaaaaa'))).codes).toEqual([
      'password_common',
    ]);
    expect(await nobody.call(endpoints.setPassword, set(token))).toEqual({ email: 'forgot@own.example' });
    expect((await nobody.refusal(endpoints.setPassword, set(token))).codes).toEqual(['link_used']);
    expect((await client.refusal(endpoints.whoAmI, {})).status).toBe(401);
    await signIn(running.address, 'forgot@own.example', 'another-rare-one');
  });

  test('of one’s own gets no other rights from oneself; wrong values are problems with their field', async () => {
    const own = admin.viewer!.account;
    const refused = (id: number, body: object) =>
      admin.refusal(endpoints.changeAccount, { params: { id }, body: body as never });
    expect((await refused(own, { grants: [] })).codes).toEqual(['own_record']);
    expect((await refused(own, { active: false })).codes).toEqual(['own_record']);
    expect((await refused(987_654, { name: 'X' })).problems[0]).toMatchObject({
      code: 'thing_unknown',
      field: 'id',
    });
    const body = { name: 'Twice', password: 'a-long-and-rare-one', grants: [] };
    const twice = await admin.refusal(endpoints.createAccount, {
      body: { ...body, email: 'audit@vessmar.example' },
    });
    expect(twice.problems[0]).toMatchObject({ code: 'email_in_use', field: 'email' });
    const nobody = await admin.refusal(endpoints.createAccount, {
      body: { ...body, email: 'x@own.example', personId: 987_654 },
    });
    expect(nobody.problems[0]).toMatchObject({ code: 'thing_unknown', field: 'personId' });
    expect((await admin.refusal(endpoints.passwordLink, { params: { id: 987_654 } })).codes).toEqual([
      'thing_unknown',
    ]);
  });

  test.each([
    ['aaaaaaaaaaaaaaaa', true],
    ['                ', true],
    ['abcabcabcabcabc', true],
    ['passwordpassword', true],
    ['Password12345!', true],
    ['123456789012', true],
    ['qwertyqwerty', true],
    ['correct-horse-battery', false],
    ['vessmar-demo-only', false],
    ['long enough for this', false],
    ['Fähre nach Tallinn 7', false],
  ])('with the password %p is refused: %p', (password, refused) => expect(isCommon(password)).toBe(refused));

  test('gets a cookie that goes over TLS only where a trusted proxy says it came so', async () => {
    const cookieOf = async (headers: Record<string, string>) => {
      const body = { email: 'audit@vessmar.example', password: 'vessmar-demo-only' };
      return (await new Client(running.address).send(endpoints.signIn, { body }, headers)).headers.get(
        'set-cookie',
      );
    };
    expect(await cookieOf({ ...from('10.5.0.1'), 'x-forwarded-proto': 'https' })).toMatch(/; Secure/);
    expect(await cookieOf(from('10.5.0.2'))).not.toMatch(/Secure/);
  });
});

describe('the organisation’s settings', () => {
  const hostile: unknown[] = [
    null,
    '',
    ' ',
    'x'.repeat(5000),
    'Europe/Atlantis',
    '+25:00',
    'GMT+25',
    '../etc/passwd',
    '\u0000',
    '\ud800',
    -1,
    0,
    1.5,
    1e308,
    13,
    8,
    1_000_001,
    [],
    ['xx'],
    {},
    true,
    '2026-02-30',
    '1700-01-01',
    'Mars/Base',
    "'; drop table account; --",
    'utc',
    'EST5EDT',
  ];
  const fields = [
    'name',
    'country',
    'timeZone',
    'languages',
    'dateFormat',
    'currency',
    'fiscalMonth',
    'weekStart',
    'fullTime',
    'figuresFrom',
  ];

  test.each(fields)('%s, whatever it is set to, keeps nobody out', async (field) => {
    const { rows } = await admin.call(endpoints.records, { params: { kind: 'organisation' }, query: {} });
    const id = rows[0]!.thing;
    for (const value of hostile) {
      const { sections } = await admin.call(endpoints.record, { params: { kind: 'organisation', id } });
      const { lastEntry, rows: versions } = sections[0]!;
      const before = versions.at(-1)!.values[field];
      const edit = (to: unknown) => ({
        mode: 'mend' as const,
        row: versions.at(-1)!.id,
        values: { [field]: to },
      });
      const params = { kind: 'organisation' as const, id, section: 'organisation' as const };
      const reply = await admin.send(endpoints.editRecord, {
        params,
        body: { edit: edit(value), basedOn: lastEntry },
      });
      expect([field, value, reply.status >= 500]).toEqual([field, value, false]);
      const signed = await new Client(running.address).send(endpoints.signIn, {
        body: { email: 'audit@vessmar.example', password: 'vessmar-demo-only' },
      });
      expect([field, value, signed.status]).toEqual([field, value, 200]);
      expect((await admin.send(endpoints.whoAmI, {})).status).toBe(200);
      if (!reply.ok) continue;
      const now = (await admin.call(endpoints.record, { params: { kind: 'organisation', id } })).sections[0]!;
      const back = { mode: 'mend' as const, row: now.rows.at(-1)!.id, values: { [field]: before } };
      await admin
        .call(endpoints.editRecord, { params, body: { edit: back, basedOn: now.lastEntry } })
        .catch((error: unknown) => {
          // set to what it was
          if (!(error instanceof Refused) || !error.codes.includes('nothing_changed')) throw error;
        });
    }
  });

  test('a zone that the list does not have any more is taken for UTC, and lets in', async () => {
    const other = await startServer('demo');
    await other.owner.query('alter table organisation_version disable trigger all');
    await other.owner.query(`update organisation_version set time_zone = 'Europe/Atlantis'`);
    const client = await asDemo(other.address, 'admin');
    expect((await client.call(endpoints.whoAmI, {})).today).toBe('2026-11-23');
    await other.close();
  });
});

describe('a backup', () => {
  test('is for nobody else to read', () => {
    const folder = mkdtempSync(path.join(os.tmpdir(), 'gremium-backup-'));
    const file = path.join(folder, 'all.backup');
    const { status } = spawnSync(process.execPath, ['scripts/backup.mjs', file], {
      env: { ...process.env, DATABASE_URL: running.url, NODE_OPTIONS: '' },
    });
    expect([status, (statSync(file).mode & 0o777).toString(8)]).toEqual([0, '600']);
    rmSync(folder, { recursive: true });
  });
});
