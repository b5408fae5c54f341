// Lists over HTTP: uses counted, entries added, ordered, retired, merged, replaced from a day; undone; by who may not.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type Day, type Kind, endpoints, ownFieldName } from '@gremium/contract';
import { firstAdministratorLink } from '@gremium/server';
import {
  Client,
  type Running,
  asAccount,
  asDemo,
  believed,
  many,
  one,
  signIn,
  sql,
  startServer,
} from './harness';
import { undoBy } from './moving';

let running: Running;
let admin: Client;
beforeAll(async () => {
  running = await startServer('demo');
  admin = await asDemo(running.address, 'admin');
});
afterAll(() => running.close());

const entryOf = async (code: string): Promise<number> =>
  (
    await one<{ id: number }>(
      running.owner,
      sql`select list_entry_id as id from list_entry_version where code = ${code} and superseded_by is null limit 1`,
    )
  ).id;

const add = async (kind: 'cost_centre', values: Record<string, unknown>): Promise<number> =>
  (
    await admin.call(endpoints.createRecord, {
      params: { kind },
      body: { from: '-infinity', sections: { [kind]: values } },
    })
  ).id;

const undo = (number: number) => undoBy(admin, number);

const replace = (body: object) =>
  admin.call(endpoints.replaceUses, {
    body: { kind: 'list_entry', day: null, words: {}, ...body } as never,
  });

describe('an order of its own', () => {
  const placesOf = (list: string) =>
    many<{ code: string; place: number | null }>(
      running.owner,
      sql`select code, place from list_entry_version where list = ${list} and superseded_by is null
        order by place nulls last, code`,
    );

  test('is given to a list as one entry, and taken back by its undo; other lists and strangers are refused', async () => {
    const ids = [await entryOf('FIX'), await entryOf('PERM'), await entryOf('SEAS')];
    const before = await placesOf('contract_kind');
    const { entry } = await admin.call(endpoints.orderEntries, { body: { ids } });
    expect(await placesOf('contract_kind')).toEqual([
      { code: 'FIX', place: 10 },
      { code: 'PERM', place: 20 },
      { code: 'SEAS', place: 30 },
    ]);
    const refused = async (more: number[]) =>
      (await admin.refusal(endpoints.orderEntries, { body: { ids: [...ids, ...more] } })).codes;
    expect(await refused([await entryOf('EMP')])).toEqual(['list_wrong']);
    expect(await refused([999_999_999])).toEqual(['thing_unknown']);
    expect(await refused([ids[0] as number])).toEqual(['value_invalid']);
    await undo(entry as number);
    expect(await placesOf('contract_kind')).toEqual(before);
  });
});

describe('uses', () => {
  test('are counted over everything that names an entry, and told by where', async () => {
    const id = await entryOf('VACANCY');
    // every field that refers to entries of lists, as the database itself knows them
    const columns = await many<{ table: string; column: string }>(
      running.owner,
      sql`select c.conrelid::regclass::text as table, a.attname as column from pg_constraint c
        join pg_attribute a on a.attrelid = c.conrelid and a.attnum = c.conkey[1]
        where c.contype = 'f' and c.confrelid = 'list_entry'::regclass and c.conrelid <> 'list_entry_version'::regclass`,
    );
    expect(columns.length).toBeGreaterThan(8);
    let rows = 0;
    let later = 0;
    for (const { table, column } of columns) {
      const { rows: found } = await running.owner.query<{ rows: number; later: number }>(
        `select count(*)::int as rows, (count(*) filter (where valid_until > '2026-11-23'))::int as later
          from ${table} where superseded_by is null and ${column} = $1`,
        [id],
      );
      rows += found[0]?.rows ?? 0;
      later += found[0]?.later ?? 0;
    }
    expect(rows).toBeGreaterThan(100);
    const { uses } = await admin.call(endpoints.uses, { params: { kind: 'list_entry' } });
    expect(uses.find((use) => use.id === id)).toEqual({ id, rows, later });
    const { places } = await admin.call(endpoints.usedIn, { params: { kind: 'list_entry', id } });
    expect(places.reduce((sum, place) => sum + place.rows, 0)).toBe(rows);
    expect(places[0]?.section).toBe('placement');
  });
});

