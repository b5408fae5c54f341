// What must hold whatever happens: races for the last place, two at once on the same section, and a killed server.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type HireInput, endpoints } from '@gremium/contract';
import { ownerPool, verifyJournal } from '@gremium/server';
import {
  type Client,
  type Running,
  asDemo,
  copyDatabase,
  many,
  newcomer,
  signIn,
  spawnServer,
  sql,
  startServer,
  vacantPosition,
} from './harness';
import { makeLike, raceFor } from './races';

describe('races', () => {
  let running: Running;
  let admin: Client;
  beforeAll(async () => {
    running = await startServer('demo');
    admin = await asDemo(running.address, 'admin');
  });
  afterAll(() => running.close());

  const makePositions = async (n: number): Promise<number[]> => {
    const like = await vacantPosition(running, admin);
    const made: number[] = [];
    for (let i = 0; i < n; i++) made.push(await makeLike(admin, like, `RACE-${i}`));
    return made;
  };

  test('200 races of 8 for the last place: one hire each, the others are told who took it', async () => {
    const positions = await makePositions(200);
    for (const [n, positionId] of positions.entries()) {
      expect(await raceFor(admin, positionId, n)).toEqual({ won: 1, taken: 7, other: [] });
    }
    const doubled = await many(
      running.owner,
      sql`select position_id from placement_version where superseded_by is null and position_id = any(${positions}::bigint[])
        group by 1 having count(*) <> 1`,
    );
    expect(doubled).toEqual([]);
    expect((await verifyJournal(running.owner)).faults).toEqual([]);
  });

  test('of eight who save the same section at once, one is recorded and seven see the conflict', async () => {
    const [id] = (await makeOne()) as [number];
    const { sections } = await admin.call(endpoints.record, { params: { kind: 'position', id } });
    const { lastEntry } = sections.find(({ name }) => name === 'position')!;
    const results = await Promise.allSettled(
      Array.from({ length: 8 }, (_, i) =>
        admin.call(endpoints.editRecord, {
          params: { kind: 'position', id, section: 'position' },
          body: {
            edit: { mode: 'set', from: '2027-01-01' as never, values: { title: `Title ${i}` } },
            basedOn: lastEntry,
          },
        }),
      ),
    );
    expect(results.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    const reasons = results.flatMap((r) =>
      r.status === 'rejected' ? [(r.reason as { codes: string[] }).codes] : [],
    );
    expect(reasons).toEqual(Array.from({ length: 7 }, () => ['conflict']));
  });
  const makeOne = async () => [await vacantPosition(running, admin)];
});

describe('a killed server', () => {
  test('leaves nothing half and loses nothing it confirmed, 200 writes long', async () => {
    const url = await copyDatabase('demo');
    const owner = ownerPool(url);
    const confirmed: number[] = [];
    let writes = 0;
    for (let round = 0; round < 4; round++) {
      const { kill, address } = await spawnServer(url);
      const clients = await Promise.all(
        Array.from({ length: 4 }, () => signIn(address, 'admin@vessmar.example', 'vessmar-demo-only')),
      );
      const free = await freePositions(owner);
      let isKilled = false;
      const work = clients.map(async (client, k) => {
        for (let i = 0; !isKilled && i < 25; i++) {
          writes++;
          const input = {
            person: newcomer(`Kill${round}x${k}x${i}`),
            positionId: free[k * 25 + i],
            firstDay: '2027-02-01',
          } as HireInput;
          const reply = await client
            .call(endpoints.move, { body: { kind: 'hire', input } })
            .catch(() => null);
          if (reply?.personId) confirmed.push(reply.personId);
          if (writes >= (round + 1) * 50) isKilled = true;
        }
      });
      await new Promise<void>((resolve) => {
        const look = setInterval(() => {
          if (!isKilled && writes < (round + 1) * 50 - 4) return;
          clearInterval(look);
          resolve();
        }, 1);
      });
      await kill();
      isKilled = true;
      await Promise.all(work);
    }
    expect(writes).toBeGreaterThanOrEqual(190);
    const kept = await many<{ id: number; parts: number }>(
      owner,
      sql`select n.person_id as id, (
          (select count(*) from person_version v where v.person_id = n.person_id)
          + (select count(*) from contact_version c where c.person_id = n.person_id)
          + (select count(*) from employment_version e where e.person_id = n.person_id)
          + (select count(*) from placement_version p join employment_version e on e.employment_id = p.employment_id where e.person_id = n.person_id))::int as parts
        from person_name_version n where n.family like 'Kill%'`,
    );
    expect(kept.filter(({ parts }) => parts !== 4)).toEqual([]);
    const ids = new Set(kept.map(({ id }) => id));
    expect(confirmed.filter((id) => !ids.has(id))).toEqual([]);
    expect(confirmed.length).toBeGreaterThan(100);
    expect((await verifyJournal(owner)).faults).toEqual([]);
    await owner.end();
  });

  const freePositions = async (owner: ReturnType<typeof ownerPool>): Promise<number[]> =>
    (
      await many<{ id: number }>(
        owner,
        sql`select o.position_id as id from position_version o
          join position_limits_version l on l.position_id = o.position_id and l.superseded_by is null and l.valid_until = 'infinity' and l.places is null
          where o.superseded_by is null and o.standing = 'in_force' and o.valid_until = 'infinity'`,
      )
    )
      .flatMap(({ id }) => Array.from({ length: 100 }, () => id))
      .slice(0, 100);
});
