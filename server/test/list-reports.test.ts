// List reports over HTTP: worked out as the viewer's rights are, counted by SQL, shared, taken out, refused by field.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type Day, type ReportKept, type ViewDefinition, endpoints, preset } from '@gremium/contract';
import excel from 'exceljs';
import { type Client, type Running, asDemo, many, one, sql, startServer, takeOut } from './harness';

const TODAY = '2026-11-23' as Day;
let running: Running;
let admin: Client;
let fleet: Client;
let tallinn: Client;
let crew: Client;
beforeAll(async () => {
  running = await startServer('demo');
  [admin, fleet, tallinn, crew] = (await Promise.all(
    (['admin', 'fleet', 'tallinn', 'crew'] as const).map((who) => asDemo(running.address, who)),
  )) as [Client, Client, Client, Client];
});
afterAll(() => running.close());

const HERE = 'employment.status in ["at_work", "away"]';
const viewOf = (more: Partial<ViewDefinition> & Pick<ViewDefinition, 'columns'>): ViewDefinition => ({
  subject: 'person_name',
  condition: '',
  groups: [],
  order: [],
  ...more,
});
const run = (client: Client, view: ViewDefinition, more: object = {}) =>
  client.call(endpoints.runReport, { body: { view, language: 'en', limit: 500, offset: 0, ...more } });
const refused = (client: Client, view: ViewDefinition) =>
  client.refusal(endpoints.runReport, { body: { view, language: 'en', limit: 10, offset: 0 } });

describe('what comes of a view', () => {
  test('fixed terms ending by summer: as many as SQL finds, with days left, in groups that add up', async () => {
    const until = '2027-06-01';
    const found = await run(
      admin,
      viewOf({
        columns: [
          { field: 'person_name.name' },
          { field: 'contract.fixedUntil' },
          { field: 'contract.daysLeft', total: 'least' },
          { field: 'placement.share', total: 'sum' },
        ],
        condition: `${HERE} && contract.fixedUntil < day("${until}")`,
        groups: ['unit.name'],
        order: [{ field: 'contract.fixedUntil', down: false }],
      }),
    );
    const { count, share } = await one<{ count: number; share: string }>(
      running.owner,
      sql`select count(distinct e.person_id)::int as count, sum((h.hours - h.lent_hours)::numeric / h.full_time)::numeric(12, 2)::text as share
        from contract_version c
        join employment_version e on e.employment_id = c.employment_id and e.superseded_by is null and e.valid_from <= ${TODAY} and e.valid_until > ${TODAY}
        join placement_version h on h.employment_id = c.employment_id and h.superseded_by is null and h.kind = 'primary' and h.valid_from <= ${TODAY} and h.valid_until > ${TODAY}
        where c.superseded_by is null and c.valid_from <= ${TODAY} and c.valid_until > ${TODAY} and c.fixed_until < ${until}`,
    );
    expect(count).toBeGreaterThan(5);
    expect([found.matched, found.things]).toEqual([count, count]);
    expect(Number(found.totals[3]?.value)).toBe(Number(share));
    expect(found.groups.reduce((sum, group) => sum + group.rows, 0)).toBe(count);
    const shares = found.groups.map(({ totals }) => Number(totals[3]?.value ?? 0));
    expect(shares.reduce((sum, one) => sum + one, 0)).toBeCloseTo(Number(share), 6);
    const days = found.rows.map(({ cells }) => [cells[1], cells[2]] as [string, number]);
    for (const [day, left] of days) expect(left).toBe((Date.parse(day) - Date.parse(TODAY)) / 86_400_000);
  });

  test('on another day, and as it was known before an entry', async () => {
    const view = viewOf({ columns: [{ field: 'person_name.name' }], condition: HERE });
    const [now, then] = [await run(admin, view), await run(admin, view, { on: '2020-01-01' })];
    const { count } = await one<{ count: number }>(
      running.owner,
      sql`select count(distinct person_id)::int as count from employment_version where superseded_by is null
        and valid_from <= '2020-01-01' and valid_until > '2020-01-01'`,
    );
    expect(then.matched).toBe(count);
    expect(then.matched).not.toBe(now.matched);
    const [, second] = (await admin.call(endpoints.journal, { query: { limit: 30 } })).entries;
    const before = await run(admin, view, { recordedBy: second!.moment });
    expect(before.entry).toBeLessThanOrEqual(now.entry);
  });

  test('every shipped report of the shelf works for whoever may open the shelf, and says what is not theirs', async () => {
    const { reports } = await admin.call(endpoints.reports, {});
    const shipped = reports.filter(({ owner }) => owner === null);
    expect(shipped.length).toBeGreaterThan(10);
    for (const { name, view } of shipped) {
      const found = await run(admin, view);
      expect([name, found.columns.every(({ why }) => why === null)]).toEqual([name, true]);
    }
    const mine = await fleet.call(endpoints.reports, {});
    expect(mine.reports.map(({ name }) => name)).toEqual(reports.map(({ name }) => name));
  });
});

