// What decisions rest on: what is loaded ahead is a hint, what was forgotten is loaded when it is asked for; and what others
// commit meanwhile matters only where it is of the same things, absence included.
import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals';
import { type Day, type HireInput, endpoints, preset } from '@gremium/contract';
import { counted, transaction, Neighbourhood, hints } from '@gremium/server';
import {
  type Client,
  type Running,
  asDemo,
  many,
  newcomer,
  sql,
  startServer,
  vacantPosition,
} from './harness';
import { makeLike, raceFor, raceForCode, raceForEmail, raceForLimit } from './races';

let running: Running;
let admin: Client;
let like: number;

beforeAll(async () => {
  running = await startServer('demo');
  admin = await asDemo(running.address, 'admin');
  like = await vacantPosition(running, admin);
});
afterEach(() => {
  hints.without = () => false;
});
afterAll(() => running.close());

const idOf = async (query: ReturnType<typeof sql>): Promise<number> => {
  const [found] = await many<{ id: number }>(running.owner, query);
  return found!.id;
};

describe('what is loaded ahead', () => {
  /** Previews of acts of every kind on somebody with a history; each answers with all it said. */
  const acts = async (): Promise<[string, () => Promise<unknown>][]> => {
    const mover = await idOf(sql`select e.person_id as id from employment_version e
      join placement_version p on p.employment_id = e.employment_id and p.superseded_by is null
        and p.kind = 'primary' and p.valid_until = 'infinity'
      where e.superseded_by is null and e.valid_until = 'infinity'
      group by 1 order by count(*) desc, 1 limit 1`);
    const employment = await idOf(sql`select employment_id as id from employment_version
      where person_id = ${mover} and superseded_by is null and valid_until = 'infinity' limit 1`);
    const reason = (act: string) =>
      idOf(sql`select list_entry_id as id from list_entry_version
      where list = 'reason' and flags -> 'acts' ? ${act} order by 1 limit 1`);
    const [moving, leaving] = [await reason('transfer'), await reason('leave')];
    const unit = await idOf(sql`select unit_id as id from unit_version u where superseded_by is null
      and valid_until = 'infinity' and not exists (select from unit_version b where b.parent_id = u.unit_id) order by 1 limit 1`);
    const root = await idOf(
      sql`select unit_id as id from unit_version where superseded_by is null and parent_id is null limit 1`,
    );
    const pay = await idOf(sql`select pay_id as id from pay_version where employment_id = ${employment}
      and superseded_by is null and valid_until = 'infinity' limit 1`);
    const basedOn = 1_000_000_000;
    const preview = true;
    return [
      [
        'hire',
        () => {
          const input = {
            person: { ...newcomer('Hinted'), birthDate: '1990-05-05' },
            positionId: like,
            firstDay: '2027-02-01',
          } as HireInput;
          return admin.call(endpoints.move, { body: { kind: 'hire', input, preview } });
        },
      ],
      [
        'transfer',
        () => {
          const input = {
            personId: mover,
            positionId: like,
            firstDay: '2027-02-01' as Day,
            reasonId: moving,
          };
          return admin.call(endpoints.move, {
            body: { kind: 'transfer', input, preview, words: { requirement_missing: 'is being trained' } },
          });
        },
      ],
      [
        'leave',
        () => {
          const input = { employmentId: employment, lastDay: '2027-02-28' as Day, reasonId: leaving };
          const rest = { mayReturn: true, returnReason: null };
          return admin.call(endpoints.move, {
            body: { kind: 'leave', input: { ...input, ...rest }, preview } as never,
          });
        },
      ],
      [
        'a unit moved',
        () =>
          admin.call(endpoints.editRecord, {
            params: { kind: 'unit', id: unit, section: 'unit' },
            body: {
              basedOn,
              preview,
              edit: { mode: 'set', from: '2027-02-01' as Day, values: { parentId: root } },
            },
          }),
      ],
      [
        'pay changed',
        () =>
          admin.call(endpoints.editRecord, {
            params: { kind: 'pay', id: pay, section: 'pay' },
            body: {
              basedOn,
              preview,
              edit: { mode: 'set', from: '2027-02-01' as Day, values: { amount: '9999' } },
            },
          }),
      ],
      [
        'a limit lowered',
        () =>
          admin.call(endpoints.editRecord, {
            params: { kind: 'position', id: like, section: 'position_limits' },
            body: {
              basedOn,
              preview,
              edit: { mode: 'set', from: '2027-02-01' as Day, values: { handoverDays: 3 } },
            },
          }),
      ],
    ];
  };

  // Ids of what a preview would make, and of the moment, are others each time.
  const plain = (said: unknown): unknown =>
    JSON.parse(
      JSON.stringify(said, (key, value: unknown) =>
        key === 'asOf' || (typeof value === 'number' && value > 90_000) ? 0 : value,
      ),
    );

  test('dropped one by one: the same results by more queries', async () => {
    const all = await acts();
    const asked = new Set<string>();
    const base: unknown[] = [];
    hints.without = (what) => {
      asked.add(what);
      return false;
    };
    for (const [, act] of all) base.push(plain(await act()));
    expect(asked.size).toBeGreaterThan(15);
    let [queries, more] = [0, 0];
    const client = await running.pool.connect();
    const every = Object.getPrototypeOf(client) as typeof client;
    client.release();
    const plainQuery = every.query as (...of: unknown[]) => unknown;
    every.query = function (this: unknown, ...args: unknown[]) {
      queries++;
      return plainQuery.apply(this, args);
    } as never;
    try {
      const counts: number[] = [];
      hints.without = () => false;
      for (const [, act] of all) {
        const before = queries;
        await act();
        counts.push(queries - before);
      }
      for (const dropped of asked)
        for (const [i, [name, act]] of all.entries()) {
          hints.without = (what) => what === dropped;
          const before = queries;
          expect([dropped, name, plain(await act())]).toEqual([dropped, name, base[i]]);
          if (queries - before > counts[i]!) more++;
        }
    } finally {
      every.query = plainQuery as never;
    }
    expect(more).toBeGreaterThan(10);
  });

  test('more than twenty misses are a mistake, and thrown', async () => {
    await transaction(running.pool, async (tx) => {
      const near = new Neighbourhood(tx, preset);
      for (let id = 1; id <= 20; id++) await near.fetch({ section: 'person', field: 'thing', of: id });
      await expect(near.fetch({ section: 'person', field: 'thing', of: 21 })).rejects.toThrow(
        /more than 20 misses/,
      );
    });
  });

  test('is asked for once, and what was never loaded is said to be missing, never empty', async () => {
    await transaction(running.pool, async (tx) => {
      const near = new Neighbourhood(tx, preset);
      expect(() => near.register.rows('position', like)).toThrow(/not loaded: position thing/);
      await near.load([{ kind: 'position', id: like }]);
      expect(near.register.rows('position', like).length).toBeGreaterThan(0);
      expect(() => [...near.register.all('job')]).toThrow(/not loaded: job \* \*/);
      expect(() => near.register.referrers('unit', 'headPositionId', 1)).toThrow(/not loaded/);
      expect(() => near.register.valued('contact', 'value', 'x@y.example')).toThrow(/not loaded/);
    });
  });
});

