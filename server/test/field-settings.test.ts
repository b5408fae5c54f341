// What the organisation says of fields: hidden from a role on every way and back with all values, called otherwise, put
// elsewhere; what cannot be is refused.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import {
  type FieldSetting,
  type OwnField,
  type OwnSection,
  type SectionName,
  endpoints,
  ownFieldName,
  ownName,
} from '@gremium/contract';
import {
  type Client,
  type Running,
  asDemo,
  many,
  one,
  settled,
  sql,
  startServer,
  takeOut,
  upload,
  vacantPosition,
} from './harness';

let running: Running;
let admin: Client;
let fleet: Client;
/** Somebody of the fleet with a birth date. */
let sailor: { id: number; number: string; birth: string };

beforeAll(async () => {
  running = await startServer('demo');
  admin = await asDemo(running.address, 'admin');
  fleet = await asDemo(running.address, 'fleet');
  const { people } = await fleet.patiently(endpoints.people, { query: { limit: 40 } });
  sailor = await one(
    running.owner,
    sql`select v.person_id as id, v.number, v.birth_date::text as birth from person_version v
      where v.superseded_by is null and v.birth_date is not null and v.person_id = any(${people.map(({ id }) => id)})
      order by 1 limit 1`,
  );
});
afterAll(() => running.close());

const settings = new Map<string, number>();
const setting = async (section: string, field: string, said: Partial<FieldSetting>) => {
  const key = `${section}.${field}`;
  const id = settings.get(key);
  if (id === undefined) {
    const values = { section, field, label: null, hiddenFrom: null, place: null, shownIn: null, ...said };
    const made = await admin.call(endpoints.createRecord, {
      params: { kind: 'field_setting' },
      body: { from: '-infinity', sections: { field_setting: values } } as never,
    });
    settings.set(key, made.id);
    return made.entry;
  }
  const { row, last } = await one<{ row: number; last: number }>(
    running.owner,
    sql`select v.id as row, e.number as last from field_setting_version v join entry e on e.id = v.recorded_by
      where v.superseded_by is null and v.field_setting_id = ${id}`,
  );
  const changed = await admin.call(endpoints.editRecord, {
    params: { kind: 'field_setting', id, section: 'field_setting' },
    body: { edit: { mode: 'mend', row, values: said }, basedOn: last } as never,
  });
  return changed.entry;
};
const refusedSetting = async (section: string, field: string, said: Partial<FieldSetting>) =>
  (
    await admin.refusal(endpoints.createRecord, {
      params: { kind: 'field_setting' },
      body: {
        from: '-infinity',
        sections: {
          field_setting: {
            section,
            field,
            label: null,
            hiddenFrom: null,
            place: null,
            shownIn: null,
            ...said,
          },
        },
      } as never,
    })
  ).codes;

const view = (columns: string[], condition = '') => ({
  subject: 'person_name' as const,
  condition,
  groups: [],
  order: [],
  columns: columns.map((field) => ({
    field,
    ...(field.startsWith('own.') ? { several: 'latest' as const } : {}),
  })),
});
const run = (client: Client, columns: string[], condition = '') =>
  client.call(endpoints.runReport, {
    body: { view: view(columns, condition), language: 'en', limit: 200, offset: 0 } as never,
  });

