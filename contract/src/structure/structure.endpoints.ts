import { z } from 'zod';
import { endpoint } from '../endpoint';
import { Lens } from '../time/records.endpoints';

/** Figures of a unit; FTE in hundredths, rounded for showing; cost as yearly whole amounts by currency. */
export const FiguresOut = z.object({
  people: z.int(),
  notCounted: z.int(),
  fte: z.int(),
  fteAtWork: z.int(),
  marks: z.record(z.string(), z.int()),
  freePlaces: z.int(),
  freeFte: z.int(),
  span: z.number().nullable(),
  depth: z.int(),
  cost: z.record(z.string(), z.int()).nullable(),
});
export type FiguresOut = z.infer<typeof FiguresOut>;

export const structureEndpoints = {
  outline: endpoint({
    method: 'GET',
    path: '/api/outline',
    summary: 'The tree of units on a day with figures of each, own and of the whole branch',
    right: { section: 'unit', level: 'view' },
    query: Lens,
    reply: z.object({
      units: z.array(
        z.object({
          id: z.int(),
          parentId: z.int().nullable(),
          code: z.string(),
          name: z.string(),
          own: FiguresOut,
          branch: FiguresOut,
        }),
      ),
    }),
  }),
  positions: endpoint({
    method: 'GET',
    path: '/api/positions',
    summary: 'Positions of a unit on a day with occupancy and what is free',
    right: { section: 'position', level: 'view' },
    query: Lens.extend({ unit: z.coerce.number().int().optional(), free: z.enum(['yes']).optional() }),
    reply: z.object({
      positions: z.array(
        z.object({
          id: z.int(),
          code: z.string(),
          title: z.string(),
          unitId: z.int(),
          mark: z.string(),
          held: z.int(),
          freePlaces: z.int().nullable(),
          freeFte: z.int().nullable(),
          vacantSince: z.string().nullable(),
          holders: z.array(z.int()),
        }),
      ),
    }),
  }),
};
