// Reading and writing every kind of thing over HTTP: each way to edit, each refusal with its field.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import {
  type Day,
  type Edit,
  type Kind,
  type SectionName,
  endpoints,
  preset,
  presetNames,
  sections,
} from '@gremium/contract';
import {
  type Client,
  type Running,
  asDemo,
  many,
  newcomer,
  one,
  sql,
  startServer,
  vacantPosition,
} from './harness';
import { name as quoted } from '@gremium/server';

let running: Running;
let admin: Client;
beforeAll(async () => {
  running = await startServer('demo');
  admin = await asDemo(running.address, 'admin');
});
afterAll(() => running.close());

const create = (kind: Kind, values: Record<string, unknown>, more: object = {}) =>
  admin.call(endpoints.createRecord, {
    params: { kind },
    body: { from: '-infinity', sections: { [kind]: values }, ...more },
  });

const section = async (kind: Kind, id: number, name: SectionName) => {
  const { sections: all } = await admin.call(endpoints.record, { params: { kind, id } });
  return all.find((found) => found.name === name)!;
};

const edit = async (kind: Kind, id: number, name: SectionName, change: Edit) => {
  const { lastEntry } = await section(kind, id, name);
  return admin.call(endpoints.editRecord, {
    params: { kind, id, section: name },
    body: { edit: change, basedOn: lastEntry },
  });
};

const titles = async (id: number) =>
  (await section('job', id, 'job')).rows.map(
    ({ from, until, values }) => `${from} ${String(values['title'])} ${until}`,
  );

const job = (code: string) => ({
  code,
  name: code,
  title: 'First',
  summary: null,
  familyId: null,
  level: null,
  gradeId: null,
  workerTypeId: null,
  fte: 100,
  hours: null,
  mostPositions: null,
  active: true,
});

describe('every kind of thing', () => {
  test.each(presetNames.filter((name) => sections[name].base))(
    '%s can be listed and read with its history',
    async (kind) => {
      const { rows } = await admin.call(endpoints.records, {
        params: { kind: kind as Kind },
        query: { limit: 3 },
      });
      const [kept] = await many<{ count: number }>(
        running.owner,
        sql`select count(*)::int as count from ${quoted(`${kind}_version`)} where superseded_by is null`,
      );
      // the demo has nothing of some kinds, and what people declare of themselves is nobody else's to see
      expect([kind, rows.length > 0]).toEqual([kind, kept!.count > 0 && kind !== 'declared_fact']);
      if (rows.length === 0) return;
      const { sections: all } = await admin.call(endpoints.record, {
        params: { kind: kind as Kind, id: rows[0]!.thing },
      });
      expect(all[0]!.name).toBe(kind);
      expect(sections[kind].fields.safeParse(all[0]!.rows[0]!.values).error).toBeUndefined();
      expect(all[0]!.lastEntry).toBeGreaterThan(0);
    },
  );

  test('reference data, places and structure are made and read back as they were given', async () => {
    const made: [Kind, Record<string, unknown>][] = [
      ['legal_entity', { code: 'V-PL', name: 'Vessmar Sp', country: 'PL', currency: 'PLN' }],
      [
        'location',
        {
          code: 'L-GDY',
          name: 'Gdynia',
          city: 'Gdynia',
          country: 'PL',
          timeZone: 'Europe/Warsaw',
          fullTime: 4000,
        },
      ],
      ['cost_centre', { code: 'C-PL', name: 'Poland' }],
      ['grade', { code: 'G99', name: 'Special', level: 99, steps: 1 }],
      ['job', job('NEWJOB')],
      [
        'list_entry',
        {
          list: 'reason',
          code: 'OTHER',
          label: { en: 'Other', de: 'Andere' },
          flags: { acts: ['leave'], class: 'other' },
          meaning: null,
          place: null,
        },
      ],
    ];
    for (const [kind, values] of made) {
      const { id, entry } = await create(kind, values);
      expect(entry).toBeGreaterThan(0);
      expect((await section(kind, id, kind as SectionName)).rows.map((row) => row.values))
        // what may be empty may be left out
        .toEqual([{ ...preset.section(kind).nulls, ...values }]);
    }
  });
});

