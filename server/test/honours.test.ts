// Honours over HTTP: many by one order, by right, who is due, and figures of what people declared of themselves.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type Day, type FileRef, endpoints } from '@gremium/contract';
import { completedYears } from '@gremium/core';
import { asDemo, type Client, many, one, sql } from './harness';
import { startMoving } from './moving';

let moving: Awaited<ReturnType<typeof startMoving>>;
beforeAll(async () => {
  moving = await startMoving();
});
afterAll(() => moving.running.close());

const entry = (code: string): number => moving.entries[code] as number;
const awards = (honour: string) =>
  many<{ person: number; ordinal: number | null }>(
    moving.running.owner,
    sql`select person_id as person, ordinal from award_version
      where superseded_by is null and valid_until = 'infinity' and honour_id = ${entry(honour)} order by 1`,
  );

test('one order for sixty people, two of whom hold what is given once only: 58 are recorded, two are named', async () => {
  const { running, admin, move } = moving;
  const people = await many<{ id: number }>(
    running.owner,
    sql`select distinct e.person_id as id from employment_version e where e.superseded_by is null and e.valid_until = 'infinity' order by 1 limit 60`,
  );
  const ids = people.map(({ id }) => id);
  const made = await admin.call(endpoints.createRecord, {
    params: { kind: 'list_entry' },
    body: {
      from: '-infinity',
      until: 'infinity',
      sections: {
        list_entry: {
          list: 'honour',
          code: 'JUBILEE',
          label: { en: 'Jubilee', de: 'Jubiläum' },
          flags: { once: true },
        },
      },
    } as never,
  });
  const [first, second] = [ids[3] as number, ids[40] as number];
  await move('give_honour', { personIds: [first, second], honourId: made.id, awardedOn: '2026-01-10' });
  const given = await move('give_honour', {
    ...{
      personIds: ids,
      honourId: made.id,
      awardedOn: '2026-11-20',
      orderNumber: '12/2026',
      orderedOn: '2026-11-01',
    },
  });
  expect(given.concerned?.count).toBe(58);
  const named = given.problems.filter(({ code }) => code === 'honour_left_out');
  expect(named.map(({ field, params }) => [field, params['why'], params['day']])).toEqual([
    ['personIds.3', 'honour_once', '2026-01-10'],
    ['personIds.40', 'honour_once', '2026-01-10'],
  ]);
  expect(named.every(({ params }) => Boolean((params['person'] as { label?: string }).label))).toBe(true);
  const recorded = await one<{ count: number }>(
    running.owner,
    sql`select count(*)::int as count from award_version where honour_id = ${made.id} and order_number = '12/2026' and superseded_by is null`,
  );
  expect(recorded.count).toBe(58);
  await moving.undo(given.entry as number);
  const left = await one<{ count: number }>(
    running.owner,
    sql`select count(*)::int as count from award_version where honour_id = ${made.id} and superseded_by is null and recorded_by in (select id from entry)
      and order_number = '12/2026'`,
  );
  expect(left.count).toBe(0);
});

describe('a series that asks for its document', () => {
  let evidence: FileRef;
  let personId: number;
  beforeAll(async () => {
    const response = await fetch(`${moving.running.address}/api/kept-files?name=order.pdf`, {
      method: 'POST',
      headers: { cookie: moving.admin.cookie, 'content-type': 'application/octet-stream' },
      body: '%PDF-1.4\n',
    });
    evidence = (await response.json()) as FileRef;
    const held = new Set((await awards('RESCUE')).map(({ person }) => person));
    const all = await many<{ id: number }>(
      moving.running.owner,
      sql`select distinct person_id as id from employment_version where superseded_by is null and valid_until = 'infinity' order by 1 limit 20`,
    );
    personId = all.find(({ id }) => !held.has(id))?.id as number;
  });
  const medal = (awardedOn: string, more: object = {}) => ({
    ...{
      personIds: [personId],
      honourId: entry('RESCUE'),
      awardedOn,
      orderNumber: '1',
      orderedOn: awardedOn,
      evidence,
    },
    ...more,
  });

  test('without it, it is refused; second of 2020, then one of 2012 is first; second taken back, the next is third', async () => {
    const { move, refused, running, admin } = moving;
    const without = await refused('give_honour', medal('2020-05-01', { evidence: null }));
    expect(without.problems.map(({ code, field }) => [code, field])).toEqual([['honour_needs', 'evidence']]);
    await move('give_honour', medal('2020-05-01', { ordinal: 2 }));
    const proposed = (input: object) =>
      move('give_honour', input, { preview: true }).then(
        ({ slip }) => slip.find(({ field }) => field === 'ordinal')?.after,
      );
    expect(await proposed(medal('2012-05-01'))).toBe(1);
    await move('give_honour', medal('2012-05-01'));
    const second = await one<{ thing: number; row: number; last: number }>(
      running.owner,
      sql`select a.award_id as thing, a.id as row, (select number from entry where id = a.recorded_by) as last from award_version a
        where person_id = ${personId} and honour_id = ${entry('RESCUE')} and ordinal = 2 and superseded_by is null`,
    );
    const back = (values: object) => ({
      body: {
        edits: [
          {
            ...{ kind: 'award', id: second.thing, section: 'award', basedOn: second.last },
            edit: { mode: 'set', from: '2023-01-01', values, override: false },
          },
        ],
      } as never,
    });
    const noOrder = await admin.refusal(endpoints.saveEdits, back({ takenBackOn: '2023-01-01' }));
    expect(noOrder.problems.map(({ code, field }) => [code, field])).toEqual([
      ['order_taken_back', 'takenBackOrder'],
    ]);
    await admin.call(endpoints.saveEdits, back({ takenBackOn: '2023-01-01', takenBackOrder: '9/23' }));
    expect(await proposed(medal('2024-05-01'))).toBe(3);
  });
});

