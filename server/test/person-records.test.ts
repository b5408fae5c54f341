// A person's record: taken out as a file, odd things said while it is written, an old name that stays findable for whoever may.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type Client, type Running, asAccount, asDemo, many, one, sql, startServer } from './harness';
import { type Grant, endpoints } from '@gremium/contract';

let running: Running;
let admin: Client;
let fleet: Client;
let tallinn: Client;
beforeAll(async () => {
  running = await startServer('demo');
  [admin, fleet, tallinn] = (await Promise.all(
    (['admin', 'fleet', 'tallinn'] as const).map((who) => asDemo(running.address, who)),
  )) as [Client, Client, Client];
});
afterAll(() => running.close());

const somebodyIn = async (unit: string): Promise<number> =>
  (
    await one<{ id: number }>(
      running.owner,
      sql`select e.person_id as id from employment_version e
        join placement_version v on v.employment_id = e.employment_id and v.superseded_by is null and v.valid_until = 'infinity' and v.kind = 'primary'
        join position_version p on p.position_id = v.position_id and p.superseded_by is null and p.valid_until = 'infinity'
        where (select count(distinct o.employment_id) from employment_version o where o.person_id = e.person_id and o.superseded_by is null) = 1
          and e.superseded_by is null and e.valid_until = 'infinity' and v.valid_from <= '2026-11-01' and p.valid_from <= '2026-11-01' and p.unit_id in (select b.unit_id from branch_periods((select unit_id from unit_version
          where name = ${unit} and superseded_by is null and valid_until = 'infinity')) b) order by 1 limit 1`,
    )
  ).id;

const fileOf = (client: Client, id: number, query: string) =>
  fetch(`${running.address}/api/people/${id}/out?${query}`, { headers: { cookie: client.cookie } });

type Out = {
  title: string;
  on: string;
  entry: number;
  sections: {
    section: string;
    label: string;
    versions: {
      validFrom: string;
      validUntil: string;
      said: Record<string, string>;
      recorded: { number: number; moment: string };
    }[];
  }[];
};
const jsonOf = async (client: Client, id: number, query = '') => {
  const response = await fileOf(client, id, `format=json&${query}`);
  expect([query, response.status]).toEqual([query, 200]);
  return (await response.json()) as Out;
};

