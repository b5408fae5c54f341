// What the pages read and write beside single records: record pages, finding, ticks, drafts, several sections at once.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type Day, endpoints } from '@gremium/contract';
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

let running: Running;
let admin: Client;
beforeAll(async () => {
  running = await startServer('demo');
  admin = await asDemo(running.address, 'admin');
});
afterAll(() => running.close());

const FIRST = '2026-12-01' as Day;
const inputFor = (family: string, positionId: number) => ({
  person: newcomer(family),
  positionId,
  firstDay: FIRST,
  pay: [],
  reasonId: null,
});

const baseKind = async (): Promise<number> => {
  const { rows } = await admin.call(endpoints.reference, {});
  return rows.find(({ section, values }) => section === 'list_entry' && values['code'] === 'BASE')!.thing;
};

describe('the page of a person', () => {
  test('holds every believed row of the person, and what to name when saving', async () => {
    const [{ person } = { person: 0 }] = await many<{ person: number }>(
      running.owner,
      sql`select person_id as person from employment_version where superseded_by is null
        group by 1 order by count(*) desc, 1 limit 1`,
    );
    const record = await admin.call(endpoints.personRecord, { params: { id: person } });
    const expected = await many<{ section: string; n: number }>(
      running.owner,
      sql`with e as (select distinct employment_id from employment_version where person_id = ${person})
        select 'person' as section, count(*)::int as n from person_version where person_id = ${person} and superseded_by is null
        union all select 'person_name', count(*)::int from person_name_version where person_id = ${person} and superseded_by is null
        union all select 'contact', count(*)::int from contact_version where person_id = ${person} and superseded_by is null
        union all select 'employment', count(*)::int from employment_version where person_id = ${person} and superseded_by is null
        union all select 'contract', count(*)::int from contract_version where employment_id in (table e) and superseded_by is null
        union all select 'placement', count(*)::int from placement_version where employment_id in (table e) and superseded_by is null
        union all select 'pay', count(*)::int from pay_version where employment_id in (table e) and superseded_by is null`,
    );
    for (const { section, n } of expected)
      expect([section, record.rows.filter((row) => row.section === section).length]).toEqual([section, n]);
    for (const { section, thing, number } of record.lastEntries) {
      const last = await one<{ number: number }>(
        running.owner,
        sql`select max(number)::int as number from entry where id in (
          select unnest(array[recorded_by, superseded_by]) from person_name_version
          where person_id = ${thing} and ${section} = 'person_name')`,
      );
      if (section === 'person_name') expect(number).toBe(last.number);
    }
  });

  test('a joining that a later transfer cut is still said by the hire; as recorded by before the transfer it stands uncut', async () => {
    const from = await vacantPosition(running, admin, '%Helsinki%');
    const hired = await admin.call(endpoints.move, {
      body: { kind: 'hire', input: inputFor('Began', from) },
    });
    const { moment } = await one<{ moment: string }>(
      running.owner,
      sql`select to_char(moment at time zone 'utc', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"') as moment from entry where number = ${hired.entry}`,
    );
    const to = await vacantPosition(running, admin, '%Tallinn%'); // another legal entity
    const moved = await admin.call(endpoints.move, {
      body: {
        kind: 'transfer',
        input: { personId: hired.personId!, positionId: to, firstDay: '2027-02-01' as Day, reasonId: null },
        words: { requirement_missing: 'is being trained' },
      },
    });
    const read = async (query: object) => {
      const { rows, entries } = await admin.call(endpoints.personRecord, {
        params: { id: hired.personId! },
        query,
      });
      const first = rows.find(({ section, from: day }) => section === 'employment' && day === FIRST)!;
      const numberOf = (id: number | undefined) => entries.find((entry) => entry.id === id)?.number;
      return { until: first.until, by: numberOf(first.entry), formedBy: numberOf(first.formedBy) };
    };
    expect(await read({})).toEqual({ until: '2027-02-01', by: moved.entry, formedBy: hired.entry });
    expect(await read({ recordedBy: moment })).toEqual({
      until: 'infinity',
      by: hired.entry,
      formedBy: hired.entry,
    });
  });
});

