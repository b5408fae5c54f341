// Several files as one import: told apart by their headings, carried out in the right order, written and undone as one.
import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { endpoints } from '@gremium/contract';
import JSZip from 'jszip';
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
  upload,
} from './harness';
import { codes, rowsOf } from './importing';

let running: Running;
let admin: Client;
beforeAll(async () => {
  running = await startServer('demo');
  admin = await asDemo(running.address, 'admin');
});
afterAll(() => running.close());

const zipOf = (files: Record<string, string>): Promise<Buffer> => {
  const zip = new JSZip();
  for (const [name, content] of Object.entries(files)) zip.file(name, content);
  return zip.generateAsync({ type: 'nodebuffer', compression: 'DEFLATE' });
};
const takeIn = async (files: Record<string, string>) =>
  settled(admin, await upload(admin, 'Pilots.zip', await zipOf(files), 'any'));
const partsOf = async (id: number) =>
  Object.fromEntries(
    (await admin.call(endpoints.import, { params: { id } })).parts.map((part) => [part.fileName, part]),
  );

// positions stand before what they name, the unit's head before the position it is
const PILOTS = {
  'a/1 places.csv':
    'Code,Title,Unit,Job,In effect from\nPIL-1,Chief pilot,PILOTS,PILOT,2027-01-01\nPIL-2,Pilot,PILOTS,PILOT,2027-01-01\n',
  'a/2.csv':
    'Code;Name;Kind;Unit above;Head position;Gültig ab\nPILOTS;Pilots;TEAM;Harbours;PIL-1;1.1.2027\n',
  'jobs.csv': 'code,name,title,fte,active,from\nPILOT,Pilot,Pilot,1.00,yes,2027-01-01\n',
  '__MACOSX/a/._2.csv': 'nothing',
  'a/.DS_Store': 'nothing',
  'read me.pdf': 'nothing',
};

