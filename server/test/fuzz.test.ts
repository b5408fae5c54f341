// Requests made from the description of the API, as every role and as nobody: whatever is sent, the server answers with problem
// details, and soon. Half of them are as the description asks, with ids of things that are there; the seeds are fixed, so that a
// fault is met again. GREMIUM_FUZZ=20000 sends that many.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { request as httpRequest } from 'node:http';
import { name } from '@gremium/server';
import { Client, type Running, asDemo, many, sql, startServer } from './harness';

const SEEDS = [20_261_123, 4680, 77];
const ROLES = ['admin', 'fleet', 'tallinn', 'crew', 'audit', 'wages', 'manager', 'estonia'] as const;
const REQUESTS = Number(process.env['GREMIUM_FUZZ'] ?? 2400);

/** A generator of numbers in [0, 1) (mulberry32). */
const chance = (seed: number) => () => {
  seed = (seed + 0x6d2b79f5) | 0;
  let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
  t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
  return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
};

type Schema = {
  type?: string;
  properties?: Record<string, Schema>;
  items?: Schema;
  enum?: unknown[];
  const?: unknown;
  anyOf?: Schema[];
  oneOf?: Schema[];
  format?: string;
  additionalProperties?: Schema | boolean;
  required?: string[];
  pattern?: string;
  minLength?: number;
  maxLength?: number;
  minimum?: number;
  maximum?: number;
  minItems?: number;
  exclusiveMinimum?: number;
};
type Operation = {
  parameters?: { name: string; in: string; schema: Schema }[];
  requestBody?: { content: Record<string, { schema: Schema }> };
};

const HOSTILE = [
  '',
  ' ',
  '\u0000',
  'a\u0000b',
  '\ud800',
  '\udfff x',
  '￿',
  '%',
  '%00',
  '../../etc/passwd',
  "'; drop table entry; --",
  '{{7*7}}',
  '<script>',
  '=1+1',
  '2026-02-30',
  '2026-02-31T99:99:99Z',
  '9999-12-31T23:59:59Z',
  '0000-00-00',
  '-infinity',
  'infinity',
  'NaN',
  '1e999',
  -1,
  0,
  1,
  2 ** 31,
  2 ** 53,
  -(2 ** 53),
  1.5,
  1e300,
  null,
  true,
  [],
  {},
  [[[[]]]],
  { $ne: 1 },
  '__proto__',
  'constructor',
  'x'.repeat(5000),
];

// Texts of the forms that the description asks for: of those one is taken that fits.
const FORMS = [
  'a',
  'Vess',
  'people',
  'person_name',
  'person_name.name',
  'position 4711',
  'Ångström O’Brien',
  '2026-11-23',
  '2027-03-01',
  '-infinity',
  'infinity',
  '2026-11-23T09:00:00Z',
  '2026-11-23T09:00:00.000001Z',
  '2026-10',
  '2027-02',
  'EUR',
  'FI',
  'en',
  'de',
  '100',
  '2500.00',
  'somebody@new.example',
  'https://new.example/a',
  'Europe/Helsinki',
  'abcdefgh1234',
  'NEW-CODE',
  '0123456789abcdef0123456789abcdef',
  'a1'.repeat(32),
  'country:FI,EE',
  'q'.repeat(12),
  'correct-horse-battery',
];

class Maker {
  /** Nothing but what the description asks for. */
  isTame = false;

  constructor(
    private readonly next: () => number,
    private readonly ids: readonly number[],
  ) {}

  pick<T>(from: readonly T[]): T {
    return from[Math.floor(this.next() * from.length)] as T;
  }

  is(probability: number): boolean {
    return this.next() < probability;
  }

