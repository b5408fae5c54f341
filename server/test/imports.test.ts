// Files of people over HTTP: taken in, checked, mended, written as one entry, undone; twice, by halves, as the wrong role.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { endpoints } from '@gremium/contract';
import { ownerPool, verifyJournal } from '@gremium/server';
import { keepTrouble } from '../src/files/import.sql';
import {
  type Client,
  type Refused,
  type Running,
  asDemo,
  copyDatabase,
  many,
  newcomer,
  one,
  settled,
  spawnServer,
  sql,
  startServer,
  takeIn,
  upload,
} from './harness';
import { codes, freePlaces, rowsOf, sheetOf, write } from './importing';

// Large files are planned in portions; here all are large.
process.env['GREMIUM_IMPORT_PORTION'] = '7';

let running: Running;
let admin: Client;
let fleet: Client;
beforeAll(async () => {
  running = await startServer('demo');
  admin = await asDemo(running.address, 'admin');
  fleet = await asDemo(running.address, 'fleet');
});
afterAll(() => running.close());

describe('a file of new people', () => {
  test('is recognised, written as one entry, the same the second time, and undone as one', async () => {
    const places = await freePlaces(running, admin);
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
    expect(checked.counts).toEqual({ read: 3, new: 3, changed: 0, same: 0, refused: 0, left_out: 0 });
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
    const { entries } = await admin.patiently(endpoints.planUndo, {
      params: { number: written.entry as number },
    });
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
});

describe('templates', () => {
  test.each(['xlsx', 'csv', 'tsv'] as const)(
    'as %s: every heading is known when it is taken in again',
    async (format) => {
      const response = await fetch(`${admin.address}/api/import-template?format=${format}`, {
        headers: { cookie: admin.cookie },
      });
      const content = Buffer.from(await response.arrayBuffer());
      const { columns, trouble } = await takeIn(admin, `template.${format}`, content);
      expect(trouble.map(({ code }) => code)).toEqual(['file_empty']);
      expect(columns).toEqual([]);
      if (format === 'xlsx') return;
      const filled = `${content.toString('utf8')}${format === 'csv' ? '1007,' : '1007\t'}\n`;
      const known = await takeIn(admin, `filled.${format}`, filled);
      expect(known.columns.filter(({ field }) => field === null)).toEqual([]);
      expect([known.state, known.comments]).toEqual(['checked', 2]);
    },
  );

  test('a workbook with some columns has their pick lists inside and a sheet that explains them', async () => {
    const { book, sheet } = await sheetOf(admin, '/api/import-template?columns=family,email,workerType');
    expect((sheet.getRow(1).values as string[]).slice(1)).toEqual([
      'Family name °',
      'Email °',
      'Worker type',
    ]);
    const list = book.getWorksheet('Lists');
    expect(list?.getColumn(1).values.slice(1)).toEqual([
      'Worker type',
      'Agency worker',
      'Apprentice',
      'Board member',
      'Contractor',
      'Employee',
      'Volunteer',
    ]);
    expect(sheet.getCell(5, 3).dataValidation.formulae).toEqual(["'Lists'!$A$2:$A$7"]);
  });

  test('an unknown column is refused with its name', async () => {
    const refused = await admin.refusal(endpoints.importTemplate, { query: { columns: 'shoes' } as never });
    expect(refused.problems[0]?.field).toMatch(/^columns/);
  });
});

describe('columns', () => {
  test('said once are remembered for such headings; two for one field are refused', async () => {
    const file = 'Kundennamn;Who;Ring\nNova;Memory;12345\n';
    const first = await takeIn(admin, 'memory.csv', file);
    expect(first.trouble.map(({ code }) => code)).toEqual(['columns_none']);
    const twice = await admin.refusal(endpoints.arrangeImport, {
      params: { id: first.id },
      body: { columns: ['given', 'given', null] },
    });
    expect(twice.codes).toEqual(['column_twice']);
    await admin.call(endpoints.arrangeImport, {
      params: { id: first.id },
      body: { columns: ['given', 'family', 'phone'] },
    });
    expect(await settled(admin, first.id)).toMatchObject({ state: 'in_repair', trouble: [] });
    const second = await takeIn(admin, 'memory.csv', file);
    expect(second.columns.map(({ field, how }) => [field, how])).toEqual([
      ['given', 'memory'],
      ['family', 'memory'],
      ['phone', 'memory'],
    ]);
  });

  test('said while an earlier check runs: its trouble is no longer true, and the file is checked as it is now', async () => {
    const first = await takeIn(admin, 'early.csv', 'Kundennummern;Wer\nEarly;Riser\n');
    expect(first.trouble.map(({ code }) => code)).toEqual(['columns_none']);
    const { id } = first;
    const another = '00000000-0000-4000-8000-000000000001';
    // another process has begun to check what stood before
    const begun = await one<{ id: number; revision: number }>(
      running.owner,
      sql`update import set work = 'check', worker = ${another}, beat = clock_timestamp() where id = ${id} returning id, revision`,
    );
    await admin.call(endpoints.arrangeImport, { params: { id }, body: { columns: ['given', 'family'] } });
    await many(running.owner, keepTrouble(begun, another, first.trouble));
    expect(await settled(admin, id)).toMatchObject({ state: 'in_repair', trouble: [] });
  });
});

describe('files that are none', () => {
  test.each([
    ['nothing but blanks', ' \n\n', 'file_empty'],
    ['headings without rows', 'Given name,Email\n', 'file_empty'],
    ['bytes of something else', Buffer.from([0, 1, 2, 3, 0, 0]), 'file_unreadable'],
    ['a broken workbook', Buffer.from([0x50, 0x4b, 3, 4, 1, 2, 3]), 'file_unreadable'],
    ['quotes that never end', 'a,b\n"x,y\n1,2', 'file_unreadable'],
    [
      'too many columns',
      `${Array.from({ length: 201 }, (_, i) => `c${i}`).join(',')}\n1\n`,
      'columns_too_many',
    ],
  ])('%s: it is said, and nothing is stuck', async (_, content, code) => {
    const found = await takeIn(admin, 'odd.csv', content);
    expect(found.trouble.map((problem) => problem.code)).toEqual([code]);
    expect(found.state).toBe('uploaded');
    await admin.call(endpoints.cancelImport, { params: { id: found.id } });
    expect((await admin.call(endpoints.import, { params: { id: found.id } })).state).toBe('cancelled');
    const again = await admin.refusal(endpoints.checkImport, { params: { id: found.id } });
    expect(again.codes).toEqual(['import_state']);
  });

  test('other encodings and marks of formulas are read as people mean them', async () => {
    const text = "Given name;Family name;Phone;Email\nJörg;'=Müller;'+49 431 1234;jm@f.example\n";
    for (const content of [
      Buffer.from(text, 'latin1'),
      Buffer.from(`\ufeff${text}`, 'utf16le'),
      Buffer.from(text),
    ]) {
      const { id } = await takeIn(admin, 'codes.csv', content);
      const [row] = await rowsOf(admin, id);
      expect(row?.cells).toEqual(['Jörg', '=Müller', '+49 431 1234', 'jm@f.example']);
    }
  });
});

describe('what was checked', () => {
  const planned = (id: number) =>
    many<{ person: number; number: string | null }>(
      running.owner,
      sql`select r.person_id as person, p.number
        from import_outcome r left join person_version p on p.person_id = r.person_id and p.superseded_by is null
        where r.import_id = ${id} order by r.row`,
    );

  const lastNumber = async () =>
    Number(
      (await many<{ last: string }>(running.owner, sql`select last_value as last from person_number`))[0]
        ?.last,
    );

  test('is written as it was planned, numbers following the series; a check takes none of them', async () => {
    const last = await lastNumber();
    const { id } = await takeIn(admin, 'inhand.csv', CATERING(200, 'inhand'));
    expect(new Set((await rowsOf(admin, id)).map(({ person }) => person))).toEqual(new Set([null]));
    const before = await planned(id);
    expect([before.length, new Set(before.map(({ number }) => number)), await lastNumber()]).toEqual([
      200,
      new Set([null]),
      last,
    ]);
    expect((await write(admin, id)).state).toBe('written');
    const numbers = Array.from({ length: 200 }, (_, i) => String(last + 1 + i));
    expect(await planned(id)).toEqual(before.map(({ person }, i) => ({ person, number: numbers[i] })));
    expect(await verifyJournal(running.owner)).toMatchObject({ faults: [] });
  });

  test('is planned anew where anything was recorded since', async () => {
    const { id } = await takeIn(admin, 'anew.csv', CATERING(3, 'anew'));
    const before = await planned(id);
    await admin.call(endpoints.move, {
      body: {
        kind: 'hire',
        input: {
          person: newcomer('Between'),
          firstDay: '2026-12-01' as never,
          positionId: (await freePlaces(running, admin))[0]?.id as number,
          pay: [],
          reasonId: null,
        },
      },
    });
    expect((await write(admin, id)).state).toBe('written');
    const after = await planned(id);
    expect(after.map(({ person }, i) => person !== before[i]?.person)).toEqual([true, true, true]);
    expect(after.every(({ number }) => number !== null)).toBe(true);
  });
});

describe('what others do meanwhile', () => {
  test('a place taken between check and write is not overwritten: all is refused, then the row alone', async () => {
    const [a, b] = await freePlaces(running, admin);
    const line = (name: string, code = '') =>
      `${name},Late,${name.toLowerCase()}.late@f.example,2027-01-01,${code}`;
    const file = [
      'Given name,Family name,Email,First day,Position',
      line('Kim', a?.code),
      line('Lou', b?.code),
    ].join('\n');
    const { id, state } = await takeIn(admin, 'late.csv', file);
    expect(state).toBe('ready');
    await admin.call(endpoints.move, {
      body: {
        kind: 'hire',
        input: {
          person: newcomer('Sooner'),
          firstDay: '2026-12-01' as never,
          positionId: a?.id as number,
          pay: [],
          reasonId: null,
        },
      },
    });
    const found = await write(admin, id);
    expect(found).toMatchObject({ state: 'in_repair', counts: { new: 1, refused: 1 } });
    expect(found.trouble.map(({ code }) => code)).toEqual(['import_refused_rows']);
    expect(codes((await rowsOf(admin, id, 'refused'))[0])).toEqual(['position place_taken']);
    expect(await write(admin, id, 'good')).toMatchObject({
      state: 'written',
      counts: { new: 1, refused: 1 },
    });
  });
});

describe('somebody limited to Fleet', () => {
  test('takes in people of Fleet alone, sees own imports only, and learns nothing of others', async () => {
    const places = await freePlaces(running, admin);
    const units = (await fleet.call(endpoints.outline, {})).units.map(({ name }) => name);
    const inside = places.find(({ unit }) => units.includes(unit));
    const outside = places.find(({ unit }) => !units.includes(unit));
    const people = await many<{ number: string; email: string }>(
      running.owner,
      sql`select p.number, c.value as email
        from person_version p
        join contact_version c on c.person_id = p.person_id and c.kind = 'email' and c.superseded_by is null
        join employment_version e on e.person_id = p.person_id and e.superseded_by is null
          and e.valid_from <= '2026-11-23' and '2026-11-23' < e.valid_until
        join placement_version l on l.employment_id = e.employment_id and l.superseded_by is null and l.kind = 'primary'
          and l.valid_from <= '2026-11-23' and '2026-11-23' < l.valid_until
        join position_version o on o.position_id = l.position_id and o.superseded_by is null
          and o.valid_from <= '2026-11-23' and '2026-11-23' < o.valid_until
        join unit_version u on u.unit_id = o.unit_id and u.superseded_by is null
          and u.valid_from <= '2026-11-23' and '2026-11-23' < u.valid_until
        where p.superseded_by is null and u.name like '%Tallinn%'
        order by p.number limit 2`,
    );
    const file = [
      'Number,Given name,Family name,Email,First day,Position,Phone,Manager',
      `,Ina,Fleet,ina@fleet.example,2027-01-01,${inside?.code},,`,
      `,Uwe,Fleet,uwe@fleet.example,2027-01-01,${outside?.code},,`,
      `${people[0]?.number},,,,,,12345678,`,
      `,Eve,Fleet,${people[1]?.email},2027-01-01,${inside?.code},,`,
    ].join('\n');
    const { id } = await takeIn(fleet, 'fleet.csv', file);
    const rows = await rowsOf(fleet, id);
    expect(rows.map((row) => [row.status, codes(row)])).toEqual([
      ['new', []],
      ['refused', ['position value_unknown']],
      ['refused', ['number person_unknown']],
      ['refused', ['email record_hidden']],
    ]);
    expect(rows.map(({ personId }) => personId)).toEqual([null, null, null, null]);
    const { imports } = await fleet.call(endpoints.imports, {});
    expect(imports.map((line) => line.id)).toEqual([id]);
    expect((await admin.call(endpoints.imports, {})).total).toBeGreaterThan(5);
    const others = (await admin.call(endpoints.imports, {})).imports.find(({ by }) => by !== 'Astrid Lunde');
    expect((await fleet.refusal(endpoints.import, { params: { id: others?.id ?? 0 } })).status).toBe(404);
    // the administrator may look, but the work goes on in the name of who took it in
    expect((await admin.refusal(endpoints.checkImport, { params: { id } })).codes).toEqual(['right_missing']);
    expect(await write(fleet, id, 'good')).toMatchObject({ state: 'written', counts: { new: 1 } });
  });

  test('reaches in a file of later days just those whom they find today: here, coming or gone', async () => {
    const statuses = ['left', 'coming', 'here'] as const;
    const listed = async (client: Client, status: (typeof statuses)[number], limit: number) =>
      (await client.call(endpoints.people, { query: { status, limit } })).people.map(({ number }) => number);
    const own = new Set((await Promise.all(statuses.map((status) => listed(fleet, status, 1000)))).flat());
    const found = await Promise.all(
      statuses.flatMap((status) => [listed(fleet, status, 40), listed(admin, status, 80)]),
    );
    const numbers = [...new Set(found.flat())];
    const inside = numbers.filter((number) => own.has(number));
    expect(Math.min(inside.length, numbers.length - inside.length)).toBeGreaterThan(20);
    const lines = numbers.map((number, i) => `${number},+358 9 ${200000 + i},2027-06-01`);
    const { id } = await takeIn(fleet, 'phones.csv', `Number,Phone,In effect from\n${lines.join('\n')}`);
    const { rows } = await fleet.call(endpoints.importRows, { params: { id }, query: { limit: 1000 } });
    const reached = rows
      .filter((row) => !codes(row)?.includes('number person_unknown'))
      .map(({ cells }) => cells[0]);
    expect(reached).toEqual(inside);
  });

  test('whoever may not import is refused', async () => {
    const crew = await asDemo(running.address, 'crew');
    await expect(upload(crew, 'crew.csv', 'Given name\nNova\n')).rejects.toMatchObject({ status: 403 });
  });
});

const CATERING = (count: number, mark: string) =>
  [
    'Given name,Family name,Email,First day,Unit,Job,Worker type',
    ...Array.from(
      { length: count },
      (_, i) => `Nova,${mark} ${i},${mark}${i}@many.example,2027-02-01,Catering,Cook,Employee`,
    ),
  ].join('\n');

const written = async (pool: Running['owner'], mark: string) =>
  (
    await many<{ people: number; entries: number }>(
      pool,
      sql`select count(*)::int as people, count(distinct recorded_by)::int as entries
        from contact_version where superseded_by is null and value like ${`${mark}%@many.example`}`,
    )
  )[0];

describe('work that is stopped', () => {
  test('cancelled in the midst of writing: nothing is written, or it was too late and all is', async () => {
    const { id } = await takeIn(admin, 'many.csv', CATERING(600, 'stop'));
    await admin.call(endpoints.writeImport, { params: { id }, body: { rows: 'all' } });
    await new Promise((resolve) => setTimeout(resolve, 300));
    const refused = await admin
      .call(endpoints.cancelImport, { params: { id } })
      .catch((error: unknown) => error);
    const { state } = await settled(admin, id);
    const found = await written(running.owner, 'stop');
    expect(['cancelled', 'written']).toContain(state);
    expect([state, found]).toEqual(
      state === 'written' ? [state, { people: 600, entries: 1 }] : [state, { people: 0, entries: 0 }],
    );
    if (state === 'written') expect((refused as Refused).codes).toEqual(['import_state']);
  });

  test('kill -9 while it checks and while it writes: another process goes on, and it is written once', async () => {
    process.env['GREMIUM_IMPORT_TAKEOVER_SECONDS'] = '2';
    const url = await copyDatabase('demo');
    const owner = ownerPool(url);
    try {
      const first = await spawnServer(url);
      const one = await asDemo(first.address, 'admin');
      const id = await upload(one, 'many.csv', CATERING(1500, 'kill'));
      await working(one, id, 'check');
      await first.kill();
      const second = await spawnServer(url);
      const two = await asDemo(second.address, 'admin');
      expect(await settled(two, id)).toMatchObject({ state: 'ready', counts: { new: 1500 } });
      await two.call(endpoints.writeImport, { params: { id }, body: { rows: 'all' } });
      await working(two, id, 'write');
      await second.kill();
      expect([
        { people: 0, entries: 0 },
        { people: 1500, entries: 1 },
      ]).toContainEqual(await written(owner, 'kill'));
      const third = await spawnServer(url);
      const three = await asDemo(third.address, 'admin');
      expect(await settled(three, id)).toMatchObject({ state: 'written', counts: { new: 1500 } });
      expect(await written(owner, 'kill')).toEqual({ people: 1500, entries: 1 });
      expect(await verifyJournal(owner)).toMatchObject({ faults: [] });
      await third.kill();
    } finally {
      await owner.end();
    }
  }, 120_000);
});

/** Waits until the import is worked on in a way. */
const working = async (client: Client, id: number, what: string): Promise<void> => {
  for (let i = 0; i < 2000; i++) {
    const { work } = await client.call(endpoints.import, { params: { id } });
    if (work?.what === what) return;
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
  throw new Error(`the import never came to ${what}`);
};

describe('progress', () => {
  test('is told by events until the work is done', async () => {
    const id = await upload(admin, 'events.csv', CATERING(50, 'events'));
    const response = await fetch(`${admin.address}/api/imports/${id}/progress`, {
      headers: { cookie: admin.cookie },
    });
    expect(response.headers.get('content-type')).toContain('text/event-stream');
    const events = (await response.text())
      .split('\n\n')
      .filter(Boolean)
      .map((event) => JSON.parse(event.replace(/^data: /, '')) as { state: string; work: object | null });
    expect(events.at(-1)).toMatchObject({ state: 'ready', work: null });
  });
});

describe('new pay for everybody at work, planned in portions', () => {
  type Paid = { number: string; paid: string };
  const paidOn = (day: string) =>
    many<Paid>(
      running.owner,
      sql`select p.number, trim_scale(y.amount)::text as paid
        from pay_version y
        join list_entry_version k on k.list_entry_id = y.kind_id and k.superseded_by is null and (k.flags->>'base')::boolean
        join employment_version e on e.employment_id = y.employment_id and e.superseded_by is null
          and e.valid_from <= ${day}::date and ${day}::date < e.valid_until
        join person_version p on p.person_id = e.person_id and p.superseded_by is null
        where y.superseded_by is null and y.valid_from <= ${day}::date and ${day}::date < y.valid_until
          and (select count(*) from employment_version o
            where o.person_id = e.person_id and o.superseded_by is null and ${day}::date < o.valid_until) = 1
        order by 1
        limit 60`,
    );

  test('changes each from that day on and nothing before it; the twin at the end refuses the first row', async () => {
    const before = await paidOn('2027-02-28');
    expect(before.length).toBe(60);
    const raised = before.map(({ number }, i) => ({ number, paid: `${3000 + i}.5` }));
    const lines = [...raised, raised[0] as Paid].map(({ number, paid }) => `${number};${paid};2027-03-01`);
    const found = await takeIn(admin, 'raises.csv', ['Person number;Pay;From', ...lines].join('\n'));
    expect(found.counts).toEqual({ read: 61, new: 0, changed: 59, same: 0, refused: 2, left_out: 0 });
    expect((await rowsOf(admin, found.id, 'refused')).map(codes)).toEqual([
      ['number person_twice'],
      ['number person_twice'],
    ]);
    const words = Object.fromEntries(found.warnings.map(({ problem }) => [problem.code, 'agreed']));
    await admin.call(endpoints.writeImport, { params: { id: found.id }, body: { rows: 'good', words } });
    expect((await settled(admin, found.id)).state).toBe('written');
    expect(await paidOn('2027-02-28')).toEqual(before);
    expect(await paidOn('2027-03-01')).toEqual([before[0], ...raised.slice(1)]);
    const again = await takeIn(
      admin,
      'raises.csv',
      ['Person number;Pay;From', ...lines.slice(1, 60)].join('\n'),
    );
    expect(again.counts).toEqual({ read: 59, new: 0, changed: 0, same: 59, refused: 0, left_out: 0 });
  });
});
