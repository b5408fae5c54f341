// Rows of a file that are refused, over HTTP: what is said of them, mended in the grid, alone or all alike, or in the workbook.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { endpoints } from '@gremium/contract';
import { type Client, type Running, asDemo, settled, startServer, takeIn } from './harness';
import { codes, freePlaces, rowsOf, sheetOf, write } from './importing';

let running: Running;
let admin: Client;
beforeAll(async () => {
  running = await startServer('demo');
  admin = await asDemo(running.address, 'admin');
});
afterAll(() => running.close());

describe('a file with faults', () => {
  test('says of each faulty row which cell is wrong and what it could be; the good ones are written', async () => {
    const [a, b, c, d] = await freePlaces(running, admin);
    const file = [
      'Given name\tFamily name\tEmail\tFirst day\tPosition\tUnit\tManager',
      `Ann\tRing\tann.ring@f.example\t2027-01-01\t${a?.code}\t\tbea.ring@f.example`,
      `Bea\tRing\tbea.ring@f.example\t2027-01-01\t${b?.code}\t\tann.ring@f.example`,
      `Cid\tUnit\tcid@f.example\t2027-01-01\t${c?.code}\t${c?.unit.slice(0, -2)}\t`,
      `Dan\tDay\tdan@f.example\t31.02.2027\t${d?.code}\t\t`,
      `Eva\tNone\teva@f.example\t\t${d?.code}\t\t`,
      `Fay\tTwin\tfay@f.example\t2027-01-01\t${d?.code}\t\t`,
      `Gus\tTwin\tFAY@f.example\t2027-01-01\t${d?.code}\t\t`,
      `Hal\tGood\thal@f.example\t2027-01-01\t${d?.code}\t${d?.unit}\t1007`,
    ].join('\n');
    const { id, state, counts } = await takeIn(admin, 'faulty.tsv', file);
    expect([state, counts?.refused]).toEqual(['in_repair', 7]);
    const rows = await rowsOf(admin, id);
    expect(rows.map((row) => [row.row, codes(row)])).toEqual([
      [2, ['manager manager_ring']],
      [3, ['manager manager_ring']],
      [4, ['unit value_unknown']],
      [5, ['firstDay day_unreal']],
      [6, ['firstDay value_missing']],
      [7, ['email email_twice']],
      [8, ['email email_twice']],
      [9, []],
    ]);
    expect(rows[2]?.faults[0]?.offers).toEqual([c?.unit]);
    expect(rows[3]?.faults[0]?.offers).toEqual(['2027-02-28', '2027-03-01']);
    expect(
      (await admin.refusal(endpoints.writeImport, { params: { id }, body: { rows: 'all' } })).codes,
    ).toEqual(['import_refused_rows']);
    await admin.call(endpoints.repairImport, {
      params: { id },
      body: { repairs: [{ row: 4, field: 'unit', text: c?.unit ?? '', alike: true }] },
    });
    expect((await settled(admin, id)).counts).toMatchObject({ new: 2, refused: 6 });
    const written = await write(admin, id, 'good');
    expect(written).toMatchObject({ state: 'written', counts: { new: 2, refused: 6 } });
    expect((await rowsOf(admin, id, 'new')).map(({ person }) => person)).toEqual(['Cid Unit', 'Hal Good']);
  });
});

describe('a cell mended in all alike', () => {
  const repair = async (id: number, row: number, field: 'unit' | 'position', text: string) => {
    const repairs = [{ row, field, text, alike: true }];
    const { cells } = await admin.call(endpoints.repairImport, { params: { id }, body: { repairs } });
    await settled(admin, id);
    return cells;
  };

  test('is mended where it says the same and is wrong for the same reason', async () => {
    const places = await freePlaces(running, admin);
    const here = places.filter(({ unit }) => unit === places[0]?.unit).slice(0, 2);
    const [one, two] = here.length > 1 ? here : [places[0], places[0]];
    const wrong = `${one?.unit.slice(0, -2)}`;
    const file = [
      'Given name,Family name,Email,First day,Position,Unit',
      `Una,Same,una.same@f.example,2027-01-01,${one?.code},${wrong}`,
      `Udo,Same,udo.same@f.example,2027-01-01,${two?.code}, ${wrong} `,
      `Uri,Other,uri.other@f.example,2027-01-01,${places.at(-1)?.code},Nowhere at all`,
    ].join('\n');
    const { id } = await takeIn(admin, 'alike.csv', file);
    expect((await rowsOf(admin, id)).map(codes)).toEqual(Array(3).fill(['unit value_unknown']));
    expect(await repair(id, 2, 'unit', one?.unit ?? '')).toBe(2);
    const rows = await rowsOf(admin, id);
    expect(rows.map(({ cells }) => cells[5])).toEqual([one?.unit, one?.unit, 'Nowhere at all']);
    expect(codes(rows[2])).toEqual(['unit value_unknown']);
  });

  test('and left alone where the same text is right, or wrong for another reason', async () => {
    const [one, two] = await freePlaces(running, admin);
    const file = [
      'Given name,Family name,Email,First day,Position',
      `Ria,First,ria.first@f.example,2027-01-01,${one?.code}`,
      `Rob,Second,rob.second@f.example,2027-01-01,${one?.code}`,
      `Roy,Third,roy.third@f.example,1.2.,${one?.code}`,
    ].join('\n');
    const { id } = await takeIn(admin, 'one-place.csv', file);
    const found = (await rowsOf(admin, id)).map(codes);
    expect(found[0]).toEqual([]);
    expect(found[1]?.[0]).toMatch(/^position /);
    expect(found[2]?.[0]).toMatch(/^firstDay /);
    expect(await repair(id, 3, 'position', two?.code ?? '')).toBe(1);
    const rows = await rowsOf(admin, id);
    expect(rows.map(({ cells }) => cells[4])).toEqual([one?.code, two?.code, one?.code]);
    expect(rows.map(({ status }) => status)).toEqual(['new', 'new', 'refused']);
  });
});

describe('the workbook back', () => {
  test('holds the refused rows, bad cells coloured and explained; mended and taken in again it is good', async () => {
    const [place] = await freePlaces(running, admin);
    const file = [
      'Given name,Family name,Email,First day,Position,Shoes',
      `Ida,Back,ida.back@f.example,31.02.2027,${place?.code},42`,
      `Ole,Back,ole.back@f.example,2027-01-01,P-nowhere,43`,
    ].join('\n');
    const { id } = await takeIn(admin, 'back.csv', file);
    const { book, sheet } = await sheetOf(admin, `/api/imports/${id}/workbook`);
    expect(sheet.getRow(2).getCell(4).note).toBe('First day: There is no such day. (2027-02-28, 2027-03-01)');
    const isColoured = (row: number, column: number) => {
      const { fill } = sheet.getRow(row).getCell(column);
      return fill?.type === 'pattern' && fill.pattern === 'solid';
    };
    expect([isColoured(2, 4), isColoured(2, 3), isColoured(3, 5), isColoured(3, 4)]).toEqual([
      true,
      false,
      true,
      false,
    ]);
    expect(sheet.getRow(3).getCell(7).value).toBe('Position: There is no P-nowhere.');
    sheet.getRow(2).getCell(4).value = '2027-03-01';
    sheet.spliceRows(3, 1);
    const mended = await takeIn(admin, 'mended.xlsx', Buffer.from(await book.xlsx.writeBuffer()));
    expect(mended).toMatchObject({ state: 'ready', counts: { read: 1, new: 1 } });
  });
});
