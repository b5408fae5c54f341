// Days of a calendar file as other programs write them, read beside the server: a file may hold it up, but nobody else.
import { type CalendarDay, Day, MOST_HOLIDAYS } from '@gremium/contract';
import { byDay } from '@gremium/core';
import { fail } from '../database/failure';
import { onceApart } from '../once-apart';
import type { CalendarAsk, CalendarFound } from './calendar-days';

type Read = { days: CalendarDay[]; left: number };

/** A file is read for so many milliseconds at most, in so many MB. */
const BOUNDS = { working: 5000, mb: 128 };

// what the library cannot follow in a stranger's file is the file's fault
const readApart = async (asked: CalendarAsk): Promise<CalendarFound> =>
  (await onceApart<CalendarFound>('structure/calendar-worker', asked, BOUNDS).catch(() => null)) ?? {
    wrong: 'calendar_too_much',
  };

/** The whole days of a period that an iCalendar text holds, earliest first, each name once a day; `left`: events with times. */
export const readCalendar = async (
  text: string,
  { from, until }: { from: Day; until: Day },
): Promise<Read> => {
  const found = await readApart({ text, from, until, most: MOST_HOLIDAYS });
  if ('wrong' in found) return fail(found.wrong, { count: MOST_HOLIDAYS }, 'text');
  const days = found.days.flatMap(({ day, name }) => {
    const read = Day.safeParse(day);
    return read.success ? { day: read.data, name } : [];
  });
  return { days: days.sort(byDay), left: found.left };
};