describe('rights', () => {
  const PAY = viewOf({
    columns: [
      { field: 'person_name.name' },
      { field: 'unit.name' },
      { field: 'pay.amount', total: 'sum' },
      { field: 'pay.compaRatio' },
    ],
    condition: HERE,
    order: [{ field: 'person_name.name', down: false }],
  });

  test('shared with a specialist of Fleet and a manager without pay, it shows what their rights are', async () => {
    const [all, own, led] = [await run(admin, PAY), await run(fleet, PAY), await run(tallinn, PAY)];
    expect(own.matched).toBeGreaterThan(10);
    expect(own.matched).toBeLessThan(all.matched);
    const people = new Set(all.rows.map(({ id }) => id));
    const rest = await run(admin, PAY, { offset: 500 });
    for (const { id } of rest.rows) people.add(id);
    expect(own.columns.map(({ why }) => why)).toEqual([null, null, null, null]);
    expect(led.columns.map(({ why }) => why)).toEqual([null, null, 'hidden', 'hidden']);
    expect(led.columns[2]?.section).toBe('Pay');
    expect(led.totals[2]).toBeNull();
    expect(led.rows.every(({ cells }) => cells[2] === null && cells[3] === null)).toBe(true);
    const inside = await many<{ id: number }>(
      running.owner,
      sql`with recursive b (id) as (
          select unit_id from unit_version where name = 'Tallinn Harbour' and superseded_by is null
          union select v.unit_id from unit_version v join b on v.parent_id = b.id where v.superseded_by is null
            and v.valid_from <= ${TODAY} and v.valid_until > ${TODAY})
        select distinct e.person_id as id from placement_version h
          join employment_version e using (employment_id) join position_version p using (position_id) join b on b.id = p.unit_id
        where h.superseded_by is null and e.superseded_by is null and p.superseded_by is null and h.kind = 'primary'
          and h.valid_from <= ${TODAY} and h.valid_until > ${TODAY} and e.valid_from <= ${TODAY} and e.valid_until > ${TODAY}
          and p.valid_from <= ${TODAY} and p.valid_until > ${TODAY}
          -- somebody with a second employment is where the main one is
          and not exists (select 1 from employment_version o where o.person_id = e.person_id and o.superseded_by is null
            and o.valid_from <= ${TODAY} and o.valid_until > ${TODAY} and o.employment_id <> e.employment_id and o.valid_from < e.valid_from)
        order by 1`,
    );
    expect(led.rows.map(({ id }) => id).sort((a, b) => a - b)).toEqual(inside.map(({ id }) => id));
  });

  test('a condition, an order, a group that names what one may not see is refused, naming the section', async () => {
    for (const more of [
      { condition: 'pay.amount > 3000' },
      { condition: 'true || pay.yearlyPay > 1' },
      { order: [{ field: 'pay.amount', down: true }] },
      { groups: ['pay.currency'] },
    ]) {
      const no = await refused(tallinn, viewOf({ columns: [{ field: 'person_name.name' }], ...more }));
      expect([no.status, no.problems[0]]).toMatchObject([
        403,
        { code: 'field_hidden', field: 'view.condition', params: { section: 'Pay' } },
      ]);
    }
    expect(
      (await refused(crew, viewOf({ subject: 'position', columns: [{ field: 'position.title' }] }))).status,
    ).toBe(403);
  });

  test('no order or condition over any field tells a manager of what is outside: brute force', async () => {
    const { fields } = await tallinn.call(endpoints.reportFields, {
      query: { subject: 'person_name', language: 'en' },
    });
    const names = { columns: [{ field: 'person_name.name' }], condition: HERE };
    const ids = (await run(tallinn, viewOf(names))).rows.map(({ id }) => id).sort((a, b) => a - b);
    expect(fields.length).toBeGreaterThan(100);
    const needsPay = fields.filter(
      ({ section }) => section === 'pay' || section === 'contract' || section === 'person',
    );
    expect(needsPay).toEqual([]);
    for (const { id, isSeveral } of fields.filter((_, i) => i % 4 === 0)) {
      if (isSeveral) continue;
      const found = await run(tallinn, viewOf({ ...names, order: [{ field: id, down: false }] }));
      expect([id, found.rows.map((row) => row.id).sort((a, b) => a - b)]).toEqual([id, ids]);
    }
  });

  test('somebody who sees one record gets that one', async () => {
    const found = await run(
      crew,
      viewOf({ columns: [{ field: 'person_name.name' }, { field: 'pay.amount' }] }),
    );
    expect(found.matched).toBe(1);
  });
});

