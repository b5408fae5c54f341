// Movements on their way: what is being prepared, waits for conditions, is to be said, was recorded; and what is done with one.
import { z } from 'zod';
import { endpoint } from '../endpoint';
import { Problem } from '../problems';
import { Day, Moment } from '../time/day';
import { Named } from '../time/record-out';
import { text } from '../time/section';
import { Moved, MovementKey } from './movement.endpoints';
import { Saying } from './movement';
import { MovementKindSchema } from './movements';

/** How far a movement is, as of today; the first that holds. `late`: its day has passed and nobody said what happened. */
export const MovementStanding = z.enum([
  'undone',
  'preparation',
  'conditions_open',
  'late',
  'to_say',
  'recorded',
]);
export type MovementStanding = z.infer<typeof MovementStanding>;

/** Something to be said of a movement once it has happened: planned on a day (as the register stands), said with the real one. */
export const SayingOut = z.object({
  what: Saying,
  placementId: z.int().nullable(),
  planned: Day,
  said: Day.nullable(),
  saidAt: Moment.nullable(),
  saidBy: z.string().nullable(),
});
export type SayingOut = z.infer<typeof SayingOut>;

export const MovementLine = z.object({
  id: z.int(),
  key: MovementKey,
  kind: MovementKindSchema,
  standing: MovementStanding,
  /** What it is about, as far as the viewer may see it. */
  about: Named.nullable(),
  /** Whom it makes a record of, where nobody has one yet. */
  whom: z.string().nullable(),
  aboutKind: z.string(),
  aboutId: z.int(),
  /** Its day: the first it holds, or the last one of what ends. Null where none is written yet. */
  day: Day.nullable(),
  requester: z.string(),
  isMine: z.boolean(),
  keptAt: Moment,
  entry: z.int().nullable(),
  /** What is still to be said, by day. */
  open: z.array(SayingOut),
  conditions: z.object({ met: z.int(), all: z.int() }),
});
export type MovementLine = z.infer<typeof MovementLine>;

export const MovementAct = z.object({
  at: Moment,
  by: z.string(),
  act: z.enum([
    'handed_in',
    'condition_met',
    'condition_open',
    'taken_back',
    'taken_over',
    'recorded',
    'sent_back',
    'left',
    'started',
    'back',
    'planned_back',
  ]),
  day: Day.nullable(),
  word: z.string().nullable(),
  entry: z.int().nullable(),
});
export type MovementAct = z.infer<typeof MovementAct>;

/** One movement with all that became of it. */
export const MovementSheet = z.object({
  line: MovementLine,
  revision: z.int(),
  /** Of one that is recorded; or of one that waits, as it would be today. */
  result: Moved.nullable(),
  undoneBy: z.int().nullable(),
  sayings: z.array(SayingOut),
  conditions: z.array(
    z.object({
      place: z.int(),
      line: z.string(),
      metAt: Moment.nullable(),
      metBy: z.string().nullable(),
    }),
  ),
  acts: z.array(MovementAct),
  /** What stands against recording it now, where all conditions are met. */
  problems: z.array(Problem),
  /** Whether the viewer may do what is done with it: says, ticks, takes over. */
  may: z.boolean(),
});
export type MovementSheet = z.infer<typeof MovementSheet>;

const Id = z.object({ id: z.coerce.number().int().positive() });
/** The state that was looked at: another one meanwhile, and nothing is done. */
const revision = z.int().min(0);

/** How many lines of what is done come at once. */
export const MOVEMENTS_AT_ONCE = 100;

export const onTheirWayEndpoints = {
  movementLines: endpoint({
    method: 'GET',
    path: '/api/movement-sheets',
    summary: 'Movements that the viewer may see: all that are open, and the latest that are recorded',
    right: 'signed_in',
    query: z.object({
      kind: MovementKindSchema.optional(),
      /** In what it is about, or who asked for it. */
      text: z.string().max(200).default(''),
      offset: z.coerce.number().int().min(0).max(1_000_000).default(0),
    }),
    reply: z.object({ lines: z.array(MovementLine), more: z.boolean() }),
  }),
  movementSheet: endpoint({
    method: 'GET',
    path: '/api/movement-sheets/:id',
    summary: 'One movement: what it asks, what it waits for, what was done with it, what came of it',
    right: 'signed_in',
    params: Id,
    reply: MovementSheet,
  }),
  sayMovement: endpoint({
    method: 'POST',
    path: '/api/movement-sheets/:id/said',
    summary: 'Say that somebody left, started or is back, on the day that was planned, or left earlier',
    right: 'signed_in',
    params: Id,
    body: z.strictObject({ what: Saying, day: Day.optional(), word: text().optional(), revision }),
    reply: z.object({}),
  }),
  tickCondition: endpoint({
    method: 'POST',
    path: '/api/movement-sheets/:id/conditions',
    summary: 'Tick a condition as met, or open it again; with the last one the movement is recorded',
    right: 'signed_in',
    params: Id,
    body: z.strictObject({ place: z.int().min(0), met: z.boolean(), revision }),
    reply: z.object({ entry: z.int().nullable(), problems: z.array(Problem) }),
  }),
  takeOver: endpoint({
    method: 'POST',
    path: '/api/movement-sheets/:id/take-over',
    summary: 'Go on with a movement that somebody else began',
    right: 'signed_in',
    params: Id,
    body: z.strictObject({ revision }),
    reply: z.object({ key: MovementKey }),
  }),
  takeBack: endpoint({
    method: 'POST',
    path: '/api/movement-sheets/:id/take-back',
    summary: 'Take an own movement that waits for conditions back into preparation',
    right: 'signed_in',
    params: Id,
    body: z.strictObject({ revision }),
    reply: z.object({}),
  }),
};
