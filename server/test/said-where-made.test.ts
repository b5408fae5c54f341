// What is said where something is made: the range in the form of the pay, what is free and what can be hired into, what is left
// out, what a position requires; figures counted by SQL, ranges reckoned by the database.
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
  vacantPosition,
} from './harness';

let running: Running;
let admin: Client;
beforeAll(async () => {
  running = await startServer('demo');
  admin = await asDemo(running.address, 'admin');
});
afterAll(() => running.close());

const ON = '2026-11-23' as Day;
const preview = (client: Client, kind: 'hire' | 'transfer', input: object) =>
  client.call(endpoints.move, { body: { kind, input, preview: true } as never });

type Room = { id: number; free: number | null; hire: number | null };

// Positions in force on the day, without those where a handover lets somebody count against no limit.
const roomBySql = () =>
  many<Room>(
    running.owner,
    sql`with held as (
        select l.position_id as id, l.places, l.fte,
          coalesce(sum(case when p.kind in ('acting', 'cover') then 0
            else (p.hours - case when p.backfilled then p.lent_hours + p.away_hours else 0 end)::numeric / p.full_time end), 0) as share,
          count(*) filter (where p.placement_id is not null and p.kind not in ('acting', 'cover')
            and not (p.backfilled and p.lent_hours + p.away_hours >= p.hours)) as taken
        from position_version o
        join position_limits_version l on l.position_id = o.position_id and l.superseded_by is null
          and l.valid_from <= ${ON}::date and l.valid_until > ${ON}::date and l.handover_days = 0
        left join placement_version p on p.position_id = o.position_id and p.superseded_by is null
          and p.valid_from <= ${ON}::date and p.valid_until > ${ON}::date
        where o.superseded_by is null and o.standing = 'in_force'
          and o.valid_from <= ${ON}::date and o.valid_until > ${ON}::date
        group by l.position_id, l.places, l.fte)
      select id, case when fte is not null then round(greatest(0, fte - share * 100))::int end as free,
        case when fte is null then null when places is not null and places - taken <= 0 then 0 else round(greatest(0, fte - share * 100))::int end as hire
      from held order by id`,
  );

describe('what is free', () => {
  test('of each position, and what of it somebody can be hired into, is what SQL counts', async () => {
    const { positions } = await admin.call(endpoints.positions, { query: { on: ON } });
    const lines = new Map(positions.map((line) => [line.id, line]));
    const counted = await roomBySql();
    expect(counted.length).toBeGreaterThan(900);
    // some FTE is free where every place is taken: the two figures differ
    expect(counted.filter(({ free, hire }) => (free ?? 0) > 0 && hire === 0).length).toBeGreaterThan(3);
    const said = counted.map(({ id }) => {
      const line = lines.get(id);
      return { id, free: line?.freeFte ?? null, hire: line?.hireFte ?? null };
    });
    expect(said).toEqual(counted);
  });

  test('is the same two figures in the outline and in the lines of the list', async () => {
    const { units } = await admin.call(endpoints.outline, { query: { on: ON } });
    const top = units.find(({ parentId }) => parentId === null);
    const { positions } = await admin.call(endpoints.positions, { query: { on: ON } });
    const open = positions.filter(({ mark }) => !['planned', 'on_hold', 'closed'].includes(mark));
    const sum = (of: 'freeFte' | 'hireFte') => open.reduce((all, line) => all + (line[of] ?? 0), 0);
    // lines are rounded each, the outline once: at most half a hundredth a position
    const far = (of: 'freeFte' | 'hireFte') => Math.abs(sum(of) - (top?.branch?.[of] ?? 0));
    expect([far('freeFte') <= open.length / 2, far('hireFte') <= open.length / 2]).toEqual([true, true]);
    expect(top?.branch?.hireFte).toBeLessThan(top?.branch?.freeFte ?? 0);
  });
});

