// The house itself: a section that no release has, declared as any other, is kept, seen, changed, undone and told as the
// preset ones are, and nothing but its declaration says so.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import {
  type AccountRole,
  type Condition,
  type Day,
  type Grant,
  type Kind,
  type Row,
  type Scope,
  type SectionName,
  catalogueEndpoints,
  endpoints,
  may,
} from '@gremium/contract';
import { RowRegister, chronicle, rowInside } from '@gremium/core';
import { allRows, migrate, ownerPool, verifyJournal } from '@gremium/server';
import type { Client } from './harness';
import {
  PASSWORD,
  type Running,
  asAccount,
  asDemo,
  copyDatabase,
  many,
  signIn,
  sql,
  startServer,
} from './harness';
import { catalogue, invented } from './invented';

const FROM = '2026-10-01' as Day;
const [TODAY, TOMORROW] = ['2026-11-23', '2026-11-24'] as Day[] as [Day, Day];
const VOYAGE = 'voyage' as Kind;
const voyageSection = 'voyage' as SectionName;

let running: Running;
let admin: Client;
let fleet: Client;
// somebody who has worked in Fleet all the time, and somebody who never did
let sailor: { id: number; employment: number; pay: number };
let clerk: { id: number; employment: number; pay: number };
let fleetUnit: number;
let reasons: number[];

const personIn = async (isInside: boolean) => {
  const [found] = await many<{ id: number; employment: number; pay: number }>(
    running.owner,
    sql`select e.person_id as id, e.employment_id as employment,
        (select pay_id from pay_version y where y.employment_id = e.employment_id and y.superseded_by is null
          and y.valid_until = 'infinity' limit 1) as pay
      from employment_version e
      where e.superseded_by is null and e.valid_until = 'infinity' and e.valid_from < '2024-01-01'
        and (select bool_and((exists (
            select from position_version p join branch_periods(${fleetUnit}) b on b.unit_id = p.unit_id
            where p.position_id = v.position_id and p.superseded_by is null)) = ${isInside})
          from placement_version v join employment_version o on o.employment_id = v.employment_id
          where o.person_id = e.person_id and v.superseded_by is null)
        and exists (select from pay_version y where y.employment_id = e.employment_id and y.superseded_by is null
          and y.valid_until = 'infinity')
      order by e.person_id limit 1`,
  );
  return found!;
};

const whole = (personId: number) => ({
  personId,
  name: 'Åland und zurück',
  code: 'V-1',
  note: 'Über Nacht, mit “Anführung” und\nZeilen',
  email: 'bridge@vessmar.example',
  phone: '+372 555 0100',
  link: 'https://vessmar.example/v/1',
  language: 'fi',
  bookedOn: '2026-09-12',
  passengers: 1204,
  watch: 1050,
  part: 50,
  price: '1234.5',
  paid: false,
  country: 'AX',
  currency: 'EUR',
  zone: 'Europe/Mariehamn',
  rank: 'deck',
  reasonId: reasons[0],
  reasonIds: reasons.slice(0, 2),
  unitId: fleetUnit,
  beforeId: null,
  extras: { seats: ['12A', '12B'] },
});

const make = async (client: Client, values: Record<string, unknown>, from = FROM) =>
  client.call(endpoints.createRecord, {
    params: { kind: VOYAGE },
    body: { from, sections: { voyage: values } },
  });

const read = async (client: Client, id: number, kind = VOYAGE) =>
  (await client.call(endpoints.record, { params: { kind, id } })).sections;

const edit = async (client: Client, id: number, values: Record<string, unknown>, from = '2026-11-01') => {
  const { lastEntry } = (await read(client, id))[0]!;
  return client.call(endpoints.editRecord, {
    params: { kind: VOYAGE, id, section: voyageSection },
    body: { basedOn: lastEntry, edit: { mode: 'set', from: from as Day, values } },
  });
};

