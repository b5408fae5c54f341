// Files of people over HTTP: taken in, checked, mended, written as one entry, undone; twice, by halves, as the wrong role.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type ImportRow, endpoints } from '@gremium/contract';
import excel from 'exceljs';
import { type Client, type Running, asDemo, many, settled, sql, startServer, takeIn } from './harness';

let running: Running;
let admin: Client;
let fleet: Client;
beforeAll(async () => {
  running = await startServer('demo');
  admin = await asDemo(running.address, 'admin');
  fleet = await asDemo(running.address, 'fleet');
});
afterAll(() => running.close());

const rowsOf = async (client: Client, id: number, status?: 'new' | 'changed' | 'same' | 'refused') =>
  (await client.call(endpoints.importRows, { params: { id }, query: status ? { status } : {} })).rows;

const codes = (row: ImportRow | undefined) =>
  row?.faults.map(({ field, problem }) => `${field} ${problem.code}`);

/** Places free from now on, with their codes. */
const freePlaces = async (): Promise<{ id: number; code: string; unit: string }[]> => {
  const { positions } = await admin.call(endpoints.positions, { query: { free: 'yes' } });
  const taken = new Set(
    (
      await many<{ id: number }>(
        running.owner,
        sql`select position_id as id from placement_version where superseded_by is null and valid_until > '2026-11-23'`,
      )
    ).map(({ id }) => id),
  );
  const units = new Map(
    (
      await many<{ id: number; name: string }>(
        running.owner,
        sql`select unit_id as id, name from unit_version where superseded_by is null and valid_until > '2026-11-23'`,
      )
    ).map(({ id, name }) => [id, name]),
  );
  return positions
    .filter(({ id, mark }) => mark === 'vacant' && !taken.has(id))
    .map(({ id, code, unitId }) => ({ id, code, unit: units.get(unitId) ?? '' }));
};

const write = async (client: Client, id: number, rows: 'all' | 'good' = 'all') => {
  const { warnings } = await client.call(endpoints.import, { params: { id } });
  const words = Object.fromEntries(warnings.map(({ problem }) => [problem.code, 'as agreed']));
  await client.call(endpoints.writeImport, { params: { id }, body: { rows, words } });
  return settled(client, id);
};

describe('a file of new people', () => {
  test('is recognised, written as one entry, the same the second time, and undone as one', async () => {
    const places = await freePlaces();
    const lines = places
      .slice(0, 3)
      .map(({ code }, i) => `Nova;Import${i};nova${i}@import.example;0${i + 1}.02.2027;${code};3.100,50`);
    const file = `Vorname;Nachname;E-Mail;Eintritt;Stelle;Gehalt\n# a comment\n${lines.join('\n')}\n`;
    const before = await many(
      running.owner,
      sql`select count(*)::int as n from person_version where superseded_by is null`,
    );
    const checked = await takeIn(admin, 'Neue Leute.csv', file);
    expect(checked).toMatchObject({ state: 'ready', comments: 1, trouble: [] });
    expect(checked.columns.map(({ field }) => field)).toEqual([
      'given',
      'family',
      'email',
      'firstDay',
      'position',
      'pay',
    ]);
    expect(checked.counts).toEqual({ read: 3, new: 3, changed: 0, same: 0, refused: 0 });
    expect(checked.summary).toMatchObject({
      hires: 3,
      later: 3,
      firstLater: '2027-02-01',
      lastLater: '2027-02-03',
    });
    const written = await write(admin, checked.id);
    expect(written.state).toBe('written');
    const [first] = await rowsOf(admin, checked.id);
    expect(first).toMatchObject({ status: 'new', person: 'Nova Import0' });
    const again = await takeIn(admin, 'Neue Leute.csv', file);
    expect(again).toMatchObject({
      state: 'checked',
      counts: { read: 3, new: 0, changed: 0, same: 3, refused: 0 },
    });
    const { entries } = await admin.call(endpoints.planUndo, { params: { number: written.entry as number } });
    await admin.call(endpoints.undo, {
      params: { number: written.entry as number },
      body: { plan: entries.map(({ number }) => number) },
    });
    expect((await admin.call(endpoints.import, { params: { id: checked.id } })).state).toBe('undone');
    expect(
      await many(
        running.owner,
        sql`select count(*)::int as n from person_version where superseded_by is null`,
      ),
    ).toEqual(before);
  });

  test('says of each faulty row which cell is wrong and what it could be; the good ones are written', async () => {
    const [a, b, c, d] = await freePlaces();
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
      [2, ['manager reporting_ring']],
      [3, ['manager reporting_ring']],
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
