import { ownFieldName, ownValueEndpoints } from '@gremium/contract';
import type { FastifyInstance } from 'fastify';
import { type Sql, many, one } from '../database/sql';
import { serve } from '../serve';
import type { Server } from '../time/act';
import { look } from '../time/lens';
import { ownValueCounts, peopleWithout, saidTwice } from './own-values.sql';

/** What own fields hold. */
export const serveOwnValues = (app: FastifyInstance, server: Server): void => {
  const { pool, clock, catalogues } = server;
  serve(app, server, ownValueEndpoints.ownValues, async ({ query }) => {
    const { on } = await look(pool, clock, query);
    const counts = await many<{ field: string; values: number }>(pool, ownValueCounts(on));
    const { sections, fields } = catalogues.definitions;
    const countOf = async (asked: Sql | null): Promise<number> =>
      asked ? (await one<{ count: number }>(pool, asked)).count : 0;
    const found = [];
    for (const { id, values } of fields) {
      const { sectionId, required, unique, retired } = values;
      const field = ownFieldName(id);
      const of = sections.find((section) => section.id === sectionId)?.values.of;
      const isMissed = required && !retired && of === 'person';
      found.push({
        field,
        values: counts.find((count) => count.field === field)?.values ?? 0,
        missing: await countOf(isMissed ? peopleWithout(sectionId, field, on) : null),
        twice: await countOf(unique && !retired ? saidTwice(sectionId, field, on) : null),
      });
    }
    return { fields: found };
  });
};
