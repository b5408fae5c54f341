// npm run races [-- N]: N races of 8 for the last place of a position, over HTTP on a throw-away database (10,000 if not said).
import { migrate, ownerPool, verifyJournal } from '@gremium/server';
import { fillWithDemo } from '../demo/make';
import { asDemo, startServer, vacantPosition } from '../server/test/harness';
import { makeLike, raceFor } from '../server/test/races';
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
let bad = 0;
for (let n = 0; n < races; n++) {
  const { won, taken, other } = await raceFor(client, await makeLike(client, like, `RACE-${n}`), n);
  if (won !== 1 || taken !== 7) {
    bad++;
    console.log(`race ${n}: ${won} won, ${taken} told, ${other.join('; ')}`);
  }
  if ((n + 1) % 500 === 0) console.log(`${n + 1} races, ${bad} bad`);
}
const { faults, entries } = await verifyJournal(owner);
console.log(`${races} races of 8: ${bad} bad. Journal of ${entries} entries: ${faults.length} faults.`);
await running.close();
await owner.end();
cluster.remove();
process.exit(bad + faults.length === 0 ? 0 : 1);
