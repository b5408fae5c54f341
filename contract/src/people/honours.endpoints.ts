// Who becomes due for an honour, who may record what, and figures of what people declared of themselves.
import { z } from 'zod';
import { SectionNameSchema } from '../catalogue';
import { endpoint } from '../endpoint';
import { Day } from '../time/day';
import { Lens } from '../time/records.endpoints';

/** Somebody who has the years of service for an honour that they do not hold. */
export const HonourDue = z.object({
  personId: z.int(),
  name: z.string(),
  number: z.string(),
  title: z.string(),
  unit: z.string(),
  honourId: z.int(),
  years: z.int(),
  due: Day,
});
export type HonourDue = z.infer<typeof HonourDue>;

/** Honours, rights on sections, and declared facts. */
export const honourEndpoints = {
  honoursDue: endpoint({
    method: 'GET',
    path: '/api/honours-due',
    summary:
      'Who has the years of service for an honour by a day and does not hold it, the earliest first; of all kinds, or of one',
    right: { section: 'award', level: 'view' },
    query: Lens.extend({ by: Day, honour: z.coerce.number().int().optional() }),
    reply: z.object({ due: z.array(HonourDue), count: z.int() }),
  }),
  whoMay: endpoint({
    method: 'GET',
    path: '/api/who-may/:section',
    summary:
      'Who sees a section, and who may record in it: accounts by name, of sections that are the viewer’s to see',
    right: 'signed_in',
    params: z.object({ section: SectionNameSchema }),
    reply: z.object({ see: z.array(z.string()), record: z.array(z.string()) }),
  }),
  declaredFigures: endpoint({
    method: 'GET',
    path: '/api/declared-figures',
    summary:
      'How many of those who count declared what of themselves, on the first of the month of a day and as recorded by then; fewer than five are not told, nor what would give them away',
    right: { act: 'declared_figures' },
    query: z.strictObject({ on: Day.optional() }),
    reply: z.object({
      day: Day,
      counted: z.int(),
      questions: z.array(
        z.object({
          question: z.string(),
          cells: z.array(z.object({ factId: z.int(), count: z.int().nullable() })),
          total: z.int().nullable(),
        }),
      ),
    }),
  }),
};
