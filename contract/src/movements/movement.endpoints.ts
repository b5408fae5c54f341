import { z } from 'zod';
import { endpoint } from '../endpoint';
import { Problem, ProblemCodeSchema } from '../problems';
import { Text } from '../time/section';
import { Written } from '../time/records.endpoints';
import { HireInput, LeaveInput, SlipValue, TransferInput } from './hire';

const preview = z.boolean().default(false);
/** A word for each warning, by its code: without one the movement is refused (`word_missing`). */
const words = z.partialRecord(ProblemCodeSchema, Text).default({});
const Moved = Written.extend({
  personId: z.int().nullable(),
  employmentId: z.int().nullable(),
  positionId: z.int().nullable(),
  slip: z.array(SlipValue),
  /** What it does to places and lines beside the values: notes. */
  effects: z.array(Problem),
});

export const movementEndpoints = {
  hire: endpoint({
    method: 'POST',
    path: '/api/movements/hire',
    summary: 'Hire a person, or preview it',
    right: { act: 'hire' },
    body: z.strictObject({ input: HireInput, preview, words }),
    reply: Moved,
  }),
  transfer: endpoint({
    method: 'POST',
    path: '/api/movements/transfer',
    summary: 'Transfer a person for good, or preview it',
    right: { act: 'transfer' },
    body: z.strictObject({ input: TransferInput, preview, words }),
    reply: Moved,
  }),
  leave: endpoint({
    method: 'POST',
    path: '/api/movements/leave',
    summary: 'End an employment, or preview it',
    right: { act: 'leave' },
    body: z.strictObject({ input: LeaveInput, preview, words }),
    reply: Moved,
  }),
};
