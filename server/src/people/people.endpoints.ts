import { type PersonLine, peopleEndpoints } from '@gremium/contract';
import type { FastifyInstance } from 'fastify';
import { many } from '../database/sql';
import { serve } from '../serve';
import type { Server } from '../time/act';
import { look } from '../time/lens';
import { people } from './people.sql';

export const servePeople = (app: FastifyInstance, server: Server): void => {
  const { pool, clock } = server;

  serve(app, server, peopleEndpoints.people, async ({ query, viewer }) => {
    const looking = await look(pool, clock, query);
    const rows = await many<PersonLine & { total: number }>(pool, people(viewer, query, looking));
    if (rows.length > 0 || query.offset === 0) return { people: rows, total: rows[0]?.total ?? 0 };
    const first = { ...query, limit: 1, offset: 0 };
    const [line] = await many<{ total: number }>(pool, people(viewer, first, looking));
    return { people: [], total: line?.total ?? 0 };
  });
};