describe('two entries merged', () => {
  test('all uses move, also those of the past; undone, everything is as before', async () => {
    const [from, to] = [await entryOf('DISMISSED'), await entryOf('RESIGNED')];
    const before = await believed(running);
    const count = async (id: number) =>
      (
        await one<{ n: number }>(
          running.owner,
          sql`select count(*)::int as n from employment_version where end_reason_id = ${id} and superseded_by is null`,
        )
      ).n;
    const [twins, uses] = [await count(from), await count(to)];
    expect(twins).toBeGreaterThanOrEqual(100);
    const named = await admin.call(endpoints.uses, { params: { kind: 'list_entry' } });
    const all = named.uses.find(({ id }) => id === from)?.rows;
    const looked = await replace({ from, to, preview: true });
    expect([looked.entry, looked.rows, looked.problems]).toEqual([null, all, []]);
    expect(await believed(running)).toEqual(before);
    const merged = await replace({ from, to, reason: 'the same twice' });
    expect([merged.rows, await count(from), await count(to)]).toEqual([all, 0, uses + twins]);
    // it stays findable, and is not offered from tomorrow on
    const twin = await one<{ until: string }>(
      running.owner,
      sql`select valid_until::text as until from list_entry_version where list_entry_id = ${from} and superseded_by is null`,
    );
    expect(twin.until).toBe('2026-11-24');
    await undo(merged.entry as number);
    expect(await believed(running)).toEqual(before);
  });

  test('of different lists they cannot be; with itself neither; nobody unknown', async () => {
    const [from, to] = [await entryOf('VACANCY'), await entryOf('DIVISION')];
    const codes = async (body: object) =>
      (
        await admin.refusal(endpoints.replaceUses, {
          body: { kind: 'list_entry', day: null, words: {}, ...body } as never,
        })
      ).problems.map(({ code, field }) => `${field} ${code}`);
    expect(await codes({ from, to })).toEqual(['to list_wrong']);
    expect(await codes({ from, to: from })).toEqual(['to nothing_changed']);
    expect(await codes({ from, to: 999_999_999 })).toEqual(['to thing_unknown']);
  });

  test('who may not write all of it moves nothing', async () => {
    const fleet = await asDemo(running.address, 'fleet');
    const [from, to] = [await entryOf('SEASON'), await entryOf('VACANCY')];
    const refused = await fleet.refusal(endpoints.replaceUses, {
      body: { kind: 'list_entry', from, to, day: null, words: {} },
    });
    expect(refused.status).toBe(403);
  });
});

describe('cost centre 4310 replaced by 4315 from 1 January', () => {
  test('later versions and a plan of 1 April follow, December keeps 4310', async () => {
    const old = await add('cost_centre', { code: '4310', name: 'Galleys' });
    const next = await add('cost_centre', { code: '4315', name: 'Galleys and bars' });
    const position = await one<{ id: number; row: number; entry: number }>(
      running.owner,
      sql`select v.position_id as id, v.id as row, e.number::int as entry from position_version v
        join entry e on e.id = v.recorded_by where v.superseded_by is null and v.valid_until = 'infinity'
        and v.valid_from < '2026-01-01' and v.standing = 'in_force' order by v.id limit 1`,
    );
    const change = async (from: string, values: object) => {
      const { sections } = await admin.call(endpoints.record, {
        params: { kind: 'position', id: position.id },
        query: {},
      });
      const basedOn = sections.find(({ name }) => name === 'position')!.lastEntry;
      await admin.call(endpoints.editRecord, {
        params: { kind: 'position', id: position.id, section: 'position' },
        body: { edit: { mode: 'set', from: from as Day, values: values as never }, basedOn },
      });
    };
    await change('2026-06-01', { costCentreId: old });
    await change('2027-04-01', { title: 'Planned otherwise' });
    const replaced = await replace({ kind: 'cost_centre', from: old, to: next, day: '2027-01-01' });
    expect(replaced.rows).toBe(2);
    const versions = () =>
      many<{ from: string; centre: number | null }>(
        running.owner,
        sql`select valid_from::text as "from", cost_centre_id as centre from position_version
          where position_id = ${position.id} and superseded_by is null and valid_from >= '2026-06-01' order by valid_from`,
      );
    expect(await versions()).toEqual([
      { from: '2026-06-01', centre: old },
      { from: '2027-01-01', centre: next },
      { from: '2027-04-01', centre: next },
    ]);
    const ended = await one<{ until: string }>(
      running.owner,
      sql`select valid_until::text as until from cost_centre_version where cost_centre_id = ${old} and superseded_by is null`,
    );
    expect(ended.until).toBe('2027-01-01');
    await undo(replaced.entry as number);
    expect((await versions()).map(({ centre }) => centre)).toEqual([old, old]);
  });
});

