// Scopes against a brute force that knows none of their compilations: rows fetched without any scope, walked day by day by hand.
// And what a clerk of an entity, and a manager of a team, count.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type Condition, type Day, type Grant, type Scope, endpoints, presetNames } from '@gremium/contract';
import { clockFrom } from '@gremium/server';
import pg from 'pg';
import {
  type Client,
  type Running,
  asAccount,
  copyDatabase,
  many,
  one,
  sql,
  startServer,
  takeOut,
} from './harness';

type Dated = { from: string; until: string };
type Unit = Dated & {
  id: number;
  parent: number | null;
  head: number | null;
  location: number | null;
  entity: number | null;
};
type Position = Dated & {
  id: number;
  unit: number;
  above: number | null;
  standing: string;
  location: number | null;
  entity: number | null;
};
type Place = Dated & {
  id: number;
  position: number;
  employment: number;
  kind: string;
  lead: boolean;
  hours: number;
  out: number;
};
type Job = Dated & { id: number; person: number; entity: number; worker: number; main: boolean };

const TODAY = '2026-11-23';
const DATES = ['2022-06-15', TODAY, '2027-04-01'];

let running: Running;
let all: Dump;
beforeAll(async () => {
  running = await startServer('demo');
  all = await dump(running);
});
afterAll(() => running.close());

const dump = async ({ owner }: Running) => ({
  units: await many<Unit>(
    owner,
    sql`select unit_id as id, parent_id as parent, head_position_id as head, location_id as location, legal_entity_id as entity,
      valid_from::text as "from", valid_until::text as "until" from unit_version where superseded_by is null`,
  ),
  positions: await many<Position>(
    owner,
    sql`select position_id as id, unit_id as unit, reports_to_id as above, standing, location_id as location, legal_entity_id as entity,
      valid_from::text as "from", valid_until::text as "until" from position_version where superseded_by is null`,
  ),
  places: await many<Place>(
    owner,
    sql`select placement_id as id, position_id as position, employment_id as employment, kind, coalesce(lead, false) as lead, hours,
      lent_hours + away_hours as out, valid_from::text as "from", valid_until::text as "until" from placement_version where superseded_by is null`,
  ),
  jobs: await many<Job>(
    owner,
    sql`select employment_id as id, person_id as person, legal_entity_id as entity, worker_type_id as worker, marked_main as main,
      valid_from::text as "from", valid_until::text as "until" from employment_version where superseded_by is null`,
  ),
  countries: new Map(
    (
      await many<{ id: number; country: string }>(
        owner,
        sql`select location_id as id, country from location_version where superseded_by is null`,
      )
    ).map(({ id, country }) => [id, country]),
  ),
  numbers: new Map(
    (
      await many<{ id: number; number: string }>(
        owner,
        sql`select person_id as id, number from person_version where superseded_by is null`,
      )
    ).map(({ id, number }) => [id, number]),
  ),
});
type Dump = Awaited<ReturnType<typeof dump>>;

const isOn = ({ from, until }: Dated, on: string) => from <= on && on < until;
const grouping = <T>(rows: readonly T[], by: (row: T) => number): ((key: number) => T[]) => {
  const groups = new Map<number, T[]>();
  for (const row of rows) groups.set(by(row), [...(groups.get(by(row)) ?? []), row]);
  return (key) => groups.get(key) ?? [];
};

