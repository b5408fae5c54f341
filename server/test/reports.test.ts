// Reports over HTTP: opened figures against a brute-force count over raw rows, the viewer's part, files, other moments.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type CrossOut, type Day, type WhyQuery, endpoints } from '@gremium/contract';
import { parse } from 'csv-parse/sync';
import excel from 'exceljs';
import type { Refused } from './harness';
import {
  type Client,
  type Running,
  asDemo,
  many,
  newcomer,
  sql,
  startServer,
  vacantPosition,
} from './harness';

let running: Running;
let admin: Client;
let fleet: Client;
let crew: Client;
beforeAll(async () => {
  running = await startServer('demo');
  admin = await asDemo(running.address, 'admin');
  fleet = await asDemo(running.address, 'fleet');
  crew = await asDemo(running.address, 'crew');
});
afterAll(() => running.close());

const october = { from: '2026-10', until: '2026-10' } as const;

type Ended = { person: number; position: number; last: string };

/** Everybody whose counted employment ended in the year to October 2026 and was continued by none, with the last position. */
const endedInTheYear = () =>
  many<Ended>(
    running.owner,
    sql`select e.person_id as person, p.position_id as position, (max(e.valid_until) - 1)::text as last
      from employment_version e
      join list_entry_version w on w.list_entry_id = e.worker_type_id and w.superseded_by is null
      join placement_version p on p.employment_id = e.employment_id and p.kind = 'primary' and p.superseded_by is null
      where e.superseded_by is null and coalesce((w.flags->>'counted')::boolean, true)
        and p.valid_until = (select max(x.valid_until) from placement_version x
          where x.employment_id = e.employment_id and x.kind = 'primary' and x.superseded_by is null)
        and not exists (select from employment_version n
          where n.superseded_by is null and n.continues_id = e.employment_id)
        and not exists (select from employment_version n
          where n.superseded_by is null and n.person_id = e.person_id and n.employment_id <> e.employment_id
            and n.valid_from < e.valid_until and n.valid_until > e.valid_until)
      group by e.employment_id, e.person_id, p.position_id
      having max(e.valid_until) > '2025-11-01' and max(e.valid_until) <= '2026-11-01'`,
  );

/** Whether a position was in a unit or below it on a day, walked up row by row. */
const isBelow = async (position: number, root: number, on: string): Promise<boolean> => {
  const [found] = await many<{ is: boolean }>(
    running.owner,
    sql`with recursive up (id) as (
        select unit_id from position_version
        where superseded_by is null and position_id = ${position} and valid_from <= ${on}::date and ${on}::date < valid_until
        union
        select u.parent_id from up join unit_version u on u.unit_id = up.id
        where u.superseded_by is null and u.valid_from <= ${on}::date and ${on}::date < u.valid_until)
      select exists (select from up where id = ${root}) as is`,
  );
  return found!.is;
};

type Asking = Pick<WhyQuery, 'measure' | 'by' | 'from' | 'until' | 'key' | 'month'>;

/** A figure opened, with all of its people, page by page. */
const opened = async (who: Client, query: Asking, limit = 400) => {
  const first = await who.call(endpoints.why, { query: { ...query, limit } });
  const people = [...first.people];
  while (people.length < first.total) {
    const { people: more } = await who.call(endpoints.why, {
      query: { ...query, limit, offset: people.length },
    });
    expect(more.length).toBeGreaterThan(0);
    people.push(...more);
  }
  return { ...first, people };
};

const rowNamed = (table: CrossOut, name: string) => table.rows.find(({ label }) => label.en === name)!;

