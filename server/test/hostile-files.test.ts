// Files made to hurt: refused with words, the server alive, nothing left in the temporary folder.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { createConnection } from 'node:net';
import os from 'node:os';
import path from 'node:path';
import { endpoints } from '@gremium/contract';
import excel from 'exceljs';
import yazl from 'yazl';
import {
  type Client,
  Refused,
  asDemo,
  copyDatabase,
  settled,
  signIn,
  spawnServer,
  takeIn,
  upload,
} from './harness';

let client: Client;
let address: string;
let server: Awaited<ReturnType<typeof spawnServer>>;
let folder: string;
beforeAll(async () => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'gremium-hostile-'));
  server = await spawnServer(await copyDatabase('demo'), {
    TMPDIR: folder,
    GREMIUM_IMPORT_UNPACKED_MB: '100',
    GREMIUM_IMPORT_TEXT_MB: '50',
  });
  address = server.address;
  client = await signIn(address, 'admin@vessmar.example', 'vessmar-demo-only');
});
afterAll(async () => {
  await server.kill();
  rmSync(folder, { recursive: true, force: true });
});

const left = (): string[] => readdirSync(folder).filter((name) => name.startsWith('gremium-import-'));
const isAlive = async () => (await fetch(`${address}/api/health`)).ok && server.child.exitCode === null;

/** What a file is refused with; the server must be alive after it, and its folder as before. */
const refusal = async (name: string, content: string | Buffer): Promise<string[]> => {
  const { trouble } = await settled(client, await upload(client, name, content));
  expect(await isAlive()).toBe(true);
  expect(left()).toEqual([]);
  return trouble.map(({ code }) => code);
};

const zip = (entries: Record<string, string | Buffer>, compress = true): Promise<Buffer> =>
  new Promise((resolve, reject) => {
    const file = new yazl.ZipFile();
    for (const [name, content] of Object.entries(entries))
      file.addBuffer(Buffer.from(content as string), name, { compress });
    file.end();
    const chunks: Buffer[] = [];
    file.outputStream
      .on('data', (chunk: Buffer) => chunks.push(chunk))
      .on('end', () => resolve(Buffer.concat(chunks)))
      .on('error', reject);
  });

/** A workbook of hand-written parts. */
const bookOf = (rows: string, more: Record<string, string | Buffer> = {}): Promise<Buffer> =>
  zip({
    '[Content_Types].xml':
      '<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="xml" ContentType="application/xml"/><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>',
    '_rels/.rels':
      '<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>',
    'xl/_rels/workbook.xml.rels':
      '<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>',
    'xl/workbook.xml':
      '<?xml version="1.0"?><workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="A" sheetId="1" r:id="rId1"/></sheets></workbook>',
    ...more,
    'xl/worksheets/sheet1.xml': `<?xml version="1.0"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>${rows}</sheetData></worksheet>`,
  });

const cell = (at: string, text: string) => `<c r="${at}" t="inlineStr"><is><t>${text}</t></is></c>`;
const HEAD = `<row r="1">${cell('A1', 'Given name')}${cell('B1', 'Family name')}</row>`;

