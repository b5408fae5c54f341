// Facts as they are taken in, over HTTP: what is asked about on every way in, what nobody overwrites unseen.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type Day, type HireInput, endpoints, presets } from '@gremium/contract';
import {
  type Client,
  type Running,
  asAccount,
  asDemo,
  many,
  newcomer,
  one,
  sql,
  startServer,
  takeIn,
  vacantPosition,
} from './harness';

let running: Running;
let admin: Client;
let baseKind: number;
beforeAll(async () => {
  running = await startServer('demo');
  admin = await asDemo(running.address, 'admin');
  const kinds = await admin.call(endpoints.records, {
    params: { kind: 'list_entry' },
    query: { limit: 1000 },
  });
  baseKind = kinds.rows.find(({ values }) => values['code'] === 'BASE')!.thing;
});
afterAll(() => running.close());

const FIRST = '2027-02-01' as Day;
const pay = (amount: string, currency = 'EUR') => [
  { kindId: baseKind, amount, currency, basis: 'month' as const, rate: 'full_time' as const },
];
/** A vacant position whose grade has a range in euros and whose legal entity pays in them. */
const paidPosition = async (): Promise<{ id: number; code: string }> => {
  const { positions } = await admin.call(endpoints.positions, { query: { free: 'yes' } });
  const ids = positions.filter(({ mark }) => mark === 'vacant').map(({ id }) => id);
  const rows = await many<{ id: number; code: string }>(
    running.owner,
    sql`select o.position_id as id, o.code from position_version o
      join grade_range_version r on r.grade_id = o.grade_id and r.superseded_by is null and r.currency = 'EUR'
      where o.superseded_by is null and o.position_id = any(${ids}::bigint[]) and o.made_on_hire = false
        and not exists (select from placement_version p where p.position_id = o.position_id and p.superseded_by is null and p.valid_until > '2026-11-23')`,
  );
  for (const row of rows) {
    const { inherited } = await admin.call(endpoints.positionRecord, { params: { id: row.id }, query: {} });
    const entity = await one<{ currency: string }>(
      running.owner,
      sql`select currency from legal_entity_version where legal_entity_id = ${inherited.legalEntityId} and superseded_by is null limit 1`,
    );
    if (entity.currency === 'EUR') return row;
  }
  throw new Error('no such position');
};
const preview = async (input: object) => {
  const body = { input: input as HireInput, preview: true };
  const { problems, looked, asOf } = await admin.call(endpoints.move, { body: { kind: 'hire', ...body } });
  return { codes: problems.map(({ code }) => code), problems, looked, asOf };
};
const lastOf = async (kind: 'person' | 'position', id: number, section: string) => {
  const { sections } = await admin.call(endpoints.record, { params: { kind, id } });
  return sections.find(({ name }) => name === section)!.lastEntry;
};