beforeAll(async () => {
  const url = await copyDatabase('demo');
  const owner = ownerPool(url, 1);
  await migrate(owner, catalogue);
  await owner.end();
  running = await startServer('demo', { url, sections: invented });
  [admin, fleet] = [await asDemo(running.address, 'admin'), await asDemo(running.address, 'fleet')];
  const [unit] = await many<{ id: number }>(
    running.owner,
    sql`select unit_id as id from unit_version where superseded_by is null and name = 'Fleet' limit 1`,
  );
  fleetUnit = unit!.id;
  reasons = (
    await many<{ id: number }>(
      running.owner,
      sql`select list_entry_id as id from list_entry_version where list = 'reason' order by 1 limit 3`,
    )
  ).map(({ id }) => id);
  [sailor, clerk] = [await personIn(true), await personIn(false)];
});
afterAll(() => running.close());

describe('an invented section with several rows and a field of every kind', () => {
  test('is written and read back as it was given, versioned, and told in journal and chronicle', async () => {
    const { id, entry } = await make(admin, whole(sailor.id));
    const [section] = await read(admin, id);
    expect(section!.rows.map(({ values }) => values)).toEqual([whole(sailor.id)]);
    const changed = await edit(admin, id, { rank: 'engine', price: '99' });
    const [later] = await read(admin, id);
    expect(
      later!.rows.map(({ from, values }) => [from, values['rank'], values['price'], values['note']]),
    ).toEqual([
      [FROM, 'deck', '1234.5', whole(1).note],
      ['2026-11-01', 'engine', '99', whole(1).note],
    ]);
    const said = await admin.call(endpoints.entry, { params: { number: entry! } });
    expect(said.recorded.map((row) => [row.section, row.values])).toEqual([['voyage', whole(sailor.id)]]);
    expect(said.entry.about.map((one) => [one.kind, one.id])).toContainEqual(['person', sailor.id]);
    const record = await admin.call(endpoints.personRecord, { params: { id: sailor.id } });
    const told = chronicle(new RowRegister(record.rows as never, catalogue), sailor.id);
    expect(
      told.flatMap(({ day, what, row }) => (row.section === voyageSection ? [`${day} ${what}`] : [])),
    ).toEqual(['2026-11-01 changed', `${FROM} recorded`]);
    const own = record.rows.filter(({ section: name }) => name === voyageSection);
    const numbers = new Map(record.entries.map((one) => [one.id, one.number]));
    expect(own.map(({ formedBy }) => numbers.get(formedBy!))).toEqual([entry, changed.entry]);
  });

  test('is undone with what was built on it, and put back by undoing that', async () => {
    const { id, entry } = await make(admin, whole(sailor.id));
    const changed = await edit(admin, id, { passengers: 7 });
    const plan = await admin.patiently(endpoints.planUndo, { params: { number: entry! } });
    expect(plan.entries.map(({ number }) => number)).toEqual([changed.entry, entry]);
    const undone = await admin.call(endpoints.undo, {
      params: { number: entry! },
      body: { plan: plan.entries.map(({ number }) => number) },
    });
    expect((await admin.refusal(endpoints.record, { params: { kind: VOYAGE, id } })).codes).toEqual([
      'record_hidden',
    ]);
    await admin.call(endpoints.undo, { params: { number: undone.entry! }, body: { plan: [undone.entry!] } });
    expect((await read(admin, id))[0]!.rows).toHaveLength(2);
  });

  test('is seen and changed by a branch on its own days, and by nobody else of that right', async () => {
    const [inside, outside] = [await make(admin, whole(sailor.id)), await make(admin, whole(clerk.id))];
    expect(await read(fleet, inside.id)).toHaveLength(1);
    expect(
      (await fleet.refusal(endpoints.record, { params: { kind: VOYAGE, id: outside.id } })).codes,
    ).toEqual(['record_hidden']);
    expect((await edit(fleet, inside.id, { passengers: 1 })).entry).toBeGreaterThan(0);
    const refused = await fleet.refusal(endpoints.createRecord, {
      params: { kind: VOYAGE },
      body: { from: FROM, sections: { voyage: whole(clerk.id) } },
    });
    expect(refused.codes).toEqual(['record_hidden']);
    const edited = await fleet.refusal(endpoints.editRecord, {
      params: { kind: VOYAGE, id: outside.id, section: voyageSection },
      body: { basedOn: outside.entry!, edit: { mode: 'set', from: FROM, values: { passengers: 2 } } },
    });
    expect(edited.codes).toEqual(['record_hidden']);
    const listed = await fleet.call(endpoints.records, { params: { kind: VOYAGE }, query: { limit: 1000 } });
    expect(listed.rows.map(({ thing }) => thing)).toContain(inside.id);
    expect(listed.rows.map(({ thing }) => thing)).not.toContain(outside.id);
  });

  test('is seen and changed by oneself where that is granted, another one’s never', async () => {
    const grants: Grant[] = [
      {
        acts: ['create'],
        sections: { voyage: 'edit', person: 'view', list_entry: 'view', unit: 'view' },
        scope: { type: 'oneself' },
      },
    ];
    const own = await asAccount(running, 'sailor@house.example', grants);
    await running.owner.query(`update account set person_id = $1 where email = 'sailor@house.example'`, [
      sailor.id,
    ]);
    const mine = await make(own, { ...whole(sailor.id), unitId: null });
    expect((await read(own, mine.id))[0]!.rows).toHaveLength(1);
    expect((await edit(own, mine.id, { name: 'Meine' })).entry).toBeGreaterThan(0);
    const theirs = await make(admin, whole(clerk.id));
    expect((await own.refusal(endpoints.record, { params: { kind: VOYAGE, id: theirs.id } })).codes).toEqual([
      'record_hidden',
    ]);
    expect(
      (
        await own.refusal(endpoints.createRecord, {
          params: { kind: VOYAGE },
          body: { from: FROM, sections: { voyage: { ...whole(clerk.id), unitId: null } } },
        })
      ).codes,
    ).toEqual(['record_hidden']);
  });

  test('refuses by the field what does not fit: values, entries of other lists, another owner', async () => {
    const [type] = await many<{ id: number }>(
      running.owner,
      sql`select list_entry_id as id from list_entry_version where list = 'worker_type' limit 1`,
    );
    const wrong = async (values: object) =>
      (
        await admin.refusal(endpoints.createRecord, {
          params: { kind: VOYAGE },
          body: { from: FROM, sections: { voyage: { ...whole(sailor.id), ...values } } },
        })
      ).problems.map(({ code: what, field }) => `${what} ${field}`);
    expect(await wrong({ reasonId: type!.id })).toEqual(['list_wrong reasonId']);
    expect(await wrong({ reasonIds: [reasons[0], type!.id] })).toEqual(['list_wrong reasonIds']);
    expect(await wrong({ price: 'abc' })).toEqual(['decimal_invalid sections.voyage.price']);
    expect(await wrong({ zone: 'Mars/Base' })).toEqual(['time_zone_unknown sections.voyage.zone']);
    expect(await wrong({ rank: 'cook' })).toEqual(['value_invalid sections.voyage.rank']);
    expect(await wrong({ unitId: 999_999_999 })).toEqual(['reference_missing unitId']);
    expect(await wrong({ unknown: 1 })).toEqual(['field_unknown sections.voyage']);
    const { id } = await make(admin, whole(sailor.id));
    await expect(edit(admin, id, { personId: clerk.id })).rejects.toThrow(/owner_constant/);
    // nor by what is said to have been recorded wrongly
    const { lastEntry, rows } = (await read(admin, id))[0]!;
    const mended = await admin.refusal(endpoints.editRecord, {
      params: { kind: VOYAGE, id, section: voyageSection },
      body: { basedOn: lastEntry, edit: { mode: 'mend', row: rows[0]!.id, values: { personId: clerk.id } } },
    });
    expect(mended.codes).toEqual(['owner_constant']);
  });

  test('takes requests from before a field was added, and an edit of one field writes that one', async () => {
    const { id } = await make(admin, { personId: sailor.id, name: 'Kurz' });
    const [section] = await read(admin, id);
    const { name, personId, ...rest } = section!.rows[0]!.values;
    expect([name, personId]).toEqual(['Kurz', sailor.id]);
    expect(Object.values(rest).every((value) => value === null)).toBe(true);
    expect(Object.keys(rest)).toHaveLength(21);
    await edit(admin, id, { paid: true });
    const after = (await read(admin, id))[0]!.rows.at(-1)!.values;
    expect(Object.entries(after).filter(([key, value]) => value !== section!.rows[0]!.values[key])).toEqual([
      ['paid', true],
    ]);
  });
});