type Place = { id: number; fullTime: number; minimum: string; maximum: string; rangeHours: number };

// A vacant place in euros with a range of other hours than are full time there.
const placeWithRange = async (): Promise<Place> => {
  const { positions } = await admin.call(endpoints.positions, { query: { free: 'yes' } });
  const ids = positions.filter(({ mark }) => mark === 'vacant').map(({ id }) => id);
  const found = await many<Place & { locationId: number | null }>(
    running.owner,
    sql`select o.position_id as id, r.minimum::text, r.maximum::text, r.full_time as "rangeHours", o.location_id as "locationId",
        0 as "fullTime"
      from position_version o
      join grade_range_version r on r.grade_id = o.grade_id and r.superseded_by is null and r.currency = 'EUR'
        and r.valid_from <= '2027-02-01' and r.valid_until > '2027-02-01'
      where o.superseded_by is null and o.position_id = any(${ids}::bigint[]) and o.valid_until = 'infinity'
        and not exists (select from placement_version p where p.position_id = o.position_id and p.superseded_by is null and p.valid_until > '2026-11-23')`,
  );
  for (const place of found) {
    const { inherited } = await admin.call(endpoints.positionRecord, { params: { id: place.id }, query: {} });
    const entity = await one<{ currency: string }>(
      running.owner,
      sql`select currency from legal_entity_version where legal_entity_id = ${inherited.legalEntityId} and superseded_by is null limit 1`,
    );
    const location = await one<{ fullTime: number | null }>(
      running.owner,
      sql`select full_time as "fullTime" from location_version where location_id = ${inherited.locationId} and superseded_by is null limit 1`,
    );
    if (entity.currency === 'EUR' && location.fullTime !== null && location.fullTime !== place.rangeHours)
      return { ...place, fullTime: location.fullTime };
  }
  throw new Error('no such place');
};

const hireAt = (positionId: number, family: string, pay: object[]) => ({
  ...{ person: newcomer(family), positionId, firstDay: '2027-02-01', pay },
});

describe('the range of a grade', () => {
  test.each(['full_time', 'actual'] as const)(
    'is said and checked in the form of the pay: just inside passes, a cent outside does not (%s)',
    async (rate) => {
      const { id, fullTime, minimum, maximum, rangeHours } = await placeWithRange();
      for (const hours of [3000, 3750, 3850, 4000].filter((one) => one <= fullTime)) {
        const worked = rate === 'full_time' ? fullTime : hours;
        const bounds = await one<{ least: string; most: string }>(
          running.owner,
          sql`select (ceil(${minimum}::numeric * ${worked} * 100 / ${rangeHours}) / 100)::numeric(12, 2)::text as least,
            (floor(${maximum}::numeric * ${worked} * 100 / ${rangeHours}) / 100)::numeric(12, 2)::text as most`,
        );
        const codes = async (amount: string) => {
          const pay = [{ amount, currency: 'EUR', basis: 'month', rate }];
          const { problems } = await preview(admin, 'hire', { ...hireAt(id, 'Ranged', pay), hours });
          return problems.filter(({ code }) => code === 'pay_outside_range');
        };
        const cent = (amount: string, by: number) => (Number(amount) + by / 100).toFixed(2);
        expect(await codes(bounds.least)).toEqual([]);
        expect(await codes(bounds.most)).toEqual([]);
        const [below] = await codes(cent(bounds.least, -1));
        expect(below?.params).toMatchObject({ minimum: bounds.least, maximum: bounds.most, basis: 'month' });
        expect((await codes(cent(bounds.most, 1))).length).toBe(1);
      }
    },
  );

  test('an amount has no more places than its currency', async () => {
    const { id } = await placeWithRange();
    const { problems } = await preview(
      admin,
      'hire',
      hireAt(id, 'Fine', [{ amount: '3000.125', currency: 'EUR', basis: 'month', rate: 'full_time' }]),
    );
    expect(problems).toMatchObject([{ code: 'amount_too_fine', params: { currency: 'EUR', places: 2 } }]);
  });
});

