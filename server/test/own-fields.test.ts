// Own fields over HTTP: filled late, unique late, formed, ranged, seen by some roles, with a file, retired and brought back.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
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
import {
  type FileRef,
  type OwnField,
  type OwnSection,
  type SectionName,
  endpoints,
  ownFieldName,
} from '@gremium/contract';

let running: Running;
let admin: Client;
let people: { id: number; name: string }[];
beforeAll(async () => {
  running = await startServer('demo');
  admin = await asDemo(running.address, 'admin');
  people = (await admin.call(endpoints.people, { query: { limit: 20 } })).people;
});
afterAll(() => running.close());

let made = 0;
const label = (text: string) => ({ en: text, de: text });
const sectionOf = async (more: Partial<OwnSection> = {}) => {
  const values = {
    ...{
      code: `S${++made}`,
      label: label(`S${made}`),
      of: 'person',
      several: false,
      sensitive: false,
      place: made,
    },
    ...more,
  };
  const { id } = await admin.call(endpoints.createRecord, {
    params: { kind: 'own_section' },
    body: { from: '-infinity', sections: { own_section: values } } as never,
  });
  return { id, name: `own.${id}` as SectionName };
};
const fieldOf = async (sectionId: number, kind: OwnField['kind'], more: Partial<OwnField> = {}) => {
  const values = {
    sectionId,
    code: `F${++made}`,
    label: label(`F${made}`),
    kind,
    required: false,
    place: made,
    ...more,
  };
  const { id } = await admin.call(endpoints.createRecord, {
    params: { kind: 'own_field' },
    body: { from: '-infinity', sections: { own_field: values } } as never,
  });
  return { id, name: ownFieldName(id) };
};
const change = async (kind: 'own_section' | 'own_field', id: number, values: object) => {
  const [row] = await many<{ id: number; last: number }>(
    running.owner,
    sql`select v.id, e.number as last from ${kind === 'own_field' ? sql`own_field_version` : sql`own_section_version`} v
      join entry e on e.id = v.recorded_by where v.superseded_by is null
        and ${kind === 'own_field' ? sql`v.own_field_id` : sql`v.own_section_id`} = ${id}`,
  );
  return admin.call(endpoints.editRecord, {
    params: { kind, id, section: kind },
    body: { edit: { mode: 'mend', row: row?.id, values }, basedOn: row?.last } as never,
  });
};
const row = (section: SectionName, ownerId: number, values: object, from = '2026-11-01') => ({
  section,
  edit: { mode: 'create', from, until: 'infinity', values: { ownerId, ...values } },
});
const save = (edits: object[], client = admin) =>
  client.call(endpoints.saveEdits, { body: { edits } as never });
const refused = async (edits: object[], client = admin) =>
  (await client.refusal(endpoints.saveEdits, { body: { edits } as never })).problems;

