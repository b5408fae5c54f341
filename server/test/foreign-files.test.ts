// Files from other offices over HTTP: the right sheet and row of headings, whole names split, rows left out, and what an undo
// does to files that wait.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type ImportOut, endpoints } from '@gremium/contract';
import excel from 'exceljs';
import { readFile } from '@gremium/server';
import { foreignWorkbook, oldText } from './foreign-files';
import { type Client, type Running, asDemo, many, settled, sql, startServer, takeIn } from './harness';
import { undoBy } from './moving';
import { codes, freePlaces, rowsOf, write } from './importing';

let running: Running;
let admin: Client;
let places: string[];
beforeAll(async () => {
  running = await startServer('demo');
  admin = await asDemo(running.address, 'admin');
  places = (await freePlaces(running, admin)).map(({ code }) => code);
});
afterAll(() => running.close());

const arrange = async (id: number, body: object): Promise<ImportOut> => {
  await admin.call(endpoints.arrangeImport, { params: { id }, body });
  return settled(admin, id);
};
const leaveOut = async (id: number, rows: number[], leftOut: boolean): Promise<ImportOut> => {
  await admin.call(endpoints.leaveOutRows, { params: { id }, body: { rows, leftOut } });
  return settled(admin, id);
};
const cancel = (id: number) => admin.call(endpoints.cancelImport, { params: { id } });
const one = (id: number) => admin.call(endpoints.import, { params: { id } });

describe('a workbook from another office', () => {
  let file: ImportOut;

  test('is read from the sheet and the row that look like a list of people', async () => {
    const people = ['Jörg van der Möll', 'Lindqvist, Åsa', 'Uta Weiß'].map((name, i) => ({
      name,
      first: `0${i + 1}.02.2027`,
      place: places[i] as string,
      pay: '3.100,50',
    }));
    file = await takeIn(admin, 'Meldung.xlsx', await foreignWorkbook(people));
    expect(file.preview).toMatchObject({ at: 1, headingRow: 3 });
    expect(file.preview?.sheets.map(({ name }) => name)).toEqual(['Deckblatt', 'Neue Leute', 'Notizen']);
    expect(file.preview?.sheets[0]?.rows[1]?.cells).toEqual(['Meldung neuer Leute', 'Stand 12.11.2026']);
    expect(file.preview?.sheets[1]?.rows.map(({ row }) => row)).toEqual([1, 3, 4, 5, 6, 7]);
    expect(file.columns.map(({ field, how }) => [field, how])).toEqual([
      ['wholeName', 'name'],
      ['email', 'name'],
      ['firstDay', 'name'],
      ['position', 'name'],
      ['pay', 'name'],
      [null, null],
      ['given', 'split'],
      ['family', 'split'],
    ]);
  });

  test('its whole names are split, and what is split wrongly can be mended', async () => {
    const rows = await rowsOf(admin, file.id);
    expect(rows.map(({ row, cells }) => [row, cells.at(-2), cells.at(-1)])).toEqual([
      [4, 'Jörg', 'van der Möll'],
      [5, 'Åsa', 'Lindqvist'],
      [6, 'Uta', 'Weiß'],
      [7, '', 'Summe'],
    ]);
    await admin.call(endpoints.repairImport, {
      params: { id: file.id },
      body: { repairs: [{ row: 6, field: 'family', text: 'Weiß-Brandt', alike: false }] },
    });
    file = await settled(admin, file.id);
    // another column chosen: what was mended stays
    const fields = file.columns.map(({ field }) => field);
    file = await arrange(file.id, { columns: fields.with(5, 'phone') });
    expect((await rowsOf(admin, file.id))[2]?.cells.at(-1)).toBe('Weiß-Brandt');
    file = await arrange(file.id, { columns: fields });
  });

  test('its line of totals is refused, left out, put back and left out again', async () => {
    expect(file.counts).toEqual({ read: 4, new: 3, changed: 0, same: 0, refused: 1, left_out: 0 });
    file = await leaveOut(file.id, [7], true);
    expect(file.counts).toEqual({ read: 4, new: 3, changed: 0, same: 0, refused: 0, left_out: 1 });
    expect(file.state).toBe('ready');
    file = await leaveOut(file.id, [7], false);
    expect(file.counts).toMatchObject({ refused: 1, left_out: 0 });
    file = await leaveOut(file.id, [7, 4], true);
    expect(file.counts).toMatchObject({ new: 2, left_out: 2 });
    expect((await rowsOf(admin, file.id, 'left_out')).map(({ row }) => row)).toEqual([4, 7]);
    file = await leaveOut(file.id, [4], false);
  });

  test('is written as one entry: three people, with their parts of names', async () => {
    const written = await write(admin, file.id);
    expect(written).toMatchObject({ state: 'written', counts: { new: 3, left_out: 1 } });
    expect(
      await many(
        running.owner,
        sql`select n.given, n.family from person_name_version n join entry e on e.id = n.recorded_by
          where n.superseded_by is null and e.number = ${written.entry} order by given collate "C"`,
      ),
    ).toEqual([
      { given: 'Jörg', family: 'van der Möll' },
      { given: 'Uta', family: 'Weiß-Brandt' },
      { given: 'Åsa', family: 'Lindqvist' },
    ]);
  });

  test('another sheet and another row of headings are read anew', async () => {
    const people = [{ name: 'Ole Nord', first: '01.02.2027', place: places[4] as string, pay: 3000 }];
    const again = await takeIn(admin, 'Meldung 2.xlsx', await foreignWorkbook(people));
    const cover = await arrange(again.id, { sheet: 0 });
    expect(cover.preview).toMatchObject({ at: 0, headingRow: 2 });
    expect(cover.trouble.map(({ code }) => code)).toEqual(['file_empty']);
    const back = await arrange(again.id, { sheet: 1, headingRow: 1 });
    expect(back.preview).toMatchObject({ at: 1, headingRow: 1 });
    expect(back.columns).toHaveLength(1);
    const right = await arrange(again.id, { sheet: 1, headingRow: 3 });
    expect(right.columns).toHaveLength(8);
    const none = await admin.refusal(endpoints.arrangeImport, {
      params: { id: again.id },
      body: { sheet: 7 },
    });
    expect(none.problems).toMatchObject([{ code: 'value_invalid', field: 'sheet' }]);
    await cancel(again.id);
  });
});

