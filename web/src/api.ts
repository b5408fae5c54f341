import type { CallOf, Endpoint, Problem, ReplyOf } from '@gremium/contract';

/** A refused call, with its problems. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly problems: Problem[],
  ) {
    super(problems.map(({ code }) => code).join(', '));
  }
}

type Sending = { idempotencyKey?: string; signal?: AbortSignal; keepalive?: boolean };

/** Calls an endpoint of the contract. With an idempotency key the act is carried out once, however often it is sent. */
export const call = async <E extends Endpoint>(
  endpoint: E,
  asked: CallOf<E>,
  { idempotencyKey, signal, keepalive = false }: Sending = {},
): Promise<ReplyOf<E>> => {
  const { params = {}, query = {}, body } = asked as { params?: object; query?: object; body?: unknown };
  const path = Object.entries(params).reduce(
    (at, [name, value]) => at.replace(`:${name}`, encodeURIComponent(String(value))),
    endpoint.path,
  );
  const given = Object.entries(query).filter(([, value]) => value !== undefined && value !== '');
  const search = new URLSearchParams(given.map(([name, value]) => [name, String(value)])).toString();
  const response = await fetch(search ? `${path}?${search}` : path, {
    method: endpoint.method,
    keepalive,
    ...(signal ? { signal } : {}),
    headers: {
      ...(body === undefined ? {} : { 'content-type': 'application/json' }),
      ...(idempotencyKey ? { 'idempotency-key': idempotencyKey } : {}),
    },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  return replyOf(response);
};

/** Sends a file to an endpoint that takes one. */
export const upload = async <E extends Endpoint>(
  { method, path }: E,
  query: Record<string, string>,
  file: Blob,
): Promise<ReplyOf<E>> => {
  const headers = { 'content-type': 'application/octet-stream' };
  return replyOf(
    await fetch(`${path}?${new URLSearchParams(query).toString()}`, { method, headers, body: file }),
  );
};

const replyOf = async <E extends Endpoint>(response: Response): Promise<ReplyOf<E>> => {
  const reply: unknown = await response.json().catch(() => ({}));
  if (response.ok) return reply as ReplyOf<E>;
  const failed: Problem = { code: 'failed', severity: 'error', params: {} };
  throw new Refused(response.status, (reply as { problems?: Problem[] }).problems ?? [failed]);
};
