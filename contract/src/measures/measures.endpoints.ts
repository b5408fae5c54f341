import { z } from 'zod';
import { FileReply, endpoint } from '../endpoint';
import { Day } from '../time/day';
import {
  CrossFileQuery,
  CrossOut,
  CrossQuery,
  DimensionName,
  KeyOut,
  WhyFileQuery,
  WhyOut,
  WhyQuery,
} from './cross-table';

/** Figures, what they are made of, and files of them. */
export const measureEndpoints = {
  crossTable: endpoint({
    method: 'GET',
    path: '/api/cross-table',
    summary:
      'One measure by one dimension over months, narrowed by any, with counts of what else it could be narrowed to',
    right: { section: 'placement', level: 'view' },
    query: CrossQuery,
    reply: CrossOut,
  }),
  crossTableFile: endpoint({
    method: 'GET',
    path: '/api/cross-table/file',
    summary: 'A cross table as CSV or XLSX, with the date in effect and the moment known in it',
    right: { section: 'placement', level: 'view' },
    query: CrossFileQuery,
    reply: FileReply,
  }),
  why: endpoint({
    method: 'GET',
    path: '/api/cross-table/why',
    summary: 'What one cell of a cross table is made of: inputs by month and the people behind it',
    right: { section: 'placement', level: 'view' },
    query: WhyQuery,
    reply: WhyOut,
  }),
  whyFile: endpoint({
    method: 'GET',
    path: '/api/cross-table/why/file',
    summary:
      'The people behind one cell of a cross table as CSV or XLSX, with the figure, the date and the moment in it',
    right: { section: 'placement', level: 'view' },
    query: WhyFileQuery,
    reply: FileReply,
  }),
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
              key: KeyOut,
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
