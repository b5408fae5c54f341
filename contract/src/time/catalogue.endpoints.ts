import { z } from 'zod';
import { Level } from '../access/viewer';
import { SectionNameSchema } from '../catalogue';
import { endpoint } from '../endpoint';
import { ListName } from './field';
import { Kind } from './kind';
import { RowOut } from './record-out';
import { Lens, Page } from './records.endpoints';

/** A field as the pages get it: what it is, and what it is called in the viewer's language. */
export const FieldOut = z.object({
  /** Never changes: `position.standing`, `own.123.456`. */
  id: z.string(),
  name: z.string(),
  label: z.string(),
  help: z.string().nullable(),
  is: z.string(),
  nullable: z.boolean(),
  unit: z.enum(['hours', 'fte', 'days']).optional(),
  /** The options to choose from, with their labels. */
  options: z.array(z.object({ value: z.string(), label: z.string() })).optional(),
  list: ListName.optional(),
  /** The kind of thing that it names. */
  kind: Kind.optional(),
  quiet: z.boolean(),
});
export type FieldOut = z.infer<typeof FieldOut>;

/** A section as the pages get it. */
export const SectionOut = z.object({
  name: SectionNameSchema,
  label: z.string(),
  /** The kind of thing it is of, and whose it is where that is another one. */
  kind: Kind,
  owner: Kind.nullable(),
  several: z.boolean(),
  sensitive: z.boolean(),
  /** The highest level that the viewer has on it anywhere. */
  level: Level,
  fields: z.array(FieldOut),
});
export type SectionOut = z.infer<typeof SectionOut>;

/** What there is to see, and rows of any section of it. */
export const catalogueEndpoints = {
  catalogue: endpoint({
    method: 'GET',
    path: '/api/catalogue',
    summary: 'The sections and fields that the viewer may see, in their language',
    right: 'signed_in',
    reply: z.object({
      /** Number of the last entry that defined a section or field. */
      number: z.int(),
      sections: z.array(SectionOut),
    }),
  }),
  sectionRows: endpoint({
    method: 'GET',
    path: '/api/sections/:section',
    summary: 'Rows of a section, also one of the organisation’s own, in effect on a day, with whose each is',
    right: 'signed_in',
    params: z.object({ section: SectionNameSchema }),
    query: Lens.extend(Page.shape),
    reply: z.object({
      rows: z.array(RowOut.extend({ owner: z.object({ kind: Kind, id: z.int() }) })),
      total: z.int(),
    }),
  }),
};
