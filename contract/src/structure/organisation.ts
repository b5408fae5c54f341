import { z } from 'zod';
import { choice, country, currency, day, hours, json, section, text, timeZone, whole } from '../time/section';

/** The organisation's own settings; those that enter figures are dated like all else. */
export const Organisation = z.strictObject({
  name: text(),
  country: country(),
  timeZone: timeZone(),
  languages: json(z.array(z.enum(['en', 'de'])).min(1)),
  dateFormat: choice('D MMM YYYY', 'DD.MM.YYYY', 'YYYY-MM-DD', 'DD/MM/YYYY'),
  currency: currency(),
  fiscalMonth: whole(1, 12),
  weekStart: whole(1, 7),
  /** Full-time hours a week where neither agreement nor location says otherwise. */
  fullTime: hours(),
  /** First day for which figures are complete. */
  figuresFrom: day(),
});
export type Organisation = z.infer<typeof Organisation>;
/** There is one; seen by everybody with the right. */
export const organisation = section('organisation', 'organisation', Organisation, { scope: 'everybody' });