describe('other ways of belonging', () => {
  test('a part of a position is its own, and one of what is itself somebody’s is where that is', async () => {
    const [held] = await many<{ position: number }>(
      running.owner,
      sql`select position_id as position from placement_version where employment_id = ${sailor.employment}
        and superseded_by is null and valid_until = 'infinity' limit 1`,
    );
    const noteOf = async (client: Client, pay: number) =>
      client.call(endpoints.createRecord, {
        params: { kind: 'pay_note' as Kind },
        body: { from: '2026-11-23' as Day, sections: { pay_note: { payId: pay, note: 'Zulage' } } },
      });
    const [inside, outside] = [await noteOf(admin, sailor.pay), await noteOf(admin, clerk.pay)];
    expect(await read(fleet, inside.id, 'pay_note' as Kind)).toHaveLength(1);
    expect(
      (await fleet.refusal(endpoints.record, { params: { kind: 'pay_note' as Kind, id: outside.id } })).codes,
    ).toEqual(['record_hidden']);
    expect((await noteOf(fleet, sailor.pay)).entry).toBeGreaterThan(0);
    await expect(noteOf(fleet, clerk.pay)).rejects.toThrow(/right_missing/);
    const saved = await fleet.call(endpoints.editRecord, {
      params: { kind: 'position', id: held!.position, section: 'berth' as SectionName },
      body: {
        basedOn: 0,
        edit: { mode: 'begin', from: '2026-11-23' as Day, values: { name: 'Backbord 4' } },
      },
    });
    expect(saved.entry).toBeGreaterThan(0);
    const record = await admin.call(endpoints.positionRecord, { params: { id: held!.position } });
    expect(
      record.rows.flatMap((row) => (row.section === ('berth' as SectionName) ? [row.values] : [])),
    ).toEqual([{ name: 'Backbord 4', beds: null }]);
  });
});

