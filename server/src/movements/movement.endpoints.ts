import {
  type Day,
  type HireInput,
  type Kind,
  type Problem,
  type SectionName,
  type SlipValue,
  type TransferInput,
  movementEndpoints,
} from '@gremium/contract';
import { Draft, addDays, hire, leave, transfer } from '@gremium/core';
import type { FastifyInstance } from 'fastify';
import type { ClientBase } from 'pg';
import { Failure, fail } from '../database/failure';
import { one } from '../database/sql';
import { nextNumber } from '../people/number.sql';
import { serve } from '../serve';
import { type Acted, type Ask, type Deciding, type Decision, type Server, act } from '../time/act';
import type { Seer } from '../time/catalogues';
import { idempotencyOf } from '../time/idempotency';
import { labelled, namesFor } from '../time/labels';
import { type Looking, look } from '../time/lens';
import type { Seed } from '../time/neighbourhood';
import type { RegisterThread } from '../time/register-thread';
import { seenOf } from '../time/seen';
import { changedSince } from './changed-since';

type Place = { personId: number; employmentId: number; positionId: number; slip: SlipValue[] };
type Moved = { place: Place | null; effects: Problem[]; asOf: number };

const NAMED: Record<string, Kind> = {
  positionId: 'position',
  unitId: 'unit',
  jobId: 'job',
  locationId: 'location',
  legalEntityId: 'legal_entity',
};

