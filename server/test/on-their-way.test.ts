// Movements on their way over HTTP: for a time, once conditions are met, said as it happened; by others, by two at once, undone.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type Day, type ReplyOf, endpoints } from '@gremium/contract';
import { type Client, asAccount, asDemo, many, newcomer, one, sql, vacantPosition } from './harness';
import { type Moving, TODAY, startMoving } from './moving';

type Sheet = ReplyOf<typeof endpoints.movementSheet>;

let { running, admin, move, refused, undo, hireInto } = {} as Moving;
beforeAll(async () => {
  ({ running, admin, move, refused, undo, hireInto } = await startMoving());
});
afterAll(() => running.close());

const idOf = async (entry: number): Promise<number> =>
  (await one<{ id: number }>(running.owner, sql`select id from movement where entry_number = ${entry}`)).id;
const sheet = (id: number, client = admin): Promise<Sheet> =>
  client.call(endpoints.movementSheet, { params: { id } });
const lines = async (client = admin, query: object = {}) =>
  (await client.call(endpoints.movementLines, { query: query as never })).lines;
const say = async (id: number, what: 'left' | 'started' | 'back', more: object = {}, client = admin) =>
  client.call(endpoints.sayMovement, {
    params: { id },
    body: { what, revision: (await sheet(id)).revision, ...more } as never,
  });
const hire = async (family: string, firstDay: string) => {
  const positionId = await vacantPosition(running, admin);
  return move('hire', { person: newcomer(family), firstDay, positionId, pay: [] });
};
const placementsOf = (personId: number, on: string) =>
  many<{ kind: string; position: number; hours: number; lent: number }>(
    running.owner,
    sql`select p.kind, p.position_id as position, p.hours, p.lent_hours as lent from placement_version p
      join employment_version e on e.employment_id = p.employment_id and e.superseded_by is null
        and e.valid_from <= ${on}::date and ${on}::date < e.valid_until
      where p.superseded_by is null and e.person_id = ${personId} and p.valid_from <= ${on}::date and ${on}::date < p.valid_until
      order by p.kind`,
  );

describe('a transfer for a time', () => {
  test('is written as one entry, extended, ended early, undone with what rests on it: each day by SQL', async () => {
    const hired = await hireInto(
      { positionId: await vacantPosition(running, admin) },
      'Lentaway',
      '2026-11-01',
    );
    const to = await vacantPosition(running, admin);
    const input = { personId: hired.personId, positionId: to, firstDay: '2026-12-01', lastDay: '2027-03-31' };
    const before = await placementsOf(hired.personId as number, '2026-12-01');
    const { hours } = before[0]!;
    const done = await move('transfer_for_a_time', input);
    const on = (day: string) => placementsOf(hired.personId as number, day);
    const away = [
      { kind: 'primary', position: hired.positionId, hours, lent: hours },
      { kind: 'temporary', position: to, hours, lent: 0 },
    ];
    const home = [{ kind: 'primary', position: hired.positionId, hours, lent: 0 }];
    expect(await on('2026-11-30')).toEqual(home);
    expect(await on('2026-12-01')).toEqual(away);
    expect(await on('2027-03-31')).toEqual(away);
    expect(await on('2027-04-01')).toEqual(home);
    const id = await idOf(done.entry as number);
    const { line, sayings } = await sheet(id);
    expect(sayings.map(({ what, planned, said }) => [what, planned, said])).toEqual([
      ['left', '2026-11-30', null],
      ['started', '2026-12-01', null],
      ['back', '2027-04-01', null],
    ]);
    // eight days ahead: among what is to be said
    expect(line.standing).toBe('to_say');
    const placementId = sayings[1]!.placementId as number;
    const longer = await move('change_return', { placementId, lastDay: '2027-05-31' });
    expect(await on('2027-05-31')).toEqual(away);
    expect((await sheet(id)).sayings[2]!.planned).toBe('2027-06-01');
    await undo(longer.entry as number);
    expect((await sheet(id)).sayings[2]!.planned).toBe('2027-04-01');
    expect(await on('2027-05-31')).toEqual(home);
    await undo(done.entry as number);
    expect(await on('2026-12-01')).toEqual(before);
    expect((await sheet(id)).line.standing).toBe('undone');
  });

  test('says nothing of what is to come, refuses what is not there', async () => {
    const hired = await hireInto(
      { positionId: await vacantPosition(running, admin) },
      'Notyet',
      '2026-11-02',
    );
    const to = await vacantPosition(running, admin);
    const input = { personId: hired.personId, positionId: to, firstDay: '2026-12-01', lastDay: '2027-03-31' };
    expect((await refused('transfer_for_a_time', { ...input, lastDay: '2026-11-30' })).codes).toEqual([
      'period',
    ]);
    const done = await move('transfer_for_a_time', input);
    const id = await idOf(done.entry as number);
    const { revision } = await sheet(id);
    const early = await admin.refusal(endpoints.sayMovement, {
      params: { id },
      body: { what: 'started', revision } as never,
    });
    expect(early.codes).toEqual(['not_yet_happened']);
    const { placementId } = (await sheet(id)).sayings[0]!;
    expect((await refused('back', { placementId, firstDay: '2027-01-01' })).codes).toContain(
      'not_yet_happened',
    );
    expect(
      (await refused('change_return', { placementId: hired.employmentId, lastDay: '2027-01-01' })).codes,
    ).toEqual(['not_for_a_time']);
  });
});

