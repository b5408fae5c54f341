// npx tsx bench/breadth.ts: what breadth costs. Two servers over the same demo, one with the sections there are, one with
// forty, each of the others with a row of the person looked at; record, journal and undo plan in pairs.
import { type Day, endpoints, preset, presetSections } from '@gremium/contract';
import { migrate, ownerPool } from '@gremium/server';
import { fillWithDemo } from '../demo/make';
import { startThrowAway } from '../scripts/cluster.mjs';
import { type Client, asDemo, many, sql, startServer } from '../server/test/harness';
import { SECTIONS, broad as forty, extras } from './broad-sections';
import { median, ms } from './measure';

const RUNS = 60;

const cluster = await startThrowAway();
const admin = ownerPool(`${cluster.url}/postgres`);
const opened = async (name: string, sections?: typeof forty) => {
  const url = `${cluster.url}/${name}`;
  await admin.query(`create database ${name}`);
  const owner = ownerPool(url);
  await migrate(owner, sections?.catalogue ?? preset);
  await fillWithDemo(owner, '2026-11-23' as Day);
  await owner.end();
  const running = await startServer('demo', { url, ...(sections ? { sections } : {}) });
  return { running, client: await asDemo(running.address, 'admin') };
};
const [narrow, broad] = [await opened('narrow'), await opened('broad', forty)];
const [{ id } = { id: 0 }] = await many<{ id: number }>(
  narrow.running.owner,
  sql`select person_id as id from employment_version where superseded_by is null and valid_until = 'infinity' order by 1 limit 1`,
);
// a row in each of the others, or none of them
for (const { name, kind } of process.argv[2] === 'empty' ? [] : extras)
  await broad.client.call(endpoints.createRecord, {
    params: { kind },
    body: { from: '2026-11-23' as Day, sections: { [name]: { personId: id, note: name } } },
  });

const asks: [string, (client: Client) => Promise<unknown>][] = [
  ['a person’s page', (client) => client.call(endpoints.personRecord, { params: { id } })],
  ['a person’s record', (client) => client.call(endpoints.record, { params: { kind: 'person', id } })],
  [
    'a page of the journal',
    (client) => client.call(endpoints.journal, { query: { limit: 100, offset: 30 } }),
  ],
  ['an undo plan', (client) => client.call(endpoints.planUndo, { params: { number: 4400 } })],
];
for (const [what, ask] of asks) {
  const times: [number[], number[]] = [[], []];
  for (let i = 0; i < RUNS + 10; i++)
    for (const [k, { client }] of [narrow, broad].entries()) {
      const began = performance.now();
      await ask(client);
      if (i >= 10) times[k]!.push(performance.now() - began);
    }
  const [few, many_] = times.map((all) => median(all.sort((a, b) => a - b))) as [number, number];
  console.log(
    `${what}: ${ms(few)} with ${presetSections.length} sections, ${ms(many_)} with ${SECTIONS}: ${(many_ / few).toFixed(2)} times`,
  );
}
await narrow.running.close();
await broad.running.close();
await admin.end();
cluster.remove();
process.exit(0);
