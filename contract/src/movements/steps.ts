import { z } from 'zod';
import { day, refTo, text } from '../time/section';

/** Whoever is due by a day reaches the next step of the grade, each on the day of their own. */
export const ApplyStepsInput = z.strictObject({
  /** Whatever is due by this day. */
  firstDay: day(),
  employmentIds: z.array(refTo('employment')).min(1).max(2000),
  reason: text().optional(),
});
export type ApplyStepsInput = z.infer<typeof ApplyStepsInput>;