// Everything in which the birth date of the sailor could stand.
const ways = async (client: Client) => {
  const record = await client.call(endpoints.personRecord, { params: { id: sailor.id } });
  const person = record.rows.find(({ section }) => section === 'person');
  const { sections } = await client.call(endpoints.catalogue, {});
  const { fields } = await client.call(endpoints.reportFields, { query: { subject: 'person_name' } });
  const { subjects } = await client.call(endpoints.importSubjects, {});
  const template = await client.send(endpoints.importTemplate, {
    query: { subject: 'people', format: 'csv' },
  });
  const out = await client.send(endpoints.personOut, {
    params: { id: sailor.id },
    query: { format: 'json' },
  });
  const { rows, columns } = await run(
    client,
    ['person_name.name', 'person.birthDate', 'person.age', 'person.nextBirthday'],
    `person.number == "${sailor.number}"`,
  );
  const [first] = await many<{ number: number }>(
    running.owner,
    sql`select e.number from person_version v join entry e on e.id = v.recorded_by where v.person_id = ${sailor.id}
      order by v.id limit 1`,
  );
  const entry = await client.call(endpoints.entry, { params: { number: first!.number } });
  const recorded = entry.recorded.filter((row) => row.section === 'person' && row.thing === sailor.id);
  return {
    record: person?.values['birthDate'] ?? null,
    catalogue: sections
      .find(({ name }) => name === 'person')
      ?.fields.some(({ name }) => name === 'birthDate'),
    builder: fields.map(({ id }) => id).filter((id) => /^person\.(birthDate|age|nextBirthday)$/.test(id)),
    columns: columns.map(({ why }) => why ?? 'seen'),
    cells: rows[0]?.cells.slice(1).map((cell) => cell !== null && cell !== ''),
    files: subjects.find(({ name }) => name === 'people')?.columns.some(({ name }) => name === 'birthDate'),
    template: (await template.text()).includes('Birth date'),
    out: (await out.text()).includes(sailor.birth),
    journal: recorded.map(({ values }) => (values as Record<string, unknown>)['birthDate'] ?? null),
  };
};

