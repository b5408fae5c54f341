import '@fastify/cookie';
import type { Endpoint, ReplyOf, RequestOf } from '@gremium/contract';
import { NotInCatalogue, may } from '@gremium/contract';
import { problem, withoutHidden } from '@gremium/core';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { withGivers } from './access/administration';
import { hashToken } from './access/password';
import { type Kept, isLetIn, seerOf, viewerOf } from './access/session.sql';
import { checkTexts } from './check-texts';
import { Failure } from './database/failure';
import { Events } from './files/events';
import { FileOut } from './files/file-out';
import { maybeOne } from './database/sql';
import type { Server } from './time/act';
import type { Seer } from './time/catalogues';
import { labelled } from './time/labels';
import { look } from './time/lens';
import { Written } from './time/register-thread';

export const COOKIE = 'gremium';

/** What a handler gets beside the checked request. */
export type Asked<E extends Endpoint> = RequestOf<E> & {
  viewer: E['right'] extends 'anybody' ? Seer | null : Seer;
  request: FastifyRequest;
  reply: FastifyReply;
};

const viewerFrom = async (server: Server, request: FastifyRequest): Promise<Seer | null> => {
  const token = request.cookies[COOKIE];
  if (!token) return null;
  const kept = await maybeOne<Kept>(server.pool, viewerOf(hashToken(token), server.clock.now()));
  if (!kept || !(await isLetIn(server.pool, server.clock, kept))) return null;
  const viewer = await seerOf(server.pool, server.catalogues, kept, server.clock);
  return server.lines ? server.lines.know(viewer, kept.entry) : viewer;
};

export type Handler<E extends Endpoint> = (
  asked: Asked<E>,
) => Promise<ReplyOf<E> | Written<ReplyOf<E>> | FileOut | Events>;

type Config = {
  rateLimit?: { max: number; timeWindow: string };
  bodyLimit?: number;
  /** Its body is a file. */
  takesFiles?: true;
};

/** Serves an endpoint of the contract: its schemas check what comes in, its right is asked before the handler runs. */
export const serve = <const E extends Endpoint>(
  app: FastifyInstance,
  server: Server,
  declared: E,
  handle: Handler<E>,
  config: Config = {},
): void => {
  const { method, path, summary, right } = declared;
  const schema = {
    summary,
    tags: [path.split('/')[2] as string],
    description: `Needs: ${typeof right === 'string' ? right : Object.values(right).join(' ')}`,
    ...(declared.params ? { params: declared.params } : {}),
    ...(declared.query ? { querystring: declared.query } : {}),
    ...(declared.body ? { body: declared.body } : {}),
    response: { 200: declared.reply },
  };
  app.route({
    method,
    url: path,
    schema,
    config,
    ...(config.bodyLimit ? { bodyLimit: config.bodyLimit } : {}),
    // before anything of a body is read: nobody fills the memory who may not send it
    onRequest: async (request) => {
      const viewer = await viewerFrom(server, request);
      request.viewer = viewer;
      if (right === 'anybody') return;
      if (!viewer) throw new Failure([problem('sign_in_needed')]);
      if (!may(viewer).allows(right))
        throw await withGivers(
          server,
          new Failure([problem('right_missing', { right: Object.values(right).join(' ') })]),
        );
    },
    preValidation: async ({ params, query, body }) => {
      for (const part of [params, query, body]) checkTexts(part);
    },
    handler: async (request, reply) => {
      const { viewer, params, query, body } = request;
      try {
        const found = await handle({ params, query, body, viewer, request, reply } as unknown as Asked<E>);
        if (found instanceof Written) return reply.type('application/json').send(found.json);
        if (found instanceof FileOut) return sendFile(reply, found);
        if (found instanceof Events) return reply.type('text/event-stream').send(found.stream());
        return viewer ? withoutHidden(found, viewer) : found;
      } catch (error) {
        if (error instanceof NotInCatalogue)
          throw new Failure([problem(error.what, { named: error.named })], 400);
        throw error instanceof Failure && viewer ? await named(server, viewer, error) : error;
      }
    },
  });
};

// A refusal names things only as far as the viewer may see them.
const named = async (server: Server, viewer: Seer, failure: Failure): Promise<Failure> => {
  const { pool, clock } = server;
  const { problems, status } = await withGivers(server, failure);
  return new Failure(await labelled(pool, viewer, problems, await look(pool, clock, {})), status);
};

const sendFile = (reply: FastifyReply, { name, type, body, isShown }: FileOut): FastifyReply =>
  reply
    .type(type)
    .header(
      'content-disposition',
      `${isShown ? 'inline' : 'attachment'}; filename*=UTF-8''${encodeURIComponent(name)}`,
    )
    .send(body);

declare module 'fastify' {
  interface FastifyContextConfig {
    takesFiles?: true;
  }
  interface FastifyRequest {
    viewer: Seer | null;
  }
}
