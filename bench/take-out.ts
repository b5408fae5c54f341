// Fifty thousand rows of twenty columns taken out as a workbook, beside the writer of workbooks alone: `npx tsx bench/take-out.ts`, or as
// part of `npm run bench`.
import { rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { type ViewDefinition, endpoints } from '@gremium/contract';
import excel from 'exceljs';
import { type Client, asDemo, settled, startServer, takeOut, upload } from '../server/test/harness';
import { TWENTY } from './fields';
import type { Note } from './imports';
import { ms } from './measure';
import { scaleSet } from './scale-set';

const ROWS = 50_000;
const view: ViewDefinition = {
  subject: 'person_name',
  columns: TWENTY.map((field) => ({ field })),
  condition: 'employment.status in ["at_work", "away"]',
  order: [],
  groups: [],
};

/** The greatest resident memory of this process while something is done, above what it was before, in MB. */
const grown = async (work: () => Promise<unknown>): Promise<{ took: number; mb: number }> => {
  globalThis.gc?.();
  const before = process.memoryUsage().rss;
  let most = before;
  const looking = setInterval(() => (most = Math.max(most, process.memoryUsage().rss)), 50);
  const began = performance.now();
  await work();
  clearInterval(looking);
  return { took: performance.now() - began, mb: Math.round((most - before) / 1e6) };
};

const bareWriter = async (): Promise<void> => {
  const file = path.join(os.tmpdir(), `gremium-bench-${process.pid}.xlsx`);
  const book = new excel.stream.xlsx.WorkbookWriter({ filename: file });
  const sheet = book.addWorksheet('People');
  for (let i = 0; i < ROWS; i++)
    sheet
      .addRow(Array.from({ length: 20 }, (_, c) => (c % 4 === 0 ? i * c : `Cell ${c} of ${i % 900}`)))
      .commit();
  sheet.commit();
  await book.commit();
  rmSync(file);
};

/** Takes a view out over HTTP, waits and fetches it. */
export const benchTakeOut = async (client: Client, note: Note): Promise<void> => {
  const take = (format: 'csv' | 'xlsx') =>
    takeOut(client, { title: 'People', parts: [{ title: 'People', view, layout: 'view' }], format });
  const first = await take('csv');
  const rows = first.line.rows ?? 0;
  for (const format of ['xlsx', 'csv'] as const) {
    const out = await grown(() => take(format));
    const bare = format === 'xlsx' ? await grown(bareWriter) : null;
    note(
      `${rows} rows × 20 columns taken out as ${format.toUpperCase()}, asked for and fetched`,
      `${ms(out.took)}, ${out.mb} MB`,
      format === 'xlsx' ? '10 s, 250 MB at 50,000' : '',
      bare ? `${ms(bare.took)}, ${bare.mb} MB: ${ROWS} rows by the writer alone` : '',
    );
  }
};

/** Contacts taken out in import layout, all of them changed, and taken in: read, matched and checked, then written. */
export const benchRoundTrip = async (client: Client, note: Note): Promise<void> => {
  const contacts: ViewDefinition = {
    ...view,
    subject: 'contact',
    columns: [{ field: 'contact.value' }],
    condition: 'contact.kind == "email"',
  };
  const { content } = await takeOut(client, {
    title: 'Contacts',
    parts: [{ title: 'Contacts', view: contacts, layout: 'import' }],
    format: 'csv',
  });
  const lines = content
    .toString('utf8')
    .split('\n')
    .slice(0, ROWS + 1);
  const changed = lines.map((line, i) => (i === 0 ? line : line.replace('@', `.${i % 7}@`))).join('\n');
  let began = performance.now();
  const { id } = await settled(client, await upload(client, 'contacts.csv', changed, 'contact'), 6000);
  const checked = performance.now() - began;
  began = performance.now();
  await client.call(endpoints.writeImport, { params: { id }, body: { rows: 'good', words: {} } });
  const { counts } = await settled(client, id, 6000);
  const budget = '15 s for people';
  const said = `${counts?.changed} changed, ${counts?.refused} refused`;
  note(
    `${lines.length - 1} contacts taken in, changed: read, matched and checked`,
    ms(checked),
    budget,
    said,
  );
  note('the same written as one entry', ms(performance.now() - began), '60 s for people', '');
};

if (process.argv[1]?.endsWith('take-out.ts')) {
  const { url, stop } = await scaleSet(Number(process.argv[2] ?? 59_000));
  const running = await startServer('demo', { url });
  const client = await asDemo(running.address, 'admin');
  await benchTakeOut(client, (what, measured, budget, beside) =>
    console.log([what, measured, `(${budget})`, beside].filter(Boolean).join('  ')),
  );
  await benchRoundTrip(client, (what, measured, budget, beside) =>
    console.log([what, measured, `(${budget})`, beside].filter(Boolean).join('  ')),
  );
  await running.close();
  await stop();
}