describe('decisions', () => {
  const ROUNDS = 4;

  test('stand while others write other things: at most 1.1 a hire with 8 at once', async () => {
    const positions: number[] = [];
    for (let i = 0; i < 8 * ROUNDS; i++) positions.push(await makeLike(admin, like, `APART-${i}`));
    const [acts, decisions] = [counted.acts, counted.decisions];
    await Promise.all(
      Array.from({ length: 8 }, async (_, k) => {
        for (let i = 0; i < ROUNDS; i++) {
          const positionId = positions[k * ROUNDS + i]!;
          const input = {
            person: newcomer(`Apart${k}x${i}`),
            positionId,
            firstDay: '2027-01-01',
          } as HireInput;
          await admin.call(endpoints.move, { body: { kind: 'hire', input } });
        }
      }),
    );
    expect(counted.acts - acts).toBe(8 * ROUNDS);
    expect((counted.decisions - decisions) / (8 * ROUNDS)).toBeLessThanOrEqual(1.1);
  });

  test('of one place, one email, one code, one limit do not: one goes through, the others are told', async () => {
    const unit = await idOf(
      sql`select unit_id as id from unit_version where superseded_by is null and parent_id is null limit 1`,
    );
    const kind = await idOf(
      sql`select list_entry_id as id from list_entry_version where list = 'unit_kind' limit 1`,
    );
    for (let n = 0; n < 3; n++) {
      expect(await raceFor(admin, await makeLike(admin, like, `ONE-${n}`), n)).toEqual({
        won: 1,
        taken: 7,
        other: [],
      });
      const positions: number[] = [];
      for (let i = 0; i < 8; i++) positions.push(await makeLike(admin, like, `TWIN-${n}-${i}`));
      expect(await raceForEmail(admin, positions, n)).toEqual({ won: 1, taken: 7, other: [] });
      expect(await raceForCode(admin, unit, kind, n)).toEqual({ won: 1, taken: 7, other: [] });
      const two = await makeLike(admin, like, `TWO-${n}`, 2);
      expect(await raceForLimit(admin, two, n)).toEqual({ won: 1, taken: 1, other: [] });
    }
  });
});
