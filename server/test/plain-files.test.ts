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
import JSZip from 'jszip';
import { freePlaces } from './importing';
import {
  type Client,
  type Running,
  asDemo,
  believed,
  many,
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

const TEXTS = new Set(
  'name title value preferred given about city contactName dependantName issuer bank institution provider notes label'.split(
    ' ',
  ),
);
// A text of a column that can be changed in any row without breaking a law.
const changeable = (column: PlainColumn): boolean =>
  column.is === 'field' &&
  (column.part === 'en' || (column.meta?.is === 'text' && TEXTS.has(column.field ?? '')));
const changedText = (text: string): string => (text.includes('@') ? `x${text}` : `${text} X`);

describe('each plain subject', () => {
  test('all sections are plain, or it is said why not', () => {
    const others = presetNames.filter((name) => !plainSubjects(preset).includes(name));
    expect(others.map((name) => [name, notPlain(name)])).toEqual([
      ['own_section', 'definition'],
      ['own_field', 'definition'],
      ['field_setting', 'definition'],
      ['role', 'definition'],
      ['person', 'people_file'],
      ['person_photo', 'picture'],
      ['employment', 'people_file'],
      ['contract', 'people_file'],
      ['placement', 'movement'],
      ['document', 'file'],
      ['confidential_document', 'file'],
      ['declared_fact', 'by_oneself'],
    ]);
  });

  // All of them go as one import of many files: what each is about its headings say.
  const zipped = async (files: ReadonlyMap<string, string[][]>): Promise<ImportOut> => {
    const zip = new JSZip();
    for (const [name, rows] of files) zip.file(`${name}.csv`, fileOf(rows));
    const content = await zip.generateAsync({ type: 'nodebuffer' });
    return settled(admin, await upload(admin, 'all.zip', content, 'any'), 3000);
  };
  const partsOf = async (found: ImportOut) =>
    new Map(
      await Promise.all(
        found.parts.map(
          async (part) =>
            [
              part.fileName.replace('.csv', ''),
              [part.subject, countsOf(part as never), await refusals(admin, part as never)],
            ] as const,
        ),
      ),
    );

  test('each taken out and in unchanged is the same; one cell changed in each, one row of each; undone, as before', async () => {
    const subjects = plainSubjects(preset);
    const parts = subjects.map((name) => ({ title: name, view: viewOf(name), layout: 'import' as const }));
    const { content } = await takeOut(admin, { title: 'All', parts, format: 'csv' });
    const taken = await JSZip.loadAsync(content);
    const files = new Map<string, string[][]>();
    const empty: string[] = [];
    for (const name of subjects) {
      const [heads = [], ...found] = rowsOf(
        Buffer.from(await (taken.file(`${name}.csv`) as JSZip.JSZipObject).async('uint8array')),
      );
      expect([name, heads.length]).toEqual([name, plainColumns(preset.section(name)).length]);
      if (found.length === 0) empty.push(name);
      else files.set(name, [heads, ...found.slice(0, MOST)]);
    }
    // the demo has some of everything else today
    expect(empty).toEqual(['unit_hiring']);
    const before = await believed(running);
    const same = await zipped(files);
    const rows = (name: string) => (files.get(name)?.length ?? 1) - 1;
    expect(same.trouble).toEqual([]);
    expect(await partsOf(same)).toEqual(
      new Map([...files.keys()].map((name) => [name, [name, [0, 0, rows(name), 0], []]])),
    );
    const changes = new Map<string, string[][]>();
    for (const [name, [heads = [], ...lines]] of files) {
      const at = plainColumns(preset.section(name)).findIndex(changeable);
      if (at < 0) continue;
      const changed = lines.map((cells, i) =>
        i === 1 || lines.length === 1 ? cells.map((cell, c) => (c === at ? changedText(cell) : cell)) : cells,
      );
      changes.set(name, [heads, ...changed]);
    }
    expect(changes.size).toBeGreaterThan(25);
    const once = await zipped(changes);
    expect(await partsOf(once)).toEqual(
      new Map([...changes.keys()].map((name) => [name, [name, [0, 1, rows(name) - 1, 0], []]])),
    );
    const done = await written(admin, once.id);
    expect([done.trouble, done.state]).toEqual([[], 'written']);
    expect(await believed(running)).not.toEqual(before);
    const number = done.entry as number;
    const plan = await admin.patiently(endpoints.planUndo, { params: { number } });
    await admin.call(endpoints.undo, {
      params: { number },
      body: { plan: plan.entries.map((entry) => entry.number) },
    });
    expect(await believed(running)).toEqual(before);
  }, 700_000);

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
  });
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
  });

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
  });
});

