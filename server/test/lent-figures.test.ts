// What a transfer for a time does to the figures, on each boundary and the days around it: by hand, by SQL, and as pages say it.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type Day, endpoints } from '@gremium/contract';
import { one, sql } from './harness';
import { type Moving, startMoving } from './moving';

let { running, admin, move, undo, unitNamed, makeUnit, makePosition, hireInto } = {} as Moving;
let [oldUnit, newUnit, oldPlace, newPlace] = [0, 0, 0, 0];
beforeAll(async () => {
  ({ running, admin, move, undo, unitNamed, makeUnit, makePosition, hireInto } = await startMoving());
  const top = await unitNamed('Tallinn Harbour');
  oldUnit = await makeUnit('Lending', top);
  newUnit = await makeUnit('Borrowing', top);
  oldPlace = await makePosition(oldUnit, { places: 2, fte: 170 });
  newPlace = await makePosition(newUnit);
});
afterAll(() => running.close());

const figuresOn = async (on: string, unit: number) => {
  const { units } = await admin.call(endpoints.outline, { query: { on: on as Day } });
  const { own } = units.find(({ id }) => id === unit)!;
  return { people: own.people, fte: own.fte, atWork: own.fteAtWork, freeFte: own.freeFte };
};
// People by their primary placement, shares by every placement: what is lent counts where it is worked.
const bySql = async (on: string, unit: number) => {
  const { people, fte } = await one<{ people: number; fte: number }>(
    running.owner,
    sql`select count(*) filter (where p.kind = 'primary')::int as people,
        coalesce(round(sum((p.hours - p.lent_hours)::numeric / p.full_time) * 100), 0)::int as fte
      from placement_version p
      join position_version o on o.position_id = p.position_id and o.superseded_by is null
        and o.valid_from <= ${on}::date and ${on}::date < o.valid_until
      where p.superseded_by is null and o.unit_id = ${unit} and p.valid_from <= ${on}::date and ${on}::date < p.valid_until`,
  );
  return { people, fte };
};
const cellsOf = async (measure: 'headcount' | 'fte', unit: number) => {
  const query = { measure, by: 'unit', from: '2027-03', until: '2027-08', narrow: `unit:${unit}` } as const;
  const { rows } = await admin.call(endpoints.crossTable, { query: { ...query, on: '2027-09-30' as Day } });
  return rows.find(({ key }) => key === unit)?.values.map((value) => value ?? 0) ?? [0, 0, 0, 0, 0, 0];
};

describe('0.7 of 1.0 lent from 1 April to 31 July 2027', () => {
  // day → [people, fte] of the lending unit, of the borrowing one
  const expected: Record<string, [[number, number], [number, number]]> = {
    '2027-03-31': [[1, 100], [0, 0]],
    '2027-04-01': [[1, 30], [0, 70]],
    '2027-04-02': [[1, 30], [0, 70]],
    '2027-07-30': [[1, 30], [0, 70]],
    '2027-07-31': [[1, 30], [0, 70]],
    '2027-08-01': [[1, 100], [0, 0]],
    '2027-08-02': [[1, 100], [0, 0]],
  }; // prettier-ignore
  const here = async (days = expected) => {
    for (const [on, both] of Object.entries(days))
      for (const [i, unit] of [oldUnit, newUnit].entries()) {
        const [people, fte] = both[i as 0 | 1];
        expect([on, unit, await bySql(on, unit)]).toEqual([on, unit, { people, fte }]);
        const { people: shown, fte: shownFte } = await figuresOn(on, unit);
        expect([on, unit, shown, shownFte]).toEqual([on, unit, people, fte]);
      }
  };

  test('headcount stays, shares follow; what is free by whether it is backfilled; undone, all as before', async () => {
    const hired = await hireInto({ positionId: oldPlace }, 'Lentout', '2026-12-01');
    const input = {
      personId: hired.personId,
      positionId: newPlace,
      firstDay: '2027-04-01',
      lastDay: '2027-07-31',
    };
    const place = await one<{ hours: number }>(
      running.owner,
      sql`select hours from placement_version where employment_id = ${hired.employmentId as number} and superseded_by is null`,
    );
    const hours = Math.round(place.hours * 0.7);
    for (const [oldPlaceIs, free] of [
      ['kept', 70],
      ['backfilled', 140],
    ] as const) {
      const done = await move('transfer_for_a_time', { ...input, hours, oldPlace: oldPlaceIs });
      await here();
      expect((await figuresOn('2027-04-01', oldUnit)).freeFte).toBe(free);
      expect((await figuresOn('2027-03-31', oldUnit)).freeFte).toBe(70);
      expect((await figuresOn('2027-08-01', oldUnit)).freeFte).toBe(70);
      // at the close of each month, March to August
      expect(await cellsOf('headcount', oldUnit)).toEqual([1, 1, 1, 1, 1, 1]);
      expect(await cellsOf('headcount', newUnit)).toEqual([0, 0, 0, 0, 0, 0]);
      expect(await cellsOf('fte', oldUnit)).toEqual([100, 30, 30, 30, 30, 100]);
      expect(await cellsOf('fte', newUnit)).toEqual([0, 70, 70, 70, 70, 0]);
      await undo(done.entry as number);
      await here({
        '2027-03-31': [[1, 100], [0, 0]],
        '2027-04-01': [[1, 100], [0, 0]],
        '2027-08-01': [[1, 100], [0, 0]],
      }); // prettier-ignore
    }
  });
});

describe('two windows', () => {
  test('turn one movement 200 times: each time one turns it, and the other is told', async () => {
    const positionId = await makePosition(newUnit);
    const person = {
      name: { given: 'Turn', family: 'Often' },
      contacts: [{ kind: 'phone', value: '+372 5550101' }],
    };
    const key = 'turnedbytwo1';
    await move(
      'hire',
      { person, firstDay: '2027-02-01', positionId, pay: [] },
      { conditions: ['One', 'Two'], key },
    );
    const { lines } = await admin.call(endpoints.movementLines, { query: {} });
    const { id } = lines.find((line) => line.key === key)!;
    let { revision } = await admin.call(endpoints.movementSheet, { params: { id } });
    let told = 0;
    for (let round = 0; round < 200; round++) {
      const body = { place: 0, met: round % 2 === 0, revision };
      const both = await Promise.all(
        [0, 1].map(() => admin.send(endpoints.tickCondition, { params: { id }, body })),
      );
      const refused = both.filter(({ ok }) => !ok);
      for (const answer of refused)
        told +=
          ((await answer.json()) as { problems: { code: string }[] }).problems[0]?.code === 'movement_turned'
            ? 1
            : 0;
      expect([round, refused.length]).toEqual([round, 1]);
      revision = (await admin.call(endpoints.movementSheet, { params: { id } })).revision;
    }
    expect(told).toBe(200);
    const acts = await one<{ n: number }>(
      running.owner,
      sql`select count(*)::int as n from movement_act where movement_id = ${id} and act <> 'handed_in'`,
    );
    expect(acts.n).toBe(200);
  }, 240_000);
});
