// Days of a calendar file (RFC 5545) as other programs write them. The text is taken apart by a library; what repeats is
// followed through the period asked for and no further.
import { type CalendarDay, Day, MOST_HOLIDAYS } from '@gremium/contract';
import { addDays, byDay, isBefore, isOn } from '@gremium/core';
import ICAL from 'ical.js';
import { fail } from '../database/failure';

// Steps of one repeated event; a daily one of a century has fewer.
const MOST_STEPS = 40_000;
const DAYS_LONG = 31;

type Read = { days: CalendarDay[]; left: number };

const eventsIn = (text: string): ICAL.Event[] => {
  try {
    // a file may hold several calendars
    const parsed = ICAL.parse(text.replace(/^\uFEFF/, '').trim()) as unknown[];
    const calendars = (typeof parsed[0] === 'string' ? [parsed] : parsed) as unknown[][];
    if (calendars.length === 0 || calendars.some(([name]) => name !== 'vcalendar'))
      throw new Error('no calendar');
    return calendars.flatMap((one) =>
      new ICAL.Component(one as never).getAllSubcomponents('vevent').map((event) => new ICAL.Event(event)),
    );
  } catch {
    return fail('calendar_unread', {}, 'text');
  }
};

const dayOf = (time: ICAL.Time): Day | null => {
  const parsed = Day.safeParse(time.toString().slice(0, 10));
  return parsed.success ? parsed.data : null;
};

// The days of an event from one of its beginnings on: of one with several days all of them.
const daysFrom = (event: ICAL.Event, begin: ICAL.Time): Day[] => {
  const length = Math.min(DAYS_LONG, Math.max(1, Math.round(event.duration.toSeconds() / 86_400)));
  return Array.from({ length }, (_, i) => {
    const day = begin.clone();
    day.adjust(i, 0, 0, 0);
    return dayOf(day);
  }).flatMap((day) => day ?? []);
};

const beginnings = (event: ICAL.Event, until: Day): ICAL.Time[] => {
  if (!event.isRecurring()) return [event.startDate];
  const found: ICAL.Time[] = [];
  try {
    const each = event.iterator();
    for (let step = 0; step < MOST_STEPS; step++) {
      const next = each.next();
      const day = next && dayOf(next);
      if (!next || !day || isBefore(until, day)) break;
      found.push(next);
    }
  } catch {
    // a rule that whole days cannot follow (each second) is none: the day itself stays
    return [event.startDate];
  }
  return found;
};

/** The whole days of a period that an iCalendar text holds, earliest first, each name once a day; `left`: events with times. */
export const readCalendar = (text: string, { from, until }: { from: Day; until: Day }): Read => {
  const found = new Map<string, CalendarDay>();
  const period = { from, until: addDays(until, 1) };
  let left = 0;
  for (const event of eventsIn(text)) {
    // an event moved from its series is one of its own
    if (!event.startDate?.isDate) {
      left++;
      continue;
    }
    const name = (event.summary ?? '').trim().slice(0, 200);
    for (const begin of beginnings(event, until))
      for (const day of daysFrom(event, begin))
        if (isOn(period, day) && name !== '') found.set(`${day} ${name}`, { day, name });
    if (found.size > MOST_HOLIDAYS) fail('too_many_days', { count: MOST_HOLIDAYS }, 'text');
  }
  return { days: [...found.values()].sort(byDay), left };
};
