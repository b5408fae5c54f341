// Figures against a slow plain-SQL oracle that knows nothing of core, over the demo and over generated histories.
import { describe, expect, test } from '@jest/globals';
import { type Register, addDays, day, endOfMonth, hundredths, positionState } from '@gremium/core';
import { rollUp } from '../../core/test/roll-up-by-rows';
import {
  type Key,
  byDimension,
  flowsOf,
  headcountAtClose,
  headcountOn,
  monthEnds,
  perPerson,
  turnover,
} from '../../core/test/flows-by-rows';
import { type Dimension, allPresences } from '../../core/test/presence-by-rows';
import type { Day } from '@gremium/contract';
import type { Pool } from 'pg';
import { loadHistory } from '../../demo/load';
import { SEED, makeHistory } from '../../demo/make';
import { randomHistory } from '../../demo/random-history';
import { migrate, ownerPool } from '@gremium/server';
import { copyDatabase, many, sql } from './harness';

const ANCHOR = day('2026-11-23');
const DIMENSIONS: Dimension[] = ['whole', 'unit', 'location', 'legalEntity'];

// Who counts on a day, by the definitions: the main one of the employments of a counted worker type, at its primary placement.
const presentOn = (on: string) => sql`
  select distinct on (e.person_id) e.person_id, e.employment_id, e.legal_entity_id, p.unit_id,
    coalesce(p.location_id, (
      with recursive up (unit_id, parent_id, location_id, n) as (
        select unit_id, parent_id, location_id, 0 from unit_version
        where superseded_by is null and unit_id = p.unit_id and valid_from <= ${on}::date and ${on}::date < valid_until
        union all
        select u.unit_id, u.parent_id, u.location_id, n + 1 from up join unit_version u on u.unit_id = up.parent_id
        where u.superseded_by is null and u.valid_from <= ${on}::date and ${on}::date < u.valid_until
      ) select location_id from up where location_id is not null order by n limit 1)) as location_id,
    (select max(valid_until) from employment_version x where x.employment_id = e.employment_id and x.superseded_by is null) as ends,
    coalesce((w.flags->>'counted')::boolean, true) as counted
  from employment_version e
  join list_entry_version w on w.list_entry_id = e.worker_type_id and w.superseded_by is null
  left join lateral (
    select o.unit_id, o.location_id from placement_version v
    join position_version o on o.position_id = v.position_id and o.superseded_by is null
      and o.valid_from <= ${on}::date and ${on}::date < o.valid_until
    where v.employment_id = e.employment_id and v.kind = 'primary' and v.superseded_by is null
      and v.valid_from <= ${on}::date and ${on}::date < v.valid_until) p on true
  where e.superseded_by is null and e.valid_from <= ${on}::date and ${on}::date < e.valid_until
  order by e.person_id, not coalesce((w.flags->>'counted')::boolean, true), not e.marked_main,
    (select min(valid_from) from employment_version x where x.employment_id = e.employment_id and x.superseded_by is null),
    e.employment_id`;

type Present = {
  person_id: number;
  unit_id: number;
  location_id: number;
  legal_entity_id: number;
  employment_id: number;
};
const COLUMNS = {
  whole: null,
  unit: 'unit_id',
  location: 'location_id',
  legalEntity: 'legal_entity_id',
} as const;
const keyOf = (row: Present, by: keyof typeof COLUMNS): Key => {
  const column = COLUMNS[by];
  return column === null ? 0 : row[column];
};

const countsOf = (rows: Present[], by: keyof typeof COLUMNS): Record<string, number> => {
  const counts: Record<string, number> = {};
  for (const row of rows) counts[String(keyOf(row, by))] = (counts[String(keyOf(row, by))] ?? 0) + 1;
  return counts;
};
const asRecord = (counts: Map<Key, number>) =>
  Object.fromEntries([...counts].filter(([, n]) => n > 0).map(([key, n]) => [String(key), n]));

// At the close of a day whoever has it as last day is gone, unless another employment continues or runs on.
const presentAtClose = (on: string) => sql`
  select here.* from (${presentOn(on)}) here
  where counted and (ends <> ${on}::date + 1
    or exists (select from employment_version n where n.superseded_by is null and n.continues_id = here.employment_id)
    or exists (select from employment_version n
      join list_entry_version w on w.list_entry_id = n.worker_type_id and w.superseded_by is null
      where n.superseded_by is null and n.person_id = here.person_id
        and coalesce((w.flags->>'counted')::boolean, true)
        and n.valid_from <= ${on}::date and n.valid_until > ${on}::date + 1))`;

