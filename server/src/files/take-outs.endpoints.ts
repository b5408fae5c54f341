import {
  type SectionName,
  type TakeOutAsk,
  type TakeOutLine,
  type TakeOutPart,
  importFields,
  plainColumns,
  takeOutEndpoints,
} from '@gremium/contract';
import type { FastifyInstance } from 'fastify';
import { Readable } from 'node:stream';
import { fail } from '../database/failure';
import { many, maybeOne, one } from '../database/sql';
import { partFile } from '../parts';
import { peopleColumns } from '../reports/people-layout';
import { serve } from '../serve';
import type { Server } from '../time/act';
import type { Seer } from '../time/catalogues';
import { labelled } from '../time/labels';
import { type Looking, headNumber, look } from '../time/lens';
import type { RegisterThread } from '../time/register-thread';
import { Events } from './events';
import { FileOut } from './file-out';
import { columnLabel, ownLabels, plainSection, subjectLabel } from './plain-subjects';
import type { PartOut } from './take-out-worker';
import * as queries from './take-outs.sql';
import { WorkDesk } from './work-desk';
import type { WorkNews } from './work-news';

const LOOK_EVERY = 5000;
/** Nobody sits before it: rows of a large view may take a while. */
const PATIENCE = 120_000;

// Of what stands in a file of some layout the viewer must be able to say it again.
const checkLayout = (viewer: Seer, { view, layout }: TakeOutPart, i: number): void => {
  if (layout === 'people' && view.subject !== 'person_name')
    fail('subject_unknown', { named: view.subject }, `parts.${i}.layout`);
  if (layout === 'import' || layout === 'anew') plainSection(viewer.catalogue, view.subject, viewer);
};

