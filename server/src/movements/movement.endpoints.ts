import {
  type KeptMovement,
  type MovementKind,
  movementEndpoints,
  movementOf,
  namedIn,
} from '@gremium/contract';
import type { FastifyInstance } from 'fastify';
import { fail } from '../database/failure';
import { many, maybeOne } from '../database/sql';
import { serve } from '../serve';
import type { Server } from '../time/act';
import type { Seer } from '../time/catalogues';
import { idempotencyOf } from '../time/idempotency';
import { namesFor } from '../time/labels';
import { look } from '../time/lens';
import type { RegisterThread } from '../time/register-thread';
import { undoneAmong } from '../time/undo';
import { type Asked, type Result, move, wire } from './move';
import * as queries from './movement.sql';

const MOST_LETTERS = 50_000;

type Row = Omit<KeptMovement, 'names' | 'result' | 'undoneBy'> & {
  result: Result | null;
  entryNumber: number | null;
  entryId: number | null;
};

export const serveMovements = (app: FastifyInstance, server: Server, register: RegisterThread): void => {
  const { pool, clock } = server;

  const outward = async (viewer: Seer, rows: readonly Row[]): Promise<KeptMovement[]> => {
    const looking = await look(pool, clock, {});
    const named = rows.map(({ kind, input, about }) => {
      const [of, id] = about.split(' ') as [string, string];
      return [...namedIn(movementOf(kind).input, input), { kind: of as 'unit', id: Number(id) }];
    });
    const names = await namesFor(pool, viewer, named.flat(), looking);
    const entries = rows.flatMap(({ entryId }) => entryId ?? []);
    const undone =
      entries.length > 0 ? await undoneAmong(pool, entries) : new Map<number, { number: number }>();
    return Promise.all(
      rows.map(async ({ result, entryNumber, entryId, ...row }, i) => ({
        ...row,
        // an employment is called as its person, and asked for by its own id
        names: (named[i] ?? []).flatMap(({ kind, id }) => {
          const found = names.get(`${kind} ${id}`);
          return found ? [{ kind, id, name: found.name }] : [];
        }),
        undoneBy: undone.get(entryId ?? 0)?.number ?? null,
        result:
          result &&
          (await wire({ server, register, viewer }, row.kind, {
            entry: entryNumber,
            problems: [],
            looked: [],
            touched: [],
            result,
          })),
      })),
    );
  };

  serve(app, server, movementEndpoints.move, async ({ body, viewer, request }) =>
    move({ server, register, viewer }, body as unknown as Asked, idempotencyOf(request, body.preview)),
  );

  serve(app, server, movementEndpoints.movements, async ({ viewer }) => ({
    movements: await outward(viewer, await many<Row>(pool, queries.movementsOf(viewer.account))),
  }));

  serve(app, server, movementEndpoints.movement, async ({ params, viewer }) => {
    const found = await maybeOne<Row>(pool, queries.movementBy(viewer.account, params.key));
    const [kept] = found ? await outward(viewer, [found]) : [];
    return kept ?? fail('movement_unknown');
  });

  serve(app, server, movementEndpoints.keepMovement, async ({ params, body, viewer }) => {
    const [input, typed] = [JSON.stringify(body.input), JSON.stringify(body.typed)];
    if (input.length + typed.length > MOST_LETTERS) fail('draft_limit', { most: MOST_LETTERS }, 'input');
    const { kind, about } = body;
    const movement = {
      key: params.key,
      kind: kind satisfies MovementKind,
      about,
      input,
      typed,
      at: clock.now(),
    };
    const kept = await maybeOne<Pick<KeptMovement, 'keptAt'>>(
      pool,
      queries.keepMovement(viewer.account, movement),
    );
    return kept ?? fail('movement_recorded');
  });

  serve(app, server, movementEndpoints.discardMovement, async ({ params, viewer }) => {
    await many(pool, queries.discardMovement(viewer.account, params.key));
    return {};
  });
};