describe('a preset field hidden from a role', () => {
  test('is gone on every way for those, for nobody else, and back with all values', async () => {
    const seen = {
      ...{ record: sailor.birth, catalogue: true, files: true, template: true, out: true },
      builder: ['person.birthDate', 'person.age', 'person.nextBirthday'],
      ...{ columns: ['seen', 'seen', 'seen', 'seen'], cells: [true, true, true] },
      journal: [sailor.birth],
    };
    expect(await ways(fleet)).toEqual(seen);
    const before = await many(running.owner, sql`select * from person_version order by id`);
    const hidden = await setting('person', 'birthDate', { hiddenFrom: ['specialist', 'crew'] });
    expect(await ways(fleet)).toEqual({
      ...{ record: null, catalogue: false, files: false, template: false, out: false },
      builder: [],
      columns: ['seen', 'hidden', 'hidden', 'hidden'],
      cells: [false, false, false],
      journal: [null],
    });
    expect(await ways(admin)).toEqual(seen);
    // not blank: not there
    const { rows } = await fleet.call(endpoints.personRecord, { params: { id: sailor.id } });
    expect('birthDate' in rows.find(({ section }) => section === 'person')!.values).toBe(false);
    // a condition, an order, a group would tell
    for (const condition of [
      'person.birthDate > day("1990-01-01")',
      'person.age > 40',
      'blank(person.birthDate)',
    ])
      expect(
        (
          await fleet.refusal(endpoints.runReport, {
            body: {
              view: view(['person_name.name'], condition),
              language: 'en',
              limit: 10,
              offset: 0,
            } as never,
          })
        ).codes,
      ).toEqual(['field_hidden']);
    // what it was before a correction
    await setting('person', 'birthDate', { hiddenFrom: null });
    expect(await ways(fleet)).toEqual(seen);
    // the setting is an entry like others: undone, and that undone
    const { entry } = await admin.call(endpoints.undo, {
      params: { number: (await lastOf(hidden!))! },
      body: { plan: [(await lastOf(hidden!))!] },
    });
    expect((await ways(fleet)).record).toBeNull();
    await admin.call(endpoints.undo, { params: { number: entry! }, body: { plan: [entry!] } });
    expect(await ways(fleet)).toEqual(seen);
    expect(await many(running.owner, sql`select * from person_version order by id`)).toEqual(before);
  });

  // the entry after one: that which took the hiding back
  const lastOf = async (number: number): Promise<number | undefined> =>
    (
      await one<{ number: number }>(
        running.owner,
        sql`select max(number) as number from entry where number > ${number}`,
      )
    ).number;

  test('is written by nobody it is hidden from: not on the page, not by a file', async () => {
    await setting('person', 'birthDate', { hiddenFrom: ['specialist'] });
    const { rows, lastEntries } = await fleet.call(endpoints.personRecord, { params: { id: sailor.id } });
    const row = rows.find(({ section }) => section === 'person')!;
    const basedOn = lastEntries.find(({ section }) => section === 'person')!.number;
    const edit = (values: object) => ({
      edits: [
        {
          kind: 'person',
          id: sailor.id,
          section: 'person',
          basedOn,
          edit: { mode: 'mend', row: row.id, values },
        },
      ],
    });
    for (const value of ['1980-01-01', null]) {
      const { problems } = await fleet.refusal(endpoints.saveEdits, {
        body: edit({ birthDate: value }) as never,
      });
      expect(problems.map(({ code, field }) => [code, field])).toEqual([
        ['field_not_yours', 'edit.values.birthDate'],
      ]);
    }
    // whoever saved meanwhile is told of without it
    const clash = await fleet.refusal(endpoints.saveEdits, {
      body: {
        edits: [
          {
            ...{ kind: 'person', id: sailor.id, section: 'person', basedOn: 0 },
            edit: { mode: 'mend', row: row.id, values: { nationality: 'SE' } },
          },
        ],
      } as never,
    });
    expect(clash.codes).toEqual(['conflict']);
    expect(JSON.stringify(clash.body)).not.toContain(sailor.birth);
    expect(JSON.stringify(clash.body)).toContain('nationality');
    // another field of the section is: what is hidden stays
    await fleet.call(endpoints.saveEdits, { body: edit({ nationality: 'NO' }) as never });
    const now = await one<{ birth: string; nationality: string }>(
      running.owner,
      sql`select birth_date::text as birth, nationality from person_version where person_id = ${sailor.id} and superseded_by is null`,
    );
    expect(now).toEqual({ birth: sailor.birth, nationality: 'NO' });
    // nor by a hire
    const hire = async (person: object) =>
      fleet.send(endpoints.move, {
        body: {
          kind: 'hire',
          preview: true,
          input: {
            person: {
              name: { family: 'Öst' },
              contacts: [{ kind: 'phone', value: '+46 8 555 01' }],
              ...person,
            },
            positionId: await vacantPosition(running, fleet),
            firstDay: '2026-12-01',
          },
        } as never,
      });
    const told = await hire({ birthDate: '1990-01-01' });
    expect([told.status, ((await told.json()) as { problems: object[] }).problems]).toMatchObject([
      403,
      [{ code: 'field_not_yours', field: 'input.person.birthDate' }],
    ]);
    expect((await hire({})).status).toBe(200);
    const content = `Person number,Birth date,Nationality\n${sailor.number},1980-01-01,SE\n`;
    const file = await settled(fleet, await upload(fleet, 'people.csv', content));
    expect(file.columns.map(({ heading, field }) => [heading, field])).toEqual([
      ['Person number', 'number'],
      ['Birth date', null],
      ['Nationality', 'nationality'],
    ]);
    await setting('person', 'birthDate', { hiddenFrom: null });
  });

  test('nor by whoever makes something new, on no way; a value that is left out is none', async () => {
    await setting('location', 'fullTime', { hiddenFrom: ['administrator'] });
    const made = (values: object) => ({
      params: { kind: 'location' as const },
      body: {
        from: '-infinity',
        preview: true,
        sections: {
          location: { code: 'NEW', name: 'New', city: 'Turku', country: 'FI', timeZone: 'UTC', ...values },
        },
      } as never,
    });
    const { problems } = await admin.refusal(endpoints.createRecord, made({ fullTime: 3600 }));
    expect(problems.map(({ code, field }) => [code, field])).toEqual([
      ['field_not_yours', 'sections.location.fullTime'],
    ]);
    expect((await admin.call(endpoints.createRecord, made({}))).problems).toEqual([]);
    await setting('location', 'fullTime', { hiddenFrom: null });
  });

  test('what must be filled, names or places is hidden from nobody; a setting is of a field that there is, once', async () => {
    expect(await refusedSetting('person', 'number', { hiddenFrom: ['auditor'] })).toEqual(['setting_needed']);
    expect(await refusedSetting('person_name', 'family', { hiddenFrom: ['auditor'] })).toEqual([
      'setting_needed',
    ]);
    expect(await refusedSetting('person', 'nothing', {})).toEqual(['setting_of_nothing']);
    expect(await refusedSetting('contact', 'personId', {})).toEqual(['setting_of_nothing']);
    expect(await refusedSetting('person', 'birthDate', {})).toEqual(['setting_there']);
    expect(await refusedSetting('person', 'gender', { shownIn: 'unit' })).toEqual(['setting_elsewhere']);
    expect(await refusedSetting('person', 'gender', { shownIn: 'contact' })).toEqual(['setting_elsewhere']);
    const { codes } = await fleet.refusal(endpoints.createRecord, {
      params: { kind: 'field_setting' },
      body: {
        from: '-infinity',
        sections: { field_setting: { section: 'person', field: 'gender' } },
      } as never,
    });
    expect(codes).toContain('right_missing');
  });
});