describe('a large workbook', () => {
  test('keeps every letter, wherever its bytes lie; each of many readings succeeds', async () => {
    // letters of two and three bytes, so that chunks of any size end within some of them (the writer breaks those of four)
    const name = (i: number) => `${'ä€ߞß'.repeat(9)}${i}`;
    const book = new excel.Workbook();
    const sheet = book.addWorksheet('Leute');
    sheet.addRow(['Vorname', 'Nachname']);
    for (let i = 0; i < 4000; i++) sheet.addRow([name(i), name(-i)]);
    const content = Buffer.from(await book.xlsx.writeBuffer());
    for (let time = 0; time < 5; time++) {
      const cells: string[][] = [];
      const file = await readFile(content);
      for await (const row of file.rows) cells.push(row.cells);
      expect(cells.length).toBe(4000);
      expect(cells.filter(([a, b], i) => a !== name(i) || b !== name(-i))).toEqual([]);
    }
  });
});

describe('a text from an old program', () => {
  test('Windows-1252, semicolons, a title, quoted line breaks: rows have the numbers a spreadsheet shows', async () => {
    const lines = [
      'Meldung Büro Süd',
      '',
      'Vorname;Nachname;E-Mail;Eintritt;Planstelle',
      `Jürgen;"Groß\nHeim";jg@sued.example;1.2.2027;${places[5]}`,
      `Käthe;Süß;ks@sued.example;31.2.2027;${places[6]}`,
    ];
    const found = await takeIn(admin, 'alt.csv', oldText(lines));
    expect(found.preview).toMatchObject({
      headingRow: 3,
      sheets: [{ rows: [{ row: 1 }, { row: 3 }, {}, {}] }],
    });
    const rows = await rowsOf(admin, found.id);
    expect(rows.map(({ row, cells }) => [row, cells[0], cells[1]])).toEqual([
      [4, 'Jürgen', 'Groß\nHeim'],
      [5, 'Käthe', 'Süß'],
    ]);
    expect(codes(rows[1])).toEqual(['firstDay day_unreal']);
    await cancel(found.id);
  });
});

describe('a file that waits while an entry is undone', () => {
  test('is compared anew: it does not say that what was undone is there', async () => {
    const file = `Vorname;Nachname;E-Mail;Eintritt;Stelle\nIda;Warten;ida@warten.example;01.03.2027;${places[7]}\n`;
    const first = await takeIn(admin, 'erst.csv', file);
    const { entry } = await write(admin, first.id);
    const waiting = await takeIn(admin, 'noch einmal.csv', file);
    expect(waiting.counts).toMatchObject({ new: 0, same: 1 });
    await undoBy(admin, entry as number);
    expect((await settled(admin, waiting.id)).counts).toMatchObject({ new: 1, same: 0 });
    await cancel(waiting.id);
  });
});

describe('what a row changes', () => {
  test('is told old and new, with the day; of somebody new all that is recorded', async () => {
    const [paid] = await many<{ number: string; amount: string; family: string }>(
      running.owner,
      sql`select p.number, trim_scale(pay.amount)::text as amount, n.family from person_version p
        join person_name_version n on n.person_id = p.person_id and n.superseded_by is null and n.valid_until = 'infinity'
        join employment_version e on e.person_id = p.person_id and e.superseded_by is null and e.valid_until = 'infinity'
        join pay_version pay on pay.employment_id = e.employment_id and pay.superseded_by is null
        where p.superseded_by is null and p.valid_until = 'infinity' and pay.valid_until = 'infinity'
          and (select count(*) from pay_version o where o.employment_id = e.employment_id and o.superseded_by is null) = 1
        order by p.number limit 1`,
    );
    const raised = String(Number(paid?.amount) + 100);
    const found = await takeIn(
      admin,
      'raise.csv',
      `Person number;Family name;Pay;From\n${paid?.number};${paid?.family};${raised};2027-03-01\n`,
    );
    const [row] = await rowsOf(admin, found.id, 'changed');
    expect(row?.changes).toMatchObject([
      { section: 'pay', field: 'amount', from: '2027-03-01', was: paid?.amount, is: raised },
    ]);
    await cancel(found.id);
  });

  test('another account can neither leave out rows nor read another sheet', async () => {
    const fleet = await asDemo(running.address, 'fleet');
    const found = await takeIn(admin, 'mine.csv', 'Vorname;Nachname\nEva;Eigen\n');
    const params = { id: found.id };
    for (const refused of [
      await fleet.refusal(endpoints.leaveOutRows, { params, body: { rows: [2], leftOut: true } }),
      await fleet.refusal(endpoints.arrangeImport, { params, body: { headingRow: 2 } }),
    ])
      expect(refused.status).toBeGreaterThanOrEqual(403);
    expect((await one(found.id)).counts).toMatchObject({ left_out: 0 });
    await cancel(found.id);
  });
});