export const serveMovements = (app: FastifyInstance, server: Server, register: RegisterThread): void => {
  const { pool, clock } = server;

  // A movement names only what the viewer may see; everything else is answered as if it were not there.
  const mustSee = async (viewer: Seer, seeds: readonly Seed[]) => {
    const looking = await look(pool, clock, {});
    for (const { kind, id } of seeds) {
      const seen = await seenOf(pool, viewer, kind as 'position', [id], looking);
      if (seen.length === 0) fail('record_hidden', { kind });
    }
  };

  const withNames = async (viewer: Seer, slip: readonly SlipValue[], looking: Looking) => {
    const idsOf = ({ field, before, after }: SlipValue) => {
      const kind = NAMED[field];
      return kind ? [before, after].flatMap((id) => (typeof id === 'number' ? [{ kind, id }] : [])) : [];
    };
    const names = await namesFor(pool, viewer, slip.flatMap(idsOf), looking);
    return slip.map((value) => {
      const nameOf = (id: SlipValue['after']) => names.get(`${NAMED[value.field]} ${id}`)?.name;
      return { ...value, beforeName: nameOf(value.before), afterName: nameOf(value.after) };
    });
  };

  const wire = async (viewer: Seer, { entry, problems, looked, result }: Acted<Moved>) => {
    const { place, effects, asOf } = result;
    const looking = await look(pool, clock, {});
    return {
      entry,
      problems: await labelled(pool, viewer, problems, looking),
      effects: await labelled(pool, viewer, effects, looking),
      personId: place?.personId ?? null,
      employmentId: place?.employmentId ?? null,
      positionId: place?.positionId ?? null,
      slip: await withNames(viewer, place?.slip ?? [], looking),
      looked,
      asOf,
    };
  };

  const decide = async (
    { tx, near, newId, entry, today, last, rests }: Deciding,
    { viewer, seeds, firstDay, seen }: Moving,
    move: (draft: Draft) => Place | null,
  ): Promise<Decision<Moved>> => {
    if (seen !== undefined && seen < last) {
      const conflicts = await changedSince(tx, viewer, { seeds, seen, today });
      if (conflicts.length > 0) throw new Failure(conflicts);
    }
    const draft = new Draft(await near.load(seeds), newId, entry);
    for (const { kind, id } of seeds) rests({ section: kind as SectionName, field: 'thing', of: id });
    const place = move(draft);
    const { change, problems } = draft;
    draft.discard();
    const by = { viewer, looking: { on: firstDay, by: null, today } };
    // under locks nobody waits for the register in memory to catch up, unless the change is of what it does not know yet
    const found =
      (await register.ask('effects', { ...by, asItIs: true }, { change, firstDay })) ??
      (await register.ask('effects', by, { change, firstDay }));
    return { change, problems, result: { place, effects: found ?? [], asOf: last } };
  };

  serve(app, server, movementEndpoints.hire, async ({ body, viewer, request }) => {
    const { input, preview, words, seen } = body;
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
    let numbered: HireInput | undefined;
    const acted = await act<Moved>(server, viewer, {
      ...common('hire', input, { preview, words }),
      locks: visible.filter(({ kind }) => kind !== 'unit').map(({ id }) => id),
      idempotency: idempotencyOf(request, preview),
      decide: async (deciding) => {
        // decided again, it keeps the number it was given
        numbered ??= preview ? input : await withNumber(deciding.tx, input);
        const given = numbered;
        const seeds = [...visible, ...others];
        return decide(deciding, { viewer, seeds, firstDay: input.firstDay, seen }, (draft) =>
          hire(draft, given),
        );
      },
    });
    return wire(viewer, acted);
  });

  serve(app, server, movementEndpoints.transfer, async ({ body, viewer, request }) => {
    const { input, preview, words, seen } = body;
    const visible = [
      ...seed('person', input.personId),
      ...seed('position', input.positionId),
      ...seed('unit', input.unitId),
    ];
    await mustSee(viewer, visible);
    const seeds = [...visible, ...seed('job', input.jobId), ...payKinds(input.pay ?? [])];
    const acted = await act<Moved>(server, viewer, {
      ...common('transfer', input, { preview, words }),
      locks: visible.filter(({ kind }) => kind !== 'unit').map(({ id }) => id),
      idempotency: idempotencyOf(request, preview),
      decide: (deciding) =>
        decide(deciding, { viewer, seeds, firstDay: input.firstDay, seen }, (draft) => {
          const done = transfer(draft, input);
          return done && { ...done, personId: input.personId };
        }),
    });
    return wire(viewer, acted);
  });

  serve(app, server, movementEndpoints.leave, async ({ body, viewer, request }) => {
    const { input, preview, words, seen } = body;
    const seeds = seed('employment', input.employmentId);
    await mustSee(viewer, seeds);
    const acted = await act<Moved>(server, viewer, {
      kind: 'leave',
      reason: input.reason,
      origin: { movement: 'leave', lastDay: input.lastDay, ...said(words) },
      words,
      preview,
      locks: [input.employmentId],
      idempotency: idempotencyOf(request, preview),
      decide: (deciding) =>
        decide(deciding, { viewer, seeds, firstDay: addDays(input.lastDay, 1), seen }, (draft) => {
          leave(draft, input);
          return null;
        }),
    });
    return wire(viewer, acted);
  });
};

type Moving = { viewer: Seer; seeds: readonly Seed[]; firstDay: Day; seen: number | undefined };

const seed = (kind: Seed['kind'], id: number | undefined): Seed[] => (id === undefined ? [] : [{ kind, id }]);

const payKinds = (pay: HireInput['pay']): Seed[] => pay.flatMap(({ kindId }) => seed('list_entry', kindId));

type Words = NonNullable<Ask<Moved>['words']>;

const said = (words: Words): object => (Object.keys(words).length > 0 ? { words } : {});

const common = (
  kind: 'hire' | 'transfer',
  input: HireInput | TransferInput,
  { preview, words }: { preview: boolean; words: Words },
) =>
  ({
    kind,
    preview,
    words,
    reason: input.reason,
    origin: { movement: kind, firstDay: input.firstDay, ...said(words) },
  }) satisfies Partial<Ask<Moved>>;

// The next number nobody was ever given, unless one was typed.
const withNumber = async (tx: ClientBase, input: HireInput): Promise<HireInput> => {
  if ('id' in input.person || input.person.number !== undefined) return input;
  for (;;) {
    const { number, given } = await one<{ number: string; given: boolean }>(tx, nextNumber);
    if (!given) return { ...input, person: { ...input.person, number } };
  }
};