test('a preset field called otherwise is called so in catalogue, builder, template and files, and found by both names', async () => {
  await setting('unit', 'legalEntityId', { label: { en: 'Employer', de: 'Dienstgeber' }, place: 10 });
  const { sections } = await admin.call(endpoints.catalogue, {});
  const unit = sections.find(({ name }) => name === 'unit')!;
  expect(unit.fields.find(({ name }) => name === 'legalEntityId')?.label).toBe('Employer');
  const { fields } = await admin.call(endpoints.reportFields, { query: { subject: 'unit', language: 'de' } });
  expect(fields.find(({ id }) => id === 'unit.legalEntityId')?.label).toBe('Dienstgeber');
  const template = await admin.send(endpoints.importTemplate, { query: { subject: 'unit', format: 'csv' } });
  expect(await template.text()).toContain('Employer');
  const code = await one<{ code: string }>(
    running.owner,
    sql`select code from unit_version where superseded_by is null order by id limit 1`,
  );
  for (const heading of ['Dienstgeber', 'Legal entity']) {
    const file = await settled(
      admin,
      await upload(admin, 'units.csv', `Code,${heading}\n${code.code},\n`, 'unit'),
    );
    expect(file.columns.map(({ field }) => field)).toEqual(['code', 'legalEntityId']);
  }
});

