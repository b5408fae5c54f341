import { z } from 'zod';
import { endpoint } from '../endpoint';
import { Day } from '../time/day';

export const DimensionName = z.enum([
  'whole',
  'unit',
  'division',
  'location',
  'legalEntity',
  'workerType',
  'jobFamily',
]);
export type DimensionName = z.infer<typeof DimensionName>;

export const measureEndpoints = {
  headcount: endpoint({
    method: 'GET',
    path: '/api/headcount',
    summary: 'Per month and value of a dimension: opening, joiners, in and out by move, leavers, closing',
    right: { section: 'placement', level: 'view' },
    query: z.strictObject({ from: Day, until: Day, by: DimensionName.default('whole') }),
    reply: z.object({
      months: z.array(
        z.object({
          month: z.string(),
          values: z.array(
            z.object({
              key: z.int().nullable(),
              opening: z.int(),
              joiners: z.int(),
              in: z.int(),
              leavers: z.int(),
              out: z.int(),
              closing: z.int(),
            }),
          ),
        }),
      ),
    }),
  }),
  turnover: endpoint({
    method: 'GET',
    path: '/api/turnover',
    summary: 'Rolling 12-month turnover at the end of the month of a day',
    right: { section: 'placement', level: 'view' },
    query: z.strictObject({ on: Day.optional() }),
    reply: z.object({ rate: z.number().nullable(), leavers: z.int(), average: z.number() }),
  }),
};