describe('a hostile file', () => {
  test('with a cell of 60 MB in a workbook of 60 KB ends the reading, not the server', async () => {
    const book = await bookOf(
      `${HEAD}<row r="2">${cell('A2', 'x'.repeat(60_000_000))}${cell('B2', 'B')}</row>`,
    );
    expect(book.length).toBeLessThan(200_000);
    const [code] = await refusal('long-cell.xlsx', book);
    expect(['cell_too_long', 'import_memory']).toContain(code);
  });

  test('with a cell just over the limit says the row', async () => {
    const book = await bookOf(`${HEAD}<row r="2">${cell('A2', 'x'.repeat(10_001))}${cell('B2', 'B')}</row>`);
    const { trouble } = await takeIn(client, 'over.xlsx', book);
    expect(trouble).toMatchObject([{ code: 'cell_too_long', params: { row: 2, most: 10_000 } }]);
  });

  test('that unpacks to more than the limit is refused while it is unpacked, and leaves nothing', async () => {
    const row = `<row r="2">${cell('A2', 'A')}</row>`;
    const book = await bookOf(HEAD + row, { 'xl/media/image1.bin': Buffer.alloc(150_000_000) });
    expect(book.length).toBeLessThan(1_500_000);
    expect(await refusal('bomb.xlsx', book)).toEqual(['file_unpacked_too_large']);
  });

  test('whose sheet unpacks to much more than it says is refused, and leaves nothing', async () => {
    const rows = Array.from(
      { length: 30_000 },
      (_, i) => `<row r="${i + 2}">${cell(`A${i + 2}`, 'x'.repeat(6000))}</row>`,
    );
    const book = await bookOf(HEAD + rows.join(''));
    // what it says of its sizes is made small; they are counted all the same
    for (let at = book.indexOf('PK\u0001\u0002'); at >= 0; at = book.indexOf('PK\u0001\u0002', at + 4))
      book.writeUInt32LE(1000, at + 24);
    const codes = await refusal('lying.xlsx', book);
    expect(codes.length).toBe(1);
    expect(['file_unpacked_too_large', 'file_unreadable', 'import_memory']).toContain(codes[0]);
  });

  test('that says one long text in each of a million cells is refused by its letters', async () => {
    const shared = `<?xml version="1.0"?><sst xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" count="1" uniqueCount="1"><si><t>${'y'.repeat(9_000)}</t></si></sst>`;
    const rels =
      '<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="rId2" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/sharedStrings" Target="sharedStrings.xml"/></Relationships>';
    const heads = Array.from({ length: 20 }, (_, i) => cell(`${String.fromCharCode(65 + i)}1`, `H${i}`)).join(
      '',
    );
    const rows = Array.from(
      { length: 3000 },
      (_, r) =>
        `<row r="${r + 2}">${Array.from({ length: 20 }, (__, i) => `<c r="${String.fromCharCode(65 + i)}${r + 2}" t="s"><v>0</v></c>`).join('')}</row>`,
    );
    const book = await bookOf(`<row r="1">${heads}</row>${rows.join('')}`, {
      'xl/sharedStrings.xml': shared,
      'xl/_rels/workbook.xml.rels': rels,
    });
    const codes = await refusal('echo.xlsx', book);
    expect(['file_unpacked_too_large', 'import_memory']).toContain(codes[0]);
  });

  test('with two rows of one number says which', async () => {
    const rows = `<row r="2">${cell('A2', 'A')}${cell('B2', 'A')}</row><row r="2">${cell('A2', 'B')}${cell('B2', 'B')}</row>`;
    const { trouble } = await takeIn(client, 'twice.xlsx', await bookOf(HEAD + rows));
    expect(trouble).toMatchObject([{ code: 'row_twice', params: { row: 2 } }]);
  });

  test.each([
    ['no workbook at all', Buffer.concat([Buffer.from('PK\u0003\u0004'), Buffer.alloc(500, 7)])],
    ['a text with NUL', 'Given name,Family name\nA\u0000B,C'],
    ['entities within entities', null],
    ['a sheet that ends in the midst', null],
  ])('%s is refused with words', async (what, given) => {
    const broken =
      what === 'entities within entities'
        ? await bookOf(
            `<!DOCTYPE lolz [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;">]>${HEAD}<row r="2">${cell('A2', '&b;')}</row>`,
          )
        : await bookOf(`${HEAD}<row r="2"><c r="A2" t="inlineStr"><is><t>cut`);
    const { trouble, counts } = await takeIn(client, 'odd.xlsx', given ?? broken);
    expect(await isAlive()).toBe(true);
    expect(left()).toEqual([]);
    // refused, or read as what can be read of it; never given up in silence
    expect(trouble.length > 0 ? trouble[0]?.code : counts !== null).toBeTruthy();
    expect(trouble.map(({ code }) => code)).not.toContain('import_failed');
  });

  test('a name that begins with an apostrophe and a sign of formulas comes back as it was, by CSV and by workbook', async () => {
    const head = 'Given name,Family name,First day';
    for (const [text, name] of [
      ["''=x", "'=x"],
      ["'=x", '=x'],
      ["'plain", "'plain"],
    ]) {
      const taken = await takeIn(client, 'apostrophe.csv', `${head}\n${text},Sign,2027-01-01`);
      const { rows } = await client.call(endpoints.importRows, { params: { id: taken.id }, query: {} });
      expect(rows[0]?.cells[0]).toBe(name);
      const reply = await client.send(endpoints.importWorkbook, {
        params: { id: taken.id },
        query: { rows: 'all' },
      });
      const again = await takeIn(client, 'again.xlsx', Buffer.from(await reply.arrayBuffer()));
      const back = await client.call(endpoints.importRows, { params: { id: again.id }, query: {} });
      expect(back.rows[0]?.cells[0]).toBe(name);
    }
  });

  test('numbers of a workbook are numbers, texts of it are asked about', async () => {
    const book = new excel.Workbook();
    const sheet = book.addWorksheet('A');
    sheet.addRow(['Given name', 'Family name', 'Pay']);
    sheet.addRow(['A', 'One', 2650.125]);
    sheet.addRow(['B', 'Two', '2.650']);
    const { id } = await takeIn(client, 'pay.xlsx', Buffer.from(await book.xlsx.writeBuffer()));
    const { rows } = await client.call(endpoints.importRows, { params: { id }, query: {} });
    const pay = rows.map(({ faults }) =>
      faults.filter(({ field }) => field === 'pay').map(({ problem, offers }) => [problem.code, ...offers]),
    );
    expect(pay).toEqual([[], [['number_ambiguous', '2.6500', '2650']]]);
  });

  test('that fails again and again is given up with words, and stays so until something of it is another', async () => {
    const { id } = await takeIn(client, 'fails.csv', 'Given name,Family name\nA,B');
    await server.owner(`update import set attempts = 3 where id = ${id}`);
    await client.call(endpoints.checkImport, { params: { id } });
    expect((await settled(client, id)).trouble).toMatchObject([{ code: 'import_failed' }]);
    await client.call(endpoints.checkImport, { params: { id } });
    expect((await settled(client, id)).trouble).toMatchObject([{ code: 'import_failed' }]);
    await client.call(endpoints.arrangeImport, { params: { id }, body: { newNumbers: true } });
    expect((await settled(client, id)).trouble).toEqual([]);
  });
});