describe('to be filled and unique, said late', () => {
  test('stops nobody’s other section; whoever records anew is asked; who lacks it, and who says the same, is counted', async () => {
    const section = await sectionOf();
    const [badge, size] = [await fieldOf(section.id, 'text'), await fieldOf(section.id, 'text')];
    const [a, b, c, d] = people.map(({ id }) => id) as [number, number, number, number];
    await save([row(section.name, a, { [badge.name]: 'B-1', [size.name]: 'L' })]);
    await save([row(section.name, b, { [badge.name]: 'b-1', [size.name]: 'M' })]);
    await save([row(section.name, c, { [size.name]: 'S' })]);
    await change('own_field', badge.id, { required: true, unique: true });
    const { fields } = await admin.call(endpoints.ownValues, { query: { on: '2026-11-23' } });
    const { employed } = await one<{ employed: number }>(
      running.owner,
      sql`select count(distinct person_id)::int as employed from employment_version
        where superseded_by is null and valid_from <= '2026-11-23' and '2026-11-23' < valid_until`,
    );
    expect(fields.find(({ field }) => field === badge.name)).toEqual({
      ...{ field: badge.name, values: 2, missing: employed - 2, twice: 2, alike: ['b-1', 'B-1'] },
    });
    const found = await admin.call(endpoints.people, {
      query: { where: `blank(own.s${section.id}.${badge.name})`, status: 'here', limit: 1 },
    });
    const { here } = await one<{ here: number }>(
      running.owner,
      sql`select count(distinct person_id)::int as here from employment_version
        where superseded_by is null and valid_from <= '2026-11-23' and '2026-11-23' < valid_until
          and person_id not in (select owner_id from own_version where section_id = ${section.id} and "values" ->> ${badge.name} is not null)`,
    );
    expect(found.total).toBe(here);
    // another section of somebody who lacks it, and another field of the same one
    const mend = async (values: object) => {
      const [own] = await many<{ id: number; thing: number; last: number }>(
        running.owner,
        sql`select v.id, v.own_row_id as thing, e.number as last from own_version v join entry e on e.id = v.recorded_by
          where v.section_id = ${section.id} and v.owner_id = ${c} and v.superseded_by is null`,
      );
      return {
        ...{ kind: 'own_row', id: own?.thing, section: section.name, basedOn: own?.last },
        edit: { mode: 'mend', row: own?.id, values },
      };
    };
    expect((await save([await mend({ [size.name]: 'XS' })])).entry).toBeGreaterThan(0);
    // anew it is asked for; and what somebody has is refused with whom
    expect(
      (await refused([row(section.name, d, { [size.name]: 'L' })])).map(({ code, field }) => [code, field]),
    ).toEqual([['field_required', badge.name]]);
    const [same] = await refused([row(section.name, d, { [badge.name]: 'B-1' })]);
    expect([same?.code, same?.field]).toEqual(['field_unique', badge.name]);
    expect([people[0]?.name, people[1]?.name]).toContain((same?.params['owner'] as { label?: string }).label);
    // emptied it is not, either
    expect((await refused([await mend({ [badge.name]: 'B-1' })])).map(({ code }) => code)).toEqual([
      'field_unique',
    ]);
    await save([await mend({ [badge.name]: 'B-2' })]);
    expect((await refused([await mend({ [badge.name]: null })])).map(({ code }) => code)).toEqual([
      'field_required',
    ]);
  });
});

describe('all but 64 have it, and three pairs the same', () => {
  test('asked for and unique late: 64 are listed, the six are, whoever says it anew is told with whom; nothing else is stopped', async () => {
    const section = await sectionOf();
    const [badge, size] = [
      await fieldOf(section.id, 'text', { label: label('Badge late') }),
      await fieldOf(section.id, 'text', { label: label('Size late') }),
    ];
    const here = await many<{ id: number; number: string }>(
      running.owner,
      sql`select distinct p.person_id as id, p.number from person_version p
        join employment_version e on e.person_id = p.person_id and e.superseded_by is null
        where p.superseded_by is null and e.valid_from <= '2026-11-23' and '2026-11-23' < e.valid_until order by 1`,
    );
    const filled = here.slice(64);
    // the last three say what the first three do
    const badgeOf = (i: number) => `L-${i >= filled.length - 3 ? i - (filled.length - 3) : i}`;
    const lines = filled.map(({ number }, i) => `${number},${badgeOf(i)},M`);
    const file = await settled(
      admin,
      await upload(admin, 'badges.csv', `Number,Badge late,Size late\n${lines.join('\n')}\n`),
    );
    expect(file.counts).toMatchObject({ changed: filled.length, refused: 0 });
    await admin.call(endpoints.writeImport, {
      params: { id: file.id },
      body: { rows: 'all', reason: 'x' } as never,
    });
    await settled(admin, file.id);
    await change('own_field', badge.id, { required: true, unique: true });
    const { fields } = await admin.call(endpoints.ownValues, { query: { on: '2026-11-23' } });
    expect(fields.find(({ field }) => field === badge.name)).toEqual({
      ...{ field: badge.name, values: filled.length, missing: 64, twice: 6 },
      alike: ['L-0', 'L-1', 'L-2'],
    });
    const listed = async (where: string) =>
      (await admin.call(endpoints.people, { query: { where, status: 'here', limit: 200 } })).people
        .map(({ id }) => id)
        .sort((a, b) => a - b);
    const path = `own.s${section.id}.${badge.name}`;
    expect(await listed(`blank(${path})`)).toEqual(here.slice(0, 64).map(({ id }) => id));
    const six = [...filled.slice(0, 3), ...filled.slice(-3)].map(({ id }) => id);
    expect(await listed(`${path} in ["L-0", "L-1", "L-2"]`)).toEqual(six);
    const edit = async (owner: number, values: object) => {
      const own = await one<{ id: number; thing: number; last: number }>(
        running.owner,
        sql`select v.id, v.own_row_id as thing, e.number as last from own_version v join entry e on e.id = v.recorded_by
          where v.section_id = ${section.id} and v.owner_id = ${owner} and v.superseded_by is null`,
      );
      return {
        ...{ kind: 'own_row', id: own.thing, section: section.name, basedOn: own.last },
        edit: { mode: 'mend', row: own.id, values },
      };
    };
    const names = new Map(
      (
        await admin.call(endpoints.people, {
          query: { where: `${path} in ["L-0", "L-1", "L-2"]`, limit: 10 },
        })
      ).people.map(({ id, name }) => [id, name]),
    );
    // each of the six may change what else stands there; who says it again from elsewhere is told whose it is
    for (const [i, owner] of six.entries()) {
      await save([await edit(owner, { [size.name]: `XL${i}` })]);
      const [told] = await refused([await edit(filled[10]!.id, { [badge.name]: `L-${i % 3}` })]);
      expect([told?.code, told?.field]).toEqual(['field_unique', badge.name]);
      expect([names.get(six[i % 3]!), names.get(six[(i % 3) + 3]!)]).toContain(
        (told?.params['owner'] as { label?: string }).label,
      );
    }
    await save([await edit(six[5]!, { [badge.name]: 'L-new' })]);
    const later = await admin.call(endpoints.ownValues, { query: { on: '2026-11-23' } });
    expect(later.fields.find(({ field }) => field === badge.name)).toMatchObject({ missing: 64, twice: 4 });
    await change('own_field', badge.id, { retired: true });
  });
});

