// The register kept in memory equals a load from SQL after every act, whichever of two servers wrote it.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type Day, endpoints, preset, presetNames } from '@gremium/contract';
import { canonicalJson } from '@gremium/core';
import { Catalogues, RegisterMemory } from '@gremium/server';
import { type Client, type Running, asDemo, newcomer, startServer, vacantPosition } from './harness';

let one: Running;
let two: Running;
let clients: [Client, Client];
beforeAll(async () => {
  one = await startServer('demo');
  two = await startServer('demo', { url: one.url });
  clients = [await asDemo(one.address, 'admin'), await asDemo(two.address, 'admin')];
});
afterAll(async () => {
  await two.close();
  await one.close();
});

/** Every row of a register, as one sorted text for each. */
const rowsOf = async (memory: RegisterMemory): Promise<string[]> => {
  const { columns } = (await memory.known(null)).facts;
  return presetNames
    .filter((name) => !preset.section(name).rare)
    .flatMap((section) =>
      [...columns.all(section)].map(({ values, ...row }) => JSON.stringify(row) + canonicalJson(values)),
    )
    .sort();
};

const query = { on: '2027-03-01' as Day };
const crossQuery = { ...query, measure: 'headcount', by: 'unit', from: '2026-10', until: '2027-03' } as const;

/** What a server's pages show of the register as a whole. */
const shownBy = async (client: Client) => ({
  outline: await client.call(endpoints.outline, { query }),
  people: await client.call(endpoints.people, { query: { ...query, status: 'any', limit: 1000 } }),
  report: await client.call(endpoints.crossTable, { query: crossQuery }),
  found: await client.call(endpoints.find, { query: { ...query, text: 'kept' } }),
});

const sameEverywhere = async (kept: RegisterMemory) => {
  const [mine, fresh] = [
    await rowsOf(kept),
    await rowsOf(new RegisterMemory({ asking: one.pool, loading: one.pool }, new Catalogues())),
  ];
  expect(mine.length).toBeGreaterThan(10_000);
  expect(mine.filter((row, i) => row !== fresh[i])).toEqual([]);
  expect(mine.length).toBe(fresh.length);
  expect(await shownBy(clients[1])).toEqual(await shownBy(clients[0]));
};

describe('the register in memory', () => {
  test('equals a load from SQL after hires, transfers, edits, corrections, undo and undo of undo, through two servers', async () => {
    const kept = new RegisterMemory({ asking: one.pool, loading: one.pool }, new Catalogues());
    await sameEverywhere(kept);
    const undo = async (client: Client, number: number) => {
      const plan = await client.patiently(endpoints.planUndo, { params: { number } });
      const body = { plan: plan.entries.map((entry) => entry.number) };
      return (await client.call(endpoints.undo, { params: { number }, body })).entry!;
    };
    for (const [round, [a, b]] of [clients, [clients[1], clients[0]]].entries()) {
      const from = await vacantPosition(one, clients[0], '%Vess%');
      const input = {
        person: newcomer(`Kept${round}`),
        positionId: from,
        firstDay: '2026-12-01' as Day,
        pay: [],
        reasonId: null,
      };
      const hired = await a!.call(endpoints.move, { body: { kind: 'hire', input } });
      await sameEverywhere(kept);
      const to = await vacantPosition(one, clients[0], '%Kiel%');
      const move = {
        personId: hired.personId!,
        positionId: to,
        firstDay: '2027-02-01' as Day,
        reasonId: null,
      };
      await b!.call(endpoints.move, {
        body: { kind: 'transfer', input: move, words: { requirement_missing: 'is being trained' } },
      });
      await sameEverywhere(kept);
      const page = await a!.call(endpoints.personRecord, { params: { id: hired.personId! } });
      const name = page.rows.find(({ section }) => section === 'person_name')!;
      const basedOn = page.lastEntries.find(({ section }) => section === 'person_name')!.number;
      await b!.call(endpoints.editRecord, {
        params: { kind: 'person', id: hired.personId!, section: 'person_name' },
        body: { edit: { mode: 'mend', row: name.id, values: { middle: 'Mended' } }, basedOn },
      });
      await sameEverywhere(kept);
      const undone = await undo(a!, hired.entry!);
      await sameEverywhere(kept);
      await undo(b!, undone);
      await sameEverywhere(kept);
    }
  });

  test('is one for readers who ask at once, and shows each their own write', async () => {
    const cache = new RegisterMemory({ asking: one.pool, loading: one.pool }, new Catalogues());
    const wholes = await Promise.all([1, 2, 3, 4, 5].map(() => cache.known(null)));
    expect(new Set(wholes).size).toBe(1);
    const positionId = await vacantPosition(one, clients[0], '%Stockholm%');
    const input = {
      person: newcomer('Ownwrite'),
      positionId,
      firstDay: '2026-12-01' as Day,
      pay: [],
      reasonId: null,
    };
    const { personId } = await clients[1].call(endpoints.move, { body: { kind: 'hire', input } });
    const { columns } = (await cache.known(null)).facts;
    expect(columns.rows('person', personId!)).toHaveLength(1);
    const query = { on: '2026-12-01' as Day };
    for (const client of clients) {
      const { positions } = await client.call(endpoints.positions, { query });
      expect(positions.find(({ id }) => id === positionId)?.holders).toEqual([personId]);
    }
  });
});