describe('an entry retired', () => {
  const end = async (id: number, lastDay: string) => {
    const { sections } = await admin.call(endpoints.record, {
      params: { kind: 'list_entry', id },
      query: {},
    });
    return {
      params: { kind: 'list_entry', id, section: 'list_entry' },
      body: { edit: { mode: 'end', lastDay: lastDay as Day }, basedOn: sections[0]!.lastEntry },
    } as const;
  };

  test('leaves what was chosen as it is, and is chosen no more; a plan beyond its end stops it', async () => {
    const id = await entryOf('SEASON');
    const { planned } = await one<{ planned: number }>(
      running.owner,
      sql`select count(*)::int as planned from placement_version
        where superseded_by is null and reason_id = ${id} and valid_from > '2026-12-31'`,
    );
    expect(planned).toBeGreaterThan(0);
    const refused = await admin.refusal(endpoints.editRecord, await end(id, '2026-12-31'));
    expect(refused.problems[0]).toMatchObject({ code: 'still_named' });
    expect(String(refused.problems[0]?.params['day']) > '2026-12-31').toBe(true);
    const unused = await entryOf('VACANCY');
    const { running: held } = await one<{ running: number }>(
      running.owner,
      sql`select count(*)::int as running from placement_version
        where superseded_by is null and reason_id = ${unused} and valid_until > '2030-01-01'`,
    );
    expect(held).toBeGreaterThan(100);
    const ended = await admin.call(endpoints.editRecord, await end(unused, '2029-12-31'));
    expect(ended.entry).not.toBeNull();
    await undo(ended.entry as number);
  });
});

describe('uses in sections of the organisation’s own', () => {
  test('are counted and move as all others: one of a field, and one among several', async () => {
    const from = '2026-11-23';
    const make = async (kind: Kind, values: Record<string, unknown>, name: string = kind) =>
      (
        await admin.call(endpoints.createRecord, {
          params: { kind },
          body: { from: from as Day, sections: { [name]: values } },
        })
      ).id;
    const label = { en: 'Uniform', de: 'Uniform' };
    const section = await make('own_section', {
      code: 'UNI',
      label,
      of: 'person',
      several: true,
      sensitive: false,
      place: 1,
    });
    const field = async (code: string, kind: string) =>
      ownFieldName(
        await make('own_field', {
          sectionId: section,
          code,
          label,
          kind,
          list: 'job_family',
          place: 1,
          required: false,
        }),
      );
    const [one1, several] = [await field('ONE', 'list'), await field('MANY', 'lists')];
    const [naut, tech, hotel] = [await entryOf('NAUT'), await entryOf('TECH'), await entryOf('HOTEL')];
    const { id: owner } = await one<{ id: number }>(
      running.owner,
      sql`select person_id as id from person_version where superseded_by is null order by person_id limit 1`,
    );
    const own = `own.${section}`;
    const row = await make('own_row', { ownerId: owner, [one1]: naut, [several]: [tech, naut] }, own);
    const usesIn = async (id: number) =>
      (await admin.call(endpoints.usedIn, { params: { kind: 'list_entry', id } })).places
        .filter((place) => place.section === own)
        .map((place) => [place.field, place.rows, place.later])
        .sort();
    expect(await usesIn(naut)).toEqual(
      [
        [one1, 1, 1],
        [several, 1, 1],
      ].sort(),
    );
    const replaced = await replace({ from: naut, to: hotel, day: '2027-01-01' });
    const { sections } = await admin.call(endpoints.record, {
      params: { kind: 'own_row', id: row },
      query: {},
    });
    expect(
      sections[0]!.rows.map((version) => [version.from, version.values[one1], version.values[several]]),
    ).toEqual([
      ['2026-11-23', naut, [tech, naut]],
      ['2027-01-01', hotel, [tech, hotel]],
    ]);
    await undo(replaced.entry as number);
    expect(await usesIn(hotel)).toEqual([]);
  });
});

