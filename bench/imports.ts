// Taking in 50,000 people: read, matched and checked, then written as one entry, by a server and its worker over HTTP.
import { readFileSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { endpoints, presetNames } from '@gremium/contract';
import { many, one, sql } from '@gremium/server';
import excel from 'exceljs';
import type { Pool } from 'pg';
import { limits } from '../server/src/files/limits';
import { readFile } from '../server/src/files/read-file';
import { type Client, settled, upload } from '../server/test/harness';
import { ms, watchShare } from './measure';

const ROWS = 50_000;
const HEADINGS =
  'Given name,Family name,Email,Phone,Birth date,Gender,Nationality,First day,Unit,Job,Worker type,Legal entity,Location,Hours a week,Contract,Pay,Currency,Reason,Seniority date,Language';

const since = (began: number): number => performance.now() - began;

type Cells = (string | number | Date)[];

const workbook = async (headings: readonly string[], rows: Iterable<Cells>): Promise<Buffer> => {
  const file = path.join(os.tmpdir(), `gremium-bench-${process.pid}.xlsx`);
  const book = new excel.stream.xlsx.WorkbookWriter({ filename: file });
  const sheet = book.addWorksheet('People');
  sheet.addRow(headings).commit();
  for (const row of rows) sheet.addRow(row).commit();
  sheet.commit();
  await book.commit();
  const content = readFileSync(file);
  rmSync(file);
  return content;
};

/** New people with 20 columns, hired into a unit whose hires need no position. */
const newcomers = function* (unit: string): Generator<Cells> {
  for (let i = 0; i < ROWS; i++) {
    const born = new Date(Date.UTC(1970 + (i % 30), i % 12, 1 + (i % 28)));
    const firstDay = new Date(Date.UTC(2027, 0, 1 + (i % 28)));
    const person = [`Given${i % 977}`, `Family${i}`, `p${i}@bench.example`, `+358 40 ${100000 + i}`, born];
    const terms = ['', '', 37.5, 'Permanent', 2000 + (i % 100), 'EUR', 'Filling a vacancy', '', 'en'];
    yield [
      ...person,
      i % 2 ? 'female' : 'male',
      'FI',
      firstDay,
      unit,
      'Cabin Attendant',
      'Employee',
      ...terms,
    ];
  }
};

export type Note = (
  what: string,
  measured: string,
  budget: string,
  yardstick?: string,
  share?: number,
) => void;

export const benchImports = async (client: Client, owner: Pool, note: Note): Promise<void> => {
  // new pay for all who work then; a new phone number for as many others as are missing to the rows
  const known = await many<{ number: string; works: boolean }>(
    owner,
    sql`select p.number, exists (
        select from employment_version e
        where e.person_id = p.person_id and e.superseded_by is null
          and e.valid_from <= '2026-12-01' and '2027-02-01' < e.valid_until) as works
      from person_version p
      where p.superseded_by is null and p.valid_until = 'infinity'
      order by works desc, p.number
      limit ${ROWS}`,
  );
  const round = known.map(({ number, works }, i): Cells => {
    const phone = works ? '' : `+358 9 ${100000 + i}`;
    return [number, works ? 2000.5 + (i % 997) : '', new Date(Date.UTC(2027, 0, 1)), phone];
  });
  const raises = await workbook(['Person number', 'Pay', 'In effect from', 'Phone'], round);
  await takeIn({ client, owner, note }, 'people known, new pay', raises);
  const { code } = await one<{ code: string }>(
    owner,
    sql`select code from unit_version
      where superseded_by is null and hires_need_position = false and valid_until = 'infinity' and name like 'Cabins%'
      order by unit_id limit 1`,
  );
  await takeIn(
    { client, owner, note },
    'new people, 20 columns',
    await workbook(HEADINGS.split(','), newcomers(code)),
  );
};

type Bench = { client: Client; owner: Pool; note: Note };

const takeIn = async ({ client, owner, note }: Bench, what: string, content: Buffer): Promise<void> => {
  let began = performance.now();
  const { rows } = await readFile(content);
  for await (const row of rows) void row;
  const bare = since(began);
  began = performance.now();
  let shareSince = watchShare();
  const id = await upload(client, 'bench.xlsx', content);
  const checked = await settled(client, id, 6000);
  const check = since(began);
  const checkShare = shareSince();
  const { read = 0, new: made = 0, changed = 0 } = checked.counts ?? {};
  if (read < ROWS || made + changed !== read)
    throw new Error(`not all rows are good: ${JSON.stringify(checked)}`);
  note(
    `import of ${ROWS} rows XLSX (${what}): read, match, check, in a worker of ${limits.memory} MB`,
    ms(check),
    '15 s',
    `bare read ${ms(bare)}`,
    checkShare,
  );
  const words = Object.fromEntries(checked.warnings.map(({ problem }) => [problem.code, 'bench']));
  began = performance.now();
  shareSince = watchShare();
  await client.call(endpoints.writeImport, { params: { id }, body: { rows: 'all', words } });
  const { entry, trouble } = await settled(client, id, 6000);
  const write = since(began);
  const writeShare = shareSince();
  if (entry === null) throw new Error(`not written: ${JSON.stringify(trouble)}`);
  const { versions, copy } = await inserted(owner, entry);
  note(
    `writing them as one change (${versions} versions)`,
    ms(write),
    '20 s',
    `inserting the same rows with their constraints ${ms(copy)}`,
    writeShare,
  );
};

// The same rows into tables of the same shape, constraints and indexes included, keys to other tables not.
const inserted = async (owner: Pool, entry: number): Promise<{ versions: number; copy: number }> => {
  let [versions, copy] = [0, 0];
  for (const section of presetNames) {
    const client = await owner.connect();
    await client.query(`create temp table same (like "${section}_version" including all)`);
    const began = performance.now();
    const { rowCount } = await client.query(
      `insert into same select v.* from "${section}_version" v join entry e on e.id = v.recorded_by where e.number = $1`,
      [entry],
    );
    copy += since(began);
    versions += rowCount ?? 0;
    await client.query('drop table same');
    client.release();
  }
  return { versions, copy };
};
