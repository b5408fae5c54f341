import { type HireInput, type TransferInput, type Viewer, movementEndpoints } from '@gremium/contract';
import { Draft, hire, leave, transfer } from '@gremium/core';
import type { FastifyInstance } from 'fastify';
import type { ClientBase } from 'pg';
import { fail } from '../database/failure';
import { many, one } from '../database/sql';
import { nextNumber } from '../people/number.sql';
import { serve } from '../serve';
import { type Acted, type Ask, type Deciding, type Decision, type Server, act } from '../time/act';
import { idempotencyOf } from '../time/idempotency';
import { labelled } from '../time/labels';
import { look } from '../time/lens';
import type { Seed } from '../time/neighbourhood';
import { visibleThings } from '../time/records.sql';

type Moved = { personId: number; employmentId: number; positionId: number; slip: unknown[] } | null;

export const serveMovements = (app: FastifyInstance, server: Server): void => {
  const { pool, clock } = server;

  // A movement names only what the viewer may see; everything else is answered as if it were not there.
  const mustSee = async (viewer: Viewer, seeds: readonly Seed[]) => {
    const looking = await look(pool, clock, {});
    for (const { kind, id } of seeds) {
      const seen = await many(pool, visibleThings(viewer, kind as 'position', [id], looking));
      if (seen.length === 0) fail('record_hidden', { kind });
    }
  };

  const wire = async (viewer: Viewer, { entry, problems, result }: Acted<Moved>) => ({
    entry,
    problems: await labelled(pool, viewer, problems, await look(pool, clock, {})),
    personId: result?.personId ?? null,
    employmentId: result?.employmentId ?? null,
    positionId: result?.positionId ?? null,
    slip: (result?.slip ?? []) as never[],
  });

  serve(app, server, movementEndpoints.hire, async ({ body, viewer, request }) => {
    const { input, preview } = body;
    const visible: Seed[] = [
      ...seed('position', input.positionId),
      ...seed('unit', input.unitId),
      ...('id' in input.person ? seed('person', input.person.id) : []),
    ];
    const others = [
      ...seed('job', input.jobId),
      ...seed('location', input.locationId),
      ...seed('legal_entity', input.legalEntityId),
      ...seed('list_entry', input.workerTypeId),
      ...payKinds(input.pay),
    ];
    await mustSee(viewer, visible);
    const acted = await act<Moved>(server, viewer, {
      ...common('hire', input, preview),
      locks: visible.filter(({ kind }) => kind !== 'unit').map(({ id }) => id),
      idempotency: idempotencyOf(request, preview),
      decide: async (deciding) => {
        const numbered = preview ? input : await withNumber(deciding.tx, input);
        return decide(deciding, [...visible, ...others], (draft) => hire(draft, numbered));
      },
    });
    return wire(viewer, acted);
  });

  serve(app, server, movementEndpoints.transfer, async ({ body, viewer, request }) => {
    const { input, preview } = body;
    const visible = [
      ...seed('person', input.personId),
      ...seed('position', input.positionId),
      ...seed('unit', input.unitId),
    ];
    await mustSee(viewer, visible);
    const acted = await act<Moved>(server, viewer, {
      ...common('transfer', input, preview),
      locks: visible.filter(({ kind }) => kind !== 'unit').map(({ id }) => id),
      idempotency: idempotencyOf(request, preview),
      decide: (deciding) =>
        decide(deciding, [...visible, ...seed('job', input.jobId), ...payKinds(input.pay ?? [])], (draft) => {
          const done = transfer(draft, input);
          return done && { ...done, personId: input.personId };
        }),
    });
    return wire(viewer, acted);
  });

  serve(app, server, movementEndpoints.leave, async ({ body, viewer, request }) => {
    const { input, preview } = body;
    const seeds = seed('employment', input.employmentId);
    await mustSee(viewer, seeds);
    const acted = await act<Moved>(server, viewer, {
      kind: 'leave',
      reason: input.reason,
      preview,
      locks: [input.employmentId],
      idempotency: idempotencyOf(request, preview),
      decide: (deciding) =>
        decide(deciding, seeds, (draft) => {
          leave(draft, input);
          return null;
        }),
    });
    return wire(viewer, acted);
  });
};

const seed = (kind: Seed['kind'], id: number | undefined): Seed[] => (id === undefined ? [] : [{ kind, id }]);

const payKinds = (pay: HireInput['pay']): Seed[] => pay.flatMap(({ kindId }) => seed('list_entry', kindId));

const common = (kind: 'hire' | 'transfer', input: HireInput | TransferInput, preview: boolean) =>
  ({
    kind,
    preview,
    reason: input.reason,
    origin: { movement: kind, firstDay: input.firstDay },
  }) satisfies Partial<Ask<Moved>>;

const decide = async (
  { near, newId, entry }: Deciding,
  seeds: readonly Seed[],
  move: (draft: Draft) => Moved,
): Promise<Decision<Moved>> => {
  const draft = new Draft(await near.load(seeds), newId, entry);
  const result = move(draft);
  const { change, problems } = draft;
  draft.discard();
  return { change, problems, result };
};

// The next number nobody was ever given, unless one was typed.
const withNumber = async (tx: ClientBase, input: HireInput): Promise<HireInput> => {
  if ('id' in input.person || input.person.number !== undefined) return input;
  for (;;) {
    const { number, given } = await one<{ number: string; given: boolean }>(tx, nextNumber);
    if (!given) return { ...input, person: { ...input.person, number } };
  }
};
