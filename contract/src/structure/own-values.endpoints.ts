import { z } from 'zod';
import { endpoint } from '../endpoint';
import { Lens } from '../time/records.endpoints';

/** What own fields hold. */
export const ownValueEndpoints = {
  ownValues: endpoint({
    method: 'GET',
    path: '/api/own-values',
    summary:
      'How many rows in effect on a day say something in each own field, and how many owners that count lack what is to be filled',
    right: { section: 'own_section', level: 'edit' },
    query: Lens,
    reply: z.object({
      fields: z.array(
        z.object({
          field: z.string(),
          values: z.int(),
          missing: z.int(),
          /** Of a field that is to be unique: rows that say what another one says. */
          twice: z.int(),
          /** What the first of these say. */
          alike: z.array(z.string()),
        }),
      ),
    }),
  }),
};
