// The organisation's own sections: rows that define them, rows of them, through two servers over one database.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import {
  type Day,
  type Edit,
  type Kind,
  type OwnField,
  type SectionName,
  catalogueEndpoints,
  endpoints,
  ownFieldName,
} from '@gremium/contract';
import { verifyJournal } from '@gremium/server';
import { type Client, type Running, asDemo, many, sql, startServer, takeOut } from './harness';

const FROM = '2026-11-23' as Day;
const LATER = '2027-01-01' as Day;
const ROW: Kind = 'own_row';

let one: Running;
let two: Running;
let admin: Client;
let elsewhere: Client;
let fleet: Client;
let crew: Client;
let section: SectionName;
let insider: number;
let outsider: number;
let unit: number;
let choices: number[];
const fields = new Map<string, number>();

const create = async (client: Client, kind: Kind, values: Record<string, unknown>, name: string = kind) =>
  client.call(endpoints.createRecord, {
    params: { kind },
    body: { from: FROM, sections: { [name]: values } },
  });

const define = async (code: string, kind: OwnField['kind'], place: number) => {
  const values = { code, label: { en: `${code} (en)`, de: `${code} (de)` }, kind, place, required: false };
  const { id } = await create(admin, 'own_field', { ...values, sectionId: Number(section.slice(4)) });
  fields.set(code, id);
};

const key = (code: string): string => ownFieldName(fields.get(code) ?? 0);

const valuesOf = (ownerId: number): Record<string, unknown> => ({
  ownerId,
  [key('locker')]: 'B-17 “Süd”',
  [key('size')]: '2.50',
  [key('deposit')]: { amount: '20', currency: 'EUR' },
  [key('given')]: '2026-11-20',
  [key('returned')]: false,
  [key('colour')]: choices[0],
  [key('extras')]: [choices[1], choices[2]],
  [key('where')]: unit,
});

const read = async (client: Client, id: number) =>
  (await client.call(endpoints.record, { params: { kind: ROW, id } })).sections[0]!;

const rowsOn = async (client: Client, on: Day) =>
  (await client.call(catalogueEndpoints.sectionRows, { params: { section }, query: { on, limit: 1000 } }))
    .rows;

beforeAll(async () => {
  one = await startServer('demo');
  two = await startServer('demo', { url: one.url });
  [admin, fleet] = [await asDemo(one.address, 'admin'), await asDemo(one.address, 'fleet')];
  [elsewhere, crew] = [await asDemo(two.address, 'admin'), await asDemo(two.address, 'crew')];
  const [found] = await many<{ id: number }>(
    one.owner,
    sql`select unit_id as id from unit_version where superseded_by is null and name = 'Fleet' limit 1`,
  );
  unit = found!.id;
  const people = await many<{ id: number; inside: boolean }>(
    one.owner,
    sql`select distinct on (inside) a.person_id as id, exists (
        select from position_version p join branch_periods(${unit}) b on b.unit_id = p.unit_id
          and b.valid_from <= a.anchor and a.anchor < b.valid_until
        where p.position_id = a.position_id and p.superseded_by is null
          and p.valid_from <= a.anchor and a.anchor < p.valid_until) as inside
      from person_anchors('2026-11-23') a order by inside, a.person_id`,
  );
  insider = people.find(({ inside }) => inside)!.id;
  outsider = people.find(({ inside }) => !inside)!.id;
});
afterAll(async () => {
  await two.close();
  await one.close();
});

