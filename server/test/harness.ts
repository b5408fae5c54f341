// A server of its own over a database of its own, and clients that speak HTTP to it.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import type {
  Catalogue,
  CallOf,
  Endpoint,
  Grant,
  ImportOut,
  Problem,
  ReplyOf,
  TakeOutAsk,
  TakeOutLine,
  TakeOutPart,
  Viewer,
} from '@gremium/contract';
import { endpoints, preset } from '@gremium/contract';
import type { FastifyInstance } from 'fastify';
import type { Pool } from 'pg';
import { demoAccounts } from '../../demo/accounts';
import {
  type Clock,
  type Options,
  clockFrom,
  hashPassword,
  join,
  makeApp,
  many,
  maybeOne,
  one,
  ownerPool,
  raw,
  openServer,
  versionTables,
  sql,
} from '@gremium/server';

export const NOW = '2026-11-23T09:40:00Z';
export const PASSWORD = 'correct-horse-battery';

const cluster = (): string => {
  const url = process.env['GREMIUM_TEST_CLUSTER'];
  if (!url) throw new Error('the test cluster is not running');
  return url;
};

/** Seconds that are waited where a test is not about waiting: a busy machine is no fault. */
export const PATIENT = 120;

let counter = 0;

/** Copies a template database; returns its address. */
export const copyDatabase = async (template: 'empty' | 'demo'): Promise<string> => {
  const name = `t${process.pid}_${Date.now().toString(36)}_${counter++}`;
  const admin = ownerPool(`${cluster()}/postgres`, 1);
  for (let attempt = 1; ; attempt++) {
    try {
      await admin.query(`create database ${name} template gremium_${template} strategy file_copy`);
      break;
    } catch (error) {
      // another test copies the same template just now
      if ((error as { code?: string }).code !== '55006' || attempt > 50) throw error;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  }
  await admin.end();
  return `${cluster()}/${name}`;
};

export type Running = {
  url: string;
  address: string;
  app: FastifyInstance;
  pool: Pool;
  owner: Pool;
  clock: Clock;
  close: () => Promise<void>;
};

export const startServer = async (
  template: 'empty' | 'demo',
  {
    clock = clockFrom(NOW),
    url,
    signInsAMinute = 1000,
    sections,
    waits = PATIENT,
    question = PATIENT,
    ...options
  }: {
    clock?: Clock;
    url?: string;
    sections?: { catalogue: Catalogue; from: string };
    waits?: number;
    question?: number;
  } & Options = {},
): Promise<Running> => {
  const database = url ?? (await copyDatabase(template));
  const server = openServer(database, clock, {
    reading: 20,
    writing: 12,
    waits,
    question,
    ...(sections ? { catalogue: sections.catalogue, sectionsFrom: sections.from } : {}),
  });
  const owner = ownerPool(database);
  const { pool } = server;
  const app = await makeApp(server, { demoAccounts, signInsAMinute, ...options });
  const address = await app.listen({ host: '127.0.0.1', port: 0 });
  // of an empty register hardly anything is asked
  if (template === 'demo') await app.registerReady();
  const close = async () => {
    await app.close();
    await server.close();
    await owner.end();
  };
  return { url: database, address, app, pool, owner, clock, close };
};

export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly problems: Problem[],
    readonly body: unknown,
  ) {
    super(`${status} ${JSON.stringify(problems)}`);
  }
  get codes(): string[] {
    return this.problems.map(({ code }) => code);
  }
}

export class Client {
  cookie = '';
  viewer: Viewer | undefined;

  constructor(readonly address: string) {}

