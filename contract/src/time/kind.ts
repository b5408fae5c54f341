import { z } from 'zod';

/** Kinds of things that the register keeps; each has a table of ids of that name. */
export const kinds = [
  'organisation',
  'holiday',
  'exchange_rate',
  'list_entry',
  'legal_entity',
  'location',
  'cost_centre',
  'unit',
  'grade',
  'grade_range',
  'grade_step',
  'grade_step_pay',
  'job',
  'job_requirement',
  'job_pay_basis',
  'position',
  'position_requirement',
  'dotted_line',
  'position_evaluation',
  'person',
  'contact',
  'employment',
  'contract',
  'placement',
  'pay',
  'own_section',
  'own_field',
  'own_row',
] as const;
/** A kind of thing. */
export type Kind = (typeof kinds)[number];

/** A kind as it is asked for: whether there is one is said by the catalogue (`kind_unknown`). */
export const Kind = z.string().regex(/^[a-z][a-z_]{1,59}$/, {
  error: 'kind_unknown',
}) as unknown as z.ZodType<Kind, Kind>;
