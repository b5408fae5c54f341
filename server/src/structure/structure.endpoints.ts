import {
  type FiguresOut,
  type HeadOut,
  type PositionLine,
  type Row,
  type Viewer,
  structureEndpoints,
} from '@gremium/contract';
import {
  type Figures,
  type Register,
  daysVacantSince,
  hundredths,
  inherited,
  leaderOf,
  managerChain,
  managerPosition,
  markOf,
  personOf,
  positionState,
  rollUp,
  toNumber,
  unitChain,
} from '@gremium/core';
import type { FastifyInstance } from 'fastify';
import { reachOf } from '../access/scope.sql';
import { fail } from '../database/failure';
import { many } from '../database/sql';
import type { RegisterCache } from '../measures/register-cache';
import { serve } from '../serve';
import type { Server } from '../time/act';
import { personNames } from '../time/labels';
import { type Looking, look } from '../time/lens';
import { readHistory, readRecord } from '../time/read-record';
import { visibleRows, visibleThings } from '../time/records.sql';
import { type Lead, leaderNames, managersOut } from './managers-out';

const EVERYTHING = { limit: 1_000_000, offset: 0 };
const NAMES = 3;

export const serveStructure = (app: FastifyInstance, server: Server, cache: RegisterCache): void => {
  const { pool, clock } = server;

  serve(app, server, structureEndpoints.outline, async ({ query, viewer }) => {
    const looking = await look(pool, clock, query);
    const { register } = await cache.whole(looking.by);
    const figures = rollUp(register, looking.on);
    const rows = await many<Row<'unit'>>(pool, visibleRows(viewer, 'unit', looking, EVERYTHING));
    const seen = new Set(rows.map(({ thing }) => thing));
    const mayNames = reachOf(viewer, 'person_name', looking.today) !== 'nothing';
    const units = rows.flatMap(({ thing: id, values }) => {
      const found = figures.get(id);
      if (!found) return [];
      const { code, name } = values;
      return [
        {
          id,
          parentId: values.parentId !== null && seen.has(values.parentId) ? values.parentId : null,
          code,
          name,
          head: mayNames ? headOf(register, values.headPositionId, looking) : null,
          own: outward(found.own, viewer, looking),
          branch: outward(found.branch, viewer, looking),
        },
      ];
    });
    const leads = units.flatMap(({ head }) => (head?.personId ? [head as Lead] : []));
    const names = await leaderNames(pool, viewer, register, { leads, looking });
    return { units: units.map((unit) => ({ ...unit, head: unit.head && named(unit.head, names) })) };
  });

  serve(app, server, structureEndpoints.positions, async ({ query, viewer }) => {
    const looking = await look(pool, clock, query);
    const { register } = await cache.whole(looking.by);
    const rows = await many<Row<'position'>>(pool, visibleRows(viewer, 'position', looking, EVERYTHING));
    const mayHolders = reachOf(viewer, 'placement', looking.today) !== 'nothing';
    const lines = rows
      .filter(({ values }) => isAsked(register, values.unitId, query, looking))
      .map((row) => lineOf(register, row, mayHolders, looking))
      .filter(({ mark }) => !query.free || mark === 'vacant' || mark === 'part_filled');
    const first = lines.flatMap(({ holders }) => holders.slice(0, NAMES));
    const names = await personNames(pool, viewer, [...new Set(first)], looking);
    const positions = lines.map((line) => ({
      ...line,
      names: line.holders.slice(0, NAMES).flatMap((id) => names.get(id) ?? []),
    }));
    return { positions };
  });

  serve(app, server, structureEndpoints.positionRecord, async ({ params, query, viewer }) => {
    const looking = await look(pool, clock, query);
    const itself = { field: 'thing', ids: [params.id] } as const;
    const rows = await readHistory(pool, viewer, looking, [
      ['position', itself],
      ['position_limits', itself],
      ['placement', { field: 'positionId', ids: [params.id] }],
    ]);
    if (!rows.some(({ section }) => section === 'position')) fail('record_hidden', { kind: 'position' });
    const employments = rows
      .filter(({ section }) => section === 'placement')
      .map(({ values }) => (values as { employmentId: number }).employmentId);
    rows.push(
      ...(await readHistory(pool, viewer, looking, [
        ['employment', { field: 'thing', ids: [...new Set(employments)] }],
      ])),
    );
    const record = await readRecord(pool, viewer, looking, rows);
    const { register } = await cache.whole(looking.by);
    const isThere = register.at('position', params.id, looking.on) !== undefined;
    const mayNames = reachOf(viewer, 'person_name', looking.today) !== 'nothing';
    const chain = isThere && mayNames ? managerChain(register, params.id, looking.on, 0) : [];
    const below = positionsBelow(register, params.id, looking);
    const seen = new Set(
      (await many<{ id: number }>(pool, visibleThings(viewer, 'position', below, looking))).map(
        ({ id }) => id,
      ),
    );
    return {
      ...record,
      inherited: inheritedOn(register, params.id, looking),
      managers: await managersOut(pool, viewer, register, { chain, looking }),
      below: byTitle(
        register,
        below.filter((id) => seen.has(id)),
        looking,
      ),
    };
  });
};