describe('the mess of real life', () => {
  const bookOf = async (rows: unknown[][], date1904 = false): Promise<Buffer> => {
    const book = new excel.Workbook();
    book.properties.date1904 = date1904;
    const sheet = book.addWorksheet('1');
    for (const row of rows) sheet.addRow(row);
    return Buffer.from(await book.xlsx.writeBuffer());
  };

  test('a day that a workbook shows as a number is that day, counted from 1900 or 1904', async () => {
    const rows = [
      ['code', 'name', 'title', 'fte', 'from'],
      ['SER-1', 'Serial', 'Serial', 1, 46388],
    ];
    for (const [is1904, wanted] of [
      [false, '2027-01-01'],
      [true, '2031-01-02'],
    ] as const) {
      const found = await takenIn(admin, 'job', await bookOf(rows, is1904), 'jobs.xlsx');
      const [row] = (
        await admin.call(endpoints.importRows, { params: { id: found.id }, query: { status: 'new' } })
      ).rows;
      expect(new Set(row?.changes.map(({ from }) => from))).toEqual(new Set([wanted]));
    }
    // text is text: nobody counts days in a text file
    const text = 'code;name;title;fte;from\nSER-1;Serial;Serial;1;46388\n';
    expect(await refusals(admin, await takenIn(admin, 'job', text))).toEqual([[2, 'from day_unread']]);
  });

  test('a number without its zeros: offered; where both are there, refused naming both; with them, taken', async () => {
    const numbered = (number: string) =>
      upload(admin, 'p.csv', `Person number,Preferred name\n${number},Zero\n`).then((id) =>
        settled(admin, id),
      );
    const faultsOf = async ({ id }: ImportOut) =>
      (await admin.call(endpoints.importRows, { params: { id }, query: { status: 'refused' } })).rows[0]
        ?.faults;
    const places = await freePlaces(running, admin);
    const hire = async (...numbers: string[]) => {
      const lines = numbers.map(
        (number) => `${number},Nil,Nought,nil${number}@file.example,2026-11-23,${places.shift()?.code}`,
      );
      const content = ['number,given,family,email,firstDay,position', ...lines].join('\n');
      const { id } = await takenIn(admin, 'people', content);
      await admin.call(endpoints.arrangeImport, { params: { id }, body: { newNumbers: true } });
      await settled(admin, id);
      return written(admin, id);
    };
    expect((await hire('0985')).state).toBe('written');
    expect(await faultsOf(await numbered('985'))).toMatchObject([
      { field: 'number', problem: { code: 'person_unknown' }, offers: ['0985'] },
    ]);
    expect(countsOf(await numbered('0985'))).toEqual([0, 1, 0, 0]);
    // where new numbers are taken for new people, one like somebody's is none
    const alike = await takenIn(admin, 'people', 'number,given\n985,Nil\n');
    await admin.call(endpoints.arrangeImport, { params: { id: alike.id }, body: { newNumbers: true } });
    expect(await faultsOf(await settled(admin, alike.id))).toMatchObject([{ offers: ['0985'] }]);
    expect((await hire('0986', '986')).state).toBe('written');
    expect(await faultsOf(await numbered('986'))).toMatchObject([
      { problem: { code: 'number_zeros', params: { numbers: '0986, 986' } }, offers: ['0986', '986'] },
    ]);
    expect(countsOf(await numbered('0986'))).toEqual([0, 1, 0, 0]);
  });

  test('an entry that a list lacks may be added to it; a job of another system is known by its id there', async () => {
    const content = 'code;name;title;fte;originId;originCode\nORG-1;Old stoker;Stoker;1;Harbour payroll;77\n';
    const first = await takenIn(admin, 'job', content);
    const [row] = (
      await admin.call(endpoints.importRows, { params: { id: first.id }, query: { status: 'refused' } })
    ).rows;
    expect(row?.faults[0]).toMatchObject({
      field: 'originId',
      problem: { code: 'value_unknown', params: { list: 'origin', text: 'Harbour payroll' } },
    });
    const label = { en: 'Harbour payroll', de: 'Hafenlohn' };
    const values = { list: 'origin', code: 'HPAY', label, flags: {}, meaning: null, place: null };
    await admin.call(endpoints.createRecord, {
      params: { kind: 'list_entry' },
      body: {
        from: '-infinity',
        until: 'infinity',
        sections: { list_entry: { ...values, ownFieldId: null } },
        preview: false,
        words: {},
      } as never,
    });
    await admin.call(endpoints.checkImport, { params: { id: first.id } });
    expect(countsOf(await settled(admin, first.id))).toEqual([1, 0, 0, 0]);
    await written(admin, first.id);
    // called otherwise here by now: its id there says which it is
    const again = 'originId;originCode;name\nHPAY;77;Stoker of old\n';
    const known = await takenIn(admin, 'job', again);
    expect([countsOf(known), await refusals(admin, known)]).toEqual([[0, 1, 0, 0], []]);
    const clash = 'originId;originCode;code;name\nHPAY;77;FITTER;Whose\n';
    expect((await refusals(admin, await takenIn(admin, 'job', clash))).length).toBe(1);
  });

  test('(clear) empties what may be empty, and what is in the register and not in the file is told on request', async () => {
    const { count } = await one<{ count: number }>(
      running.owner,
      sql`select count(*)::int as count from job_version where superseded_by is null and valid_from <= '2026-11-23' and valid_until > '2026-11-23'`,
    );
    const clearing = await takenIn(admin, 'job', 'code;originCode;originId\nORG-1;(clear);(clear)\n');
    expect(countsOf(clearing)).toEqual([0, 1, 0, 0]);
    const { things, total } = await admin.call(endpoints.importMissing, { params: { id: clearing.id } });
    expect([total, things.length]).toEqual([count - 1, Math.min(500, count - 1)]);
    expect(things.some(({ name }) => name === 'Old stoker')).toBe(false);
    const refused = await takenIn(admin, 'job', 'code;name\nORG-1;(clear)\n');
    expect(await refusals(admin, refused)).toEqual([[2, 'name clear_refused']]);
  });

  test('pay of one person, rows in any order: both rows of one day are refused, the one before them runs on', async () => {
    const [paid] = await many<{ number: string; kind: string; currency: string }>(
      running.owner,
      sql`select p.number, k.code as kind, v.currency from pay_version v
        join employment_version e on e.employment_id = v.employment_id and e.superseded_by is null
        join person_version p on p.person_id = e.person_id and p.superseded_by is null
        join list_entry_version k on k.list_entry_id = v.kind_id and k.superseded_by is null
        where v.superseded_by is null and v.valid_until = 'infinity' and v.basis = 'month' and k.code = 'BASE' and e.valid_until = 'infinity'
        order by p.number desc limit 1`,
    );
    const line = (from: string, amount: string) =>
      [paid!.number, paid!.kind, amount, paid!.currency, from].join(';');
    const content = [
      'employmentId;kindId;amount;currency;from',
      line('2027-01-01', '3000'),
      line('2027-03-01', '3100'),
      line('2027-02-01', '3200'),
      line('2027-03-01', '3150'),
    ].join('\n');
    const found = await takenIn(admin, 'pay', content);
    expect(await refusals(admin, found)).toEqual([
      [3, 'from thing_twice'],
      [5, 'from thing_twice'],
    ]);
    const done = await written(admin, found.id, 'good');
    const rows = await many<{ from: string; until: string; amount: string }>(
      running.owner,
      sql`select valid_from::text as from, valid_until::text as until, amount::text from pay_version v
        where superseded_by is null and valid_from >= '2027-01-01' and v.employment_id in
          (select employment_id from employment_version e join person_version p on p.person_id = e.person_id where p.number = ${paid!.number})
        order by valid_from`,
    );
    expect([done.state, rows.map(({ amount, ...row }) => [row.from, row.until, Number(amount)])]).toEqual([
      'written',
      [
        ['2027-01-01', '2027-02-01', 3000],
        ['2027-02-01', 'infinity', 3200],
      ],
    ]);
  });
});
