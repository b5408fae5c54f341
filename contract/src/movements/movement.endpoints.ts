import { z } from 'zod';
import { endpoint } from '../endpoint';
import { Written } from '../time/records.endpoints';
import { HireInput, LeaveInput, SlipValue, TransferInput } from './hire';

const preview = z.boolean().default(false);
const Moved = Written.extend({
  personId: z.int().nullable(),
  employmentId: z.int().nullable(),
  positionId: z.int().nullable(),
  slip: z.array(SlipValue),
});

export const movementEndpoints = {
  hire: endpoint({
    method: 'POST',
    path: '/api/movements/hire',
    summary: 'Hire a person, or preview it',
    right: { act: 'hire' },
    body: z.strictObject({ input: HireInput, preview }),
    reply: Moved,
  }),
  transfer: endpoint({
    method: 'POST',
    path: '/api/movements/transfer',
    summary: 'Transfer a person for good, or preview it',
    right: { act: 'transfer' },
    body: z.strictObject({ input: TransferInput, preview }),
    reply: Moved,
  }),
  leave: endpoint({
    method: 'POST',
    path: '/api/movements/leave',
    summary: 'End an employment, or preview it',
    right: { act: 'leave' },
    body: z.strictObject({ input: LeaveInput, preview }),
    reply: Moved,
  }),
};
