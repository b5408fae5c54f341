// npm run bench [-- PEOPLE]: times the parts of docs and budgets over the scale set, each beside a yardstick, and writes
// bench/results.md. Medians of several runs in one process: machines are noisy, the ratio is what counts.
import { readFileSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { type Day, type HireInput, endpoints, preset, presetNames } from '@gremium/contract';
import { Columns, Facts, type CrossAsk, type CrossTable, crossTable, day, dayRollUp } from '@gremium/core';
import { counted, many, ownerPool, serverPool, sql } from '@gremium/server';
import { to as copyTo } from 'pg-copy-streams';
import { loadColumns } from '../server/src/time/load-columns';
import { copyRows } from '../server/src/time/version.sql';
import { type Client, asDemo, newcomer, startServer } from '../server/test/harness';
import { duckDb } from './duckdb';
import { benchFields } from './fields';
import { type Note, benchImports } from './imports';
import { type Line, asTable, median, ms, p95, timed, watchShare } from './measure';
import { scaleSet } from './scale-set';
import { benchRoundTrip, benchTakeOut } from './take-out';
import { crossBySql, directoryBySql, rollUpBySql } from './yardsticks.sql';

const people = Number(process.argv[2] ?? 59_000);
const { url, stop } = await scaleSet(people);
const pool = serverPool(url);
const owner = ownerPool(url);
const lines: Line[] = [];
let shareSince = watchShare();
const note: Note = (what, measured, budget, yardstick = '', share = shareSince()) => {
  lines.push({ what, measured, budget, yardstick, share });
  console.log(`${what}: ${measured} at ${share} % (budget ${budget}) ${yardstick}`);
  shareSince = watchShare();
};
const times = (slow: number, fast: number) => `${ms(slow)}, ${(slow / fast).toFixed(0)} times as long`;

// the columns of a server's start
const tx = await pool.connect();
const bare = await timed(2, async () => {
  for (const section of presetNames)
    for await (const chunk of tx.query(copyTo(copyRows(preset.section(section), null)))) void chunk;
});
let facts = new Facts(await loadColumns(tx, new Columns(), null));
const loads = await timed(2, async () => {
  facts = new Facts(await loadColumns(tx, new Columns(), null));
  void [facts.places, facts.presences];
});
tx.release();
note(
  'whole-register columns: start of a server',
  ms(median(loads)),
  '5 s',
  `bare COPY out ${ms(median(bare))}`,
);

// a cross table in core
const compareCells = ({ rows, months }: CrossTable, found: ReadonlyMap<string, number>): void => {
  for (const { key, values } of rows)
    months.forEach(({ month }, i) => {
      // somebody with two employments at once counts once with us, twice there
      const off = Math.abs((values[i] ?? 0) - (found.get(`${month} ${key}`) ?? 0));
      if (off > 1e-4) throw new Error(`turnover of ${key} in ${month} is not the same in DuckDB: ${off} off`);
    });
};
const cross = (by: CrossAsk['by'], more: Partial<CrossAsk> = {}): CrossAsk => ({
  measure: 'turnover',
  by,
  from: day('2023-11-01'),
  until: day('2026-10-31'),
  narrowing: { dimensions: {} },
  part: 'all',
  on: day('2026-11-23'),
  today: day('2026-11-23'),
  dataFrom: day('2016-11-01'),
  ...more,
});
const crossTimes = async (ask: CrossAsk) => {
  await timed(5, () => crossTable(facts, ask));
  return median(await timed(15, () => crossTable(facts, ask)));
};
const byCountry = await crossTimes(cross('country'));
const sqlCross = median(await timed(3, () => many(owner, crossBySql('2022-12-01', '2026-10-31'))));
const duck = await duckDb(owner, '2022-12-01', '2026-10-31');
const duckCross = median(await timed(9, () => duck.cross()));
compareCells(crossTable(facts, cross('country')), await duck.cross());
note(
  'cross table, turnover, 36 months × 6 countries, in core',
  ms(byCountry),
  '15 ms',
  `SQL ${times(sqlCross, byCountry)}; DuckDB in memory ${times(duckCross, byCountry)}`,
);
for (const by of ['job', 'unit'] as const) {
  const size = crossTable(facts, cross(by)).rows.length;
  note(`the same by ${by} (${size} values)`, ms(await crossTimes(cross(by))), '15 ms for 300 values');
}
const narrowed = cross('country', {
  narrowing: { dimensions: { workerType: [facts.columns.thingsOf('list_entry').ids[0] as number] } },
});
note('the first, narrowed by worker type', ms(await crossTimes(narrowed)), '');
const rollUpTime = median(await timed(9, () => dayRollUp(facts, day('2026-11-23'), { withPay: true })));
const sqlRollUp = median(await timed(3, () => many(owner, rollUpBySql('2026-11-23'))));
note(
  'roll-ups of all units with occupancy, span and pay, in core',
  ms(rollUpTime),
  '',
  `SQL, headcount and FTE alone ${times(sqlRollUp, rollUpTime)}`,
);

// over HTTP, as the administrator
const [one, two] = [await startServer('demo', { url }), await startServer('demo', { url })];
const [client, other] = [await asDemo(one.address, 'admin'), await asDemo(two.address, 'admin')];
const asked = { measure: 'turnover', by: 'country', from: '2023-11', until: '2026-10' } as const;
await client.call(endpoints.crossTable, { query: asked });
await other.call(endpoints.crossTable, { query: asked });
const bytes = async (path: string): Promise<string> =>
  (await fetch(`${one.address}${path}`, { headers: { cookie: client.cookie } })).text();
const http = async (runs: number, path: (i: number) => string) => {
  await timed(3, (i) => bytes(path(i)));
  return timed(runs, (i) => bytes(path(i)));
};
const search = (query: object) => new URLSearchParams(query as Record<string, string>).toString();
// other months each time, so that no answer is one that was kept
const month = (at: number) => `${Math.floor(at / 12)}-${String((at % 12) + 1).padStart(2, '0')}`;
const shifted = (i: number) => ({
  ...asked,
  from: month(2023 * 12 + 10 - i),
  until: month(2026 * 12 + 9 - i),
});
const crossed = await http(15, (i) => `/api/cross-table?${search(shifted(i + 1))}`);
note('cross table over HTTP', ms(median(crossed)), '60 ms');
const { rows } = await client.call(endpoints.crossTable, { query: asked });
const cell = { ...asked, key: String(rows[0]?.key), month: '2026-10' };
note(
  'opening a figure (why) over HTTP',
  ms(
    median(
      await http(15, (i) => `/api/cross-table/why?${search({ ...cell, month: month(2026 * 12 + 9 - i) })}`),
    ),
  ),
  '60 ms',
);
const words = ['anna', 'lind', 'jukka', 'sen', 'maria h'];
const days = ['2019-06-30', '2024-02-29', '2026-11-23', '2027-03-01'];
const page = (i: number) => ({ on: days[i % 4], search: words[i % 5], limit: 50, offset: (i % 3) * 50 });
const lists = await http(40, (i) => `/api/people?${search(page(i))}`);
const sqlPage = { search: 'anna', status: 'here', limit: 50, offset: 0 } as const;
const sqlList = median(
  await timed(3, () => many(owner, directoryBySql(client.viewer!, sqlPage, '2024-02-29'))),
);
note(
  'directory page with search on any day, HTTP, p95',
  ms(p95(lists)),
  '40 ms',
  `SQL ${times(sqlList, median(lists))} as the median of ${ms(median(lists))}`,
);
const whole = await http(20, (i) => `/api/people?${search({ on: days[i % 4], limit: 50 })}`);
note('the same without search', ms(p95(whole)), '40 ms');
// every day another one, so that nothing is kept of it; then the same days again
const firstOf = (i: number) => `20${16 + Math.floor(i / 3)}-0${2 + (i % 3) * 3}-15`;
const outline = (i: number, folding: object) => `/api/outline?${search({ on: firstOf(i), ...folding })}`;
const fresh = await timed(9, (i) => bytes(outline(i + 6, { levels: 2 })));
note(
  'outline as it opens, all rolled up, on a day not looked at before, HTTP',
  ms(median(fresh)),
  '60 ms',
  `SQL, headcount and FTE alone ${times(sqlRollUp, median(fresh))}`,
);
const opened = await client.call(endpoints.outline, { query: { on: firstOf(14) as Day, levels: 2 } });
const units = opened.units.filter(({ depth, hasBelow }) => depth === 1 && hasBelow);
const unfolded = await timed(6, (i) => bytes(outline(14, { levels: 2, turned: units[i]?.id })));
note('a unit unfolded on a day just looked at', ms(median(unfolded)), '60 ms');
const everyLine = await timed(5, (i) => bytes(outline(i + 15, {})));
note('every line of a day not looked at before', ms(median(everyLine)), '60 ms for what is shown');
const ids = await many<{ id: number }>(
  owner,
  sql`select person_id as id from employment_version where superseded_by is null order by person_id % 997, person_id limit 60`,
);
const records = await http(60, (i) => `/api/people/${ids[i]?.id}`);
note('a person’s record with history, HTTP, p95', ms(p95(records)), '25 ms', `median ${ms(median(records))}`);

// movements
const free = await client.call(endpoints.positions, { query: { free: 'yes', on: '2026-12-01' as Day } });
const vacant = free.positions.filter(({ mark }) => mark === 'vacant').map(({ id }) => id);
let next = 0;
// a refusal is quick and no hire: those are counted, and only hires make the rate
const refusals = new Map<string, number>();
const hire = async (by: Client): Promise<boolean> => {
  const n = next++;
  const input = {
    person: newcomer(`Bench${n}`),
    positionId: vacant[n],
    firstDay: '2026-12-01',
    pay: [],
    reasonId: null,
  };
  try {
    await by.call(endpoints.move, { body: { kind: 'hire', input: input as unknown as HireInput } });
    return true;
  } catch (error) {
    const code = (error as { codes?: string[] }).codes?.[0] ?? String(error);
    refusals.set(code, (refusals.get(code) ?? 0) + 1);
    return false;
  }
};
const refused = (): string =>
  refusals.size === 0
    ? 'none refused'
    : `refused: ${[...refusals].map(([code, n]) => `${n} ${code}`).join(', ')}`;
await timed(5, () => hire(client));
const alone = await timed(40, () => hire(client));
note(
  'a hire: check, lock, record, journal, commit, HTTP, p95',
  ms(p95(alone)),
  '30 ms',
  `median ${ms(median(alone))}, ${refused()}`,
);
refusals.clear();
let hired = 0;
const before = { ...counted };
const began = performance.now();
const EACH = 6;
await Promise.all(
  Array.from({ length: 8 }, async () => {
    for (let i = 0; i < EACH; i++) if (await hire(client)) hired += 1;
  }),
);
const [acts, decisions] = [counted.acts - before.acts, counted.decisions - before.decisions];
const rate = (hired * 1000) / (performance.now() - began);
note(
  'hires with 8 at once',
  `${rate.toFixed(0)} a second`,
  '300 a second',
  `${(decisions / Math.max(acts, 1)).toFixed(2)} decisions a hire; ${refused()}`,
);

// how soon an entry is seen
const total = async (by: Client) =>
  (await by.call(endpoints.people, { query: { on: '2026-12-01' as Day, limit: 1 } })).total;
const seenBy = async (reader: Client) => {
  const before = await total(reader);
  await hire(client);
  const start = performance.now();
  while ((await total(reader)) <= before && performance.now() - start < 5000);
  return performance.now() - start;
};
const seen = async (reader: Client) => {
  const waits: number[] = [];
  for (let i = 0; i < 5; i++) waits.push(await seenBy(reader));
  return median(waits.sort((a, b) => a - b));
};
note('an entry in the directory of the same server, with the reading', ms(await seen(client)), 'at once');
note('of another server process, with the reading', ms(await seen(other)), '250 ms');

await benchFields(facts, client, owner, note);
await benchImports(client, owner, note);
await benchTakeOut(client, note);
await benchRoundTrip(client, note);

const counts = facts.columns;
const about = ['person', 'placement', 'position', 'unit', 'job']
  .map((name) => `${counts.table(name as 'person').size} versions of ${name}`)
  .join(', ');
const memory = Math.round(process.memoryUsage().rss / 1e6);
writeFileSync(
  'bench/results.md',
  `# Benchmarks\n\nMade by \`npm run bench\` over the scale set (${about}) on ${cpus().length} cores of ${cpus()[0]?.model.trim()}, Node ${process.versions.node}. Medians of several runs in one process unless said otherwise; machines are noisy, so read the ratio beside the yardstick. *Share*: how much of the processor time that was asked for meanwhile (yardstick included) the machine got; the rest went to others on the same hardware, and what was measured took longer by as much.\n\n${asTable(lines)}\n\nThe process with three copies of the register in memory took ${memory} MB.\n\n${readFileSync('bench/notes.md', 'utf8')}`,
);
await one.close();
await two.close();
await pool.end();
await owner.end();
stop();
process.exit(0);
