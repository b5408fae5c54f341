// Nobody sees what is not theirs: every endpoint as every role, compared with a brute-force filter over raw rows.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import {
  type Day,
  type Endpoint,
  type EndpointName,
  type HireInput,
  type Viewer,
  endpoints,
  gives,
} from '@gremium/contract';
import { Client, type Running, asDemo, many, newcomer, sql, startServer, vacantPosition } from './harness';

let running: Running;
const clients: Record<string, Client> = {};
// each role that ships, and one of the organisation's own; over everything, a branch, an entity, a country, reports, oneself
const ROLES = ['admin', 'fleet', 'tallinn', 'crew', 'audit', 'wages', 'manager', 'estonia'] as const;
beforeAll(async () => {
  running = await startServer('demo');
  for (const role of ROLES) clients[role] = await asDemo(running.address, role);
  clients['nobody'] = new Client(running.address);
  await movers();
});
afterAll(() => running.close());

const TODAY = '2026-11-23';
const DATES = ['2019-06-15', TODAY, '2027-04-01'];

type Unit = { id: number; parent: number | null; from: string; until: string; name: string };
type Line = {
  person: number;
  placement: number;
  employment: number;
  position: number;
  from: string;
  until: string;
  kind: string;
};

// Chance brings people who moved in and who moved out; one more is planned to come.
const movers = async (): Promise<void> => {
  const admin = clients['admin'] as Client;
  const positionId = await vacantPosition(running, admin, '%Vess%');
  const input = { person: newcomer('Comingin'), positionId, firstDay: '2027-02-01' } as HireInput;
  await admin.call(endpoints.move, { body: { kind: 'hire', input } });
};

// The brute force: the tree of each day walked by hand, over rows fetched without any scope.
const dump = async () => ({
  units: await many<Unit>(
    running.owner,
    sql`select unit_id as id, parent_id as parent, valid_from::text as "from", valid_until::text as "until", name
      from unit_version where superseded_by is null`,
  ),
  positions: await many<{ id: number; unit: number; from: string; until: string }>(
    running.owner,
    sql`select position_id as id, unit_id as unit, valid_from::text as "from", valid_until::text as "until"
      from position_version where superseded_by is null`,
  ),
  lines: await many<Line>(
    running.owner,
    sql`select e.person_id as person, p.placement_id as placement, p.employment_id as employment,
        p.position_id as position, p.valid_from::text as "from", p.valid_until::text as "until", p.kind
      from placement_version p
      join (select distinct employment_id, person_id from employment_version where superseded_by is null) e
        on e.employment_id = p.employment_id
      where p.superseded_by is null`,
  ),
  names: await many<{ person: number; text: string }>(
    running.owner,
    sql`select person_id as person, concat_ws(' ', given, family) as text from person_name_version where superseded_by is null`,
  ),
});
type Dump = Awaited<ReturnType<typeof dump>>;

const versions = new WeakMap<object[], Map<number, object[]>>();
const versionsOf = <T extends { id: number }>(rows: T[], id: number): T[] => {
  const known = versions.get(rows) ?? new Map<number, object[]>();
  if (known.size === 0) for (const row of rows) known.set(row.id, [...(known.get(row.id) ?? []), row]);
  versions.set(rows, known);
  return (known.get(id) ?? []) as T[];
};

const holds = (row: { from: string; until: string }, on: string) => row.from <= on && on < row.until;

const isUnitInside = ({ units }: Dump, id: number, root: number, on: string): boolean => {
  for (let at: number | null = id; at !== null;) {
    if (at === root) return versionsOf(units, root).some((unit) => holds(unit, on));
    at = versionsOf(units, at).find((unit) => holds(unit, on))?.parent ?? null;
  }
  return false;
};

const isPlaceInside = (all: Dump, position: number, root: number, on: string): boolean => {
  const row = versionsOf(all.positions, position).find((p) => holds(p, on));
  return row !== undefined && isUnitInside(all, row.unit, root, on);
};