describe('a figure opened', () => {
  test('is the turnover of a division with exactly the people that a count over raw rows finds', async () => {
    const table = await admin.call(endpoints.crossTable, {
      query: { measure: 'turnover', by: 'division', ...october },
    });
    const { key, values } = rowNamed(table, 'Harbours');
    const why = await opened(admin, {
      ...october,
      measure: 'turnover',
      by: 'division',
      key: String(key),
      month: '2026-10',
    });
    const expected: number[] = [];
    for (const { person, position, last } of await endedInTheYear())
      if (await isBelow(position, Number(key), last)) expected.push(person);
    expect(why.people.map(({ personId }) => personId).sort()).toEqual(expected.sort());
    expect(expected.length).toBeGreaterThan(10);
    expect(why.leavers).toBe(expected.length);
    expect(why.value).toBe(values[0]);
    const mean = why.months.reduce((sum, { close }) => sum + close!, 0) / 12;
    expect(why.value).toBe(expected.length / mean);
  });

  test('of any other measure counts those it lists', async () => {
    for (const measure of ['headcount', 'joiners', 'leavers', 'fte'] as const) {
      const query = { measure, by: 'country', ...october } as const;
      const table = await admin.call(endpoints.crossTable, { query });
      const { key, values } = table.rows[0]!;
      const why = await opened(admin, { ...query, key: String(key), month: '2026-10' });
      expect(why.people).toHaveLength(why.total);
      const counted = measure === 'fte' ? why.people.reduce((sum, { fte }) => sum + fte!, 0) : why.total;
      // shares are rounded one by one in the list, once in the figure
      if (measure === 'fte')
        expect(Math.abs(counted - values[0]!)).toBeLessThanOrEqual(why.people.length / 2);
      else expect([measure, counted]).toEqual([measure, values[0]]);
      expect(why.value).toBe(values[0]);
    }
  });
});

describe('people behind a figure', () => {
  const headcount = {
    ...october,
    measure: 'headcount',
    by: 'whole',
    key: 'all',
    month: '2026-10',
  } as const;

  /** Everybody employed, and counted, at the close of October 2026. */
  const employed = async () =>
    (
      await many<{ id: number }>(
        running.owner,
        sql`select distinct e.person_id as id
          from employment_version e
          join list_entry_version w on w.list_entry_id = e.worker_type_id and w.superseded_by is null
          where e.superseded_by is null and coalesce((w.flags->>'counted')::boolean, true)
            and e.valid_from <= '2026-10-31' and (
              '2026-11-01' < (
                select max(x.valid_until) from employment_version x
                where x.superseded_by is null and x.employment_id = e.employment_id)
              or '2026-11-01' = e.valid_until and exists (
                select from employment_version n
                where n.superseded_by is null and n.continues_id = e.employment_id))`,
      )
    ).map(({ id }) => id);

  test('come page by page, each once, in one order, however long the pages', async () => {
    const [long, short] = [await opened(admin, headcount, 1000), await opened(admin, headcount, 170)];
    expect(short.people).toEqual(long.people);
    const ids = long.people.map(({ personId }) => personId);
    const expected = await employed();
    expect(expected.length).toBeGreaterThan(1000);
    expect(new Set(ids)).toEqual(new Set(expected));
    const past = { ...headcount, limit: 10, offset: long.total + 5 };
    expect((await admin.call(endpoints.why, { query: past })).people).toEqual([]);
  });

  test('are taken out as a file with the figure: all of them, with their numbers', async () => {
    const cell = { measure: 'leavers', by: 'whole', ...october, key: 'all', month: '2026-10' } as const;
    const shown = await opened(admin, cell);
    const response = await admin.send(endpoints.whyFile, { query: { ...cell, format: 'csv' } });
    const rows: string[][] = parse(await response.text(), { bom: true, relax_column_count: true });
    const start = rows.findIndex(([head]) => head === 'Person number');
    const top = new Map(rows.slice(0, start).map(([head = '', ...cells]) => [head, cells[0]]));
    expect([top.get('Leavers'), top.get('People')]).toEqual([String(shown.value), String(shown.total)]);
    expect(top.get('In effect on')).toBe('2026-11-23');
    const numbers = new Map(
      (
        await many<{ id: number; number: string }>(
          running.owner,
          sql`select person_id as id, number from person_version
            where superseded_by is null and valid_from <= '2026-10-31' and '2026-10-31' < valid_until`,
        )
      ).map(({ id, number }) => [number, id]),
    );
    const taken = rows.slice(start + 1);
    expect(taken.map(([number = '']) => numbers.get(number))).toEqual(
      shown.people.map(({ personId }) => personId),
    );
    expect(taken.map((row) => row[4])).toEqual(shown.people.map(({ day }) => day));
  });

  test('who may see one branch alone takes out that branch alone, also as a workbook', async () => {
    const ask = async (who: Client) => {
      const response = await who.send(endpoints.whyFile, { query: { ...headcount, format: 'xlsx' } });
      const book = new excel.Workbook();
      await book.xlsx.load((await response.arrayBuffer()) as never);
      return book.worksheets[0]!.getColumn(1).values.filter((value) => /^[0-9]+$/.test(String(value)));
    };
    const [own, all] = [await ask(fleet), await ask(admin)];
    // the number of somebody who is elsewhere by now is told only there
    const { total, people } = await opened(fleet, headcount);
    const numbered = people.filter(({ number }) => number !== '');
    expect([people.length, own.length]).toEqual([total, numbered.length]);
    expect(total - numbered.length).toBeLessThan(10);
    expect(own.length).toBeGreaterThan(0);
    expect(own.length).toBeLessThan(all.length);
    expect(all).toEqual(expect.arrayContaining(own));
    expect(await ask(crew)).toEqual([]);
  });
});