describe('what is asked about', () => {
  test('pay: its range, its currency, above nothing, and what is hardly paid; only what was looked at has passed', async () => {
    const { id } = await paidPosition();
    const input = (amount: string, currency?: string) => ({
      person: newcomer('Sensed'),
      positionId: id,
      firstDay: FIRST,
      pay: pay(amount, currency),
    });
    expect((await preview(input('26.40'))).codes).toEqual(['pay_outside_range']);
    expect((await preview(input('0'))).codes).toEqual(['pay_not_positive']);
    const foreign = await preview(input('3000', 'SEK'));
    expect(foreign.codes).toContain('pay_currency');
    expect(foreign.looked).toEqual(
      expect.arrayContaining(['place', 'share', 'hours', 'line', 'pay', 'currency', 'twins']),
    );
    const bare = await preview({ ...input('1'), pay: [] });
    expect(bare.looked.filter((group) => ['pay', 'range', 'currency'].includes(group))).toEqual([]);
  });

  test('twins: the same email, the same birth date and a similar name, somebody who returns', async () => {
    const { id, code } = await paidPosition();
    const [known] = await many<{
      given: string;
      family: string;
      birth: string;
      email: string;
      number: string;
    }>(
      running.owner,
      sql`select n.given, n.family, p.birth_date::text as birth, c.value as email, p.number from person_version p
        join person_name_version n on n.person_id = p.person_id and n.superseded_by is null
        join contact_version c on c.person_id = p.person_id and c.superseded_by is null and c.kind = 'email'
        join employment_version e on e.person_id = p.person_id and e.superseded_by is null and e.valid_until = 'infinity'
        where p.superseded_by is null and p.birth_date is not null and length(n.family) > 6 limit 1`,
    );
    const { given, family, birth, email } = known!;
    const of = (person: object) => preview({ person, positionId: id, firstDay: FIRST });
    const contacts = (value: string) => [{ kind: 'email', value }];
    const same = await of({
      name: { given: 'New', family: 'Body' },
      contacts: contacts(email.toUpperCase()),
    });
    expect(same.codes).toEqual(['twin_email']);
    const typo = `${family.slice(0, 3)}${family[3] === 'x' ? 'y' : 'x'}${family.slice(4)}`;
    const alike = {
      name: { given: typo, family: given },
      birthDate: birth,
      contacts: contacts('other@new.example'),
    };
    expect((await of(alike)).codes).toEqual(['twin_birth']);
    const other = {
      name: { given: 'Quite', family: 'Different' },
      birthDate: birth,
      contacts: contacts('other@new.example'),
    };
    expect((await of(other)).codes).toEqual([]);
    const [left] = await many<{ email: string }>(
      running.owner,
      sql`select c.value as email from contact_version c
        join employment_version e on e.person_id = c.person_id and e.superseded_by is null
        where c.superseded_by is null and c.kind = 'email'
        group by c.person_id, c.value having max(e.valid_until) < '2026-01-01' limit 1`,
    );
    expect(
      (await of({ name: { given: 'Re', family: 'Turner' }, contacts: contacts(left!.email) })).codes,
    ).toEqual(['twin_returns']);
    // by file the email means the person, and the birth date with the name asks
    const file = await takeIn(
      admin,
      'twin.csv',
      `Given name,Family name,Birth date,Phone,First day,Position\n${given},${family},${birth},+358 40 123456,2027-02-01,${code}`,
    );
    const { rows } = await admin.call(endpoints.importRows, { params: { id: file.id }, query: {} });
    expect(rows[0]?.faults.map(({ problem }) => problem.code)).toEqual(['person_alike']);
  });

  test('a section, a movement and a file ask the same about the same pay', async () => {
    const position = await paidPosition();
    const { personId, employmentId } = await admin.call(endpoints.move, {
      body: {
        kind: 'hire',
        input: {
          person: newcomer('Threeways'),
          positionId: position.id,
          firstDay: FIRST,
          pay: pay('2700'),
          reasonId: null,
        } as HireInput,
        words: { pay_outside_range: 'as it is' },
      },
    });
    const { id } = await one<{ id: number }>(
      running.owner,
      sql`select pay_id as id from pay_version where employment_id = ${employmentId} and superseded_by is null`,
    );
    const body = {
      edit: { mode: 'set' as const, from: '2027-03-01' as Day, values: { amount: '26.4' }, override: false },
      basedOn: await lastOf('pay' as never, id, 'pay'),
    };
    const params = { kind: 'pay' as const, id, section: 'pay' as const };
    const refused = await admin.refusal(endpoints.editRecord, { params, body });
    expect(refused.codes.filter((code) => code !== 'word_missing').sort()).toEqual([
      'pay_jump',
      'pay_outside_range',
    ]);
    const { number } = await one<{ number: string }>(
      running.owner,
      sql`select number from person_version where person_id = ${personId} and superseded_by is null`,
    );
    const file = await takeIn(
      admin,
      'pay.csv',
      `Person number,In effect from,Pay\n${number},2027-03-01,26.40`,
    );
    expect(file.warnings.map(({ problem }) => problem.code).sort()).toEqual([
      'pay_jump',
      'pay_outside_range',
    ]);
    const words = { pay_jump: 'meant', pay_outside_range: 'meant' };
    const { entry } = await admin.call(endpoints.editRecord, { params, body: { ...body, words } });
    const { origin } = await one<{ origin: string }>(
      running.owner,
      sql`select origin from entry where number = ${entry}`,
    );
    expect(JSON.parse(origin)).toMatchObject({ words });
  });

  test('hours of nothing are refused by name, on every way in', async () => {
    const { id } = await paidPosition();
    const input = {
      person: newcomer('Nohours'),
      positionId: id,
      firstDay: FIRST,
      hours: 0,
      reasonId: null,
    } as HireInput;
    expect(
      (await admin.refusal(endpoints.move, { body: { kind: 'hire', input } })).problems[0],
    ).toMatchObject({
      code: 'share_range',
      field: 'hours',
    });
  });
});