// All that is asked of one day, by hand.
const onDay = (dumped: Dump, on: string) => {
  const { countries, numbers } = dumped;
  const units = grouping(
    dumped.units.filter((row) => isOn(row, on)),
    ({ id }) => id,
  );
  const positions = grouping(
    dumped.positions.filter((row) => isOn(row, on)),
    ({ id }) => id,
  );
  const jobs = grouping(
    dumped.jobs.filter((row) => isOn(row, on)),
    ({ id }) => id,
  );
  const holders = grouping(
    dumped.places.filter((row) => isOn(row, on)),
    ({ position }) => position,
  );
  const whole = grouping(dumped.places, ({ id }) => id);
  const upward = (unit: number): Unit[] => {
    const chain: Unit[] = [];
    for (
      let at = units(unit)[0];
      at && !chain.includes(at);
      at = at.parent === null ? undefined : units(at.parent)[0]
    )
      chain.push(at);
    return chain;
  };
  const inherited = (position: Position, field: 'location' | 'entity'): number | null =>
    position[field] ?? upward(position.unit).find((unit) => unit[field] !== null)?.[field] ?? null;
  const stands = (id: number) => ['in_force', 'on_hold'].includes(positions(id)[0]?.standing ?? '');
  const manager = (id: number): number | null => {
    const position = positions(id)[0];
    if (!position) return null;
    if (position.above !== null && position.above !== id && stands(position.above)) return position.above;
    const led = upward(position.unit).find(({ head }) => head !== null && head !== id && stands(head));
    return led?.head ?? null;
  };
  const since = (placement: number) =>
    whole(placement)
      .map(({ from }) => from)
      .sort()[0] ?? '';
  const leader = (id: number, not: number): number | null => {
    const able = holders(id)
      .filter(({ kind, hours, out }) => kind === 'acting' || hours !== out)
      .map((row) => ({ ...row, person: dumped.jobs.find((job) => job.id === row.employment)?.person ?? 0 }))
      .filter(({ person }) => person !== not);
    const rank = ({ kind, lead }: Place) => (kind === 'acting' ? 0 : lead ? 1 : 2);
    const key = (row: Place & { person: number }) =>
      `${rank(row)} ${since(row.id)} ${(numbers.get(row.person) ?? '').padStart(20, '0')}`;
    return able.sort((a, b) => (key(a) < key(b) ? -1 : 1))[0]?.person ?? null;
  };
  // who is above a place, nearest first: over positions that nobody leads, and past oneself
  const above = (position: number, whom: number): number[] => {
    const chain: number[] = [];
    const passed = new Set<number>();
    let [at, who] = [manager(position), whom];
    while (at !== null && !passed.has(at)) {
      passed.add(at);
      const found = leader(at, who);
      if (found !== null) [chain[chain.length], who] = [found, found];
      at = manager(at);
    }
    return chain;
  };
  return { units, positions, jobs, upward, inherited, above, countries };
};
type OnDay = ReturnType<typeof onDay>;

const meets = (
  { positions, jobs, upward, inherited, above, countries }: OnDay,
  condition: Condition,
  { position, employment, viewer }: { position: number; employment: number; viewer: number },
): boolean => {
  const at = positions(position)[0];
  const job = jobs(employment)[0];
  if (!job) return false;
  switch (condition.type) {
    case 'branch':
      return !!at && upward(at.unit).some(({ id }) => id === condition.unitId);
    case 'country':
      return !!at && countries.get(inherited(at, 'location') ?? 0) === condition.country;
    case 'entity':
      return job.entity === condition.legalEntityId;
    case 'worker_type':
      return job.worker === condition.workerTypeId;
    case 'oneself':
      return job.person === viewer;
    case 'reports': {
      if (!at || job.person === viewer) return false;
      const chain = above(position, job.person);
      return condition.depth === 'direct' ? chain[0] === viewer : chain.includes(viewer);
    }
  }
};

const everything = (scope: Scope, more: Partial<Grant> = {}): Grant => ({
  acts: [],
  sections: Object.fromEntries(presetNames.map((name) => [name, 'view' as const])),
  scope,
  ...more,
});

const listed = async (client: Client, kind: 'placement' | 'employment', on: string): Promise<number[]> => {
  const found: number[] = [];
  for (let offset = 0; ; offset += 1000) {
    const { rows } = await client.call(endpoints.records, {
      params: { kind },
      query: { on: on as Day, limit: 1000, offset },
    });
    found.push(...rows.map(({ thing }) => thing));
    if (rows.length < 1000) return found.sort((a, b) => a - b);
  }
};

const headOf = async (unit: string): Promise<{ person: number; unit: number }> =>
  one(
    running.owner,
    sql`select e.person_id as person, u.unit_id as unit from unit_version u
      join placement_version p on p.position_id = u.head_position_id and p.superseded_by is null and p.valid_until = 'infinity' and p.kind = 'primary'
      join employment_version e on e.employment_id = p.employment_id and e.superseded_by is null
      where u.superseded_by is null and u.name = ${unit} and u.valid_from <= ${TODAY} and ${TODAY} < u.valid_until limit 1`,
  );