describe('what is wrong', () => {
  test('is said with its place, in the language asked for', async () => {
    const columns = [{ field: 'person_name.name' }];
    const open = await refused(admin, viewOf({ columns, condition: 'person.age > ' }));
    expect(open.problems).toMatchObject([
      { code: 'condition_unread', field: 'view.condition', params: { at: 14 } },
    ]);
    const typed = await admin.refusal(endpoints.runReport, {
      body: {
        view: viewOf({ columns, condition: 'person.age > "x"' }),
        language: 'de',
        limit: 10,
        offset: 0,
      },
    });
    expect(typed.problems).toMatchObject([
      { code: 'condition_type', params: { at: 14, expected: 'eine Zahl' } },
    ]);
    const unknown = await refused(admin, viewOf({ columns, condition: 'person.shoe == 1' }));
    expect(unknown.problems).toMatchObject([{ code: 'field_unknown', params: { field: 'person.shoe' } }]);
    expect((await refused(admin, viewOf({ subject: 'nothing' as never, columns }))).status).toBe(400);
    const gone = await run(admin, viewOf({ columns: [{ field: 'person.shoe' }, ...columns] }));
    expect(gone.columns.map(({ why }) => why)).toEqual(['unknown', null]);
  });
});

describe('the shelf', () => {
  const kept = (more: Partial<ReportKept> = {}): ReportKept => ({
    name: 'Meine Häfen',
    folder: 'Harbours',
    tags: ['winter'],
    shared: [],
    view: viewOf({ columns: [{ field: 'person_name.name' }, { field: 'pay.amount' }], condition: HERE }),
    ...more,
  });

  test('a report is its maker’s, until it is shared; who may view does not shape it, and to others it is not there', async () => {
    const { id } = await admin.call(endpoints.makeReport, { body: kept() });
    const sees = async (client: Client) =>
      (await client.call(endpoints.reports, {})).reports.find((report) => report.id === id);
    expect(await sees(tallinn)).toBeUndefined();
    const params = { id };
    const stranger = await tallinn.refusal(endpoints.changeReport, { params, body: kept({ name: 'x' }) });
    expect([stranger.status, stranger.codes]).toEqual([404, ['report_unknown']]);
    await admin.call(endpoints.changeReport, {
      params,
      body: kept({ shared: [{ role: 'manager', may: 'view' }] }),
    });
    expect(await sees(tallinn)).toMatchObject({ isMine: false, mayShape: false, shared: [] });
    expect(await sees(fleet)).toBeUndefined();
    expect((await tallinn.refusal(endpoints.changeReport, { params, body: kept() })).status).toBe(403);
    await admin.call(endpoints.changeReport, {
      params,
      body: kept({ shared: [{ account: 'fleet@vessmar.example', may: 'shape' }] }),
    });
    const shaped = await fleet.call(endpoints.changeReport, {
      params,
      body: kept({ name: 'By Fleet', shared: [] }),
    });
    expect(shaped.name).toBe('By Fleet');
    // whoever shapes it does not take it from others
    expect((await sees(admin))?.shared).toEqual([{ account: 'fleet@vessmar.example', may: 'shape' }]);
    expect((await fleet.refusal(endpoints.deleteReport, { params })).status).toBe(403);
    await admin.call(endpoints.deleteReport, { params });
    expect(await sees(fleet)).toBeUndefined();
    expect((await sees(admin))?.deletedAt).not.toBeNull();
    await admin.call(endpoints.restoreReport, { params });
    expect((await sees(fleet))?.name).toBe('By Fleet');
  });
});

