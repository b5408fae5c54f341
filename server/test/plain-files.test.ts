// Files about every plain subject over HTTP: taken out in import layout, taken in unchanged, one cell changed, undone.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import {
  type ImportOut,
  type PlainColumn,
  type SectionName,
  type ViewDefinition,
  endpoints,
  notPlain,
  plainColumns,
  plainSubjects,
  preset,
  presetNames,
} from '@gremium/contract';
import { parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';
import excel from 'exceljs';
import {
  type Client,
  type Running,
  asDemo,
  believed,
  one,
  settled,
  sql,
  startServer,
  takeOut,
  upload,
} from './harness';

let running: Running;
let admin: Client;
let fleet: Client;
beforeAll(async () => {
  running = await startServer('demo');
  [admin, fleet] = await Promise.all([asDemo(running.address, 'admin'), asDemo(running.address, 'fleet')]);
});
afterAll(() => running.close());

const MOST = 40;
const viewOf = (subject: string, condition = ''): ViewDefinition => ({
  subject: subject as SectionName,
  columns: [{ field: `${subject}.inEffectFrom` }],
  condition,
  order: [],
  groups: [],
});
const takenOut = async (
  client: Client,
  subject: string,
  format: 'csv' | 'xlsx',
  condition = '',
): Promise<Buffer> => {
  const view = viewOf(subject, condition);
  const parts = [{ title: subject, view, layout: 'import' as const }];
  return (await takeOut(client, { title: subject, parts, format })).content;
};
const rowsOf = (content: Buffer): string[][] => parse(content, { bom: true }) as string[][];
const fileOf = (rows: readonly (readonly string[])[]): string => `\ufeff${stringify(rows as string[][])}`;
const takenIn = async (client: Client, subject: string, content: string | Buffer, name = 'file.csv') =>
  settled(client, await upload(client, name, content, subject));
const countsOf = ({ counts }: ImportOut) =>
  counts && [counts.new, counts.changed, counts.same, counts.refused];
const written = async (client: Client, id: number, rows: 'all' | 'good' = 'all') => {
  await client.call(endpoints.writeImport, { params: { id }, body: { rows } });
  return settled(client, id);
};
const refusals = async (client: Client, { id }: ImportOut) =>
  (
    await client.call(endpoints.importRows, { params: { id }, query: { status: 'refused', limit: 5 } })
  ).rows.map(({ row, faults }) => [row, ...faults.map(({ field, problem }) => `${field} ${problem.code}`)]);

// A text of a column that can be changed in any row without breaking a law.
const changeable = (column: PlainColumn): boolean =>
  column.is === 'field' &&
  (column.part === 'en' ||
    (column.meta?.is === 'text' &&
      ['name', 'title', 'value', 'preferred', 'given', 'about', 'city'].includes(column.field ?? '')));
const changedText = (text: string): string => (text.includes('@') ? `x${text}` : `${text} X`);

describe('each plain subject', () => {
  test('all sections are plain, or it is said why not', () => {
    const others = presetNames.filter((name) => !plainSubjects(preset).includes(name));
    expect(others.map((name) => [name, notPlain(name)])).toEqual([
      ['own_section', 'definition'],
      ['own_field', 'definition'],
      ['person', 'people_file'],
      ['person_photo', 'picture'],
      ['employment', 'people_file'],
      ['contract', 'people_file'],
      ['placement', 'movement'],
    ]);
  });

  test.each(plainSubjects(preset))(
    '%s: taken out and in unchanged all is the same; one cell changed, one row; undone, as before',
    async (subject) => {
      const all = rowsOf(await takenOut(admin, subject, 'csv'));
      const [heads = [], ...found] = all;
      const rows = found.slice(0, MOST);
      expect(heads).toHaveLength(plainColumns(preset.section(subject)).length);
      if (rows.length === 0) return;
      const before = await believed(running);
      const same = await takenIn(admin, subject, fileOf([heads, ...rows]));
      expect([subject, countsOf(same), await refusals(admin, same)]).toEqual([
        subject,
        [0, 0, rows.length, 0],
        [],
      ]);
      const columns = plainColumns(preset.section(subject));
      const at = columns.findIndex(changeable);
      if (at < 0) return;
      const changed = rows.map((cells, i) =>
        i === 1 || rows.length === 1 ? cells.map((cell, c) => (c === at ? changedText(cell) : cell)) : cells,
      );
      const one = await takenIn(admin, subject, fileOf([heads, ...changed]));
      expect([subject, countsOf(one), await refusals(admin, one)]).toEqual([
        subject,
        [0, 1, rows.length - 1, 0],
        [],
      ]);
      const done = await written(admin, one.id);
      expect([subject, done.state]).toEqual([subject, 'written']);
      expect(await believed(running)).not.toEqual(before);
      const number = done.entry as number;
      const plan = await admin.call(endpoints.planUndo, { params: { number } });
      await admin.call(endpoints.undo, {
        params: { number },
        body: { plan: plan.entries.map((entry) => entry.number) },
      });
      expect(await believed(running)).toEqual(before);
    },
    120_000,
  );

  test('as a workbook, with formula-like texts that come back the same', async () => {
    const [kiel] = rowsOf(await takenOut(admin, 'location', 'csv')).filter((cells) => cells.includes('Kiel'));
    expect(kiel).toBeDefined();
    const heads = rowsOf(await takenOut(admin, 'location', 'csv'))[0] as string[];
    const at = plainColumns(preset.section('location')).findIndex(({ name }) => name === 'city');
    const put = (kiel as string[]).map((cell, i) => (i === at ? "'=1+1" : cell));
    const first = await takenIn(admin, 'location', fileOf([heads, put]));
    await written(admin, first.id);
    const { city } = await one<{ city: string }>(
      running.owner,
      sql`select city from location_version where location_id = ${Number(put[0])} and superseded_by is null
        order by valid_from desc limit 1`,
    );
    expect(city).toBe('=1+1');
    const book = new excel.Workbook();
    const content = await takenOut(admin, 'location', 'xlsx');
    await book.xlsx.load(new Uint8Array(content).buffer as never);
    const sheet = book.worksheets[0]!;
    const cities = (sheet.getSheetValues().slice(1) as unknown[][]).map((row) => row[at + 1]);
    expect(cities).toContain('=1+1');
    const same = await takenIn(admin, 'location', content, 'locations.xlsx');
    expect(countsOf(same)?.slice(0, 2)).toEqual([0, 0]);
    expect(
      countsOf(await takenIn(admin, 'location', await takenOut(admin, 'location', 'csv')))?.slice(0, 2),
    ).toEqual([0, 0]);
  }, 60_000);
});

describe('files of other offices', () => {
  test('jobs: one lacks its name, one repeats a code; the rest is written, and the same file again says so', async () => {
    const content = `# Jobs of the pilots' office\ncode;name;title;fte;active\nPLN-A;Pilot;Pilot;1,00;ja\nPLN-B;;Helmsman;1,00;ja\nPLN-C;Stoker;Stoker;0,50;nein\nPLN-A;Pilot two;Pilot;1,00;ja\n`;
    const first = await takenIn(admin, 'job', content, 'jobs.csv');
    expect(countsOf(first)).toEqual([1, 0, 0, 3]);
    expect(await refusals(admin, first)).toEqual([
      [3, 'from thing_twice'],
      [4, 'name value_missing'],
      [6, 'from thing_twice'],
    ]);
    const done = await written(admin, first.id, 'good');
    expect(done.state).toBe('written');
    const { fte, active } = await one<{ fte: number; active: boolean }>(
      running.owner,
      sql`select fte, active from job_version where code = 'PLN-C' and superseded_by is null`,
    );
    expect([fte, active]).toEqual([50, false]);
    const again = await takenIn(admin, 'job', content, 'jobs.csv');
    expect(countsOf(again)).toEqual([0, 0, 1, 3]);
  }, 60_000);

  test('who may not write a subject is not offered it, and is refused; who covers a part writes only there', async () => {
    const { subjects } = await fleet.call(endpoints.importSubjects, {});
    expect(subjects.some(({ name }) => name === 'list_entry')).toBe(
      fleet.viewer!.grants.some(({ sections }) => sections.list_entry === 'edit'),
    );
    const response = await fetch(`${running.address}/api/imports?name=a.csv&subject=nonsense`, {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream', cookie: admin.cookie },
      body: 'a,b\n1,2\n',
    });
    expect(response.status).toBe(422);
    expect(await response.json()).toMatchObject({
      problems: [{ code: 'subject_unknown', field: 'subject' }],
    });
    const [heads = [], ...rows] = rowsOf(await takenOut(admin, 'unit', 'csv'));
    const at = plainColumns(preset.section('unit')).findIndex(({ name }) => name === 'name');
    const outside = rows.find((cells) => cells[at] === 'Tallinn Harbour') as string[];
    const put = outside.map((cell, i) => (i === at ? 'Taken over' : cell));
    const tried = await takenIn(fleet, 'unit', fileOf([heads, put]));
    expect(countsOf(tried)?.[3]).toBe(1);
  }, 60_000);
});