const dayBefore = (day: string) => new Date(Date.parse(day) - 86_400_000).toISOString().slice(0, 10);

// The persons whose undated sections a viewer of the branch may see: by the placement of today, else next, else last.
const personsInside = (all: Dump, root: number): Set<number> => {
  const inside = new Set<number>();
  const persons = new Set(all.lines.map(({ person }) => person));
  for (const person of persons) {
    const own = all.lines.filter((line) => line.person === person && line.kind === 'primary');
    const present = own.filter((line) => holds(line, TODAY));
    const next = own.filter(({ from }) => from > TODAY).sort((a, b) => (a.from < b.from ? -1 : 1));
    const last = own.filter(({ until }) => until <= TODAY).sort((a, b) => (a.until > b.until ? -1 : 1));
    const candidates: [Line, string][] = present.length
      ? present.map((line) => [line, TODAY])
      : next[0]
        ? [[next[0], next[0].from]]
        : last[0]
          ? [[last[0], dayBefore(last[0].until)]]
          : [];
    if (candidates.some(([line, on]) => isPlaceInside(all, line.position, root, on))) inside.add(person);
  }
  return inside;
};

const isAllowed = (viewer: Viewer | undefined, { right }: Endpoint): boolean => {
  if (right === 'anybody') return true;
  if (!viewer) return false;
  if (right === 'signed_in') return true;
  return viewer.grants.some((grant) => {
    if ('everywhere' in right) return grant.acts.includes(right.everywhere) && grant.scope.type === 'all';
    return 'act' in right ? grant.acts.includes(right.act) : gives(grant, right.section, right.level);
  });
};

describe('every endpoint, as everybody', () => {
  // signing in and out would end the sessions of the walk; they are open to anybody
  const open = ['signIn', 'signOut', 'firstAdministrator', 'setPassword'];
  const names = (Object.keys(endpoints) as EndpointName[]).filter((name) => !open.includes(name));
  test.each(names.flatMap((name) => ['nobody', ...ROLES].map((role) => [name, role] as const)))(
    '%s as %s',
    async (name, role) => {
      const declared: Endpoint = endpoints[name];
      const client = clients[role] as Client;
      const params = Object.fromEntries(
        [...declared.path.matchAll(/:(\w+)/g)].map(([, key]) => [key!, SAMPLE[key!]!]),
      );
      const response = await client.send(
        declared as never,
        { params, body: declared.body ? {} : undefined } as never,
      );
      const isRefused = response.status === 401 || response.status === 403;
      expect([response.status, isRefused]).toEqual([response.status, !isAllowed(client.viewer, declared)]);
      expect(response.status).toBeLessThan(500);
    },
  );
});

const SAMPLE: Record<string, string> = { kind: 'unit', id: '1', section: 'unit', number: '4600' };