describe('placements and employments on three dates are those of the brute force', () => {
  const conditions = async (): Promise<Record<string, Condition[]>> => {
    const fleet = (await headOf('Fleet')).unit;
    const [entity] = await many<{ id: number }>(
      running.owner,
      sql`select legal_entity_id as id from legal_entity_version where superseded_by is null and country = 'EE'`,
    );
    const [worker] = await many<{ id: number }>(
      running.owner,
      sql`select worker_type_id as id from employment_version where superseded_by is null group by 1 order by count(*) desc offset 1 limit 1`,
    );
    const of: Record<string, Condition> = {
      branch: { type: 'branch', unitId: fleet },
      direct: { type: 'reports', depth: 'direct' },
      reports: { type: 'reports', depth: 'all' },
      entity: { type: 'entity', legalEntityId: entity!.id },
      country: { type: 'country', country: 'FI' },
      worker: { type: 'worker_type', workerTypeId: worker!.id },
    };
    return {
      ...Object.fromEntries(Object.entries(of).map(([name, one]) => [name, [one]])),
      'branch, entity': [of['branch']!, of['entity']!],
      'reports, country, worker': [of['reports']!, of['country']!, of['worker']!],
    };
  };

  test.each([
    'branch',
    'direct',
    'reports',
    'entity',
    'country',
    'worker',
    'branch, entity',
    'reports, country, worker',
  ])('%s', async (name) => {
    const wanted = (await conditions())[name]!;
    const { person } = await headOf('Fleet');
    const scope: Scope = wanted.length === 1 ? wanted[0]! : { type: 'every', of: wanted };
    const email = `${name.replace(/\W/g, '')}@vessmar.example`;
    const client = await asAccount(running, email, [everything(scope)], person);
    let most = 0;
    for (const on of DATES) {
      const that = onDay(all, on);
      const inside = all.places.filter(
        (row) =>
          isOn(row, on) && wanted.every((condition) => meets(that, condition, { ...row, viewer: person })),
      );
      const ids = (of: number[]) => [...new Set(of)].sort((a, b) => a - b);
      expect([on, await listed(client, 'placement', on)]).toEqual([on, ids(inside.map(({ id }) => id))]);
      const isPlaced = wanted.some(({ type }) => !['entity', 'worker_type'].includes(type));
      const employed = isPlaced
        ? inside.filter(({ kind }) => kind === 'primary').map(({ employment }) => employment)
        : all.jobs
            .filter((job) => isOn(job, on))
            .filter((job) =>
              wanted.every((condition) =>
                meets(that, condition, { position: 0, employment: job.id, viewer: person }),
              ),
            )
            .map(({ id }) => id);
      expect([on, await listed(client, 'employment', on)]).toEqual([on, ids(employed)]);
      most = Math.max(most, inside.length);
    }
    expect(most).toBeGreaterThan(0);
  });
});

