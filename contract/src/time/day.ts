import { z } from 'zod';

const daysIn = (year: number, month: number): number => {
  const leap = (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;
  return [31, leap ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31][month - 1] ?? 0;
};

const isCalendarDay = (text: string): boolean => {
  const parts = /^(\d{4})-(\d{2})-(\d{2})$/.exec(text);
  if (!parts) return false;
  const [year, month, day] = [Number(parts[1]), Number(parts[2]), Number(parts[3])];
  return year >= 1900 && year <= 2199 && day >= 1 && day <= daysIn(year, month);
};

// The clock's part; days that do not exist are none of a moment either.
const isMoment = (text: string): boolean =>
  /^.{10}T([01]\d|2[0-3]):[0-5]\d:[0-5]\d(\.\d{1,6})?Z$/.test(text) && isCalendarDay(text.slice(0, 10));

/** A calendar date `YYYY-MM-DD` without a time zone, from 1900 to 2199. */
export const Day = z
  .string()
  .refine(isCalendarDay, { error: 'day_invalid' })
  .brand<'Day'>()
  .meta({ format: 'date' });
export type Day = z.infer<typeof Day>;

/** A bound of a period: a day, `-infinity` (from the beginning) or `infinity` (open). Texts compare in order. */
export const Bound = z.union([Day, z.literal('-infinity'), z.literal('infinity')]);
export type Bound = z.infer<typeof Bound>;

/** A moment in UTC with microseconds, `2026-11-23T09:40:00.000000Z`. Texts compare in order. */
export const Moment = z.string().refine(isMoment, { error: 'moment_invalid' }).brand<'Moment'>();
export type Moment = z.infer<typeof Moment>;