describe('editing a section', () => {
  let id: number;
  beforeAll(async () => {
    id = (await create('job', job('EDITS'))).id;
  });

  test('set, mend, shift, remove and end do what they say, each as an entry of its own', async () => {
    await edit('job', id, 'job', {
      mode: 'set',
      from: '2027-03-01' as Day,
      values: { title: 'Second' },
      override: false,
    });
    expect(await titles(id)).toEqual(['-infinity First 2027-03-01', '2027-03-01 Second infinity']);
    const second = async () =>
      (await section('job', id, 'job')).rows.find(({ from }) => from !== '-infinity')!.id;
    await edit('job', id, 'job', { mode: 'mend', row: await second(), values: { title: 'Mended' } });
    await edit('job', id, 'job', { mode: 'shift', row: await second(), from: '2027-04-01' as Day });
    expect(await titles(id)).toEqual(['-infinity First 2027-04-01', '2027-04-01 Mended infinity']);
    await edit('job', id, 'job', { mode: 'remove', row: await second() });
    expect(await titles(id)).toEqual(['-infinity First infinity']);
    await edit('job', id, 'job', { mode: 'end', lastDay: '2027-12-31' as Day });
    expect(await titles(id)).toEqual(['-infinity First 2028-01-01']);
    await edit('job', id, 'job', {
      mode: 'begin',
      from: '2029-01-01' as Day,
      until: 'infinity',
      values: job('EDITS'),
    });
    const { entries } = await admin.call(endpoints.journal, { query: { thing: id } });
    expect(entries.map(({ kind }) => kind)).toEqual([
      'edit',
      'end',
      'mend',
      'mend',
      'mend',
      'edit',
      'create',
    ]);
  });

  test('what cannot be is refused with its reason, and nothing is written', async () => {
    const before = await titles(id);
    const refused = async (change: Edit) => {
      const { lastEntry } = await section('job', id, 'job');
      const { codes } = await admin.refusal(endpoints.editRecord, {
        params: { kind: 'job', id, section: 'job' },
        body: { edit: change, basedOn: lastEntry },
      });
      return codes;
    };
    const set = (from: string, values: object) =>
      ({ mode: 'set', from: from as Day, values, override: false }) as Edit;
    expect(await refused(set('2028-06-01', { title: 'X' }))).toEqual(['no_version_on_day']);
    expect(await refused(set('2027-06-01', { title: 'First' }))).toContain('nothing_changed');
    expect(await refused(set('2027-06-01', { colour: 'red' }))).toEqual(['field_unknown']);
    expect(await refused(set('2027-06-01', { fte: 'half' }))).toEqual(['value_invalid']);
    expect(
      await refused({ mode: 'begin', from: '2027-01-01' as Day, until: 'infinity', values: job('EDITS') }),
    ).toEqual(['overlap']);
    expect(await refused({ mode: 'mend', row: 999_999_999, values: { title: 'X' } })).toEqual([
      'version_unknown',
    ]);
    expect(await titles(id)).toEqual(before);
  });

  test('a code that is in use is refused by the database, under its name', async () => {
    const refused = await admin.refusal(endpoints.createRecord, {
      params: { kind: 'job' },
      body: { from: '-infinity', sections: { job: job('MASTER') } },
    });
    expect(refused.codes).toEqual(['code_taken']);
  });
});