describe('the specialist of Fleet', () => {
  let all: Dump;
  let fleet: number;
  let inside: Set<number>;
  beforeAll(async () => {
    all = await dump();
    fleet = all.units.find(({ name }) => name === 'Fleet')!.id;
    inside = personsInside(all, fleet);
  });

  test.each(DATES)('sees on %s exactly the people, placements, positions and units of Fleet', async (on) => {
    const client = clients['fleet'] as Client;
    const rows = async (kind: 'unit' | 'position' | 'placement' | 'employment') => {
      const { rows: found } = await client.call(endpoints.records, {
        params: { kind },
        query: { on: on as never, limit: 1000 },
      });
      const { rows: more } = await client.call(endpoints.records, {
        params: { kind },
        query: { on: on as never, limit: 1000, offset: 1000 },
      });
      return [...found, ...more].map(({ thing }) => thing).sort((a, b) => a - b);
    };
    const expected = (ids: Iterable<number>) => [...new Set(ids)].sort((a, b) => a - b);
    const hereNow = all.lines.filter(
      (line) => holds(line, on) && isPlaceInside(all, line.position, fleet, on),
    );
    expect(await rows('unit')).toEqual(
      expected(
        all.units.filter((u) => holds(u, on) && isUnitInside(all, u.id, fleet, on)).map(({ id }) => id),
      ),
    );
    expect(await rows('position')).toEqual(
      expected(
        all.positions.filter((p) => holds(p, on) && isUnitInside(all, p.unit, fleet, on)).map(({ id }) => id),
      ),
    );
    expect(await rows('placement')).toEqual(expected(hereNow.map(({ placement }) => placement)));
    expect(await rows('employment')).toEqual(
      expected(hereNow.filter(({ kind }) => kind === 'primary').map(({ employment }) => employment)),
    );
    const { people, total } = await client.call(endpoints.people, {
      query: { on: on as never, limit: 1000 },
    });
    const listed = expected(
      hereNow
        .filter(({ kind, person }) => kind === 'primary' && inside.has(person))
        .map(({ person }) => person),
    );
    expect(people.map(({ id }) => id).sort((a, b) => a - b)).toEqual(listed);
    expect(total).toBe(listed.length);
  });

  test('is refused the pages of people and positions outside, and ticks count only what is inside', async () => {
    const client = clients['fleet'] as Client;
    const outside = all.lines.find(
      ({ person, position }) => !inside.has(person) && !isPlaceInside(all, position, fleet, TODAY),
    )!;
    for (const [endpoint, id] of [
      [endpoints.personRecord, outside.person],
      [endpoints.positionRecord, outside.position],
    ] as const) {
      const refused = await client.refusal(endpoint, { params: { id } });
      expect(refused.codes).toEqual(['record_hidden']);
    }
    const query = { from: '2026-12-01' as Day, until: '2027-12-31' as Day };
    const { ticks } = await client.call(endpoints.ticks, { query });
    const begun = new Map<string, Set<number>>();
    for (const { employment, position, from } of all.lines)
      if (from >= query.from && from <= query.until && isPlaceInside(all, position, fleet, from))
        begun.set(from, (begun.get(from) ?? new Set()).add(employment));
    for (const [day, employments] of begun)
      expect(ticks.find((tick) => tick.day === day)?.count).toBeGreaterThanOrEqual(employments.size);
    const { ticks: everything } = await (clients['admin'] as Client).call(endpoints.ticks, { query });
    const sum = (of: typeof ticks) => of.reduce((total, { count }) => total + count, 0);
    expect(sum(ticks)).toBeLessThan(sum(everything));
  });

  test('gets no name, number or id of anybody outside in any reply that lists, counts or explains', async () => {
    const client = clients['fleet'] as Client;
    const outside = new Set(
      all.names.filter(({ person }) => !inside.has(person)).map(({ person }) => person),
    );
    // the chain upward is known to all below it: whoever holds a place in a unit above the branch on one of the days
    const above = new Set(
      all.lines
        .filter(({ position }) =>
          DATES.some((on) => {
            const unit = versionsOf(all.positions, position).find((row) => holds(row, on))?.unit;
            return unit !== undefined && unit !== fleet && isUnitInside(all, fleet, unit, on);
          }),
        )
        .map(({ person }) => person),
    );
    const insideNames = new Set(
      all.names.filter(({ person }) => inside.has(person) || above.has(person)).map(({ text }) => text),
    );
    const hiddenNames = all.names
      .filter(({ person, text }) => outside.has(person) && !insideNames.has(text))
      .map(({ text }) => text);
    expect(hiddenNames.length).toBeGreaterThan(500);
    const replies: string[] = [];
    for (const on of DATES) {
      const query = { on: on as never };
      replies.push(
        JSON.stringify(
          await client.call(endpoints.people, { query: { ...query, status: 'any', limit: 1000 } }),
        ),
      );
      replies.push(JSON.stringify(await client.call(endpoints.outline, { query })));
      replies.push(JSON.stringify(await client.call(endpoints.positions, { query })));
      for (const kind of ['person', 'contact', 'pay', 'contract'] as const)
        replies.push(
          JSON.stringify(
            await client.call(endpoints.records, { params: { kind }, query: { ...query, limit: 1000 } }),
          ),
        );
    }
    const { entries } = await client.call(endpoints.journal, { query: { limit: 200 } });
    replies.push(JSON.stringify(entries));
    for (const { number } of entries.slice(0, 30))
      replies.push(JSON.stringify(await client.call(endpoints.entry, { params: { number } })));
    for (const on of DATES) {
      const query = { on: on as never };
      for (const asked of ['anna', 'tallinn', 'larvik', 'linesman'])
        replies.push(JSON.stringify(await client.call(endpoints.find, { query: { ...query, text: asked } })));
      for (const id of [...inside].slice(0, 8)) {
        const params = { id };
        const response = await client.send(endpoints.personRecord, { params, query });
        replies.push(response.ok ? await response.text() : String(await response.arrayBuffer()));
      }
      const { positions } = await client.call(endpoints.positions, { query });
      for (const { id } of positions.slice(0, 8))
        replies.push(JSON.stringify(await client.call(endpoints.positionRecord, { params: { id }, query })));
    }
    const text = replies.join('\n');
    const said = new Set([...text.matchAll(/"((?:[^"\\]|\\.)*)"/g)].map(([, string]) => string));
    for (const [, given, family] of text.matchAll(/"given":"([^"]*)".*?"family":"([^"]*)"/g))
      said.add(`${given} ${family}`);
    expect(said.size).toBeGreaterThan(1000);
    expect(hiddenNames.filter((name) => said.has(name))).toEqual([]);
    const ids = new Set([...text.matchAll(/"(?:personId|person)":(\d+)/g)].map(([, id]) => Number(id)));
    expect([...ids].filter((id) => outside.has(id) && !above.has(id) && !wasInside(all, fleet, id))).toEqual(
      [],
    );
  });

  test('gets no record, history, search or count of anybody outside', async () => {
    const client = clients['fleet'] as Client;
    const never = all.names
      .filter(({ person }) => !inside.has(person) && !wasInside(all, fleet, person))
      .slice(0, 40);
    for (const { person, text } of never) {
      const refused = await client.refusal(endpoints.record, { params: { kind: 'person', id: person } });
      expect([refused.status, refused.codes]).toEqual([404, ['record_hidden']]);
      const found = await client.call(endpoints.people, { query: { search: text, status: 'any' } });
      expect(found.people.map(({ id }) => id)).not.toContain(person);
      expect(found.total).toBe(found.people.length);
    }
  });

  test('sees the history of somebody who moved in only from the day of the move', async () => {
    const client = clients['fleet'] as Client;
    const movedIn = all.lines.filter(
      (line) =>
        inside.has(line.person) &&
        line.kind === 'primary' &&
        !isPlaceInside(all, line.position, fleet, line.from) &&
        line.until < TODAY,
    );
    expect(movedIn.length).toBeGreaterThan(0);
    for (const { placement } of movedIn.slice(0, 10)) {
      const refused = await client.refusal(endpoints.record, {
        params: { kind: 'placement', id: placement },
      });
      expect(refused.codes).toEqual(['record_hidden']);
    }
  });

  test('counts in outline and headcount what the brute force counts', async () => {
    const client = clients['fleet'] as Client;
    const { units } = await client.call(endpoints.outline, { query: { on: TODAY as never } });
    const top = units.find(({ parentId }) => parentId === null)!;
    expect(top.id).toBe(fleet);
    const persons = new Set(
      all.lines
        .filter(
          (line) =>
            line.kind === 'primary' && holds(line, TODAY) && isPlaceInside(all, line.position, fleet, TODAY),
        )
        .map(({ person }) => person),
    );
    expect(top.branch!.people + top.branch!.notCounted).toBe(persons.size);
    const { months } = await client.call(endpoints.headcount, {
      query: { from: '2026-10-01' as never, until: '2026-10-31' as never },
    });
    const { months: everything } = await (clients['admin'] as Client).call(endpoints.headcount, {
      query: { from: '2026-10-01' as never, until: '2026-10-31' as never, by: 'division' },
    });
    const own = everything[0]!.values.find(({ key }) => key === fleet)!;
    expect(months[0]!.values).toEqual([{ ...own, key: 0 }]);
  });

  test('is told of a holder outside only that there is a record they may not see', async () => {
    const admin = clients['admin'] as Client;
    const client = clients['fleet'] as Client;
    const position = await vacantPosition(running, admin, '%Vess%');
    const outsider = all.lines.find(
      (line) =>
        line.kind === 'primary' &&
        line.until === 'infinity' &&
        holds(line, TODAY) &&
        !isPlaceInside(all, line.position, fleet, TODAY),
    )!;
    await admin.call(endpoints.move, {
      body: {
        kind: 'transfer',
        input: { personId: outsider.person, positionId: position, firstDay: '2027-05-01' as never },
        // whoever it is may be paid otherwise there
        words: { pay_currency: 'agreed', pay_outside_range: 'agreed', requirement_missing: 'agreed' },
      },
    });
    const input = { person: newcomer('Blocked'), positionId: position, firstDay: '2027-05-01' } as HireInput;
    const refused = await client.refusal(endpoints.move, { body: { kind: 'hire', input } });
    const taken = refused.problems.find(({ code }) => code === 'place_taken');
    expect(taken?.params['holders']).toEqual([{ kind: 'placement', id: 0, hidden: true }]);
    expect(JSON.stringify(refused.body)).not.toContain(String(outsider.person));
  });

  test('may not write outside: neither into a position there, nor an entry that reaches there', async () => {
    const client = clients['fleet'] as Client;
    const admin = clients['admin'] as Client;
    const outside = await vacantPosition(running, admin, '%Yard%');
    const input = { person: newcomer('Outside'), positionId: outside, firstDay: '2026-12-01' } as HireInput;
    expect((await client.refusal(endpoints.move, { body: { kind: 'hire', input } })).codes).toEqual([
      'record_hidden',
    ]);
    const unit = all.units.find(({ name }) => name === 'Harbours')!;
    const edit = { mode: 'set', from: '2027-01-01', values: { name: 'Mine' } } as const;
    const refused = await client.refusal(endpoints.editRecord, {
      params: { kind: 'unit', id: unit.id, section: 'unit' },
      body: { edit, basedOn: 1_000_000 },
    });
    expect(refused.codes).toEqual(['record_hidden']);
    const [round] = await many<{ number: number }>(
      running.owner,
      sql`select number from entry where kind = 'bulk_change' order by number desc limit 1`,
    );
    const plan = await client
      .patiently(endpoints.planUndo, { params: { number: round!.number } })
      .catch(() => null);
    if (plan) expect(plan.problems.map(({ code }) => code)).toContain('right_missing');
  });
});

