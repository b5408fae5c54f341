// Days of a calendar file as other programs write them, read beside the server: a file may hold it up, but nobody else.
import { Worker } from 'node:worker_threads';
import { type CalendarDay, Day, MOST_HOLIDAYS } from '@gremium/contract';
import { byDay } from '@gremium/core';
import { fail } from '../database/failure';
import { partFile } from '../parts';
import type { CalendarAsk, CalendarFound } from './calendar-days';

type Read = { days: CalendarDay[]; left: number };

/** A file is read for so long at most, in milliseconds, and in so many MB. */
const MOST_READING = 5000;
const MOST_LOADING = 60_000;
const MOST_MB = 128;

const TOO_MUCH: CalendarFound = { wrong: 'calendar_too_much' };

const readApart = (asked: CalendarAsk): Promise<CalendarFound> =>
  new Promise((resolve) => {
    const worker = new Worker(partFile('structure/calendar-worker'), {
      workerData: asked,
      resourceLimits: { maxOldGenerationSizeMb: MOST_MB },
    });
    const end = (found: CalendarFound) => {
      clearTimeout(timer);
      resolve(found);
      void worker.terminate();
    };
    let timer = setTimeout(() => end(TOO_MUCH), MOST_LOADING);
    worker.on('message', (found: CalendarFound | 'ready') => {
      if (found !== 'ready') return end(found);
      // loading it was no fault of the file
      clearTimeout(timer);
      timer = setTimeout(() => end(TOO_MUCH), MOST_READING);
    });
    worker.once('error', () => end(TOO_MUCH));
    worker.once('exit', () => end(TOO_MUCH));
  });

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