describe('what a field allows', () => {
  test('a pattern, a range, an email: refused with the field, and kept as it was typed', async () => {
    const section = await sectionOf({ several: true });
    const locker = await fieldOf(section.id, 'text', { pattern: 'A-000' });
    const shoe = await fieldOf(section.id, 'number', { least: '30', most: '52.5' });
    const mail = await fieldOf(section.id, 'email');
    const owner = people[4]?.id as number;
    const codes = async (values: object) =>
      (await refused([row(section.name, owner, values)])).map(({ code }) => code);
    for (const text of ['A-00', 'AB-000', 'A.000', 'A-0000', '1-000'])
      expect([text, await codes({ [locker.name]: text })]).toEqual([text, ['pattern_differs']]);
    for (const size of ['29.9', '53', '52.51'])
      expect([size, await codes({ [shoe.name]: size })]).toEqual([size, ['outside_range']]);
    expect(await codes({ [mail.name]: 'nobody' })).toEqual(['email_invalid']);
    const saved = await save([
      row(section.name, owner, { [locker.name]: 'Ü-017', [shoe.name]: '52.50', [mail.name]: 'a@b.example' }),
    ]);
    expect(saved.rows[0]?.values).toMatchObject({ [locker.name]: 'Ü-017', [shoe.name]: '52.5' });
  });
});

describe('who sees a section', () => {
  test('roles that it names, employees their own; nobody else, on no way', async () => {
    const section = await sectionOf({ seenBy: ['administrator', 'crew'], editedBy: ['administrator'] });
    const field = await fieldOf(section.id, 'file');
    const own = await one<{ id: number }>(
      running.owner,
      sql`select person_id as id from account where email like 'crew@%'`,
    );
    const response = await fetch(`${running.address}/api/kept-files?name=a.txt`, {
      method: 'POST',
      headers: { cookie: admin.cookie, 'content-type': 'application/octet-stream' },
      body: 'plain text',
    });
    const file = (await response.json()) as FileRef;
    const saved = await save([row(section.name, own.id, { [field.name]: file })]);
    const { thing, id } = saved.rows[0] as { thing: number; id: number };
    const accounts = ['admin', 'fleet', 'tallinn', 'crew', 'audit'] as const;
    const seen: Record<string, unknown[]> = {};
    for (const who of accounts) {
      const client = await asDemo(running.address, who);
      const { sections } = await client.call(endpoints.catalogue, {});
      const rows = await client
        .call(endpoints.personRecord, { params: { id: own.id } })
        .then((record) => record.rows.filter((one) => one.section === section.name).length)
        .catch(() => 0);
      const served = await fetch(
        `${running.address}/api/file-of/${section.name}/${thing}/${id}/${field.name}`,
        {
          headers: { cookie: client.cookie },
        },
      );
      seen[who] = [sections.some(({ name }) => name === section.name), rows, served.status];
    }
    expect(seen).toEqual({
      ...{ admin: [true, 1, 200], crew: [true, 1, 200] },
      ...{ fleet: [false, 0, 404], tallinn: [false, 0, 404], audit: [false, 0, 404] },
    });
    const crew = await asDemo(running.address, 'crew');
    expect((await refused([row(section.name, own.id, {})], crew)).map(({ code }) => code)).toContain(
      'right_missing',
    );
    // named for nobody any more, it is as everything: seen by whoever sees all
    await change('own_section', section.id, { seenBy: null, editedBy: null });
    const audit = await asDemo(running.address, 'audit');
    const { rows } = await audit.call(endpoints.personRecord, { params: { id: own.id } });
    expect(rows.filter((one) => one.section === section.name)).toHaveLength(1);
  });
});