  value(schema: Schema | undefined, depth = 0): unknown {
    if (!schema || (!this.isTame && this.is(0.12)) || depth > 12)
      return this.isTame ? null : this.pick(HOSTILE);
    if (!this.isTame && this.is(0.01)) return this.deep();
    if (schema.const !== undefined) return schema.const;
    if (schema.enum) return this.pick(schema.enum);
    const options = schema.anyOf ?? schema.oneOf;
    if (options) return this.value(this.pick(options), depth + 1);
    if (schema.properties) {
      const made: Record<string, unknown> = {};
      for (const [name, of] of Object.entries(schema.properties))
        if (this.is(schema.required?.includes(name) ? (this.isTame ? 1 : 0.95) : 0.5))
          made[name] = this.value(of, depth + 1);
      if (!this.isTame && this.is(0.05)) made['unknown'] = this.pick(HOSTILE);
      return made;
    }
    if (schema.type === 'array')
      return Array.from({ length: Math.max(schema.minItems ?? 0, Math.floor(this.next() * 3)) }, () =>
        this.value(schema.items, depth + 1),
      );
    if (schema.type === 'object')
      return this.isTame || this.is(0.5)
        ? {}
        : { [String(this.pick(HOSTILE))]: this.value(schema.additionalProperties as Schema, depth + 1) };
    if (schema.type === 'integer' || schema.type === 'number') return this.number(schema);
    if (schema.type === 'boolean') return this.is(0.5);
    if (schema.format === 'date') return this.pick(['2026-11-23', '2027-01-01', '2019-02-28', '1899-12-31']);
    if (schema.type === 'null') return null;
    const { pattern, minLength = 0, maxLength = Infinity } = schema;
    const form = pattern === undefined ? null : new RegExp(pattern, 'u');
    const fit = FORMS.filter(
      (one) => one.length >= minLength && one.length <= maxLength && (form === null || form.test(one)),
    );
    return this.pick(fit.length > 0 ? fit : FORMS);
  }

  number({ minimum = 1, exclusiveMinimum, maximum = Infinity }: Schema): number {
    const [least, most] = [Math.max(minimum, (exclusiveMinimum ?? 0) + 1), Math.min(maximum, 60_000)];
    const there = this.is(0.7) ? this.pick(this.ids) : 0;
    if (there >= least && there <= maximum) return there;
    return Math.floor(least + this.next() * Math.max(1, Math.min(most - least, 60)));
  }

  deep(): unknown {
    let value: unknown = 1;
    for (let i = 0; i < 2000; i++) value = i % 2 ? [value] : { a: value };
    return value;
  }
}

let running: Running;
let ids: number[] = [];
const called = new Map<string, number>();
let wellFormed = 0;
let sent = 0;
const clients: Record<string, Client> = {};
beforeAll(async () => {
  running = await startServer('demo', { signInsAMinute: 1_000_000 });
  for (const role of ROLES) clients[role] = await asDemo(running.address, role);
  clients['nobody'] = new Client(running.address);
  const of = (kind: string) =>
    many<{ id: number }>(running.owner, sql`select id from ${name(kind)} order by id limit 40`);
  const kinds = [
    'person',
    'employment',
    'placement',
    'position',
    'unit',
    'job',
    'list_entry',
    'pay',
    'location',
  ];
  ids = (await Promise.all(kinds.map(of))).flat().map(({ id }) => Number(id));
});
afterAll(() => running.close());

// longer addresses are refused by the protocol itself (431)
const text = (value: unknown): string => written(value).slice(0, 2000);
const written = (value: unknown): string =>
  typeof value === 'object' ? (JSON.stringify(value) ?? '') : String(value);

