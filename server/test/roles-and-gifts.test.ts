// Roles of the organisation's own, and roles given to accounts from day to day: over HTTP, by whoever may, and refused to whoever may not.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type AccountRole, type Day, type HireInput, type Scope, endpoints } from '@gremium/contract';
import { makeAdministrator } from '@gremium/server';
import {
  Client,
  PASSWORD,
  type Running,
  asAccount,
  asDemo,
  many,
  newcomer,
  one,
  signIn,
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

const everywhere: Scope = { type: 'all' };
const role = (code: string, more: object = {}) => ({
  sections: {
    role: {
      code,
      label: { en: code, de: code },
      note: null,
      acts: null,
      rights: { person_name: 'view', employment: 'view', placement: 'view' },
      others: 'none',
      follows: null,
      hides: null,
      retired: null,
      ...more,
    },
  },
});
const make = async (client: Client, code: string, more: object = {}) =>
  client.call(endpoints.createRecord, {
    params: { kind: 'role' },
    body: { ...role(code, more), from: '-infinity', preview: false } as never,
  });
const newAccount = async (email: string, roles: AccountRole[] = []): Promise<number> =>
  (
    await admin.call(endpoints.createAccount, {
      body: { email, name: email, password: PASSWORD, roles } as never,
    })
  ).id;
const idOf = async (email: string): Promise<number> =>
  (await one<{ id: number }>(running.owner, sql`select id from account where email = ${email}`)).id;
const give = (client: Client, id: number, gift: AccountRole, preview = false) =>
  client.call(endpoints.giveRole, { params: { id }, body: { gift, why: null, preview } });

describe('a role of the organisation’s own', () => {
  test('gives what it names and nothing else, at once; a section is added to all who have it', async () => {
    await make(admin, 'port_doctor');
    await newAccount('doctor@vessmar.example', [{ role: 'port_doctor', scope: everywhere }]);
    const doctor = await signIn(running.address, 'doctor@vessmar.example', PASSWORD);
    expect(doctor.viewer?.grants[0]?.sections).toEqual({
      person_name: 'view',
      employment: 'view',
      placement: 'view',
    });
    const [row] = await many<{ id: number; row: number }>(
      running.owner,
      sql`select role_id as id, id as row from role_version where code = 'port_doctor' and superseded_by is null`,
    );
    const { last } = await lastOf(row!.id);
    await admin.call(endpoints.saveEdits, {
      body: {
        edits: [
          {
            kind: 'role',
            id: row!.id,
            section: 'role',
            basedOn: last,
            edit: {
              mode: 'mend',
              row: row!.row,
              values: { rights: { person_name: 'view', medical_fitness: 'edit' } },
            },
          },
        ],
        words: {},
      } as never,
    });
    const { viewer } = await doctor.call(endpoints.whoAmI, {});
    expect(viewer.grants[0]?.sections).toEqual({ person_name: 'view', medical_fitness: 'edit' });
  });

  const lastOf = async (id: number): Promise<{ last: number }> =>
    one(
      running.owner,
      sql`select max(e.number)::int as last from role_version v join entry e on e.id = v.recorded_by where v.role_id = ${id}`,
    );

  test('is refused with the code of another one, with a section that there is not, and to whoever may not give access', async () => {
    const asked = (client: Client, code: string, more: object = {}) =>
      client.refusal(endpoints.createRecord, {
        params: { kind: 'role' },
        body: {
          ...role(code, more),
          from: '-infinity',
          preview: false,
        } as never,
      });
    expect((await asked(admin, 'wages_clerk')).codes).toEqual(['role_there']);
    expect((await asked(admin, 'auditor')).codes).toEqual(['role_there']);
    expect((await asked(admin, 'ghost', { rights: { no_such_section: 'view' } })).codes).toEqual([
      'value_invalid',
    ]);
    const sneaky = await asked(await asDemo(running.address, 'fleet'), 'sneaky');
    expect(sneaky.codes).toEqual(['right_missing']);
    // what is missing, and who can give it
    const [letting] = await many<{ name: string }>(
      running.owner,
      sql`select name from account where email = 'admin@vessmar.example'`,
    );
    expect(sneaky.problems[0]?.params).toMatchObject({ given: 'role', who: letting?.name });
  });

  test('retired is given to nobody anew, who has it keeps it; brought back, or undone, it is given again', async () => {
    const gift: AccountRole = { role: 'stevedore', scope: everywhere };
    await make(admin, 'stevedore');
    await newAccount('holder@vessmar.example', [gift]);
    const holder = await signIn(running.address, 'holder@vessmar.example', PASSWORD);
    const other = await newAccount('later@vessmar.example');
    const retire = async (retired: true | null): Promise<number> => {
      const row = await one<{ id: number; row: number }>(
        running.owner,
        sql`select role_id as id, id as row from role_version where code = 'stevedore' and superseded_by is null`,
      );
      const { last } = await lastOf(row.id);
      const edit = { mode: 'mend', row: row.row, values: { retired } };
      const of = { kind: 'role', id: row.id, section: 'role', basedOn: last, edit };
      const { entry } = await admin.call(endpoints.saveEdits, { body: { edits: [of], words: {} } as never });
      return entry as number;
    };
    const refused = (body: object, endpoint: 'giveRole' | 'createAccount') =>
      admin.refusal(endpoints[endpoint], { params: { id: other }, body } as never);
    const entry = await retire(true);
    const preview = { gift, why: null, preview: true };
    expect((await refused(preview, 'giveRole')).codes).toEqual(['role_retired']);
    expect((await refused({ ...preview, preview: false }, 'giveRole')).codes).toEqual(['role_retired']);
    const body = { email: 'newer@vessmar.example', name: 'Newer', password: PASSWORD, roles: [gift] };
    expect((await refused(body, 'createAccount')).codes).toEqual(['role_retired']);
    // who has it keeps it
    const { viewer } = await holder.call(endpoints.whoAmI, {});
    expect(viewer.grants[0]?.sections).toMatchObject({ person_name: 'view' });
    const plan = await admin.call(endpoints.planUndo, { params: { number: entry } });
    const numbers = plan.entries.map(({ number }) => number);
    await admin.call(endpoints.undo, {
      params: { number: entry },
      body: { reason: 'still needed', plan: numbers } as never,
    });
    expect((await give(admin, other, gift)).gift).toBe(0);
    await retire(true);
    await retire(null);
    const third = await newAccount('third@vessmar.example');
    expect((await give(admin, third, gift)).gift).toBe(0);
  });

  test('is changed by nobody who has it: not by an edit, not by undoing what made it', async () => {
    const made = await make(admin, 'keeper', {
      acts: ['access', 'undo', 'create', 'journal'],
      others: 'edit',
    });
    await newAccount('keeper@vessmar.example', [{ role: 'keeper', scope: everywhere }]);
    const keeper = await signIn(running.address, 'keeper@vessmar.example', PASSWORD);
    const plan = await keeper.call(endpoints.planUndo, { params: { number: made.entry as number } });
    const undone = await keeper.refusal(endpoints.undo, {
      params: { number: made.entry as number },
      body: { reason: 'mine', plan: plan.entries.map(({ number }) => number) } as never,
    });
    expect(undone.codes).toContain('own_role');
    // what they do not have over everything they do not give: an act, a sensitive section
    const id = await newAccount('friend@vessmar.example');
    const more = (gift: AccountRole) =>
      keeper.refusal(endpoints.giveRole, { params: { id }, body: { gift, why: null, preview: false } });
    expect((await more({ role: 'administrator', scope: everywhere })).codes).toEqual(['gives_more']);
    expect(
      (await more({ role: 'auditor', scope: everywhere, also: { bank_account: 'view' } })).codes,
    ).toEqual(['gives_more']);
    expect((await give(keeper, id, { role: 'auditor', scope: everywhere })).gift).toBe(0);
    const whole = { acts: ['hire' as const], sections: {}, scope: everywhere };
    const body = { email: 'bold@vessmar.example', name: 'Bold', password: PASSWORD, grants: [whole] };
    expect((await keeper.refusal(endpoints.createAccount, { body: body as never })).codes).toEqual([
      'gives_more',
    ]);
    expect(
      (await keeper.refusal(endpoints.changeAccount, { params: { id }, body: { grants: [whole] } })).codes,
    ).toEqual(['gives_more']);
    const first = await idOf('admin@vessmar.example');
    expect((await keeper.refusal(endpoints.passwordLink, { params: { id: first } })).codes).toEqual([
      'gives_more',
    ]);
    // access in a part lets nobody in anywhere
    const partly = await asAccount(running, 'partly@vessmar.example', [
      { acts: ['access'], sections: {}, scope: { type: 'branch', unitId: 1 } },
    ]);
    expect((await partly.refusal(endpoints.accounts, {})).codes).toEqual(['right_missing']);
  });
});

describe('a role given from a day to a day', () => {
  test('holds on its days only, is previewed with how many people it adds, ends, and is taken back', async () => {
    const id = await newAccount('season@vessmar.example');
    const [unit] = await many<{ id: number }>(
      running.owner,
      sql`select unit_id as id from unit_version where superseded_by is null and name = 'Fleet'`,
    );
    const fleet: AccountRole = { role: 'specialist', scope: { type: 'branch', unitId: unit!.id } };
    const here = await (
      await asDemo(running.address, 'fleet')
    ).call(endpoints.people, { query: { limit: 1 } });
    expect(await give(admin, id, fleet, true)).toMatchObject({
      gift: null,
      adds: here.total,
      people: here.total,
    });
    await give(admin, id, { ...fleet, from: '2026-12-01' as Day, lastDay: '2027-03-31' as Day });
    const season = await signIn(running.address, 'season@vessmar.example', PASSWORD);
    expect(season.viewer?.grants).toEqual([]);
    const sight = (on: string) =>
      admin.call(endpoints.accountSight, { params: { id }, query: { on: on as Day } });
    expect((await sight('2026-11-30')).people).toBe(0);
    expect((await sight('2026-12-01')).by).toMatchObject([
      { gift: 0, role: 'specialist', said: { en: 'Fleet' } },
    ]);
    expect((await sight('2027-03-31')).people).toBeGreaterThan(400);
    expect((await sight('2027-04-01')).people).toBe(0);
    await give(admin, id, fleet);
    expect((await season.call(endpoints.whoAmI, {})).viewer.grants).toHaveLength(1);
    const end = (gift: number, lastDay: Day | null) =>
      admin.call(endpoints.endGift, { params: { id, gift }, body: { lastDay } });
    await end(1, null);
    await end(0, null);
    expect((await season.call(endpoints.whoAmI, {})).viewer.grants).toEqual([]);
    const again = await admin.refusal(endpoints.endGift, {
      params: { id, gift: 1 },
      body: { lastDay: null },
    });
    expect(again.codes).toEqual(['gift_over']);
    const { accounts } = await admin.call(endpoints.accounts, {});
    expect(accounts.find((one_) => one_.id === id)?.roles).toMatchObject([
      { by: 'admin@vessmar.example', endedBy: 'admin@vessmar.example' },
      { lastDay: '2026-11-22' },
    ]);
  });

  test('of a unit that merges into another one reaches that one from the day of it', async () => {
    const units = await many<{ id: number; parent: number }>(
      running.owner,
      sql`select unit_id as id, parent_id as parent from unit_version
        where superseded_by is null and name like 'Vess %' and valid_until = 'infinity' and valid_from < '2026-11-01' order by 1 limit 2`,
    );
    const [goes, stays] = units as [(typeof units)[0], (typeof units)[0]];
    await newAccount('merged@vessmar.example', [
      { role: 'auditor', scope: { type: 'branch', unitId: goes.id } },
    ]);
    const master = await signIn(running.address, 'merged@vessmar.example', PASSWORD);
    const unitsOf = async () => {
      const { rows } = await master.call(endpoints.records, {
        params: { kind: 'unit' },
        query: { limit: 1000 },
      });
      return rows.map(({ thing }) => thing);
    };
    expect(await unitsOf()).toContain(goes.id);
    expect(await unitsOf()).not.toContain(stays.id);
    const { total: before } = await master.call(endpoints.people, { query: { limit: 1 } });
    const input = { unitId: goes.id, intoId: stays.id, firstDay: '2026-11-23' };
    const preview = await admin.call(endpoints.move, {
      body: { kind: 'merge_unit', input, preview: true } as never,
    });
    const words = Object.fromEntries(preview.problems.map(({ code }) => [code, 'agreed with both masters']));
    const made = await admin.call(endpoints.move, { body: { kind: 'merge_unit', input, words } as never });
    expect(await unitsOf()).toContain(stays.id);
    const { total: after } = await master.call(endpoints.people, { query: { limit: 1 } });
    expect(after).toBeGreaterThan(before);
    await admin.call(endpoints.undo, {
      params: { number: made.entry },
      body: { plan: [made.entry] },
    } as never);
    expect(await unitsOf()).not.toContain(stays.id);
  });

  test('refuses a role that there is not, days that turn, and one’s own account', async () => {
    const id = await newAccount('wrong@vessmar.example');
    const refused = async (gift: object, to = id) =>
      (
        await admin.refusal(endpoints.giveRole, {
          params: { id: to },
          body: { gift, why: null, preview: false } as never,
        })
      ).codes;
    expect(await refused({ role: 'no_such_role', scope: everywhere })).toEqual(['role_unknown']);
    expect(
      await refused({ role: 'auditor', scope: everywhere, from: '2027-02-01', lastDay: '2027-01-31' }),
    ).toEqual(['gift_days']);
    expect(
      await refused({ role: 'auditor', scope: everywhere }, await idOf('admin@vessmar.example')),
    ).toEqual(['own_record']);
  });

  test('two side by side never combine: hire in one part and the rest of what a hire writes in another hire nobody', async () => {
    const positionId = await vacantPosition(running, admin, '%Vess%');
    const [unit] = await many<{ id: number }>(
      running.owner,
      sql`select unit_id as id from unit_version where superseded_by is null and name = 'Tallinn Harbour'`,
    );
    const [fleet] = await many<{ id: number }>(
      running.owner,
      sql`select unit_id as id from unit_version where superseded_by is null and name = 'Fleet'`,
    );
    const specialist = (await asDemo(running.address, 'fleet')).viewer!.grants[0]!;
    const there: Scope = { type: 'branch', unitId: unit!.id };
    const here: Scope = { type: 'branch', unitId: fleet!.id };
    const { acts: _, ...plain } = specialist;
    const both = await asAccount(running, 'both@vessmar.example', [
      { ...plain, acts: ['hire'], scope: there },
      { ...plain, acts: [], scope: here },
    ]);
    const input = { person: newcomer('Besidetwo'), positionId, firstDay: '2027-02-01' } as HireInput;
    const asked = { body: { kind: 'hire' as const, input } };
    expect((await both.refusal(endpoints.move, asked)).codes).toContain('right_missing');
    const one_ = await asAccount(running, 'one@vessmar.example', [{ ...plain, acts: ['hire'], scope: here }]);
    expect((await one_.call(endpoints.move, asked)).entry).toBeGreaterThan(0);
  });
});

describe('somebody can always let others in', () => {
  test('the last administrator is not paused, not ended, not made one of a role that lets nobody in; two at once neither', async () => {
    // a second one pauses the first, and the other way round, at the same moment: one of them is refused
    const second = await newAccount('second@vessmar.example', [{ role: 'administrator', scope: everywhere }]);
    for (const { id, email } of await many<{ id: number; email: string }>(
      running.owner,
      sql`select id, email from account`,
    ))
      if (!['admin@vessmar.example', 'second@vessmar.example'].includes(email))
        await many(running.owner, sql`update account set active = false where id = ${id}`);
    const other = await signIn(running.address, 'second@vessmar.example', PASSWORD);
    const first = await idOf('admin@vessmar.example');
    const answers = await Promise.all([
      admin.send(
        endpoints.changeAccount as never,
        { params: { id: second }, body: { active: false } } as never,
      ),
      other.send(
        endpoints.changeAccount as never,
        { params: { id: first }, body: { active: false } } as never,
      ),
    ]);
    const statuses = answers.map(({ status }) => status).sort();
    expect(statuses[0]).toBe(200);
    expect(statuses[1]).toBeGreaterThanOrEqual(400);
    const { active } = await one<{ active: number }>(
      running.owner,
      sql`select count(*)::int as active from account where active and roles @> '[{"role": "administrator"}]'`,
    );
    expect(active).toBe(1);
    await many(running.owner, sql`update account set active = true`);
    await many(running.owner, sql`update account set active = false where email = 'keeper@vessmar.example'`);
    // whose own ends on a day may not end the other one's: from the day after nobody could
    await many(running.owner, sql`update account set active = id in (${first}, ${second})`);
    // whoever was paused was signed out
    const [mine, theirs] = [
      await asDemo(running.address, 'admin'),
      await signIn(running.address, 'second@vessmar.example', PASSWORD),
    ];
    await mine.call(endpoints.endGift, {
      params: { id: second, gift: 0 },
      body: { lastDay: '2027-01-31' as Day },
    });
    const ending = await theirs.refusal(endpoints.endGift, {
      params: { id: first, gift: 0 },
      body: { lastDay: null },
    });
    expect([ending.codes, ending.problems[0]?.params['day']]).toEqual([['nobody_administers'], '2027-02-01']);
    await many(running.owner, sql`update account set active = true`);
  });

  test('where nobody could, the command on the host makes one: by a link, once', async () => {
    const second = sql`update account set active = false, roles = '[]' where email = 'second@vessmar.example'`;
    await many(running.owner, second);
    const { token } = await makeAdministrator(running.owner, running.clock, 'second@vessmar.example');
    const fresh = new Client(running.address);
    const password = 'another-horse-battery';
    await fresh.call(endpoints.setPassword, { body: { token, password } });
    const back = await signIn(running.address, 'second@vessmar.example', password);
    expect(back.viewer?.grants.some(({ acts }) => acts.includes('access'))).toBe(true);
    expect((await fresh.refusal(endpoints.setPassword, { body: { token, password } })).codes).toEqual([
      'link_used',
    ]);
    const made = await makeAdministrator(running.owner, running.clock, 'quite-new@vessmar.example');
    await fresh.call(endpoints.setPassword, { body: { token: made.token, password } });
    await signIn(running.address, 'quite-new@vessmar.example', password);
  });

  test('their leaving is recorded all the same, and says from when nobody could', async () => {
    const [person] = await many<{ id: number; employment: number }>(
      running.owner,
      sql`select e.person_id as id, e.employment_id as employment from employment_version e where e.superseded_by is null
        and e.valid_until = 'infinity' and e.valid_from < '2020-01-01'
        and not exists (select from employment_version o where o.person_id = e.person_id and o.employment_id <> e.employment_id)
        order by 1 limit 1`,
    );
    await many(running.owner, sql`update account set active = false where email <> 'admin@vessmar.example'`);
    const [reason] = await many<{ id: number }>(
      running.owner,
      sql`select list_entry_id as id from list_entry_version where superseded_by is null and list = 'reason' and flags ->> 'class' is not null limit 1`,
    );
    await many(
      running.owner,
      sql`update account set person_id = ${person!.id} where email = 'admin@vessmar.example'`,
    );
    await many(running.owner, sql`update account set active = true where email = 'fleet@vessmar.example'`);
    await many(
      running.owner,
      sql`update account set roles = '[{"role": "specialist", "scope": {"type": "all"}}]' where email = 'fleet@vessmar.example'`,
    );
    const clerk = await signIn(running.address, 'fleet@vessmar.example', 'vessmar-demo-only');
    const input = { employmentId: person!.employment, lastDay: '2027-01-31', reasonId: reason?.id };
    const left = await clerk.call(endpoints.move, {
      body: { kind: 'leave', input, preview: true } as never,
    });
    expect(left.problems.map(({ code }) => code)).toContain('administration_ends');
    expect(left.problems.find(({ code }) => code === 'administration_ends')).toMatchObject({
      severity: 'note',
      params: { day: '2027-02-01' },
    });
  });
});
