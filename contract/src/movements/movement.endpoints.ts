import { z } from 'zod';
import { endpoint } from '../endpoint';
import { Problem } from '../problems';
import { Words, Written } from '../time/records.endpoints';
import { HireInput, LeaveInput, SlipValue, TransferInput } from './hire';

const preview = z.boolean().default(false);
/** Number of the last entry the caller has seen: what later ones did to the person or the position is a conflict. */
const seen = z.int().min(0).optional();
const Moved = Written.extend({
  personId: z.int().nullable(),
  employmentId: z.int().nullable(),
  positionId: z.int().nullable(),
  slip: z.array(SlipValue),
  /** What it does to places and lines beside the values: notes. */
  effects: z.array(Problem),
  /** What was looked at, whatever was found. */
  looked: z.array(z.string()),
  /** Number of the last entry before it was worked out: named as `seen` when it is carried out. */
  asOf: z.int(),
});

/** Hire, transfer and leaving, previewed or carried out. */
export const movementEndpoints = {
  hire: endpoint({
    method: 'POST',
    path: '/api/movements/hire',
    summary: 'Hire a person, or preview it',
    right: { act: 'hire' },
    body: z.strictObject({ input: HireInput, preview, words: Words, seen }),
    reply: Moved,
  }),
  transfer: endpoint({
    method: 'POST',
    path: '/api/movements/transfer',
    summary: 'Transfer a person for good, or preview it',
    right: { act: 'transfer' },
    body: z.strictObject({ input: TransferInput, preview, words: Words, seen }),
    reply: Moved,
  }),
  leave: endpoint({
    method: 'POST',
    path: '/api/movements/leave',
    summary: 'End an employment, or preview it',
    right: { act: 'leave' },
    body: z.strictObject({ input: LeaveInput, preview, words: Words, seen }),
    reply: Moved,
  }),
};