const compareDays = async (pool: Pool, register: Register, days: Day[]) => {
  const presences = allPresences(register);
  for (const on of days) {
    const here = (await many<Present & { counted: boolean }>(pool, presentOn(on))).filter(
      ({ counted }) => counted,
    );
    const close = await many<Present>(pool, presentAtClose(on));
    for (const by of DIMENSIONS as (keyof typeof COLUMNS)[]) {
      expect([on, by, asRecord(headcountOn(presences, on, byDimension(by)))]).toEqual([
        on,
        by,
        countsOf(here, by),
      ]);
      expect([on, by, asRecord(headcountAtClose(register, presences, on, byDimension(by)))]).toEqual([
        on,
        by,
        countsOf(close, by),
      ]);
    }
  }
};

const compareRollUp = async (pool: Pool, register: Register, on: Day) => {
  const figures = rollUp(register, on);
  const rows = await many<{ unit: number; fte: string; others: string; at_work: string; placed: number }>(
    pool,
    sql`with recursive below (root, unit_id) as (
        select unit_id, unit_id from unit_version where superseded_by is null and valid_from <= ${on}::date and ${on}::date < valid_until
        union all
        select b.root, u.unit_id from below b join unit_version u on u.parent_id = b.unit_id
        where u.superseded_by is null and u.valid_from <= ${on}::date and ${on}::date < u.valid_until)
      select b.root as unit, count(p.id)::int as placed,
        coalesce(sum((p.hours - p.lent_hours)::numeric / p.full_time) filter (where p.counts), 0) as fte,
        coalesce(sum((p.hours - p.lent_hours)::numeric / p.full_time) filter (where not p.counts), 0) as others,
        coalesce(sum((p.hours - p.lent_hours - p.away_hours)::numeric / p.full_time) filter (where p.counts), 0) as at_work
      from below b
      left join position_version o on o.unit_id = b.unit_id and o.superseded_by is null and o.valid_from <= ${on}::date and ${on}::date < o.valid_until
      left join (
        select h.*, coalesce((t.flags->>'counted')::boolean, true) as counts from placement_version h
        join lateral (select worker_type_id from employment_version e where e.employment_id = h.employment_id and e.superseded_by is null limit 1) e on true
        join list_entry_version t on t.list_entry_id = e.worker_type_id and t.superseded_by is null
      ) p on p.position_id = o.position_id and p.superseded_by is null and p.valid_from <= ${on}::date and ${on}::date < p.valid_until
      group by b.root`,
  );
  expect(rows.length).toBe(figures.size);
  for (const { unit, fte, others, at_work } of rows) {
    const { branch } = figures.get(unit)!;
    expect([unit, hundredths(branch.fte)]).toEqual([unit, Math.round(Number(fte) * 100 + 1e-6)]);
    expect([unit, hundredths(branch.fteNotCounted)]).toEqual([unit, Math.round(Number(others) * 100 + 1e-6)]);
    expect([unit, hundredths(branch.fteAtWork)]).toEqual([unit, Math.round(Number(at_work) * 100 + 1e-6)]);
  }
  const people = (await many<Present & { counted: boolean }>(pool, presentOn(on))).filter(
    ({ counted }) => counted,
  );
  const own = countsOf(people, 'unit');
  for (const [unit, { own: found }] of figures)
    expect([unit, found.people]).toEqual([unit, own[String(unit)] ?? 0]);
};

// Occupancy without handovers: positions whose holders all count.
const compareOccupancy = async (pool: Pool, register: Register, on: Day) => {
  const rows = await many<{
    id: number;
    holders: number;
    fte: string;
    places: number | null;
    limit: number | null;
  }>(
    pool,
    sql`select l.position_id as id, l.places, l.fte as limit,
        count(p.id) filter (where not (p.backfilled and p.lent_hours + p.away_hours >= p.hours))::int as holders,
        coalesce(sum(case when p.backfilled then p.hours - p.lent_hours - p.away_hours else p.hours end::numeric / p.full_time), 0) as fte
      from position_limits_version l
      left join placement_version p on p.position_id = l.position_id and p.superseded_by is null
        and p.kind in ('primary', 'second', 'temporary') and p.valid_from <= ${on}::date and ${on}::date < p.valid_until
      where l.superseded_by is null and l.handover_days = 0 and l.valid_from <= ${on}::date and ${on}::date < l.valid_until
      group by l.position_id, l.places, l.fte`,
  );
  expect(rows.length).toBeGreaterThan(3);
  for (const { id, holders, fte, places, limit } of rows) {
    const held = Number(fte);
    const isOver = (places !== null && holders > places) || (limit !== null && held > limit / 100 + 1e-9);
    const isFull = (places !== null && holders >= places) || (limit !== null && held >= limit / 100 - 1e-9);
    const expected = isOver
      ? 'over_held'
      : holders === 0
        ? 'vacant'
        : isFull || (places === null && limit === null)
          ? 'filled'
          : 'part_filled';
    expect([id, positionState(register, id, on).occupancy]).toEqual([id, expected]);
  }
};

