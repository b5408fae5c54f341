// Days on which nobody works: recorded several at once, also as a calendar file of another program has them.
import { z } from 'zod';
import { endpoint } from '../endpoint';
import { Day } from '../time/day';
import { Words, Written } from '../time/records.endpoints';
import { Text } from '../time/section';
import { Holiday } from './organisation';

/** A day that a calendar file holds. */
export const CalendarDay = z.object({ day: Day, name: z.string() });
export type CalendarDay = z.infer<typeof CalendarDay>;

/** No more days in one act, and from one file. */
export const MOST_HOLIDAYS = 1000;

/** Public holidays, several at once. */
export const calendarEndpoints = {
  recordHolidays: endpoint({
    method: 'POST',
    path: '/api/holidays',
    summary:
      'Record public holidays as one entry; what is there already, on the same day for the same place, is left out',
    right: { section: 'holiday', level: 'edit' },
    body: z.strictObject({
      holidays: z.array(Holiday).min(1).max(MOST_HOLIDAYS),
      reason: Text.optional(),
      preview: z.boolean().default(false),
      words: Words,
    }),
    reply: Written.extend({ recorded: z.int(), known: z.int() }),
  }),
  readCalendar: endpoint({
    method: 'POST',
    path: '/api/holidays/read',
    summary:
      'The days of a period that an iCalendar text (RFC 5545) holds, repeated ones worked out; nothing is written',
    right: { section: 'holiday', level: 'edit' },
    body: z.strictObject({ text: z.string().max(1_000_000), from: Day, until: Day }),
    reply: z.object({
      days: z.array(CalendarDay),
      /** Events with times of day, or without a day: left out. */
      left: z.int(),
    }),
  }),
};