describe('an own field', () => {
  let made = 0;
  const make = async (kind: 'own_section' | 'own_field', values: object): Promise<number> => {
    const place = ++made;
    const label = { en: `N${place}`, de: `N${place}` };
    const { id } = await admin.call(endpoints.createRecord, {
      params: { kind },
      body: {
        from: '-infinity',
        sections: { [kind]: { code: `N${place}`, label, place, ...values } },
      } as never,
    });
    return id;
  };
  const section = (more: Partial<OwnSection> = {}) =>
    make('own_section', { of: 'person', several: false, sensitive: false, ...more });
  const field = (sectionId: number, more: Partial<OwnField> = {}) =>
    make('own_field', { sectionId, kind: 'text', required: false, ...more });

  test('is hidden from a role while its section is not; shown in a section that a role does not see, it is hidden too', async () => {
    const [open, closed] = [await section(), await section({ seenBy: ['administrator'] })];
    const [badge, size] = [await field(open), await field(open)];
    const name = ownName(open) as SectionName;
    const values = { ownerId: sailor.id, [ownFieldName(badge)]: 'B-1', [ownFieldName(size)]: 'L' };
    await admin.call(endpoints.saveEdits, {
      body: {
        edits: [{ section: name, edit: { mode: 'create', from: '2026-01-01', until: 'infinity', values } }],
      } as never,
    });
    const said = async (client: Client) => {
      const { rows } = await client.call(endpoints.personRecord, { params: { id: sailor.id } });
      const { ownerId: _, ...own } = rows.find((row) => row.section === name)!.values;
      return Object.values(own);
    };
    const audit = await asDemo(running.address, 'audit');
    expect([await said(audit), await said(fleet)]).toEqual([
      ['B-1', 'L'],
      ['B-1', 'L'],
    ]);
    await setting(name, ownFieldName(badge), { hiddenFrom: ['auditor'] });
    await setting(name, ownFieldName(size), { shownIn: ownName(closed) });
    expect([await said(audit), await said(fleet), await said(admin)]).toEqual([[], ['B-1'], ['B-1', 'L']]);
    // a report of before says the same to those who see it, and tells nobody else
    const columns = [`${name}.${ownFieldName(size)}`];
    const condition = `person.number == "${sailor.number}"`;
    expect((await run(admin, columns, condition)).rows[0]?.cells).toEqual(['L']);
    expect((await run(audit, columns, condition)).columns.map(({ why }) => why)).toEqual(['hidden']);
    // what is defined for others is not told either
    const { rows } = await audit.call(endpoints.reference, { query: {} });
    const defined = rows.flatMap((row) => (row.section === 'own_field' ? row.thing : []));
    expect([defined.includes(badge), defined.includes(size)]).toEqual([false, false]);
    // a field hidden from somebody is not made one that must be filled
    const row = await one<{ id: number; last: number }>(
      running.owner,
      sql`select v.id, e.number as last from own_field_version v join entry e on e.id = v.recorded_by
        where v.own_field_id = ${badge} and v.superseded_by is null`,
    );
    const { codes } = await admin.refusal(endpoints.editRecord, {
      params: { kind: 'own_field', id: badge, section: 'own_field' },
      body: { edit: { mode: 'mend', row: row.id, values: { required: true } }, basedOn: row.last } as never,
    });
    expect(codes).toEqual(['setting_needed']);
  });

  test('definitions reach whoever sees what they define, and nobody else but those who define', async () => {
    const [mine, others] = [await section({ seenBy: ['administrator', 'crew'] }), await section()];
    const [told, closed, elsewhere] = [await field(mine), await field(mine), await field(others)];
    await setting(ownName(mine), ownFieldName(closed), { hiddenFrom: ['crew'] });
    const defined = async (client: Client) => {
      const { rows } = await client.call(endpoints.reference, { query: {} });
      const things = rows.flatMap((row) =>
        row.section === 'own_section' || row.section === 'own_field' ? row.thing : [],
      );
      return [mine, others, told, closed, elsewhere].map((id) => things.includes(id));
    };
    expect(await defined(await asDemo(running.address, 'crew'))).toEqual([true, false, true, false, false]);
    expect(await defined(admin)).toEqual([true, true, true, true, true]);
  });

  test('taken out by those who see it only: a file of its section has no column for others', async () => {
    const id = await section();
    const [told, closed] = [await field(id), await field(id)];
    const name = ownName(id) as SectionName;
    await setting(name, ownFieldName(closed), { hiddenFrom: ['specialist'] });
    const values = { ownerId: sailor.id, [ownFieldName(told)]: 'told', [ownFieldName(closed)]: 'closed' };
    await admin.call(endpoints.saveEdits, {
      body: {
        edits: [{ section: name, edit: { mode: 'create', from: '2026-01-01', until: 'infinity', values } }],
      } as never,
    });
    const taken = async (client: Client) => {
      const part = {
        title: 'x',
        view: { ...view([`${name}.${ownFieldName(told)}`]), subject: name },
        layout: 'import' as const,
      };
      return (
        await takeOut(client, { title: 'x', format: 'csv', parts: [part] } as never)
      ).content.toString();
    };
    expect([(await taken(admin)).includes('closed'), (await taken(fleet)).includes('closed')]).toEqual([
      true,
      false,
    ]);
    expect((await taken(fleet)).includes('told')).toBe(true);
  });
});