export const serveTakeOuts = (
  app: FastifyInstance,
  server: Server,
  register: RegisterThread,
  news: WorkNews,
): WorkDesk => {
  const { pool, clock } = server;

  // As after its entry: the latest one is in memory.
  const lookingAt = async ({ on, entry }: queries.Kept): Promise<Looking> => {
    const { today } = await look(pool, clock, {});
    return { on: on as Looking['on'], by: (await headNumber(pool)) === entry ? null : entry, today };
  };

  const rowsOf = async (viewer: Seer, kept: queries.Kept, { view, layout }: TakeOutPart) => {
    const ask = { view, layout, language: kept.asked.language };
    const looking = await lookingAt(kept);
    const found = await register.ask('takeOutRows', { viewer, looking, patience: PATIENCE }, ask);
    if (found.run.entry === kept.entry) return found;
    // something was recorded in between
    const then = { ...looking, by: kept.entry };
    return register.ask('takeOutRows', { viewer, looking: then, patience: PATIENCE }, ask);
  };

  const headsOf = async (viewer: Seer, { view, layout }: TakeOutPart, language: 'en' | 'de') => {
    if (layout === 'view') return null;
    if (layout === 'people') return peopleColumns.map((name) => importFields[name].label[language]);
    const section = plainSection(viewer.catalogue, view.subject, viewer);
    const own = await ownLabels(pool, viewer.catalogue);
    return plainColumns(section)
      .filter(({ is }) => layout !== 'anew' || is !== 'id')
      .map((column) => columnLabel(section, column, language, own));
  };

  const desk = new WorkDesk(
    server,
    {
      table: 'take_out',
      file: partFile('files/take-out-worker'),
      keepTrouble: queries.keepTrouble,
      answer: async (place, id, viewer): Promise<PartOut> => {
        const kept = await one<queries.Kept>(pool, queries.takeOutById(id));
        const part = kept.asked.parts[place as number] as TakeOutPart;
        const taken = await rowsOf(viewer, kept, part);
        const heads = await headsOf(viewer, part, kept.asked.language);
        return { taken, heads, by: kept.by, moment: kept.asked.recordedBy ?? kept.at };
      },
    },
    (error) => app.log.error(error),
  );
  app.addHook('onReady', async () => desk.start());
  let isClosing = false;
  app.addHook('preClose', async () => {
    isClosing = true;
    await desk.close();
  });

  const find = async (viewer: Seer, id: number): Promise<queries.Kept> =>
    (await maybeOne<queries.Kept>(pool, queries.takeOutOf(viewer, id))) ?? fail('record_hidden', {});

  const linesOf = async (viewer: Seer, all: readonly queries.Kept[]): Promise<TakeOutLine[]> => {
    const { language, catalogue } = viewer;
    const own = await ownLabels(pool, catalogue);
    const looking = await look(pool, clock, {});
    return Promise.all(
      all.map(async (kept) => ({
        id: kept.id,
        title: kept.title,
        at: kept.at as TakeOutLine['at'],
        by: kept.by,
        own: kept.account === viewer.account,
        format: kept.format,
        state: kept.state,
        work: kept.work ? { done: kept.done, total: kept.total } : null,
        parts: kept.asked.parts.map(({ title, view }, i) => ({
          title: title || kept.title,
          filter: view.condition,
          rows: kept.counts[i] ?? null,
        })),
        rows: kept.state === 'waiting' ? null : kept.counts.reduce((sum, count) => sum + count, 0),
        bytes: kept.bytes,
        on: kept.on as TakeOutLine['on'],
        entry: kept.entry,
        sensitive: kept.sections
          .filter((name) => catalogue.has(name as SectionName) && catalogue.section(name).sensitive)
          .map((name) => subjectLabel(name, language, own)),
        until: kept.until as TakeOutLine['until'],
        trouble: await labelled(pool, viewer, kept.trouble, looking),
      })),
    );
  };

  serve(app, server, takeOutEndpoints.takeOut, async ({ body, viewer }) => {
    const { parts, language, title: _, format, ...lens } = body;
    const looking = await look(pool, clock, lens);
    for (const [i, part] of parts.entries()) {
      checkLayout(viewer, part, i);
      const { view, layout } = part;
      await register.ask('takeOutCheck', { viewer, looking }, { view, layout, language });
    }
    const made = await one<{ id: number }>(
      pool,
      queries.insertTakeOut({
        account: viewer.account,
        at: clock.now(),
        asked: body satisfies TakeOutAsk,
        format: parts.length > 1 ? 'zip' : format,
        on: looking.on,
        entry: looking.by ?? (await headNumber(pool)),
        grants: viewer.grants,
      }),
    );
    desk.poke();
    return made;
  });

  serve(app, server, takeOutEndpoints.takeOuts, async ({ query, viewer }) => {
    const kept = await many<queries.Kept>(pool, queries.takeOutsOf(viewer, query));
    const { total } = await one<{ total: number }>(pool, queries.countTakeOuts(viewer));
    return { takeOuts: await linesOf(viewer, kept), total };
  });

  serve(app, server, takeOutEndpoints.takenOut, async ({ params, viewer }) => {
    const [line] = await linesOf(viewer, [await find(viewer, params.id)]);
    return line as TakeOutLine;
  });

  serve(app, server, takeOutEndpoints.takeOutProgress, async ({ params, viewer, request }) => {
    await find(viewer, params.id);
    const told = async function* () {
      for (let last = ''; !isClosing && !request.raw.destroyed;) {
        const { state, work, done, total } = await find(viewer, params.id);
        const now = { state, work: work && { done, total } };
        const text = JSON.stringify(now);
        if (text !== last) yield now;
        if (!work) return;
        last = text;
        await news.about('take_out', params.id, LOOK_EVERY);
      }
    };
    return new Events(told());
  });

  // Read as it is sent.
  const content = async function* (id: number): AsyncGenerator<Buffer> {
    for (let place = 0; ; place++) {
      const piece = await maybeOne<{ content: Buffer }>(pool, queries.contentAt(id, place));
      if (!piece) return;
      yield piece.content;
    }
  };

  serve(app, server, takeOutEndpoints.takeOutFile, async ({ params, viewer }) => {
    const kept = await find(viewer, params.id);
    if (kept.account !== viewer.account) return fail('take_out_others', {});
    if (kept.state !== 'ready') return fail('take_out_gone', {});
    // what somebody may see now may be less than it was
    if (kept.grants !== JSON.stringify(viewer.grants)) return fail('take_out_rights', {});
    return new FileOut(`${kept.title || 'report'} ${kept.on}`, kept.format, Readable.from(content(kept.id)));
  });

  serve(app, server, takeOutEndpoints.cancelTakeOut, async ({ params, viewer }) => {
    const kept = await find(viewer, params.id);
    if (kept.account !== viewer.account) return fail('take_out_others', {});
    await many(pool, queries.cancelTakeOut(kept.id));
    await many(pool, queries.dropGone);
    return {};
  });

  return desk;
};
