// What a list report shows: of which subject, which columns, under which condition, in which order and groups.
import { z } from 'zod';
import { SectionNameSchema } from '../catalogue';

/** How a column is added up under groups and at the end. */
export const TotalName = z.enum(['count', 'sum', 'mean', 'median', 'least', 'most']);
export type TotalName = z.infer<typeof TotalName>;

const FieldId = z.string().regex(/^[a-z][\w.]{1,99}$/, { error: 'field_unknown' });

/** A column: a field, called otherwise or not, added up or not; of several rows the latest, all, or how many. */
export const ViewColumn = z.strictObject({
  field: FieldId,
  label: z.string().trim().min(1).max(80).optional(),
  total: TotalName.optional(),
  several: z.enum(['count', 'latest', 'all']).optional(),
});
export type ViewColumn = z.infer<typeof ViewColumn>;

/** A view over one subject. Whatever is left out is empty. */
export const ViewDefinition = z.strictObject({
  subject: SectionNameSchema,
  columns: z.array(ViewColumn).min(1).max(60),
  /** A condition in CEL over the fields of the subject; empty: every row. */
  condition: z.string().max(4000).default(''),
  order: z
    .array(z.strictObject({ field: FieldId, down: z.boolean().default(false) }))
    .max(5)
    .default([]),
  groups: z.array(FieldId).max(3).default([]),
});
export type ViewDefinition = z.infer<typeof ViewDefinition>;