describe('one’s own record', () => {
  test('is not changed by oneself in any section of employment, by slip, section or file', async () => {
    const [own] = await many<{ person: number; employment: number; number: string; seniority: string }>(
      running.owner,
      sql`select e.person_id as person, e.employment_id as employment, p.number, e.valid_from::text as seniority from employment_version e
        join person_version p on p.person_id = e.person_id and p.superseded_by is null
        where e.superseded_by is null and e.valid_until = 'infinity' limit 1`,
    );
    const client = await asAccount(running, 'own@vessmar.example', presets.administrator());
    await running.owner.query('update account set person_id = $1 where email = $2', [
      own!.person,
      'own@vessmar.example',
    ]);
    const { sections } = await client.call(endpoints.record, {
      params: { kind: 'employment', id: own!.employment },
    });
    const { lastEntry, rows } = sections[0]!;
    const refused = await client.refusal(endpoints.editRecord, {
      params: { kind: 'employment', id: own!.employment, section: 'employment' },
      body: {
        edit: { mode: 'mend', row: rows.at(-1)!.id, values: { seniorityDate: '2001-01-01' } },
        basedOn: lastEntry,
      },
    });
    expect(refused.codes).toEqual(['own_record']);
    const target = await vacantPosition(running, admin);
    const transfer = {
      input: { personId: own!.person, positionId: target, firstDay: FIRST, reasonId: null },
    };
    expect(
      (await client.refusal(endpoints.move, { body: { kind: 'transfer', ...transfer } })).codes,
    ).toContain('own_record');
    const file = await takeIn(client, 'own.csv', `Person number,Seniority date\n${own!.number},2001-01-01`);
    const found = await client.call(endpoints.importRows, { params: { id: file.id }, query: {} });
    expect(found.rows[0]?.faults.map(({ problem }) => problem.code)).toEqual(['own_record']);
  });
});

describe('what was not seen', () => {
  test('is not overwritten by a movement: a later entry on the person or the position is a conflict, field by field', async () => {
    const [from, to] = [await vacantPosition(running, admin), (await paidPosition()).id];
    const { personId, employmentId } = await admin.call(endpoints.move, {
      body: {
        kind: 'hire',
        input: { person: newcomer('Unseen'), positionId: from, firstDay: FIRST, reasonId: null } as HireInput,
      },
    });
    const input = {
      personId: personId!,
      positionId: to === from ? await vacantPosition(running, admin, '%Vess%') : to,
      firstDay: '2027-04-01' as Day,
      reasonId: null,
    };
    const { asOf } = await admin.call(endpoints.move, { body: { kind: 'transfer', input, preview: true } });
    const contacts = await one<{ id: number }>(
      running.owner,
      sql`select person_id as id from person_version where person_id = ${personId} and superseded_by is null`,
    );
    await admin.call(endpoints.editRecord, {
      params: { kind: 'person', id: contacts.id, section: 'person' },
      body: {
        edit: { mode: 'set', from: '2027-02-10' as Day, values: { gender: 'female' }, override: false },
        basedOn: await lastOf('person', contacts.id, 'person'),
      },
    });
    const refused = await admin.refusal(endpoints.move, { body: { kind: 'transfer', input, seen: asOf } });
    expect([refused.status, refused.codes]).toEqual([409, ['movement_conflict']]);
    const fields = JSON.parse(String(refused.problems[0]?.params['fields'])) as object[];
    expect(fields).toContainEqual({
      section: 'person',
      field: 'gender',
      from: '2027-02-10',
      was: null,
      now: 'female',
    });
    // somebody else's entry elsewhere is none
    const now = await admin.call(endpoints.move, { body: { kind: 'transfer', input, preview: true } });
    await admin.call(endpoints.move, {
      body: {
        kind: 'hire',
        input: {
          person: newcomer('Elsewhere'),
          positionId: await vacantPosition(running, admin, '%Harbour%'),
          firstDay: FIRST,
          reasonId: null,
        } as HireInput,
      },
    });
    const done = await admin.call(endpoints.move, {
      body: { kind: 'transfer', input, seen: now.asOf, words: { requirement_missing: 'is being trained' } },
    });
    expect(done.employmentId === employmentId || done.entry! > 0).toBe(true);
  });

  test('at an earlier moment is not what a save from there names: it is shown as a conflict', async () => {
    const [known] = await many<{ id: number }>(
      running.owner,
      sql`select person_id as id from person_version where superseded_by is null limit 1`,
    );
    const id = known!.id;
    const { moment } = await one<{ moment: string }>(
      running.owner,
      sql`select to_char(moment at time zone 'utc', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"') as moment from journal_head`,
    );
    const edit = (gender: string) => ({
      mode: 'set' as const,
      from: '2027-01-01' as Day,
      values: { gender },
      override: false,
    });
    const save = (gender: string, basedOn: number) => ({
      params: { kind: 'person' as const, id, section: 'person' as const },
      body: { edit: edit(gender), basedOn },
    });
    const past = () =>
      admin.call(endpoints.personRecord, { params: { id }, query: { recordedBy: moment as never } });
    const before = (await past()).lastEntries.find(({ section }) => section === 'person')!.number;
    await admin.call(endpoints.editRecord, save('other', before));
    // the page of the earlier moment still names what it shows
    expect((await past()).lastEntries.find(({ section }) => section === 'person')!.number).toBe(before);
    expect((await admin.refusal(endpoints.editRecord, save('male', before))).codes).toEqual(['conflict']);
  });
});