const wasInside = (all: Dump, root: number, person: number): boolean =>
  all.lines.some(
    (line) =>
      line.person === person &&
      [
        line.from,
        line.until === 'infinity' ? '2199-01-01' : dayBefore(line.until),
        ...new Set(all.units.map(({ from }) => from)),
      ]
        .filter((day) => day !== '-infinity' && holds(line, day))
        .some((day) => isPlaceInside(all, line.position, root, day)),
  );

describe('others', () => {
  test('a crew member sees their own record and nobody else', async () => {
    const client = clients['crew'] as Client;
    const { people, total } = await client.call(endpoints.people, { query: { status: 'any' } });
    expect([total, people[0]?.id]).toEqual([1, client.viewer?.personId]);
    const pays = await client.call(endpoints.records, { params: { kind: 'pay' }, query: {} });
    expect(pays.rows.length).toBeLessThanOrEqual(1);
    expect((await client.refusal(endpoints.outline, {})).status).toBe(403);
  });

  test('a manager sees no pay, and no cost', async () => {
    const client = clients['tallinn'] as Client;
    expect((await client.call(endpoints.records, { params: { kind: 'pay' }, query: {} })).rows).toEqual([]);
    const { units } = await client.call(endpoints.outline, {});
    expect(units.length).toBeGreaterThan(3);
    expect(units.every(({ own, branch }) => own.cost === null && (branch?.cost ?? null) === null)).toBe(true);
  });

  test('an auditor reads everything and writes nothing', async () => {
    const client = clients['audit'] as Client;
    const input = { person: newcomer('Audit'), positionId: 1, firstDay: '2026-12-01' } as HireInput;
    expect((await client.refusal(endpoints.move, { body: { kind: 'hire', input } })).status).toBe(403);
    expect((await client.call(endpoints.people, {})).total).toBeGreaterThan(1000);
  });
});