describe('a zip of files', () => {
  test('is told by headings, carried out in order; a head is set when it is there; one entry, undone as one', async () => {
    const before = await believed(running);
    const found = await takeIn(PILOTS);
    expect(found.trouble).toEqual([]);
    const parts = await partsOf(found.id);
    for (const part of Object.values(parts))
      expect((await rowsOf(admin, part.id, 'refused')).flatMap(codes)).toEqual([]);
    expect(Object.entries(parts).map(([name, { subject, counts }]) => [name, subject, counts?.new])).toEqual([
      ['1 places.csv', 'position', 2],
      ['2.csv', 'unit', 1],
      ['jobs.csv', 'job', 1],
    ]);
    expect(found.counts).toMatchObject({ read: 4, new: 4, refused: 0 });
    const { imports } = await admin.call(endpoints.imports, { query: {} });
    expect(imports.map(({ id }) => id)).toEqual([found.id]);
    await admin.call(endpoints.writeImport, { params: { id: found.id }, body: { rows: 'all' } });
    const done = await settled(admin, found.id);
    expect([done.trouble, done.state]).toEqual([[], 'written']);
    const head = await one<{ code: string; from: string }>(
      running.owner,
      sql`select p.code, u.valid_from::text as from from unit_version u join position_version p on p.position_id = u.head_position_id
        where u.code = 'PILOTS' and u.superseded_by is null and p.superseded_by is null`,
    );
    expect(head).toEqual({ code: 'PIL-1', from: '2027-01-01' });
    const entries = await many<{ entry: number }>(running.owner, sql`select distinct entry from import`);
    expect(entries).toEqual([{ entry: done.entry }]);
    const number = done.entry as number;
    const plan = await admin.patiently(endpoints.planUndo, { params: { number } });
    await admin.call(endpoints.undo, {
      params: { number },
      body: { plan: plan.entries.map((entry) => entry.number) },
    });
    expect(await believed(running)).toEqual(before);
    const undone = await partsOf(found.id);
    expect(Object.values(undone).map(({ state }) => state)).toEqual(['undone', 'undone', 'undone']);
  });

  test('a head that is in no file refuses its row, and with it all; mended in the part, everything is checked again', async () => {
    const found = await takeIn({ ...PILOTS, 'a/2.csv': PILOTS['a/2.csv'].replace('PIL-1', 'PIL-9') });
    const parts = await partsOf(found.id);
    const units = parts['2.csv']!;
    const rows = await rowsOf(admin, units.id, 'refused');
    expect(rows.map(codes)).toEqual([['headPositionId value_unknown']]);
    await admin.call(endpoints.writeImport, { params: { id: found.id }, body: { rows: 'good' } });
    const refused = await settled(admin, found.id);
    expect(refused.trouble.map(({ code }) => code)).toEqual(['import_refused_rows']);
    await admin.call(endpoints.repairImport, {
      params: { id: units.id },
      body: { repairs: [{ row: 2, field: 'headPositionId', text: 'PIL-2', alike: false }] },
    });
    expect((await settled(admin, found.id)).counts).toMatchObject({ new: 4, refused: 0 });
    // a part is written with the others alone
    expect(
      (await admin.refusal(endpoints.writeImport, { params: { id: units.id }, body: { rows: 'all' } }))
        .problems[0]?.code,
    ).toBe('import_state');
  });

  test('a file that says not what it is stops nothing but the check; left out, or read as something else, the rest goes on', async () => {
    const found = await takeIn({
      ...PILOTS,
      'notes.csv': 'What,When\nCall the harbour,soon\n',
      'broken.xlsx': 'PK\u0003\u0004no',
    });
    expect(found.trouble.map(({ code, params }) => [code, params['file']])).toEqual([
      ['part_unread', 'notes.csv'],
      ['part_unread', 'broken.xlsx'],
    ]);
    const parts = await partsOf(found.id);
    await admin.call(endpoints.cancelImport, { params: { id: parts['broken.xlsx']!.id } });
    await settled(admin, found.id);
    await admin.call(endpoints.cancelImport, { params: { id: parts['notes.csv']!.id } });
    expect((await settled(admin, found.id)).counts).toMatchObject({ read: 4, new: 4, refused: 0 });
    await admin.call(endpoints.arrangeImport, {
      params: { id: parts['jobs.csv']!.id },
      body: { subject: 'grade' },
    });
    await settled(admin, parts['jobs.csv']!.id);
    await settled(admin, found.id);
    expect((await partsOf(found.id))['jobs.csv']).toMatchObject({ subject: 'grade' });
  });

  test('nothing in it that is taken in: said in words', async () => {
    const found = await takeIn({ 'read me.pdf': 'nothing' });
    expect(found.trouble.map(({ code }) => code)).toEqual(['zip_empty']);
  });
});

describe('the files that ship with the demo', () => {
  const shipped = async (name: string) =>
    settled(admin, await upload(admin, name, readFileSync(`demo/files/${name}`), 'any'));

  test('a station of pilots, clean: ten files, all of it new; faulty: eight rows say what is wrong', async () => {
    const clean = await shipped('pilot-station.zip');
    const wrong = async ({ parts }: Awaited<ReturnType<typeof shipped>>) =>
      Promise.all(
        parts.map(async (part) => [part.fileName, (await rowsOf(admin, part.id, 'refused')).map(codes)]),
      );
    const refused = (await wrong(clean)).filter(([, rows]) => (rows as unknown[]).length > 0);
    expect([clean.trouble, refused]).toEqual([[], []]);
    expect(clean.parts.map(({ subject, counts }) => [subject, counts?.new])).toEqual([
      ['list_entry', 2],
      ['legal_entity', 1],
      ['location', 1],
      ['cost_centre', 1],
      ['grade', 1],
      ['job', 2],
      ['unit', 1],
      ['position', 3],
      ['people', 2],
      ['contact', 2],
    ]);
    const faulty = await wrong(await shipped('pilot-station-faulty.zip'));
    expect(faulty.filter(([, rows]) => (rows as unknown[]).length > 0)).toEqual([
      [
        'jobs.csv',
        [['name value_missing'], ['gradeId value_unknown'], ['from thing_twice'], ['from thing_twice']],
      ],
      [
        'positions.csv',
        [['unitId value_missing'], ['unitId value_unknown'], ['from thing_twice'], ['from thing_twice']],
      ],
    ]);
  }, 300_000);
});