describe('who is limited to Fleet', () => {
  test('gets neither figure, chip count nor person from outside', async () => {
    const all = await admin.call(endpoints.crossTable, {
      query: { measure: 'headcount', by: 'division', ...october },
    });
    const own = await fleet.call(endpoints.crossTable, {
      query: { measure: 'headcount', by: 'division', ...october },
    });
    expect(own.rows.map(({ label }) => label.en)).toEqual(['Fleet']);
    expect(own.rows[0]!.values).toEqual(rowNamed(all, 'Fleet').values);
    expect(own.total.values).toEqual(own.rows[0]!.values);
    expect(own.scope?.map(({ en }) => en)).toEqual(['Fleet']);
    const narrow = `division:${rowNamed(all, 'Fleet').key}`;
    const narrowed = await admin.call(endpoints.crossTable, {
      query: { measure: 'headcount', by: 'division', ...october, narrow },
    });
    // what the administrator counts narrowed to Fleet is all that the specialist is offered
    for (const { dimension, values } of own.chips)
      if (dimension !== 'division')
        expect([dimension, values]).toEqual([
          dimension,
          narrowed.chips.find((chip) => chip.dimension === dimension)!.values,
        ]);
    expect(own.chips.find(({ dimension }) => dimension === 'division')!.values.map(({ key }) => key)).toEqual(
      [rowNamed(all, 'Fleet').key],
    );
    const leavers = await fleet.call(endpoints.why, {
      query: { measure: 'turnover', by: 'whole', ...october, key: 'all', month: '2026-10' },
    });
    const whole = await admin.call(endpoints.why, {
      query: {
        measure: 'turnover',
        by: 'division',
        ...october,
        key: String(rowNamed(all, 'Fleet').key),
        month: '2026-10',
      },
    });
    expect(leavers.people).toEqual(whole.people);
    const outside = await fleet.call(endpoints.why, {
      query: {
        measure: 'headcount',
        by: 'division',
        ...october,
        key: String(rowNamed(all, 'Yards').key),
        month: '2026-10',
      },
    });
    expect([outside.people, outside.value]).toEqual([[], 0]);
  });

  test('nor at a moment when the register was believed otherwise', async () => {
    const entries = (await admin.call(endpoints.journal, { query: { limit: 40 } })).entries;
    const recordedBy = entries.at(-1)!.moment;
    const query = { measure: 'headcount', by: 'unit', ...october, recordedBy } as const;
    const [own, all] = [
      await fleet.call(endpoints.crossTable, { query }),
      await admin.call(endpoints.crossTable, { query }),
    ];
    const units = new Map(all.rows.map(({ key, values }) => [key, values[0]]));
    const inFleet = (await admin.call(endpoints.crossTable, { query: { ...query, by: 'division' } })).rows;
    for (const { key, values } of own.rows) expect(values[0]).toBeLessThanOrEqual(units.get(key)!);
    expect(own.total.values[0]).toBeLessThanOrEqual(
      inFleet.find(({ label }) => label.en === 'Fleet')!.values[0]!,
    );
  });

  test('and who sees but oneself counts nobody', async () => {
    const table = await crew.call(endpoints.crossTable, {
      query: { measure: 'headcount', by: 'whole', ...october },
    });
    expect([table.rows, table.total.values]).toEqual([[], [0]]);
  });
});

