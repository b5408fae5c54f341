// Movements over HTTP with what their tests ask again and again: who moves, undoes, makes units and positions, counts by SQL.
import { type Day, endpoints } from '@gremium/contract';
import { type Client, type Running, asDemo, many, newcomer, one, sql, startServer } from './harness';

/** The demo's day. */
export const TODAY = '2026-11-23' as Day;

/** Undoes an entry with all that rests on it. */
export const undoBy = async (client: Client, number: number) => {
  const params = { number };
  const { entries } = await client.patiently(endpoints.planUndo, { params });
  return client.call(endpoints.undo, { params, body: { plan: entries.map((entry) => entry.number) } });
};

/** A server over the demo with an administrator, and ways to carry movements out. */
export const startMoving = async () => {
  const running: Running = await startServer('demo');
  const admin: Client = await asDemo(running.address, 'admin');
  const { rows } = await admin.call(endpoints.records, {
    params: { kind: 'list_entry' },
    query: { limit: 1000 },
  });
  const entries: Record<string, number> = {};
  for (const { thing, values } of rows) entries[String(values['code'])] = thing;

  const move = (kind: string, input: object, more: object = {}, client = admin) =>
    client.call(endpoints.move, { body: { kind, input, ...more } as never });
  const refused = (kind: string, input: object, more: object = {}, client = admin) =>
    client.refusal(endpoints.move, { body: { kind, input, ...more } as never });
  const undo = (number: number) => undoBy(admin, number);
  const unitNamed = async (name: string): Promise<number> =>
    (
      await one<{ id: number }>(
        running.owner,
        sql`select unit_id as id from unit_version where superseded_by is null and name = ${name} and valid_until = 'infinity' limit 1`,
      )
    ).id;
  const jobCoded = async (code: string): Promise<number> =>
    (
      await one<{ id: number }>(
        running.owner,
        sql`select job_id as id from job_version where superseded_by is null and code = ${code} limit 1`,
      )
    ).id;
  /** Values of what a position or unit is believed to be on a day. */
  const standing = (positionId: number, on: string) =>
    one<{ standing: string; reportsTo: number | null; unit: number }>(
      running.owner,
      sql`select standing, reports_to_id as "reportsTo", unit_id as unit from position_version
        where position_id = ${positionId} and superseded_by is null and valid_from <= ${on}::date and ${on}::date < valid_until`,
    );
  /** Ids of units that are a unit or below it, by a walk of its own. */
  const branchOf = async (unitId: number, on: string): Promise<number[]> =>
    (
      await many<{ id: number }>(
        running.owner,
        sql`with recursive b (id) as (
          select ${unitId}::bigint
          union
          select v.unit_id from unit_version v join b on v.parent_id = b.id
          where v.superseded_by is null and v.valid_from <= ${on}::date and ${on}::date < v.valid_until
        ) select id from b order by id`,
      )
    ).map(({ id }) => id);

  const makeUnit = async (name: string, parentId: number, more: object = {}): Promise<number> => {
    const made = await move('new_unit', {
      firstDay: '2026-12-01',
      name,
      kindId: entries['TEAM'],
      parentId,
      ...more,
    });
    return made.unitId as number;
  };
  const makePosition = async (unitId: number, more: object = {}): Promise<number> => {
    const jobId = await jobCoded('ASSIST');
    const made = await move('new_position', { firstDay: '2026-12-01', unitId, jobId, ...more });
    return made.positionId as number;
  };
  const hireInto = async (target: object, family: string, firstDay = '2026-12-01') =>
    move('hire', { person: newcomer(family), firstDay, ...target });

  return {
    running,
    admin,
    entries,
    move,
    refused,
    undo,
    unitNamed,
    jobCoded,
    standing,
    branchOf,
    makeUnit,
    makePosition,
    hireInto,
  };
};

export type Moving = Awaited<ReturnType<typeof startMoving>>;