describe('letting in', () => {
  test('the first administrator is made once, by the printed link only', async () => {
    const empty = await startServer('empty');
    const { firstAdministratorLink } = await import('@gremium/server');
    const token = (await firstAdministratorLink(empty))!;
    const client = new Client(empty.address);
    const body = { token, email: 'me@own.example', name: 'Me', password: 'long enough for this' };
    const wrong = await client.refusal(endpoints.firstAdministrator, {
      body: { ...body, token: 'x'.repeat(43) },
    });
    expect(wrong.codes).toEqual(['link_used']);
    const short = await client.refusal(endpoints.firstAdministrator, {
      body: { ...body, password: 'short' },
    });
    expect([short.codes, short.problems[0]?.field]).toEqual([['password_short'], 'password']);
    await client.call(endpoints.firstAdministrator, { body });
    expect((await client.refusal(endpoints.firstAdministrator, { body })).codes).toEqual(['link_used']);
    // accounts of the demo are shown where they are
    expect((await client.call(endpoints.entrance, {})).demoAccounts).toEqual([]);
    await empty.close();
  });

  test('passwords cannot be tried without end', async () => {
    // from one address five wrong ones of whatever accounts; right ones count nothing
    const guarded = await startServer('demo', { signInsAMinute: 1 });
    for (let i = 0; i < 8; i++) await asDemo(guarded.address, 'audit');
    const client = new Client(guarded.address);
    const tries = [];
    for (let i = 0; i < 7; i++)
      tries.push(
        (await client.refusal(endpoints.signIn, { body: { email: `a${i}@b.example`, password: 'x' } })).codes,
      );
    expect(tries.flat()).toEqual([...Array(5).fill('sign_in_failed'), ...Array(2).fill('too_many_requests')]);
    // who was let in from there before is let in, whatever others tried
    await asDemo(guarded.address, 'audit');
    await guarded.close();
  });

  test('a request from another site is refused, a session ends, its cookie is closed to scripts', async () => {
    const client = await asDemo(running.address, 'audit');
    const other = await client.refusal(endpoints.signOut, {}, { origin: 'https://other.example' });
    expect(other.codes).toEqual(['other_site']);
    const answer = await client.send(endpoints.signIn, {
      body: { email: 'audit@vessmar.example', password: 'vessmar-demo-only' },
    });
    expect(answer.headers.get('set-cookie')).toMatch(/HttpOnly; SameSite=Strict/);
    // signing in again closed the session before
    expect((await client.refusal(endpoints.whoAmI, {})).status).toBe(401);
    const fresh = await asDemo(running.address, 'audit');
    await running.owner.query(`update session set seen_at = seen_at - interval '13 hours'`);
    expect((await fresh.refusal(endpoints.whoAmI, {})).status).toBe(401);
  });
});