describe('what was said', () => {
  test('late until somebody says it; once; by two at once one says it and the other is told', async () => {
    const hired = await hire('Camesoon', '2026-11-10');
    const id = await idOf(hired.entry as number);
    expect((await sheet(id)).line.standing).toBe('late');
    expect((await lines()).find((line) => line.id === id)?.standing).toBe('late');
    const { revision } = await sheet(id);
    const body = { what: 'started' as const, day: '2026-11-11' as Day, revision };
    const answers = await Promise.all(
      Array.from({ length: 8 }, () => admin.send(endpoints.sayMovement, { params: { id }, body })),
    );
    const codes = await Promise.all(
      answers.map(async (answer) =>
        answer.ok ? 'said' : ((await answer.json()) as { problems: { code: string }[] }).problems[0]?.code,
      ),
    );
    expect(codes.filter((code) => code === 'said')).toHaveLength(1);
    expect(codes.filter((code) => code === 'movement_turned')).toHaveLength(7);
    const after = await sheet(id);
    expect(after.line.standing).toBe('recorded');
    expect(after.sayings).toMatchObject([{ what: 'started', said: '2026-11-11' }]);
    expect(after.acts.map(({ act }) => act)).toEqual(['recorded', 'started']);
    const again = await admin.refusal(endpoints.sayMovement, {
      params: { id },
      body: { ...body, revision: after.revision },
    });
    expect(again.codes).toEqual(['already_said']);
  });

  test('started two days late: the register follows in an entry of its own; undone, it is to be said again', async () => {
    const hired = await hireInto(
      { positionId: await vacantPosition(running, admin) },
      'Latecomer',
      '2026-11-02',
    );
    const to = await vacantPosition(running, admin);
    const done = await move('transfer', { personId: hired.personId, positionId: to, firstDay: '2026-11-18' });
    const id = await idOf(done.entry as number);
    const { sayings } = await sheet(id);
    const placementId = sayings.find(({ what }) => what === 'started')!.placementId as number;
    const fact = await move('started', { placementId, firstDay: '2026-11-20' });
    const at = async (day: string) =>
      (await placementsOf(hired.personId as number, day)).map(({ position }) => position);
    expect(await at('2026-11-19')).toEqual([hired.positionId]);
    expect(await at('2026-11-20')).toEqual([to]);
    expect((await sheet(id)).sayings.find(({ what }) => what === 'started')).toMatchObject({
      said: '2026-11-20',
      planned: '2026-11-20',
    });
    await undo(fact.entry as number);
    expect(await at('2026-11-19')).toEqual([to]);
    const back = await sheet(id);
    expect(back.sayings.find(({ what }) => what === 'started')).toMatchObject({
      said: null,
      planned: '2026-11-18',
    });
    expect(back.line.standing).toBe('late');
    await say(id, 'left', { day: '2026-11-16' });
    await say(id, 'started');
    expect((await sheet(id)).line.standing).toBe('recorded');
  });
});

