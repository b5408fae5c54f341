import { calendarEndpoints } from '@gremium/contract';
import { BEGINNING, Draft } from '@gremium/core';
import type { FastifyInstance } from 'fastify';
import { serve } from '../serve';
import { type Server, act } from '../time/act';
import { idempotencyOf } from '../time/idempotency';
import { labelled } from '../time/labels';
import { look } from '../time/lens';
import { readCalendar } from './read-calendar';

type Counted = { recorded: number; known: number };

/** Public holidays: several recorded at once, and read from calendar files. */
export const serveCalendar = (app: FastifyInstance, server: Server): void => {
  const { pool, clock } = server;

  serve(app, server, calendarEndpoints.readCalendar, async ({ body }) => readCalendar(body.text, body));

  serve(app, server, calendarEndpoints.recordHolidays, async ({ body, viewer, request }) => {
    const { holidays, reason, preview, words } = body;
    const acted = await act<Counted>(server, viewer, {
      kind: 'create',
      reason,
      preview,
      words,
      locks: [],
      // two at once would each miss what the other records
      alone: !preview,
      newIds: 2 * holidays.length + 50,
      idempotency: idempotencyOf(request, preview),
      decide: async ({ near, newId, entry, rests }) => {
        rests();
        await near.loadAll(['holiday', 'location']);
        const register = await near.load([]);
        const keyOf = ({ day, locationId }: (typeof holidays)[number]) => `${day} ${locationId}`;
        const there = new Set([...register.all('holiday')].map(({ values }) => keyOf(values)));
        const draft = new Draft(register, newId, entry);
        const counted: Counted = { recorded: 0, known: 0 };
        for (const one of holidays) {
          if (there.has(keyOf(one))) counted.known++;
          else {
            there.add(keyOf(one));
            counted.recorded++;
            draft.create('holiday', BEGINNING, one);
          }
        }
        const { change, problems } = draft;
        draft.discard();
        return { change, problems, result: counted };
      },
    });
    return {
      entry: acted.entry,
      touched: acted.touched,
      ...acted.result,
      problems: await labelled(pool, viewer, acted.problems, await look(pool, clock, {})),
    };
  });
};
