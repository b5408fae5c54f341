import { type KeptDraft, type Kind, draftEndpoints } from '@gremium/contract';
import type { FastifyInstance } from 'fastify';
import { fail } from '../database/failure';
import { many, one } from '../database/sql';
import { serve } from '../serve';
import type { Server } from '../time/act';
import { namesFor } from '../time/labels';
import { look } from '../time/lens';
import * as queries from './draft.sql';

const MOST_LETTERS = 50_000;

export const serveDrafts = (app: FastifyInstance, server: Server): void => {
  const { pool, clock } = server;

  serve(app, server, draftEndpoints.drafts, async ({ viewer }) => {
    const drafts = await many<Omit<KeptDraft, 'name'>>(pool, queries.draftsOf(viewer.account));
    const refs = drafts.map(({ about }) => {
      const [kind = '', id = ''] = about.split(' ');
      return { kind: kind as Kind, id: Number(id) };
    });
    const names = await namesFor(pool, viewer, refs, await look(pool, clock, {}));
    return { drafts: drafts.map((draft) => ({ ...draft, name: names.get(draft.about)?.name ?? null })) };
  });

  serve(app, server, draftEndpoints.keepDraft, async ({ params, body, viewer }) => {
    const content = JSON.stringify(body.content);
    if (content.length > MOST_LETTERS) fail('draft_limit', { most: MOST_LETTERS }, 'content');
    const draft = { ...body, key: params.key, content, at: clock.now() };
    return one<Pick<KeptDraft, 'keptAt'>>(pool, queries.keepDraft(viewer.account, draft));
  });

  serve(app, server, draftEndpoints.discardDraft, async ({ params, viewer }) => {
    await many(pool, queries.discardDraft(viewer.account, params.key));
    return {};
  });
};