describe('the own page of a crew member', () => {
  test('names position and unit as the list does, though neither record may be opened', async () => {
    const crew = await asDemo(running.address, 'crew');
    const { people } = await crew.call(endpoints.people, {});
    expect(people).toHaveLength(1);
    const { id, title, unit, positionId } = people[0]!;
    const record = await crew.call(endpoints.personRecord, { params: { id } });
    expect(record.place).toEqual({ title, unit });
    expect(record.names).toContainEqual({ kind: 'position', id: positionId, name: title });
    expect(record.rows.filter(({ section }) => section === 'position')).toEqual([]);
    const refused = await crew.refusal(endpoints.positionRecord, { params: { id: positionId! } });
    expect(refused.status).toBe(403);
  });
});

describe('the outline', () => {
  const outline = async (query: object = {}) => {
    const { units, ...whole } = await admin.call(endpoints.outline, { query: query as never });
    return { units, whole };
  };

  test('folded has the lines of the whole that are not below a folded unit, with the same figures', async () => {
    const { units, whole } = await outline();
    expect(whole).toEqual({ count: units.length, levels: Math.max(...units.map(({ depth }) => depth)) + 1 });
    const [top] = units;
    const wide = units.find(({ depth, hasBelow }) => depth === 1 && hasBelow)!;
    const shut = units.find(({ depth, hasBelow, id }) => depth === 1 && hasBelow && id !== wide.id)!;
    for (const { levels, turned } of [
      { levels: 1, turned: [] },
      { levels: 2, turned: [] },
      { levels: 2, turned: [wide.id] },
      { levels: 3, turned: [shut.id] },
      { levels: 2, turned: [top!.id] },
    ]) {
      const isShown = ({ parentId }: (typeof units)[number]): boolean => {
        if (parentId === null) return true;
        const parent = units.find(({ id }) => id === parentId)!;
        return isShown(parent) && parent.depth < levels - 1 !== turned.includes(parentId);
      };
      const folded = await outline({ levels, ...(turned.length > 0 ? { turned: turned.join('.') } : {}) });
      expect(folded).toEqual({ units: units.filter(isShown), whole });
    }
  });

  test('is the one of the day and of what is recorded, however often it was asked before', async () => {
    const branch = async (on: string) => (await outline({ on, levels: 1 })).units[0]!.branch!.people;
    const before = [await branch('2026-12-01'), await branch('2026-11-30')];
    const positionId = await vacantPosition(running, admin);
    const hired = await admin.call(endpoints.move, {
      body: { kind: 'hire', input: inputFor('Rolled', positionId) },
    });
    expect([await branch('2026-12-01'), await branch('2026-11-30')]).toEqual([before[0]! + 1, before[1]]);
    await admin.call(endpoints.undo, { params: { number: hired.entry! }, body: { plan: [hired.entry!] } });
    expect(await branch('2026-12-01')).toBe(before[0]);
  });

  test('says which field it cannot read', async () => {
    const refused = await admin.refusal(endpoints.outline, { query: { turned: '1,2' } as never });
    expect([refused.status, refused.problems[0]?.field]).toEqual([400, 'turned']);
  });
});

describe('the page of a position', () => {
  test('says what is inherited, whom it reports to and what stands below it', async () => {
    const { units } = await admin.call(endpoints.outline, {});
    const harbours = units.find(({ name }) => name === 'Harbours')!;
    const id = harbours.head!.positionId!;
    const record = await admin.call(endpoints.positionRecord, { params: { id } });
    const top = units.find(({ parentId }) => parentId === null)!;
    expect(record.managers.map(({ name }) => name)).toEqual([top.head!.name]);
    const heads = units
      .filter(({ parentId }) => parentId === harbours.id)
      .map(({ head }) => head!.positionId);
    expect(record.below.reduce((sum, { count }) => sum + count, 0)).toBeGreaterThanOrEqual(
      new Set(heads.filter((head) => head !== id)).size,
    );
    const { unit } = await one<{ unit: number }>(
      running.owner,
      sql`select unit_id as unit from position_version where position_id = ${id} and superseded_by is null
        and valid_from <= '2026-11-23' and '2026-11-23' < valid_until`,
    );
    const { entity } = await one<{ entity: number }>(
      running.owner,
      sql`with recursive up (parent, entity) as (
          select parent_id, legal_entity_id from unit_version where unit_id = ${unit} and superseded_by is null
            and valid_from <= '2026-11-23' and '2026-11-23' < valid_until
          union all
          select u.parent_id, coalesce(up.entity, u.legal_entity_id) from up
          join unit_version u on u.unit_id = up.parent and u.superseded_by is null
            and u.valid_from <= '2026-11-23' and '2026-11-23' < u.valid_until)
        select entity from up where entity is not null limit 1`,
    );
    expect(record.inherited.legalEntityId).toBe(entity);
  });
});

