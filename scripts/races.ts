// npm run races [-- N]: N races of 8 for the last place of a position, an email, a code, a limit, over HTTP on a throw-away
// database (10,000 if not said).
import { counted, migrate, one, ownerPool, sql, verifyJournal } from '@gremium/server';
import { fillWithDemo } from '../demo/make';
import { asDemo, startServer, vacantPosition } from '../server/test/harness';
import { makeLike, raceFor, raceForCode, raceForEmail, raceForLimit } from '../server/test/races';
import { startThrowAway } from './cluster.mjs';

const races = Number(process.argv[2] ?? 10_000);
const cluster = await startThrowAway();
const url = `${cluster.url}/races`;
const admin = ownerPool(`${cluster.url}/postgres`);
await admin.query('create database races');
await admin.end();
const owner = ownerPool(url);
await migrate(owner);
await fillWithDemo(owner, '2026-11-23' as never, 300);
const running = await startServer('demo', { url });
const client = await asDemo(running.address, 'admin');
const like = await vacantPosition(running, client);
const idOf = async (query: ReturnType<typeof sql>): Promise<number> =>
  (await one<{ id: number }>(running.owner, query)).id;
const root = await idOf(
  sql`select unit_id as id from unit_version where superseded_by is null and parent_id is null limit 1`,
);
const kind = await idOf(
  sql`select list_entry_id as id from list_entry_version where list = 'unit_kind' order by 1 limit 1`,
);
let wide: number[] = [];
let bad = 0;
const [acts, decisions, began] = [counted.acts, counted.decisions, performance.now()];
for (let n = 0; n < races; n++) {
  // for a place, for an email nobody had, for a code no unit had, for a place whose limit is lowered meanwhile
  // (of codes fewer: each leaves a unit that later ones are compared with)
  const what = n % 40 === 2 ? 2 : n % 10 === 1 ? 1 : n % 10 === 3 ? 3 : 0;
  if (n % 500 === 1) {
    wide = [];
    for (let i = 0; i < 8; i++) wide.push(await makeLike(client, like, `WIDE-${n}-${i}`, 1000));
  }
  const found =
    what === 0
      ? await raceFor(client, await makeLike(client, like, `RACE-${n}`), n)
      : what === 1
        ? await raceForEmail(client, wide, n)
        : what === 2
          ? await raceForCode(client, root, kind, n)
          : await raceForLimit(client, await makeLike(client, like, `LIMIT-${n}`, 2), n);
  if (found.won !== 1 || found.taken !== (what === 3 ? 1 : 7)) {
    bad++;
    console.log(`race ${n}: ${found.won} won, ${found.taken} told, ${found.other.join('; ')}`);
  }
  if ((n + 1) % 100 === 0)
    console.log(
      `${n + 1} of ${races} races, ${bad} bad, ${Math.round((performance.now() - began) / 1000)} s`,
    );
}
console.log(
  `${counted.decisions - decisions} decisions for ${counted.acts - acts} acts (those refused decide too).`,
);
const { faults, entries } = await verifyJournal(owner);
console.log(`${races} races of 8: ${bad} bad. Journal of ${entries} entries: ${faults.length} faults.`);
await running.close();
await owner.end();
cluster.remove();
process.exit(bad + faults.length === 0 ? 0 : 1);