// opening + joiners + in by move − leavers − out by move = closing, for every month and value.
const checkFlowLaw = (register: Register, first: Day, months: number) => {
  const presences = allPresences(register);
  for (const by of DIMENSIONS) {
    const flows = perPerson(presences).flatMap((own) => flowsOf(register, own, byDimension(by)));
    for (const end of monthEnds(endOfMonth(first), 1).concat(
      monthEnds(addDays(first, months * 30), months),
    )) {
      const start = day(`${end.slice(0, 7)}-01`);
      const opening = headcountAtClose(register, presences, addDays(start, -1), byDimension(by));
      const closing = headcountAtClose(register, presences, end, byDimension(by));
      const inMonth = flows.filter(({ on }) => start <= on && on <= end);
      for (const key of new Set([...opening.keys(), ...closing.keys(), ...inMonth.map((flow) => flow.key)])) {
        const count = (kind: string) =>
          inMonth.filter((flow) => flow.kind === kind && flow.key === key).length;
        const expected =
          (opening.get(key) ?? 0) + count('joiner') + count('in') - count('leaver') - count('out');
        if (expected !== (closing.get(key) ?? 0))
          throw new Error(`${by} ${key} in ${end}: ${expected} is not ${closing.get(key) ?? 0}`);
      }
    }
  }
};

const loaded = async (history: Parameters<typeof loadHistory>[1]): Promise<Pool> => {
  const pool = ownerPool(await copyDatabase('empty'));
  await migrate(pool);
  await loadHistory(pool, history);
  return pool;
};

describe('the demo', () => {
  const history = makeHistory(ANCHOR);
  const { register } = history;

  test('headcount, FTE, roll-ups and occupancy are what plain SQL counts', async () => {
    expect(SEED).toBe(4680);
    const pool = ownerPool(await copyDatabase('demo'));
    await compareDays(pool, register, [day('2018-02-28'), day('2024-12-31'), ANCHOR, day('2027-07-01')]);
    await compareRollUp(pool, register, ANCHOR);
    await compareRollUp(pool, register, day('2027-06-15'));
    await compareOccupancy(pool, register, ANCHOR);
    await pool.end();
  });

  test('turnover is leavers of twelve months by the mean of their closes, as plain SQL counts', async () => {
    const pool = ownerPool(await copyDatabase('demo'));
    const ends = monthEnds(day('2026-10-31'), 12);
    const closes = [];
    for (const end of ends) closes.push((await many(pool, presentAtClose(end))).length);
    const [row] = await many<{ n: number }>(
      pool,
      sql`select count(*)::int as n from (
          select e.employment_id, max(e.valid_until) as ends, min(e.person_id) as person_id, min(e.worker_type_id) as type
          from employment_version e where e.superseded_by is null group by e.employment_id) s
        join list_entry_version w on w.list_entry_id = s.type and w.superseded_by is null
        where coalesce((w.flags->>'counted')::boolean, true) and s.ends > '2025-11-01' and s.ends <= '2026-11-01'
          and not exists (select from employment_version n where n.superseded_by is null and n.continues_id = s.employment_id)
          and not exists (select from employment_version n where n.superseded_by is null and n.person_id = s.person_id
            and n.employment_id <> s.employment_id and n.valid_from < s.ends and n.valid_until > s.ends)`,
    );
    const average = closes.reduce((a, b) => a + b, 0) / 12;
    expect(turnover(register, allPresences(register), { on: day('2026-10-31') })).toEqual({
      leavers: row!.n,
      average,
      rate: row!.n / average,
    });
    expect(row!.n).toBeGreaterThan(50);
    await pool.end();
  });

  test('opening + joiners + in − leavers − out = closing, every month by unit, location and legal entity', () => {
    checkFlowLaw(register, addDays(ANCHOR, -3650), 132);
  });
});

describe('generated histories', () => {
  test.each([1, 2, 3, 4, 5, 6])('history %i: figures are what plain SQL counts', async (seed) => {
    const { history } = randomHistory(seed, 150);
    const pool = await loaded(history);
    await compareDays(
      pool,
      history.register,
      ['2020-02-29', '2020-09-30', '2021-03-31', '2022-01-01', '2022-06-30'].map(day),
    );
    await compareRollUp(pool, history.register, day('2021-05-05'));
    await compareOccupancy(pool, history.register, day('2021-05-05'));
    await pool.end();
  });

  test.each(Array.from({ length: 25 }, (_, i) => 100 + i))('history %i: the law of flows holds', (seed) => {
    checkFlowLaw(randomHistory(seed, 150).history.register, day('2019-08-01'), 46);
  });
});