describe('ticks', () => {
  test('count employments whose placement begins, changes or ends for good, day by day', async () => {
    const query = { from: '2026-10-01' as Day, until: '2027-09-30' as Day };
    const { ticks } = await admin.call(endpoints.ticks, { query });
    const rows = await many<{ employment: number; from: string; until: string }>(
      running.owner,
      sql`select employment_id as employment, valid_from::text as "from", valid_until::text as until
        from placement_version where superseded_by is null`,
    );
    const dayBefore = (day: string) => new Date(Date.parse(day) - 86_400_000).toISOString().slice(0, 10);
    const days = new Map<string, Set<number>>();
    const note = (day: string, employment: number) => {
      if (day >= query.from && day <= query.until)
        days.set(day, (days.get(day) ?? new Set()).add(employment));
    };
    const own = new Map<number, typeof rows>();
    for (const row of rows) own.set(row.employment, [...(own.get(row.employment) ?? []), row]);
    for (const row of rows) {
      note(row.from, row.employment);
      const goesOn = own
        .get(row.employment)!
        .some(({ from, until }) => from <= row.until && row.until < until);
      if (row.until !== 'infinity' && !goesOn) note(dayBefore(row.until), row.employment);
    }
    expect(ticks.length).toBeGreaterThan(50);
    expect(new Map(ticks.map(({ day, count }) => [day as string, count]))).toEqual(
      new Map([...days].sort(([a], [b]) => (a < b ? -1 : 1)).map(([day, set]) => [day, set.size])),
    );
  });
});

describe('finding', () => {
  test('finds people without accents, positions by code, units by a part; free ones only, if asked', async () => {
    const positionId = await vacantPosition(running, admin);
    const { code } = await one<{ code: string }>(
      running.owner,
      sql`select code from position_version where position_id = ${positionId} and superseded_by is null
        order by valid_from desc limit 1`,
    );
    const find = async (text: string, more: object = {}) =>
      (await admin.call(endpoints.find, { query: { text, ...more } })).found;
    expect((await find(code)).map(({ id }) => id)).toContain(positionId);
    expect((await find('tallinn harb')).filter(({ kind }) => kind === 'unit')[0]?.name).toBe(
      'Tallinn Harbour',
    );
    const [{ id, text }] = (await many<{ id: number; text: string }>(
      running.owner,
      sql`select n.person_id as id, n.family as text from person_name_version n
        join employment_version e on e.person_id = n.person_id and e.superseded_by is null and e.valid_until = 'infinity'
        where n.superseded_by is null and n.family ~ 'Sæ|Ø' order by 1 limit 1`,
    )) as [{ id: number; text: string }];
    const { given } = await one<{ given: string }>(
      running.owner,
      sql`select given from person_name_version where person_id = ${id} and superseded_by is null limit 1`,
    );
    const plain = text.toLowerCase().replace(/æ/g, 'ae').replace(/ø/g, 'o');
    const people = await find(`${given} ${plain}`);
    expect(people.filter(({ kind }) => kind === 'person').map((one) => one.id)).toContain(id);
    const free = await find('agent', { free: 'yes' });
    const { positions } = await admin.call(endpoints.positions, { query: { free: 'yes' } });
    expect(free.length).toBeGreaterThan(0);
    expect(free.filter((one) => !positions.some((position) => position.id === one.id))).toEqual([]);
  });
});