describe('who counts uses', () => {
  test('counts those of the part they may see, and no others', async () => {
    const { id: unit } = await one<{ id: number }>(
      running.owner,
      sql`select unit_id as id from unit_version where name = 'Fleet' and superseded_by is null limit 1`,
    );
    const some = await asAccount(running, 'lists@part.example', [
      {
        scope: { type: 'branch', unitId: unit },
        sections: { placement: 'view', list_entry: 'edit' },
        acts: [],
      } as never,
    ]);
    const id = await entryOf('VACANCY');
    const placements = async (client: Client) =>
      (await client.call(endpoints.usedIn, { params: { kind: 'list_entry', id } })).places.map(
        ({ section, rows }) => [section, rows] as const,
      );
    const all = new Map(await placements(admin));
    const part = await placements(some);
    expect(part.map(([section]) => section)).toEqual(['placement']);
    expect(part[0]![1]).toBeGreaterThan(0);
    expect(part[0]![1]).toBeLessThan(all.get('placement') as number);
  });
});

describe('two windows', () => {
  test('an entry changed in one is not changed over by the other', async () => {
    const id = await entryOf('TERM');
    const { sections } = await admin.call(endpoints.record, {
      params: { kind: 'list_entry', id },
      query: {},
    });
    const { lastEntry, rows } = sections[0]!;
    const save = (label: string) => ({
      params: { kind: 'list_entry', id, section: 'list_entry' } as const,
      body: {
        edit: { mode: 'mend' as const, row: rows[0]!.id, values: { label: { en: label, de: label } } },
        basedOn: lastEntry,
      },
    });
    await admin.call(endpoints.editRecord, save('First window'));
    const refused = await admin.refusal(endpoints.editRecord, save('Second window'));
    expect([refused.status, refused.codes]).toEqual([409, ['conflict']]);
  });
});

describe('a new register', () => {
  test('has its lists filled by the first entry, as soon as somebody may set it up; once', async () => {
    const empty = await startServer('empty');
    const token = (await firstAdministratorLink(empty)) as string;
    const client = new Client(empty.address);
    const [email, password] = ['first@lists.example', 'a-long-first-password'];
    await client.call(endpoints.firstAdministrator, { body: { token, email, name: 'First', password } });
    const first = await signIn(empty.address, email, password);
    const { rows } = await first.call(endpoints.records, {
      params: { kind: 'list_entry' },
      query: { limit: 1000 },
    });
    const lists = new Set(rows.map(({ values }) => values['list']));
    for (const list of ['worker_type', 'contract_kind', 'pay_kind', 'unit_kind', 'reason', 'absence_kind'])
      expect(lists).toContain(list);
    const codes = rows.map(({ values }) => `${String(values['list'])} ${String(values['code'])}`);
    expect(new Set(codes).size).toBe(codes.length);
    const { entries } = await first.call(endpoints.journal, { query: {} });
    expect(entries.map(({ number, kind, account }) => [number, kind, account])).toEqual([
      [1, 'set_up', email],
    ]);
    await empty.close();
  });
});