describe('once conditions are met', () => {
  test('it waits, writes nothing, is ticked with who and when, and is recorded with the last', async () => {
    const positionId = await vacantPosition(running, admin);
    const input = { person: newcomer('Waiting'), firstDay: '2027-02-01', positionId, pay: [] };
    const conditions = ['Permit has come', 'Contract is signed'];
    const key = 'waitingforit1';
    const handed = await move('hire', input, { conditions, key });
    expect(handed).toMatchObject({ entry: null, isWaiting: true });
    const found = (await lines()).find((line) => line.key === key)!;
    expect(found).toMatchObject({
      standing: 'conditions_open',
      conditions: { met: 0, all: 2 },
      // nobody has a record yet: it is about the position, and says whom
      aboutKind: 'position',
      aboutId: positionId,
    });
    expect(found.whom).toContain('Waiting');
    const tick = async (place: number, met = true) =>
      admin.call(endpoints.tickCondition, {
        params: { id: found.id },
        body: { place, met, revision: (await sheet(found.id)).revision },
      });
    expect(await tick(1)).toEqual({ entry: null, problems: [] });
    const between = await sheet(found.id);
    expect(between.conditions).toMatchObject([{ metBy: null }, { metBy: 'Tuuli Kaskela' }]);
    expect(between.result).toMatchObject({ entry: null, positionId });
    const { entry } = await tick(0);
    const after = await sheet(found.id);
    expect(after.line).toMatchObject({ standing: 'recorded', entry });
    expect(after.acts.map(({ act }) => act)).toEqual([
      'handed_in',
      'condition_met',
      'condition_met',
      'recorded',
    ]);
  });

  test('what no longer fits on the day of the last tick stays, and says why; taken back, it is a draft again', async () => {
    const positionId = await vacantPosition(running, admin);
    const input = { person: newcomer('Toolate'), firstDay: '2027-02-01', positionId, pay: [] };
    await move('hire', input, { conditions: ['Permit'], key: 'waitingforit2' });
    const { id } = (await lines()).find(({ key }) => key === 'waitingforit2')!;
    // somebody else takes the place
    await hireInto({ positionId }, 'Quicker', '2027-01-01');
    const { revision, problems: known } = await sheet(id);
    expect(known.map(({ code }) => code)).toEqual(['place_taken']);
    const ticked = await admin.call(endpoints.tickCondition, {
      params: { id },
      body: { place: 0, met: true, revision },
    });
    expect(ticked.entry).toBeNull();
    expect(ticked.problems.map(({ code }) => code)).toContain('place_taken');
    const after = await sheet(id);
    expect(after.line.standing).toBe('conditions_open');
    await admin.call(endpoints.takeBack, { params: { id }, body: { revision: after.revision } });
    const { movements } = await admin.call(endpoints.movements, {});
    expect(movements.find(({ key }) => key === 'waitingforit2')?.input).toMatchObject({ positionId });
  });

  test('what breaks a law today is not handed in', async () => {
    const taken = await hireInto(
      { positionId: await vacantPosition(running, admin) },
      'Holder',
      '2026-11-01',
    );
    const input = {
      person: newcomer('Second'),
      firstDay: '2027-02-01',
      positionId: taken.positionId,
      pay: [],
    };
    expect((await refused('hire', input, { conditions: ['Permit'] })).codes).toContain('place_taken');
  });
});

