// The server process: migrates, fills an empty demo, listens. Started by scripts/start.mjs; see docs/operating.md.
import type { AddressInfo } from 'node:net';
import { SchemaRefusal, migrate } from './database/migrate';
import { ownerPool } from './database/pool';
import { MOST_QUESTION, MOST_WAITS } from './database/waits';
import { firstAdministratorLink } from './access/access.endpoints';
import { makeApp } from './app';
import { openServer } from './open-server';
import { moveAbsences } from './people/absences-moved';
import { dayIn, environmentClock } from './time/clock';
import { headNumber } from './time/lens';

const say = (line: string): void => {
  process.stdout.write(`${line}\n`);
};

// whoever read what it says may be gone: that ends no server
for (const stream of [process.stdout, process.stderr]) stream.on('error', () => undefined);

const url = process.env['DATABASE_URL'];
const port = Number(process.env['GREMIUM_PORT'] ?? 4680);
const isDemo = process.env['GREMIUM_DEMO'] === 'yes';

const start = async (): Promise<void> => {
  if (!url) throw new SchemaRefusal('DATABASE_URL names no database. Start Gremium with: npm start');
  const clock = environmentClock();
  const owner = ownerPool(url);
  const applied = await migrate(owner);
  if (applied.length > 0) say(`Database brought up to date: ${applied.join(', ')}.`);
  const moved = await moveAbsences(owner, clock.now());
  if (moved > 0) say(`Absences made of what places said: ${moved}.`);
  const demo = isDemo ? await import('../../demo/make') : undefined;
  const accounts = isDemo ? (await import('../../demo/accounts')).demoAccounts : [];
  const number = await headNumber(owner);
  if (demo && number === 0) {
    const people = Number(process.env['GREMIUM_DEMO_PEOPLE'] ?? 1250);
    say(`Filling the empty register with the demo, Vessmar Ferries (${people} people at work) …`);
    await demo.fillWithDemo(owner, dayIn(clock.now(), 'Europe/Helsinki'), people);
  }
  await owner.end();
  const server = openServer(url, clock, {
    reading: Number(process.env['GREMIUM_CONNECTIONS'] ?? 10),
    writing: Number(process.env['GREMIUM_WRITERS'] ?? 6),
    waits: Number(process.env['GREMIUM_WAITS'] ?? MOST_WAITS),
    question: Number(process.env['GREMIUM_QUESTION'] ?? MOST_QUESTION),
  });
  const trustedProxies = (process.env['GREMIUM_TRUSTED_PROXIES'] ?? '').split(',').filter(Boolean);
  const app = await makeApp(server, {
    demoAccounts: accounts,
    log: true,
    loadRegister: true,
    ...(trustedProxies.length > 0 ? { trustedProxies } : {}),
  });
  await app.listen({ host: process.env['GREMIUM_HOST'] ?? '127.0.0.1', port });
  // asked for 0, the machine chose one
  const address = `http://127.0.0.1:${(app.server.address() as AddressInfo).port}`;
  say(`\nGremium is at ${address}`);
  for (const { email, password, what } of accounts)
    say(`  ${email.padEnd(26)} ${password}   ${what.replaceAll('_', ' ')}`);
  const token = isDemo ? null : await firstAdministratorLink(server);
  if (token)
    say(`\nMake the first administrator (once, within 7 days):\n  ${address}/first-administrator#${token}`);
  const stop = async () => {
    await app.close();
    await server.close();
    process.exit(0);
  };
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => void stop());
};

start().catch((error: unknown) => {
  const code = (error as { code?: string }).code;
  const cures: Record<string, string> = {
    EADDRINUSE: `Port ${port} is taken. Stop what runs there, or choose another: GREMIUM_PORT=4681 npm start`,
    ECONNREFUSED: 'The database does not answer. Is DATABASE_URL right, and PostgreSQL running?',
    '28P01': 'The database refused the password in DATABASE_URL.',
    '42501':
      'The database account may not create the schema. Give DATABASE_URL an account that owns the database and may create roles.',
  };
  const text = error instanceof SchemaRefusal ? error.message : cures[code ?? ''];
  process.stderr.write(`${text ?? String((error as Error).stack ?? error)}\n`);
  process.exit(1);
});