describe('the order of what is found', () => {
  const find = async (text: string, more: object = {}) =>
    (await admin.call(endpoints.find, { query: { text, ...more } })).found;
  const begins = async (ids: number[], text: string) =>
    (
      await many<{ id: number }>(
        running.owner,
        sql`select person_id as id from person_name_version where superseded_by is null
          and valid_from <= '2026-11-23' and '2026-11-23' < valid_until
          and person_id = any(${ids}::bigint[]) and ' ' || search like ${`% ${text}%`}`,
      )
    ).map(({ id }) => id);

  test.each(['ma', 'so', 'ka', 'ri'])('%s finds first who has a name that begins so', async (text) => {
    const people = (await find(text, { kind: 'person' })).map(({ id }) => id);
    const beginning = new Set(await begins(people, text));
    const firstOther = people.findIndex((id) => !beginning.has(id));
    expect(beginning.size).toBeGreaterThan(3);
    expect(firstOther === -1 || firstOther === beginning.size).toBe(true);
  });

  test('a domain that everybody has finds nobody; what stands before the @ does', async () => {
    expect(await find('vessmar.example', { kind: 'person' })).toEqual([]);
    const [{ id, value }] = (await many<{ id: number; value: string }>(
      running.owner,
      sql`select person_id as id, value from contact_version where kind = 'email' and superseded_by is null
        order by person_id limit 1`,
    )) as [{ id: number; value: string }];
    expect((await find(value.split('@')[0]!, { kind: 'person' })).map((one) => one.id)).toContain(id);
    expect((await find(value, { kind: 'person' })).map((one) => one.id)).toContain(id);
  });

  test('an exact number and an exact code come before all else, a unit before positions in it', async () => {
    const [first] = await find('1007');
    const { number } = await one<{ number: string }>(
      running.owner,
      sql`select number from person_version where person_id = ${first!.id} and superseded_by is null limit 1`,
    );
    expect([first!.kind, number]).toEqual(['person', '1007']);
    const { code, id } = await one<{ code: string; id: number }>(
      running.owner,
      sql`select code, unit_id as id from unit_version where superseded_by is null and name = 'Tallinn Harbour' limit 1`,
    );
    expect((await find(code))[0]).toMatchObject({ kind: 'unit', id });
    expect((await find('Tallinn Harbour'))[0]).toMatchObject({ kind: 'unit', id });
    expect((await find('harbours'))[0]).toMatchObject({ kind: 'unit', name: 'Harbours' });
  });

  test('of places free ones stand first, each with its mark and who leads it', async () => {
    const all = await find('agent', { kind: 'position', free: 'first' });
    const isFree = all.map(({ mark }) => mark === 'vacant' || mark === 'part_filled');
    expect(isFree.lastIndexOf(true)).toBe(isFree.filter(Boolean).length - 1);
    expect(isFree[0]).toBe(true);
    expect(all.filter(({ manager }) => manager).length).toBeGreaterThan(0);
  });

  test('a hire that names nothing is shown what is free; a text that is empty finds nothing', async () => {
    expect(await find('')).toEqual([]);
    const free = await find('', { free: 'yes' });
    expect(free.length).toBeGreaterThan(5);
    expect(free.every(({ kind }) => kind === 'position' || kind === 'unit')).toBe(true);
  });
});

describe('a warning', () => {
  test('is recorded only with a word, which the entry keeps; the refusal names the field', async () => {
    const positionId = await vacantPosition(running, admin);
    const pay = [
      {
        kindId: await baseKind(),
        amount: '99999',
        currency: 'EUR',
        basis: 'month' as const,
        rate: 'full_time' as const,
      },
    ];
    const input = { ...inputFor('Wordy', positionId), pay };
    const refused = await admin.refusal(endpoints.move, { body: { kind: 'hire', input } });
    const missing = refused.problems.find(({ code }) => code === 'word_missing');
    expect(missing?.field).toBe('words.pay_outside_range');
    const words = { pay_outside_range: 'Agreed with the board' };
    const done = await admin.call(endpoints.move, { body: { kind: 'hire', input, words } });
    const { origin } = await one<{ origin: string }>(
      running.owner,
      sql`select origin from entry where number = ${done.entry}`,
    );
    expect(JSON.parse(origin)).toMatchObject({ words });
  });
});

describe('effects of a hire', () => {
  test('say the mark, the FTE of the unit and the manager of the first day', async () => {
    const positionId = await vacantPosition(running, admin, '%Tallinn%');
    const { effects } = await admin.call(endpoints.move, {
      body: { kind: 'hire', input: inputFor('Effect', positionId), preview: true },
    });
    const { managers } = await admin.call(endpoints.positionRecord, {
      params: { id: positionId },
      query: { on: FIRST },
    });
    const of = (code: string) => effects.find((effect) => effect.code === code)?.params;
    expect(of('effect_mark')).toMatchObject({ was: 'vacant', is: 'filled' });
    expect(of('effect_fte')).toMatchObject({ hundredths: 100 });
    expect(of('effect_reports_to')).toMatchObject({ manager: { label: managers[0]!.name } });
  });
});