describe('values stay', () => {
  test('a choice merged into another, a field retired and brought back: on every date as before', async () => {
    const section = await sectionOf();
    const colour = await fieldOf(section.id, 'list', { list: 'own' });
    const choice = async (text: string) =>
      (
        await admin.call(endpoints.createRecord, {
          params: { kind: 'list_entry' },
          body: {
            from: '-infinity',
            sections: {
              list_entry: { list: 'own', code: text, label: label(text), flags: {}, ownFieldId: colour.id },
            },
          } as never,
        })
      ).id;
    const [red, crimson, blue] = [await choice('red'), await choice('crimson'), await choice('blue')];
    const owner = people[7]?.id as number;
    const saved = await save([row(section.name, owner, { [colour.name]: crimson }, '2026-01-01')]);
    const { thing } = saved.rows[0] as { thing: number };
    await save([
      {
        ...{ kind: 'own_row', id: thing, section: section.name, basedOn: saved.entry },
        edit: { mode: 'set', from: '2026-07-01', values: { [colour.name]: blue }, override: false },
      },
    ]);
    const on = async (day: string, recordedBy?: string) =>
      (
        await admin.call(endpoints.sectionRows, {
          params: { section: section.name },
          query: { on: day as never, ...(recordedBy ? { recordedBy: recordedBy as never } : {}) },
        })
      ).rows.map(({ values }) => values[colour.name]);
    const { moment } = await one<{ moment: string }>(
      running.owner,
      sql`select to_char(moment at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"') as moment from journal_head`,
    );
    await admin.call(endpoints.replaceUses, {
      body: { kind: 'list_entry', from: crimson, to: red, day: null, words: {} } as never,
    });
    expect([await on('2026-03-01'), await on('2026-08-01')]).toEqual([[red], [blue]]);
    // as it was recorded before, it still says what it said
    expect(await on('2026-03-01', moment)).toEqual([crimson]);
    await change('own_field', colour.id, { retired: true });
    expect([await on('2026-03-01'), await on('2026-08-01')]).toEqual([[red], [blue]]);
    await change('own_field', colour.id, { retired: null });
    expect([await on('2026-03-01'), await on('2026-08-01')]).toEqual([[red], [blue]]);
    // shown in another section, its reports name it as before; one of last year reads as it did then
    const report = async (day: string, recordedBy?: string) => {
      const { number } = await one<{ number: string }>(
        running.owner,
        sql`select number from person_version where person_id = ${owner} and superseded_by is null limit 1`,
      );
      const view = {
        ...{ subject: 'person_name', condition: `person.number == "${number}"`, groups: [], order: [] },
        columns: [{ field: `${section.name}.${colour.name}`, several: 'latest' }],
      };
      const { rows } = await admin.call(endpoints.runReport, {
        body: {
          ...{ view, language: 'en', limit: 10, offset: 0, on: day },
          ...(recordedBy ? { recordedBy } : {}),
        } as never,
      });
      return rows.map(({ cells }) => cells[0]);
    };
    const before = await report('2026-03-01', moment);
    expect([await report('2026-03-01'), before, await report('2026-08-01')]).toEqual([
      ['red'],
      ['crimson'],
      ['blue'],
    ]);
    await admin.call(endpoints.createRecord, {
      params: { kind: 'field_setting' },
      body: {
        from: '-infinity',
        sections: {
          field_setting: { section: section.name, field: colour.name, shownIn: 'person' },
        },
      } as never,
    });
    await change('own_field', colour.id, { retired: true, label: label('Shade') });
    expect([
      await report('2026-03-01'),
      await report('2026-03-01', moment),
      await report('2026-08-01'),
    ]).toEqual([['red'], ['crimson'], ['blue']]);
    expect([await on('2026-03-01'), await on('2026-03-01', moment), await on('2026-08-01')]).toEqual([
      [red],
      [crimson],
      [blue],
    ]);
  });

  test('two fields have choices called alike: a file takes each for its own; the record as a file names them', async () => {
    const section = await sectionOf({ label: { en: 'Gear', de: 'Ausrüstung' } });
    const [cap, coat] = [
      await fieldOf(section.id, 'list', { list: 'own', label: { en: 'Cap', de: 'Mütze' } }),
      await fieldOf(section.id, 'list', { list: 'own', label: { en: 'Coat', de: 'Mantel' } }),
    ];
    const choice = async (field: number, code: string) =>
      (
        await admin.call(endpoints.createRecord, {
          params: { kind: 'list_entry' },
          body: {
            from: '-infinity',
            sections: {
              list_entry: {
                list: 'own',
                code,
                label: { en: 'Red', de: 'Rot' },
                flags: {},
                ownFieldId: field,
              },
            },
          } as never,
        })
      ).id;
    const [ofCap, ofCoat] = [await choice(cap.id, 'RED'), await choice(coat.id, 'RED-2')];
    const owner = people[14]?.id as number;
    const { number } = await one<{ number: string }>(
      running.owner,
      sql`select number from person_version where person_id = ${owner} and superseded_by is null`,
    );
    const text = `ownerId,${cap.name},${coat.name}\n${number},Red,Rot\n`;
    const found = await settled(admin, await upload(admin, 'gear.csv', text, section.name));
    expect(found.counts).toMatchObject({ new: 1, refused: 0 });
    await admin.call(endpoints.writeImport, { params: { id: found.id }, body: { rows: 'all' } as never });
    await settled(admin, found.id);
    const [kept] = await many<{ values: Record<string, number> }>(
      running.owner,
      sql`select "values" from own_version where section_id = ${section.id} and superseded_by is null`,
    );
    expect([kept?.values[cap.name], kept?.values[coat.name]]).toEqual([ofCap, ofCoat]);
    const out = await fetch(`${running.address}/api/people/${owner}/out?format=json&language=de`, {
      headers: { cookie: admin.cookie },
    });
    const { sections } = (await out.json()) as {
      sections: { label: string; versions: { said: object }[] }[];
    };
    const gear = sections.find((one) => one.label === 'Ausrüstung');
    expect(gear?.versions.map(({ said }) => said)).toEqual([{ Mütze: 'Rot', Mantel: 'Rot' }]);
  });

  test('taken out and in unchanged all rows are the same; a missing value that is to be filled is refused of somebody new', async () => {
    const section = await sectionOf();
    const badge = await fieldOf(section.id, 'text', { required: true, unique: true });
    const [a, b] = people.slice(10).map(({ id }) => id) as [number, number];
    await save([row(section.name, a, { [badge.name]: 'X-1' })]);
    const view = {
      subject: section.name,
      columns: [{ field: `${section.name}.inEffectFrom` }],
      condition: '',
      order: [],
      groups: [],
    };
    const { content } = await takeOut(admin, {
      ...{ title: 'x', format: 'csv', parts: [{ title: 'x', view, layout: 'import' }] },
    });
    const same = await settled(admin, await upload(admin, 'x.csv', content, section.name));
    expect(same.counts).toMatchObject({ new: 0, changed: 0, same: 1, refused: 0 });
    const [{ number }] = (await many<{ number: string }>(
      running.owner,
      sql`select number from person_version where person_id = ${b} and superseded_by is null`,
    )) as [{ number: string }];
    const lines = content.toString('utf8').trim().split(/\r?\n/);
    const known = await one<{ number: string }>(
      running.owner,
      sql`select number from person_version where person_id = ${a} and superseded_by is null`,
    );
    const another = (lines[1] as string).replace(known.number, number).replace(/^"?\d+"?/, '');
    for (const [cell, fault] of [
      ['', 'field_required'],
      ['x-1', 'field_unique'],
    ] as const) {
      const text = [lines[0], another.replace('X-1', cell)].join('\n');
      const found = await settled(admin, await upload(admin, 'y.csv', text, section.name));
      const { rows } = await admin.call(endpoints.importRows, { params: { id: found.id }, query: {} });
      expect([cell, rows[0]?.faults.map(({ problem }) => problem.code)]).toEqual([cell, [fault]]);
    }
  });
});