test('the right to record honours is one of its own: whoever lacks it is refused, and told who has it', async () => {
  const fleet = await asDemo(moving.running.address, 'fleet');
  const person = await one<{ id: number }>(
    moving.running.owner,
    sql`select e.person_id as id from employment_version e
      join placement_version v on v.employment_id = e.employment_id and v.superseded_by is null and v.valid_until = 'infinity' and v.kind = 'primary'
      join position_version p on p.position_id = v.position_id and p.superseded_by is null and p.valid_until = 'infinity'
      where e.superseded_by is null and e.valid_until = 'infinity' and p.unit_id in (select b.unit_id from branch_periods((select unit_id from unit_version
        where name = 'Fleet' and superseded_by is null and valid_until = 'infinity')) b) order by 1 limit 1`,
  );
  const input = { personIds: [person.id], honourId: entry('THANKS'), awardedOn: '2026-11-01' };
  const refused = await moving.refused('give_honour', input, {}, fleet);
  expect(refused.problems.map(({ code }) => code)).toEqual(['right_missing']);
  const edits = [
    {
      section: 'award',
      edit: {
        ...{ mode: 'create', from: '2026-11-01', until: 'infinity' },
        values: { personId: person.id, honourId: entry('THANKS'), awardedOn: '2026-11-01' },
      },
    },
  ];
  expect(
    (await fleet.refusal(endpoints.saveEdits, { body: { edits } as never })).problems.map(({ code }) => code),
  ).toEqual(['right_missing']);
  const { see, record } = await fleet.call(endpoints.whoMay, { params: { section: 'award' } });
  expect(record).toEqual(['Tuuli Kaskela']);
  expect(see).toEqual([
    'Astrid Lunde',
    'Kadri Tamm',
    // who leads a team
    'Maija Turunen',
    'Oddny Falk',
    'Piret Saar',
    'Tuuli Kaskela',
  ]);
  // who sees what is closed to somebody is not theirs to ask
  expect(await fleet.call(endpoints.whoMay, { params: { section: 'note' } })).toEqual({
    see: [],
    record: [],
  });
});

test('who is due by service: those with the years and without the honour, counted by SQL and by a plain walk', async () => {
  const { running, admin } = moving;
  const by = '2027-03-31' as Day;
  const { due, count } = await admin.call(endpoints.honoursDue, { query: { by } });
  const rows = await many<{ person: number; first: Day; kind: string }>(
    running.owner,
    sql`select e.person_id as person, to_char(coalesce(e.seniority_date, (select min(f.valid_from) from employment_version f
          where f.employment_id = e.employment_id and f.superseded_by is null)), 'YYYY-MM-DD') as first,
        k.code as kind
      from employment_version e cross join (values ('SERVICE10'), ('SERVICE25')) k (code)
      where e.superseded_by is null and e.valid_from <= ${by}::date and ${by}::date < e.valid_until
        -- of two employments at a time the main one says it: the marked, else the earlier
        and e.employment_id = (select o.employment_id from employment_version o where o.person_id = e.person_id and o.superseded_by is null
          and o.valid_from <= ${by}::date and ${by}::date < o.valid_until
          order by o.marked_main desc, (select min(f.valid_from) from employment_version f where f.employment_id = o.employment_id and f.superseded_by is null), o.employment_id limit 1)
        and not exists (select from award_version a join list_entry_version l on l.list_entry_id = a.honour_id and l.superseded_by is null
          where a.person_id = e.person_id and a.superseded_by is null and a.taken_back_on is null and l.code = k.code)`,
  );
  const years = { SERVICE10: 10, SERVICE25: 25 } as Record<string, number>;
  const wanted = rows
    .filter(({ first, kind }) => completedYears(first, by) >= (years[kind] as number))
    .map(({ person, kind }) => `${person} ${years[kind]}`);
  expect(wanted.length).toBeGreaterThan(5);
  expect(due.map(({ personId, years: of }) => `${personId} ${of}`).sort()).toEqual(wanted.sort());
  expect(count).toBe(wanted.length);
  const fleet = await asDemo(running.address, 'fleet');
  const part = await fleet.call(endpoints.honoursDue, { query: { by } });
  expect(part.count).toBeGreaterThan(0);
  expect(part.count).toBeLessThan(count);
});

