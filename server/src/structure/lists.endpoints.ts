import { type Kind, type SectionName, type UsedIn, type Uses, listEndpoints } from '@gremium/contract';
import { Draft, type Use, replaceUses } from '@gremium/core';
import type { FastifyInstance } from 'fastify';
import { fail } from '../database/failure';
import { many } from '../database/sql';
import { serve } from '../serve';
import { type Server, act } from '../time/act';
import type { Seer } from '../time/catalogues';
import { idempotencyOf } from '../time/idempotency';
import { labelled } from '../time/labels';
import { look } from '../time/lens';
import * as queries from './lists.sql';

// Fields of other things: what a thing says of itself (the own field of a choice) is not a use of it.
const namingsOf = ({ catalogue }: Pick<Seer, 'catalogue'>, kind: Kind) =>
  catalogue
    .naming(kind)
    .map(([name, reference]) => ({ section: catalogue.section(name), reference }))
    .filter(({ section }) => section.kind !== kind || !section.base);

/** Lists that forms pick from: what they are used for; one entry in place of another. */
export const serveLists = (app: FastifyInstance, server: Server): void => {
  const { pool, clock } = server;

  serve(app, server, listEndpoints.uses, async ({ params, viewer }) => {
    const { today } = await look(pool, clock, {});
    return { uses: await many<Uses>(pool, queries.usesOf(namingsOf(viewer, params.kind), today)) };
  });

  serve(app, server, listEndpoints.usedIn, async ({ params, viewer }) => {
    const { today } = await look(pool, clock, {});
    const namings = namingsOf(viewer, params.kind);
    return { places: await many<UsedIn>(pool, queries.usedIn(namings, params.id, today)) };
  });

  serve(app, server, listEndpoints.replaceUses, async ({ body, viewer, request }) => {
    const { kind, from, to, day, reason, preview, words } = body;
    if (from === to) fail('nothing_changed', {}, 'to');
    const { today: now } = await look(pool, clock, {});
    const places = await many<UsedIn>(pool, queries.usedIn(namingsOf(viewer, kind), from, now));
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
        for (const { section, reference } of namingsOf({ catalogue }, kind)) {
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
    const looking = await look(pool, clock, {});
    return {
      entry: acted.entry,
      touched: acted.touched,
      rows: acted.result,
      problems: await labelled(pool, viewer, acted.problems, looking),
    };
  });
};

type Entry = { values: { list: string; ownFieldId: number | null } } | undefined;

const mustBeAlike = (from: Entry, to: Entry): void => {
  if (from?.values.list !== to?.values.list || from?.values.ownFieldId !== to?.values.ownFieldId)
    fail('list_wrong', {}, 'to');
};