describe('a vessel with 31 people of one entity and 17 of another', () => {
  const MARCH = '2027-03-01';
  let own: Running;
  let vessel: number;
  let [one_, other]: [number, number] = [0, 0];
  let passing: { person: number; employment: number };

  // Forty-eight of the people of a branch that is big enough are made so; the rest of them is of a third entity.
  beforeAll(async () => {
    const url = await copyDatabase('demo');
    const owner = new pg.Client(url);
    await owner.connect();
    await owner.query("set session_replication_role = 'replica'");
    const that = onDay(all, MARCH);
    const today = onDay(all, TODAY);
    const aboard = (unit: number) =>
      all.places.filter(
        (row) =>
          row.kind === 'primary' &&
          row.from <= TODAY &&
          row.until > '2027-12-31' &&
          [that, today].every((day) =>
            day.upward(day.positions(row.position)[0]?.unit ?? 0).some(({ id }) => id === unit),
          ) &&
          all.jobs
            .filter(({ id }) => id === row.employment)
            .every(({ from, until }) => from <= TODAY && until > '2028'),
      );
    const named = await many<{ id: number; name: string }>(
      running.owner,
      sql`select unit_id as id, name from unit_version where superseded_by is null and name like 'Vess %' and valid_until = 'infinity'`,
    );
    vessel = named.find(({ id }) => new Set(aboard(id).map(({ employment }) => employment)).size >= 48)!.id;
    const entities = await many<{ id: number }>(
      running.owner,
      sql`select legal_entity_id as id from legal_entity_version where superseded_by is null order by 1`,
    );
    [one_, other] = [entities[0]!.id, entities[1]!.id];
    const third = entities[2]!.id;
    const employments = [...new Set(aboard(vessel).map(({ employment }) => employment))];
    const everybody = all.places
      .filter((row) => row.from <= '2027-12-31' && row.until > TODAY)
      .filter((row) =>
        [that, today].some((day) =>
          day.upward(day.positions(row.position)[0]?.unit ?? 0).some(({ id }) => id === vessel),
        ),
      )
      .map(({ employment }) => employment);
    const set = (ids: number[], entity: number) =>
      owner.query('update employment_version set legal_entity_id = $1 where employment_id = any($2)', [
        entity,
        ids,
      ]);
    await set(everybody, third);
    await set(employments.slice(0, 31), one_);
    await set(employments.slice(31, 48), other);
    // one of the seventeen passes over on the first of March
    const employment = employments[31]!;
    passing = { employment, person: all.jobs.find(({ id }) => id === employment)!.person };
    await owner.query(
      `update employment_version set valid_until = $2 where employment_id = $1 and superseded_by is null and valid_until = 'infinity'`,
      [employment, MARCH],
    );
    await owner.query(
      `insert into employment_version select (jsonb_populate_record(v, jsonb_build_object('id', (select max(id) + 1 from employment_version),
          'valid_from', $2::text, 'valid_until', 'infinity', 'legal_entity_id', $3::bigint))).* from employment_version v
        where employment_id = $1 and superseded_by is null and valid_until = $2::date`,
      [employment, MARCH, one_],
    );
    await owner.end();
    own = await startServer('demo', { url, clock: clockFrom('2027-03-02T09:00:00Z') });
  });
  afterAll(() => own.close());

  const clerk = (more: Partial<Grant> = {}, email = 'clerk@vessmar.example'): Promise<Client> =>
    asAccount(own, email, [
      everything(
        {
          type: 'every',
          of: [
            { type: 'branch', unitId: vessel },
            { type: 'entity', legalEntityId: one_ },
          ],
        },
        more,
      ),
    ]);

  test('the clerk counts 31 on every page, figure, chip and in the file on the day before, 32 from the first', async () => {
    const client = await clerk();
    for (const [on, people] of [
      ['2027-02-28', 31],
      [MARCH, 32],
    ] as const) {
      const day = on as Day;
      const page = await client.call(endpoints.people, { query: { on: day, limit: 1 } });
      expect([on, 'people', page.total]).toEqual([on, 'people', people]);
      const { units } = await client.call(endpoints.outline, { query: { on: day } });
      const line = units.find(({ id }) => id === vessel);
      expect([on, 'outline', (line?.branch?.people ?? 0) + (line?.branch?.notCounted ?? 0)]).toEqual([
        on,
        'outline',
        people,
      ]);
      const view = {
        subject: 'employment' as const,
        columns: [{ field: 'employment.inEffectFrom' }],
        condition: '',
        order: [],
        groups: [],
      };
      const { content } = await takeOut(client, {
        title: 'aboard',
        parts: [{ title: 'aboard', view, layout: 'view' }],
        format: 'csv',
        on: day,
      } as never);
      const rows = content.toString('utf8').match(/^\d{4}-\d\d-\d\d\r?$/gm) ?? [];
      expect([on, 'file', rows.length]).toEqual([on, 'file', people]);
    }
    const table = await client.call(endpoints.crossTable, {
      query: {
        measure: 'headcount',
        by: 'legalEntity',
        from: '2027-02',
        until: '2027-02',
        on: '2027-02-28',
      } as never,
    });
    const counted = table.rows.reduce((sum, { values }) => sum + (values.at(-1) ?? 0), 0);
    expect(table.rows.length).toBe(1);
    expect(counted).toBeLessThanOrEqual(31);
  });

  test('pay from before the day is hidden, or shown where the role lets the past follow the person', async () => {
    const pay = async (client: Client) => {
      const { rows } = await client.call(endpoints.personRecord, {
        params: { id: passing.person },
        query: { on: MARCH as Day },
      });
      return rows
        .filter(({ section }) => section === 'pay')
        .map(({ from }) => from)
        .sort();
    };
    const without = await pay(await clerk({}, 'strict@vessmar.example'));
    expect(without.length).toBeGreaterThan(0);
    expect(without.every((from) => from >= MARCH)).toBe(true);
    const following = await pay(await clerk({ follows: ['pay'] }, 'following@vessmar.example'));
    const whole = await many<{ from: string }>(
      own.owner,
      sql`select valid_from::text as "from" from pay_version where employment_id = ${passing.employment} and superseded_by is null order by 1`,
    );
    expect(following).toEqual(whole.map(({ from }) => from));
    expect(following[0]! < MARCH).toBe(true);
    expect(other).not.toBe(one_);
  });
});

