import { z } from 'zod';
import { Hundredths, choice, day, hours, list, refTo, text } from '../time/section';

/**
 * Other full-time hours from a day on: of the organisation, or of one location or collective agreement. Whoever holds a share
 * by the old ones keeps either the share or the hours.
 */
export const ChangeFullTimeInput = z.strictObject({
  organisationId: refTo('organisation').optional(),
  locationId: refTo('location').optional(),
  agreementId: list('agreement').optional(),
  firstDay: day(),
  fullTime: hours(Hundredths.min(1)),
  keep: choice('share', 'hours').default('share'),
  /** Placements for which the other of the two holds. */
  others: z.array(refTo('placement')).max(500).default([]),
  reason: text().optional(),
});
export type ChangeFullTimeInput = z.infer<typeof ChangeFullTimeInput>;
