import { z } from 'zod';
import { endpoint } from '../endpoint';
import { Problem } from '../problems';
import { Moment } from '../time/day';
import { Named } from '../time/record-out';
import { Words, Written } from '../time/records.endpoints';
import { type Movement, SlipValue } from './movement';
import { MovementKindSchema, type MovementKind, movementKinds, movements } from './movements';

/** Made by the client; stands in the address, so that a link reopens the slip. */
export const MovementKey = z.string().regex(/^[a-z0-9]{8,40}$/, { error: 'value_invalid' });

/** Somebody or something that a movement touches beside what it is about. */
export const ConcernedOut = Named.extend({
  /** Where it stands, by its name. */
  where: z.string().nullable(),
  values: z.array(SlipValue),
});
export type ConcernedOut = z.infer<typeof ConcernedOut>;

/** What a movement came to, or would come to. */
export const Moved = Written.extend({
  kind: MovementKindSchema,
  personId: z.int().nullable(),
  employmentId: z.int().nullable(),
  positionId: z.int().nullable(),
  unitId: z.int().nullable(),
  jobId: z.int().nullable().default(null),
  slip: z.array(SlipValue),
  /** Others whom it touches, with what changes of them: `count` in all, the first of them as lines. */
  concerned: z.object({ count: z.int(), lines: z.array(ConcernedOut) }).optional(),
  /** What it does to places and lines beside the values: notes. */
  effects: z.array(Problem),
  /** What was looked at, whatever was found. */
  looked: z.array(z.string()),
  /** Number of the last entry before it was worked out: named as `seen` when it is carried out. */
  asOf: z.int(),
  /** It was handed in, and waits for its conditions. */
  isWaiting: z.boolean().default(false),
});
export type Moved = z.infer<typeof Moved>;

/** Somebody's movement as it is kept: in preparation, or recorded with what it came to. */
export const KeptMovement = z.object({
  key: MovementKey,
  kind: MovementKindSchema,
  /** The record it belongs to, as "position 4711". */
  about: z.string().regex(/^[a-z_]+ \d+$/, { error: 'value_invalid' }),
  state: z.enum(['draft', 'conditions_open', 'recorded']),
  /** Its input as far as it is known: what the endpoint of movements takes. */
  input: z.record(z.string(), z.unknown()),
  /** What was typed and could not be read yet, by its field; words for warnings, as `words.<code>`. */
  typed: z.record(z.string().max(120), z.string().max(2000)),
  keptAt: Moment,
  /** Names of what the input names, as far as the viewer may see them. */
  names: z.array(Named),
  /** Of a recorded one. */
  result: Moved.nullable(),
  /** Number of the entry, in force, that undid it. */
  undoneBy: z.int().nullable(),
});
export type KeptMovement = z.infer<typeof KeptMovement>;

const shared = {
  preview: z.boolean().default(false),
  words: Words,
  /** Number of the last entry the caller has seen: what later ones did to what is named is a conflict. */
  seen: z.int().min(0).optional(),
  /** The kept movement that this is. */
  key: MovementKey.optional(),
  /** What has to be so before it is recorded: it waits until all of them are ticked. */
  conditions: z.array(z.string().trim().min(1).max(200)).max(10).optional(),
};

type Input<K extends MovementKind> = (typeof movements)[K] extends Movement<infer I> ? I : never;
type Body = {
  [K in MovementKind]: z.ZodObject<
    { kind: z.ZodLiteral<K>; input: Input<K> } & typeof shared,
    z.core.$strict
  >;
}[MovementKind];

const bodies = movementKinds.map((kind) =>
  z.strictObject({ kind: z.literal(kind), input: movements[kind].input, ...shared }),
) as unknown as [Body, ...Body[]];

const Key = z.object({ key: MovementKey });

/** Movements of every kind: prepared, previewed, carried out. */
export const movementEndpoints = {
  move: endpoint({
    method: 'POST',
    path: '/api/movements',
    summary: 'Carry out a movement of any kind, or preview it; each kind needs the right it declares',
    right: 'signed_in',
    body: z.discriminatedUnion('kind', bodies),
    reply: Moved,
  }),
  movements: endpoint({
    method: 'GET',
    path: '/api/movements',
    summary: 'Own movements in preparation, latest first',
    right: 'signed_in',
    reply: z.object({ movements: z.array(KeptMovement) }),
  }),
  movement: endpoint({
    method: 'GET',
    path: '/api/movements/:key',
    summary: 'One of the own movements, in preparation or recorded',
    right: 'signed_in',
    params: Key,
    reply: KeptMovement,
  }),
  keepMovement: endpoint({
    method: 'POST',
    path: '/api/movements/:key',
    summary: 'Keep a movement in preparation as it now stands',
    right: 'signed_in',
    params: Key,
    body: KeptMovement.pick({ kind: true, about: true, input: true, typed: true }).strict(),
    reply: z.object({ keptAt: Moment }),
  }),
  discardMovement: endpoint({
    method: 'DELETE',
    path: '/api/movements/:key',
    summary: 'Discard a movement in preparation',
    right: 'signed_in',
    params: Key,
    reply: z.object({}),
  }),
};
