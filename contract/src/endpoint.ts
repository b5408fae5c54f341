import { z } from 'zod';
import type { Act, Level } from './access/viewer';
import type { SectionName } from './sections';

/**
 * What a caller must hold. A section right asks for it in some scope; the queries then keep to that scope. An act is asked for
 * in some scope, or over everything.
 */
export type Right =
  'anybody' | 'signed_in' | { section: SectionName; level: Level } | { act: Act } | { everywhere: Act };

/** One way to ask the server: where, with what, by what right, and what comes back. */
export type Endpoint = {
  method: 'GET' | 'POST' | 'DELETE';
  path: string;
  summary: string;
  right: Right;
  params?: z.ZodObject;
  query?: z.ZodObject;
  body?: z.ZodType;
  reply: z.ZodType;
};

/** The reply of an endpoint that sends a file; it is not JSON. */
export const FileReply = z.unknown().meta({ file: true });

/** Declares an endpoint, keeping its exact schemas for both ends. */
export const endpoint = <const E extends Endpoint>(declared: E): E => declared;

type Out<S> = S extends z.ZodType ? z.output<S> : undefined;
type In<S> = S extends z.ZodType ? z.input<S> : undefined;

/** What the handler gets. */
export type RequestOf<E extends Endpoint> = {
  params: Out<E['params']>;
  query: Out<E['query']>;
  body: Out<E['body']>;
};
/** What the client gives. */
export type CallOf<E extends Endpoint> = (E['params'] extends z.ZodType
  ? { params: In<E['params']> }
  : object) &
  (E['query'] extends z.ZodType ? { query?: In<E['query']> } : object) &
  (E['body'] extends z.ZodType ? { body: In<E['body']> } : object);
export type ReplyOf<E extends Endpoint> = z.output<E['reply']>;