describe('positions', () => {
  test('made on a hire close with a last day known at the hire; those without limits are hired and transferred into', async () => {
    const units = await admin.call(endpoints.records, { params: { kind: 'unit' }, query: { limit: 1000 } });
    const open = units.rows.find(
      ({ values }) => values['hiresNeedPosition'] === false && values['kindId'] !== null,
    )!;
    const [job] = (await admin.call(endpoints.records, { params: { kind: 'job' }, query: { limit: 1 } }))
      .rows;
    const input = {
      person: newcomer('Seasonal'),
      unitId: open.thing,
      jobId: job!.thing,
      firstDay: '2027-05-01',
      lastDay: '2027-08-31',
      reasonId: null,
    };
    const words = { unit_has_sub_units: 'this one' };
    const { positionId } = await admin.call(endpoints.move, {
      body: { kind: 'hire', input: input as unknown as HireInput, words },
    });
    const standing = await many<{ standing: string; from: string }>(
      running.owner,
      sql`select standing, valid_from::text as "from" from position_version
        where position_id = ${positionId} and superseded_by is null order by valid_from`,
    );
    expect(standing).toEqual([
      { standing: 'in_force', from: '2027-05-01' },
      { standing: 'closed', from: '2027-09-01' },
    ]);
    const [unlimited] = await many<{ id: number; title: string }>(
      running.owner,
      sql`select o.position_id as id, o.title from position_version o
        join position_limits_version l on l.position_id = o.position_id and l.superseded_by is null and l.places is null and l.fte is null
        join placement_version p on p.position_id = o.position_id and p.superseded_by is null and p.valid_until = 'infinity'
        where o.superseded_by is null and o.standing = 'in_force' and o.valid_until = 'infinity' limit 1`,
    );
    const { found } = await admin.call(endpoints.find, { query: { text: unlimited!.title, free: 'yes' } });
    expect(found.length).toBeGreaterThan(0);
    const hired = await admin.call(endpoints.move, {
      body: {
        kind: 'hire',
        input: {
          person: newcomer('Onemore'),
          positionId: unlimited!.id,
          firstDay: FIRST,
          reasonId: null,
        } as HireInput,
      },
    });
    const moved = await admin.call(endpoints.move, {
      body: {
        kind: 'hire',
        input: {
          person: newcomer('Mover'),
          positionId: await vacantPosition(running, admin),
          firstDay: FIRST,
          reasonId: null,
        } as HireInput,
      },
    });
    expect(hired.entry).toBeGreaterThan(0);
    const transfer = {
      input: {
        personId: moved.personId!,
        positionId: unlimited!.id,
        firstDay: '2027-03-01' as Day,
        reasonId: null,
      },
    };
    expect(
      (
        await admin.call(endpoints.move, {
          body: { kind: 'transfer', ...transfer, words: { requirement_missing: 'is being trained' } },
        })
      ).entry,
    ).toBeGreaterThan(0);
  });
});
