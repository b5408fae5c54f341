// Taking in 50,000 people: read, matched and checked, then written as one entry, by a server and its worker over HTTP.
import { readFileSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { endpoints, sectionNames } from '@gremium/contract';
import { one, sql } from '@gremium/server';
import excel from 'exceljs';
import type { Pool } from 'pg';
import { limits } from '../server/src/files/limits';
import { readFile } from '../server/src/files/read-file';
import { type Client, settled, upload } from '../server/test/harness';
import { ms } from './measure';

const ROWS = 50_000;
const HEADINGS =
  'Given name,Family name,Email,Phone,Birth date,Gender,Nationality,First day,Unit,Job,Worker type,Legal entity,Location,Hours a week,Contract,Pay,Currency,Reason,Seniority date,Language';

/** A workbook of 50,000 new people with 20 columns, hired into a unit whose hires need no position. */
const workbook = async (unit: string): Promise<Buffer> => {
  const file = path.join(os.tmpdir(), `gremium-bench-${process.pid}.xlsx`);
  const book = new excel.stream.xlsx.WorkbookWriter({ filename: file });
  const sheet = book.addWorksheet('People');
  sheet.addRow(HEADINGS.split(',')).commit();
  for (let i = 0; i < ROWS; i++) {
    const born = new Date(Date.UTC(1970 + (i % 30), i % 12, 1 + (i % 28)));
    const firstDay = new Date(Date.UTC(2027, 0, 1 + (i % 28)));
    const person = [`Given${i % 977}`, `Family${i}`, `p${i}@bench.example`, `+358 40 ${100000 + i}`, born];
    const terms = ['', '', 37.5, 'Permanent', 2000 + (i % 100), 'EUR', 'Filling a vacancy', '', 'en'];
    sheet
      .addRow([
        ...person,
        i % 2 ? 'female' : 'male',
        'FI',
        firstDay,
        unit,
        'Cabin Attendant',
        'Employee',
        ...terms,
      ])
      .commit();
  }
  await book.commit();
  const content = readFileSync(file);
  rmSync(file);
  return content;
};

const since = (began: number): number => performance.now() - began;

export type Note = (what: string, measured: string, budget: string, yardstick?: string) => void;

export const benchImport = async (client: Client, owner: Pool, note: Note): Promise<void> => {
  const { code } = await one<{ code: string }>(
    owner,
    sql`select code from unit_version
      where superseded_by is null and hires_need_position = false and valid_until = 'infinity' and name like 'Cabins%'
      order by unit_id limit 1`,
  );
  const content = await workbook(code);
  let began = performance.now();
  const { rows } = await readFile(content);
  for await (const row of rows) void row;
  const bare = since(began);
  began = performance.now();
  const id = await upload(client, 'bench.xlsx', content);
  const checked = await settled(client, id, 6000);
  const check = since(began);
  if (checked.counts?.new !== ROWS) throw new Error(`not all rows are good: ${JSON.stringify(checked)}`);
  note(
    `import, ${ROWS} rows XLSX: read, match, check, in a worker of ${limits.memory} MB`,
    ms(check),
    '15 s',
    `bare read ${ms(bare)}`,
  );
  const words = Object.fromEntries(checked.warnings.map(({ problem }) => [problem.code, 'bench']));
  began = performance.now();
  await client.call(endpoints.writeImport, { params: { id }, body: { rows: 'all', words } });
  const { entry, trouble } = await settled(client, id, 6000);
  const write = since(began);
  if (entry === null) throw new Error(`not written: ${JSON.stringify(trouble)}`);
  const { versions, copy } = await inserted(owner, entry);
  note(
    `writing them as one change (${versions} versions)`,
    ms(write),
    '20 s',
    `inserting the same rows with their constraints ${ms(copy)}`,
  );
};

// The same rows into tables of the same shape, constraints and indexes included, keys to other tables not.
const inserted = async (owner: Pool, entry: number): Promise<{ versions: number; copy: number }> => {
  let [versions, copy] = [0, 0];
  for (const section of sectionNames) {
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
