import { ownFieldName, ownValueEndpoints } from '@gremium/contract';
import type { FastifyInstance } from 'fastify';
import { many, one } from '../database/sql';
import { serve } from '../serve';
import type { Server } from '../time/act';
import { look } from '../time/lens';
import { ownValueCounts, peopleWithout } from './own-values.sql';

/** What own fields hold. */
export const serveOwnValues = (app: FastifyInstance, server: Server): void => {
  const { pool, clock, catalogues } = server;
  serve(app, server, ownValueEndpoints.ownValues, async ({ query }) => {
    const { on } = await look(pool, clock, query);
    const counts = await many<{ field: string; values: number }>(pool, ownValueCounts(on));
    const { sections, fields } = catalogues.definitions;
    const found = await Promise.all(
      fields.map(async ({ id, values: { sectionId, required } }) => {
        const field = ownFieldName(id);
        const values = counts.find((one) => one.field === field)?.values ?? 0;
        const of = sections.find((section) => section.id === sectionId)?.values.of;
        const { count } =
          required && of === 'person'
            ? await one<{ count: number }>(pool, peopleWithout(sectionId, field, on))
            : { count: 0 };
        return { field, values, missing: count };
      }),
    );
    return { fields: found };
  });
};