describe('what is left out', () => {
  test('is still needed, and the other checks stay', async () => {
    const positionId = await vacantPosition(running, admin);
    // a job that says no worker type, in a unit that says none either
    const owner = await running.owner.connect();
    await owner.query('set session_replication_role = replica');
    await many(
      owner,
      sql`update job_version j set worker_type_id = null where j.job_id =
        (select job_id from position_version where position_id = ${positionId} and superseded_by is null limit 1)`,
    );
    await owner.query('set session_replication_role = origin');
    owner.release();
    const input = {
      ...hireAt(positionId, 'Untyped', [{ amount: '-5' }]),
      firstDay: '2029-12-01',
    } as unknown as HireInput;
    const { problems } = await preview(admin, 'hire', input);
    const codes = problems.map(({ code, field }) => [code, field]);
    expect(codes).toEqual(
      expect.arrayContaining([
        ['value_missing', 'workerTypeId'],
        ['first_day_far', 'firstDay'],
        ['pay_not_positive', 'amount'],
      ]),
    );
    const refused = await admin.refusal(endpoints.move, { body: { kind: 'hire', input } });
    expect(refused.codes).toContain('value_missing');
  });
});

describe('what a position requires', () => {
  const asking = () =>
    one<{ id: number; certificate: number }>(
      running.owner,
      sql`select o.position_id as id, r.certificate_ids[1] as certificate
        from position_version o join job_requirement_version r on r.job_id = o.job_id and r.superseded_by is null
          and r.certificate_ids is not null and r.needed = 'required'
        join position_limits_version l on l.position_id = o.position_id and l.superseded_by is null and l.places is null and l.fte is null
        where o.superseded_by is null and o.standing = 'in_force' and o.valid_until = 'infinity' limit 1`,
    ).catch(() =>
      one<{ id: number; certificate: number }>(
        running.owner,
        sql`select o.position_id as id, r.certificate_ids[1] as certificate
          from position_version o join job_requirement_version r on r.job_id = o.job_id and r.superseded_by is null
            and r.certificate_ids is not null and r.needed = 'required'
          where o.superseded_by is null and o.standing = 'in_force' and o.valid_until = 'infinity' limit 1`,
      ),
    );

  test('is said before a transfer where it is missing, told before a hire, and to nobody who may not see certificates', async () => {
    const { id } = await asking();
    const mover = await one<{ id: number }>(
      running.owner,
      sql`select e.person_id as id from employment_version e
        join placement_version p on p.employment_id = e.employment_id and p.superseded_by is null and p.valid_until = 'infinity' and p.kind = 'primary'
        where e.superseded_by is null and e.valid_until = 'infinity' and p.position_id <> ${id}
          and not exists (select from held_certificate_version h where h.person_id = e.person_id and h.superseded_by is null)
        order by e.person_id limit 1`,
    );
    const input = { personId: mover.id, positionId: id, firstDay: '2027-02-01' };
    const { problems } = await preview(admin, 'transfer', input);
    const said = problems.find(({ code }) => code === 'requirement_missing');
    expect(said).toMatchObject({ severity: 'warning', params: { day: '2027-02-01' } });
    const hired = await preview(admin, 'hire', hireAt(id, 'Unlicensed', []));
    expect(hired.problems.find(({ code }) => code === 'requirement_unrecorded')?.severity).toBe('note');
    const [specialist] = presets.specialist(0);
    const blind = await asAccount(running, 'blind@own.example', [
      {
        ...specialist!,
        scope: { type: 'all' },
        sections: { ...specialist!.sections, held_certificate: 'none' },
      },
    ]);
    const unsaid = await preview(blind, 'transfer', input);
    expect(unsaid.problems.map(({ code }) => code)).not.toContain('requirement_missing');
  });
});
