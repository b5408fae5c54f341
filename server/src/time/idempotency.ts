import type { FastifyRequest } from 'fastify';

/** A request that is carried out once, however often it is sent: its key, and what it asks. */
export type Idempotency = { key: string; request: unknown };

/** The idempotency key of a request that writes, with what it asks; undefined without the header. */
export const idempotencyOf = (request: FastifyRequest, preview: boolean): Idempotency | undefined => {
  const key = request.headers['idempotency-key'];
  if (preview || typeof key !== 'string' || key.length === 0) return undefined;
  return { key: key.slice(0, 200), request: [request.method, request.url, request.body] };
};