describe('taken out', () => {
  const view = viewOf({
    columns: [
      { field: 'person_name.name' },
      { field: 'contract.fixedUntil' },
      { field: 'pay.amount', total: 'sum' },
      { field: 'contact.value', several: 'all' },
    ],
    condition: `${HERE} && !blank(contract.fixedUntil)`,
    groups: ['unit.name'],
    order: [{ field: 'person_name.name', down: false }],
  });
  const file = async (client: Client, format: 'csv' | 'xlsx', language: 'en' | 'de' = 'en') => {
    const parts = [{ title: 'Fixed terms', view, layout: 'view' as const }];
    return (await takeOut(client, { title: 'Fixed terms', parts, format, language })).content;
  };

  test('a workbook has typed cells, both clocks, the filter, who and the entry; it says what the screen says', async () => {
    const shown = await run(admin, view);
    const book = new excel.Workbook();
    await book.xlsx.load((await file(admin, 'xlsx')) as never);
    const sheet = book.worksheets[0]!;
    const rows = sheet.getSheetValues().slice(1) as unknown[][];
    const at = rows.findIndex((row) => row?.[1] === 'Name');
    const head = rows.slice(0, at).map((row) => row?.slice(1));
    expect(head[0]).toEqual(['Fixed terms']);
    expect(head[1]).toEqual(['In effect on', TODAY]);
    expect(String(head[2]?.[1])).toContain(`entry ${shown.entry}`);
    expect(head[3]).toEqual(['Taken out by', 'Tuuli Kaskela']);
    expect(head[4]).toEqual(['Filter', view.condition]);
    expect(head[5]).toEqual(['Rows', shown.matched]);
    const people = rows
      .slice(at + 1)
      .filter((row) => typeof (row?.[2] as Date | undefined)?.getTime === 'function');
    expect(people.map((row) => row[1])).toEqual(shown.rows.map(({ cells }) => cells[0]));
    expect(people.map((row) => (row[2] as Date).toISOString().slice(0, 10))).toEqual(
      shown.rows.map(({ cells }) => cells[1]),
    );
    expect(people.map((row) => row[3])).toEqual(shown.rows.map(({ cells }) => Number(cells[2])));
    expect(rows.at(-1)?.[3]).toBe(Number(shown.totals[2]?.value));
    expect(sheet.views[0]).toMatchObject({ state: 'frozen' });
    expect(sheet.autoFilter).toBeTruthy();
  });

  test('a text file too, in German; a manager’s has no pay and says so', async () => {
    const text = (await file(admin, 'csv', 'de')).toString('utf8');
    expect(text).toContain('Gültig am,2026-11-23');
    expect(text).toContain('Exportiert von,Tuuli Kaskela');
    const parts = [{ title: 'x', view: { ...view, condition: HERE }, layout: 'view' as const }];
    const { content } = await takeOut(tallinn, { title: 'x', parts, format: 'csv' });
    const led = content.toString('utf8');
    expect(led).toContain('not yours to see: Pay');
    const pay = preset.section('pay');
    expect(pay.sensitive).toBe(false);
  });
});

