import { z } from 'zod';
import { Day } from '../time/day';
import { Country, Currency, Hundredths, Text, TimeZone, section } from '../time/section';

/** The organisation's own settings; those that enter figures are dated like all else. */
export const Organisation = z.strictObject({
  name: Text,
  country: Country,
  timeZone: TimeZone,
  languages: z.array(z.enum(['en', 'de'])).min(1),
  dateFormat: z.enum(['D MMM YYYY', 'DD.MM.YYYY', 'YYYY-MM-DD', 'DD/MM/YYYY']),
  currency: Currency,
  fiscalMonth: z.int().min(1).max(12),
  weekStart: z.int().min(1).max(7),
  /** Full-time hours a week where neither agreement nor location says otherwise. */
  fullTime: Hundredths,
  /** First day for which figures are complete. */
  figuresFrom: Day,
});
export type Organisation = z.infer<typeof Organisation>;
export const organisation = section('organisation', 'organisation', Organisation);
