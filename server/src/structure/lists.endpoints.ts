import { type SectionName, type UsedIn, type Uses, listEndpoints } from '@gremium/contract';
import { Draft, type Use, replaceUses } from '@gremium/core';
import type { FastifyInstance } from 'fastify';
import { fail } from '../database/failure';
import { many } from '../database/sql';
import { serve } from '../serve';
import { type Server, act } from '../time/act';
import { idempotencyOf } from '../time/idempotency';
import { labelled } from '../time/labels';
import { look } from '../time/lens';
import * as queries from './lists.sql';

/** Lists that forms pick from: what they are used for; one entry in place of another. */
export const serveLists = (app: FastifyInstance, server: Server): void => {
  const { pool, clock } = server;

  serve(app, server, listEndpoints.uses, async ({ params, viewer }) => ({
    uses: await many<Uses>(pool, queries.usesOf(viewer, params.kind, await look(pool, clock, {}))),
  }));

  serve(app, server, listEndpoints.usedIn, async ({ params, viewer }) => ({
    places: await many<UsedIn>(pool, queries.usedIn(viewer, params, await look(pool, clock, {}))),
  }));

  serve(app, server, listEndpoints.orderEntries, async ({ body, viewer, request }) => {
    const { ids, reason, preview, words } = body;
    const acted = await act<undefined>(server, viewer, {
      kind: 'mend',
      reason,
      preview,
      words,
      locks: ids,
      newIds: 3 * ids.length + 50,
      idempotency: idempotencyOf(request, preview),
      decide: async ({ near, newId, entry }) => {
        await near.loadAll(['list_entry']);
        const register = await near.load([]);
        const [first] = register.rows('list_entry', ids[0] ?? 0);
        const draft = new Draft(register, newId, entry);
        ids.forEach((id, i) => {
          const rows = register.rows('list_entry', id);
          if (rows.length === 0) fail('thing_unknown', {}, `ids.${i}`);
          mustBeAlike(first, rows[0]);
          const place = (i + 1) * STEP;
          for (const { from, until, values } of rows)
            if (values.place !== place) draft.set('list_entry', id, { from, until, values: { place } });
        });
        const { change, problems } = draft;
        draft.discard();
        return { change, problems, result: undefined };
      },
    });
    const { entry, touched } = acted;
    const problems = await labelled(pool, viewer, acted.problems, await look(pool, clock, {}));
    return { entry, touched, problems };
  });

  serve(app, server, listEndpoints.replaceUses, async ({ body, viewer, request }) => {
    const { kind, from, to, day, reason, preview, words } = body;
    if (from === to) fail('nothing_changed', {}, 'to');
    const looking = await look(pool, clock, {});
    const places = await many<UsedIn>(pool, queries.usedIn(viewer, { kind, id: from }, looking));
    const uses = places.reduce((sum, { rows }) => sum + rows, 0);
    const acted = await act<number>(server, viewer, {
      kind: day === null ? 'merge' : 'replace',
      reason,
      preview,
      words,
      locks: [from, to],
      alone: !preview,
      // each row in two parts at most, and what is named meanwhile
      newIds: 2 * uses + 250,
      idempotency: idempotencyOf(request, preview),
      decide: async ({ near, newId, entry, today, catalogue, rests }) => {
        const register = await near.load([
          { kind, id: from },
          { kind, id: to },
        ]);
        for (const [field, id] of [
          ['from', from],
          ['to', to],
        ] as const)
          if (register.rows(kind as SectionName, id).length === 0) fail('thing_unknown', {}, field);
        mustBeAlike(register.rows('list_entry', from)[0], register.rows('list_entry', to)[0]);
        rests();
        const found: Use[] = [];
        for (const { section, reference } of queries.namingsOf({ catalogue }, kind)) {
          const name = section.name as SectionName;
          await near.loadNaming(name, reference.field, [from]);
          for (const row of register.referrers(name, reference.field as never, from))
            found.push({ row, field: reference.field });
        }
        const draft = new Draft(register, newId, entry);
        const moved = replaceUses(draft, found, { kind, from, to, day, today });
        const { change, problems } = draft;
        draft.discard();
        return { change, problems, result: moved, isOfAll: true };
      },
    });
    return {
      entry: acted.entry,
      touched: acted.touched,
      rows: acted.result,
      problems: await labelled(pool, viewer, acted.problems, looking),
    };
  });
};

// Room between two for those to come.
const STEP = 10;

type Entry = { values: { list: string; ownFieldId: number | null } } | undefined;

const mustBeAlike = (from: Entry, to: Entry): void => {
  if (from?.values.list !== to?.values.list || from?.values.ownFieldId !== to?.values.ownFieldId)
    fail('list_wrong', {}, 'to');
};