describe('entries and movements', () => {
  const ledger = (subject: string, more: Partial<ViewDefinition> = {}) =>
    viewOf({
      subject: subject as ViewDefinition['subject'],
      columns: ['number', 'recordedOn', 'act', 'account', 'personId', 'changedFrom', 'undone'].map(
        (field) => ({
          field: `${subject}.${field}`,
        }),
      ),
      ...more,
    });

  test('as many as the journal has, by whom and of whom; a transfer changes things from its first day', async () => {
    const entries = await run(admin, ledger('entry'));
    const { count } = await one<{ count: number }>(
      running.owner,
      // what people tell of themselves is nobody else's to list
      sql`select count(*)::int as count from entry where sections <> '{declared_fact}'`,
    );
    expect(entries.matched).toBe(count);
    const moves = await run(admin, ledger('movement', { condition: 'movement.act == "transfer"' }));
    const kinds = await many<{ kind: string; count: number }>(
      running.owner,
      sql`select kind, count(*)::int as count from entry where kind = 'transfer' group by 1`,
    );
    expect(moves.matched).toBe(kinds[0]?.count);
    // of one of them: the day on which the newest placement it wrote begins
    const [row] = moves.rows;
    const number = Number(row?.id);
    expect(row?.kind).toBe('entry');
    const { began } = await one<{ began: string }>(
      running.owner,
      sql`select to_char(max(v.valid_from), 'YYYY-MM-DD') as began from placement_version v join entry e on e.id = v.recorded_by
        where e.number = ${number}`,
    );
    expect(row?.cells[5]).toBe(began);
  });

  test('of a period; a change that was undone says so, and is read anew after the next entry', async () => {
    const period = { from: 'on-365', until: 'on' } as const;
    const before = await run(admin, ledger('entry', { period }));
    const { count } = await one<{ count: number }>(
      running.owner,
      sql`select count(*)::int as count from entry where (moment at time zone 'Europe/Helsinki')::date
        between ${TODAY}::date - 365 and ${TODAY}::date`,
    );
    expect(Math.abs(before.matched - count)).toBeLessThanOrEqual(1);
    expect(before.matched).toBeLessThan((await run(admin, ledger('entry'))).matched);
    const unit = (await admin.call(endpoints.find, { query: { text: 'Harbours', kind: 'unit' } })).found[0]!;
    const record = await admin.call(endpoints.record, { params: { kind: 'unit', id: unit.id } });
    const made = await admin.call(endpoints.saveEdits, {
      body: {
        edits: [
          {
            section: 'unit',
            kind: 'unit',
            id: unit.id,
            basedOn: record.sections.find(({ name }) => name === 'unit')!.lastEntry,
            edit: { mode: 'set', override: false, from: TODAY, values: { name: 'Harbours and quays' } },
          },
        ],
        reason: 'trial',
      } as never,
    });
    const number = made.entry as number;
    const asked = () => run(admin, ledger('entry', { condition: `entry.number == ${number}` }));
    expect((await asked()).rows[0]?.cells).toEqual([
      number,
      expect.any(String),
      'Change',
      expect.any(String),
      null,
      TODAY,
      false,
    ]);
    const plan = await admin.patiently(endpoints.planUndo, { params: { number } });
    await admin.call(endpoints.undo, {
      params: { number },
      body: { plan: plan.entries.map((entry) => entry.number) },
    });
    expect((await asked()).rows[0]?.cells[6]).toBe(true);
  });

  test('for nobody but those who read the whole journal', async () => {
    for (const client of [fleet, tallinn, crew])
      expect(await refused(client, ledger('entry'))).toMatchObject({
        status: 403,
        codes: ['subject_hidden'],
      });
  });
});

describe('a list and the same as a condition', () => {
  const inside = (code: string) => `unit.within == "${code}"`;
  test.each([
    ['here', HERE],
    ['coming', 'employment.status == "coming"'],
    ['left', 'employment.status == "left"'],
    ['counted', `${HERE} && employment.counts == true`],
  ] as const)('%s: the same people, for an administrator and within a part', async (status, condition) => {
    const { id, code } = await one<{ id: number; code: string }>(
      running.owner,
      sql`select unit_id as id, code from unit_version where name = 'Harbours' and superseded_by is null`,
    );
    for (const client of [admin, fleet, tallinn])
      for (const branch of [undefined, id]) {
        const list = await client.call(endpoints.people, {
          query: { status, limit: 200, offset: 0, ...(branch ? { branch } : {}) },
        });
        const found = await run(
          client,
          viewOf({
            columns: [{ field: 'person_name.name' }],
            condition: branch ? `${condition} && ${inside(code)}` : condition,
            order: [{ field: 'person_name.listed', down: false }],
          }),
        );
        expect([status, branch, found.matched]).toEqual([status, branch, list.total]);
        const ids = (all: { id: number }[]) => all.slice(0, 200).map((one) => one.id);
        expect(ids(found.rows)).toEqual(ids(list.people));
      }
  });
});

