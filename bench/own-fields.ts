// npx tsx bench/own-fields.ts [PEOPLE]: own fields of many people. Ten own sections of twenty fields each, a row of each for
// everybody; the list of people as a table with five of them as columns and two in its condition, over HTTP, as the list asks.
import {
  type OwnField,
  type SectionName,
  type ViewDefinition,
  endpoints,
  ownFieldName,
  ownName,
} from '@gremium/contract';
import { asDemo, many, one, startServer, sql } from '../server/test/harness';
import { median, ms, timed } from './measure';
import { scaleSet } from './scale-set';

const SECTIONS = 10;
const FIELDS = 20;
const KINDS: OwnField['kind'][] = ['text', 'number', 'day', 'yes_no', 'long_text'];

const { url, stop } = await scaleSet(Number(process.argv[2] ?? 59_000));
const running = await startServer('demo', { url });
const admin = await asDemo(running.address, 'admin');
const memory = () => Math.round(process.memoryUsage().rss / 2 ** 20);
const before = memory();

const made: { section: number; fields: { id: number; kind: OwnField['kind'] }[] }[] = [];
const make = async (kind: 'own_section' | 'own_field', values: object): Promise<number> =>
  (
    await admin.call(endpoints.createRecord, {
      params: { kind },
      body: { from: '-infinity', sections: { [kind]: values } } as never,
    })
  ).id;
for (let s = 0; s < SECTIONS; s++) {
  const label = { en: `Section ${s}`, de: `Abschnitt ${s}` };
  const section = await make('own_section', {
    ...{ code: `S${s}`, label, of: 'person', several: false, sensitive: false, place: s },
  });
  const fields = [];
  for (let f = 0; f < FIELDS; f++) {
    const kind = KINDS[f % KINDS.length] as OwnField['kind'];
    const named = { en: `Field ${s}.${f}`, de: `Feld ${s}.${f}` };
    const values = { sectionId: section, code: `F${s}-${f}`, label: named, kind, required: false, place: f };
    fields.push({ id: await make('own_field', values), kind });
  }
  made.push({ section, fields });
}
// the rows go in past the journal: only what reading costs is measured
const { people } = await one<{ people: number }>(
  running.owner,
  sql`select count(distinct person_id)::int as people from person_name_version where superseded_by is null`,
);
const valueOf: Record<string, string> = {
  text: `'B-' || p.n % 5000`,
  number: `(p.n % 1000)::text`,
  day: `(date '2020-01-01' + (p.n % 2000)::int)::text`,
  yes_no: `p.n % 3 = 0`,
  long_text: `'remark number ' || p.n % 20000`,
};
for (const { section, fields } of made) {
  const values = fields.map(({ id, kind }) => `'${ownFieldName(id)}', ${valueOf[kind]}`).join(', ');
  await running.owner.query(`
    with p as (
      select person_id, row_number() over (order by person_id) as n, ${4e12 + section * 1e7} + row_number() over (order by person_id) * 2 as thing,
        ${4e12 + section * 1e7} + row_number() over (order by person_id) * 2 + 1 as row
      from (select distinct person_id from person_name_version where superseded_by is null) d
    ), things as (insert into own_row (id) select thing from p)
    insert into own_version (id, lineage, own_row_id, valid_from, valid_until, recorded_by, section_id, owner_id, "values")
    select p.row, p.row, p.thing, '-infinity', 'infinity', (select max(id) from entry), ${section}, p.person_id,
      jsonb_build_object(${values})
    from p`);
}
await running.owner.query('analyze own_version');
const { bytes } = await one<{ bytes: string }>(
  running.owner,
  sql`select pg_size_pretty(pg_total_relation_size('own_version')) as bytes`,
);
console.log(
  `${people} people, ${SECTIONS * FIELDS} own fields, ${people * SECTIONS} rows: ${bytes} in the database`,
);

const idOf = (s: number, f: number) => `${ownName(made[s]!.section)}.${ownFieldName(made[s]!.fields[f]!.id)}`;
const written = (s: number, f: number) => idOf(s, f).replace('own.', 'own.s');
const columns = [idOf(0, 0), idOf(0, 1), idOf(1, 2), idOf(2, 3), idOf(2, 0)];
const view = (bound: number): ViewDefinition => ({
  subject: 'person_name' as SectionName,
  columns: [
    { field: 'person_name.listed' },
    ...columns.map((field) => ({ field, several: 'latest' as const })),
  ],
  condition: `${written(0, 1)} > ${bound} && ${written(1, 3)} == true`,
  order: [{ field: 'person_name.listed', down: false }],
  groups: [],
});
const page = async (i: number) =>
  admin.patiently(
    endpoints.runReport,
    { body: { view: view(100 + i), language: 'en', limit: 100, offset: 0 } as never },
    20,
  );
// the register itself is loaded before
await admin.patiently(endpoints.people, { query: { limit: 5 } }, 20);
const loaded = memory();
const cold = await timed(1, () => page(0));
const found = await page(1);
const counted = await many<{ count: number }>(
  running.owner,
  sql`select count(*)::int as count from own_version a join own_version b on b.owner_id = a.owner_id and b.section_id = ${made[1]!.section}
    where a.section_id = ${made[0]!.section} and (a."values" ->> ${ownFieldName(made[0]!.fields[1]!.id)})::numeric > 101
      and (b."values" ->> ${ownFieldName(made[1]!.fields[3]!.id)})::boolean
      and exists (select from person_name_version n where n.person_id = a.owner_id and n.superseded_by is null
        and n.valid_from <= '2026-11-23' and n.valid_until > '2026-11-23')`,
);
const warm = await timed(15, (i) => page(i + 2));
console.log(
  `first time, three sections loaded: ${ms(cold[0] as number)}; memory ${before} MB at the start, ${loaded} MB with the register, ${memory()} MB with them`,
);
console.log(
  `two own conditions, five own columns, by name, first page and total: ${ms(median(warm))} (budget 500 ms)`,
);
console.log(`matched ${found.matched}, by SQL ${counted[0]?.count}`);
const values = await timed(3, () => admin.call(endpoints.ownValues, { query: {} }));
console.log(`values, missing and twice of all own fields: ${ms(median(values))}`);
await running.close();
stop();
process.exit(0);
