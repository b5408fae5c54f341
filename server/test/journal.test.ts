import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import {
  type HireInput,
  type Row,
  type SectionName,
  endpoints,
  preset,
  presetNames,
} from '@gremium/contract';
import {
  allRows,
  digesterOf,
  insertVersions,
  rowDigests,
  tableOf,
  verifyJournal,
  versionCells,
} from '@gremium/server';
import {
  type Client,
  type Running,
  asDemo,
  copyDatabase,
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

const hireInput = (positionId: number, family: string, firstDay = '2026-12-01'): HireInput =>
  ({ person: newcomer(family), positionId, firstDay }) as HireInput;

const hireAt = (positionId: number, family: string) =>
  admin.call(endpoints.move, { body: { kind: 'hire', input: hireInput(positionId, family) } });

const nameSection = async (personId: number) => {
  const { sections } = await admin.call(endpoints.record, { params: { kind: 'person', id: personId } });
  return sections.find(({ name }) => name === 'person_name')!;
};

describe('an act', () => {
  test('is previewed without a trace, then recorded as one entry with everything it made', async () => {
    const positionId = await vacantPosition(running, admin);
    const input = hireInput(positionId, 'Preview');
    const before = await admin.call(endpoints.journal, { query: { limit: 1 } });
    const preview = await admin.call(endpoints.move, { body: { kind: 'hire', input, preview: true } });
    expect(preview.entry).toBeNull();
    expect(preview.slip.find(({ field }) => field === 'hours')?.source).not.toBe('typed');
    expect(await admin.call(endpoints.journal, { query: { limit: 1 } })).toEqual(before);
    const done = await admin.call(endpoints.move, { body: { kind: 'hire', input } });
    const { entry, recorded } = await admin.call(endpoints.entry, { params: { number: done.entry! } });
    expect(entry.number).toBe(before.entries[0]!.number + 1);
    expect(recorded.map(({ section }) => section).sort()).toEqual([
      'contact',
      'employment',
      'person',
      'person_name',
      'placement',
    ]);
    const { people } = await admin.call(endpoints.people, { query: { on: '2026-12-01', search: 'préview' } });
    expect(people.map(({ id, status }) => [id, status])).toEqual([[done.personId, 'at_work']]);
    const dayBefore = await admin.call(endpoints.people, {
      query: { on: '2026-11-30', search: 'preview', status: 'any' },
    });
    expect(dayBefore.people.map(({ status }) => status)).toEqual(['coming']);
  });

  test('into a place that is held is refused, naming who holds it and until when', async () => {
    const positionId = await vacantPosition(running, admin);
    await hireAt(positionId, 'Holder');
    const refused = await admin.refusal(endpoints.move, {
      body: { kind: 'hire', input: hireInput(positionId, 'Second') },
    });
    expect(refused.status).toBe(422);
    const [problem] = refused.problems;
    expect(problem).toMatchObject({
      code: 'place_taken',
      field: 'positionId',
      params: { until: 'infinity' },
    });
    expect(problem?.params['holders']).toEqual([
      { kind: 'person', id: expect.any(Number), label: 'Nova Holder' },
    ]);
  });

  test('says what is wrong with each field, refuses unknown ones, and loses nothing', async () => {
    const positionId = await vacantPosition(running, admin);
    const bad = (input: object) =>
      admin.refusal(endpoints.move, { body: { kind: 'hire', input: input as HireInput } });
    const date = await bad({ ...hireInput(positionId, 'Bad'), firstDay: '2026-02-30' });
    expect([date.status, date.problems[0]?.code, date.problems[0]?.field]).toEqual([
      400,
      'day_invalid',
      'input.firstDay',
    ]);
    const unknown = await bad({ ...hireInput(positionId, 'Bad'), colour: 'red' });
    expect([unknown.problems[0]?.code, unknown.problems[0]?.params['field']]).toEqual([
      'field_unknown',
      'colour',
    ]);
    const nameless = await bad({ ...hireInput(positionId, 'Bad'), person: { name: {}, contacts: [] } });
    expect(nameless.problems.map(({ code, field }) => [code, field])).toEqual([
      ['name_missing', 'person.name'],
      ['contact_missing', 'person.contacts'],
    ]);
  });
});

describe('saving', () => {
  test('names the last entry it was based on; a later one is shown instead of being overwritten', async () => {
    const { personId } = await hireAt(await vacantPosition(running, admin), 'Solbakk');
    const id = personId!;
    const { lastEntry } = await nameSection(id);
    const save = (family: string) =>
      ({
        params: { kind: 'person', id, section: 'person_name' },
        body: { edit: { mode: 'set', from: '2026-12-15', values: { family } }, basedOn: lastEntry },
      }) as const;
    const first = await admin.call(endpoints.editRecord, save('Lindqvist'));
    const refused = await admin.refusal(endpoints.editRecord, save('Raud'));
    expect(refused.status).toBe(409);
    expect(refused.problems[0]).toMatchObject({
      code: 'conflict',
      params: { entry: first.entry, section: 'person_name' },
    });
    expect(String(refused.problems[0]?.params['now'])).toContain('Lindqvist');
    // another section does not conflict
    const contact = await admin.call(endpoints.createRecord, {
      params: { kind: 'contact' },
      body: {
        from: '-infinity',
        sections: {
          contact: { personId: id, kind: 'phone', use: 'private', value: '+000 55555', primary: true },
        },
      },
    });
    expect(contact.entry).toBe(first.entry! + 1);
    const { rows } = await nameSection(id);
    expect(rows.map(({ from, until, values }) => [from, until, values['family']])).toEqual([
      ['-infinity', '2026-12-15', 'Solbakk'],
      ['2026-12-15', 'infinity', 'Lindqvist'],
    ]);
  });

  test('with an idempotency key happens once, also for twins at the same time', async () => {
    const input = hireInput(await vacantPosition(running, admin), 'Twin');
    const headers = { 'idempotency-key': 'twin-1' };
    const replies = await Promise.all(
      Array.from({ length: 4 }, () => admin.call(endpoints.move, { body: { kind: 'hire', input } }, headers)),
    );
    expect(new Set(replies.map(({ entry }) => entry)).size).toBe(1);
    const other = { ...input, firstDay: '2026-12-02' } as HireInput;
    const refused = await admin.refusal(endpoints.move, { body: { kind: 'hire', input: other } }, headers);
    expect(refused.codes).toEqual(['idempotency_other_request']);
    const { total } = await admin.call(endpoints.people, { query: { search: 'nova twin', status: 'any' } });
    expect(total).toBe(1);
  });
});

describe('undo', () => {
  test('lists what must go first, is refused when the plan has changed, is itself undone', async () => {
    const [here, there] = [await vacantPosition(running, admin), 0];
    expect(there).toBe(0);
    const { personId, entry: hired } = await hireAt(here, 'Undone');
    const target = await vacantPosition(running, admin);
    const moved = await admin.call(endpoints.move, {
      body: {
        kind: 'transfer',
        input: { personId: personId!, positionId: target, firstDay: '2027-03-01' as never },
        words: { requirement_missing: 'is being trained' },
      },
    });
    const plan = await admin.patiently(endpoints.planUndo, { params: { number: hired! } });
    expect(plan.entries.map(({ number }) => number)).toEqual([moved.entry, hired]);
    const stale = await admin.refusal(endpoints.undo, {
      params: { number: hired! },
      body: { plan: [hired!] },
    });
    expect([stale.status, stale.codes]).toEqual([409, ['undo_plan_changed']]);
    const numbers = plan.entries.map(({ number }) => number);
    const undone = await admin.call(endpoints.undo, {
      params: { number: hired! },
      body: { plan: numbers, reason: 'Cancelled' },
    });
    const find = () => admin.call(endpoints.people, { query: { search: 'nova undone', status: 'any' } });
    expect((await find()).total).toBe(0);
    const again = await admin.refusal(endpoints.undo, {
      params: { number: hired! },
      body: { plan: numbers },
    });
    expect(again.codes).toEqual(['already_undone']);
    await admin.call(endpoints.undo, { params: { number: undone.entry! }, body: { plan: [undone.entry!] } });
    expect((await find()).total).toBe(1);
  });

  test('puts back only one record of an entry that touched many', async () => {
    const { id } = await one<{ id: number }>(
      running.owner,
      sql`select number as id from entry where kind = 'bulk_change' order by number desc limit 1`,
    );
    const { superseded } = await admin.call(endpoints.entry, { params: { number: id } });
    const last = superseded.find(({ until }) => until === 'infinity')!;
    await admin.call(endpoints.putBack, { params: { number: id }, body: { thing: last.thing } });
    const { sections } = await admin.call(endpoints.record, { params: { kind: 'pay', id: last.thing } });
    expect(sections[0]!.rows.at(-1)!.values['amount']).toBe(last.values['amount']);
    const second = await admin.refusal(endpoints.putBack, {
      params: { number: id },
      body: { thing: last.thing },
    });
    expect(second.codes).toEqual(['put_back_superseded']);
  });
});

describe('as recorded by', () => {
  test('a past moment answers the same before and after later entries and undos', async () => {
    const ask = (recordedBy: string) =>
      admin.call(endpoints.people, {
        query: { on: '2027-06-01', recordedBy, search: 'nova', status: 'any' },
      });
    const { entries } = await admin.call(endpoints.journal, { query: { limit: 1 } });
    const moment = entries[0]!.moment;
    const before = await ask(moment);
    const { entry } = await hireAt(await vacantPosition(running, admin), 'Later');
    expect(await ask(moment)).toEqual(before);
    const { entries: now } = await admin.call(endpoints.journal, { query: { limit: 1 } });
    const withHire = await ask(now[0]!.moment);
    expect(withHire.total).toBe(before.total + 1);
    await admin.call(endpoints.undo, { params: { number: entry! }, body: { plan: [entry!] } });
    expect(await ask(moment)).toEqual(before);
    expect(await ask(now[0]!.moment)).toEqual(withHire);
  });

  test('waits for an act in flight that already has its moment, and keeps later ones out', async () => {
    const flying = await running.owner.connect();
    await flying.query('begin');
    await flying.query(
      `update journal_head set number = number + 1, moment = '2026-11-23T09:50:00Z' where number > 0`,
    );
    const early = await admin.refusal(endpoints.people, {
      query: { recordedBy: '2199-01-01T00:00:00Z' as never },
    });
    expect(early.codes).toEqual(['moment_later_than_now']);
    let isAnswered = false;
    const moment = running.clock.now();
    const asked = admin.call(endpoints.people, { query: { recordedBy: moment } }).then((reply) => {
      isAnswered = true;
      return reply;
    });
    // another reading, begun later and ended first, shows that the first one waits
    await admin.call(endpoints.people, { query: {} });
    expect(isAnswered).toBe(false);
    await flying.query('rollback');
    flying.release();
    const first = await asked;
    await hireAt(await vacantPosition(running, admin), 'Inflight');
    expect(await admin.call(endpoints.people, { query: { recordedBy: moment } })).toEqual(first);
    const { entries } = await admin.call(endpoints.journal, { query: { limit: 1 } });
    expect(entries[0]!.moment > moment).toBe(true);
  });

  test('is refused for a moment that has not come', async () => {
    const refused = await admin.refusal(endpoints.people, {
      query: { recordedBy: '2190-01-01T00:00:00Z' as never },
    });
    expect(refused.codes).toEqual(['moment_later_than_now']);
  });
});

describe('digests made on the way into the database', () => {
  type Digest = { id: number; digest: string };

  test('are those of the rows there, in every section', async () => {
    const saltsOf = (name: SectionName) => sql`select id, salt from ${tableOf(preset.section(name))}`;
    let compared = 0;
    for (const name of presetNames) {
      const section = preset.section(name);
      const digest = await digesterOf(running.owner, section);
      const salts = new Map(
        (await many<{ id: number; salt: string }>(running.owner, saltsOf(name))).map(({ id, salt }) => [
          id,
          salt,
        ]),
      );
      const kept = new Map(
        (await many<Digest>(running.owner, rowDigests(`${name}_version`, null))).map((one) => [
          one.id,
          one.digest,
        ]),
      );
      const rows = await many<Row>(running.owner, allRows(section, null));
      const other = rows.filter(
        (row) => digest?.(versionCells(row, section), salts.get(row.id) ?? '') !== kept.get(row.id),
      );
      expect([name, digest === null, other]).toEqual([name, false, []]);
      compared += rows.length;
    }
    expect(compared).toBeGreaterThan(10_000);
  });

  test('also with marks, quotes, signs that cannot be seen, halves of pairs, zeros around amounts', async () => {
    const texts = [
      'a"b\\c/',
      'tab\tline\nend\r',
      '\u0001\u001f\u007f\b\f',
      'ß😀\u2028é',
      'half \ud83d end',
      '{"x": null}',
    ];
    const head = { lineage: 9e8, thing: 9e8, until: 'infinity', entry: 9e8 };
    const names = texts.map((given, i) => ({
      ...head,
      id: 9e8 + i,
      section: 'person_name',
      from: `20${30 + i}-01-01`,
      until: `20${31 + i}-01-01`,
      values: { given, middle: null, family: texts.at(-1 - i), preferred: '' },
    }));
    const amounts = ['0', '-0', '007.50', '-00.25', '1234567890123.4567'].map((amount, i) => ({
      ...head,
      id: 9e8 + 100 + i,
      section: 'pay',
      from: `20${30 + i}-01-01`,
      until: `20${31 + i}-01-01`,
      values: {
        employmentId: 9e8,
        kindId: 9e8,
        amount,
        currency: 'EUR',
        basis: 'month',
        rate: 'full_time',
        reasonId: null,
      },
    }));
    const client = await running.owner.connect();
    await client.query('begin');
    await client.query('set local session_replication_role = replica');
    try {
      for (const [name, rows] of [
        ['person_name', names],
        ['pay', amounts],
      ] as const) {
        const section = preset.section(name);
        const digest = await digesterOf(client, section);
        const made = await many<Digest>(client, insertVersions([[section, rows as never]], sql`select 1`));
        for (const row of rows) {
          const [kept] = await many<{ salt: string }>(
            client,
            sql`select salt from ${tableOf(section)} where id = ${row.id}`,
          );
          const there = made.find(({ id }) => id === row.id)?.digest;
          expect([row.values, digest?.(versionCells(row as never, section), kept!.salt)]).toEqual([
            row.values,
            there,
          ]);
        }
      }
    } finally {
      await client.query('rollback');
      client.release();
    }
  });
});

describe('the journal', () => {
  test('is whole, and shows a row altered, taken away or added by the owner', async () => {
    expect((await verifyJournal(running.owner)).faults).toEqual([]);
    const url = await copyDatabase('demo');
    const alterations = [
      `update pay_version set amount = amount + 1 where id = (select min(id) from pay_version)`,
      `delete from contact_version where id = (select max(id) from contact_version)`,
      `update entry set reason = 'other' where number = 17`,
      `update pay_version set superseded_by = (select max(id) from entry) where id = (select max(id) from pay_version where superseded_by is null)`,
    ];
    const other = await startServer('demo', { url });
    expect((await verifyJournal(other.owner)).faults).toEqual([]);
    const owner = await other.owner.connect();
    for (const alteration of alterations) {
      await owner.query('begin');
      await owner.query('set local session_replication_role = replica');
      const { rowCount } = await owner.query(alteration);
      expect(rowCount).toBe(1);
      expect((await verifyJournal(owner)).faults.length).toBeGreaterThan(0);
      await owner.query('rollback');
    }
    owner.release();
    await other.close();
  });

  test('believed versions that overlap are refused by the database by name, to raw SQL', async () => {
    const [row] = await many<{ id: number; columns: string }>(
      running.owner,
      sql`select id, '' as columns from unit_version where superseded_by is null and valid_until = 'infinity' limit 1`,
    );
    await expect(
      running.owner.query(
        `insert into unit_version select (jsonb_populate_record(v, '{"id": 1, "code": "other"}')).* from unit_version v where id = $1`,
        [row!.id],
      ),
    ).rejects.toMatchObject({ code: '23P01', constraint: 'unit_overlap' });
    await expect(
      running.owner.query(
        `insert into placement_version select (jsonb_populate_record(v, '{"id": 1, "placement_id": ${
          (await one<{ id: number }>(running.owner, sql`select max(id) as id from placement`)).id
        }}')).* from placement_version v where superseded_by is null and kind = 'primary' and placement_id <> (select max(id) from placement) limit 1`,
      ),
    ).rejects.toMatchObject({ code: '23P01' });
  });
});