describe('a hire', () => {
  const hire = (positionId: number, own: object | undefined, preview = false) => ({
    kind: 'hire',
    preview,
    input: {
      person: {
        name: { given: 'Ülo', family: 'Nõmm' },
        contacts: [{ kind: 'phone', value: '+372 555 0101' }],
      },
      positionId,
      firstDay: '2026-12-01',
      ...(own ? { own } : {}),
    },
  });

  test('asks for what is marked so, refuses without what is to be filled, records it from the first day, undone as one', async () => {
    const section = await sectionOf();
    const badge = await fieldOf(section.id, 'text', { atHire: true, required: true, pattern: 'A-000' });
    const boots = await fieldOf(section.id, 'number', { atHire: true });
    const locker = await fieldOf(section.id, 'text');
    const positionId = await vacantPosition(running, admin);
    const missing = await admin.call(endpoints.move, { body: hire(positionId, undefined, true) as never });
    expect(missing.problems.filter(({ severity }) => severity === 'error')).toMatchObject([
      { code: 'field_required', field: `own.${badge.name}` },
    ]);
    const strange = await admin.refusal(endpoints.move, {
      body: hire(positionId, { [badge.name]: 'B-123', [locker.name]: 'x' }) as never,
    });
    expect(strange.problems.map(({ code, field }) => [code, field])).toEqual([
      ['field_unknown', `own.${locker.name}`],
    ]);
    const wrong = await admin.refusal(endpoints.move, {
      body: hire(positionId, { [badge.name]: '123' }) as never,
    });
    expect(wrong.problems.map(({ code, field }) => [code, field])).toEqual([
      ['value_invalid', `own.${badge.name}`],
    ]);
    const { entry, personId } = await admin.call(endpoints.move, {
      body: hire(positionId, { [badge.name]: 'B-123', [boots.name]: '43.5' }) as never,
    });
    const kept = await many<{ from: string; values: object }>(
      running.owner,
      sql`select valid_from::text as "from", "values" from own_version where section_id = ${section.id} and owner_id = ${personId}
        and superseded_by is null`,
    );
    expect(kept).toEqual([
      { from: '2026-12-01', values: { [badge.name]: 'B-123', [boots.name]: '43.5', [locker.name]: null } },
    ]);
    await admin.call(endpoints.undo, { params: { number: entry! }, body: { plan: [entry!] } });
    const { count } = await one<{ count: number }>(
      running.owner,
      sql`select count(*)::int as count from own_version where section_id = ${section.id} and superseded_by is null`,
    );
    expect(count).toBe(0);
    // retired, it is asked for no more
    await change('own_field', badge.id, { retired: true });
    const free = await admin.call(endpoints.move, { body: hire(positionId, undefined, true) as never });
    expect(free.problems.filter(({ severity }) => severity === 'error')).toEqual([]);
  });

  test('whoever may not record in a section is neither asked for its fields nor may fill them', async () => {
    const section = await sectionOf({ editedBy: ['administrator'] });
    const field = await fieldOf(section.id, 'text', { atHire: true, required: true });
    const fleet = await asDemo(running.address, 'fleet');
    const positionId = await vacantPosition(running, fleet);
    const asked = await fleet.call(endpoints.move, { body: hire(positionId, undefined, true) as never });
    expect(asked.problems.filter(({ code }) => code === 'field_required')).toEqual([]);
    const { codes } = await fleet.refusal(endpoints.move, {
      body: hire(positionId, { [field.name]: 'x' }) as never,
    });
    expect(codes).toEqual(['field_not_yours']);
    await change('own_field', field.id, { retired: true });
  });
});

