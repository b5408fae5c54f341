// What is told of what is not there, of things by their ids, and of what an entry changed; over HTTP.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type Day, type HireInput, endpoints } from '@gremium/contract';
import {
  type Client,
  type Running,
  asDemo,
  newcomer,
  one,
  sql,
  startServer,
  vacantPosition,
} from './harness';
import { undoBy } from './moving';

let running: Running;
let admin: Client;
let fleet: Client;
let crew: Client;
beforeAll(async () => {
  running = await startServer('demo');
  [admin, fleet, crew] = [
    await asDemo(running.address, 'admin'),
    await asDemo(running.address, 'fleet'),
    await asDemo(running.address, 'crew'),
  ];
});
afterAll(() => running.close());

const hire = async (family: string) => {
  const positionId = await vacantPosition(running, admin, '%Tallinn%');
  const input = {
    person: newcomer(family),
    positionId,
    firstDay: '2026-12-01',
    contract: {},
    pay: [],
    reasonId: null,
  } as unknown as HireInput;
  const { entry, personId } = await admin.call(endpoints.move, { body: { kind: 'hire', input, words: {} } });
  return { entry: entry as number, personId: personId as number };
};

const undo = async (number: number) => (await undoBy(admin, number)).entry as number;

describe('a record that is not there', () => {
  test('says that it was undone, by which entry and whom; to who sees only a part no more than that it is not for them', async () => {
    const { entry, personId } = await hire('Undone');
    const undone = await undo(entry);
    const asked = { params: { id: personId }, query: {} };
    const { status, problems } = await admin.refusal(endpoints.personRecord, asked);
    expect([status, problems[0]?.code]).toEqual([404, 'record_undone']);
    expect(problems[0]?.params).toMatchObject({ entry, undone, who: 'admin@vessmar.example' });
    expect(String(problems[0]?.params['name'])).toContain('Undone');
    expect((await fleet.refusal(endpoints.personRecord, asked)).codes).toEqual(['record_hidden']);
  });

  test('says that it was recorded later than the moment looked at', async () => {
    const { moment } = await one<{ moment: string }>(
      running.owner,
      sql`select to_char(max(moment) at time zone 'utc', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"') as moment from entry`,
    );
    const { entry, personId } = await hire('Later');
    const refused = await admin.refusal(endpoints.personRecord, {
      params: { id: personId },
      query: { recordedBy: moment } as never,
    });
    expect(refused.problems[0]).toMatchObject({ code: 'record_later', params: { entry } });
    await undo(entry);
  });

  test('is unknown where there never was one', async () => {
    for (const endpoint of [endpoints.personRecord, endpoints.positionRecord, endpoints.unitRecord]) {
      const refused = await admin.refusal(endpoint, { params: { id: 999_999_999 }, query: {} } as never);
      expect([refused.status, refused.codes]).toEqual([404, ['thing_unknown']]);
    }
  });
});

describe('things by their ids', () => {
  test('come in the order asked, as the viewer may see them', async () => {
    const { unit, position, person } = await one<{ unit: number; position: number; person: number }>(
      running.owner,
      sql`select p.unit_id as unit, p.position_id as position, e.person_id as person
        from placement_version v
        join position_version p on p.position_id = v.position_id and p.superseded_by is null and p.valid_until = 'infinity'
        join employment_version e on e.employment_id = v.employment_id and e.superseded_by is null
        join unit_version u on u.unit_id = p.unit_id and u.superseded_by is null and u.valid_until = 'infinity'
        where v.superseded_by is null and v.valid_until = 'infinity' and v.kind = 'primary'
          and v.valid_from < '2026-01-01' and p.valid_from < '2026-01-01'
        order by v.id desc limit 1`,
    );
    const of = `unit:${unit},person:${person},job:999999999,position:${position}`;
    const { found } = await admin.call(endpoints.named, { query: { of } });
    expect(found.map(({ kind, id }) => [kind, id])).toEqual([
      ['unit', unit],
      ['person', person],
      ['position', position],
    ]);
    // a crew member finds themselves, and nobody else
    const { id: own } = await one<{ id: number }>(
      running.owner,
      sql`select person_id as id from account where email = 'crew@vessmar.example'`,
    );
    const seen = await crew.call(endpoints.named, { query: { of: `${of},person:${own}` } });
    expect(seen.found.map(({ kind, id }) => [kind, id])).toEqual([['person', own]]);
    const wrong = await admin.refusal(endpoints.named, { query: { of: 'pay:1' } });
    expect(wrong.problems[0]?.field).toMatch(/^of/);
  });
});

describe('a line of the journal', () => {
  test('says which sections changed and from when, and of an end the last day', async () => {
    const { entry, personId } = await hire('Changed');
    const record = async () => admin.call(endpoints.personRecord, { params: { id: personId }, query: {} });
    const { rows, lastEntries } = await record();
    const basedOn = (section: string) => lastEntries.find((last) => last.section === section)?.number ?? 0;
    const contact = rows.find(({ section }) => section === 'contact');
    await admin.call(endpoints.saveEdits, {
      body: {
        edits: [
          {
            kind: 'person',
            id: personId,
            section: 'person_name',
            edit: { mode: 'set', from: '2027-01-01' as Day, values: { preferred: 'Chang' }, override: false },
            basedOn: basedOn('person_name'),
          },
        ],
      },
    });
    const [changed] = (await admin.call(endpoints.journal, { query: { limit: 1 } })).entries;
    expect(changed?.changed).toEqual([{ section: 'person_name', day: '2027-01-01', isEnd: false }]);
    expect(changed?.about.map(({ kind, id }) => [kind, id])).toEqual([['person', personId]]);
    await admin.call(endpoints.editRecord, {
      params: { kind: 'contact', id: contact!.thing, section: 'contact' },
      body: {
        edit: { mode: 'end', lastDay: '2027-06-30' as Day },
        basedOn: basedOn('contact'),
        words: { contact_missing: 'as asked' },
      },
    });
    const [ended] = (await admin.call(endpoints.journal, { query: { limit: 1 } })).entries;
    expect(ended?.changed).toEqual([{ section: 'contact', day: '2027-06-30', isEnd: true }]);
    await undo(entry);
  });
});
