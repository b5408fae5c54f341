import { createHash, randomBytes } from 'node:crypto';
import { type FileRef, keptFileEndpoints, seenSection } from '@gremium/contract';
import type { FastifyInstance } from 'fastify';
import { fail } from '../database/failure';
import { many, maybeOne, one } from '../database/sql';
import { serve } from '../serve';
import type { Server } from '../time/act';
import { look } from '../time/lens';
import { readThings } from '../time/read-record';
import { FileOut } from './file-out';
import { bytesOf, keepFile, unnamedSince } from './kept-files.sql';
import { limits } from './limits';
import { nameAs, typeOf } from './read-kept';
import { Uploaded } from './uploaded';

// Nobody fills the database with what no row names.
const MOST_UNNAMED = 300;

/** Files that rows name. */
export const serveKeptFiles = (app: FastifyInstance, server: Server): void => {
  const { pool, clock } = server;

  serve(
    app,
    server,
    keptFileEndpoints.keepFile,
    async ({ query, viewer, request }) => {
      const { body } = request;
      const bytes = body instanceof Uploaded ? await body.content() : Buffer.alloc(0);
      if (bytes.length > limits.document) return fail('body_too_large', {}, 'body');
      if (bytes.length === 0) return fail('file_empty', {}, 'body');
      const type = await typeOf(bytes);
      if (!type) return fail('file_unread', { name: query.name }, 'body');
      const { count } = await one<{ count: number }>(pool, unnamedSince(viewer.account, clock.now()));
      if (count >= MOST_UNNAMED) return fail('too_many_requests', {});
      const id = randomBytes(16).toString('hex');
      await many(pool, keepFile({ id, account: viewer.account, at: clock.now(), type, bytes }));
      const digest = createHash('sha256').update(bytes).digest('hex');
      return { id, name: nameAs(query.name, type), type, bytes: bytes.length, digest };
    },
    { takesFiles: true, bodyLimit: limits.document },
  );

  // one whom the viewer may not see, and one that is not there, are answered alike; whatever version named it, as it may be seen
  serve(app, server, keptFileEndpoints.fileOfRow, async ({ params, query, viewer }) => {
    const { section, thing, row, field } = params;
    const isFile =
      seenSection(viewer.catalogue.section(section), viewer.grants).metas.get(field)?.is === 'file';
    const { recordedBy } = query;
    const looking = await look(pool, clock, recordedBy ? { recordedBy } : {});
    const rows = isFile ? await readThings(pool, viewer, looking, new Map([[section, [thing]]])) : [];
    const named = rows.find(({ id }) => id === row)?.values as Record<string, FileRef | null> | undefined;
    const file = named?.[field];
    const kept = file ? await maybeOne<{ bytes: Buffer }>(pool, bytesOf(file.id)) : null;
    if (!file || !kept) return fail('record_hidden', { kind: viewer.catalogue.section(section).kind });
    return FileOut.kept(file, kept.bytes, query.shown === 'yes');
  });
};