test('what ends with its owner ends with whoever leaves, over every step', async () => {
  const { id } = await admin.call(endpoints.createRecord, {
    params: { kind: 'pay_note' as Kind },
    body: { from: TODAY, sections: { pay_note: { payId: clerk.pay, note: 'bis zuletzt' } } },
  });
  const [reason] = await many<{ id: number }>(
    running.owner,
    sql`select list_entry_id as id from list_entry_version where list = 'reason' and flags -> 'acts' ? 'leave' limit 1`,
  );
  const left = await admin.call(endpoints.move, {
    body: {
      kind: 'leave',
      input: {
        employmentId: clerk.employment,
        lastDay: '2026-12-31' as Day,
        reasonId: reason!.id,
        mayReturn: true,
        returnReason: null,
      },
    },
  });
  expect((await read(admin, id, 'pay_note' as Kind))[0]!.rows.map(({ until }) => until)).toEqual([
    '2027-01-01',
  ]);
  const plan = { plan: [left.entry!] };
  await admin.call(endpoints.undo, { params: { number: left.entry! }, body: plan });
  expect((await read(admin, id, 'pay_note' as Kind))[0]!.rows.map(({ until }) => until)).toEqual([
    'infinity',
  ]);
});

describe('roles', () => {
  const roleIn = async (email: string, roles: AccountRole[]): Promise<Client> => {
    await admin.call(endpoints.createAccount, { body: { email, name: email, password: PASSWORD, roles } });
    return signIn(running.address, email, PASSWORD);
  };

  test('an administrator, a specialist and a manager see an invented section at once, each by their role', async () => {
    const { id } = await make(admin, whole(sailor.id));
    const scope = { type: 'branch', unitId: fleetUnit } as const;
    const specialist = await roleIn('spec@house.example', [{ role: 'specialist', scope }]);
    const manager = await roleIn('lead@house.example', [{ role: 'manager', scope }]);
    expect((await edit(specialist, id, { passengers: 3 })).entry).toBeGreaterThan(0);
    expect(await read(manager, id)).toHaveLength(1);
    await expect(edit(manager, id, { passengers: 4 })).rejects.toThrow(/right_missing/);
    const { sections } = await manager.call(catalogueEndpoints.catalogue, {});
    expect(sections.map(({ name, level }) => `${name} ${level}`)).toContain('voyage view');
    expect(sections.map(({ name }) => String(name))).not.toContain('pay');
  });

  test('a sensitive section is given only by naming it, to an administrator too', async () => {
    const body = {
      from: FROM,
      sections: { scar: { personId: sailor.id, where: 'Arm' } },
    };
    const refused = await admin.refusal(endpoints.createRecord, { params: { kind: 'scar' as Kind }, body });
    expect(refused.codes).toEqual(['right_missing']);
    const doctor = await roleIn('doctor@house.example', [
      { role: 'administrator', scope: { type: 'all' }, also: { scar: 'edit' } },
    ]);
    const { id } = await doctor.call(endpoints.createRecord, { params: { kind: 'scar' as Kind }, body });
    expect(await read(doctor, id, 'scar' as Kind)).toHaveLength(1);
    expect((await admin.refusal(endpoints.record, { params: { kind: 'scar' as Kind, id } })).codes).toEqual([
      'record_hidden',
    ]);
    const names = (await admin.call(endpoints.personRecord, { params: { id: sailor.id } })).rows.map((row) =>
      String(row.section),
    );
    expect(names).not.toContain('scar');
  });

  test('a right on a section that there is not is refused by its name', async () => {
    const grants = [{ acts: [], sections: { voyages: 'view' as const }, scope: { type: 'all' as const } }];
    const body = { email: 'x@house.example', name: 'x', password: PASSWORD, grants };
    const refused = await admin.refusal(endpoints.createAccount, { body });
    expect([refused.status, refused.codes]).toEqual([400, ['section_unknown']]);
    expect((await admin.refusal(endpoints.records, { params: { kind: 'voyages' as Kind } })).codes).toEqual([
      'kind_unknown',
    ]);
  });
});