type Head = Omit<HeadOut, 'name'>;

const headOf = (register: Register, positionId: number | null, { on }: Looking): Head => {
  const none: Head = { positionId, personId: null, state: 'none' };
  if (positionId === null) return none;
  const leader = leaderOf(register, positionId, on);
  if (leader) {
    const isActing = leader.placement.values.kind === 'acting';
    return { positionId, personId: leader.personId, state: isActing ? 'acting' : 'held' };
  }
  const [bridge] = managerChain(register, positionId, on, 0);
  return bridge ? { positionId: bridge.positionId, personId: bridge.personId, state: 'bridged' } : none;
};

const named = (head: Head, names: ReadonlyMap<number, string>): HeadOut => {
  const name = head.personId === null ? undefined : names.get(head.personId);
  return { ...head, personId: name === undefined ? null : head.personId, name: name ?? null };
};

type Asked = { unit?: number | undefined; branch?: number | undefined };

const isAsked = (register: Register, unitId: number, { unit, branch }: Asked, { on }: Looking): boolean => {
  if (unit !== undefined && unitId !== unit) return false;
  return branch === undefined || unitChain(register, unitId, on).includes(branch);
};

const lineOf = (
  register: Register,
  { thing: id, values: { code, title, unitId } }: Row<'position'>,
  mayHolders: boolean,
  { on }: Looking,
): Omit<PositionLine, 'names'> => {
  const state = positionState(register, id, on);
  const limits = register.at('position_limits', id, on);
  return {
    id,
    code,
    title,
    unitId,
    mark: markOf(register, id, on) ?? 'closed',
    held: hundredths(state.held),
    limit: limits?.fte ?? null,
    places: limits?.places ?? null,
    freePlaces: state.freePlaces,
    freeFte: state.freeFte && hundredths(state.freeFte),
    vacantSince: daysVacantSince(register, id, on),
    holders: mayHolders ? state.holders.flatMap(({ values }) => personOf(register, values, on) ?? []) : [],
  };
};

const positionsBelow = (register: Register, positionId: number, { on }: Looking): number[] =>
  [...register.allOn('position', on)]
    .filter(({ values }) => values.standing !== 'closed')
    .map(({ thing }) => thing)
    .filter((id) => id !== positionId && managerPosition(register, id, on) === positionId);

const inheritedOn = (register: Register, id: number, { on }: Looking) => {
  const position = register.at('position', id, on);
  const value = (field: 'locationId' | 'costCentreId' | 'legalEntityId') =>
    position ? inherited(register, position, field, on).value : null;
  return {
    locationId: value('locationId'),
    costCentreId: value('costCentreId'),
    legalEntityId: value('legalEntityId'),
  };
};

const byTitle = (register: Register, ids: readonly number[], { on }: Looking) => {
  const counts = new Map<string, number>();
  for (const id of ids) {
    const title = register.at('position', id, on)?.title ?? '';
    counts.set(title, (counts.get(title) ?? 0) + 1);
  }
  return [...counts].map(([title, count]) => ({ title, count })).sort((a, b) => b.count - a.count);
};

const outward = (figures: Figures, viewer: Viewer, { today }: Looking): FiguresOut => {
  const { people, notCounted, marks, freePlaces, depth, managers, reports, cost } = figures;
  return {
    people,
    notCounted,
    marks,
    freePlaces,
    depth,
    fte: hundredths(figures.fte),
    fteAtWork: hundredths(figures.fteAtWork),
    freeFte: hundredths(figures.freeFte),
    span: managers === 0 ? null : reports / managers,
    cost:
      reachOf(viewer, 'pay', today) === 'nothing'
        ? null
        : Object.fromEntries([...cost].map(([currency, amount]) => [currency, Math.round(toNumber(amount))])),
  };
};