describe('others', () => {
  let fleet: Client;
  let crew: Client;
  beforeAll(async () => {
    fleet = await asDemo(running.address, 'fleet');
    crew = await asDemo(running.address, 'crew');
  });

  test('see what their right reaches, and nothing else; nothing is said by whoever may not', async () => {
    const hired = await hire('Somewhere', '2026-11-12');
    const id = await idOf(hired.entry as number);
    expect(await lines(crew)).toEqual([]);
    expect((await crew.refusal(endpoints.movementSheet, { params: { id } })).codes).toEqual([
      'movement_unknown',
    ]);
    const body = { what: 'started' as const, revision: (await sheet(id)).revision };
    expect((await crew.refusal(endpoints.sayMovement, { params: { id }, body })).codes).toEqual([
      'movement_unknown',
    ]);
    const seen = new Set((await lines(fleet)).map((line) => line.id));
    const inFleet = await many<{ id: number }>(
      running.owner,
      sql`with recursive b (id) as (
          select unit_id from unit_version where superseded_by is null and name = 'Fleet'
          union select v.unit_id from unit_version v join b on v.parent_id = b.id where v.superseded_by is null and v.valid_until = 'infinity')
        select m.id from movement m
        -- where they are today, else where they begin, else where they were last
        join lateral (select p.position_id, least(greatest(${TODAY}::date, min(p.valid_from)), max(p.valid_until) - 1) as anchor
          from placement_version p join employment_version e on e.employment_id = p.employment_id
          where e.person_id = m.about_id and p.superseded_by is null and e.superseded_by is null group by 1) p on true
        join position_version q on q.position_id = p.position_id and q.superseded_by is null and q.valid_from <= p.anchor and p.anchor < q.valid_until
        where m.about_id in (select e.person_id from employment_version e join placement_version p on p.employment_id = e.employment_id
            and p.superseded_by is null where e.superseded_by is null group by 1 having count(distinct p.position_id) = 1)
          and m.about_kind = 'person' and m.kind = 'hire' and m.state = 'recorded' and q.unit_id in (select id from b)`,
    );
    const all = (await lines()).filter(({ kind, aboutKind }) => kind === 'hire' && aboutKind === 'person');
    const inside = new Set(inFleet.map((one) => one.id));
    // whoever moved on since is seen from where they are today: of those the places are several
    const moved = new Set(
      (
        await many<{ id: number }>(
          running.owner,
          sql`select e.person_id as id from employment_version e join placement_version p on p.employment_id = e.employment_id
            and p.superseded_by is null where e.superseded_by is null group by 1 having count(distinct p.position_id) > 1`,
        )
      ).map((one) => one.id),
    );
    expect(inside.size).toBeGreaterThan(0);
    for (const line of all.filter(({ entry, aboutId }) => entry !== null && !moved.has(aboutId)))
      expect([line.id, seen.has(line.id)]).toEqual([line.id, inside.has(line.id)]);
  });

  test('take over what somebody began, and go on with it; the one who began it is told by the list', async () => {
    const positionId = await vacantPosition(running, admin, '%Vess%');
    const key = 'takenover1234';
    const about = `position ${positionId}`;
    await fleet.call(endpoints.keepMovement, {
      params: { key },
      body: {
        kind: 'hire',
        about,
        input: { positionId, firstDay: '2027-02-01' as Day },
        typed: { hours: 'secret' },
      },
    });
    const line = (await lines()).find((one) => one.key === key)!;
    expect(line).toMatchObject({ standing: 'preparation', isMine: false });
    const seen = await sheet(line.id);
    expect(JSON.stringify(seen)).not.toContain('secret');
    await admin.call(endpoints.takeOver, { params: { id: line.id }, body: { revision: seen.revision } });
    const { movements } = await admin.call(endpoints.movements, {});
    expect(movements.find((one) => one.key === key)?.input).toMatchObject({ positionId });
    expect(
      (await fleet.call(endpoints.movements, {})).movements.find((one) => one.key === key),
    ).toBeUndefined();
    const late = await fleet.refusal(endpoints.takeOver, {
      params: { id: line.id },
      body: { revision: seen.revision },
    });
    expect(late.codes).toEqual(['movement_turned']);
  });

  test('whoever hires and sees no pay reads the sheet without it', async () => {
    const [unit] = await many<{ id: number }>(
      running.owner,
      sql`select unit_id as id from unit_version where superseded_by is null and parent_id is null`,
    );
    const sections = Object.fromEntries(
      ['person', 'person_name', 'employment', 'placement', 'position', 'unit', 'job'].map((one) => [
        one,
        'view' as const,
      ]),
    );
    const recruiter = await asAccount(running, 'recruiter@vessmar.example', [
      { acts: ['hire'], sections, scope: { type: 'branch', unitId: unit!.id } },
    ]);
    const positionId = await vacantPosition(running, admin);
    const pay = [{ amount: '23456.00' }];
    const hired = await move('hire', {
      person: newcomer('Paidwell'),
      firstDay: '2026-11-01',
      positionId,
      pay,
    });
    const id = await idOf(hired.entry as number);
    expect(JSON.stringify((await sheet(id)).result)).toContain('23456');
    const theirs = await sheet(id, recruiter);
    expect(theirs.result?.slip.some(({ field }) => field === 'positionId')).toBe(true);
    expect(JSON.stringify(theirs)).not.toContain('23456');
    // nor from a warning about it while it waits, nor by going on with it
    const free = await vacantPosition(running, admin);
    const input = {
      person: newcomer('Overpaid'),
      firstDay: '2027-02-01',
      positionId: free,
      pay: [{ amount: '98765.00' }],
    };
    await move('hire', input, {
      conditions: ['Signed'],
      key: 'overpaidwaits',
      words: { pay_outside_range: 'as agreed' },
    });
    const waiting = (await lines()).find((line) => line.key === 'overpaidwaits')!;
    const own = await sheet(waiting.id);
    expect(JSON.stringify(own)).toContain('98765');
    expect(JSON.stringify(await sheet(waiting.id, recruiter))).not.toContain('98765');
    const over = await recruiter.refusal(endpoints.takeOver, {
      params: { id: waiting.id },
      body: { revision: own.revision },
    });
    expect(over.codes).toEqual(['field_not_yours']);
  });
});