describe('laws over HTTP', () => {
  const unitId = async (name: string) =>
    (
      await one<{ id: number }>(
        running.owner,
        sql`select unit_id as id from unit_version where superseded_by is null and name = ${name} and valid_until = 'infinity'`,
      )
    ).id;

  const refusedUnit = async (name: string, change: Edit) => {
    const id = await unitId(name);
    const { lastEntry } = await section('unit', id, 'unit');
    return admin.refusal(endpoints.editRecord, {
      params: { kind: 'unit', id, section: 'unit' },
      body: { edit: change, basedOn: lastEntry },
    });
  };

  test('a unit cannot be put below itself; the refusal names the path', async () => {
    const values = { parentId: await unitId('Fleet Office') };
    const refused = await refusedUnit('Fleet', {
      mode: 'set',
      from: '2027-01-01' as Day,
      values,
      override: true,
    });
    expect(refused.codes).toEqual(['unit_ring']);
    const path = refused.problems[0]!.params['path'] as { label?: string }[];
    expect(path.map(({ label }) => label).sort()).toEqual(['Fleet', 'Fleet Office']);
  });

  test('a unit with positions in it cannot be ended', async () => {
    const refused = await refusedUnit('Treasury', { mode: 'end', lastDay: '2027-01-31' as Day });
    expect(new Set(refused.codes)).toEqual(new Set(['reference_missing']));
  });

  test('holding or closing a position is refused while somebody would be stranded, naming them', async () => {
    const positionId = await vacantPosition(running, admin);
    const { personId } = await admin.call(endpoints.move, {
      body: {
        kind: 'hire',
        input: {
          person: newcomer('Stranded'),
          positionId,
          firstDay: '2027-01-01' as Day,
          pay: [],
          reasonId: null,
        },
      },
    });
    const { lastEntry } = await section('position', positionId, 'position');
    const close = (standing: string, from: string) =>
      admin.refusal(endpoints.editRecord, {
        params: { kind: 'position', id: positionId, section: 'position' },
        body: { edit: { mode: 'set', from: from as Day, values: { standing } }, basedOn: lastEntry },
      });
    const refused = await close('closed', '2027-06-01');
    expect(refused.problems[0]).toMatchObject({
      code: 'position_stranded',
      params: { holder: { label: 'Nova Stranded', id: personId } },
    });
    expect((await close('on_hold', '2026-12-01')).codes).toEqual(['position_not_in_force']);
  });

  test('lowering a limit below what is held is a warning that names the holders, and is recorded', async () => {
    const [crew] = await many<{ id: number }>(
      running.owner,
      sql`select l.position_id as id from position_limits_version l join placement_version p on p.position_id = l.position_id
        and p.superseded_by is null and p.valid_until = 'infinity' and p.valid_from < '2026-11-01' and p.kind = 'primary'
        where l.superseded_by is null and l.places > 2 and l.valid_until = 'infinity' and l.valid_from < '2026-01-01' group by 1 having count(*) > 2 limit 1`,
    );
    const { sections } = await admin.call(endpoints.record, { params: { kind: 'position', id: crew!.id } });
    const call = {
      params: { kind: 'position' as const, id: crew!.id, section: 'position_limits' as const },
      body: {
        edit: { mode: 'set' as const, from: '2027-02-01' as Day, values: { places: 1 }, override: false },
        basedOn: sections.find(({ name }) => name === 'position_limits')!.lastEntry,
      },
    };
    const wordless = await admin.refusal(endpoints.editRecord, call);
    expect(wordless.codes).toEqual(['limit_lowered', 'word_missing']);
    const words = { limit_lowered: 'They leave in spring' };
    const done = await admin.call(endpoints.editRecord, { ...call, body: { ...call.body, words } });
    const lowered = done.problems.find(({ code }) => code === 'limit_lowered');
    expect(lowered?.severity).toBe('warning');
    expect((lowered?.params['holders'] as unknown[]).length).toBeGreaterThan(2);
    expect(done.entry).toBeGreaterThan(0);
  });

  test('pay outside the range of the grade is a warning of the slip, with the range', async () => {
    const positionId = await vacantPosition(running, admin);
    const kinds = await admin.call(endpoints.records, {
      params: { kind: 'list_entry' },
      query: { limit: 100 },
    });
    const kindId = kinds.rows.find(({ values }) => values['code'] === 'BASE')!.thing;
    const pay = [
      { kindId, amount: '99999', currency: 'EUR', basis: 'month' as const, rate: 'full_time' as const },
    ];
    const input = {
      person: newcomer('Rich'),
      positionId,
      firstDay: '2026-12-01' as Day,
      pay,
      reasonId: null,
    };
    const { problems } = await admin.call(endpoints.move, { body: { kind: 'hire', input, preview: true } });
    const stopping = problems.filter(({ severity }) => severity !== 'note');
    expect(stopping.map(({ code, severity, field }) => [code, severity, field])).toEqual([
      ['pay_outside_range', 'warning', 'pay'],
    ]);
    expect(Number(problems[0]!.params['maximum'])).toBeLessThan(99999);
  });

  test('a leaver leaves a vacant place the next day; a person is never employed twice in one legal entity', async () => {
    const positionId = await vacantPosition(running, admin);
    const input = {
      person: newcomer('Leaver'),
      positionId,
      firstDay: '2026-12-01' as Day,
      pay: [],
      reasonId: null,
    };
    const { employmentId, personId } = await admin.call(endpoints.move, { body: { kind: 'hire', input } });
    const { rows } = await admin.call(endpoints.records, {
      params: { kind: 'list_entry' },
      query: { limit: 100 },
    });
    const reasonId = rows.find(({ values }) => values['code'] === 'RESIGNED')!.thing;
    const again = await admin.refusal(endpoints.move, {
      body: { kind: 'hire', input: { ...input, person: { id: personId! }, firstDay: '2027-01-01' as Day } },
    });
    expect(again.codes).toContain('person_employed');
    await admin.call(endpoints.move, {
      body: { kind: 'leave', input: { employmentId: employmentId!, lastDay: '2027-01-31' as Day, reasonId } },
    });
    const stateOn = async (on: string) => {
      const { positions } = await admin.call(endpoints.positions, { query: { on: on as Day } });
      return positions.find(({ id }) => id === positionId)!;
    };
    expect(await stateOn('2027-01-31')).toMatchObject({ mark: 'filled', holders: [personId] });
    expect(await stateOn('2027-02-01')).toMatchObject({
      mark: 'vacant',
      vacantSince: '2027-02-01',
      freePlaces: 1,
      freeFte: 100,
    });
  });
});
