import { type Entry, type Row, type Viewer, journalEndpoints, sectionNames } from '@gremium/contract';
import { problem, putBack } from '@gremium/core';
import type { FastifyInstance } from 'fastify';
import { seesAll } from '../access/scope.sql';
import { Failure, fail } from '../database/failure';
import { type Sql, many } from '../database/sql';
import { serve } from '../serve';
import { type Server, act } from './act';
import { idempotencyOf } from './idempotency';
import { entries, everyEntry, numbersOf, ofNumbers, touching } from './journal.sql';
import { labelled } from './labels';
import { type Looking, look } from './lens';
import { outward } from './records.endpoints';
import { countRowsOf, visibleRowsOf } from './records.sql';
import { decideUndo, pastEntries, undoneAmong } from './undo';

type Seen = { row: Row; supersededBy: number | null };
type Head = Entry & { undoes: number[] };
const UNDO_IDS = 20_000;

export const serveJournal = (app: FastifyInstance, server: Server): void => {
  const { pool, clock } = server;

  // Rows of entries that the viewer may see, and for how many more there are.
  const seenOf = async (viewer: Viewer, ids: number[], looking: Looking) => {
    const seen = new Map<number, Seen[]>(ids.map((id) => [id, []]));
    const all = new Map<number, number>();
    for (const section of sectionNames) {
      const rows = await many<Row & { supersededBy: number | null }>(
        pool,
        visibleRowsOf(viewer, section, ids, looking),
      );
      for (const { supersededBy, ...row } of rows) {
        seen.get(row.entry)?.push({ row, supersededBy });
        if (supersededBy !== null) seen.get(supersededBy)?.push({ row, supersededBy });
      }
      for (const { entry, rows: n } of await many<{ entry: number; rows: number }>(
        pool,
        countRowsOf(section, ids),
      ))
        all.set(entry, (all.get(entry) ?? 0) + n);
    }
    return { seen, all };
  };

  const readHeads = async (
    viewer: Viewer,
    where: Sql,
    page: { limit: number; offset: number },
    looking: Looking,
  ) => {
    const heads = await many<Head>(pool, entries(where, page));
    const ids = heads.map(({ id }) => id);
    const { seen, all } = await seenOf(viewer, ids, looking);
    const undone = await undoneAmong(pool, ids);
    const undoes = heads.flatMap((head) => head.undoes.map(Number));
    const numbers = new Map(
      (await many<{ id: number; number: number }>(pool, numbersOf(undoes))).map(({ id, number }) => [
        id,
        number,
      ]),
    );
    return heads
      .filter(({ id }) => seesEverything(viewer) || (seen.get(id) ?? []).length > 0)
      .map((head): Entry & { seen: Seen[] } => {
        const own = seen.get(head.id) ?? [];
        const isWhole = own.length === (all.get(head.id) ?? 0);
        return {
          ...head,
          reason: isWhole ? head.reason : null,
          undoes: isWhole ? head.undoes.map((id) => numbers.get(Number(id)) as number) : [],
          undoneBy: undone.get(head.id)?.number ?? null,
          rows: own.length,
          seen: own,
        };
      });
  };

  serve(app, server, journalEndpoints.journal, async ({ query, viewer }) => {
    const looking = await look(pool, clock, {});
    const where = query.thing === undefined ? everyEntry : touching(query.thing);
    const found: Entry[] = [];
    // A viewer of a part is shown the entries of that part: pages are read until enough of them are found.
    for (
      let offset = query.offset, pages = 0;
      found.length < query.limit && pages < 20;
      pages++, offset += 200
    ) {
      const heads = await readHeads(
        viewer,
        where,
        { limit: seesEverything(viewer) ? query.limit : 200, offset },
        looking,
      );
      found.push(...heads);
      if (seesEverything(viewer)) break;
    }
    return { entries: found.slice(0, query.limit) };
  });

  const readEntry = async (viewer: Viewer, number: number, looking: Looking) => {
    const page = { limit: 1, offset: 0 };
    const [head] = await readHeads(viewer, ofNumbers([number]), page, looking);
    return head ?? fail('entry_unknown', { number });
  };

  serve(app, server, journalEndpoints.entry, async ({ params, viewer }) => {
    const { seen, ...entry } = await readEntry(viewer, params.number, await look(pool, clock, {}));
    const wire = ({ row }: Seen) => ({ section: row.section, ...outward(row) });
    return {
      entry,
      recorded: seen.filter(({ row }) => row.entry === entry.id).map(wire),
      superseded: seen.filter(({ supersededBy }) => supersededBy === entry.id).map(wire),
    };
  });

  serve(app, server, journalEndpoints.planUndo, async ({ params, viewer }) => {
    const looking = await look(pool, clock, {});
    await readEntry(viewer, params.number, looking);
    const { result, problems } = await act(server, viewer, {
      kind: 'undo',
      preview: true,
      locks: [],
      newIds: UNDO_IDS,
      decide: (deciding) => decideUndo(deciding, params.number, null),
    });
    const numbers = result.entries.map(({ number }) => number);
    const heads = await readHeads(viewer, ofNumbers(numbers), { limit: 1000, offset: 0 }, looking);
    const hidden = heads.length < numbers.length ? [problem('record_hidden')] : [];
    return { entries: heads, problems: [...(await labelled(pool, viewer, problems, looking)), ...hidden] };
  });

  serve(app, server, journalEndpoints.undo, async ({ params, body, viewer, request }) => {
    const looking = await look(pool, clock, {});
    await readEntry(viewer, params.number, looking);
    const { entry, problems } = await act(server, viewer, {
      kind: 'undo',
      reason: body.reason,
      preview: false,
      locks: [],
      newIds: UNDO_IDS,
      idempotency: idempotencyOf(request, false),
      decide: (deciding) => decideUndo(deciding, params.number, body.plan),
    });
    return { entry, problems: await labelled(pool, viewer, problems, looking) };
  });

  serve(app, server, journalEndpoints.putBack, async ({ params, body, viewer, request }) => {
    const looking = await look(pool, clock, {});
    const head = await readEntry(viewer, params.number, looking);
    if (!head.seen.some(({ row }) => row.thing === body.thing)) fail('record_hidden', {}, 'thing');
    const { entry, problems } = await act(server, viewer, {
      kind: 'put_back',
      reason: body.reason,
      origin: { putsBack: params.number, thing: body.thing },
      preview: body.preview,
      locks: [body.thing],
      newIds: UNDO_IDS,
      idempotency: idempotencyOf(request, body.preview),
      decide: async ({ tx, near, newId, entry: id }) => {
        const [past] = await pastEntries(tx, [head.id]);
        if (!past) throw new Failure([problem('entry_unknown')]);
        const register = await near.loadFor({
          recorded: [...past.recorded, ...past.superseded].filter((row) => row.thing === body.thing),
          superseded: [],
        });
        return { ...putBack(past, body.thing, register, { newId, entry: id }), result: null };
      },
    });
    return { entry, problems: await labelled(pool, viewer, problems, looking) };
  });
};

const seesEverything = (viewer: Viewer): boolean => sectionNames.every((section) => seesAll(viewer, section));