describe('the catalogue for the page', () => {
  test('has the viewer’s part with labels in their language, options, lists and kinds', async () => {
    const { sections } = await admin.call(catalogueEndpoints.catalogue, {});
    const pay = sections.find(({ name }) => name === 'pay')!;
    expect([pay.label, pay.owner, pay.several, pay.level]).toEqual(['Pay', 'employment', true, 'edit']);
    const basis = pay.fields.find(({ name }) => name === 'basis')!;
    expect(basis.options).toContainEqual({ value: 'month', label: 'a month' });
    expect(pay.fields.find(({ name }) => name === 'kindId')).toMatchObject({ is: 'list', list: 'pay_kind' });
    await many(running.owner, sql`update account set language = 'de' where email = 'fleet@vessmar.example'`);
    const german = (await fleet.call(catalogueEndpoints.catalogue, {})).sections;
    expect(german.find(({ name }) => name === 'pay')).toMatchObject({ label: 'Entgelt', level: 'edit' });
    expect(german.find(({ name }) => name === 'grade')).toMatchObject({ label: 'Stufe', level: 'view' });
  });
});

describe('who sees what', () => {
  // The queries, the scan over columns and a filter over rows one by one compile the same conditions; here all three are
  // compared (scopes.test.ts compares them with a brute force that knows none of them).
  const compare = async (client: Client): Promise<number> => {
    const { personId } = client.viewer!;
    const mine = may(client.viewer!);
    const register = new RowRegister([], catalogue);
    for (const section of catalogue.sections) {
      const rows = await many<Row>(running.owner, allRows(section, null));
      register.apply({ recorded: rows, superseded: [] });
    }
    const looker = { viewer: personId, today: TODAY };
    const within = { from: TODAY, until: TOMORROW };
    let compared = 0;
    for (const { name, kind, base } of catalogue.sections) {
      const section = name as SectionName;
      const isWhole = mine.everywhere(section) || (mine.view(section) && catalogue.isReference(section));
      const seen = (row: Row): boolean =>
        isWhole ||
        mine
          .coverings([section])
          .some((covering) => rowInside(register, row, { covering, within, looker }).length > 0);
      const byRows = [...register.allOn(section, TODAY)].filter(seen).map(({ thing }) => thing);
      const { rows, total } = await client.call(catalogueEndpoints.sectionRows, {
        params: { section },
        query: { on: TODAY, limit: 1000 },
      });
      const first = [...new Set(byRows)].sort((a, b) => a - b);
      expect([section, total]).toEqual([section, first.length]);
      expect([section, rows.map(({ thing }) => thing)]).toEqual([section, first.slice(0, 1000)]);
      if (base) {
        const query = { on: TODAY, limit: 1000 };
        const asked = await client.call(endpoints.records, { params: { kind }, query });
        expect([section, asked.rows.map(({ thing }) => thing)]).toEqual([section, first.slice(0, 1000)]);
      }
      compared += first.length;
    }
    return compared;
  };

  test.each(['admin', 'fleet', 'tallinn', 'crew', 'audit'] as const)(
    'is the same by query, by columns and by rows for %s, in every section',
    async (role) => {
      await make(admin, whole(sailor.id));
      await make(admin, whole(clerk.id));
      const compared = await compare(await asDemo(running.address, role));
      expect(compared).toBeGreaterThan(role === 'crew' ? 10 : 200);
    },
  );

  const conditions = async (): Promise<Record<Condition['type'], Condition>> => {
    const id = async (query: ReturnType<typeof sql>) =>
      (await many<{ id: number }>(running.owner, query))[0]!.id;
    return {
      branch: { type: 'branch', unitId: fleetUnit },
      reports: { type: 'reports', depth: 'all' },
      entity: {
        type: 'entity',
        legalEntityId: await id(
          sql`select legal_entity_id as id from employment_version where superseded_by is null group by 1 order by count(*) desc offset 1 limit 1`,
        ),
      },
      country: { type: 'country', country: 'EE' },
      worker_type: {
        type: 'worker_type',
        workerTypeId: await id(
          sql`select worker_type_id as id from employment_version where superseded_by is null group by 1 order by count(*) desc limit 1`,
        ),
      },
      oneself: { type: 'oneself' },
    };
  };
  const scoped: [string, (all: Awaited<ReturnType<typeof conditions>>) => Scope, boolean?][] = [
    ['direct reports', () => ({ type: 'reports', depth: 'direct' })],
    ['all reports', ({ reports }) => reports],
    ['an entity', ({ entity }) => entity],
    ['an entity, whose past follows', ({ entity }) => entity, true],
    ['a country', ({ country }) => country],
    ['a worker type', (all) => all.worker_type],
    ['a branch whose past follows', ({ branch }) => branch, true],
    ['a branch and an entity', ({ branch, entity }) => ({ type: 'every', of: [branch, entity] })],
    ['reports in a country', ({ reports, country }) => ({ type: 'every', of: [reports, country] })],
    ['a type in a country', ({ country, ...all }) => ({ type: 'every', of: [all.worker_type, country] })],
    ['oneself in a branch', ({ oneself, branch }) => ({ type: 'every', of: [oneself, branch] })],
    ['all there are', (all) => ({ type: 'every', of: Object.values(all) })],
  ];

  test.each(scoped)('is the same where the scope is %s', async (name, scope, isFollowing = false) => {
    const [manager] = await many<{ id: number }>(
      running.owner,
      sql`select e.person_id as id from unit_version u join placement_version p on p.position_id = u.head_position_id
        and p.superseded_by is null and p.valid_until = 'infinity'
        join employment_version e on e.employment_id = p.employment_id and e.superseded_by is null
        where u.superseded_by is null and u.unit_id = ${fleetUnit} limit 1`,
    );
    const sections = Object.fromEntries(catalogue.names.map((section) => [section, 'view' as const]));
    const grant: Grant = {
      acts: [],
      sections,
      scope: scope(await conditions()),
      ...(isFollowing ? { follows: [...catalogue.names] } : {}),
    };
    const email = `${name.replace(/[^a-z]/g, '-')}@vessmar.example`;
    const compared = await compare(await asAccount(running, email, [grant], manager!.id));
    expect(compared).toBeGreaterThan(name === 'all there are' ? 0 : 200);
  });
});

test('the journal of all this verifies', async () => {
  expect((await verifyJournal(running.owner, catalogue)).faults).toEqual([]);
});