describe('lists', () => {
  test('people by any field: the same as the report finds, page by page; wrong and hidden fields are refused', async () => {
    const where = 'contract.fixedUntil < day("2027-06-01") && person.age > 40';
    const report = await run(
      admin,
      viewOf({
        columns: [{ field: 'person_name.name' }],
        condition: `${HERE} && ${where}`,
        order: [{ field: 'person_name.listed', down: false }],
      }),
    );
    expect(report.matched).toBeGreaterThan(3);
    const pages = await Promise.all(
      [0, 3].map((offset) =>
        admin.call(endpoints.people, {
          query: { where, status: 'here', limit: offset === 0 ? 3 : 200, offset },
        }),
      ),
    );
    expect(pages.map(({ total }) => total)).toEqual([report.matched, report.matched]);
    expect(pages.flatMap(({ people }) => people.map(({ id }) => id))).toEqual(
      report.rows.map(({ id }) => id),
    );
    const wrong = (client: Client, text: string) =>
      client.refusal(endpoints.people, { query: { where: text, limit: 10, offset: 0 } });
    expect(await wrong(admin, 'person.age >> 5')).toMatchObject({ status: 400, codes: ['condition_unread'] });
    expect(await wrong(tallinn, 'pay.amount > 1')).toMatchObject({ status: 403, codes: ['field_hidden'] });
  });

  test('positions that a condition matches, by their ids', async () => {
    const found = await admin.call(endpoints.matching, {
      body: { subject: 'position' as never, condition: 'position.temporary == true', language: 'en' },
    });
    const rows = await many<{ id: number }>(
      running.owner,
      sql`select position_id as id from position_version where superseded_by is null and temporary
        and valid_from <= ${TODAY} and valid_until > ${TODAY}`,
    );
    const sorted = (ids: number[]) => [...ids].sort((a, b) => a - b);
    expect(sorted(found.ids)).toEqual(sorted(rows.map(({ id }) => id)));
  });

  test('the tree of who reports to whom holds everybody placed once, under the manager that their record names', async () => {
    const under = async (client: Client, id?: number) =>
      (await client.call(endpoints.reportingTree, { query: id === undefined ? {} : { under: id } })).people;
    const tops = await under(admin);
    const seen = new Set(tops.map(({ id }) => id));
    const open = [...tops];
    const sample: [number, number][] = [];
    for (let one = open.pop(); one; one = open.pop()) {
      if (one.reports === 0) continue;
      const below = await under(admin, one.id);
      expect(below).toHaveLength(one.reports);
      for (const each of below) {
        expect(seen.has(each.id)).toBe(false);
        seen.add(each.id);
        if (sample.length < 25 && each.id % 7 === 0) sample.push([each.id, one.id]);
      }
      open.push(...below);
    }
    const { count } = await one<{ count: number }>(
      running.owner,
      sql`select count(distinct e.person_id)::int as count from placement_version h
        join employment_version e on e.employment_id = h.employment_id and e.superseded_by is null
          and e.valid_from <= ${TODAY} and e.valid_until > ${TODAY}
        where h.superseded_by is null and h.kind = 'primary' and h.valid_from <= ${TODAY} and h.valid_until > ${TODAY}`,
    );
    expect(seen.size).toBe(count);
    expect(sample.length).toBeGreaterThan(10);
    for (const [id, manager] of sample) {
      const { managers } = await admin.call(endpoints.personRecord, { params: { id } });
      expect(managers[0]?.personId).toBe(manager);
    }
    // within a part the tree begins where the part does
    const own = await under(fleet);
    expect(own.length).toBeGreaterThan(0);
    expect(own.length).toBeLessThan(tops.length + 50);
  });
});

describe('the journal by a condition', () => {
  test('entries of one act and person, latest first, page by page; of a part it is refused', async () => {
    const where = 'entry.act == "leave" && entry.people == 1 && entry.recordedOn > day("2025-01-01")';
    const report = await run(
      admin,
      viewOf({
        subject: 'entry' as ViewDefinition['subject'],
        columns: [{ field: 'entry.number' }],
        condition: where,
        order: [{ field: 'entry.number', down: true }],
      }),
    );
    expect(report.matched).toBeGreaterThan(10);
    const page = async (offset: number) =>
      (await admin.call(endpoints.journal, { query: { where, limit: 5, offset } })).entries.map(
        ({ number }) => number,
      );
    expect([...(await page(0)), ...(await page(5))]).toEqual(
      report.rows.slice(0, 10).map(({ cells }) => cells[0]),
    );
    expect(await fleet.refusal(endpoints.journal, { query: { where, limit: 5 } })).toMatchObject({
      status: 403,
    });
  });
});