describe('the process that reads a file', () => {
  test('ends with the server, also with one that is killed, and takes its folder along', async () => {
    const own = mkdtempSync(path.join(os.tmpdir(), 'gremium-orphan-'));
    const killed = await spawnServer(await copyDatabase('demo'), { TMPDIR: own });
    const admin = await signIn(killed.address, 'admin@vessmar.example', 'vessmar-demo-only');
    const lines = Array.from({ length: 150_000 }, (_, i) => `Given${i},${'F'.repeat(200)}`);
    await upload(admin, 'long.csv', ['Given name,Family name', ...lines].join('\n'));
    const readers = () =>
      spawnSync('pgrep', ['-P', String(killed.child.pid), '-f', 'parse-child'], { encoding: 'utf8' })
        .stdout.split('\n')
        .filter(Boolean);
    for (let tries = 0; readers().length === 0 && tries < 200; tries++)
      await new Promise((resolve) => setTimeout(resolve, 20));
    const [reader] = readers();
    expect(reader).toBeDefined();
    await killed.kill();
    const isGone = () => spawnSync('kill', ['-0', reader!]).status !== 0;
    const kept = () => readdirSync(own).filter((name) => name.startsWith('gremium-import-'));
    for (let tries = 0; !(isGone() && kept().length === 0) && tries < 500; tries++)
      await new Promise((resolve) => setTimeout(resolve, 20));
    expect([isGone(), kept()]).toEqual([true, []]);
    rmSync(own, { recursive: true, force: true });
  });
});

describe('bodies', () => {
  test('of twenty uploads that nobody ends, by nobody, take no memory', async () => {
    const before = server.memory();
    const sockets = await Promise.all(
      Array.from({ length: 20 }, async () => {
        const { port } = new URL(address);
        const socket = createConnection({ host: '127.0.0.1', port: Number(port) });
        socket.on('error', () => undefined);
        await new Promise<void>((resolve) => socket.on('connect', () => resolve()));
        socket.write(
          'POST /api/imports?name=a.csv HTTP/1.1\r\nhost: a\r\ncontent-type: application/octet-stream\r\ncontent-length: 49000000\r\n\r\n',
        );
        const chunk = Buffer.alloc(1_000_000, 65);
        for (let i = 0; i < 40; i++) socket.write(chunk);
        return socket;
      }),
    );
    await new Promise((resolve) => setTimeout(resolve, 2000));
    const grown = server.memory() - before;
    for (const socket of sockets) socket.destroy();
    expect(grown).toBeLessThan(50_000_000);
    expect(left()).toEqual([]);
  });

  test('large ones are taken where files are taken in, and nowhere else', async () => {
    const large = Buffer.alloc(3_000_000, 65);
    const send = (path_: string, type: string) =>
      fetch(`${address}${path_}`, {
        method: 'POST',
        headers: { cookie: client.cookie, 'content-type': type },
        body: large,
      });
    expect((await send('/api/edits', 'application/json')).status).toBe(413);
    expect((await send('/api/edits', 'application/octet-stream')).status).toBe(415);
    const taken = await send('/api/imports?name=large.csv', 'application/octet-stream');
    expect(taken.status).toBe(200);
    await settled(client, ((await taken.json()) as { id: number }).id);
    expect(left()).toEqual([]);
  });

  test('an upload cut in the midst leaves nothing on disk', async () => {
    const { port } = new URL(address);
    const socket = createConnection({ host: '127.0.0.1', port: Number(port) });
    socket.on('error', () => undefined);
    socket.write(
      `POST /api/imports?name=a.csv HTTP/1.1\r\nhost: 127.0.0.1\r\ncookie: ${client.cookie}\r\ncontent-type: application/octet-stream\r\ncontent-length: 9000000\r\n\r\nGiven name`,
    );
    for (let tries = 0; left().length === 0 && tries < 100; tries++)
      await new Promise((resolve) => setTimeout(resolve, 20));
    expect(left().length).toBe(1);
    socket.destroy();
    for (let tries = 0; left().length > 0 && tries < 200; tries++)
      await new Promise((resolve) => setTimeout(resolve, 20));
    expect(left()).toEqual([]);
  });

  test('whoever may not take files in is told before anything is read', async () => {
    const crew = await asDemo(address, 'crew');
    await expect(upload(crew, 'a.csv', Buffer.alloc(3_000_000, 65))).rejects.toThrow(Refused);
  });
});
