// Views and conditions over the catalogue of fields: `npx tsx bench/fields.ts [PEOPLE]`, or as part of `npm run bench`.
import { type Day, type ViewDefinition, type Viewer, endpoints, preset } from '@gremium/contract';
import { Columns, Facts, Sight, evaluateView } from '@gremium/core';
import { many, ownerPool, serverPool, sql } from '@gremium/server';
import type pg from 'pg';
import { type Client, asDemo, startServer } from '../server/test/harness';
import { loadColumns } from '../server/src/time/load-columns';
import type { Note } from './imports';
import { median, ms, timed } from './measure';
import { scaleSet } from './scale-set';

const ON = '2026-11-23' as Day;
export const TWENTY = [
  'person_name.name person.number person.birthDate person.age employment.status employment.begins employment.tenure',
  'employment.workerTypeId contract.kindId contract.fixedUntil contract.daysLeft placement.share position.title',
  'position.code unit.name unit.path location.name pay.amount pay.currency grade.name',
]
  .join(' ')
  .split(' ');

const everything: Viewer['grants'] = [
  {
    acts: [],
    scope: { type: 'all' },
    sections: Object.fromEntries(preset.names.map((name) => [name, 'view'])) as never,
  },
];

const viewOf = (fields: readonly string[], condition: string, order: string[] = []): ViewDefinition => ({
  subject: 'person_name',
  columns: fields.map((field) => ({ field })),
  condition,
  order: order.map((field) => ({ field, down: false })),
  groups: [],
});

/** Times conditions in core and a view of twenty fields over HTTP, beside SQL that answers the same. */
export const benchFields = async (
  facts: Facts,
  client: Client,
  owner: pg.Pool,
  note: Note,
): Promise<void> => {
  const viewer = { account: 1, email: 'a', name: 'a', language: 'en', personId: null, grants: everything };
  const sight = new Sight(facts, viewer as Viewer, ON);
  const entries = new Map(
    [...facts.columns.all('list_entry')].map(({ thing, values }) => [thing, values.code] as const),
  );
  const labels = {
    labelOf: (_: unknown, id: number) => entries.get(id) ?? String(id),
    codeOf: (_: unknown, id: number) => entries.get(id) ?? String(id),
  };
  const inCore = async (what: string, condition: string, budget: string) => {
    const view = viewOf(['person_name.name'], condition);
    let matched = 0;
    const work = () => {
      matched = evaluateView(facts, sight, { view, on: ON, today: ON, labels }).matched;
    };
    await timed(3, work);
    note(`condition ${what}, in core`, ms(median(await timed(7, work))), budget, `${matched} match`);
  };
  await inCore('on a date of birth', 'person.birthDate > day("1990-01-01")', '150 ms');
  await inCore('on the status', 'employment.status in ["at_work", "away"]', '150 ms');
  await inCore('on the unit over two references', 'unit.code == "HARB"', '150 ms');
  await inCore('on pay, exact decimals', 'pay.amount * 12 > 36000.5', '600 ms');
  // another bound each time, so that no answer is one that was kept
  const firstPage = async (what: string, order: string[], budget: string) => {
    const page = async (i: number) => {
      const bound = `19${70 + (i % 20)}-0${1 + (i % 9)}-01`;
      const view = viewOf(TWENTY, `person.birthDate > day("${bound}")`, order);
      await client.call(endpoints.runReport, { body: { view, language: 'en', limit: 100, offset: 0 } });
    };
    await timed(3, page);
    const found = await timed(9, (i) => page(i + 3));
    const bySql = await timed(3, () =>
      many(
        owner,
        sql`select count(*) over (), n.* from person_name_version n join person_version p on p.person_id = n.person_id
          and p.superseded_by is null and p.valid_from <= ${ON} and p.valid_until > ${ON}
          where n.superseded_by is null and n.valid_from <= ${ON} and n.valid_until > ${ON} and p.birth_date > '1980-01-01'
          order by n.family, n.given limit 100`,
      ),
    );
    note(what, ms(median(found)), budget, `SQL, name and birth alone ${ms(median(bySql))}`);
  };
  await firstPage('view of 20 fields, one condition, first page and total, HTTP', [], '300 ms');
  await firstPage('the same in the order of names', ['person_name.listed'], '300 ms');
};

if (process.argv[1]?.endsWith('fields.ts')) {
  const { url, stop } = await scaleSet(Number(process.argv[2] ?? 59_000));
  const tx = await serverPool(url).connect();
  const facts = new Facts(await loadColumns(tx, new Columns(), null));
  const running = await startServer('demo', { url });
  const note: Note = (what, measured, budget, yardstick = '') =>
    console.log(`${what}: ${measured} (budget ${budget}) ${yardstick}`);
  await benchFields(facts, await asDemo(running.address, 'admin'), ownerPool(url), note);
  await running.close();
  stop();
  process.exit(0);
}
