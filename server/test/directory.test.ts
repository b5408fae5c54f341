// The directory over columns against one slow SQL query, as every role, on past, present and coming days.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type Day, type PersonLine, type Viewer, endpoints, preset } from '@gremium/contract';
import { type Client, type Running, asDemo, many, sql, startServer } from './harness';
import { type PeopleQuery, people } from './people-by-sql';

let running: Running;
beforeAll(async () => {
  running = await startServer('demo');
});
afterAll(() => running.close());

const TODAY = '2026-11-23' as Day;
const ROLES = ['admin', 'fleet', 'tallinn', 'crew', 'audit'] as const;
const DAYS = ['2019-06-30', '2026-11-23', '2027-03-01'] as Day[];

const viewerOf = async (role: (typeof ROLES)[number]): Promise<Viewer> =>
  (await asDemo(running.address, role)).viewer!;

const branchOf = async (name: string): Promise<number> => {
  const [unit] = await many<{ id: number }>(
    running.owner,
    sql`select unit_id as id from unit_version where superseded_by is null and name = ${name} limit 1`,
  );
  return unit!.id;
};

const same = async (client: Client, viewer: Viewer, on: Day, ask: Partial<PeopleQuery>) => {
  const query = { status: 'any', limit: 1000, offset: 0, ...ask } as const;
  const { itself, ...rest } = query;
  const found = await client.call(endpoints.people, {
    query: { ...rest, on, ...(itself ? { itself: 'yes' as const } : {}) },
  });
  const rows = await many<PersonLine & { total: number }>(
    running.pool,
    people({ ...viewer, catalogue: preset, holds: [] }, query, { on, by: null, today: TODAY }),
  );
  const bare = rows.map(({ total: _, ...line }) => line);
  const inOrder = (lines: readonly PersonLine[]) => [...lines].sort((a, b) => a.id - b.id);
  expect([on, ask, inOrder(found.people)]).toEqual([on, ask, inOrder(bare)]);
  // past the last page SQL has no row to count on
  if (rows[0]) expect(found.total).toBe(rows[0].total);
  // the order may differ only where names are the same
  expect(found.people.map(({ sort }) => sort)).toEqual(bare.map(({ sort }) => sort));
  return found.total;
};

describe('the directory', () => {
  test('the people behind a figure of the outline are exactly that many, in the branch and in the unit itself', async () => {
    const admin = await asDemo(running.address, 'admin');
    for (const on of DAYS) {
      const { units } = await admin.call(endpoints.outline, { query: { on, levels: 4 } });
      expect(units.length).toBeGreaterThan(10);
      for (const { id, own, branch } of units.slice(0, 40)) {
        const listed = async (more: object) => {
          const query = { on, branch: id, status: 'counted' as const, limit: 1, ...more };
          const { total, notCounted } = await admin.call(endpoints.people, { query });
          return [total, notCounted];
        };
        const whole = branch ?? own;
        expect([on, id, await listed({})]).toEqual([on, id, [whole.people, whole.notCounted]]);
        expect([on, id, await listed({ itself: 'yes' })]).toEqual([on, id, [own.people, own.notCounted]]);
      }
    }
  });

  test.each(ROLES)('shows %s whom SQL shows, with the same place, status and order', async (role) => {
    const [client, viewer] = [await asDemo(running.address, role), await viewerOf(role)];
    for (const on of DAYS)
      for (const status of ['here', 'counted', 'coming', 'left'] as const)
        for (const offset of [0, 700]) await same(client, viewer, on, { status, offset, limit: 300 });
    expect(await same(client, viewer, TODAY, { limit: 5 })).toBeGreaterThan(0);
  });

  test('finds by any name, accents aside, by number and by email, narrowed to a branch and a place', async () => {
    const [client, viewer] = [await asDemo(running.address, 'admin'), await viewerOf('admin')];
    const branch = await branchOf('Fleet');
    const [place] = await many<{ id: number }>(
      running.owner,
      sql`select min(location_id) as id from location_version`,
    );
    const someone = (await client.call(endpoints.people, { query: { limit: 1, offset: 40 } })).people[0]!;
    const texts = [
      'kinnunen',
      'Jukka Ki',
      'ö',
      someone.number,
      '@vessmar',
      `${someone.sort.split(' ')[0]}@`,
      '.example',
      'nobody at all',
    ];
    for (const search of texts) await same(client, viewer, TODAY, { search, limit: 200 });
    expect(await same(client, viewer, TODAY, { search: someone.number, status: 'here' })).toBe(1);
    const inFleet = await same(client, viewer, TODAY, { branch, status: 'here', limit: 200 });
    expect(inFleet).toBeGreaterThan(100);
    await same(client, viewer, TODAY, { branch, itself: true, status: 'here', limit: 200 });
    await same(client, viewer, TODAY, { location: place!.id, status: 'here', limit: 200 });
    expect(
      await same(client, viewer, TODAY, { branch, search: 'jukka', status: 'here', limit: 200 }),
    ).toBeLessThan(inFleet);
  });
});
