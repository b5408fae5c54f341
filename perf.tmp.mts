import { readFileSync } from 'node:fs';
process.env['GREMIUM_TEST_CLUSTER'] = readFileSync('/tmp/w/url','utf8').trim();
import { startServer, asDemo, many, sql } from '/work/main/server/test/harness';
import { endpoints } from '/work/main/contract/src/index';
const running = await startServer('demo'); const admin = await asDemo(running.address, 'admin');
const people = (await many<any>(running.owner, sql`select distinct person_id as id from employment_version where superseded_by is null and valid_until='infinity' order by 1 limit 200`)).map((p: any) => p.id);
for (let round = 0; round < 3; round++) { const times: number[] = [];
for (const id of people) { const a = performance.now(); await admin.call(endpoints.personRecord, { params: { id } }); times.push(performance.now()-a); }
const first = times.slice(0,5).map((x) => x.toFixed(0)); times.sort((a,b)=>a-b); console.log('record median', times[100]!.toFixed(1), 'p95', times[190]!.toFixed(1), 'first', first.join()); }
const ping: number[] = []; for (let i=0;i<100;i++){ const a = performance.now(); await fetch(running.address + '/api/health'); ping.push(performance.now()-a);} ping.sort((a,b)=>a-b); console.log('health median', ping[50]!.toFixed(1));
await running.close(); process.exit(0);