describe('a section of the organisation’s own', () => {
  test('is defined by rows; the second server knows it, and each new field, before it answers about it', async () => {
    const names = async (client: Client) =>
      (await client.call(catalogueEndpoints.catalogue, {})).sections.map(({ name }) => name);
    expect((await names(elsewhere)).filter((name) => name.startsWith('own.'))).toEqual([]);
    const { id } = await create(admin, 'own_section', {
      code: 'LOCKER',
      label: { en: 'Lockers', de: 'Spinde' },
      of: 'person',
      several: true,
      sensitive: false,
      place: 1,
    });
    section = `own.${id}`;
    expect(await names(elsewhere)).toContain(section);
    const kinds = {
      locker: 'text',
      size: 'number',
      deposit: 'money',
      given: 'day',
      returned: 'yes_no',
      colour: 'list',
      extras: 'lists',
      where: 'unit',
    } as const;
    for (const [i, [code, kind]] of Object.entries(kinds).entries()) {
      await define(code, kind, i);
      const { sections } = await elsewhere.call(catalogueEndpoints.catalogue, {});
      const own = sections.find(({ name }) => name === section)!;
      expect(own.fields.at(-1)).toMatchObject({ name: key(code), label: `${code} (en)`, nullable: true });
    }
    choices = [];
    for (const code of ['red', 'blue', 'grün']) {
      const entry = {
        list: 'own',
        code,
        label: { en: code, de: code },
        flags: {},
        ownFieldId: fields.get(code === 'red' ? 'colour' : 'extras'),
      };
      choices.push((await create(elsewhere, 'list_entry', entry)).id);
    }
  });

  test('is written, versioned, told, found by both servers, and undone with all that rests on it', async () => {
    const { id, entry } = await create(elsewhere, ROW, valuesOf(insider), section);
    const given = { ...valuesOf(insider), [key('size')]: '2.5' };
    expect((await read(admin, id)).rows.map(({ values }) => values)).toEqual([given]);
    const edited = await admin.call(endpoints.editRecord, {
      params: { kind: ROW, id, section },
      body: {
        basedOn: (await read(admin, id)).lastEntry,
        edit: { mode: 'set', from: LATER, values: { [key('locker')]: 'C-1' } },
      },
    });
    const after = { ...given, [key('locker')]: 'C-1' };
    expect((await read(elsewhere, id)).rows.map(({ from, values }) => [from, values])).toEqual([
      [FROM, given],
      [LATER, after],
    ]);
    const said = await admin.call(endpoints.entry, { params: { number: edited.entry! } });
    expect(said.entry.about).toMatchObject([{ kind: 'person', id: insider }]);
    expect(said.recorded.map((row) => row.section)).toEqual([section, section]);
    for (const client of [admin, elsewhere]) {
      expect(await rowsOn(client, FROM)).toMatchObject([
        { thing: id, values: given, owner: { kind: 'person', id: insider } },
      ]);
      expect(await rowsOn(client, LATER)).toMatchObject([{ thing: id, values: after }]);
      expect(await rowsOn(client, '2026-11-22' as Day)).toEqual([]);
    }
    const record = await elsewhere.call(endpoints.personRecord, { params: { id: insider } });
    expect(record.rows.filter((row) => row.section === section)).toHaveLength(2);
    const plan = await elsewhere.patiently(endpoints.planUndo, { params: { number: entry! } });
    expect(plan.entries.map(({ number }) => number)).toEqual([edited.entry, entry]);
    await elsewhere.call(endpoints.undo, {
      params: { number: entry! },
      body: { plan: [edited.entry!, entry!] },
    });
    expect(await rowsOn(admin, LATER)).toEqual([]);
  });

  test('is scoped as what it is of: a branch sees and changes its own, nobody by another right', async () => {
    const inside = await create(admin, ROW, valuesOf(insider), section);
    const outside = await create(admin, ROW, valuesOf(outsider), section);
    expect((await rowsOn(fleet, FROM)).map(({ thing }) => thing)).toEqual([inside.id]);
    expect((await read(fleet, inside.id)).rows).toHaveLength(1);
    const hidden = { params: { kind: ROW, id: outside.id } };
    expect((await fleet.refusal(endpoints.record, hidden)).codes).toEqual(['record_hidden']);
    expect((await create(fleet, ROW, valuesOf(insider), section)).entry).toBeGreaterThan(0);
    await expect(create(fleet, ROW, valuesOf(outsider), section)).rejects.toThrow(/record_hidden/);
    // the crew's role names its sections, and this is none of them
    expect(await rowsOn(crew, FROM)).toEqual([]);
    expect((await crew.refusal(endpoints.record, { params: { kind: ROW, id: inside.id } })).codes).toEqual([
      'record_hidden',
    ]);
    const all = (await rowsOn(admin, FROM)).map(({ thing }) => thing);
    expect(all).toEqual(expect.arrayContaining([inside.id, outside.id]));
  });

  test('is a column, a filter, an order, a group of reports, and in their files, under its right', async () => {
    await create(admin, ROW, valuesOf(insider), section);
    const id = (code: string) => `${section}.${key(code)}`;
    const inText = (code: string) => `own.s${section.slice(4)}.${key(code)}`;
    const view = {
      subject: section,
      columns: [
        { field: 'person_name.name' },
        { field: id('locker') },
        { field: id('size'), total: 'sum' as const },
        { field: id('given') },
        { field: id('colour') },
        { field: id('where') },
      ],
      condition: `${inText('size')} > 2.4 && ${inText('locker')}.contains("süd") && ${inText('given')} <= on`,
      order: [{ field: id('size'), down: true }],
      groups: [id('colour')],
    };
    const ask = { language: 'en' as const, limit: 100, offset: 0 };
    const found = await admin.call(endpoints.runReport, { body: { view, ...ask } });
    const of = found.rows.find((row) => row.id === insider);
    expect(of?.cells.slice(1)).toEqual(['B-17 “Süd”', '2.5', '2026-11-20', 'red', 'Fleet']);
    expect(Number(found.totals[2]?.value)).toBe(2.5 * found.matched);
    expect(found.groups.map(({ label }) => label)).toContain('red');
    expect(found.columns[1]?.label).toBe('locker (en)');
    // of people it tells all rows of somebody
    const people = {
      ...view,
      subject: 'person_name' as const,
      groups: [],
      order: [],
      condition: `${inText('size')} == 2.5`,
    };
    const several = {
      ...people,
      columns: [
        { field: id('locker'), several: 'all' as const },
        { field: id('size'), several: 'count' as const },
      ],
    };
    const told = await elsewhere.call(endpoints.runReport, { body: { view: several, ...ask } });
    expect(told.rows.find((row) => row.id === insider)?.cells[0]).toContain('B-17 “Süd”');
    const parts = [{ title: 'x', view, layout: 'view' as const }];
    const { content } = await takeOut(admin, { title: 'x', parts, format: 'csv', language: 'de' });
    const text = content.toString('utf8');
    expect(text).toContain('locker (de)');
    expect(text).toContain('B-17 “Süd”');
    const own = await fleet.call(endpoints.runReport, { body: { view, ...ask } });
    expect(own.rows.every((row) => row.id !== outsider)).toBe(true);
    expect((await crew.refusal(endpoints.runReport, { body: { view, ...ask } })).codes).toEqual([
      'subject_hidden',
    ]);
    const { fields: offered } = await crew.call(endpoints.reportFields, {
      query: { subject: 'person_name', language: 'en' },
    });
    expect(offered.filter(({ isOwn }) => isOwn)).toEqual([]);
  });

  test('refuses what does not fit, naming the field', async () => {
    const refused = async (values: Record<string, unknown>) =>
      (
        await admin.refusal(endpoints.createRecord, {
          params: { kind: ROW },
          body: { from: FROM, sections: { [section]: { ...valuesOf(insider), ...values } } },
        })
      ).problems.map(({ code, field }) => `${code} ${field}`);
    const at = (code: string) => `sections.${section}.${key(code)}`;
    expect(await refused({ [key('size')]: 'wide' })).toEqual([`decimal_invalid ${at('size')}`]);
    expect(await refused({ [key('given')]: '2026-02-30' })).toEqual([`day_invalid ${at('given')}`]);
    expect(await refused({ [key('deposit')]: { amount: '1', currency: 'euro' } })).toEqual([
      `currency_invalid ${at('deposit')}.currency`,
    ]);
    // a choice made for another field
    expect(await refused({ [key('colour')]: choices[1] })).toEqual([`list_wrong ${key('colour')}`]);
    expect(await refused({ [key('where')]: 999_999_999 })).toEqual([`reference_missing ${key('where')}`]);
    expect(await refused({ '1': 'x' })).toEqual([`field_unknown sections.${section}`]);
    const gone = await admin.refusal(endpoints.createRecord, {
      params: { kind: ROW },
      body: { from: FROM, sections: { 'own.1': { ownerId: insider } } },
    });
    expect([gone.status, gone.codes]).toEqual([400, ['section_unknown']]);
  });

  test('a field defined later is empty in rows from before, and its definition is not undone without them', async () => {
    const { id } = await create(admin, ROW, valuesOf(insider), section);
    await define('note', 'long_text', 20);
    expect((await read(elsewhere, id)).rows[0]!.values).toMatchObject({ [key('note')]: null });
    const edited = await elsewhere.call(endpoints.editRecord, {
      params: { kind: ROW, id, section },
      body: {
        basedOn: (await read(elsewhere, id)).lastEntry,
        edit: { mode: 'set', from: LATER, values: { [key('note')]: 'Zeile 1\nZeile 2' } },
      },
    });
    expect((await rowsOn(admin, LATER)).find(({ thing }) => thing === id)!.values).toMatchObject({
      [key('note')]: 'Zeile 1\nZeile 2',
    });
    const [defined] = (await admin.call(endpoints.journal, { query: { thing: fields.get('note')! } }))
      .entries;
    const plan = await admin.patiently(endpoints.planUndo, { params: { number: defined!.number } });
    expect(plan.problems).toEqual([]);
    expect(plan.entries.map(({ number }) => number)).toEqual([edited.entry, defined!.number]);
  });

  test('keeps the kind of a field: values would no longer be what it says', async () => {
    const id = fields.get('locker')!;
    const { sections } = await admin.call(endpoints.record, { params: { kind: 'own_field', id } });
    const { lastEntry, rows } = sections[0]!;
    const change = (edit: Edit) =>
      admin.refusal(endpoints.editRecord, {
        params: { kind: 'own_field', id, section: 'own_field' },
        body: { basedOn: lastEntry, edit },
      });
    const codes = [
      (await change({ mode: 'set', from: LATER, values: { kind: 'person' }, override: false })).codes,
      (await change({ mode: 'mend', row: rows[0]!.id, values: { kind: 'day' } })).codes,
    ];
    expect(codes).toEqual([['value_constant'], ['value_constant']]);
  });

  test('of which there is one at a time takes no second one', async () => {
    const { id } = await create(admin, 'own_section', {
      code: 'DESK',
      label: { en: 'Desk', de: 'Tisch' },
      of: 'person',
      several: false,
      sensitive: false,
      place: 2,
    });
    await create(admin, ROW, { ownerId: insider }, `own.${id}`);
    await expect(create(elsewhere, ROW, { ownerId: insider }, `own.${id}`)).rejects.toThrow(/overlap/);
    expect((await create(elsewhere, ROW, { ownerId: outsider }, `own.${id}`)).entry).toBeGreaterThan(0);
  });

  test('leaves a journal that verifies', async () => {
    expect((await verifyJournal(one.owner)).faults).toEqual([]);
  });
});
