// What a list report shows: of which subject, which columns, under which condition, in which order and groups.
import { z } from 'zod';
import { SectionNameSchema } from '../catalogue';

/** How a column is added up under groups and at the end. */
export const TotalName = z.enum(['count', 'sum', 'mean', 'median', 'least', 'most']);
export type TotalName = z.infer<typeof TotalName>;

const FieldId = z.string().regex(/^[a-z][\w.]{1,99}$/, { error: 'field_unknown' });

/** A column: a field, called otherwise or not, added up or not; of several rows the latest, all, how many, or one row each. */
export const ViewColumn = z.strictObject({
  field: FieldId,
  label: z.string().trim().min(1).max(80).optional(),
  total: TotalName.optional(),
  several: z.enum(['count', 'latest', 'all', 'each']).optional(),
});
export type ViewColumn = z.infer<typeof ViewColumn>;

/** A day as it is written, or one told from the day looked at or today: `on-365`. */
export const DayTerm = z.string().regex(/^(?:\d{4}-\d{2}-\d{2}|(?:on|today)(?:[+-]\d{1,5})?)$/, {
  error: 'day_unread',
});
export type DayTerm = z.infer<typeof DayTerm>;

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
  /** What began from a day to a day, each as it was then; left out: what there is on the day looked at. */
  period: z.strictObject({ from: DayTerm, until: DayTerm }).optional(),
  /** How a list shows it. */
  as: z.enum(['list', 'table', 'cards']).optional(),
});
export type ViewDefinition = z.infer<typeof ViewDefinition>;
