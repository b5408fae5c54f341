import type { CallOf, Endpoint, Problem, ReplyOf } from '@gremium/contract';
import { underWay } from './under-way';

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
  const { body } = asked as { body?: unknown };
  return answered<E>(addressOf(endpoint, asked), {
    method: endpoint.method,
    keepalive,
    ...(signal ? { signal } : {}),
    headers: {
      ...(body === undefined ? {} : { 'content-type': 'application/json' }),
      ...(idempotencyKey ? { 'idempotency-key': idempotencyKey } : {}),
    },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
};

/** Sends a file to an endpoint that takes one. */
export const upload = async <E extends Endpoint>(
  endpoint: E,
  asked: CallOf<E>,
  file: Blob,
): Promise<ReplyOf<E>> => {
  const headers = { 'content-type': 'application/octet-stream' };
  return answered<E>(addressOf(endpoint, asked), { method: endpoint.method, headers, body: file });
};

/** Where an endpoint stands, with what is asked. */
export const addressOf = ({ path }: Endpoint, asked: object): string => {
  const { params = {}, query = {} } = asked as { params?: object; query?: object };
  const at = Object.entries(params).reduce(
    (so, [name, value]) => so.replace(`:${name}`, encodeURIComponent(String(value))),
    path,
  );
  const given = Object.entries(query).filter(([, value]) => value !== undefined && value !== '');
  const search = new URLSearchParams(given.map(([name, value]) => [name, String(value)])).toString();
  return search ? `${at}?${search}` : at;
};

const answered = async <E extends Endpoint>(address: string, init: RequestInit): Promise<ReplyOf<E>> => {
  const over = underWay();
  try {
    return await replyOf<E>(await fetch(address, init));
  } finally {
    over();
  }
};

const replyOf = async <E extends Endpoint>(response: Response): Promise<ReplyOf<E>> => {
  const reply: unknown = await response.json().catch(() => ({}));
  if (response.ok) return reply as ReplyOf<E>;
  const failed: Problem = { code: 'failed', severity: 'error', params: {} };
  throw new Refused(response.status, (reply as { problems?: Problem[] }).problems ?? [failed]);
};
