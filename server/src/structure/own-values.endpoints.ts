import { ownFieldName, ownValueEndpoints } from '@gremium/contract';
import type { FastifyInstance } from 'fastify';
import { type Sql, one } from '../database/sql';
import { serve } from '../serve';
import type { Server } from '../time/act';
import { look } from '../time/lens';
import { ownValueCounts, peopleWithout, saidTwice } from './own-values.sql';

/** What own fields hold. */
export const serveOwnValues = (app: FastifyInstance, server: Server): void => {
  const { pool, clock, catalogues } = server;
  serve(app, server, ownValueEndpoints.ownValues, async ({ query }) => {
    const { on } = await look(pool, clock, query);
    const { sections, fields } = catalogues.definitions;
    const counts = new Map<string, number>();
    // section by section: nothing waits for a walk over all rows there are
    for (const { id } of sections) {
      const names = fields.filter(({ values }) => values.sectionId === id).map((one) => ownFieldName(one.id));
      if (names.length === 0) continue;
      const found = await one<Record<string, number>>(pool, ownValueCounts(id, names, on));
      for (const [name, count] of Object.entries(found)) counts.set(name, count);
    }
    const countOf = async (asked: Sql | null): Promise<number> =>
      asked ? (await one<{ count: number }>(pool, asked)).count : 0;
    const twiceOf = async (...asked: Parameters<typeof saidTwice>) => {
      const { count, alike } = await one<{ count: number; alike: string[] }>(pool, saidTwice(...asked));
      return { twice: count, alike };
    };
    const found = [];
    for (const { id, values } of fields) {
      const { sectionId, required, unique, retired } = values;
      const field = ownFieldName(id);
      const of = sections.find((section) => section.id === sectionId)?.values.of;
      const isMissed = required && !retired && of === 'person';
      found.push({
        field,
        values: counts.get(field) ?? 0,
        missing: await countOf(isMissed ? peopleWithout(sectionId, field, on) : null),
        ...(unique && !retired ? await twiceOf(sectionId, field, on) : { twice: 0, alike: [] }),
      });
    }
    return { fields: found };
  });
};