describe('a report', () => {
  test('shows a hire at once, and not as recorded before it', async () => {
    const query = {
      measure: 'headcount',
      by: 'whole',
      from: '2026-11',
      until: '2026-11',
      on: '2026-11-30' as Day,
    } as const;
    const before = await admin.call(endpoints.crossTable, { query });
    const [last] = (await admin.call(endpoints.journal, { query: { limit: 1 } })).entries;
    const positionId = await vacantPosition(running, admin, '%Vess%');
    const input = {
      person: newcomer('Atonce'),
      positionId,
      firstDay: '2026-11-24' as Day,
      pay: [],
      reasonId: null,
    };
    await admin.call(endpoints.move, { body: { kind: 'hire', input } });
    const after = await admin.call(endpoints.crossTable, { query });
    expect(after.total.values[0]).toBe(before.total.values[0]! + 1);
    expect(after.entry).toBe(before.entry + 1);
    const earlier = await admin.call(endpoints.crossTable, { query: { ...query, recordedBy: last!.moment } });
    expect(earlier.total.values).toEqual(before.total.values);
  });

  test.each([
    ['narrow', { narrow: 'nothing:1' }],
    ['narrow', { narrow: 'class:never' }],
    ['from', { from: '2026-13' }],
    ['until', { from: '2026-10', until: '2026-01' }],
    ['until', { from: '1990-01', until: '2026-01' }],
  ])('refuses a bad %s, naming it', async (field, bad) => {
    const asked = admin.call(endpoints.crossTable, { query: { ...october, ...bad } as never });
    const refused = (await asked.catch((error: unknown) => error)) as Refused;
    expect(refused.problems.map((problem) => problem.field)).toEqual([field]);
  });
});

describe('a report taken out', () => {
  const fileOf = async (format: 'csv' | 'xlsx') => {
    const query = new URLSearchParams({ measure: 'turnover', by: 'division', ...october, format });
    const response = await fetch(`${running.address}/api/cross-table/file?${query.toString()}`, {
      headers: { cookie: admin.cookie },
    });
    expect(response.headers.get('content-disposition')).toContain(`.${format}`);
    return Buffer.from(await response.arrayBuffer());
  };

  test('holds the figures, the day in effect and the moment known, as CSV and as XLSX', async () => {
    const table = await admin.call(endpoints.crossTable, {
      query: { measure: 'turnover', by: 'division', ...october },
    });
    const rows: string[][] = parse(await fileOf('csv'), { bom: true, relax_column_count: true });
    const said = new Map(rows.map(([head = '', ...cells]) => [head, cells]));
    expect(said.get('In effect on')).toEqual(['2026-11-23']);
    expect(said.get('As recorded by')?.[0]).toContain(`after entry ${table.entry}`);
    const rate = rowNamed(table, 'Harbours').values[0]!;
    const line = rows.find(([head]) => head === 'Division')!;
    expect(line.slice(1)).toEqual(['2026-10 %', '2026-10 exactly']);
    // what the page shows, and beside it every digit
    expect(said.get('Harbours')).toEqual([String(Math.round(rate * 1000) / 10), String(rate)]);
    const book = new excel.Workbook();
    await book.xlsx.load((await fileOf('xlsx')) as never);
    const sheet = book.worksheets[0]!;
    const at = sheet.getColumn(1).values.indexOf('Harbours');
    expect(sheet.getCell(at, 2).value).toBe(rowNamed(table, 'Harbours').values[0]);
    expect(sheet.getCell(at, 2).numFmt).toBe('0.0%');
  });
});