describe('the API', () => {
  test.each([...ROLES, 'nobody'])('as %s answers whatever it is sent', async (role) => {
    const described = (await (await fetch(`${running.address}/api/docs/json`)).json()) as {
      paths: Record<string, Record<string, Operation>>;
    };
    const operations = Object.entries(described.paths).flatMap(([path, methods]) =>
      Object.entries(methods).map(([method, operation]) => ({ path, method, operation })),
    );
    expect(operations.length).toBeGreaterThan(35);
    const roles = Object.keys(clients);
    const { cookie } = clients[role] as Client;
    let maker = new Maker(chance(0), ids);
    const statuses = new Map<number, number>();
    const each = Math.ceil(REQUESTS / roles.length / SEEDS.length);
    for (let n = 0; n < each * SEEDS.length; n++) {
      if (n % each === 0) maker = new Maker(chance((SEEDS[n / each] as number) + roles.indexOf(role)), ids);
      maker.isTame = n % 4 !== 0;
      // each in turn, so that none is left out
      const { path, method, operation } = operations[n % operations.length] as (typeof operations)[number];
      // signing out would make nobody of everybody
      if (path === '/api/session' && method === 'delete') continue;
      let address = path;
      const search = new URLSearchParams();
      for (const { name, in: where, schema } of operation.parameters ?? []) {
        const value = text(maker.value(schema));
        if (where === 'path')
          address = address.replace(`{${name}}`, encodeURIComponent(value.toWellFormed()) || 'x');
        else if (where === 'query' && maker.is(0.6)) search.append(name, value);
      }
      const schema = operation.requestBody?.content['application/json']?.schema;
      const body = schema ? JSON.stringify(maker.value(schema)) : undefined;
      const asked = `${method} ${address}?${search} ${body?.slice(0, 2000) ?? ''}`;
      const reply = await fetch(`${running.address}${address}?${search}`, {
        method: method.toUpperCase(),
        headers: {
          ...(cookie ? { cookie } : {}),
          ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        },
        ...(body === undefined ? {} : { body }),
        signal: AbortSignal.timeout(60_000),
      }).catch((error: unknown) => {
        throw new Error(`no answer to ${asked}: ${String(error)}`);
      });
      statuses.set(reply.status, (statuses.get(reply.status) ?? 0) + 1);
      const endpoint = `${method} ${path}`;
      called.set(endpoint, (called.get(endpoint) ?? 0) + 1);
      sent++;
      if (reply.status !== 400) wellFormed++;
      const said = await reply.text();
      expect([asked, said.slice(0, 500), reply.status >= 500]).toEqual([asked, said.slice(0, 500), false]);
      const type = reply.headers.get('content-type')?.split(';')[0];
      const isProblem = reply.status < 400 || type === 'application/problem+json';
      expect([asked, reply.status, said.slice(0, 500), isProblem]).toEqual([
        asked,
        reply.status,
        said.slice(0, 500),
        true,
      ]);
    }
    expect(statuses.size).toBeGreaterThan(1);
  });

  test('each endpoint is called, and at least half of what is sent is as the description asks', () => {
    const least = [...called].sort(([, a], [, b]) => a - b);
    expect(least[0]?.[1]).toBeGreaterThanOrEqual(Math.floor(REQUESTS / 400));
    console.log(
      `seeds ${SEEDS.join(', ')}: ${sent} requests to ${called.size} endpoints, the least ${least[0]?.join(' ')}, ${wellFormed} well-formed`,
    );
    expect(wellFormed / sent).toBeGreaterThan(0.5);
  });

  test.each([
    '/%',
    '/%00',
    '/assets/',
    '/assets/%2e%2e/%2e%2e/package.json',
    '/../package.json',
    '/api/%',
    '/api/people/%ff',
    '//',
    '/api/nothing',
  ])('GET %s is a problem, or a page, never a fault', async (path) => {
    const { hostname, port } = new URL(running.address);
    const reply = await new Promise<{ status: number; type: string }>((resolve, reject) => {
      // as it stands: fetch would tidy the path
      const request = httpRequest({ hostname, port, path, method: 'GET' }, (response) => {
        response.resume();
        resolve({
          status: response.statusCode ?? 0,
          type: (response.headers['content-type'] ?? '').split(';')[0] as string,
        });
      });
      request.on('error', reject).end();
    });
    expect([path, reply.status >= 500]).toEqual([path, false]);
    if (reply.status >= 400) expect([path, reply.type]).toEqual([path, 'application/problem+json']);
    else expect(reply.type).toMatch(/text\/html/);
  });

  test('what no screen can show is refused with its field, nesting without end with where it begins', async () => {
    const admin = clients['admin'] as Client;
    const send = async (body: unknown) => {
      const reply = await fetch(`${running.address}/api/drafts/abcdefgh12`, {
        method: 'POST',
        headers: { cookie: admin.cookie, 'content-type': 'application/json' },
        body: JSON.stringify(body),
      });
      const { problems } = (await reply.json()) as { problems: { code: string; field: string }[] };
      return [reply.status, problems?.[0]?.code, problems?.[0]?.field];
    };
    const draft = { kind: 'edit', about: 'position 1' };
    expect(await send({ ...draft, content: { given: 'A\u0000' } })).toEqual([
      400,
      'text_invalid',
      'content.given',
    ]);
    expect(await send({ ...draft, content: { given: '\ud800' } })).toEqual([
      400,
      'text_invalid',
      'content.given',
    ]);
    let deep: unknown = 1;
    for (let i = 0; i < 100; i++) deep = { a: deep };
    expect(await send({ ...draft, content: { deep } })).toEqual([400, 'nested_too_deep', 'content.deep.a']);
  });
});
