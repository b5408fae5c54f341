import { type FiguresOut, type Row, type Viewer, structureEndpoints } from '@gremium/contract';
import {
  type Figures,
  daysVacantSince,
  hundredths,
  markOf,
  personOf,
  positionState,
  rollUp,
  toNumber,
} from '@gremium/core';
import type { FastifyInstance } from 'fastify';
import { reachOf } from '../access/scope.sql';
import { many } from '../database/sql';
import type { RegisterCache } from '../measures/register-cache';
import { serve } from '../serve';
import type { Server } from '../time/act';
import { type Looking, look } from '../time/lens';
import { visibleRows } from '../time/records.sql';

const EVERYTHING = { limit: 1_000_000, offset: 0 };

export const serveStructure = (app: FastifyInstance, server: Server, cache: RegisterCache): void => {
  const { pool, clock } = server;

  serve(app, server, structureEndpoints.outline, async ({ query, viewer }) => {
    const looking = await look(pool, clock, query);
    const { register } = await cache.whole(looking.by);
    const figures = rollUp(register, looking.on);
    const rows = await many<Row<'unit'>>(pool, visibleRows(viewer, 'unit', looking, EVERYTHING));
    const seen = new Set(rows.map(({ thing }) => thing));
    const units = rows.flatMap(({ thing: id, values }) => {
      const found = figures.get(id);
      if (!found) return [];
      const parentId = values.parentId !== null && seen.has(values.parentId) ? values.parentId : null;
      const { code, name } = values;
      return [
        {
          id,
          parentId,
          code,
          name,
          own: outward(found.own, viewer, looking),
          branch: outward(found.branch, viewer, looking),
        },
      ];
    });
    return { units };
  });

  serve(app, server, structureEndpoints.positions, async ({ query, viewer }) => {
    const looking = await look(pool, clock, query);
    const { register } = await cache.whole(looking.by);
    const rows = await many<Row<'position'>>(pool, visibleRows(viewer, 'position', looking, EVERYTHING));
    const mayHolders = reachOf(viewer, 'placement', looking.today) !== 'nothing';
    const positions = rows
      .filter(({ values }) => query.unit === undefined || values.unitId === query.unit)
      .map(({ thing: id, values: { code, title, unitId } }) => {
        const state = positionState(register, id, looking.on);
        return {
          id,
          code,
          title,
          unitId,
          mark: markOf(register, id, looking.on) ?? 'closed',
          held: hundredths(state.held),
          freePlaces: state.freePlaces,
          freeFte: state.freeFte && hundredths(state.freeFte),
          vacantSince: daysVacantSince(register, id, looking.on),
          holders: mayHolders
            ? state.holders.flatMap(({ values }) => personOf(register, values, looking.on) ?? [])
            : [],
        };
      })
      .filter(({ mark }) => !query.free || mark === 'vacant' || mark === 'part_filled');
    return { positions };
  });
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