describe('a manager of four, with six below them', () => {
  const MARCH = '2027-03-01';
  const MAY = '2027-05-01';
  const JUNE = '2027-06-01';
  let own: Running;
  type Member = { position: number; employment: number; person: number; place: number };
  // the manager, the four, the six; then somebody outside
  let [manager, ...team]: [Member, ...Member[]] = [] as never;

  // Twelve people of one place each, which nobody reports to, are put above one another. From March two of the six report to the
  // manager and the fourth of the four to somebody else; from May the first of the four is gone; from June the third acts for the manager.
  beforeAll(async () => {
    const url = await copyDatabase('demo');
    const owner = new pg.Client(url);
    await owner.connect();
    await owner.query("set session_replication_role = 'replica'");
    const led = new Set([...all.units.map(({ head }) => head), ...all.positions.map(({ above }) => above)]);
    const once = <T>(rows: readonly T[], by: (row: T) => number) => {
      const times = new Map<number, number>();
      for (const row of rows) times.set(by(row), (times.get(by(row)) ?? 0) + 1);
      return (key: number) => times.get(key) === 1;
    };
    const isOneJob = once(all.jobs, ({ person }) => person);
    const isOnePlace = once(all.places, ({ employment }) => employment);
    const isHeldOnce = once(all.places, ({ position }) => position);
    const isOneRow = once(all.positions, ({ id }) => id);
    const simple = all.places.flatMap((row): Member[] => {
      const { id, position, employment, kind, out } = row;
      const job = all.jobs.find((one) => one.id === employment);
      const isSo =
        kind === 'primary' &&
        out === 0 &&
        [row, job!].every(({ from, until }) => from <= TODAY && until === 'infinity') &&
        isOneJob(job!.person) &&
        isOnePlace(employment) &&
        isHeldOnce(position) &&
        isOneRow(position) &&
        !led.has(position);
      return isSo ? [{ position, employment, person: job!.person, place: id }] : [];
    });
    expect(simple.length).toBeGreaterThan(12);
    [manager, ...team] = simple.slice(0, 12) as [Member, ...Member[]];
    const upward = (one: Member, to: Member) =>
      owner.query('update position_version set reports_to_id = $2 where position_id = $1', [
        one.position,
        to.position,
      ]);
    // what holds until a day holds otherwise from it
    const fromThen = async (table: string, id: number, day: string, values: object) => {
      const its = `${table}_id = $1 and superseded_by is null`;
      await owner.query(`update ${table}_version set valid_until = $2 where ${its}`, [id, day]);
      await owner.query(
        `insert into ${table}_version select (jsonb_populate_record(v, jsonb_build_object('id', (select max(id) + 1 from ${table}_version),
          'valid_from', $2::text, 'valid_until', 'infinity') || $3::jsonb)).* from ${table}_version v where ${its}`,
        [id, day, values],
      );
    };
    const [a, b, c, d, ...six] = team as [Member, Member, Member, Member, ...Member[]];
    const outside = six.pop()!;
    for (const one of [a, b, c, d]) await upward(one, manager);
    for (const one of six.slice(0, 3)) await upward(one, a);
    for (const one of six.slice(3)) await upward(one, b);
    for (const one of six.slice(0, 2))
      await fromThen('position', one.position, MARCH, { reports_to_id: manager.position });
    await fromThen('position', d.position, MARCH, { reports_to_id: outside.position });
    for (const table of ['placement', 'employment'] as const)
      await owner.query(`update ${table}_version set valid_until = $2 where ${table}_id = $1`, [
        table === 'placement' ? a.place : a.employment,
        MAY,
      ]);
    await owner.query(
      `insert into placement_version select (jsonb_populate_record(v, jsonb_build_object('id', (select max(id) + 1 from placement_version),
        'placement_id', (select max(placement_id) + 1 from placement_version), 'position_id', $2::bigint, 'kind', 'acting', 'valid_from', $3::text))).*
        from placement_version v where placement_id = $1 and superseded_by is null`,
      [c.place, manager.position, JUNE],
    );
    // the last of the six has a second employment, of another entity, in the outsider's place
    const last = six.at(-1)!;
    await owner.query(
      `insert into employment_version select (jsonb_populate_record(v, jsonb_build_object('id', (select max(id) + 1 from employment_version),
        'employment_id', (select max(employment_id) + 1 from employment_version), 'marked_main', false,
        'legal_entity_id', (select max(legal_entity_id) from legal_entity_version where legal_entity_id <> v.legal_entity_id)))).*
        from employment_version v where employment_id = $1 and superseded_by is null`,
      [last.employment],
    );
    await owner.query(
      `insert into placement_version select (jsonb_populate_record(v, jsonb_build_object('id', (select max(id) + 1 from placement_version),
        'placement_id', (select max(placement_id) + 1 from placement_version), 'position_id', $2::bigint,
        'employment_id', (select max(employment_id) from employment_version)))).*
        from placement_version v where placement_id = $1 and superseded_by is null`,
      [last.place, outside.position],
    );
    await owner.end();
    own = await startServer('demo', { url });
  });
  afterAll(() => own.close());

  const as = ({ person }: Member, depth: 'direct' | 'all') =>
    asAccount(own, `${person}.${depth}@vessmar.example`, [everything({ type: 'reports', depth })], person);
  const placesOn = async (one: Member, on: string) => {
    const found: number[] = [];
    for (const depth of ['direct', 'all'] as const)
      found.push((await listed(await known(one, depth), 'placement', on)).length);
    return found;
  };
  const clients = new Map<string, Promise<Client>>();
  const known = (one: Member, depth: 'direct' | 'all') => {
    const key = `${one.person} ${depth}`;
    if (!clients.has(key)) clients.set(key, as(one, depth));
    return clients.get(key)!;
  };

  test('counts four, or ten', async () => {
    for (const [depth, people] of [
      ['direct', 4],
      ['all', 10],
    ] as const) {
      const client = await known(manager, depth);
      const page = await client.call(endpoints.people, { query: { on: TODAY as Day, limit: 1000 } });
      expect([depth, page.total]).toEqual([depth, people]);
      const wanted = team.slice(0, people).map(({ person }) => person);
      expect(page.people.map(({ id }) => id).sort()).toEqual([...wanted].sort());
    }
    expect(await placesOn(manager, TODAY)).toEqual([4, 10]);
  });

  test.each([
    ['the day before the reorganisation', '2027-02-28', 4, 10],
    // two of the six come up, the fourth goes
    ['the day of it', MARCH, 5, 9],
    // one of the six is left below the first of the four: nobody leads it now but the manager
    ['once a place between is vacant', MAY, 5, 8],
    // whoever acts leads; of them themselves the manager stays it
    ['while somebody acts for them', JUNE, 1, 1],
  ])('%s', async (_, on, direct, whole) => {
    expect(await placesOn(manager, on)).toEqual([direct, whole]);
  });

  test('whoever acts for them has the rest of the team meanwhile, and nobody before', async () => {
    const acting = team[2] as Member;
    expect(await placesOn(acting, '2027-05-31')).toEqual([0, 0]);
    expect(await placesOn(acting, JUNE)).toEqual([4, 7]);
  });

  test('a second employment elsewhere is not theirs to see', async () => {
    const last = team[9] as Member;
    const { rows } = await (
      await known(manager, 'all')
    ).call(endpoints.personRecord, { params: { id: last.person }, query: { on: TODAY as Day } });
    const employments = rows.filter(({ section }) => section === 'employment').map(({ thing }) => thing);
    expect([...new Set(employments)]).toEqual([last.employment]);
    const two = await many(
      own.owner,
      sql`select distinct employment_id from employment_version where person_id = ${last.person} and superseded_by is null`,
    );
    expect(two.length).toBe(2);
  });
});