describe('what people declare of themselves', () => {
  const sees = async (client: Client) =>
    (await client.call(endpoints.catalogue, {})).sections.some(({ name }) => name === 'declared_fact');

  test('is told by themselves and to nobody else; figures leave out fewer than five', async () => {
    const { running, admin } = moving;
    const [crew, audit] = [await asDemo(running.address, 'crew'), await asDemo(running.address, 'audit')];
    expect([await sees(crew), await sees(admin), await sees(audit)]).toEqual([true, false, false]);
    const own = await one<{ id: number }>(
      running.owner,
      sql`select person_id as id from account where email like 'crew@%'`,
    );
    const edits = [
      {
        section: 'declared_fact',
        edit: {
          mode: 'create',
          from: '2026-11-01',
          until: 'infinity',
          values: { personId: own.id, factId: entry('VETERAN') },
        },
      },
    ];
    await crew.call(endpoints.saveEdits, { body: { edits } as never });
    expect(
      (await admin.refusal(endpoints.saveEdits, { body: { edits } as never })).problems.length,
    ).toBeGreaterThan(0);
    const { rows } = await admin.call(endpoints.personRecord, { params: { id: own.id } });
    expect(rows.filter(({ section }) => section === 'declared_fact')).toEqual([]);
    const { day, questions } = await admin.call(endpoints.declaredFigures, {
      query: { on: '2026-11-23' as Day },
    });
    expect(day).toBe('2026-11-01');
    const first = sql`'2026-11-01 00:00:00+00'::timestamptz`;
    const counts = await many<{ id: number; count: number }>(
      running.owner,
      sql`select d.fact_id as id, count(distinct d.person_id)::int as count from declared_fact_version d
        join entry r on r.id = d.recorded_by and r.moment <= ${first}
        join employment_version e on e.person_id = d.person_id and e.valid_from <= '2026-11-01' and '2026-11-01' < e.valid_until
        join entry m on m.id = e.recorded_by and m.moment <= ${first}
        left join entry u on u.id = e.superseded_by
        join list_entry_version t on t.list_entry_id = e.worker_type_id and t.superseded_by is null and coalesce((t.flags->>'counted')::boolean, true)
        where d.superseded_by is null and d.valid_from <= '2026-11-01' and '2026-11-01' < d.valid_until
          and (u.id is null or u.moment > ${first}) group by 1`,
    );
    const countOf = (code: string) => counts.find(({ id }) => id === entry(code))?.count ?? 0;
    const told = questions.flatMap(({ cells }) => cells);
    const toldOf = (code: string) => told.find(({ factId }) => factId === entry(code))?.count;
    expect(countOf('EQUATED')).toBe(1);
    expect(toldOf('VETERAN')).toBe(countOf('VETERAN'));
    // one alone is not told, and the other answer to the question would give it away
    expect([toldOf('EQUATED'), toldOf('DISABLED')]).toEqual([null, null]);
    // what was recorded since, and later in the month, is not in it: two figures would tell of whom
    const later = await admin.call(endpoints.declaredFigures, { query: { on: '2026-12-24' as Day } });
    expect([later.day, later.questions]).toEqual([day, questions]);
    // nor do the entries say who told something, and when
    const { rows: acts } = await admin.call(endpoints.runReport, {
      body: {
        view: {
          ...{ subject: 'entry' as never, columns: [{ field: 'entry.account' }] },
          condition: 'entry.account.contains("crew@")',
          ...{ order: [], groups: [] },
        },
        ...{ language: 'en', limit: 100, offset: 0 },
      } as never,
    });
    expect(acts).toEqual([]);
    const { count } = await one<{ count: number }>(
      running.owner,
      sql`select count(*)::int as count from entry where account like 'crew@%'`,
    );
    expect(count).toBe(1);
    const [disability] = questions.filter(({ question }) => question === 'Disability');
    expect(disability?.total).toBe(countOf('DISABLED') + 1);
    expect(
      (await audit.refusal(endpoints.declaredFigures, { query: {} })).problems.map(({ code }) => code),
    ).toEqual(['right_missing']);
  });
});