describe('searched', () => {
  test('people are found by what is marked so, from its first letters, by those who see it, on its days', async () => {
    const section = await sectionOf();
    const field = await fieldOf(section.id, 'text', { searched: true });
    const person = people[3]!;
    await save([row(section.name, person.id, { [field.name]: 'ZQX-77' }, '2026-10-01')]);
    const found = async (client: Client, text: string, on?: string) =>
      (await client.call(endpoints.find, { query: { text, ...(on ? { on } : {}) } as never })).found.map(
        ({ id, about }) => [id, about],
      );
    expect(await found(admin, 'zqx-7')).toEqual([[person.id, 'ZQX-77']]);
    expect(await found(admin, 'ZQX-77', '2026-09-30')).toEqual([]);
    expect(await found(admin, 'qx-77')).toEqual([]);
    expect(await found(await asDemo(running.address, 'crew'), 'zqx-77')).toEqual([]);
    await change('own_section', section.id, { seenBy: ['administrator'] });
    expect(await found(await asDemo(running.address, 'audit'), 'zqx-77')).toEqual([]);
    expect(await found(admin, 'zqx-77')).toHaveLength(1);
  });
});

test('a value that is preset must be one that the field can have', async () => {
  const section = await sectionOf();
  await fieldOf(section.id, 'number', { usual: '42' });
  const values = {
    sectionId: section.id,
    code: 'X',
    label: label('X'),
    kind: 'number',
    required: false,
    place: 1,
  };
  const { problems } = await admin.refusal(endpoints.createRecord, {
    params: { kind: 'own_field' },
    body: { from: '-infinity', sections: { own_field: { ...values, usual: 'many' } } } as never,
  });
  expect(problems.map(({ code, field }) => [code, field])).toEqual([['value_invalid', 'usual']]);
});

