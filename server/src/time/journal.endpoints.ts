import { type Kind, type Row, type SectionName, type ThingRef, journalEndpoints } from '@gremium/contract';
import { problem, putBack } from '@gremium/core';
import type { FastifyInstance } from 'fastify';
import { Failure, fail } from '../database/failure';
import { many } from '../database/sql';
import { recheckAll } from '../files/import.sql';
import { serve } from '../serve';
import { type Server, act } from './act';
import type { Seer } from './catalogues';
import { idempotencyOf } from './idempotency';
import { everyEntry, ofIds, ofNumbers, touching } from './journal.sql';
import { labelled, namesFor } from './labels';
import { type Looking, look } from './lens';
import { type Seen, type SeenRow, readEntries, seesEverything, subjectOf } from './read-entries';
import { refsIn } from './read-record';
import type { RegisterThread } from './register-thread';
import { outward } from './outward';
import { HIDEABLE } from './seen';
import { pastEntries } from './undo';
import { UndoThread } from './undo-thread';

const PUT_BACK_IDS = 5000;
/** Rows of an entry whose things are named; a pay round has thousands. */
const MOST_NAMED = 500;

// What a row refers to and the viewer may not see is left out of it, ids too.
const withoutHidden = ({ catalogue }: Seer, row: Row, isKnown: (ref: ThingRef) => boolean): Row => {
  const values: Record<string, unknown> = { ...row.values };
  for (const { field, kind } of catalogue.refs(row.section)) {
    const id = values[field];
    if (typeof id === 'number' && HIDEABLE.has(kind) && !isKnown({ kind, id })) values[field] = null;
  }
  return { ...row, values: values as Row['values'] };
};

export const serveJournal = (app: FastifyInstance, server: Server, register: RegisterThread): void => {
  const { pool, clock } = server;
  const undoing = new UndoThread(server.workers);
  app.addHook('onClose', () => undoing.close());

  const matchingEntries = (viewer: Seer, looking: Looking, condition: string) =>
    register.ask(
      'matching',
      { viewer, looking },
      { subject: 'entry' as SectionName, condition, language: viewer.language },
    );

  serve(app, server, journalEndpoints.journal, async ({ query, viewer }) => {
    const looking = await look(pool, clock, {});
    const where =
      query.where === undefined
        ? query.thing === undefined
          ? everyEntry
          : touching(viewer.catalogue, query.thing)
        : ofIds((await matchingEntries(viewer, looking, query.where)).ids);
    const found: Seen[] = [];
    // A viewer of a part is shown the entries of that part: pages are read until enough of them are found.
    const isAll = seesEverything(viewer);
    const limit = isAll ? query.limit : 200;
    let { offset } = query;
    for (let pages = 0; found.length < query.limit && pages < 20; pages++, offset += limit) {
      const heads = await readEntries(pool, viewer, { where, page: { limit, offset }, looking });
      found.push(...heads);
      // what people tell of themselves is seldom, so that a page without anything is the end
      if (isAll && heads.length === 0) break;
    }
    return { entries: found.slice(0, query.limit) };
  });

  const readEntry = async (viewer: Seer, number: number, looking: Looking) => {
    const page = { limit: 1, offset: 0 };
    const [head] = await readEntries(pool, viewer, { where: ofNumbers([number]), page, looking });
    return head ?? fail('entry_unknown', { number });
  };

  serve(app, server, journalEndpoints.entry, async ({ params, viewer }) => {
    const looking = await look(pool, clock, {});
    const { seen, ...entry } = await readEntry(viewer, params.number, looking);
    const shown = seesEverything(viewer) ? seen.slice(0, MOST_NAMED) : seen;
    const refs = shown.flatMap(({ row }) => [subjectOf(viewer, row), ...refsIn(viewer, row)]);
    const names = await namesFor(pool, viewer, refs, looking);
    const isKnown = (ref: ThingRef) => seesEverything(viewer) || names.has(`${ref.kind} ${ref.id}`);
    const wire = ({ row }: SeenRow) => ({
      section: row.section,
      ...outward(withoutHidden(viewer, row, isKnown)),
    });
    return {
      entry,
      recorded: seen.filter(({ row }) => row.entry === entry.id).map(wire),
      superseded: seen.filter(({ supersededBy }) => supersededBy === entry.id).map(wire),
      // an employment or placement is told by the name of its person
      names: [...names].map(([key, { name }]) => {
        const [kind, id] = key.split(' ');
        return { kind: kind as Kind, id: Number(id), name };
      }),
    };
  });

  serve(app, server, journalEndpoints.planUndo, async ({ params, viewer }) => {
    const looking = await look(pool, clock, {});
    await readEntry(viewer, params.number, looking);
    const { catalogue: _, ...by } = viewer;
    const asked = { viewer: by, number: params.number, now: clock.now() };
    const { numbers, problems } = await undoing.plan(asked);
    const page = { limit: 1000, offset: 0 };
    const heads = await readEntries(pool, viewer, { where: ofNumbers(numbers), page, looking });
    const hidden = heads.length < numbers.length ? [problem('record_hidden')] : [];
    return { entries: heads, problems: [...(await labelled(pool, viewer, problems, looking)), ...hidden] };
  });

  serve(app, server, journalEndpoints.undo, async ({ params, body, viewer, request }) => {
    const looking = await look(pool, clock, {});
    await readEntry(viewer, params.number, looking);
    const { catalogue: _, ...by } = viewer;
    const { entry, problems, touched } = await undoing.undo({
      viewer: by,
      number: params.number,
      shown: body.plan,
      reason: body.reason,
      idempotency: idempotencyOf(request, false),
      now: clock.now(),
    });
    // files that wait to be written were compared with what now is undone
    if (entry !== null) await many(pool, recheckAll);
    return { entry, touched, problems: await labelled(pool, viewer, problems, looking) };
  });

  serve(app, server, journalEndpoints.putBack, async ({ params, body, viewer, request }) => {
    const looking = await look(pool, clock, {});
    const head = await readEntry(viewer, params.number, looking);
    if (!head.seen.some(({ row }) => row.thing === body.thing)) fail('record_hidden', {}, 'thing');
    const { entry, problems, touched } = await act(server, viewer, {
      kind: 'put_back',
      needs: 'undo',
      reason: body.reason,
      origin: { putsBack: params.number, thing: body.thing },
      preview: body.preview,
      locks: [body.thing],
      newIds: PUT_BACK_IDS,
      idempotency: idempotencyOf(request, body.preview),
      decide: async ({ tx, near, newId, catalogue, entry: id }) => {
        const [past] = await pastEntries(tx, catalogue, [head.id]);
        if (!past) throw new Failure([problem('entry_unknown')]);
        const register = await near.loadFor({
          recorded: [...past.recorded, ...past.superseded].filter((row) => row.thing === body.thing),
          superseded: [],
        });
        return { ...putBack(past, body.thing, register, { newId, entry: id }), result: null };
      },
    });
    return { entry, touched, problems: await labelled(pool, viewer, problems, looking) };
  });
};