  /** The raw answer to a call of an endpoint. */
  send<E extends Endpoint>(
    endpoint: E,
    call: CallOf<E>,
    headers: Record<string, string> = {},
  ): Promise<Response> {
    const { params = {}, query = {}, body } = call as { params?: object; query?: object; body?: unknown };
    let path = endpoint.path;
    for (const [name, value] of Object.entries(params)) path = path.replace(`:${name}`, String(value));
    const search = new URLSearchParams(Object.entries(query).map(([name, value]) => [name, String(value)]));
    return fetch(`${this.address}${path}?${search}`, {
      method: endpoint.method,
      headers: {
        ...(this.cookie ? { cookie: this.cookie } : {}),
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        ...headers,
      },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
  }

  async call<E extends Endpoint>(
    endpoint: E,
    call: CallOf<E>,
    headers: Record<string, string> = {},
  ): Promise<ReplyOf<E>> {
    const response = await this.send(endpoint, call, headers);
    const body: unknown = await response.json();
    if (!response.ok)
      throw new Refused(response.status, (body as { problems?: Problem[] }).problems ?? [], body);
    return body as ReplyOf<E>;
  }

  /** As a person does: asks again where the answer is to try again (a machine under load). */
  async patiently<E extends Endpoint>(endpoint: E, call: CallOf<E>, times = 4): Promise<ReplyOf<E>> {
    try {
      return await this.call(endpoint, call);
    } catch (error) {
      if (times > 1 && error instanceof Refused && error.status === 503)
        return this.patiently(endpoint, call, times - 1);
      throw error;
    }
  }

  /** The refusal a call must get. */
  async refusal<E extends Endpoint>(
    endpoint: E,
    call: CallOf<E>,
    headers: Record<string, string> = {},
  ): Promise<Refused> {
    try {
      await this.call(endpoint, call, headers);
    } catch (error) {
      if (error instanceof Refused) return error;
      throw error;
    }
    throw new Error(`${endpoint.path} was not refused`);
  }
}

export const signIn = async (address: string, email: string, password: string): Promise<Client> => {
  const client = new Client(address);
  const response = await client.send(endpoints.signIn, { body: { email, password } });
  if (!response.ok) throw new Error(`sign-in failed: ${await response.text()}`);
  client.cookie = (response.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
  client.viewer = ((await response.json()) as { viewer: Viewer }).viewer;
  return client;
};

/** Signs in as one of the demo's accounts. */
export const asDemo = (
  address: string,
  who: 'admin' | 'fleet' | 'tallinn' | 'crew' | 'audit' | 'wages' | 'manager' | 'estonia',
): Promise<Client> => {
  const account = demoAccounts.find(({ email }) => email.startsWith(who));
  return signIn(address, account?.email ?? '', account?.password ?? '');
};

/** Makes an account with grants, of a person where one is named, and signs in as it. */
export const asAccount = async (
  running: Running,
  email: string,
  grants: Grant[],
  personId: number | null = null,
): Promise<Client> => {
  await many(
    running.owner,
    sql`insert into account (email, name, password_hash, grants, person_id)
      values (${email}, ${email}, ${await hashPassword(PASSWORD)}, ${JSON.stringify(grants)}::jsonb, ${personId})`,
  );
  return signIn(running.address, email, PASSWORD);
};

/** A vacant position in force of the demo that requires nothing, in a unit whose name is like a pattern. */
export const vacantPosition = async (running: Running, client: Client, like = '%'): Promise<number> => {
  const { positions } = await client.call(endpoints.positions, { query: { free: 'yes' } });
  const units = await many<{ id: number }>(
    running.owner,
    sql`select unit_id as id from unit_version where superseded_by is null and name like ${like}`,
  );
  const inside = new Set(units.map(({ id }) => id));
  const coming = await many<{ id: number }>(
    running.owner,
    sql`select position_id as id from placement_version where superseded_by is null and valid_until > '2026-11-23'`,
  );
  const taken = new Set(coming.map(({ id }) => id));
  const asking = await many<{ id: number }>(
    running.owner,
    sql`select o.position_id as id from position_version o
      join job_requirement_version r on r.job_id = o.job_id and r.superseded_by is null and r.needed = 'required'
      where o.superseded_by is null
      union select position_id from position_requirement_version where superseded_by is null and needed = 'required'`,
  );
  const wants = new Set(asking.map(({ id }) => id));
  const vacant = positions.filter(
    ({ id, unitId, mark }) => inside.has(unitId) && mark === 'vacant' && !taken.has(id),
  );
  // where all of them require something one that does is as good
  const found = vacant.find(({ id }) => !wants.has(id)) ?? vacant[0];
  if (!found) throw new Error('no vacant position found');
  return found.id;
};

export const newcomer = (family: string) => ({
  name: { given: 'Nova', family },
  contacts: [{ kind: 'email' as const, value: `${family.toLowerCase()}@new.example` }],
});

/** Sends a file, of people unless said otherwise; returns the id of the import. */
export const upload = async (
  client: Client,
  name: string,
  content: string | Buffer,
  subject = 'people',
): Promise<number> => {
  const asked = new URLSearchParams({ name, subject }).toString();
  const response = await fetch(`${client.address}/api/imports?${asked}`, {
    method: 'POST',
    headers: { cookie: client.cookie, 'content-type': 'application/octet-stream' },
    body: content as never,
  });
  const reply = (await response.json()) as { id: number; problems?: Problem[] };
  if (!response.ok) throw new Refused(response.status, reply.problems ?? [], reply);
  return reply.id;
};

/** The import once nothing of it is worked on any more. */
export const settled = async (client: Client, id: number, tries = 1500): Promise<ImportOut> => {
  for (let i = 0; i < tries; i++) {
    const found = await client.call(endpoints.import, { params: { id } });
    if (!found.work) return found;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('the import is still worked on');
};

type Taking = Omit<TakeOutAsk, 'parts' | 'language'> & { language?: 'en' | 'de'; parts: TakeOutPart[] };

/** Takes views out, and waits: what is said of it, and its file. */
export const takeOut = async (
  client: Client,
  { language = 'en', ...asked }: Taking,
): Promise<{ line: TakeOutLine; content: Buffer }> => {
  const { id } = await client.call(endpoints.takeOut, { body: { language, ...asked } });
  for (let i = 0; i < 600; i++) {
    const line = await client.call(endpoints.takenOut, { params: { id } });
    if (line.work) {
      await new Promise((resolve) => setTimeout(resolve, 50));
      continue;
    }
    if (line.state !== 'ready') throw new Refused(500, line.trouble, line);
    const response = await client.send(endpoints.takeOutFile, { params: { id } });
    if (!response.ok) throw new Refused(response.status, [], await response.json());
    return { line, content: Buffer.from(await response.arrayBuffer()) };
  }
  throw new Error('it is still being taken out');
};

export const takeIn = async (client: Client, name: string, content: string | Buffer): Promise<ImportOut> =>
  settled(client, await upload(client, name, content));

/** All that is believed now, as lines: equal exactly where nothing was changed, or all of it was taken back. */
export const believed = async (running: Running): Promise<string[]> => {
  const parts = versionTables(preset).map(
    (table) =>
      sql`select concat_ws(' ', ${table}::text, v.lineage, v.valid_from, v.valid_until) as line
        from ${raw(`"${table}"`)} v where v.superseded_by is null`,
  );
  const rows = await many<{ line: string }>(running.owner, join(parts, ' union all '));
  return rows.map(({ line }) => line).sort();
};

/** Starts the real server process, as npm start does, on a free port. */
export const spawnServer = async (url: string, env: Record<string, string> = {}) => {
  const child = spawn(process.execPath, ['server/dist/main.js'], {
    env: {
      ...process.env,
      DATABASE_URL: url,
      GREMIUM_PORT: '0',
      GREMIUM_CLOCK: NOW,
      NODE_OPTIONS: '',
      GREMIUM_WAITS: String(PATIENT),
      GREMIUM_QUESTION: String(PATIENT),
      ...env,
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let output = '';
  child.stderr.on('data', (text: Buffer) => (output += text.toString()));
  for await (const text of child.stdout) {
    output += String(text);
    const [, address] = /Gremium is at (http:\S+)/.exec(output) ?? [];
    if (!address) continue;
    await untilReady(address);
    const owner = async (text: string) => {
      const pool = ownerPool(url, 1);
      await pool.query(text);
      await pool.end();
    };
    // resident memory of the process, in bytes
    const memory = () => Number(readFileSync(`/proc/${child.pid}/statm`, 'utf8').split(' ')[1]) * 4096;
    return { child, address, kill: async () => killed(child), owner, memory };
  }
  throw new Error(`the server did not start: ${output}`);
};

// A server listens before its register is loaded.
const untilReady = async (address: string): Promise<void> => {
  for (;;) {
    const { register } = (await (await fetch(`${address}/api/health`)).json()) as { register: string };
    if (register === 'ready') return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
};

const killed = async (child: ReturnType<typeof spawn>): Promise<void> => {
  const exited = once(child, 'exit');
  child.kill('SIGKILL');
  await exited;
};

export { many, maybeOne, one, sql };