describe('the slip of a transfer', () => {
  test('sets before beside after by name, also what the old place only inherits', async () => {
    const from = await vacantPosition(running, admin, '%Turku%');
    const hired = await admin.call(endpoints.move, {
      body: { kind: 'hire', input: inputFor('Compared', from) },
    });
    const to = await vacantPosition(running, admin, '%Larvik%');
    const input = {
      personId: hired.personId!,
      positionId: to,
      firstDay: '2027-02-01' as Day,
      reasonId: null,
    };
    const { slip } = await admin.call(endpoints.move, { body: { kind: 'transfer', input, preview: true } });
    const of = (field: string) => slip.find((value) => value.field === field)!;
    const was = await admin.call(endpoints.positionRecord, { params: { id: from }, query: { on: FIRST } });
    expect(of('legalEntityId').before).toBe(was.inherited.legalEntityId);
    expect(of('locationId').before).toBe(was.inherited.locationId);
    expect(of('legalEntityId')).toMatchObject({
      beforeName: 'Vessmar Ferries Oy',
      afterName: 'Vessmar Ferries AS',
    });
    expect(of('positionId').beforeName).toBe(
      was.rows.find(({ section }) => section === 'position')!.values['title'],
    );
  });
});

describe('several sections', () => {
  test('are saved as one entry; where one of them was saved meanwhile, none is', async () => {
    const { people } = await admin.call(endpoints.people, { query: { limit: 1, offset: 40 } });
    const id = people[0]!.id;
    const lastOf = async (section: string) => {
      const { lastEntries } = await admin.call(endpoints.personRecord, { params: { id } });
      return lastEntries.find((last) => last.section === section)!.number;
    };
    const edits = async (preferred: string, language: string) => [
      {
        kind: 'person_name' as never,
        id,
        section: 'person_name' as const,
        edit: { mode: 'set' as const, from: '2026-11-23' as Day, values: { preferred }, override: false },
        basedOn: await lastOf('person_name'),
      },
      {
        kind: 'person' as const,
        id,
        section: 'person' as const,
        edit: { mode: 'set' as const, from: '2026-11-23' as Day, values: { language }, override: false },
        basedOn: await lastOf('person'),
      },
    ];
    const first = (await edits('Both', 'is')).map((edit) => ({ ...edit, kind: 'person' as const }));
    const stale = (await edits('Lost', 'da')).map((edit) => ({ ...edit, kind: 'person' as const }));
    const { entry } = await admin.call(endpoints.saveEdits, { body: { edits: first } });
    const { recorded } = await admin.call(endpoints.entry, { params: { number: entry! } });
    expect(new Set(recorded.map(({ section }) => section))).toEqual(new Set(['person', 'person_name']));
    const refused = await admin.refusal(endpoints.saveEdits, { body: { edits: stale } });
    expect(refused.codes).toEqual(['conflict', 'conflict']);
    const { rows } = await admin.call(endpoints.personRecord, { params: { id } });
    const now = rows.filter(({ until }) => until === 'infinity').map(({ values }) => values);
    expect(now).toEqual(
      expect.arrayContaining([
        expect.objectContaining({ preferred: 'Both' }),
        expect.objectContaining({ language: 'is' }),
      ]),
    );
  });
});

describe('drafts', () => {
  test('are kept, changed and discarded by their account; too long ones and wrong keys are refused by field', async () => {
    const body = { kind: 'edit' as const, about: 'position 1', content: { given: 'Åse' } };
    await admin.call(endpoints.keepDraft, { params: { key: 'abcdefgh1' }, body });
    await admin.call(endpoints.keepDraft, {
      params: { key: 'abcdefgh1' },
      body: { ...body, content: { given: 'Åse', family: 'Lind' } },
    });
    const { drafts } = await admin.call(endpoints.drafts, {});
    expect(drafts.filter(({ key }) => key === 'abcdefgh1').map(({ content }) => content)).toEqual([
      { given: 'Åse', family: 'Lind' },
    ]);
    const fleet = await asDemo(running.address, 'fleet');
    expect((await fleet.call(endpoints.drafts, {})).drafts).toEqual([]);
    const long = { ...body, content: { text: [...Array(30_000)].map((_, i) => i.toString(36)).join('') } };
    const refused = await admin.refusal(endpoints.keepDraft, { params: { key: 'abcdefgh2' }, body: long });
    expect(refused.codes).toEqual(['draft_limit']);
    const wrong = await admin.refusal(endpoints.keepDraft, { params: { key: 'NO!' }, body });
    expect(wrong.problems[0]).toMatchObject({ code: 'value_invalid', field: 'key' });
    await admin.call(endpoints.discardDraft, { params: { key: 'abcdefgh1' } });
    expect((await admin.call(endpoints.drafts, {})).drafts).toEqual([]);
  });
});