describe('a file of people with own fields', () => {
  const textOf = (lines: string[]) => `${lines.join('\n')}\n`;
  const numbers = async (ids: readonly number[]) =>
    many<{ id: number; number: string }>(
      running.owner,
      sql`select person_id as id, number from person_version where superseded_by is null and person_id = any(${ids}) order by 1`,
    );
  const keptOf = async (section: number) =>
    many<{ owner: number; from: string; values: Record<string, unknown> }>(
      running.owner,
      sql`select owner_id as owner, valid_from::text as "from", "values" from own_version
        where section_id = ${section} and superseded_by is null order by 1, 2`,
    );

  test('has columns for them: proposed by what they say, matched by their names, read, written, and refused at the cell', async () => {
    const section = await sectionOf();
    const day = await fieldOf(section.id, 'day', { label: { en: 'Handed out on', de: 'Ausgegeben am' } });
    const size = await fieldOf(section.id, 'number', { label: { en: 'Boot size', de: 'Schuhgröße' } });
    const active = await fieldOf(section.id, 'yes_no', { label: { en: 'Wears it', de: 'Trägt sie' } });
    const badge = await fieldOf(section.id, 'text', { label: label('Badge'), unique: true });
    const [a, b, c] = await numbers(people.slice(5, 8).map(({ id }) => id));
    const lines = [
      'Personalnummer;Gültig ab;Ausgegeben am;Boot size;Trägt sie;Badge;Fach',
      `${a!.number};1.11.2026;1.2.2026;42,5;Ja;B-1;Deck; `,
      `${b!.number};1.11.2026;28.2.2026;1.043,25;x;B-2;Deck`,
      `${c!.number};1.11.2026;30.2.2026;40;N;b-1;Bridge`,
    ].map((line) => line.replace(/; $/, ''));
    const id = await upload(admin, 'Kleidung.csv', textOf(lines));
    const file = await settled(admin, id);
    expect(file.columns.map(({ field }) => field)).toEqual([
      ...['number', 'from'],
      ...[day, size, active, badge].map(({ name }) => `${section.name}.${name}`),
      null,
    ]);
    const proposed = await admin.call(endpoints.proposedField, { params: { id, at: 6 } });
    expect(proposed).toEqual({ kind: 'text', choices: [], said: 3, unfit: 0 });
    const { rows } = await admin.call(endpoints.importRows, { params: { id }, query: {} });
    expect(rows.map(({ status }) => status)).toEqual(['changed', 'changed', 'refused']);
    expect(rows[2]!.faults.map(({ field }) => field)).toEqual([`${section.name}.${day.name}`]);
    await admin.call(endpoints.repairImport, {
      params: { id },
      body: { repairs: [{ row: 4, field: `${section.name}.${day.name}`, text: '1.3.2026', alike: false }] },
    });
    // its day mended, it is refused as it says the same as another row
    await settled(admin, id);
    const again = await admin.call(endpoints.importRows, { params: { id }, query: {} });
    expect(again.rows[2]!.faults.map(({ field, problem: { code } }) => [field, code])).toEqual([
      [`${section.name}.${badge.name}`, 'field_unique'],
    ]);
    await admin.call(endpoints.repairImport, {
      params: { id },
      body: { repairs: [{ row: 4, field: `${section.name}.${badge.name}`, text: 'B-3', alike: false }] },
    });
    await settled(admin, id);
    await admin.call(endpoints.writeImport, { params: { id }, body: { rows: 'all', reason: 'x' } as never });
    const written = await settled(admin, id);
    expect(written.state).toBe('written');
    const values = (on: string, boots: string, wears: boolean, said: string) => ({
      [day.name]: on,
      [size.name]: boots,
      [active.name]: wears,
      [badge.name]: said,
    });
    expect((await keptOf(section.id)).map(({ owner, from, values: said }) => [owner, from, said])).toEqual([
      [a!.id, '2026-11-01', values('2026-02-01', '42.5', true, 'B-1')],
      [b!.id, '2026-11-01', values('2026-02-28', '1043.25', true, 'B-2')],
      [c!.id, '2026-11-01', values('2026-03-01', '40', false, 'B-3')],
    ]);
    // the same again writes nothing; one cell emptied and one changed from another day leaves the rest
    const same = await settled(admin, await upload(admin, 'Kleidung.csv', textOf(lines.slice(0, 3))));
    expect(same.counts).toMatchObject({ same: 2, changed: 0, refused: 0 });
    const later = await settled(
      admin,
      await upload(
        admin,
        'x.csv',
        textOf(['Number;From;Boot size;Badge', `${a!.number};1.12.2026;43;(clear)`]),
      ),
    );
    await admin.call(endpoints.writeImport, {
      params: { id: later.id },
      body: { rows: 'all', reason: 'x' } as never,
    });
    await settled(admin, later.id);
    const now = (await keptOf(section.id)).filter(({ owner }) => owner === a!.id);
    expect(
      now.map(({ from, values: said }) => [from, said[size.name], said[badge.name], said[active.name]]),
    ).toEqual([
      ['2026-11-01', '42.5', 'B-1', true],
      ['2026-12-01', '43', null, true],
    ]);
  });

  test('one that a hire asks for is marked in the template; without it somebody new is refused, somebody known is not', async () => {
    const section = await sectionOf();
    const field = await fieldOf(section.id, 'text', {
      label: label('Locker key'),
      required: true,
      atHire: true,
    });
    const template = await admin.send(endpoints.importTemplate, {
      query: { subject: 'people', format: 'csv' },
    });
    expect(await template.text()).toContain('Locker key *');
    const place = await one<{ code: string }>(
      running.owner,
      sql`select code from position_version where position_id = ${await vacantPosition(running, admin)} and superseded_by is null`,
    );
    const [known] = await numbers(people.slice(9, 10).map(({ id }) => id));
    const head = 'Number,Given name,Family name,Email,First day,Position,Locker key,Nationality';
    const fresh = (key: string) => `,Nelli,Nõmmik,nelli@new.example,2027-02-01,${place.code},${key},`;
    const lines = [head, fresh(''), `${known!.number},,,,,,,SE`];
    const content = `${lines.join('\n')}\n`;
    const file = await settled(admin, await upload(admin, 'neu.csv', content));
    const { rows } = await admin.call(endpoints.importRows, { params: { id: file.id }, query: {} });
    expect(
      rows.map(({ status, faults }) => [status, faults.map((one) => [one.field, one.problem.code])]),
    ).toEqual([
      ['refused', [[`${section.name}.${field.name}`, 'value_missing']]],
      ['changed', []],
    ]);
    const told = await settled(admin, await upload(admin, 'neu.csv', `${[head, fresh('K-7')].join('\n')}\n`));
    expect(told.counts).toMatchObject({ new: 1, refused: 0 });
    await change('own_field', field.id, { retired: true });
  });

  test('who may not record in a section has no column for it', async () => {
    const section = await sectionOf({ editedBy: ['administrator'] });
    const field = await fieldOf(section.id, 'text', { label: label('Sealed') });
    const fleet = await asDemo(running.address, 'fleet');
    const mine = (await fleet.call(endpoints.people, { query: { limit: 1 } })).people[0]!;
    const [known] = await numbers([mine.id]);
    const file = await settled(
      fleet,
      await upload(fleet, 'x.csv', `Number,Sealed,Nationality\n${known!.number},x,DK\n`),
    );
    expect(file.columns.map((column) => column.field)).toEqual(['number', null, 'nationality']);
    expect(file.fields.some(({ name }) => name.endsWith(field.name))).toBe(false);
  });
});