describe('a record as a file', () => {
  test('JSON has every version that may be seen, with its entry, and no more than that', async () => {
    const id = await somebodyIn('Tallinn Harbour');
    const all = await jsonOf(admin, id);
    const pay = all.sections.find(({ section }) => section === 'pay');
    const [{ count }] = (await many<{ count: number }>(
      running.owner,
      sql`select count(*)::int as count from pay_version p where superseded_by is null
        and employment_id in (select employment_id from employment_version where person_id = ${id} and superseded_by is null)`,
    )) as [{ count: number }];
    expect(pay?.versions).toHaveLength(count);
    expect(pay?.label).toBe('Pay');
    expect(pay?.versions[0]?.said).toMatchObject({ Currency: 'EUR', Kind: 'Base pay' });
    for (const { versions } of all.sections)
      for (const { recorded } of versions) expect(recorded.number).toBeGreaterThan(0);
    // the harbour's manager sees neither pay nor birth date, in no file either
    const part = await jsonOf(tallinn, id);
    expect(part.sections.map(({ section }) => section)).not.toEqual(expect.arrayContaining(['pay']));
    expect(part.sections.map(({ section }) => section)).not.toContain('person');
    expect(JSON.stringify(part)).not.toContain('Base pay');
    expect((await fileOf(fleet, id, 'format=json')).status).toBe(
      (await fileOf(fleet, 999_999_999, 'format=json')).status,
    );
    const german = await jsonOf(admin, id, 'language=de');
    expect(german.sections.find(({ section }) => section === 'pay')?.label).toBe('Entgelt');
  });

  test('as of another day and as recorded by an earlier moment it says what was believed then', async () => {
    const id = await somebodyIn('Fleet');
    const names = await one<{ row: number; last: number; moment: string }>(
      running.owner,
      sql`select v.id as row, e.number as last, (select max(moment)::text from entry) as moment from person_name_version v
        join entry e on e.id = v.recorded_by where v.person_id = ${id} and v.superseded_by is null order by v.valid_from desc limit 1`,
    );
    const moment = (
      await one<{ moment: string }>(
        running.owner,
        sql`select to_char(moment at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"') as moment from journal_head`,
      )
    ).moment;
    await admin.call(endpoints.editRecord, {
      params: { kind: 'person', id, section: 'person_name' },
      body: {
        edit: { mode: 'mend', row: names.row, values: { preferred: 'Zzyzx' } },
        basedOn: names.last,
      } as never,
    });
    const now = JSON.stringify(await jsonOf(admin, id));
    const then = JSON.stringify(await jsonOf(admin, id, `recordedBy=${encodeURIComponent(moment)}`));
    expect([now.includes('Zzyzx'), then.includes('Zzyzx')]).toEqual([true, false]);
  });

  test('the pages are a PDF with both clocks, and of the same rights', async () => {
    const id = await somebodyIn('Tallinn Harbour');
    const pages = await fileOf(admin, id, 'format=pdf&on=2026-06-01&language=de');
    expect(pages.headers.get('content-type')).toBe('application/pdf');
    expect(pages.headers.get('content-disposition')).toContain('.pdf');
    const bytes = Buffer.from(await pages.arrayBuffer());
    expect(bytes.subarray(0, 5).toString()).toBe('%PDF-');
    expect(bytes.length).toBeGreaterThan(5000);
    expect((await fileOf(fleet, id, 'format=pdf')).status).toBe(404);
  });

  test('a record of four hundred long notes is pages or a sentence, and nobody else waits for it', async () => {
    const id = await somebodyIn('Tallinn Harbour');
    const [grant] = admin.viewer?.grants ?? [];
    const grants = [{ ...(grant as Grant), sections: { ...grant?.sections, note: 'edit' } }] as Grant[];
    const keeper = await asAccount(running, 'notes@own.example', grants);
    const notes = Array.from({ length: 40 }, (_, i) =>
      `${i} höher gelegene Brücken des Schiffes `.repeat(110).slice(0, 3900),
    );
    for (let batch = 0; batch < 10; batch++)
      await keeper.call(endpoints.saveEdits, {
        body: {
          edits: notes.map((text, i) => ({
            section: 'note',
            edit: {
              mode: 'create' as const,
              from: '2026-11-01',
              values: { personId: id, about: `Note ${batch}-${i}`, notes: text },
            },
          })),
        } as never,
      });
    let isOver = false;
    const pages = fileOf(keeper, id, 'format=pdf').finally(() => (isOver = true));
    const waits: number[] = [];
    while (!isOver) {
      const began = performance.now();
      expect((await fetch(`${running.address}/api/health`)).status).toBe(200);
      waits.push(performance.now() - began);
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    expect(waits.sort((a, b) => a - b)[Math.floor(waits.length / 2)]).toBeLessThan(500);
    const reply = await pages;
    if (reply.status === 200)
      expect(
        Buffer.from(await reply.arrayBuffer())
          .subarray(0, 5)
          .toString(),
      ).toBe('%PDF-');
    else
      expect(
        ((await reply.json()) as { problems: { code: string }[] }).problems.map(({ code }) => code),
      ).toEqual(['pages_too_many']);
  });
});

describe('what is odd is said before it is saved', () => {
  const preview = async (section: string, values: object, from = '2026-11-01') => {
    const body = {
      edits: [{ section, edit: { mode: 'create', from, until: 'infinity', values } }],
      preview: true,
    };
    const { problems } = await admin.call(endpoints.saveEdits, { body: body as never });
    return problems.map(({ code, severity, field }) => [code, severity, field]);
  };

  test('a day of another century, two primary emails, and a save that needs a word for it', async () => {
    const personId = await somebodyIn('Fleet');
    const contact = (value: string) => ({ personId, kind: 'email', use: 'private', value, primary: true });
    const saving = (value: string, more: object = {}) => ({
      body: {
        edits: [
          {
            section: 'contact',
            edit: { mode: 'create', from: '2026-11-01', until: 'infinity', values: contact(value) },
          },
        ],
        ...more,
      } as never,
    });
    expect((await admin.call(endpoints.saveEdits, saving('one@odd.example'))).problems).toEqual([]);
    expect(await preview('contact', contact('two@odd.example'))).toEqual([
      ['two_of_one', 'warning', 'primary'],
    ]);
    const refused = await admin.refusal(endpoints.saveEdits, saving('two@odd.example'));
    expect(refused.problems.map(({ code }) => code).sort()).toEqual(['two_of_one', 'word_missing']);
    const saved = await admin.call(
      endpoints.saveEdits,
      saving('two@odd.example', { words: { two_of_one: 'both are used' } }),
    );
    expect(saved.entry).toBeGreaterThan(0);
    const dependant = { personId, dependantName: 'Kid', relationId: 0, birthDate: '1909-12-31' };
    const { id: relationId } = await one<{ id: number }>(
      running.owner,
      sql`select list_entry_id as id from list_entry_version where code = 'CHILD' and superseded_by is null`,
    );
    expect(await preview('dependant', { ...dependant, relationId })).toEqual([
      ['day_unlikely', 'warning', 'birthDate'],
    ]);
  });
});

test('a changed name: the old one is found by those who may see it, in search, chronicle and journal, and by nobody else', async () => {
  const id = await somebodyIn('Fleet');
  const { sections } = await admin.call(endpoints.record, { params: { kind: 'person', id }, query: {} });
  const names = sections.find(({ name }) => name === 'person_name');
  const old = names?.rows.at(-1)?.values as { given: string; family: string };
  const { entry } = await admin.call(endpoints.editRecord, {
    params: { kind: 'person', id, section: 'person_name' },
    body: {
      edit: { mode: 'set', from: '2026-11-20', values: { family: 'Quillfeather' } },
      basedOn: names?.lastEntry ?? 0,
      reason: 'married',
    } as never,
  });
  const finds = async (client: Client, text: string) =>
    (await client.call(endpoints.people, { query: { search: text, limit: 50 } })).people.some(
      (one) => one.id === id,
    );
  for (const client of [admin, fleet])
    for (const text of ['Quillfeather', `${old.given} ${old.family}`, old.family])
      expect([text, await finds(client, text)]).toEqual([text, true]);
  // a manager of another part finds neither
  for (const text of ['Quillfeather', `${old.given} ${old.family}`])
    expect(await finds(tallinn, text)).toBe(false);
  const found = await admin.call(endpoints.find, {
    query: { text: `${old.given} ${old.family}`, kind: 'person' },
  });
  expect(found.found.some((one) => one.id === id)).toBe(true);
  const told = await admin.call(endpoints.entry, { params: { number: entry as number } });
  expect(JSON.stringify(told)).toContain('Quillfeather');
  // whoever has no part in it reads nothing of it in the journal
  const audit = await asDemo(running.address, 'audit');
  expect(
    JSON.stringify(await audit.call(endpoints.entry, { params: { number: entry as number } })),
  ).toContain('Quillfeather');
  const hidden = await fleet.call(endpoints.personRecord, { params: { id } });
  expect(JSON.stringify(hidden.rows)).toContain(old.family);
  expect((await tallinn.refusal(endpoints.personRecord, { params: { id } })).status).toBe(404);
});
